"""The words of an entry of a menu are set."""

from __future__ import annotations

from msgspec import field

from basilica.core.edits.accounted_words import target_of
from basilica.core.edits.command import EditInProgress, EditRejected, MenuEdit, entry_label
from basilica.core.edits.entry_words import LEADS, checked_words, entry_data, in_languages
from basilica.core.edits.fields import EntryNumber, EntryWords, MenuName
from basilica.core.edits.map_data import entries_in, long_entry
from basilica.core.map.site import Site
from basilica.core.map.site.references import References


class SetEntry(MenuEdit, frozen=True, tag="set-entry"):
    """Other words for an entry, by its number: ``label``, ``icon``, ``note``, ``show``, ``above``, ``below``,
    ``class``, and where it leads, ``page``, ``url``, ``file`` or ``group``. An empty one takes the word out; words that
    are not given stay."""

    menu: MenuName
    number: EntryNumber
    words: EntryWords
    labels: dict[str, str] = field(default_factory=dict)
    """By the tag of a language, what it is called in it; an empty one is removed."""

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        words = checked_words(self.words)
        path = work.entry_path(self.menu, self.number)
        data = work.data()
        entries = entries_in(data, self.menu, path[:-1])
        if entries[path[-1]] in ("separator", "auto"):
            raise EditRejected("A line between entries has no words. Nothing was changed.")
        known = target_of(long_entry(entries[path[-1]]), References(work.site.pages), {})
        place = ("menus", self.menu, "entries", known)
        work.removes(*(place if word in LEADS else (*place, word) for word in words))
        work.removes(*((*place, tag) for tag in self.labels))
        changed = entry_data(long_entry(entries[path[-1]]), words)
        entry = entries[path[-1]] = in_languages(changed, self.labels, work.site.languages[1:])
        work.text.write_entry(self.menu, path, entry)
        work.take_data(data)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Edited the entry {entry_label(before, self.menu, self.number)}"
