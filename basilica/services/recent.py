"""The newest few results of something that takes long, for many threads."""

from __future__ import annotations

import threading
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

from cachetools import LRUCache, cached

T = TypeVar("T")


class Recent(Generic[T]):
    """Results by key. Whoever asks for what is being made waits for it; whoever asks for something else does not."""

    def __init__(self, size: int) -> None:
        self._kept: LRUCache[Hashable, T] = LRUCache(size)
        self._changed = threading.Condition()

        def by_key(key: Hashable, _make: Callable[[], T]) -> Hashable:
            return key

        @cached(self._kept, key=by_key, condition=self._changed)
        def compute(_key: Hashable, make: Callable[[], T]) -> T:
            return make()

        self._compute = compute

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """What was made for ``key``, made now if it was not."""
        return self._compute(key, make)

    def known(self, key: Hashable) -> T | None:
        """What was made for ``key``; None where it was not."""
        with self._changed:
            return self._kept.get(key)

    def put(self, key: Hashable, made: T) -> None:
        """Remember what was made elsewhere."""
        with self._changed:
            self._kept[key] = made
