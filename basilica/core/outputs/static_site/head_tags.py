"""What a page says of itself: in its head, and in parts that name its title and the like."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from markupsafe import Markup

from basilica.core.language.sections.head_words import Social
from basilica.core.map.site.shared_values import PageExtras
from basilica.core.outputs.static_site.language_links import alternates
from basilica.core.outputs.static_site.made_files import MadeFiles
from basilica.core.outputs.static_site.slots import DESCRIPTION, KEY, LABEL, SECTION, SITE, TITLE, Slot
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.plan import Plan

_NOTHING, _NOT_SHARED = PageExtras(), Social()


class Heads:
    """Renders these for the pages of one plan."""

    def __init__(
        self,
        plan: Plan,
        made: MadeFiles,
        shared: dict[str, Any],
        file_at: Callable[[str, str | None], str | None],
    ) -> None:
        """``file_at`` gives the address of a file as it is written on a page."""
        self._plan = plan
        self._made = made
        self._shared = shared
        self._file_at = file_at

    def extra(self, key: str | None) -> Markup:
        """What the head of a page has beside what all have: words for search, what is shown where it is passed on, and
        style and scripts of its own."""
        write = self._file_at
        site = self._plan.site
        page = site.pages[key] if key is not None else None
        extra, everyone = page.options.extra if page else _NOTHING, site.head.social
        told = alternates(self._plan, key) if key is not None else []
        if page is None or key is None or (extra == _NOTHING and everyone == _NOT_SHARED and not told):
            return Markup("")
        social = None
        if extra.social is not None or everyone != _NOT_SHARED:
            own = extra.social or Social()
            picture = own.picture or everyone.picture
            social = Social(
                own.title or everyone.title or page.title,
                own.description or everyone.description or page.description or "",
                (self._plan.addresses.full(self._made.social(picture)) or "") if picture else "",
                own.card or everyone.card,
            )
        written = self._shared | {
            "extra": extra,
            "social": social,
            "canonical": self._plan.addresses.canonical(key),
            "alternates": told,
            "styles": [write(name, key) for name in extra.styles],
            "scripts": [write(name, key) for name in extra.scripts],
        }
        return Markup(environment().get_template("extra.html").render(written))

    def values(self, key: str | None, title: str) -> dict[Slot, str]:
        """The values of a page that parts can say."""
        site = self._plan.site
        page = site.pages[key] if key is not None else None
        top = key.partition("/")[0] if key is not None else None
        return {
            TITLE: title,
            LABEL: page.label if page else title,
            DESCRIPTION: (page.description if page else None) or "",
            SECTION: site.pages[top].label if top is not None else "",
            KEY: key or "",
            SITE: site.name,
        }
