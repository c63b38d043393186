"""The application as a process of its own, forked from one that has everything loaded."""

from __future__ import annotations

import contextlib
import multiprocessing
import os
from pathlib import Path

from basilica.web.config import Config
from basilica.web.serving import serve

processes = multiprocessing.get_context("forkserver")
processes.set_forkserver_preload(["tests.browser.serving"])


def serve_quietly(config: Config, folders: tuple[Path, ...], demo: bool = True) -> None:
    """What `basilica demo` does, or `basilica serve`, without a word."""
    with open(os.devnull, "w") as nowhere, contextlib.redirect_stdout(nowhere):
        serve(config, demo, folders)
