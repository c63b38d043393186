"""Basilica: one page map in code, the same navigation on every page, proved on the built files."""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING, Any

from basilica.core.version import VERSION

if TYPE_CHECKING:
    from basilica.library import (
        Crumb,
        MapBuilder,
        MapError,
        MenuEntry,
        PageBuilder,
        PageRoute,
        SiteMap,
        audit,
        load,
        loads,
    )

__version__ = VERSION
__all__ = [
    "Crumb",
    "MapBuilder",
    "MapError",
    "MenuEntry",
    "PageBuilder",
    "PageRoute",
    "SiteMap",
    "audit",
    "load",
    "loads",
]


def __getattr__(name: str) -> Any:
    """Import the library once something of it is asked for (PEP 562): the command line starts without it."""
    if name not in __all__:
        raise AttributeError(f"module `basilica` has no attribute `{name}`")
    return getattr(import_module("basilica.library"), name)
