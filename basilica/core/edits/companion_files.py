"""The files that change together with a map: those that it includes, its tables, and the icons of its entries."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from basilica.core.edits.command import EditRejected
from basilica.core.shared.icons.own_icon import own_icon

CompanionChange = tuple[str, str, str]
"""The name of a file, its text before the change and after it; empty where there is none."""


def companion_changes(text: str, changes: Iterable[CompanionChange]) -> Iterator[CompanionChange]:
    """The changes that are saved with the ``text`` of a map. An icon that the text still names is not removed. Raises
    ``EditRejected`` for files of other kinds, and for what cannot be an icon."""
    for name, was, now in changes:
        if name.startswith("files/") and name.endswith(".svg"):
            if now:
                check_icon(now.encode(), name)
            elif name.removeprefix("files/") in text:
                continue
        elif not (name.startswith(("maps/", "tables/")) and was and now):
            raise EditRejected("Only included files, tables and icons are saved with the map.")
        yield name, was, now


def check_icon(data: bytes, name: str) -> None:
    """Raise ``EditRejected`` for a file that entries cannot have as an icon."""
    try:
        own_icon(data)
    except ValueError as problem:
        raise EditRejected(f"{name} cannot be an icon: {problem}.") from problem
