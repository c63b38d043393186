"""What a change reaches, worked out from the two sites without rendering a page."""

from __future__ import annotations

from collections.abc import Hashable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.slots import Slot
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Contents
from basilica.core.plan.ended_addresses import ended_addresses

_FRAME = ("header", "main", "footer")
PARTS = ("head", "header", "menu", "breadcrumbs", "body", "footer")
"""The parts of a page's file, in their order. The data of the breadcrumbs counts with these."""


class SiteVersion:
    """One state of a site, ready to be held against another."""

    def __init__(self, plan: Plan, contents: Contents) -> None:
        self.plan = plan
        self.contents = contents
        self.renderer = Renderer(plan, contents)

    @cached_property
    def with_drafts(self) -> Renderer:
        """What renders its drafts as well."""
        return Renderer(self.plan, self.contents, drafts=True)

    @cached_property
    def pages(self) -> dict[str, str]:
        """The key of the page in each file."""
        return {self.plan.routes[key].file: key for key in self.renderer.pages}

    @cached_property
    def generated(self) -> dict[str, bytes]:
        """The files beside the pages."""
        made = {name: self.renderer.generated_file(name) for name in self.renderer.generated}
        return made | {file.path: file.data for file in self.renderer.public_files()}

    def head(self, key: str) -> Any:
        """What the head of a page is made of."""
        site, page = self.plan.site, self.plan.site.pages[key]
        own = (
            site.language,
            self.plan.head_title(key, page.title),
            page.description,
            self.plan.addresses.canonical(key),
            key in self.plan.drafts or page.options.extra.noindex,
        )
        extra = page.options.extra
        around = (self.plan.header_of(key).name, extra.css_class, extra.js)  # what is said of the whole page
        return own, around, extra.css, self.renderer.extra(key), self.renderer.frame(key)["links"].text({})

    def breadcrumbs(self, key: str) -> Any:
        """What the breadcrumbs of a page, and their data, are made of."""
        trail = self.plan.breadcrumbs(key)
        canonical = [self.plan.addresses.canonical(level.page) if level.page else None for level in trail]
        site = self.plan.site
        itself = site.pages[key].label if trail and trail[-1].page == key else ""
        look = site.crumbs.shorten and len(trail) > site.crumbs.shorten and (site.crumbs.shorten, site.phrases["more"])
        return trail and (self.renderer.trails.crumbs(key, trail), itself, canonical, look, site.phrases["breadcrumb"])

    def body(self, key: str) -> Any:
        """What the main part of a page is made of."""
        body, page = self.renderer.body(key), self.plan.site.pages[key]
        kept = {**self.marks(key), **self.renderer.values(key, page.title), **self.renderer.own_slots(key)}
        layout = self.renderer.frame(key)["layout"].text(kept)
        return body.html, "" if body.has_title else page.title, self.renderer.page_end(key), layout

    def filled(self, key: str, part: str) -> dict[Slot, str]:
        """What fills the slots of a shared part on a page."""
        kept = {**self.renderer.values(key, self.plan.site.pages[key].title), **self.renderer.own_slots(key)}
        return self.renderer.frame(key)[part].slots({**self.marks(key), **kept})

    def marks(self, key: str) -> dict[Slot, str]:
        """The marks of a page in its menus."""
        return self.renderer.mark_texts(key)


@dataclass(frozen=True, slots=True)
class Moved:
    """A page at another address, or under another key."""

    old: str
    new: str
    label: str
    old_path: str
    new_path: str


@dataclass(frozen=True, slots=True)
class Retitled:
    """A page with another title or label."""

    key: str
    old: str
    new: str


@dataclass(frozen=True, slots=True)
class Impact:
    """What differs between two states. Pages are named by key; ``files`` has, for every page file that is in both
    and differs, the parts that do; ``lists`` are the generated files that come, go or differ."""

    added: tuple[str, ...]
    gone: tuple[str, ...]
    moved: tuple[Moved, ...]
    retitled: tuple[Retitled, ...]
    menus: tuple[str, ...]
    new_files: tuple[str, ...]
    gone_files: tuple[str, ...]
    files: Mapping[str, tuple[str, ...]]
    lists: tuple[str, ...]
    ended: tuple[str, ...]
    """Addresses that led to a page, and lead nowhere now."""
    pages: int
    """How many page files the newer state has."""

    @property
    def nothing(self) -> bool:
        """Whether a build would write the same files."""
        return not (self.new_files or self.gone_files or self.files or self.lists)

    def touched(self, part: str) -> int:
        """In how many files a part differs."""
        return sum(part in parts for parts in self.files.values())


def impact_of(old: SiteVersion, new: SiteVersion) -> Impact:
    """What changes from one state of a site to another."""
    keys = _followed(old.plan, new.plan)
    before, after = old.plan.site.pages, new.plan.site.pages
    moved = []
    now = {other: key for key, other in keys.items()}
    for key, other in ((now[other], other) for other in after if other in now):
        paths = old.plan.path_of(key), new.plan.path_of(other)
        if key != other or paths[0] != paths[1]:
            moved.append(Moved(key, other, after[other].label, *paths))
    retitled = [
        Retitled(other, *words)
        for key, other in keys.items()
        for words in ((before[key].title, after[other].title), (before[key].label, after[other].label))
        if words[0] != words[1]
    ]
    names = {**old.plan.menus, **new.plan.menus}
    lists = {**old.generated, **new.generated}
    return Impact(
        added=tuple(key for key in after if key not in now),
        gone=tuple(key for key in before if key not in keys),
        moved=tuple(moved),
        retitled=tuple(dict.fromkeys(retitled)),
        menus=tuple(name for name in names if _menu(old.plan, name, keys) != _menu(new.plan, name, None)),
        new_files=tuple(file for file in new.pages if file not in old.pages),
        gone_files=tuple(file for file in old.pages if file not in new.pages),
        files=dict(_files(old, new)),
        lists=tuple(name for name in lists if old.generated.get(name) != new.generated.get(name)),
        ended=tuple(each.address for each in ended_addresses(old.plan, new.plan, keys)),
        pages=len(new.pages),
    )


def in_words(found: Impact | None) -> str:
    """What a change reaches, in one line."""
    if found is None:
        return "One of the two has errors"
    files = len(found.new_files) + len(found.files) + len(found.gone_files)
    if not files and not found.lists:
        return "No file changes"
    words = [f"{files} of {max(found.pages, files)} page files change"]
    words += [f"{len(found.added)} new"] if found.added else []
    words += [f"{len(found.gone)} gone"] if found.gone else []
    words += [f"{len(found.moved)} moved"] if found.moved else []
    count = len(found.ended)
    words += [f"{count} address{' ends' if count == 1 else 'es end'}"] if count else []
    return ", ".join(words)


def _followed(old: Plan, new: Plan) -> dict[str, str]:
    """By key, the page of the newer state that a page of the older one is: the one of the same key; else the one that
    names its address as an old one of its own; else one that is alike in id and title, or in title alone."""
    found = {key: key for key in old.site.pages if key in new.site.pages}
    lost = [key for key in old.site.pages if key not in found]
    fresh = [key for key in new.site.pages if key not in old.site.pages]
    addresses = {each.path: each.key for each in (*new.redirects, *new.further) if each.key and not each.query}
    for key in lost:
        named = addresses.get(old.path_of(key))
        if named in fresh:
            found[key] = named
            fresh.remove(named)
    for alike in (lambda page: (page.id, page.title), lambda page: page.title):
        left: dict[Any, list[str]] = {}
        for key in fresh:
            left.setdefault(alike(new.site.pages[key]), []).append(key)
        for key in lost:
            same = left.get(alike(old.site.pages[key]), [])
            if key not in found and len(same) == 1 and same[0] in fresh:
                found[key] = same[0]
                fresh.remove(same[0])
    return found


def _menu(plan: Plan, name: str, keys: Mapping[str, str] | None) -> Any:
    """What a menu shows: labels, order, nesting, and the pages it leads to, by their key in the newer state."""
    menu = plan.menus.get(name)
    if menu is None:
        return []

    def key(page: str | None) -> str | None:
        return page if keys is None or page is None else keys.get(page, f"gone {page}")

    return [(e.kind, e.label, key(e.page), e.fragment, e.url, e.file, e.parent) for e in menu.entries]


def _files(old: SiteVersion, new: SiteVersion) -> Iterator[tuple[str, tuple[str, ...]]]:
    """Every page file that is in both states and differs, with the parts that do."""
    frames: dict[Hashable, set[str]] = {}
    for file, key in new.pages.items():
        was = old.pages.get(file)
        if was is None:
            continue
        frame, other = new.renderer.frame(key), old.renderer.frame(was)
        places = new.plan.addresses.place_of(key), old.plan.addresses.place_of(was)
        place = places, new.renderer.arranged(key), old.renderer.arranged(was)
        if place not in frames:
            frames[place] = {part for part in (*_FRAME, "utility") if not frame[part].same(other[part])}
        differ = frames[place]
        marks, marks_then = new.marks(key), old.marks(was)
        shown = {part: new.plan.shows(part, key) != old.plan.shows(part, was) for part in ("header", "footer")}
        parts = {
            "head": new.head(key) != old.head(was),
            "header": "header" in differ or shown["header"],
            "menu": shown["header"]
            or bool(differ & {"main", "utility"})
            or any(new.filled(key, part) != old.filled(was, part) for part in ("main", "utility"))
            or new.renderer.section_menus(key, marks) != old.renderer.section_menus(was, marks_then),
            "breadcrumbs": new.breadcrumbs(key) != old.breadcrumbs(was),
            "body": new.body(key) != old.body(was),
            "footer": "footer" in differ or shown["footer"] or new.filled(key, "footer") != old.filled(was, "footer"),
        }
        found = tuple(part for part in PARTS if parts[part])
        if found:
            yield file, found
