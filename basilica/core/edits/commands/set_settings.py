"""Settings of the site, of a page or of a menu are set, by the path of keys under which the map has them."""

from __future__ import annotations

from msgspec import Struct

from basilica.core.edits.command import Command, EditInProgress, EditRejected, label_of
from basilica.core.edits.fields import PageKey
from basilica.core.edits.map_data import MapData, menu_in, page_in, set_in, value_in, written
from basilica.core.language.sections import MAP, default_of
from basilica.core.language.sections.part_words import IDENTITY
from basilica.core.language.sections.site_words import SITE
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Site

SettingValue = str | tuple[str, ...]
ROOTS = tuple(word.name for word in MAP if word.name != "pages")


class Setting(Struct, frozen=True):
    """What stands under a path of keys, such as ``("site", "name")``: a text, or several. An empty one takes the key
    out."""

    path: tuple[str, ...]
    value: SettingValue

    @property
    def flow(self) -> str | None:
        """As it is written in the map; None where it is taken out."""
        if isinstance(self.value, str):
            plain = self.value.isdecimal() or self.value in ("yes", "no")
            return (self.value if plain else write_scalar(self.value)) if self.value else None
        return written(self.data) if self.value else None

    @property
    def data(self) -> MapData:
        """The same as data of a map. `group: Name` among several is a level of breadcrumbs that is a name alone."""
        if isinstance(self.value, str):
            return self.value or None
        several = [{"group": each[7:]} if each.startswith("group: ") else each for each in self.value]
        return (several[0] if len(several) == 1 and isinstance(several[0], str) else several) or None


class SetSettings(Command, frozen=True, tag="set-settings"):
    """Other values for settings: of the map, or (``key``) of a page."""

    settings: tuple[Setting, ...]
    key: PageKey | None = None

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        data = work.data()
        holder = page_in(data, self.key) if self.key is not None else data
        for setting in _with_identity(self.settings, data):
            names, word = setting.path[:-1], setting.path[-1]
            if self.key is None and setting.path[0] not in ROOTS:
                raise EditRejected(f"`{setting.path[0]}` is not a section of settings. Nothing was changed.")
            is_of_menu = names[:1] == ("menus",) and len(names) > 1
            if is_of_menu and (setting.data is not None or names[1] in (data.get("menus") or {})):
                menu_in(data, names[1])
                work.text.open_menu(names[1])
            set_in(holder, setting.path, setting.data)
            work.removes((*(("pages", self.key) if self.key is not None else ()), *setting.path))
            if is_of_menu and work.text.has_menu(names[1]):
                work.text.set_menu(names[1], word, setting.flow)
            elif isinstance(setting.value, str) and "\n" in setting.value:
                work.text.set_lines(self.key, names, word, setting.value)
            elif self.key is not None and not names:
                work.text.set_word(self.key, word, setting.flow)
            else:
                work.text.set_under(self.key, names, word, setting.flow)
            if setting.flow is None:
                work.text.prune_under(self.key, names)
        work.take_data(data)
        work.chosen = self.key

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        words = list(dict.fromkeys(setting.path[-1].replace("-", " ") for setting in self.settings))
        shown = ", ".join(words[:3]) + (f" and {len(words) - 3} more" if len(words) > 3 else "")
        of = f" of {label_of(before, self.key)}" if self.key is not None else ""
        verb = "Set" if any(setting.value for setting in self.settings) else "Removed"
        return f"{verb} {shown}{of}"


ADDRESS_STYLES = next(word.values for word in SITE if word.name == "urls")


def address_style(urls: str) -> SetSettings:
    """Another style of addresses for the whole site: `folders`, `files` or `bare`."""
    return SetSettings((Setting(("site", "urls"), "" if urls == default_of(SITE, "urls") else urls),))


def _with_identity(settings: tuple[Setting, ...], data: MapData) -> tuple[Setting, ...]:
    """The settings, and where they make the part with the site's name, what kind of part that is."""
    kind = ("parts", IDENTITY, "kind")
    is_new = value_in(data, kind[:-1]) is None and any(
        setting.path[:-1] == kind[:-1] and setting.data is not None for setting in settings
    )
    return (Setting(kind, IDENTITY), *settings) if is_new else settings
