"""What the script of the Checks workspace is answered."""

from __future__ import annotations

from basilica.web.answers import ScriptAnswer


class ChecksState(ScriptAnswer, frozen=True, kw_only=True):
    """The workspace as it is opened: where its pieces are, and what is asked for."""

    data: str
    beside: str
    page: str
    check: str
    words: str
    findings_only: bool
    table: bool


class MosaicTiles(ScriptAnswer, frozen=True, kw_only=True):
    """The tiles: columns as name, short title, title and whether it is a part; rows as name, label, depth and one
    letter for each column; what each letter means, and the letters by gravity."""

    columns: list[tuple[str, str, str, bool]]
    rows: list[tuple[str, str, int, str]]
    words: dict[str, str]
    order: str
