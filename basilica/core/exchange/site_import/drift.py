"""In which way each page differs from what most pages have."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from difflib import SequenceMatcher

from basilica.core.exchange.site_import.follow import Follow
from basilica.core.exchange.site_import.found_menus import (
    FoundEntry,
    all_entries,
    label_of,
    place_of,
)
from basilica.core.exchange.site_import.imported_site import Drift, DriftKind, FoundMenu
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.shared_blocks import SharedBlock
from basilica.core.exchange.site_import.source_tree import Element
from basilica.core.site_reader import Target

NO_LINK = "no link"
"""That the current entry is no link is a way to mark it."""
_SHARE = 0.5
"""On so many pages something must be the same for others to differ."""
_CLEARLY = 0.6
"""So many of the pages that have a block must have it in one way for that to be the right one."""
_A_FEW = 3
_OTHER_KIND = 0.15
"""On more pages than a few, and than this share of them, the same difference is meant."""
_MOST_WORDS = 12


def menu_drift(
    menu: FoundMenu, entries: Mapping[str, tuple[FoundEntry, ...]], pages: Mapping[str, OldPage]
) -> Iterator[Drift]:
    """How the menu of each page differs: entries that are missing or more, other words for the same page, and the same
    words for another page."""
    wanted = [(entry.label, entry.target) for entry in all_entries(menu.entries)]
    count = Counter(label for of_page in entries.values() for label in {entry.label for entry in all_entries(of_page)})
    usual = {label for label, often in count.items() if often >= _CLEARLY * len(entries)}
    everywhere = len(entries) >= _CLEARLY * len(menu.section or pages)
    for file, page in pages.items():
        if (menu.section and file not in menu.section) or (file not in entries and not everywhere):
            continue
        if file not in entries:
            yield Drift(file, menu.name, DriftKind.MISSING, "has no such menu")
            continue
        place = page.place(menu.element_of[file].start)
        has = [(entry.label, entry.target) for entry in all_entries(entries[file])]
        yield from (
            Drift(file, menu.name, kind, words, *place) for kind, words in _entry_drift(wanted, has, file, usual)
        )


_Said = list[tuple[str, Target | None]]


def _entry_drift(wanted: _Said, has: _Said, file: str, usual: set[str]) -> Iterator[tuple[DriftKind, str]]:
    labels, own = [label for label, _ in wanted], [label for label, _ in has]
    matched = SequenceMatcher(None, labels, own, autojunk=False)
    missing, more = [], []
    for kind, a, b, c, d in matched.get_opcodes():
        if kind == "equal":
            for (label, there), (_, here) in zip(wanted[a:b], has[c:d], strict=True):
                if here is None and (there is None or there.file == file):
                    continue  # where one is need be no link
                if here is None:
                    yield DriftKind.NOT_LINKED, f"“{label}” is not a link"
                elif there is not None and place_of(here) != place_of(there):
                    yield DriftKind.OTHER_TARGET, f"“{label}” leads to {place_of(here)[0][:80] or 'nowhere'}"
            continue
        missing += wanted[a:b]
        more += has[c:d]
    for label, there in list(more):
        same = next((one for one in missing if _same_place(one[1], there)), None)
        if same is not None:
            missing.remove(same)
            more.remove((label, there))
            yield DriftKind.OTHER_LABEL, f"“{same[0]}” is called “{label}”"
    for label, there in missing:
        if (there is not None and there.file == file) or label not in usual:
            continue  # many menus leave out the page one is on
        yield DriftKind.ENTRY_MISSING, f"“{label}” is missing"
    for label, _ in (one for one in more if one[0] not in usual):
        yield DriftKind.ENTRY_EXTRA, f"“{label}” is an extra entry"


def _same_place(one: Target | None, two: Target | None) -> bool:
    return one is not None and two is not None and place_of(one) == place_of(two)


def block_drift(block: SharedBlock, pages: Mapping[str, OldPage], follow: Follow) -> Iterator[Drift]:
    """The pages on which a shared block is missing, says something else, or says the same and leads elsewhere."""
    usual = _usual_targets([_linked(block, file, follow) for file in block.same])
    clear = len(block.same) >= _CLEARLY * len(block.blocks)
    everywhere = len(block.blocks) >= _CLEARLY * len(pages)
    for file, page in pages.items():
        here = block.blocks.get(file)
        if (here is None and not everywhere) or (here is not None and not clear):
            continue
        if here is None:
            yield Drift(file, block.name, DriftKind.MISSING, f"lacks “{_short(block.words)}”")
        elif here.words != block.words:
            words = f"says {_difference(block.words, here.words)}"
            yield Drift(file, block.name, DriftKind.OTHER_WORDS, words, *page.place(here.element.start))
        else:
            for entry in _linked(block, file, follow):
                there = usual.get(entry.label)
                if there is not None and entry.target is not None and place_of(entry.target) != there:
                    words = f"“{_short(entry.label)}” leads to {place_of(entry.target)[0][:80] or 'nowhere'}"
                    place = page.place(here.element.start)
                    yield Drift(file, block.name, DriftKind.OTHER_TARGET, words, *place)


def _linked(block: SharedBlock, file: str, follow: Follow) -> list[FoundEntry]:
    """The links of a block on one page, but for those to places on the page itself."""
    here = block.blocks[file]
    links = ((label_of(link), follow(here.page, link.attributes["href"])) for link in here.element.links)
    return [FoundEntry(label, target) for label, target in links if label and target.file != file]


def _usual_targets(pages: list[list[FoundEntry]]) -> dict[str, tuple[str, str]]:
    """By its words, where a link leads on most pages, if it does lead to one place there."""
    count: dict[str, Counter[tuple[str, str]]] = {}
    for of_page in pages:
        for entry in of_page:
            if entry.target is not None:
                count.setdefault(entry.label, Counter())[place_of(entry.target)] += 1
    usual = {label: places.most_common(1)[0] for label, places in count.items()}
    return {label: place for label, (place, often) in usual.items() if often >= _CLEARLY * count[label].total()}


def trail_drift(
    trails: Mapping[str, tuple[str, ...]], elements: Mapping[str, Element], pages: Mapping[str, OldPage]
) -> Iterator[Drift]:
    """The pages whose breadcrumbs lead another way than those of most pages in the same folder, and those that have
    none. ``trails`` are, by file, the pages through which they lead."""
    folders: dict[str, list[str]] = {}
    for file in pages:
        folders.setdefault(file.rpartition("/")[0], []).append(file)
    for files in folders.values():
        having = [file for file in files if file in trails]
        if len(having) < max(_A_FEW, _CLEARLY * len(files)):
            continue
        ways = {file: tuple(one for one in trails[file] if one != file) for file in having}
        (usual, often), *_ = Counter(ways.values()).most_common(1)
        clear = often >= max(_A_FEW, _CLEARLY * len(having))
        for file in files:
            if file not in trails:
                if file not in usual:
                    yield Drift(file, "", DriftKind.MISSING, "has no breadcrumbs")
            elif clear and ways[file] != usual and file not in usual and set(ways[file]) != set(usual):
                through = " › ".join(ways[file]) or "nothing"
                place = pages[file].place(elements[file].start)
                words = f"its breadcrumbs lead through {through} and not {' › '.join(usual)}"
                yield Drift(file, "", DriftKind.OTHER_TRAIL, words, *place)


def _difference(wanted: str, has: str) -> str:
    one, two = wanted.split(), has.split()
    changes = [code for code in SequenceMatcher(None, one, two, autojunk=False).get_opcodes() if code[0] != "equal"]
    a, b, c, d = changes[0][1], changes[-1][2], changes[0][3], changes[-1][4]
    instead = _short(" ".join(one[a:b]))
    return (
        f"“{_short(' '.join(two[c:d]))}” instead of “{instead}”" if instead else f"“{_short(' '.join(two[c:d]))}” more"
    )


def _short(words: str) -> str:
    pieces = words.split()
    return " ".join(pieces[:_MOST_WORDS]) + (" …" if len(pieces) > _MOST_WORDS else "")


def mark_of(
    menu: Iterable[FoundEntry], entries: Mapping[str, tuple[FoundEntry, ...]], above: Mapping[str, str | None]
) -> tuple[str, list[Drift], dict[str, str]]:
    """How pages mark the entry one is on, in words (empty: they do not); the pages that mark none or another; and,
    for pages that have no entry, and no page above that has one, the file of the page whose entry they mark. An entry
    is marked where it looks other than on most pages. ``above`` is the page above each: its entry may be the marked
    one."""
    appearances: dict[str, Counter[frozenset[str]]] = {}
    for of_page in entries.values():
        for entry in all_entries(of_page):
            appearances.setdefault(entry.label, Counter())[_seen(entry)] += 1
    plain = {label: count.most_common(1)[0][0] for label, count in appearances.items()}
    files = {entry.label: entry.target.file for entry in all_entries(menu) if entry.target is not None}
    marks: dict[str, list[tuple[str, frozenset[str]]]] = {}
    for file, of_page in entries.items():
        marks[file] = [
            (entry.label, _seen(entry) ^ plain[entry.label])
            for entry in all_entries(of_page)
            if _seen(entry) != plain[entry.label]
        ]
    own = [mark for file, found in marks.items() for label, mark in found if files.get(label) in _way(file, above)]
    if not own:
        return "", [], {}
    how, count = Counter(own).most_common(1)[0]
    in_menu = [file for file in entries if file in files.values()]
    if count < max(2, _SHARE * len(in_menu)):
        return "", [], {}
    drift = []
    named: dict[str, str] = {}
    below = [
        file for file in entries if file not in in_menu and any(one in files.values() for one in _way(file, above))
    ]
    marked = sum(any(files.get(label) in _way(file, above) for label, _ in marks[file]) for file in below)
    expected = {*in_menu, *(below if marked >= max(_A_FEW, _CLEARLY * len(below)) else ())}
    for file in entries:
        right = [label for label, mark in marks[file] if files.get(label) in _way(file, above)]
        wrong = [label for label, mark in marks[file] if files.get(label) not in _way(file, above) and mark == how]
        if wrong and not any(one in files.values() for one in _way(file, above)) and len(wrong) == 1:
            to = files.get(wrong[0])
            named |= {file: to} if to is not None else {}
        elif wrong:
            drift.append(Drift(file, "", DriftKind.WRONG_CURRENT, f"marks “{wrong[0]}” as the current entry"))
        elif not right and file in expected:
            drift.append(Drift(file, "", DriftKind.WRONG_CURRENT, "marks no entry as the current one"))
    return _in_words(how), drift, named


def _seen(entry: FoundEntry) -> frozenset[str]:
    return entry.look if entry.target is not None else entry.look | {NO_LINK}


def _way(file: str, above: Mapping[str, str | None]) -> list[str]:
    way: list[str] = []
    at: str | None = file
    while at is not None and at not in way:
        way.append(at)
        at = above.get(at)
    return way


def _in_words(mark: frozenset[str]) -> str:
    return ", ".join(sorted(mark, key=lambda one: (not one.startswith("aria"), one)))


def mistakes(drift: Iterable[Drift], pages: int) -> list[Drift]:
    """The drift that is one: what differs in the same way on many pages is another kind of page, and no mistake."""
    drift = list(drift)
    count = Counter((one.block, one.kind, one.words) for one in drift)
    return [one for one in drift if count[one.block, one.kind, one.words] <= max(_A_FEW, _OTHER_KIND * pages)]


def head_drift(pages: Mapping[str, OldPage], styles: Mapping[str, frozenset[str]]) -> Iterator[Drift]:
    """The pages that lack a style sheet which most have, and those in another language than most."""
    count = Counter(style for of_page in styles.values() for style in of_page)
    usual = {style for style, pages_with in count.items() if pages_with >= max(2, _SHARE * len(pages))}
    languages = Counter(page.language.lower() for page in pages.values() if page.language)
    language = languages.most_common(1)[0][0] if languages else ""
    for file, page in pages.items():
        for style in sorted(usual - styles[file]):
            yield Drift(file, "", DriftKind.STYLE_MISSING, f"does not load {style}")
        if page.language and language and page.language.lower().split("-")[0] != language.split("-")[0]:
            yield Drift(file, "", DriftKind.OTHER_LANGUAGE, f"says that it is in `{page.language}`")
