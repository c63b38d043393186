"""Menus, breadcrumbs and sequences in blocks that somebody wrote by hand: in lists, tables, or one after another."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Iterable, Iterator
from dataclasses import dataclass, field

from basilica.core.exchange.site_import.follow import Follow
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element, plain
from basilica.core.site_reader import Target

_BETWEEN = re.compile(r"[\s|·•–—\-/\\:,;>»›→<«‹←\[\](){}*~+.°⋅■▪]+")
"""Signs between entries that are not a list."""
_WORD_BESIDE = re.compile(r"[^\W\d_][\w'’]*[,;]?$")
"""Words that end right before a link."""
_ALONG = re.compile(
    r"(?:go )?(?:to )?(?:the )?(?:prev(?:ious)?|next|back|forward|weiter|zur[uü]ck|suivante?|pr[eé]c[eé]dente?|anterior"
    r"|siguiente|volgende|vorige|nast[eę]pn[ay]|poprzedni[a]?|blaenorol|nesaf)\b.*|<+|>+|«|»|←|→",
    re.IGNORECASE,
)
"""Links to the page before and the one after."""
_STEP = re.compile(r"(?:up|top|contents?|table of contents|index|home|start)\b.*|↑", re.IGNORECASE)
"""Other links beside these."""
_MARKED_TAGS = frozenset(["b", "strong", "em", "i", "u", "span", "font", "big"])
_MOST_WORDS_OF_CRUMBS = 60


@dataclass(frozen=True, slots=True)
class FoundEntry:
    """An entry as it stands on one page: its words, where it leads (None: it is no link there), and what sets it apart
    from others: the tags around its words, its classes and those of its item, and its `aria-current`."""

    label: str
    target: Target | None
    items: tuple[FoundEntry, ...] = ()
    look: frozenset[str] = frozenset()
    element: Element | None = field(default=None, compare=False)


def all_entries(entries: Iterable[FoundEntry]) -> Iterator[FoundEntry]:
    """The entries and those below them, as one reads."""
    for entry in entries:
        yield entry
        yield from all_entries(entry.items)


def innermost_with_links(element: Element) -> Element:
    """The smallest element in a block that holds all of its links."""
    links = element.links
    while links:
        inner = next(
            (child for child in element.children if child.tag not in ("a", "li") and all(map(child.holds, links))), None
        )
        if inner is None:
            return element
        element = inner
    return element


def label_of(link: Element) -> str:
    """What a link is called: its words, else those that stand for its picture."""
    words = plain(link.text)
    if words:
        return words
    pictures = (one.attributes.get("alt", "") for one in link.walk() if one.tag == "img")
    return plain(" ".join(pictures)) or plain(link.attributes.get("title") or link.attributes.get("alt", ""))


def entries_of(page: OldPage, element: Element, follow: Follow) -> tuple[FoundEntry, ...]:
    """The entries of a menu: of its list, with those in lists below them; else its links one after another, and the
    words between them that are no link."""
    lists = [one for one in element.walk() if one.tag in ("ul", "ol", "dl", "menu")]
    links = element.links
    outer = next((one for one in lists if sum(map(one.holds, links)) > 0.8 * len(links)), None)
    if outer is not None and outer.tag != "dl":
        return _of_list(page, outer, follow)
    return _one_after_another(page, element, follow)


def _of_list(page: OldPage, element: Element, follow: Follow) -> tuple[FoundEntry, ...]:
    found = []
    for item in element.children:
        if item.tag != "li":
            continue
        below = next((one for one in item.walk() if one is not item and one.tag in ("ul", "ol", "menu")), None)
        links = [link for link in item.links if below is None or not below.holds(link)]
        items = _of_list(page, below, follow) if below is not None else ()
        if links:
            first = _entry(page, links[0], item, follow)
            found.append(FoundEntry(first.label, first.target, items, first.look, first.element))
            found += [_entry(page, link, item, follow) for link in links[1:]]
            continue
        buttons = (one for one in item.walk() if one.tag == "button" and (below is None or not below.holds(one)))
        words = next((one.text for one in buttons if one.text), "")  # it may stand beside the same words without script
        words = words or (item.text.removesuffix(below.text).strip() if below is not None else item.text)
        if words:
            found.append(FoundEntry(plain(words), None, items, _look(item, item), item))
    return tuple(entry for entry in found if entry.label)


def _one_after_another(page: OldPage, element: Element, follow: Follow) -> tuple[FoundEntry, ...]:
    found: list[FoundEntry] = []

    def words(text: str, around: Element) -> None:
        for piece in re.split(r"\s*[|·•»›>\[\]■▪]\s*|\s{2,}|\s[-–—/]\s", text):
            label = plain(piece)
            if label and _BETWEEN.sub("", label):
                found.append(FoundEntry(label, None, (), _look(around, element), around))

    def walk(one: Element) -> None:
        for piece in one.pieces:
            if isinstance(piece, str):
                words(piece, one)
            elif piece.tag == "a" and piece.attributes.get("href", "").strip():
                found.append(_entry(page, piece, element, follow))
            elif piece.tag not in ("script", "style"):
                walk(piece)

    walk(element)
    return tuple(entry for entry in found if entry.label)


def _entry(page: OldPage, link: Element, within: Element, follow: Follow) -> FoundEntry:
    return FoundEntry(label_of(link), follow(page, link.attributes["href"]), (), _look(link, within), link)


def _look(element: Element, within: Element) -> frozenset[str]:
    """What may set an entry apart: classes, `aria-current`, and tags that stress, on it, in it, and up to its item."""
    found: set[str] = set()
    around: Element | None = element
    inside = [one for one in element.walk() if one is not element and one.tag in _MARKED_TAGS]
    while around is not None:
        for one in (around, *(inside if around is element else ())):
            found.update(f".{name}" for name in one.attributes.get("class", "").split())
            if one.attributes.get("aria-current"):
                found.add(f"aria-current={one.attributes['aria-current']}")
            if one.attributes.get("id"):
                found.add(f"#{one.attributes['id']}")
            if one.tag in _MARKED_TAGS:
                found.add(one.tag)
        if around is within or around.tag in ("li", "td"):
            break
        around = around.parent
    return frozenset(found)


def looks_like_menu(element: Element, page: OldPage, follow: Follow) -> bool:
    """Whether a block is for going to other pages: most of its words are links, to at least two pages of the site."""
    links = element.links
    pages = {target.file for target in (follow(page, link.attributes["href"]) for link in links) if target.file}
    words = sum(len(label_of(link).split()) for link in links)
    said = len(_BETWEEN.sub(" ", element.text).split())
    return len(links) >= 2 and len(pages) >= 2 and words >= 0.5 * said and not _is_sentence(element)


def _is_sentence(element: Element) -> bool:
    """Whether links are parts of a sentence: words directly before or after one of them, without a separator. Links in
    lists never are."""
    links = [link for link in element.links if not _is_in_list(link, element)]
    if any(_WORD_BESIDE.search(_words_before(element, links, link)) for link in links):
        return True
    behind = element.text_behind(links[-1]) if links else ""
    return bool(re.match(r"\s*[a-z]", behind))


def _words_before(element: Element, links: list[Element], link: Element) -> str:
    """The words between a link and the one before it, or the beginning of the element."""
    start = element.spans[0][0]
    for other in links:
        if other is link:
            break
        start = other.spans[0][1]
    return " ".join("".join(element.order.words[start : link.spans[0][0]]).split())


def _is_in_list(link: Element, within: Element) -> bool:
    around = link.parent
    while around is not None and around is not within:
        if around.tag in ("li", "dt", "dd", "td", "th", "option"):
            return True
        around = around.parent
    return False


def is_trail(element: Element, page: OldPage, home: str, follow: Follow) -> bool:
    """Whether a block is breadcrumbs: links from home on, and then words that are no link."""
    links = element.links
    if not 1 <= len(links) <= 8 or len(element.text.split()) > _MOST_WORDS_OF_CRUMBS:
        return False
    if follow(page, links[0].attributes["href"]).file != home:
        return False
    targets = [follow(page, link.attributes["href"]).file for link in links]
    if len(set(targets)) < len(targets) or page.file in targets[:-1]:
        return False
    return bool(_BETWEEN.sub("", element.text_behind(links[-1]))) or targets[-1] == page.file


def is_step(label: str) -> bool:
    """Whether a label is that of a link to the page before, the one after or the one above."""
    return bool(_ALONG.fullmatch(label) or _STEP.fullmatch(label))


def is_sequence(element: Element, page: OldPage, follow: Follow, titles: Collection[str]) -> bool:
    """Whether a block leads to the page before, the one after and the one above: by its words, or by what its links say
    that they are. ``titles`` are those of all pages, in small letters and without signs."""
    links = element.links
    if not 1 <= len(links) <= 8 or len(element.text.split()) > _MOST_WORDS_OF_CRUMBS:
        return False
    beside = {follow(page, href).file for href in page.neighbours} - {None}
    along = [
        link
        for link in links
        if _ALONG.fullmatch(label_of(link))
        or _says(link, _ALONG_RELATIONS)
        or (beside and len(links) <= len(beside) + 2 and follow(page, link.attributes["href"]).file in beside)
    ]
    steps = [*along, *(link for link in links if _STEP.fullmatch(label_of(link)) and link not in along)]
    led = (follow(page, link.attributes["href"]).file for link in along)
    return any(led) and len(steps) >= len(links) / 2 and not _has_own_words(element, titles)


_CONTENT_TAGS = frozenset(
    ["h1", "form", "input", "select", "textarea", "pre", "figure", "details", "iframe", "blockquote", "video", "audio"]
)
"""What only the content of a page has."""
_COUNTED = re.compile(r"(?:page|chapter|part|section|step)?\s*\d+(?:\s*(?:of|/)\s*\d+)?", re.IGNORECASE)


def plain_titles(pages: Iterable[OldPage]) -> frozenset[str]:
    """The titles of pages in small letters, without the signs between their words."""
    return frozenset(_plain(page.title) for page in pages)


def _plain(text: str) -> str:
    return _BETWEEN.sub(" ", text).strip().casefold()


def _has_own_words(element: Element, titles: Collection[str]) -> bool:
    """Whether a block has content beside its links: something that only content has, or words that are neither those of
    steps or numbers, nor in one of the ``titles`` of pages, as the heading of a handbook is."""
    links = element.links
    for one in element.walk():
        if any(link.holds(one) for link in links):
            continue
        if one.tag in _CONTENT_TAGS:
            return True
        if one.tag in ("script", "style"):
            continue
        for piece in one.pieces:
            words = _plain(piece) if isinstance(piece, str) else ""
            if not words or is_step(words) or _COUNTED.fullmatch(words):
                continue
            if not any(words in title for title in titles):
                return True
    return False


_ALONG_RELATIONS = frozenset(["prev", "previous", "next"])


def _says(link: Element, relations: frozenset[str]) -> bool:
    """Whether a link says that it is of one of some relations (HTML, link types)."""
    return not relations.isdisjoint(link.attributes.get("rel", "").lower().split())


def place_of(target: Target) -> tuple[str, str]:
    """What is compared of where links lead."""
    return target.file or target.lost or target.url, target.fragment


def targets_by_label(menus: Iterable[Iterable[FoundEntry]]) -> dict[str, Target]:
    """By its words, where an entry leads on most pages."""
    found: dict[str, Counter[tuple[str, str]]] = {}
    known: dict[tuple[str, str], Target] = {}
    for menu in menus:
        for entry in all_entries(menu):
            if entry.target is not None:
                place = place_of(entry.target)
                known.setdefault(place, entry.target)
                found.setdefault(entry.label, Counter())[place] += 1
    return {label: known[count.most_common(1)[0][0]] for label, count in found.items()}
