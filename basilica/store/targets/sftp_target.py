"""A folder of a server, over SFTP (draft-ietf-secsh-filexfer; `posix-rename@openssh.com`)."""

from __future__ import annotations

import asyncio
import hashlib
import posixpath
import secrets
import stat
from collections.abc import AsyncIterator, Awaitable, Callable, Coroutine, Iterable, Iterator, Sequence
from contextlib import contextmanager, suppress
from types import TracebackType
from typing import Any, Self, TypeVar

import asyncssh

from basilica.store.targets.secrets import secret_of
from basilica.store.targets.target import OWN, SENDING, UNFINISHED, Done, PublishTarget, TargetProblem, is_own
from basilica.store.targets.target_settings import SettingWord, TargetSettings, secret_variable

T = TypeVar("T")
_AT_ONCE = 24
"""Files that are on their way at the same time."""
_PATIENCE = 30
"""Seconds in which a server must answer."""
_DEEPEST = 40
_MOST_FILES = 500_000
_MOST_BYTES = 100_000_000
"""Bytes of a file that are read to be shown or taken over."""
_LOST = (asyncssh.ConnectionLost, asyncssh.SFTPConnectionLost, asyncssh.SFTPNoConnection)
_PIECE = 32_768
_CIPHERS = (
    "aes128-gcm@openssh.com",
    "aes256-gcm@openssh.com",
    "chacha20-poly1305@openssh.com",
    "aes256-ctr",
    "aes192-ctr",
    "aes128-ctr",
)
"""Those that processors help with come first: of many small files half the time goes into this."""


class UnknownHostKey(TargetProblem):
    """A server whose key nobody has confirmed yet, or which has another one than before; ``fingerprint`` is its own."""

    def __init__(self, message: str, fingerprint: str) -> None:
        super().__init__(message)
        self.fingerprint = fingerprint


class SftpTarget(PublishTarget):
    """Sends over SFTP, many files at once."""

    TITLE = "SFTP"
    LOCAL = ("key",)
    SECRET = "The password of the user, or the passphrase of the key. It is stored only in the system's keyring."
    WORDS = (
        SettingWord("host", "The name or the number of the server.", None),
        SettingWord("port", "The port of its SSH.", "22"),
        SettingWord("user", "The user there.", None),
        SettingWord("folder", "The folder of the live site there; relative ones begin at the user's home.", "."),
        SettingWord("key", "The file of the private key. Without one a password is asked of the keyring."),
        SettingWord("host-key", "The fingerprint of the server's key, SHA256:…; without one it is shown and asked."),
    )

    @staticmethod
    def place_of(settings: TargetSettings) -> str:
        """The user, the server, and the folder there."""
        return f"{settings['user']}@{settings['host']}:{settings['port']} {settings['folder']}"

    @staticmethod
    def problem_with(settings: TargetSettings) -> str:
        """What is wrong with the settings: a port that is none."""
        port = settings["port"]
        is_port = port.isascii() and port.isdigit() and 0 < int(port[:6]) < 65_536
        return "" if is_port else "`port` is not a number from 1 to 65535."

    def __enter__(self) -> Self:
        self._runner = asyncio.Runner()
        # Of many files on their way when a connection is lost, one says so.
        self._runner.get_loop().set_exception_handler(lambda loop, context: None)
        self._made: set[str] = set()
        try:
            with self._told("The server"):
                self._run(self._connect())
        except BaseException:
            self._runner.close()
            raise
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        with suppress(OSError, asyncssh.Error):
            self._run(self._disconnect())
        self._runner.close()

    def _run(self, work: Coroutine[Any, Any, T]) -> T:
        return self._runner.run(work)

    async def _connect(self) -> None:
        host, port, user = self.settings["host"], int(self.settings["port"]), self.settings["user"]
        options: dict[str, Any] = {"config": [], "agent_path": None, "known_hosts": None, "client_keys": None}
        options["encryption_algs"] = _CIPHERS
        async with asyncio.timeout(_PATIENCE):
            key = await asyncssh.get_server_host_key(host, port, config=[])
        if key is None:
            raise TargetProblem(f"{host} shows no key, so it cannot be told from another server.")
        self._confirm(key.get_fingerprint())
        options["known_hosts"] = ([key], [], [])
        secret = secret_of(self.settings)
        if self.settings["key"]:
            options["client_keys"] = [self._key(secret)]
            options["preferred_auth"] = "publickey"
        elif secret is None:
            raise TargetProblem(
                f"There is no password for {user}@{host}. Give it in the application, or in the environment as "
                f"{secret_variable(self.settings.name)}; or name a `key`."
            )
        else:
            options["password"] = secret
            options["preferred_auth"] = "password,keyboard-interactive"
        self._connection = await asyncssh.connect(
            host, port, username=user, login_timeout=_PATIENCE, connect_timeout=_PATIENCE, **options
        )
        self._sftp = await self._connection.start_sftp_client(path_errors="surrogateescape")
        folder = self.settings["folder"]
        await self._sftp.makedirs(folder, exist_ok=True)
        self._root = await self._sftp.realpath(folder)
        self._made.add(str(self._root))

    def _confirm(self, fingerprint: str) -> None:
        """Raises ``UnknownHostKey`` for a server that is not the one that was confirmed."""
        host, known = self.settings["host"], self.settings["host-key"]
        if not known:
            message = (
                f"The server {host} is not known yet. Its key is {fingerprint}: ask its provider whether that is right."
            )
            raise UnknownHostKey(f"{message} Then write `host-key: {fingerprint}` at the target.", fingerprint)
        if known != fingerprint:
            raise UnknownHostKey(
                f"The server {host} has the key {fingerprint}, and had {known}. Either it was set up anew, or this is "
                "another server: ask its provider before you confirm the new one.",
                fingerprint,
            )

    def _key(self, passphrase: str | None) -> asyncssh.SSHKey:
        path = self.settings.path("key")
        try:
            return asyncssh.read_private_key(path, passphrase)
        except (OSError, asyncssh.KeyImportError, asyncssh.KeyEncryptionError) as error:
            raise TargetProblem(f"The key {path} cannot be read: {error}.") from error

    async def _disconnect(self) -> None:
        self._sftp.exit()
        self._connection.close()
        await self._connection.wait_closed()

    @contextmanager
    def _told(self, what: str) -> Iterator[None]:
        """Errors of the connection, in words."""
        host = self.settings["host"]
        try:
            yield
        except (*_LOST, ConnectionResetError, BrokenPipeError) as error:
            raise TargetProblem(
                f"The connection to {host} was lost. Publish again: what was sent is there, and the rest follows."
            ) from error
        except asyncssh.PermissionDenied as error:
            raise TargetProblem(
                f"{host} does not let {self.settings['user']} in: the key or the password is wrong."
            ) from error
        except TimeoutError as error:
            raise TargetProblem(f"{host} did not answer within {_PATIENCE} seconds.") from error
        except asyncssh.SFTPError as error:
            raise TargetProblem(f"{what} cannot be read or written on {host}: {error.reason or error}.") from error
        except asyncssh.Error as error:
            raise TargetProblem(f"{host} cannot be spoken to: {error.reason or error}.") from error
        except OSError as error:
            raise TargetProblem(f"{host} cannot be reached: {error.strerror or error}.") from error

    # Reading

    def files(self) -> list[str]:
        """The paths of all files there, but for Basilica's own."""
        self._count = 0
        with self._told("The folder"):
            return sorted(path for path in self._run(self._below("", 0)) if not is_own(path))

    async def _below(self, folder: str, depth: int) -> list[str]:
        found, folders = [], []
        async for name, attributes in self._entries(folder):
            path = f"{folder}/{name}" if folder else name
            mode = attributes.permissions or 0
            if stat.S_ISDIR(mode) and depth < _DEEPEST:
                folders.append(path)
            elif stat.S_ISREG(mode):
                found.append(path)
        for one in await asyncio.gather(*(self._below(path, depth + 1) for path in folders)):
            found += one
        return found

    async def _entries(self, folder: str) -> AsyncIterator[tuple[str, asyncssh.SFTPAttrs]]:
        async for entry in self._sftp.scandir(self._path(folder)):
            name = entry.filename if isinstance(entry.filename, str) else entry.filename.decode("utf-8", "replace")
            self._count += 1
            if self._count > _MOST_FILES:
                raise TargetProblem(f"There are more than {_MOST_FILES:,} files. Name the folder of the site alone.")
            if name not in (".", "..") and "/" not in name:
                yield name, entry.attrs

    def _path(self, path: str) -> str:
        return posixpath.join(str(self._root), path)

    def digests(self, paths: Sequence[str], done: Done) -> dict[str, str]:
        """The SHA-256 of some files, in hexadecimal; those that are not there are left out."""
        found: dict[str, str] = {}

        async def one(path: str) -> None:
            with suppress(asyncssh.SFTPNoSuchFile, asyncssh.SFTPNoSuchPath):
                hashed = hashlib.sha256()
                async for piece in self._pieces(path):
                    hashed.update(piece)
                found[path] = hashed.hexdigest()
            done(path)

        with self._told("A file"):
            self._run(_at_once(one, paths))
        return found

    def read(self, path: str) -> bytes | None:
        """The bytes of a file; None where there is none."""
        with self._told(f"`{path}`"):
            return self._run(self._bytes(path))

    async def _pieces(self, path: str) -> AsyncIterator[bytes]:
        """A file piece by piece: most come in one, which is quicker than asking for their size first."""
        async with self._sftp.open(self._path(path), "rb", block_size=0) as file:
            at = 0
            while True:
                piece = await file.read(_PIECE, at)
                yield piece if isinstance(piece, bytes) else piece.encode()
                at += len(piece)
                if len(piece) < _PIECE:
                    return

    async def _bytes(self, path: str) -> bytes | None:
        data = bytearray()
        try:
            async for piece in self._pieces(path):
                data += piece
                if len(data) > _MOST_BYTES:
                    raise TargetProblem(f"`{path}` there has more than {_MOST_BYTES:,} bytes.")
        except (asyncssh.SFTPNoSuchFile, asyncssh.SFTPNoSuchPath):
            return None
        return bytes(data)

    # Writing

    def send(self, files: Iterable[tuple[str, bytes]], done: Done) -> None:
        """Write files, each beside and then renamed over."""

        async def one(item: tuple[str, bytes]) -> None:
            path, data = item
            with self._told(f"`{path}`"):
                await self._write(path, data)
            done(path)

        with self._told("A file"):
            self._run(_at_once(one, files))

    async def _write(self, path: str, data: bytes) -> None:
        whole = self._path(path)
        folder, name = posixpath.split(whole)
        await self._folder(folder)
        beside = f"{folder}/.{name[:80]}.{secrets.token_hex(4)}{UNFINISHED}"
        try:
            async with self._sftp.open(beside, "wb", block_size=0) as file:
                for at in range(0, len(data), _PIECE):
                    await file.write(data[at : at + _PIECE], at)
            await self._rename(beside, whole)
        except asyncssh.SFTPError:
            with suppress(asyncssh.SFTPError):
                await self._sftp.remove(beside)
            raise

    async def _rename(self, old: str, new: str) -> None:
        try:
            await self._sftp.posix_rename(old, new)
        except asyncssh.SFTPOpUnsupported:  # a server without it: for a moment there is no such file
            with suppress(asyncssh.SFTPNoSuchFile):
                await self._sftp.remove(new)
            await self._sftp.rename(old, new)

    async def _folder(self, folder: str) -> None:
        if folder not in self._made:
            await self._sftp.makedirs(folder, exist_ok=True)
            self._made.add(folder)

    def delete(self, paths: Sequence[str], done: Done) -> None:
        """Delete files, and folders that are empty then."""

        async def one(path: str) -> None:
            with suppress(asyncssh.SFTPNoSuchFile, asyncssh.SFTPNoSuchPath):
                await self._sftp.remove(self._path(path))
            done(path)

        async def tidy() -> None:
            above = {posixpath.dirname(path) for path in paths}
            above |= {"/".join(path.split("/")[:depth]) for path in above for depth in range(1, path.count("/") + 1)}
            for folder in sorted(above - {""}, key=lambda path: -path.count("/")):
                with suppress(asyncssh.SFTPError):  # one that has something in it stays
                    await self._sftp.rmdir(self._path(folder))

        with self._told("A file"):
            self._run(_at_once(one, paths))
            self._run(tidy())
        self._made = {str(self._root)}

    def sweep(self) -> None:
        """Delete what a publish that was cut off was writing."""
        self._count = 0
        with self._told("The folder"):
            found = [path for path in self._run(self._below("", 0)) if path.endswith(UNFINISHED)]
        self.delete(found, lambda path: None)

    def begin(self, note: bytes, path: str = SENDING) -> bytes | None:
        """Leave a note that a publish is on its way, if there is none."""

        async def leave() -> bytes | None:
            await self._folder(self._path(OWN.rstrip("/")))
            try:
                async with self._sftp.open(self._path(path), "xb") as file:
                    await file.write(note)
            except asyncssh.SFTPError as error:
                known = await self._bytes(path)
                if known is None:
                    raise error
                return known
            return None

        with self._told("The note of this publish"):
            return self._run(leave())


async def _at_once(work: Callable[[T], Awaitable[None]], items: Iterable[T]) -> None:
    """Do the same with many things, some at a time; the first error ends all of it."""
    waiting = iter(items)

    async def worker() -> None:
        for item in waiting:
            await work(item)

    tasks = [asyncio.create_task(worker()) for _ in range(_AT_ONCE)]
    try:
        await asyncio.gather(*tasks)
    finally:
        for task in tasks:
            task.cancel()
        await asyncio.gather(*tasks, return_exceptions=True)
