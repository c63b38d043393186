"""What the store hands out: sites and versions as values."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime
from types import MappingProxyType
from typing import NamedTuple

from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Contents


@dataclass(frozen=True, slots=True, kw_only=True)
class SiteSummary:
    """A site as lists have it, without its texts. Each digest is one text that stands for the map, for all content, for
    all files. ``is_saved`` is False where it differs from its newest version. Times are in UTC."""

    slug: str
    name: str
    revision: int
    is_saved: bool
    last_version_at: datetime | None
    map_digest: str
    contents_digest: str
    files_digest: str
    folder: str | None
    archived_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SiteRecord(SiteSummary):
    """A site as it stands. ``last_valid_text`` is the last text that could be drawn."""

    text: str
    last_valid_text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionSummary:
    """A version as the history lists it, without its texts. ``impact`` says in words what it changed."""

    id: int
    note: str
    saved_at: datetime
    impact: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Version(VersionSummary):
    """A version with its map, its content and its files."""

    text: str
    contents: Contents
    contents_digest: str
    files: Files


Rewrite = Callable[[Contents, Files], tuple[Contents, Files]]
"""Mends what content and files say about pages that have another key now."""


class NotFound(LookupError):
    """There is no such site, or no such version of it."""


class FileChange(NamedTuple):
    """What a file beside a map becomes (None: nothing), and what it was when that was decided."""

    was: bytes | None
    now: bytes | None


FileChanges = Mapping[str, FileChange]
NO_CHANGES: FileChanges = MappingProxyType({})


class Conflict(Exception):
    """The site was changed from elsewhere since it was read; ``current`` is what is there now, and ``file`` the name of
    the file that was changed, where it is one beside the map."""

    def __init__(self, current: SiteRecord, what: str = "The site", file: str = "") -> None:
        super().__init__(f"{what} was changed meanwhile, so nothing was written.")
        self.current, self.file = current, file
