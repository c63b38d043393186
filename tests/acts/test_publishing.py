"""Publishing and building, lines 15 to 19: by the commands and the forms that people use."""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path
from threading import Barrier, Thread
from types import ModuleType
from typing import Any

import pytest
from click.testing import CliRunner, Result
from flask.testing import FlaskClient

from basilica.cli import main
from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.plan.redirects import parsed
from basilica.core.rules import limits
from basilica.services.all_services import Services
from basilica.services.publish_work import Choices, PublishNote, prepare, publish
from basilica.services.publishing import Busy
from basilica.store.errors import UsageError
from basilica.store.folders import OWNERS_MARK, must_be_opened
from basilica.store.targets import TargetProblem, open_target, settings_of, target_class, target_settings, words_of
from basilica.store.targets.folder_target import FolderTarget
from basilica.store.targets.target import SENDING
from tests.publish_targets import KINDS, git, target_of, tree_at
from tests.web.test_web import SLUG, token

MAP = "site: {name: Mill, base: 'https://mill.example'}\npages:\n  home: {path: /, title: Mill, description: All}\n"


@pytest.fixture
def site(tmp_path: Path) -> Path:
    folder = tmp_path / "site"
    (folder / "public").mkdir(parents=True)
    (folder / "site.yaml").write_text(MAP)
    (folder / "publish.yaml").write_text("targets: {live: {kind: folder, folder: ../www}}\n")
    for number in range(30):
        (folder / "public" / f"{number}.txt").write_text(str(number))
    return folder / "site.yaml"


def run(*words: str | Path) -> Result:
    return CliRunner().invoke(main, [str(word) for word in words])


@pytest.mark.parametrize("what", ["FILES", "ALL_FILES_BYTES"])
def test_15_what_is_cut_off_by_a_limit_is_no_site(
    site: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, what: str
) -> None:
    data = ("--data", tmp_path / "data")
    assert run("publish", site, *data).exit_code == 0
    live = tree_at(tmp_path / "www")
    monkeypatch.setattr(limits, what, 20)
    for command in (("check", site), ("build", site, "--out", tmp_path / "out"), ("publish", site, *data)):
        done = run(*command)
        assert done.exit_code != 0 and "a part of them makes no site" in done.output
    assert not (tmp_path / "out").exists() and tree_at(tmp_path / "www") == live


@pytest.mark.long
def test_15_an_import_of_many_files_has_them_all(tmp_path: Path) -> None:
    old = tmp_path / "old"
    old.mkdir()
    for name in ("index", "a"):
        (old / f"{name}.html").write_text(f"<title>{name}</title><h1>{name}</h1><a href=a.html>A</a>")
    for number in range(2_300):
        (old / f"{number}.bin").write_text("x")
    assert run("import", old, "--out", tmp_path / "new").exit_code == 0
    assert run("build", tmp_path / "new" / "site.yaml", "--out", tmp_path / "out").exit_code in (0, 1)
    assert len(list((tmp_path / "out").glob("*.bin"))) == 2_300


def test_16_many_deletions_are_refused_unless_their_number_is_given(site: Path, tmp_path: Path) -> None:
    data = ("--data", tmp_path / "data")
    assert run("publish", site, *data).exit_code == 0
    for number in range(8):
        (site.parent / "public" / f"{number}.txt").unlink()
    refused = run("publish", site, *data)
    assert refused.exit_code != 0 and "would delete 8 live files" in refused.output and "--delete 8" in refused.output
    assert (tmp_path / "www" / "0.txt").exists()
    assert run("publish", site, *data, "--delete", "7").exit_code != 0
    done = run("publish", site, *data, "--delete", "8")
    assert done.exit_code == 0 and "deleted 8" in done.output and not (tmp_path / "www" / "0.txt").exists()
    (site.parent / "public" / "9.txt").unlink()
    assert run("publish", site, *data).exit_code == 0  # few ask nothing


@pytest.mark.skipif(os.geteuid() != 0 and not hasattr(os, "mkfifo"), reason="needs a file that is not read")
def test_16_what_could_not_be_read_is_not_deleted(site: Path, tmp_path: Path) -> None:
    data = ("--data", tmp_path / "data")
    assert run("publish", site, *data).exit_code == 0
    inside = site.parent / "public" / "3.txt"
    inside.unlink()
    inside.symlink_to("/etc/hostname")
    refused = run("publish", site, *data)
    assert refused.exit_code != 0 and "`3.txt` is live" in refused.output
    assert (tmp_path / "www" / "3.txt").read_text() == "3"


def test_16_the_form_asks_too(client: FlaskClient, services: Services, tmp_path: Path) -> None:
    text = "pages:\n  home: {path: /, title: Mill}\n" + "".join(f"  page-{n}: Page {n}\n" for n in range(9))
    record = services.store.make("Many", text, {}, "First")
    services.publishing.put_target(record, settings_of("live", {"kind": "folder", "folder": str(tmp_path / "www")}))

    def compared() -> str:
        run_token = services.publishing.compare(services.store.get(record.slug), "live")
        services.publishing.job(run_token).wait(120)
        return run_token

    def send(**more: str) -> Any:
        sent = {"csrf_token": token(client), "target": "live", "run": compared(), "reason": "As it is", **more}
        answer = client.post(f"/sites/{record.slug}/publish/send", data=sent)
        if answer.status_code == 303:
            services.publishing.job(answer.location.rpartition("run=")[2]).wait(120)
        return answer

    assert send().status_code == 303
    services.sites.save(record.slug, text.partition("  page-0")[0] + "  page-8: Page 8\n", record.revision)
    shown = client.get(f"/sites/{record.slug}/publish?target=live&run={compared()}").text
    number = re.search(r'name="deletions" value="(\d+)" required', shown)
    assert number is not None
    assert send().status_code == 422 and (tmp_path / "www/page-1/index.html").exists()
    assert send(deletions=number[1]).status_code == 303 and not (tmp_path / "www/page-1/index.html").exists()


@pytest.mark.long
@pytest.mark.parametrize("kind", KINDS)
def test_17_one_alone_goes_on_from_a_publish_that_was_cut_off(kind: str, tmp_path: Path) -> None:
    stale = json.dumps({"format": 1, "at": "", "host": "elsewhere", "process": 0, "files": {}}).encode()
    built = [{"index.html": b"<p>one", "a.txt": b"1"}, {"index.html": b"<p>two", "a.txt": b"2"}]
    with target_of(kind, tmp_path) as (settings, live):
        with open_target(settings) as target:
            target.begin(stale)
        prepared = [prepare(settings, each, None) for each in built]
        together, ended = Barrier(2), []

        def go(number: int) -> None:
            together.wait()
            try:
                publish(prepared[number], Choices(), PublishNote(f"v{number}"), None)
                ended.append(number)
            except (Busy, UsageError):
                pass

        threads = [Thread(target=go, args=(number,)) for number in (0, 1)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        assert len(ended) == 1 and tree_at(live) == built[ended[0]]


def test_17_the_note_of_a_cut_off_publish_is_taken_by_one(tmp_path: Path) -> None:
    """Two processes that read the same note before either went on: the second finds it taken."""
    from basilica.services import publishing

    stale = json.dumps({"format": 1, "at": "", "host": "h", "process": 0, "files": {}}).encode()

    class Late(FolderTarget):
        """Reads the note as it was before the first one took it."""

        def begin(self, note: bytes, path: str = SENDING) -> bytes | None:
            return stale if path == SENDING else super().begin(note, path)

    with target_of("folder", tmp_path) as (settings, _), open_target(settings) as target, Late(settings) as late:
        target.begin(stale)
        mine = {"format": 1, "id": "a", "at": "", "host": "other", "process": 1, "files": {}}
        assert publishing._take(target, mine, False) == stale
        with pytest.raises(Busy):
            publishing._take(late, {**mine, "id": "b"}, False)
        assert json.loads(target.read(SENDING) or b"")["id"] == "a"


def test_17_a_branch_that_does_not_fit_is_left_as_it_is(tmp_path: Path) -> None:
    with target_of("git", tmp_path) as (settings, live):
        with open_target(settings) as target:
            target.send([("visit", b"a file")], lambda path: None)
            target.finish("By hand")
        with pytest.raises(UsageError, match="`visit` is a file there, and the build needs a folder"):
            prepare(settings, {"visit/index.html": b"<p>"}, None)
        assert tree_at(live) == {"visit": b"a file"}
    other = tmp_path / "sha256.git"
    git("init", "-q", "--bare", "--object-format=sha256", str(other))
    with pytest.raises(TargetProblem, match="sha256"):
        prepare(settings_of("live", {"kind": "git", "repository": str(other), "branch": "pages"}), {"a": b"1"}, None)


@pytest.mark.parametrize("address", ["/a%0ARewriteRule%20x%20y", "/a%0d%0ab", "/%ff%0ab", "/a%00b", "/a%7fb"])
def test_18_a_control_character_comes_in_nowhere(client: FlaskClient, services: Services, address: str) -> None:
    assert "control character" in parsed(address, None)[2]
    record = services.store.make("Logs", MAP, {}, "First")
    form = {"csrf_token": token(client), "revision": record.revision}
    rows = {"address": [address, "/fine.htm"], "to": ["home", "home"], "take": ["0", "1"]}
    answer = client.post(f"/sites/{record.slug}/addresses/old/take", data={**form, **rows})
    assert answer.status_code == 303, answer.text
    text = services.store.get(record.slug).text
    assert "/fine.htm" in text and "%0" not in text.casefold()


@pytest.mark.skipif(shutil.which("apache2") is None and not Path("/usr/sbin/apache2").exists(), reason="needs Apache")
def test_18_apache_reads_no_directive_out_of_an_address(tmp_path: Path) -> None:
    text = MAP + "redirects: {/old%ff: home, '/a%22b': home, '/c%5Cd': home, '/e%22f%27g': home}\n"
    files = {file.path: file.data for file in build(compile_map(text), {}).files}
    written = files["redirects.apache.conf"].decode()
    assert [line.rpartition(": ")[2] for line in written.splitlines() if "Left out" in line] == [
        "/old%ff",
        "/e%22f%27g",
    ]
    assert "'=/a\"b'" in written and '"=/c\\d"' in written  # as Apache 2.4 was seen to answer
    conf = tmp_path / "redirects.conf"
    conf.write_bytes(files["redirects.apache.conf"])
    modules = "/usr/lib/apache2/modules"
    loaded = "".join(
        f"LoadModule {name}_module {modules}/mod_{name}.so\n" for name in ("mpm_event", "authz_core", "rewrite")
    )
    (tmp_path / "httpd.conf").write_text(
        f"ServerRoot {tmp_path}\nListen 127.0.0.1:9\nPidFile {tmp_path}/pid\nErrorLog {tmp_path}/log\n"
        f"{loaded}ServerName x\nInclude {conf}\n"
    )
    done = subprocess.run(["/usr/sbin/apache2", "-t", "-f", tmp_path / "httpd.conf"], capture_output=True, text=True)
    assert done.returncode == 0, done.stderr


def test_19_a_path_is_typed_only_where_its_owner_opened_the_folder(
    client: FlaskClient, services: Services, tmp_path: Path
) -> None:
    www = tmp_path.parent / f"{tmp_path.name}-www"  # the data is in the other
    (www / "in").mkdir(parents=True)
    form = {"csrf_token": token(client), "name": "live", "kind": "folder", "folder-folder": str(www / "in")}
    for address, sent in (
        (f"/sites/{SLUG}/publish/targets", form),
        (f"/sites/{SLUG}/publish/targets", {**form, "kind": "git", "git-repository": str(www), "git-branch": "b"}),
        ("/new/existing", {"csrf_token": form["csrf_token"], "source": "folder", "folder": str(www)}),
        (f"/sites/{SLUG}/output/existing", {"csrf_token": form["csrf_token"], "folder": str(www), "act": "look"}),
    ):
        refused = client.post(address, data=sent)
        assert refused.status_code in (200, 422) and "is not open to paths that are typed here" in refused.text, address
    assert services.publishing.targets(services.store.get(SLUG)) == {}
    (www / OWNERS_MARK).touch()
    assert client.post(f"/sites/{SLUG}/publish/targets", data=form).status_code == 303
    if os.geteuid() == 0:
        os.chown(www / OWNERS_MARK, 65534, 65534)  # somebody else's mark opens nothing
        with pytest.raises(UsageError):
            must_be_opened(www / "in", tmp_path)
    must_be_opened(tmp_path / "below", tmp_path)


def test_a_new_kind_of_folder_is_guarded_as_the_first(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """What a kind of target may touch on this machine is said by its class; nothing else knows kinds by name."""
    for kind in [*target_settings.KINDS]:
        told = target_class(kind)
        assert {*told.LOCAL, *filter(None, [told.ROOT])} <= {word.name for word in words_of(kind)}
    module = ModuleType("basilica.store.targets.shelf_target")
    module.ShelfTarget = type("ShelfTarget", (FolderTarget,), {"TITLE": "Shelf"})  # type: ignore[attr-defined]
    monkeypatch.setitem(sys.modules, module.__name__, module)
    monkeypatch.setitem(target_settings.KINDS, "shelf", "basilica.store.targets.shelf_target:ShelfTarget")
    settings = settings_of("live", {"kind": "shelf", "folder": str(tmp_path)})
    assert settings.local_root == tmp_path and settings.local_words == ("folder",)
    with pytest.raises(UsageError, match="the folder that is published into"):
        prepare(settings, {"index.html": b""}, None, sources=tmp_path / "site")
