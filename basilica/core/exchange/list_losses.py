"""What a map would lose if a list took the place of its pages and menus: words that a list cannot say."""

from __future__ import annotations

from collections.abc import Mapping

from basilica.core.edits.accounted_words import WordPlace, word_account
from basilica.core.edits.map_data import data_of
from basilica.core.edits.source_patcher import SourcePatcher
from basilica.core.map.schema.sections import AUTO_WORD
from basilica.core.plan import Plan
from basilica.core.shared.conservation import account

_SAID = ("title", "label", "path")
"""Words of a page that a list has, in its own way; what it changes of them is shown."""


def list_losses(before: str, after: str, old: Plan, new: Plan) -> Mapping[str, tuple[str, ...]]:
    """By the label of a page or a menu that stays, the words that the map ``before`` has there and the one made from a
    list does not; under `comments`, those that are gone. Pages and entries that the list leaves out are no losses:
    they are shown as deleted."""
    there, now = SourcePatcher(before), SourcePatcher(after)
    pages = old.site.pages, new.site.pages
    words = word_account((data_of(there.root), ()), (data_of(now.root), ()), pages, {}, _left_out(old, new))
    found: dict[str, dict[str, None]] = {}
    for place in words.lost:
        if len(place) > 4 and place[:4] in words.lost:
            continue  # the whole entry is left out
        name, word = _named(place, old)
        if word:
            found.setdefault(name, {})[word] = None
    comments = account(there.comments, now.comments)
    lost = {"comments": tuple(comments.lost)} if comments.lost else {}
    return {**{name: tuple(words) for name, words in found.items()}, **lost}


def _left_out(old: Plan, new: Plan) -> list[WordPlace]:
    """The pages, menus and words of pages that a list says, or is seen to leave out."""
    gone = [key for key in old.site.pages if key not in new.site.pages]
    menus = [name for name in old.site.menus if name not in new.site.menus]
    said = [("pages", "*", word) for word in _SAID]
    return [*(("pages", key) for key in gone), *(("menus", name) for name in menus), *said]


def _named(place: WordPlace, plan: Plan) -> tuple[str, str]:
    """What has a word that is lost, and the word; no word for an entry that the list leaves out."""
    if place[0] == "pages" and len(place) > 2:
        page = plan.site.pages.get(place[1])
        return page.label if page is not None else place[1], place[2]
    if place[0] == "menus" and place[3:] == (AUTO_WORD,):
        return f"the menu {place[1]}", "that it follows the pages"
    if place[0] == "menus":
        return f"the menu {place[1]}", " ".join(place[4:] if place[2] == "entries" else place[2:])
    return place[0], " ".join(place[1:])
