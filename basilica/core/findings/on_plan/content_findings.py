"""What is wrong with the content of pages, held against the plan: pages without it, and content without a page."""

from __future__ import annotations

from basilica.core.content.markup import references
from basilica.core.findings.on_plan.part_findings import PART_UNUSED, links_of_parts
from basilica.core.map.site import site_rules
from basilica.core.plan import Plan
from basilica.core.plan.content_links import NOT_FOUND_KEY, Contents, as_html
from basilica.core.plan.layout_assignment import held, included_parts
from basilica.core.rules.examples import HOME
from basilica.core.rules.finding import Finding, Findings
from basilica.core.rules.place import START
from basilica.core.rules.rule import Level, Rule

NO_CONTENT = Rule(
    code="no-content",
    level=Level.ADVICE,
    title="A page without content",
    why="It is built with its title alone.",
    remedy="Write the file that the message names, or its text in the application.",
    good={"site.yaml": HOME, "content/home.md": "Welcome.\n"},
    bad={"site.yaml": HOME},
)

RULES = (NO_CONTENT,)

_BARE_ONE_BY_ONE = 20
"""More pages without content than this are counted in one finding, so that others can be seen beside it."""


def content_findings(plan: Plan, contents: Contents) -> tuple[Finding, ...]:
    """Pages without content, and content without a page."""
    findings = Findings()
    bare = [plan.site.pages[key] for key in plan.builds(drafts=True) if key not in contents]
    bare = [page for page in bare if page.key not in plan.site.texts and not page.options.from_table]
    for page in bare if len(bare) <= _BARE_ONE_BY_ONE else bare[:1]:
        whose = f"The page `{page.key}` has" if len(bare) <= _BARE_ONE_BY_ONE else f"{len(bare):,} pages have"
        findings.add(
            NO_CONTENT,
            plan.site.lines.place(page.at),
            f"{whose} no content; what is built is the title alone.",
            f"Write content/{page.key}.md, or its text in the application.",
        )
    for key, content in contents.items():
        key = key.partition(".")[0]  # behind it stands a slot of the page
        if key == NOT_FOUND_KEY and key not in plan.site.pages:
            continue
        if key not in plan.routes or plan.routes[key].is_backend:
            findings.add(
                site_rules.CONTENT_UNUSED,
                START,
                f"There is no page `{key}` for this content."
                if key not in plan.site.pages
                else f"The page `{key}` is not built, so this content stands nowhere.",
                file=content.name,
            )
    _parts(plan, contents, findings)
    return findings.done()


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
                f"The part `{name}` stands in no layout, fills no slot, and is in no page's text.",
                f"Fill a slot with it under `slots:`, or write `<part:{name}>` where it should stand.",
                file=part.file,
            )
