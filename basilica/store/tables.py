"""The tables of the database."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import JSON, DateTime, ForeignKey, LargeBinary, Text, TypeDecorator, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class UtcTime(TypeDecorator[datetime]):
    """A time with its zone, which SQLite has no kind of column for: it is written in UTC and comes back in UTC."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Any) -> datetime | None:
        """The time as it is written. Raises ``ValueError`` for one without a zone."""
        if value is None:
            return None
        if value.tzinfo is None:
            raise ValueError("a time without a zone")
        return value.astimezone(UTC).replace(tzinfo=None)

    def process_result_value(self, value: datetime | None, dialect: Any) -> datetime | None:
        """The time as it is read."""
        return value.replace(tzinfo=UTC) if value is not None else None


class Table(DeclarativeBase):
    """What all tables share."""

    type_annotation_map = {datetime: UtcTime, dict[str, str]: JSON, dict[str, list[str]]: JSON}  # noqa: RUF012


class SiteRow(Table):
    """A site, with the text that is being worked on. ``last_valid_text`` is the last text that could be drawn; each
    digest is one text that stands for the map, for all content, for all files. ``archived_at`` is set for an archived
    site.

    A site of a folder has its path in ``folder``, and in ``folder_digests`` the SHA-256 of each file when both were
    last the same. ``edited_here`` tells whether something was saved in the application since the last version."""

    __tablename__ = "site"

    id: Mapped[int] = mapped_column(primary_key=True)
    slug: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    made_at: Mapped[datetime]
    text: Mapped[str] = mapped_column(Text)
    last_valid_text: Mapped[str] = mapped_column(Text)
    revision: Mapped[int]
    saved_at: Mapped[datetime]
    map_digest: Mapped[str] = mapped_column(default="")
    contents_digest: Mapped[str] = mapped_column(default="")
    files_digest: Mapped[str] = mapped_column(default="")
    archived_at: Mapped[datetime | None]
    folder: Mapped[str | None] = mapped_column(unique=True)
    folder_digests: Mapped[dict[str, str]] = mapped_column(default=dict)
    edited_here: Mapped[bool] = mapped_column(default=False)

    versions: Mapped[list[VersionRow]] = relationship(back_populates="site", cascade="all", passive_deletes=True)
    contents: Mapped[list[ContentRow]] = relationship(cascade="all, delete-orphan", passive_deletes=True)
    files: Mapped[list[FileRow]] = relationship(cascade="all, delete-orphan", passive_deletes=True)


def _of_a_site() -> Mapped[int]:
    return mapped_column(ForeignKey("site.id", ondelete="CASCADE"), index=True)


class VersionRow(Table):
    """A version of a site: its map, and of its content and files lists that say for each page key the file's name and
    its blob, for each file its blob; ``impact`` says in words what it changed. Versions are never changed, and go only
    with their site."""

    __tablename__ = "version"

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = _of_a_site()
    text: Mapped[str] = mapped_column(Text)
    note: Mapped[str]
    saved_at: Mapped[datetime]
    impact: Mapped[str] = mapped_column(default="")
    map_digest: Mapped[str] = mapped_column(default="")
    contents: Mapped[dict[str, list[str]]] = mapped_column(default=dict)
    contents_digest: Mapped[str] = mapped_column(default="")
    files: Mapped[dict[str, str]] = mapped_column(default=dict)
    files_digest: Mapped[str] = mapped_column(default="")

    site: Mapped[SiteRow] = relationship(back_populates="versions")


class AddressRow(Table):
    """An address of a site, as a browser asks for it, that was handed out with an export."""

    __tablename__ = "address"
    __table_args__ = (UniqueConstraint("site_id", "address"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = _of_a_site()
    address: Mapped[str]


class TargetRow(Table):
    """Where a site is published to, by name: the kind of target and its settings, without secrets."""

    __tablename__ = "target"
    __table_args__ = (UniqueConstraint("site_id", "name"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = _of_a_site()
    name: Mapped[str]
    kind: Mapped[str]
    settings: Mapped[dict[str, str]] = mapped_column(default=dict)


class PublishRow(Table):
    """A publish: where it went (``place``, the same for all targets that are that), from which ``version``, with what
    ``note``, and why in spite of findings (``reason``). ``files`` has the blob of each file that was live then, by
    path; it is empty once it is too long ago to be taken back. One of a map that is no site here has no site."""

    __tablename__ = "publish"

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int | None] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), index=True)
    place: Mapped[str] = mapped_column(index=True)
    target: Mapped[str]
    published_at: Mapped[datetime]
    version: Mapped[str]
    version_id: Mapped[int | None]
    note: Mapped[str]
    reason: Mapped[str]
    summary: Mapped[str]
    files: Mapped[dict[str, str]] = mapped_column(default=dict)


class StepRow(Table):
    """Something that was done to a site, in ``words``, with what takes it back, packed; ``before`` and ``after`` stand
    for the site as it was, and as the step left it; ``who`` for the person who did it."""

    __tablename__ = "step"

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = _of_a_site()
    before: Mapped[str]
    after: Mapped[str]
    who: Mapped[str]
    words: Mapped[str]
    data: Mapped[bytes] = mapped_column(LargeBinary)


class BlobRow(Table):
    """The bytes of a file, or of a text in UTF-8, once, by their SHA-256. ``unused_since`` is when it was first found
    that nothing refers to them."""

    __tablename__ = "blob"

    sha: Mapped[str] = mapped_column(primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    unused_since: Mapped[datetime | None]


class VersionBlobRow(Table):
    """A blob that a version refers to. While this row is there, the database lets nobody delete the blob."""

    __tablename__ = "version_blob"

    version_id: Mapped[int] = mapped_column(ForeignKey("version.id", ondelete="CASCADE"), primary_key=True)
    sha: Mapped[str] = mapped_column(ForeignKey("blob.sha"), primary_key=True, index=True)


class PublishBlobRow(Table):
    """A blob that a publish refers to, as long as that can be taken back."""

    __tablename__ = "publish_blob"

    publish_id: Mapped[int] = mapped_column(ForeignKey("publish.id", ondelete="CASCADE"), primary_key=True)
    sha: Mapped[str] = mapped_column(ForeignKey("blob.sha"), primary_key=True, index=True)


class FileRow(Table):
    """A file beside the map of a site, such as ``files/mill.jpg``."""

    __tablename__ = "file"
    __table_args__ = (UniqueConstraint("site_id", "name"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = _of_a_site()
    name: Mapped[str]
    sha: Mapped[str] = mapped_column(ForeignKey("blob.sha"), index=True)


class ContentRow(Table):
    """The content of one page, by key. ``archived`` is that of a deleted page, which comes back with it."""

    __tablename__ = "content"
    __table_args__ = (UniqueConstraint("site_id", "key", "archived"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = _of_a_site()
    key: Mapped[str]
    name: Mapped[str]
    text: Mapped[str] = mapped_column(Text)
    archived: Mapped[bool] = mapped_column(default=False)
