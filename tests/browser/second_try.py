"""Tests of the browser that only waited too long are run once more, each in a fresh process with a fresh server.

A wait that timed out may be the machine's: at most three of a run are tried again, and are red if they fail again. A
wrong value is red at once. What passed on the second try is listed in a file that is committed; what is on it twice
is mended before anything else.
"""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

import pytest
from playwright.sync_api import Error, TimeoutError

MOST = 3
LISTED = Path(__file__).with_name("second_tries.txt")
AGAIN = "BASILICA_SECOND_TRY"
"""In the environment of a second try: the folder of the traces."""


class WaitedTooLong(AssertionError):
    """Something did not come to hold in time."""


def only_waited(error: BaseException) -> bool:
    """Whether a test failed because a wait timed out, and not because of what was there."""
    if isinstance(error, TimeoutError | WaitedTooLong):
        return True
    # What `expect` looked for was not on the page at all.
    absent = "element(s) not found" in str(error) and "with timeout" in str(error)
    return isinstance(error, AssertionError) and absent and not isinstance(error, Error)


_failed: dict[str, bool] = {}
"""The tests that failed, and whether each only waited too long."""


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item, call: pytest.CallInfo[None]) -> Iterator[None]:
    report = yield
    if call.excinfo is not None and not call.excinfo.errisinstance(pytest.skip.Exception):
        item.stash[FAILED] = True
        report.user_properties.append(("only waited", only_waited(call.excinfo.value)))
    return report


FAILED = pytest.StashKey[bool]()
"""On a test: that it failed."""


def pytest_runtest_logreport(report: pytest.TestReport) -> None:
    if report.failed:
        waited = bool(dict(report.user_properties).get("only waited"))
        _failed[report.nodeid] = waited and _failed.get(report.nodeid, True)


@pytest.hookimpl(trylast=True)
def pytest_sessionfinish(session: pytest.Session) -> None:
    is_worker = hasattr(session.config, "workerinput")
    if is_worker or AGAIN in os.environ or not _failed or len(_failed) > MOST or not all(_failed.values()):
        return
    listed = Path(os.environ.get("BASILICA_SECOND_TRIES", LISTED))
    for test in _failed:
        print(f"\nOnce more, since it only waited too long: {test}", flush=True)
        words = [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", test]
        traces = session.config.rootpath / "build" / "traces"
        if subprocess.run(words, cwd=session.config.rootpath, env={**os.environ, AGAIN: str(traces)}).returncode:
            return
    for test in _failed:
        with listed.open("a", encoding="utf-8") as file:
            file.write(f"{datetime.now(UTC):%Y-%m-%d} {test}\n")
        print(f"Passed on the second try: {test}", flush=True)
    session.exitstatus = pytest.ExitCode.OK
