"""The files beside a map in the database: as they stand, and as versions have them. Equal bytes are kept once."""

from __future__ import annotations

import json
from collections.abc import Mapping

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from basilica.core.map.map_files import NO_FILES, Files, is_file_name
from basilica.store.errors import UsageError
from basilica.store.tables import FileDataRow, FileRow, SiteRow, VersionRow


def files_of(session: Session, row: SiteRow) -> Files:
    """The files of a site."""
    if not row.files_digest:
        return NO_FILES
    return _files(session, _listed(session, row))


def put_files(session: Session, row: SiteRow, files: Files) -> None:
    """Make these the files of a site; what is the same stays as it is. Raises ``UsageError`` for a name that cannot be
    that of a file beside a map, so that nothing which is written from the database ever leads out of its folder."""
    if row.files_digest == files.mark:
        return
    wrong = next((name for name in files if not is_file_name(name)), None)
    if wrong is not None:
        raise UsageError(f"`{wrong[:80]}` cannot be the name of a file beside a map.")
    there = {file.name: file for file in session.scalars(select(FileRow).where(FileRow.site_id == row.id))}
    known = set(session.scalars(select(FileDataRow.sha)))
    for name in files:
        sha = files.sum(name)
        if sha not in known:
            known.add(sha)
            session.add(FileDataRow(sha=sha, data=files[name]))
            session.flush()
        if name in there:
            there[name].sha = sha
        else:
            session.add(FileRow(site_id=row.id, name=name, sha=sha))
    for name, file in there.items():
        if name not in files:
            session.delete(file)
    row.files_digest = files.mark
    session.flush()


def list_files(session: Session, row: SiteRow) -> str:
    """What a kept version says of the files there are now."""
    return json.dumps(_listed(session, row))


def version_files(session: Session, version: VersionRow) -> Files:
    """The files of a kept version."""
    return _files(session, json.loads(version.files))


def drop_unused_files(session: Session) -> None:
    """Drop the bytes that no site and no kept version has any more."""
    used = set(session.scalars(select(FileRow.sha)))
    for listed in session.scalars(select(VersionRow.files)):
        used.update(json.loads(listed).values())
    for sha in set(session.scalars(select(FileDataRow.sha))) - used:
        session.execute(delete(FileDataRow).where(FileDataRow.sha == sha))


def _listed(session: Session, row: SiteRow) -> dict[str, str]:
    rows = session.scalars(select(FileRow).where(FileRow.site_id == row.id).order_by(FileRow.name))
    return {file.name: file.sha for file in rows}


def _files(session: Session, listed: Mapping[str, str]) -> Files:
    wanted = set(listed.values())
    data = {row.sha: row.data for row in session.scalars(select(FileDataRow).where(FileDataRow.sha.in_(wanted)))}
    return Files({name: data[sha] for name, sha in listed.items()})
