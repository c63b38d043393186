"""Settings, entries and menus set by hand: what is written, read by another reader of YAML, is what was there with just
that changed."""

from __future__ import annotations

import copy
from typing import Any

import pytest
import yaml
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.edits import EditRejected, edit
from basilica.core.edits.commands.add_entry import AddEntry
from basilica.core.edits.commands.change_menus import DeleteMenu, NewMenu, RenameMenu
from basilica.core.edits.commands.set_entry import SetEntry
from basilica.core.edits.commands.set_settings import SetSettings, Setting
from basilica.core.map.map_files import Files
from basilica.store.folders import Source

MAPS = (
    """\
site: {name: A}
pages:
  home: {path: /}
  visit: {title: Visit, pages: {hours: Hours}}
  news:
menus:
  main:
    - home
    - visit: [hours]
""",
    """\
site:
  name: A   # ours
pages:
  home:
    path: /
  visit:
    pages:
      hours:
  news: News
menus:
  # the first
  main: [home, {page: visit, icon: clock, items: [hours]}]
  footer: auto
""",
    """\
pages:
  home: {path: /}
  visit: Visit
  news: News
menus:
  main:
    label: Main
    entries:
    - group: All
      items:
      # both
      - visit
      - page: news
        note: Daily
    - label: Shop
      url: https://shop.example/
""",
    "pages: {home: {path: /}, visit: , news: News}\n",
)
VALUES: dict[tuple[str, ...], list[str]] = {
    ("site", "name"): ["Mill: a name", "404", "no"],
    ("site", "language"): ["de", "fr-CH"],
    ("site", "urls"): ["files", "bare"],
    ("site", "title"): ["{title} · {site}"],
    ("theme", "preset"): ["meadow", "harbour"],
    ("theme", "ink"): ["#102030"],
    ("theme", "weight"): ["bold"],
    ("theme", "css"): ["a { color: red }\n\nb::before {\n  content: ':' }", "a {}", " a\n b"],
    ("breadcrumbs", "separator"): ["›", "slash", "#"],
    ("breadcrumbs", "shorten"): ["4"],
    ("page-end", "list"): ["site", "none"],
    ("phrases", "menu"): ["Karte"],
    ("facts", "phone"): ["01632 960142", "yes"],
    ("header", "behaviour"): ["sticky", "hide"],
    ("header", "mobile", "height"): ["60"],
    ("head", "meta", "theme-color"): ["#14204a"],
    ("checks", "clicks"): ["4"],
    ("menus", "main", "label"): ["Everything"],
    ("menus", "main", "hover"): ["yes"],
    ("menus", "footer", "class"): ["quiet small"],
}


def read(text: str) -> Any:
    """A map by another reader, which takes every text for a text."""
    return yaml.load(text, yaml.BaseLoader)


def put(data: Any, path: tuple[str, ...], value: str) -> None:
    """Set a value in nested keys, written apart from the code that is tested."""
    for name in path[:-1]:
        if not isinstance(data.get(name), dict):
            known = data.get(name)
            data[name] = {} if known in (None, "") else {"entries": known}
        data = data[name]
    data[path[-1]] = value


@pytest.mark.long
@given(st.sampled_from(MAPS), st.sampled_from(sorted(VALUES)), st.data())
def test_a_setting_is_set_and_nothing_else(text: str, path: tuple[str, ...], data: st.DataObject) -> None:
    value = data.draw(st.sampled_from(VALUES[path]))
    done = edit(compile_map(text), text, SetSettings((Setting(path, value),)))
    expected = copy.deepcopy(read(text))
    put(expected, path, value)
    assert read(done.text) == expected
    assert not [line for line in text.splitlines() if "#" in line and line.split("#")[1] not in done.text]
    again = edit(done.compiled, done.text, SetSettings((Setting(path, value),)))
    assert again.text == done.text
    back = edit(done.compiled, done.text, SetSettings((Setting(path, ""),)))
    if path[0] != "menus" and (path[0] not in read(text) or path[-1] not in read(text)[path[0]]):
        assert read(back.text) == read(text)


ENTRIES = st.fixed_dictionaries(
    {},
    optional={
        "label": st.sampled_from(["Here", "Zeit: jetzt", "no"]),
        "icon": st.sampled_from(["clock", "ticket", ""]),
        "note": st.sampled_from(["Daily, but Monday", ""]),
        "show": st.sampled_from(["button", ""]),
        "above": st.sampled_from(["700", ""]),
        "class": st.sampled_from(["big red"]),
    },
)


@given(st.sampled_from(MAPS), st.integers(0, 5), ENTRIES)
def test_an_entry_has_other_words_and_the_rest_stays(text: str, number: int, words: dict[str, str]) -> None:
    before = compile_map(text)
    assert before.plan is not None
    shown = before.plan.menus["main"].entries
    command = SetEntry("main", number, words, write_out=True)
    if number >= len(shown) or (shown[number].kind == "group" and "label" in words):
        with pytest.raises(EditRejected):
            edit(before, text, command)
        return
    done = edit(before, text, command)
    assert done.compiled.plan is not None
    after = done.compiled.plan.menus["main"].entries
    assert [one.page for one in after] == [one.page for one in shown]
    entry = after[number]
    for word, value in words.items():
        if word == "label" and value:
            assert entry.label == value
        elif word in ("icon", "note"):
            assert (getattr(entry.display, word) or "") == value
    others = [(one.label, one.display) for at, one in enumerate(after) if at != number]
    assert others == [(one.label, one.display) for at, one in enumerate(shown) if at != number]


@pytest.mark.long
@given(
    st.sampled_from(MAPS),
    st.sampled_from(["page", "url", "group", "follows", "separator", "anchor"]),
    st.integers(0, 9),
)
def test_an_entry_of_any_kind_is_added_in_its_place(text: str, kind: str, index: int) -> None:
    words, more = {
        "page": ({"page": "news", "icon": "newspaper", "url": "https://of-another-kind.example"}, {}),
        "anchor": ({"page": "news#top", "label": "Top"}, {}),
        "url": ({"url": "https://shop.example/a?b=1", "label": "Shop"}, {}),
        "group": ({"group": "More"}, {"first": "news"}),
        "follows": ({"group": "More"}, {"under": "visit"}),
        "separator": ({}, {}),
    }[kind]
    word: Any = {"anchor": "page", "follows": "group"}.get(kind, kind)
    before = compile_map(text)
    assert before.plan is not None
    top = before.plan.menus["main"].top
    done = edit(before, text, AddEntry("main", None, word, words, index, **more, write_out=True))
    assert done.compiled.plan is not None
    menu = done.compiled.plan.menus["main"]
    # A page that the menu has already is in a new group once, and beside an `auto` once.
    beside_auto = "auto" in str(read(done.text)["menus"]["main"])
    was = before.plan.menus["main"].entries
    taken = [at for at, number in enumerate(top) if was[number].page == "news" and was[number].kind == "page"]
    if not taken or not (kind == "group" or (kind == "page" and beside_auto)):
        taken = []
    assert len(menu.top) == len(top) + 1 - len(taken)
    place = min(index, len(top))
    added = menu.entries[menu.top[place - sum(at < place for at in taken)]]
    assert added.kind == {"url": "outside", "follows": "group"}.get(kind, kind)
    assert added.label == {"url": "Shop", "anchor": "Top", "page": "News", "separator": ""}.get(kind, "More")
    if kind == "follows":
        pages = done.compiled.plan.site.pages
        there = [entry.page for entry in before.plan.menus["main"].entries]
        assert [menu.entries[number].page for number in added.items] == [
            key for key in pages["visit"].children if key not in there
        ]


@given(
    st.sampled_from(MAPS[:3]), st.sampled_from(["visit", "news", "home"]), st.sampled_from(["css", "class", "styles"])
)
def test_a_word_of_a_page_is_set_however_the_page_is_written(text: str, key: str, word: str) -> None:
    value = {"css": "a {\n  b: c\n}", "class": "wide", "styles": ("one.css", "two.css")}[word]
    files = Files({"files/one.css": b"", "files/two.css": b""})
    done = edit(compile_map(text, files), text, SetSettings((Setting((word,), value),), key))
    page = read(done.text)["pages"][key]
    assert page[word] == (list(value) if isinstance(value, tuple) else value)
    before = read(text)["pages"][key]
    assert {name: said for name, said in page.items() if name != word} == (
        before if isinstance(before, dict) else {"title": before} if before else {}
    )


def test_menus_are_made_copied_renamed_and_deleted(demo: Source) -> None:
    text = demo.map.decode()

    def done(text: str, command: Any) -> str:
        return edit(compile_map(text, demo.files), text, command).text

    more = done(text, NewMenu("social"))
    assert read(more)["menus"]["social"] == {"place": "footer", "entries": "auto"}
    copied = read(done(text, NewMenu("again", section="visit", like="main")))["menus"]
    assert copied["again"] == {"section": "visit", "entries": read(text)["menus"]["main"]}
    named = read(done(text, RenameMenu("friends", "partners")))
    assert list(named["menus"]) == [
        "partners" if name == "friends" else name for name in read(text)["menus"]
    ] and "friends" not in str([part.get("menu") for part in named["parts"].values() if isinstance(part, dict)])
    fewer = read(done(more, DeleteMenu("social")))
    assert fewer == read(text)


@pytest.mark.parametrize(
    ("command", "said"),
    [
        (SetSettings((Setting(("theme", "preset"), "nope"),)), "none of"),
        (SetSettings((Setting(("pages", "home", "title"), "x"),)), "not a section of settings"),
        (SetEntry("main", 0, {"icon": "no-such-icon"}), "icon"),
        (SetEntry("main", 0, {"onclick": "x"}), "not a word of an entry"),
        (AddEntry("main", None, "page", {"label": "Nowhere"}), "Choose the page"),
        (AddEntry("main", None, "group", {"group": "Empty"}), "needs entries"),
        (AddEntry("main", None, "url", {"url": "javascript:alert(1)", "label": "x"}), "address"),
        (RenameMenu("main", "other"), "keeps its name"),
        (NewMenu("Main menu"), "lower-case"),
        (NewMenu("footer"), "already"),
    ],
)
def test_what_makes_no_sense_is_refused_with_the_reason(command: Any, said: str, demo: Source) -> None:
    text = demo.map.decode()
    with pytest.raises(EditRejected, match=said):
        edit(compile_map(text, demo.files), text, command)


@pytest.mark.parametrize("name", ["visit", '"visit"', "'visit' ", '"visit?at=1:2"', "visit?at=1:2"])
def test_an_entry_is_given_words_however_its_page_is_written(name: str) -> None:
    pages = "pages: {home: {path: /}, visit: {pages: {hours: Hours}}}\n"
    text = f"{pages}menus:\n  main:\n    - {name}: [hours] # all\n"
    done = edit(compile_map(text), text, SetEntry("main", 0, {"note": "N"}))
    page = name.strip().strip("\"'")
    assert read(done.text)["menus"]["main"] == [{"page": page, "note": "N", "items": ["hours"]}]
    assert "[hours] # all" in done.text


@pytest.mark.parametrize(
    "pages", ["{home: {path: /}, a: A}", "{home: {path: /}, a: A, b: B}", "\n  home: {path: /}\n  a: A"]
)
def test_a_page_that_is_only_a_title_loses_it_however_it_is_written(pages: str) -> None:
    text = f"pages: {pages}\n"
    done = edit(compile_map(text), text, SetSettings((Setting(("title",), ""),), "a"))
    assert read(done.text)["pages"]["a"] == "" and "home: {path: /}" in done.text
