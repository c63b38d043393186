"""The application, put together."""

from __future__ import annotations

import secrets
from dataclasses import dataclass, field
from datetime import timedelta
from pathlib import Path

from flask import Flask, Response, current_app, g, jsonify, render_template, request
from flask_login import current_user
from markupsafe import Markup
from werkzeug.exceptions import HTTPException

from basilica.core.findings.mosaic import State
from basilica.store.errors import UsageError
from basilica.store.password import Password
from basilica.store.records import NotFound, SiteRecord
from basilica.web import navigation
from basilica.web.checks import views as checks_views
from basilica.web.header import views as header_views
from basilica.web.history import views as history_views
from basilica.web.map import editing, queries, saving, views
from basilica.web.output import views as output_views
from basilica.web.pages import views as pages_views
from basilica.web.parts import views as parts_views
from basilica.web.preview import views as preview_views
from basilica.web.preview.sessions import Sessions
from basilica.web.security import LOOPBACK, protect
from basilica.web.services import SiteServices
from basilica.web.sign_in import views as sign_in_views
from basilica.web.sign_in.guard import require_password
from basilica.web.sites import views as sites_views
from basilica.web.values import JsonProvider, NumberConverter

UPLOAD_BYTES = 16 * 1024 * 1024
_ICONS = Path(__file__).parent / "static" / "icons"


@dataclass(frozen=True, slots=True)
class ApplicationSettings:
    """How the application is reached."""

    preview_origin: str
    allowed_hosts: frozenset[str] = LOOPBACK
    password: Password | None = None
    """Where others can reach it: what they need to know."""
    secure: bool = False
    """Whether browsers reach it by https."""
    origin: str = ""
    """Its own origin as browsers see it, where a proxy may say another to it."""
    secret: str = field(default_factory=lambda: secrets.token_hex(32))
    """The key that signs sessions; another one each time where none is kept."""


def create_app(services: SiteServices, sessions: Sessions, settings: ApplicationSettings) -> Flask:
    """The application, on the sites of a workbench."""
    app = Flask(__name__)
    app.json = JsonProvider(app)
    app.url_map.converters["int"] = NumberConverter
    app.config.update(
        SECRET_KEY=settings.secret,
        MAX_CONTENT_LENGTH=UPLOAD_BYTES,
        MAX_FORM_MEMORY_SIZE=UPLOAD_BYTES,
        SESSION_COOKIE_NAME="basilica",
        SESSION_COOKIE_SAMESITE="Strict",
        SESSION_COOKIE_HTTPONLY=True,
        SEND_FILE_MAX_AGE_DEFAULT=timedelta(hours=1),
        WTF_CSRF_TIME_LIMIT=None,
        PREVIEW_ORIGIN=settings.preview_origin,
        SESSION_COOKIE_SECURE=settings.secure,
    )
    app.jinja_env.trim_blocks = app.jinja_env.lstrip_blocks = True
    app.extensions["services"] = services
    app.extensions["previews"] = sessions
    protect(app, settings.allowed_hosts, settings.preview_origin, settings.origin)
    for module in (
        views,
        saving,
        editing,
        queries,
        sites_views,
        pages_views,
        parts_views,
        header_views,
        preview_views,
        checks_views,
        output_views,
        sign_in_views,
        history_views,
    ):
        if module.blueprint.name not in app.blueprints:
            app.register_blueprint(module.blueprint)
    app.jinja_env.globals.update(
        icon=_icon,
        bar=navigation.bar,
        addresses=navigation.addresses,
        nonce=lambda: g.nonce,
        finding_tiles=_finding_tiles,
        folder_problem=services.folder_problem,
        signed_in=lambda: settings.password is not None and current_user.is_authenticated,
    )
    if settings.password is not None:
        require_password(app, settings.password)
    _answer_errors(app)
    return app


def _finding_tiles(site: SiteRecord) -> int:
    """How many tiles of the mosaic are off, where the checks were run on the current site."""
    services: SiteServices = current_app.extensions["services"]
    mosaic = services.checked(site)
    return mosaic.counts[State.BROKEN] + mosaic.counts[State.DIFFERS] if mosaic is not None else 0


def _icon(name: str) -> Markup:
    """A small drawing beside a word; the word says what it means."""
    return Markup((_ICONS / f"{name}.svg").read_text(encoding="utf-8"))


_SENTENCES = {
    404: "There is nothing at this address. It may be misspelt, or the site was renamed.",
    405: "This address cannot be asked for in this way.",
    429: "That were many attempts. Wait a minute, and try again.",
    413: f"This is larger than {UPLOAD_BYTES // 1024 // 1024} MB. A map has at most 2 MB; nothing was changed.",
}


def _answer_errors(app: Flask) -> None:
    def answer(code: int, message: str) -> tuple[str | Response, int]:
        if request.is_json or request.accept_mimetypes.best == "application/json":
            return jsonify(message=message), code
        return render_template("error.html", code=code, message=message), code

    @app.errorhandler(NotFound)
    def _unknown(_: NotFound) -> tuple[str | Response, int]:
        return answer(404, "There is no such site. It may have been renamed; the list of sites has all that there are.")

    @app.errorhandler(UsageError)
    def _usage_error(error: UsageError) -> tuple[str | Response, int]:
        return answer(409, str(error))

    @app.errorhandler(HTTPException)
    def _http(error: HTTPException) -> tuple[str | Response, int]:
        code = error.code or 500
        return answer(code, _SENTENCES.get(code) or error.description or "This did not work.")

    @app.errorhandler(Exception)
    def _any(error: Exception) -> tuple[str | Response, int]:
        app.logger.exception("unexpected: %s", error)
        return answer(500, "Something went wrong in Basilica. What you typed is saved; go back and try again.")
