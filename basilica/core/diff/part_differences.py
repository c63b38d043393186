"""What differs in the shared parts of two pages, or of one page in two states: what people see, not how it is made."""

from __future__ import annotations

from collections import Counter
from typing import NamedTuple

from basilica.core.plan import MenuPlan, Plan


class Differing(NamedTuple):
    """A part that differs: its name, where it is found in a page (as a CSS selector), and in words how."""

    part: str
    selector: str
    words: tuple[str, ...]


_PLACES = {"header": ".b-main", "utility": ".b-utility-menu", "section": ".b-section", "footer": ".b-footer-menu"}
_MOST = 8


def part_differences(one: tuple[Plan, str], other: tuple[Plan, str]) -> list[Differing]:
    """The shared parts that differ between two pages, each given by its plan and key. What is current is no difference
    between two pages, but is one between two states of the same page."""
    (plan, key), (then, key_then) = one, other
    found = []
    if plan.site.name != then.site.name:
        found.append(Differing("Header", ".b-name", (f"“{plan.site.name}” and “{then.site.name}”",)))
    for name in dict.fromkeys([*plan.menus, *then.menus]):
        here, there = _visible(plan, name, key), _visible(then, name, key_then)
        words = _menu_words(here, there)
        if key == key_then and here and there and not words:
            current, current_then = (_current(p, m) for p, m in (((plan, key), here), ((then, key_then), there)))
            words = (
                [f"“{current or 'nothing'}” and “{current_then or 'nothing'}” are current"]
                if current != current_then
                else []
            )
        if words:
            menu = here or there
            assert menu is not None
            selector = f'{_PLACES[menu.place]}[aria-label="{_quoted(menu.label)}"]'
            found.append(Differing(menu.label, selector, tuple(words)))
    if key == key_then:
        crumbs, crumbs_then = (
            " › ".join(level.label for level in p.breadcrumbs(k)) for p, k in ((plan, key), (then, key_then))
        )
        if crumbs != crumbs_then:
            found.append(Differing("Breadcrumbs", ".b-breadcrumbs", (f"{crumbs or 'none'}; {crumbs_then or 'none'}",)))
    return found


def _visible(plan: Plan, name: str, key: str) -> MenuPlan | None:
    menu = plan.menus.get(name)
    return menu if menu and menu.entries and menu.visible_on(plan.site, key) else None


def _current(of: tuple[Plan, str], menu: MenuPlan) -> str:
    mark = menu.mark(of[0].site, of[1])
    return menu.entries[mark.entry].label if mark else ""


def _menu_words(here: MenuPlan | None, there: MenuPlan | None) -> list[str]:
    if here is None or there is None:
        return [] if here is there else ["It is on only one of the two"]
    said, said_then = _entries(here), _entries(there)
    words = [f"“{label}” is only in the first" for label, *_ in (Counter(said) - Counter(said_then))]
    words += [f"“{label}” is only in the second" for label, *_ in (Counter(said_then) - Counter(said))]
    if not words and said != said_then:
        words = ["The order differs"]
    return words[:_MOST] + ([f"And {len(words) - _MOST} more"] if len(words) > _MOST else [])


def _entries(menu: MenuPlan) -> list[tuple[object, ...]]:
    return [(e.label, e.page, e.fragment, e.url, e.file, len(menu.above(e.number))) for e in menu.entries]


def _quoted(label: str) -> str:
    return label.replace("\\", "\\\\").replace('"', '\\"')
