"""The list of outputs. A new one is a module with ``files``, and its line here."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from basilica.core.outputs import includes, kits, open_data
from basilica.core.outputs.kits import typescript
from basilica.core.outputs.static_site import Renderer
from basilica.core.shared.output_file import File


class OutputFormat(NamedTuple):
    """One output: what it is called, what it is for, and how its files are made."""

    name: str
    title: str
    meaning: str
    files: Callable[[Renderer], Iterator[File]]


OUTPUT_FORMATS: dict[str, OutputFormat] = {
    output.name: output
    for output in (
        OutputFormat("site", "Static site", "A file for every page, ready for any server of files.", Renderer.files),
        OutputFormat(
            "flask",
            "Flask kit",
            "A package that gives a Flask application the pages, the menus and what templates need.",
            kits.kit(kits.FLASK),
        ),
        OutputFormat(
            "django",
            "Django kit",
            "An app with urls, views, template tags and tests for a Django project.",
            kits.kit(kits.DJANGO),
        ),
        OutputFormat(
            "express",
            "Express kit",
            "A module that gives an Express application the pages, with Nunjucks or without.",
            kits.kit(kits.EXPRESS),
        ),
        OutputFormat(
            "typescript",
            "TypeScript",
            "Routes, menus and breadcrumbs as typed constants.",
            typescript.files,
        ),
        OutputFormat("includes", "Includes", "The shared parts for PHP and for server-side includes.", includes.files),
        OutputFormat("data", "Open data", "Routes, menus, breadcrumbs, redirects and the sitemap.", open_data.files),
    )
}
SITE = OUTPUT_FORMATS["site"]
