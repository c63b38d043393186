"""The targets of sites, and what was published to them: when, from which version, with what note, and every file."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import Text, cast, delete, select, update
from sqlalchemy.orm import Session

from basilica.store.blobs import collect_blobs, digest, get_blobs, put_blobs
from basilica.store.database import Database
from basilica.store.records import NotFound
from basilica.store.tables import PublishBlobRow, PublishRow, SiteRow, TargetRow
from basilica.store.targets import TargetSettings

KEPT_PUBLISHES = 30
"""So many publishes to one place have their files, and can be taken back; older ones are listed."""
_LISTED = 200
_NO_FILES = "{}"
_COLUMNS = (
    PublishRow.id,
    PublishRow.target,
    PublishRow.place,
    PublishRow.published_at,
    PublishRow.version,
    PublishRow.version_id,
    PublishRow.note,
    PublishRow.reason,
    PublishRow.summary,
    (cast(PublishRow.files, Text) != _NO_FILES).label("has_files"),
)
"""What lists have of a publish: not the names of all its files."""


@dataclass(frozen=True, slots=True)
class PublishRecord:
    """A publish as the history lists it. ``has_files`` tells whether it can be taken back."""

    id: int
    target: str
    place: str
    published_at: datetime
    version: str
    version_id: int | None
    note: str
    reason: str
    summary: str
    has_files: bool


@dataclass(frozen=True, slots=True)
class NewPublish:
    """What is noted of a publish."""

    target: str
    place: str
    version: str
    version_id: int | None
    note: str
    reason: str
    summary: str


class Publishes:
    """What a database knows of targets and publishes. A map that is no site of the application has no targets here, but
    what was published of it is noted as well, by place."""

    def __init__(self, database: Database) -> None:
        self._read, self._write = database.read, database.write

    def targets(self, slug: str) -> list[TargetSettings]:
        """The targets of a site, by name."""
        wanted = select(TargetRow).join(SiteRow, SiteRow.id == TargetRow.site_id).where(SiteRow.slug == slug)
        with self._read() as session:
            rows = session.scalars(wanted.order_by(TargetRow.name))
            return [TargetSettings(row.name, row.kind, dict(row.settings)) for row in rows]

    def put_target(self, slug: str, settings: TargetSettings) -> None:
        """Remember a target of a site, in place of the one of its name. Raises ``NotFound``."""
        with self._write() as session:
            site = _site(session, slug)
            if site is None:
                raise NotFound(slug)
            row = _target(session, site, settings.name)
            if row is None:
                row = TargetRow(site_id=site, name=settings.name)
                session.add(row)
            row.kind, row.settings = settings.kind, dict(settings.values)

    def drop_target(self, slug: str, name: str) -> None:
        """Forget a target; what was published there stays, and stays in the history."""
        with self._write() as session:
            site = _site(session, slug)
            row = _target(session, site, name) if site is not None else None
            if row is not None:
                session.delete(row)

    def add(self, slug: str | None, new: NewPublish, files: Mapping[str, bytes]) -> int:
        """Note a publish with all files that are live from then on; gives its number. ``slug`` is that of its site, if
        it has one."""
        shas = {path: digest(data) for path, data in files.items()}
        with self._write() as session:
            put_blobs(session, {shas[path]: data for path, data in files.items()})
            row = PublishRow(
                site_id=_site(session, slug) if slug is not None else None,
                published_at=datetime.now(UTC),
                files=shas,
                target=new.target,
                place=new.place,
                version=new.version,
                version_id=new.version_id,
                note=" ".join(new.note.split())[:200],
                reason=" ".join(new.reason.split())[:500],
                summary=new.summary,
            )
            session.add(row)
            session.flush()
            session.add_all(PublishBlobRow(publish_id=row.id, sha=sha) for sha in set(shas.values()))
            earlier = select(PublishRow.id).where(PublishRow.place == new.place).order_by(PublishRow.id.desc())
            old = session.scalars(earlier.offset(KEPT_PUBLISHES)).all()
            session.execute(update(PublishRow).where(PublishRow.id.in_(old)).values(files={}))
            session.execute(delete(PublishBlobRow).where(PublishBlobRow.publish_id.in_(old)))
            collect_blobs(session, row.published_at)
            return row.id

    def of_place(self, place: str, most: int = _LISTED) -> list[PublishRecord]:
        """What was published to a place, the newest first."""
        return self._list(select(*_COLUMNS).where(PublishRow.place == place), most)

    def of_site(self, slug: str, most: int = _LISTED) -> list[PublishRecord]:
        """What was published of a site, the newest first."""
        wanted = select(*_COLUMNS).join(SiteRow, SiteRow.id == PublishRow.site_id).where(SiteRow.slug == slug)
        return self._list(wanted, most)

    def _list(self, wanted: Any, most: int) -> list[PublishRecord]:
        with self._read() as session:
            rows = session.execute(wanted.order_by(PublishRow.id.desc()).limit(most)).mappings()
            return [PublishRecord(**row) for row in rows]

    def digests(self, number: int, place: str) -> dict[str, str]:
        """By path, the SHA-256 of the files of a publish. Raises ``NotFound``."""
        with self._read() as session:
            return dict(_row(session, number, place).files)

    def files(self, number: int, place: str) -> dict[str, bytes]:
        """The files of a publish to a place. Raises ``NotFound``, also where it is too long ago."""
        with self._read() as session:
            files = _row(session, number, place).files
            found = get_blobs(session, files.values())
        if not files or not all(sha in found for sha in files.values()):
            raise NotFound(f"publish {number}")
        return {path: found[sha] for path, sha in files.items()}


def _site(session: Session, slug: str) -> int | None:
    return session.scalar(select(SiteRow.id).where(SiteRow.slug == slug))


def _target(session: Session, site: int, name: str) -> TargetRow | None:
    return session.scalar(select(TargetRow).where(TargetRow.site_id == site, TargetRow.name == name))


def _row(session: Session, number: int, place: str) -> PublishRow:
    row = session.get(PublishRow, number) if 0 < number < 2**63 else None
    if row is None or row.place != place:
        raise NotFound(f"publish {number}")
    return row
