"""Acts in words, for the history and for undo."""

from __future__ import annotations

from basilica.core.edits import commands as commands
from basilica.core.edits.commands import Edit
from basilica.core.map.site import Entry, Site


def describe(command: Edit, site: Site) -> str:
    """What was done to ``site``, as it was before: "Moved Tides under Visit"."""

    def page(key: str) -> str:
        return site.pages[key].label

    def below(parent: str | None) -> str:
        return f"under {page(parent)}" if parent is not None else "at the top"

    def entry(menu: str, number: int) -> str:
        return _numbered(site.menus[menu].entries)[number].label

    match command:
        case commands.AddPage(title, parent, _):
            return f"Added {title} {below(parent)}"
        case commands.NamePage(key, name):
            return f"Named {page(key)} {name}"
        case commands.MovePage(key, parent, _):
            if site.pages[key].parent == parent:
                return f"Moved {page(key)} among its neighbours"
            return f"Moved {page(key)} {below(parent)}" if parent is not None else f"Moved {page(key)} to the top"
        case commands.RenameId(key, new, _):
            return f"Renamed the id {site.pages[key].id} to {new}"
        case commands.DeletePage(key):
            return f"Deleted {page(key)}"
        case commands.SetWord(key, word, value):
            return f"Wrote the {word} of {page(key)}" if value else f"Took the {word} of {page(key)} out"
        case commands.SetHeader(word, value, key, mobile):
            where = f" on {page(key)}" if key is not None else ""
            of = f" of the header{where}{' on mobile' if mobile else ''}"
            return f"Wrote the {word}{of}" if value else f"Took the {word}{of} out"
        case commands.SetPart(part, word, value):
            return f"Wrote the {word} of the part {part}" if value else f"Took the {word} of the part {part} out"
        case commands.MakePart(part, kind, _):
            return f"Made the part {part}, of the kind {kind}"
        case commands.FillSlot(slot, _, key):
            return f"Filled the slot {slot}" + (f" on {page(key)}" if key is not None else "")
        case commands.SuppressCheck(code, reason, key):
            where = f" on {page(key)}" if key is not None else ""
            return f"Let {code} be{where}" if reason.strip() else f"Let {code} speak again{where}"
        case commands.PutInMenu(menu, key, _, _):
            return f"Put {page(key)} into the menu {menu}"
        case commands.TakeOut(menu, number):
            return f"Took {entry(menu, number)} out of the menu {menu}"
        case commands.MoveEntry(menu, number, parent, _):
            where = f" into {entry(menu, parent)}" if parent is not None else ""
            return f"Moved {entry(menu, number)} in the menu {menu}{where}"
        case commands.MakeGroup(menu, number, label):
            return f"Put {entry(menu, number)} into the new group {label}"


def _numbered(entries: tuple[Entry, ...]) -> list[Entry]:
    return [one for entry in entries for one in (entry, *_numbered(entry.items))]
