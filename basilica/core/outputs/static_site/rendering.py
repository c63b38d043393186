"""Rendering the static site. What pages share is rendered once, with slots for addresses and marks."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property
from typing import Any

from markupsafe import Markup

from basilica.core.content import Body, Contents, Linker
from basilica.core.findings import Finding, Findings
from basilica.core.outputs import File
from basilica.core.outputs.static_site.assets import assets_of, stamped
from basilica.core.outputs.static_site.closings import Closings
from basilica.core.outputs.static_site.environment import environment
from basilica.core.outputs.static_site.generated import (
    OWN_STYLE,
    REDIRECTS,
    ROBOTS,
    SCRIPT,
    STYLE,
    generated_file,
    navigation_files,
    sitemaps,
)
from basilica.core.outputs.static_site.pieces import Pieces
from basilica.core.outputs.static_site.slots import Slotted, slot
from basilica.core.outputs.static_site.trails import Trails
from basilica.core.parts import layouts_of
from basilica.core.plan import Mark, MenuPlan, Plan
from basilica.core.plan.arranging import Arrangement
from basilica.core.site.part_words import IDENTITY
from basilica.core.site.shared import NOTHING_EXTRA, Social

NOT_FOUND = "404.html"

_RIGHT_TO_LEFT = frozenset(["ar", "arc", "ckb", "dv", "fa", "ha", "he", "khw", "ks", "ps", "sd", "ur", "uz", "yi"])

_Frame = tuple[Arrangement, tuple[str, ...]]
"""How a page is arranged, and the slots for which it has content of its own."""


class Renderer:
    """Renders the files of one plan, one at a time, in any order."""

    def __init__(
        self,
        plan: Plan,
        contents: Contents,
        menus_alone: tuple[str, ...] = (),
        drafts: bool = False,
        stamps: bool = True,
    ) -> None:
        """``menus_alone`` names the menus that ``menu`` will be asked for; ``drafts`` are built when asked for. Without
        ``stamps`` the style sheet and the script of the navigation have the same names whatever they hold."""
        self._stamps = stamps
        self._alone = menus_alone
        self.pages = plan.builds(drafts)
        """Keys of the pages that are built, in map order."""
        self.plan = plan
        self.contents = {**plan.site.texts, **contents} if plan.site.texts else contents
        self._findings = Findings()
        self._framed: dict[_Frame, tuple[str, dict[str, Slotted]]] = {}
        self._rendered: dict[_Frame, dict[str, Slotted]] = {}
        self._page = environment().get_template("page.html")
        self.trails, self.closings = Trails(plan), Closings(plan)
        self._section_menus = [menu for menu in plan.menus.values() if menu.place == "section" and menu.entries]
        language = plan.site.language.partition("-")[0].lower()
        self._shared: dict[str, Any] = {
            "site": plan.site,
            "words": plan.site.words,
            "direction": "rtl" if language in _RIGHT_TO_LEFT else "",
            "reach": plan.header.plain.until == "content",
            "sections": frozenset(key for key in plan.site.pages if key not in plan.routes),
        }
        self.direction: str = self._shared["direction"]
        self.assets = assets_of(plan.site.files)
        """The files that pages load."""
        self._pieces = Pieces(plan, self.assets, environment(), self._shared)
        self._linker = Linker(plan, self._findings, self.file_at, self._part_on)

    # The files

    def files(self) -> Iterator[File]:
        """Every file of the build: the pages in map order, then what is generated."""
        for key in self.pages:
            yield File(self.plan.routes[key].file, self.page(key))
        for name in self.generated:
            yield File(name, self.generated_file(name))
        yield from self.assets.all()

    def assets_files(self) -> Iterator[File]:
        """The files that pages load: those of the navigation, and those of the site."""
        for name in self.navigation_names:
            yield File(name, self.generated_file(name))
        yield from self.assets.all()

    @cached_property
    def asset_names(self) -> Mapping[str, bytes]:
        """The files of the site that pages load, by where they lie in a build."""
        return {file.path: file.data for file in self.assets.all()}

    @property
    def count(self) -> int:
        """How many files ``files`` gives."""
        return len(self.pages) + len(self.generated) + self.assets.count

    @cached_property
    def generated(self) -> tuple[str, ...]:
        """The files beside the pages."""
        redirects = self.plan.redirects
        lists = [*(sitemaps(self.plan) if self.plan.site.base else []), *([REDIRECTS] if redirects else [])]
        return (NOT_FOUND, ROBOTS, *lists, *self.navigation_names, *(route.file for route in redirects))

    @cached_property
    def _navigation(self) -> dict[str, bytes]:
        return navigation_files(self.plan, self.assets)

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
            draft=key in self.plan.drafts,
            breadcrumbs=self.breadcrumbs(key),
            data=self.breadcrumb_data(key),
            body=Markup(body.html),
            has_title=body.has_title,
            closing=(self.page_list(key), self.sequence(key)),
        )

    def body(self, key: str, slot_name: str = "") -> Body:
        """The content of a page, or of a slot on it, as HTML, its links as they are written there."""
        content = self.contents.get(f"{key}.{slot_name}" if slot_name else key)
        return self._linker.body(content, key) if content else Body("", False)

    def closing(self, key: str) -> Markup:
        """What stands below the content of a page: a list of pages, and the ones before and after."""
        both = ("list", self.page_list), ("sequence", self.sequence)
        return Markup("").join(part(key) for name, part in both if self.plan.stands(name, key))

    def page_list(self, key: str) -> Markup:
        """The pages under a page, or all of the site, as a list; nothing where none is wanted."""
        return self.closings.page_list(key)

    def sequence(self, key: str) -> Markup:
        """Links to the page before and the one after; nothing where there is neither."""
        return self.closings.sequence(key)

    def generated_file(self, name: str) -> bytes:
        """One of the files beside the pages."""
        if name == NOT_FOUND:
            body = environment().get_template("not-found.html").render(self._shared, home=self._home(None))
            return self._render(
                None,
                {},
                title=self.plan.site.words["not-found"],
                description=None,
                canonical=None,
                draft=False,
                breadcrumbs="",
                data="",
                body=Markup(body),
                has_title=False,
                closing=("", ""),
            )
        if name in self.navigation_names:
            return self._navigation[self.navigation_names[name]]
        return generated_file(self.plan, name, self._shared)

    # The parts

    def _render(self, key: str | None, marks: dict[str, Mark | None], **own: Any) -> bytes:
        frame, texts = self.frame(key), self.mark_texts(marks)
        arrangement = self.plan.arrangement_of(key)
        kept = {**texts, **self.values(key, own["title"]), **self.own_slots(key)}
        heading = "" if own["has_title"] else Markup("<h1>{}</h1>\n").format(own["title"])
        given = {
            "header": frame["header"].text({name: frame[name].text(kept) for name in ("main", "utility")}),
            "breadcrumbs": own["breadcrumbs"],
            "section-menus": self.section_menus(key, texts),
            "list": own["closing"][0],
            "sequence": own["closing"][1],
            "footer": frame["footer"].text(kept),
        }
        placed = {f"part {name}": text for name, text in given.items() if name not in arrangement.without}
        own["body"] = frame["layout"].text({**kept, **placed, "content": Markup(heading) + own["body"]})
        own["links"] = frame["links"].text({})
        own["variant"] = self.plan.header_of(key).name
        own["extra"] = self.extra(key)
        own["own"] = self.plan.site.pages[key].own.extra if key is not None else NOTHING_EXTRA
        return self._page.render(self._shared, **own).encode()

    def alone(self, name: str, key: str) -> bytes | None:
        """A part by itself, as it stands on a page; None where there is none of the name."""
        frame, texts = self.frame(key), self.mark_texts(self.plan.marks(key))
        kept = {**texts, **self.values(key, self.plan.site.pages[key].title), **self.own_slots(key)}
        given = {
            "header": lambda: frame["header"].text({part: frame[part].text(kept) for part in ("main", "utility")}),
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
            "draft": True,
            "data": "",
            "extra": "",
            "own": NOTHING_EXTRA,
            "links": frame["links"].text({}),
            "variant": self.plan.header_of(key).name,
            "body": markup if name in ("header", "footer") else in_landmark,
        }
        return self._page.render(self._shared, **own).encode()

    def extra(self, key: str | None) -> Markup:
        """What the head of a page has beside what all have: words for search, what is shown where it is passed on, and
        style and scripts of its own."""
        site = self.plan.site
        page = site.pages[key] if key is not None else None
        extra, everyone = page.own.extra if page else NOTHING_EXTRA, site.head.social
        if page is None or key is None or (extra is NOTHING_EXTRA and everyone == Social()):
            return Markup("")
        social = None
        if extra.social is not None or everyone != Social():
            own = extra.social or Social()
            picture = own.picture or everyone.picture
            social = Social(
                own.title or everyone.title or page.title,
                own.description or everyone.description or page.description or "",
                (self.plan.addresses.full(self.assets.path(picture)) or "") if picture else "",
            )
        written = self._shared | {
            "extra": extra,
            "social": social,
            "canonical": self.plan.addresses.canonical(key),
            "styles": [self.file_at(name, key) for name in extra.styles],
            "scripts": [self.file_at(name, key) for name in extra.scripts],
        }
        return Markup(environment().get_template("extra.html").render(written))

    def values(self, key: str | None, title: str) -> dict[str, str]:
        """The values of a page that parts can say."""
        site = self.plan.site
        page = site.pages[key] if key is not None else None
        top = key.partition("/")[0] if key is not None else None
        return {
            "page title": title,
            "page label": page.label if page else title,
            "page description": (page.description if page else None) or "",
            "page section": site.pages[top].label if top is not None else "",
            "page key": key or "",
            "page site": site.name,
        }

    def own_slots(self, key: str | None) -> dict[str, Markup]:
        """What a page has itself for slots of its layout."""
        names = self._slots_of.get(key, ()) if key is not None else ()
        return {f"own {name}": Markup(self.body(key, name).html) for name in names}  # type: ignore[arg-type]

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
        return self.plan.addresses.to_file(self.assets.path(name), key) if name in self.assets else None

    def _part_on(self, name: str, key: str) -> Markup | None:
        """A part as it stands in the text of a page; None where there is none of this name."""
        if name not in self.plan.site.parts and not name.startswith("menu-"):
            return None
        slotted = Slotted(self._pieces.part(name, self.plan.arrangement_of(key)))
        texts = {**self._addresses_at(key), **self.mark_texts(self.plan.marks(key))}
        return slotted.text({**texts, **self.values(key, self.plan.site.pages[key].title)})

    def section_menus(self, key: str | None, texts: dict[str, str]) -> Markup:
        """The menus of the sections to which a page belongs, from the outside in, with marks."""
        if not self._section_menus or key is None or not self.plan.stands("section-menus", key):
            return Markup("")
        frame, site = self.frame(key), self.plan.site
        found = [menu for menu in self._section_menus if menu.stands_on(site, key)]
        found.sort(key=lambda menu: (menu.settings.section or "").count("/"))
        return Markup("".join(frame[f"section {menu.name}"].text(texts) for menu in found))

    @staticmethod
    def mark_texts(marks: dict[str, Mark | None]) -> dict[str, str]:
        """What fills the slots for the marks of one page."""
        texts: dict[str, str] = {}
        for name, mark in marks.items():
            if mark:
                texts[f"mark {name} {mark.entry}"] = Markup(f' aria-current="{mark.current}"')
                for number in mark.path:
                    texts[f"path {name} {number}"] = Markup(" data-path")
        return texts

    def menu(self, name: str, key: str) -> Markup:
        """One menu alone, as page ``key`` sees it, with every entry in view."""
        return self.frame(key)[f"menu {name}"].text(self.mark_texts(self.plan.marks(key)))

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

    def arranged(self, key: str | None) -> _Frame:
        """How a page is arranged: pages for which this is equal differ in values, marks and addresses alone."""
        return self.plan.arrangement_of(key), self._slots_of.get(key, ()) if key is not None else ()

    def frame(self, key: str | None) -> dict[str, Slotted]:
        """What surrounds a page, part by part, with its addresses as pages at the same place write them."""
        place = self.plan.addresses.place_of(key) if key is not None else ""
        which = self.arranged(key)
        framed = self._framed.get(which)  # other threads may put another place's there
        if framed is None or framed[0] != place:
            parts = self._parts(which)
            texts = self._addresses_at(key)
            framed = self._framed[which] = (place, {part: slotted.fill(texts) for part, slotted in parts.items()})
        return framed[1]

    def _addresses_at(self, key: str | None) -> dict[str, str]:
        """What fills the slots for addresses on a page."""
        write = self.plan.addresses
        names = {known: name for name, known in self.navigation_names.items()}
        texts = {
            "home": self._home(key),
            "style": write.to_file(names[STYLE], key),
            "script": write.to_file(names[SCRIPT], key),
            "own style": write.to_file(names.get(OWN_STYLE, OWN_STYLE), key),
        }
        for name, menu in self.plan.menus.items():
            for entry in menu.entries:
                if entry.page is not None and entry.page in self.plan.routes:
                    texts[f"to {name} {entry.number}"] = write.to_page(entry.page, key, entry.fragment)
        texts |= {name: write.to_page(page, key, anchor) for name, (page, anchor) in self._pieces.targets.items()}
        return texts | {name: self.file_at(file, key) or "" for name, file in self._pieces.files.items()}

    def _home(self, key: str | None) -> str:
        home = self.plan.site.home
        return self.plan.addresses.to_page(home, key) if home else "#content"

    def _parts(self, which: _Frame) -> dict[str, Slotted]:
        """What surrounds the pages of one arrangement, rendered once."""
        if which not in self._rendered:
            arrangement, owns = which

            def filled(name: str) -> Markup:
                own = slot(f"own {name}") if name in owns else Markup("")
                return self._pieces.in_slot(name, arrangement) + own

            identity = self.plan.site.parts.get(IDENTITY) if IDENTITY not in arrangement.without else None
            picture = identity.value("picture") if identity else ""
            header = environment().get_template("header.html")
            footer = environment().get_template("footer.html")
            parts = {
                "header": header.render(
                    self._context,
                    shown=(identity.value("name") if identity else "") or self.plan.site.name,
                    picture=picture,
                    size=self.assets.size(picture) if picture else None,
                ),
                "utility": environment().get_template("utility.html").render(self._context, in_slot=filled("header")),
                "footer": footer.render(self._context, in_slot=filled("footer")),
                "layout": layouts_of(self.plan.site.files).render(
                    arrangement.layout,
                    lambda name: self._pieces.part(name, arrangement),
                    filled,
                    content=slot("content"),
                    reach=self._shared["reach"],
                    page={name: slot(f"page {name}") for name in ("title", "label", "section", "description", "key")},
                    site={"name": self.plan.site.name},
                ),
            }
            self._rendered[which] = {
                **self._everywhere,
                **{part: Slotted(rendered) for part, rendered in parts.items()},
            }
        return self._rendered[which]

    @cached_property
    def _context(self) -> dict[str, Any]:
        menus = self.plan.menus

        def at(place: str) -> list[MenuPlan]:
            return [menu for menu in menus.values() if menu.place == place and menu.entries]

        return {
            **self._shared,
            "tagline": self.plan.header.plain.tagline,
            "main": menus["main"],
            "utility_menus": at("utility"),
            "footer_menus": at("footer"),
            "head": self.plan.site.head,
            "file": self._pieces.file_slot,
        }

    @cached_property
    def _everywhere(self) -> dict[str, Slotted]:
        """The parts that are the same in every arrangement, rendered once."""
        env = environment()
        parts = {part: env.get_template(f"{part}.html").render(self._context) for part in ("main", "links")}
        section = env.get_template("section.html")
        parts |= {f"section {menu.name}": section.render(self._context, menu=menu) for menu in self._section_menus}
        alone = env.get_template("menu-alone.html")
        parts |= {
            f"menu {name}": alone.render(self._context, menu=menu)
            for name, menu in self.plan.menus.items()
            if name in self._alone
        }
        return {part: Slotted(rendered) for part, rendered in parts.items()}
