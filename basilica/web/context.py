"""What every view reaches for."""

from __future__ import annotations

from flask import current_app

from basilica.web.preview.sessions import Sessions
from basilica.web.workbench import Workbench


def workbench() -> Workbench:
    """The workbench of the running application."""
    bench: Workbench = current_app.extensions["workbench"]
    return bench


def previews() -> Sessions:
    """The previews that are open."""
    sessions: Sessions = current_app.extensions["previews"]
    return sessions
