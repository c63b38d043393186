"""Sites in several languages: each page leads to its translations, and says so in its own language."""

from __future__ import annotations

import re
from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree
from selectolax.lexbor import LexborHTMLParser

from basilica.core.build import Build, build, verify
from basilica.core.compile import compile_map
from basilica.core.diff.live_answers import check_answers
from basilica.core.edits import EditRejected
from basilica.core.edits.apply import edit
from basilica.core.edits.commands.name_page import NamePage
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.translate_page import TranslatePage, translation_of
from basilica.core.findings.mosaic import State, mosaic_of
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.shared.markdown import Content
from basilica.core.shared.output_file import File

MAP = """\
site: {name: Mill, base: 'https://m.example/x', languages: [en-GB, cy, ar], cy: {name: Melin}, ar: طاحونة}
pages:
  home: {path: /, title: Home, cy: Hafan, ar: {title: الرئيسية, description: وصف}}
  visit:
    title: Visit
    label: Come
    description: How to come.
    cy: {title: Ymweld, path: ymweld, description: Sut i ddod.}
    pages:
      hours: {title: Hours, was: /hours.htm, cy: {title: Oriau, label: Amser}}
      prices: Prices
      access: Access
      songs: {title: Caneuon, draft: yes, cy: {title: Caneuon, draft: no}}
  news: {title: News, pages: {gate: {title: Gate, cy: Giât}}}
  book: {kind: backend, title: Book, path: /book, cy: Archebu}
menus:
  main: [home, {page: visit, label: Come in, items: [hours, prices, access, songs]},
    {group: Learn, cy: Dysgu, ar: تعلم, items: [news, book]}]
  footer: {label: Below, cy: Isod, entries: [home]}
facts: {day: Sunday, cy: {day: dydd Sul}}
parts: {open: {text: "On {fact:day}", cy: "Ar {fact:day}", ar: مفتوح}}
slots: {footer: open}
phrases: {cy: {skip: Neidio}}
"""
TEXTS = {
    "home": "Hello [hours](page:hours)",
    "home.cy": "Shwmae [oriau](page:hours)",
    "visit/access": "By {fact:day}",
    "visit/access.cy": "---\ntitle: Mynediad\nlabel: Mynd\n---\nBob {fact:day}",
}


def made(text: str = MAP, texts: dict[str, str] = TEXTS) -> Build:
    contents = {key: Content(f"content/{key}.md", words) for key, words in texts.items()}
    return build(compile_map(text, Files().with_heads(contents)), contents)


def pages_of(build: Build) -> dict[str, LexborHTMLParser]:
    return {file.path: LexborHTMLParser(file.data) for file in build.files if file.path.endswith(".html")}


@pytest.fixture(scope="module")
def site() -> dict[str, LexborHTMLParser]:
    result = made()
    assert [finding.message for finding in result.findings if finding.stops] == []
    return pages_of(result)


def test_what_is_built_in_each_language(site: dict[str, LexborHTMLParser]) -> None:
    there = {path for path in site if not path.startswith("hours.htm")}
    assert {path for path in there if path.startswith("cy/")} == {
        "cy/index.html",
        "cy/404.html",
        "cy/ymweld/index.html",
        "cy/ymweld/hours/index.html",
        "cy/ymweld/access/index.html",  # its title stands in the head of its text
        "cy/ymweld/songs/index.html",  # it is there in this language alone
    }  # not prices, and not what stands below a page that is not translated
    assert {path for path in there if path.startswith("ar/")} == {"ar/index.html", "ar/404.html"}
    for path, page in site.items():
        tag = path.partition("/")[0]
        if not path.startswith("hours.htm"):
            assert page.css_first("html").attributes["lang"] == (tag if tag in ("cy", "ar") else "en-GB")
    assert site["ar/index.html"].css_first("html").attributes["dir"] == "rtl"


def words(page: LexborHTMLParser, selector: str) -> list[str]:
    return [" ".join(node.text().split()) for node in page.css(selector)]


def test_everything_on_a_page_is_in_its_language(site: dict[str, LexborHTMLParser]) -> None:
    hours, access = site["cy/ymweld/hours/index.html"], site["cy/ymweld/access/index.html"]
    main = [*words(hours, ".b-main a"), *words(hours, ".b-main .b-heading")]
    assert main == ["Hafan", "Ymweld", "Amser", "Mynd", "Caneuon", "Archebu", "Dysgu"]
    assert words(hours, ".b-breadcrumbs li") == ["Hafan", "Ymweld", "Amser"]
    assert words(hours, ".b-skip") == ["Neidio"] and words(hours, ".b-name") == ["Melin"]
    assert words(access, "main p") == ["Bob dydd Sul"] and words(access, ".b-footer .b-part p") == ["Ar dydd Sul"]
    assert words(access, "title") == ["Mynediad"]
    nav = [node.attributes["aria-label"] for node in hours.css("nav")]
    assert nav == ["Ieithoedd", "Prif", "Briwsion bara", "Isod"]
    assert hours.css_first("meta[name=description]") is None  # that of the other language is not its own
    assert site["cy/index.html"].css_first("main a").attributes["href"] == "/x/cy/ymweld/hours/"
    assert words(site["visit/index.html"], ".b-main a")[1] == "Come in"


# What Google's documentation of localized versions, and HTML's of the link type alternate, ask for: every version names
# itself and all others, both ways, with full addresses; and one for everybody else (from memory).
@pytest.mark.parametrize(
    ("path", "told"),
    [
        ("index.html", {"en-GB": "", "cy": "cy/", "ar": "ar/", "x-default": ""}),
        ("cy/index.html", {"en-GB": "", "cy": "cy/", "ar": "ar/", "x-default": ""}),
        ("visit/index.html", {"en-GB": "visit/", "cy": "cy/ymweld/", "x-default": "visit/"}),
        (
            "visit/access/index.html",
            {"en-GB": "visit/access/", "cy": "cy/ymweld/access/", "x-default": "visit/access/"},
        ),
        ("visit/prices/index.html", {}),
        ("news/gate/index.html", {}),
        ("404.html", {}),
        ("cy/404.html", {}),
    ],
)
def test_search_engines_are_told_of_translations(
    path: str, told: dict[str, str], site: dict[str, LexborHTMLParser]
) -> None:
    links = site[path].css("link[rel=alternate][hreflang]")
    found = {link.attributes["hreflang"]: link.attributes["href"] for link in links}
    assert found == {tag: f"https://m.example/x/{address}" for tag, address in told.items()}


@pytest.mark.parametrize(
    ("path", "shown"),
    [
        (
            "visit/hours/index.html",
            [("English", None), ("Cymraeg", "/x/cy/ymweld/hours/"), ("العربية (الرئيسية)", "/x/ar/")],
        ),
        (
            "visit/prices/index.html",
            [("English", None), ("Cymraeg (Ymweld)", "/x/cy/ymweld/"), ("العربية (الرئيسية)", "/x/ar/")],
        ),
        ("cy/ymweld/index.html", [("English", "/x/visit/"), ("Cymraeg", None), ("العربية (الرئيسية)", "/x/ar/")]),
        ("404.html", [("English", None), ("Cymraeg", "/x/cy/"), ("العربية", "/x/ar/")]),
    ],
)
def test_the_switch_leads_to_the_same_page_or_the_nearest_above_it(
    path: str, shown: list[tuple[str, str | None]], site: dict[str, LexborHTMLParser]
) -> None:
    found = site[path].css(".b-languages a, .b-languages span")
    assert [(" ".join(one.text().split()), one.attributes.get("href")) for one in found] == shown
    for one in found:
        assert one.attributes["lang"] == one.attributes.get("hreflang", one.attributes["lang"])


@pytest.mark.long
def test_the_sitemap_has_them_too() -> None:
    data = next(file.data for file in made().files if file.path == "sitemap.xml")
    space = {"s": "http://www.sitemaps.org/schemas/sitemap/0.9", "x": "http://www.w3.org/1999/xhtml"}
    root = etree.fromstring(data)
    told = {}
    for url in root.findall("s:url", space):
        told[url.findtext("s:loc", "", space)] = {
            link.get("hreflang"): link.get("href") for link in url.findall("x:link", space)
        }
    base = "https://m.example/x/"
    assert told[f"{base}cy/ymweld/"] == told[f"{base}visit/"] != {}
    assert told[f"{base}visit/prices/"] == {} and f"{base}cy/visit/prices/" not in told
    for address, others in told.items():  # both ways
        assert all(told[other] == others for other in others.values() if other), address


@pytest.mark.long
@pytest.mark.parametrize(
    ("urls", "links"), list(product(["folders", "files", "bare"], ["root", "document", "file", "absolute"]))
)
def test_no_link_is_dead_however_addresses_are_written(urls: str, links: str) -> None:
    result = made(MAP.replace("site: {", f"site: {{urls: {urls}, links: {links}, "))
    assert [finding.message for finding in result.findings if finding.stops] == []


@pytest.mark.long
@settings(max_examples=25)
@given(st.lists(st.tuples(st.booleans(), st.booleans(), st.integers(0, 3)), min_size=1, max_size=8))
def test_whatever_is_translated_all_links_lead_somewhere(told: list[tuple[bool, bool, int]]) -> None:
    lines = [
        "site: {name: M, base: 'https://m.example', languages: [en, cy, de]}",
        "pages:",
        "  home: {path: /, cy: H, de: H}",
    ]
    depth = 0
    for number, (cy, de, level) in enumerate(told):
        depth = min(level, depth)
        overlay = f"{', cy: C' if cy else ''}{', de: D' if de else ''}"
        lines.append(f"{'    ' * depth}  p{number}:")
        lines.append(f"{'    ' * depth}    title: P{number}")
        lines += [f"{'    ' * depth}    {one}" for one in overlay.split(", ") if one]
        if number + 1 < len(told) and told[number + 1][2] > depth:
            lines.append(f"{'    ' * depth}    pages:")
            depth += 1
    result = made("\n".join(lines) + "\n", {})
    assert not any(finding.stops for finding in result.findings)
    pages = pages_of(result)
    for path, page in pages.items():
        for link in page.css("link[hreflang]"):
            other = (link.attributes["href"] or "").removeprefix("https://m.example/") + "index.html"
            back = {each.attributes["href"] for each in pages[other].css("link[hreflang]")}
            assert f"https://m.example/{path.removesuffix('index.html')}" in back


@pytest.mark.parametrize(
    ("change", "code", "line", "said"),
    [
        (("{group: Learn, cy: Dysgu,", "{group: Learn,"), "untranslated", 18, "In `cy`: The group of the menu `main`"),
        (('cy: "Ar {fact:day}", ', ""), "untranslated", 21, "In `cy`: The part `open`"),
        (("cy: {title: Oriau, label: Amser}", "cy: Hours"), "same-in-both", 10, "`visit/hours`"),
        (("path: ymweld", "path: 'y?x'"), "bad-path", 8, "In `cy`"),
        (("cy: Hafan, ", ""), "language-not-built", 3, "Nothing is built in `cy`"),
        (
            ("  news: {title: News,", "  cy: {title: Wales, pages: {a: A}}\n  news: {title: News,"),
            "language-clash",
            14,
            "/cy/",
        ),
        (("[en-GB, cy, ar]", "[en-GB]"), "bad-value", 1, "two to 20"),
        (("[en-GB, cy, ar]", "[en-GB, 'c y']"), "bad-value", 1, "language tag"),
        (("[en-GB, cy, ar]", "[en-GB, cy, ar, EN-gb]"), "bad-value", 1, "`EN-gb` appears twice"),
        (("languages: [", "language: en, languages: ["), "key-without-use", 1, "beside `languages`"),
        (("languages: [en-GB, cy, ar], ", ""), "unknown-key", 1, "`cy`"),
    ],
)
def test_what_is_off_with_languages(change: tuple[str, str], code: str, line: int, said: str) -> None:
    assert change[0] in MAP
    found = [f for f in compile_map(MAP.replace(*change)).findings if f.code == code]
    assert any(finding.line == line and said in finding.message for finding in found), found


def test_nothing_is_said_twice_of_several_languages() -> None:
    findings = compile_map(MAP.replace("news: {title: News,", "news: {titel: News,")).findings
    assert [finding.message for finding in findings if finding.code == "unknown-key"] == [
        "The page `news` has no key `titel`."
    ]


@pytest.mark.parametrize("command", [RenameId("visit", "come"), NamePage("visit/hours", "Times")], ids=str)
def test_pages_in_several_languages_are_edited_like_others(command: object) -> None:
    contents = {key: Content(f"content/{key}.md", text) for key, text in TEXTS.items()}
    edited = edit(compile_map(MAP, Files().with_heads(contents)), MAP, command)  # type: ignore[arg-type]
    welsh = edited.compiled.plan.languages["cy"].site.pages
    key = edited.keys["visit/access"]
    assert (welsh[key].title, welsh[key].label) == ("Mynediad", "Mynd")
    assert welsh[edited.keys["visit/hours"]].label == "Amser"
    assert re.search(r"cy: \{title: Ymweld", edited.text)


@pytest.mark.long
def test_a_page_may_be_called_like_a_language_elsewhere() -> None:
    text = MAP.replace(
        "  news: {title: News,", "  cy: {title: Wales, path: /wales/, pages: {a: A}}\n  news: {title: News,"
    )
    text = text.replace("main: [home,", "main: [home, cy: [a],")
    result = made(text)
    assert [finding.message for finding in result.findings if finding.stops] == []
    assert "Wales" in words(pages_of(result)["index.html"], ".b-main a")


@pytest.mark.long
def test_the_first_language_can_have_its_tag_too() -> None:
    result = made(MAP.replace("languages: [", "language-prefix: all, languages: ["))
    assert [finding.message for finding in result.findings if finding.stops] == []
    pages = pages_of(result)
    assert {"en-GB/index.html", "en-GB/visit/hours/index.html", "404.html", "cy/ymweld/index.html"} <= set(pages)
    assert pages["index.html"].css_first("meta[http-equiv=refresh]").attributes["content"] == "0; url=/x/en-GB/"
    told = {
        link.attributes["hreflang"]: link.attributes["href"] for link in pages["cy/index.html"].css("link[hreflang]")
    }
    assert told["x-default"] == told["en-GB"] == "https://m.example/x/en-GB/"
    assert pages["404.html"].css_first(".b-main a").attributes["href"] == "/x/en-GB/"


@pytest.mark.long
def test_parts_that_are_files_have_their_languages_beside_them() -> None:
    files = Files({"parts/tide.md": b"Tide at {fact:day}", "parts/tide.cy.md": b"Llanw", "parts/other.xx.md": b"X"})
    text = MAP.replace("slots: {footer: open}", "slots: {footer: [open, tide]}")
    compiled = compile_map(text, files)
    assert [finding.code for finding in compiled.findings if finding.code == "part-unread"] == ["part-unread"]
    pages = pages_of(build(compiled, {}))
    shown = {path: words(page, "[data-part=tide] p") for path, page in pages.items() if not path.startswith("hours")}
    for path, said in shown.items():
        assert said == [{"cy": "Llanw"}.get(path[:2], "Tide at Sunday")], path


@pytest.mark.long
def test_a_text_that_was_not_translated_is_a_finding_in_its_file() -> None:
    same = made(texts={**TEXTS, "home.cy": "---\ndraft: no\n---\n" + TEXTS["home"]})
    assert ("same-in-both", "content/home.cy.md") in {(finding.code, finding.file) for finding in same.findings}
    assert "content/home.cy.md" not in {finding.file for finding in made().findings if finding.code == "same-in-both"}


@pytest.mark.long
def test_a_version_that_does_not_lead_back_is_found_on_the_built_pages() -> None:
    """HTML, link type alternate: versions of a page name each other."""
    contents = {key: Content(f"content/{key}.md", text) for key, text in TEXTS.items()}
    compiled = compile_map(MAP, Files().with_heads(contents))
    files = list(build(compiled, contents).files)
    assert compiled.plan is not None
    back, other = b'href="https://m.example/x/visit/"', b'href="https://m.example/x/"'
    for file, page in (("cy/ymweld/index.html", "visit/index.html"), ("visit/index.html", "cy/ymweld/index.html")):
        broken = [File(f.path, f.data.replace(back, other) if f.path == file else f.data) for f in files]
        found = [
            finding.message
            for plan in compiled.plan.languages.values()
            for finding in verify(broken, plan, contents).findings()
            if finding.code == "translation-links"
        ]
        assert any(message.startswith((page, file)) for message in found), found


@pytest.mark.parametrize(
    ("key", "given", "line"),
    [
        ("news", {"title": "Newyddion"}, "  news: {title: News, cy: Newyddion, pages:"),
        ("news", {"title": "Newydd: on", "path": "newydd"}, 'cy: {title: "Newydd: on", path: newydd}'),
        ("visit", {"label": "Dewch"}, "    cy: {title: Ymweld, path: ymweld, description: Sut i ddod., label: Dewch}"),
        ("visit/hours", {"label": ""}, "cy: {title: Oriau}"),
        ("visit/prices", {"title": "Prisiau"}, "      prices:\n        title: Prices\n        cy: Prisiau\n"),
        ("home", {"description": "Croeso"}, "cy: {title: Hafan, description: Croeso}"),
        ("news/gate", {"title": ""}, "{gate: {title: Gate}}"),
        ("news", {"title": "Newyddion", "draft": "yes"}, "cy: {title: Newyddion, draft: yes}"),
    ],
)
def test_what_a_page_is_called_in_a_language_is_written_by_hand(key: str, given: dict[str, str], line: str) -> None:
    edited = edit(compile_map(MAP), MAP, TranslatePage(key, "cy", given))
    assert line in edited.text, edited.text
    said = translation_of(edited.text, NO_FILES, key, "cy")
    assert {word: text for word, text in said.items() if word in given} == {w: t for w, t in given.items() if t}


@pytest.mark.parametrize(("language", "word"), [("de", "title"), ("en-GB", "title"), ("cy", "was")])
def test_what_cannot_be_said_in_a_language_is_refused(language: str, word: str) -> None:
    with pytest.raises(EditRejected, match="Nothing was changed"):
        edit(compile_map(MAP), MAP, TranslatePage("news", language, {word: "x"}))


@pytest.mark.long
def test_a_page_can_be_there_in_one_other_language_alone() -> None:
    """A draft that is none there: its entry is in the menus of that language, and nothing is said of it elsewhere."""
    text = (
        "site: {name: M, base: 'https://m.example', languages: [en, cy]}\n"
        "pages:\n  home: {path: /, title: Home, cy: Hafan}\n"
        "  feast: {title: Yr wyl, draft: yes, cy: {title: Yr wyl, draft: no}, pages: {songs: {title: S, cy: Can}}}\n"
        "  gone: {title: Gone, draft: yes}\n"
        "menus: {main: [home, feast: [feast/songs], gone, {group: G, cy: Y, items: [feast/songs]}]}\n"
    )
    made = build(compile_map(text), {})
    assert [f.message for f in made.findings if f.code in ("draft-entry", "same-in-both")] == [
        "The page `gone` is a draft, so this entry is left out."
    ]
    built = pages_of(made)
    assert {path for path in built if "404" not in path} == {
        "index.html",
        "cy/index.html",
        "cy/feast/index.html",
        "cy/feast/songs/index.html",
    }
    assert words(built["index.html"], ".b-main li") == ["Home"]  # and no heading over nothing
    assert words(built["cy/index.html"], ".b-main a") == ["Hafan", "Yr wyl", "Can", "Can"]
    switch = built["cy/feast/songs/index.html"].css_first(".b-languages a[lang=en]")
    assert switch.attributes["href"] == "/" and not built["cy/feast/index.html"].css("link[hreflang]")
    assert [f.message for f in made.findings if f.stops] == []


@pytest.mark.long
def test_the_mosaic_shows_what_is_not_translated_and_what_is_wrong_in_another_language() -> None:
    text = MAP.replace("cy: Hafan", "cy: {title: Hafan, description: Y felin ar y morfa.}")
    result = made(text, {**TEXTS, "visit/songs.cy": "Canu", "visit/hours.cy": "[Yma](gone/)"})
    assert result.results is not None
    mosaic = mosaic_of(result.results, result.in_others)
    states = {row.name: mosaic.state(row, "language-cy") for row in mosaic.rows}
    assert states["home"] is State.PASSES and states["visit/prices"] is State.UNTRANSLATED
    assert states["book"] is State.ABSENT and states["visit/songs"] is State.DIFFERS  # it has no description
    assert states["visit/hours"] is State.BROKEN
    ((check, violation),) = (one for one in mosaic.at("visit/hours", "language-cy") if one[0].code == "dead-link")
    assert mosaic.found_in("language-cy").finding(check, violation).file == "content/visit/hours.cy.md"
    # The mosaic counts what the list of findings counts.
    off = sum(mosaic.counted.values()) + len(mosaic.of_site)
    assert off == len(result.all_findings) - len(result.of_stages)


@pytest.mark.long
def test_a_live_page_in_another_language_is_checked_too() -> None:
    contents = {key: Content(f"content/{key}.md", words) for key, words in TEXTS.items()}
    compiled = compile_map(MAP, Files().with_heads(contents))
    assert compiled.plan is not None
    built = {file.path: file.data for file in build(compiled, contents).files}
    page = "cy/ymweld/index.html"
    damaged = built[page].replace(b"Hafan</a>", b"Dechrau</a>", 1)
    assert [*check_answers(compiled.plan, contents, built, {page: built[page]})] == []
    found = list(check_answers(compiled.plan, contents, built, {page: damaged}))
    assert ("Check menu-differs", page) in {(one.what, one.address) for one in found}
