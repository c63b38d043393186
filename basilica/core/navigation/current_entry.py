"""Why an entry is current: the rule of the marks, step by step, in words."""

from __future__ import annotations

from basilica.core.map.site import Site
from basilica.core.navigation.menus import MenuPlan, candidates


def why_current(menu: MenuPlan, site: Site, key: str) -> tuple[str, ...]:
    """Sentences that follow the rule from page ``key`` to the entry that is current on it, or to none."""

    def name(page: str) -> str:
        return f"“{site.pages[page].label}”"

    if not menu.visible_on(site, key):
        return (f"The menu belongs to the section {name(menu.settings.section or key)}, and does not stand here.",)
    steps = []
    for page, why in candidates(site, key):
        number = menu.page_entries.get(page)
        has = "has no entry here" if number is None else "has an entry here"
        if why == "itself":
            steps.append(f"{name(page)} {has}.")
        elif why == "highlight":
            steps.append(f"The map names {name(page)} as current for it, which {has}.")
        else:
            steps.append(f"The page above, {name(page)}, {has}.")
        if number is None:
            continue
        current = "page" if page == key else "true"
        steps.append(f'So that entry is current, with aria-current="{current}".')
        above = menu.above(number)
        if above:
            held = ", ".join(f"“{menu.entries[one].label}”" for one in above)
            steps.append(f"It stands below {held}, marked as the way to it.")
        return tuple(steps)
    return (*steps, "There is no page above that has one, so no entry is current.")
