"""``basilica watch``: builds on every save, serves the site on loopback, and reloads the page that is open."""

from __future__ import annotations

import json
import threading
from collections.abc import Callable
from dataclasses import replace
from importlib.resources import files as resources
from pathlib import Path

from flask import Flask, Response, request
from waitress.server import create_server
from watchfiles import watch as watch_files

from basilica.core.map.map_files import FOLDERS
from basilica.core.map.site import Base
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan.content_links import FOLDER, Contents
from basilica.services.folder_builds import Built, build_folder
from basilica.store.errors import UsageError
from basilica.store.folders import read_source
from basilica.web.config import LOOPBACK
from basilica.web.preview.server import PreviewResponse, answer, serve_path
from basilica.web.security import host_allowed

_OWN = "/.basilica/"
_NOTHING = b"<!doctype html><title>Nothing yet</title><p>The site shows once the map has no errors."
_RELOAD = resources("basilica.web").joinpath("reload.js").read_text(encoding="utf-8")


class Watched:
    """The newest good site, and what is off in the map as it is now."""

    def __init__(self, origin: str) -> None:
        self._base = Base(origin, "")
        self.renderer: Renderer | None = None
        self.version = 0
        self.findings: list[str] = []

    def take(self, built: Built, contents: Contents) -> None:
        """Show a new build; a build that was stopped leaves the last one up, with what stopped it on top."""
        self.findings = [
            f"{finding.file or 'The map'}, line {finding.line}: {finding.message} {finding.remedy}"
            for finding in built.findings
            if finding.stops
        ]
        if built.files and built.compiled.plan:
            self.renderer = Renderer(built.compiled.plan.moved(base=self._base), contents)
            self.version += 1


def create_watch_app(watched: Watched) -> Flask:
    """The server of a watched site. Pages get one script more, which reloads them; the built files have none."""
    app = Flask(__name__, static_folder=None)

    @app.get("/", defaults={"path": ""})
    @app.get("/<path:path>")
    def _show(path: str) -> Response:
        if not host_allowed(request.headers.get("Host", ""), LOOPBACK):
            return Response("This address is answered on 127.0.0.1 only.", 400, content_type="text/plain")
        if request.path == _OWN + "state":
            state = {"version": watched.version, "findings": watched.findings}
            return Response(json.dumps(state), content_type="application/json")
        if request.path == _OWN + "reload.js":
            return Response(_RELOAD, content_type="text/javascript; charset=utf-8")
        if watched.renderer is None:
            data = (
                b"<!doctype html><title>Nothing yet</title><p>The map has errors; the site shows once they are mended."
            )
            served = PreviewResponse("index.html", None, data, 200)
        else:
            served = serve_path(watched.renderer, "/" + path)
        if served.file.endswith(".html"):
            script = f'<script src="{_OWN}reload.js" defer></script>'.encode()
            served = replace(served, data=served.data + script)
        response = answer(served)
        response.headers["Cache-Control"] = "no-store"
        return response

    return app


def watch(
    map_path: Path, out: Path, force: bool, port: int, say: Callable[[Built], None], announce: Callable[[str], None]
) -> None:
    """Watch until interrupted. Raises ``UsageError`` where the map cannot be read, ``out`` cannot be replaced, or the
    port is taken."""
    origin = f"http://127.0.0.1:{port}"
    watched = Watched(origin)

    def build(first: bool) -> None:
        source = read_source(map_path)
        built = build_folder(source, out, force and first)
        watched.take(built, source.contents)
        say(built)

    build(True)
    try:
        server = create_server(create_watch_app(watched), host="127.0.0.1", port=port, threads=4, ident=None)
    except OSError as error:
        raise UsageError(f"Port {port} cannot be used: {error.strerror}. Choose another with --port.") from error
    threading.Thread(target=server.run, daemon=True).start()
    announce(f"The site is at {origin}/ and is built again on every save. Stop it with Ctrl+C.")
    folder = map_path.resolve().parent
    beside, target = [folder / name for name in (FOLDER, *FOLDERS)], out.resolve()

    def matters(_: object, path: str) -> bool:
        changed = Path(path)
        mine = changed == map_path.resolve() or any(map(changed.is_relative_to, beside))
        return mine and not changed.is_relative_to(target) and not changed.name.startswith(".")

    for _ in watch_files(folder, watch_filter=matters, debounce=100, step=30, raise_interrupt=False):
        try:
            build(False)
        except UsageError as error:
            watched.findings = [str(error)]
            announce(str(error))
