"""Which preview shows which site, and which page of it was served last.

A page in a sandboxed frame cannot say where it is, least of all with script off. The preview server knows what it
served, and the application asks here.
"""

from __future__ import annotations

import secrets
import threading
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass
from typing import NamedTuple

_MOST = 400
_REMEMBERED = 16


@dataclass(frozen=True, slots=True)
class Seen:
    """What a preview served: the keys of the last pages (None where it was no page), the latest at the end; and how
    many it has served."""

    keys: tuple[str | None, ...] = ()
    serial: int = 0

    @property
    def key(self) -> str | None:
        """The key of the latest."""
        return self.keys[-1] if self.keys else None


class Tried(NamedTuple):
    """A text of a map, and the files that it includes, by name, that are others than those saved."""

    text: str
    files: Mapping[str, bytes]


class PreviewSessions:
    """The previews that are open, by a token that nobody can guess."""

    def __init__(self) -> None:
        self._sites: OrderedDict[str, str] = OrderedDict()
        self._seen: dict[str, Seen] = {}
        self._tried: dict[str, Tried] = {}
        self._lock = threading.Lock()

    def open(self, slug: str) -> str:
        """A new token for previews of a site."""
        token = secrets.token_urlsafe(18)
        with self._lock:
            self._sites[token] = slug
            while len(self._sites) > _MOST:
                old, _ = self._sites.popitem(last=False)
                self._tried.pop(old, None)
                for frame in [name for name in self._seen if name.partition(".")[0] == old]:
                    del self._seen[frame]
        return token

    def site(self, token: str) -> str | None:
        """The site that a token shows."""
        with self._lock:
            if token in self._sites:
                self._sites.move_to_end(token)
            return self._sites.get(token)

    def try_out(self, token: str, tried: Tried | None) -> None:
        """Let a preview show another text of its map, which is not saved; None ends that."""
        with self._lock:
            if tried is None:
                self._tried.pop(token, None)
            else:
                self._tried[token] = tried

    def tried(self, token: str) -> Tried | None:
        """What is tried out in a preview."""
        with self._lock:
            return self._tried.get(token)

    def note_served(self, token: str, key: str | None) -> None:
        """Note that a document was served. Each frame of a preview has a name of its own behind the token."""
        with self._lock:
            before = self._seen.get(token, Seen())
            self._seen[token] = Seen((*before.keys, key)[-_REMEMBERED:], before.serial + 1)

    def seen(self, token: str) -> Seen:
        """What was served last."""
        with self._lock:
            return self._seen.get(token, Seen())
