"""Plain values, as JSON has them, made into those of a type."""

from __future__ import annotations

import threading
from typing import Any

import msgspec

_READY: dict[int, Any] = {}
"""By identity, the types that have been read. They are kept, so that no other gets their place."""
_LOCK = threading.Lock()


def typed(values: Any, kind: Any) -> Any:
    """Values as those of ``kind``. Raises ``msgspec.ValidationError``, and ``RecursionError``.

    What msgspec knows of a type it works out when that is first read. Two threads that do so at once end the whole
    program (0.22, a fault in memory), so one waits for the other."""
    if id(kind) not in _READY:
        with _LOCK:
            msgspec.json.Decoder(kind)
            _READY[id(kind)] = kind
    return msgspec.convert(values, kind)
