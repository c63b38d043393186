"""The shared regions of pages that exist already: set between marks, and not a byte outside them is touched."""

from basilica.core.outputs.inlay.inlay_marks import (
    CannotInlay,
    Inlaid,
    PutIn,
    has_set_in,
    inlay,
    names_in,
    outside_marks,
    with_marks,
    without_marks,
)
from basilica.core.outputs.inlay.marked_regions import (
    CONTENT,
    NAMED_REGIONS,
    REGIONS,
    marked_regions_of,
    region_names,
    with_looks,
)
from basilica.core.outputs.inlay.new_page import NewPage, page_like

__all__ = [
    "CONTENT",
    "NAMED_REGIONS",
    "REGIONS",
    "CannotInlay",
    "Inlaid",
    "NewPage",
    "PutIn",
    "has_set_in",
    "inlay",
    "marked_regions_of",
    "names_in",
    "outside_marks",
    "page_like",
    "region_names",
    "with_looks",
    "with_marks",
    "without_marks",
]
