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
from basilica.core.outputs.static_site.slot_template import SlotTemplate, slot
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.plan.content_links import as_html
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
            own = self._pieces.own(name, lambda inside: slot(f"part {inside}"))
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
            for name in renderer.own_slots(key):
                short = name.removeprefix("own ")
                yield f"slots/{key}.{short}.html", self._content(f"{key}.{short}")
            extra = str(renderer.extra(key))
            if extra:
                yield f"extra/{key}.html", self._extra(key, extra)

    def _content(self, key: str) -> str:
        content = self._renderer.contents.get(key)
        if content is None:
            return ""
        return self._jinja(
            self._pieces.markup(as_html(content).html, lambda name: slot(f"part {name}"), with_values=False)
        )

    def _extra(self, key: str, text: str) -> str:
        """What a page's head has of its own, its files by name."""
        own = self._plan.site.pages[key].options.extra
        for name in (*own.styles, *own.scripts):
            address = str(escape(self._renderer.file_at(name, key) or ""))
            text = text.replace(f'"{address}"', f'"\0file {name}\0"')
        return self._jinja(Markup(text))

    def _not_found(self) -> str:
        phrases = self._plan.site.phrases
        home = f'<p><a href="\0link {self._plan.site.home}#\0">{escape(phrases["go-home"])}</a></p>\n'
        return self._jinja(
            Markup(f"<h1>{escape(phrases['not-found'])}</h1>\n<p>{escape(phrases['not-found-text'])}</p>\n{home}")
        )

    def _jinja(self, markup: Markup) -> str:
        """Markup in which each slot is what fills it in the kit."""
        return SlotTemplate(markup).written(self._slot, _literal)

    def _slot(self, name: str) -> str:
        kind, _, rest = name.partition(" ")
        if kind == "link":
            key, _, fragment = rest.partition("#")
            return "{{ address(" + ", ".join(json.dumps(text) for text in (key, fragment) if text) + ") }}"
        if kind == "page":
            return "{{ site.name }}" if rest == "site" else f"{{{{ page.{rest} }}}}"
        if kind in ("file", "part"):
            return f"{{{{ {kind}({json.dumps(rest)}) }}}}"
        if kind == "home":
            return "{{ address(site.home) }}"
        menu, _, number = rest.rpartition(" ")
        if kind == "to":
            entry = self._plan.menus[menu].entries[int(number)]
            return self._slot(f"link {entry.page}#{entry.fragment or ''}")
        return f"{{{{ {'current' if kind == 'mark' else 'on_path'}({json.dumps(menu)}, {number}) }}}}"


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
