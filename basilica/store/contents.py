"""The content of pages in the database: as it stands, as it moves with its pages, and as versions have it."""

from __future__ import annotations

import json
from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from basilica.core.plan.content_links import Content, Contents, is_content_name, key_of
from basilica.store.blobs import digest, get_blobs, put_blobs
from basilica.store.errors import UsageError
from basilica.store.tables import ContentRow, SiteRow, VersionRow

Moves = Sequence[tuple[str | None, str | None]]
"""Old and new key of pages whose content goes along; no new key where a page is gone, no old one where it is back."""


def version_contents(session: Session, version: VersionRow) -> Contents:
    """The content of a version."""
    texts = get_blobs(session, (sha for _, sha in version.contents.values()))
    return {key: Content(name, texts[sha].decode()) for key, (name, sha) in version.contents.items()}


def contents_of(session: Session, row: SiteRow, begins: str = "") -> Contents:
    """The content of every page, by key; with ``begins``, of those whose text begins so."""
    mine = (ContentRow.site_id == row.id) & ~ContentRow.archived & ContentRow.text.startswith(begins, autoescape=True)
    found = session.scalars(select(ContentRow).where(mine).order_by(ContentRow.key))
    return {content.key: Content(content.name, content.text) for content in found}


def put_contents(session: Session, row: SiteRow, contents: Contents) -> None:
    """Make these the content of a site; what is the same stays as it is."""
    mine = (ContentRow.site_id == row.id) & ~ContentRow.archived
    there = {content.key: content for content in session.scalars(select(ContentRow).where(mine))}
    for key, row_there in there.items():
        if key not in contents:
            session.delete(row_there)
    for key, content in contents.items():
        checked_content(key, content)
        if key not in there:
            session.add(ContentRow(site_id=row.id, key=key, name=content.name, text=content.text))
        elif Content(there[key].name, there[key].text) != content:
            there[key].name, there[key].text = content.name, content.text
    session.flush()
    row.contents_digest = contents_digest(contents)
    session.flush()


def checked_content(key: str, content: Content) -> Content:
    """Content whose name is that of a file of its page. Raises ``UsageError`` for any other, so that nothing which is
    written from the database to a folder or into an archive ever leads out of it."""
    if not is_content_name(content.name) or key_of(content.name) != key:
        raise UsageError(f"`{key[:80]}` cannot be the key of a page, so no text was put there.")
    return content


def move_contents(session: Session, row: SiteRow, moves: Moves) -> None:
    """Take content along with its pages: to another key, archived, or back from there."""
    rows = session.scalars(select(ContentRow).where(ContentRow.site_id == row.id)).all()
    moves = _with_slots(moves, [content.key for content in rows])
    here = {content.key: content for content in rows if not content.archived}
    archived = {content.key: content for content in rows if content.archived}
    going = [(here.pop(old), new) for old, new in moves if old in here]
    for content, new in going:
        if new is None:
            if content.key in archived:
                session.delete(archived.pop(content.key))
                session.flush()
            content.archived = True
        else:
            name = f"content/{new}.{content.name.rpartition('.')[2]}"
            content.name = checked_content(new, Content(name, "")).name
            content.key = "\0" + new  # keys that change places would meet; no key has a NUL in it
    session.flush()
    for content, new in going:
        if new is not None:
            if new in here:
                session.delete(here.pop(new))
                session.flush()
            content.key = new
    session.flush()
    for old, new in moves:
        if old is None and new in archived and new not in here:
            archived[new].archived = False
    session.flush()


def _with_slots(moves: Moves, keys: Sequence[str]) -> Moves:
    """The same, with what pages have for slots of their layouts (``visit/hours.aside``) going along with them."""
    slots: dict[str, list[str]] = {}
    for key in keys:
        page, dot, slot = key.partition(".")
        if dot:
            slots.setdefault(page, []).append(slot)
    more = []
    for old, new in moves:
        for slot in dict.fromkeys(slots.get(old or new or "", ())):
            more.append((f"{old}.{slot}" if old is not None else None, f"{new}.{slot}" if new is not None else None))
    return [*moves, *more]


def contents_digest(contents: Contents) -> str:
    """One text that stands for all content: equal for equal content."""
    return digest(json.dumps(sorted((key, content.name, digest(content.text)) for key, content in contents.items())))


def list_contents(session: Session, row: SiteRow) -> dict[str, list[str]]:
    """What a version says of the content there is now; its texts are put where versions share them."""
    listed, blobs = {}, {}
    for key, content in contents_of(session, row).items():
        sha = digest(content.text)
        listed[key] = [content.name, sha]
        blobs[sha] = content.text.encode()
    put_blobs(session, blobs)
    return listed
