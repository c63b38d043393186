"""The tables of the database."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, LargeBinary, Text, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Table(DeclarativeBase):
    """What all tables share."""


class SiteRow(Table):
    """A site, with the text that is being worked on. ``last_valid_text`` is the last text that could be drawn;
    ``contents_digest`` is one text that stands for all its content. ``archived_at`` is set for an archived
    site.

    A site of a folder has its path in ``folder``, and in ``folder_digests``, as JSON, the SHA-256 of each file when
    both were last the same. ``edited_here`` tells whether something was saved in the application since the last
    version."""

    __tablename__ = "site"

    id: Mapped[int] = mapped_column(primary_key=True)
    slug: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    made_at: Mapped[datetime]
    text: Mapped[str] = mapped_column(Text)
    last_valid_text: Mapped[str] = mapped_column(Text)
    revision: Mapped[int]
    saved_at: Mapped[datetime]
    contents_digest: Mapped[str] = mapped_column(default="")
    archived_at: Mapped[datetime | None]
    files_digest: Mapped[str] = mapped_column(default="")
    folder: Mapped[str | None] = mapped_column(unique=True)
    folder_digests: Mapped[str] = mapped_column(Text, default="{}")
    edited_here: Mapped[bool] = mapped_column(default=False)


class VersionRow(Table):
    """A version of a site: its map, and of its content a list that says for each page key the file's name and the
    blob; ``reach`` says in words what it changed. States are never changed, and go only with their site."""

    __tablename__ = "version"

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id"), index=True)
    text: Mapped[str] = mapped_column(Text)
    note: Mapped[str]
    saved_at: Mapped[datetime]
    contents: Mapped[str] = mapped_column(Text, default="{}")
    impact: Mapped[str] = mapped_column(default="")
    contents_digest: Mapped[str] = mapped_column(default="")
    files: Mapped[str] = mapped_column(Text, default="{}")
    files_digest: Mapped[str] = mapped_column(default="")


class FileDataRow(Table):
    """The bytes of a file, once, by their SHA-256."""

    __tablename__ = "file_data"

    sha: Mapped[str] = mapped_column(primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class FileRow(Table):
    """A file beside the map of a site, such as ``files/mill.jpg``."""

    __tablename__ = "file"
    __table_args__ = (UniqueConstraint("site_id", "name"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id"), index=True)
    name: Mapped[str]
    sha: Mapped[str] = mapped_column(ForeignKey("file_data.sha"))


class BlobRow(Table):
    """A text that versions have, once, by its SHA-256."""

    __tablename__ = "blob"

    sha: Mapped[str] = mapped_column(primary_key=True)
    text: Mapped[str] = mapped_column(Text)


class ContentRow(Table):
    """The content of one page, by key. ``aside`` is that of a deleted page, which comes back with it."""

    __tablename__ = "content"
    __table_args__ = (UniqueConstraint("site_id", "key", "archived"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id"), index=True)
    key: Mapped[str]
    name: Mapped[str]
    text: Mapped[str] = mapped_column(Text)
    archived: Mapped[bool] = mapped_column(default=False)


class SecretRow(Table):
    """The key that signs sessions, made once for each database."""

    __tablename__ = "secret"

    id: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[str]
