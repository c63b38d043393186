"""Two states of a site → what differs: pages, routes, menus, and every file that a build would write."""

from basilica.core.diff.impact import Impact, Moved, Retitled, SiteVersion, impact_of, in_words

__all__ = ["Impact", "Moved", "Retitled", "SiteVersion", "impact_of", "in_words"]
