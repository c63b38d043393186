"""Opening the database: its settings, and the migrations that bring an older one up to date."""

from __future__ import annotations

import os
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DatabaseError, OperationalError
from sqlalchemy.orm import Session, sessionmaker

from basilica.store.errors import NotStored, UsageError
from basilica.store.private_files import make_private

_MARK = "alembic_version"
"""The table in which it stands which migrations were done."""


class Database:
    """The database of a folder of data. Readers never wait: not for each other, and not for a writer."""

    def __init__(self, path: Path, revision: str = "head") -> None:
        """Open it, or make it; ``revision`` is the migration up to which an older one is brought. Raises
        ``UsageError`` where that cannot be, with the reason and the remedy, and ``OSError`` for its folder."""
        make_private(path)
        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        _look_at(path, {script.revision for script in ScriptDirectory.from_config(config).walk_revisions()})
        self._engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 15})
        event.listen(self._engine, "connect", _set_up)
        event.listen(self._engine, "begin", _begin)
        try:
            _migrate(self._engine, config, revision)
        except DatabaseError as error:
            self._engine.dispose()
            raise UsageError(_said(path, str(error.orig))) from error
        self._writes = sessionmaker(self._engine)
        self._reads = sessionmaker(self._engine.execution_options(**{_READS: True}))
        self._thread = _Thread()

    @contextmanager
    def read(self) -> Iterator[Session]:
        """What is there at one moment, in one transaction that changes nothing; inside ``write``, what is there as
        that has changed it. Raises ``NotStored``."""
        if self._thread.writes is not None:
            yield self._thread.writes
            return
        with _told(), self._reads() as session:
            yield session

    @contextmanager
    def write(self) -> Iterator[Session]:
        """One transaction that is done whole or not at all. What it reads nobody changes meanwhile. One inside another
        is a part of that: where it fails, all of it does. Raises ``NotStored``."""
        if self._thread.writes is not None:
            try:
                yield self._thread.writes
            except BaseException:
                self._thread.failed = True
                raise
            return
        with _told(), self._writes.begin() as session:
            self._thread.writes, self._thread.failed = session, False
            try:
                yield session
                if self._thread.failed:
                    raise RuntimeError("a part of this transaction failed, so all of it does")
            finally:
                self._thread.writes = None

    def close(self) -> None:
        """Close it. Where no other program has it open, its one file is complete then."""
        self._engine.dispose()


def back_up(database: Path, to: Path) -> None:
    """Copy a database to another file, as it is at one moment, also while others write to it. Raises ``UsageError``."""
    if to.exists() and to.samefile(database):
        raise UsageError(f"{to} is the database itself. Name another file.")
    beside = to.with_name(f".{to.name}.{os.getpid()}")
    try:
        make_private(beside)
        with closing(sqlite3.connect(beside)) as copy, closing(sqlite3.connect(database, timeout=15)) as there:
            there.backup(copy)
            copy.execute("PRAGMA journal_mode=DELETE")  # the one file is all of it
        os.replace(beside, to)
    except (OSError, sqlite3.Error) as error:
        beside.unlink(missing_ok=True)
        reason = error.strerror if isinstance(error, OSError) else str(error)
        raise UsageError(f"{database} cannot be copied to {to}: {reason}. Nothing was written.") from error


class _Thread(threading.local):
    """What each thread has of its own: the transaction in which it writes, and whether a part of that failed."""

    writes: Session | None = None
    failed = False


_READS = "basilica_reads"


@contextmanager
def _told() -> Iterator[None]:
    """Report a disk or a database that cannot be used as what it is."""
    try:
        yield
    except OperationalError as error:
        problem = str(error.orig)
        if "locked" in problem or "busy" in problem:
            raise NotStored(
                "Another program holds the database, so nothing was saved. Try again in a moment."
            ) from error
        if "full" in problem or "disk I/O" in problem:
            raise NotStored("The disk is full, so nothing was saved. Make room on it, and try again.") from error
        raise NotStored(f"The database cannot be used ({problem}), so nothing was saved.") from error


def _set_up(connection: sqlite3.Connection, _record: object) -> None:
    connection.isolation_level = None  # transactions begin below, not when the driver thinks so
    connection.execute("PRAGMA journal_mode=WAL")
    connection.execute("PRAGMA synchronous=FULL")  # what was saved survives a power cut
    connection.execute("PRAGMA foreign_keys=ON")


def _begin(connection: Connection) -> None:
    reads = connection.get_execution_options().get(_READS)
    # What is written was read before: no other writer may come between.
    connection.exec_driver_sql("BEGIN" if reads else "BEGIN IMMEDIATE")


def _migrate(engine: Engine, config: Config, revision: str) -> None:
    """Bring a database up to date, in one transaction. Tables are made anew by it, and for that moment what refers to
    them refers to nothing; it is looked at in the end (the twelve steps of https://sqlite.org/lang_altertable.html)."""
    with engine.connect() as connection:
        connection.connection.execute("PRAGMA foreign_keys=OFF")  # means nothing once a transaction has begun
        try:
            with connection.begin():
                config.attributes["connection"] = connection
                command.upgrade(config, revision)
                lost = connection.exec_driver_sql("PRAGMA foreign_key_check").first()
                if lost is not None:
                    raise DatabaseError("foreign_key_check", None, ValueError(f"rows of {lost[0]} refer to nothing"))
        finally:
            connection.connection.execute("PRAGMA foreign_keys=ON")


_OTHER = "Name another folder with --data, or put a copy of the database there."


def _look_at(path: Path, known: set[str]) -> None:
    """Whether a file can be opened as the database. Raises ``UsageError``."""
    if not path.exists() or path.stat().st_size == 0:
        return
    with path.open("rb") as file:
        if file.read(16) != b"SQLite format 3\0":
            raise UsageError(f"{path} is not a database. {_OTHER}")
    try:
        connection = sqlite3.connect(path, timeout=15)
        try:
            damage = connection.execute("PRAGMA quick_check(1)").fetchone()[0]
            tables = {name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            written = (
                connection.execute("SELECT version_num FROM alembic_version").fetchall() if _MARK in tables else []
            )
        finally:
            connection.close()
    except sqlite3.Error as error:
        raise UsageError(_said(path, str(error))) from error
    if damage != "ok":
        raise UsageError(f"{path} is damaged ({damage.splitlines()[0]}). {_OTHER}")
    if tables and _MARK not in tables:
        raise UsageError(f"{path} is a database of another program. {_OTHER}")
    if not {revision for (revision,) in written} <= known:
        raise UsageError(f"{path} was written by a newer Basilica. Start that one, or name another folder with --data.")


def _said(path: Path, error: str) -> str:
    """What is the matter with a database, and what to do."""
    if "locked" in error:
        return f"{path} is in use by another program. Stop that, or name another folder with --data."
    if "readonly" in error or "unable to open" in error:
        return f"{path} cannot be written to. Make it writable, or name another folder with --data."
    return f"{path} is damaged ({error}). {_OTHER}"
