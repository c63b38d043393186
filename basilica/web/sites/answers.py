"""What the script of the form for a new site is answered."""

from __future__ import annotations

from basilica.web.answers import ScriptAnswer


class ListedSite(ScriptAnswer, frozen=True, kw_only=True):
    """The site that a list makes, shown before it is made."""

    empty: bool
    shown: str
