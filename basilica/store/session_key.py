"""The key that signs sessions: made once, in a file that its owner alone can read."""

from __future__ import annotations

import os
import secrets
from pathlib import Path

from basilica.store.errors import UsageError

_FILE = "session-key"
_SHORTEST = 32


def session_key(data: Path) -> str:
    """The key of a folder of data. Where the file is gone there is another, and everybody signs in again. Raises
    ``UsageError``."""
    path = data / _FILE
    try:
        known = path.read_text(encoding="ascii").strip() if path.exists() else ""
        if len(known) >= _SHORTEST:
            return known
        made = secrets.token_hex(_SHORTEST)
        # Never there with less than all of it, and never open to others in between.
        beside = data / f".{_FILE}.{os.getpid()}"
        with os.fdopen(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w") as file:
            file.write(made + "\n")
        os.replace(beside, path)
        return made
    except (OSError, UnicodeDecodeError) as error:
        raise UsageError(f"{path} cannot be read or written ({error}). Make it yours, or remove it.") from error
