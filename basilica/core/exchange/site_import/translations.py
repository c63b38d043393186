"""Which pages of a site that was read can be translations of others in its map: those that stand where a map puts them,
below a folder with the tag of their language."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from basilica.core.exchange.site_import.found_menus import FoundEntry, all_entries
from basilica.core.exchange.site_import.imported_site import FoundMenu, ImportedPage, ImportedSite
from basilica.core.map.languages import TAG
from basilica.core.shared.locales import primary


@dataclass(frozen=True)
class TranslatedSite:
    """A site in one more language: its ``tag``, which is the name of the folder that it lies in; what was found of it;
    its pages, by the file of the page that each is a translation of; and those that are there in this language
    ``alone``, by their own file, each after the page above it."""

    tag: str
    version: ImportedSite
    pages: Mapping[str, ImportedPage]
    alone: Mapping[str, ImportedPage]

    @property
    def all_pages(self) -> tuple[ImportedPage, ...]:
        """Every page that a map can say."""
        return (*self.pages.values(), *self.alone.values())

    def twin(self, site: ImportedSite, menu: FoundMenu) -> FoundMenu | None:
        """The menu that stands there in place of one of the first language."""
        if menu is site.main:
            return self.version.main
        above = self.pages.get(menu.of_page or "")
        key = menu.name, above.file if above is not None else None
        return next((one for one in self.version.menus if one.key == key), None)

    def word(self, entry: FoundEntry, there: Iterable[FoundEntry]) -> str:
        """What an entry is called in this language, out of the entries ``there``; empty where none stands for it, and
        where that is what the page is called in it."""
        target = entry.target
        page = self.pages.get(target.file or "") if target is not None else None
        for other in there:
            if target is None:
                own = {self.pages[file].file for file in led_from(entry) if file in self.pages}
                if other.target is None and own & led_from(other):
                    return other.label
            elif other.target is not None:
                here = page is not None and other.target.file == page.file
                if page is not None and here and other.target.fragment == target.fragment:
                    return "" if other.label == page.label and not target.fragment else other.label
                if target.outside and other.target.url == target.url:
                    return other.label if other.label != entry.label else ""
        return ""


def led_from(entry: FoundEntry) -> set[str]:
    """The files to which the entries below one lead."""
    return {one.target.file for one in all_entries(entry.items) if one.target is not None and one.target.file}


def folder_of(files: Iterable[str], language: str) -> str:
    """The folder with the tag of a language in which most of some files lie; empty for none."""
    count = Counter(file.partition("/")[0] for file in files if "/" in file)
    tags = [name for name, _ in count.most_common() if TAG.fullmatch(name) and primary(name) == language]
    return tags[0] if tags else ""


def translations_of(site: ImportedSite) -> tuple[TranslatedSite, ...]:
    """The other languages of a site, as far as a map can say them."""
    found = []
    for language, version in site.versions.items():
        partners = site.partners[language]
        tag = folder_of(partners.values(), language)
        pages = {
            file: version.pages[other]
            for file, other in partners.items()
            if tag and other.startswith(f"{tag}/") and file in site.pages
        }
        pages = {file: page for file, page in pages.items() if all(above in pages for above in _above(site, file))}
        if site.home in pages:
            found.append(TranslatedSite(tag, version, pages, _alone(version, tag, pages.values(), partners.values())))
    return tuple(found)


def _alone(
    version: ImportedSite, tag: str, translated: Iterable[ImportedPage], partners: Iterable[str]
) -> dict[str, ImportedPage]:
    """The pages of a language that are no translations, below those that are, or below each other."""
    above: set[str | None] = {None, *(page.file for page in translated)}
    others = set(partners)
    left = [page for file, page in version.pages.items() if file.startswith(f"{tag}/") and file not in others]
    found: dict[str, ImportedPage] = {}
    while more := {page.file: page for page in left if page.parent in above}:
        found |= more
        above = set(more)
    return found


def _above(site: ImportedSite, file: str) -> Iterator[str]:
    above = site.pages[file].parent
    while above is not None:
        yield above
        above = site.pages[above].parent
