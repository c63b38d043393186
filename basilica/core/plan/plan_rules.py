"""What can be said while routes are made, and links are written."""

from __future__ import annotations

from basilica.core.rules.examples import HOME as _HEAD
from basilica.core.rules.rule import COMMON, Level, Rule

PART_TOO_LARGE = Rule(
    code="part-too-large",
    level=Level.ERROR,
    title="A part that is too large",
    why="Parts in parts can grow without bound.",
)

BAD_PATH = Rule(
    code="bad-path",
    level=Level.ERROR,
    title="A path that cannot be an address",
    why="It must name one file and one address.",
)

ADDRESS_CLASH = Rule(
    code="address-clash",
    level=Level.ERROR,
    title="Two pages at one address",
    why="A server answers an address with one page only.",
    standard="RFC 3986, 6.2.2",
    remedy="Give one of them another `path:`.",
    good=_HEAD + "  tides: Tides\n  flour: {title: Flour, path: flours}\n",
    bad=_HEAD + "  tides: Tides\n  flour: {title: Flour, path: TIDES}\n",
)

FILE_CLASH = Rule(
    code="file-clash",
    level=Level.ERROR,
    title="A page where another file must stand",
    why="One would overwrite the other.",
    standard=COMMON,
    remedy="Give the page another `path:`.",
    good=_HEAD + "  files: {title: Files, path: papers}\n",
    bad=_HEAD + "  files: {title: Files, path: /404.html}\n",
)

PATH_TOO_LONG = Rule(
    code="path-too-long",
    level=Level.ERROR,
    title="An address that is too long",
    why="File systems and sitemaps have limits.",
)

REDIRECT_CLASH = Rule(
    code="redirect-clash",
    level=Level.ERROR,
    title="An old address that is in use",
    why="A visitor gets the page that stands there now.",
    standard="RFC 9110, 15.4 Redirection 3xx",
    remedy="Take it out of `was:`, or move what stands there.",
    good=_HEAD + "  tides: {title: Tides, was: /tide-table/}\n  flour: Flour\n",
    bad=_HEAD + "  tides: {title: Tides, was: /flour/}\n  flour: Flour\n",
)

SECTION_LINKED = Rule(
    code="section-linked",
    level=Level.ERROR,
    title="A link to a section",
    why="A section has no page of its own.",
    standard=COMMON,
    remedy="Name a page under it.",
    good={"site.yaml": _HEAD + "  learn: {title: Learn, pages: {a: A}}\n", "content/home.md": "[Learn](page:learn)\n"},
    bad={
        "site.yaml": _HEAD + "  learn: {title: Learn, kind: section, pages: {a: A}}\n",
        "content/home.md": "[Learn](page:learn)\n",
    },
)

DRAFT_LINKED = Rule(
    code="draft-linked",
    level=Level.WARNING,
    title="A link to a draft",
    why="The page is not there; the link keeps its words alone.",
    standard=COMMON,
    remedy="It leads there as soon as the page is no draft; or take the link out.",
    good={"site.yaml": _HEAD + "  tides: Tides\n", "content/home.md": "Our [tides](page:tides).\n"},
    bad={"site.yaml": _HEAD + "  tides: {title: Tides, draft: yes}\n", "content/home.md": "Our [tides](page:tides).\n"},
)

RULES = (
    PART_TOO_LARGE,
    BAD_PATH,
    ADDRESS_CLASH,
    FILE_CLASH,
    PATH_TOO_LONG,
    REDIRECT_CLASH,
    SECTION_LINKED,
    DRAFT_LINKED,
)
"""In the order in which they are listed."""
