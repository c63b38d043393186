"""The tables of the database."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Text, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Table(DeclarativeBase):
    """What all tables share."""


class SiteRow(Table):
    """A site, with the text that is being worked on. ``good_text`` is the last text that could be drawn."""

    __tablename__ = "site"

    id: Mapped[int] = mapped_column(primary_key=True)
    slug: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    made_at: Mapped[datetime]
    text: Mapped[str] = mapped_column(Text)
    good_text: Mapped[str] = mapped_column(Text)
    revision: Mapped[int]
    saved_at: Mapped[datetime]


class StateRow(Table):
    """A kept state of a site's map. States are never changed and never removed."""

    __tablename__ = "kept_state"

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id"), index=True)
    text: Mapped[str] = mapped_column(Text)
    note: Mapped[str]
    kept_at: Mapped[datetime]


class ContentRow(Table):
    """The content of one page, by key."""

    __tablename__ = "content"
    __table_args__ = (UniqueConstraint("site_id", "key"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id"), index=True)
    key: Mapped[str]
    name: Mapped[str]
    text: Mapped[str] = mapped_column(Text)


class SecretRow(Table):
    """The key that signs sessions, made once for each database."""

    __tablename__ = "secret"

    id: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[str]
