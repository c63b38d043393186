"""The one way through: the text of a map is compiled, its site is built, and what was built is verified."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property

from basilica.core.findings import RULES, CheckResults, run_checks
from basilica.core.findings.levels import CheckLevels, level_findings
from basilica.core.findings.on_plan import plan_findings
from basilica.core.findings.on_plan.content_findings import content_findings
from basilica.core.map.document import Document, read
from basilica.core.map.map_files import NO_FILES, PUBLIC, Files
from basilica.core.map.site import resolve
from basilica.core.outputs.compression import with_copies
from basilica.core.outputs.output_formats import SITE, OutputFormat
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan, make_plan
from basilica.core.plan.content_links import Contents
from basilica.core.rules.finding import Finding, in_order
from basilica.core.shared.output_file import File
from basilica.core.site_reader import read_site


@dataclass(frozen=True, slots=True)
class Compiled:
    """What became of a map's text: the plan, if one could be made, and every finding so far."""

    document: Document
    plan: Plan | None
    findings: tuple[Finding, ...]
    files: Files = NO_FILES
    """Those beside the map."""

    @property
    def stops(self) -> bool:
        """Whether a finding refuses a build."""
        return self.plan is None or any(finding.stops for finding in self.findings)


def compile_map(source: str | bytes, files: Files = NO_FILES) -> Compiled:
    """Read the text of a map, resolve it with the files beside it, and plan it. Never raises for any input."""
    document, findings = read(source)
    site, more = resolve(document, files)
    if site is None:
        return Compiled(document, None, in_order(findings + more), files)
    plan = make_plan(site)
    found = findings + more + plan_findings(plan)
    if site.checks.levels or any(
        page.options.extra.ignored for page in site.pages.values() if page.set_options is not None
    ):
        found = CheckLevels(site).settle(found + level_findings(site, RULES))
    return Compiled(document, plan, in_order(found), files)


@dataclass(frozen=True)
class Build:
    """The files of a build and what is off from the text to the files: what was found while the map was read and the
    pages were made, and what was found on these read again. There are no files without a plan."""

    files: tuple[File, ...]
    of_stages: tuple[Finding, ...]
    results: CheckResults | None = None

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """Every finding; of one check only so many one by one."""
        return in_order(self.of_stages + (self.results.findings() if self.results is not None else ()))

    @property
    def all_findings(self) -> tuple[Finding, ...]:
        """Every finding, one by one."""
        return in_order(self.of_stages + (self.results.findings(None) if self.results is not None else ()))

    @property
    def stops(self) -> bool:
        """Whether a finding says that these files must not be handed out."""
        return any(finding.stops for finding in self.findings)


def build(
    compiled: Compiled, contents: Contents, step: Callable[[], None] = lambda: None, drafts: bool = False
) -> Build:
    """Build a compiled map, with its ``drafts`` where these are asked for, calling ``step`` after each file that was
    rendered, and again after each that was read back. What ``step`` raises ends the build. A map that stops a build
    gives findings alone."""
    if compiled.plan is None or compiled.stops:
        return Build((), compiled.findings)
    renderer = renderer_of(compiled, contents, drafts)
    files = []
    for file in renderer.files():
        files.append(file)
        step()
    results = verify(_stepped(files, step), compiled.plan, contents)
    return Build(tuple(files), stage_findings(compiled, contents, renderer), results)


def renderer_of(compiled: Compiled, contents: Contents, drafts: bool = False) -> Renderer:
    """What renders the pages of a compiled map. Raises ``ValueError`` for a map that stops a build."""
    if compiled.plan is None or compiled.stops:
        raise ValueError("a map with errors has no pages")
    return Renderer(compiled.plan, contents, drafts=drafts)


def stage_findings(compiled: Compiled, contents: Contents, renderer: Renderer | None = None) -> tuple[Finding, ...]:
    """What was found from the text of the map to the content of its pages; with the ``renderer`` that made the pages,
    also what it met."""
    if compiled.plan is None or compiled.stops:
        return compiled.findings
    found = content_findings(compiled.plan, contents) + (renderer.findings() if renderer is not None else ())
    return in_order(compiled.findings + CheckLevels(compiled.plan.site).settle(found))


def verify(files: Iterable[File], plan: Plan, contents: Contents) -> CheckResults:
    """Read every built file again and run every check on what is there.

    ``files`` is what was written, such as the files of a folder; ``plan`` and ``contents`` say what should be.
    A finding points into the content file that brought it up, where there is one, and else at the page's line in
    the map.
    """
    return run_checks(read_site(files, plan, contents))


def outputs(
    built: Build,
    compiled: Compiled,
    contents: Contents,
    kinds: Iterable[OutputFormat],
    compress: bool = False,
    step: Callable[[], None] = lambda: None,
) -> tuple[File, ...]:
    """The files of some outputs of a site that was built, each below a folder of its name where there are several;
    ``compress`` adds precompressed copies, and ``step`` is called after each file. Nothing where something stops the
    build."""
    if compiled.plan is None or built.stops:
        return ()
    chosen = tuple(kinds)
    renderer = Renderer(compiled.plan, contents)
    public = frozenset(compiled.files.under(PUBLIC))
    found: list[File] = []
    for kind in chosen:
        files = _stepped(built.files if kind is SITE else kind.files(renderer), step)
        folder = f"{kind.name}/" if len(chosen) > 1 else ""
        found += [File(folder + file.path, file.data) for file in (with_copies(files, public) if compress else files)]
    return tuple(found)


def steps(plan: Plan, drafts: bool = False) -> int:
    """How many steps the build of a plan takes."""
    return 2 * Renderer(plan, {}, drafts=drafts).count


def _stepped(files: Iterable[File], step: Callable[[], None]) -> Iterator[File]:
    for file in files:
        yield file
        step()
