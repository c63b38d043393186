"""Rendering the static site. What pages share is rendered once, with slots for addresses and marks."""

from __future__ import annotations

import copy
from collections.abc import Callable, Iterator, Mapping
from functools import cached_property
from typing import Any

from markupsafe import Markup, escape

from basilica.core.map.map_files import PUBLIC, linked_file
from basilica.core.map.site.shared_values import PageExtras
from basilica.core.navigation.menus import PlannedEntry
from basilica.core.outputs.static_site.assets import assets_of, built_path, stamped
from basilica.core.outputs.static_site.breadcrumb_renderer import BreadcrumbRenderer
from basilica.core.outputs.static_site.generated_files import (
    ROBOTS,
    generated_file,
    navigation_files,
    sitemaps,
)
from basilica.core.outputs.static_site.head_tags import Heads
from basilica.core.outputs.static_site.page_end import PageEndRenderer
from basilica.core.outputs.static_site.page_shell import Frame, PageShells, Shape
from basilica.core.outputs.static_site.part_renderer import Pieces
from basilica.core.outputs.static_site.redirect_lists import REDIRECT_LISTS
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import (
    CANONICAL,
    CONTENT,
    DATA,
    EXTRA,
    HEAD_TITLE,
    CurrentMark,
    OwnContent,
    PathMark,
    RegionSlot,
    Slot,
)
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.plan import Mark, Plan
from basilica.core.plan.content_links import NOT_FOUND_KEY, Body, Content, Contents, Linker
from basilica.core.rules.finding import Finding, Findings
from basilica.core.shared.output_file import File

NOT_FOUND = "404.html"

_BREADCRUMBS, _SECTION_MENUS = RegionSlot("breadcrumbs"), RegionSlot("section-menus")
_LIST, _SEQUENCE = RegionSlot("list"), RegionSlot("sequence")

_RIGHT_TO_LEFT = frozenset(["ar", "arc", "ckb", "dv", "fa", "ha", "he", "khw", "ks", "ps", "sd", "ur", "uz", "yi"])


class Renderer:
    """Renders the files of one plan, one at a time, in any order."""

    def __init__(
        self,
        plan: Plan,
        contents: Contents,
        menus_alone: tuple[str, ...] = (),
        drafts: bool = False,
        stamps: bool = True,
        inlaid: frozenset[str] | None = None,
    ) -> None:
        """``menus_alone`` names the menus that ``menu`` will be asked for; ``drafts`` are built when asked for. Without
        ``stamps`` the style sheet and the script of the navigation have the same names whatever they hold. ``inlaid``
        names the regions that stand in pages of somebody else: these load no more than those need."""
        self._stamps, self._inlaid = stamps, inlaid
        self.pages = plan.builds(drafts)
        """Keys of the pages that are built, in map order."""
        self.plan = plan
        self.contents = {**plan.site.texts, **contents} if plan.site.texts else contents
        self._findings = Findings()
        self.trails, self.page_end_renderer = BreadcrumbRenderer(plan), PageEndRenderer(plan)
        self._section_menus = [menu for menu in plan.menus.values() if menu.place == "section" and menu.entries]
        language = plan.site.language.partition("-")[0].lower()
        self._shared: dict[str, Any] = {
            "site": plan.site,
            "phrases": plan.site.phrases,
            "direction": "rtl" if language in _RIGHT_TO_LEFT else "",
            "reach": plan.header.plain.until == "content",
            "sections": frozenset(key for key in plan.site.pages if key not in plan.routes),
            "loads": lambda name: name in self._navigation,
        }
        self.direction: str = self._shared["direction"]
        self.assets = assets_of(plan.site.files)
        """The files that pages load."""
        self._pieces = Pieces(plan, self.assets, environment(), self._shared)
        self._heads = Heads(plan, self.assets, self._shared, self.file_at)
        self._frames = PageShells(
            plan,
            self._pieces,
            self._shared,
            menus_alone,
            lambda: self.navigation_names,
            lambda: self._slots_of,
            self.file_at,
        )
        self._linker = Linker(plan, self._findings, self.file_at, self._part_on)

    def with_contents(self, contents: Contents) -> Renderer:
        """Renders the same plan with other content. What surrounds pages is not rendered again."""
        other = copy.copy(self)
        other.contents = {**self.plan.site.texts, **contents} if self.plan.site.texts else contents
        other.__dict__.pop("_slots_of", None)
        other._findings = Findings()
        other._linker = self._linker.reporting_to(other._findings, other.file_at, other._part_on)
        other._frames = self._frames.sharing(lambda: other._slots_of)
        return other

    # The files

    def files(self) -> Iterator[File]:
        """Every file of the build: the pages in map order, then what is generated."""
        for key in self.pages:
            yield File(self.plan.routes[key].file, self.page(key))
        for name in self.generated:
            yield File(name, self.generated_file(name))
        yield from self.assets.all()
        yield from self.public_files()

    def public_files(self) -> Iterator[File]:
        """The files that go out as they are, name and bytes."""
        files = self.plan.site.files
        for name in files.under(PUBLIC):
            yield File(name, files[f"{PUBLIC}/{name}"])

    def assets_files(self) -> Iterator[File]:
        """The files that pages load: those of the navigation, and those of the site."""
        for name in self.navigation_names:
            yield File(name, self.generated_file(name))
        yield from self.assets.all()

    @cached_property
    def asset_names(self) -> Mapping[str, bytes]:
        """The files that are there already, by where they lie in a build: those that pages load, and those that keep
        their names."""
        return {file.path: file.data for file in (*self.assets.all(), *self.public_files())}

    @property
    def count(self) -> int:
        """How many files ``files`` gives."""
        return len(self.pages) + len(self.generated) + self.assets.count + len(self.plan.site.files.under(PUBLIC))

    @cached_property
    def generated(self) -> tuple[str, ...]:
        """The files beside the pages."""
        redirects = self.plan.redirects
        lists = [*(sitemaps(self.plan) if self.plan.site.base else []), *(REDIRECT_LISTS if redirects else [])]
        robots = () if f"{PUBLIC}/{ROBOTS}" in self.plan.site.files else (ROBOTS,)
        return (NOT_FOUND, *robots, *lists, *self.navigation_names, *(each.file for each in redirects if each.file))

    @cached_property
    def _navigation(self) -> dict[str, bytes]:
        return navigation_files(self.plan, self.assets, self._inlaid)

    @cached_property
    def navigation_names(self) -> dict[str, str]:
        """The files of the navigation: by the name they have in a build, the name they are known by."""
        return {stamped(name, data) if self._stamps else name: name for name, data in self._navigation.items()}

    def findings(self) -> tuple[Finding, ...]:
        """What the content of the pages rendered so far has brought up."""
        return self._findings.done()

    def surround(self, key: str) -> tuple[str, str]:
        """What stands on a page before and after its own text."""
        before, _, after = self.page(key, Body("\0", True)).decode().partition("\0")
        return before, after

    def page(self, key: str, body: Body | None = None) -> bytes:
        """The complete HTML of one page, with its own text or with another ``body``."""
        page = self.plan.site.pages[key]
        body = body or self.body(key)
        return self._render(
            key,
            self.plan.marks(key),
            title=page.title,
            description=page.description,
            canonical=self.plan.addresses.canonical(key),
            noindex=key in self.plan.drafts or page.options.extra.noindex,
            breadcrumbs=self.breadcrumbs(key),
            data=self.breadcrumb_data(key),
            body=Markup(body.html),
            has_title=body.has_title,
            page_end=(self.page_list(key), self.sequence(key)),
        )

    def body(self, key: str, slot_name: str = "") -> Body:
        """The content of a page, or of a slot on it, as HTML, its links as they are written there."""
        content = self.contents.get(f"{key}.{slot_name}" if slot_name else key)
        return self._linker.body(content, key) if content else Body("", False)

    def page_end(self, key: str) -> Markup:
        """What stands below the content of a page: a list of pages, and the ones before and after."""
        both = ("list", self.page_list), ("sequence", self.sequence)
        return Markup("").join(part(key) for name, part in both if self.plan.shows(name, key))

    def page_list(self, key: str) -> Markup:
        """The pages under a page, or all of the site, as a list; nothing where none is wanted."""
        return self.page_end_renderer.page_list(key)

    def sequence(self, key: str) -> Markup:
        """Links to the page before and the one after; nothing where there is neither."""
        return self.page_end_renderer.sequence(key)

    def generated_file(self, name: str) -> bytes:
        """One of the files beside the pages."""
        if name == NOT_FOUND:
            own = self.not_found_content
            shown = environment().get_template("not-found.html").render(self._shared, home=self._frames.home(None))
            body = self._linker.body(own, None) if own is not None else Body(shown, False)
            return self._render(
                None,
                {},
                title=self.plan.site.phrases["not-found"],
                description=None,
                canonical=None,
                noindex=False,
                breadcrumbs="",
                data="",
                body=Markup(body.html),
                has_title=body.has_title,
                page_end=("", ""),
            )
        if name in self.navigation_names:
            return self._navigation[self.navigation_names[name]]
        return generated_file(self.plan, name, self._shared)

    @property
    def not_found_content(self) -> Content | None:
        """The text of the page for addresses that do not exist, where it has one of its own."""
        return self.contents.get(NOT_FOUND_KEY) if NOT_FOUND_KEY not in self.plan.site.pages else None

    # The parts

    def _render(self, key: str | None, marks: dict[str, Mark | None], **own: Any) -> bytes:
        texts = self.mark_texts(marks)
        extra = self.plan.site.pages[key].options.extra if key is not None else PageExtras()
        in_head = self.extra(key)
        shape = Shape(
            self.plan.header_of(key).name,
            bool(own["description"]),
            bool(own["canonical"]),
            own["noindex"],
            bool(own["data"]),
            bool(in_head),
            extra.css_class,
            extra.js,
        )
        heading = "" if own["has_title"] else Markup(f"<h1>{escape(own['title'])}</h1>\n")
        filled: dict[Slot, str] = {
            **texts,
            **self.values(key, own["title"]),
            **self.own_slots(key),
            HEAD_TITLE: self.plan.head_title(key, own["title"]),
            CANONICAL: own["canonical"] or "",
            DATA: own["data"],
            EXTRA: in_head,
            _BREADCRUMBS: own["breadcrumbs"],
            _SECTION_MENUS: self.section_menus(key, texts),
            _LIST: own["page_end"][0],
            _SEQUENCE: own["page_end"][1],
            CONTENT: Markup(heading) + own["body"],
        }
        return self._frames.whole(key, shape).text(filled).encode()

    def alone(self, name: str, key: str) -> bytes | None:
        """A part by itself, as it stands on a page; None where there is none of the name."""
        frame, texts = self.frame(key), self.mark_texts(self.plan.marks(key))
        kept = {**texts, **self.values(key, self.plan.site.pages[key].title), **self.own_slots(key)}
        given = {
            "header": lambda: self.header(key, kept),
            "breadcrumbs": lambda: self.breadcrumbs(key),
            "section-menus": lambda: self.section_menus(key, texts),
            "list": lambda: self.page_list(key),
            "sequence": lambda: self.sequence(key),
            "footer": lambda: frame["footer"].text(kept),
        }
        markup = given[name]() if name in given else self._part_on(name, key)
        if markup is None:
            return None
        in_landmark = Markup('<main id="content" tabindex="-1">\n{}</main>\n').format(markup)
        own = {
            "title": name,
            "description": None,
            "canonical": None,
            "noindex": True,
            "data": "",
            "extra": "",
            "own": PageExtras(),
            "links": frame["links"].text({}),
            "variant": self.plan.header_of(key).name,
            "body": markup if name in ("header", "footer") else in_landmark,
        }
        return environment().get_template("page.html").render(self._shared, **own).encode()

    def extra(self, key: str | None, file_at: Callable[[str, str | None], str | None] | None = None) -> Markup:
        """What the head of a page has beside what all have; ``file_at`` writes the addresses of its files otherwise."""
        return self._heads.extra(key, file_at)

    def values(self, key: str | None, title: str) -> dict[Slot, str]:
        """The values of a page that parts can say."""
        return self._heads.values(key, title)

    def own_slots(self, key: str | None) -> dict[Slot, str]:
        """What a page has itself for slots of its layout."""
        if key is None:
            return {}
        return {OwnContent(name): Markup(self.body(key, name).html) for name in self.own_slot_names(key)}

    def own_slot_names(self, key: str) -> tuple[str, ...]:
        """The slots of its layout for which a page has text of its own."""
        return self._slots_of.get(key, ())

    def header(self, key: str, texts: Mapping[Slot, str]) -> Markup:
        """The header of a page with all that stands in it; ``texts`` are its marks, values and own slots."""
        return self._frames.header(key, texts)

    @cached_property
    def _slots_of(self) -> Mapping[str, tuple[str, ...]]:
        """By page, the slots for which it has content of its own: `visit/hours.aside`."""
        found: dict[str, tuple[str, ...]] = {}
        for name in self.contents:
            key, dot, slot_name = name.partition(".")
            if dot:
                found[key] = (*found.get(key, ()), slot_name)
        return found

    def file_at(self, name: str, key: str | None) -> str | None:
        """The address of a file as it is written on a page; None where there is no such file."""
        found = linked_file(name, self.plan.site.files)
        return self.plan.addresses.to_file(built_path(found, self.plan.site.files), key) if found else None

    def _part_on(self, name: str, key: str | None) -> Markup | None:
        """A part as it stands in the text of a page; None where there is none of this name."""
        if name not in self.plan.site.parts and not name.startswith("menu-"):
            return None
        return self._filled(self._pieces.part(name, self.plan.assignment_of(key)), key)

    def part_text(self, name: str, key: str) -> Markup:
        """The text of a part alone, as page ``key`` has it, with nothing around it."""
        return self._filled(self._pieces.text_of(name, self.plan.assignment_of(key)), key)

    def _filled(self, piece: Markup, key: str | None) -> Markup:
        slotted = SlotTemplate(piece)
        marks = self.mark_texts(self.plan.marks(key)) if key is not None else {}
        title = self.plan.site.pages[key].title if key is not None else self.plan.site.phrases["not-found"]
        return slotted.text({**self._frames.addresses_at(key), **marks, **self.values(key, title)})

    def section_menus(self, key: str | None, texts: Mapping[Slot, str]) -> Markup:
        """The menus of the sections to which a page belongs, from the outside in, with marks."""
        if not self._section_menus or key is None or not self.plan.shows("section-menus", key):
            return Markup("")
        frame, site = self.frame(key), self.plan.site
        found = [menu for menu in self._section_menus if menu.visible_on(site, key)]
        found.sort(key=lambda menu: (menu.settings.section or "").count("/"))
        return Markup("".join(frame[f"section {menu.name}"].text(texts) for menu in found))

    @staticmethod
    def mark_texts(marks: dict[str, Mark | None]) -> dict[Slot, str]:
        """What fills the slots for the marks of one page."""
        texts: dict[Slot, str] = {}
        for name, mark in marks.items():
            if mark:
                for number in mark.entries:
                    texts[CurrentMark(name, number)] = Markup(f' aria-current="{mark.current}"')
                for number in mark.path:
                    texts[PathMark(name, number)] = Markup(" data-path")
        return texts

    def menu(self, name: str, key: str) -> Markup:
        """One menu alone, as page ``key`` sees it, with every entry in view."""
        return self.frame(key)[f"menu {name}"].text(self.mark_texts(self.plan.marks(key)))

    def entry_address(self, entry: PlannedEntry, key: str) -> str | None:
        """Where an entry of a menu leads within the site, as it is written on page ``key``."""
        return self._frames.entry_address(entry, key)

    def menu_list(self, name: str, key: str) -> Markup:
        """The list of that menu, without the landmark around it."""
        return self.frame(key)[f"list {name}"].text(self.mark_texts(self.plan.marks(key)))

    def parts(self, key: str) -> dict[str, str]:
        """Each part of a page by its name, as it stands in the built file; those that the page lacks are left out."""
        marks = self.mark_texts(self.plan.marks(key))
        frame = self.frame(key)
        head = self.page(key).decode().partition("<head>\n")[2].partition("</head>")[0]
        parts = {
            "Head": head,
            "Header": frame["header"].text({}),
            "Main menu": frame["main"].text(marks),
            "Row above": frame["utility"].text(marks),
            "Breadcrumbs": self.breadcrumbs(key),
            "Section menu": self.section_menus(key, marks),
            "List of pages": self.page_list(key).strip(),
            "Before and after": self.sequence(key).strip(),
            "Footer": frame["footer"].text(marks),
        }
        return {name: str(text) for name, text in parts.items() if text}

    def breadcrumbs(self, key: str) -> Markup:
        """The breadcrumbs alone, as page ``key`` has them; nothing on home."""
        return self.trails.breadcrumbs(key)

    def breadcrumb_data(self, key: str) -> Markup:
        """The breadcrumbs as schema.org data; nothing on home."""
        return self.trails.data(key)

    def arranged(self, key: str | None) -> Frame:
        """How a page is arranged: pages for which this is equal differ in values, marks and addresses alone."""
        return self._frames.arranged(key)

    def frame(self, key: str | None) -> dict[str, SlotTemplate]:
        """What surrounds a page, part by part, with its addresses as pages at the same place write them."""
        return self._frames.frame(key)
