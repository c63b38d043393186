"""The one way through: the text of a map is compiled, its site is built, and what was built is verified."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from basilica.core.findings import RULES, CheckResults, run_checks
from basilica.core.findings.levels import CheckLevels, level_findings
from basilica.core.findings.on_plan import plan_findings
from basilica.core.findings.on_plan.content_findings import content_findings
from basilica.core.findings.on_plan.language_findings import same_texts
from basilica.core.map.document import Document, read
from basilica.core.map.languages import contents_in, document_in, included_in, languages_of
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.map.site import Entry, EntryKind, resolve
from basilica.core.map.site.site_rules import DRAFT_ENTRY
from basilica.core.outputs.compression import with_copies
from basilica.core.outputs.output_formats import SITE, OutputFormat
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan, every_language, make_plan, other_languages
from basilica.core.plan.content_links import Contents
from basilica.core.plan.plan_rules import LANGUAGE_NOT_BUILT, TEMPLATE_UNUSABLE
from basilica.core.rules.finding import Finding, Findings, in_order
from basilica.core.rules.place import START, Place
from basilica.core.shared.output_file import File
from basilica.core.site_reader import SiteReader, read_site


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
    tags = languages_of(document)
    if tags:
        site, more = resolve(
            document_in(document, tags[0], tags, files), files, in_language=included_in(tags[0], tags, files)
        )
    else:
        site, more = resolve(document, files)
    if site is None:
        return Compiled(document, None, in_order(findings + more), files)
    plan = make_plan(site)
    found = findings + more + plan_findings(plan)
    if tags and site.languages:
        plan, others = _in_languages(document, plan, files, found)
        found = _for_other_languages(plan, found) + others
    if site.checks.levels or any(
        page.options.extra.ignored for page in site.pages.values() if page.set_options is not None
    ):
        found = CheckLevels(site).settle(found + level_findings(site, RULES))
    return Compiled(document, plan, in_order(found), files)


_OF_DRAFTS = frozenset(["draft-entry", "draft-linked", "hidden-entry", "highlight-nowhere", "empty-group"])
"""What is said of drafts, which pages without a translation are not to anybody."""


def _in_languages(
    document: Document, plan: Plan, files: Files, known: tuple[Finding, ...]
) -> tuple[Plan, tuple[Finding, ...]]:
    """A plan with those of the other languages, and what was found in these alone."""
    plans: dict[str, Plan] = {}
    tags = plan.site.languages
    plans[tags[0]] = plan = replace(plan, languages=plans)
    said = {(finding.code, finding.line, finding.column, finding.file) for finding in known}
    found: list[Finding] = []
    for tag in tags[1:]:
        beside = files.in_language(tag)
        site, more = resolve(document_in(document, tag, tags, files), beside, tag, included_in(tag, tags, files))
        if site is None or site.home is None or site.pages[site.home].options.draft:
            at = plan.site.lines.place(plan.site.pages[plan.site.home].at) if plan.site.home else START
            message = f"Nothing is built in `{tag}`: the home page has no title in it."
            found.append(Finding(LANGUAGE_NOT_BUILT, message, LANGUAGE_NOT_BUILT.remedy, at.line, at.column))
            continue
        menus = {name: replace(menu, entries=_filled(menu.entries)) for name, menu in site.menus.items()}
        plans[tag] = other = replace(make_plan(replace(site, menus=menus)), languages=plans)
        for finding in (*more, *plan_findings(other)):
            place = finding.code, finding.line, finding.column, finding.file
            if place not in said and finding.code not in _OF_DRAFTS:
                found.append(replace(finding, message=f"In `{tag}`: {finding.message}"))
    elsewhere = {old.address for other in plans.values() if other is not plan for old in other.redirects}
    if elsewhere:  # an old address below `redirects` leads to the page in its own language, if that is there
        own = tuple(old for old in plan.redirects if old.address not in elsewhere)
        plans[tags[0]] = plan = replace(plan, redirects=own)
    return plan, tuple(found)


def _for_other_languages(plan: Plan, found: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Findings without those that entries are left out whose pages are there in another language."""
    there = {key for key in plan.drafts if plan.there_in(key)}

    def places(entries: tuple[Entry, ...]) -> Iterator[Place]:
        for entry in entries:
            if entry.page in there:
                yield plan.site.lines.place(entry.at)
            yield from places(entry.items)

    silent = {place for menu in plan.site.menus.values() for place in places(menu.written)} if there else set()
    return tuple(
        finding
        for finding in found
        if finding.code != DRAFT_ENTRY.code or Place(finding.line, finding.column, finding.file) not in silent
    )


def _filled(entries: tuple[Entry, ...]) -> tuple[Entry, ...]:
    """Entries without the groups in which nothing is translated."""
    inside = (replace(entry, items=_filled(entry.items)) for entry in entries)
    return tuple(entry for entry in inside if entry.items or entry.kind is not EntryKind.GROUP)


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
    once = tuple(dict.fromkeys(found))  # what stands in a template is met in each language
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
