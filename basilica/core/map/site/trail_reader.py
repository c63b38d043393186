"""Breadcrumbs by hand: another page after whose breadcrumbs a page stands, or the levels between home and it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from basilica.core.language.sections.page_words import TRAIL
from basilica.core.map.document import Mapping, Node, Scalar, Sequence
from basilica.core.map.site import site_rules
from basilica.core.map.site.auto_entries import drafts_of, with_parameters
from basilica.core.map.site.field_reader import Context, keys_of, kind_of, label_of, text_of
from basilica.core.map.site.model import Page, TrailLevel, homes_of
from basilica.core.map.site.references import References, split_reference
from basilica.core.rules import limits

_NONE = ("no", "false", "none", "off", "hide", "hidden")
"""What people write for no breadcrumbs."""


class TrailReader:
    """Reads what pages say of their breadcrumbs, once all pages are known."""

    def __init__(self, pages: dict[str, Page], context: Context) -> None:
        self._pages = pages
        self._context = context
        self._known = References(pages)
        self._homes = {page.key for page in homes_of(pages)}
        self._drafts, self._with_parameters = drafts_of(pages), with_parameters(pages)

    def read(self, written: Iterable[tuple[str, Node]]) -> None:
        """Put into each page, by its key, what is written of its breadcrumbs."""
        places: dict[str, int] = {}
        for key, node in written:
            options = self._pages[key].options
            if key in self._homes:
                message = "Home has no breadcrumbs, so none can be written for it."
                self._context.say(site_rules.KEY_WITHOUT_USE, node.start, message)
            elif isinstance(node, Sequence):
                options = replace(options, trail=self._levels(key, node))
            else:
                options = replace(options, trail_parent=self._page(key, node))
                places[key] = node.start
            self._pages[key] = self._pages[key]._replace(set_options=options)
        for key in places:
            self._break_circle(key, places)

    def _levels(self, key: str, node: Sequence) -> tuple[TrailLevel, ...]:
        found: list[TrailLevel] = []
        if not node.items or len(node.items) > limits.LEVELS:
            message = f"The breadcrumbs of the page `{key}` have {len(node.items)} levels."
            remedy = f"Write from 1 to {limits.LEVELS}; `hidden: breadcrumbs` keeps a page out of them."
            self._context.say(site_rules.BAD_BREADCRUMBS, node.start, message, remedy)
        for item in node.items[: limits.LEVELS]:
            if isinstance(item, Mapping):
                group = keys_of(item, TRAIL, f"A level of the breadcrumbs of the page `{key}`", self._context)
                label = (
                    label_of(group["group"][1], "The name of the level", self._context) if "group" in group else None
                )
                found += [TrailLevel(None, label)] if label else []
                continue
            page = self._page(key, item)
            if page is not None and any(level.page == page for level in found):
                message = f"The page `{page}` appears twice in the breadcrumbs of the page `{key}`."
                self._context.say(site_rules.BAD_BREADCRUMBS, item.start, message, "Remove one of the two.")
            elif page is not None and not self._pages[page].parent and page in self._homes:
                message = "All breadcrumbs begin with the home page already."
                self._context.say(site_rules.BAD_BREADCRUMBS, item.start, message, "Remove it.")
            elif page is not None:
                found.append(TrailLevel(page, ""))
        return tuple(found)

    def _page(self, key: str, node: Node) -> str | None:
        """The page that is named, if it can stand before page ``key``."""
        if not isinstance(node, Scalar):
            message = f"`breadcrumbs` of the page `{key}` is {kind_of(node)} where a page, or a list, is expected."
            remedy = "Write a page's key, or a list of keys and of `group:` with a name."
            self._context.say(site_rules.WRONG_SHAPE, node.start, message, remedy)
            return None
        if text_of(node, f"`breadcrumbs` of the page `{key}`", self._context) is None:
            return None
        if node.value.lower() in _NONE and not self._known.find(node.value):
            message = f"There is no page `{node.value}`, whose breadcrumbs the page `{key}` would have."
            self._context.say(site_rules.BAD_BREADCRUMBS, node.start, message, "Write `hidden: breadcrumbs` for none.")
            return None
        page = self._known.resolve(node, self._context)
        if page is None:
            return None
        anchor = split_reference(node.value)[1] is not None
        if page == key or anchor:
            message = "Only a page can be a level, not an anchor." if anchor else f"The page `{key}` names itself."
            self._context.say(site_rules.BAD_BREADCRUMBS, node.start, message)
            return None
        if page in self._with_parameters:
            message = f"The page `{page}` has a parameter in its path, so no breadcrumb can lead to it."
            remedy = "Write `group:` with its name, or name the page above it."
            self._context.say(site_rules.BAD_BREADCRUMBS, node.start, message, remedy)
            return None
        if page in self._drafts and key not in self._drafts:
            message = f"The page `{page}` is a draft, so the breadcrumbs of `{key}` leave it out."
            self._context.say(site_rules.DRAFT_ENTRY, node.start, message)
        return page

    def _break_circle(self, key: str, places: dict[str, int]) -> None:
        """Let go of what page ``key`` names where its breadcrumbs would lead back to it, or be without end."""
        way, page = [key], self._pages[key].options.trail_parent
        while page is not None:
            if page == key or len(way) > limits.LEVELS:
                message = f"The breadcrumbs of the page `{key}` lead back to it: {' → '.join([*way, key])}."
                if page != key:
                    message = f"The breadcrumbs of the page `{key}` have more than {limits.LEVELS} levels."
                self._context.say(site_rules.BAD_BREADCRUMBS, places[key], message)
                options = replace(self._pages[key].options, trail_parent=None)
                self._pages[key] = self._pages[key]._replace(set_options=options)
                return
            if page in way:
                return  # a circle that does not hold this page is said at one that it does
            way.append(page)
            options = self._pages[page].options
            page = None if options.trail else options.trail_parent or self._pages[page].parent
