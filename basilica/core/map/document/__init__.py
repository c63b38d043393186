"""Text → document: nodes that know where they stand."""

from basilica.core.map.document.nodes import Document, Lines, Mapping, Node, Scalar, Sequence
from basilica.core.map.document.yaml_reader import read

__all__ = ["Document", "Lines", "Mapping", "Node", "Scalar", "Sequence", "read"]
