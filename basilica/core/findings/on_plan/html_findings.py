"""What is wrong with the HTML that stands in the texts of pages and parts, and in what layouts write."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from basilica.core.content import Layouts, layouts_of
from basilica.core.content.own_html import own_html
from basilica.core.findings.on_source import no_words, tags_off
from basilica.core.plan import Plan
from basilica.core.plan.plan_rules import TEMPLATE_TAGS
from basilica.core.rules.examples import HOME
from basilica.core.rules.finding import Findings
from basilica.core.rules.place import Place
from basilica.core.rules.rule import Level, Rule
from basilica.core.shared.html_scanner import scan
from basilica.core.shared.markdown import Content
from basilica.core.shared.output_file import File
from basilica.core.site_reader.page_source import PageSource
from basilica.core.site_reader.tag_balance import line_of_tag, unbalanced

CONTENT_TAGS = Rule(
    code="content-tags",
    level=Level.WARNING,
    title="A tag in a text that is not closed, or was never opened",
    why=tags_off.RULE.why,
    remedy=tags_off.RULE.remedy,
    standard=tags_off.RULE.standard,
    good={"site.yaml": HOME, "content/home.html": "<div><b>Tides</b></div>"},
    bad={"site.yaml": HOME, "content/home.html": "<div><b>Tides</div></b>"},
)

CONTENT_NO_WORDS = Rule(
    code="content-no-words",
    level=Level.WARNING,
    title="A picture, a field, a button or a frame in a text that has no name",
    why=no_words.RULE.why,
    remedy=no_words.RULE.remedy,
    standard=no_words.RULE.standard,
    good={"site.yaml": HOME, "content/home.html": '<img src="data:," alt="The wheel">'},
    bad={"site.yaml": HOME, "content/home.html": '<p><img src="data:,"></p>'},
)
RULES = (CONTENT_TAGS, CONTENT_NO_WORDS)

_PART = b"part:"
"""So begins the name of a tag that a part stands for; it closes nothing."""
_FAULTS = 20
"""Of one text so many are listed."""


def find(plan: Plan, findings: Findings) -> None:
    """Add the findings about the parts that are written in the map or in a file, and about every layout."""
    site = plan.site
    for name, part in site.parts.items():
        content = Content(part.file or f"{name}.{'md' if part.markup == 'markdown' else 'html'}", part.text)
        for rule, line, column, message in html_faults(content, part.file or f"`{name}`"):
            place = Place(line, column) if part.file else site.lines.place(part.text_at)
            findings.add(rule, place, message, file=part.file)
    layouts = layouts_of(site.files)
    for name in layouts.good:
        said = {words: line for written in layouts.written(name) for line, words in _of_layout(layouts, name, written)}
        for words, line in said.items():
            findings.add(TEMPLATE_TAGS, Place(line, 1), f"The layout has {words}.", file=f"page-layouts/{name}.html")


def _of_layout(layouts: Layouts, name: str, written: str) -> Iterator[tuple[int, str]]:
    """The line and the words of each tag that has no other in what a layout writes. One that does not stand in it is
    the fault of the layout that it extends."""
    data = written.encode("utf-8", "replace")
    for tag, words in unbalanced(data, scan(data)):
        line = line_of_tag(layouts.sources[name], tag)
        if line:
            yield line, words


@lru_cache(maxsize=4096)
def html_faults(content: Content, called: str = "") -> tuple[tuple[Rule, int, int, str], ...]:
    """What is off with the HTML in a text: the rule, the line, the column, and the message, in which the text is
    ``called`` that, or by its file."""
    text = own_html(content)
    if not text:
        return ()
    page = PageSource(File(called or content.name, text.encode("utf-8", "replace")))
    tags = (piece for piece in page.pieces if not piece.name.startswith(_PART))
    faults = [(CONTENT_TAGS, tag.start, f"{page.file} has {words}.") for tag, words in unbalanced(page.data, tags)]
    faults += [(CONTENT_NO_WORDS, *fault) for fault in no_words.faults(page)]
    return tuple((rule, *page.place(at), message) for rule, at, message in faults[:_FAULTS])
