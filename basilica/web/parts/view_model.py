"""The parts of one page as areas, and where each part is used."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from markupsafe import Markup

from basilica.core.content import layouts_of, references
from basilica.core.language.sections.part_words import BUILT_IN_PARTS, IDENTITY, MENU_PART
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Contents, as_html
from basilica.core.plan.layout_assignment import held, included_parts

TEXTS = (".md", ".html", ".css", ".js", ".mjs", ".svg", ".csv", ".json", ".yaml", ".txt", ".tsv")
"""Files that can be written in the workspace."""
_INSIDE = {"header": "header", "bar": "header", "footer": "footer"}
"""The slots in parts that the map gives, and which part each is in."""
TITLES = {
    "header": "Header",
    "breadcrumbs": "Breadcrumbs",
    "section-menus": "Menus of the section",
    "list": "List of pages",
    "sequence": "Previous and next",
    "footer": "Footer",
}
"""What the parts are called that the map itself gives."""


@dataclass(frozen=True, slots=True)
class Area:
    """A piece of a page: a `part`, a `slot` with what fills it, or the page's own `content`. ``empty`` tells that
    nothing of it shows here."""

    kind: str
    name: str
    title: str
    inside: tuple[Area, ...] = ()
    empty: bool = False


def areas(plan: Plan, contents: Contents, key: str) -> tuple[Area, ...]:
    """The areas of a page, in the order of its layout."""
    site, assignment = plan.site, plan.assignment_of(key)
    own = {name.partition(".")[2] for name in contents if name.startswith(f"{key}.")}

    def part(name: str, within: tuple[str, ...] = ()) -> Area:
        title = TITLES.get(name, name)
        if name.startswith(MENU_PART):
            menu = plan.menus.get(name[len(MENU_PART) :])
            return Area("part", name, f"Menu: {menu.label if menu else name}", empty=not (menu and menu.entries))
        if name in assignment.without:
            return Area("part", name, title, empty=True)
        if name == "header":
            return Area("part", name, title, _header(plan, slot("header"), slot("bar")))
        if name == "footer":
            inside = [
                Area("part", MENU_PART + menu.name, f"Menu: {menu.label}")
                for menu in plan.menus.values()
                if menu.place == "footer" and menu.entries
            ]
            return Area("part", name, title, (*inside, slot("footer")))
        if name in BUILT_IN_PARTS:
            return Area("part", name, title, empty=not _shows(plan, name, key))
        inside = [part(each, (*within, name)) for each in held(site, name) if each not in (*within, name)]
        return Area("part", name, title, tuple(inside), empty=name not in site.parts)

    def slot(name: str) -> Area:
        filled = [part(each) for each in assignment.in_slot(name)]
        if name in own:
            filled.append(Area("content", f"{key}.{name}", "The page's own"))
        return Area("slot", name, name, tuple(filled), empty=not filled)

    found: list[Area] = []

    def place(area: Area) -> Markup:
        found.append(area)
        return Markup("x")

    class _Content(str):
        def __html__(self) -> str:
            found.append(Area("content", key, "The page's own text"))
            return ""

    layouts_of(site.files).render(
        assignment.layout,
        lambda name: place(part(name)),
        lambda name: place(slot(name)),
        content=_Content(),
        reach=False,
        page=dict.fromkeys(("title", "label", "section", "description", "key"), ""),
        site={"name": site.name},
    )
    # A layout asks whether a slot is filled before it places it.
    return tuple(dict.fromkeys(found))


def _header(plan: Plan, beside: Area, bar: Area) -> tuple[Area, ...]:
    utility = [menu for menu in plan.menus.values() if menu.place == "utility" and menu.entries]
    row = [Area("part", MENU_PART + menu.name, f"Menu: {menu.label}") for menu in utility]
    main = plan.menus["main"]
    menu = Area("part", MENU_PART + "main", f"Menu: {main.label}", empty=not main.entries)
    return (beside, *row, Area("part", IDENTITY, "Identity"), menu, bar)


def _shows(plan: Plan, name: str, key: str) -> bool:
    """Whether a part that the map gives has something to show on a page."""
    if name == "breadcrumbs":
        return bool(plan.breadcrumbs(key))
    if name == "section-menus":
        menus = plan.menus.values()
        return any(menu.place == "section" and menu.entries and menu.visible_on(plan.site, key) for menu in menus)
    if name == "sequence":
        return plan.neighbours(key) != (None, None)
    how = plan.site.list_of(key)
    return how == "site" or (how == "under" and bool(plan.site.pages[key].children))


def used_on(plan: Plan, contents: Contents) -> Mapping[str, tuple[str, ...]]:
    """By part, the keys of the pages on which it stands, in map order."""
    placed = [
        [name for name in included_parts(plan.site, assignment) if not name.startswith(MENU_PART)]
        for assignment in plan.assignments.all
    ]
    found: dict[str, list[str]] = {}
    for key in plan.builds(drafts=True):
        names = dict.fromkeys(placed[plan.assignments.which.get(key, 0)])
        content = contents.get(key)
        waiting = list(references(as_html(content).html)) if content and "part:" in content.text else []
        while waiting:
            name = waiting.pop()
            if name not in names:
                names[name] = None
                waiting += held(plan.site, name)
        for menu in plan.menus.values():
            if menu.entries and plan.shows_menu(menu, key):
                names[MENU_PART + menu.name] = None
        for name in names:
            if name in BUILT_IN_PARTS and name not in ("header", "footer") and not _shows(plan, name, key):
                continue
            found.setdefault(name, []).append(key)
    return {name: tuple(keys) for name, keys in found.items()}


def idle_slots(plan: Plan) -> dict[str, tuple[str, ...]]:
    """By layout that pages have, the slots that nothing fills on any of them."""
    found: dict[str, tuple[str, ...]] = {}
    standing = layouts_of(plan.site.files).contained
    layouts = {assignment.layout for assignment in plan.assignments.all}
    for layout in sorted(layouts):
        filled = {
            name
            for assignment in plan.assignments.all
            if assignment.layout == layout
            for name, parts in assignment.slots
            if parts
        }
        parts, slots, _ = standing[layout]
        there = (*slots, *(name for name, part in _INSIDE.items() if part in parts))
        found[layout] = tuple(name for name in there if name not in filled)
    return found
