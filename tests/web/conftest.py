"""The application on a store of its own, without a browser."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from flask.testing import FlaskClient

from basilica.store.sites import Sites
from basilica.web.app import ApplicationSettings, create_app
from basilica.web.demo import DEMO, load_demo
from basilica.web.preview.server import create_preview_app
from basilica.web.preview.sessions import Sessions
from basilica.web.services import SiteServices

ORIGIN = "http://127.0.0.1:8001"


@pytest.fixture
def services(tmp_path: Path) -> Iterator[SiteServices]:
    store = Sites(tmp_path)
    load_demo(store, DEMO)
    yield SiteServices(store)
    store.close()


@pytest.fixture
def sessions() -> Sessions:
    return Sessions()


@pytest.fixture
def client(services: SiteServices, sessions: Sessions) -> FlaskClient:
    return create_app(services, sessions, ApplicationSettings(ORIGIN)).test_client()


@pytest.fixture
def previews(services: SiteServices, sessions: Sessions) -> FlaskClient:
    return create_preview_app(services, sessions, ORIGIN, frozenset({"127.0.0.1"})).test_client()
