"""The files beside a map in the database: as they stand, and as versions have them. Equal bytes are kept once."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy import select
from sqlalchemy.orm import Session

from basilica.core.map.map_files import NO_FILES, Files, is_file_name
from basilica.store.blobs import get_blobs, put_blobs
from basilica.store.errors import UsageError
from basilica.store.tables import FileRow, SiteRow, VersionRow


def files_of(session: Session, row: SiteRow) -> Files:
    """The files of a site."""
    if not row.files_digest:
        return NO_FILES
    return _files(session, list_files(session, row))


def put_files(session: Session, row: SiteRow, files: Files) -> None:
    """Make these the files of a site; what is the same stays as it is. Raises ``UsageError`` for a name that cannot be
    that of a file beside a map, so that nothing which is written from the database ever leads out of its folder."""
    if row.files_digest == files.mark:
        return
    wrong = next((name for name in files if not is_file_name(name)), None)
    if wrong is not None:
        raise UsageError(f"`{wrong[:80]}` cannot be the name of a file beside a map.")
    put_blobs(session, {files.sum(name): files[name] for name in files})
    there = {file.name: file for file in session.scalars(select(FileRow).where(FileRow.site_id == row.id))}
    for name in files:
        if name in there:
            there[name].sha = files.sum(name)
        else:
            session.add(FileRow(site_id=row.id, name=name, sha=files.sum(name)))
    for name, file in there.items():
        if name not in files:
            session.delete(file)
    row.files_digest = files.mark
    session.flush()


def list_files(session: Session, row: SiteRow) -> dict[str, str]:
    """What a version says of the files there are now: the digest of each, by name."""
    listed = select(FileRow.name, FileRow.sha).where(FileRow.site_id == row.id).order_by(FileRow.name)
    return {row.name: row.sha for row in session.execute(listed)}


def version_files(session: Session, version: VersionRow) -> Files:
    """The files of a version."""
    return _files(session, version.files)


def _files(session: Session, listed: Mapping[str, str]) -> Files:
    data = get_blobs(session, listed.values())
    return Files({name: data[sha] for name, sha in listed.items()})
