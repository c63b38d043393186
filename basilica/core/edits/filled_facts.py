"""The facts in the texts that edits bring: a site as it is once its text is read again."""

from __future__ import annotations

from dataclasses import fields, is_dataclass, replace
from typing import Any

from basilica.core.map.site import Site
from basilica.core.map.site.model import Page
from basilica.core.shared.facts import Facts, with_facts


def with_facts_filled(site: Site) -> Site:
    """The site with every fact in its place in titles, labels, descriptions, menus, parts and the header."""
    facts = site.facts
    if not facts:
        return site
    return replace(
        site,
        name=with_facts(site.name, facts),
        pages={key: _page(page, facts) for key, page in site.pages.items()},
        menus=_filled(site.menus, facts),
        header=_filled(site.header, facts),
        parts={name: replace(part, values=_filled(part.values, facts)) for name, part in site.parts.items()},
    )


def _page(page: Page, facts: Facts) -> Page:
    if all("{fact:" not in (text or "") for text in (page.title, page.label, page.description)):
        return page
    description = with_facts(page.description, facts) if page.description else page.description
    return page._replace(
        title=with_facts(page.title, facts), label=with_facts(page.label, facts), description=description
    )


def _filled(value: Any, facts: Facts) -> Any:
    """The same value with facts in the texts in it."""
    if isinstance(value, str):
        return with_facts(value, facts)
    if isinstance(value, dict):
        return {name: _filled(one, facts) for name, one in value.items()}
    if isinstance(value, tuple) and not hasattr(value, "_fields"):
        return tuple(_filled(one, facts) for one in value)
    if is_dataclass(value) and not isinstance(value, type):
        held = {each.name: getattr(value, each.name) for each in fields(value)}
        changed = {name: new for name, old in held.items() if (new := _filled(old, facts)) is not old and new != old}
        return replace(value, **changed) if changed else value
    return value
