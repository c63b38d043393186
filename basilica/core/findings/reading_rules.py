"""What is checked while the map is read, since nothing can be built without it.

The stage that reads a thing says what is wrong with it; here is what the documentation and the tests know of each:
a map that is sound, and one that is not.
"""

from __future__ import annotations

from basilica.core.findings.check import COMMON, Check, Example, Reads
from basilica.core.rules.rule import RULES

_HEAD = "site: {name: Mill, base: 'https://mill.example'}\npages:\n  home: {path: /, title: Mill}\n"
_TWO = _HEAD + "  tides: Tides\n  flour: Flour\n"


def _check(code: str, standard: str, remedy: str, good: Example, bad: Example) -> Check:
    kind = RULES[code]
    return Check(code, kind.level, kind.title, kind.why, standard, remedy, good, bad, Reads.MAP, None)


IN_STAGES = (
    _check(
        "unknown-page",
        COMMON,
        "Write the key of a page of the map.",
        _TWO + "menus:\n  main: [home, tides]\n",
        _TWO + "menus:\n  main: [home, tide]\n",
    ),
    _check(
        "ambiguous-page",
        COMMON,
        "Write more of its key, from the top.",
        _HEAD + "  a: {title: A, pages: {hours: Hours}}\n  b: {title: B, pages: {hours: Hours}}\n"
        "menus:\n  main: [home, a/hours]\n",
        _HEAD + "  a: {title: A, pages: {hours: Hours}}\n  b: {title: B, pages: {hours: Hours}}\n"
        "menus:\n  main: [home, hours]\n",
    ),
    _check(
        "address-clash",
        "RFC 3986, 6.2.2",
        "Give one of them another `path:`.",
        _HEAD + "  tides: Tides\n  flour: {title: Flour, path: flours}\n",
        _HEAD + "  tides: Tides\n  flour: {title: Flour, path: TIDES}\n",
    ),
    _check(
        "file-clash",
        COMMON,
        "Give the page another `path:`.",
        _HEAD + "  files: {title: Files, path: papers}\n",
        _HEAD + "  files: {title: Files, path: /404.html}\n",
    ),
    _check(
        "redirect-clash",
        "RFC 9110, 15.4 Redirection 3xx",
        "Take it out of `was:`, or move what stands there.",
        _HEAD + "  tides: {title: Tides, was: /tide-table/}\n  flour: Flour\n",
        _HEAD + "  tides: {title: Tides, was: /flour/}\n  flour: Flour\n",
    ),
    _check(
        "duplicate-entry",
        COMMON,
        "Take one of the two out.",
        _TWO + "menus:\n  main: [home, tides, flour]\n",
        _TWO + "menus:\n  main: [home, tides, flour, tides]\n",
    ),
    _check(
        "empty-group",
        "WAI-ARIA APG, disclosure navigation",
        "Write `items:` below it, or take it out.",
        _TWO + "menus:\n  main:\n    - home\n    - group: Learn\n      items: [tides]\n",
        _TWO + "menus:\n  main:\n    - home\n    - group: Learn\n",
    ),
    _check(
        "empty-section",
        COMMON,
        "Write `pages:` below it, or take `kind: section` out.",
        _HEAD + "  learn: {title: Learn, kind: section, pages: {tides: Tides}}\n",
        _HEAD + "  learn: {title: Learn, kind: section}\n",
    ),
    _check(
        "home-not-in-menu",
        COMMON,
        "Add it, or leave it: the site's name leads home too.",
        _TWO + "menus:\n  main: [home, tides]\n",
        _TWO + "menus:\n  main: [tides]\n",
    ),
    _check(
        "draft-entry",
        COMMON,
        "Take `draft: yes` out once the page is ready.",
        _HEAD + "  tides: Tides\nmenus:\n  main: [home, tides]\n",
        _HEAD + "  tides: {title: Tides, draft: yes}\nmenus:\n  main: [home, tides]\n",
    ),
    _check(
        "draft-linked",
        COMMON,
        "It leads there as soon as the page is no draft; or take the link out.",
        {"site.yaml": _HEAD + "  tides: Tides\n", "content/home.md": "Our [tides](page:tides).\n"},
        {"site.yaml": _HEAD + "  tides: {title: Tides, draft: yes}\n", "content/home.md": "Our [tides](page:tides).\n"},
    ),
    _check(
        "section-linked",
        COMMON,
        "Name a page under it.",
        {"site.yaml": _HEAD + "  learn: {title: Learn, pages: {a: A}}\n", "content/home.md": "[Learn](page:learn)\n"},
        {
            "site.yaml": _HEAD + "  learn: {title: Learn, kind: section, pages: {a: A}}\n",
            "content/home.md": "[Learn](page:learn)\n",
        },
    ),
    _check(
        "hidden-entry",
        COMMON,
        "Take one of the two out.",
        _HEAD + "  tides: {title: Tides, hidden: menus}\nmenus:\n  main: [home]\n",
        _HEAD + "  tides: {title: Tides, hidden: menus}\nmenus:\n  main: [home, tides]\n",
    ),
    _check(
        "poor-contrast",
        "WCAG 2.2, 1.4.3 Contrast (Minimum)",
        "Choose a darker or a lighter colour.",
        _TWO + "theme: {ink: '#767676', ground: '#ffffff'}\n",
        _TWO + "theme: {ink: '#777777', ground: '#ffffff'}\n",
    ),
    _check(
        "header-unreadable",
        "WCAG 2.2, 1.4.3 Contrast (Minimum)",
        "Write a larger `opacity:`.",
        _TWO + "header: {behaviour: sticky, opacity: 100}\n",
        _TWO + "header: {behaviour: sticky, opacity: 40}\n",
    ),
    _check(
        "header-flickers",
        COMMON,
        "Write the `threshold-margin:` that is offered, or `space: kept`.",
        _TWO + "header: {behaviour: shrink}\n",
        _TWO + "header: {behaviour: shrink, space: follows, threshold-margin: 4}\n",
    ),
    _check(
        "header-takes-much",
        "WCAG 2.2, 1.4.10 Reflow; common practice",
        "Write a smaller height, or `min-window:`.",
        _TWO + "header: {behaviour: sticky, height: 60}\n",
        _TWO + "header: {behaviour: sticky, height: 300}\n",
    ),
)
