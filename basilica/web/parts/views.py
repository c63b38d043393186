"""The Parts workspace: a page drawn as the areas that its parts fill, each part with where it shows, and the files."""

from __future__ import annotations

from flask import Response, abort, current_app, render_template, request

from basilica.core.content import layouts_of
from basilica.core.content.layouts import plain_layout
from basilica.core.edits.part_changes import part_words
from basilica.core.language.sections.part_words import IDENTITY, KINDS
from basilica.core.map.map_files import FOLDERS
from basilica.core.map.site.part_reader import part_names
from basilica.core.map.site.written_place import written_elsewhere
from basilica.core.own_templates import FOLDER as TEMPLATES
from basilica.core.own_templates import NAMES
from basilica.core.own_templates.template_set import starting
from basilica.core.own_templates.views import VALUES, documented
from basilica.core.rules.finding import Finding
from basilica.store.records import SiteRecord
from basilica.web.context import services
from basilica.web.downloads import download
from basilica.web.forms import STILL
from basilica.web.merged_form import conflicts_of
from basilica.web.parts.forms import MEANINGS, FileText, PartWords, values_of
from basilica.web.parts.view_model import TEXTS, TITLES, areas, idle_slots, used_on
from basilica.web.values import whole_number


def show(slug: str) -> str:
    """A page as areas, and a part or a file of the newest good text."""
    return _page(services().sites.open(slug))


def file(slug: str, name: str) -> Response:
    """A file as it is, to be kept and not to be shown: it is never a page of this application."""
    files = services().maps.files(services().store.summary(slug))
    if name not in files:
        abort(404, "There is no such file beside the map.")
    return download(files[name], name.rpartition("/")[2])


def refused(slug: str, problem: str) -> str:
    """The page with what was typed, and why it was not written."""
    typed = PartWords.unchecked() if request.endpoint == "parts.write" else None
    text = FileText.unchecked().text.data if request.endpoint == "parts.save_file" else None
    still = f" {STILL}" if request.endpoint not in ("parts.upload", "parts.smaller", "parts.remove") else ""
    return _page(services().sites.open(slug), problem + still, typed, text)


def _page(site: SiteRecord, problem: str = "", form: PartWords | None = None, text: str | None = None) -> str:
    plan = services().maps.good_plan(site)
    files = services().maps.files(site)
    contents = services().store.contents(site.slug)
    submitted = {**request.args.to_dict(), **({} if request.method == "GET" else request.form.to_dict())}
    key = submitted.get("page")
    if plan and (key is None or key not in plan.routes or plan.routes[key].is_backend):
        key = plan.site.home
    name, file = submitted.get("part", ""), submitted.get("file", "")
    if plan and not (name or file or submitted.get("slot")):
        name = next(iter(plan.site.parts), "header")
    findings: tuple[Finding, ...] = services().maps.read(site.text, contents, site).findings
    is_template = file.startswith(f"{TEMPLATES}/")
    proved = services().builds.soon(site) if is_template else None
    if proved is not None:
        findings = proved.build.findings
    shown: dict[str, object] = {"problem": problem}
    if plan and key:
        part = plan.site.parts.get(name)
        merged = form.merged_with(part) if form is not None and part is not None else None
        used, names = used_on(plan, contents), part_names(plan.site.parts, plan.menus)
        layout = plan.assignment_of(key).layout
        shown = {
            "areas": areas(plan, contents, key),
            "used": used,
            "idle": idle_slots(plan),
            "layout": layout,
            "names": names,
            "layouts": layouts_of(files).good,
            "part": part,
            "typed": merged.typed if merged else {},
            "conflicts": conflicts_of(merged) if merged else (),
            "problem": problem,
            "seen": merged.opened if merged else values_of(part) if part else {},
            "known": name in names or name == IDENTITY,
        }
    return render_template(
        "parts/show.html",
        site=site,
        plan=plan,
        current=services().maps.is_good(site),
        chosen=key,
        elsewhere=written_elsewhere(plan.site, key) if plan and key else None,
        name=name,
        file=file,
        files=files,
        folders=FOLDERS,
        texts=TEXTS,
        line=whole_number(submitted.get("line")),
        text=text,
        written=files.text(file) if file in files and file.endswith(TEXTS) else None,
        begun=_begun(file),
        templates=NAMES,
        template=file.removeprefix(f"{TEMPLATES}/").removesuffix(".html") if is_template else "",
        proved=proved is not None,
        sees=VALUES,
        views=documented(),
        findings=[finding for finding in findings if finding.file == file] if file else [],
        kinds=KINDS,
        meanings=MEANINGS,
        titles=TITLES,
        part_words=part_words,
        root=f"{current_app.config['PREVIEW_ORIGIN']}/{services().previews.sessions.open(site.slug)}",
        **shown,
    )


def _begun(file: str) -> str:
    """What a file begins with that is not there yet: the layout that ships, or a built-in template."""
    folder, _, name = file.partition("/")
    if folder == TEMPLATES and name.removesuffix(".html") in NAMES:
        return starting(name.removesuffix(".html"))
    return plain_layout() if folder == "page-layouts" else ""
