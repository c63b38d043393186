"""Publishing to every kind of target: what is live in the end is what was built, and what is nobody's is as it was."""

from __future__ import annotations

import os
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import keyring
import pytest
from dulwich.objects import Blob
from keyring.backend import KeyringBackend

from basilica.core.diff.live_differences import LiveState
from basilica.services.all_services import Services
from basilica.services.host import Host
from basilica.services.publish_file import targets_beside
from basilica.services.publish_work import Choices, PublishNote, prepare, publish
from basilica.services.publishing import Busy
from basilica.services.site_publishing import PublishRun
from basilica.store.errors import UsageError
from basilica.store.publishes import KEPT_PUBLISHES, NewPublish, Publishes
from basilica.store.records import NotFound
from basilica.store.sites import Sites
from basilica.store.targets import TargetProblem, TargetSettings, open_target, settings_of
from basilica.store.targets.secrets import forget_secret, remember_secret
from basilica.store.targets.sftp_target import UnknownHostKey
from tests.publish_targets import KINDS, git, target_of, tree_at

FIRST = {"index.html": b"<p>one", "visit/index.html": b"<p>visit", "assets/a.css": b"a{}", "sitemap.xml": b"<a/>"}
SECOND = {"index.html": b"<p>two", "hours/index.html": b"<p>hours", "assets/a.css": b"a{}", "sitemap.xml": b"<b/>"}


@pytest.fixture
def log(tmp_path: Path) -> Iterator[Publishes]:
    store = Sites(tmp_path / "data")
    yield Publishes(store.database)
    store.close()


def put(settings: TargetSettings, built: dict[str, bytes], log: Publishes | None, **choices: tuple[str, ...]) -> int:
    note = PublishNote(f"version of {len(built)}", note="A note")
    return publish(prepare(settings, built, log), Choices(**choices), note, log).count


def states(settings: TargetSettings, built: dict[str, bytes]) -> dict[str, LiveState]:
    found = prepare(settings, built, None).found.files.files
    return {file.path: file.state for file in found if file.state is not LiveState.SAME}


@pytest.mark.long
@pytest.mark.parametrize("kind", KINDS)
def test_what_is_live_is_what_was_built(kind: str, tmp_path: Path, log: Publishes) -> None:
    with target_of(kind, tmp_path) as (settings, live):
        assert put(settings, FIRST, log) == 4
        assert tree_at(live) == FIRST and put(settings, FIRST, log) == 0
        with open_target(settings) as target:  # somebody else's file, and an edit, past Basilica
            target.send([("CNAME", b"mill.example"), ("visit/map.gif", b"gif")], lambda path: None)
            target.finish("By hand")
        prepared = prepare(settings, SECOND, log)
        assert {file.path: file.state for file in prepared.found.files.files} == {
            "CNAME": LiveState.UNKNOWN,
            "visit/map.gif": LiveState.UNKNOWN,
            "index.html": LiveState.CHANGED,
            "sitemap.xml": LiveState.CHANGED,
            "hours/index.html": LiveState.NEW,
            "visit/index.html": LiveState.GONE,
            "assets/a.css": LiveState.SAME,
        }
        assert prepared.expected is not None
        assert len(prepared.expected.paths) == 4 and not prepared.expected.more and not prepared.expected.less
        assert put(settings, SECOND, log, removed=("visit/*",)) == 5
        assert tree_at(live) == {**SECOND, "CNAME": b"mill.example"}
        first = log.of_place(settings.place)[-1]
        earlier = log.files(first.id, settings.place)
        assert earlier == FIRST and put(settings, earlier, log) == 4  # taken back, whole
        assert tree_at(live) == {**FIRST, "CNAME": b"mill.example"}
        assert [one.summary for one in log.of_place(settings.place)] == [
            "1 new, 2 changed, 1 deleted",
            "1 new, 2 changed, 2 deleted",
            "4 new",
        ]
        if kind == "git":
            assert git("-C", str(live), "log", "--format=%s", "pages").split("\n")[:1] == ["A note"]
            assert len(git("-C", str(live), "rev-list", "pages").split()) == 4
        elif kind != "folder":
            assert not list(live.rglob("*.basilica-unfinished")) and not (live / "hours").exists()


@pytest.mark.long
@pytest.mark.parametrize("kind", KINDS)
def test_what_was_edited_there_is_never_lost_unseen(kind: str, tmp_path: Path, log: Publishes) -> None:
    with target_of(kind, tmp_path) as (settings, live):
        with open_target(settings) as target:
            target.send([("index.html", b"an old site")], lambda path: None)
            target.finish("Before")
        assert states(settings, FIRST)["index.html"] is LiveState.FOREIGN
        with pytest.raises(UsageError, match=r"such as `index\.html`"):
            put(settings, FIRST, log)
        put(settings, FIRST, log, left=("index.html",))
        assert tree_at(live)["index.html"] == b"an old site"
        put(settings, FIRST, log, overwritten=("index.html",))
        with open_target(settings) as target:
            target.send([("index.html", b"<p>by hand")], lambda path: None)
            target.delete(["assets/a.css"], lambda path: None)
            target.finish("By hand")
        prepared = prepare(settings, SECOND, log)
        assert {file.path for file in prepared.found.files.drift} == {"index.html", "assets/a.css"}
        put(settings, SECOND, log, left=("index.html",))
        assert tree_at(live) == {**SECOND, "index.html": b"<p>by hand"}
        assert states(settings, SECOND) == {"index.html": LiveState.EDITED}  # and is said again
        put(settings, SECOND, log, overwritten=("*.html",))
        assert tree_at(live) == SECOND


def test_what_may_be_overwritten_is_not_asked_again_after_a_cut(tmp_path: Path) -> None:
    with Host(tmp_path / "www") as host:
        settings = settings_of("live", host.settings())
        for path in ("index.html", "visit/index.html"):
            (tmp_path / "www" / path).parent.mkdir(exist_ok=True)
            (tmp_path / "www" / path).write_bytes(b"an old site")
        host.faults.drop_at = 4_000  # behind the note of it
        with pytest.raises(TargetProblem, match="was lost"):
            put(settings, {**FIRST, "a.pdf": bytes(9_000)}, None, overwritten=("*.html",))
        host.faults.drop_at = None
        assert states(settings, FIRST)["index.html"] is LiveState.CHANGED
        put(settings, FIRST, None)
        assert tree_at(tmp_path / "www") == FIRST


@pytest.mark.long
@pytest.mark.parametrize("kind", KINDS)
def test_a_comparison_that_is_old_is_told(kind: str, tmp_path: Path) -> None:
    """In between somebody else publishes, or edits: nothing of theirs is lost, or mixed with ours."""
    third = {**SECOND, "index.html": b"<p>three"}
    with target_of(kind, tmp_path) as (settings, live):
        put(settings, FIRST, None)
        old = prepare(settings, SECOND, None)
        put(settings, third, None)
        with pytest.raises(UsageError, match="Something else was published"):
            publish(old, Choices(), PublishNote("two"), None)
        assert tree_at(live) == third and prepare(settings, third, None).found.state.unfinished is None
        old = prepare(settings, FIRST, None)
        with open_target(settings) as target:
            target.send([("index.html", b"<p>by hand"), ("visit/index.html", b"theirs")], lambda path: None)
            target.finish("By hand")
        with pytest.raises(UsageError, match="2 files were changed there since"):
            publish(old, Choices(), PublishNote("one"), None)
        assert tree_at(live) == {**third, "index.html": b"<p>by hand", "visit/index.html": b"theirs"}


@pytest.mark.long
@pytest.mark.parametrize("kind", ["folder", "git", "sshd"])
def test_who_comes_second_is_told(kind: str, tmp_path: Path, log: Publishes) -> None:
    with target_of(kind, tmp_path) as (settings, _):
        put(settings, FIRST, log)
        prepared = prepare(settings, SECOND, log)

        def meanwhile(path: str, size: int) -> None:
            with ThreadPoolExecutor() as other, pytest.raises(Busy):
                other.submit(put, settings, FIRST, None).result()
            raise KeyboardInterrupt

        with pytest.raises(KeyboardInterrupt):
            publish(prepared, Choices(), PublishNote("two"), log, sent=meanwhile)
        assert prepare(settings, SECOND, log).found.state.unfinished is not None
        put(settings, SECOND, log)
        assert states(settings, SECOND) == {} and prepare(settings, SECOND, log).found.state.unfinished is None
        with open_target(settings) as target:  # from another machine, of which nothing can be known
            other = b'{"format":1,"at":"2026-11-01","host":"elsewhere.example","process":77,"files":{}}'
            assert target.begin(other) is None
        with pytest.raises(Busy, match="process 77 on elsewhere"):
            put(settings, FIRST, log)
        publish(prepare(settings, FIRST, log), Choices(), PublishNote("three"), log, even_if_busy=True)
        assert states(settings, FIRST) == {}


@pytest.mark.long
def test_a_branch_that_moved_meanwhile_stays_as_it_is(tmp_path: Path) -> None:
    with target_of("git", tmp_path) as (settings, live):
        put(settings, FIRST, None)
        with open_target(settings) as late:
            late.send([("index.html", b"late")], lambda path: None)
            put(settings, SECOND, None)
            with pytest.raises(TargetProblem, match="Somebody else"):
                late.finish("Late")
        assert tree_at(live) == SECOND
        with open_target(settings) as killed:  # which left its note, and locks
            assert killed.begin(b'{"format":1,"process":0}') is None
        first = Blob.from_string(b"<p>never sent").id.decode()
        (live / "objects" / first[:2]).mkdir(exist_ok=True)
        (live / "objects" / first[:2] / f"{first[2:]}.lock").touch()
        (live / "refs" / "heads" / "pages.lock").touch()
        put(settings, {**SECOND, "index.html": b"<p>never sent"}, None)
        assert tree_at(live)["index.html"] == b"<p>never sent"


@pytest.mark.long
def test_a_host_that_is_full_or_refuses_says_so_and_the_next_run_goes_on(tmp_path: Path, log: Publishes) -> None:
    with Host(tmp_path / "www") as host:
        settings = settings_of("live", host.settings())
        put(settings, FIRST, log)
        large = {**SECOND, "mill.pdf": bytes(200_000)}
        host.faults.full_at = 100_000
        with pytest.raises(TargetProblem, match="No space left"):
            put(settings, large, log)
        assert not list((tmp_path / "www").rglob("*.basilica-unfinished*"))
        host.faults.full_at, host.faults.refused = None, frozenset(["index.html"])
        with pytest.raises(TargetProblem, match=r"`(hours/)?index\.html` cannot be .*Permission denied"):
            put(settings, large, log)
        host.faults.refused = frozenset()
        put(settings, large, log)
        assert tree_at(tmp_path / "www") == large


class Stand(KeyringBackend):
    """A keyring that is forgotten in the end."""

    priority = 1  # type: ignore[assignment]

    def __init__(self) -> None:
        self.known: dict[tuple[str, str], str] = {}

    def get_password(self, service: str, username: str) -> str | None:
        return self.known.get((service, username))

    def set_password(self, service: str, username: str, password: str) -> None:
        self.known[service, username] = password

    def delete_password(self, service: str, username: str) -> None:
        self.known.pop((service, username), None)


@pytest.mark.long
def test_passwords_are_in_the_keyring_or_the_environment_and_nowhere_else(
    tmp_path: Path, log: Publishes, monkeypatch: pytest.MonkeyPatch
) -> None:
    ring = Stand()
    monkeypatch.setattr(keyring.core, "_keyring_backend", ring)
    with Host(tmp_path / "www", password="ebb & flow 1782") as host:
        values = {word: value for word, value in host.settings().items() if word != "key"}
        settings = settings_of("live", values)
        with pytest.raises(TargetProblem, match="BASILICA_SECRET_LIVE"):
            put(settings, FIRST, log)
        assert remember_secret(settings, "wrong")
        with pytest.raises(TargetProblem, match="does not let web in"):
            put(settings, FIRST, log)
        remember_secret(settings, "ebb & flow 1782")
        put(settings, FIRST, log)
        forget_secret(settings)
        monkeypatch.setenv("BASILICA_SECRET_LIVE", "ebb & flow 1782")
        put(settings, SECOND, log)
        kept = [path for path in tmp_path.rglob("*") if path.is_file() and b"ebb & flow" in path.read_bytes()]
        assert not kept and not ring.known


def test_a_server_is_known_by_its_key(tmp_path: Path) -> None:
    with Host(tmp_path / "www") as host:
        unknown = settings_of("live", {**host.settings(), "host-key": ""})
        with pytest.raises(UnknownHostKey) as told:
            put(unknown, FIRST, None)
        assert told.value.fingerprint == host.sftp.fingerprint
        other = settings_of("live", {**host.settings(), "host-key": "SHA256:" + "A" * 43})
        with pytest.raises(UnknownHostKey, match="another server"):
            put(other, FIRST, None)
        assert not any((tmp_path / "www").iterdir())


@pytest.mark.parametrize(
    ("written", "said"),
    [
        ("targets:\n  live:\n    kind: folder\n", ":2: The target `live` needs `folder`"),
        ("targets:\n  live: {kind: ftp}\n", ":2: The target `live` needs a `kind`: folder, sftp, git"),
        (
            "targets:\n  a: {kind: folder, folder: x}\n  b: {kind: sftp, host: h, user: u, password: p}\n",
            ":3: .*keyring",
        ),
        ("targets:\n  live: {kind: folder, folder: x, address: 'ftp://x'}\n", "begins with neither"),
        ("targets:\n  live: {kind: git, repository: r, branch: b, folder: ../x}\n", "not a folder in a branch"),
        ("live: x\n", "`targets:` is expected"),
        ("targets:\n  live: [a\n", r"publish\.yaml:"),
    ],
)
def test_what_is_wrong_in_the_file_is_said_with_its_line(written: str, said: str, tmp_path: Path) -> None:
    (tmp_path / "publish.yaml").write_text(written)
    with pytest.raises(UsageError, match=said):
        targets_beside(tmp_path)


@pytest.mark.parametrize("how", ["relative", "linked"])
def test_the_host_serves_a_folder_however_it_is_named(
    how: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """`make demo` names it from where it is started."""
    monkeypatch.chdir(tmp_path)
    (tmp_path / "there").mkdir()
    (tmp_path / "linked").symlink_to(tmp_path / "there")
    with Host(Path("there") if how == "relative" else tmp_path / "linked") as host:
        settings = settings_of("live", host.settings())
        publish(prepare(settings, FIRST, None), Choices(), PublishNote("1"), None, None)
        assert not prepare(settings, FIRST, None).found.files.to_do
    assert {path: (tmp_path / "there" / path).read_bytes() for path in FIRST} == FIRST


@pytest.mark.parametrize("kind", ["folder", "host", "sshd"])
def test_names_that_are_not_utf_8_are_named_and_left_alone(kind: str, tmp_path: Path) -> None:
    with target_of(kind, tmp_path) as (settings, live):
        live.mkdir(exist_ok=True)
        odd = os.fsencode(live) + b"/\xff.html"
        Path(os.fsdecode(odd)).write_bytes(b"theirs")
        prepared = prepare(settings, FIRST, None)
        assert prepared.found.undecoded == ("\\xff.html",)
        assert "\udcff.html" not in {file.path for file in prepared.found.files.files}
        publish(prepared, Choices(), PublishNote("1"), None, None)
        assert Path(os.fsdecode(odd)).read_bytes() == b"theirs" and (live / next(iter(FIRST))).exists()
        again = prepare(settings, FIRST, None)
        assert again.found.undecoded == ("\\xff.html",) and not again.found.files.to_do


def test_the_map_is_never_published_over(tmp_path: Path) -> None:
    settings = settings_of("live", {"kind": "folder", "folder": str(tmp_path)})
    with pytest.raises(UsageError, match="The map is in"):
        prepare(settings, FIRST, None, sources=tmp_path / "map")


@pytest.mark.long
def test_what_was_published_is_what_others_may_know(tmp_path: Path) -> None:
    """Addresses that went out lead on from then on; a publish is of a version, and nothing goes out unseen."""
    services = Services.of(tmp_path / "data")
    text = "site: {name: Mill}\npages:\n  home: {path: /}\n  visit: {path: /come/}\nmenus: {main: [home, visit]}\n"
    slug = services.store.make("Mill", text, {}, "First").slug
    publishing = services.publishing
    publishing.log.put_target(slug, settings_of("live", {"kind": "folder", "folder": str(tmp_path / "www")}))

    def sent(reason: str = "", note: str = "") -> PublishRun:
        site = services.store.get(slug)
        token = publishing.compare(site, "live")
        assert publishing.job(token).wait(60) is not None
        done = publishing.publish(site, token, Choices(), note, reason, False)
        found = publishing.job(done).wait(60)
        assert found is not None, publishing.job(done).reason
        return found

    assert services.store.handed_out(slug) == frozenset()
    assert publishing.live_now(services.store.summary(slug)) is None
    assert sent(note="Out").sent
    assert "/come/" in services.store.handed_out(slug)
    live = publishing.live_now(services.store.summary(slug))
    assert live is not None and live.is_current and live.publish.version_id == services.store.versions(slug)[0].id
    moved = text.replace("/come/", "/visit/").replace("menus:", "redirects: {}\nmenus:")
    site = services.store.get(slug)
    token = publishing.compare(site, "live")
    assert publishing.job(token).wait(60) is not None
    services.sites.save(slug, moved, site.revision)
    with pytest.raises(UsageError, match="was changed since it was compared"):
        publishing.publish(services.store.get(slug), token, Choices(), "", "", False)
    stale = publishing.live_now(services.store.summary(slug))
    assert stale is not None and not stale.is_current
    count = len(services.store.versions(slug))
    assert sent().sent and len(services.store.versions(slug)) == count + 1  # it is of a version, which was saved first
    services.store.write(slug, "visit", "[Nowhere](/nowhere/)", "")
    with pytest.raises(UsageError, match="Findings stop this publish"):
        sent()
    assert sent(reason="The page comes tonight").sent
    assert publishing.log.of_site(slug)[0].reason == "The page comes tonight"
    services.close()


def test_old_publishes_are_listed_and_only_the_newest_can_be_taken_back(tmp_path: Path, log: Publishes) -> None:
    for number in range(KEPT_PUBLISHES + 2):
        log.add(
            None, NewPublish("live", "here", f"version {number}", None, "", "", "1 new"), {"index.html": b"%d" % number}
        )
    found = log.of_place("here")
    assert [one.has_files for one in found] == [True] * KEPT_PUBLISHES + [False] * 2
    assert log.files(found[0].id, "here") == {"index.html": b"%d" % (KEPT_PUBLISHES + 1)}
    with pytest.raises(NotFound):
        log.files(found[-1].id, "here")
    with pytest.raises(NotFound):
        log.files(found[0].id, "elsewhere")
