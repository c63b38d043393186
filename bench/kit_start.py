"""Kits of ten thousand routes: from nothing to the first answer, beside the same routes written by hand."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from rich.console import Console

from basilica.core.compile import compile_map
from basilica.core.outputs.output_formats import OUTPUT_FORMATS
from basilica.core.outputs.static_site import Renderer
from bench.sites import large_map

PACKAGES = Path(__file__).parent.parent / "tests" / "checkers" / "node_modules"

_FOLDERS = {"flask": "site_navigation", "django": "site_navigation", "express": "site-navigation"}
_FLASK = """\
from flask import Flask
app = Flask(__name__)
{routes}
assert app.test_client().get({path!r}).status_code == 200
"""
_DJANGO = """\
import django
from django.conf import settings
settings.configure(SECRET_KEY="x", ROOT_URLCONF=__name__, ALLOWED_HOSTS=["*"], INSTALLED_APPS=[{apps}],
    TEMPLATES=[{{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}}])
django.setup()
from django.http import HttpResponse
from django.urls import include, path
{routes}
from django.test import Client
assert Client().get({path!r}).status_code == 200
"""
_EXPRESS = """\
const app = require("express")();
{routes}
const server = app.listen(0, "127.0.0.1", async () => {{
  const answer = await fetch(`http://127.0.0.1:${{server.address().port}}{path}`);
  if (answer.status !== 200) process.exit(1);
  process.exit(0);
}});
"""


def kit_start(console: Console, measure: Callable[..., dict[str, float]], show: Callable[..., None]) -> None:
    """Print how long a kit takes to its first answer, beside routes by hand."""
    plan = compile_map(large_map()).plan
    assert plan is not None
    renderer = Renderer(plan, {})
    routes = [route.path for route in plan.routes.values()]
    last = routes[-1]
    with tempfile.TemporaryDirectory() as name:
        root = Path(name)
        for kind, folder in _FOLDERS.items():
            if kind == "express" and not PACKAGES.is_dir():
                console.print("  Express is not here (make test brings it), so its kit was not measured.")
                continue
            for file in OUTPUT_FORMATS[kind].files(renderer):
                path = root / kind / folder / file.path
                path.parent.mkdir(parents=True, exist_ok=True)
                path.write_bytes(file.data)
            ending = "js" if kind == "express" else "py"
            for side, text in _programs(kind, routes, last).items():
                (root / kind / f"{side}.{ending}").write_text(text)
            runs = {
                side: lambda side=side, kind=kind, ending=ending: _run(root / kind, f"{side}.{ending}")
                for side in ("kit", "hand")
            }
            least = measure(runs, 3, root / "none")
            show(console, f"{len(routes):,} routes in {kind}, to the first answer", least, len(routes))
            console.print(f"  the kit / by hand: {least['kit'] / least['hand']:.2f}  (wanted: below 2)")


def _programs(kind: str, routes: list[str], last: str) -> dict[str, str]:
    """An application with the kit, and one with its routes written by hand."""
    if kind == "flask":
        by_hand = "\n".join(f"app.add_url_rule({path!r}, {path!r}, lambda: 'page')" for path in routes)
        kit = "from site_navigation import SiteNavigation\nSiteNavigation(app)"
        return {"kit": _FLASK.format(routes=kit, path=last), "hand": _FLASK.format(routes=by_hand, path=last)}
    if kind == "django":
        lines = "\n".join(f"    path({path[1:]!r}, page, name={path!r})," for path in routes)
        by_hand = f"def page(request):\n    return HttpResponse('page')\nurlpatterns = [\n{lines}\n]"
        kit = 'urlpatterns = [path("", include("site_navigation.urls"))]'
        return {
            "kit": _DJANGO.format(apps='"site_navigation"', routes=kit, path=last),
            "hand": _DJANGO.format(apps="", routes=by_hand, path=last),
        }
    by_hand = "\n".join(f"app.get({path!r}, (req, res) => res.send('page'));" for path in routes)
    kit = 'app.use(require("./site-navigation")());'
    return {"kit": _EXPRESS.format(routes=kit, path=last), "hand": _EXPRESS.format(routes=by_hand, path=last)}


def _run(folder: Path, name: str) -> None:
    command = "node" if name.endswith(".js") else sys.executable
    subprocess.run([command, name], cwd=folder, check=True, env={**os.environ, "NODE_PATH": str(PACKAGES)})
