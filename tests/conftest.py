"""What all tests share."""

from __future__ import annotations

import pytest
from hypothesis import settings

from basilica.store.folders import Source, read_source
from basilica.web.demo import DEMO, SEEDS

settings.register_profile("tests", deadline=None, max_examples=80, derandomize=True)
settings.load_profile("tests")


@pytest.fixture(scope="session")
def demo() -> Source:
    """The demo's map and content, as they lie in their folder."""
    return read_source(DEMO)


@pytest.fixture(scope="session")
def seeds() -> Source:
    """The demo that has a table, as it lies in its folder."""
    return read_source(SEEDS)
