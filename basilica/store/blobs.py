"""Bytes that are kept once, however many sites and versions have them: by their SHA-256."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Iterator, Mapping
from datetime import datetime, timedelta

from sqlalchemy import delete, exists, or_, select, update
from sqlalchemy.orm import Session

from basilica.store.tables import BlobRow, FileRow, PublishBlobRow, VersionBlobRow

KEPT_UNUSED = timedelta(days=1)
"""How long a blob is kept after it was found that nothing refers to it."""

_AT_ONCE = 500
"""Digests in one query; SQLite takes a limited number of values."""


def digest(data: bytes | str) -> str:
    """The SHA-256 of some bytes, or of a text in UTF-8, in hexadecimal."""
    return hashlib.sha256(data.encode("utf-8", "surrogatepass") if isinstance(data, str) else data).hexdigest()


def put_blobs(session: Session, blobs: Mapping[str, bytes]) -> None:
    """Keep what is not kept yet, by digest. Whoever puts them says in the same transaction what refers to them."""
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


def collect_blobs(session: Session, now: datetime, keep: timedelta = KEPT_UNUSED) -> None:
    """Delete the blobs to which nothing refers, ``keep`` after that was found first: what is counted and what is
    deleted is one transaction, and who reads a list of blobs has that time to read them."""
    used = or_(*(exists().where(row.sha == BlobRow.sha) for row in (FileRow, VersionBlobRow, PublishBlobRow)))
    session.execute(update(BlobRow).where(used, BlobRow.unused_since.is_not(None)).values(unused_since=None))
    session.execute(update(BlobRow).where(~used, BlobRow.unused_since.is_(None)).values(unused_since=now))
    session.execute(delete(BlobRow).where(~used, BlobRow.unused_since <= now - keep))


def _batches(digests: Iterable[str]) -> Iterator[list[str]]:
    wanted = sorted(set(digests))
    for at in range(0, len(wanted), _AT_ONCE):
        yield wanted[at : at + _AT_ONCE]
