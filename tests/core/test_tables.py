"""Tables that make pages, and pieces of the map in files of their own."""

from __future__ import annotations

import csv
import io
import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.edits import EditRejected, edit
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.map.map_files import Files
from basilica.store.folders import Source
from tests.core.help import HOME, built, planned, texts

CELLS = st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc", "Cn", "Co", "Zl", "Zp")), max_size=12)
MAP = HOME + "pages:\n  home: {path: /}\n  seeds: {table: {file: t.csv, title: '{name}', text: t.md}}\n  after: After\n"


def rows(*named: str, text: str = "Say {name}: {note}.") -> Files:
    """A table with these names, and the text of its pages."""
    target = io.StringIO()
    csv.writer(target).writerows([("name", "note"), *((name, f"<i>{name}</i>") for name in named)])
    return Files({"tables/t.csv": target.getvalue().encode(), "tables/t.md": text.encode()})


@pytest.mark.long
@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(CELLS, CELLS, st.sampled_from(["a", "b", ""])), max_size=8), st.booleans())
def test_each_row_becomes_a_page_however_it_is_written(cells: list[tuple[str, str, str]], as_json: bool) -> None:
    """The rows of the standard library's own readers, and the pages of the map, are the same."""
    if as_json:
        data = json.dumps([{"name": one, "note": two, "kind": kind} for one, two, kind in cells]).encode()
    else:
        target = io.StringIO()
        csv.writer(target).writerows([("name", "note", "kind"), *cells])
        data = target.getvalue().encode()
    name = "t.json" if as_json else "t.csv"
    text = MAP.replace("t.csv", name).replace(", text: t.md", ", section: '{kind}'")
    compiled = compile_map(text, Files({f"tables/{name}": data}))
    assert compiled.plan is not None
    if compiled.stops:
        assert not cells and {f.code for f in compiled.findings if f.stops} <= {"table-unread", "unknown-column"}
        return
    made = [page for page in compiled.plan.site.pages.values() if page.options.from_table]
    leaves = [page.title for page in made if not page.children]
    titles = [" ".join(row[0].split()) or " ".join(next((c for c in row if c.strip()), "").split()) for row in cells]
    assert sorted(leaves) == sorted(title for title in titles if title)
    assert len({page.key for page in made}) == len(made)
    assert [*compiled.plan.site.pages][-1] == "after"  # rows stand where their page does


def test_a_row_is_a_page_like_any_other() -> None:
    plan = planned(MAP.replace("after:", "after: {list: none, title: After}\n  x:"), rows("Runner Bean", "Åkerärt"))
    files = texts(built(plan))
    page = files["seeds/runner-bean/index.html"]
    assert "<p>Say Runner Bean: &lt;i&gt;Runner Bean&lt;/i&gt;.</p>" in page  # a cell is text, never markup
    assert '<a href="/seeds/">Seeds</a></li>\n      <li><span aria-current="page">Runner Bean' in page
    assert "/seeds/akerart/" in files["seeds/index.html"] and "/seeds/akerart/" in files["sitemap.xml"]
    main = [entry.page for entry in plan.menus["main"].entries]
    assert main == ["home", "seeds", "after", "x"]  # a menu that takes the tree by itself does not take a thousand rows


def test_sections_and_menus_take_rows_by_letter_and_by_number() -> None:
    text = MAP.replace("title: '{name}'", "title: '{name}', section: letter")
    keys = [*planned(text, rows("beta", "Alpha", "9 Star", "aster")).site.pages]
    assert keys[2:9] == [
        "seeds/0-9",
        "seeds/0-9/9-star",
        "seeds/a",
        "seeds/a/alpha",
        "seeds/a/aster",
        "seeds/b",
        "seeds/b/beta",
    ]
    menus = "menus: {main: [{seeds: {auto: {by: letter}}}, after], footer: [{seeds: {auto: {first: 2}}}]}\n"
    plan = planned(MAP + menus, rows("beta", "Alpha", "aster"))
    shown = [(e.label, len(plan.menus["main"].above(e.number))) for e in plan.menus["main"].entries]
    assert shown == [("Seeds", 0), ("A", 1), ("Alpha", 2), ("aster", 2), ("B", 1), ("beta", 2), ("After", 0)]
    assert [e.label for e in plan.menus["footer"].entries] == ["Seeds", "beta", "Alpha"]


@pytest.mark.parametrize(
    ("table", "code"),
    [
        ("{file: none.csv}", "unknown-file"),
        ("{title: '{name}'}", "missing-key"),
        ("{file: t.csv, title: '{nome}'}", "unknown-column"),
        ("{file: bad.json}", "table-unread"),
        ("{file: t.csv, text: gone.md}", "unknown-file"),
        ("{file: t.csv, path: '{name}?x'}", "bad-path"),
        ("{file: half.json, title: '{name}'}", "bad-value"),
        ("{file: bell.csv}", "bad-value"),
    ],
)
def test_what_is_wrong_with_a_table_is_said_at_its_place(table: str, code: str) -> None:
    unseen = {"tables/half.json": b'[{"name": "a\\ud800", "\\udfff": "b"}]', "tables/bell.csv": b"name\na\x07\n"}
    files = Files({**rows("a"), "tables/bad.json": b'{"a": 1}', **unseen})
    text = HOME + f"pages:\n  home: {{path: /}}\n  seeds: {{table: {table}}}\n"
    compiled = compile_map(text, files)
    assert [(f.code, f.line) for f in compiled.findings if f.stops] == [(code, 4)]
    str([*compiled.findings]).encode()


@pytest.mark.long
def test_a_table_cannot_make_without_bound() -> None:
    cells = "\n".join(f"r{n}," + "x" * 5_000 for n in range(2_000))
    files = Files({"tables/t.csv": f"name,note\n{cells}\n".encode(), "tables/t.md": b"{note}" * 5_000})
    assert [f.code for f in compile_map(MAP, files).findings if f.stops] == ["table-too-large"]


MOUNTED = HOME + "pages:\n  home: {path: /}\n  part: {include: part.yaml, label: Own}\n"
PIECE = b"title: Piece\nlabel: Theirs\npages:\n  one: One\n  two: {tilte: x, pages: {three: Three}}\n"


def test_a_piece_of_the_map_stands_where_it_is_mounted_and_findings_name_its_file() -> None:
    compiled = compile_map(MOUNTED, Files({"maps/part.yaml": PIECE}))
    assert compiled.plan is not None
    assert [*compiled.plan.site.pages] == ["home", "part", "part/one", "part/two", "part/two/three"]
    page = compiled.plan.site.pages["part"]
    assert (page.title, page.label) == ("Piece", "Own")  # what stands in the map comes first
    assert [(f.code, f.line, f.column, f.file) for f in compiled.findings if f.stops] == [
        ("unknown-key", 5, 9, "maps/part.yaml")
    ]
    broken = compile_map(MOUNTED, Files({"maps/part.yaml": b"pages:\n  a: [\n"}))
    assert ("map-syntax", "maps/part.yaml") in [(f.code, f.file) for f in broken.findings]
    ring = Files({"maps/part.yaml": b"pages:\n  deep: {include: part.yaml}\n"})
    assert [(f.code, f.line, f.file) for f in compile_map(MOUNTED, ring).findings if f.stops] == [
        ("include-ring", 2, "maps/part.yaml")
    ]


def test_rows_are_not_edited_here() -> None:
    files = Files(rows("a"))
    text = HOME + "pages:\n  home: {path: /}\n  seeds: {table: {file: t.csv, title: '{name}'}}\n"
    compiled = compile_map(text, files)
    with pytest.raises(EditRejected, match="nothing was changed"):
        edit(compiled, text, DeletePage("seeds/a"))
    renamed = edit(compiled, text, RenameId("seeds", "jars"))
    assert renamed.keys["seeds/a"] == "jars/a" and "  jars: {table:" in renamed.text


def test_the_demo_has_twelve_hundred_varieties(seeds: Source) -> None:
    plan = planned(seeds.map.decode(), seeds.files)
    made = [page for page in plan.site.pages.values() if page.options.from_table and not page.children]
    with io.StringIO(seeds.files.text("tables/varieties.csv")) as table:
        names = [row["name"] for row in csv.DictReader(table)]
    assert len(names) == 1200 and sorted(page.title for page in made) == sorted(names)
