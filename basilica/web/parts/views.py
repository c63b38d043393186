"""The Parts workspace: a page drawn as the areas that its parts fill, each part with where it shows, and the files."""

from __future__ import annotations

from collections.abc import Callable

from flask import Blueprint, Response, current_app, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.content import layouts_of
from basilica.core.content.layouts import plain_layout
from basilica.core.edits import Command, EditRejected
from basilica.core.edits.commands.fill_slot import FillSlot
from basilica.core.edits.commands.make_part import MakePart
from basilica.core.edits.commands.set_part import SetPart
from basilica.core.edits.part_changes import part_words, written_value
from basilica.core.map.map_files import FOLDERS, is_file_name, problem_with
from basilica.core.map.schema.part_words import IDENTITY, KINDS, PART
from basilica.core.map.site.part_reader import part_names
from basilica.core.rules.finding import Finding
from basilica.store.records import Conflict, SiteRecord
from basilica.web.context import previews, site_services
from basilica.web.downloads import download
from basilica.web.parts.view_model import TITLES, areas, idle_slots, used_on

blueprint = Blueprint("parts", __name__, template_folder="templates", url_prefix="/sites/<slug>/parts")

TEXTS = (".md", ".html", ".css", ".js", ".mjs", ".svg", ".csv", ".json", ".yaml", ".txt", ".tsv")
"""Files that can be written in here."""
_MEANINGS = {word.name: word for word in PART}
_STILL = " What you typed is still here."


@blueprint.get("")
def show(slug: str) -> str:
    """A page as areas, and a part or a file of the newest good text."""
    return _page(site_services().open(slug))


@blueprint.post("")
def write(slug: str) -> BaseResponse | tuple[str, int]:
    """Write the words of a part that were changed into the map, all of them or none."""
    name = request.form.get("part", "")
    words = [word for word in request.form.getlist("word") if word in _MEANINGS or word in ("text", "html")]
    submitted = {word: request.form.get(f"own-{word}", "") for word in words}

    def edits(site: SiteRecord) -> list[Command]:
        plan = site_services().good_plan(site)
        part = plan.site.parts.get(name) if plan else None
        if part is None:
            raise EditRejected(f"There is no part `{name}` any more.")
        now = {word: part.text if word in ("text", "html") else part.value(word) for word in part_words(part)}
        found: list[Command] = []
        for word, value in submitted.items():
            if word in now and written_value(word, value) != written_value(word, now[word]):
                found.append(SetPart(name, word, value))
        return found

    return _do(slug, edits, {"part": name}, typed=submitted)


@blueprint.post("/new")
def make(slug: str) -> BaseResponse | tuple[str, int]:
    """A new part of a kind, with the word that it cannot be without."""
    name, kind = request.form.get("name", "").strip(), request.form.get("kind", "text")
    return _do(slug, lambda site: [MakePart(name, kind, request.form.get("needed", ""))], {"part": name})


@blueprint.post("/slot")
def fill(slug: str) -> BaseResponse | tuple[str, int]:
    """Say what fills a slot, everywhere or from one page on down."""
    slot, parts = request.form.get("slot", "").strip(), request.form.get("parts", "")
    key = request.form.get("page", "") if request.form.get("for") == "page" else None
    return _do(slug, lambda site: [FillSlot(slot, parts, key)], {"slot": slot})


@blueprint.post("/file")
def save_file(slug: str) -> BaseResponse | tuple[str, int]:
    """Save the text of a file."""
    name, text = request.form.get("file", ""), request.form.get("text", "").replace("\r\n", "\n")
    if not is_file_name(name) or not name.endswith(TEXTS):
        return _page(site_services().open(slug), f"`{name[:80]}` is no name that a file here can have.", text=text), 422
    return _put(slug, name, text.encode(), request.form.get("was"), text)


@blueprint.post("/upload")
def upload(slug: str) -> BaseResponse | tuple[str, int]:
    """Put files that were uploaded beside the map."""
    folder = request.form.get("folder", "files")
    services = site_services()
    files = [file for file in request.files.getlist("file") if file.filename]
    if not files:
        return _page(services.open(slug), "Choose a file to upload."), 422
    name = ""
    for file in files:
        plain = (file.filename or "").replace("\\", "/").rpartition("/")[2].replace(" ", "-")
        name, data = f"{folder}/{plain}", file.read()
        problem = problem_with(name, data, services.files(services.sites.get(slug)))
        if problem:
            return _page(services.open(slug), problem), 422
        services.put_file(slug, name, data, None)
    return redirect(url_for("parts.show", slug=slug, file=name), 303)


@blueprint.post("/remove")
def remove(slug: str) -> BaseResponse | tuple[str, int]:
    """Take a file away."""
    name = request.form.get("file", "")
    return _put(slug, name, None, request.form.get("was"), "")


@blueprint.get("/file/<path:name>")
def file(slug: str, name: str) -> Response | tuple[str, int]:
    """A file as it is, to be kept and not to be shown: it is never a page of this application."""
    services = site_services()
    files = services.files(services.sites.get(slug))
    if name not in files:
        return render_template("error.html", code=404, message="There is no such file beside the map."), 404
    return download(files[name], name.rpartition("/")[2])


def _put(slug: str, name: str, data: bytes | None, was: str | None, text: str) -> BaseResponse | tuple[str, int]:
    services = site_services()
    problem = problem_with(name, data or b"", services.files(services.sites.get(slug)))
    if problem:
        return _page(services.open(slug), problem, text=text), 422
    try:
        services.put_file(slug, name, data, was)
    except Conflict as error:
        return _page(error.current, "This file was changed from elsewhere." + _STILL, text=text), 409
    chosen = {"file": name} if data is not None else {}
    return redirect(url_for("parts.show", slug=slug, **chosen), 303)  # type: ignore[arg-type]


def _do(
    slug: str,
    edits: Callable[[SiteRecord], list[Command]],
    chosen: dict[str, str],
    typed: dict[str, str] | None = None,
) -> BaseResponse | tuple[str, int]:
    """Do edits to the text, all of them or none."""
    services = site_services()
    site = services.open(slug)
    compiled = services.compiled(site.text, site)
    if compiled.plan is None or compiled.stops:
        return _page(site, "The map has errors, so nothing was written." + _STILL, typed), 422
    text = site.text
    try:
        text = services.edit(site, text, *edits(site)).text
        if text != site.text:
            services.save(slug, text, request.form.get("revision", -1, type=int), True)
    except EditRejected as refused:
        return _page(site, str(refused) + _STILL, typed), 422
    except Conflict:
        message = "The site was changed meanwhile, so nothing was written." + _STILL
        return _page(services.open(slug), message, typed), 409
    page = request.form.get("page") or None
    return redirect(url_for("parts.show", slug=slug, page=page, **chosen), 303)  # type: ignore[arg-type]


def _page(site: SiteRecord, problem: str = "", typed: dict[str, str] | None = None, text: str | None = None) -> str:
    services = site_services()
    plan = services.good_plan(site)
    files = services.files(site)
    contents = services.sites.contents(site.slug)
    submitted = {**request.args.to_dict(), **({} if request.method == "GET" else request.form.to_dict())}
    key = submitted.get("page")
    if plan and (key not in plan.routes or plan.routes[key].is_backend):
        key = plan.site.home
    name, file = submitted.get("part", ""), submitted.get("file", "")
    findings: tuple[Finding, ...] = services.read(site.text, contents, site).findings
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
        current=not services.compiled(site.text, site).stops,
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
        meanings=_MEANINGS,
        hint=_hint,
        titles=TITLES,
        part_words=part_words,
        root=f"{current_app.config['PREVIEW_ORIGIN']}/{previews().open(site.slug)}",
        **shown,
    )


def _hint(word: str) -> str:
    """What a word is for, without the kinds that have it."""
    meaning = _MEANINGS[word].meaning.rpartition("`: ")[2].replace("`", "")
    return meaning[:1].upper() + meaning[1:]
