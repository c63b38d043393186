"""Plan → drawing: every page once, nothing on top of anything else, and ties where a menu departs from the tree."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.diff.deletion_impact import deletion_impact, page_positions
from basilica.core.drawing import draw, folds, text_width, wrap
from basilica.core.drawing.plan_drawing import Box
from basilica.store.folders import Source
from tests.core.help import HOME, compiled, planned
from tests.core.maps import RandomMap, maps


def apart(one: Box, other: Box) -> bool:
    return (
        one.x + one.width <= other.x
        or other.x + other.width <= one.x
        or one.y + one.height <= other.y
        or other.y + other.height <= one.y
    )


@pytest.mark.long
@given(maps(), st.integers(200, 2000))
def test_every_page_stands_in_the_drawing_once_and_apart(random: RandomMap, width: int) -> None:
    plan = compile_map(random.text).plan
    assert plan is not None
    drawing = draw(plan, width)
    assert sorted(node.key for node in drawing.nodes) == sorted(random.keys)
    boxes: list[Box] = [*drawing.cells, *drawing.nodes]
    for index, box in enumerate(boxes):
        assert all(apart(box, other) for other in boxes[index + 1 :])
        assert box.x >= 0
        assert box.x + box.width <= drawing.width
        assert box.y + box.height <= drawing.height


@pytest.mark.long
@given(maps(), st.data())
def test_folded_pages_are_counted_and_what_is_chosen_is_in_view(random: RandomMap, data: st.DataObject) -> None:
    plan = compile_map(random.text).plan
    assert plan is not None
    turned = data.draw(st.sets(st.sampled_from(sorted(plan.site.pages))))
    chosen = data.draw(st.sampled_from(sorted(plan.site.pages)))
    drawing = draw(plan, 640, folds(plan, turned, chosen))
    shown = {node.key: node for node in drawing.nodes}
    assert chosen in shown
    assert len(shown) == len(drawing.nodes)
    hidden = sum(node.below for node in drawing.nodes if node.folded)
    assert len(shown) + hidden == len(plan.site.pages)
    assert not any(key.startswith(f"{node.key}/") for node in drawing.nodes if node.folded for key in shown)


def test_beam_bays_and_ties() -> None:
    plan = planned(
        HOME
        + """\
pages:
  home: {path: /}
  visit: {pages: {hours: {pages: {winter: }}}}
  history:
  privacy:
  press:
menus:
  main: [home, visit, {group: Learn, items: [history, winter]}]
  footer: [privacy, home]
"""
    )
    drawing = draw(plan, 640)
    column = {cell.label: cell.x for cell in drawing.cells}
    place = {node.key: node for node in drawing.nodes}
    assert list(column) == ["Home", "Visit", "Learn"]
    assert place["history"].x == column["Learn"]
    assert column["Visit"] == place["visit"].x < place["visit/hours"].x < place["visit/hours/winter"].x
    assert [tie.key for tie in drawing.connectors] == ["visit/hours/winter"]
    assert [(bay.label, bay.apart) for bay in drawing.menu_columns] == [("Footer menu", False), ("In no menu", True)]
    lights = {key: node.cell for key, node in place.items()}
    learn = next(cell.number for cell in drawing.cells if cell.label == "Learn")
    assert lights["visit/hours/winter"] == lights["history"] == learn
    assert lights["press"] is None


@given(st.text(max_size=60), st.integers(20, 200), st.integers(1, 3))
def test_text_is_broken_into_lines_that_fit(text: str, width: int, lines: int) -> None:
    found = wrap(text, width, 12.5, lines)
    assert len(found) <= lines
    assert all(text_width(line, 12.5) <= width for line in found)
    if len(found) == 1 and "…" not in found[0]:
        assert found[0] == " ".join(text.split())


def test_what_goes_with_a_page_is_told(demo: Source) -> None:
    plan = planned(demo.map.decode(), demo.files)
    going = deletion_impact(plan, demo.contents, "visit")
    assert going.pages == ("visit", *(f"visit/{page}" for page in ("hours", "getting-here", "access", "groups")))
    assert ("Footer", "Prices") in going.entries
    assert not {owner for owner, _ in going.links} & set(going.pages)
    stay = (content for key, content in demo.contents.items() if key.partition(".")[0] not in going.pages)
    dead = sum(content.text.count("page:visit") for content in stay)
    assert sum(count for _, count in going.links) >= dead > 0


def test_places_of_a_text_lead_to_pages() -> None:
    result = compiled("pages:\n  home: {path: /}\n  a: {pages: {b: }}\nmenus:\n  main: [home, a, b]\n")
    assert result.plan is not None
    assert [tuple(place) for place in page_positions(result.document, result.plan)] == [
        (1, 1, None),
        (2, 3, "home"),
        (3, 3, "a"),
        (3, 15, "a/b"),
        (4, 1, None),
        (5, 10, "home"),
        (5, 16, "a"),
        (5, 19, "a/b"),
    ]


def test_labels_have_one_line_where_one_must_scroll_anyway() -> None:
    pages = "".join(f"  s{n}: {{title: Section {n}, pages: {{p{n}: Page 1 of {n}}}}}\n" for n in range(40))
    plan = planned(HOME + "pages:\n  home: {path: /}\n" + pages)
    drawing = draw(plan, 640)
    assert {len(box.lines) for box in (*drawing.cells, *drawing.nodes)} == {1}
    assert drawing.width < 40 * 110  # as wide as its words, and no wider
    assert draw(plan, 3000).width == 3000
