"""The demo site that ships with the application."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

from basilica.store.folders import read_source
from basilica.store.sites import Sites

DEMO = Path(str(resources.files("basilica"))) / "demo" / "saltern-reach" / "site.yaml"
DEMO_NAME = "Saltern Reach Tide Mill"


def load_demo(store: Sites) -> None:
    """Put the demo site into a database that has no site of its name."""
    source = read_source(DEMO)
    if not any(site.name == DEMO_NAME for site in store.all()):
        store.make(DEMO_NAME, source.map.decode(), source.contents, "As it came with Basilica", files=source.files)
