"""Every address that was ever handed out leads on, whatever is done to the pages."""

from __future__ import annotations

import difflib

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.edits import Command, Edited, EditRejected, edit
from basilica.core.edits.commands.add_page import AddPage
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.move_page import MovePage
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_settings import SetSettings, address_style
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.edits.commands.translate_page import TranslatePage
from basilica.core.edits.kept_addresses import Keeping
from basilica.core.map.map_files import Files
from basilica.core.plan.ended_addresses import answered
from tests.hardening import TIMES

MAP = """site: {name: Mill}
pages:
  home: {path: /}
  visit:   # first
    title: Visit
    pages:
      hours: Opening hours   # as painted
      access: {title: Access, was: [/lift/]}
  learn: {pages: {milling: , bread: {was: /loaves.htm}}}
  shop: {path: /shop, kind: backend}
  privacy:
redirects:
  /tour.htm: access#lift   # an old leaflet
  /times: visit/hours
"""
ALL = Keeping(None)
SHOP = "https://shop.example/p"


def do(text: str, command: Command, keeping: Keeping = ALL) -> Edited:
    return edit(compile_map(text), text, command, keeping=keeping)


@pytest.mark.parametrize(
    ("command", "keeping", "changed"),
    [
        (
            RenameId("visit", "come"),
            ALL,
            [
                "-  visit:   # first",
                "-      hours: Opening hours   # as painted",
                "-      access: {title: Access, was: [/lift/]}",
                "+  come:   # first",
                "+    was: /visit/",
                "+      hours:   # as painted",
                "+        title: Opening hours",
                "+        was: /visit/hours/",
                "+      access: {title: Access, was: [/lift/, /visit/access/]}",
                "-  /times: visit/hours",
                "+  /times: come/hours",
            ],
        ),
        (
            DeletePage("visit"),
            Keeping(None, "learn"),
            [
                "-  visit:   # first",
                "-    title: Visit",
                "-    pages:",
                "-      hours: Opening hours   # as painted",
                "-      access: {title: Access, was: [/lift/]}",
                "-  /tour.htm: access#lift   # an old leaflet",
                "-  /times: visit/hours",
                "+  /lift/: learn",
                "+  /tour.htm: learn",
                "+  /times: learn",
                "+  /visit/: learn",
                "+  /visit/hours/: learn",
                "+  /visit/access/: learn",
            ],
        ),
        (DeletePage("privacy"), Keeping(None, "gone"), ["-  privacy:", "+  /privacy/: gone"]),
        (DeletePage("privacy"), Keeping(None, SHOP), ["-  privacy:", f'+  /privacy/: "{SHOP}"']),
        (DeletePage("privacy"), ALL, ["-  privacy:"]),
        (SetWord("privacy", "path", "/data.htm"), ALL, ["+    path: /data.htm", "+    was: /privacy/"]),
        (RenameId("privacy", "data"), Keeping(frozenset({"/visit/"})), ["-  privacy:", "+  data:"]),
    ],
)
def test_addresses_that_would_end_are_written_down(command: Command, keeping: Keeping, changed: list[str]) -> None:
    lines = difflib.unified_diff(MAP.splitlines(), do(MAP, command, keeping).text.splitlines(), lineterm="", n=0)
    found = [line for line in lines if not line.startswith(("---", "+++", "@@"))]
    assert sorted(found) == sorted(changed)


def test_it_says_how_many_and_a_page_that_is_back_needs_none() -> None:
    there = do(MAP, RenameId("visit", "come"))
    assert (
        {each.address for each in there.ended}
        == {"/visit/", "/visit/hours/", "/visit/access/"}
        == {each.address for each in there.redirected}
    )
    assert there.words.endswith("; 3 old addresses kept")
    back = do(there.text, RenameId("come", "visit"))
    assert "/visit/" not in back.text and "/come/" in back.text


def test_further_addresses_follow_their_page_and_are_kept_when_it_goes() -> None:
    text = (
        "site: {name: X, languages: [en, cy]}\npages:\n  home: {path: /, cy: X}\n"
        "  visit:\n    title: Visit\n    also: [/v/, /come/]\n    cy: {title: Dod, path: dod, also: /cy/tyrd/}\n"
    )
    moved = do(text, RenameId("visit", "come"))
    assert "  come:\n    title: Visit\n    also: [/v/]\n" in moved.text and "was: /visit/" in moved.text
    there = do(text, TranslatePage("visit", "cy", {"path": "tyrd"}))
    assert "also: [/v/, /come/]" in there.text and "cy: {title: Dod, path: tyrd, was: /cy/dod/}" in there.text
    gone = do(text, DeletePage("visit"), Keeping(None, "home"))
    assert {each.address for each in gone.redirected} == {"/visit/", "/v/", "/come/", "/cy/dod/", "/cy/tyrd/"}
    assert "  /v/: home\n" in gone.text and "was: [/cy/tyrd/, /cy/dod/]" in gone.text


def test_addresses_of_pages_of_tables_are_kept_below_redirects_and_of_included_ones_in_their_file() -> None:
    files = Files({"tables/t.csv": b"name\nBean\n", "maps/more.yaml": b"title: More\npages: {deep: Deep}\n"})
    text = "site: {name: X}\npages:\n  home: {path: /}\n  seeds: {table: t.csv}\n  more: {include: more.yaml}\n"
    before = compile_map(text, files)
    after = edit(before, text, address_style("files"), keeping=ALL)
    assert "  /seeds/bean/: bean\n" in after.text and "deep" not in after.text
    assert after.files["maps/more.yaml"] == b"title: More\npages: {deep: {title: Deep, was: /more/deep/}}\n"
    assert {each.address for each in after.redirected} == {"/seeds/", "/seeds/bean/", "/more/", "/more/deep/"}


@pytest.mark.long
def test_a_large_site_changes_its_style_in_one_edit() -> None:
    pages = "".join(f"  s{n}:\n    pages:\n" + "".join(f"      p{n}-{m}: P\n" for m in range(30)) for n in range(8))
    text = f"site: {{name: X}}\npages:\n  home: {{path: /}}\n{pages}"
    after = do(text, address_style("bare"))
    assert len(after.redirected) == 248 == after.text.count("was: /")
    assert do(after.text, address_style("folders")).text.count("was: /") == 248  # now the others


@st.composite
def a_command(draw: st.DrawFn, text: str) -> tuple[Command, str]:
    plan = compile_map(text).plan
    assert plan is not None
    keys = st.sampled_from(sorted(plan.site.pages))
    kind = draw(st.sampled_from([RenameId, RenameId, MovePage, MovePage, SetWord, SetSettings, DeletePage, AddPage]))
    key, lead = draw(keys), draw(st.one_of(st.sampled_from(["gone", "https://x.example/", ""]), keys))
    if kind is RenameId:
        return RenameId(key, draw(st.sampled_from(["a", "b", "c", "visit", "hours"]))), lead
    if kind is MovePage:
        return MovePage(key, draw(st.one_of(st.none(), keys)), draw(st.integers(0, 2))), lead
    if kind is SetWord:
        return SetWord(key, "path", draw(st.sampled_from(["", "p", "/q/r", "/old.htm", "visit"]))), lead
    if kind is SetSettings:
        return address_style(draw(st.sampled_from(["folders", "files", "bare"]))), lead
    if kind is DeletePage:
        return DeletePage(key), lead
    return AddPage(draw(st.sampled_from(["A", "Hours", "Visit"])), draw(st.one_of(st.none(), keys)), 0), lead


@pytest.mark.long
@settings(max_examples=30 * TIMES)
@given(data=st.data())
def test_every_address_ever_handed_out_leads_on(data: st.DataObject) -> None:
    text = MAP
    plan = compile_map(text).plan
    assert plan is not None
    owed: dict[str, str] = dict(answered(plan))
    for _ in range(12 if TIMES == 1 else 50):
        command, lead = data.draw(a_command(text))
        try:
            edited = do(text, command, Keeping(None, lead))
        except EditRejected:
            continue
        text, plan = edited.text, edited.compiled.plan
        assert plan is not None
        found = answered(plan) | {old.address: old.url or "gone" for old in plan.redirects if old.key is None}
        owed = {
            address: edited.keys.get(to, to if to == "gone" or "://" in to else lead) for address, to in owed.items()
        }
        owed = {address: to for address, to in owed.items() if to}
        assert {address: found.get(address) for address in owed} == owed
        owed |= answered(plan)
