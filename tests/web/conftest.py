"""The application on a store of its own, without a browser."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from flask.testing import FlaskClient

from basilica.services import Services
from basilica.services.preview_sessions import PreviewSessions
from basilica.web.app import create_app
from basilica.web.config import Config
from basilica.web.demo import DEMO, load_demo
from basilica.web.preview.server import create_preview_app

ORIGIN = "http://127.0.0.1:8001"


@pytest.fixture
def services(tmp_path: Path) -> Iterator[Services]:
    opened = Services.of(tmp_path)
    load_demo(opened.store, DEMO)
    yield opened
    opened.close()


@pytest.fixture
def sessions(services: Services) -> PreviewSessions:
    return services.previews.sessions


@pytest.fixture
def client(services: Services, tmp_path: Path) -> FlaskClient:
    return create_app(Config(data=tmp_path), services).test_client()


@pytest.fixture
def previews(services: Services, tmp_path: Path) -> FlaskClient:
    return create_preview_app(Config(data=tmp_path), services).test_client()
