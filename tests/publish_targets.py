"""Targets to publish to, of every kind; among them the SSH server of Debian."""

from __future__ import annotations

import getpass
import shutil
import socket
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import asyncssh

from basilica.services.host import Host
from basilica.store.targets import TargetSettings, settings_of

SSHD, SFTP_SERVER = "/usr/sbin/sshd", "/usr/lib/openssh/sftp-server"
KINDS = ("folder", "git", "host", "sshd")


@contextmanager
def target_of(kind: str, root: Path) -> Iterator[tuple[TargetSettings, Path]]:
    """A target of a kind, and the folder that has what is live there (for git: the bare repository)."""
    live = root / "www"
    if kind == "folder":
        yield settings_of("live", {"kind": "folder", "folder": str(live)}), live
    elif kind == "git":
        repository = root / "pages.git"
        git("init", "-q", "--bare", str(repository))
        yield settings_of("live", {"kind": "git", "repository": str(repository), "branch": "pages"}), repository
    elif kind == "host":
        with Host(live) as host:
            yield settings_of("live", host.settings()), live
    else:
        live.mkdir(parents=True)
        with sshd(root) as settings:
            yield settings_of("live", {**settings, "folder": str(live)}), live


@contextmanager
def sshd(root: Path) -> Iterator[dict[str, str]]:
    """OpenSSH's `sshd` with its `sftp-server` on loopback, and the settings of a target there."""
    for name in ("host", "user"):
        key = asyncssh.generate_private_key("ssh-ed25519")
        (root / name).write_bytes(key.export_private_key())
        (root / f"{name}.pub").write_bytes(key.export_public_key())
        (root / name).chmod(0o600)
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    Path("/run/sshd").mkdir(exist_ok=True)
    (root / "sshd_config").write_text(
        f"Port {port}\nListenAddress 127.0.0.1\nHostKey {root}/host\nAuthorizedKeysFile {root}/user.pub\n"
        f"PidFile {root}/sshd.pid\nStrictModes no\nUsePAM no\nPermitRootLogin yes\nSubsystem sftp {SFTP_SERVER}\n"
    )
    process = subprocess.Popen([SSHD, "-D", "-e", "-f", str(root / "sshd_config")], stderr=subprocess.DEVNULL)
    try:
        for _ in range(200):
            with socket.socket() as tried:
                if tried.connect_ex(("127.0.0.1", port)) == 0:
                    break
            time.sleep(0.05)
        host_key = asyncssh.read_public_key(root / "host.pub").get_fingerprint()
        yield {
            "kind": "sftp",
            "host": "127.0.0.1",
            "port": str(port),
            "user": getpass.getuser(),
            "key": str(root / "user"),
            "host-key": host_key,
        }
    finally:
        process.kill()
        process.wait()


def git(*arguments: str) -> str:
    """What git says."""
    return subprocess.run(["git", *arguments], capture_output=True, text=True, check=True).stdout


def tree_at(live: Path) -> dict[str, bytes]:
    """What is live, but for Basilica's own: of a folder, or of a branch as git checks it out."""
    if (live / "objects").is_dir():
        out = live.parent / "checked-out"
        shutil.rmtree(out, ignore_errors=True)
        assert not git("-C", str(live), "fsck", "--strict", "--no-dangling").strip()
        git("clone", "-q", "--branch", "pages", str(live), str(out))
        live = out
    files = (path for path in live.rglob("*") if path.is_file())
    found = {path.relative_to(live).as_posix(): path.read_bytes() for path in files}
    return {path: data for path, data in found.items() if not path.startswith((".basilica/", ".git/"))}
