"""What was done to sites by hand, and how it is taken back, one step after another."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

from cachetools import LRUCache

from basilica.store.errors import UsageError
from basilica.store.records import SiteRecord, SiteSummary

TakeBack = Callable[[SiteRecord], SiteRecord]

_SITES, _STEPS = 64, 20
_MOST = 32 * 1024 * 1024  # bytes of files that the steps of a site hold


@dataclass(frozen=True, slots=True)
class Step:
    """Something that was done to a site: ``after`` is the state in which that left it, by which the step is known,
    ``words`` say what it was, and ``held`` is how many bytes are kept to take it back."""

    after: str
    words: str
    take_back: TakeBack
    held: int


class UndoSteps:
    """The last steps of the sites that were worked on last; they are kept in memory, and end with the application."""

    def __init__(self) -> None:
        self._steps: LRUCache[str, deque[Step]] = LRUCache(_SITES)

    def remember(self, site: SiteSummary, words: str, take_back: TakeBack, held: int = 0) -> None:
        """A step was done, which ``words`` name, and ``site`` is how it stands after it."""
        steps = self._steps.setdefault(site.slug, deque(maxlen=_STEPS))
        steps.append(Step(_state_of(site), words, take_back, held))
        while len(steps) > 1 and sum(step.held for step in steps) > _MOST:
            steps.popleft()

    def last(self, site: SiteSummary) -> Step | None:
        """The last step, where nothing came after it that is not undone too."""
        steps = self._steps.get(site.slug)
        return steps[-1] if steps and steps[-1].after == _state_of(site) else None

    def undo(self, site: SiteRecord, after: str) -> str:
        """Take the last step of a site back, which left it in the state ``after``, and give its words. Raises
        ``UsageError`` where the last step is another."""
        last = self.last(site)
        if last is None or last.after != after:
            raise UsageError("This was changed since, so it cannot be undone from here. History has every version.")
        self._steps[site.slug].pop().take_back(site)
        return last.words


def _state_of(site: SiteSummary) -> str:
    """A site with all that belongs to it, as one word: what is undone has the state again in which it was before."""
    return f"{site.map_digest[:16]}-{site.contents_digest[:16]}-{site.files_digest[:16]}"
