"""What is typed to sign in."""

from __future__ import annotations

from wtforms import PasswordField, StringField

from basilica.web.forms import BasilicaForm


class SignIn(BasilicaForm):
    """The password, and the address that was asked for."""

    password = PasswordField(default="")
    to = StringField(default="")

    @property
    def there(self) -> str:
        """Where to go then: an address of this application, and none that a browser takes for another host; empty where
        another was asked for."""
        there = self.to.data or ""
        good = there.startswith("/") and not there.startswith(("//", "/\\")) and there.isprintable()
        return there if good else ""
