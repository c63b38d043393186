"""The shared parts as server-side includes: for each page its own, since menus show where one is."""

from __future__ import annotations

from collections.abc import Iterator

from markupsafe import escape

from basilica.core.outputs.static_site import Renderer
from basilica.core.plan.parameters import parameters_of, without_parameters
from basilica.core.shared.output_file import File

FOLDER = "ssi"


def ssi(renderer: Renderer) -> Iterator[File]:
    """The parts of each page, and the page with its own text between them."""
    plan = renderer.plan
    base = plan.site.base
    below = "" if plan.site.is_first else f"{plan.site.prefix[1:]}/"
    folder = f"{below}{FOLDER}"
    root = f"{base.path if base else ''}/{folder}"
    yield File(f"{below}404.shtml", renderer.generated_file(renderer.not_found))
    served = tuple(key for key, route in plan.routes.items() if route.is_backend and key not in plan.drafts)
    for key in (*renderer.pages, *served):
        top, bottom = renderer.surround(key)
        frame, marks = renderer.frame(key), renderer.mark_texts(key)
        kept = {**marks, **renderer.values(key, plan.site.pages[key].title), **renderer.own_slots(key)}
        pieces = {
            "top": top,
            "header": renderer.header(key, kept),
            "breadcrumbs": renderer.breadcrumbs(key),
            "footer": frame["footer"].text(kept),
            "bottom": bottom,
        }
        if parameters_of(plan.routes[key].path):
            # A server of files knows no values: what would show `{name}` to people is left out.
            pieces = {name: without_parameters(str(text)) for name, text in pieces.items()}
        for name, text in pieces.items():
            yield File(f"{folder}/{key}/{name}.html", str(text).encode())
        if key in served:  # other code has the page itself
            continue
        body = renderer.body(key)
        heading = f"<h1>{escape(plan.site.pages[key].title)}</h1>\n" if not body.has_title else ""
        page = (
            f'<!--#include virtual="{root}/{key}/top.html" -->{heading}{body.html}'
            f'<!--#include virtual="{root}/{key}/bottom.html" -->'
        )
        yield File(plan.routes[key].file.removesuffix(".html") + ".shtml", page.encode())
