"""What is wrong with what heads ask to be made: pictures of the icon, a feed, pictures of pages that are passed on."""

from __future__ import annotations

from basilica.core.map.site.head_reader import AUTO
from basilica.core.plan import Plan
from basilica.core.rules.examples import HOME
from basilica.core.rules.finding import Findings
from basilica.core.rules.rule import Level, Rule
from basilica.core.shared.svg_pictures import problem_with_svg

_DRAWING = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><path d="M0 0h10v10z"/></svg>'
_WITH_TEXT = _DRAWING.replace("<path", "<text>M</text><path")

NO_DRAWING = Rule(
    code="icon-no-drawing",
    level=Level.ERROR,
    title="An icon that is not an SVG file",
    why="Its pictures are made in several sizes, and only an SVG file is sharp in each of them.",
    remedy="Use an SVG file for `icon:`, or remove `touch-icon:` and `manifest: auto`.",
    good={"site.yaml": HOME + "head: {icon: mill.svg, touch-icon: yes}\n", "files/mill.svg": _DRAWING},
    bad={"site.yaml": HOME + "head: {icon: mill.png, touch-icon: yes}\n", "files/mill.png": "x"},
)

SVG_UNUSABLE = Rule(
    code="svg-unusable",
    level=Level.ERROR,
    title="An SVG file that cannot be turned into a picture",
    why="Programs that cannot show SVG need it as pixels.",
    remedy="Save it as plain SVG of shapes, with its text as paths, or use a PNG file.",
    good={"site.yaml": HOME + "head: {social: {picture: mill.svg}}\n", "files/mill.svg": _DRAWING},
    bad={"site.yaml": HOME + "head: {social: {picture: mill.svg}}\n", "files/mill.svg": _WITH_TEXT},
)

FEED_EMPTY = Rule(
    code="feed-empty",
    level=Level.WARNING,
    title="A feed without entries",
    why="The feed is not written.",
    remedy="Give the pages that belong there a `date:`, and the site its `base:`.",
    good=HOME.replace("title: Mill}", "title: Mill, date: 2026-03-01}") + "head: {feed: yes}\n",
    bad=HOME + "head: {feed: yes}\n",
)

RULES = (NO_DRAWING, SVG_UNUSABLE, FEED_EMPTY)


def find(plan: Plan, findings: Findings) -> None:
    """What cannot be made."""
    site, head = plan.site, plan.site.head
    wanted = {}
    if head.touch_icon or head.manifest == AUTO:
        if head.icon.lower().endswith(".svg"):
            wanted[head.icon] = head.at
        else:
            said = f"The icon `{head.icon}` is not an SVG file" if head.icon else "There is no icon"
            findings.add(NO_DRAWING, site.lines.place(head.at), f"{said}, so its pictures cannot be made.")
    if head.social.picture.lower().endswith(".svg"):
        wanted.setdefault(head.social.picture, head.at)
    for page in site.pages.values():
        social = page.options.extra.social
        if social and social.picture.lower().endswith(".svg"):
            wanted.setdefault(social.picture, page.at)
    for name, at in wanted.items():
        problem = problem_with_svg(site.files[f"files/{name}"])
        if problem:
            findings.add(SVG_UNUSABLE, site.lines.place(at), f"No picture can be made of `{name}`: {problem}.")
    if head.feed:
        dated = [key for key in plan.builds() if site.pages[key].options.extra.date]
        lacks = "no page has a `date`" if not dated else "the site has no `base`" if site.base is None else ""
        if lacks:
            findings.add(FEED_EMPTY, site.lines.place(head.at), f"There is no feed, as {lacks}.")
