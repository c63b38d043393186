"""Two versions of a site → what differs: pages, routes, menus, every file that a build would write; and merging."""

from basilica.core.diff.impact import Impact, Moved, Retitled, SiteVersion, impact_of, in_words

__all__ = ["Impact", "Moved", "Retitled", "SiteVersion", "impact_of", "in_words"]
