"""What the script of the Preview workspace is answered."""

from __future__ import annotations

from basilica.web.answers import ScriptAnswer


class PreviewState(ScriptAnswer, frozen=True, kw_only=True):
    """The workspace as it is opened: widths in px by name, and the address of each page by its id."""

    token: str
    root: str
    widths: list[tuple[str, int]]
    pages: list[tuple[str, str]]
    chosen: str | None


class ServedPages(ScriptAnswer, frozen=True, kw_only=True):
    """The pages that a preview served last, by id (none for an address without a page), and the number of the last."""

    keys: list[str | None]
    serial: int


class DifferingPart(ScriptAnswer, frozen=True, kw_only=True):
    """A part of the page that differs from that of another, in words."""

    part: str
    selector: str
    words: list[str]
