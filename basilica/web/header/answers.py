"""What the script of the Header workspace is answered."""

from __future__ import annotations

from basilica.web.answers import ScriptAnswer


class HeaderState(ScriptAnswer, frozen=True, kw_only=True):
    """The workspace as it is opened; ``starts`` are the words and values of each starting point, ``query`` what is
    asked for in the address."""

    token: str
    root: str
    path: str
    window: tuple[int, int]
    starts: dict[str, dict[str, str]]
    query: dict[str, str]


class TriedHeader(ScriptAnswer, frozen=True, kw_only=True):
    """A header that is tried: why it cannot be (``message``), its trace, and what is shown of it."""

    message: str
    tried: bool
    trace: list[list[float]]
    elevation: str
    facts: str
    fields: str


class HeaderMoment(ScriptAnswer, frozen=True, kw_only=True):
    """Where the header is at a moment, px from the top of the window."""

    shown: str
    state: str
    top: float
    height: float
