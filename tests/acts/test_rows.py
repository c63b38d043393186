"""Rows of tables are edited in their cells: every other byte of the table stays, and what cannot be is said."""

from __future__ import annotations

import csv
import io
import json

import pytest
from flask.testing import FlaskClient
from hypothesis import assume, given
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.edits import Command, Edited, EditRejected, edit
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.move_page import MovePage
from basilica.core.edits.commands.name_page import NamePage
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.edits.kept_addresses import Keeping
from basilica.core.edits.table_text import TableText
from basilica.core.exchange import items_from, read_list, write_list
from basilica.core.exchange.list_edits import merge_list
from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Content
from basilica.core.plan.site_plan import every_redirect
from basilica.services.all_services import Services
from tests.web.test_web import token

MAP = """site: {name: Mill, base: "https://mill.example", languages: [en, cy]}
pages:
  home: {title: Mill, path: /, cy: Melin}
  visit: {title: Visit, highlight: mills/wind, cy: Ymweld}
  mills:
    title: Mills
    cy: Melinau
    table: {file: mills.csv, title: "{name}", path: "{id}", description: "The {name} of {town}", keywords: "mill {kind}", text: mill.md}
menus:
  main: [visit, {page: mills, items: [mills/wind, {page: mills/tide, label: T}]}]
redirects: {/old: mills/wind}
"""  # noqa: E501
CSV = (
    '\ufeffid,name,town,kind,note\r\n"tide",Tide mill,Saltern,tide,"a, ""b"""\r\n\r\n'
    'wind,"Wind, mill",Reach,wind\r\nsteam,Steam mill,Town,steam,x'
)
FILES = Files({"tables/mills.csv": CSV.encode(), "tables/mill.md": b"# {name}\n{note}\n"})
BY_LETTER = MAP.replace('path: "{id}"', "section: letter").replace("mills/wind", "mills/w/wind-mill")
BY_LETTER = BY_LETTER.replace("mills/tide", "mills/t/tide-mill")


def after(*commands: Command, text: str = MAP, files: Files = FILES) -> Edited:
    return edit(compile_map(text, files), text, *commands, keeping=Keeping(None))


def table(*commands: Command) -> str:
    return after(*commands).files["tables/mills.csv"].decode()


def test_words_of_a_row_are_written_in_its_cells() -> None:
    assert table(NamePage("mills/wind", 'The "W", old')) == CSV.replace('"Wind, mill"', '"The ""W"", old"')
    assert table(NamePage("mills/tide", "Tidal")) == CSV.replace("Tide mill", "Tidal")
    assert table(SetWord("mills/wind", "keywords", "mill post")) == CSV.replace("Reach,wind", "Reach,post")
    assert table(DeletePage("mills/steam")) == CSV.removesuffix("\r\nsteam,Steam mill,Town,steam,x")
    edited = after(SetWord("mills/wind", "title", "Smock"), RenameId("mills/wind", "smock"))
    assert edited.files["tables/mills.csv"].decode() == CSV.replace('wind,"Wind, mill"', 'smock,"Smock"')
    assert edited.keys["mills/wind"] == edited.chosen == "mills/smock" and "highlight: mills/smock" in edited.text
    assert "items: [mills/smock," in edited.text and "/old: mills/smock" in edited.text
    assert edited.compiled.plan is not None
    leads = {old.address: (each.site.language, old.key) for each, old in every_redirect(edited.compiled.plan)}
    assert leads["/mills/wind/"] == ("en", "mills/smock") and leads["/cy/mills/wind/"] == ("cy", "mills/smock")
    assert edited.compiled.plan.site.texts["mills/smock"].text == "# Smock\n{note}"
    gone = after(DeletePage("mills/wind"))
    assert "wind" not in gone.files["tables/mills.csv"].decode() and "mills/wind" not in gone.text
    assert gone.chosen == "mills"


def test_a_row_in_a_section_takes_its_page_to_another() -> None:
    edited = after(SetWord("mills/w/wind-mill", "title", "Gale"), text=BY_LETTER)
    assert edited.keys["mills/w/wind-mill"] == "mills/g/gale" and "highlight: mills/g/gale" in edited.text
    gone = after(DeletePage("mills/w/wind-mill"), text=BY_LETTER.replace("visit, {", "visit, mills/w, {"))
    assert gone.chosen == "mills" and "mills/w" not in gone.text, "the section has no row any more"


def test_the_table_of_an_included_page_is_edited_where_it_is() -> None:
    text = MAP.replace("mills/", "learn/mills/").partition("  mills:\n")
    rest = text[2][text[2].index("menus:") :].replace("page: mills", "page: learn/mills")
    whole = f"{text[0]}  learn: {{title: Learn, cy: Dysgu, include: maps/learn.yaml}}\n{rest}"
    learn = "pages:\n  mills: {title: Mills, cy: Melinau, table: {file: mills.csv, title: '{name}', path: '{id}'}}\n"
    edited = after(
        RenameId("learn/mills/wind", "gale"), text=whole, files=FILES.replaced({"maps/learn.yaml": learn.encode()})
    )
    assert list(edited.files) == ["tables/mills.csv"] and "highlight: learn/mills/gale" in edited.text


def test_json_rows_are_edited_as_they_are_written() -> None:
    rows = (
        '[\n  {"id": "tide", "name": "Tide", "town":"S", "kind": 1, "note": [1]},\n  {"id":"wind","name":"Wind"}\n]\n'
    )
    text, files = MAP.replace("mills.csv", "mills.json"), FILES.replaced({"tables/mills.json": rows.encode()})

    def now(*commands: Command) -> str:
        return after(*commands, text=text, files=files).files["tables/mills.json"].decode()

    assert now(NamePage("mills/wind", "Gŵynt")) == rows.replace('"Wind"', '"Gŵynt"')
    assert now(SetWord("mills/tide", "keywords", "mill 20")) == rows.replace('"kind": 1', '"kind": 20')
    assert now(SetWord("mills/wind", "keywords", "mill x")) == rows.replace('"Wind"', '"Wind", "kind": "x"')
    assert now(DeletePage("mills/wind")) == rows.replace(',\n  {"id":"wind","name":"Wind"}', "")


def test_what_no_cell_says_is_refused_with_its_place() -> None:
    place = "Wind, mill is row 2 of the table tables/mills.csv (line 4)"
    for command, said in (
        (SetWord("mills/wind", "description", "x"), f"{place}; its description is not that of one cell."),
        (SetWord("mills/wind", "draft", "yes"), f"{place}. Edit it there."),
        (MovePage("mills/wind", None, 0), f"{place}. Edit it there"),
        (SetWord("mills/wind", "title", ""), "Row 2 of the table tables/mills.csv needs a title."),
        (
            SetWord("mills/wind", "keywords", "x"),
            "In the table tables/mills.csv the keywords is `mill {kind}`, which `x`",
        ),
    ):
        with pytest.raises(EditRejected) as refused:
            after(command)
        assert str(refused.value).startswith(said)
    twice = MAP.replace("menus:", "  more: {title: More, table: mills.csv}\nmenus:")
    with pytest.raises(EditRejected, match="which several pages have"):
        after(DeletePage("mills/wind"), text=twice)


def test_a_list_names_moves_and_deletes_rows() -> None:
    compiled = compile_map(MAP, FILES)
    assert compiled.plan is not None
    listed = write_list(items_from(compiled.plan))
    changed = "".join(line for line in listed.replace("Tide mill", "Tidal").splitlines(True) if "Steam" not in line)
    merged = merge_list(compiled, MAP, read_list(changed)[0], (), Keeping(None))
    assert [(each.words, each.refused) for each in merged.changes] == [
        ("Rename Tide mill to Tidal", ""),
        ("Delete Steam mill", ""),
    ]
    assert merged.files["tables/mills.csv"].decode() == CSV.replace("Tide mill", "Tidal").rpartition("\r\n")[0]


def test_forms_and_the_plan_edit_rows_and_undo_it(client: FlaskClient, services: Services) -> None:
    contents = {"mills/wind": Content("content/mills/wind.md", "Text")}
    slug = services.store.make("Mill", MAP, contents, "", files=FILES).slug
    shown = client.get(f"/sites/{slug}/pages?page=mills/wind").text
    assert "Its title, path and keywords can be edited here" in shown and "Save to table" in shown
    assert 'name="draft"' not in shown and 'name="description"' not in shown
    assert (
        "Only its title, path and keywords can be edited, in"
        in client.get(f"/sites/{slug}/settings?section=page&page=mills/wind").text
    )
    form = {
        "page": "mills/wind",
        "revision": 1,
        "word": ["title", "path"],
        "title": "Smock",
        "path": "smock",
        "keep": "yes",
    }
    answer = client.post(f"/sites/{slug}/pages", data={**form, "csrf_token": token(client), "seen": "{}"})
    assert answer.status_code == 303
    assert 'smock,"Smock"' in services.store.files(slug)["tables/mills.csv"].decode()
    assert services.store.contents(slug)["mills/smock"].text == "Text", "content follows its page"
    services.sites.undo(slug, services.sites.last_step(services.store.get(slug)).after)  # type: ignore[union-attr]
    assert services.store.files(slug)["tables/mills.csv"] == CSV.encode() and services.store.get(slug).text == MAP
    assert services.store.contents(slug)["mills/wind"].text == "Text"
    headers = {"X-CSRFToken": token(client)}
    sent = {"text": MAP, "edit": {"edit": "delete-page", "key": "mills/steam"}, "keep": True}
    asked = client.post(f"/sites/{slug}/map/going", json={"text": MAP, "key": "mills/steam"}, headers=headers)
    assert "with its row in tables/mills.csv" in asked.get_json()["shown"]
    done = client.post(f"/sites/{slug}/map/edit", json=sent, headers=headers).get_json()
    revision = services.store.get(slug).revision
    save = {"text": done["text"], "revision": revision, "moves": done["moves"], "files": done["files"]}
    services.store.put_files(slug, {"tables/mills.csv": CSV.replace("Saltern", "Creek").encode()})
    refused = client.put(f"/sites/{slug}/map/text", json=save, headers=headers)
    assert refused.status_code == 409 and refused.get_json()["file"] == "tables/mills.csv", "theirs is not written over"
    services.store.put_files(slug, {"tables/mills.csv": CSV.encode()})
    assert client.put(f"/sites/{slug}/map/text", json=save, headers=headers).status_code == 200
    assert services.store.files(slug)["tables/mills.csv"].decode() == CSV.rpartition("\r\n")[0]


CELL = st.text(st.sampled_from("ab \"\n\r,;\t'é"), max_size=6)


@given(
    st.lists(st.lists(CELL, min_size=3, max_size=3), min_size=1, max_size=4),
    st.sampled_from(",;\t"),
    st.sampled_from(["\n", "\r\n"]),
    st.booleans(),
    st.data(),
)
def test_one_cell_is_another_and_no_other_byte(
    rows: list[list[str]], delimiter: str, end: str, quote_all: bool, data: st.DataObject
) -> None:
    """Held against Python's own reader of RFC 4180."""
    rows = [row for row in rows if any(cell.strip() for cell in row)]
    assume(rows)
    written = io.StringIO()
    quoting = csv.QUOTE_ALL if quote_all else csv.QUOTE_MINIMAL
    csv.writer(written, delimiter=delimiter, lineterminator=end, quoting=quoting).writerows([["x", "y", "z"], *rows])
    whole = written.getvalue().encode()

    def read(text: bytes) -> list[list[str]]:
        return [*csv.reader(io.StringIO(text.decode(), newline=""), delimiter=delimiter, strict=True)][1:]

    at, column, value = data.draw(st.integers(0, len(rows) - 1)), data.draw(st.integers(0, 2)), data.draw(CELL)
    one = TableText("tables/t.csv", whole)
    one.set_cell(at + 1, "xyz"[column], value)
    expected = [[*row] for row in read(whole)]
    expected[at][column] = value
    assert read(one.data) == expected
    before, rest = 0, min(len(one.data), len(whole))
    while before < rest and one.data[before] == whole[before]:
        before += 1
    changed = len(one.data) - len(whole)
    same_end = whole[max(before, before - changed) + len(json.dumps(rows[at][column])) + 2 :]
    assert one.data.endswith(same_end)
    cut = TableText("tables/t.csv", whole)
    cut.cut_row(at + 1)
    assert read(cut.data) == read(whole)[:at] + read(whole)[at + 1 :]
