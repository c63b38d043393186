"""The shared regions of pages that exist already: set between marks, and not a byte outside them is touched."""

from basilica.core.outputs.inlay.inlay_marks import REGIONS, CannotInlay, Inlaid, inlay
from basilica.core.outputs.inlay.marked_regions import marked_regions_of

__all__ = ["REGIONS", "CannotInlay", "Inlaid", "inlay", "marked_regions_of"]
