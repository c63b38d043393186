"""What is wrong with the content of pages, held against the plan: pages without it, and content without a page."""

from __future__ import annotations

import re

from basilica.core.content.markup import references
from basilica.core.findings.on_plan.html_findings import html_faults
from basilica.core.findings.on_plan.part_findings import PART_UNUSED, links_of_parts
from basilica.core.map.content_heads import read_head
from basilica.core.map.site import site_rules
from basilica.core.plan import Plan
from basilica.core.plan.content_links import NOT_FOUND_KEY, Content, Contents, as_html
from basilica.core.plan.layout_assignment import held, included_parts
from basilica.core.rules.examples import HOME
from basilica.core.rules.finding import Finding, Findings, Fix
from basilica.core.rules.place import START, Place
from basilica.core.rules.rule import Level, Rule

NO_CONTENT = Rule(
    code="no-content",
    level=Level.ADVICE,
    title="A page without content",
    why="The page shows only its title.",
    remedy="Write the file that the message names, or its text in the application.",
    good={"site.yaml": HOME, "content/home.md": "Welcome.\n"},
    bad={"site.yaml": HOME},
)

CONTENT_HEAD = Rule(
    code="content-head",
    level=Level.WARNING,
    title="The head of a text cannot be read",
    why="Its settings are ignored.",
    remedy="Write a word, a colon and its value on each line between the two `---`.",
    good={"site.yaml": HOME, "content/home.md": "---\ntitle: The mill\n---\nWelcome.\n"},
    bad={"site.yaml": HOME, "content/home.md": "---\ntitle: [The, mill]\n---\nWelcome.\n"},
)

HEAD_UNREAD = Rule(
    code="content-head-unread",
    level=Level.ADVICE,
    title="The head of a text has settings that are not read",
    why="Only title, label, description, draft, date and updated are read there.",
    remedy="Move it to the page in the map, if there is a word for it; or leave it for other tools.",
    good={"site.yaml": HOME, "content/home.md": "---\ntitle: The mill\n---\nWelcome.\n"},
    bad={"site.yaml": HOME, "content/home.md": "---\nauthor: Somebody\n---\nWelcome.\n"},
)

SAID_TWICE = Rule(
    code="said-twice",
    level=Level.ADVICE,
    title="A setting is in the map and in the page's text",
    why="The map wins, so a change in the text has no effect.",
    remedy="Remove it from one of the two.",
    good={"site.yaml": HOME, "content/home.md": "---\ndescription: A mill.\n---\nWelcome.\n"},
    bad={
        "site.yaml": HOME + "  mill: {title: Mill}\n",
        "content/home.md": "Welcome.\n",
        "content/mill.md": "---\ntitle: The mill\n---\n",
    },
)

_OVER = HOME.replace("home: {", "home: {header: {over-picture: yes}, ")
_BEGINS = '<div class="b-full"><img src="data:," alt="The wheel" width="1600" height="600"></div>\n'
HEADER_OVER_TEXT = Rule(
    code="header-over-text",
    level=Level.WARNING,
    title="A header over a picture, on a page without one",
    why="The header covers the page's heading, and neither can be read.",
    remedy="Begin the text with a picture, in an element with the class `b-full`, and write its "
    "heading with `<h1>` below or in it; or set `over-picture: no` for the header of this"
    " page.",
    good={"site.yaml": _OVER, "content/home.html": _BEGINS + "<h1>Mill</h1>\n"},
    bad={"site.yaml": _OVER, "content/home.html": "<h1>Mill</h1>\n" + _BEGINS},
)
RULES = (
    NO_CONTENT,
    CONTENT_HEAD,
    HEAD_UNREAD,
    SAID_TWICE,
    HEADER_OVER_TEXT,
)

_PICTURE_FIRST = re.compile(
    r"\s*(?:<(?:p|div|section|figure|header|a)\b[^>]*>\s*)*"
    r"<(?:img|picture|video|svg|canvas|(?:div|section|figure|header)\b[^>]*\bclass=[\"'][^\"']*\bb-full\b)",
    re.IGNORECASE,
)
"""What a page begins with that lies under a header. A box as wide as the window may have its picture from a style."""
_BARE_ONE_BY_ONE = 20
"""More pages without content than this are counted in one finding, so that others can be seen beside it."""


def content_findings(plan: Plan, contents: Contents) -> tuple[Finding, ...]:
    """Pages without content, and content without a page."""
    findings = Findings()
    # A draft in another language is a page that is not translated.
    bare = [plan.site.pages[key] for key in plan.builds(drafts=plan.site.is_first) if key not in contents]
    bare = [page for page in bare if page.key not in plan.site.texts and not page.options.from_table]
    bare = [page for page in bare if page.key not in plan.drafts or not plan.there_in(page.key)]
    ending = f".{plan.site.language}" if not plan.site.is_first else ""
    for page in bare if len(bare) <= _BARE_ONE_BY_ONE else bare[:1]:
        whose = f"The page `{page.key}` has" if len(bare) <= _BARE_ONE_BY_ONE else f"{len(bare):,} pages have"
        findings.add(
            NO_CONTENT,
            plan.site.lines.place(page.at),
            f"{whose} no content; what is built is the title alone.",
            f"Write content/{page.key}{ending}.md, or its text in the application.",
        )
    _under_headers(plan, contents, findings)
    for key, content in contents.items():
        _head(plan, key, content, findings)
        for rule, line, column, message in html_faults(content):
            findings.add(rule, Place(line, column), message, file=content.name)
        key = key.partition(".")[0]  # behind it stands a slot of the page
        if key == NOT_FOUND_KEY and key not in plan.site.pages:
            continue
        if key not in plan.routes or plan.routes[key].is_backend:
            findings.add(
                site_rules.CONTENT_UNUSED,
                START,
                f"There is no page `{key}` for this content."
                if key not in plan.site.pages
                else f"The page `{key}` is not built, so this content is shown nowhere.",
                file=content.name,
            )
    if plan.site.is_first:  # in another language not every page is there
        _parts(plan, contents, findings)
    return findings.done()


def _under_headers(plan: Plan, contents: Contents, findings: Findings) -> None:
    """Pages whose header lies over what they begin with, and that is no picture."""
    over = {number for number, header in enumerate(plan.headers) if header.plain.over_picture == "yes"}
    if not over:
        return
    for key in plan.builds(drafts=True):
        content = contents.get(key)
        body = as_html(content) if content is not None else None
        if plan.headers_of.get(key, 0) in over and not (body and body.has_title and _PICTURE_FIRST.match(body.html)):
            findings.add(
                HEADER_OVER_TEXT,
                plan.site.lines.place(plan.site.pages[key].at),
                f"The header of `{key}` lies over the beginning of the page, which is not a picture.",
            )


def _head(plan: Plan, key: str, content: Content, findings: Findings) -> None:
    """What is off with the head of a text."""
    head = read_head(content)
    page = plan.site.pages.get(key)
    for message, place in head.problems:
        findings.add(CONTENT_HEAD, place, f"The head of this text: {message}", file=content.name)
    if head.others:
        names = ", ".join(f"`{name[:40]}`" for name, _ in head.others[:6])
        more = f" and {len(head.others) - 6} more" if len(head.others) > 6 else ""
        message = f"The head of this text says {names}{more}, which is not read."
        findings.add(HEAD_UNREAD, head.others[0][1], message, file=content.name)
    if page is None and head.lines:
        message = "The head of this text is not read: it is not the text of a page of the map."
        findings.add(HEAD_UNREAD, Place(head.lines[0][1], 1), message, "Remove the head.", file=content.name)
        return
    for word, line, after in head.lines:
        if page is None or word in page.from_text:
            continue
        said = {
            "title": page.title,
            "label": page.label,
            "description": page.description or "",
            "draft": "yes" if page.options.draft else "no",
            "date": page.options.extra.date,
            "updated": page.options.extra.updated,
        }[word]
        findings.add(
            SAID_TWICE,
            Place(line, 1),
            f"The map says the {word} of `{key}` as well: `{said[:80]}`. The map wins.",
            "Remove it here; or in the map, if this is the right one.",
            content.name,
            Fix(Place(line, 1), Place(after, 1), ""),
        )


def _parts(plan: Plan, contents: Contents, findings: Findings) -> None:
    """Parts that no page shows."""
    site = plan.site
    placed = {name for assignment in plan.assignments.all for name in included_parts(site, assignment)}
    shown = set(placed)
    waiting = [name for content in contents.values() for name in references(as_html(content).html)]
    while waiting:
        name = waiting.pop()
        if name not in shown:
            shown.add(name)
            waiting += held(site, name)
    late = [name for name, part in site.parts.items() if part.file and name in shown and name not in placed]
    links_of_parts(plan, late, findings)
    for name, part in site.parts.items():
        if name not in shown:
            findings.add(
                PART_UNUSED,
                START if part.file else site.lines.place(part.at),
                f"The part `{name}` is in no layout, in no slot and in no page's text.",
                f"Fill a slot with it under `slots:`, or write `<part:{name}>` where you want it.",
                file=part.file,
            )
