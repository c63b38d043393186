"""The texts of pages and parts: Markdown and HTML, links and parts by name in them, and the layouts that place them."""

from basilica.core.content.layouts import Layouts, layouts_of
from basilica.core.content.markup import references, rewrite

__all__ = ["Layouts", "layouts_of", "references", "rewrite"]
