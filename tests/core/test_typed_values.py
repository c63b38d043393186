"""A type that two threads read at once for the first time does not end the program."""

from __future__ import annotations

import subprocess
import sys

import pytest

SCRIPT = """
import sys, threading, types
from basilica.core.shared.typed_values import typed
SOURCE = '''
from __future__ import annotations
import msgspec
class Window(msgspec.Struct):
    width: int = 0
    depths: list[float] = msgspec.field(default_factory=list)
class Look(msgspec.Struct):
    window: Window
    points: list[tuple[float, float]] = []
    words: dict[str, int] = {}
'''
VALUES = {"window": {"width": 1, "depths": [1.0]}, "points": [(1.0, 2.0)], "words": {"a": 1}}
sys.setswitchinterval(1e-6)
for number in range(300):
    made = sys.modules[f"made{number}"] = types.ModuleType(f"made{number}")
    exec(SOURCE, made.__dict__)
    together = threading.Barrier(6)
    def read(kind=made.Look):
        together.wait()
        assert typed(VALUES, kind).window.width == 1
    threads = [threading.Thread(target=read) for _ in range(6)]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
print("read")
"""


@pytest.mark.long
def test_threads_that_meet_a_type_at_once_read_it() -> None:
    done = subprocess.run([sys.executable, "-c", SCRIPT], capture_output=True, text=True)
    assert (done.returncode, done.stdout, done.stderr) == (0, "read\n", "")
