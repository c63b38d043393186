"""The wheel: what is in it, and that it serves the demo where nothing else of the project is."""

from __future__ import annotations

import os
import re
import socket
import subprocess
import sys
import sysconfig
import urllib.request
import zipfile
from pathlib import Path

import pytest

from basilica import __version__

pytestmark = pytest.mark.long

ROOT = Path(__file__).parent.parent


@pytest.fixture(scope="module")
def wheel(tmp_path_factory: pytest.TempPathFactory) -> Path:
    out = tmp_path_factory.mktemp("wheel")
    source = tmp_path_factory.mktemp("source") / "project"
    listed = subprocess.run(
        ["git", "ls-files", "-z", "--cached", "--others", "--exclude-standard"],
        cwd=ROOT,
        capture_output=True,
        check=True,
    ).stdout
    for name in filter(None, listed.decode().split("\0")):  # as a clone has them
        if name.startswith(("basilica/", "pyproject", "README", "LICENSE")) and (ROOT / name).is_file():
            (source / name).parent.mkdir(parents=True, exist_ok=True)
            (source / name).write_bytes((ROOT / name).read_bytes())
    command = [sys.executable, "-m", "pip", "wheel", "--quiet", "--no-deps", "--no-build-isolation", "-w", str(out)]
    subprocess.run([*command, str(source)], check=True)
    return next(out.glob("*.whl"))


def test_it_has_what_the_application_needs_and_the_notices_of_what_it_ships(wheel: Path) -> None:
    with zipfile.ZipFile(wheel) as archive:
        names = archive.namelist()
        notices = archive.read("basilica/web/static/NOTICES.txt").decode()
    assert wheel.name.startswith(f"basilica-{__version__}-py3-none-any")
    assert not [name for name in names if name.startswith(("tests/", "bench/", "scripts/", "frontend/"))]
    assert any(name.endswith("dist-info/licenses/LICENSE") for name in names)
    for family in {Path(name).name.split("-latin")[0] for name in names if name.endswith(".woff2")}:
        assert re.search(rf"^@fontsource(?:-variable)?/{family} \S+ \(OFL-1\.1\)\n\n.*Copyright", notices, re.MULTILINE)
    for shipped in ("lucide-static", "@alpinejs/csp", "@vue/reactivity", "@codemirror/view", "tailwindcss"):
        assert re.search(rf"^{shipped} \S+ \((MIT|ISC)\)\n\n(.+\n+){{1,4}}.*[Cc]opyright", notices, re.MULTILINE), (
            shipped
        )


def test_installed_in_a_new_environment_it_serves_the_demo(wheel: Path, tmp_path: Path) -> None:
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(tmp_path / "venv")], check=True)
    python = tmp_path / "venv" / "bin" / "python"
    packages = Path(sysconfig.get_path("purelib", vars={"base": str(tmp_path / "venv"), "platbase": ""}))
    with zipfile.ZipFile(wheel) as archive:
        archive.extractall(packages)
    # What it depends on comes from the environment of the tests; Basilica itself is the installed one alone.
    (packages / "dependencies.pth").write_text(sysconfig.get_path("purelib") + "\n")
    with socket.socket() as one, socket.socket() as other:
        one.bind(("127.0.0.1", 0))
        other.bind(("127.0.0.1", 0))
        ports = one.getsockname()[1], other.getsockname()[1]
    environment = {**os.environ, "HOME": str(tmp_path / "home"), "BASILICA_PORT": str(ports[0])}
    environment |= {"XDG_DATA_HOME": str(tmp_path / "data"), "XDG_CONFIG_HOME": str(tmp_path / "config")}
    (tmp_path / "elsewhere").mkdir()
    command = [str(python), "-m", "basilica", "demo", "--preview-port", str(ports[1])]
    process = subprocess.Popen(command, cwd=tmp_path / "elsewhere", env=environment, stdout=subprocess.PIPE, text=True)
    try:
        assert process.stdout is not None
        assert f"http://127.0.0.1:{ports[0]}/" in process.stdout.readline()
        assert str(tmp_path / "data" / "basilica") in process.stdout.readline()

        def ask(path: str) -> str:
            with urllib.request.urlopen(f"http://127.0.0.1:{ports[0]}{path}", timeout=60) as answer:
                return str(answer.read().decode())

        page = ask("/")
        assert "Saltern Reach Tide Mill" in page and "<svg" in page
        assert "--color-lapis" in ask("/static/app.css") and "Copyright" in ask("/static/NOTICES.txt")
        assert "Opening hours" in ask("/sites/saltern-reach-tide-mill/pages?page=visit/hours")
    finally:
        process.kill()
        process.wait()
    where = [str(python), "-c", "import basilica; print(basilica.__file__)"]
    found = subprocess.run(where, cwd=tmp_path / "elsewhere", capture_output=True, text=True, check=True).stdout
    assert found.startswith(str(packages)) and list((tmp_path / "elsewhere").iterdir()) == []
    assert (tmp_path / "data" / "basilica" / "basilica.sqlite").is_file()
