"""What the pages of a site have in common, found by comparing them: blocks that stand on most of them and say the same.

Nothing is known of the site: a block is named by where it stands (an id, else classes, else its way down from the
body), and the words of the blocks of one name are compared over all pages. Most pages are right; the others drifted.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from difflib import SequenceMatcher

from basilica.core.exchange.site_import.follow import Follow
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element

_BLOCKS = frozenset(
    [
        "address",
        "article",
        "aside",
        "blockquote",
        "center",
        "div",
        "dl",
        "dd",
        "fieldset",
        "font",
        "footer",
        "form",
        "h1",
        "h2",
        "h3",
        "h4",
        "h5",
        "h6",
        "header",
        "hgroup",
        "hr",
        "li",
        "map",
        "menu",
        "nav",
        "ol",
        "p",
        "section",
        "span",
        "table",
        "tbody",
        "td",
        "th",
        "tr",
        "ul",
    ]
)
_AROUND = frozenset(["body", "html", "main", "b", "strong", "i", "em", "small"])
"""What blocks may stand in, and is none."""
_PIECES = frozenset(["li", "dt", "dd", "td", "th", "tr", "tbody", "span", "font"])
"""Pieces of lists, tables and lines: shared by themselves only where several links stand in one."""
_SHARE = 0.5
"""On so many of the pages a block must say the same, or nearly, to be what they share."""
_NEARLY = 0.8
_SAME = 0.2
"""On so many it must say just the same."""
_LEAST = 2
_LIKE = 0.6
"""How like two texts must be for one to be the other, drifted."""
_DEEPEST = 24


@dataclass(frozen=True, slots=True)
class Block:
    """A block as it stands on one page."""

    page: OldPage
    element: Element
    words: str


@dataclass(frozen=True, slots=True)
class SharedBlock:
    """What most pages share under one name: its ``words`` there, and by file the block of each page that has it or
    something like it. ``order`` is where it stands among the others, as one reads."""

    name: str
    words: str
    blocks: Mapping[str, Block]
    same: frozenset[str]
    """The files on which it says just that."""
    order: int

    @property
    def model(self) -> Block:
        """The block of the first page on which it is as on most."""
        return next(block for file, block in self.blocks.items() if file in self.same)


def named_blocks(page: OldPage) -> dict[str, Block]:
    """The blocks of a page by their names; of two with one name each has its number."""
    found: dict[str, Block] = {}
    counts: Counter[str] = Counter()

    def walk(element: Element, above: str, depth: int) -> None:
        within: Counter[str] = Counter()
        for child in element.children:
            within[child.tag] += 1
            if child.tag not in _BLOCKS and child.tag not in _AROUND:
                continue
            name = _name(child, above, within[child.tag])
            counts[name] += 1
            if counts[name] > 1:
                name = f"{name} ({counts[name]})"
            if child.tag in _BLOCKS:
                words = child.text
                alone = child.tag not in _PIECES or len(child.links) >= 2
                if alone and (words or child.has_pictures):
                    found[name] = Block(page, child, words)
            if depth < _DEEPEST:
                walk(child, name, depth + 1)

    walk(page.body, "", 0)
    return found


def _name(element: Element, above: str, number: int) -> str:
    """What a block is called on every page: by its id, its classes, or its way down."""
    own = element.attributes.get("id", "").strip()
    if own and " " not in own:
        return f"#{own}"
    classes = sorted(element.attributes.get("class", "").split())
    if classes and element.tag not in ("li", "td", "span"):
        return f"{element.tag}.{'.'.join(classes)}"
    return f"{above} > {element.tag}:{number}".removeprefix(" > ")


_OWN_VALUES = {"img": "src", "iframe": "src", "embed": "src", "object": "data", "video": "src", "audio": "src"}
"""What pages show beside words, and where it comes from; a hidden field of a form has its value."""


def own_addresses(block: Block, follow: Follow) -> dict[tuple[str, str], str]:
    """What a block leads to and shows, by its kind and words: pages, files, addresses, pictures, frames, hidden values.
    Links to places on the page itself are left out, since each page has its own."""
    found: dict[tuple[str, str], str] = {}
    counts: Counter[tuple[str, str]] = Counter()

    def add(kind: str, name: str, value: str) -> None:
        counts[kind, name] += 1
        found[kind, f"{name} {counts[kind, name]}"] = value

    def led(address: str) -> str:
        target = follow(block.page, address)
        query = "" if target.outside else address.partition("#")[0].partition("?")[2]
        return (
            f"{target.file or target.lost or target.url}?{query}" if query else target.file or target.lost or target.url
        )

    for link in block.element.links:
        target = follow(block.page, link.attributes["href"])
        if target.file != block.page.file:
            add("a", link.text, led(link.attributes["href"]))
    for element in block.element.walk():
        own = element.attributes
        if element.tag in _OWN_VALUES and own.get(_OWN_VALUES[element.tag]):
            add(element.tag, "", led(own[_OWN_VALUES[element.tag]]))
        elif element.tag == "input" and own.get("type", "").lower() == "hidden":
            add("input", own.get("name", ""), own.get("value", ""))
    return found


def _with_same_addresses(files: Iterable[str], of_page: Mapping[str, Block], follow: Follow) -> frozenset[str] | None:
    """Of pages on which a block says the same, those on which it leads to the same; None for a block that leads
    somewhere else on most: it is each page's own, though it says the same."""
    led = {file: own_addresses(of_page[file], follow) for file in files}
    by_place: dict[tuple[str, str], Counter[str]] = defaultdict(Counter)
    for places in led.values():
        for place, value in places.items():
            by_place[place][value] += 1
    usual = {}
    for place, values in by_place.items():
        value, most = values.most_common(1)[0]
        if len(values) > 1 and 2 * most <= values.total():
            return None
        usual[place] = value
    return frozenset(file for file, places in led.items() if all(usual[at] == value for at, value in places.items()))


def shared_blocks(blocks: Mapping[str, Mapping[str, Block]], follow: Follow) -> tuple[SharedBlock, ...]:
    """The largest blocks that most of the pages have in common, in the order in which they stand, out of the blocks of
    each page by its file: those that say the same and lead to the same."""
    by_name: dict[str, dict[str, Block]] = defaultdict(dict)
    for file, named in blocks.items():
        for name, block in named.items():
            by_name[name][file] = block
    least = max(_LEAST, _SHARE * len(blocks))
    shared: dict[str, tuple[str, frozenset[str]]] = {}
    for name, of_page in by_name.items():
        if len(of_page) < least:
            continue
        count = Counter(block.words for block in of_page.values())
        words, most = count.most_common(1)[0]
        if most < max(_LEAST, _SAME * len(blocks)):
            continue
        like = {other for other in count if similarity(other, words) >= _NEARLY} if most < least else {words}
        if sum(count[other] for other in like) >= least:
            says = [file for file, block in of_page.items() if block.words == words]
            same = _with_same_addresses(says, of_page, follow)
            if same is not None and same:
                shared[name] = words, same
    largest = _largest(shared, by_name)
    found = []
    for name in largest:
        words, same = shared[name]
        order = min(by_name[name][file].element.start for file in same)
        found.append(SharedBlock(name, words, _on_all(name, words, blocks, largest), same, order))
    return tuple(sorted(found, key=lambda one: one.order))


def _largest(shared: Mapping[str, tuple[str, frozenset[str]]], by_name: Mapping[str, Mapping[str, Block]]) -> set[str]:
    """The shared blocks that stand in no other that is shared on as many pages."""
    found = set()
    for name, (words, same) in shared.items():
        first = by_name[name][min(same)].element
        others = (
            (other, by_name[other].get(min(same)))
            for other, (_, same_there) in shared.items()
            if other != name and min(same) in same_there and len(same_there) >= 0.8 * len(same)
        )
        inside = (
            block is not None
            and block.element.holds(first)
            and (block.element.end - block.element.start, other) > (first.end - first.start, name)
            for other, block in others
        )
        if words and not any(inside):
            found.add(name)
    return found


def _on_all(name: str, words: str, blocks: Mapping[str, Mapping[str, Block]], shared: set[str]) -> dict[str, Block]:
    """By file, the block of this name; where a page has none, or one that says something else altogether, the block
    that is most like what it should be."""
    found: dict[str, Block] = {}
    for file, named in blocks.items():
        own = named.get(name)
        if own is not None and (own.words == words or similarity(own.words, words) >= _LIKE):
            found[file] = own
            continue
        best, most = None, _LIKE
        for other, block in named.items():
            if other in shared or abs(len(block.words) - len(words)) > len(words):
                continue
            like = similarity(block.words, words)
            if like > most:
                best, most = block, like
        if best is not None:
            found[file] = best
    return found


def similarity(one: str, two: str) -> float:
    """How like two texts are, by their words: 1 is the same."""
    if one == two:
        return 1.0
    if not one or not two or max(len(one), len(two)) > 3 * min(len(one), len(two)):
        return 0.0
    return SequenceMatcher(None, one.split(), two.split(), autojunk=False).ratio()
