"""The form for the password."""

from __future__ import annotations

from flask import current_app, render_template, request

from basilica.web.sign_in.forms import SignIn


def show(error: str = "") -> str:
    """The form; where there is no password, that there is none."""
    form = SignIn(formdata=request.args) if request.method == "GET" else SignIn.unchecked()
    needed = "password" in current_app.extensions
    return render_template("sign_in/show.html", there=form.there, error=error, needed=needed)
