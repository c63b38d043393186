"""What the test command does with tests of the browser that only waited too long."""

from __future__ import annotations

import os
import subprocess
import sys
from collections import Counter
from pathlib import Path

import pytest

from tests.browser.second_try import LISTED

HOOKS = """from tests.browser.second_try import pytest_runtest_logreport, pytest_runtest_makereport
from tests.browser.second_try import pytest_sessionfinish
"""
WAITS = """from pathlib import Path
import pytest
from playwright.sync_api import TimeoutError
@pytest.mark.parametrize("number", range({count}))
def test_waits(number):
    met = Path(__file__).with_name(f"met-{{number}}")
    if {always} or not met.exists():
        met.touch()
        raise {error}
"""


@pytest.mark.long
@pytest.mark.parametrize(
    ("count", "always", "error", "passes"),
    [
        (1, False, "TimeoutError('it took too long')", True),
        (3, False, "AssertionError('Actual value: None element(s) not found, with timeout 9ms')", True),
        (4, False, "TimeoutError('it took too long')", False),
        (1, True, "TimeoutError('it took too long')", False),
        (1, False, "AssertionError('wrong value')", False),
    ],
)
def test_what_only_waited_is_run_once_more(tmp_path: Path, count: int, always: bool, error: str, passes: bool) -> None:
    (tmp_path / "pytest.ini").write_text("[pytest]\n")
    (tmp_path / "conftest.py").write_text(HOOKS)
    (tmp_path / "test_it.py").write_text(WAITS.format(count=count, always=always, error=error))
    listed = tmp_path / "listed.txt"
    root = Path(__file__).parent.parent
    done = subprocess.run(
        [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", "test_it.py"],
        cwd=tmp_path,
        env={**os.environ, "PYTHONPATH": str(root), "BASILICA_SECOND_TRIES": str(listed)},
        capture_output=True,
        text=True,
        timeout=300,
    )
    assert (done.returncode == 0) == passes, done.stdout
    assert (len(listed.read_text().splitlines()) if listed.exists() else 0) == (count if passes else 0)


def test_nothing_passed_on_the_second_try_twice() -> None:
    """What did is mended before anything else, and its lines are removed."""
    tests = [line.partition(" ")[2] for line in LISTED.read_text().splitlines()]
    assert [test for test, times in Counter(tests).items() if times > 1] == []
