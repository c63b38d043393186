"""The mosaic: what each tile says, and what is behind it."""

from __future__ import annotations

import pytest

from basilica.core.build import Build, build
from basilica.core.findings import audit, run_checks
from basilica.core.findings.mosaic import Mosaic, State, mosaic_of, worst
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan
from basilica.core.shared.output_file import File
from basilica.core.site_reader import read_site
from basilica.web.checks.view_model import of_site, piece_at, silencing, source_line, tile, ways
from tests.core.help import compiled, markdown

MAP = """\
site: {name: Mill, base: 'https://mill.example'}
pages:
  home: {path: /, title: Mill, description: All of it.}
  learn:
    title: Learn
    kind: section
    pages:
      wheel: {title: The wheel, description: Oak., was: /wheel/}
      stones: {title: The stones, description: Two pairs.}
  booking: {title: Book, kind: backend, path: /booking/}
  later: {title: Later, draft: yes}
menus:
  main: [home, {group: About, items: [learn/wheel, learn/stones]}, booking]
  side: {section: learn, entries: [learn/wheel]}
parts: {note: {text: "Closed on Mondays"}}
slots: {footer: note}
checks: {levels: {one-way-only: {reason: It is small.}, unreachable: error}}
"""


def plan_and_build() -> tuple[Plan, Build]:
    made = compiled(MAP)
    assert made.plan is not None
    return made.plan, build(made, markdown(home="# Mill", learn__wheel="[Gone](/gone/)", learn__stones="Stones."))


def changed(old: str, new: str, file: str = "learn/stones/index.html") -> tuple[Mosaic, dict[str, bytes], Renderer]:
    """The mosaic of the built site with one page changed afterwards."""
    plan, built = plan_and_build()
    texts = markdown(home="# Mill", learn__wheel="[Gone](/gone/)", learn__stones="Stones.")
    files = {each.path: each.data for each in built.files}
    assert old.encode() in files[file]
    files[file] = files[file].replace(old.encode(), new.encode(), 1)
    results = run_checks(read_site((File(path, data) for path, data in files.items()), plan, texts))
    return mosaic_of(results), files, Renderer(plan, texts)


def test_every_page_has_a_row_and_each_tile_says_what_is_there() -> None:
    _, built = plan_and_build()
    assert built.results is not None
    mosaic = mosaic_of(built.results)
    rows = {row.name: row for row in mosaic.rows}
    assert list(rows) == [
        "home",
        "learn",
        "learn/wheel",
        "learn/stones",
        "booking",
        "later",
        "404.html",
        "wheel/index.html",
    ]
    assert [row.depth for row in mosaic.rows] == [0, 0, 1, 1, 0, 0, 0, 0]
    assert {name for name, row in rows.items() if worst(row.tiles) is State.ABSENT} == {"learn", "booking", "later"}
    wheel = rows["learn/wheel"]
    states = {column.name: mosaic.state(wheel, column.name) for column in mosaic.columns}
    assert states["dead-link"] is State.BROKEN and states["menu-main"] is states["menu-side"] is State.PASSES
    assert mosaic.state(rows["home"], "menu-side") is mosaic.state(rows["home"], "breadcrumbs") is State.ABSENT
    old = rows["wheel/index.html"]
    assert {c.name for c in mosaic.columns if mosaic.state(old, c.name) is not State.ABSENT} == {
        "dead-link", "dead-anchor", "missing-file", "redirect-chain", "language", "nested-too-deep",
    }  # fmt: skip
    assert sum(mosaic.counts.values()) == len(mosaic.rows) * len(mosaic.columns)
    assert mosaic.counted == {"dead-link": 1}


@pytest.mark.parametrize(
    ("old", "new", "column", "here", "wanted"),
    [
        (">The wheel</a>", ">The wheels</a>", "menu-main", "The wheels", "The wheel"),
        ('<li><a href="/">Mill</a></li>', "", "breadcrumbs", "<span>Learn", '<a href="/">Mill'),
        ("Closed on Mondays", "Closed on Sundays", "footer", "", ""),
        ('<header class="b-header">', '<div class="b-header">', "header", "", ""),
    ],
)
def test_a_part_that_differs_is_shown_against_what_was_expected(
    old: str, new: str, column: str, here: str, wanted: str
) -> None:
    mosaic, files, renderer = changed(old, new)
    row, chosen = mosaic.by_name["learn/stones"], mosaic.column(column)
    assert chosen is not None
    found = tile(mosaic, files, row, chosen, renderer)
    assert found.state in (State.BROKEN, State.DIFFERS), found
    assert found.faults[0].file == "" and found.faults[0].line == 9
    if here:
        lines = {(line.kind, line.text) for line in found.faults[0].lines}
        assert any(kind in ("gone", "same") and here in text for kind, text in lines)
        assert any(kind == "come" and wanted in text for kind, text in lines)
    assert source_line(MAP, found.faults[0]).startswith("stones: {title")
    others = [each for each in mosaic.rows if each.name not in ("learn/stones", "learn/wheel")]
    assert not any(each.has_violations for each in others)


def test_ways_are_told_by_rows() -> None:
    mosaic, _, _ = changed("Stones.", "Pebbles.")
    found = ways(mosaic, mosaic.by_name["learn/wheel"])
    assert (found.clicks, [row.name for row in found.way]) == (1, ["home", "learn/wheel"])
    assert [row.name for row in found.linked_from] == ["home", "learn/stones", "404.html"]
    assert {"home", "learn/stones"} <= {row.name for row in found.leads_to}
    assert found.weight > 10_000
    alone = ways(mosaic, mosaic.by_name["404.html"])
    assert (alone.clicks, alone.way) == (None, ())


def test_pieces_and_remedies_are_written_out() -> None:
    plan, built = plan_and_build()
    assert built.results is not None
    mosaic = mosaic_of(built.results)
    check = mosaic.at("learn/wheel", "dead-link")[0][0]
    assert silencing(plan, mosaic.by_name["learn/wheel"], check) == 'wheel:\n  ignore:\n    dead-link: "the reason"\n'
    assert silencing(plan, None, check).startswith("checks:\n  levels:\n    dead-link:")
    assert piece_at(b"<p>a</p><p>b</p>", ("p", 1)) == "<p>b</p>"
    assert piece_at(b"<p>a</p>", ("p", 1)) == piece_at(b"", ("p", 0)) == ""


def test_a_folder_without_a_map_has_its_mosaic_too() -> None:
    page = '<!doctype html><html lang="en"><title>{0}</title><main><h1>{0}</h1><a href="/a/">A</a></main>'
    files = {name: page.format(name).encode() for name in ("index.html", "a/index.html", "a/b.html", "z.html")}
    files["a.css"] = b"@import 'gone.css'; p { background: url(gone.png) }"
    mosaic = mosaic_of(audit(File(name, data) for name, data in files.items()))
    assert [(row.name, row.depth) for row in mosaic.rows] == [
        ("index.html", 0), ("a/index.html", 0), ("a/b.html", 1), ("z.html", 0),
    ]  # fmt: skip
    assert mosaic.state(mosaic.by_name["z.html"], "unreachable") is State.DIFFERS
    assert [fault.message.split("`")[1] for fault in of_site(mosaic)] == ["gone.css", "gone.png"]
    assert mosaic.column("menu-differs") is None and mosaic.column("stale-menu") is not None


def test_a_page_at_a_further_address_is_asked_what_such_pages_are() -> None:
    text = MAP.replace("was: /wheel/}", "also: /wheel/}")
    built = build(compiled(text), markdown(home="# Mill", learn__wheel="Oak.", learn__stones="Stones."))
    assert built.results is not None
    mosaic = mosaic_of(built.results)
    tiles = {
        row.name: dict(zip((column.name for column in mosaic.columns), row.tiles, strict=True)) for row in mosaic.rows
    }
    copy, own = tiles["wheel/index.html"], tiles["learn/wheel"]
    assert copy["repeat-differs"] == State.PASSES == own["no-title"]
    assert copy["dead-link"] == State.PASSES and copy["no-title"] == own["repeat-differs"] == State.ABSENT
