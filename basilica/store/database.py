"""Opening the database: its settings, and the migrations that bring an older one up to date."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, event


def open_database(path: Path, revision: str = "head") -> Engine:
    """The database at ``path``, made or migrated where needed; ``revision`` is that of the newest migration."""
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

    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
    return engine
