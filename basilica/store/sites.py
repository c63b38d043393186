"""The application's sites: their texts, kept states and content, in SQLite."""

from __future__ import annotations

import re
import secrets
import unicodedata
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session, sessionmaker

from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.plan.content_links import Content, Contents
from basilica.store.contents import (
    Moves,
    contents_of,
    drop_unused,
    kept_contents,
    list_contents,
    move_contents,
    put_contents,
)
from basilica.store.database import open_database
from basilica.store.files import drop_unused_files, files_of, kept_files, list_files, put_files
from basilica.store.tables import ContentRow, FileRow, SecretRow, SiteRow, StateRow


@dataclass(frozen=True, slots=True)
class KeptState:
    """A state as it was kept. ``kept_at`` is in UTC; ``reach`` says in words what it changed."""

    id: int
    text: str
    note: str
    kept_at: datetime
    contents_mark: str
    reach: str


@dataclass(frozen=True, slots=True)
class SiteRecord:
    """A site as it stands. ``kept`` is False where it differs from the newest kept state."""

    slug: str
    name: str
    text: str
    good_text: str
    revision: int
    kept: bool
    last_kept_at: datetime | None
    contents_mark: str
    folder: str | None = None
    aside_at: datetime | None = None
    files_mark: str = ""


Rewrite = Callable[[Contents, Files], tuple[Contents, Files]]
"""Mends what content and files say about pages that have another key now."""


class Unknown(LookupError):
    """There is no such site, or no such state of it."""


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
        self._engine = open_database(folder / "basilica.sqlite")
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

    # Sites

    def all(self, aside: bool = False) -> list[SiteRecord]:
        """Every site, by name: those in use, or those set ``aside``."""
        with self._session.begin() as session:
            wanted = SiteRow.aside_at.is_not(None) if aside else SiteRow.aside_at.is_(None)
            rows = session.scalars(select(SiteRow).where(wanted).order_by(func.lower(SiteRow.name), SiteRow.id)).all()
            return [_record(session, row) for row in rows]

    def get(self, slug: str) -> SiteRecord:
        """One site. Raises ``Unknown``."""
        with self._session.begin() as session:
            return _record(session, _row(session, slug))

    def make(
        self, name: str, text: str, contents: Contents, note: str, folder: str | None = None, files: Files = NO_FILES
    ) -> SiteRecord:
        """A new site with its first kept state."""
        with self._session.begin() as session:
            row = _new_row(session, name, text)
            row.folder, row.synced = folder, text if folder else None
            put_contents(session, row, contents)
            put_files(session, row, files)
            _keep(session, row, note)
            return _record(session, row)

    def rename(self, slug: str, name: str) -> SiteRecord:
        """Another name for a site in the list; its address and its map stay."""
        with self._session.begin() as session:
            row = _row(session, slug)
            row.name = _name(name) or row.name
            return _record(session, row)

    def duplicate(self, slug: str, name: str) -> SiteRecord:
        """A copy of a site as it stands, with a first kept state of its own."""
        with self._session.begin() as session:
            row = _row(session, slug)
            copy = _new_row(session, name, row.text)
            copy.good_text = row.good_text
            put_contents(session, copy, contents_of(session, row))
            put_files(session, copy, files_of(session, row))
            _keep(session, copy, f"A copy of {row.name}")
            return _record(session, copy)

    def set_aside(self, slug: str, aside: bool) -> None:
        """Take a site out of the list, or bring it back."""
        with self._session.begin() as session:
            _row(session, slug).aside_at = _now() if aside else None

    def delete(self, slug: str) -> None:
        """Delete a site that was set aside, for good, with its kept states and its content."""
        with self._session.begin() as session:
            row = _row(session, slug)
            if row.aside_at is None:
                raise Unknown(slug)
            for table in (ContentRow, StateRow, FileRow):
                session.execute(delete(table).where(table.site_id == row.id))
            session.delete(row)
            session.flush()
            drop_unused(session)
            drop_unused_files(session)

    # The text that is being worked on

    def save(
        self,
        slug: str,
        text: str,
        revision: int,
        good: bool,
        moves: Moves = (),
        rewrite: Rewrite = lambda contents, files: (contents, files),
    ) -> SiteRecord:
        """Save the text that is being worked on. ``good`` tells that it can be drawn.

        ``moves`` takes content along with pages that have another key now, and aside, or back from there, with pages
        that are gone or back; ``rewrite`` mends what content and files say about them. Raises ``Stale`` where the text
        was saved from elsewhere since ``revision``, and ``Unknown``.
        """
        with self._session.begin() as session:
            row = _row(session, slug)
            if row.revision != revision:
                if row.text == text:
                    return _record(session, row)
                raise Stale(_record(session, row))
            if row.text != text or moves:
                row.text = text
                row.revision += 1
                row.saved_at = _now()
            if good:
                row.good_text = text
            if moves:
                move_contents(session, row, moves)
                contents, files = rewrite(contents_of(session, row), files_of(session, row))
                put_contents(session, row, contents)
                put_files(session, row, files)
            session.flush()
            return _record(session, row)

    def keep(self, slug: str, revision: int, note: str, reach: str = "") -> SiteRecord:
        """Keep the site as it stands as a state with a short note, and with what it changes in words. Raises
        ``Stale`` and ``Unknown``."""
        with self._session.begin() as session:
            row = _row(session, slug)
            if row.revision != revision:
                raise Stale(_record(session, row))
            _keep(session, row, note, reach)
            return _record(session, row)

    # Kept states

    def states(self, slug: str) -> list[KeptState]:
        """The kept states of a site, newest first."""
        with self._session.begin() as session:
            row = _row(session, slug)
            found = session.scalars(select(StateRow).where(StateRow.site_id == row.id).order_by(StateRow.id.desc()))
            return [_state(state) for state in found]

    def state(self, slug: str, number: int) -> tuple[KeptState, Contents]:
        """One kept state with its content. Raises ``Unknown``."""
        with self._session.begin() as session:
            found = _state_row(session, _row(session, slug), number)
            return _state(found), kept_contents(session, found)

    def state_files(self, slug: str, number: int) -> Files:
        """The files of a kept state. Raises ``Unknown``."""
        with self._session.begin() as session:
            return kept_files(session, _state_row(session, _row(session, slug), number))

    def go_back(self, slug: str, number: int, revision: int, good: bool, reach: str = "") -> SiteRecord:
        """Put a kept state in place again, which keeps a new one. Raises ``Stale`` and ``Unknown``."""
        with self._session.begin() as session:
            row = _row(session, slug)
            if row.revision != revision:
                raise Stale(_record(session, row))
            if not _record(session, row).kept:
                _keep(session, row, "Kept before going back")
            found = _state_row(session, row, number)
            row.text = found.text
            row.good_text = found.text if good else row.good_text
            row.revision += 1
            row.saved_at = _now()
            if found.contents_mark:  # the first states of an older database have the map alone
                put_contents(session, row, kept_contents(session, found))
                put_files(session, row, kept_files(session, found))
            what = found.note or found.kept_at.strftime("%-d %b %Y, %H:%M")
            _keep(session, row, f"Back to: {what}", reach)
            return _record(session, row)

    # Content

    def contents(self, slug: str) -> Contents:
        """The content of every page, by key."""
        with self._session.begin() as session:
            return contents_of(session, _row(session, slug))

    def write(self, slug: str, key: str, text: str, was: str, suffix: str | None = None) -> SiteRecord:
        """Save the content of page ``key``, in Markdown or HTML (``suffix`` is ``md`` or ``html``; None leaves it as it
        is, which is Markdown for a new one); an empty text removes it.

        Raises ``Stale`` where what is there is not ``was``, and ``Unknown``.
        """
        with self._session.begin() as session:
            row = _row(session, slug)
            contents = dict(contents_of(session, row))
            known = contents.get(key)
            if (known.text if known else "") not in (was, text):
                raise Stale(_record(session, row))
            if text.strip():
                name = known.name if known and suffix is None else f"content/{key}.{suffix or 'md'}"
                contents[key] = Content(name, text)
            else:
                contents.pop(key, None)
            put_contents(session, row, contents)
            return _record(session, row)

    # Files

    def files(self, slug: str) -> Files:
        """The files beside the map of a site."""
        with self._session.begin() as session:
            return files_of(session, _row(session, slug))

    def put_file(self, slug: str, name: str, data: bytes | None, was: str | None = None) -> SiteRecord:
        """Put a file beside the map, or take one away (None).

        Raises ``Stale`` where the SHA-256 of what is there is not ``was`` (empty: nothing is there), unless that is
        None; and ``Unknown``.
        """
        with self._session.begin() as session:
            row = _row(session, slug)
            files = files_of(session, row)
            if was is not None and (files.sum(name) if name in files else "") != was:
                raise Stale(_record(session, row))
            kept = {other: text for other, text in files.items() if other != name}
            put_files(session, row, Files(kept if data is None else {**kept, name: data}))
            return _record(session, row)

    # Sites of folders

    def of_folder(self, folder: str) -> SiteRecord | None:
        """The site whose truth is in a folder, if it was opened before."""
        with self._session.begin() as session:
            row = session.scalar(select(SiteRow).where(SiteRow.folder == folder))
            return _record(session, row) if row else None

    def synced(self, slug: str) -> str | None:
        """What the map in the folder was when it and the site were last the same."""
        with self._session.begin() as session:
            return _row(session, slug).synced

    def take(self, slug: str, text: str, good: bool, contents: Contents, files: Files) -> SiteRecord:
        """Take over what stands in the folder."""
        with self._session.begin() as session:
            row = _row(session, slug)
            row.synced = text
            if row.text != text:
                row.text = text
                row.revision += 1
                row.saved_at = _now()
            if good:
                row.good_text = text
            put_contents(session, row, contents)
            put_files(session, row, files)
            return _record(session, row)

    def wrote(self, slug: str, text: str) -> None:
        """Note that the folder has this text now."""
        with self._session.begin() as session:
            _row(session, slug).synced = text


def _row(session: Session, slug: str) -> SiteRow:
    row = session.scalar(select(SiteRow).where(SiteRow.slug == slug))
    if row is None:
        raise Unknown(slug)
    return row


def _new_row(session: Session, name: str, text: str) -> SiteRow:
    now = _now()
    name = _name(name) or "Untitled site"
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
    return row


def _record(session: Session, row: SiteRow) -> SiteRecord:
    last = session.scalar(select(StateRow).where(StateRow.site_id == row.id).order_by(StateRow.id.desc()).limit(1))
    kept = last is not None and last.text == row.text and _marks(last) == _marks(row)
    return SiteRecord(
        row.slug,
        row.name,
        row.text,
        row.good_text,
        row.revision,
        kept,
        last.kept_at if last else None,
        row.contents_mark,
        row.folder,
        row.aside_at,
        row.files_mark,
    )


def _marks(row: SiteRow | StateRow) -> tuple[str, str]:
    return row.contents_mark, row.files_mark


def _state_row(session: Session, row: SiteRow, number: int) -> StateRow:
    found = session.get(StateRow, number)
    if found is None or found.site_id != row.id:
        raise Unknown(row.slug)
    return found


def _state(row: StateRow) -> KeptState:
    return KeptState(row.id, row.text, row.note, row.kept_at, row.contents_mark, row.reach)


def _keep(session: Session, row: SiteRow, note: str, reach: str = "") -> None:
    state = StateRow(site_id=row.id, text=row.text, note=" ".join(note.split())[:200], kept_at=_now())
    state.reach = reach
    state.contents, state.contents_mark = list_contents(session, row), row.contents_mark
    state.files, state.files_mark = list_files(session, row), row.files_mark
    session.add(state)
    session.flush()


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


def _name(name: str) -> str:
    return " ".join(name.split())[:120]


def _free_slug(session: Session, name: str) -> str:
    """An address for a site: its name in plain letters, with a number where that is taken."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    slug = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:60].strip("-") or "site"
    taken = set(session.scalars(select(SiteRow.slug).where(SiteRow.slug.startswith(slug))))
    if slug not in taken:
        return slug
    return next(f"{slug}-{number}" for number in range(2, len(taken) + 3) if f"{slug}-{number}" not in taken)
