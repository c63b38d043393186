"""Text → document: nodes that know where they stand."""

from basilica.core.document.nodes import Document, Lines, Mapping, Node, Scalar, Sequence
from basilica.core.document.reading import read

__all__ = ["Document", "Lines", "Mapping", "Node", "Scalar", "Sequence", "read"]
