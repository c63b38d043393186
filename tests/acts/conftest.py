"""The application on a store of its own, as the tests of the web have it."""

from tests.web.conftest import client, demo_data, previews, services, sessions, templates

__all__ = ["client", "demo_data", "previews", "services", "sessions", "templates"]
