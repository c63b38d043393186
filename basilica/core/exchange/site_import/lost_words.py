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
    said = [f"“{phrase[:120]}” of {_on(files)} is not on the new pages." for phrase, files in ordered[:_LISTED]]
    more = len(ordered) - _LISTED
    return (*said, f"And {more:,} other phrases are not on the new pages.") if more > 0 else tuple(said)


def _on(files: list[str]) -> str:
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
