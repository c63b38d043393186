"""Two plans by their pages and menus alone: what is new, what goes, what has another label."""

from __future__ import annotations

from dataclasses import dataclass

from basilica.core.plan import Plan


@dataclass(frozen=True, slots=True)
class PageDifferences:
    """Labels of pages that are ``added`` and ``gone``, pairs of labels of those ``renamed``, and the labels of
    ``menus`` that have other entries."""

    added: tuple[str, ...]
    gone: tuple[str, ...]
    renamed: tuple[tuple[str, str], ...]
    menus: tuple[str, ...]

    @property
    def nothing(self) -> bool:
        """Whether both are the same."""
        return not (self.added or self.gone or self.renamed or self.menus)


def page_differences(old: Plan, new: Plan) -> PageDifferences:
    """How the pages and menus of a plan differ from those of an older one, by the keys of pages."""
    before, after = old.site.pages, new.site.pages

    def entries(plan: Plan, name: str) -> list[tuple[str, str | None]]:
        return [(entry.label, entry.page) for entry in plan.menus[name].entries] if name in plan.menus else []

    return PageDifferences(
        tuple(page.label for key, page in after.items() if key not in before),
        tuple(page.label for key, page in before.items() if key not in after),
        tuple(
            (before[key].label, page.label)
            for key, page in after.items()
            if key in before and before[key].label != page.label
        ),
        tuple(
            (new.menus.get(name) or old.menus[name]).label
            for name in dict.fromkeys((*old.menus, *new.menus))
            if entries(old, name) != entries(new, name)
        ),
    )
