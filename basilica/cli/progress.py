"""Progress on a terminal."""

from __future__ import annotations

import contextlib
import time
from collections.abc import Callable

from rich.console import Console
from rich.progress import Progress, TaskID


class Stages:
    """Progress through several stages, one after the other."""

    def __init__(self) -> None:
        self._now = contextlib.ExitStack()

    def __enter__(self) -> Stages:
        return self

    def __exit__(self, *_: object) -> None:
        self._now.close()

    def begin(self, what: str, total: int) -> Callable[[], None]:
        """A stage begins, which ends the one before; gives back what is called after each of its steps."""
        self._now.close()
        return self._now.enter_context(Steps(what, total)).step


class Steps:
    """Progress on a terminal, shown once something has taken a second."""

    def __init__(self, what: str, total: int) -> None:
        self._what, self._total, self._done = what, total, 0
        self._console = Console(stderr=True)
        self._bar: Progress | None = None
        self._task = TaskID(0)
        self._shown_from = time.monotonic() + 1.0

    def __enter__(self) -> Steps:
        return self

    def __exit__(self, *_: object) -> None:
        if self._bar:
            self._bar.stop()

    def step(self) -> None:
        """One of the total is done."""
        self._done += 1
        if self._bar:
            self._bar.update(self._task, completed=self._done)
        elif self._console.is_terminal and time.monotonic() > self._shown_from:
            self._bar = Progress(console=self._console, transient=True)
            self._task = self._bar.add_task(self._what, total=self._total, completed=self._done)
            self._bar.start()
