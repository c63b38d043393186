"""The way in, and the way out."""

from __future__ import annotations

from flask import abort, current_app, redirect, session, url_for
from flask_login import login_user, logout_user
from werkzeug.wrappers import Response

from basilica.store.password import Password
from basilica.web.sign_in import views
from basilica.web.sign_in.forms import SignIn
from basilica.web.sign_in.guard import Person


def enter() -> Response | tuple[str, int]:
    """Sign in with the password."""
    password, form = _password(), SignIn.sent()
    if not password.fits(form.password.data or ""):
        return views.show("That is not the password."), 403
    session.clear()  # nothing of before, such as its token, is known to whoever had the session then
    login_user(Person(password.mark))
    return redirect(form.there or url_for("sites.index"), 303)


def leave() -> Response:
    """Sign out."""
    _password()
    logout_user()
    session.clear()
    return redirect(url_for("sign_in.show"), 303)


def _password() -> Password:
    password: Password | None = current_app.extensions.get("password")
    return password or abort(404)
