"""Long work: a few at a time, the newest first, never in anybody's way, and with a reason where it fails."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import suppress
from contextvars import copy_context
from functools import partial
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient
from sqlalchemy import Engine, event, func, select

from basilica.core.build import build
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.plan.content_links import Content
from basilica.services import folder_sync, site_builds
from basilica.services.all_services import Services
from basilica.services.folder_builds import build_folder
from basilica.services.job_queue import Job, JobQueue, JobState
from basilica.services.known_addresses import note_build
from basilica.services.recent import Recent
from basilica.store.contents import Moves
from basilica.store.errors import UsageError
from basilica.store.folders import read_source
from basilica.store.records import SiteRecord
from basilica.store.tables import StepRow
from basilica.store.undo_steps import KEPT, current_person
from basilica.web.app import create_app
from basilica.web.config import Config, read_config

MAP = "pages:\n  home: {path: /}\n  about: About\nmenus: {main: [home, about]}\n"
WAIT = 30
"""Seconds after which something that should come is given up; nothing waits so long when it works."""


class Gate:
    """Work that stands still until the gate is open; how much of it stands there, and in which order it came."""

    def __init__(self) -> None:
        self.open, self.came = threading.Event(), threading.Semaphore(0)
        self.order: list[str] = []
        self.inside, self.most = 0, 0
        self._lock = threading.Lock()

    def pass_through(self, name: str) -> None:
        with self._lock:
            self.order.append(name)
            self.inside += 1
            self.most = max(self.most, self.inside)
        self.came.release()
        assert self.open.wait(WAIT)
        with self._lock:
            self.inside -= 1


@pytest.fixture
def gate() -> Iterator[Gate]:
    gate = Gate()
    yield gate
    gate.open.set()


def test_two_at_a_time_and_the_newest_first(gate: Gate) -> None:
    def job(name: str) -> Job[str]:
        return Job(lambda _: gate.pass_through(name) or name)

    queue, jobs = JobQueue(2), [job(name) for name in "abcdef"]
    for each in jobs:
        queue.add(each)
    for _ in "ab":
        assert gate.came.acquire(timeout=WAIT)
    assert [each.state for each in jobs] == [JobState.RUNNING] * 2 + [JobState.WAITING] * 4
    jobs[4].stop()
    gate.open.set()
    assert [each.wait(WAIT) for each in jobs] == ["a", "b", "c", "d", None, "f"]
    assert sorted(gate.order[:2]) == ["a", "b"] and gate.order[2] == "f" and "e" not in gate.order
    assert gate.most == 2


@pytest.mark.parametrize(("error", "says"), [(KeyError("x"), "fault in Basilica"), (MemoryError(), "enough memory")])
def test_what_dies_says_why_and_lets_the_next_go_on(error: Exception, says: str) -> None:
    def die(job: Job[None]) -> None:
        job.step()
        raise error

    queue, dead, next_one = JobQueue(1), Job(die), Job(lambda _: "done")
    queue.add(dead)
    assert dead.wait(WAIT) is None and dead.state is JobState.FAILED and says in dead.reason
    queue.add(next_one)
    assert next_one.wait(WAIT) == "done"


def test_who_asks_for_the_same_waits_for_it_and_who_asks_for_other_things_does_not(gate: Gate) -> None:
    recent: Recent[str] = Recent(2)
    found: list[str] = []

    def ask() -> None:
        found.append(recent.get("slow", lambda: gate.pass_through("slow") or "made"))

    threads = [threading.Thread(target=ask) for _ in range(4)]
    for thread in threads:
        thread.start()
    assert gate.came.acquire(timeout=WAIT)
    assert recent.get("other", lambda: "at once") == "at once"
    gate.open.set()
    for thread in threads:
        thread.join(WAIT)
    assert found == ["made"] * 4 and gate.order == ["slow"]


@pytest.fixture
def opened(tmp_path: Path) -> Iterator[Services]:
    services = Services.of(tmp_path)
    for name in ("First", "Second", "Third"):
        services.store.make(name, MAP, {}, "Begun")
    yield services
    services.close()


@pytest.fixture
def client(opened: Services, tmp_path: Path) -> FlaskClient:
    app = create_app(Config(data=tmp_path), opened)
    app.config["WTF_CSRF_ENABLED"] = False
    return app.test_client()


@pytest.mark.long
def test_nobody_waits_for_the_build_of_another_site(
    client: FlaskClient, gate: Gate, monkeypatch: pytest.MonkeyPatch
) -> None:
    """While two sites are built and stand still, everything else is answered: of them, of others, and changes too."""

    def slow(*arguments: Any) -> Any:
        gate.pass_through("build")
        return build(*arguments)

    monkeypatch.setattr(site_builds, "build", slow)
    for workspace in ("checks", "output"):
        monkeypatch.setattr(f"basilica.web.{workspace}.views.PATIENCE", 0.0)
    monkeypatch.setattr("basilica.web.map.queries.PATIENCE", 0.0)
    for slug in ("first", "second"):
        assert "data-working" in client.get(f"/sites/{slug}/checks").text
        assert gate.came.acquire(timeout=WAIT)
    views = ["", "/map", "/pages", "/parts", "/header", "/preview", "/history", "/map/find?words=a", "/map/reach"]
    for slug in ("first", "third"):
        for view in views:
            assert client.get(f"/sites/{slug}{view}").status_code == 200, view
        sent = {"text": MAP + f"# of {slug}\n", "revision": 1}
        assert client.put(f"/sites/{slug}/map/text", json=sent).get_json()["revision"] == 2
        assert client.get(f"/sites/{slug}/map/proof").status_code == 202
    assert client.get("/").status_code == 200
    assert "waits until another build is done" in client.get("/sites/third/checks").text
    assert (gate.inside, gate.most) == (2, 2)
    gate.open.set()
    assert (
        client.application.extensions["services"]
        .builds.of(client.application.extensions["services"].store.get("third"))
        .wait(WAIT)
    )


def test_a_build_that_dies_says_so_where_it_was_asked_for(
    client: FlaskClient, opened: Services, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: object) -> None:
        raise ZeroDivisionError("a fault that nobody foresaw")

    monkeypatch.setattr(site_builds, "build", broken)
    opened.builds.of(opened.store.get("first")).wait(WAIT)
    for place in ("checks", "output", "checks/report.json"):
        page = client.get(f"/sites/first/{place}").text
        assert "a fault that nobody foresaw" in page and "Try again" in page and "data-working" not in page
    answer = client.get("/sites/first/map/proof")
    assert answer.status_code == 503 and "nobody foresaw" in answer.get_json()["message"]
    monkeypatch.setattr(site_builds, "build", build)
    again = client.post("/sites/first/checks/stop", data={"again": "yes"})
    assert again.headers["Location"] == "/sites/first/checks"
    assert opened.builds.of(opened.store.get("first")).wait(WAIT)


def test_where_settings_come_from(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("basilica.web.config.user_config_path", lambda _: tmp_path / "none")

    def read(text: str = "", environment: dict[str, str] | None = None, **options: object) -> Config:
        (tmp_path / "basilica.toml").write_text(text)
        return read_config(options, environment or {}, tmp_path)

    assert read() == Config() and read().data.name == "basilica"
    text = 'data = "kept"\nport = 9000\nallowed_hosts = ["mill.example"]\n'
    found = read(text, {"BASILICA_PORT": "9100", "BASILICA_OTHER": "x", "PORT": "1"}, host="::1", data=None)
    assert (found.data, found.port, found.host) == (tmp_path / "kept", 9100, "::1")
    assert found.allowed_hosts == ("mill.example",)
    assert read(text, {"BASILICA_ALLOWED_HOSTS": "a.example b.example"}).allowed_hosts == ("a.example", "b.example")
    wrong: list[tuple[Callable[[], Config], str]] = [
        (lambda: read("port = 'x'"), r"basilica.toml.*`int`.*The settings are data, host"),
        (lambda: read("prot = 1"), "prot"),
        (lambda: read("port ="), "cannot be read"),
        (lambda: read("", {"BASILICA_PORT": "many"}), "the environment"),
    ]
    for ask, says in wrong:
        with pytest.raises(UsageError, match=says):
            ask()


def test_a_slow_folder_makes_no_other_site_wait(
    opened: Services, tmp_path: Path, gate: Gate, monkeypatch: pytest.MonkeyPatch
) -> None:
    for name in ("slow", "quick"):
        (tmp_path / name).mkdir()
        (tmp_path / name / "site.yaml").write_text(MAP)
    slow, quick = (opened.folders.adopt(tmp_path / name) for name in ("slow", "quick"))
    read = folder_sync.read_source

    def stuck(path: Path) -> Any:
        if path.parent.name == "slow":
            gate.pass_through("slow")
        return read(path)

    monkeypatch.setattr(folder_sync, "read_source", stuck)
    for name in ("slow", "quick"):
        (tmp_path / name / "site.yaml").write_text(MAP + "# changed there\n")
    thread = threading.Thread(target=opened.sites.open, args=[slow.slug])
    thread.start()
    assert gate.came.acquire(timeout=WAIT)
    assert opened.sites.open(quick.slug).text.endswith("# changed there\n")
    gate.open.set()
    thread.join(WAIT)
    assert opened.store.get(slow.slug).text.endswith("# changed there\n")


def test_a_build_that_waited_while_the_site_was_changed_is_not_taken_for_one_of_the_site_as_it_was(
    opened: Services, gate: Gate
) -> None:
    def text(job: Job[site_builds.CheckedBuild]) -> bytes:
        built = job.wait(WAIT)
        assert built is not None
        return built.files["about/index.html"]

    opened.sites.write("first", "about", "Before", "")
    site, blocked = opened.store.get("first"), [Job(lambda _: gate.pass_through("others")) for _ in "ab"]
    for each in blocked:
        opened.builds._queue.add(each)
        assert gate.came.acquire(timeout=WAIT)
    waiting = opened.builds.of(site)
    opened.sites.write("first", "about", "After", "Before")
    gate.open.set()
    assert waiting.wait(WAIT) is None and waiting.is_stopped
    opened.sites.write("first", "about", "Before", "After")
    assert b"Before" in text(opened.builds.of(opened.store.get("first")))


@pytest.mark.long
def test_steps_are_taken_back_one_after_another_and_only_the_last(opened: Services) -> None:
    sites, files = opened.sites, {"files/a.txt": b"one", "files/b.txt": b"two"}

    def content() -> tuple[str, str] | None:
        there = opened.store.contents("first").get("about")
        return (there.name, there.text) if there else None

    def undo() -> None:
        step = sites.last_step(opened.store.get("first"))
        assert sites.undo("first", step.after if step else "") == (step.words if step else "")

    for texts in (("", "One"), ("One", "Two"), ("Two", "  ")):
        before = content()
        sites.write("first", "about", texts[1], texts[0], "html")
        assert content() != before
        undo()
        assert content() == before
        sites.write("first", "about", texts[1], texts[0], "html")
    sites.put_files("first", files)
    sites.put_files("first", {"files/a.txt": None, "files/b.txt": b"three"})
    undo()
    assert dict(opened.store.files("first")) == files
    undo()
    assert dict(opened.store.files("first")) == {}
    for text in ("Two", "One", ""):
        undo()
        assert (content() or ("", ""))[1] == text
    with pytest.raises(UsageError, match="changed since"):
        undo()
    sites.put_file("first", "files/a.txt", b"four", None)
    step = sites.last_step(opened.store.get("first"))
    opened.store.write("first", "about", "From elsewhere", "")
    assert step and sites.last_step(opened.store.get("first")) is None
    with pytest.raises(UsageError, match="changed since"):
        sites.undo("first", step.after)


def test_steps_outlive_the_application_and_what_is_typed_is_one_step(tmp_path: Path) -> None:
    text = "pages: {home: {path: /}, tides: Tides}\n"

    def typed(services: Services, now: str, words: str = "Typing", moves: Moves = ()) -> None:
        revision = services.store.get("mill").revision
        services.sites.type("mill", now, revision, moves, {}, words)

    first = Services.of(tmp_path)
    first.store.make("Mill", text, {}, "First")
    first.sites.write("mill", "tides", "High at noon.", "")
    for end in ("# a", "# ab", "# abc"):
        typed(first, text + end)
    moved = text.replace("tides: Tides", "water: Tides") + "# abc"
    typed(first, moved, "Renamed tides", [("tides", "water")])
    typed(first, moved + "d")
    typed(first, moved)  # what was typed is taken back by hand, so there is nothing to undo of it
    first.close()

    again = Services.of(tmp_path)
    found = []
    while step := again.sites.last_step(again.store.get("mill")):
        again.sites.undo("mill", step.after)
        site, contents = again.store.get("mill"), again.store.contents("mill")
        found.append((step.words, site.text.removeprefix(text), [*contents]))
    again.close()
    assert found == [
        ("Renamed tides", "# abc", ["tides"]),
        ("Typing", "", ["tides"]),
        ("Wrote the content of tides", "", []),
    ]


def test_what_two_people_type_one_after_the_other_are_two_steps(tmp_path: Path) -> None:
    opened = Services.of(tmp_path)
    text = "pages: {home: {path: /}}\n"
    opened.store.make("Mill", text, {}, "First")
    for who, end in (("one", "# a"), ("other", "# ab"), ("other", "# abc")):
        copy_context().run(_type_as, opened, who, text + end)
    last = opened.sites.last_step(opened.store.get("mill"))
    assert last is not None and not last.is_own  # nobody asks here
    with pytest.raises(UsageError, match="another person's: Typing"):
        opened.sites.undo("mill", last.after)
    opened.sites.undo("mill", last.after, others=True)
    assert opened.store.get("mill").text == text + "# a"
    opened.close()


def _type_as(services: Services, who: str, text: str) -> None:
    current_person.set(who)
    services.sites.type("mill", text, services.store.get("mill").revision, (), {}, "Typing")
    last = services.sites.last_step(services.store.get("mill"))
    assert last is not None and last.is_own


def test_only_so_many_steps_are_kept(tmp_path: Path) -> None:
    opened = Services.of(tmp_path)
    opened.store.make("Mill", "pages: {home: {path: /}}\n", {}, "First")
    for number in range(KEPT + 5):
        opened.sites.put_file("mill", "files/a.txt", str(number).encode(), None)
    with opened.store.database.read() as session:
        assert session.scalar(select(func.count(StepRow.id))) == KEPT
    opened.close()


@pytest.mark.long
def test_a_build_on_the_command_line_is_handed_out_too(tmp_path: Path) -> None:
    """What `basilica build` made of a folder is kept when a page is renamed in the application that has the folder."""
    folder, data = tmp_path / "mill", tmp_path / "data"
    folder.mkdir()
    (folder / "site.yaml").write_text("pages: {home: {path: /}, tides: Tides, flour: Flour}\n")
    opened = Services.of(data)
    record = opened.folders.adopt(folder.resolve())
    (folder / "site.yaml").write_text("pages: {home: {path: /}, ebb: Ebb, flour: Flour}\n")  # no version has it
    built = build_folder(read_source(folder / "site.yaml"), tmp_path / "dist", False)
    assert built.compiled.plan is not None
    note_build(tmp_path / "nothing", folder, built.compiled.plan)
    assert not (tmp_path / "nothing").exists() and "/ebb/" not in opened.addresses.of(record.slug)
    note_build(data, folder, built.compiled.plan)
    assert opened.sites.apply(record.slug, opened.sites.open(record.slug).revision, RenameId("ebb", "low")) == 1
    assert "was: /ebb/" in (folder / "site.yaml").read_text()
    opened.close()


@pytest.mark.parametrize("act", ["apply", "type", "write", "copy", "files", "undo", "restore"])
def test_an_act_is_one_transaction_with_its_step(tmp_path: Path, act: str) -> None:
    """A kill between two transactions would leave the half of it; there is none between."""
    text = "pages: {home: {path: /}, tides: Tides, hours: Hours}\n"
    services = Services.of(tmp_path)
    sites = services.sites
    made = services.store.make("Mill", text, {"tides": Content("content/tides.md", "High.")}, "First")
    files = {"tables/a.csv": b"x\n1\n", "files/b.txt": b"2"}
    if act == "undo":
        sites.apply("mill", made.revision, RenameId(key="tides", id="sea"), files=files)
    step, revision = sites.last_step(services.store.get("mill")), services.store.get("mill").revision
    commits: list[object] = []
    note = partial(list.append, commits)
    event.listen(Engine, "commit", note)
    try:
        if act == "apply":
            sites.apply("mill", revision, RenameId(key="tides", id="sea"), files=files)
        elif act == "type":
            sites.type("mill", text.replace("tides: Tides", "sea: Sea"), revision, [("tides", "sea")], {}, "Typing")
        elif act == "write":
            sites.write("mill", "hours", "Nine.", "")
        elif act == "copy":
            assert sites.copy_content("mill", "tides", "hours") == 1
        elif act == "files":
            sites.put_files("mill", files)
        elif act == "undo":
            assert step is not None
            sites.undo("mill", step.after)
            assert services.store.get("mill").text == text and not services.store.files("mill")
        else:
            sites.restore("mill", services.store.versions("mill")[0].id, revision)
    finally:
        event.remove(Engine, "commit", note)
    assert len(commits) == 1
    assert (sites.last_step(services.store.get("mill")) is None) == (act in ("undo", "restore"))
    services.close()


def test_what_fails_in_part_leaves_nothing(tmp_path: Path) -> None:
    services = Services.of(tmp_path)
    made = services.store.make("Mill", "pages: {home: {path: /}, tides: Tides}\n", {}, "First")
    wrong: dict[str, bytes | None] = {"files/a": b"1", "../b": b"2"}
    with pytest.raises(UsageError, match="cannot be the name"):
        services.sites.apply("mill", made.revision, RenameId(key="tides", id="sea"), files=wrong)

    def half() -> None:
        with services.store.database.write():
            services.store.write("mill", "tides", "x", "")
            with suppress(UsageError):
                services.store.put_files("mill", wrong)

    with pytest.raises(RuntimeError):
        half()
    assert services.store.get("mill") == made and not services.store.contents("mill")
    services.close()


def test_undo_does_not_write_over_what_came_in_between(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Between the look at the last step and the transaction that takes it back somebody else writes."""
    services = Services.of(tmp_path)
    sites, store = services.sites, services.store
    store.make("Mill", "pages: {home: {path: /}, tides: Tides}\n", {}, "First")
    sites.write("mill", "tides", "Mine.", "")
    step, change = sites.last_step(store.get("mill")), services.folders.change

    def slower(record: SiteRecord, act: Callable[[], SiteRecord]) -> SiteRecord:
        store.write("mill", "tides", "Theirs.", "Mine.")
        return change(record, act)

    monkeypatch.setattr(services.folders, "change", slower)
    assert step is not None
    with pytest.raises(UsageError, match="changed since"):
        sites.undo("mill", step.after)
    assert store.contents("mill")["tides"].text == "Theirs."
    services.close()
