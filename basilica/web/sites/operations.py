"""What is done to sites as a whole: made, renamed, duplicated, archived, deleted."""

from __future__ import annotations

import re
from typing import NamedTuple

from flask import Response, redirect, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.compile import compile_map
from basilica.core.exchange import blank_map, map_of, read_list_or_table, site_section
from basilica.core.map.document import read
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.plan.content_links import Contents
from basilica.core.rules.limits import SITE_NAME_CHARACTERS
from basilica.store.folders import read_source
from basilica.web.answers import answered
from basilica.web.context import services
from basilica.web.demo import DEMO, DEMO_NAME
from basilica.web.forms import InvalidForm
from basilica.web.map.view_model import shown_list
from basilica.web.sites.answers import ListedSite
from basilica.web.sites.forms import Archive, DecideFolder, Delete, ListOfPages, NewSite, Rename
from basilica.web.values import body

_UNREADABLE = ("not-utf8", "not-text", "too-large", "map-empty")


class Start(NamedTuple):
    """What a new site begins with."""

    name: str
    text: str
    note: str
    contents: Contents = {}  # noqa: RUF012
    files: Files = NO_FILES


def make() -> BaseResponse:
    """Make a site: blank, from a list, from the demo, or from an uploaded map."""
    form = NewSite.sent()
    start = {"upload": _uploaded, "list": _listed, "demo": _demo}.get(form.start.data, _blank)(form)
    record = services().store.make(start.name, start.text, start.contents, start.note, files=start.files)
    return redirect(url_for("map.show", slug=record.slug), 303)


def rename(slug: str) -> BaseResponse:
    """Another name in the list."""
    services().store.rename(slug, Rename.sent().name.data)
    return redirect(url_for("sites.show", slug=slug), 303)


def decide_folder(slug: str) -> BaseResponse:
    """What becomes of a site whose folder is gone, or is another than before."""
    services().sites.decide_folder(slug, DecideFolder.sent().decided.data)
    return redirect(url_for("map.show", slug=slug), 303)


def duplicate(slug: str) -> BaseResponse:
    """A copy of the current site."""
    copy = services().store.duplicate(slug, f"{services().store.summary(slug).name}, a copy")
    return redirect(url_for("sites.show", slug=copy.slug), 303)


def archive(slug: str) -> BaseResponse:
    """Out of the list, or back into it."""
    archived = Archive.sent().archive.data == "yes"
    services().store.archive(slug, archived)
    return redirect(url_for("sites.archived") if archived else url_for("sites.show", slug=slug), 303)


def delete(slug: str) -> BaseResponse:
    """Delete a site permanently, once its name is typed. Only a site that was archived can be."""
    name = services().store.summary(slug).name
    if Delete.sent().name.data != name:
        raise InvalidForm(f"{name} was not deleted: what was typed is not its name.")
    services().store.delete(slug)
    return redirect(url_for("sites.archived"), 303)


def show_list() -> Response:
    """The map that a list makes, with the plan of it, before the site is made."""
    sent = body(ListOfPages)
    items, findings = read_list_or_table(sent.list)
    text, more = map_of(items, site_section(_printable(sent.name[:SITE_NAME_CHARACTERS]) or "Untitled site"))
    return answered(ListedSite(empty=not items, shown=shown_list(None, text, items, findings + more)))


def _blank(form: NewSite) -> Start:
    if not form.name.data:
        raise InvalidForm("Give the site a name.")
    return Start(form.name.data, blank_map(_printable(form.name.data)), "Begun")


def _listed(form: NewSite) -> Start:
    items, _ = read_list_or_table(form.list.data)
    if not items:
        raise InvalidForm("The list has no lines. Write one page a line.")
    if not form.name.data:
        raise InvalidForm("Give the site a name.")
    text, _ = map_of(items, site_section(_printable(form.name.data)))
    return Start(form.name.data, text, "Import a list")


def _demo(form: NewSite) -> Start:
    source = read_source(DEMO)
    return Start(form.name.data or DEMO_NAME, source.map.decode(), "From the demo", source.contents, source.files)


def _uploaded(form: NewSite) -> Start:
    file = form.file.data
    if not file:
        raise InvalidForm("Choose a file to upload.")
    data = file.read()
    _, findings = read(data)
    for finding in findings:
        if finding.code in _UNREADABLE:
            raise InvalidForm(f"{file.filename} was not taken: {finding.message} {finding.remedy}")
    text = data.decode("utf-8-sig")
    plan = compile_map(text).plan
    if plan is None and not re.search(r"^pages\s*:", text, re.MULTILINE):
        raise InvalidForm(
            f"{file.filename} is text, but it is not a page map: it has no `pages:`. "
            "Choose a map, or begin with a blank site and paste the text there."
        )
    own = plan.site.name if plan and plan.site.named else ""
    stem = (file.filename or "").rpartition("/")[2].rpartition(".")[0]
    return Start(form.name.data or own or stem or "Uploaded site", text, "As it was uploaded")


def _printable(name: str) -> str:
    return "".join(character for character in " ".join(name.split()) if character.isprintable())
