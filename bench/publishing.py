"""Comparing with what is live, and sending it: beside hashing and copying the same files alone."""

from __future__ import annotations

import asyncio
import hashlib
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path

import asyncssh
from rich.console import Console

from basilica.services.publish_work import Choices, PublishNote, prepare, publish
from basilica.store.targets import TargetSettings, settings_of
from tests.publish_targets import SSHD, sshd

FILES = 10_000


def built_files() -> dict[str, bytes]:
    """Small files in 100 folders, as a site has them."""
    return {f"part-{at % 100}/page-{at}.html": f"<p>{at} ".encode() + b"tide wheel stone " * 120 for at in range(FILES)}


def publishing(
    console: Console, measure: Callable[..., dict[str, float]], show: Callable[..., None], folder: Path
) -> None:
    """Print how long comparing and sending take, beside the same work alone."""
    built = built_files()
    live = folder / "live"
    for path, data in built.items():
        (live / path).parent.mkdir(parents=True, exist_ok=True)
        (live / path).write_bytes(data)
    settings = settings_of("live", {"kind": "folder", "folder": str(live)})

    def alone() -> None:
        for path in sorted(live.rglob("*")):
            if path.is_file():
                hashlib.sha256(path.read_bytes()).hexdigest()
        for data in built.values():
            hashlib.sha256(data).hexdigest()

    runs: dict[str, Callable[[], object]] = {"compare": lambda: prepare(settings, built, None), "hash": alone}
    least = measure(runs, 3, folder / "none")
    show(console, f"{FILES:,} files held against what is live", least, FILES)
    console.print(
        f"  comparing / hashing both sides alone: {least['compare'] / least['hash']:.2f}  (wanted: 1.5 at most)"
    )
    if not Path(SSHD).exists():
        console.print("  There is no sshd here, so sending was not measured.")
        return
    with tempfile.TemporaryDirectory() as root, sshd(Path(root)) as server:
        _sending(console, measure, show, {**server, "folder": f"{root}/www"}, built, live)


def _sending(
    console: Console,
    measure: Callable[..., dict[str, float]],
    show: Callable[..., None],
    server: dict[str, str],
    built: dict[str, bytes],
    local: Path,
) -> None:
    target = settings_of("far", server)
    www = Path(server["folder"])

    def send() -> None:
        shutil.rmtree(www, ignore_errors=True)
        publish(prepare(target, built, None), Choices(), PublishNote("one"), None)

    def copy() -> None:
        shutil.rmtree(www, ignore_errors=True)
        asyncio.run(_copied(target, local, www))

    least = measure({"send": send, "copy": copy}, 1, www)
    show(console, f"{FILES:,} files sent over SFTP", least, FILES)
    console.print(
        f"  sending / the same library's plain copy: {least['send'] / least['copy']:.2f}  (wanted: 1.3 at most)"
    )


async def _copied(target: TargetSettings, local: Path, www: Path) -> None:
    connection = asyncssh.connect(
        target["host"],
        int(target["port"]),
        username=target["user"],
        client_keys=[target["key"]],
        known_hosts=None,
        config=[],
    )
    async with connection as open_connection, open_connection.start_sftp_client() as sftp:
        await sftp.put(str(local), str(www), recurse=True)
