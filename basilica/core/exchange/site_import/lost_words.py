"""The account of an import: the words that pages had, and that the pages made of them do not have."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping

from basilica.core.exchange.site_import.found_menus import is_step
from basilica.core.exchange.site_import.old_page import OldPage, read_old_page
from basilica.core.exchange.site_import.own_content import skip_link
from basilica.core.shared.conservation import account
from basilica.core.shared.output_file import File

_LISTED = 20


def lost_words(pages: Mapping[str, OldPage], made: Mapping[str, bytes]) -> tuple[str, ...]:
    """Messages about the text that old pages have and the pages ``made`` of them, by file, do not: each phrase with the
    number of pages that had it, the most frequent first. Pages that were not made are left out."""
    found: dict[str, list[str]] = defaultdict(list)
    for file, page in pages.items():
        if file in made:
            for phrase in _lost(page, read_old_page(File(file, made[file]))):
                found[phrase].append(file)
    ordered = sorted(found.items(), key=lambda one: (-len(one[1]), one[0]))
    said = [f"“{phrase[:120]}” of {on_pages(files)} is not on the new pages." for phrase, files in ordered[:_LISTED]]
    more = len(ordered) - _LISTED
    return (*said, f"And {more:,} other phrases are not on the new pages.") if more > 0 else tuple(said)


_GENERATED = frozenset(["viewport", "generator", "charset", "content-type", "content-language", "x-ua-compatible"])
"""Names of `meta` elements that every new page has, or needs no more."""
_MOVED = frozenset(["canonical", "prev", "previous", "next", "icon", "shortcut icon", "stylesheet"])
"""Links that the map says in its own way, or of which another note speaks."""


def lost_heads(pages: Mapping[str, OldPage], made: Mapping[str, bytes]) -> tuple[str, ...]:
    """Messages about what the heads of old pages have and those of the pages ``made`` of them do not: style sheets and
    scripts in the page, links, and `meta` elements, each kind with the number of pages that had it."""
    found: dict[str, list[str]] = defaultdict(list)
    for file, page in pages.items():
        if file in made:
            lost = account(_in_head(page), _in_head(read_old_page(File(file, made[file])))).lost
            for kind in dict.fromkeys(kind for kind, _ in lost):
                found[kind].append(file)
    ordered = sorted(found.items(), key=lambda one: (-len(one[1]), one[0]))
    return tuple(f"`{kind}` of {on_pages(files)} is not in the new heads." for kind, files in ordered[:_LISTED])


def _in_head(page: OldPage) -> list[tuple[str, str]]:
    """The elements of a head, each once: its kind, and the text of what is written in the page itself."""
    head = next((element for element in page.tree.walk() if element.tag == "head"), None)
    found: dict[tuple[str, str], None] = {}
    for element in head.walk() if head is not None else ():
        own = element.attributes
        name = own.get("name") or own.get("property") or own.get("itemprop", "")
        if element.tag == "style":
            found["<style>", page.inside(element)] = None
        elif element.tag == "script":
            kind = own.get("type", "").strip().lower()
            data = kind if kind.endswith("json") else ""
            found[f'<script type="{data}">' if data else "<script>", page.inside(element)] = None
        elif element.tag == "link" and own.get("rel", "").strip().lower() not in _MOVED and not own.get("hreflang"):
            found[f'<link rel="{own.get("rel", "")[:40]}">', ""] = None
        elif element.tag == "meta" and name and name.lower() not in _GENERATED:
            found[f'<meta name="{name[:40]}">', ""] = None
    return list(found)


def on_pages(files: list[str]) -> str:
    """The pages that had something, as a message names them: the file, or how many and the first."""
    return files[0] if len(files) == 1 else f"{len(files):,} pages, such as {files[0]},"


def _lost(before: OldPage, after: OldPage) -> Iterator[str]:
    """The runs of words of a page that are lost, where they are more than signs between words."""
    skipped = [word for link in skip_link(before) for word in link.text.split()]
    words = before.body.text.split()
    lost = account(words, [*after.body.text.split(), *skipped]).lost
    run: list[str] = []
    for word in (*words, ""):
        if lost[word]:
            lost[word] -= 1
            run.append(word)
            continue
        said = [one for one in run if any(map(str.isalnum, one))]
        if said and not all(map(is_step, said)):  # the way to the next page has its own words
            yield " ".join(run)
        run = []
