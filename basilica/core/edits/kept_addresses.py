"""Addresses that an edit would end, and keeping them: as old addresses of the pages that are elsewhere now, or, where
a page is gone, leading to what takes its place."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from basilica.core.edits.command import Command, EditInProgress, EditRejected
from basilica.core.edits.map_text_editor import PageIn
from basilica.core.edits.site_changes import with_old_addresses
from basilica.core.map.document import Scalar
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Site
from basilica.core.map.site.auto_entries import drafts_of
from basilica.core.map.site.model import OldRedirect
from basilica.core.map.site.redirects_reader import GONE, PAGE, target_of
from basilica.core.map.site.references import References, several, shortest
from basilica.core.plan import Plan
from basilica.core.plan.ended_addresses import EndedAddress
from basilica.core.plan.redirects import parsed, redirect_candidates


@dataclass(frozen=True, slots=True)
class Keeping:
    """Which of the addresses that an edit ends are kept: those that are ``known`` (None: all), and where those of pages
    that are gone ``lead``: to a page (its key), to a full address, to `gone`, or (empty) nowhere."""

    known: frozenset[str] | None = frozenset()
    lead: str = ""

    def of(self, ended: Iterable[EndedAddress]) -> tuple[EndedAddress, ...]:
        """Those that are kept."""
        wanted = (each for each in ended if self.known is None or each.address in self.known)
        return tuple(each for each in wanted if each.page is not None or self.lead)


KEEP_NONE = Keeping()


def taking(chosen: Mapping[str, str], site: Site) -> KeepAddresses:
    """The edit that writes old addresses into a map, each with a reference to the page to which it leads. Raises
    ``EditRejected`` for what is no page, and where nothing is chosen."""
    if not chosen:
        raise EditRejected("No address was chosen, so nothing was written.")
    known, taken = References(site.pages), []
    for address, reference in chosen.items():
        found = known.find(reference)
        if not reference:
            raise EditRejected(f"Name a page for {address[:80]} to lead to, or leave it out. Nothing was written.")
        if len(found) != 1:
            message = f"There is no page `{reference[:80]}`" if not found else several(reference, found)[0][:-1]
            raise EditRejected(f"{message} for {address[:80]} to lead to. Nothing was written.")
        taken.append(EndedAddress(address, found[0]))
    return KeepAddresses(tuple(taken))


class KeepAddresses(Command, frozen=True, tag="keep-addresses"):
    """Write addresses that would end into the map: below `was` of the page they lead to, in another language below its
    tag. Addresses without such a page, or whose page is not in the map's own text, go below `redirects`."""

    ended: tuple[EndedAddress, ...]
    lead: str = ""

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        known = References(work.site.pages)
        bad = {each.address: parsed(each.address, work.site.base)[2] for each in self.ended}
        wanted = tuple(each for each in self.ended if not bad[each.address])
        left = [f"{address} {problem}" for address, problem in bad.items() if problem]
        work.notes += [f"left out {len(left)}: {'; '.join(left[:3])}"] if left else []
        while True:
            was, others = self._sorted(work, wanted, known)
            site = replace(
                work.site,
                pages={
                    **work.site.pages,
                    **{key: with_old_addresses(work.site.pages[key], was[key, ""]) for key, _ in was},
                },
                redirects=(*work.site.redirects, *others),
            )
            refused = _refused(site, work.plan, {each.address for each in wanted})
            if not refused:
                break
            wanted = tuple(each for each in wanted if each.address not in refused)
        work.site = site
        was |= self._in_other_languages(work)
        work.text.add_old_addresses(was)
        work.text.add_redirects([(other.path, _written(other, known)) for other in others])

    def _sorted(
        self, work: EditInProgress, ended: Iterable[EndedAddress], known: References
    ) -> tuple[dict[PageIn, list[str]], list[OldRedirect]]:
        """The addresses in the first language by the page that takes them, and those that go below `redirects`."""
        was: dict[PageIn, list[str]] = {}
        others = []
        drafts = drafts_of(work.site.pages)
        for address, page, language in ended:
            if language and self._page_in(work, page, language) is not None:
                continue
            if language and page is not None and not work.plan.languages[language].is_built(page):
                page = None
            plain = page is not None and page not in drafts and work.site.pages[page].options.kind == "page"
            if page is not None and plain and work.text.has_page(page):
                was.setdefault((page, ""), []).append(address)
                continue
            to = page if page is not None else self.lead
            if to:
                others.append(_target(address, to, page is not None, known))
        return was, others

    def _page_in(self, work: EditInProgress, page: str | None, language: str) -> str | None:
        """The page that takes an address of another language: the one that it led to, or else the one that deleted
        pages lead to; None if neither is there in that language and in the map's own text."""
        plan = work.plan.languages.get(language)
        key = page if page is not None else self.lead
        there = plan is not None and plan.is_built(key) and plan.site.pages[key].options.kind == "page"
        return key if there and work.text.has_page(key) else None

    def _in_other_languages(self, work: EditInProgress) -> dict[PageIn, list[str]]:
        """The addresses in other languages than the first, by the page that takes them."""
        was: dict[PageIn, list[str]] = {}
        for address, page, language in self.ended:
            key = self._page_in(work, page, language) if language else None
            if key is not None:
                was.setdefault((key, language), []).append(address)
        return was

    def describe(self, before: Site) -> str:
        """Nothing: what it follows says how many were kept."""
        return ""


def _target(address: str, to: str, is_key: bool, known: References) -> OldRedirect:
    """Where an old address leads. Raises ``EditRejected`` where that is nothing."""
    if to == GONE and not is_key:
        return OldRedirect(address)
    found = OldRedirect(address, to) if is_key else target_of(address, Scalar(to, 0, True, len(to)), known)
    if found is None:
        raise EditRejected(f"`{to[:80]}` is neither a page, nor a full address, nor `gone`. Nothing was changed.")
    return found


def _written(redirect: OldRedirect, known: References) -> str:
    if redirect.page is None:
        return write_scalar(redirect.url or GONE)
    reference = shortest(redirect.page, known)
    anchor = f"#{redirect.fragment}" if redirect.fragment else ""
    return write_scalar((PAGE if reference == GONE else "") + reference + anchor)


def _refused(site: Site, plan: Plan, addresses: set[str]) -> set[str]:
    """The addresses that cannot be kept, since something else is there."""
    candidates = redirect_candidates(site, plan.routes)
    return {old.redirect.address for old in candidates if old.redirect is not None and old.problem} & addresses
