"""The application's sites: their texts, kept states and content, in SQLite."""

from __future__ import annotations

import re
import secrets
import unicodedata
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, event, func, select
from sqlalchemy.orm import Session, sessionmaker

from basilica.core.content import Content, Contents
from basilica.store.tables import ContentRow, SecretRow, SiteRow, StateRow


@dataclass(frozen=True, slots=True)
class KeptState:
    """A text as it was kept. ``kept_at`` is in UTC."""

    id: int
    text: str
    note: str
    kept_at: datetime


@dataclass(frozen=True, slots=True)
class SiteRecord:
    """A site as it stands. ``kept`` is False where ``text`` differs from the newest kept state."""

    slug: str
    name: str
    text: str
    good_text: str
    revision: int
    kept: bool
    last_kept_at: datetime | None


class Unknown(LookupError):
    """There is no such site."""


class Stale(Exception):
    """The text was saved from elsewhere since it was read; ``current`` is what is there now."""

    def __init__(self, current: SiteRecord) -> None:
        super().__init__("The text was saved from elsewhere.")
        self.current = current


class Sites:
    """Everything that the application keeps. Each method is one transaction."""

    def __init__(self, folder: Path) -> None:
        """Open the database in ``folder``, making or migrating it where needed."""
        folder.mkdir(parents=True, exist_ok=True)
        self._engine = _engine(folder / "basilica.sqlite")
        self._session = sessionmaker(self._engine)

    def close(self) -> None:
        """Close the database."""
        self._engine.dispose()

    def secret(self) -> str:
        """The key that signs sessions."""
        with self._session.begin() as session:
            row = session.scalar(select(SecretRow))
            if row is None:
                row = SecretRow(key=secrets.token_hex(32))
                session.add(row)
            return row.key

    def all(self) -> list[SiteRecord]:
        """Every site, by name."""
        with self._session.begin() as session:
            rows = session.scalars(select(SiteRow).order_by(func.lower(SiteRow.name), SiteRow.id)).all()
            return [self._record(session, row) for row in rows]

    def get(self, slug: str) -> SiteRecord:
        """One site. Raises ``Unknown``."""
        with self._session.begin() as session:
            return self._record(session, self._row(session, slug))

    def make(self, name: str, text: str, contents: Contents, note: str) -> SiteRecord:
        """A new site with its first kept state."""
        now = _now()
        name = " ".join(name.split())[:120] or "Untitled site"
        with self._session.begin() as session:
            row = SiteRow(
                slug=_free_slug(session, name),
                name=name,
                made_at=now,
                text=text,
                good_text=text,
                revision=1,
                saved_at=now,
            )
            session.add(row)
            session.flush()
            session.add(StateRow(site_id=row.id, text=text, note=note, kept_at=now))
            for key, content in contents.items():
                session.add(ContentRow(site_id=row.id, key=key, name=content.name, text=content.text))
            session.flush()
            return self._record(session, row)

    def save(self, slug: str, text: str, revision: int, good: bool) -> SiteRecord:
        """Save the text that is being worked on. ``good`` tells that it can be drawn.

        Raises ``Stale`` where it was saved from elsewhere since ``revision``, and ``Unknown``.
        """
        with self._session.begin() as session:
            row = self._row(session, slug)
            if row.revision != revision:
                if row.text == text:
                    return self._record(session, row)
                raise Stale(self._record(session, row))
            if row.text != text:
                row.text = text
                row.revision += 1
                row.saved_at = _now()
            if good:
                row.good_text = text
            session.flush()
            return self._record(session, row)

    def keep(self, slug: str, revision: int, note: str) -> SiteRecord:
        """Keep the text as a state with a short note. Raises ``Stale`` and ``Unknown``."""
        with self._session.begin() as session:
            row = self._row(session, slug)
            if row.revision != revision:
                raise Stale(self._record(session, row))
            note = " ".join(note.split())[:200]
            session.add(StateRow(site_id=row.id, text=row.text, note=note, kept_at=_now()))
            session.flush()
            return self._record(session, row)

    def states(self, slug: str) -> list[KeptState]:
        """The kept states of a site, newest first."""
        with self._session.begin() as session:
            row = self._row(session, slug)
            found = session.scalars(select(StateRow).where(StateRow.site_id == row.id).order_by(StateRow.id.desc()))
            return [KeptState(state.id, state.text, state.note, state.kept_at) for state in found]

    def contents(self, slug: str) -> Contents:
        """The content of every page, by key."""
        with self._session.begin() as session:
            row = self._row(session, slug)
            found = session.scalars(select(ContentRow).where(ContentRow.site_id == row.id).order_by(ContentRow.key))
            return {content.key: Content(content.name, content.text) for content in found}

    def write(self, slug: str, key: str, text: str, was: str) -> None:
        """Save the content of page ``key``; an empty text removes it.

        Raises ``Stale`` where what is there is not ``was``, and ``Unknown``.
        """
        with self._session.begin() as session:
            row = self._row(session, slug)
            query = select(ContentRow).where(ContentRow.site_id == row.id, ContentRow.key == key)
            content = session.scalar(query)
            if (content.text if content else "") not in (was, text):
                raise Stale(self._record(session, row))
            if content is None:
                session.add(ContentRow(site_id=row.id, key=key, name=f"content/{key}.md", text=text))
            elif text.strip():
                content.text = text
            else:
                session.delete(content)

    @staticmethod
    def _row(session: Session, slug: str) -> SiteRow:
        row = session.scalar(select(SiteRow).where(SiteRow.slug == slug))
        if row is None:
            raise Unknown(slug)
        return row

    @staticmethod
    def _record(session: Session, row: SiteRow) -> SiteRecord:
        last = session.scalar(select(StateRow).where(StateRow.site_id == row.id).order_by(StateRow.id.desc()).limit(1))
        return SiteRecord(
            row.slug,
            row.name,
            row.text,
            row.good_text,
            row.revision,
            last is not None and last.text == row.text,
            last.kept_at if last else None,
        )


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


def _free_slug(session: Session, name: str) -> str:
    """An address for a site: its name in plain letters, with a number where that is taken."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    slug = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:60].strip("-") or "site"
    taken = set(session.scalars(select(SiteRow.slug).where(SiteRow.slug.startswith(slug))))
    if slug not in taken:
        return slug
    return next(f"{slug}-{number}" for number in range(2, len(taken) + 3) if f"{slug}-{number}" not in taken)


def _engine(path: Path) -> Engine:
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
        command.upgrade(config, "head")
    return engine
