"""Edits of the text of a map: what they change, and that they change nothing else."""

from __future__ import annotations

import difflib
import re
from itertools import count

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.edits import Command, Edited, EditRejected, edit
from basilica.core.edits.commands.add_page import AddPage
from basilica.core.edits.commands.add_to_menu import AddToMenu
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.fill_slot import FillSlot
from basilica.core.edits.commands.make_group import MakeGroup
from basilica.core.edits.commands.make_part import MakePart
from basilica.core.edits.commands.move_entry import MoveEntry
from basilica.core.edits.commands.move_page import MovePage
from basilica.core.edits.commands.name_page import NamePage
from basilica.core.edits.commands.remove_from_menu import RemoveFromMenu
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_header import SetHeader
from basilica.core.edits.commands.set_part import SetPart
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.edits.commands.suppress_check import SuppressCheck
from basilica.core.map.document import read
from basilica.core.map.document.nodes import Mapping
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Site
from tests.core.maps import TITLES

MAP = """\
# Site settings
site: {name: Mill, base: "https://mill.example"}
pages:
  home: {path: /, title: Home}

  # Coming here
  visit:            # the section
    title: 'Plan your visit'
    pages:
      # from the board
      hours: Opening hours   # as painted
      access:

  learn: Learn
  privacy:
menus:
  main:
    - home
    # the section with its pages
    - visit: [hours, access]   # in this order
    - group: More
      items:
        - learn
        - page: visit/access#lift
          label: The lift
    - {label: Shop, url: "https://shop.example"}
  footer: auto
"""


def do(text: str, act: Command) -> Edited:
    return edit(compile_map(text), text, act)


def changed_lines(before: str, after: str) -> list[str]:
    """The lines that went and came, in the order of the text."""
    lines = difflib.ndiff(before.splitlines(), after.splitlines())
    return [line for line in lines if line[0] in "+-"]


VISIT = "- visit: [hours, access]   # in this order"
SHOP = '- {label: Shop, url: "https://shop.example"}'


@pytest.mark.parametrize(
    ("act", "gone", "come"),
    [
        (AddPage("The bells", None, 3), [], ["the-bells: The bells"]),
        (AddPage("Bells: a tour", "visit", 1), [], ['bells-a-tour: "Bells: a tour"']),
        (AddPage("Wheel", "learn", 0), ["learn: Learn"], ["learn:", "title: Learn", "pages:", "wheel: Wheel"]),
        (NamePage("visit/hours", "Times"), ["hours: Opening hours   # as painted"], ["hours: Times   # as painted"]),
        (NamePage("privacy", "404"), ["privacy:"], ['privacy: "404"']),
        (
            MovePage("visit/access", None, 0),
            ["access:", "- page: visit/access#lift"],
            ["access:", "- page: access#lift"],
        ),
        (
            RenameId("visit/hours", "times"),
            ["hours: Opening hours   # as painted", VISIT],
            ["times: Opening hours   # as painted", VISIT.replace("hours", "times")],
        ),
        (DeletePage("learn"), ["learn: Learn", "- learn"], []),
        (RemoveFromMenu("main", 1), ["# the section with its pages", VISIT], []),
        (RemoveFromMenu("main", 2), [VISIT], [VISIT.replace("hours, ", "")]),
        (AddToMenu("main", "privacy", None, 1), [], ["- privacy"]),
        (AddToMenu("main", "privacy", 5, 0), ["- learn"], ["- learn: [privacy]"]),
        (MoveEntry("main", 3, 4, 2), [VISIT], [VISIT.replace(", access", ""), "- access"]),
        (MoveEntry("main", 7, None, 0), [SHOP], [SHOP]),
        (MakeGroup("main", 3, "How"), [VISIT], [VISIT.replace("access", "{group: How, items: [access]}")]),
        (RemoveFromMenu("footer", 5), ["footer: auto"], ["footer: {auto: {except: privacy}}"]),
    ],
)
def test_an_act_changes_only_the_lines_that_it_must(act: Command, gone: list[str], come: list[str]) -> None:
    lines = changed_lines(MAP, do(MAP, act).text)
    assert [line[2:].strip() for line in lines if line[0] == "-"] == gone
    assert [line[2:].strip() for line in lines if line[0] == "+"] == come


@pytest.mark.parametrize(
    "act",
    [
        AddPage("Second", "home", 0),  # home has no pages under it
        MovePage("visit", "visit/hours", 0),
        RenameId("visit/hours", "access"),  # its neighbour has that id
        RenameId("visit/hours", "Über uns"),
        DeletePage("home"),
        AddToMenu("main", "visit", None, 0),  # it is there
        MoveEntry("main", 1, 2, 0),
        NamePage("nowhere", "Nowhere"),
    ],
)
def test_what_makes_no_sense_is_refused(act: Command) -> None:
    with pytest.raises(EditRejected, match=r"[Nn]othing was changed"):
        do(MAP, act)


def test_a_group_goes_with_its_last_entry() -> None:
    text = do(MAP, RemoveFromMenu("main", 6)).text
    text = do(text, RemoveFromMenu("main", 5)).text
    assert "More" not in text
    assert "Shop" in text


def test_the_last_entry_leaves_an_empty_menu() -> None:
    text = "pages: {home: {path: /}}\nmenus:\n  main:\n    - home # the way back\n"
    assert do(text, RemoveFromMenu("main", 0)).text == "pages: {home: {path: /}}\nmenus:\n  main: []\n"


def test_words_say_what_was_done() -> None:
    edited = do(MAP, MovePage("learn", "visit", 9))
    assert edited.words == "Moved Learn under Plan your visit"
    assert edited.chosen == "visit/learn"
    assert dict(edited.keys)["learn"] == "visit/learn"


def test_line_ends_and_byte_order_marks_stay() -> None:
    text = "\ufeff" + MAP.replace("\n", "\r\n")
    after = do(text, MovePage("visit/hours", None, 1)).text
    assert after.startswith("\ufeff#")
    assert "\n" not in after.replace("\r\n", "")


@given(st.text(st.characters(exclude_categories=["Cs"]), min_size=1, max_size=30))
def test_a_written_scalar_reads_back(value: str) -> None:
    written = write_scalar(value)
    for text in (f"a: {written}\n", f"a: {{b: [{written}, c]}}\n", f"{{a: {{k: {written}}}}}"):
        root, findings = read(text)
        assert findings == ()
        assert value in _scalars(root.root)


def _scalars(node: object) -> list[str]:
    if isinstance(node, Mapping):
        return [text for _, value in node.pairs for text in _scalars(value)]
    if hasattr(node, "items"):
        return [text for item in node.items for text in _scalars(item)]
    return [node.value]  # type: ignore[attr-defined]


# Any map, written in any of the ways that people write, and any act

_ENTRIES = ("- {}", "- page: {}", "- page: {}\n  label: {}", '- "{}"')


class _Writer:
    """Writes a random map: block and bracket, bare and long, with comments that can be told apart."""

    def __init__(self, draw: st.DrawFn) -> None:
        self.draw = draw
        self.numbers = count(1)
        self.keys: list[str] = []

    def comment(self) -> str:
        return f"# c{next(self.numbers)}" if self.draw(st.integers(0, 3)) == 0 else ""

    def tail(self) -> str:
        comment = self.comment()
        return f"  {comment}" if comment else ""

    def pages(self, above: str, depth: int) -> list[str]:
        lines: list[str] = []
        for page_id in self.draw(st.lists(st.sampled_from("abcdefg"), unique=True, min_size=1, max_size=3)):
            key = f"{above}/{page_id}" if above else page_id
            self.keys.append(key)
            if self.draw(st.booleans()):
                lines += ["", *filter(None, [self.comment()])][: self.draw(st.integers(0, 2))]
            lines += self.page(page_id, key, depth)
        return lines

    def page(self, page_id: str, key: str, depth: int) -> list[str]:
        title = self.title()
        style = self.draw(
            st.sampled_from(["bare", "nothing", "keys", "keys", "keys", "brackets", "folded", "highlight"])
        )
        if style == "bare":
            return [f"{page_id}: {title}{self.tail()}"]
        if style == "nothing":
            return [f"{page_id}:{self.tail()}"]
        if style == "highlight" and self.keys:
            return [f"{page_id}:{self.tail()}", f"  highlight: {self.draw(st.sampled_from(self.keys))}{self.tail()}"]
        if style == "brackets":
            below = f", pages: {{x: {self.title()}, y: , z: {{label: {self.title()}}}}}" if depth else ""
            self.keys += [f"{key}/{name}" for name in "xyz"] if depth else []
            return [f"{page_id}: {{ title: {title}{below} }}{self.tail()}"]
        lines = [f"{page_id}:{self.tail()}"]
        if style == "folded":
            return [*lines, "  label: L", "  description: |", "    # no comment", "    Two lines.", ""]
        pages = ["  pages:" + self.tail(), *("    " + line for line in self.pages(key, depth - 1))] if depth else []
        own = [f"  title: {title}{self.tail()}", *([f"  label: {self.title()}"] if self.draw(st.booleans()) else [])]
        return [*lines, *(own + pages if self.draw(st.booleans()) else pages + own)]

    def title(self) -> str:
        return write_scalar(" ".join(self.draw(TITLES).split()) or "x")

    def menu(self) -> list[str]:
        keys = self.draw(st.lists(st.sampled_from(self.keys), unique=True, max_size=6))
        lines: list[str] = []
        for key in keys:
            lines += filter(None, [self.comment()])
            style = self.draw(st.integers(0, 6))
            if style < len(_ENTRIES):
                lines += _ENTRIES[style].format(key, "Own").split("\n")
            elif style == 4:
                lines.append(f"- {{group: In brackets, items: [{key}]}}{self.tail()}")
            elif style == 5:
                lines += ["- group: A group" + self.tail(), "  items:", f"    - {key}"]
            else:
                lines.append(f"- {key}: auto")
        return lines


@st.composite
def written_maps(draw: st.DrawFn) -> str:
    writer = _Writer(draw)
    lines = ["site: {name: S}", "pages:", "  home: {path: /}"]
    lines += ["  " + line if line else "" for line in writer.pages("", 2)]
    form = draw(st.sampled_from(["none", "auto", "lists", "brackets", "settings"]))
    key = st.sampled_from(writer.keys)
    if form == "settings":
        left = draw(st.sampled_from(["except: {}", "except: [{}]", "except: [home, {}]", "order: title"]))
        left = left.format(draw(key))
        lines += ["menus:", "  main:", "    opens: inside", f"    entries:{writer.tail()}"]
        lines += draw(
            st.sampled_from(
                [
                    [f"      - {draw(key)}", f"      - auto: {{{left}}}"],
                    ["      auto:", f"        {left}{writer.tail()}"],
                ]
            )
        )
        lines += ["  part:", f"    section: {draw(key)}{writer.tail()}"]
        lines += draw(
            st.sampled_from([[], ["    entries: auto"], ["    entries:", f"      - {draw(key)}", "      - auto"]])
        )
    if form == "auto":
        lines += (
            ["menus:", "  main:", "    - home", "    - auto: 1"] if draw(st.booleans()) else ["menus: {main: auto}"]
        )
    elif form == "brackets":
        lines.append(f"menus: {{main: [home, {', '.join(draw(st.permutations(writer.keys))[:4])}]}}")
    elif form == "lists":
        lines += ["menus:"]
        for name in draw(st.sampled_from([["main"], ["footer"], ["footer", "main"]])):
            menu = writer.menu()
            indent = "    " if draw(st.booleans()) else "  "
            lines += [f"  {name}:", *(indent + line for line in menu)] if menu else [f"  {name}: []"]
    lines += draw(st.sampled_from(HEADERS))
    lines += [line.replace("KEY", draw(key)) for line in draw(st.sampled_from(PARTS))]
    lines += draw(st.sampled_from(CHECKS))
    return "\n".join(lines) + ("\n" if draw(st.booleans()) else "")


HEADERS = (
    [],
    ["header: {behaviour: sticky, mobile: {height: 60}}"],
    ["header:"],
    ["header:  # c900", "  # c901", "  behaviour: shrink  # c902", "  mobile:", "    # c903", "    height: 64"],
)


CHECKS = (
    [],
    [],
    ["checks:  # c930"],
    ["checks: {spelling: [leat], levels: {vague-link: {level: ignore, reason: B}}}"],
    [
        "checks:",
        "  levels:",
        "    # c931",
        "    one-way-only: warning  # c932",
        "    vague-link: {level: ignore, reason: B}",
    ],
    ["checks:", "  levels:", "    vague-link:  # c933", "      level: ignore", "      reason: B", "  clicks: 4"],
)


PARTS = (
    [],
    [],
    ["parts:  # c910", "  note: Words  # c911", "slots: {footer: note}"],
    [
        "parts:",
        "  note:",
        "    # c920",
        "    text: |",
        "      See [it](page:KEY#there).",
        "",
        "      {title} in {section}.",
        "  told: {kind: notice, title: T, text: 'go [on](page:KEY) <part:note>'}",
        "slots:",
        "  footer: [note, told]  # c921",
        "  header: note",
        "  aside: told",
    ],
)


def an_act(draw: st.DrawFn, site: Site) -> Command:
    """Any act that makes sense, or nearly."""
    keys = st.sampled_from(sorted(site.pages))
    parents = st.one_of(st.none(), keys)
    places = st.integers(0, 4)
    sizes = {name: _size(menu.entries) for name, menu in site.menus.items()}
    kinds = [AddPage, NamePage, MovePage, MovePage, RenameId, DeletePage, AddToMenu, SetWord, SetHeader, SuppressCheck]
    kinds += [SetPart, FillSlot] if site.parts else []
    filled = [name for name, size in sizes.items() if size]
    if filled:
        kinds += [RemoveFromMenu, MoveEntry, MoveEntry, MakeGroup]
    kind = draw(st.sampled_from(kinds))
    if kind is AddPage:
        return AddPage(" ".join(draw(TITLES).split()) or "x", draw(parents), draw(places))
    if kind is NamePage:
        return NamePage(draw(keys), " ".join(draw(TITLES).split()) or "x")
    if kind is MovePage:
        return MovePage(draw(keys), draw(parents), draw(places))
    if kind is RenameId:
        return RenameId(draw(keys), draw(st.sampled_from(["a", "n", "404", "no"])))
    if kind is SetWord:
        values = {
            "title": TITLES,
            "label": TITLES,
            "description": TITLES,
            "path": st.sampled_from(["p", "/q/r"]),
            "kind": st.sampled_from(["section", "page", "served"]),
            "hidden": st.sampled_from(["menus", "sitemap breadcrumbs"]),
            "draft": st.sampled_from(["yes", "no"]),
            "highlight": keys,
            "list": st.sampled_from(["site", "none"]),
            "sequence": st.sampled_from(["map"]),
            "layout": st.just("plain"),
            "class": st.sampled_from(["wide", "wide calm"]),
            "keywords": TITLES,
        }
        word = draw(st.sampled_from(sorted(values)))
        return SetWord(draw(keys), word, draw(st.one_of(st.just(""), values[word])))
    if kind is SetHeader:
        mobile = draw(st.booleans())
        values = {"behaviour": st.sampled_from(["static", "shrink"]), "height": st.sampled_from(["60", "72px"])}
        values["below" if mobile else "ground"] = st.sampled_from(["500"] if mobile else ["#ABC", "red"])
        word = draw(st.sampled_from(sorted(values)))
        return SetHeader(word, draw(st.one_of(st.just(""), values[word])), draw(st.one_of(st.none(), keys)), mobile)
    if kind is SetPart:
        values = {"text": st.sampled_from(["New", "Two\n\nlines <part:other>", "  x: y"]), "title": TITLES}
        word = draw(st.sampled_from(sorted(values)))
        if draw(st.booleans()):
            kind, value = draw(
                st.sampled_from([("text", "New"), ("form", "/x/"), ("contact", ""), ("legal", "a\n\nb")])
            )
            return MakePart(draw(st.sampled_from(["new", "note"])), kind, value)
        return SetPart(draw(st.sampled_from([*site.parts, "other"])), word, draw(values[word]))
    if kind is SuppressCheck:
        reason = draw(st.one_of(st.just(""), TITLES))
        code = draw(st.sampled_from(["one-way-only", "dead-link", "vague-link"]))
        return SuppressCheck(code, reason, draw(st.one_of(st.none(), keys)))
    if kind is FillSlot:
        slot, filled = (
            draw(st.sampled_from(["footer", "after"])),
            draw(st.sampled_from(["note", "told note", "", "none"])),
        )
        return FillSlot(slot, filled, draw(st.one_of(st.none(), keys)))
    if kind is DeletePage:
        return DeletePage(draw(keys))
    if kind is AddToMenu:
        name = draw(st.sampled_from([*sizes, "side"]))
        numbers = st.one_of(st.none(), st.integers(0, sizes[name] - 1)) if sizes.get(name) else st.none()
        return AddToMenu(name, draw(keys), draw(numbers), draw(places))
    name = draw(st.sampled_from(filled))
    number = draw(st.integers(0, sizes[name] - 1))
    if kind is RemoveFromMenu:
        return RemoveFromMenu(name, number)
    if kind is MakeGroup:
        return MakeGroup(name, number, " ".join(draw(TITLES).split()) or "x")
    return MoveEntry(name, number, draw(st.one_of(st.none(), st.integers(0, sizes[name] - 1))), draw(places))


def _size(entries: tuple) -> int:  # type: ignore[type-arg]
    return sum(1 + _size(entry.items) for entry in entries)


@pytest.mark.long
@settings(max_examples=300, deadline=None)
@given(st.data())
def test_any_act_on_any_map_says_what_it_means_and_spares_the_rest(data: st.DataObject) -> None:
    """``edit`` holds the new text against the act done to the site; that it never has to give up is tested here, and
    that every comment of what was not taken out is still there, once, in its order."""
    text = data.draw(written_maps())
    compiled = compile_map(text)
    assume(not compiled.stops and compiled.plan is not None)
    assert compiled.plan is not None
    act = an_act(data.draw, compiled.plan.site)
    after, refused = None, ""
    try:
        after = edit(compiled, text, act)
    except EditRejected as error:
        refused = str(error)
    assert "in the code" not in refused
    if after is None:
        return
    assert after.compiled.plan is not None
    kept = [line for line in changed_lines(text, after.text) if line.startswith("- ")]
    if isinstance(act, AddPage | NamePage | AddToMenu):
        assert len(kept) <= 1 or "auto" in text
    comments = re.compile(r"# c\d+")
    before, now = comments.findall(text), comments.findall(after.text)
    assert len(now) == len(set(now))
    written_out = after.text.count("auto:") < text.count("auto:")  # what it left out goes with its comment
    if (
        isinstance(
            act, DeletePage | RemoveFromMenu | SetWord | SetHeader | SetPart | MakePart | FillSlot | SuppressCheck
        )
        or written_out
        or after.text.count("group:") < text.count("group:")
    ):
        assert set(now) <= set(before)
    else:
        assert set(now) == set(before)


@pytest.mark.parametrize(
    ("before", "act", "after"),
    [
        ("header: sticky  # c", SetHeader("behaviour", "shrink", "about"), "header: shrink  # c"),
        ("header: sticky  # c", SetHeader("height", "60", "about"), "header: {behaviour: sticky, height: 60}  # c"),
        (
            "header: sticky",
            SetHeader("height", "60", "about", True),
            "header: {behaviour: sticky, mobile: {height: 60}}",
        ),
        ("title: About", SetHeader("opacity", "90", "about"), "title: About\n    header:\n      opacity: 90"),
    ],
)
def test_the_header_of_a_page_is_written_where_it_stands(before: str, act: SetHeader, after: str) -> None:
    text = f"site: {{name: M}}\npages:\n  home: {{path: /}}\n  about:\n    {before}\n"
    assert edit(compile_map(text), text, act).text == text.replace(before, after)


@pytest.mark.parametrize(
    ("before", "act", "after"),
    [
        (
            "checks: {levels: {x: advice}}",
            SuppressCheck("x", "Old: it, is"),
            'checks: {levels: {x: {level: ignore, reason: "Old: it, is"}}}',
        ),
        (
            "checks:\n  levels:\n    # why not\n    x: advice  # c\n    y: {level: ignore, reason: B}",
            SuppressCheck("y", ""),
            "checks:\n  levels:\n    # why not\n    x: advice  # c",
        ),
        ("checks:\n  levels:\n    x: {level: ignore, reason: B}", SuppressCheck("x", ""), ""),
        ("", SuppressCheck("x", "Because"), "checks:\n  levels:\n    x: {level: ignore, reason: Because}"),
    ],
)
def test_a_check_is_let_be_where_the_map_says_so(before: str, act: SuppressCheck, after: str) -> None:
    x, y = "one-way-only", "vague-link"

    def named(text: str) -> str:
        return text.replace(" x:", f" {x}:").replace("{x:", f"{{{x}:").replace(" y:", f" {y}:")

    head = "site: {name: M, base: 'https://m.example'}\npages:\n  home: {path: /}\n"
    text = head + named(before) + ("\n" if before else "")
    act = SuppressCheck({"x": x, "y": y}[act.code], act.reason)
    assert edit(compile_map(text), text, act).text == head + named(after) + ("\n" if after else "")
