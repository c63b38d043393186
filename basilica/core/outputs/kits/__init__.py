"""Kits: the pages of a site set into an application that exists.

A kit is one folder of the application. What pages share was rendered as the static site has it, and lies in it in
pieces (`kit_data`); a small program in the language of the application puts them together for the page that is asked
for. So every kit shows the same, whatever the application writes its own templates in.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping

from basilica.core.outputs.kits import kit_data
from basilica.core.outputs.kits.shipped_files import shipped_files
from basilica.core.outputs.static_site import Renderer
from basilica.core.shared.output_file import File

_PAGES = {"pages.py": "python/pages.py.in"}
FLASK = _PAGES | {
    "__init__.py": "flask/__init__.py.in",
    "templates/site_navigation/base.html": "flask/base.html.in",
    "README.md": "flask/README.md.in",
}
DJANGO = _PAGES | {
    **{
        f"{name}.py": f"django/{name}.py.in"
        for name in ("__init__", "apps", "urls", "views", "context_processors", "tests")
    },
    "templatetags/__init__.py": "django/templatetags.py.in",
    "templatetags/site_navigation.py": "django/tags.py.in",
    "templates/site_navigation/base.html": "django/base.html.in",
    "README.md": "django/README.md.in",
}
EXPRESS = {
    "index.js": "express/index.js.in",
    "index.d.ts": "express/index.d.ts.in",
    "pages.js": "express/pages.js.in",
    "package.json": "express/package.json.in",
    "README.md": "express/README.md.in",
}
"""The programs of each kit: where they lie in it, and where they ship."""


def kit(programs: Mapping[str, str]) -> Callable[[Renderer], Iterator[File]]:
    """What makes the files of a kit with some programs."""

    def files(renderer: Renderer) -> Iterator[File]:
        yield from shipped_files(programs)
        yield from kit_data.files(renderer)

    return files
