"""Lists and tables that become maps, and back."""

from __future__ import annotations

import csv
import io
from textwrap import dedent

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.edits import EditRejected
from basilica.core.exchange import (
    Item,
    ItemKind,
    items_from,
    map_of,
    read_list,
    read_table,
    site_section,
    write_list,
    write_table,
)
from basilica.core.exchange.list_edits import merge_list
from basilica.store.folders import Source
from tests.core.help import planned
from tests.core.maps import TITLES

SITE = site_section("Mill")


def shape(text: str) -> list[tuple[str, str, int]]:
    """Kind, label and depth of every line."""

    def walk(items: tuple[Item, ...], depth: int) -> list[tuple[str, str, int]]:
        return [row for i in items for row in ((str(i.kind), i.label, depth), *walk(i.items, depth + 1))]

    return walk(read_list(dedent(text))[0], 0)


WANTED = [
    ("page", "Home", 0),
    ("page", "Visit", 0),
    ("page", "Hours", 1),
    ("page", "In winter", 2),
    ("page", "News", 0),
]


@pytest.mark.parametrize(
    "text",
    [
        "Home\nVisit\n  Hours\n    In winter\nNews\n",
        "Home\nVisit\n\tHours\n\t\tIn winter\nNews\n",
        "- Home\n- Visit\n   - Hours\n       - In winter\n- News",
        "• Home\r\n• Visit\r\n\t◦ Hours\r\n\t\t▪ In winter\r\n• News\r\n",
        "Home\nVisit\n- Hours\n-- In winter\nNews",
        "- Home\n- Visit\n-- Hours\n--- In winter\n\n- News",
        "1. Home\n2. Visit\n2.1 Hours\n2.1.1 In winter\n3. News",
        "1) Home\n2) Visit\n   a\n3) News".replace("   a", "   1) Hours\n      1) In winter"),
    ],
)
def test_depth_is_told_in_many_ways(text: str) -> None:
    assert shape(text) == WANTED


def test_what_a_line_can_be() -> None:
    text = """\
        Home
        VISIT
          Opening hours | /hours
          Getting here -> how-to-find-us
        Learn:
          FAQ
        Shop → https://shop.example/a|b
        Write: to us | mailto:mill@example.org
        Footer:
          Privacy
          FAQ
        Empty:
        """
    items, findings = read_list(dedent(text))
    assert [(i.kind, i.label, i.address) for i in items] == [
        ("page", "Home", None),
        ("group", "VISIT", None),
        ("group", "Learn", None),
        ("link", "Shop", "https://shop.example/a|b"),
        ("link", "Write: to us", "mailto:mill@example.org"),
        ("menu", "footer", None),
        ("page", "Empty", None),
    ]
    assert [(f.code, f.line) for f in findings] == [("list-note", 12)]
    plan = planned(map_of(items, SITE)[0])
    assert [(key, route.path) for key, route in plan.routes.items()] == [
        ("home", "/"),
        ("hours", "/hours/"),
        ("how-to-find-us", "/how-to-find-us/"),
        ("faq", "/faq/"),
        ("empty", "/empty/"),
        ("privacy", "/privacy/"),
    ]
    assert [entry.page for entry in plan.menus["footer"].entries] == ["privacy", "faq"]


@pytest.mark.parametrize(
    ("text", "line", "words"),
    [
        ("Home\nBad | javascript:alert(1)\n", 2, "not an outside address"),
        ("Home\nShop | https://shop.example\n  Child pages\n", 2, "is a link"),
        ("Home\n" + "x" * 301, 2, "301 characters"),
        ("".join("  " * depth + "x\n" for depth in range(13)), 13, "level 13"),
        ("Home\n | /nowhere", 2, "no label"),
    ],
)
def test_what_cannot_be_taken_is_said_by_line(text: str, line: int, words: str) -> None:
    items, findings = read_list(text)
    assert [(f.line, words in f.message) for f in findings] == [(line, True)]
    assert items[0].label in ("Home", "x")


def test_a_list_without_home_gets_one_and_says_so() -> None:
    text, findings = map_of(read_list("Visit\nNews\n")[0], SITE)
    assert [f.code for f in findings] == ["list-note"]
    assert list(planned(text).site.pages) == ["home", "visit", "news"]


ADDRESSES = st.sampled_from([None, None, None, "/a/b", "c", "/d.html", "e/f"])


@st.composite
def pages(draw: st.DrawFn, depth: int, kinds: str) -> tuple[Item, ...]:
    items = []
    for _ in range(draw(st.integers(1, 3))):
        label = " ".join(draw(TITLES).split())
        kind = draw(st.sampled_from(kinds))
        below = draw(pages(depth - 1, kinds)) if depth and draw(st.booleans()) else ()
        if kind == "g" and below:
            items.append(Item(ItemKind.GROUP, label, items=below))
        elif kind == "l":
            items.append(Item(ItemKind.LINK, label, draw(st.sampled_from(["https://x.example/", "tel:+441632960000"]))))
        else:
            items.append(Item(ItemKind.PAGE, label, draw(ADDRESSES), below))
    return tuple(items)


@st.composite
def lists(draw: st.DrawFn) -> tuple[Item, ...]:
    """Any list, home first."""
    items = (Item(ItemKind.PAGE, "Home"), *draw(pages(2, draw(st.sampled_from(["p", "ppgl"])))))
    if draw(st.booleans()):
        items = (*items, Item(ItemKind.MENU, "side-bar", items=draw(pages(1, "pgl"))))
    if draw(st.booleans()):
        items = (*items, Item(ItemKind.APART, "in no menu", items=draw(pages(1, "p"))))
    return items


@pytest.mark.long
@settings(max_examples=200)
@given(lists())
def test_list_to_map_to_list_is_exact(items: tuple[Item, ...]) -> None:
    text, _ = map_of(items, SITE)
    compiled = compile_map(text)
    assert compiled.plan is not None
    errors = {finding.code for finding in compiled.findings if finding.stops}
    if errors:
        assert errors <= {
            "address-clash",
            "file-clash",
            "duplicate-entry",
        }  # one address, or one label in a menu, twice
        return
    listed = items_from(compiled.plan)
    again = write_list(listed)
    assert read_list(again) == (listed, ())
    assert read_table(write_table(listed)) == (listed, ())
    assert map_of(read_list(again)[0], SITE)[0] == text
    if again == write_list(items):
        return

    # What differs is only whether an address that follows from the label, or has to be told, is written.
    def bare(some: tuple[Item, ...]) -> list[object]:
        return [(i.kind, i.label, bare(i.items)) for i in some]

    assert bare(listed) == bare(items)


def test_the_demo_as_a_list_and_as_a_table_is_the_demo_again(demo: Source) -> None:
    plan = planned(demo.map.decode(), demo.files)
    for read, write in ((read_list, write_list), (read_table, write_table)):
        again = planned(map_of(read(write(items_from(plan)))[0], SITE)[0], demo.files)
        assert {k: r.path for k, r in again.routes.items()} == {k: r.path for k, r in plan.routes.items()}
        shown = [[(e.label, e.page, e.url, e.file) for e in p.menus["footer"].entries] for p in (plan, again)]
        # A list has the pages under one in its tree; that the footer shows them too is not in it.
        assert [entry for entry in shown[0] if entry[0] != "Volunteering"] == shown[1]


def test_a_part_of_the_tree_is_a_list_of_its_own(demo: Source) -> None:
    plan = planned(demo.map.decode(), demo.files)
    stones = "/how-it-works/stones"
    listed = write_list(items_from(plan, stones[1:]))
    assert listed == f"The stones | {stones}\n  Dressing a stone | {stones}/dressing\n"


def test_columns_in_any_order_and_parents_by_name() -> None:
    table = "Parent;URL;Title\n;/;Home\n;;Visit\n;;News\nVisit;;Hours\nnews;https://x.example;Press\n"
    items, findings = read_table("\ufeff" + table.replace("\n", "\r\n"))
    assert findings == ()
    assert write_list(items) == "Home | /\nVisit\n  Hours\nNews\n  Press | https://x.example/\n"
    assert next(csv.reader(io.StringIO(write_table(items)))) == ["level", "label", "kind", "address"]
    assert [f.message for f in read_table("a,b\n1,2\n")[1]] == ["No column is called `label`."]


Tree = list[tuple[str, "Tree"]]


def lines_of(tree: Tree, depth: int = 0) -> str:
    return "".join(f"{'  ' * depth}{label}\n{lines_of(below, depth + 1)}" for label, below in tree)


def tree_of(text: str) -> Tree:
    top: Tree = []
    open_now: list[tuple[int, Tree]] = [(-1, top)]
    for line in text.splitlines():
        depth, below = (len(line) - len(line.lstrip())) // 2, Tree()
        while open_now[-1][0] >= depth:
            open_now.pop()
        open_now[-1][1].append((line.split(" |")[0].strip(), below))
        open_now.append((depth, below))
    return top


def places(tree: Tree) -> list[tuple[Tree, int]]:
    own = [(at, below) for at, (label, below) in enumerate(tree) if label != "Home"]
    return [place for at, below in own for place in ((tree, at), *places(below))]


@settings(max_examples=60)
@given(st.data(), st.lists(st.integers(1, 3), min_size=2, max_size=14), st.booleans())
def test_a_changed_list_is_the_list_of_the_changed_map(data: st.DataObject, depths: list[int], follows: bool) -> None:
    labels = [f"{word} {number}" for number in range(9) for word in ("Alder", "Birch", "Cedar", "Damson", "Elm")]
    text = "Home\n" + "".join(f"{'  ' * (depth - 1)}{labels.pop()}\n" for depth in [1, *depths])
    source, _ = map_of(read_list(text)[0], SITE)
    if follows:
        source = source.partition("menus:")[0] + "menus: {main: auto}\n"
    before = compile_map(source)
    assert before.plan is not None and not before.stops
    tree = tree_of(write_list(items_from(before.plan)))
    for act in data.draw(st.lists(st.sampled_from(["add", "delete", "rename", "move"]), min_size=1, max_size=4)):
        if not (there := places(tree)):
            break
        among, at = data.draw(st.sampled_from(there))
        if act == "add":
            among.insert(at + 1, (labels.pop(), [(labels.pop(), [])] if data.draw(st.booleans()) else []))
        elif act == "rename":
            among[at] = (f"{among[at][0]}x", among[at][1])
        else:
            taken = among.pop(at)
            if act == "move" and (there := places(tree)):
                to, place = data.draw(st.sampled_from(there))
                (to[place][1] if data.draw(st.booleans()) else to).insert(place + 1, taken)
    merged = merge_list(before, source, read_list(lines_of(tree))[0])
    assert not [change for change in merged.changes if change.refused] and merged.compiled.plan is not None
    assert tree_of(write_list(items_from(merged.compiled.plan))) == tree
    declined = [change.name for change in merged.changes]
    assert merge_list(before, source, read_list(lines_of(tree))[0], declined).text == source


def test_a_page_is_not_deleted_with_one_whose_move_was_declined() -> None:
    text = "pages:\n  home: {path: /}\n  visit: {title: Visit, pages: {hours: Hours}}\nmenus: {main: auto}\n"
    items = read_list("Home\nHours\n")[0]
    whole = merge_list(compile_map(text), text, items)
    assert "visit" not in whole.text and "  hours: Hours\n" in whole.text
    (move,) = [change.name for change in whole.changes if change.words.startswith("Move Hours")]
    kept = merge_list(compile_map(text), text, items, [move])
    assert kept.text == text and "Hours is still under it." in [change.refused for change in kept.changes]


def test_a_list_of_another_site_is_refused_for_a_large_one() -> None:
    before = compile_map("pages:\n  home: {path: /}\n" + "".join(f"  p{n}: P {n}\n" for n in range(700)))
    with pytest.raises(EditRejected, match="leaves 700 lines out"):
        merge_list(before, "", read_list("Home\nAlder\n")[0])
