"""Bytes that are kept once, however many sites and versions have them: by their SHA-256."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Iterator, Mapping

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from basilica.store.tables import BlobRow, FileRow, PublishRow, VersionRow

_AT_ONCE = 500
"""Digests in one query; SQLite takes a limited number of values."""


def digest(data: bytes | str) -> str:
    """The SHA-256 of some bytes, or of a text in UTF-8, in hexadecimal."""
    return hashlib.sha256(data.encode("utf-8", "surrogatepass") if isinstance(data, str) else data).hexdigest()


def put_blobs(session: Session, blobs: Mapping[str, bytes]) -> None:
    """Keep what is not kept yet, by digest."""
    known: set[str] = set()
    for some in _batches(blobs):
        known.update(session.scalars(select(BlobRow.sha).where(BlobRow.sha.in_(some))))
    session.add_all(BlobRow(sha=sha, data=data) for sha, data in blobs.items() if sha not in known)
    session.flush()


def get_blobs(session: Session, digests: Iterable[str]) -> dict[str, bytes]:
    """What is kept, by digest."""
    found: dict[str, bytes] = {}
    for some in _batches(digests):
        for sha, data in session.execute(select(BlobRow.sha, BlobRow.data).where(BlobRow.sha.in_(some))):
            found[sha] = data
    return found


def drop_unused_blobs(session: Session) -> None:
    """Drop what no site and no version has any more."""
    used = set(session.scalars(select(FileRow.sha)))
    for contents, files in session.execute(select(VersionRow.contents, VersionRow.files)):
        used.update(sha for _, sha in contents.values())
        used.update(files.values())
    for published in session.scalars(select(PublishRow.files)):
        used.update(published.values())
    for some in _batches(set(session.scalars(select(BlobRow.sha))) - used):
        session.execute(delete(BlobRow).where(BlobRow.sha.in_(some)))


def _batches(digests: Iterable[str]) -> Iterator[list[str]]:
    wanted = sorted(set(digests))
    for at in range(0, len(wanted), _AT_ONCE):
        yield wanted[at : at + _AT_ONCE]
