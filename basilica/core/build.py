"""A compiled map is built, and what was built is verified."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from basilica.core.compile import Compiled
from basilica.core.findings import CheckResults, run_checks
from basilica.core.findings.levels import CheckLevels
from basilica.core.findings.on_plan.content_findings import content_findings
from basilica.core.findings.on_plan.language_findings import same_texts
from basilica.core.map.languages import contents_in
from basilica.core.outputs.compression import with_copies
from basilica.core.outputs.output_formats import SITE, OutputFormat
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan, every_language, other_languages
from basilica.core.plan.content_links import Contents
from basilica.core.plan.plan_rules import TEMPLATE_UNUSABLE
from basilica.core.rules.finding import Finding, Findings, in_order
from basilica.core.shared.output_file import File
from basilica.core.site_reader import SiteReader, read_site


@dataclass(frozen=True)
class Build:
    """The files of a build and what is off from the text to the files: what was found while the map was read and the
    pages were made, and what was found on these read again. There are no files without a plan."""

    files: tuple[File, ...]
    of_stages: tuple[Finding, ...]
    results: CheckResults | None = None
    """What was found on the pages; of a site in several languages on those of the first."""
    in_others: tuple[CheckResults, ...] = ()
    """What was found on the pages in each of the other languages."""

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """Every finding; of one check only so many one by one."""
        return in_order((*self.of_stages, *(finding for each in self.of_languages for finding in each.findings())))

    @property
    def all_findings(self) -> tuple[Finding, ...]:
        """Every finding, one by one."""
        return in_order((*self.of_stages, *(finding for each in self.of_languages for finding in each.findings(None))))

    @property
    def of_languages(self) -> tuple[CheckResults, ...]:
        """What was found on the pages of each language, those of the first one first; nothing without a plan."""
        return (self.results, *self.in_others) if self.results is not None else ()

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
    checked = check_pages(compiled, contents, renderer, lambda: files, step)
    return replace(checked, files=tuple(files)) if checked.results is not None else checked


def check_pages(
    compiled: Compiled,
    contents: Contents,
    renderer: Renderer,
    files: Callable[[], Iterable[File]],
    step: Callable[[], None] = lambda: None,
) -> Build:
    """What is off with the pages that ``renderer`` made, whose ``files`` are read once for each language; ``step`` is
    called after each, the first time. Where an own template cannot be used, that alone: what then lacks on every page
    is no news."""
    assert compiled.plan is not None
    results = verify(_stepped(files(), step), compiled.plan, contents)
    in_others = tuple(verify(files(), plan, contents) for plan in other_languages(compiled.plan))
    found = stage_findings(compiled, contents, renderer)
    if any(finding.code == TEMPLATE_UNUSABLE.code for finding in found):
        return Build((), found)
    return Build((), found, results, in_others)


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
    found = tuple(
        finding
        for plan in every_language(compiled.plan)
        for finding in content_findings(plan, _own_contents(contents, plan))
    )
    found += _same_texts(compiled.plan, contents)
    for each in (renderer, *renderer.in_other_languages) if renderer is not None else ():
        found += each.findings()
    once = tuple(dict.fromkeys(found))  # a finding of a template comes up in each language
    return in_order(compiled.findings + CheckLevels(compiled.plan.site).settle(once))


def _same_texts(plan: Plan, contents: Contents) -> tuple[Finding, ...]:
    """The texts of other languages that were not translated."""
    found, tags = Findings(), plan.site.languages
    for other in other_languages(plan):
        own, first = (contents_in(contents, tag, tags) for tag in (other.site.language, tags[0]))
        same_texts(other, own, first, found)
    return found.done()


def verify(files: Iterable[File], plan: Plan, contents: Contents) -> CheckResults:
    """Read every built file again and run every check on what is there.

    ``files`` is what was written, such as the files of a folder; ``plan`` and ``contents`` say what should be.
    A finding points into the content file that brought it up, where there is one, and else at the page's line in
    the map.
    """
    return run_checks(read_site(files, plan, _own_contents(contents, plan)))


def site_readers(plan: Plan, contents: Contents) -> tuple[SiteReader, ...]:
    """What reads the files of a build again, wherever they are: one for each language, that of the first one first."""
    return tuple(SiteReader(each, _own_contents(contents, each)) for each in every_language(plan))


def _own_contents(contents: Contents, plan: Plan) -> Contents:
    return contents_in(contents, plan.site.language, plan.site.languages)


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
    public = frozenset(compiled.files.public)
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
