"""Menus, marks, breadcrumbs and what closes a page: all that the map can say, on the built pages."""

from __future__ import annotations

import brotli
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from selectolax.lexbor import LexborHTMLParser

from basilica.core.build import Build, build
from basilica.core.compile import compile_map
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.stylesheet import fits_from, fold_of
from basilica.core.plan import Plan, why_current
from basilica.core.shared import theme as theme
from basilica.core.shared.locales import PHRASES, languages, phrases
from basilica.core.shared.output_file import File
from basilica.core.site_reader import BuiltEntry, PageReader
from tests.core.help import HOME, built, codes, compiled, markdown, navigation, planned

PAGES = """\
pages:
  home: {path: /}
  visit:
    pages:
      hours: {highlight: contact}
      access: {pages: {lift: The lift}}
  learn: {kind: section, title: Learn here, pages: {wheel: , stones: {pages: {dressing: }}}}
  book: {kind: backend, path: /booking/form}
  contact:
  secret: {draft: yes, pages: {deeper: }}
  old: {hidden: [menus, breadcrumbs, sitemap], pages: {older: }}
"""
MAP = HOME + PAGES


def page(text: str, file: str, **contents: str) -> LexborHTMLParser:
    files = {f.path: f.data for f in Renderer(planned(text), markdown(**contents)).files()}
    return LexborHTMLParser(files[file])


def labels(tree: LexborHTMLParser, selector: str) -> list[str]:
    return [" ".join(node.text().split()) for node in tree.css(selector)]


def off(result: Build) -> set[str]:
    return {finding.code for finding in result.findings if finding.level != "advice"}


def lit(plan: Plan, menu: str, key: str) -> tuple[str | None, str | None]:
    mark = plan.menus[menu].mark(plan.site, key)
    return (plan.menus[menu].entries[mark.entry].page, mark.current) if mark else (None, None)


# Which entry is current: the page's own, then the highlight's, then that of the nearest page above (page-map.md)


@pytest.mark.parametrize(
    ("menu", "key", "wanted"),
    [
        ("[visit, contact]", "visit/hours", ("contact", "true")),
        ("[visit, contact, hours]", "visit/hours", ("visit/hours", "page")),
        ("[visit]", "visit/hours", ("visit", "true")),
        ("[visit]", "visit/access/lift", ("visit", "true")),
        ("[contact]", "visit", (None, None)),
        ("[learn: auto]", "learn/stones/dressing", ("learn/stones", "true")),
        ("[learn: [wheel]]", "learn/stones", ("learn", "true")),
        ("[book]", "book", ("book", "page")),
    ],
)
def test_the_entry_that_is_lit(menu: str, key: str, wanted: tuple[str | None, str | None]) -> None:
    plan = planned(f"{MAP}menus:\n  main: {menu}\n")
    assert lit(plan, "main", key) == wanted
    steps = " ".join(why_current(plan.menus["main"], plan.site, key))
    assert ("no entry is current" in steps) == (wanted[0] is None)
    assert f'aria-current="{wanted[1]}"' in steps or wanted[1] is None


def test_a_highlight_of_a_page_above_counts_before_what_is_above_that() -> None:
    plan = planned(HOME + "pages:\n  home: {path: /}\n  a: {pages: {b: {highlight: c, pages: {d: }}}}\n  c:\n")
    assert lit(plan, "main", "a/b/d") == ("a/b", "true")
    plan = planned(
        HOME + "pages:\n  home: {path: /}\n  a: {pages: {b: {highlight: c, pages: {d: }}}}\n  c:\nmenus: {main: [a, c]}"
    )
    assert lit(plan, "main", "a/b/d") == ("c", "true")


# Menus


@pytest.mark.parametrize(
    ("written", "wanted"),
    [
        ("auto", "home visit(hours access) learn(wheel stones) book contact"),
        ("{entries: {auto: {levels: 1, except: [book, hours]}}}", "home visit contact"),
        ("{auto: {order: title, levels: 1}}", "book contact home visit"),
        ("[contact, auto: 1]", "contact home visit book"),
        ("[visit: {auto: {except: hours}}]", "visit(access)"),
        ("[visit, secret]", "visit"),
        ("[secret: [contact], home]", "home"),
    ],
)
def test_what_auto_takes(written: str, wanted: str) -> None:
    menu = planned(f"{MAP}menus:\n  main: {written}\n").site.menus["main"]

    def said(entries: tuple) -> str:  # type: ignore[type-arg]
        return " ".join((e.page or "").split("/")[-1] + (f"({said(e.items)})" if e.items else "") for e in entries)

    assert said(menu.entries) == wanted


def test_a_menu_of_a_section_stands_on_its_pages_alone() -> None:
    text = f"{MAP}menus:\n  main: [home]\n  part: {{section: visit, label: In this part}}\n"
    plan = planned(text)
    assert [entry.page for entry in plan.menus["part"].entries] == ["visit/hours", "visit/access"]
    for key in plan.builds():
        found = page(text, plan.routes[key].file).css("nav[aria-label='In this part']")
        assert len(found) == (key.split("/")[0] == "visit"), key


def test_an_entry_is_dressed() -> None:
    text = f"""{MAP}menus:
  main:
    - {{page: home, icon: house, show: icon}}
    - separator
    - {{page: contact, show: button, note: Ring us, above: 600, below: 900}}
    - {{label: Shop, url: 'https://shop.example'}}
    - {{label: Mail, url: 'mailto:a@b.example'}}
"""
    tree = page(text, "index.html")
    home, line, contact, shop, mail = tree.css(".b-main > ul > li")
    assert home.css_first("svg[aria-hidden=true]") and " ".join(home.text().split()) == "Home"
    assert line.attributes["aria-hidden"] == "true" and not line.text().strip()
    assert contact.css_first("a.b-button") and contact.css_first("small").text() == "Ring us"
    assert contact.attributes["class"] == "b-above-600 b-below-900"
    assert shop.css_first("svg[role=img]").attributes["aria-label"] == "opens elsewhere"
    assert mail.css_first("svg") is None
    style = " ".join(navigation(built(planned(text)), "css").decode().split())
    assert "(max-width: 37.49875em) { .b-above-600 { display: none !important; } }" in style
    assert "(min-width: 56.25em) { .b-below-900 { display: none !important; } }" in style


def test_go_or_open_and_never_both() -> None:
    """Common practice, no source: one control cannot do both on a touch screen."""
    beside = page(f"{MAP}menus:\n  main: [visit: auto]\n", "index.html").css_first(".b-main > ul > li")
    assert beside.css_first("a").attributes["href"] == "/visit/"
    assert beside.css_first("button").attributes["aria-label"] == "Pages under Visit"
    inside = page(f"{MAP}menus:\n  main: {{opens: inside, entries: [visit: auto]}}\n", "visit/index.html")
    entry = inside.css_first(".b-main > ul > li")
    assert next(c for c in entry.iter()).tag == "button"
    first = entry.css_first("ul > li > a")
    assert (first.attributes["href"], first.attributes["aria-current"]) == ("/visit/", "page")


@pytest.mark.parametrize(
    ("menus", "code", "at"),
    [
        ("{main: [old]}", "hidden-entry", "old"),
        ("{main: [learn]}", "empty-group", "learn"),
        ("{main: ['learn#x']}", "empty-group", "'learn"),
        ("{main: [{page: home, icon: hous}]}", "unknown-icon", "hous}"),
        ("{main: [{page: home, above: wide}]}", "bad-value", "wide"),
        ("{main: {section: visit}}", "wrong-shape", "visit"),
        ("{a: {label: S, entries: [home]}, b: {label: S, entries: [home]}}", "duplicate-menu-label", "b:"),
        ("{a: {fold: 300}}", "key-without-use", "fold"),
    ],
)
def test_what_does_not_fit_is_said_with_its_place(menus: str, code: str, at: str) -> None:
    text = f"{MAP}menus: {menus}\n"
    last = text.splitlines()[-1]
    assert codes(text) == [(code, text.count("\n"), last.index(at) + 1)]


# Pages that are not plain


def test_drafts_change_no_other_page() -> None:
    text = f"{MAP}menus:\n  main: [home, secret]\n"
    contents = markdown(home="[a](page:secret) [b](page:contact)\n")
    compiled_map = compile_map(text)
    plain, with_drafts = (
        {f.path: f.data for f in build(compiled_map, contents, drafts=drafts).files} for drafts in (False, True)
    )
    assert with_drafts.keys() - plain.keys() == {"secret/index.html", "secret/deeper/index.html"}
    assert all(with_drafts[path] == data for path, data in plain.items())
    assert b'content="noindex"' in with_drafts["secret/deeper/index.html"]
    assert not any(b"/secret/" in data for data in plain.values())
    found = build(compiled_map, contents).findings
    assert {f.code for f in found} >= {"draft-entry", "draft-linked"} and not any(f.stops for f in found)


def test_sections_and_served_pages() -> None:
    text = f"{MAP}menus:\n  main: [learn: auto, book]\n"
    result = build(compiled(text), markdown(home="[book](page:book)\n"))
    assert off(result) == {"unreachable", "highlight-nowhere"}  # nothing leads to `old`, which is kept out of menus
    files = {file.path for file in result.files}
    assert "learn/wheel/index.html" in files
    assert not files & {"learn/index.html", "booking/form", "booking/form/index.html", "book/index.html"}
    sitemap = next(f.data for f in result.files if f.path == "sitemap.xml").decode()
    assert "https://mill.example/booking/form<" in sitemap
    assert "/old/<" not in sitemap and "/old/older/<" in sitemap
    tree = page(text, "learn/stones/index.html")
    assert labels(tree, ".b-breadcrumbs li") == ["Home", "Learn here", "Stones"]
    assert tree.css_first(".b-breadcrumbs li:nth-child(2) a") is None
    assert labels(page(text, "old/older/index.html"), ".b-breadcrumbs li") == ["Home", "Older"]
    assert [f.code for f in build(compiled(text), markdown(home="[x](page:learn)\n")).findings if f.stops] == [
        "section-linked"
    ]
    assert codes(text.replace("path: /booking/form", "path: /visit/")) == [("address-clash", 9, 31)]


# Breadcrumbs, and what closes a page


@pytest.mark.parametrize(
    ("said", "wanted", "separator"),
    [
        ("{}", ["Home", "Visit", "Access", "The lift"], "›"),
        ("{separator: slash, itself: hide}", ["Home", "Visit", "Access"], "/"),
        ("{home: none}", ["Visit", "Access", "The lift"], "›"),
        ("{home: icon}", ["Home", "Visit", "Access", "The lift"], "›"),
        ("{separator: '*', shorten: 3}", ["Home", "…", "Visit", "Access", "The lift"], "*"),
    ],
)
def test_breadcrumbs(said: str, wanted: list[str], separator: str) -> None:
    text = f"{MAP}breadcrumbs: {said}\n"
    tree = page(text, "visit/access/lift/index.html")
    assert labels(tree, ".b-breadcrumbs :is(a, summary, span[aria-current])") == wanted
    assert separator not in tree.css_first(".b-breadcrumbs").text()
    assert planned(text).site.crumbs.separator == separator
    assert off(build(compiled(text), {})) == {"unreachable"}


@pytest.mark.parametrize(
    ("how", "key", "wanted"),
    [
        ("none", "visit", (None, None)),
        ("section", "visit", (None, "visit/hours")),
        ("section", "visit/access/lift", ("visit/access", None)),
        ("section", "home", (None, None)),
        ("map", "visit/access/lift", ("visit/access", "learn/wheel")),
        ("map", "home", (None, "visit")),
        ("map", "learn/stones/dressing", ("learn/stones", "contact")),
    ],
)
def test_the_pages_before_and_after(how: str, key: str, wanted: tuple[str | None, str | None]) -> None:
    assert planned(f"{MAP}page-end: {{sequence: {how}}}\n").neighbours(key) == wanted


def test_a_site_map_page_lists_every_page_that_others_see() -> None:
    text = f"{MAP}  all: {{list: site}}\n"
    tree = page(text, "all/index.html")
    plan = planned(text)
    listed = [a.attributes["href"] for a in tree.css(".b-page-list a")]
    assert listed == [route.path for key, route in plan.routes.items() if key not in plan.drafts]
    assert "Learn here" in labels(tree, ".b-page-list span")


# Looks and words


def test_contrast_and_the_nearest_colour_that_passes() -> None:
    """WCAG 2.2, contrast ratio: black on white 21:1; #767676 passes 4.5 on white and #777777 does not."""
    assert theme.contrast("#000", "#fff") == pytest.approx(21)
    assert theme.contrast("#767676", "#fff") >= 4.5 > theme.contrast("#777777", "#fff")
    better = theme.nearest("#88aaff", "#ffffff")
    assert better is not None and 4.5 <= theme.contrast(better, "#ffffff") < 5
    finding = next(f for f in compiled(f"{MAP}theme: {{link: '#88aaff'}}\n").findings if f.code == "poor-contrast")
    assert better in finding.remedy and finding.fix is not None


@pytest.mark.parametrize("start", theme.PRESETS)
def test_every_set_of_colours_can_be_read(start: str) -> None:
    preset = theme.PRESETS[start]
    for colours in filter(None, (preset.colours, preset.dark)):
        assert colours.keys() == theme.COLOURS.keys()
        assert theme.poor_pairs(colours) == []


@pytest.mark.long
@pytest.mark.parametrize("language", languages())
def test_words_follow_the_language(language: str) -> None:
    text = MAP.replace("base:", f"language: {language}, base:") + "phrases: {menu: Pages!}\npage-end: {sequence: map}\n"
    tree = page(text, "visit/index.html")
    words = phrases(language, {})
    assert words.keys() == PHRASES.keys() and words["under"].count("{}") == words["moved-text"].count("{}") == 1
    assert labels(tree, ".b-skip") == [words["skip"]]
    assert labels(tree, ".b-menu-button") == ["Pages!"]
    assert off(build(compiled(text), {})) == set()
    assert tree.css_first("html").attributes.get("dir") == ("rtl" if language in ("ar", "he") else None)


def test_the_full_set_of_style_and_script_is_below_6_kb() -> None:
    text = f"""{MAP}menus:
  main:
    hover: yes
    entries:
      - {{page: visit, icon: clock, show: icon, note: N, above: 3, items: auto}}
      - separator
      - {{page: contact, show: button, below: 900}}
  utility: [home]
  part: {{section: visit}}
  footer: [contact]
header: {{behaviour: shrink}}
breadcrumbs: {{home: icon, shorten: 3}}
page-end: {{sequence: map}}
theme: {{divider: line}}
head: {{minify: yes}}
"""
    full = list(Renderer(planned(text), {}).files())
    assert sum(len(brotli.compress(navigation(full, kind))) for kind in ("css", "js")) < 6000
    script = navigation(built(planned(f"{MAP}menus: {{main: []}}\n")), "js").decode()
    assert "addEventListener" not in script


def test_where_the_menu_folds() -> None:
    def fold(settings: str) -> str:
        return fold_of(planned(f"{MAP}menus:\n  main: {{entries: [home, visit], {settings}}}\n"))

    assert fold("fold: 800") == "(max-width: 49.999em)"
    assert (fold("fold: always"), fold("fold: never")) == ("always", "")
    wide = "pages:\n  home: {path: /}\n" + "".join(f"  a{n}: A rather long label\n" for n in range(12))
    assert fold_of(planned(HOME + wide)) == "always"  # a menu wider than the content fits at no width
    narrow, broad = (fits_from(planned(f"{HOME}pages: {{home: {{path: /}}, a: {'W' * n}}}")) for n in (30, 40))
    assert narrow < broad


# Any map


@st.composite
def dressed_maps(draw: st.DrawFn) -> str:
    """Maps with every kind of page and menu, in every style."""
    ids = draw(st.lists(st.sampled_from("abcdef"), unique=True, min_size=2, max_size=5))
    keys = [f"{i}/{j}" for i in ids for j in draw(st.lists(st.sampled_from("xyz"), unique=True, max_size=2))]
    every = [*ids, *keys]
    of = st.sampled_from
    lines = ["pages:", "  home: {path: /}"]
    for one in ids:
        below = [key.split("/")[1] for key in keys if key.startswith(f"{one}/")]
        kinds = ["", "draft: yes", "hidden: menus", "hidden: breadcrumbs", f"highlight: {draw(of(every))}"]
        kinds += ["kind: section"] if below else ["kind: backend, path: /other/app"] if one == ids[0] else []
        own = draw(of(kinds))
        own = "" if own == f"highlight: {one}" else own
        children = ", ".join(f"{name}: {{sequence: map}}" for name in below)
        parts = [own, f"pages: {{{children}}}" if below else ""]
        lines.append(f"  {one}: {{{', '.join(part for part in parts if part)}}}")
    opens = draw(of(["beside", "inside"]))
    lines += [
        "menus:",
        "  main:",
        f"    opens: {opens}",
        f"    entries: {draw(of(['auto', '{auto: 3}', '[home, auto]']))}",
    ]
    lines += ["  part:", f"    section: {draw(of(every))}", "  footer: {auto: {order: title}}"]
    lines += [f"breadcrumbs: {{itself: {draw(of(['show', 'hide']))}, home: {draw(of(['label', 'icon', 'none']))}}}"]
    site = (
        f"urls: {draw(of(['folders', 'files', 'bare']))}, links: {draw(of(['root', 'document', 'file', 'absolute']))}"
    )
    return f"site: {{name: M, base: 'https://m.example/p', {site}}}\n" + "\n".join(lines) + "\n"


@pytest.mark.long
@settings(max_examples=120, deadline=None)
@given(dressed_maps())
def test_any_map_holds_and_marks_are_equal_however_they_are_drawn(text: str) -> None:
    """One mark at most in each menu; menus equal on every page; breadcrumbs as the map says; every page reachable, or
    a finding says not: ``build`` reads all of it again. And no way of rendering changes a mark."""
    result = build(compile_map(text), {})
    assert off(result) <= {"unreachable", "highlight-nowhere", "duplicate-title", "duplicate-label"}
    plan = planned(text)
    pages = {file.path: _marks(file) for file in result.files if file.path.endswith(".html")}
    for change in (("opens: beside", "opens: inside"), ("opens: inside", "opens: beside"), (LINKS[0], LINKS[1])):
        redrawn = Renderer(planned(text.replace(*change)), {}).files()
        assert pages == {file.path: _marks(file) for file in redrawn if file.path.endswith(".html")}
    for key in plan.builds():
        trail = plan.breadcrumbs(key)
        hidden = {above for above, known in plan.site.pages.items() if "breadcrumbs" in known.options.hidden}
        above = [page for page in reversed(plan.site.ancestors(key)) if page not in hidden]
        assert [level.page for level in trail if level.page not in (key, plan.site.home)] == above
    for data in (file.data for file in result.files if file.path.endswith(".html")):
        for nav in LexborHTMLParser(data).css("nav"):
            marked = [node.attributes.get("class") or "" for node in nav.css("[aria-current]")]
            assert sum("b-without-script" not in name for name in marked) <= 1


LINKS = ("links: root", "links: document")


def _marks(file: File) -> object:
    read = PageReader("Breadcrumb").read(file, None)

    def labels(entries: tuple[BuiltEntry, ...]) -> list[object]:
        return [(entry.label, labels(entry.items)) for entry in entries]

    return {name: (labels(nav.menu.entries), nav.marks) for name, nav in read.menus.items()}
