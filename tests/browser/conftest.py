"""A real Chromium, real servers, and folders of built pages."""

from __future__ import annotations

import http.server
import os
import re
import shutil
import socket
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial
from pathlib import Path

import pytest
from playwright.sync_api import Browser, ConsoleMessage, Page, expect, sync_playwright

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.shared.output_file import File
from basilica.services.all_services import Services
from basilica.store.folders import Source
from basilica.web.config import Config
from basilica.web.demo import load_demo
from tests.browser.second_try import (
    AGAIN,
    FAILED,
    WaitedTooLong,
    pytest_runtest_logreport,
    pytest_runtest_makereport,
    pytest_sessionfinish,
)
from tests.browser.serving import processes, serve_quietly

__all__ = ["pytest_runtest_logreport", "pytest_runtest_makereport", "pytest_sessionfinish"]  # hooks

CHROMIUM = "/usr/bin/chromium-headless-shell"
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]

expect.set_options(timeout=120_000)  # a slow machine is no failure

IGNORED = ("Applying inline style", "Framing 'https://shop.")
"""What the policy stops as it should: the browser's own editing of pasted text, and links away from a preview."""
FADES = "Transition was "
"""What Chromium says where one page should fade into another, and that one came too early or does not fade."""


SETTLED = """async () => {
    await document.fonts.ready;
    for (let n = 0; n < 3; n++) await new Promise(requestAnimationFrame);
    const ending = document.getAnimations().filter((one) => Number.isFinite(one.effect.getComputedTiming().endTime));
    await Promise.allSettled(ending.map((one) => one.finished)); // a cursor blinks for ever
}"""


def settle(page: Page) -> None:
    """Wait until a page is drawn with its fonts, and nothing on it moves any more."""
    page.evaluate(SETTLED)


def until(page: Page, holds: Callable[[], bool]) -> None:
    """Wait until something holds that the page itself does not show."""
    end = time.monotonic() + 120
    while not holds():
        if time.monotonic() > end:
            raise WaitedTooLong("What was waited for did not come to hold.")
        page.wait_for_timeout(20)


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture
def page(browser: Browser, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A page at 1280x800 in which an error of a script or a broken policy fails the test."""
    if "application" in request.fixturenames:
        request.getfixturevalue("application")  # what comes first ends last: no server goes under an open page
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.set_default_timeout(60_000)
    # Light enough to be on always: what was done, and what was asked for. It is kept where the test fails.
    context.tracing.start(sources=False, screenshots=False, snapshots=AGAIN in os.environ)
    page = context.new_page()
    errors: list[str] = []

    def note(line: ConsoleMessage) -> None:
        if "Content Security Policy" in line.text and not line.text.startswith(IGNORED):
            errors.append(line.text)

    def fail(error: Exception) -> None:
        if not str(error).startswith(FADES):
            errors.append(str(error))

    page.on("pageerror", fail)
    page.on("console", note)
    yield page
    page.unroute_all(behavior="ignoreErrors")  # what is still on its way is nobody's any more
    failed = request.node.stash.get(FAILED, False) or errors
    traces = Path(os.environ.get(AGAIN) or request.config.rootpath / "build" / "traces")
    name = re.sub(r"[^\w-]+", "-", request.node.name)[:120]
    context.tracing.stop(path=traces / f"{name}.zip" if failed else None)
    context.close()
    assert errors == []


def write(files: tuple[File, ...], folder: Path) -> Path:
    """Built files on the disk."""
    for file in files:
        path = folder / file.path
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(file.data)
    return folder


def variant(demo: Source, **settings: str) -> tuple[File, ...]:
    """The demo built with other settings: ``links="file"``, say."""
    text = demo.map.decode()
    for name, value in settings.items():
        old = next(line for line in text.splitlines() if line.strip().startswith(f"{name}:"))
        text = text.replace(old, f"{old.partition(':')[0]}: {value}")
    result = build(compile_map(text, demo.files), demo.contents)
    assert [finding for finding in result.findings if not finding.ignored] == []
    return result.files


class Quiet(http.server.SimpleHTTPRequestHandler):
    """Serves a folder and says nothing."""

    def log_message(self, *_: object) -> None:
        """Nothing."""


@contextmanager
def serving(folder: Path, handler: type[Quiet] = Quiet) -> Iterator[str]:
    """The address at which a plain server of static files serves a folder."""
    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), partial(handler, directory=str(folder)))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()


@pytest.fixture(scope="session")
def served(demo: Source, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The address of the built demo."""
    with serving(write(variant(demo), tmp_path_factory.mktemp("demo"))) as address:
        yield address


class Application:
    """What ``basilica demo`` serves, in a process of its own, which can be killed and started again on the same
    data."""

    def __init__(self, data: Path, demo: bool = True) -> None:
        self.data, self.demo = data, demo
        self.folder: Path | None = None
        self.log = data.with_name("server.log")
        for _ in range(4):
            # Something else may take a port that was free a moment ago; then the application ends at once.
            self.ports = _free_ports()
            self.address = f"http://127.0.0.1:{self.ports[0]}"
            if self.start():
                return
        raise AssertionError("the application did not start, four times over")

    def start(self) -> bool:
        """Start it at its ports; False where it ended again.

        That it answers is taken from what it says itself: at its port another test's application may be answering.
        """
        self.log.unlink(missing_ok=True)
        config = Config(data=self.data, port=self.ports[0], preview_port=self.ports[1])
        folders = (self.folder,) if self.folder else ()
        self.process = processes.Process(target=serve_quietly, args=(config, folders, self.demo, self.log), daemon=True)
        self.process.start()
        until = time.monotonic() + 90
        while not (self.log.exists() and "Basilica is at" in self.log.read_text()):
            if not self.process.is_alive():
                return False
            assert time.monotonic() < until, "the application did not start"
            time.sleep(0.05)
        return True

    def kill(self) -> None:
        self.ended = self.process.exitcode
        self.process.kill()
        self.process.join()

    def end(self) -> None:
        """Kill it for the last time; one that ended of itself says why."""
        self.kill()
        assert self.ended is None, f"the application ended with {self.ended}: {self.log.read_text()}"


@pytest.fixture(scope="session")
def demo_data(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder of data with the demo sites in it."""
    data = tmp_path_factory.mktemp("demo-data") / "data"
    services = Services.of(data)
    load_demo(services.store)
    services.close()
    return data


@pytest.fixture
def application(demo_data: Path, tmp_path: Path) -> Iterator[Application]:
    running = Application(Path(shutil.copytree(demo_data, tmp_path / "data")))
    yield running
    running.end()


def _free_ports() -> list[int]:
    with socket.socket() as one, socket.socket() as other:
        for found in (one, other):
            found.bind(("127.0.0.1", 0))
        return [one.getsockname()[1], other.getsockname()[1]]
