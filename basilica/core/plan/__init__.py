"""Site → plan: routes, written addresses, layouts, and all that navigation and header say, for each page."""

from basilica.core.navigation.current_entry import why_current
from basilica.core.navigation.menus import Mark, MenuPlan, PlannedEntry
from basilica.core.plan.addresses import Addresses, relative, resolve
from basilica.core.plan.redirects import Redirect
from basilica.core.plan.routes import Route
from basilica.core.plan.site_plan import Plan, every_further, every_language, every_redirect, make_plan, other_languages

__all__ = [
    "Addresses",
    "Mark",
    "MenuPlan",
    "Plan",
    "PlannedEntry",
    "Redirect",
    "Route",
    "every_further",
    "every_language",
    "every_redirect",
    "make_plan",
    "other_languages",
    "relative",
    "resolve",
    "why_current",
]
