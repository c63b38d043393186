"""A branch of a git repository on this machine: each publish is one commit, and counts as a whole."""

from __future__ import annotations

import stat
from collections.abc import Iterable, Iterator, Sequence
from contextlib import contextmanager, suppress
from datetime import UTC, datetime
from pathlib import Path
from types import TracebackType
from typing import Self

from dulwich.errors import NotGitRepository
from dulwich.file import FileLocked
from dulwich.index import commit_tree
from dulwich.object_store import iter_tree_contents
from dulwich.objects import Blob, Commit, ObjectID
from dulwich.refs import Ref, check_ref_format
from dulwich.repo import DefaultIdentityNotFound, Repo, get_user_identity

from basilica.store.folders import write_atomically
from basilica.store.targets.target import (
    OWN,
    PUBLISHED,
    SENDING,
    Done,
    PublishTarget,
    TargetProblem,
    is_own,
    leave_note,
    sha256,
)
from basilica.store.targets.target_settings import SettingWord, TargetSettings

_NOBODY = b"Basilica <basilica@localhost>"


class GitTarget(PublishTarget):
    """Commits to a branch. What is sent is written as objects, and the branch moves on in the end, in one step, unless
    somebody else moved it meanwhile."""

    TITLE = "Git branch"
    LOCAL = ("repository",)
    WORDS = (
        SettingWord("repository", "The folder of the repository: bare, or a clone.", None),
        SettingWord("branch", "The branch that has the live site; it is made if it does not exist.", None),
        SettingWord("folder", "The folder in the branch; without it, the whole branch."),
    )

    @staticmethod
    def place_of(settings: TargetSettings) -> str:
        """The repository, the branch, and the folder in it."""
        below = f" /{settings['folder']}" if settings["folder"] else ""
        return f"{settings.path('repository')} branch {settings['branch']}{below}"

    @staticmethod
    def problem_with(settings: TargetSettings) -> str:
        """What is wrong with the settings: a folder that is none in a branch."""
        pieces = settings["folder"].split("/") if settings["folder"] else []
        return (
            ""
            if {"", ".", ".."}.isdisjoint(pieces)
            else "`folder` is not a folder in a branch. Write it as docs or docs/site."
        )

    def __enter__(self) -> Self:
        path = self.settings.path("repository")
        try:
            self._repository = Repo(str(path))
        except NotGitRepository as error:
            raise TargetProblem(f"{path} is not a git repository. Make one: git init --bare {path}") from error
        self._branch = Ref(b"refs/heads/" + self.settings["branch"].encode())
        try:
            self._check()
        except TargetProblem:
            self._repository.close()
            raise
        self._prefix = self.settings["folder"].encode() + b"/" if self.settings["folder"] else b""
        self._takes_over = False
        self._entries: dict[bytes, tuple[ObjectID, int]] = {}
        self._was: ObjectID | None = None
        if self._branch in self._repository.refs:
            self._was = self._repository.refs[self._branch]
            tree = self._repository[self._was].tree  # type: ignore[attr-defined]
            for entry in iter_tree_contents(self._repository.object_store, tree):
                self._entries[entry.path] = entry.sha, entry.mode
        self._before = dict(self._entries)
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._repository.close()

    def _check(self) -> None:
        name, config = self.settings["branch"], self._repository.get_config()
        with suppress(KeyError):
            kind = config.get((b"extensions",), b"objectformat").decode("ascii", "replace")
            if kind.lower() != "sha1":
                raise TargetProblem(
                    f"{self._repository.path} names its objects by {kind}, which cannot be written here. Publish to a "
                    "repository made with: git init --object-format=sha1"
                )
        if not check_ref_format(self._branch):
            raise TargetProblem(f"`{name}` is not a name of a branch.")
        if not self._repository.bare and self._repository.refs.read_ref(Ref(b"HEAD")) == b"ref: " + self._branch:
            raise TargetProblem(
                f"The branch `{name}` is checked out in {Path(self._repository.path)}, whose files would no longer be "
                "those of the branch. Check out another there, or publish to a bare repository."
            )

    def _moved(self, commit: ObjectID) -> bool:
        """Move the branch on to a commit, unless somebody else moved it."""
        refs = self._repository.refs
        for again in (True, False):
            try:
                if self._was is None:
                    return refs.add_if_new(self._branch, commit)
                return refs.set_if_equals(self._branch, self._was, commit)
            except (FileLocked, FileExistsError) as error:
                lock = Path(self._repository.controldir()) / f"{self._branch.decode()}.lock"
                if again and self._takes_over:  # who was at it before is no more, and left this
                    lock.unlink(missing_ok=True)
                    continue
                raise TargetProblem(f"Another git is at work on the branch. If none is, delete {lock}.") from error
        return False

    def _who(self) -> bytes:
        try:
            return get_user_identity(self._repository.get_config_stack())
        except (DefaultIdentityNotFound, KeyError):
            return _NOBODY

    def files(self) -> list[str]:
        """The paths of all files in the branch, but for Basilica's own."""
        paths = (
            path.removeprefix(self._prefix).decode("utf-8", "surrogateescape")
            for path, (_, mode) in self._entries.items()
            if path.startswith(self._prefix) and stat.S_ISREG(mode)
        )
        return sorted(path for path in paths if not is_own(path))

    def digests(self, paths: Sequence[str], done: Done) -> dict[str, str]:
        """The SHA-256 of some files, in hexadecimal; those that are not there are left out."""
        found = {}
        for path in paths:
            data = self.read(path)
            if data is not None:
                found[path] = sha256(data)
            done(path)
        return found

    def read(self, path: str) -> bytes | None:
        """The bytes of a file; None where there is none."""
        if path.startswith(OWN) and path != PUBLISHED:
            return self._own(path).read_bytes() if self._own(path).is_file() else None
        entry = self._entries.get(self._path(path))
        return self._repository[entry[0]].data if entry is not None else None  # type: ignore[attr-defined]

    def _own(self, path: str) -> Path:
        """Where a note of a publish is, beside the objects: no commit has it."""
        return Path(self._repository.controldir()) / f"basilica-{path.removeprefix(OWN)}"

    def _path(self, path: str) -> bytes:
        return self._prefix + path.encode("utf-8", "surrogateescape")

    def send(self, files: Iterable[tuple[str, bytes]], done: Done) -> None:
        """Write files as objects, for the commit to come."""
        for path, data in files:
            if path == SENDING:
                self._takes_over = True
                write_atomically(self._own(path), data)
                continue
            blob = Blob.from_string(data)
            with _told():
                self._repository.object_store.add_object(blob)
            self._entries[self._path(path)] = blob.id, 0o100644
            done(path)

    def delete(self, paths: Sequence[str], done: Done) -> None:
        """Leave files out of the commit to come."""
        for path in paths:
            if path.startswith(OWN) and path != PUBLISHED:
                self._own(path).unlink(missing_ok=True)
            self._entries.pop(self._path(path), None)
            done(path)

    def sweep(self) -> None:
        """Delete the locks of objects that a publish which was killed was writing."""
        for lock in (Path(self._repository.controldir()) / "objects").glob("??/*.lock"):
            lock.unlink(missing_ok=True)

    def begin(self, note: bytes, path: str = SENDING) -> bytes | None:
        """Leave a note that a publish is on its way, if there is none."""
        with _told():
            return leave_note(self._own(path), note)

    def finish(self, message: str) -> None:
        """Commit what was sent. Raises ``TargetProblem`` where the branch was moved meanwhile."""
        if self._entries == self._before:
            return
        with _told():
            self._commit(message)

    def _commit(self, message: str) -> None:
        store = self._repository.object_store
        commit = Commit()
        commit.tree = commit_tree(store, [(path, sha, mode) for path, (sha, mode) in self._entries.items()])
        commit.parents = [self._was] if self._was is not None else []
        commit.author = commit.committer = self._who()
        commit.encoding = b"UTF-8"
        commit.message = message.encode("utf-8", "replace") + b"\n"
        commit.author_time = commit.commit_time = int(datetime.now(UTC).timestamp())
        commit.author_timezone = commit.commit_timezone = 0
        store.add_object(commit)
        if not self._moved(commit.id):
            raise TargetProblem(
                "Somebody else committed to the branch meanwhile, so nothing was published. Compare again."
            )


@contextmanager
def _told() -> Iterator[None]:
    """Errors of the file system, as ones of the target."""
    try:
        yield
    except FileLocked as error:
        raise TargetProblem("Another git is writing there. Publish again once it has ended.") from error
    except OSError as error:
        raise TargetProblem(f"The repository cannot be written: {error.strerror or error}.") from error
