"""What can go wrong on a host, to be told to one that ships: slow, cut off, full, unwilling."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass(slots=True)
class Faults:
    """What the host does wrong from now on. ``slow`` is seconds that each answer takes, ``drop_at`` after how many more
    bytes the connection is cut, ``full_at`` after how many more there is no room, and ``refused`` names that cannot be
    written. They count what is written over SFTP."""

    slow: float = 0
    drop_at: int | None = None
    full_at: int | None = None
    refused: frozenset[str] = frozenset()
    written: int = field(default=0, init=False)

    def drops(self, size: int) -> bool:
        """Whether the connection is cut at a write of so many bytes. It is cut once."""
        if self.drop_at is None:
            return False
        self.drop_at -= size
        if self.drop_at > 0:
            return False
        self.drop_at = None
        return True

    def is_full(self, size: int) -> bool:
        """Whether there is no room for so many bytes more."""
        if self.full_at is None:
            return False
        self.full_at -= size
        return self.full_at < 0

    def refuses(self, path: str) -> bool:
        """Whether a file may not be written: by its name, or by that of the one it is written beside for."""
        name = path.rpartition("/")[2]
        return any(name == one or name.startswith(f".{one}.") for one in self.refused)
