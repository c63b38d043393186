"""The application as a process of its own, forked from one that has everything loaded."""

from __future__ import annotations

import contextlib
import faulthandler
import multiprocessing
from pathlib import Path

from basilica.web.config import Config
from basilica.web.serving import serve

processes = multiprocessing.get_context("forkserver")
processes.set_forkserver_preload(["tests.browser.serving"])


def serve_quietly(config: Config, folders: tuple[Path, ...], demo: bool, log: Path) -> None:
    """What `basilica demo` does, or `basilica serve`. All it says is in the log, down to a crash of a library
    that is not written in Python."""
    with log.open("a") as said:
        faulthandler.enable(said)
        with contextlib.redirect_stdout(said), contextlib.redirect_stderr(said):
            serve(config, demo, folders)
