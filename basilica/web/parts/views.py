"""The Parts workspace: a page drawn as the areas that its parts fill, each part with where it shows, and the files."""

from __future__ import annotations

from flask import Response, abort, current_app, render_template, request

from basilica.core.content import layouts_of
from basilica.core.content.layouts import plain_layout
from basilica.core.edits.part_changes import part_words
from basilica.core.map.map_files import FOLDERS
from basilica.core.map.schema.part_words import IDENTITY, KINDS
from basilica.core.map.site.part_reader import part_names
from basilica.core.rules.finding import Finding
from basilica.store.records import SiteRecord
from basilica.web.context import services
from basilica.web.downloads import download
from basilica.web.forms import STILL
from basilica.web.parts.forms import MEANINGS, FileText, PartWords
from basilica.web.parts.view_model import TEXTS, TITLES, areas, idle_slots, used_on


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
    typed = PartWords.unchecked().values if request.endpoint == "parts.write" else {}
    text = FileText.unchecked().text.data if request.endpoint == "parts.save_file" else None
    still = f" {STILL}" if request.endpoint not in ("parts.upload", "parts.remove") else ""
    return _page(services().sites.open(slug), problem + still, typed, text)


def _page(site: SiteRecord, problem: str = "", typed: dict[str, str] | None = None, text: str | None = None) -> str:
    plan = services().maps.good_plan(site)
    files = services().maps.files(site)
    contents = services().store.contents(site.slug)
    submitted = {**request.args.to_dict(), **({} if request.method == "GET" else request.form.to_dict())}
    key = submitted.get("page")
    if plan and (key is None or key not in plan.routes or plan.routes[key].is_backend):
        key = plan.site.home
    name, file = submitted.get("part", ""), submitted.get("file", "")
    findings: tuple[Finding, ...] = services().maps.read(site.text, contents, site).findings
    shown: dict[str, object] = {}
    if plan and key:
        used, names = used_on(plan, contents), part_names(plan.site.parts, plan.menus)
        layout = plan.assignment_of(key).layout
        shown = {
            "areas": areas(plan, contents, key),
            "used": used,
            "idle": idle_slots(plan),
            "layout": layout,
            "names": names,
            "layouts": layouts_of(files).good,
            "part": plan.site.parts.get(name),
            "known": name in names or name == IDENTITY,
        }
    return render_template(
        "parts/show.html",
        site=site,
        plan=plan,
        current=services().maps.is_good(site),
        chosen=key,
        name=name,
        file=file,
        files=files,
        folders=FOLDERS,
        texts=TEXTS,
        problem=problem,
        typed=typed or {},
        text=text,
        written=files.text(file) if file in files and file.endswith(TEXTS) else None,
        begun=plain_layout() if file.startswith("page-layouts/") else "",
        findings=[finding for finding in findings if finding.file == file] if file else [],
        kinds=KINDS,
        meanings=MEANINGS,
        hint=_hint,
        titles=TITLES,
        part_words=part_words,
        root=f"{current_app.config['PREVIEW_ORIGIN']}/{services().previews.sessions.open(site.slug)}",
        **shown,
    )


def _hint(word: str) -> str:
    """What a word is for, without the kinds that have it."""
    meaning = MEANINGS[word].meaning.rpartition("`: ")[2].replace("`", "")
    return meaning[:1].upper() + meaning[1:]
