"""The password of an application that others can reach: kept as an Argon2 hash in a file of its owner alone."""

from __future__ import annotations

import hashlib
from pathlib import Path

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from basilica.store.errors import UsageError
from basilica.store.folders import write_atomically
from basilica.store.private_files import make_private

SHORTEST = 12
"""Characters of a password (NIST SP 800-63B-4 asks for at least 8, and for 15 where nothing else is asked)."""
_FILE = "password"
_hasher = PasswordHasher()


class Password:
    """The password of one folder of data."""

    def __init__(self, data: Path) -> None:
        self._path = data / _FILE

    @property
    def mark(self) -> str:
        """A text that stands for it, and is another for another password; empty where there is none."""
        known = self._known()
        return hashlib.sha256(known.encode()).hexdigest()[:32] if known else ""

    def set(self, password: str) -> None:
        """Set it, or another one; whoever is signed in with the old one is no more. Raises ``UsageError``."""
        if len(password) < SHORTEST:
            raise UsageError(f"A password has at least {SHORTEST} characters; this one has {len(password)}.")
        make_private(self._path)
        write_atomically(self._path, (_hasher.hash(password) + "\n").encode())

    def fits(self, password: str) -> bool:
        """Whether this is the password."""
        try:
            return _hasher.verify(self._known(), password)
        except (VerificationError, InvalidHashError):
            return False

    def _known(self) -> str:
        try:
            return self._path.read_text(encoding="utf-8").strip()
        except (OSError, UnicodeDecodeError):
            return ""
