"""What can be said of the pages of a site that exists: that one differs from what most of them have."""

from __future__ import annotations

from basilica.core.exchange.site_import.import_report import called
from basilica.core.exchange.site_import.imported_site import ImportedSite
from basilica.core.rules.finding import Finding, printable
from basilica.core.rules.rule import Level, Rule, Stage

_PAGE = (
    '<ul id="menu"><li><a href="index.html">Home</a></li>{}<li><a href="flour.html">Flour</a></li></ul><main>{}</main>'
)
_TIDES = '<li><a href="tides.html">Tides</a></li>'
_SOUND = {"index.html": _PAGE.format(_TIDES, "Home"), "tides.html": _PAGE.format(_TIDES, "Tides")}

DIFFERS_FROM_MOST = Rule(
    code="differs-from-most",
    stage=Stage.EXISTING,
    level=Level.WARNING,
    title="A page that differs from most",
    why="Shared parts were copied by hand, and one copy was missed. Usually most pages are right.",
    standard="WCAG 2.2, 3.2.3 Consistent Navigation, 3.2.4 Consistent Identification",
    remedy="Change it to match the other pages; or import the site with `basilica import`, which"
    " makes all of them from one map.",
    good={**_SOUND, "flour.html": _PAGE.format(_TIDES, "Flour")},
    bad={**_SOUND, "flour.html": _PAGE.format("", "Flour, and how it is ground")},
)

SAID_TWICE = ("stale-menu", "part-differs")
"""Checks that say the same of pages with landmarks; one of the two is enough."""

RULES = (DIFFERS_FROM_MOST,)
"""In the order in which they are listed."""


def drift_findings(site: ImportedSite) -> tuple[Finding, ...]:
    """A finding for each difference, in every language, at its line in the file of the page."""
    rule = DIFFERS_FROM_MOST
    return tuple(
        Finding(
            rule,
            printable(f"{one.file} differs from most pages in {_where(one.block)}: {one.words}."),
            rule.remedy,
            one.line,
            one.column,
            file=printable(one.file),
            built=one.file,
        )
        for version in site.in_languages
        for one in version.drift
    )


def _where(block: str) -> str:
    return f"`{called(block)}`" if block else "its head"
