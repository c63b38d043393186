"""Nobody is answered who is not signed in: one password, sessions that end with it, attempts that are counted."""

from __future__ import annotations

from typing import Any

from flask import Flask, Response, jsonify, redirect, request, url_for
from flask_limiter import Limiter
from flask_limiter.util import get_remote_address
from flask_login import LoginManager, UserMixin, current_user
from werkzeug.wrappers import Response as BaseResponse

from basilica.store.password import Password

ATTEMPTS = "10 per minute; 60 per hour"
"""That one address has to find the password."""
_OPEN = frozenset({"static", "sign_in.show", "sign_in.enter"})


class Person(UserMixin):
    """Who knows the password. ``id`` stands for it, so that with another password nobody is signed in."""

    def __init__(self, mark: str) -> None:
        self.id = mark


def require_password(app: Flask, password: Password) -> None:
    """Ask for a password before anything is answered but the form for it."""
    manager = LoginManager(app)
    manager.session_protection = "strong"
    app.extensions["password"] = password
    limiter = Limiter(get_remote_address, app=app, storage_uri="memory://")
    enter: Any = app.view_functions["sign_in.enter"]
    app.view_functions["sign_in.enter"] = limiter.limit(ATTEMPTS)(enter)

    @manager.user_loader
    def _person(mark: str) -> Person | None:
        return Person(mark) if mark and mark == password.mark else None

    @app.before_request
    def _ask() -> BaseResponse | tuple[Response, int] | None:
        if request.endpoint in _OPEN or current_user.is_authenticated:
            return None
        if request.method not in ("GET", "HEAD") or request.headers.get("Sec-Fetch-Mode", "navigate") != "navigate":
            return jsonify(
                message="You are signed out. Sign in in another tab, and try again; this is still here."
            ), 401
        return redirect(url_for("sign_in.show", to=request.full_path.rstrip("?")), 303)
