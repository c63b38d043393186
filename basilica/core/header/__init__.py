"""The header: its settings settled, what it does as one table, and everything that can be worked out from that.

``state_machine`` has the table, ``simulation`` runs it over a page, ``header_style`` and ``header_script`` write what
browsers run; ``legibility``, ``viewport_share`` and ``sticky_rules`` work out what findings are made from.
"""

from basilica.core.header.header_plan import BreakpointVariant, HeaderPlan, plan_headers
from basilica.core.header.header_settings import Settings, Windows
from basilica.core.header.simulation import ScrollFrame, Viewport, simulate
from basilica.core.header.state_machine import Guard, Machine, Table, Transition, table_of

__all__ = [
    "BreakpointVariant",
    "Guard",
    "HeaderPlan",
    "Machine",
    "ScrollFrame",
    "Settings",
    "Table",
    "Transition",
    "Viewport",
    "Windows",
    "plan_headers",
    "simulate",
    "table_of",
]
