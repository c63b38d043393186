"""What the History workspace is asked."""

from __future__ import annotations

from basilica.web.forms import BasilicaForm, Revision


class Restore(BasilicaForm):
    """Put a version in place again, in a site that is still as it was looked at."""

    revision = Revision(default=-1)
