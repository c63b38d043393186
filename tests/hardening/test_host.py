"""The host that ships: nothing of the machine but its folder is read or written through it."""

from __future__ import annotations

import asyncio
import urllib.error
import urllib.request
from collections.abc import Awaitable, Callable
from pathlib import Path

import asyncssh
import pytest

from basilica.services.host import Host

SECRET = b"of the machine"


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    outside = tmp_path / "outside"
    outside.mkdir()
    for name in ("index.html", "secret.txt"):
        (outside / name).write_bytes(SECRET)
    inside = tmp_path / "www"
    (inside / "a").mkdir(parents=True)
    (inside / "a/index.html").write_bytes(b"of the site")
    (inside / "within").symlink_to(inside / "a")
    (inside / "out").symlink_to(outside)
    (inside / "secret.txt").symlink_to(outside / "secret.txt")
    (inside / "404.html").symlink_to(outside / "secret.txt")
    (inside / "b").mkdir()
    (inside / "b/index.html").symlink_to(outside / "index.html")
    return inside


def test_links_out_of_the_folder_are_not_read_over_http(folder: Path) -> None:
    def get(path: str) -> bytes:
        try:
            return bytes(urllib.request.urlopen(host.address + path).read())
        except urllib.error.HTTPError as error:
            return bytes(error.read())

    with Host(folder) as host:
        assert get("/a/") == get("/within/") == b"of the site"
        for path in ("/secret.txt", "/out/", "/out/secret.txt", "/b/", "/nothing"):
            assert get(path) == b"Not found"


ACTS: dict[str, Callable[[asyncssh.SFTPClient], Awaitable[object]]] = {
    "read": lambda client: client.open("/secret.txt", "rb"),
    "read below": lambda client: client.open("/out/secret.txt", "rb"),
    "write": lambda client: client.open("/secret.txt", "wb"),
    "write below": lambda client: client.open("/out/new.txt", "wb"),
    "list": lambda client: client.listdir("/out"),
    "look": lambda client: client.stat("/out/secret.txt"),
    "remove below": lambda client: client.remove("/out/secret.txt"),
    "rename out": lambda client: client.rename("/a/index.html", "/out/index.html"),
    "make a folder": lambda client: client.mkdir("/out/new"),
    "change": lambda client: client.chmod("/secret.txt", 0o777),
    "link": lambda client: client.symlink("/etc/passwd", "/passwd"),
}


@pytest.mark.parametrize("act", ACTS)
def test_links_out_of_the_folder_are_not_followed_over_sftp(folder: Path, act: str) -> None:
    async def run(port: int, key: Path) -> None:
        connection = asyncssh.connect("127.0.0.1", port, username="web", client_keys=[str(key)], known_hosts=None)
        async with connection as opened, opened.start_sftp_client() as client:
            with pytest.raises((asyncssh.SFTPPermissionDenied, asyncssh.SFTPOpUnsupported)):
                await ACTS[act](client)
            await client.remove("/secret.txt")  # the link itself is in the folder

    outside = folder.parent / "outside"
    before = {path.name: (path.read_bytes(), path.stat().st_mode) for path in outside.iterdir()}
    with Host(folder) as host:
        asyncio.run(run(host.sftp.port, host.sftp.key_file))
    assert {path.name: (path.read_bytes(), path.stat().st_mode) for path in outside.iterdir()} == before
    assert (folder / "a/index.html").is_file() and not (folder / "passwd").is_symlink()
    assert not (folder / "secret.txt").is_symlink()
