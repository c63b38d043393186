"""What a page is called in another language is set."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress, EditRejected, label_of
from basilica.core.edits.fields import LanguageTag, PageKey, PageWords
from basilica.core.edits.map_data import MapData, map_data, page_in, written
from basilica.core.edits.source_patcher import NotHere
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.map_files import Files
from basilica.core.map.site import Site

TRANSLATED = ("title", "label", "description", "path", "draft")
"""The words of a page that are set in a language. A page that is a draft, and none in another language, is there in
that one alone."""


class TranslatePage(Command, frozen=True, tag="translate-page"):
    """Other words of a page in a language that is not the first: ``words`` holds those that change, an empty one is
    taken out. A title alone is written behind the tag."""

    key: PageKey
    language: LanguageTag
    words: PageWords

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        unknown = next((word for word in self.words if word not in TRANSLATED), None)
        if unknown is not None:
            raise EditRejected(f"`{unknown}` is not a word that a page has in a language. Nothing was changed.")
        work.removes(*(("pages", self.key, self.language, word) for word in self.words))
        data = work.data()
        page = page_in(data, self.key)
        before = page.get(self.language)
        now = {"title": before} if isinstance(before, str) else dict(before) if isinstance(before, dict) else {}
        after = {word: text for word, text in {**now, **self.words}.items() if text}
        value: MapData = after
        if not isinstance(before, dict) or not after:
            value = after["title"] if list(after) == ["title"] else after or None
            flow = write_scalar(value) if isinstance(value, str) else written(value) if value else None
            work.text.set_word(self.key, self.language, flow)
        else:
            for word, text in self.words.items():
                work.text.set_under(self.key, (self.language,), word, write_scalar(text) if text else None)
        if value is None:
            page.pop(self.language, None)
        else:
            page[self.language] = value
        work.take_data(data)
        work.chosen = self.key

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        verb = "Set" if any(self.words.values()) else "Removed"
        return f"{verb} {', '.join(self.words)} of {label_of(before, self.key)} in {self.language}"


def translation_of(text: str, files: Files, key: str, language: str) -> dict[str, str]:
    """What the map, or a file that it includes, says of a page in a language, by word; nothing where neither does."""
    try:
        said = page_in(map_data(text, files), key).get(language)
    except NotHere:
        return {}
    words = {"title": said} if isinstance(said, str) else said if isinstance(said, dict) else {}
    return {word: value for word, value in words.items() if isinstance(value, str) and word in TRANSLATED}
