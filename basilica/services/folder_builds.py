"""From a folder's map to a built folder, proved before it takes the old one's place."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from functools import partial
from pathlib import Path

from basilica.core.build import check_pages, renderer_of
from basilica.core.compile import Compiled, compile_map
from basilica.core.outputs.compression import with_copies
from basilica.core.outputs.output_formats import SITE, OutputFormat
from basilica.core.rules.finding import Finding, in_order
from basilica.core.shared.output_file import File
from basilica.store.build_folder import BuildFolder, FolderChanges
from basilica.store.errors import UsageError
from basilica.store.folders import Source, read_files


@dataclass(frozen=True, slots=True)
class Built:
    """What became of a build: every finding, and how many files were put in place (0 where it was stopped). ``left``
    are files in the folder that Basilica did not write, which are as they were."""

    compiled: Compiled
    findings: tuple[Finding, ...]
    files: int
    left: tuple[str, ...] = ()
    changes: FolderChanges | None = None
    """What became of a folder that was built before."""
    copies: Path | None = None
    """The folder with copies of what was written over."""


Step = Callable[[str, int], Callable[[], None]]
"""Given what begins and how many steps it has, a function to call after each."""


def build_folder(
    source: Source,
    out: Path,
    force: bool,
    step: Step = lambda what, total: lambda: None,
    drafts: bool = False,
    kind: OutputFormat = SITE,
    compress: bool = False,
) -> Built:
    """Build the site of ``source`` into ``out``, with its ``drafts`` where these are asked for, or make another output
    of it: write it beside, and bring it in if nothing stops it. The static site is read again before that; for another
    output it is made and read in memory. ``compress`` adds precompressed copies. Raises ``UsageError`` where
    ``out`` may not be replaced or cannot be written to."""
    compiled = compile_map(source.map, source.files)
    findings = source.findings + compiled.findings
    if compiled.plan is None or any(finding.stops for finding in findings):
        return Built(compiled, in_order(findings), 0)
    renderer = renderer_of(compiled, source.contents, drafts)
    count = 0
    public = frozenset(source.files.public)

    def counted(files: Iterable[File]) -> Iterator[File]:
        nonlocal count
        for file in with_copies(files, public) if compress else files:
            count += 1
            yield file

    try:
        with BuildFolder(out, force, source.places) as made:
            built: Callable[[], Iterable[File]] = renderer.files
            if kind is SITE:
                made.write(counted(renderer.files()), step("Building", renderer.count))
                built = partial(read_files, made.folder)
            checked = check_pages(compiled, source.contents, renderer, built, step("Reading again", renderer.count))
            findings = source.findings + checked.findings
            if any(finding.stops for finding in findings):
                return Built(compiled, in_order(findings), 0)
            if kind is not SITE:
                made.write(counted(kind.files(renderer)), lambda: None)
            made.keep()
    except OSError as error:
        raise UsageError(f"{error.filename or out} cannot be written: {error.strerror}.") from error
    return Built(compiled, in_order(findings), count, made.left, made.changes, made.copies)
