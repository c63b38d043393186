"""The application on a store of its own, without a browser."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from flask.testing import FlaskClient
from jinja2 import FileSystemBytecodeCache

from basilica.services.all_services import Services
from basilica.services.preview_sessions import PreviewSessions
from basilica.web.app import create_app
from basilica.web.config import Config
from basilica.web.demo import DEMO, load_demo
from basilica.web.preview.server import create_preview_app

ORIGIN = "http://127.0.0.1:8001"


@pytest.fixture(scope="session")
def demo_data(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder of data with the demo in it, to be copied: a new database takes longer to make."""
    folder = tmp_path_factory.mktemp("data")
    opened = Services.of(folder)
    load_demo(opened.store, DEMO)
    opened.close()
    return folder


@pytest.fixture
def services(demo_data: Path, tmp_path: Path) -> Iterator[Services]:
    opened = Services.of(Path(shutil.copytree(demo_data, tmp_path, dirs_exist_ok=True)))
    yield opened
    opened.close()


@pytest.fixture
def sessions(services: Services) -> PreviewSessions:
    return services.previews.sessions


@pytest.fixture(scope="session")
def templates(tmp_path_factory: pytest.TempPathFactory) -> FileSystemBytecodeCache:
    """What all the applications of a run have compiled."""
    return FileSystemBytecodeCache(str(tmp_path_factory.mktemp("templates")))


@pytest.fixture
def client(services: Services, tmp_path: Path, templates: FileSystemBytecodeCache) -> FlaskClient:
    app = create_app(Config(data=tmp_path), services)
    app.jinja_env.bytecode_cache = templates
    return app.test_client()


@pytest.fixture
def previews(services: Services, tmp_path: Path) -> FlaskClient:
    return create_preview_app(Config(data=tmp_path), services).test_client()
