"""Parts and layouts: how their texts are read, what stands in what, and where each is used."""

from basilica.core.parts.layouts import Layouts, layouts_of
from basilica.core.parts.markup import references, rewrite

__all__ = ["Layouts", "layouts_of", "references", "rewrite"]
