"""What every view reaches for."""

from __future__ import annotations

from flask import current_app

from basilica.web.preview.sessions import Sessions
from basilica.web.services import SiteServices


def site_services() -> SiteServices:
    """What the running application does for its views."""
    services: SiteServices = current_app.extensions["services"]
    return services


def previews() -> Sessions:
    """The previews that are open."""
    sessions: Sessions = current_app.extensions["previews"]
    return sessions
