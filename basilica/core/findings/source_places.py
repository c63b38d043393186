"""Where a person finds what is off on a page of which no map is known: its line and column in the file."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache

from basilica.core.findings.check import Violation
from basilica.core.rules.place import START, Place
from basilica.core.shared.output_file import File
from basilica.core.site_reader.page_source import PageSource, Tag

Read = Callable[[str], bytes | None]
"""The bytes of a file of the site; None where there is none that can be read."""

_KEPT = 64
_ONE = re.compile(r"(?P<tag>[a-z][a-z0-9]*|\*)?(?P<rest>(?:\[[^\]]*\]|:not\(\[[^\]]*\]\))*)", re.IGNORECASE)
_CONDITION = re.compile(r"(?P<no>:not\()?\[(?P<name>[\w-]+)(?:(?P<how>\^?=)\"(?P<value>(?:[^\"\\]|\\.)*)\")?\]\)?")


class SourcePlaces:
    """Finds places in the files of a site, which are read when they are asked for."""

    def __init__(self, read: Read) -> None:
        self._page = lru_cache(_KEPT)(lambda file: self._read(read, file))

    @staticmethod
    def _read(read: Read, file: str) -> PageSource | None:
        data = read(file)
        return PageSource(File(file, data)) if data is not None else None

    def place(self, violation: Violation) -> Place:
        """Where a violation stands; the beginning of its page where that cannot be said."""
        if violation.page is None:
            return START
        file = violation.page.file
        page: PageSource | None = self._page(file)
        at = _offset(page, violation) if page is not None else None
        return Place(*page.place(at), file) if page is not None and at is not None else START._replace(file=file)

    def is_written(self, violation: Violation) -> bool:
        """Whether what is off is written in the file. Browsers double elements that are not closed, and what is doubled
        there is not there twice."""
        page: PageSource | None = self._page(violation.page.file) if violation.page is not None else None
        if page is None or violation.spot is None or not violation.spot[0].startswith("[id="):
            return True
        condition = _parsed(violation.spot[0])
        return sum(tag.opens and any(_fits(tag, one) for one in condition) for tag in page.tags) > violation.spot[1]


def _offset(page: PageSource, violation: Violation) -> int | None:
    if violation.spot is not None:
        selector, number = violation.spot
        conditions = _parsed(selector)
        found = [tag.start for tag in page.tags if tag.opens and any(_fits(tag, one) for one in conditions)]
        if number < len(found):
            return found[number]
    written = violation.written.removeprefix("#") if violation.written.startswith("#") else violation.written
    if not written:
        return None
    for wanted in (violation.written, written):
        tag = next((tag for tag in page.tags if wanted in tag.attributes.values()), None)
        if tag is not None:
            return tag.start
    found_at = page.data.find(violation.written.encode(page.encoding, "replace"))
    return found_at if found_at >= 0 else None


_Condition = tuple[str, tuple[tuple[bool, str, str, str], ...]]
"""A tag (empty: any), and what must be so of its attributes: whether not, the name, how, and the value."""


@lru_cache(maxsize=512)
def _parsed(selector: str) -> tuple[_Condition, ...]:
    """The kinds of elements that a selector meets: as much of CSS as checks use."""
    found = []
    for one in re.split(r",\s*(?![^\[]*\])", selector):
        match = _ONE.fullmatch(one.strip())
        if match:
            rest = _CONDITION.finditer(match["rest"])
            said = ((bool(c["no"]), c["name"], c["how"] or "", _plain(c["value"] or "")) for c in rest)
            found.append(((match["tag"] or "").lower().strip("*"), tuple(said)))
    return tuple(found)


def _plain(value: str) -> str:
    return re.sub(r"\\(.)", r"\1", value)


def _fits(tag: Tag, condition: _Condition) -> bool:
    name, said = condition
    if name and tag.name != name:
        return False
    for is_not, attribute, how, value in said:
        has = tag.attributes.get(attribute)
        fits = has is not None and (not how or (has == value if how == "=" else has.startswith(value)))
        if fits == is_not:
            return False
    return True
