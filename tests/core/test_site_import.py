"""Sites that exist, read out of their files: the demo against its report, and random ones with known faults."""

from __future__ import annotations

import codecs
import html
import json
from dataclasses import dataclass, field
from pathlib import Path
from random import Random
from urllib.parse import quote

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from selectolax.lexbor import LexborHTMLParser
from webencodings.labels import LABELS

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.exchange.site_import import analyse
from basilica.core.exchange.site_import.import_report import report_values
from basilica.core.exchange.site_import.source_tree import read_tree
from basilica.core.exchange.site_import.titles import title_pattern, without_site
from basilica.core.plan.old_addresses import Answer
from basilica.core.shared.output_file import File
from basilica.core.shared.page_encoding import encoding_of, label_of_encoding
from basilica.services.site_imports import SiteImport, import_site
from basilica.store.folders import Source
from basilica.store.site_archives import read_site

DEMO = Path(__file__).parents[2] / "basilica/demo/upper-thornby"


def test_the_demo_is_found_as_its_report_says() -> None:
    site = analyse(read_site(DEMO / "pages"))
    assert site is not None
    assert report_values(site) == json.loads((DEMO / "report.json").read_text())
    # What a person finds by reading the pages.
    assert {(one.file, str(one.kind)) for one in site.drift} == {
        ("contact.htm", "wrong current entry"),
        ("links.htm", "extra entry"),
        ("records.htm", "other label"),
        ("records.htm", "other words"),
        ("tower.html", "entry missing"),
        ("tower.html", "style sheet missing"),
        ("events/outing 2024.htm", "missing"),
    }
    assert {page.page.charset for page in site.pages.values()} == {"windows-1252", "utf-8"}
    assert site.pages["learn/raising.htm"].trail == ("index.htm", "learn.htm")


@pytest.mark.long
def test_the_demo_moves_in_at_the_same_addresses() -> None:
    found = import_site(read_site(DEMO / "pages"))
    assert found.build.files and found.left == ("dead-link",)
    assert {one.answer for one in found.answers} == {Answer.SAME, Answer.REDIRECT} and len(found.answers) == 19
    contents = found.moved.contents
    assert (
        contents["history"].text.startswith("<h1>History</h1>\n<p>There were three bells")
        and "café" in contents["history"].text
    )
    assert '<a href="page:band#captain">' in contents["about"].text
    assert 'src="file:images/ropes.gif"' in contents["gallery"].text
    assert not any('class="steps"' in one.text or 'class="crumbs"' in one.text for one in contents.values())
    by_path = {file.path: file.data.decode() for file in found.build.files if file.path.endswith((".htm", ".html"))}
    assert "<h2>Next</h2>" in by_path["events.htm"]  # a heading comes up with the one above it
    assert '<a href="/events/outing%202024.htm"' in by_path["events.htm"]


@pytest.mark.long
def test_an_exception_has_its_own_parts_and_menus() -> None:
    found = import_site(read_site(DEMO / "pages"), exceptions=("records.htm",))
    pages = {file.path: file.data.decode() for file in found.build.files if file.path.endswith((".htm", ".html"))}
    assert "Practice: Mondays" in pages["records.htm"] and "Practice: Tuesdays" not in pages["records.htm"]
    assert [file for file, text in pages.items() if "Practice: Mondays" in text] == ["records.htm"]
    assert pages["about.htm"].count("Practice: Tuesdays") == 1
    assert pages["records.htm"].count("The ringers") == 1 and "The ringers" not in pages["about.htm"]
    lacking = import_site(read_site(DEMO / "pages"), exceptions=("events/outing 2024.htm",)).build.files
    outing = next(file.data.decode() for file in lacking if file.path == "events/outing 2024.htm")
    assert "Practice nights" not in outing and 'class="b-skip"' in outing and "Practice: Tuesdays" in outing
    above = import_site(read_site(DEMO / "pages"), exceptions=("learn.htm",))
    assert any("learn.htm has pages under it" in note for note in above.moved.notes)


def test_the_page_for_what_is_not_there_keeps_its_words() -> None:
    frame = "<body><ul id=nav><li><a href=/>Home</a><li><a href=/a.html>A</a></ul><h1>{}</h1><p>Words of {}.</p>"
    names = {"index.html": "Home", "a.html": "A", "b.html": "B", "404.html": "Not here"}
    found = import_site(tuple(File(name, frame.format(title, title).encode()) for name, title in names.items()))
    assert found.moved.contents["404"].text == "<h1>Not here</h1><p>Words of Not here.</p>\n"
    assert "404.html" not in found.site.pages and found.build.files


def test_links_in_code_stay_and_still_lead_there() -> None:
    """What shows code is not read for names, so what stands there keeps its address, which is the same."""
    page = "<body><h1>{0}</h1><pre><a href='b.html'>b</a></pre><a href='b.html?x=1&amp;y=2#z'>c</a> <b id=z>{0}</b>"
    files = tuple(File(f"{name}.html", page.format(name).encode()) for name in ("index", "b"))
    found = import_site(files)
    text = found.moved.contents["home"].text
    assert "<pre><a href='b.html'>b</a></pre>" in text and 'href="page:b?x=1&amp;y=2#z"' in text
    built = next(file.data.decode() for file in found.build.files if file.path == "index.html")
    assert 'href="/b.html?x=1&amp;y=2#z"' in built and "page:" not in built


@pytest.mark.long
def test_what_basilica_built_can_be_read_again(demo: Source) -> None:
    """Its own lists are made anew, and everything is at the same addresses."""
    once = demo.map.replace(b"        also: /hours/", b"        #")  # a page at two addresses is read as two pages
    made = build(compile_map(once, demo.files), demo.contents)
    found = import_site(made.files)
    assert found.build.files and not any(version.drift for version in found.site.in_languages)
    assert found.answering == len(found.answers) == 34  # one only leads on
    assert "redirects.csv is made anew." in found.moved.notes
    again = {file.path: LexborHTMLParser(file.data) for file in found.build.files}
    for name in ("visit/hours/index.html", "cy/ymweld/oriau/index.html", "cy/404.html"):
        old = LexborHTMLParser(next(file.data for file in made.files if file.path == name))
        for shown in ("title", "main h1", ".b-main a", ".b-breadcrumbs li", ".b-languages li"):
            assert [one.text(strip=True) for one in again[name].css(shown)] == [
                one.text(strip=True) for one in old.css(shown)
            ], (name, shown)
    assert found.left == ("dead-link",)  # what other code answers is not known from the pages


def test_what_stands_before_the_content_is_seen_where_there_is_some() -> None:
    """Most pages of a site that is being made say nothing but their titles yet."""
    names = ("index", "boats", "tides", "news", "visit", "shop")
    menu = "".join(f"<li><a href={name}.html>{name.title()}</a></li>" for name in names)
    page = "<title>{0}</title><p>Open all year round</p><ul>{1}</ul><h1>{0}</h1>{2}<div>Ferry Lane, by the quay</div>"
    files = [
        File(f"{name}.html", page.format(name.title(), menu, "<p>Two men and a dog.</p>" * (name == "visit")).encode())
        for name in names
    ]
    site = analyse(files)
    assert site is not None
    words = {part.name: part.words for part in site.parts}
    assert {words.get(name) for name in site.before} - {None} == {"Open all year round"} and len(words) == 2


def test_pages_without_the_tags_that_may_be_left_out() -> None:
    """HTML, 13.1.2.4 optional tags; and a link past the menu, which is no content."""
    frame = (
        '<!doctype html><html lang=en><meta charset=utf-8><title>{0}</title><a href="#main">To the content</a>'
        "<nav><a href=index.html>Home</a> <a href=a.html>A</a> <a href=b.html>B</a></nav>"
        "<main id=main><h1>{0}</h1><p>Words of {0}.</p></main>"
    )
    names = {"index.html": "Home", "a.html": "One", "b.html": "Two"}
    found = import_site(tuple(File(name, frame.format(title).encode()) for name, title in names.items()))
    assert {key: content.text for key, content in found.moved.contents.items()} == {
        key: f"<h1>{title}</h1><p>Words of {title}.</p>\n"
        for key, title in {"home": "Home", "a": "One", "b": "Two"}.items()
    }


# Random sites

WORDS = "tide wheel stone sluice grain sack beam gate pond marsh reed barge miller loft hoist flour".split()  # noqa: SIM905
NAME = "Saltern Reach"


@dataclass
class Made:
    """A site that was made: its files, the files of its pages, the faults put in, and the own words of each page."""

    files: list[File] = field(default_factory=list)
    pages: list[str] = field(default_factory=list)
    faults: set[tuple[str, str]] = field(default_factory=set)
    own: dict[str, str] = field(default_factory=dict)


def _menu(kind: str, entries: list[tuple[str, str]], current: int | None, mark: str) -> str:
    def link(number: int, href: str, label: str) -> str:
        here = number == current
        if here and mark == "strong":
            return f"<strong>{label}</strong>"
        said = ' aria-current="page"' if here and mark == "aria" else ""
        return f'<a href="{href}"{said}>{label}</a>'

    item = {"list": "li", "open list": "li", "cells": "td"}.get(kind, "span")
    items = []
    for number, (href, label) in enumerate(entries):
        css = ' class="on"' if number == current and mark == "class" else ""
        end = f"</{item}>" if kind not in ("open list", "cells") else ""
        items.append(f"<{item}{css}>{link(number, href, label)}{end}")
    around = {
        "list": ('<ul id="nav">', "", "</ul>"),
        "open list": ('<div class="side"><ul>', "\n", "</ul></div>"),
        "cells": ("<table><tr>", "", "</table>"),
        "landmark": ("<nav><p>", " | ", "</p></nav>"),
        "line": ('<p class="links">', " &middot; ", "</p>"),
    }[kind]
    return around[0] + around[1].join(items) + around[2]


FAULTS = (
    "missing",
    "entry missing",
    "extra entry",
    "other label",
    "other target",
    "wrong current entry",
    "other words",
    "style sheet missing",
)


def made_site(seed: int, most_faults: int = 3) -> Made:
    """A site as people make them by hand, with known faults, at most one on each page."""
    random = Random(seed)
    made = Made()
    count = random.randint(7, 14)
    ending = random.choice([".html", ".htm"])
    labels = [f"{random.choice(WORDS).title()} {number}" for number in range(count)]
    names = ["index" + ending, *(f"page-{number}{ending}" for number in range(1, count))]
    if random.random() < 0.5:
        names = [name if number < count - 3 else f"more/{name}" for number, name in enumerate(names)]
    listed = random.sample(range(1, count), random.randint(4, min(7, count - 1)))
    menu = [0, *sorted(listed)]
    kind, mark = (
        random.choice(["list", "open list", "cells", "landmark", "line"]),
        random.choice(["class", "aria", "strong", "none"]),
    )
    before, boxed = random.random() < 0.7, random.choice(["div", "td", "main", "nothing"])
    faulty = random.sample(range(count), random.randint(0, most_faults))
    for number, name in enumerate(names):
        up = "../" * name.count("/")
        entries = [(up + names[one], labels[one]) for one in menu]
        current = menu.index(number) if number in menu else None
        foot, style, has_menu = "Saltern Reach Mill, Causeway Lane, since 1782, open on milling days", True, True
        kinds = [one for one in FAULTS if one != "wrong current entry" or (mark != "none" and number in menu)]
        fault = random.choice(kinds) if number in faulty else ""
        other = random.choice([at for at in range(1, len(menu)) if menu[at] != number])
        if fault == "missing":
            has_menu = False
        elif fault == "entry missing":
            del entries[other]
            current = None if current is None else current - (other < current)
        elif fault == "extra entry":
            entries.insert(other, (up + "guests.html", "Guest book"))
            current = None if current is None else current + (other <= current)
        elif fault == "other label":
            entries[other] = entries[other][0], "Old name"
        elif fault == "other target":
            entries[other] = up + "elsewhere.html", entries[other][1]
        elif fault == "wrong current entry":
            current = other
        elif fault == "other words":
            foot = foot.replace("Causeway Lane", "Station Road")
        elif fault == "style sheet missing":
            style = False
        if fault:
            made.faults.add((name, fault))
        own = " ".join(random.choices(WORDS, k=random.randint(20, 60)))
        made.own[name] = f"Own{number} {own} end{number}"
        title = f"{labels[number]} | {NAME}" if number else NAME
        text = f"<h1>{labels[number]}</h1><p>{made.own[name]}</p>"
        box = {
            "div": f'<div id="content">{text}</div>',
            "td": f'<table class="page"><tr><td>{text}</td></tr></table>',
            "main": f"<main>{text}</main>",
            "nothing": text,
        }[boxed]
        nav = _menu(kind, entries, current, mark) if has_menu else ""
        sheet = f'<link rel="stylesheet" href="{up}style.css">' if style else ""
        body = f'<div class="name">{NAME}</div>' + (nav + box if before else box + nav)
        head = f"<!doctype html><html lang=en><head><title>{html.escape(title)}</title>{sheet}</head>"
        page = f"{head}<body>{body}<p class=foot>{foot}</p>"
        made.files.append(File(name, page.encode()))
        made.pages.append(name)
    made.files.append(File("style.css", b"p { margin: 1em }"))
    return made


def holds(seed: int) -> SiteImport:
    made = made_site(seed)
    found = import_site(tuple(made.files))
    site = found.site
    assert {(one.file, str(one.kind)) for one in site.drift} == made.faults
    assert site.main is not None and site.name == NAME and site.title_pattern == "{title} | {site}"
    for file, page in site.pages.items():
        words = " ".join(LexborHTMLParser(page.content).text(separator=" ").split())
        assert made.own[file] in words
        assert NAME not in words and "Guest book" not in words and "milling days" not in words
    assert {one.address for one in found.answers} == {"/" + quote(page) for page in made.pages}
    assert all(one.answer is not Answer.NOWHERE for one in found.answers)
    assert found.build.files, [one.message for one in found.build.findings if one.stops]
    return found


@pytest.mark.long
@settings(max_examples=300)
@given(st.integers(0, 10_000_000))
def test_faults_of_hand_made_sites_are_found_and_nothing_else(seed: int) -> None:
    holds(seed)


# Pieces


@pytest.mark.parametrize(
    ("data", "encoding"),
    [
        (b"<meta charset=iso-8859-1><p>caf\xe9", "cp1252"),  # WHATWG Encoding: the label means windows-1252
        (b'<meta http-equiv="Content-Type" content="text/html; charset=UTF-8">', "utf-8"),
        (codecs.BOM_UTF8 + b"<meta charset=windows-1252>", "utf-8"),  # a mark of byte order comes first
        (codecs.BOM_UTF16_LE + "<p>é".encode("utf-16-le"), "utf-16-le"),
        (b"<p>caf\xe9", "cp1252"),
        ("<p>café".encode(), "utf-8"),
        (b" " * 1024 + b"<meta charset=koi8-r><p>\xe9", "cp1252"),  # HTML: only the first 1,024 bytes are looked at
        (b"<meta charset=koi8-r>", "koi8-r"),
        (b"<meta charset=utf-16>", "utf-8"),  # HTML: what a `meta` says can be no UTF-16
        (b"<meta charset=x-user-defined>", "cp1252"),  # HTML: means windows-1252
        (b"<meta charset=shift_jis>", "cp932"),  # WHATWG Encoding: Shift_JIS is the one of Windows
        *((b"<meta charset=%b><p>caf\xe9" % name, "cp1252") for name in (b"rot13", b"hex", b"idna", b"replacement")),
    ],
)
def test_encodings(data: bytes, encoding: str) -> None:
    """WHATWG Encoding, 4.2; HTML, determining the character encoding (from memory)."""
    assert encoding_of(data)[0] == encoding


def test_every_label_of_the_encoding_standard_is_read_and_named_by_its_standard_name() -> None:
    for label, name in LABELS.items():
        page = f"<meta charset={label}><p>caf".encode() + bytes(range(0x80, 0x100))
        codec, says = encoding_of(page)
        assert page.decode(codec, "replace").startswith("<meta")
        if says and name not in ("utf-16le", "utf-16be", "x-user-defined"):
            assert label_of_encoding(codec) == name.removesuffix("-i")  # the same bytes in another order of reading


PIECES = [
    "<ul><li>a<li>b</ul>",
    "<table><tr><td>x<td>y<tr><td>z</table>",
    "<p>one<p>two",
    "<dl><dt>t<dd>d</dl>",
    "</b>",
    "<b>bold",
]


@pytest.mark.long
@given(st.lists(st.sampled_from(PIECES), max_size=12))
def test_a_tree_has_the_words_that_a_browser_shows(pieces: list[str]) -> None:
    """Held against lexbor, which follows the rules of HTML."""
    page = f"<html><body>{''.join(pieces)}</body></html>"
    body = LexborHTMLParser(page).body
    assert body is not None
    tree = read_tree(page.encode(), "utf-8")
    assert "".join(tree.text.split()) == "".join(body.text().split())
    for element in tree.walk():
        assert element.start <= element.inner <= element.inner_end <= element.end
        assert all(element.inner <= child.start and child.end <= element.inner_end for child in element.children)


@pytest.mark.parametrize(
    ("titles", "pattern", "name"),
    [
        (["Tides | Mill", "Flour | Mill", "Mill"], "{title} | {site}", "Mill"),
        (["Mill: Tides", "Mill: Flour"], "{site}: {title}", "Mill"),
        (["Tides (The Mill: all of it)", "Flour (The Mill: all of it)"], "{title} ({site})", "The Mill: all of it"),
        (["Tides", "Flour - fine", "Visit"], "", ""),
    ],
)
def test_what_titles_have_in_common(titles: list[str], pattern: str, name: str) -> None:
    assert title_pattern(titles) == (pattern, name)
    assert without_site(titles[0], pattern, name) == "Tides"
