"""The Flask kit: the site as an application that needs Flask alone. Its templates are made from those of the static
site, so that both show the same."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from functools import lru_cache
from importlib.resources import files as resources

from markupsafe import Markup, escape

from basilica.core.content import layouts_of
from basilica.core.map.schema.part_words import MENU_PART
from basilica.core.outputs.kit.kit_data import navigation_data
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.part_renderer import Pieces
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import (
    CurrentMark,
    EntryAddress,
    FileAddress,
    HomeAddress,
    PageAddress,
    PageValue,
    PathMark,
    RegionSlot,
    Slot,
    room_for,
)
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.plan.content_links import NOT_FOUND_KEY, as_html
from basilica.core.shared.output_file import File

_SITE = "site_pages"
_SHIPPED = {
    "README.md": "README.md.in",
    "requirements.txt": "requirements.txt.in",
    "app.py": "app.py.in",
    "test_pages.py": "test_pages.py.in",
    f"{_SITE}/__init__.py": "init.py.in",
    f"{_SITE}/navigation.py": "navigation.py.in",
    f"{_SITE}/templates/base.html": "base.html.in",
    f"{_SITE}/templates/parts/_links.html": "links.html.in",
    f"{_SITE}/templates/parts/breadcrumbs.html": "breadcrumbs.html.in",
    f"{_SITE}/templates/parts/section-menus.html": "section-menus.html.in",
    f"{_SITE}/templates/parts/list.html": "list.html.in",
    f"{_SITE}/templates/parts/sequence.html": "sequence.html.in",
}

_SHARED = (
    *("_menu.html", "_menu_alone.html", "_main.html", "_utility.html", "_section.html", "_breadcrumbs.html"),
    *("_page_end.html", "header.html", "footer.html"),
)
"""Templates that the kit has as the static site does. What they ask is answered by `site_pages/__init__.py`."""


def files(renderer: Renderer) -> Iterator[File]:
    """Every file of this output."""
    for name, shipped in _SHIPPED.items():
        yield _text(name, _shipped(shipped))
    yield _text(f"{_SITE}/navigation.json", json.dumps(navigation_data(renderer), ensure_ascii=False, indent=1) + "\n")
    writer = _Writer(renderer)
    for name, text in writer.templates():
        yield _text(f"{_SITE}/templates/{name}", text)
    for file in renderer.assets_files():
        yield File(f"{_SITE}/{file.path}", file.data)
    for file in renderer.public_files():
        yield File(f"{_SITE}/public/{file.path}", file.data)
    for name in ("robots.txt", "sitemap.xml"):
        if name in renderer.generated:
            yield File(f"{_SITE}/files/{name}", renderer.generated_file(name))


class _Writer:
    """Writes the templates of one site."""

    def __init__(self, renderer: Renderer) -> None:
        self._renderer = renderer
        self._plan = renderer.plan
        shared = {
            "site": self._plan.site,
            "phrases": self._plan.site.phrases,
            "sections": frozenset(key for key in self._plan.site.pages if key not in self._plan.routes),
        }
        self._pieces = Pieces(self._plan, renderer.assets, environment(), shared)

    def templates(self) -> Iterator[tuple[str, str]]:
        """Name and text of each template but those that are the same for every site."""
        for name in _SHARED:
            yield f"parts/{name}", _template(f"parts/{name}")
        for name in self._plan.menus:
            yield f"parts/{MENU_PART}{name}.html", _shipped("menu.html.in") % json.dumps(name)
        for name in self._plan.site.parts:
            own = self._pieces.own(name, lambda inside: room_for(RegionSlot(inside)))
            yield f"parts/{name}.html", self._jinja(own)
        layouts = layouts_of(self._plan.site.files)
        for name in layouts.good:
            yield f"layouts/{name}.html", _layout(layouts.sources[name])
        yield "pages/_not-found.html", self._not_found()
        yield from self._pages()

    def _pages(self) -> Iterator[tuple[str, str]]:
        renderer = self._renderer
        for key in renderer.pages:
            heading = "" if renderer.body(key).has_title else "<h1>{{ page.title }}</h1>\n"
            yield f"pages/{key}.html", heading + self._content(key)
            for name in renderer.own_slot_names(key):
                yield f"slots/{key}.{name}.html", self._content(f"{key}.{name}")
            extra = renderer.extra(key, lambda name, _: room_for(FileAddress(name)))
            if extra:
                yield f"extra/{key}.html", self._jinja(extra)

    def _content(self, key: str) -> str:
        content = self._renderer.contents.get(key)
        if content is None:
            return ""
        return self._jinja(
            self._pieces.markup(as_html(content).html, lambda name: room_for(RegionSlot(name)), with_values=False)
        )

    def _not_found(self) -> str:
        phrases = self._plan.site.phrases
        own = self._renderer.not_found_content
        if own is not None:
            has_title = as_html(own).has_title
            return ("" if has_title else "<h1>{{ page.title }}</h1>\n") + self._content(NOT_FOUND_KEY)
        template = environment().get_template("not-found.html")
        heading = f"<h1>{escape(phrases['not-found'])}</h1>\n"
        return self._jinja(Markup(heading + template.render(phrases=phrases, home=room_for(HomeAddress()))))

    def _jinja(self, markup: Markup) -> str:
        """Markup in which each slot is what fills it in the kit."""
        return SlotTemplate(markup).written(self._slot, _literal)

    def _slot(self, slot: Slot) -> str:
        """A slot as the kit's templates ask for it."""
        match slot:
            case PageAddress(key, fragment, query):
                wanted = [key, fragment or "", query] if query else [key, fragment] if fragment else [key]
                return f"{{{{ address({', '.join(json.dumps(text) for text in wanted)}) }}}}"
            case HomeAddress():
                return "{{ address(site.home) }}"
            case EntryAddress(menu, number):
                entry = self._plan.menus[menu].entries[number]
                if entry.file:
                    return self._slot(FileAddress(entry.file))
                return self._slot(PageAddress(entry.page or "", entry.fragment, entry.query))
            case CurrentMark(menu, number):
                return f"{{{{ current({json.dumps(menu)}, {number}) }}}}"
            case PathMark(menu, number):
                return f"{{{{ on_path({json.dumps(menu)}, {number}) }}}}"
            case FileAddress(name):
                return f"{{{{ file({json.dumps(name)}) }}}}"
            case RegionSlot(name):
                return f"{{{{ part({json.dumps(name)}) }}}}"
            case PageValue(name):
                return "{{ site.name }}" if name == "site" else f"{{{{ page.{name} }}}}"
            case _:
                return ""


def _literal(text: str) -> str:
    """Text that no template language reads."""
    return re.sub(r"\{(?=[{%#])", '{{ "{" }}', text)


def _layout(source: str) -> str:
    """A layout as the kit finds it: what it extends is in the folder of layouts."""
    found: list[str] = []
    extends = False
    for _, kind, text in environment().lex(source):
        if kind == "string" and extends:
            text, extends = f"{text[0]}layouts/{text[1:-1]}.html{text[-1]}", False
        extends = text == "extends" if kind == "name" else extends
        found.append(text)
    return "".join(found)


def _text(name: str, text: str) -> File:
    return File(name, text.encode())


@lru_cache(maxsize=32)
def _shipped(name: str) -> str:
    return resources("basilica.core.outputs.kit").joinpath("shipped").joinpath(name).read_text(encoding="utf-8")


def _template(name: str) -> str:
    """A template of the static site, as it is written."""
    env = environment()
    assert env.loader is not None
    return env.loader.get_source(env, name)[0]
