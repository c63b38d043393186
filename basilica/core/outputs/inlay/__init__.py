"""The shared stretches of pages that exist already: set between marks, and not a byte outside them is touched."""

from basilica.core.outputs.inlay.inlay_marks import STRETCHES, CannotInlay, Inlaid, inlay
from basilica.core.outputs.inlay.marked_regions import stretches_of

__all__ = ["STRETCHES", "CannotInlay", "Inlaid", "inlay", "stretches_of"]
