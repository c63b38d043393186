"""The preview server: people's generated pages, at an origin where the application is not.

Each preview lives below a token, as a site whose base has a path does. Its pages are sandboxed by their own policy, so
that even opened by themselves they are no page of this host.
"""

from __future__ import annotations

import mimetypes
from dataclasses import dataclass, replace
from urllib.parse import unquote

from flask import Flask, Response, current_app, redirect, render_template_string, request
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.map.site import Base
from basilica.core.outputs.static_site.site_renderer import NOT_FOUND, Renderer
from basilica.services.all_services import Services
from basilica.services.preview_sessions import Tried
from basilica.store.records import NotFound
from basilica.web.config import Config
from basilica.web.context import services
from basilica.web.preview.existing_pages import answered
from basilica.web.preview.preview_options import PreviewOptions
from basilica.web.security import host_allowed

_TEXTS = frozenset(["text/html", "text/css", "text/javascript", "application/xml", "text/plain", "text/csv"])
"""Types whose answers say in which letters they are written."""
_MORE_TYPES = {".js": "text/javascript", ".mjs": "text/javascript", ".xml": "application/xml", ".woff2": "font/woff2"}
_FIELDS = 50


@dataclass(frozen=True, slots=True)
class PreviewResponse:
    """A file of the site, the page that it is (or None), and the status of the answer."""

    file: str
    key: str | None
    data: bytes
    code: int


_NOTICE = """<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Preview</title>
<meta name="viewport" content="width=device-width"></head>
<body><main><h1>Nothing to show here</h1><p>{{ message }}</p></main></body></html>
"""

_RECEIVED = """<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Received</title>
<meta name="viewport" content="width=device-width"></head>
<body><main><h1>What {{ path }} would receive</h1>
<p>This is the preview's own stand-in. Nothing was sent anywhere, and nothing is stored.</p>
<dl>{% for name, value in fields %}<dt>{{ name }}</dt><dd>{{ value }}</dd>{% else %}<dt>Nothing</dt>{% endfor %}</dl>
</main></body></html>
"""


def create_preview_app(config: Config, its_services: Services) -> Flask:
    """The preview server, on the services of the application."""
    app = Flask(__name__, static_folder=None)
    app.extensions["services"] = its_services
    app.config["ORIGIN"] = config.seen_previews
    hosts = config.names | _host_of(config.seen_previews)
    frames = "frame-ancestors http://127.0.0.1:* http://localhost:*" + _ancestors(config.names)

    @app.before_request
    def _guard() -> Response | None:
        if not host_allowed(request.headers.get("Host", ""), hosts):
            return _notice(400, "This host name is not one that previews answer to.")
        return None

    @app.after_request
    def _policy(response: Response) -> Response:
        response.headers["Content-Security-Policy"] = (
            "sandbox allow-scripts allow-forms; default-src 'self' data: 'unsafe-inline'; form-action 'self'; " + frames
        )
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "no-referrer"
        response.headers["Cache-Control"] = "no-store"
        return response

    app.add_url_rule("/", view_func=_nothing)
    app.add_url_rule("/existing/<reading>/<int:number>/<path:path>", view_func=_existing)
    app.add_url_rule("/<token>", view_func=_root)
    for view, method in ((_show, "GET"), (_receive, "POST")):
        app.add_url_rule("/<token>/", view_func=view, methods=[method], defaults={"path": ""})
        app.add_url_rule("/<token>/<path:path>", view_func=view, methods=[method])
    return app


def _notice(code: int, message: str) -> Response:
    return Response(render_template_string(_NOTICE, message=message), code)


def _nothing() -> Response:
    return _notice(404, "Previews are opened from the Preview workspace of a site.")


def _existing(reading: str, number: int, path: str) -> Response:
    """A page of a site that is being brought in, with the menu of a number framed in it."""
    try:
        known = services().imports.reading(reading)
    except NotFound as error:
        return _notice(404, str(error))
    found = known.job.result
    prefix = f"/existing/{reading}/{number}"
    made = answered(found, known.files, number, path, prefix) if found is not None else None
    if made is None:
        return _notice(404, "The site that was read has no such file.")
    return Response(made[0], content_type=made[1])


def _root(token: str) -> BaseResponse:
    return redirect(f"/{token}/")


def _show(token: str, path: str) -> Response:
    """A file of the site of a preview; ``token`` has its options behind a dot."""
    sessions = services().previews.sessions
    name, _, rest = token.partition(".")
    slug, options = sessions.site(name), PreviewOptions.parse(rest)
    if slug is None or options is None:
        return _notice(404, "This preview has ended. Load the Preview workspace again.")
    try:
        renderer = _renderer(slug, token, sessions.tried(name), options)
    except NotFound:
        return _notice(404, "The site of this preview, or the version, is not there any more.")
    if renderer is None:
        return _notice(404, "The map has errors, so there is no page to show. Fix it first.")
    if path.startswith(".part/"):
        return _part(renderer, path.removeprefix(".part/"), options)
    routes = renderer.plan.routes.values()
    elsewhere = next((route for route in routes if route.is_backend and unquote(route.path) == f"/{path}"), None)
    if elsewhere:
        sessions.note_served(token, elsewhere.key)
        where = f"Other code of the site answers at {elsewhere.path}."
        return _notice(200, where + " Basilica links to it, and builds nothing there.")
    served = serve_path(renderer, "/" + path)
    if served.key is not None or served.code == 404:
        sessions.note_served(token, served.key)
    return answer(replace(served, data=options.applied(served.file, served.data)))


def _renderer(slug: str, token: str, tried: Tried | None, options: PreviewOptions) -> Renderer | None:
    """What renders the pages of a preview: what is tried out, a version, or the site. Raises ``NotFound``."""
    site, base = services().store.get(slug), Base(current_app.config["ORIGIN"], f"/{token}")
    if tried:
        return services().previews.of_tried(site, base, tried)
    return services().previews.of_site(site, base, options.state)


def _part(renderer: Renderer, name: str, options: PreviewOptions) -> Response:
    """A part by itself, as it stands on a page."""
    key = request.args.get("page", "")
    shown = renderer.alone(name, key) if key in renderer.pages else None
    if shown is None:
        return _notice(404, "There is no such part, or no such page, any more.")
    return answer(PreviewResponse("part.html", None, options.applied("part.html", shown), 200))


def _receive(token: str, path: str) -> Response:
    """A stand-in for whatever a form is sent to: it shows what came, and keeps nothing."""
    if services().previews.sessions.site(token.partition(".")[0]) is None:
        return _notice(404, "This preview has ended. Load the Preview workspace again.")
    fields = list(request.form.items())[:_FIELDS]
    return Response(render_template_string(_RECEIVED, path=f"/{path}", fields=fields), 200)


def _find(renderer: Renderer, path: str) -> tuple[str | None, str | None]:
    """The file and the page at a path, as a server of static files answers it."""
    for key in renderer.pages:
        route = renderer.plan.routes[key]
        if path in (unquote(route.path), "/" + route.file):
            return route.file, route.key
    for other in (*renderer.plan.redirects, *renderer.plan.further):
        if other.file and path in (unquote(other.path), unquote(other.route.path), "/" + other.file):
            return other.file, other.key if other.serves else None
        if other.serves and other.key and path == unquote(other.path):
            return renderer.plan.routes[other.key].file, other.key
    names = (path[1:], path[1:] + "index.html") if path.endswith("/") else (path[1:],)
    return next((name for name in names if name in renderer.generated or name in renderer.asset_names), None), None


def serve_path(renderer: Renderer, path: str) -> PreviewResponse:
    """What a server of static files answers at a path of the site, in whatever language that is."""
    first = renderer
    others = (other for other in renderer.in_other_languages if f"{path}/".startswith(f"{other.plan.site.prefix}/"))
    renderer = next(others, renderer)
    file, key = _find(renderer, path)
    for other in first.in_other_languages if file is None else ():
        if path[1:] in other.navigation_names:  # what pages in that language load lies beside all others
            return PreviewResponse(path[1:], None, other.generated_file(path[1:]), 200)
    if file is None:
        return PreviewResponse(NOT_FOUND, None, renderer.generated_file(renderer.not_found), 404)
    if file in renderer.asset_names:
        return PreviewResponse(file, None, renderer.asset_names[file], 200)
    if key is None:
        return PreviewResponse(file, None, renderer.generated_file(file), 200)
    is_own = file == renderer.plan.routes[key].file
    data = renderer.page(key) if is_own else renderer.generated_file(file)  # at a further address its links are others
    return PreviewResponse(file, renderer.plan.id_of(key), data, 200)


_FONTS = frozenset([".woff2", ".woff", ".ttf", ".otf"])


def answer(served: PreviewResponse) -> Response:
    """The same as a response."""
    suffix = served.file[served.file.rfind(".") :].lower()
    kind = _MORE_TYPES.get(suffix) or mimetypes.guess_type(served.file)[0] or "application/octet-stream"
    response = Response(served.data, served.code, content_type=f"{kind}; charset=utf-8" if kind in _TEXTS else kind)
    if suffix in _FONTS:
        # A page in a sandbox has no origin, and letters are asked for as from elsewhere (CSS Fonts 4, 4.9).
        response.headers["Access-Control-Allow-Origin"] = "null"
    return response


def _host_of(origin: str) -> frozenset[str]:
    host = origin.partition("://")[2]
    return frozenset({host, host.rpartition(":")[0] or host})


def _ancestors(hosts: frozenset[str]) -> str:
    return "".join(
        f" http://{host}:* https://{host}:*" for host in sorted(hosts) if host[0].isalpha() and host != "localhost"
    )
