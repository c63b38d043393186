"""Which parts stand where on which pages, and what is off about that."""

from __future__ import annotations

import re
from collections import deque
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from urllib.parse import unquote

from basilica.core.content import layouts_of, references
from basilica.core.content.markup import occurrences, with_addresses
from basilica.core.map.schema.part_words import BUILT_IN_PARTS, IDENTITY, MENU_PART, PLAIN_LAYOUT, SLOTS
from basilica.core.map.site import Site
from basilica.core.map.site.part_reader import part_names
from basilica.core.map.site.references import References, split_reference
from basilica.core.map.site.shared_values import Part, Slots
from basilica.core.rules import limits
from basilica.core.rules.finding import Findings
from basilica.core.shared.markdown import Content, as_html
from basilica.core.shared.text_metrics import text_width


@dataclass(frozen=True, slots=True)
class LayoutAssignment:
    """What stands where on some pages: the layout, the parts in each of its slots, and the parts that are kept out."""

    layout: str
    slots: Slots = ()
    without: frozenset[str] = frozenset()

    def in_slot(self, name: str) -> tuple[str, ...]:
        """The parts that fill a slot, those that are kept out left away."""
        filled = dict(self.slots).get(name, ())
        return tuple(part for part in filled if part not in self.without)


@dataclass(frozen=True, slots=True)
class LayoutAssignments:
    """Every arrangement of a site: the one of most pages first; ``which`` has the pages with another."""

    all: tuple[LayoutAssignment, ...]
    which: Mapping[str, int]

    def of(self, key: str | None) -> LayoutAssignment:
        """The arrangement of a page, or of one that is not in the map."""
        return self.all[self.which.get(key, 0) if key is not None else 0]


def part_html(part: Part) -> str:
    """The text of a part as HTML, with names still in it."""
    return as_html(Content("part.md", part.text)).html if part.markup == "markdown" else part.text


def assign_layouts(site: Site, findings: Findings) -> LayoutAssignments:
    """Work out what stands where. Finds layouts that cannot be used, parts that hold themselves, and what is filled
    where nothing shows it."""
    layouts = layouts_of(site.files)
    _look_at_layouts(site, findings)
    _look_at_rings(site, findings)
    usable = {*layouts.good}
    plain = LayoutAssignment(site.layout if site.layout in usable else PLAIN_LAYOUT, site.slots)
    found: dict[LayoutAssignment, int] = {plain: 0}
    which: dict[str, int] = {}
    of: dict[str, LayoutAssignment] = {}
    for key, page in site.pages.items():  # parents come first
        above = of.get(page.parent, plain) if page.parent is not None else plain
        extra = page.own.extra
        if extra.layout or extra.slots or extra.without:
            layout = extra.layout if extra.layout in usable else above.layout
            slots = {**dict(above.slots), **dict(extra.slots)}
            above = replace(
                above,
                layout=layout,
                slots=tuple(sorted((name, parts) for name, parts in slots.items() if parts)),
                without=above.without | frozenset(extra.without),
            )
        if above is not plain:
            of[key] = above
            number = found.setdefault(above, len(found))
            if number:
                which[key] = number
    assignments = LayoutAssignments(tuple(found), which)
    _look_at_slots(site, assignments, findings)
    placed = {name for assignment in assignments.all for name in included_parts(site, assignment)}
    look_at_parts(site, [name for name, part in site.parts.items() if name in placed or not part.file], findings)
    return assignments


def included_parts(site: Site, assignment: LayoutAssignment) -> tuple[str, ...]:
    """The names of the parts that stand on a page so arranged, in the order in which they come to stand, each once:
    those of the layout, those in its slots, and those in these."""
    parts, slots, _ = layouts_of(site.files).contained.get(assignment.layout, ((), (), True))
    names = [name for name in parts if name not in assignment.without]
    names += [IDENTITY] if "header" in names and IDENTITY in site.parts else []
    for slot in (*slots, *inner_slots(assignment, parts)):
        names += assignment.in_slot(slot)
    found: dict[str, None] = {}
    waiting = names[::-1]
    while waiting:
        name = waiting.pop()
        if name not in found and name not in assignment.without:
            found[name] = None
            waiting += reversed(held(site, name))
    return tuple(found)


def inner_slots(assignment: LayoutAssignment, parts: Iterable[str]) -> tuple[str, ...]:
    """The slots in parts that the map gives: the header and the footer have one each."""
    return tuple(name for name in ("header", "footer") if name in parts and name not in assignment.without)


def held(site: Site, name: str) -> tuple[str, ...]:
    """The parts in the text of a part; for one that lists a menu, that menu."""
    part = site.parts.get(name)
    if part is None:
        return ()
    menu = part.value("menu")
    return (*references(part_html(part)), *([MENU_PART + menu] if menu else []))


def width_in_row(site: Site, assignments: LayoutAssignments) -> float:
    """The width, CSS px, of what fills the slot in the row above the header, where it fills it most; 0 for nothing."""
    if not any(assignment.in_slot("header") for assignment in assignments.all):
        return 0
    return max(
        sum(text_width(_words(site, name), 14) * 1.06 + 24 for name in assignment.in_slot("header"))
        for assignment in assignments.all
    )


def _words(site: Site, name: str) -> str:
    """The words of a part and of those that stand in it, without their markup."""
    names = dict.fromkeys((name, *held(site, name)))
    parts = [site.parts[each] for each in names if each in site.parts]
    return " ".join(re.sub(r"<[^>]*>", "", part_html(part)).strip() for part in parts)


def _look_at_layouts(site: Site, findings: Findings) -> None:
    layouts = layouts_of(site.files)
    for problem in layouts.problems:
        file = f"page-layouts/{problem.layout}.html"
        findings.add("layout-unread", (problem.line, 1), problem.message, problem.remedy, file=file)
    known = set(part_names(site.parts, site.menus))
    for name in layouts.good:
        for placed in layouts.placed[name]:
            if placed.what == "part" and placed.name not in known:
                findings.add(
                    "unknown-part",
                    (placed.line, 1),
                    f"There is no part `{placed.name[:60]}`.",
                    "Write it under `parts:`, or take it out of the layout.",
                    file=f"page-layouts/{name}.html",
                )


def look_at_parts(site: Site, names: Iterable[str], findings: Findings) -> None:
    """What some parts lead to, show and hold, and is not there. A file that is shown nowhere need not be right."""
    links, files = References(site.pages), set(site.files.under("files"))
    known = set(part_names(site.parts, site.menus))
    for name in names:
        part = site.parts[name]
        _look_at_held(site, part, known, findings)
        place = (1, 1) if part.file else site.lines.place(part.text_at)

        def look(scheme: str, written: str, name: str = name, part: Part = part, at: tuple[int, int] = place) -> None:
            if scheme == "file" and unquote(written).removeprefix("files/") not in files:
                message = f"The part `{name}` shows the file `{written[:80]}`, and there is none of this name."
                findings.add("unknown-file", at, message, "Put it into the folder `files`.", file=part.file)
            elif scheme == "page" and len(links.find(split_reference(written)[0])) != 1:
                message = f"The part `{name}` leads to the page `{written[:80]}`, and there is not one that it fits."
                findings.add("unknown-page", at, message, "Write a page's whole key behind `page:`.", file=part.file)

        with_addresses(part_html(part), look)
        if part.value("picture") and part.value("picture") not in files:
            message = f"The part `{name}` shows the picture `{part.value('picture')[:80]}`, and there is none."
            findings.add("unknown-file", place, message, "Put it into the folder `files`.", file=part.file)


def _look_at_held(site: Site, part: Part, known: set[str], findings: Findings) -> None:
    place = (1, 1) if part.file else site.lines.place(part.text_at)
    for inside in held(site, part.name):
        if inside not in known:
            findings.add(
                "unknown-part",
                place,
                f"The part `{part.name}` lists the menu `{inside[len(MENU_PART) :]}`, and there is none."
                if inside.startswith(MENU_PART)
                else f"There is no part `{inside[:60]}` to stand in `{part.name}`.",
                "Write it under `menus:`, or name another."
                if inside.startswith(MENU_PART)
                else "Write it under `parts:`, or take it out of the text.",
                file=part.file,
            )
        elif inside in BUILT_IN_PARTS:
            message = f"The part `{part.name}` is to hold `{inside}`, which only a layout can place."
            findings.add("unknown-part", place, message, "Take it out of the text.", file=part.file)


def _look_at_rings(site: Site, findings: Findings) -> None:
    within = {name: held(site, name) for name in site.parts}
    sizes = _sizes(site)
    for name, part in site.parts.items():
        place = (1, 1) if part.file else site.lines.place(part.text_at)
        if sizes.get(name, 0) > limits.PART_CHARACTERS and within[name]:
            findings.add(
                "part-too-large",
                place,
                f"With all that stands in it the part `{name}` has more than {limits.PART_CHARACTERS:,} characters, or"
                f" more than {limits.PART_DEPTH} parts in one another.",
                "Let it hold other parts less often.",
                file=part.file,
            )
        ring = _ring(name, within)
        if ring and name == min(ring):
            said = " → ".join(f"`{each}`" for each in ring)
            findings.add(
                "part-ring",
                place,
                f"The part holds itself: {said}.",
                "Take one of them out of the text of the other.",
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


def _look_at_slots(site: Site, assignments: LayoutAssignments, findings: Findings) -> None:
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
        for slot, filled in assignment.slots:
            if filled and slot not in there and (assignment.layout, slot) not in said:
                said.add((assignment.layout, slot))
                page = site.pages[users[number][0]]
                findings.add(
                    "slot-nowhere",
                    site.lines.place(page.at),
                    f"The layout `{assignment.layout}` of the page `{page.key}` has no slot `{slot[:60]}`, so"
                    " what fills it is not shown.",
                    "It has " + ", ".join(f"`{name}`" for name in sorted(there)) + ".",
                )
