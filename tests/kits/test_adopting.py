"""The documentation of adopting, run as it stands: every file is written, and every command is run."""

from __future__ import annotations

import os
import re
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from selectolax.lexbor import LexborHTMLParser

from tests.kits.help import CHECKERS

pytestmark = pytest.mark.tools

ROOT = Path(__file__).parents[2]
TEXT = (ROOT / "docs" / "adopting.md").read_text()
BLOCK = re.compile(r"^```(\w+)(?: ([^\n]+))?\n(.*?)^```$", re.MULTILINE | re.DOTALL)
SECTIONS = dict(part.split("\n", 1) for part in TEXT.split("\n## ")[1:])
WAYS = ("Flask", "Django", "Express", "TypeScript", "PHP", "Server-side includes")
SERVED = {"node app.js": ["/", "/visit/", "/boats/", "/boats/Swan/"], "php -S": ["/", "/visit/", "/boats/"]}
"""What is asked of a command that serves."""
SAID = {
    "flask": "5 pages, 0 problems.",
    "django-admin": "OK",
    "node --test": "pass 1",
    "node menu.js": "Home / \nVisit us /visit/ page\nOur boats /boats/ \n/boats/Swan/",
}


@pytest.mark.parametrize("way", WAYS)
def test_a_way_goes_as_it_is_told(way: str, tmp_path: Path) -> None:
    for kind, name, text in BLOCK.findall(TEXT.split("\n## ")[0] + SECTIONS[way]):
        if kind == "nginx":
            with serving(nginx(text, tmp_path), tmp_path) as address:
                for path in ("/", "/visit/", "/boats/"):
                    looked_at(path, fetched(address + path))
                with pytest.raises(urllib.error.HTTPError, match="404"):
                    fetched(f"{address}/nowhere/")
            continue
        if kind != "sh":
            (tmp_path / name).parent.mkdir(parents=True, exist_ok=True)
            (tmp_path / name).write_text(text)
            continue
        for command in text.splitlines():
            run(command, tmp_path)


TOOLS = [Path(sys.executable).parent, ROOT / "frontend" / "node_modules" / ".bin", os.environ["PATH"]]
ENVIRONMENT = {**os.environ, "PATH": os.pathsep.join(map(str, TOOLS)), "NODE_PATH": str(CHECKERS)}


def run(command: str, folder: Path) -> None:
    asked = next((paths for start, paths in SERVED.items() if command.startswith(start)), None)
    if asked is None:
        done = subprocess.run(command, shell=True, cwd=folder, env=ENVIRONMENT, capture_output=True, text=True)
        assert done.returncode == 0, f"{command}: {done.stdout}{done.stderr}"
        for start, said in SAID.items():
            assert not command.startswith(start) or said in done.stdout + done.stderr, done.stdout + done.stderr
        return
    with serving(lambda port: command.replace("8080", port).split(), folder) as address:
        for path in asked:
            looked_at(path, fetched(address + path))


def nginx(server: str, folder: Path) -> Callable[[str], list[str]]:
    """nginx as Debian has it, with a server as the documentation writes it."""
    folder.chmod(0o755)
    kinds = ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
    beside = " ".join(f"{kind}_temp_path {folder}/{kind};" for kind in kinds)

    def command(port: str) -> list[str]:
        told = server.replace("8080", port).replace("root www", f"root {folder}/www")
        (folder / "nginx.conf").write_text(
            f"user root; pid {folder}/nginx.pid; error_log {folder}/error.log; daemon off; events {{}}\n"
            f"http {{ access_log off; {beside}\n{told} }}\n"
        )
        return ["/usr/sbin/nginx", "-c", f"{folder}/nginx.conf"]

    return command


@contextmanager
def serving(command: Callable[[str], list[str]], folder: Path) -> Iterator[str]:
    """The address of what a command serves, given a port; at another one where something took that meanwhile."""
    for _ in range(4):
        port = free_port()
        with subprocess.Popen(
            command(port), cwd=folder, env={**ENVIRONMENT, "PORT": port}, stderr=subprocess.DEVNULL
        ) as running:
            try:
                if answers(int(port), running):
                    yield f"http://127.0.0.1:{port}"
                    return
            finally:
                running.terminate()
    raise AssertionError("it did not start, four times over")


def answers(port: int, running: subprocess.Popen[bytes]) -> bool:
    """Whether a process listens at a port; False once it has ended."""
    until = time.monotonic() + 60
    while running.poll() is None:
        with socket.socket() as one:
            if one.connect_ex(("127.0.0.1", port)) == 0:
                time.sleep(0.3)  # one that found the port taken has ended by then
                return running.poll() is None
        assert time.monotonic() < until, "it did not start"
        time.sleep(0.05)
    return False


def free_port() -> str:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        return str(free.getsockname()[1])


def looked_at(path: str, body: str) -> None:
    page = LexborHTMLParser(body)
    assert [link.text().strip() for link in page.css(".b-main > ul > li > a")] == ["Home", "Visit us", "Our boats"]
    current = page.css_first(".b-main [aria-current]")
    assert current.attributes["href"] == ("/boats/" if path.startswith("/boats") else path), path
    trail = [level.text().strip() for level in page.css(".b-breadcrumbs li")]
    names = {"/": [], "/visit/": ["Visit us"], "/boats/": ["Our boats"], "/boats/Swan/": ["Our boats", "Swan"]}
    assert trail == ([] if path == "/" else ["Home", *names[path]])


def fetched(address: str) -> str:
    with urllib.request.urlopen(address) as answer:
        return str(answer.read().decode())
