"""What an application calls its own files, as its folder tells: for saying how a kit is set into it."""

from __future__ import annotations

import os
import re
from collections.abc import Iterator
from pathlib import Path

from basilica.core.outputs.kits.setting_in import ApplicationNames
from basilica.store.errors import UsageError

MOST_FILES = 4_000
MOST_BYTES = 300_000
_LEFT_OUT = frozenset(
    ["node_modules", "__pycache__", "venv", "env", "site_navigation", "site-navigation", "dist", "build"]
)
_MADE_BY = {
    "flask": (".py", re.compile(r"\bFlask\(")),
    "django": (".py", re.compile(r"^INSTALLED_APPS\b", re.MULTILINE)),
    "express": (".js .cjs .mjs .ts", re.compile(r"\bexpress\(\)")),
}
_URLS = re.compile(r"^urlpatterns\b", re.MULTILINE)
_TEMPLATES = (".html", ".njk", ".jinja", ".jinja2", ".j2")
_BLOCK = re.compile(r"\{%-?\s*block\s+(\w+)")
_FOR_CONTENT = ("content", "main", "body", "page")
"""Names that blocks for the content have, the commonest first (common practice, no source)."""


def application_names(folder: Path, kind: str) -> ApplicationNames:
    """The names that a folder tells for a kind of kit; empty where it does not. Raises ``UsageError`` for what is no
    folder."""
    if not folder.is_dir():
        raise UsageError(f"{folder} is not a folder.")
    endings, made_by = _MADE_BY.get(kind, ("", None))
    application = urls = base = block = ""
    for path in _files_in(folder):
        name = path.relative_to(folder).as_posix()
        wanted = path.suffix in endings.split() or path.suffix in _TEMPLATES
        if not wanted or path.stat().st_size > MOST_BYTES:
            continue
        text = path.read_text(encoding="utf-8", errors="replace")
        if path.suffix in _TEMPLATES:
            blocks = _BLOCK.findall(text)
            if not base and blocks and "<html" in text.lower():
                base = _as_template(name)
                block = next((one for one in _FOR_CONTENT if one in blocks), blocks[0])
        elif made_by is not None and not application and made_by.search(text):
            application = name
        elif kind == "django" and _URLS.search(text) and (not urls or name.count("/") < urls.count("/")):
            urls = name
    return ApplicationNames(application, urls, base, block)


def _as_template(name: str) -> str:
    """A template as the application names it: below its folder of templates."""
    for folder in ("templates/", "views/"):
        before, found, after = name.partition(folder)
        if found and (not before or before.endswith("/")):
            return after
    return name.rpartition("/")[2]


def _files_in(folder: Path) -> Iterator[Path]:
    """The files of an application, the outer ones first; links are not followed."""
    count = 0
    for at, folders, names in os.walk(folder):
        folders[:] = sorted(name for name in folders if name not in _LEFT_OUT and not name.startswith("."))
        for name in sorted(names):
            path = Path(at) / name
            if path.is_file() and not path.is_symlink():
                count += 1
                if count > MOST_FILES:
                    return
                yield path
