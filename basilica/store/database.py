"""Opening the database: its settings, and the migrations that bring an older one up to date."""

from __future__ import annotations

import sqlite3
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import DatabaseError

from basilica.store.errors import UsageError

_MARK = "alembic_version"
"""The table in which it stands which migrations were done."""


def open_database(path: Path, revision: str = "head") -> Engine:
    """The database at ``path``, made or migrated where needed; ``revision`` is that of the newest migration. Raises
    ``UsageError`` for a file that is none, is damaged, is in use, or was written by a newer Basilica."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    _look_at(path, {script.revision for script in ScriptDirectory.from_config(config).walk_revisions()})
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 15})

    @event.listens_for(engine, "connect")
    def _settings(connection, _record) -> None:  # type: ignore[no-untyped-def]
        connection.isolation_level = None  # transactions begin below, not when the driver thinks so
        connection.execute("PRAGMA journal_mode=WAL")
        connection.execute("PRAGMA synchronous=FULL")  # what was saved survives a power cut
        connection.execute("PRAGMA foreign_keys=ON")

    @event.listens_for(engine, "begin")
    def _begin(connection) -> None:  # type: ignore[no-untyped-def]
        # A revision is read and then written: no other writer may come between.
        connection.exec_driver_sql("BEGIN IMMEDIATE")

    try:
        with engine.begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, revision)
    except DatabaseError as error:
        engine.dispose()
        raise UsageError(_said(path, str(error.orig))) from error
    return engine


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
