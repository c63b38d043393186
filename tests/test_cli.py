"""The command line, as a person at a terminal has it."""

from __future__ import annotations

import json
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path

import click
import pytest
import yaml
from click.testing import CliRunner

from basilica.cli import COMMANDS, main
from basilica.store.folders import read_source
from basilica.web.demo import DEMO

GOOD = "site: {name: M, base: 'https://m.example'}\npages:\n  home: {path: /}\n  visit:\n"
BASILICA = [sys.executable, "-m", "basilica"]


Done = subprocess.CompletedProcess[str]


def run(*words: str | Path) -> Done:
    """A command in this process, which spares loading everything once more."""
    done = CliRunner().invoke(main, [str(word) for word in words])
    if done.exception is not None and not isinstance(done.exception, SystemExit):
        raise done.exception
    return Done(words, done.exit_code, done.stdout, done.stderr)


def run_apart(*words: str | Path) -> Done:
    """The same as a process of its own, as a terminal starts it."""
    done = subprocess.run([*BASILICA, *map(str, words)], capture_output=True, text=True, timeout=600)
    assert "Traceback" not in done.stderr + done.stdout
    return done


@pytest.fixture
def site(tmp_path: Path) -> Path:
    path = tmp_path / "mine" / "site.yaml"
    path.parent.mkdir()
    path.write_text(GOOD)
    return path


def imported(*words: str | Path) -> set[str]:
    """The modules that a command imports."""
    code = (
        "import sys\nfrom basilica.cli import main\ntry:\n    main(sys.argv[1:], prog_name='basilica')\n"
        "finally:\n    print(*sys.modules, file=sys.stderr)"
    )
    done = subprocess.run([sys.executable, "-c", code, *map(str, words)], capture_output=True, text=True, timeout=600)
    return set(done.stderr.split())


def test_a_command_imports_what_it_needs(site: Path, tmp_path: Path) -> None:
    """Time is not measured here, but what costs it is: `--version` and `--help` are there at once."""
    for words in (["--version"], ["--help"], ["chekc"]):
        assert {one for one in imported(*words) if one.startswith("basilica.")} <= {
            "basilica.cli",
            "basilica.core",
            "basilica.core.version",
        }
    built = imported("build", site, "--out", tmp_path / "out", "--data", tmp_path / "data")
    assert (tmp_path / "out" / "index.html").is_file()
    assert "basilica.core.build" in built and not built & {"sqlalchemy", "alembic", "flask", "asyncssh"}


def test_the_list_of_commands_says_what_each_says_of_itself() -> None:
    for name, place in COMMANDS.items():
        command = main.get_command(click.Context(main), name)
        assert command is not None and command.name == name
        assert " ".join((command.help or "").split("\n\n")[0].split()) == place.meaning
        assert name in run("--help").stdout
    refused = run("pubish")
    assert (refused.returncode, "Did you mean `publish`?" in refused.stderr) == (2, True)


@pytest.mark.long
def test_check_prints_places_and_ends_as_it_should(site: Path) -> None:
    clean = run_apart("check", site)
    assert (clean.returncode, clean.stderr) == (0, "6 advice.\n")
    codes = "no-content|title-missing|description-missing"
    assert re.fullmatch(rf"({re.escape(str(site))}:\d+:\d+: advice ({codes}) .+\n){{6}}", clean.stdout)
    site.write_text(GOOD + "menus: {main: [homee]}\n")
    broken = run_apart("check", site)
    assert broken.returncode == 1
    assert broken.stdout.startswith(f"{site}:5:16: error unknown-page There is no page `homee`. Did you mean `home`?")
    as_json = json.loads(run("check", site, "--format", "json").stdout)
    assert as_json["stops"] is True
    assert as_json["findings"][0] == {
        "file": str(site),
        "line": 5,
        "column": 16,
        "code": "unknown-page",
        "level": "error",
        "message": "There is no page `homee`.",
        "remedy": "Did you mean `home`?",
    }


@pytest.mark.long
def test_misuse_is_two(tmp_path: Path, site: Path) -> None:
    for words in (["check", tmp_path / "none.yaml"], ["check", tmp_path], ["adopt", site], ["routes"], ["dance"]):
        assert run(*words).returncode == 2


@pytest.mark.long
def test_routes(site: Path) -> None:
    rows = json.loads(run("routes", DEMO, "--format", "json").stdout)
    assert len(rows) == 28
    assert rows[2] == {
        "key": "visit/hours",
        "path": "/visit/hours/",
        "file": "visit/hours/index.html",
        "title": "Opening hours",
        "label": "Opening hours",
        "kind": "page",
        "menus": ["main", "footer"],
        "also": ["/hours/"],
        "was": [],
        "parent": "visit",
    }
    assert rows[0]["parent"] is None
    assert run("routes", site).stdout.splitlines()[1].split() == ["/visit/", "visit/index.html", "visit", "Visit"]


@pytest.mark.long
def test_a_build_spares_what_is_not_its_own(tmp_path: Path, site: Path) -> None:
    out = tmp_path / "out"
    assert run("build", site, "--out", out).returncode == 0
    assert (out / "visit" / "index.html").is_file()
    site.write_text(GOOD.replace("visit", "news"))
    assert run("build", site, "--out", out).returncode == 0
    assert sorted(path.name for path in out.iterdir() if path.is_dir()) == ["assets", "news"]

    site.write_text(GOOD + "menus: {main: [nowhere]}\n")
    refused = run("build", site, "--out", out)
    assert refused.returncode == 1
    assert (out / "news" / "index.html").is_file()

    site.write_text(GOOD)
    own = tmp_path / "own"
    own.mkdir()
    (own / "precious.txt").write_text("mine")
    assert run("build", site, "--out", own).returncode == 2
    assert (own / "precious.txt").read_text() == "mine"
    assert run("build", site, "--out", site.parent, "--force").returncode == 2
    assert site.is_file()
    forced = run("build", site, "--out", own, "--force")
    assert forced.returncode == 0 and "Left alone: 1 file" in forced.stderr
    assert (own / "precious.txt").read_text() == "mine" and (own / "visit" / "index.html").is_file()
    assert [path.name for path in tmp_path.iterdir() if path.name.startswith(".")] == []


@pytest.mark.long
def test_a_build_that_is_killed_leaves_the_old_one_whole(tmp_path: Path, site: Path) -> None:
    out = tmp_path / "out"
    assert run("build", site, "--out", out).returncode == 0
    before = {path: path.read_bytes() for path in out.rglob("*") if path.is_file()}
    site.write_text(GOOD + "".join(f"  page-{n}:\n" for n in range(4000)) + "menus: {main: [home]}\n")
    process = subprocess.Popen([*BASILICA, "build", str(site), "--out", str(out)], stdout=-3, stderr=-3)
    while not any(any(path.rglob("*.html")) for path in out.glob(".basilica-building-*")):
        assert process.poll() is None
        time.sleep(0.01)
    os.kill(process.pid, signal.SIGKILL)
    process.wait()
    assert {path: path.read_bytes() for path in before} == before
    site.write_text(GOOD)
    assert run("build", site, "--out", out).returncode == 0
    assert {path: path.read_bytes() for path in out.rglob("*") if path.is_file()} == before
    assert [path.name for path in tmp_path.iterdir() if path.name.startswith(".")] == []


@pytest.mark.long
@pytest.mark.parametrize("data", [b"", b"\x00\xff", b"\xff\xfe", b"x" * 10_000_000, b"[" * 100_000, b"a: &a [*a]"])
def test_hostile_files_have_an_answer(site: Path, data: bytes) -> None:
    site.write_bytes(data)
    done = run("check", site)
    assert done.returncode == 1
    assert done.stdout.startswith(f"{site}:1:")


@pytest.mark.long
def test_watching_builds_on_every_save_and_keeps_the_last_good_site(tmp_path: Path, site: Path) -> None:
    with socket.socket() as found:
        found.bind(("127.0.0.1", 0))
        port = found.getsockname()[1]
    words = [*BASILICA, "watch", str(site), "--out", str(tmp_path / "out"), "--port", str(port)]
    running = subprocess.Popen(words, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)

    def get(path: str) -> str:
        try:
            return urllib.request.urlopen(f"http://127.0.0.1:{port}{path}", timeout=2).read().decode()
        except OSError:
            return ""

    def soon(holds: Callable[[], bool]) -> None:
        until = time.monotonic() + 20
        while not holds():
            assert time.monotonic() < until
            time.sleep(0.1)

    try:
        soon(lambda: "/.basilica/reload.js" in get("/"))
        text = site.read_text()
        site.write_text(text + "header: {behaviour: sticky}\n")

        def style() -> str:
            named = re.search(r"/assets/navigation\.\w+\.css", get("/"))
            return get(named[0]) if named else ""

        soon(lambda: "position: sticky" in style())
        assert "/.basilica" not in (tmp_path / "out/index.html").read_text()
        site.write_text(text + "header: [\n")
        soon(lambda: "line" in get("/.basilica/state"))
        assert "position: sticky" in style()
        assert "position: sticky" in next((tmp_path / "out/assets").glob("navigation.*.css")).read_text()
    finally:
        running.kill()
        running.wait()


@pytest.mark.long
def test_shared_stretches_are_set_into_pages_that_exist(tmp_path: Path, site: Path) -> None:
    folder = tmp_path / "old"
    (folder / "visit").mkdir(parents=True)
    page = b"<html>\r\n<head><title>Old</title></head>\r\n<body>\r\n<p>Mine</p>\r\n</body></html>"
    for name in ("index.html", "visit/index.html"):
        (folder / name).write_bytes(page)
    (folder / "visit/index.html").chmod(0o640)
    assert run("inlay", site, tmp_path / "none").returncode == 2
    first = run("inlay", site, folder, "--place", "--dry-run")
    assert first.returncode == 0 and f"{folder}/visit/index.html: head, data, header" in first.stdout
    assert {path.name for path in folder.rglob("*") if path.is_file()} == {"index.html"}
    assert (folder / "index.html").read_bytes() == page
    assert run("inlay", site, folder, "--place", "--check").returncode == 1
    done = run("inlay", site, folder, "--place")
    assert done.returncode == 0 and "4 files changed" in done.stderr and "id `content`" in done.stderr
    assert run("inlay", site, folder, "--check").returncode == 0
    made = (folder / "visit/index.html").read_bytes()
    assert b'aria-current="page"' in made and b"<p>Mine</p>\r\n" in made and made.count(b"\n") == made.count(b"\r\n")
    assert (folder / "visit/index.html").stat().st_mode & 0o777 == 0o640
    assert list(folder.rglob(".*")) == [folder / ".basilica"]
    (folder / "assets/navigation.css").unlink()
    (folder / "assets/navigation.css").symlink_to(tmp_path / "elsewhere.css")
    outside = run("inlay", site, folder)
    assert outside.returncode == 1 and "symbolic link" in outside.stderr
    assert not (tmp_path / "elsewhere.css").exists()
    (folder / "assets/navigation.css").unlink()
    assert run("inlay", site, folder).returncode == 0
    site.write_text(GOOD.replace("visit:", "visit: Come"))
    label = run("inlay", site, folder, "--check")
    assert label.returncode == 1 and f"{folder}/index.html: header" in label.stdout
    (folder / "visit/index.html").write_bytes(made.replace(b"<!-- /basilica: header -->", b""))
    wrong = run("inlay", site, folder)
    assert wrong.returncode == 1 and "visit/index.html: Line " in wrong.stderr


FAULTS = (
    "site: {name: M, base: 'https://m.example'}\n"
    "pages:\n  home: {path: /, description: All}\n  visit: {description: It}\n"
)


@pytest.mark.long
def test_only_what_is_new_fails_beside_a_baseline(site: Path, tmp_path: Path) -> None:
    site.write_text(FAULTS)
    content = site.parent / "content"
    content.mkdir()
    (content / "visit.md").write_text("[Gone](/gone/)\n")
    known = tmp_path / "known.json"
    assert run("check", site).returncode == 1
    assert run("check", site, "--baseline", known).returncode == 2
    assert run("check", site, "--write-baseline", known).returncode == 0
    same = run("check", site, "--baseline", known)
    assert (same.returncode, same.stdout) == (0, "") and "known from before" in same.stderr
    (content / "visit.md").write_text("A line more.\n\n[Gone](/gone/) [Off](/off/)\n")
    new = run("check", site, "--baseline", known)
    assert new.returncode == 1 and "`/off/`" in new.stdout and "`/gone/`" not in new.stdout
    sarif = json.loads(run("check", site, "--baseline", known, "--format", "sarif").stdout)["runs"][0]["results"]
    assert {r["baselineState"] for r in sarif if r["ruleId"] == "dead-link"} == {"new", "unchanged"}
    known.write_text("[]")
    assert run("check", site, "--baseline", known).returncode == 2


@pytest.mark.long
def test_a_folder_that_was_built_is_read_as_it_stands(site: Path, tmp_path: Path) -> None:
    site.write_text(FAULTS)
    out, report = tmp_path / "out", tmp_path / "report.html"
    assert run("build", site, "--out", out).returncode == 0
    assert run("check", site, "--built", out).returncode == 0
    assert run("check", site, "--built", out, "--fail-on", "advice").returncode == 1
    page = out / "visit/index.html"
    page.write_text(page.read_text().replace('<a href="/">Home</a>', '<a href="/">Start</a>', 1))
    stale = run("check", site, "--built", out, "--format", "html", "--out", report)
    assert (stale.returncode, stale.stdout) == (1, "") and "menu-differs" in report.read_text()
    assert run("check", site, "--built", tmp_path / "none").returncode == 2
    (out / "index.html").unlink()
    assert "missing-page The page `home` is not there" in run("check", site, "--built", out).stdout


@pytest.mark.long
def test_pages_in_another_language_are_checked_too(site: Path, tmp_path: Path) -> None:
    site.write_text(
        "site: {name: M, base: 'https://m.example', languages: [en, cy]}\n"
        "pages:\n  home: {path: /, cy: Hafan}\n  visit: {title: Visit, cy: Ymweld}\n"
    )
    text, out = site.parent / "content" / "visit.cy.md", tmp_path / "out"
    text.parent.mkdir()
    text.write_text("[Yma](/gone/)\n")
    found = run("check", site)
    assert found.returncode == 1 and f"{text}:1:7: error dead-link" in found.stdout
    text.write_text("[Yma](page:home)\n")
    assert run("build", site, "--out", out).returncode == 0
    assert run("check", site, "--built", out).returncode == 0
    page = out / "cy/visit/index.html"
    page.write_text(page.read_text().replace("Hafan</a>", "Dechrau</a>", 1))
    stale = run("check", site, "--built", out)
    assert stale.returncode == 1 and "menu-differs The menu `main` on cy/visit/index.html" in stale.stdout


@pytest.mark.long
def test_what_differs_is_said_once(tmp_path: Path) -> None:
    entries = "".join(f'<li><a href="{name}.html">{name.title()}</a></li>' for name in ("index", "a", "b", "c", "d"))
    for name in ("index", "a", "b", "c", "d"):
        menu = entries.replace('<li><a href="b.html">B</a></li>', "") if name == "c" else entries
        text = f'<nav aria-label="Main"><ul>{menu}</ul></nav><main><h1>{name.title()}</h1>Words of {name} alone</main>'
        (tmp_path / f"{name}.html").write_text(f'<!doctype html><html lang="en"><title>{name}</title>{text}')
    said = run("audit", tmp_path).stdout
    assert "c.html:1:" in said and said.count("differs-from-most") == 1 and "stale-menu" not in said


@pytest.mark.long
def test_any_built_site_can_be_audited(tmp_path: Path) -> None:
    folder = tmp_path / "old"
    (folder / "deep").mkdir(parents=True)
    page = '<!doctype html><html lang="en"><title>{0}</title><main><h1>{0}</h1><a href="{1}">On</a></main>'
    (folder / "index.html").write_text(page.format("Home", "deep/"))
    (folder / "deep/index.html").write_text(page.format("Deep", "../tickets/"))
    (folder / "outside.html").symlink_to("/etc/passwd")
    dead, at = run("audit", folder), page.format("Deep", "").index("<a ") + 1
    assert dead.returncode == 1 and f"{folder}/deep/index.html:1:{at}: error dead-link" in dead.stdout
    assert "outside.html" not in dead.stdout
    assert run("audit", folder, "--served", "/tickets/").returncode == 0
    rows = json.loads(run("audit", folder, "--format", "json").stdout)["findings"]
    assert {row["page"] for row in rows if row["code"] == "dead-link"} == {"deep/index.html"}
    assert (
        run("audit", folder, "--exclude", "deep/*").returncode
        == 0
        == run("audit", folder, "--include", "i*").returncode
    )
    assert run("audit", folder, "--include", "deep/*").returncode == 1
    (folder / "deep/index.html").write_bytes(b"\xff<main><a href=" + b"x" * 100_000 + b"\x00" * 100 + b"<" * 5000)
    assert run("audit", folder).returncode == 1
    for words in (["audit", tmp_path], ["audit", tmp_path / "none"], ["audit", folder, "--base", "ftp://x"]):
        assert run(*words).returncode == (2 if words[1] != tmp_path else 1), words


@pytest.mark.long
def test_the_ready_hook_and_workflow_do_what_they_say(site: Path) -> None:
    docs = Path(__file__).parents[1] / "docs/ci"
    root = site.parent
    environment = {**os.environ, "PATH": f"{Path(sys.executable).parent}:{os.environ['PATH']}"}

    def git(*words: str) -> Done:
        who = ["-c", "user.name=T", "-c", "user.email=t@m.example"]
        return subprocess.run(
            ["git", *who, *words], cwd=root, env=environment, capture_output=True, text=True, check=False
        )

    git("init", "-q")
    hook = root / ".git/hooks/pre-commit"
    hook.write_bytes((docs / "pre-commit").read_bytes())
    hook.chmod(0o755)
    git("add", "-A")
    assert git("commit", "-qm", "one").returncode == 0
    site.write_text(GOOD + "menus: {main: [nowhere]}\n")
    git("add", "-A")
    site.write_text(GOOD)  # what lies in the folder is not what would be committed
    refused = git("commit", "-qm", "two")
    assert refused.returncode != 0 and "unknown-page" in refused.stdout + refused.stderr
    git("add", "-A")
    assert git("commit", "-qm", "three", "--allow-empty").returncode == 0

    steps = yaml.safe_load((docs / "workflow.yml").read_text())["jobs"]["check"]["steps"]
    script = "\n".join(
        step["run"] for step in steps if "basilica build" in step.get("run", "") or "sarif" in step.get("run", "")
    )
    done = subprocess.run(
        ["bash", "-euc", script], cwd=root, env=environment, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    assert json.loads((root / "report.sarif").read_text())["version"] == "2.1.0"
    assert "<!doctype html>" in (root / "report.html").read_text()


@pytest.mark.long
def test_the_map_of_the_readme_makes_the_files_that_it_says(tmp_path: Path) -> None:
    readme = (Path(__file__).parent.parent / "README.md").read_text()
    assert len(readme.splitlines()) < 120
    text, files = re.findall(r"```(?:yaml|text)\n(.*?)```", readme, re.DOTALL)
    assert len(text.splitlines()) == 12
    (tmp_path / "site.yaml").write_text(text)
    result = run("build", tmp_path / "site.yaml", "--out", tmp_path / "dist")
    assert result.returncode == 0
    made = sorted(str(path.relative_to(tmp_path / "dist")) for path in (tmp_path / "dist").rglob("*.*"))
    assert [name for name in made if not name.startswith(".")] == files.splitlines()


@pytest.mark.long
def test_pages_that_differ_are_audited_at_their_lines(tmp_path: Path) -> None:
    shutil.copytree(Path(__file__).parent.parent / "basilica/demo/upper-thornby/pages", tmp_path / "old")
    told = run("audit", tmp_path / "old").stdout
    assert f"{tmp_path}/old/tower.html:10:1: warning differs-from-most" in told and "“Weddings” is missing" in told
    assert told.count("empty-link") == 3  # the same link is told once, by how it is written
    (tmp_path / "old/index.htm").unlink()
    assert "no index.html" in run("audit", tmp_path / "old").stderr


@pytest.mark.long
def test_a_site_is_imported_from_a_folder_and_from_an_archive(tmp_path: Path) -> None:
    pages = Path(__file__).parent.parent / "basilica/demo/upper-thornby/pages"
    packed = shutil.make_archive(str(tmp_path / "ringers"), "zip", pages)
    for source, out in ((pages, "a"), (packed, "b")):
        done = run("import", source, "--out", tmp_path / out)
        assert done.returncode == 0 and "19 of 19 addresses" in done.stdout, done.stderr
        assert run("check", tmp_path / out / "site.yaml").returncode == 0
        assert (tmp_path / out / "public/images/bell.gif").read_bytes() == (pages / "images/bell.gif").read_bytes()
    assert "not empty" in run("import", pages, "--out", tmp_path / "a").stderr
    assert "Found: `#menu`" in run("import", pages, "--menu", "#nav").stderr
    values = json.loads(run("import", pages, "--format", "json").stdout)
    assert values["main"] == "#menu" and len(values["pages"]) == 18


# Publishing


@pytest.mark.long
def test_compare_publish_and_look_again_in_a_pipeline(site: Path, tmp_path: Path) -> None:
    data = ("--data", tmp_path / "data")
    assert "There is no publish.yaml beside" in run("compare", site, *data).stderr
    targets = site.with_name("publish.yaml")
    targets.write_text(
        "targets:\n  live: {kind: folder, folder: ../www}\n  far: {kind: git, repository: r, branch: b}\n"
    )
    assert "Name the target: live, far." in run("compare", site, *data).stderr
    assert "is not a git repository" in run("compare", site, "far", *data).stderr
    differs = run("compare", site, "live", *data, "--format", "json")
    said = json.loads(differs.stdout)
    assert differs.returncode == 1 and said["published"] is None and said["counts"]["new"] == len(said["files"])
    dry = run("publish", site, "live", *data, "--dry-run")
    assert dry.returncode == 0 and not (tmp_path / "www").exists()
    first = run("publish", site, "live", *data, "--note", "The first")
    assert first.returncode == 0 and first.stdout.startswith(f"Sent {len(said['files'])} files")
    assert run("compare", site, "live", *data).returncode == 0
    page = tmp_path / "www" / "visit" / "index.html"
    page.write_text(page.read_text().replace("</h1>", "</h1>\n<p>Closed this Sunday.</p>"))
    site.write_text(GOOD + "  tides: Tides\n")
    stopped = run("publish", site, "live", *data)
    assert stopped.returncode == 1 and "say of each file" in stopped.stderr
    assert "Edited there by hand: 1\n  visit/index.html" in stopped.stdout and not (tmp_path / "www" / "tides").exists()
    taken = run("publish", site, "live", *data, "--take", "visit/index.html")
    assert taken.returncode == 0 and "Closed this Sunday." in (site.parent / "content" / "visit.md").read_text()
    again = run("publish", site, "live", *data, "--overwrite", "visit/*", "--format", "json")
    assert again.returncode == 0 and json.loads(again.stdout)["sent"] > 1
    assert "Closed this Sunday." in page.read_text() and (tmp_path / "www" / "tides" / "index.html").is_file()
    history = json.loads(run("publish", site, "live", *data, "--history", "--format", "json").stdout)
    assert [one["note"] for one in history] == ["", "The first"]
    back = run("publish", site, "live", *data, "--take-back", str(history[1]["number"]))
    assert back.returncode == 0 and not (tmp_path / "www" / "tides" / "index.html").exists()
    site.write_text(GOOD + "menus: {main: [homee]}\n")
    broken = run("publish", site, "live", *data)
    assert broken.returncode == 1 and "unknown-page" in broken.stderr and "Nothing was sent" in broken.stderr


@pytest.mark.long
def test_a_publish_that_findings_stop_goes_out_for_a_reason(site: Path, tmp_path: Path) -> None:
    data = ("--data", tmp_path / "data")
    site.with_name("publish.yaml").write_text("targets: {live: {kind: folder, folder: ../www}}\n")
    (site.parent / "content").mkdir()
    (site.parent / "content" / "visit.md").write_text("[Nowhere](/nowhere/)\n")
    stopped = run("publish", site, *data)
    assert stopped.returncode == 1 and "dead-link" in stopped.stderr and "--despite" in stopped.stderr
    assert run("publish", site, *data, "--despite", "The page comes tonight").returncode == 0
    assert "The page comes tonight" in run("publish", site, *data, "--history", "--format", "json").stdout


@pytest.mark.long
def test_the_host_is_looked_at(site: Path, tmp_path: Path) -> None:
    with socket.socket() as one, socket.socket() as other:
        for free in (one, other):
            free.bind(("127.0.0.1", 0))
        ports = [str(free.getsockname()[1]) for free in (one, other)]
    command = [*BASILICA, "host", str(tmp_path / "www"), "--port", ports[0], "--ssh-port", ports[1]]
    host = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    try:
        assert host.stdout is not None
        said = ""
        while "address:" not in said:
            said += host.stdout.readline()
        site.with_name("publish.yaml").write_text(said[said.index("targets:") :])
        data = ("--data", tmp_path / "data")
        assert run("live", site, *data).returncode == 1  # nothing is there yet
        assert run("publish", site, *data).returncode == 0
        seen = run("live", site, *data, "--all", "--format", "json")
        assert seen.returncode == 0 and {one["level"] for one in json.loads(seen.stdout)} == {"right"}
        (tmp_path / "www" / "visit" / "index.html").write_text("<p>Another")
        wrong = run("live", site, *data)
        assert wrong.returncode == 1 and "is not what was built" in wrong.stdout
    finally:
        host.terminate()
        host.wait()
    assert run("live", site, *data).returncode == 2


@pytest.mark.long
def test_a_refused_build_lists_its_errors_after_all_findings(tmp_path: Path) -> None:
    (tmp_path / "site.yaml").write_text(
        "pages:\n  home: {path: /, title: M}\n  visit: V\nmenus: {main: [home, visit#x]}\n"
    )
    done = run("build", tmp_path / "site.yaml", "--out", tmp_path / "out")
    assert done.returncode == 1 and not (tmp_path / "out").exists()
    last = done.stderr[done.stderr.index("Nothing was built") :].splitlines()
    assert last[0].endswith("1 error:") and len(last) == 2 and ":4:22: error dead-anchor " in last[1]


@pytest.mark.long
def test_a_site_is_begun_and_built_without_naming_anything(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    assert "begin one with `basilica new`" in run("check").stderr
    begun = run("new", "tide_mill", "--base", "https://mill.example", "--language", "cy")
    assert begun.returncode == 0 and "cd tide_mill && basilica watch" in begun.stdout
    assert read_source(tmp_path / "tide_mill" / "site.yaml").map.decode().splitlines()[1:5] == [
        *("site:", "  name: Tide mill", '  base: "https://mill.example"', "  language: cy")
    ]
    monkeypatch.chdir(tmp_path / "tide_mill")
    assert run("check").returncode == 0 and run("build").returncode == 0
    assert "Tide mill begins here" in (tmp_path / "tide_mill" / "dist" / "index.html").read_text()
    again = run("new", tmp_path / "tide_mill")
    assert again.returncode == 2 and "is not empty" in again.stderr


@pytest.mark.long
def test_a_site_is_begun_from_a_list(tmp_path: Path) -> None:
    listed = tmp_path / "pages.txt"
    listed.write_text("Start\nVisit: us\n  Hours\n")
    assert run("new", tmp_path / "a", "--list", listed, "--name", "A: b").returncode == 0
    rows = json.loads(run("routes", tmp_path / "a" / "site.yaml", "--format", "json").stdout)
    assert [row["title"] for row in rows][-2:] == ["Visit: us", "Hours"]
    home = next(row["key"] for row in rows if row["path"] == "/")
    assert (tmp_path / "a" / "content" / f"{home}.md").is_file()
    listed.write_text("\n")
    assert "has no lines" in run("new", tmp_path / "b", "--list", listed).stderr and not (tmp_path / "b").exists()


def test_a_map_is_read_from_standard_input(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.chdir(tmp_path)
    made = json.dumps({"site": {"name": "X"}, "pages": {"home": {"path": "/"}, "tides": "Tides"}})
    done = CliRunner().invoke(main, ["routes", "-", "--format", "json"], input=made)
    assert [row["key"] for row in json.loads(done.stdout)] == ["home", "tides"]
    (tmp_path / "old.txt").write_text("/x\n")
    for words in (
        ["watch", "-"],
        ["check", "-", "--fix"],
        ["addresses", "-", "--old", "old.txt", "--write"],
        ["inlay", "-"],
    ):
        refused = CliRunner().invoke(main, words, input=made)
        assert refused.exit_code == 2 and "Save it, and name the file." in refused.stderr


def test_errors_come_first_ten_of_a_kind_and_in_colour_where_a_person_reads(
    site: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """`NO_COLOR`: no-color.org."""
    monkeypatch.delenv("NO_COLOR", raising=False)
    site.write_text(GOOD + "".join(f"  p{number}:\n" for number in range(12)) + "menus: {main: [nowhere]}\n")
    seen = CliRunner().invoke(main, ["check", str(site)], color=True).stdout.splitlines()
    assert "\x1b[31m\x1b[1merror unknown-page\x1b[0m There is no page" in seen[0]
    site.write_text(GOOD + "".join(f"  p{number}:\n" for number in range(12)))
    told = run("check", site).stdout
    assert told.count(" advice no-content ") == 10 and f"{site}: 4 more, no-content\n" in told
    monkeypatch.setenv("NO_COLOR", "1")
    assert "\x1b" not in CliRunner().invoke(main, ["check", str(site)], color=True).stdout
