"""Where the links of existing pages lead."""

from __future__ import annotations

from collections.abc import Callable

from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.site_reader.link_resolver import Target

Follow = Callable[[OldPage, str], Target]
"""The target of a link on a page, by the address that is written there."""
