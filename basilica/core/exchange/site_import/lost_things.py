"""The account of an import beside words: links with their targets, pictures, frames, forms and the places that links
lead to, which pages had and the pages made of them do not have."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Container, Iterator, Mapping
from dataclasses import dataclass

from basilica.core.exchange.site_import.lost_words import on_pages
from basilica.core.exchange.site_import.old_page import OldPage, read_old_page
from basilica.core.exchange.site_import.own_content import skip_link
from basilica.core.exchange.site_import.source_tree import Element
from basilica.core.shared.conservation import account
from basilica.core.shared.output_file import File
from basilica.core.site_reader.link_resolver import Resolver, Target

_ADDRESSES = {
    "a": ("href", "link to"),
    "area": ("href", "link to"),
    "img": ("src", "picture"),
    "iframe": ("src", "frame"),
    "frame": ("src", "frame"),
    "embed": ("src", "embedded file"),
    "object": ("data", "embedded file"),
    "video": ("src", "video"),
    "audio": ("src", "recording"),
    "source": ("src", "recording"),
    "script": ("src", "script"),
}
"""Elements that lead to something or show it: the attribute that names it, and what it is called."""
_LISTED = 20

Led = Callable[[str, str], Target]
"""Where an address on a page leads, by the file of the page and the address as it is written."""
Thing = tuple[str, str]
"""What a page has: its kind, and what it is or leads to."""


def lost_things(
    pages: Mapping[str, OldPage], led: Led, made: Mapping[str, File], new: Resolver, same: Mapping[str, str]
) -> tuple[str, ...]:
    """Messages about what old ``pages`` have beside words and the pages ``made`` of them do not: each thing with the
    number of pages that had it, the most frequent first.

    ``led`` follows the links of old pages, and ``new`` those of new ones; ``same`` has the old file of each new one and
    of each old one that only leads on. What leads nowhere on the old page is left out: it cannot be lost."""
    linked = _linked_places(pages, led, same)
    before, now = _Site(led, same, linked), _Site(new.target, same, linked)
    found: dict[Thing, list[str]] = defaultdict(list)
    for file, page in pages.items():
        if file in made:
            after = read_old_page(made[file])
            skipped = {id(link) for link in skip_link(page)}
            had = list(dict.fromkeys(before.things(page, file, skipped)))
            has = set(now.things(after, file))
            for thing in account(had, has).losses(len(had)):
                found[thing].append(file)
    ordered = sorted(found.items(), key=lambda one: (-len(one[1]), one[0]))
    said = [
        f"The {kind} `{what[:200]}` of {on_pages(files)} is not on the new pages." for (kind, what), files in ordered
    ]
    more = len(said) - _LISTED
    return (*said[:_LISTED], f"And {more:,} other things are not on the new pages.") if more > 0 else tuple(said)


def _linked_places(pages: Mapping[str, OldPage], led: Led, same: Mapping[str, str]) -> frozenset[tuple[str, str]]:
    """The places on pages to which links lead: the file and the name of each."""
    found = set()
    for file, page in pages.items():
        for link in page.body.links:
            target = led(file, link.attributes["href"])
            if target.file is not None and target.fragment:
                found.add((same.get(target.file, target.file), target.fragment))
    return frozenset(found)


@dataclass(frozen=True, slots=True)
class _Site:
    """A site before or after the import: where its links lead, in the same words for both."""

    led: Led
    same: Mapping[str, str]
    linked: frozenset[tuple[str, str]]

    def things(self, page: OldPage, old: str, skipped: Container[int] = ()) -> Iterator[Thing]:
        """What a page has, which is, or was made of, the page ``old``; without the links that are ``skipped``."""
        for element in page.body.walk():
            if id(element) not in skipped:
                yield from self._element(page, element, old)
            own = element.attributes
            for name in {own.get("id", ""), own.get("name", "") if element.tag == "a" else ""}:
                if (old, name) in self.linked:
                    yield "place that links lead to,", f"#{name}"

    def _element(self, page: OldPage, element: Element, old: str) -> Iterator[Thing]:
        own = element.attributes
        attribute, kind = _ADDRESSES.get(element.tag, ("", ""))
        if own.get(attribute):
            target = self._target(page, own[attribute], old)
            if target:
                yield kind, target
        elif element.tag == "form":
            # Where no file is a server may answer, so that what leads nowhere counts here.
            action = own.get("action", "")
            sends = self._target(page, action, old) or (self.led(page.file, action).lost if action else "")
            yield "form that sends to", sends or "its own page"
        elif element.tag == "input" and own.get("type", "").lower() == "hidden":
            yield "hidden value", f"{own.get('name', '')}={own.get('value', '')}"

    def _target(self, page: OldPage, address: str, old: str) -> str:
        """Where an address leads; empty for nowhere, and for the page itself."""
        target = self.led(page.file, address)
        if target.lost is not None:
            return ""
        if target.file is None:
            return target.url
        file = self.same.get(target.file, target.file)
        query = address.partition("#")[0].partition("?")[2]
        place = target.fragment if (file, target.fragment) in self.linked else ""
        said = file + (f"?{query}" if query else "") + (f"#{place}" if place else "")
        return "" if said == old else said
