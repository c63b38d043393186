"""What was done to sites, as steps that can be taken back, one after another, also after the application was closed."""

from __future__ import annotations

import zlib
from collections.abc import Sequence
from contextvars import ContextVar
from dataclasses import dataclass

import msgspec
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from basilica.store.database import Database
from basilica.store.records import FileChange, SiteSummary
from basilica.store.tables import SiteRow, StepRow

current_person: ContextVar[str] = ContextVar("who is acting", default="")
"""Stands for the person for whom something is done now, such as the session of a browser; empty where nobody is."""
KEPT = 50
"""Steps of a site that can be taken back."""
_MOST = 32 * 1024 * 1024
"""Bytes that the steps of a site hold together, packed; the last one is kept whatever it holds."""


class ContentBefore(msgspec.Struct, frozen=True, kw_only=True):
    """The content of a page as it was before a step: its ``text``, empty for none, and the ``suffix`` of its file."""

    key: str
    text: str
    suffix: str | None


class TakeBack(msgspec.Struct, frozen=True, kw_only=True, omit_defaults=True):
    """What takes a step back: the ``text`` of the map as it was (None where that was not changed), the ``moves`` of
    pages back, the files that were ``changed`` with the text, ``files`` that were put beside it, and the ``contents``
    of pages."""

    text: str | None = None
    moves: Sequence[tuple[str | None, str | None]] = ()
    changed: dict[str, FileChange] = msgspec.field(default_factory=dict)
    files: dict[str, bytes | None] = msgspec.field(default_factory=dict)
    contents: Sequence[ContentBefore] = ()


@dataclass(frozen=True, slots=True)
class Step:
    """Something that was done to a site: ``after`` is the state in which that left it, by which the step is known, and
    ``words`` say what it was. ``is_own`` tells whether the person did it for whom it is asked."""

    id: int
    after: str
    words: str
    is_own: bool


class UndoSteps:
    """The last steps of the sites of a database."""

    def __init__(self, database: Database) -> None:
        self._read, self._write = database.read, database.write

    def remember(self, was: SiteSummary, site: SiteSummary, words: str, back: TakeBack, typed: bool = False) -> None:
        """A step was done, which ``words`` name: the site ``was`` so before, and is as ``site`` after it. What is
        ``typed`` joins the step before it where the same person did that and it has the same words, and takes it back
        where it leads to what was there before it."""
        before, after = state_of(was), state_of(site)
        with self._write() as session:
            site_id = session.scalar(select(SiteRow.id).where(SiteRow.slug == site.slug))
            if site_id is None or before == after:
                return
            last = session.scalar(
                select(StepRow).where(StepRow.site_id == site_id).order_by(StepRow.id.desc()).limit(1)
            )
            if typed and last is not None and last.after == before:
                if last.before == after:
                    session.delete(last)
                    return
                if (last.words, last.who) == (words, current_person.get()):
                    last.after = after
                    return
            packed = zlib.compress(msgspec.msgpack.encode(back), 1)
            session.add(
                StepRow(site_id=site_id, before=before, after=after, who=current_person.get(), words=words, data=packed)
            )
            session.flush()
            _forget_old(session, site_id)

    def last(self, site: SiteSummary) -> Step | None:
        """The last step, where nothing came after it that is not undone too."""
        wanted = select(StepRow.id, StepRow.after, StepRow.words, StepRow.who).join(
            SiteRow, SiteRow.id == StepRow.site_id
        )
        newest = wanted.where(SiteRow.slug == site.slug).order_by(StepRow.id.desc()).limit(1)
        with self._read() as session:
            row = session.execute(newest).one_or_none()
        if row is None or row.after != state_of(site):
            return None
        return Step(row.id, row.after, row.words, row.who == current_person.get())

    def how(self, step: Step) -> TakeBack | None:
        """What takes a step back; None where it is not known any more."""
        with self._read() as session:
            row = session.get(StepRow, step.id)
            return msgspec.msgpack.decode(zlib.decompress(row.data), type=TakeBack) if row is not None else None

    def drop(self, step: Step) -> None:
        """A step was taken back, and is none any more."""
        with self._write() as session:
            session.execute(delete(StepRow).where(StepRow.id == step.id))


def state_of(site: SiteSummary) -> str:
    """A site with all that belongs to it, as one word: what is undone has the state again in which it was before."""
    return f"{site.map_digest[:16]}-{site.contents_digest[:16]}-{site.files_digest[:16]}"


def _forget_old(session: Session, site_id: int) -> None:
    sizes = select(StepRow.id, func.length(StepRow.data)).where(StepRow.site_id == site_id).order_by(StepRow.id.desc())
    held, old = 0, []
    for number, (step, size) in enumerate(session.execute(sizes)):
        held += size
        if number and (number >= KEPT or held > _MOST):
            old.append(step)
    session.execute(delete(StepRow).where(StepRow.id.in_(old)))
