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

from basilica.core.content import Body, Contents, Linker
from basilica.core.findings import Finding, Findings
from basilica.core.outputs import File
from basilica.core.outputs.static_site.slots import Slotted, slot
from basilica.core.plan import Mark, Plan, Route

NOT_FOUND, ROBOTS, SITEMAP = "404.html", "robots.txt", "sitemap.xml"
REDIRECTS = "redirects.csv"
STYLE, SCRIPT = "assets/navigation.css", "assets/navigation.js"

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
    env.filters["css_string"] = css_string
    return env


def css_string(text: str) -> str:
    """Text as a CSS string: what could end it or the style sheet is escaped (CSS Syntax 3, 4.3.7)."""
    return '"' + "".join(c if c.isalnum() or c in " -_." else f"\\{ord(c):x} " for c in text) + '"'


class Renderer:
    """Renders the files of one plan, one at a time, in any order."""

    def __init__(self, plan: Plan, contents: Contents, menus_alone: tuple[str, ...] = ()) -> None:
        """``menus_alone`` names the menus that ``menu`` will be asked for."""
        self._alone = menus_alone
        self.plan = plan
        self.contents = contents
        self._findings = Findings()
        self._linker = Linker(plan, self._findings)
        self._framed: tuple[str, dict[str, Slotted]] = ("", {})
        self._list_items: dict[tuple[int, str], str] = {}
        self._page = environment().get_template("page.html")
        self._crumbs = environment().get_template("breadcrumbs.html").module
        language = plan.site.language.partition("-")[0].lower()
        self._shared: dict[str, Any] = {
            "site": plan.site,
            "direction": "rtl" if language in _RIGHT_TO_LEFT else "",
        }

    # The files

    def files(self) -> Iterator[File]:
        """Every file of the build: the pages in map order, then what is generated."""
        for key in self.plan.site.pages:
            yield File(self.plan.routes[key].file, self.page(key))
        for name in self.generated:
            yield File(name, self.generated_file(name))

    @property
    def count(self) -> int:
        """How many files ``files`` gives."""
        return len(self.plan.site.pages) + len(self.generated)

    @cached_property
    def generated(self) -> tuple[str, ...]:
        """The files beside the pages."""
        redirects = self.plan.redirects
        lists = [*([SITEMAP] if self.plan.site.base else []), *([REDIRECTS] if redirects else [])]
        return (NOT_FOUND, ROBOTS, *lists, STYLE, SCRIPT, *(route.file for route in redirects))

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
            breadcrumbs=self._breadcrumbs(key, trail) if trail else "",
            data=self._breadcrumb_data(trail) if trail else "",
            body=Markup(body.html),
            has_title=body.has_title,
            under=self.under(key),
            under_label=page.label,
        )

    def body(self, key: str) -> Body:
        """The content of a page as HTML, its links as they are written there."""
        content = self.contents.get(key)
        return self._linker.body(content, key) if content else Body("", False)

    def under(self, key: str) -> list[tuple[str, str]]:
        """The address and the label of each page under a page, as they are written there."""
        write, pages = self.plan.addresses.to_page, self.plan.site.pages
        return [(write(child, key), pages[child].label) for child in pages[key].children]

    def generated_file(self, name: str) -> bytes:
        """One of the files beside the pages."""
        if name == NOT_FOUND:
            return self._render(
                None,
                {},
                title="Page not found",
                description=None,
                canonical=None,
                breadcrumbs="",
                data="",
                body=environment().get_template("not-found.html").render(home=self._home(None)),
                has_title=False,
                under=[],
                under_label="",
            )
        if name == REDIRECTS:
            return self._redirects_table()
        redirect = next((route for route in self.plan.redirects if route.file == name), None)
        if redirect:
            return self._redirect(redirect)
        addresses = self.plan.addresses
        context: dict[str, Any] = {
            "plan": self.plan,
            "header": self.plan.header,
            "fold_em": self.fold_em,
            "folds": bool(self.plan.menus["main"].entries),
            "sitemap": addresses.full(SITEMAP),
            "addresses": [addresses.canonical(key) for key in self.plan.site.pages],
        }
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

    @cached_property
    def fold_em(self) -> int:
        """The window width, in em, below which the main menu folds behind a button.

        An estimate from the number of letters: half an em and a little for each, and room around each entry.
        """
        main = self.plan.menus["main"]
        entries = [main.entries[number] for number in main.top]
        letters = sum(len(entry.label) for entry in entries)
        buttons = sum(1 for entry in entries if entry.items)
        width = letters * 0.56 + len(entries) * 1.6 + buttons * 1.6 + min(len(self.plan.site.name), 40) * 0.62 + 5
        return round(max(width, 40))

    # The parts

    def _render(self, key: str | None, marks: dict[str, Mark | None], **own: Any) -> bytes:
        texts = self.mark_texts(marks)
        frame = self.frame(key)
        shared = {
            "header": frame["header"].text({"main": frame["main"].text(texts)}),
            "footer": frame["footer"].text(texts),
        }
        own["links"] = frame["links"].text({})
        return self._page.render(self._shared, **shared, **own).encode()

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

    def breadcrumbs(self, key: str) -> Markup:
        """The breadcrumbs alone, as page ``key`` has them; nothing on home."""
        trail = self.plan.breadcrumbs(key)
        return self._breadcrumbs(key, trail) if trail else Markup("")

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
            }
            for name, menu in self.plan.menus.items():
                for entry in menu.entries:
                    if entry.page is not None:
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
        context = {
            "site": self.plan.site,
            "header": self.plan.header,
            "main": menus["main"],
            "footer_menus": [menu for name, menu in menus.items() if name != "main" and menu.entries],
        }
        env = environment()
        parts = {
            part: env.get_template(f"{part}.html").render(context) for part in ("header", "main", "footer", "links")
        }
        alone = env.get_template("menu-alone.html")
        parts |= {f"menu {name}": alone.render(menu=menu) for name, menu in menus.items() if name in self._alone}
        return {part: Slotted(rendered) for part, rendered in parts.items()}

    def crumbs(self, key: str, trail: tuple[str, ...]) -> list[tuple[str, str]]:
        """The address and the label of each breadcrumb but the last, as they are written on page ``key``."""
        pages = self.plan.site.pages
        return [(self.plan.addresses.to_page(above, key), pages[above].label) for above in trail[:-1]]

    def _breadcrumbs(self, key: str, trail: tuple[str, ...]) -> Markup:
        links, pages = self.crumbs(key, trail), self.plan.site.pages
        return Markup(self._crumbs.breadcrumbs(links, pages[key].label))  # type: ignore[attr-defined]

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
