"""The application on a store of its own, as the tests of the web have it."""

from tests.web.conftest import client, previews, services, sessions

__all__ = ["client", "previews", "services", "sessions"]
