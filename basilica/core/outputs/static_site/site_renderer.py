"""Rendering the static site. What pages share is rendered once, with slots for addresses and marks."""

from __future__ import annotations

import copy
from collections.abc import Iterator, Mapping
from dataclasses import replace
from functools import cached_property
from typing import Any

from markupsafe import Markup, escape

from basilica.core.content.assets import assets_of, built_path, stamped
from basilica.core.map.languages import contents_in
from basilica.core.map.map_files import PUBLIC, linked_file
from basilica.core.map.site.shared_values import PageExtras
from basilica.core.navigation.menus import PlannedEntry
from basilica.core.outputs.static_site.breadcrumb_renderer import BreadcrumbRenderer
from basilica.core.outputs.static_site.generated_files import (
    CONTENT_STYLE,
    OWN_STYLE,
    ROBOTS,
    generated_file,
    navigation_files,
    preloaded,
    sitemaps,
)
from basilica.core.outputs.static_site.head_tags import Heads
from basilica.core.outputs.static_site.language_links import switch
from basilica.core.outputs.static_site.made_files import MadeFiles
from basilica.core.outputs.static_site.page_end import PageEndRenderer
from basilica.core.outputs.static_site.page_shell import Frame, PageShells, Shape
from basilica.core.outputs.static_site.part_renderer import Pieces
from basilica.core.outputs.static_site.redirect_lists import REDIRECT_LISTS
from basilica.core.outputs.static_site.site_data import site_data
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import (
    CANONICAL,
    CONTENT,
    DATA,
    EXTRA,
    HEAD_TITLE,
    LANGUAGES,
    CurrentMark,
    HomeAddress,
    OwnContent,
    OwnMenu,
    PageAddress,
    PathMark,
    RegionSlot,
    Slot,
    room_for,
)
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.outputs.static_site.template_renderer import OwnMarkup
from basilica.core.plan import Mark, Plan, Redirect, every_redirect
from basilica.core.plan.content_links import NOT_FOUND_KEY, Body, Content, Contents, Linker, as_html
from basilica.core.plan.layout_assignment import part_html
from basilica.core.rules.finding import Finding, Findings
from basilica.core.rules.place import Place
from basilica.core.shared.enhanced_markup import has_special
from basilica.core.shared.locales import is_right_to_left
from basilica.core.shared.output_file import File

NOT_FOUND = "404.html"

_BREADCRUMBS, _SECTION_MENUS = RegionSlot("breadcrumbs"), RegionSlot("section-menus")
_LIST, _SEQUENCE = RegionSlot("list"), RegionSlot("sequence")


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
        ``stamps`` the style sheet and the script of the navigation have the same names whatever they hold, with the
        tag of their language in them where that is not the first. ``inlaid`` names the regions that stand in pages of
        somebody else: these load no more than those need."""
        self._stamps, self._inlaid, self._with_drafts, self._menus_alone = stamps, inlaid, drafts, menus_alone
        self.pages = plan.builds(drafts)
        """Keys of the pages that are built, in map order."""
        self.plan = plan
        self.all_contents = contents
        self.contents = self._own(contents)
        self._findings = Findings()
        self.trails, self.page_end_renderer = BreadcrumbRenderer(plan), PageEndRenderer(plan)
        self._section_menus = [menu for menu in plan.menus.values() if menu.place == "section" and menu.entries]
        self._shared: dict[str, Any] = {
            "site": plan.site,
            "phrases": plan.site.phrases,
            "direction": "rtl" if is_right_to_left(plan.site.language) else "",
            "reach": plan.header.plain.until == "content",
            "sections": frozenset(key for key in plan.site.pages if key not in plan.routes),
            "loads": lambda name: name in self._navigation,
            "preload": preloaded(plan) if inlaid is None else "",
        }
        self.direction: str = self._shared["direction"]
        self.own = OwnMarkup(plan, self.direction)
        """What own templates write."""
        self._shared |= {"own_menus": self.own.has("menu"), "own_menu": self.own.room}
        self._own_menus: tuple[str, dict[Slot, str], dict[tuple[OwnMenu, Mark | None], Markup]] = ("\0", {}, {})
        self.assets = assets_of(plan.site.files)
        """The files that pages load."""
        self.made = MadeFiles(plan, self.assets)
        """What is made of other files: pictures of the icon, the feed, and the like."""
        self._shared["makes"] = lambda name: name in self.made
        self._pieces = Pieces(plan, self.assets, environment(), self._shared)
        self._heads = Heads(plan, self.made, self._shared, self.file_at)
        self._frames = PageShells(
            plan,
            self._pieces,
            self._shared,
            menus_alone,
            lambda: {**self.navigation_names, **{name: name for name in self.made.names}},
            lambda: self._slots_of,
            self.file_at,
            self.own,
        )
        self._linker = Linker(plan, self._findings, self.file_at, self._part_on, self.assets.picture)

    @cached_property
    def in_other_languages(self) -> tuple[Renderer, ...]:
        """What renders the pages of the site in its other languages, in their order."""
        plan = self.plan
        found = []
        for tag, other in plan.languages.items():
            if tag != plan.site.language:
                own = plan.site.head  # previews count no visits, and kits fetch nothing ahead
                head = replace(other.site.head, counter=own.counter, prefetch=own.prefetch and other.site.head.prefetch)
                there = replace(other, site=replace(other.site, head=head))
                alone = tuple(other.menus) if self._menus_alone else ()
                drafts = self._with_drafts and other.site.is_first
                found.append(Renderer(there, self.all_contents, alone, drafts, self._stamps, self._inlaid))
        return tuple(found)

    def with_contents(self, contents: Contents) -> Renderer:
        """Renders the same plan with other content. What surrounds pages is not rendered again."""
        other = copy.copy(self)
        other.all_contents, other.contents = contents, self._own(contents)
        other.__dict__.pop("_slots_of", None)
        other.__dict__.pop("in_other_languages", None)
        other.__dict__.pop("_further", None)
        other._findings = Findings()
        other._linker = self._linker.reporting_to(other._findings, other.file_at, other._part_on)
        other._frames = self._frames.sharing(lambda: other._slots_of)
        return other

    def _own(self, contents: Contents) -> Contents:
        """The texts of the pages in their language, with those that tables make."""
        site = self.plan.site
        return {**site.texts, **contents_in(contents, site.language, site.languages)}

    # The files

    def files(self) -> Iterator[File]:
        """Every file of the build: the pages in map order, then what is generated; then the pages in other languages,
        with what they load."""
        there = set()
        for renderer in (self, *(self.in_other_languages if self.plan.site.is_first else ())):
            for file in renderer._own_files():
                if file.path not in there:
                    there.add(file.path)
                    yield file

    def _own_files(self) -> Iterator[File]:
        for key in self.pages:
            yield File(self.plan.routes[key].file, self.page(key))
        for name in self.generated:
            yield File(name, self.generated_file(name))
        yield from self.assets.all()
        yield from self.public_files()

    def public_files(self) -> Iterator[File]:
        """The files that go out as they are, name and bytes."""
        files = self.plan.site.files
        for name in files.public:
            yield File(name, files[f"{PUBLIC}/{name}"])

    def assets_files(self) -> Iterator[File]:
        """The files that pages load: those of the navigation, what is made of others, and those of the site."""
        for name in (*self.navigation_names, *self.made.names):
            yield File(name, self.generated_file(name))
        yield from self.assets.all()

    @cached_property
    def asset_names(self) -> Mapping[str, bytes]:
        """The files that are there already, by where they lie in a build: those that pages load, and those that keep
        their names."""
        return {file.path: file.data for file in (*self.assets.all(), *self.public_files())}

    @property
    def count(self) -> int:
        """How many files ``files`` gives; of a site in several languages some less."""
        others = self.in_other_languages if self.plan.site.is_first else ()
        return self._own_count + sum(
            len(other.pages) + 1 + len(other.plan.redirects) + len(other.plan.further) for other in others
        )

    @property
    def _own_count(self) -> int:
        return len(self.pages) + len(self.generated) + self.assets.count + len(self.plan.site.files.public)

    @cached_property
    def generated(self) -> tuple[str, ...]:
        """The files beside the pages."""
        beside = (*(each.file for each in self.plan.redirects if each.file), *self._further)
        if not self.plan.site.is_first:
            return (self.not_found, *self.navigation_names, *beside)  # the rest is that of the first language
        redirects = every_redirect(self.plan)
        lists = [*(sitemaps(self.plan) if self.plan.site.base else []), *(REDIRECT_LISTS if redirects else [])]
        robots = () if f"{PUBLIC}/{ROBOTS}" in self.plan.site.files else (ROBOTS,)
        return (self.not_found, *robots, *lists, *self.navigation_names, *self.made.names, *beside)

    @cached_property
    def _further(self) -> Mapping[str, tuple[str, Renderer]]:
        """By the file of a further address: the key of the page that is there too, and what renders it for there. Where
        links are relative, the first address of each page has one renderer, the second ones another, and so on."""
        found: dict[str, tuple[str, Renderer]] = {}
        for further in _rounds(self.plan):
            renderer = self
            if self.plan.addresses.varies:
                there = self.plan.seen_at({key: each.route for key, each in further.items()})
                alone, drafts = self._menus_alone, self._with_drafts
                renderer = Renderer(there, self.all_contents, alone, drafts, self._stamps, self._inlaid)
            found |= {each.file: (key, renderer) for key, each in further.items()}
        return found

    @property
    def not_found(self) -> str:
        """The file of the page for addresses that do not exist."""
        site = self.plan.site
        return NOT_FOUND if site.is_first else f"{site.prefix[1:]}/{NOT_FOUND}"

    @cached_property
    def _navigation(self) -> dict[str, bytes]:
        return navigation_files(self.plan, self.assets, self._inlaid, self._stamps)

    @cached_property
    def navigation_names(self) -> dict[str, str]:
        """The files of the navigation: by the name they have in a build, the name they are known by."""
        return {self._built_name(name, data): name for name, data in self._navigation.items()}

    def _built_name(self, name: str, data: bytes) -> str:
        if self._stamps:
            return stamped(name, data)
        site = self.plan.site
        if site.is_first or name == OWN_STYLE:
            return name
        stem, dot, ending = name.rpartition(".")
        return f"{stem}.{site.language}{dot}{ending}"  # it follows the widths of words, and says some

    def findings(self) -> tuple[Finding, ...]:
        """What the content of the pages rendered so far has brought up, and what own templates have."""
        found = Findings()
        found.extend(self._findings.done())
        for (file, line, message), (rule, remedy) in self.own.problems.items():
            found.add(rule, Place(line, 1), message, remedy, file)
        return found.done()

    def surround(self, key: str) -> tuple[str, str]:
        """What stands on a page before and after its own text."""
        before, _, after = self.page(key, Body("\0", True)).decode().partition("\0")
        return before, after

    def ends(self, key: str | None) -> tuple[str, str]:
        """What stands on a page before and after what its layout places."""
        whole = self._not_found_page(True) if key is None else self.page(key, Body("", True), without_layout=True)
        before, _, after = whole.decode().partition("\1")
        return before, after

    def page(self, key: str, body: Body | None = None, without_layout: bool = False) -> bytes:
        """The complete HTML of one page, with its own text or with another ``body``."""
        page = self.plan.site.pages[key]
        body = body or self.body(key)
        return self._render(
            key,
            title=page.title,
            description=page.description,
            canonical=self.plan.addresses.canonical(key),
            noindex=key in self.plan.drafts or page.options.extra.noindex,
            breadcrumbs=self.breadcrumbs(key),
            data=self.breadcrumb_data(key) if key != self.plan.site.home else self.site_data,
            body=Markup(body.html),
            has_title=body.has_title,
            page_end=(self.page_list(key), self.sequence(key)),
            without_layout=without_layout,
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
        if name == self.not_found:
            return self._not_found_page()
        if name in self._further:
            key, renderer = self._further[name]
            return renderer.page(key)
        if name in self.made:
            return self.made.data(name)
        if name in self.navigation_names:
            return self._navigation[self.navigation_names[name]]
        return generated_file(self.plan, name, self._shared)

    def _not_found_page(self, without_layout: bool = False) -> bytes:
        body = self.not_found_body()
        return self._render(
            None,
            title=self.plan.site.phrases["not-found"],
            description=None,
            canonical=None,
            noindex=False,
            breadcrumbs="",
            data="",
            body=Markup(body.html),
            has_title=body.has_title,
            page_end=("", ""),
            without_layout=without_layout,
        )

    def not_found_body(self) -> Body:
        """The content of the page for addresses that do not exist, as HTML."""
        own = self.not_found_content
        if own is not None:
            return self._linker.body(own, None)
        shown = environment().get_template("not-found.html").render(self._shared, home=self._frames.home(None))
        return Body(shown, False)

    @property
    def not_found_content(self) -> Content | None:
        """The text of the page for addresses that do not exist, where it has one of its own."""
        return self.contents.get(NOT_FOUND_KEY) if NOT_FOUND_KEY not in self.plan.site.pages else None

    # The parts

    def _render(self, key: str | None, without_layout: bool = False, **own: Any) -> bytes:
        texts = self.mark_texts(key)
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
        if without_layout:
            return self._frames.without_layout(key, shape).text({**filled, RegionSlot("body"): Markup("\1")}).encode()
        return self._frames.whole(key, shape).text(filled).encode()

    def alone(self, name: str, key: str) -> bytes | None:
        """A part by itself, as it stands on a page; None where there is none of the name."""
        frame, texts = self.frame(key), self.mark_texts(key)
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

    def extra(self, key: str | None) -> Markup:
        """What the head of a page has beside what all have."""
        return self._content_style(key) + self._heads.extra(key)

    def _content_style(self, key: str | None) -> Markup:
        """The link to the style of what some texts have, on pages that have it."""
        if CONTENT_STYLE not in self._navigation or not (self._parts_are_special or self._is_special(key)):
            return Markup("")
        name = next(name for name, known in self.navigation_names.items() if known == CONTENT_STYLE)
        address = self.plan.addresses.to_file(name, key)
        return Markup('  <link rel="stylesheet" href="{}">\n').format(address)

    def _is_special(self, key: str | None) -> bool:
        if key is None:
            texts = [self.not_found_content]
        else:
            texts = [self.contents.get(name) for name in (key, *(f"{key}.{slot}" for slot in self.own_slot_names(key)))]
        return any(has_special(as_html(text).html) for text in texts if text)

    @cached_property
    def _parts_are_special(self) -> bool:
        return any(has_special(part_html(part)) for part in self.plan.site.parts.values())

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
        marks = self.mark_texts(key)
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

    def mark_texts(self, key: str | None) -> dict[Slot, str]:
        """What fills the slots for the marks of one page, and those for menus that an own template writes."""
        marks = self.plan.marks(key) if key is not None else {}
        texts: dict[Slot, str] = {}
        for name, mark in marks.items():
            if mark:
                for number in mark.entries:
                    texts[CurrentMark(name, number)] = Markup(f' aria-current="{mark.current}"')
                for number in mark.path:
                    texts[PathMark(name, number)] = Markup(" data-path")
        if self.plan.languages:
            texts[LANGUAGES] = self.language_switch(key)
        return texts | self._with_own_menus(key, marks) if self.own.has("menu") else texts

    def _with_own_menus(self, key: str | None, marks: Mapping[str, Mark | None]) -> dict[Slot, str]:
        """The menus of a page as their template writes them: once for each mark, at each place."""
        self._frames.frame(key)  # it says for which there is room
        place = self.plan.addresses.place_of(key) if key is not None else ""
        known = self._own_menus  # other threads may put another place's there
        if known[0] != place:
            known = self._own_menus = (place, self._frames.addresses_at(key), {})
        _, addresses, menus = known
        texts: dict[Slot, str] = {}
        for asked in tuple(self.own.asked):
            which = asked, marks.get(asked.menu)
            if which not in menus:
                menu = self.own.menu(self.plan.menus[asked.menu], asked.place, which[1])
                menus[which] = Markup(menu.fill(addresses).written(room_for, str))
            texts[asked] = menus[which]
        return texts

    def language_switch(self, key: str | None) -> Markup:
        """The links from a page to its translations."""
        return switch(self.plan, self._shared, key)

    def menu(self, name: str, key: str) -> Markup:
        """One menu alone, as page ``key`` sees it, with every entry in view."""
        return self.frame(key)[f"menu {name}"].text(self.mark_texts(key))

    def entry_address(self, entry: PlannedEntry, key: str) -> str | None:
        """Where an entry of a menu leads within the site, as it is written on page ``key``."""
        return self._frames.entry_address(entry, key)

    def menu_list(self, name: str, key: str) -> Markup:
        """The list of that menu, without the landmark around it."""
        return self.frame(key)[f"list {name}"].text(self.mark_texts(key))

    def parts(self, key: str) -> dict[str, str]:
        """Each part of a page by its name, as it stands in the built file; those that the page lacks are left out."""
        marks = self.mark_texts(key)
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
            "Previous and next": self.sequence(key).strip(),
            "Footer": frame["footer"].text(marks),
        }
        return {name: str(text) for name, text in parts.items() if text}

    def breadcrumbs(self, key: str) -> Markup:
        """The breadcrumbs alone, as page ``key`` has them; nothing on home."""
        if not self.own.has("breadcrumbs"):
            return self.trails.breadcrumbs(key)
        trail, write = self.plan.breadcrumbs(key), self.plan.addresses.to_page
        if not trail:
            return Markup("")
        leading = [level.page for level in trail if level.page is not None and level.page in self.plan.routes]
        addresses: dict[Slot, str] = {PageAddress(page): write(page, key) for page in leading}
        return self.own.breadcrumbs(key, trail).text({HomeAddress(): self._frames.home(key), **addresses})

    @cached_property
    def site_data(self) -> Markup:
        """What the home page tells search engines, as schema.org data; empty where the map asks for none."""
        return site_data(self.plan, self.assets)

    def breadcrumb_data(self, key: str) -> Markup:
        """The breadcrumbs as schema.org data; nothing on home."""
        return self.trails.data(key)

    def arranged(self, key: str | None) -> Frame:
        """How a page is arranged: pages for which this is equal differ in values, marks and addresses alone."""
        return self._frames.arranged(key)

    def frame(self, key: str | None) -> dict[str, SlotTemplate]:
        """What surrounds a page, part by part, with its addresses as pages at the same place write them."""
        return self._frames.frame(key)


def _rounds(plan: Plan) -> list[dict[str, Redirect]]:
    """The further addresses that have files, by the keys of their pages: the first one of each page,
    then the second ones, and so on."""
    rounds: list[dict[str, Redirect]] = []
    for further in plan.further:
        if further.key is not None and further.file:
            there = next((each for each in rounds if further.key not in each), None)
            if there is None:
                rounds.append(there := {})
            there[further.key] = further
    return rounds
