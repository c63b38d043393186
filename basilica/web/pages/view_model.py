"""One page as its site sees it: where it is in every style, what is current on it and why, each part as it is built."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from basilica.core.edits.commands.translate_page import TRANSLATED, translation_of
from basilica.core.navigation.menus import Mark
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import MenuPlan, Plan, why_current
from basilica.core.plan.address_styles import Styled, addresses_in_styles, links_in_styles
from basilica.core.shared.locales import own_name
from basilica.web.merged_form import FieldConflict, conflicts_of
from basilica.web.pages.forms import PageTranslation


@dataclass(frozen=True, slots=True)
class InMenu:
    """How a page stands in a menu: the mark it puts there, and the rule that led to it, step by step."""

    menu: MenuPlan
    mark: Mark | None
    why: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class PageView:
    """What there is to know of one page. ``order`` has the pages that can be stepped through, and ``before`` and
    ``after`` are its neighbours there."""

    key: str
    urls: tuple[Styled, ...]
    links: tuple[Styled, ...]
    menus: tuple[InMenu, ...]
    before: str | None
    after: str | None
    parts: dict[str, str]


@dataclass(frozen=True, slots=True)
class InLanguage:
    """What a page is called in a language: what the map says, and what stands where it says nothing."""

    tag: str
    name: str
    is_there: bool
    lacks: str
    """The label of the page above it because of which it is not there; empty for none."""
    words: dict[str, str]
    hints: dict[str, str]
    seen: dict[str, str] = field(default_factory=dict)
    """What the words were when a form that was refused was opened."""
    conflicts: Sequence[FieldConflict] = ()


def in_languages(plan: Plan, text: str, key: str) -> list[InLanguage]:
    """A page in the languages of its site, the first of them first; none for a site in one."""
    found = []
    for tag, other in plan.languages.items():
        page = other.site.pages[key]
        shown = {"title": page.title, "label": page.label, "description": page.description or "", "path": ""}
        is_there = tag in plan.there_in(key)
        if tag == plan.site.language:
            draft = "Yes" if page.options.draft else "No"
            words, hints = {**shown, "path": plan.path_of(key), "draft": draft}, {}
        else:
            words = dict.fromkeys(TRANSLATED, "") | translation_of(text, plan.site.files, key, tag)
            hints = {**(shown if is_there else {}), "path": "The id"}
            hints["label"] = "The title"
        above = plan.lacks_above(key, tag)
        lacks = plan.site.pages[above].label if above is not None else ""
        found.append(InLanguage(tag, own_name(tag, plan.languages), is_there, lacks, words, hints))
    return found


def with_typed(one: InLanguage, form: PageTranslation) -> InLanguage:
    """A page in a language with the words that were typed in a form which was refused."""
    merged = form.merged(form.words, one.words)
    return replace(one, words={**one.words, **merged.typed}, seen=merged.opened, conflicts=conflicts_of(merged))


def page_view(plan: Plan, renderer: Renderer, key: str) -> PageView:
    """Everything of page ``key``. ``renderer`` renders the same plan, with drafts."""
    order = list(plan.site.pages)
    at = order.index(key)
    return PageView(
        key=key,
        urls=tuple(addresses_in_styles(plan, key)),
        links=tuple(links_in_styles(plan, key)),
        menus=tuple(
            InMenu(menu, menu.mark(plan.site, key), why_current(menu, plan.site, key))
            for menu in plan.menus.values()
            if menu.entries and menu.visible_on(plan.site, key)
        ),
        before=order[at - 1] if at else None,
        after=order[at + 1] if at + 1 < len(order) else None,
        parts=renderer.parts(key) if key in renderer.pages else {},
    )
