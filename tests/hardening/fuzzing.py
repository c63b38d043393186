"""``python -m tests.hardening.fuzzing READER SECONDS`` lets atheris look for bytes that raise, led by the branches that
it reaches. What it finds is kept in `seeds`, and tried with every run of the tests."""

from __future__ import annotations

import sys
import tempfile

import atheris

with atheris.instrument_imports(include=["basilica"]):
    from tests.hardening.readers import READERS, SEEDS


def main(reader: str, seconds: str) -> None:
    """Try bytes for so long; ends the process, with the bytes that raised among the seeds where some did."""
    with tempfile.TemporaryDirectory() as made:
        (SEEDS / reader).mkdir(exist_ok=True)
        options = {"max_total_time": seconds, "max_len": 3000, "timeout": 60, "rss_limit_mb": 4000}
        words = [f"-{name}={value}" for name, value in options.items()]
        words += [f"-artifact_prefix={SEEDS / reader}/", made, str(SEEDS / reader)]
        atheris.Setup([sys.argv[0], *words], READERS[reader])
        atheris.Fuzz()


if __name__ == "__main__":
    main(*sys.argv[1:])
