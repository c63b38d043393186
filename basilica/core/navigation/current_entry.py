"""Why an entry is current: the rule of the marks, step by step, in words."""

from __future__ import annotations

from basilica.core.map.site import Site
from basilica.core.navigation.menus import MenuPlan, candidates


def why_current(menu: MenuPlan, site: Site, key: str) -> tuple[str, ...]:
    """Sentences that follow the rule from page ``key`` to the entry that is current on it, or to none."""

    def name(page: str) -> str:
        return f"“{site.pages[page].label}”"

    if not menu.visible_on(site, key):
        return (f"The menu belongs to the section {name(menu.settings.section or key)}, so it is not on this page.",)
    steps = []
    for page, why in candidates(site, key):
        numbers = menu.page_entries.get(page, ())
        count = len(numbers)
        has = "has no entry here" if not count else "has an entry here" if count == 1 else f"has {count} entries here"
        if why == "itself":
            steps.append(f"{name(page)} {has}.")
        elif why == "highlight":
            steps.append(f"The map names {name(page)} as current for it, which {has}.")
        else:
            steps.append(f"The page above, {name(page)}, {has}.")
        if not count:
            continue
        current = "page" if page == key else "true"
        what = "that entry is current" if count == 1 else "all of them are current"
        steps.append(f'So {what}, with aria-current="{current}".')
        above = menu.above(numbers[0])
        if above:
            held = ", ".join(f"“{menu.entries[one].label}”" for one in above)
            steps.append(f"It is under {held}, which is marked as the way to it.")
        return tuple(steps)
    return (*steps, "There is no page above that has one, so no entry is current.")
