"""Old addresses held against a map: what each answers now, and which page may be meant by one that answers nothing."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from urllib.parse import unquote

from rapidfuzz import fuzz, process

from basilica.core.plan.parameters import ParameterPaths
from basilica.core.plan.redirects import parsed
from basilica.core.plan.routes import file_ending, is_page_ending
from basilica.core.plan.site_plan import Plan, every_redirect, other_languages

_LIKELY = 62
"""How alike an address and a page must be, of 100, for the page to be offered."""
_PAPERS = frozenset(["pdf", "doc", "docx", "txt"])
"""Endings of files that a page may stand in for."""
_WORDS = re.compile(r"[^\W_]+")
_COMMON = frozenset(["index", "default", "home", "page", "site", "de", "en", "fr", "www"])
"""Words of addresses that say nothing of the page."""


class Answer(StrEnum):
    """What an address answers."""

    SAME = "same"
    """A page, or a file, at this very address."""
    REDIRECT = "redirect"
    GONE = "gone"
    """The map says that nothing is there any more."""
    NOWHERE = "nowhere"


@dataclass(frozen=True, slots=True)
class AddressAnswer:
    """What an old address answers now: the page or other target it leads to, in so many ``steps``; and for one that
    leads nowhere the key of the ``nearest`` page, where one is like it."""

    address: str
    answer: Answer
    target: str = ""
    steps: int = 0
    nearest: str | None = None


class OldAddresses:
    """Looks old addresses up in a plan. ``files`` are the names of the files that a build writes."""

    def __init__(self, plan: Plan, files: Collection[str] = ()) -> None:
        self._plan = plan
        self._pages: dict[str, tuple[Plan, str]] = {}
        for each in (*other_languages(plan), plan):
            self._pages |= {unquote(each.routes[key].path): (each, key) for key in each.builds()}
            self._pages |= {"/" + each.routes[key].file: (each, key) for key in each.builds()}
            self._pages |= {unquote(further.path): (each, further.key or "") for further in each.further}
        self._backend = {unquote(route.path): key for key, route in plan.routes.items() if route.is_backend}
        self._with_values = ParameterPaths((route.path, key) for key, route in plan.routes.items())
        self._redirects = {(old.path, old.query): (own, old) for own, old in every_redirect(plan)}
        self._files = {"/" + file for file in files}
        self._names: Mapping[str, str] = {
            key: _words(" ".join((plan.routes[key].path, plan.site.pages[key].title, plan.site.pages[key].label)))
            for key in plan.builds()
        }

    def look_up(self, addresses: Iterable[str]) -> tuple[AddressAnswer, ...]:
        """What each address answers, in the order given."""
        return tuple(self._one(address) for address in addresses)

    def _one(self, address: str) -> AddressAnswer:
        path, query, problem = parsed(address, self._plan.site.base)
        if problem:
            return AddressAnswer(address, Answer.NOWHERE)
        known = self._redirects.get((path, query)) or self._redirects.get((path, ""))
        if known is not None:
            own, old = known
            target = old.url or (own.path_of(old.key) if old.key is not None else "")
            return AddressAnswer(
                address, Answer.GONE if old.is_gone else Answer.REDIRECT, target, 0 if old.is_gone else 1
            )
        name = unquote(path)
        if name in self._pages:
            plan, key = self._pages[name]
            return AddressAnswer(address, Answer.SAME, plan.id_of(key))
        page = self._backend.get(name) or self._with_values.find(path)
        if page is not None or name in self._files:
            return AddressAnswer(address, Answer.SAME, page or "")
        for other in (name + "/", name.removesuffix("/")) if name != "/" else ():
            # A server of files leads from the name of a folder into it.
            if other in self._pages:
                plan, key = self._pages[other]
                return AddressAnswer(address, Answer.REDIRECT, plan.path_of(key), 1)
            following = self._redirects.get((other, ""))
            if following is not None and following[1].key is not None:
                return AddressAnswer(address, Answer.REDIRECT, following[0].path_of(following[1].key), 2)
        return AddressAnswer(address, Answer.NOWHERE, nearest=self._nearest(path))

    def _nearest(self, path: str) -> str | None:
        """The page that an address is most like in its words; None where none is like it, or it is that of a file."""
        ending = file_ending(path)
        if ending and not is_page_ending(ending) and ending not in _PAPERS:
            return None
        words = _words(path.removesuffix(f".{ending}") if ending else path)
        if not words:
            return None
        found = process.extractOne(words, self._names, scorer=_similarity, score_cutoff=_LIKELY)
        return found[2] if found else None


def _similarity(one: str, other: str, **_: object) -> float:
    return max(fuzz.token_set_ratio(one, other) * 0.95, fuzz.partial_ratio(one.split()[-1], other) * 0.8)


def _words(text: str) -> str:
    """The words of an address or a title, in small letters, a word of several joined by capitals taken apart."""
    apart = re.sub(r"(?<=[a-z])(?=[A-Z])", " ", unquote(text, errors="replace"))
    return " ".join(word for word in _WORDS.findall(apart.casefold()) if word not in _COMMON)
