"""What the site's own style sheets do to what Basilica makes, without meaning it: a rule of elements that is heavier
than a class takes the place, the lists or the padding of menus and header away."""

from __future__ import annotations

import re
from collections.abc import Callable

from selectolax.lexbor import LexborHTMLParser

from basilica.core.plan import Plan
from basilica.core.rules.examples import TWO_PAGES
from basilica.core.rules.finding import Findings
from basilica.core.rules.place import Place
from basilica.core.rules.rule import Level, Rule
from basilica.core.shared.own_style import Declaration, declarations, matching

STYLE_TAKES_STRUCTURE = Rule(
    code="style-takes-structure",
    level=Level.WARNING,
    title="A CSS rule of your own changes the structure of menus or header",
    why="Closed submenus become visible, lists get bullets, or the header loses its place, on every page.",
    standard="CSS Cascade 5, 6.4; Selectors 4, 17",
    remedy="Limit the rule to your own elements, such as `main ul`; or remove `!important` and put it into a layer.",
    good=TWO_PAGES + "theme: {css: 'ul { padding: 0 }'}\n",
    bad=TWO_PAGES + "theme: {css: 'ul { padding: 0 !important }'}\n",
)
ROOT_FONT_SIZE = Rule(
    code="root-font-size",
    level=Level.ADVICE,
    title="A CSS rule of your own changes the root font size",
    why="Header, menus and pages are sized in `rem`, so all of them change with it.",
    standard="CSS Values 4, 6.1.2",
    remedy="Set it on `body`, or on your own elements.",
    good=TWO_PAGES + "theme: {css: 'body { font-size: 1.1rem }'}\n",
    bad=TWO_PAGES + "theme: {css: 'html { font-size: 62.5% }'}\n",
)
RULES = (STYLE_TAKES_STRUCTURE, ROOT_FONT_SIZE)

_STRUCTURE = re.compile(r"position|display|float|list-style(-\w+)*|padding(-\w+)*|inset(-\w+)*")
_SUBJECT = re.compile(r"(\*|ul|ol|li|a|nav|header|button|\[hidden\])?(:{1,2}[\w-]+(\([^)]*\))?)*")
"""What a rule of elements alone is said of; a class there is the site's own."""
_SKELETON = """<body><a class="b-skip"></a>
<div class="b-utility"><nav class="b-utility-menu" aria-label="1"><ul><li><a></a></li></ul></nav></div>
<div class="b-header-space"><header class="b-header"><div class="b-bar"><a class="b-name"></a>
<nav class="b-main" aria-label="2"><button class="b-menu-button"></button><ul>
<li><a></a><button class="b-submenu-button"></button><ul><li><a></a></li>
</ul></li></ul></nav></div></header></div><nav class="b-breadcrumbs" aria-label="3"><ol><li><a></a></li></ol></nav>
<footer class="b-footer"><nav class="b-footer-menu" aria-label="4"><ul><li><a></a></li></ul></nav></footer></body>"""
"""What is generated on every page, as far as rules of elements can tell it apart."""
_MOST = 20


def find(plan: Plan, findings: Findings) -> None:
    """Add the findings about the style sheet of the theme, and those that every page loads."""
    site = plan.site
    for name in site.head.styles:
        data = site.files.get(f"files/{name}")
        if data is not None:
            _look(data.decode("utf-8", "replace"), findings, lambda line: Place(line, 1), f"files/{name}")
    if site.theme.css:
        _look(site.theme.css, findings, site.place_in_style, "")


def _look(css: str, findings: Findings, place: Callable[[int], Place], file: str) -> None:
    tree = LexborHTMLParser(_SKELETON)
    taken: dict[str, list[Declaration]] = {}
    for one in declarations(css):
        if one.name == "font-size" and one.selector in ("html", ":root") and one.value != "100%":
            message = f"`{one}` (line {one.line} of the style sheet) changes the root font size."
            findings.add(ROOT_FONT_SIZE, place(one.line), message, file=file)
        elif _STRUCTURE.fullmatch(one.name) and _wins(one) and _reaches(tree, one.selector):
            taken.setdefault(one.selector, []).append(one)
    for selector, said in list(taken.items())[:_MOST]:
        names = ", ".join(f"`{name}`" for name in dict.fromkeys(one.name for one in said))
        findings.add(
            STYLE_TAKES_STRUCTURE,
            place(said[0].line),
            f"`{selector[:120]}` (line {said[0].line} of the style sheet) sets {names} of menus, header or breadcrumbs"
            " as well.",
            file=file,
        )


def _wins(one: Declaration) -> bool:
    """Whether a declaration is heavier than the structure, which stands in no layer and weighs one class. What is
    important wins in a layer as well (CSS Cascade 5, 6.1)."""
    weighs = re.search(r"[#.\[]|:(?!:|where)", re.sub(r":where\([^)]*\)", "", one.selector))
    return one.important or (weighs is not None and not one.layer)


def _reaches(tree: LexborHTMLParser, selector: str) -> bool:
    """Whether a rule of elements is about something generated. One that names a class of Basilica's is meant so."""
    subject = re.split(r"[\s>+~]+", selector)[-1]
    if ".b-" in selector or not subject or not _SUBJECT.fullmatch(subject):
        return False
    return "[hidden]" in subject or bool(matching(tree, re.sub(r"::?[\w-]+(\([^)]*\))?$", "", selector) or "*"))
