"""Long work in the background: a few at a time, the newest first; each says how far it is, and what became of it."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from enum import StrEnum
from typing import Any, Generic, TypeVar

from basilica.store.records import NotFound

T = TypeVar("T")
_log = logging.getLogger(__name__)


class JobState(StrEnum):
    """Where a job stands."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


class Stopped(Exception):
    """Somebody stopped the work."""


class Job(Generic[T]):
    """Work that takes long. ``total`` is how many steps it has (0 until that is known), ``done`` how many were made;
    ``reason`` says why it failed."""

    def __init__(self, work: Callable[[Job[T]], T]) -> None:
        """``work`` gets the job, to say its ``total`` and to call ``step`` after each step, and gives the result."""
        self.total = 0
        self.done = 0
        self.state = JobState.WAITING
        self.result: T | None = None
        self.reason = ""
        self._work = work
        self._stopping = False
        self._ended = threading.Event()

    def wait(self, seconds: float) -> T | None:
        """The result, if it is there within so many seconds."""
        self._ended.wait(seconds)
        return self.result

    def stop(self) -> None:
        """Stop it at its next step, or before it begins."""
        self._stopping = True
        if self.state is JobState.WAITING:
            self.state = JobState.STOPPED
            self._ended.set()

    @property
    def is_stopped(self) -> bool:
        """Whether somebody stopped it before it was over."""
        return self._stopping and self.state is not JobState.DONE

    def run(self) -> None:
        """Do the work, unless it was stopped before it began. Never raises."""
        try:
            self.state = JobState.RUNNING
            if self._stopping:
                raise Stopped
            self.result = self._work(self)
            self.state = JobState.DONE
        except Stopped:
            self.state = JobState.STOPPED
        except NotFound:
            self._fail("The site is not there any more.")
        except MemoryError:
            self._fail("There was not enough memory for it. Stop other builds, and try again.")
        except Exception as error:
            _log.exception("a job failed")
            what = f"{type(error).__name__}: {str(error)[:200]}"
            self._fail(
                f"There is a fault in Basilica ({what}). If it comes back, report it with what the terminal says."
            )
        finally:
            self._ended.set()

    def step(self) -> None:
        """Note that a step was made. Raises ``Stopped`` where somebody stopped the job."""
        self.done += 1
        if self._stopping:
            raise Stopped

    def _fail(self, reason: str) -> None:
        self.reason = reason
        self.state = JobState.FAILED


class JobQueue:
    """Runs jobs, so many ``at_once``, each in a thread of its own; of those that wait the newest is next."""

    def __init__(self, at_once: int = 2) -> None:
        self._at_once = at_once
        self._running = 0
        self._waiting: list[Job[Any]] = []
        self._lock = threading.Lock()

    def add(self, job: Job[Any]) -> None:
        """Begin a job, or let it wait."""
        with self._lock:
            self._waiting.append(job)
            self._begin()

    def _begin(self) -> None:
        while self._waiting and self._running < self._at_once:
            job = self._waiting.pop()
            if job.state is JobState.WAITING:
                self._running += 1
                threading.Thread(target=self._run, args=[job], daemon=True).start()

    def _run(self, job: Job[Any]) -> None:
        try:
            job.run()
        finally:
            with self._lock:
                self._running -= 1
                self._begin()
