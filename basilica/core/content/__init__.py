"""Parts and layouts: how their texts are read, what stands in what, and where each is used."""

from basilica.core.content.layouts import Layouts, layouts_of
from basilica.core.content.markup import references, rewrite

__all__ = ["Layouts", "layouts_of", "references", "rewrite"]
