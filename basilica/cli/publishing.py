"""The commands that have to do with the live site: compare, publish, live, host."""

from __future__ import annotations

import contextlib
import json
import signal
import sys
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import click

from basilica.cli.colours import echo_findings
from basilica.cli.configured import configured
from basilica.cli.progress import Steps
from basilica.core.build import Build
from basilica.core.build import build as build_in_memory
from basilica.core.build import steps as build_steps
from basilica.core.compile import Compiled, compile_map
from basilica.core.diff.line_differences import differences
from basilica.core.diff.live_differences import TITLES, LiveState, why_more
from basilica.core.diff.taking_over import take_over
from basilica.core.edits import EditRejected
from basilica.core.findings.reports import Report
from basilica.core.findings.reports.text_report import line_of
from basilica.core.plan import Plan
from basilica.core.rules.finding import Finding
from basilica.core.shared.page_encoding import as_text
from basilica.services.known_addresses import note_build
from basilica.services.live_look import LiveSite, look_at
from basilica.services.publish_file import PUBLISH_FILE, targets_beside
from basilica.services.publish_work import (
    Choices,
    PreparedPublish,
    PublishNote,
    last_changed,
    prepare,
    publish,
    published_bytes,
)
from basilica.store.blobs import digest
from basilica.store.errors import UsageError
from basilica.store.folders import Source, place_in, read_source, unread_files, write_atomically
from basilica.store.publishes import Publishes
from basilica.store.sites import Sites
from basilica.store.targets import TargetSettings, open_target

_SHOWN = 40
"""Files that a list in words names; the others are counted. JSON has all."""
MAP = click.argument("map_path", metavar="MAP", type=click.Path(path_type=Path))
TARGET = click.argument("target", required=False)
DATA = click.option(
    "--data",
    type=click.Path(path_type=Path, file_okay=False),
    help="The folder of the database, which has the history; by default in your user's data folder.",
)
FORMAT = click.option(
    "--format", "form", type=click.Choice(["text", "json"]), default="text", help="How to print: text or json."
)


def _one_target(map_path: Path, name: str | None) -> TargetSettings:
    try:
        targets = targets_beside(map_path.parent)
    except UsageError as error:
        raise click.UsageError(str(error)) from error
    if not targets:
        raise click.UsageError(
            f"There is no {PUBLISH_FILE} beside {map_path}. Write one, such as:\n\n"
            "targets:\n  live:\n    kind: folder\n    folder: ../www\n"
        )
    if name is None and len(targets) > 1:
        raise click.UsageError(f"Name the target: {', '.join(targets)}.")
    found = targets.get(name) if name is not None else next(iter(targets.values()))
    if found is None:
        raise click.UsageError(f"There is no target `{name}` in {PUBLISH_FILE}. Known: {', '.join(targets)}.")
    return found


def _compiled_and_built(map_path: Path) -> tuple[Source, Compiled, Build]:
    try:
        source = read_source(map_path)
    except UsageError as error:
        raise click.UsageError(str(error)) from error
    compiled = compile_map(source.map, source.files)
    with Steps("Building", build_steps(compiled.plan) if compiled.plan else 0) as steps:
        return source, compiled, build_in_memory(compiled, source.contents, steps.step)


def _version_of(source: Source) -> str:
    """What stands for all that a site is made of: the same for the same map, content and files."""
    contents = "".join(f"{key}\0{digest(one.text)}\0" for key, one in sorted(source.contents.items()))
    return "map " + digest(digest(source.map) + contents + str(source.files.mark))[:10]


@contextlib.contextmanager
def _log_of(data: Path | None) -> Iterator[Publishes | None]:
    """The history of publishes; None where the folder of data cannot be used, which stops no publish."""
    try:
        store = Sites(configured(data=data).data)
    except (UsageError, OSError) as error:
        click.echo(f"The history is not kept: {error}", err=True)
        yield None
        return
    try:
        yield Publishes(store.database)
    finally:
        store.close()


def _prepared(
    map_path: Path,
    settings: TargetSettings,
    built: dict[str, bytes],
    log: Publishes | None,
    unread: tuple[str, ...] = (),
) -> PreparedPublish:
    with Steps("Comparing", 0) as steps:
        return prepare(settings, built, log, steps.step, map_path.parent, unread)


def _deleting(prepared: PreparedPublish, choices: Choices) -> Choices:
    """The choices, with the number of files that may be deleted, if a person at a terminal agrees to it."""
    count = prepared.many_deletions
    if choices.deletions is not None or not count or not sys.stdin.isatty():
        return choices
    for file in prepared.found.files.of(LiveState.GONE)[:_SHOWN]:
        click.echo(f"  {file.path}")
    click.confirm(f"Delete these {count:,} live files?", abort=True)
    return replace(choices, deletions=count)


def _files_of(result: Build) -> dict[str, bytes]:
    return {file.path: file.data for file in result.files}


@click.command()
@MAP
@TARGET
@FORMAT
@DATA
@click.option("--show", metavar="FILE", help="Show what differs in one file, line by line.")
def compare(map_path: Path, target: str | None, form: str, data: Path | None, show: str | None) -> None:
    """Show how the live site at TARGET differs from a build of the map MAP. Nothing is written.

    Exit status: 0 if nothing differs, 1 if something does, 2 if they cannot be compared."""
    settings = _one_target(map_path, target)
    _, _, result = _compiled_and_built(map_path)
    built = _files_of(result)
    if not built:
        raise click.UsageError("The map has errors, so there is nothing to compare. `basilica check` lists them.")
    with _told(), _log_of(data) as log:
        prepared = _prepared(map_path, settings, built, log)
        if show is not None:
            _show(settings, built, show)
            return
    if form == "json":
        click.echo(json.dumps(_as_json(prepared), ensure_ascii=False, indent=2))
    else:
        _print(prepared)
    differs = bool(prepared.found.files.to_do or prepared.found.files.drift or prepared.found.state.unfinished)
    sys.exit(1 if differs or prepared.found.files.of(LiveState.FOREIGN) else 0)


def _show(settings: TargetSettings, built: dict[str, bytes], file: str) -> None:
    with open_target(settings) as opened:
        live = opened.read(file)
    if live is None and file not in built:
        raise click.UsageError(f"There is no `{file}`, neither in the build nor live.")
    for row in differences(as_text(live or b""), as_text(built.get(file, b""))):
        mark = {"gone": "-", "come": "+", "same": " "}.get(row.kind, "")
        click.echo(f"{mark}{row.text}" if mark else "…")


def _printable(path: str) -> str:
    """A path on one line: a control character in it, which could be a command to the terminal, as an escape."""
    return "".join(char if char.isprintable() else char.encode("unicode_escape").decode() for char in path)


def _as_json(prepared: PreparedPublish) -> dict[str, object]:
    files, state = prepared.found.files, prepared.found.state
    expected = prepared.expected
    return {
        "target": prepared.settings.name,
        "place": prepared.settings.place,
        "published": {"at": state.at, "version": state.version} if state.at else None,
        "unfinished": state.unfinished is not None,
        "undecoded": list(prepared.found.undecoded),
        "counts": {one.value: files.counts[one] for one in LiveState},
        "expected": len(expected.paths) if expected else None,
        "not-expected": {file.path: why_more(file) for file in expected.more} if expected else {},
        "files": [
            {
                "path": file.path,
                "state": file.state.value,
                "deleted-there": file.was_removed,
                "parts": prepared.parts.get(file.path, ()),
            }
            for file in files.files
            if file.state is not LiveState.SAME
        ],
    }


def _print(prepared: PreparedPublish) -> None:
    files, state = prepared.found.files, prepared.found.state
    since = f"Live since {state.at}: {state.version}." if state.at else "Nothing was published there from here."
    click.echo(f"{prepared.settings.place}\n{since}")
    if state.unfinished is not None:
        click.echo("A publish was cut off, or is on its way: publishing again completes it.")
    for kind, title in TITLES.items():
        found = files.of(kind)
        if found:
            click.echo(f"\n{title}: {len(found):,}")
        for file in found[:_SHOWN]:
            parts = prepared.parts.get(file.path, ())
            said = "deleted there by hand" if file.was_removed else ", ".join(parts)
            click.echo(f"  {_printable(file.path)}{f' ({said})' if said else ''}")
        if len(found) > _SHOWN:
            click.echo(f"  and {len(found) - _SHOWN:,} more")
    for name in prepared.found.undecoded[:_SHOWN]:
        click.echo(f"{name} has a name that is not UTF-8; it is left alone.")
    click.echo(f"\n{files.counts[LiveState.SAME]:,} the same")
    expected = prepared.expected
    if expected is not None:
        count = sum(files.counts[one] for one in (LiveState.NEW, LiveState.CHANGED, LiveState.GONE, LiveState.EDITED))
        click.echo(f"The change since the last publish touches {len(expected.paths):,} files; {count:,} differ.")
        for file in expected.more[:_SHOWN]:
            click.echo(f"  {file.path} {why_more(file)}")
        for path in expected.less[:_SHOWN]:
            click.echo(f"  {path} is live already")


@click.command("publish")
@MAP
@TARGET
@FORMAT
@DATA
@click.option("--note", default="", help="A few words for the history.")
@click.option("--dry-run", is_flag=True, help="Show what would be sent, and send nothing.")
@click.option(
    "--overwrite", multiple=True, metavar="FILE", help="Overwrite this file, which was edited there: 'visit/*'."
)
@click.option("--leave", multiple=True, metavar="FILE", help="Leave this file as it was edited there: 'visit/*'.")
@click.option(
    "--take", metavar="FILE", help="Copy this file, as it was edited there, into the content of MAP; send nothing."
)
@click.option("--remove", multiple=True, metavar="FILE", help="Delete this file, which no build made: 'old/*'.")
@click.option(
    "--delete",
    "deletions",
    type=int,
    metavar="NUMBER",
    help="Delete so many live files, if that is more than a tenth of them; without it, a terminal asks.",
)
@click.option("--despite", default="", metavar="REASON", help="Publish despite findings, for this reason.")
@click.option("--even-if-busy", is_flag=True, help="Publish even if somebody else seems to be publishing.")
@click.option("--take-back", type=int, metavar="NUMBER", help="Go back to the files of that publish.")
@click.option("--history", is_flag=True, help="List what was published to TARGET, with the numbers.")
def publish_command(
    map_path: Path,
    target: str | None,
    form: str,
    data: Path | None,
    note: str,
    dry_run: bool,
    overwrite: tuple[str, ...],
    leave: tuple[str, ...],
    take: str | None,
    remove: tuple[str, ...],
    deletions: int | None,
    despite: str,
    even_if_busy: bool,
    take_back: int | None,
    history: bool,
) -> None:
    """Publish the map MAP to TARGET, so that the live site matches a build of it.

    Exit status: 0 if the live site is right, 1 if findings or files edited there stop it, 2 if the target cannot be
    reached."""
    settings = _one_target(map_path, target)
    with _told(), _log_of(data) as log:
        if history:
            _history(log, settings, form)
            return
        if take is not None:
            _take(map_path, settings, take, log)
            return
        choices = Choices(overwrite, leave, remove, deletions)
        unread: tuple[str, ...] = ()
        plan: Plan | None = None
        if take_back is not None:
            built, said = _earlier(log, settings, take_back, note)
        else:
            source, compiled, result = _compiled_and_built(map_path)
            built, plan = _files_of(result), compiled.plan
            _stop_for(map_path, result, source.findings, despite)
            unread = unread_files(source.findings)
            said = PublishNote(_version_of(source), None, note, despite)
        prepared = _prepared(map_path, settings, built, log, unread)
        choices = _deleting(prepared, choices) if not dry_run else choices
        questions = choices.open_questions(prepared.found)
        if dry_run or questions:
            _print(prepared) if form == "text" else click.echo(json.dumps(_as_json(prepared), indent=2))
            if questions and not dry_run:
                click.echo(
                    "Nothing was sent: say of each file that was edited there whether to --overwrite or --leave it.",
                    err=True,
                )
            sys.exit(1 if questions else 0)
        with Steps("Sending", prepared.chosen(choices).count) as steps:
            done = publish(prepared, choices, said, log, None, lambda path, size: steps.step(), even_if_busy)
        if plan is not None:
            with contextlib.suppress(UsageError):
                note_build(configured(data=data).data, map_path.parent, plan)
    sent = sum(map(len, done.stages))
    if form == "json":
        click.echo(json.dumps({"sent": sent, "deleted": len(done.deleted), "version": said.version}))
    else:
        click.echo(
            f"Sent {sent:,} {'file' if sent == 1 else 'files'} to {settings.place}, and deleted {len(done.deleted):,}."
        )


def _take(map_path: Path, settings: TargetSettings, path: str, log: Publishes | None) -> None:
    """Write what was edited on the live site into the content beside the map."""
    source = read_source(map_path)
    with open_target(settings) as opened:
        live = opened.read(path)
    if live is None:
        raise UsageError(f"There is no `{path}` live.")
    was = published_bytes(log, settings.place, path)
    text = source.map.decode("utf-8", "replace")
    try:
        found = take_over(compile_map(source.map, source.files), source.contents, path, live, was, text)
    except EditRejected as rejected:
        raise UsageError(str(rejected)) from rejected
    place = map_path if found.command is not None else place_in(map_path.parent, found.name)
    for name, data in found.files.items():
        write_atomically(place_in(map_path.parent, name), data)
    if found.command is None or found.text != text:
        write_atomically(place, found.data or found.text.encode())
    places = [str(place_in(map_path.parent, name)) for name in found.files] or [str(place)]
    click.echo(f"The edit is in {' and '.join(places)} now. Compare, and publish.")


def _stop_for(map_path: Path, result: Build, of_source: tuple[Finding, ...], despite: str) -> None:
    """End where findings stop a publish, unless there is a reason to go on. Content that was not read (``of_source``)
    stops it in any case: its page would go out without it."""
    unread = [finding for finding in of_source if finding.stops]
    stops = [*unread, *(finding for finding in result.findings if finding.stops)]
    if not stops or (despite.strip() and result.files and not unread):
        return
    report = Report(str(map_path), str(map_path.parent), ())
    for finding in stops:
        echo_findings(f"{line_of(report, finding)}\n", to_errors=True)
    more = " With --despite REASON it goes out all the same." if result.files and not unread else ""
    click.echo(f"Nothing was sent: {len(stops):,} findings stop it.{more}", err=True)
    sys.exit(1)


def _history(log: Publishes | None, settings: TargetSettings, form: str) -> None:
    records = log.of_place(settings.place) if log is not None else []
    if form == "json":
        rows = [
            {"number": one.id, "at": one.published_at.isoformat(), "version": one.version, "note": one.note,
             "reason": one.reason, "files": one.summary, "can-be-taken-back": one.has_files}
            for one in records
        ]  # fmt: skip
        click.echo(json.dumps(rows, ensure_ascii=False, indent=2))
        return
    for one in records:
        click.echo(f"{one.id:>5}  {one.published_at:%Y-%m-%d %H:%M}  {one.version}  {one.summary}  {one.note}".rstrip())
    if not records:
        click.echo("Nothing was published there from this machine.")


def _earlier(
    log: Publishes | None, settings: TargetSettings, number: int, note: str
) -> tuple[dict[str, bytes], PublishNote]:
    records = {one.id: one for one in log.of_place(settings.place)} if log is not None else {}
    if log is None or number not in records or not records[number].has_files:
        raise click.UsageError(
            f"There is no publish {number} to {settings.name} to be taken back. `--history` lists them."
        )
    was = records[number]
    return log.files(number, settings.place), PublishNote(
        was.version, was.version_id, note or f"Taken back to {number}"
    )


@click.command()
@MAP
@TARGET
@FORMAT
@DATA
@click.option("--address", help="The address of the live site; by default `address` of the target.")
@click.option(
    "--authority", type=click.Path(path_type=Path), help="A file of certificates to trust in addition to the system's."
)
@click.option("--all", "every", is_flag=True, help="Fetch every file, not only the changed ones and a sample.")
def live(
    map_path: Path,
    target: str | None,
    form: str,
    data: Path | None,
    address: str | None,
    authority: Path | None,
    every: bool,
) -> None:
    """Fetch the live site over HTTP, and compare it with a build of the map MAP.

    Exit status: 0 if it is right, 1 if it is not, 2 if it cannot be reached."""
    settings = _one_target(map_path, target)
    where = address or settings.address
    if not where:
        raise click.UsageError(f"Say where the live site is read: `address` at `{settings.name}`, or --address.")
    source, compiled, result = _compiled_and_built(map_path)
    built = _files_of(result)
    if compiled.plan is None or not built:
        raise click.UsageError("The map has errors, so there is nothing to compare. `basilica check` lists them.")
    with _told(), _log_of(data) as log:
        changed = list(built) if every else last_changed(log, settings.place, built)
        with Steps("Fetching", len(changed)) as steps:
            seen = look_at(LiveSite(where, authority), compiled.plan, source.contents, built, changed, steps.step)
    if form == "json":
        rows = [
            {"what": one.what, "address": one.address, "level": str(one.level or "right"), "words": one.words}
            for one in seen.answers
        ]
        click.echo(json.dumps(rows, ensure_ascii=False, indent=2))
    else:
        for one in seen.wrong:
            click.echo(f"{one.level}: {one.what} {one.address} {one.words}")
        right = len(seen.answers) - len(seen.wrong)
        click.echo(f"{seen.fetched:,} files fetched; {right:,} of {len(seen.answers):,} answers are right.", err=True)
    sys.exit(1 if seen.fails else 0)


@click.command()
@click.argument("folder", metavar="DIR", type=click.Path(path_type=Path))
@click.option("--port", default=8003, show_default=True, help="The port of HTTP on 127.0.0.1.")
@click.option("--ssh-port", default=8022, show_default=True, help="The port of SFTP on 127.0.0.1.")
@click.option("--tls", is_flag=True, help="Use HTTPS, with a certificate made for it.")
@click.option("--with-password", is_flag=True, help="Also accept a password for the user `web`, which is asked for.")
@click.option("--slow", type=float, default=0, help="Delay every answer by this many seconds.")
@click.option("--drop-at", type=int, help="Cut the connection after this many bytes.")
@click.option("--full-at", type=int, help="Run out of space after this many bytes.")
@click.option("--refuse", multiple=True, metavar="NAME", help="Refuse to write files of this name.")
@click.option("--edit", multiple=True, metavar="FILE", help="Edit a file, as somebody would by hand.")
def host(
    folder: Path,
    port: int,
    ssh_port: int,
    tls: bool,
    with_password: bool,
    slow: float,
    drop_at: int | None,
    full_at: int | None,
    refuse: tuple[str, ...],
    edit: tuple[str, ...],
) -> None:
    """Run a small web host on this machine, to try publishing: it receives files in DIR over SFTP and serves them
    over HTTP."""
    from basilica.services.host import Host

    # No argument: those of a process can be read by everybody on the machine.
    password = click.prompt("Password", hide_input=sys.stdin.isatty()) if with_password else ""
    try:
        started = Host(folder, port, ssh_port, tls, password)
    except OSError as error:
        raise click.UsageError(f"The host cannot begin: {error.strerror or error}. Choose other ports.") from error
    with started:
        started.faults.slow, started.faults.drop_at, started.faults.full_at = slow, drop_at, full_at
        started.faults.refused = frozenset(refuse)
        try:
            for name in edit:
                started.edit(name)
        except OSError as error:
            raise click.UsageError(f"{error.filename} cannot be edited: {error.strerror}.") from error
        click.echo(f"{folder} is read at {started.address}, and sent to with this target:\n")
        click.echo("targets:\n  live:")
        for word, value in started.settings().items():
            click.echo(f"    {word}: {value}")
        if started.authority is not None:
            click.echo(
                f"\nIts certificate is signed by {started.authority}: basilica live … --authority {started.authority}"
            )
        signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
        with contextlib.suppress(KeyboardInterrupt):
            while True:
                time.sleep(3600)


@contextlib.contextmanager
def _told() -> Iterator[None]:
    try:
        yield
    except UsageError as error:
        raise click.UsageError(str(error)) from error
