"""Kits and outputs in a host, lines 20 and 21: a host's own folders, files and pages."""

from __future__ import annotations

import base64
import hashlib
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from click.testing import CliRunner, Result

from basilica.cli import main

MAP = """site: {name: Mill, base: 'https://mill.example'}
pages:
  home: {path: /, title: Mill}
  boats:
    title: Boats
    pages:
      boat: {title: A boat, path: '{name}', kind: backend, pages: {crew: {title: Crew, path: crew, kind: backend}}}
"""


def run(*words: str | Path) -> Result:
    return CliRunner().invoke(main, [str(word) for word in words])


@pytest.fixture
def host(tmp_path: Path) -> Path:
    """An application with its own folders, and a map at its root."""
    app = tmp_path / "app"
    for name, text in {
        "app.py": "",
        "templates/footer.html": "<p>The host's own</p>",
        "public/.env": "SECRET=1",
        "public/robots.txt": "User-agent: *\n",
        "site.yaml": MAP,
    }.items():
        (app / name).parent.mkdir(parents=True, exist_ok=True)
        (app / name).write_text(text)
    return app


@pytest.mark.parametrize("output", ["flask", "django", "express", "site", "includes"])
def test_20_a_hosts_folders_are_its_own(host: Path, tmp_path: Path, output: str) -> None:
    out = tmp_path / "out"
    done = run("build", host / "site.yaml", "--out", out, "--output", output)
    assert "beside app.py belongs to the application" in done.output
    files = {path.relative_to(out).as_posix(): path.read_bytes() for path in out.rglob("*") if path.is_file()}
    assert files and not any(b"The host's own" in data or b"SECRET" in data for data in files.values())
    # In a folder of its own everything that belongs to the map is read.
    own = host / "navigation"
    own.mkdir()
    for name in ("templates", "public", "site.yaml"):
        shutil.move(host / name, own / name)
    done = run("build", own / "site.yaml", "--out", out, "--output", output, "--force")
    assert "public/.env is not published" in done.output
    files = {path.relative_to(out).as_posix(): path.read_bytes() for path in out.rglob("*") if path.is_file()}
    assert any(b"The host&#39;s own" in data or b"The host's own" in data for data in files.values())
    assert not any(name.endswith(".env") or b"SECRET" in data for name, data in files.items())


def test_20_well_known_files_and_those_of_servers_go_out(tmp_path: Path) -> None:
    for name in (".well-known/security.txt", ".htaccess", ".git/config", "a/.secret"):
        (tmp_path / "public" / name).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / "public" / name).write_text("x")
    (tmp_path / "site.yaml").write_text(MAP)
    run("build", tmp_path / "site.yaml", "--out", tmp_path / "out")
    out = {path.relative_to(tmp_path / "out").as_posix() for path in (tmp_path / "out").rglob("*")}
    assert {".well-known/security.txt", ".htaccess"} <= out and not {".git/config", "a/.secret"} & out


SHOWN = """
import sys
sys.path.insert(0, {folder!r})
from flask import Flask, render_template_string
from site_navigation import SiteNavigation
app = Flask("host")
SiteNavigation(app)
@app.get("/own")
def own():
    return render_template_string("{{{{ navigation.head }}}}|{{{{ navigation.title }}}}|{{{{ navigation.label }}}}|")
answer = app.test_client().get("/own")
print(answer.status_code, answer.text)
"""


def test_21_a_page_of_the_host_is_not_called_not_found(tmp_path: Path) -> None:
    (tmp_path / "site.yaml").write_text(MAP)
    run("build", tmp_path / "site.yaml", "--out", tmp_path / "kit" / "site_navigation", "--output", "flask")
    done = subprocess.run(
        [sys.executable, "-c", SHOWN.format(folder=str(tmp_path / "kit"))], capture_output=True, text=True, check=True
    )
    head, title, label = done.stdout.split("|")[:3]
    assert head.startswith("200") and "not found" not in done.stdout.casefold() and "noindex" not in head
    assert "<title>Mill</title>" in head and (title, label) == ("Mill", "")


def test_21_parameters_are_filled_in_php_and_left_out_of_server_side_includes(tmp_path: Path) -> None:
    (tmp_path / "site.yaml").write_text(MAP)
    out = tmp_path / "out"
    run("build", tmp_path / "site.yaml", "--out", out, "--output", "includes")
    for path in (out / "ssi" / "boats" / "boat").rglob("*.html"):
        assert "{name}" not in path.read_text(), path
    assert ">A boat" in (out / "ssi/boats/boat/crew/breadcrumbs.html").read_text()
    if shutil.which("php") is None:
        pytest.skip("needs PHP")
    page = "$page = 'boats/boat/crew'; require '{out}/shared/top.php'; require '{out}/shared/breadcrumbs.php';"

    def shown(before: str) -> subprocess.CompletedProcess[str]:
        code = before + page.replace("{out}", str(out))
        return subprocess.run(["php", "-r", code], capture_output=True, text=True)

    asked = shown("$_SERVER['REQUEST_URI'] = '/boats/sea%20%22x%22/crew?y=1'; ")
    assert 'rel="canonical" href="https://mill.example/boats/sea%20%22x%22/crew"' in asked.stdout
    assert 'href="/boats/sea%20%22x%22"' in asked.stdout and "{name}" not in asked.stdout
    given = shown("$values = ['name' => 'sally']; ")
    assert 'href="/boats/sally"' in given.stdout and "{name}" not in given.stdout
    assert "needs a value: $values['name']" in shown("").stdout + shown("").stderr


def test_21_what_force_writes_over_is_copied(tmp_path: Path) -> None:
    (tmp_path / "site.yaml").write_text(MAP)
    out = tmp_path / "www"
    out.mkdir()
    own = {"index.html": "<p>Mine", "robots.txt": "Mine", "other.txt": "Other"}
    for name, text in own.items():
        (out / name).write_text(text)
    assert run("build", tmp_path / "site.yaml", "--out", out).exit_code == 2
    done = run("build", tmp_path / "site.yaml", "--out", out, "--force")
    copies = tmp_path / ".www.replaced-1"
    assert f"Copies of the files that it wrote over are in {copies}" in " ".join(done.output.split())
    assert {path.name: path.read_text() for path in copies.iterdir()} == {
        "index.html": "<p>Mine",
        "robots.txt": "Mine",
    }
    assert (out / "other.txt").read_text() == "Other" and "Mine" not in (out / "index.html").read_text()


def test_22_open_data_has_every_language(tmp_path: Path) -> None:
    """The twenty-second of the kits: routes, menus and breadcrumbs in one language alone, and a policy that stopped
    what pages in the others load."""
    (tmp_path / "site.yaml").write_text(
        "site: {name: Mill, base: 'https://mill.example', languages: [en, cy]}\n"
        "pages:\n  home: {path: /, title: Mill, cy: Melin}\n"
        "  visit: {title: Visit, cy: {title: Ymweld, path: ymweld}}\n"
    )
    (tmp_path / "content").mkdir()
    (tmp_path / "content" / "visit.cy.md").write_text("<script>let cymraeg = 1</script>\n")
    run("build", tmp_path / "site.yaml", "--out", tmp_path / "out", "--output", "data")
    routes = (tmp_path / "out" / "cy" / "routes.json").read_text()
    assert '"/cy/ymweld/"' in routes and "/cy/ymweld/" not in (tmp_path / "out" / "routes.json").read_text()
    assert "Ymweld" in (tmp_path / "out" / "cy" / "navigation.json").read_text()
    assert "Ymweld" in (tmp_path / "out" / "cy" / "breadcrumbs.json").read_text()
    digest = base64.b64encode(hashlib.sha256(b"let cymraeg = 1").digest()).decode()
    assert f"'sha256-{digest}'" in (tmp_path / "out" / "headers.nginx.conf").read_text()  # CSP 3, 6.7.3.3
