"""What is typed is saved as it is typed, kept when the person says so, and never written over unseen; what is drawn is
done to the text."""

from __future__ import annotations

from collections.abc import Mapping

from flask import Response, abort, make_response, render_template, request
from markupsafe import escape

from basilica.core.diff.deletion_impact import deletion_impact
from basilica.core.diff.merge import merge, merges_by_itself
from basilica.core.edits import EditRejected, command_from
from basilica.core.edits.commands.add_pages import AddPages
from basilica.core.edits.companion_files import check_icon, companion_changes
from basilica.core.edits.fixes import with_fixes
from basilica.core.exchange import Item, read_list_or_table
from basilica.core.exchange.list_edits import merge_list
from basilica.core.exchange.listed_pages import listed_pages
from basilica.core.plan.content_links import key_of
from basilica.core.plan.ended_addresses import moving_addresses
from basilica.core.rules.finding import Finding
from basilica.core.rules.limits import CONTENT_CHARACTERS
from basilica.services.compiled_maps import Reading
from basilica.services.site_service import ContentConflict
from basilica.store.records import Conflict, FileChange, SiteRecord, SiteSummary
from basilica.web.answers import Refusal, answered
from basilica.web.context import services
from basilica.web.map.answers import (
    CopiedContent,
    Deletion,
    Done,
    EditedText,
    ListedChanges,
    MergedTexts,
    SavedText,
    SavedVersion,
    Undone,
    UploadedIcon,
    WrittenContent,
)
from basilica.web.map.forms import (
    ApplyEdit,
    ChangedFile,
    CopyContent,
    FromList,
    Going,
    MendContent,
    Merging,
    SaveContent,
    SaveText,
    SaveVersion,
    UndoStep,
)
from basilica.web.map.view_model import drawn, facts, shown_list
from basilica.web.uploads import check_files, put_uploads
from basilica.web.values import body


def save(slug: str) -> Response:
    """Save the text as it is typed, and say what became of it."""
    sent = body(SaveText)
    try:
        changes = _file_changes(slug, sent)
        site = services().sites.type(slug, sent.text, sent.revision, sent.moves, changes, sent.words)
    except Conflict as conflict:
        if not conflict.file:
            raise
        message = f"{conflict.file} was changed meanwhile, so this was not done. Try again."
        abort(make_response(answered(Refusal(message=message, file=conflict.file)), 409))
    reading = _read(site, sent.text)
    drawing = render_template("map/_plan.html", drawing=drawn(reading.plan, sent)) if reading.good else None
    return answered(
        SavedText(
            revision=site.revision,
            saved=site.is_saved,
            folder=_folder_message(site),
            lists=render_template("map/_findings.html", site=site, reading=reading),
            status=_status(site, reading),
            drawing=drawing,
            **facts(reading, services().maps.good_plan(site)),
        )
    )


def undo(slug: str) -> Response:
    """Take the last thing that was done to the site back, wherever it was done."""
    sent = body(UndoStep)
    return answered(Undone(words=services().sites.undo(slug, sent.step, sent.others)))


def write(slug: str) -> Response:
    """Save the content of a page as it is typed."""
    sent = body(SaveContent)
    if len(sent.text) > CONTENT_CHARACTERS:
        abort(413, f"A page's text has at most {CONTENT_CHARACTERS:,} characters; this was not saved.")
    plan = services().maps.good_plan(services().store.get(slug))
    if plan is None or sent.key not in plan.site.pages:
        abort(404, "There is no such page any more. What you typed is still here; copy it.")
    try:
        site, text = services().sites.write_merged(slug, sent.key, sent.text, sent.was, typed=True)
    except ContentConflict as conflict:
        lost = conflict.merged.theirs_lost
        message = "Somebody else changed the same lines of this content since it was opened here."
        refusal = Refusal(message=message, text=conflict.theirs, merged=conflict.merged.text, lost=list(lost))
        abort(make_response(answered(refusal), 409))
    redraw = services().maps.files(site).heads != plan.site.files.heads
    return answered(
        WrittenContent(
            saved=site.is_saved,
            status=_status(site, _read(site)),
            folder=_folder_message(site),
            redraw=redraw,
            merged=text if text != sent.text else None,
        )
    )


def copy_content(slug: str) -> Response:
    """Copy the content of a page to the one that was made beside it."""
    sent = body(CopyContent)
    plan = services().maps.good_plan(services().store.get(slug))
    if plan is None or sent.key not in plan.site.pages or sent.to not in plan.site.pages:
        abort(404, "There is no such page any more, so no content was copied.")
    return answered(CopiedContent(copied=services().sites.copy_content(slug, sent.key, sent.to)))


def mend_content(slug: str) -> Response:
    """Do the fix of a finding in the text of a page."""
    sent = body(MendContent)
    site, contents = services().store.get(slug), services().store.contents(slug)
    fixes = [
        finding.fix
        for finding in services().maps.read(site.text, contents, site).findings
        if finding.fix is not None and finding.file == sent.file and finding.line == sent.line
    ]
    content = next((each for each in contents.values() if each.name == sent.file), None)
    if not fixes or content is None:
        abort(404, "The text has changed meanwhile, and what was to be fixed is not there any more.")
    services().sites.write(slug, key_of(content.name) or "", with_fixes(content.text, fixes[:1]), content.text)
    return answered(Done())


def save_version(slug: str) -> Response:
    """Keep the current site, with a short note."""
    sent = body(SaveVersion)
    site = services().sites.save_version(slug, sent.revision, sent.note)
    return answered(SavedVersion(revision=site.revision, saved=site.is_saved, status=_status(site, _read(site))))


def merging(slug: str) -> Response:
    """Mine and theirs put together where they do not meet, and both shown where they do."""
    sent, site = body(Merging), services().store.get(slug)
    merged = merge(sent.base, sent.mine, site.text)
    maps = services().maps
    clean = merges_by_itself(merged, sent.mine, site.text, lambda text: maps.compiled(text, site).stops)
    return answered(
        MergedTexts(
            text=merged.text,
            theirs=site.text,
            revision=site.revision,
            shown=render_template("map/_merge.html", merged=merged),
            clean=clean,
        )
    )


def apply_edit(slug: str) -> Response:
    """Do an edit to a text, and give it back. It is the browser that saves it, as one step that can be undone."""
    sent, site = body(ApplyEdit), services().store.get(slug)
    try:
        keeping = services().addresses.keeping(slug, sent.keep, " ".join(sent.lead.split()))
        edited = services().maps.edit(site, sent.text, command_from(sent.edit), keeping=keeping)
    except ValueError as error:
        raise EditRejected(f"This cannot be done: {error}. Nothing was changed.") from error
    return answered(
        EditedText(
            text=edited.text,
            words=edited.words,
            chosen=edited.chosen,
            moves=edited.moves(services().maps.compiled(sent.text, site)),
            ended=len(edited.ended),
            redirected=len(edited.redirected),
            files=_changed_files(site, edited.files),
        )
    )


def _changed_files(site: SiteSummary, files: Mapping[str, bytes]) -> list[ChangedFile]:
    """The files that an edit changes with the text of a map, as the browser keeps them until they are saved."""
    there = services().maps.files(site)
    return [(name, there[name].decode(), data.decode()) for name, data in files.items()]


def _file_changes(slug: str, sent: SaveText) -> dict[str, FileChange]:
    """The files that are saved with a text. Raises ``EditRejected`` or ``InvalidForm`` for those that are not."""
    changes = {
        name: FileChange(was.encode() or None, now.encode() or None)
        for name, was, now in companion_changes(sent.text, sent.files)
    }
    check_files(slug, {name: change.now for name, change in changes.items()})
    return changes


def going(slug: str) -> Response:
    """What goes with a page that is deleted: the pages under it, every link that would die, and the addresses that
    others may know."""
    sent = body(Going)
    compiled = services().maps.compiled(sent.text, services().store.get(slug))
    if compiled.plan is None or compiled.stops or sent.key not in compiled.plan.site.pages:
        raise EditRejected("This page is not there any more, or the text has errors.")
    plan = compiled.plan
    impact = deletion_impact(plan, services().store.contents(slug), sent.key)
    known = services().addresses.of(slug)
    addresses = [address for address in impact.addresses if address in known]
    shown = render_template("map/_going.html", plan=plan, going=impact, addresses=addresses)
    return answered(
        Deletion(
            shown=shown,
            edit={"edit": "delete-page", "key": sent.key},
            moving=len(moving_addresses(plan, addresses)),
        )
    )


def from_list(slug: str) -> Response:
    """What a list or a table changes, with the plan of it, before it is taken."""
    sent, site = body(FromList), services().store.get(slug)
    items, findings = read_list_or_table(sent.list)
    compiled = services().maps.compiled(sent.text, site)
    if compiled.plan is None or compiled.stops:
        raise EditRejected("The text has errors. Fix them first; nothing was changed.")
    if sent.place != "all":
        return _into_a_place(site, sent, items, findings)
    merged = merge_list(compiled, sent.text, items, frozenset(sent.declined), services().addresses.keeping(slug, True))
    count = len(merged.done)
    files = _changed_files(site, merged.files)
    return answered(
        ListedChanges(
            text=merged.text,
            empty=not count,
            moves=merged.moves,
            words=f"Imported a list: {count} {'change' if count == 1 else 'changes'}",
            shown=shown_list(site, merged.text, items, findings, merge=merged, changed=merged.files),
            files=files,
        )
    )


def _into_a_place(site: SiteRecord, sent: FromList, items: tuple[Item, ...], findings: tuple[Finding, ...]) -> Response:
    """The pages of a list, put under a page or after it; what stands there already is named and left as it is."""
    plan = services().maps.compiled(sent.text, site).plan
    if plan is None or sent.key not in plan.site.pages:
        raise EditRejected("Choose a page in the plan first.")
    pages, more = listed_pages(items)
    command = AddPages(pages, sent.key, "under" if sent.place == "under" else "after", sent.menu)
    text, words, moves = sent.text, "", []
    files: list[ChangedFile] = []
    if pages:
        try:
            edited = services().maps.edit(site, sent.text, command)
            text, words, moves = edited.text, edited.words, edited.moves(services().maps.compiled(sent.text, site))
            files = _changed_files(site, edited.files)
        except EditRejected as refused:
            return answered(ListedChanges(text=text, empty=True, shown=str(escape(refused))))
    changed = {name: now.encode() for name, _, now in files}
    there = command.already_there(plan.site)
    shown = shown_list(site, text, items, findings + more, plan, there, changed=changed)
    empty = text == sent.text and not files
    return answered(ListedChanges(text=text, empty=empty, moves=moves, words=words, shown=shown, files=files))


def own_icon_file(slug: str) -> Response:
    """An SVG file that was uploaded, put beside the map once it is known to be one that entries can have."""
    uploaded = request.files.get("icon")
    called = (uploaded.filename or "")[:60] if uploaded is not None else ""
    if uploaded is None or not called.lower().endswith(".svg"):
        raise EditRejected("Choose an SVG file; its name ends with .svg.")
    data = uploaded.read()
    check_icon(data, called)
    uploaded.seek(0)
    before = services().maps.files(services().store.summary(slug))
    (name,) = put_uploads(slug, "files", [uploaded])
    added = data.decode("utf-8", "replace") if name not in before else None
    return answered(UploadedIcon(name=name.removeprefix("files/"), added=added))


def _read(site: SiteRecord, text: str | None = None) -> Reading:
    return services().maps.read(site.text if text is None else text, services().store.contents(site.slug), site)


def _status(site: SiteRecord, reading: Reading) -> str:
    return render_template("map/_status.html", site=site, reading=reading)


def _folder_message(site: SiteRecord) -> str:
    """What is the matter with the folder of a site; empty where nothing is."""
    problem = services().sites.folder_problem(site)
    return problem.message if problem is not None else ""
