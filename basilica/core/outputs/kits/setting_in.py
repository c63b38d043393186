"""How a kit is set into an application, in five lines, with the names that the application itself has."""

from __future__ import annotations

import re
from dataclasses import asdict, dataclass

from basilica.core.outputs.kits.shipped_files import shipped_text
from basilica.core.plan import Plan


@dataclass(frozen=True, slots=True)
class ApplicationNames:
    """What an application calls what a kit meets; the usual names, where its folder was not looked at."""

    application: str = ""
    """The file that makes it: `app.py`, `app.js`; in Django the settings."""
    urls: str = ""
    """The routes of a Django project."""
    base: str = ""
    """The template that its pages extend."""
    block: str = ""
    """The block of that which takes the content."""


_USUAL = {
    "flask": ApplicationNames("app.py", "", "base.html", "content"),
    "django": ApplicationNames("settings.py", "urls.py", "base.html", "content"),
    "express": ApplicationNames("app.js", "", "base.html", "content"),
    "typescript": ApplicationNames("src/menu.ts"),
    "includes": ApplicationNames("index.php"),
}

KITS = tuple(_USUAL)
"""The outputs that are set into an application."""


def _known_names(kind: str, found: ApplicationNames) -> ApplicationNames:
    """The names that were found, and the usual ones for the others."""
    usual = _USUAL[kind]
    return ApplicationNames(
        found.application or usual.application,
        found.urls or usual.urls,
        found.base or usual.base,
        found.block or usual.block,
    )


def steps(kind: str, plan: Plan, found: ApplicationNames) -> tuple[str, ...]:
    """Five lines for an output; none for one that is not set into an application. Code stands between backticks."""
    if kind not in _USUAL:
        return ()
    names = _known_names(kind, found)
    served = next((key for key, route in plan.routes.items() if route.is_backend), "")
    page = served or plan.site.home or "home"
    said = {"page": page, "view": _as_name(page.rpartition("/")[2]), **asdict(names)}
    text = shipped_text(f"{kind}/steps.txt.in")
    for name, word in said.items():
        text = text.replace(f"@{name}@", word)
    return tuple(text.splitlines())


def _as_name(key: str) -> str:
    name = re.sub(r"[^a-z0-9]+", "_", key).strip("_")
    return name if name and not name[0].isdigit() else f"page_{name}"
