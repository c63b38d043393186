"""Two states of a site → what differs: pages, routes, menus, and every file that a build would write."""

from basilica.core.diff.impact import Edition, Moved, Reach, Retitled, in_words, reach

__all__ = ["Edition", "Moved", "Reach", "Retitled", "in_words", "reach"]
