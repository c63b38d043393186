"""Words of entries, of the header and of its name, in what is made of them; and pages that come as a list."""

from __future__ import annotations

import re
from typing import Any

import pytest
import yaml
from hypothesis import given
from hypothesis import strategies as st
from lxml import etree
from selectolax.lexbor import LexborHTMLParser

from basilica.core.compile import Compiled, compile_map
from basilica.core.edits import EditRejected, edit
from basilica.core.edits.commands.add_pages import AddPages, ListedPage
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.findings import CHECKS
from basilica.core.language.sections import SECTIONS
from basilica.core.language.word_tree import word_tree
from basilica.core.map.map_files import Files
from basilica.core.map.site.ids import id_from
from basilica.core.shared.icons.own_icon import own_icon
from tests.core.help import built, navigation

SVG = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path d="M0 0h8v8z"/></svg>'
SITE = """\
site: {name: Old Mill, base: "https://mill.example"}
pages:
  home: {path: /}
  visit: {pages: {hours: Hours, fares: Fares}}
menus:
  main:
    - home
    - group: See
      items: {auto: {under: visit}}
"""


def made(text: str, **files: bytes) -> Compiled:
    return compile_map(text, Files({f"files/{name.replace('_', '.')}": data for name, data in files.items()}))


def codes(compiled: Compiled) -> set[str]:
    return {finding.code for finding in compiled.findings}


def built_home(compiled: Compiled) -> LexborHTMLParser:
    assert compiled.plan is not None, compiled.findings
    return LexborHTMLParser(next(file.data.decode() for file in built(compiled.plan) if file.path == "index.html"))


# Groups that follow the pages under another


def main_of(compiled: Compiled) -> list[tuple[str, ...]]:
    assert compiled.plan is not None, compiled.findings
    menu = compiled.plan.menus["main"]
    return [tuple(menu.entries[child].label for child in menu.entries[number].items) for number in menu.top]


def test_a_group_follows_the_pages_under_another_and_goes_with_that() -> None:
    before = made(SITE)
    assert main_of(before) == [(), ("Hours", "Fares")]
    renamed = edit(before, SITE, RenameId("visit", "your-visit"))
    assert "under: your-visit" in renamed.text and main_of(renamed.compiled) == main_of(before)
    deleted = edit(before, SITE, DeletePage("visit"))
    assert "See" not in deleted.text and main_of(deleted.compiled) == [()]


# Icons of the site's own


DRAWS = frozenset(["svg", "g", "path", "circle", "ellipse", "rect", "line", "polyline", "polygon"])
HOSTILE = st.sampled_from(
    [
        "<script>alert(1)</script>",
        '<path d="M0 0" onclick="alert(1)"/>',
        '<image href="https://evil.example/x.png"/>',
        '<a href="javascript:alert(1)"><path d="M0 0"/></a>',
        "<style>path { fill: url(https://evil.example) }</style>",
        '<path fill="url(#x)" d="M1 1"/>',
        '<use href="#x"/>',
        '<foreignObject><p xmlns="http://www.w3.org/1999/xhtml">x</p></foreignObject>',
        '<g onload="x"><circle cx="1" cy="1" r="1" style="fill: red"/></g>',
        '<path d="M0 0&quot;&gt;&lt;script&gt;"/>',
        "<text>words</text>",
        '<set attributeName="href" to="javascript:x"/>',
    ]
)


@given(st.lists(HOSTILE, max_size=4))
def test_of_a_drawing_only_what_draws_comes_into_pages(pieces: list[str]) -> None:
    drawn = own_icon(SVG.replace(b"</svg>", "".join(pieces).encode() + b"</svg>"))
    root = etree.fromstring(drawn)
    assert {str(element.tag) for element in root.iter()} <= DRAWS
    said = [(name, value) for element in root.iter() for name, value in element.attrib.items()]
    assert not [one for one in said if one[0].startswith("on") or one[0] in ("style", "href", "id")]
    assert not [value for _, value in said if "url(" in value or ":" in value]
    assert root.get("viewBox") == "0 0 8 8" and root.get("aria-hidden") == "true"


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"<svg", "cannot be read"),
        (b"<p/>", "not an SVG"),
        (SVG.replace(b' viewBox="0 0 8 8"', b""), "viewBox"),
        (SVG.replace(b"<path", b"<text"), "it is empty"),
        (SVG + b" " * 20_000, "more than"),
        (b'<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>' + SVG.replace(b"M0", b"&b;"), "names of its own"),
    ],
)
def test_what_cannot_be_an_icon_says_why(data: bytes, said: str) -> None:
    with pytest.raises(ValueError, match=said):
        own_icon(data)
    text = SITE.replace("- home\n", "- {page: home, icon: mill.svg}\n")
    assert "unknown-icon" in codes(made(text, mill_svg=data))


def test_an_own_icon_stands_in_pages_beside_its_label() -> None:
    text = SITE.replace("- home\n", "- {page: home, icon: mill.svg}\n")
    link = built_home(made(text, mill_svg=SVG)).css_first(".b-main a")
    assert link.text() == "Home" and link.css_first("svg path").attributes["d"] == "M0 0h8v8z"


# The name in the header


@pytest.mark.parametrize(("show", "alt", "words"), [("yes", "", "Old Mill"), ("no", "Old Mill", "")])
def test_a_logo_stands_with_the_name_or_for_it(show: str, alt: str, words: str) -> None:
    text = SITE + f"parts: {{identity: {{kind: identity, picture: logo.svg, show-name: '{show}', height: 56}}}}\n"
    compiled = made(text, logo_svg=SVG)
    name = built_home(compiled).css_first(".b-header .b-name")
    picture = name.css_first("img")
    assert (picture.attributes["alt"] or "", name.text(strip=True)) == (alt, words)
    assert compiled.plan is not None and b"block-size: 3.5rem" in navigation(built(compiled.plan), "css")


def test_a_name_without_room_and_a_picture_without_height_are_findings() -> None:
    name = "The Society for the Preservation of Every Old Mill and Boatyard in the Reach" + " and of the Marshes" * 4
    long = SITE.replace("Old Mill", name)
    shrinks = "header: {behaviour: shrink}\n"
    assert "header-name-cut" in codes(made(long + shrinks))
    assert "header-name-cut" not in codes(made(long + "header: {behaviour: shrink, height: 200, small-height: 120}\n"))
    logo = "parts: {identity: {kind: identity, picture: logo.svg, height: 90}}\n"
    assert "header-picture-cut" in codes(made(SITE + logo + "header: {height: 60}\n", logo_svg=SVG))
    assert "header-picture-cut" not in codes(made(SITE + logo + "header: {height: 100}\n", logo_svg=SVG))


# Pages that come as a list

TITLES = st.sampled_from(["Hours", "Fares", "Getting here", "Café", "Tides 2026"])
LISTED = st.recursive(
    st.builds(ListedPage, TITLES),
    lambda inner: st.builds(ListedPage, TITLES, st.just(""), st.tuples(inner)),
    max_leaves=4,
)


def nested(pages: tuple[ListedPage, ...]) -> dict[str, object]:
    found: dict[str, object] = {}
    for page in pages:
        found.setdefault(id_from(page.title, ()), nested(page.pages))
    return found


def tree_of(pages: dict[str, object] | None) -> dict[str, object]:
    return {key: tree_of(page.get("pages")) if isinstance(page, dict) else {} for key, page in (pages or {}).items()}


def merged(there: dict[str, object], more: dict[str, object]) -> dict[str, object]:
    return {
        key: merged(there.get(key, {}), more.get(key, {}))  # type: ignore[arg-type]
        for key in [*there, *(key for key in more if key not in there)]
    }


@pytest.mark.long
@given(
    st.lists(LISTED, min_size=1, max_size=3, unique_by=lambda page: page.title).map(tuple),
    st.sampled_from([("visit", "after"), ("visit", "under"), ("visit/fares", "under"), ("visit/hours", "after")]),
    st.sampled_from(["", "main"]),
)
def test_pages_of_a_list_come_into_their_place_and_what_is_there_stays(
    pages: tuple[ListedPage, ...], place: tuple[str, Any], menu: str
) -> None:
    command = AddPages(pages, *place, menu)
    parent = place[0] if place[1] == "under" else place[0].rpartition("/")[0]
    before = yaml.safe_load(SITE)["pages"]
    wanted = expected = tree_of(before)
    for step in parent.split("/") if parent else ():
        expected = expected[step]  # type: ignore[assignment]
    grown = merged(expected, nested(pages))
    if grown == expected:
        with pytest.raises(EditRejected, match="there already"):
            edit(made(SITE), SITE, command)
        return
    expected.update(grown)
    done = edit(made(SITE), SITE, command)
    after = yaml.safe_load(done.text)["pages"]
    assert tree_of(after) == wanted
    count = len(done.compiled.plan.site.pages) - 4 if done.compiled.plan else 0
    assert done.words.startswith(f"Added {count} ")  # those that were there are not counted
    fares = after["visit"]["pages"]["fares"]
    assert after["home"]["path"] == "/" and "Fares" in (
        fares,
        dict(fares).get("title") if isinstance(fares, dict) else "",
    )


# The tree for editors


def test_every_section_of_the_schema_is_reached_from_the_top() -> None:
    tree = word_tree((check.code, check.title) for check in CHECKS)
    reached, waiting = set(), [""]
    while waiting:
        section = waiting.pop()
        if section in reached:
            continue
        reached.add(section)
        waiting += [word["below"] for word in tree[section]["words"] if word.get("below")]
        waiting += [tree[section]["items"]] if tree[section].get("items") else []
    assert reached == set(tree) and set(SECTIONS) <= reached


def test_breadcrumbs_stand_above_the_footer_where_that_is_wanted() -> None:
    def order(place: str) -> list[str]:
        plan = made(SITE + f"breadcrumbs: {{place: {place}, size: 120}}\n").plan
        assert plan is not None
        files = built(plan)
        page = LexborHTMLParser(next(file.data.decode() for file in files if file.path == "visit/hours/index.html"))
        assert b"font-size: 1.2rem" in navigation(files, "css")
        assert len(page.css(".b-breadcrumbs a")) == 2
        return [node.tag for node in page.css("header, main, footer, .b-breadcrumbs")]

    assert order("top") == ["header", "nav", "main", "footer"]
    assert order("bottom") == ["header", "main", "nav", "footer"]


# Structure and looks


def test_structure_has_the_weight_of_one_class_and_looks_stand_in_the_layer() -> None:
    """CSS Cascade 5, 6.4.4: what is unlayered beats what is in a layer; Selectors 4, 17: a class beats elements."""
    plan = made(SITE + "header: {behaviour: shrink}\n").plan
    assert plan is not None
    css = navigation(built(plan), "css").decode()
    structure, looks = css.split("@layer basilica {")
    assert re.search(r"^@layer basilica;", structure, re.MULTILINE)
    lines = [line.strip() for line in css.splitlines() if line.strip().startswith((":where(", "."))]
    kept = [line for line in lines if line in structure]
    for rule in kept:
        for selector in rule.partition(" {")[0].split(", :where("):
            assert selector.count(":not(.b-0)") == 1 or re.fullmatch(r"\.b-[\w-]+", selector), rule
        assert not re.search(r"[{;] (color|background|font-weight|text-decoration):", rule), rule
    for rule in (line for line in lines if line not in kept and ".b-" in line.partition("{")[0]):
        assert not re.search(r"[{;] (display|position|list-style|padding[\w-]*|margin[\w-]*):", rule), rule
    assert ":where(main)" not in structure and ":where(a:hover)" in looks
