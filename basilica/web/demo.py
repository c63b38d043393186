"""The demo sites that ship with the application."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

from basilica.store.folders import read_source
from basilica.store.sites import Sites

_DEMOS = Path(str(resources.files("basilica"))) / "demo"
DEMO = _DEMOS / "saltern-reach" / "site.yaml"
SEEDS = _DEMOS / "marrow-valley" / "site.yaml"
"""A small site around a table of 1,200 rows."""
HAND_MADE = _DEMOS / "upper-thornby" / "pages"
"""A site of 18 pages that somebody made by hand, to be brought in."""
NAMES = {DEMO: "Saltern Reach Tide Mill", SEEDS: "Marrow Valley Seed Exchange"}
DEMO_NAME = NAMES[DEMO]


def load_demo(store: Sites, *which: Path) -> None:
    """Put the demo sites (or ``which`` of them) into a database that has no site of their name."""
    known = {site.name for site in store.all()}
    for path in which or NAMES:
        if NAMES[path] not in known:
            source = read_source(path)
            note = "As it came with Basilica"
            store.make(NAMES[path], source.map.decode(), source.contents, note, files=source.files)
