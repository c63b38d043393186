"""Every kind of edit at every page and entry of a map in which features meet: a second language, a table, an included
file, an automatic menu, groups, old addresses, parts and comments. Nothing is lost that the edit is not about."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from basilica.core.compile import compile_map
from basilica.core.edits import Command, EditRejected, edit
from basilica.core.edits.commands.add_entry import AddEntry
from basilica.core.edits.commands.add_page import AddPage
from basilica.core.edits.commands.add_to_menu import AddToMenu
from basilica.core.edits.commands.duplicate_page import DuplicatePage
from basilica.core.edits.commands.make_group import MakeGroup
from basilica.core.edits.commands.move_entry import MoveEntry
from basilica.core.edits.commands.move_page import MovePage
from basilica.core.edits.commands.name_page import NamePage
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_entry import SetEntry
from basilica.core.edits.commands.set_settings import SetSettings, Setting
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.edits.kept_addresses import Keeping
from basilica.core.map.map_files import Files

MAP = """# the head
site: {name: X, base: "https://x.example", languages: [en, cy]}
pages:
  home: {path: /, title: X, cy: Adref}
  visit:
    title: Visit
    cy: {title: Ymweld, path: ymweld, was: /cy/hen/}
    was: [/a.htm, /b.htm]
    pages:
      # the hours
      hours: {title: Hours, cy: Oriau, highlight: visit}
      more: {include: maps/more.yaml, title: More, cy: Mwy}
      # the end of the visit
  mills:
    title: Mills
    cy: Melinau
    table: {file: mills.csv}
  tides: {title: Tides, cy: {title: Llanw, draft: yes}, breadcrumbs: visit}
menus:
  main:
    - home
    - auto: {except: tides, levels: 2}
    # the group
    - group: G
      cy: Grwp
      icon: clock
      items:
        - tides
        - {label: L, url: "https://l.example", cy: {label: Dolen}}
        # more to come
  footer: {place: footer, cy: {label: Troed}, entries: [visit, {page: hours, label: H, cy: {label: Amserau}}]}
facts: {phone: "1"}
parts: {note: {text: hi, cy: helo}}
redirects: {/old: tides}
"""
FILES = Files({"maps/more.yaml": b"pages:\n  a: A\n  b: B\n", "tables/mills.csv": b"name,place\nOne,Here\nTwo,There\n"})
KEPT = [
    *(line.strip() for line in MAP.splitlines() if line.strip().startswith("#")),
    *[
        "Adref",
        "Ymweld",
        "Oriau",
        "Mwy",
        "Melinau",
        "Llanw",
        "Grwp",
        "Dolen",
        "Troed",
        "Amserau",
        "helo",
        "/cy/hen/",
        "/a.htm",
        "/b.htm",
        "/old",
    ],
]
"""Comments, words of the other language and old addresses: none of the edits below is about one of them."""


def edits() -> Iterator[Command]:
    compiled = compile_map(MAP, FILES)
    assert compiled.plan is not None and not compiled.stops
    for key in compiled.plan.site.pages:
        yield from (DuplicatePage(key), NamePage(key, "New"), RenameId(key, "newid"), MovePage(key, None, 0))
        yield from (MovePage(key, "visit", 9), MovePage(key, "tides", 0), SetWord(key, "description", "D"))
        yield from (AddToMenu("main", key, None, 9), AddToMenu("footer", key, None, 0), AddPage("Np", key, 0, "main"))
        yield SetSettings((Setting(("head", "styles"), ()), Setting(("class",), "x")), key)
    for number in range(len(compiled.plan.menus["main"].entries)):
        yield from (SetEntry("main", number, {"note": "Z"}, write_out=out) for out in (False, True))
        yield from (MakeGroup("main", number, "Gg", write_out=out) for out in (False, True))
        yield from (MoveEntry("main", number, None, at, write_out=True) for at in (0, 99))
        yield AddEntry("main", None, "group", {"group": "Q"}, number, first="tides", write_out=True)
        yield AddEntry("main", None, "url", {"url": "https://n.example", "label": "N"}, number, write_out=True)


@pytest.mark.long
def test_no_edit_loses_what_it_is_not_about() -> None:
    compiled = compile_map(MAP, FILES)
    done, refusals = 0, []
    for command in edits():
        try:
            edited = edit(compiled, MAP, command, keeping=Keeping(None))
        except EditRejected as refused:
            refusals.append(str(refused))
            continue
        done += 1
        assert [kept for kept in KEPT if kept not in edited.text] == [], command
    assert done > 80 and all("othing was changed" in said for said in refusals)
