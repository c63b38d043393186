"""What the script of the Settings workspace is answered."""

from __future__ import annotations

from basilica.web.answers import ScriptAnswer


class SettingsState(ScriptAnswer, frozen=True, kw_only=True):
    """The workspace as it is opened: the preview, and the path of the page in it."""

    token: str
    root: str
    path: str


class TriedSettings(ScriptAnswer, frozen=True, kw_only=True):
    """Settings that are tried: how many are changed, and what is shown of them."""

    message: str
    changed: int
    path: str
    beside: str
