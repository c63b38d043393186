"""The most memory that building, reading and checking the large site takes, in MB, one page at a time."""

from __future__ import annotations

from pathlib import Path

from basilica.core.build import verify
from basilica.core.compile import compile_map
from basilica.core.outputs.static_site import Renderer
from bench.sites import large_contents, large_map


def main() -> None:
    """Do it once, and print the peak of this process. What ``resource`` says counts that of the process before it."""
    plan, contents = compile_map(large_map()).plan, large_contents()
    assert plan is not None
    verify(Renderer(plan, contents).files(), plan, contents).findings()
    status = dict(line.split(":", 1) for line in Path("/proc/self/status").read_text().splitlines())
    print(int(status["VmHWM"].split()[0]) // 1000)


if __name__ == "__main__":
    main()
