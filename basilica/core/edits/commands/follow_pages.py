"""A menu follows the pages of the tree."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress, EditRejected
from basilica.core.edits.fields import AutoWords
from basilica.core.edits.map_data import MapData, menu_in, written
from basilica.core.language.sections.menu_words import AUTO
from basilica.core.map.site import Site


class FollowPages(Command, frozen=True, tag="follow-pages"):
    """The entries of a menu are made from the pages, in place of those that are written. ``words`` are those of `auto`:
    ``levels``, ``except`` (references with spaces between them), ``order``, ``first``, ``by``."""

    menu: str
    words: AutoWords

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        known = [word.name for word in AUTO]
        stray = next((word for word in self.words if word not in known), None)
        if stray is not None:
            raise EditRejected(f"`{stray}` is not a word of `auto`. Nothing was changed.")
        said: dict[str, MapData] = {
            word: " ".join(value.split()) for word, value in self.words.items() if value.strip()
        }
        if "except" in said:
            said["except"] = said["except"].split() if " " in said["except"] else said["except"]
        entries: MapData = {"auto": said} if said else "auto"
        work.removes(("menus", self.menu, "entries"))
        data = work.data()
        work.text.open_menu(self.menu)
        menu_in(data, self.menu)["entries"] = entries
        if work.text.has_menu(self.menu):
            with work.text.comments_kept(self.menu, (0,)):
                work.text.set_menu(self.menu, "entries", written(entries))
        else:
            work.text.set_under(None, ("menus", self.menu), "entries", written(entries))
        work.take_data(data)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"The menu {self.menu} follows the pages"
