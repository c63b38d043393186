"""From a folder's map to a built folder, proved before it takes the old one's place."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from basilica.core.checks import prove
from basilica.core.compiled import Compiled, compile_map
from basilica.core.content import content_findings
from basilica.core.findings import Finding, in_order
from basilica.core.outputs.static_site import Renderer
from basilica.store.folders import Misuse, Source, Swap, read_files


@dataclass(frozen=True, slots=True)
class Built:
    """What became of a build: every finding, and how many files were put in place (0 where it was stopped)."""

    compiled: Compiled
    findings: tuple[Finding, ...]
    files: int


Step = Callable[[str, int], Callable[[], None]]
"""Given what begins and how many steps it has, a function to call after each."""


def build_folder(
    source: Source, out: Path, force: bool, step: Step = lambda what, total: lambda: None, drafts: bool = False
) -> Built:
    """Build the site of ``source`` into ``out``, with its ``drafts`` where these are asked for: write it beside, read
    it again, and exchange the two if nothing stops it. Raises ``Misuse`` where ``out`` may not be replaced or cannot be
    written to."""
    compiled = compile_map(source.map, source.files)
    findings = source.findings + compiled.findings
    if compiled.plan is None or any(finding.stops for finding in findings):
        return Built(compiled, in_order(findings), 0)
    renderer = Renderer(compiled.plan, source.contents, drafts=drafts)
    try:
        with Swap(out, force, Path(source.name)) as swap:
            swap.write(renderer.files(), step("Building", renderer.count))
            findings += renderer.findings() + content_findings(compiled.plan, source.contents)
            done = step("Reading again", renderer.count)
            files = (file for file in read_files(swap.folder) if done() is None)
            findings += prove(files, compiled.plan, source.contents)
            if any(finding.stops for finding in findings):
                return Built(compiled, in_order(findings), 0)
            swap.keep()
    except OSError as error:
        raise Misuse(f"{error.filename or out} cannot be written: {error.strerror}.") from error
    return Built(compiled, in_order(findings), renderer.count)
