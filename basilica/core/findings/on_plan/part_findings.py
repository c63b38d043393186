"""What is wrong with the layouts and parts of a plan: what cannot be used, holds itself, or leads nowhere."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Mapping
from urllib.parse import unquote

from basilica.core.content import layouts_of
from basilica.core.content.markup import drawn_icon, occurrences, with_addresses, with_facts, with_icons
from basilica.core.language.sections.part_words import BUILT_IN_PARTS, MENU_PART, SLOTS
from basilica.core.map.map_files import linked_file
from basilica.core.map.site import Site, site_rules
from basilica.core.map.site.part_reader import part_names
from basilica.core.map.site.references import References, query_of, split_reference
from basilica.core.map.site.shared_values import Part
from basilica.core.plan import Plan, plan_rules
from basilica.core.plan.layout_assignment import LayoutAssignments, held, included_parts, inner_slots, part_html
from basilica.core.plan.parameters import filled
from basilica.core.plan.plan_rules import PARAMETER_MISSING, lacks
from basilica.core.rules import limits
from basilica.core.rules.examples import HOME, WIDE
from basilica.core.rules.finding import Findings
from basilica.core.rules.place import START, Place
from basilica.core.rules.rule import Level, Rule

LAYOUT_UNREAD = Rule(
    code="layout-unread",
    level=Level.ERROR,
    title="A layout that cannot be used",
    why="Layouts are limited to a few safe elements.",
    remedy="Use parts, slots and the page's own text; a layout can contain nothing else.",
    good={
        "site.yaml": HOME + "layout: wide\n",
        "page-layouts/wide.html": WIDE,
    },
    bad={
        "site.yaml": HOME,
        "page-layouts/wide.html": WIDE.replace("super()", "super() | upper"),
    },
)

PART_RING = Rule(
    code="part-ring",
    level=Level.ERROR,
    title="A part that contains itself",
    why="Building it would never end.",
    remedy="Remove one of them from the text of the other.",
    good=HOME + "slots: {after: a}\nparts: {a: '<part:b>', b: Open daily.}\n",
    bad=HOME + "slots: {after: a}\nparts: {a: '<part:b>', b: '<part:a>'}\n",
)

PART_UNUSED = Rule(
    code="part-unused",
    level=Level.ADVICE,
    title="A part that is used nowhere",
    why="Nobody sees it.",
    remedy="Fill a slot with it under `slots:`, or write `<part:…>` where you want it.",
    good=HOME + "parts: {opening: Open daily.}\nslots: {after: opening}\n",
    bad=HOME + "parts: {opening: Open daily.}\n",
)

SLOT_NOWHERE = Rule(
    code="slot-nowhere",
    level=Level.WARNING,
    title="A slot that the layout does not have",
    why="The part in it would not be shown.",
    remedy="Use the name of a slot of the layout.",
    good=HOME + "parts: {opening: Open daily.}\nslots: {after: opening}\n",
    bad=HOME + "parts: {opening: Open daily.}\nslots: {afterwards: opening}\n",
)

RULES = (LAYOUT_UNREAD, PART_RING, SLOT_NOWHERE, PART_UNUSED)


def find(plan: Plan, findings: Findings) -> None:
    """Add the findings about every layout, and every part that is written in the map or included by a layout."""
    site = plan.site
    _layouts(site, findings)
    _rings(site, findings)
    _slots(site, plan.assignments, findings)
    included = {name for assignment in plan.assignments.all for name in included_parts(site, assignment)}
    names = [name for name, part in site.parts.items() if name in included or not part.file]
    links_of_parts(plan, names, findings)


def _layouts(site: Site, findings: Findings) -> None:
    layouts = layouts_of(site.files)
    for problem in layouts.problems:
        file = f"page-layouts/{problem.layout}.html"
        findings.add(LAYOUT_UNREAD, Place(problem.line, 1), problem.message, problem.remedy, file=file)
    known = set(part_names(site.parts, site.menus))
    for name in layouts.good:
        for placed in layouts.placed[name]:
            if placed.what == "part" and placed.name not in known:
                findings.add(
                    site_rules.UNKNOWN_PART,
                    Place(placed.line, 1),
                    f"There is no part `{placed.name[:60]}`.",
                    "Write it under `parts:`, or remove it from the layout.",
                    file=f"page-layouts/{name}.html",
                )


def _fact_in(site: Site, part: Part, at: Place, findings: Findings) -> Callable[[str], str | None]:
    """What looks at each fact that a part says."""

    def look(name: str) -> str | None:
        if name not in site.facts:
            message = f"The part `{part.name}` says the fact `{name}`, which there is not."
            findings.add(site_rules.UNKNOWN_FACT, at, message, file=part.file)
        return None

    return look


def _icon_in(part: Part, at: Place, findings: Findings) -> Callable[[str], str | None]:
    """What looks at each icon that a part shows."""

    def look(name: str) -> str | None:
        if drawn_icon(name) is None:
            message = f"The part `{part.name}` shows the icon `{name}`, and there is none of this name."
            findings.add(site_rules.UNKNOWN_ICON, at, message, file=part.file)
        return None

    return look


def links_of_parts(plan: Plan, names: Iterable[str], findings: Findings) -> None:
    """What some parts lead to, show and hold, and is not there. A file that is shown nowhere need not be right."""
    site = plan.site
    links, pictures = References(site.pages), set(site.files.under("files"))
    known = set(part_names(site.parts, site.menus))
    for name in names:
        part = site.parts[name]
        _held_parts(site, part, known, findings)
        place = START if part.file else site.lines.place(part.text_at)

        def look(scheme: str, written: str, name: str = name, part: Part = part, at: Place = place) -> None:
            if scheme == "file" and linked_file(unquote(written), site.files) is None:
                message = f"The part `{name}` shows the file `{written[:80]}`, and there is none of this name."
                findings.add(
                    site_rules.UNKNOWN_FILE, at, message, "Put it into the folder `files` or `public`.", file=part.file
                )
            elif scheme == "page" and len(links.find(split_reference(written)[0])) != 1:
                message = f"The part `{name}` leads to the page `{written[:80]}`, and there is not one that it fits."
                findings.add(
                    site_rules.UNKNOWN_PAGE, at, message, "Write a page's whole key behind `page:`.", file=part.file
                )
            elif scheme == "page":
                (page,) = links.find(split_reference(written)[0])
                missing = filled(plan.path_of(page), query_of(written))[2]
                if missing:
                    findings.add(PARAMETER_MISSING, at, *lacks(page, missing), file=part.file)

        with_facts(with_addresses(part_html(part), look), _fact_in(site, part, place, findings))
        with_icons(part_html(part), _icon_in(part, place, findings))
        for picture in filter(None, (part.value("picture"), part.value("small-picture"))):
            if picture in pictures:
                continue
            message = f"The part `{name}` shows the picture `{picture[:80]}`, and there is none."
            findings.add(site_rules.UNKNOWN_FILE, place, message, "Put it into the folder `files`.", file=part.file)


def _held_parts(site: Site, part: Part, known: set[str], findings: Findings) -> None:
    place = START if part.file else site.lines.place(part.text_at)
    for inside in held(site, part.name):
        if inside not in known:
            findings.add(
                site_rules.UNKNOWN_PART,
                place,
                f"The part `{part.name}` lists the menu `{inside[len(MENU_PART) :]}`, and there is none."
                if inside.startswith(MENU_PART)
                else f"There is no part `{inside[:60]}` for `{part.name}`.",
                "Write it under `menus:`, or name another."
                if inside.startswith(MENU_PART)
                else "Write it under `parts:`, or remove it from the text.",
                file=part.file,
            )
        elif inside in BUILT_IN_PARTS:
            message = f"The part `{part.name}` contains `{inside}`, which only a layout can place."
            findings.add(site_rules.UNKNOWN_PART, place, message, "Remove it from the text.", file=part.file)


def _rings(site: Site, findings: Findings) -> None:
    within = {name: held(site, name) for name in site.parts}
    sizes = _sizes(site)
    for name, part in site.parts.items():
        place = START if part.file else site.lines.place(part.text_at)
        if sizes.get(name, 0) > limits.PART_CHARACTERS and within[name]:
            findings.add(
                plan_rules.PART_TOO_LARGE,
                place,
                f"With everything in it the part `{name}` has more than {limits.PART_CHARACTERS:,} characters, or"
                f" more than {limits.PART_DEPTH} levels of nested parts.",
                file=part.file,
            )
        ring = _ring(name, within)
        if ring and name == min(ring):
            said = " → ".join(f"`{each}`" for each in ring)
            findings.add(
                PART_RING,
                place,
                f"The part contains itself: {said}.",
                file=part.file,
            )


def _sizes(site: Site) -> dict[str, int]:
    """How long each part is with all that stands in it, as often as it does; parts in a ring count once."""
    texts = {name: part_html(part) for name, part in site.parts.items()}
    counts = {name: occurrences(text) for name, text in texts.items()}
    sizes: dict[str, int] = {}

    def size(name: str, above: tuple[str, ...]) -> int:
        if name in above or name not in texts:
            return 0
        if len(above) > limits.PART_DEPTH:
            return limits.PART_CHARACTERS + 1
        if name not in sizes:
            inside = sum(times * size(other, (*above, name)) for other, times in counts[name].items())
            sizes[name] = min(len(texts[name]) + inside, limits.PART_CHARACTERS + 1)
        return sizes[name]

    for name in texts:
        size(name, ())
    return sizes


def _ring(name: str, within: Mapping[str, tuple[str, ...]]) -> tuple[str, ...]:
    """The way from a part to itself, if there is one: breadth first, so that it is the shortest."""
    ways: deque[tuple[str, ...]] = deque([(name,)])
    seen = {name}
    while ways:
        way = ways.popleft()
        if len(way) > limits.PART_DEPTH:
            return ()  # what is that deep is said otherwise
        for inside in within.get(way[-1], ()):
            if inside == name:
                return (*way, name)
            if inside not in seen:
                seen.add(inside)
                ways.append((*way, inside))
    return ()


def _slots(site: Site, assignments: LayoutAssignments, findings: Findings) -> None:
    standing = layouts_of(site.files).contained
    said: set[tuple[str, str]] = set()
    users: dict[int, list[str]] = {}
    for key in assignments.which or ():
        users.setdefault(assignments.which[key], []).append(key)
    plain = next((key for key in site.pages if key not in assignments.which), None)
    users |= {0: [plain]} if plain is not None else {}
    for number, assignment in enumerate(assignments.all):
        if number not in users:
            continue
        parts, slots, _ = standing.get(assignment.layout, ((), SLOTS, True))
        there = {*slots, *inner_slots(assignment, parts)}
        for slot, names in assignment.slots:
            if names and slot not in there and (assignment.layout, slot) not in said:
                said.add((assignment.layout, slot))
                page = site.pages[users[number][0]]
                findings.add(
                    SLOT_NOWHERE,
                    site.lines.place(page.at),
                    f"The layout `{assignment.layout}` of the page `{page.key}` has no slot `{slot[:60]}`, so"
                    " what fills it is not shown.",
                    "It has " + ", ".join(f"`{name}`" for name in sorted(there)) + ".",
                )
