"""The form for the password, and the way out."""

from __future__ import annotations

from flask import Blueprint, abort, current_app, redirect, render_template, request, session
from flask_login import login_user, logout_user
from werkzeug.wrappers import Response as BaseResponse

from basilica.store.password import Password
from basilica.web.sign_in.guard import Person

blueprint = Blueprint("sign_in", __name__, template_folder="templates")


def _password() -> Password:
    password: Password | None = current_app.extensions.get("password")
    return password or abort(404)


@blueprint.get("/sign-in")
def show() -> str:
    """The form; where there is no password, that there is none."""
    return _form(request.args.get("to", ""))


@blueprint.post("/sign-in")
def enter() -> BaseResponse | tuple[str, int]:
    """Sign in with the password."""
    password, there = _password(), request.form.get("to", "")
    if not password.fits(request.form.get("password", "")):
        return _form(there, "That is not the password."), 403
    session.clear()  # nothing of before, such as its token, is known to whoever had the session then
    login_user(Person(password.mark))
    return redirect(there if _is_here(there) else "/", 303)


@blueprint.post("/sign-out")
def leave() -> BaseResponse:
    """Sign out."""
    _password()
    logout_user()
    session.clear()
    return redirect("/sign-in", 303)


def _form(there: str, error: str = "") -> str:
    needed = "password" in current_app.extensions
    there = there if _is_here(there) else ""
    return render_template("sign_in/show.html", there=there, error=error, needed=needed)


def _is_here(there: str) -> bool:
    """Whether an address is one of this application: a path, and none that a browser takes for another host."""
    return there.startswith("/") and not there.startswith(("//", "/\\")) and there.isprintable()
