"""The application's sites: their texts, versions and content, in SQLite."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Mapping
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from sqlalchemy import Select, and_, func, select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session

from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.plan.content_links import Content, Contents
from basilica.core.rules.limits import SITE_NAME_CHARACTERS
from basilica.store import DATABASE
from basilica.store.blobs import collect_blobs, digest
from basilica.store.contents import (
    Moves,
    contents_of,
    list_contents,
    move_contents,
    put_contents,
    version_contents,
)
from basilica.store.database import Database
from basilica.store.files import files_of, list_files, put_files, version_files
from basilica.store.records import (
    NO_CHANGES,
    Conflict,
    FileChanges,
    NotFound,
    Rewrite,
    SiteRecord,
    SiteSummary,
    Version,
    VersionSummary,
)
from basilica.store.tables import AddressRow, SiteRow, VersionBlobRow, VersionRow


class Sites:
    """Everything that the application keeps. Each method is one transaction."""

    def __init__(self, folder: Path) -> None:
        """Open the database in ``folder``, making or migrating it where needed. Raises ``UsageError``."""
        self._database = Database(folder / DATABASE)
        self._read, self._write = self._database.read, self._database.write

    @property
    def database(self) -> Database:
        """The database, for what else is kept there."""
        return self._database

    def collect(self, now: datetime | None = None) -> None:
        """Delete the bytes to which nothing has referred for a day before ``now``."""
        with self._write() as session:
            collect_blobs(session, now or _now())

    def close(self) -> None:
        """Close the database."""
        self._database.close()

    # Sites

    def all(self, archived: bool = False) -> list[SiteSummary]:
        """Every site, by name, without its texts: those in use, or those ``archived``."""
        wanted = SiteRow.archived_at.is_not(None) if archived else SiteRow.archived_at.is_(None)
        with self._read() as session:
            found = session.execute(_summaries().where(wanted).order_by(func.lower(SiteRow.name), SiteRow.id))
            return [SiteSummary(**row) for row in found.mappings()]

    def summary(self, slug: str) -> SiteSummary:
        """One site, without its texts. Raises ``NotFound``."""
        with self._read() as session:
            found = session.execute(_summaries().where(SiteRow.slug == slug)).mappings().one_or_none()
            if found is None:
                raise NotFound(slug)
            return SiteSummary(**found)

    def get(self, slug: str) -> SiteRecord:
        """One site. Raises ``NotFound``."""
        with self._read() as session:
            return _record(session, _row(session, slug))

    def make(
        self, name: str, text: str, contents: Contents, note: str, folder: str | None = None, files: Files = NO_FILES
    ) -> SiteRecord:
        """A new site with its first kept version."""
        with self._write() as session:
            row = _new_row(session, name, text)
            row.folder = folder
            put_contents(session, row, contents)
            put_files(session, row, files)
            _save_version(session, row, note)
            return _record(session, row)

    def rename(self, slug: str, name: str) -> SiteRecord:
        """Another name for a site in the list; its address and its map stay."""
        with self._write() as session:
            row = _row(session, slug)
            row.name = _name(name) or row.name
            return _record(session, row)

    def duplicate(self, slug: str, name: str) -> SiteRecord:
        """A copy of a site as it stands, with a first kept version of its own."""
        with self._write() as session:
            row = _row(session, slug)
            copy = _new_row(session, name, row.text)
            copy.last_valid_text = row.last_valid_text
            put_contents(session, copy, contents_of(session, row))
            put_files(session, copy, files_of(session, row))
            _save_version(session, copy, f"A copy of {row.name}")
            return _record(session, copy)

    def archive(self, slug: str, archived: bool) -> None:
        """Take a site out of the list, or unarchive it."""
        with self._write() as session:
            _row(session, slug).archived_at = _now() if archived else None

    def delete(self, slug: str) -> None:
        """Delete a site that is archived, permanently, with its versions and its content."""
        with self._write() as session:
            row = _row(session, slug)
            if row.archived_at is None:
                raise NotFound(slug)
            session.delete(row)
            session.flush()
            collect_blobs(session, _now())

    # The text that is being worked on

    def save(
        self,
        slug: str,
        text: str,
        revision: int,
        good: bool,
        moves: Moves = (),
        rewrite: Rewrite = lambda contents, files: (contents, files),
        files: FileChanges = NO_CHANGES,
    ) -> SiteRecord:
        """Save the text that is being worked on. ``good`` tells that it can be drawn.

        ``moves`` takes content along with pages that have another key now, and archived, or back from there, with pages
        that are gone or back; ``rewrite`` mends what content and files say about them. ``files`` are changed with the
        text. Raises ``Conflict`` where the text was saved from elsewhere since ``revision``, or a file is not what it
        was; and ``NotFound``.
        """
        with self._write() as session:
            row = _row(session, slug)
            if row.revision != revision:
                if row.text == text and not files:
                    return _record(session, row)
                raise Conflict(_record(session, row))
            if files:
                there = files_of(session, row)
                for name, change in files.items():
                    if there.get(name) not in (change.was, change.now):
                        raise Conflict(_record(session, row), name, name)
                row.edited_here = True
                put_files(session, row, there.replaced({name: change.now for name, change in files.items()}))
            if row.text != text or moves:
                row.edited_here = True
                _put_text(row, text)
            if good:
                row.last_valid_text = text
            if moves:
                move_contents(session, row, moves)
                contents, rewritten = rewrite(contents_of(session, row), files_of(session, row))
                put_contents(session, row, contents)
                put_files(session, row, rewritten)
            session.flush()
            return _record(session, row)

    def save_version(self, slug: str, revision: int, note: str, impact: str = "") -> SiteRecord:
        """Keep the current site as a version with a short note, and with what it changes in words. Raises
        ``Conflict`` and ``NotFound``."""
        with self._write() as session:
            row = _row(session, slug)
            if row.revision != revision:
                raise Conflict(_record(session, row))
            _save_version(session, row, note, impact)
            return _record(session, row)

    # Versions

    def versions(self, slug: str) -> list[VersionSummary]:
        """The versions of a site, newest first, without their texts. Raises ``NotFound``."""
        columns = VersionRow.id, VersionRow.note, VersionRow.saved_at, VersionRow.impact
        wanted = select(*columns).join(VersionRow.site).where(SiteRow.slug == slug).order_by(VersionRow.id.desc())
        with self._read() as session:
            found = [VersionSummary(**row) for row in session.execute(wanted).mappings()]
        if not found:
            raise NotFound(slug)
        return found

    def version(self, slug: str, number: int) -> Version:
        """One version with its content and files. Raises ``NotFound``."""
        with self._read() as session:
            row = _version_row(session, _row(session, slug), number)
            contents = version_contents(session, row)
            return Version(
                id=row.id,
                note=row.note,
                saved_at=row.saved_at,
                impact=row.impact,
                text=row.text,
                contents=contents,
                contents_digest=row.contents_digest,
                files=version_files(session, row).with_heads(contents),
            )

    def restore(self, slug: str, number: int, revision: int, good: bool, impact: str = "") -> SiteRecord:
        """Put a kept version in place again, which keeps a new one. Raises ``Conflict`` and ``NotFound``."""
        with self._write() as session:
            row = _row(session, slug)
            if row.revision != revision:
                raise Conflict(_record(session, row))
            if not _record(session, row).is_saved:
                _save_version(session, row, "Kept before going back")
            found = _version_row(session, row, number)
            _put_text(row, found.text)
            row.last_valid_text = found.text if good else row.last_valid_text
            if found.contents_digest:  # the first states of an older database have the map alone
                put_contents(session, row, version_contents(session, found))
                put_files(session, row, version_files(session, found))
            what = found.note or found.saved_at.strftime("%-d %b %Y, %H:%M")
            _save_version(session, row, f"Back to: {what}", impact)
            return _record(session, row)

    # Content

    def contents(self, slug: str) -> Contents:
        """The content of every page, by key."""
        with self._read() as session:
            return contents_of(session, _row(session, slug))

    def texts_with_head(self, slug: str) -> Contents:
        """The content that begins as a head does, by key."""
        with self._read() as session:
            return contents_of(session, _row(session, slug), begins="---")

    def write(self, slug: str, key: str, text: str, was: str, suffix: str | None = None) -> SiteRecord:
        """Save the content of page ``key``, in Markdown or HTML (``suffix`` is ``md`` or ``html``; None leaves it as it
        is, which is Markdown for a new one); an empty text removes it.

        Raises ``Conflict`` where what is there is not ``was``, and ``NotFound``.
        """
        with self._write() as session:
            row = _row(session, slug)
            contents = dict(contents_of(session, row))
            known = contents.get(key)
            if (known.text if known else "") not in (was, text):
                raise Conflict(_record(session, row), "The text of this page")
            if text.strip():
                name = known.name if known and suffix is None else f"content/{key}.{suffix or 'md'}"
                contents[key] = Content(name, text)
            else:
                contents.pop(key, None)
            row.edited_here = True
            put_contents(session, row, contents)
            return _record(session, row)

    # Files

    def files(self, slug: str) -> Files:
        """The files beside the map of a site."""
        with self._read() as session:
            return files_of(session, _row(session, slug))

    def put_files(self, slug: str, changes: Mapping[str, bytes | None], was: str | None = None) -> SiteRecord:
        """Put files beside the map, or take them away (None).

        Raises ``Conflict`` where the SHA-256 of what is there is not ``was`` (empty: nothing is there), unless that is
        None; and ``NotFound``.
        """
        with self._write() as session:
            row = _row(session, slug)
            files = files_of(session, row)
            for name in changes if was is not None else ():
                if (files.sum(name) if name in files else "") != was:
                    raise Conflict(_record(session, row), "This file")
            row.edited_here = True
            put_files(session, row, files.replaced(changes))
            return _record(session, row)

    # Addresses

    def handed_out(self, slug: str) -> frozenset[str]:
        """The addresses of a site that went out with an export."""
        wanted = select(AddressRow.address).join(SiteRow, SiteRow.id == AddressRow.site_id).where(SiteRow.slug == slug)
        with self._read() as session:
            return frozenset(session.scalars(wanted))

    def hand_out(self, slug: str, addresses: Iterable[str]) -> None:
        """Note addresses that went out; those that are known already stay."""
        new = set(addresses) - self.handed_out(slug)
        if not new:
            return
        with self._write() as session:
            site = _row(session, slug).id
            rows = [{"site_id": site, "address": address} for address in sorted(new)]
            session.execute(insert(AddressRow).on_conflict_do_nothing(), rows)

    # Sites of folders

    def of_folder(self, folder: str) -> SiteRecord | None:
        """The site whose truth is in a folder, if it was opened before."""
        with self._read() as session:
            row = session.scalar(select(SiteRow).where(SiteRow.folder == folder))
            return _record(session, row) if row else None

    def digests_of(self, slug: str) -> dict[str, str]:
        """By name, the SHA-256 of each file when the folder and the site were last the same."""
        with self._read() as session:
            return dict(_row(session, slug).folder_digests)

    def same(self, slug: str, digests: Mapping[str, str]) -> None:
        """Note what each file is, in the folder and in the site."""
        with self._write() as session:
            _row(session, slug).folder_digests = dict(digests)

    def edited_here(self, slug: str) -> bool:
        """Whether something was saved in the application since the last version, and not taken from the folder."""
        with self._read() as session:
            return _row(session, slug).edited_here

    def part(self, slug: str) -> None:
        """Keep a site in the database alone from now on."""
        with self._write() as session:
            row = _row(session, slug)
            row.folder, row.folder_digests = None, {}

    def take(self, slug: str, text: str, good: bool, contents: Contents, files: Files) -> SiteRecord:
        """Take over what stands in the folder."""
        with self._write() as session:
            row = _row(session, slug)
            row.edited_here = False
            if row.text != text:
                _put_text(row, text)
            if good:
                row.last_valid_text = text
            put_contents(session, row, contents)
            put_files(session, row, files)
            return _record(session, row)


def _row(session: Session, slug: str) -> SiteRow:
    row = session.scalar(select(SiteRow).where(SiteRow.slug == slug))
    if row is None:
        raise NotFound(slug)
    return row


def _new_row(session: Session, name: str, text: str) -> SiteRow:
    now = _now()
    name = _name(name) or "Untitled site"
    row = SiteRow(
        slug=_free_slug(session, name),
        name=name,
        made_at=now,
        text=text,
        last_valid_text=text,
        map_digest=digest(text),
        revision=1,
        saved_at=now,
    )
    session.add(row)
    session.flush()
    return row


def _put_text(row: SiteRow, text: str) -> None:
    row.text, row.map_digest = text, digest(text)
    row.revision += 1
    row.saved_at = _now()


def _summaries() -> Select[Any]:
    """One query for what lists have of sites, each beside its newest version."""
    newest = (
        select(func.max(VersionRow.id)).where(VersionRow.site_id == SiteRow.id).correlate(SiteRow).scalar_subquery()
    )
    digests = ("map_digest", "contents_digest", "files_digest")
    same = and_(*(getattr(SiteRow, name) == getattr(VersionRow, name) for name in digests))
    return select(
        SiteRow.slug,
        SiteRow.name,
        SiteRow.revision,
        func.coalesce(same, False).label("is_saved"),
        VersionRow.saved_at.label("last_version_at"),
        *(getattr(SiteRow, name) for name in digests),
        SiteRow.folder,
        SiteRow.archived_at,
    ).outerjoin(VersionRow, VersionRow.id == newest)


def _record(session: Session, row: SiteRow) -> SiteRecord:
    session.flush()
    summary = session.execute(_summaries().where(SiteRow.id == row.id)).mappings().one()
    return SiteRecord(**summary, text=row.text, last_valid_text=row.last_valid_text)


def _version_row(session: Session, row: SiteRow, number: int) -> VersionRow:
    found = session.get(VersionRow, number) if 0 < number < 2**63 else None
    if found is None or found.site_id != row.id:
        raise NotFound(row.slug)
    return found


def _save_version(session: Session, row: SiteRow, note: str, impact: str = "") -> None:
    row.edited_here = False
    version = VersionRow(
        site_id=row.id,
        text=row.text,
        note=" ".join(note.split())[:200],
        saved_at=_now(),
        impact=impact,
        map_digest=row.map_digest,
        contents=list_contents(session, row),
        contents_digest=row.contents_digest,
        files=list_files(session, row),
        files_digest=row.files_digest,
    )
    session.add(version)
    session.flush()
    used = {sha for _, sha in version.contents.values()} | set(version.files.values())
    session.add_all(VersionBlobRow(version_id=version.id, sha=sha) for sha in used)
    session.flush()


def _now() -> datetime:
    return datetime.now(UTC)


def _name(name: str) -> str:
    return " ".join(name.split())[:SITE_NAME_CHARACTERS]


def _free_slug(session: Session, name: str) -> str:
    """An address for a site: its name in plain letters, with a number where that is taken."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    slug = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:60].strip("-") or "site"
    taken = set(session.scalars(select(SiteRow.slug).where(SiteRow.slug.startswith(slug))))
    if slug not in taken:
        return slug
    return next(f"{slug}-{number}" for number in range(2, len(taken) + 3) if f"{slug}-{number}" not in taken)
