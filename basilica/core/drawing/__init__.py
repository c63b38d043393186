"""Plan → drawing: the page map, the header from the side. Where everything stands; lengths are CSS px."""

from basilica.core.drawing.plan_drawing import Cell, Connector, Drawing, MenuColumn, Node, draw, folds
from basilica.core.shared.text_metrics import text_width, wrap

__all__ = ["Cell", "Connector", "Drawing", "MenuColumn", "Node", "draw", "folds", "text_width", "wrap"]
