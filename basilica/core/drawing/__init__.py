"""Plan → drawing: where everything stands when the page map is drawn. Lengths are CSS px."""

from basilica.core.drawing.plan_drawing import Bay, Cell, Drawing, Node, Tie, draw, folds
from basilica.core.shared.text_metrics import text_width, wrap

__all__ = ["Bay", "Cell", "Drawing", "Node", "Tie", "draw", "folds", "text_width", "wrap"]
