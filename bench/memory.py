"""The most memory that building, reading and checking the large site takes, in MB, one page at a time."""

from __future__ import annotations

import resource

from basilica.core.checks import prove
from basilica.core.compiled import compile_map
from basilica.core.outputs.static_site import Renderer
from bench.sites import large_contents, large_map


def main() -> None:
    """Do it once, and print the peak of this process (Linux counts it in kB)."""
    plan, contents = compile_map(large_map()).plan, large_contents()
    assert plan is not None
    prove(Renderer(plan, contents).files(), plan, contents)
    print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1000)


if __name__ == "__main__":
    main()
