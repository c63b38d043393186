"""Site → plan: routes, written addresses, menus as each page sees them, breadcrumbs, and what the header does."""

from basilica.core.plan.addresses import Addresses, relative, resolve
from basilica.core.plan.lighting import why_lit
from basilica.core.plan.menus import Mark, MenuPlan, PlannedEntry
from basilica.core.plan.planning import Plan, make_plan
from basilica.core.plan.routes import Route

__all__ = [
    "Addresses",
    "Mark",
    "MenuPlan",
    "Plan",
    "PlannedEntry",
    "Route",
    "make_plan",
    "relative",
    "resolve",
    "why_lit",
]
