"""The SSH side of the host that ships: one user, one key, one folder."""

from __future__ import annotations

import asyncio
import os
import threading
from collections.abc import AsyncIterator
from pathlib import Path
from typing import Any

import asyncssh

from basilica.services.host.faults import Faults
from basilica.services.host.inside import is_inside

USER = "web"


class SftpHost:
    """Answers SFTP in a thread of its own."""

    def __init__(self, folder: Path, keys: Path, faults: Faults, port: int = 0, password: str = "") -> None:
        """``keys`` is a folder for the server's key and the user's, which are made there once; with a ``password`` the
        user may come in by that as well."""
        self.key_file = keys / "user_key"
        self._host_key = _key(keys / "host_key")
        self._user_key = _key(self.key_file)
        self.fingerprint = self._host_key.get_fingerprint()
        self._folder, self._faults, self._password = folder, faults, password
        self._loop = asyncio.new_event_loop()
        self._thread = threading.Thread(target=self._loop.run_forever, daemon=True)
        self._thread.start()
        self._server = asyncio.run_coroutine_threadsafe(self._listen(port), self._loop).result(30)
        self.port: int = self._server.get_port()

    async def _listen(self, port: int) -> asyncssh.SSHAcceptor:
        allowed = asyncssh.import_authorized_keys(self._user_key.export_public_key().decode())
        return await asyncssh.listen(
            "127.0.0.1",
            port,
            server_host_keys=[self._host_key],
            server_factory=lambda: _Server(self._password),
            authorized_client_keys=allowed,
            sftp_factory=lambda channel: _Folder(channel, self._folder, self._faults),
            allow_scp=False,
        )

    def close(self) -> None:
        """End all connections, and listen no more."""

        async def end() -> None:
            self._server.close()
            await self._server.wait_closed()

        asyncio.run_coroutine_threadsafe(end(), self._loop).result(30)
        self._loop.call_soon_threadsafe(self._loop.stop)
        self._thread.join(10)


class _Server(asyncssh.SSHServer):
    def __init__(self, password: str) -> None:
        self._password = password

    def password_auth_supported(self) -> bool:
        return bool(self._password)

    def validate_password(self, username: str, password: str) -> bool:
        return username == USER and password == self._password


class _Folder(asyncssh.SFTPServer):
    """The folder, as the user sees it: nothing is above it, and no link leads out of it."""

    def __init__(self, channel: Any, folder: Path, faults: Faults) -> None:
        super().__init__(channel, chroot=str(folder).encode())
        self._folder = folder
        self._ssh = channel.get_connection()
        self._faults = faults

    def map_path(self, path: bytes) -> bytes:
        """Where a path is on this machine. Its folder is inside; the last step may be a link, to be removed."""
        mapped = super().map_path(path)
        there = Path(os.fsdecode(mapped))
        if there != self._folder and not is_inside(self._folder, there.parent):
            raise asyncssh.SFTPPermissionDenied("This leads out of the folder")
        return mapped

    def _follow(self, path: bytes) -> None:
        if not is_inside(self._folder, Path(os.fsdecode(self.map_path(path)))):
            raise asyncssh.SFTPPermissionDenied("This leads out of the folder")

    def scandir(self, path: bytes) -> AsyncIterator[asyncssh.SFTPName]:
        self._follow(path)
        return super().scandir(path)

    def stat(self, path: bytes) -> Any:
        self._follow(path)
        return super().stat(path)

    def setstat(self, path: bytes, attrs: asyncssh.SFTPAttrs) -> Any:
        self._follow(path)
        return super().setstat(path, attrs)

    def symlink(self, oldpath: bytes, newpath: bytes) -> None:
        raise asyncssh.SFTPOpUnsupported("There are no links here")

    def link(self, oldpath: bytes, newpath: bytes) -> None:
        raise asyncssh.SFTPOpUnsupported("There are no links here")

    async def open(self, path: bytes, pflags: int, attrs: asyncssh.SFTPAttrs) -> object:
        self._follow(path)
        if self._faults.slow:
            await asyncio.sleep(self._faults.slow)
        if pflags & asyncssh.FXF_WRITE and self._faults.refuses(path.decode("utf-8", "replace")):
            raise asyncssh.SFTPPermissionDenied("Permission denied")
        return super().open(path, pflags, attrs)

    def write(self, file_obj: object, offset: int, data: bytes) -> int:
        faults = self._faults
        if faults.drops(len(data)):
            super().write(file_obj, offset, data[: len(data) // 2])
            self._ssh.abort()
            raise asyncssh.SFTPConnectionLost("Connection lost")
        if faults.is_full(len(data)):
            raise asyncssh.SFTPFailure("No space left on device")
        faults.written += len(data)
        written: int = super().write(file_obj, offset, data)  # type: ignore[assignment]
        return written

    def posix_rename(self, oldpath: bytes, newpath: bytes) -> None:
        if self._faults.refuses(newpath.decode("utf-8", "replace")):
            raise asyncssh.SFTPPermissionDenied("Permission denied")
        super().posix_rename(oldpath, newpath)


def _key(path: Path) -> asyncssh.SSHKey:
    """A private key from its file, which is made where it is not there."""
    if path.is_file():
        return asyncssh.read_private_key(path)
    path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    key = asyncssh.generate_private_key("ssh-ed25519")
    path.touch(mode=0o600)
    path.write_bytes(key.export_private_key())
    return key
