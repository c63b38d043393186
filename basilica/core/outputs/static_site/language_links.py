"""The links from a page to its translations: those that people see, and those that search engines are told."""

from __future__ import annotations

from typing import Any, NamedTuple

from markupsafe import Markup

from basilica.core.outputs.static_site.indentation import indented
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.plan import Plan
from basilica.core.shared.locales import own_name


class LanguageLink(NamedTuple):
    """A language as a page shows it: its tag, its name, where it leads (None: the page is in it), and the label of the
    page there where that is another."""

    tag: str
    name: str
    address: str | None
    label: str


def language_links(plan: Plan, key: str | None) -> list[LanguageLink]:
    """The languages of a site, in their order, as a page (None: the one for addresses that do not exist) leads to them:
    to the same page, or to the nearest one above it."""
    found = []
    for tag, other in plan.languages.items():
        name = own_name(tag, plan.languages)
        if other.site.language == plan.site.language:
            found.append(LanguageLink(tag, name, None, ""))
            continue
        there, same = plan.in_language(tag, key)
        if there is None:
            continue
        address = plan.addresses.to_route(other.routes[there], key)
        found.append(LanguageLink(tag, name, address, "" if same or key is None else other.site.pages[there].label))
    return found


def switch(plan: Plan, shared: dict[str, Any], key: str | None) -> Markup:
    """These links, as they stand in a page."""
    drawn = environment().get_template("parts/_languages.html").render(shared, languages=language_links(plan, key))
    return Markup(indented(drawn, 3))


def alternates(plan: Plan, key: str) -> list[tuple[str, str]]:
    """The tags and the full addresses of a page's translations, itself too, and which one is for everybody else (HTML,
    the link type alternate; sitemaps.org leaves it to the search engines, which ask for `x-default`)."""
    found = plan.translations(key)
    first = plan.site.languages[0] if plan.site.languages else ""
    return [*found.items(), *([("x-default", found[first])] if first in found else [])]
