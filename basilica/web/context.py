"""What every view reaches for."""

from __future__ import annotations

from flask import current_app

from basilica.services.all_services import Services


def services() -> Services:
    """The services of the running application."""
    found: Services = current_app.extensions["services"]
    return found
