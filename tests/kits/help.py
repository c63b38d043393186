"""One harness over all kits: a host is a folder with an application in it, which answers the addresses it reads."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import NamedTuple

from basilica.core.outputs.output_formats import OUTPUT_FORMATS
from basilica.core.outputs.static_site import Renderer

HOSTS = Path(__file__).parent / "hosts"
CHECKERS = Path(__file__).parents[1] / "checkers" / "node_modules"
COMMANDS = {
    "flask": ([sys.executable, "host.py"], "site_navigation"),
    "django": ([sys.executable, "host.py"], "site_navigation"),
    "express": (["node", "host.js"], "site-navigation"),
}
"""How each host is run, and what the folder of the kit is called in it."""


class Answer(NamedTuple):
    """What a host answered: status, headers by their names in small letters, and the body."""

    status: int
    headers: dict[str, str]
    body: bytes


@dataclass
class Host:
    """A host in a folder, with the kit set in."""

    kind: str
    folder: Path
    log: str = ""
    """What it said of itself while it answered last."""

    @contextmanager
    def serving(self, title: str) -> Iterator[str]:
        """Its address while it serves, with its own base and a strict content policy."""
        said = {"addresses": [], "mount": "", "own_base": True, "title": title, "serve": True}
        command = COMMANDS[self.kind][0]
        with subprocess.Popen(
            command, cwd=self.folder, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, env=self.environment
        ) as running:
            assert running.stdin is not None and running.stdout is not None
            running.stdin.write(json.dumps(said))
            running.stdin.close()
            try:
                yield f"http://127.0.0.1:{running.stdout.readline().strip()}"
            finally:
                running.kill()

    @property
    def environment(self) -> dict[str, str]:
        """Where it finds what it needs."""
        return {**os.environ, "NODE_PATH": str(CHECKERS), "PYTHONPATH": str(self.folder)}

    def ask(
        self, addresses: Iterable[str], mount: str = "", own_base: bool = False, title: str | None = None
    ) -> tuple[list[Answer], list[str]]:
        """What it answers, and what its own check of the pages finds."""
        said = {"addresses": list(addresses), "mount": mount, "own_base": own_base, "title": title}
        done = subprocess.run(
            COMMANDS[self.kind][0],
            cwd=self.folder,
            input=json.dumps(said),
            capture_output=True,
            text=True,
            env=self.environment,
        )
        assert done.returncode == 0, done.stderr[-3000:]
        self.log = done.stderr
        told = json.loads(done.stdout.rstrip("\n").rpartition("\n")[2])
        rows = told["answers"]
        return [
            Answer(status, {name.lower(): text for name, text in headers.items()}, body.encode("latin-1"))
            for status, headers, body in rows
        ], told["problems"]


def host(kind: str, renderer: Renderer, folder: Path) -> Host:
    """A host into which the kit of a site is set."""
    shutil.copytree(HOSTS / kind, folder)
    shutil.copy(HOSTS / "serving.py", folder)
    for file in OUTPUT_FORMATS[kind].files(renderer):
        path = folder / COMMANDS[kind][1] / file.path
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(file.data)
    return Host(kind, folder)
