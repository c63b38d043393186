"""Rendering the static site. What pages share is rendered once, with slots for addresses and marks."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterator
from functools import cached_property, lru_cache
from typing import Any

from jinja2 import Environment, PackageLoader, StrictUndefined, select_autoescape
from markupsafe import Markup

from basilica.core import limits
from basilica.core.content import Body, Contents, Linker
from basilica.core.findings import Finding, Findings
from basilica.core.icons import shapes
from basilica.core.outputs import File
from basilica.core.outputs.static_site.slots import Slotted, slot
from basilica.core.outputs.static_site.style import style_and_script
from basilica.core.plan import Mark, MenuPlan, Plan, Route

NOT_FOUND, ROBOTS, SITEMAP = "404.html", "robots.txt", "sitemap.xml"
REDIRECTS = "redirects.csv"
STYLE, SCRIPT, OWN_STYLE = "assets/navigation.css", "assets/navigation.js", "assets/site.css"

_RIGHT_TO_LEFT = frozenset(["ar", "arc", "ckb", "dv", "fa", "ha", "he", "khw", "ks", "ps", "sd", "ur", "uz", "yi"])


@lru_cache(maxsize=1)
def environment() -> Environment:
    """The templates of the generated pages."""
    env = Environment(
        loader=PackageLoader("basilica.core.outputs.static_site"),
        autoescape=select_autoescape(("html", "xml")),
        trim_blocks=True,
        lstrip_blocks=True,
        keep_trailing_newline=True,
        undefined=StrictUndefined,
    )
    env.globals["slot"] = slot
    env.globals["icon"] = icon
    env.filters["css_string"] = css_string
    env.filters["naming"] = naming
    return env


def icon(name: str) -> Markup:
    """An icon of the set that ships, as it stands in a page: what it says stands beside it in words."""
    return Markup(
        '<svg class="b-icon" aria-hidden="true" focusable="false" width="20" height="20" viewBox="0 0 24 24"'
        ' fill="none" stroke="currentColor" stroke-width="2" stroke-linecap="round" stroke-linejoin="round">'
        f"{shapes()[name]}</svg>"
    )


def naming(phrase: str, label: str) -> str:
    """A phrase with a label in it."""
    return phrase.replace("{}", label)


def css_string(text: str) -> str:
    """Text as a CSS string: what could end it or the style sheet is escaped (CSS Syntax 3, 4.3.7)."""
    return '"' + "".join(c if c.isalnum() or c in " -_." else f"\\{ord(c):x} " for c in text) + '"'


Listed = tuple[str | None, str, list[Any]]
"""A page in a list below content: its address (None for a section), its label, and those under it."""


class Renderer:
    """Renders the files of one plan, one at a time, in any order."""

    def __init__(self, plan: Plan, contents: Contents, menus_alone: tuple[str, ...] = (), drafts: bool = False) -> None:
        """``menus_alone`` names the menus that ``menu`` will be asked for; ``drafts`` are built when asked for."""
        self._alone = menus_alone
        self.pages = plan.builds(drafts)
        """Keys of the pages that are built, in map order."""
        self.plan = plan
        self.contents = contents
        self._findings = Findings()
        self._linker = Linker(plan, self._findings)
        self._framed: tuple[str, dict[str, Slotted]] = ("", {})
        self._list_items: dict[tuple[int, str], str] = {}
        self._page = environment().get_template("page.html")
        self._crumbs = environment().get_template("breadcrumbs.html").module
        self._closing = environment().get_template("closing.html").module
        self._section_menus = [menu for menu in plan.menus.values() if menu.place == "section" and menu.entries]
        language = plan.site.language.partition("-")[0].lower()
        self._shared: dict[str, Any] = {
            "site": plan.site,
            "words": plan.site.words,
            "direction": "rtl" if language in _RIGHT_TO_LEFT else "",
            "reach": plan.header.plain.until == "content",
        }

    # The files

    def files(self) -> Iterator[File]:
        """Every file of the build: the pages in map order, then what is generated."""
        for key in self.pages:
            yield File(self.plan.routes[key].file, self.page(key))
        for name in self.generated:
            yield File(name, self.generated_file(name))

    @property
    def count(self) -> int:
        """How many files ``files`` gives."""
        return len(self.pages) + len(self.generated)

    @cached_property
    def generated(self) -> tuple[str, ...]:
        """The files beside the pages."""
        redirects = self.plan.redirects
        lists = [*([SITEMAP] if self.plan.site.base else []), *([REDIRECTS] if redirects else [])]
        own = [OWN_STYLE] if self.plan.site.looks.css else []
        return (NOT_FOUND, ROBOTS, *lists, STYLE, SCRIPT, *own, *(route.file for route in redirects))

    def findings(self) -> tuple[Finding, ...]:
        """What the content of the pages rendered so far has brought up."""
        return self._findings.done()

    def page(self, key: str) -> bytes:
        """The complete HTML of one page."""
        page = self.plan.site.pages[key]
        body = self.body(key)
        trail = self.plan.breadcrumbs(key)
        return self._render(
            key,
            self.plan.marks(key),
            title=page.title,
            description=page.description,
            canonical=self.plan.addresses.canonical(key),
            draft=key in self.plan.drafts,
            breadcrumbs=self._breadcrumbs(key, trail) if trail else "",
            data=self.breadcrumb_data(key),
            body=Markup(body.html),
            has_title=body.has_title,
            closing=self.closing(key),
        )

    def body(self, key: str) -> Body:
        """The content of a page as HTML, its links as they are written there."""
        content = self.contents.get(key)
        return self._linker.body(content, key) if content else Body("", False)

    def closing(self, key: str) -> Markup:
        """What stands below the content of a page: a list of pages, and the ones before and after."""
        return self.page_list(key) + self.sequence(key)

    def page_list(self, key: str) -> Markup:
        """The pages under a page, or all of the site, as a list; nothing where none is wanted."""
        site, words = self.plan.site, self.plan.site.words
        how = site.list_of(key)
        listed: list[Listed] = []
        label = ""
        if how == "under" and site.pages[key].children:
            listed, label = self._listed(key, key, 1), naming(words["under"], site.pages[key].label)
        elif how == "site":
            listed, label = self._listed(None, key, limits.LEVELS), words["all-pages"]
        return Markup(self._closing.page_list(listed, label)) if listed else Markup("")  # type: ignore[attr-defined]

    def sequence(self, key: str) -> Markup:
        """Links to the page before and the one after; nothing where there is neither."""
        around = [self._neighbour(other, key) for other in self.plan.neighbours(key)]
        if around == [None, None]:
            return Markup("")
        return Markup(self._closing.sequence(*around, self.plan.site.words))  # type: ignore[attr-defined]

    def _neighbour(self, other: str | None, key: str) -> tuple[str, str] | None:
        if other is None:
            return None
        return self.plan.addresses.to_page(other, key), self.plan.site.pages[other].label

    def _listed(self, parent: str | None, source: str, levels: int) -> list[Listed]:
        """The pages under a page, so many levels deep, as they are written on page ``source``: address (None for a
        section, which is no level of its own), label, and those under them."""
        found: list[Listed] = []
        for key in self.plan.under(parent):
            page = self.plan.site.pages[key]
            routed = key in self.plan.routes
            deeper = levels - 1 if routed else levels
            items = self._listed(key, source, deeper) if deeper and page.children else []
            if routed or items:
                found.append((self.plan.addresses.to_page(key, source) if routed else None, page.label, items))
        return found

    def generated_file(self, name: str) -> bytes:
        """One of the files beside the pages."""
        if name == NOT_FOUND:
            return self._render(
                None,
                {},
                title=self.plan.site.words["not-found"],
                description=None,
                canonical=None,
                draft=False,
                breadcrumbs="",
                data="",
                body=environment().get_template("not-found.html").render(self._shared, home=self._home(None)),
                has_title=False,
                closing="",
            )
        if name == OWN_STYLE:
            return self.plan.site.looks.css.encode()
        if name == REDIRECTS:
            return self._redirects_table()
        redirect = next((route for route in self.plan.redirects if route.file == name), None)
        if redirect:
            return self._redirect(redirect)
        addresses = self.plan.addresses
        if name == SITEMAP:
            listed = [key for key, page in self.plan.site.pages.items() if "sitemap" not in page.own.hidden]
            listed = [key for key in listed if key in self.plan.routes and key not in self.plan.drafts]
            context: dict[str, Any] = {"addresses": [addresses.canonical(key) for key in listed]}
        elif name == ROBOTS:
            context = {"sitemap": addresses.full(SITEMAP)}
        else:
            context = style_and_script(self.plan)
        return environment().get_template(name.rpartition("/")[2]).render(context).encode()

    def _redirect(self, route: Route) -> bytes:
        """The page at an old address. It works without a server's help, and search engines take it as moved."""
        to, site = self.plan.addresses.to_page(route.key, route), self.plan.site
        canonical = self.plan.addresses.canonical(route.key)
        template = environment().get_template("redirect.html")
        return template.render(self._shared, to=to, canonical=canonical, title=site.pages[route.key].title).encode()

    def _redirects_table(self) -> bytes:
        """Every redirect as a line of comma-separated values (RFC 4180): from, to, status."""
        rows = [("from", "to", "status")]
        write = self.plan.addresses
        rows += [(write.old(route), write.to_page(route.key, None), "301") for route in self.plan.redirects]
        target = io.StringIO()
        csv.writer(target).writerows(rows)
        return target.getvalue().encode()

    # The parts

    def _render(self, key: str | None, marks: dict[str, Mark | None], **own: Any) -> bytes:
        texts = self.mark_texts(marks)
        frame = self.frame(key)
        shared = {
            "header": frame["header"].text({name: frame[name].text(texts) for name in ("main", "utility")}),
            "footer": frame["footer"].text(texts),
            "section_menus": self.section_menus(key, texts),
        }
        own["links"] = frame["links"].text({})
        own["variant"] = self.plan.header_of(key).name
        return self._page.render(self._shared, **shared, **own).encode()

    def section_menus(self, key: str | None, texts: dict[str, str]) -> Markup:
        """The menus of the sections to which a page belongs, from the outside in, with marks."""
        if not self._section_menus or key is None:
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
        trail = self.plan.breadcrumbs(key)
        return self._breadcrumbs(key, trail) if trail else Markup("")

    def breadcrumb_data(self, key: str) -> Markup:
        """The breadcrumbs as schema.org data; nothing on home."""
        trail = self.plan.breadcrumbs(key)
        return self._breadcrumb_data(trail) if trail else Markup("")

    def frame(self, key: str | None) -> dict[str, Slotted]:
        """What surrounds a page, part by part, with its addresses as pages at the same place write them."""
        place = self.plan.addresses.place_of(key) if key is not None else ""
        framed = self._framed  # other threads may put another place's there
        if framed[0] != place or not framed[1]:
            write = self.plan.addresses
            texts = {
                "home": self._home(key),
                "style": write.to_file(STYLE, key),
                "script": write.to_file(SCRIPT, key),
                "own style": write.to_file(OWN_STYLE, key),
            }
            for name, menu in self.plan.menus.items():
                for entry in menu.entries:
                    if entry.page is not None and entry.page in self.plan.routes:
                        texts[f"to {name} {entry.number}"] = write.to_page(entry.page, key, entry.fragment)
            framed = self._framed = (place, {part: slotted.fill(texts) for part, slotted in self._parts.items()})
        return framed[1]

    def _home(self, key: str | None) -> str:
        home = self.plan.site.home
        return self.plan.addresses.to_page(home, key) if home else "#content"

    @cached_property
    def _parts(self) -> dict[str, Slotted]:
        """The shared parts of every page, rendered once."""
        menus = self.plan.menus

        def at(place: str) -> list[MenuPlan]:
            return [menu for menu in menus.values() if menu.place == place and menu.entries]

        context = {
            **self._shared,
            "tagline": self.plan.header.plain.tagline,
            "main": menus["main"],
            "utility_menus": at("utility"),
            "footer_menus": at("footer"),
            "sections": frozenset(key for key in self.plan.site.pages if key not in self.plan.routes),
        }
        env = environment()
        names = ("header", "main", "utility", "footer", "links")
        parts = {part: env.get_template(f"{part}.html").render(context) for part in names}
        section = env.get_template("section.html")
        parts |= {f"section {menu.name}": section.render(context, menu=menu) for menu in self._section_menus}
        alone = env.get_template("menu-alone.html")
        parts |= {
            f"menu {name}": alone.render(context, menu=menu) for name, menu in menus.items() if name in self._alone
        }
        return {part: Slotted(rendered) for part, rendered in parts.items()}

    def crumbs(self, key: str, trail: tuple[str, ...]) -> list[tuple[str | None, str, bool]]:
        """Of each breadcrumb but the page itself: its address as it is written on page ``key`` (None for a section),
        its label, and whether it is drawn as an icon."""
        pages, routes, site = self.plan.site.pages, self.plan.routes, self.plan.site
        write = self.plan.addresses.to_page
        return [
            (
                write(above, key) if above in routes else None,
                pages[above].label,
                above == site.home and site.crumbs.home == "icon",
            )
            for above in trail
            if above != key
        ]

    def _breadcrumbs(self, key: str, trail: tuple[str, ...]) -> Markup:
        links, site = self.crumbs(key, trail), self.plan.site
        itself = site.pages[key].label if trail[-1] == key else ""
        folded: tuple[int, int] = (0, 0)
        if site.crumbs.shorten and len(trail) > site.crumbs.shorten:
            # The first stays, and as many of the last as there is room for; a mark stands for the others.
            folded = (1, len(trail) - (site.crumbs.shorten - 2))
        return Markup(self._crumbs.breadcrumbs(links, itself, folded, site.words))  # type: ignore[attr-defined]

    def _breadcrumb_data(self, trail: tuple[str, ...]) -> Markup:
        """The breadcrumbs as schema.org data, in a form that cannot end the script element it stands in."""
        items = ",".join([self._list_item(position, key) for position, key in enumerate(trail, 1)])
        return Markup('{"@context":"https://schema.org","@type":"BreadcrumbList","itemListElement":[' + items + "]}")

    def _list_item(self, position: int, key: str) -> str:
        """One breadcrumb as data. Pages under the same parent share all items but their own."""
        known = self._list_items.get((position, key))
        if known is None:
            page = self.plan.site.pages[key]
            item: dict[str, Any] = {"@type": "ListItem", "position": position, "name": page.label}
            canonical = self.plan.addresses.canonical(key)
            if canonical:
                item["item"] = canonical
            known = json.dumps(item, ensure_ascii=False, separators=(",", ":")).replace("<", "\\u003c")
            if page.children or key == self.plan.site.home:
                self._list_items[position, key] = known
        return known
