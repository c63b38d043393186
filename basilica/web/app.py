"""The application, put together."""

from __future__ import annotations

import hashlib
from datetime import timedelta
from functools import cache
from pathlib import Path
from typing import Any

from flask import Flask, Response, g, request, session
from flask_login import current_user
from markupsafe import Markup

from basilica.core.shared.locales import own_name
from basilica.core.shared.theme import COLOUR_TITLES
from basilica.services.all_services import Services
from basilica.store.password import Password
from basilica.store.session_key import session_key
from basilica.store.undo_steps import current_person
from basilica.web.config import Config
from basilica.web.context import services
from basilica.web.errors import register_error_handlers
from basilica.web.messages import with_code
from basilica.web.navigation import bar
from basilica.web.security import protect
from basilica.web.sign_in.guard import require_password
from basilica.web.values import JsonProvider, NumberConverter
from basilica.web.workspace import undo_place
from basilica.web.workspaces import WORKSPACES

_ICONS = Path(__file__).parent / "static" / "icons"


def create_app(config: Config, its_services: Services | None = None) -> Flask:
    """The application as it is configured, on services that are there already or its own. Raises ``UsageError`` where
    its folder of data cannot be used."""
    app = Flask(__name__)
    app.json = JsonProvider(app)
    app.url_map.converters["int"] = NumberConverter
    app.config.update(
        SECRET_KEY=session_key(config.data),
        MAX_CONTENT_LENGTH=config.upload_megabytes * 1024 * 1024,
        MAX_FORM_MEMORY_SIZE=config.upload_megabytes * 1024 * 1024,
        SESSION_COOKIE_NAME="basilica",
        SESSION_COOKIE_SAMESITE="Strict",
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SECURE=config.is_secure,
        SEND_FILE_MAX_AGE_DEFAULT=timedelta(hours=1),
        WTF_CSRF_TIME_LIMIT=None,
        PREVIEW_ORIGIN=config.seen_previews,
        IS_OPEN=config.is_open,
        DATA=config.data,
    )
    app.extensions["services"] = its_services or Services.of(config.data, config.builds_at_once)
    protect(app, config.names, config.seen_previews, config.origin or "")
    for blueprint in WORKSPACES:
        app.register_blueprint(blueprint)
    _add_slugs(app)
    app.jinja_env.trim_blocks = app.jinja_env.lstrip_blocks = True
    app.add_template_filter(with_code)
    app.jinja_env.globals.update(
        icon=_icon,
        language_name=own_name,
        colour_titles=COLOUR_TITLES,
        bar=bar,
        nonce=lambda: g.nonce,
        findings_of=lambda site: services().builds.findings(site),
        pages_proved=lambda site: services().builds.is_proved(site),
        folder_problem=lambda site: services().sites.folder_problem(site),
        last_step=lambda site: services().sites.last_step(site),
        undo_place=undo_place,
        live_now=lambda site: services().publishing.live_now(site),
        signed_in=lambda: config.is_open and current_user.is_authenticated,
    )
    if config.is_open:
        require_password(app, Password(config.data))
    register_error_handlers(app)
    app.before_request(_say_who)
    app.after_request(_keep_messages)
    return app


def _say_who() -> None:
    """A person is known by the session of the browser, whose secret stays here."""
    current_person.set(hashlib.sha256(str(session.get("csrf_token", "")).encode()).hexdigest()[:16])


def _keep_messages(response: Response) -> Response:
    """A page that looks how far some work has come takes no message that is for the person."""
    if request.headers.get("Only-Looks"):
        session.modified = False
    return response


def _add_slugs(app: Flask) -> None:
    """While a site is open, addresses that need one are of that site, unless they name another."""

    @app.url_value_preprocessor
    def _note(_endpoint: str | None, values: dict[str, Any] | None) -> None:
        g.slug = (values or {}).get("slug")

    @app.url_defaults
    def _add(endpoint: str, values: dict[str, Any]) -> None:
        slug = g.get("slug")
        if slug is not None and "slug" not in values and app.url_map.is_endpoint_expecting(endpoint, "slug"):
            values["slug"] = slug


@cache
def _icon(name: str) -> Markup:
    """A small drawing beside a word; the word says what it means."""
    return Markup((_ICONS / f"{name}.svg").read_text(encoding="utf-8"))
