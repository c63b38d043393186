"""What can be said while the links and parts in a text are written."""

from __future__ import annotations

from basilica.core.rules.examples import HOME, TWO_PAGES
from basilica.core.rules.rule import COMMON, Level, Rule

PART_TOO_LARGE = Rule(
    code="part-too-large",
    level=Level.ERROR,
    title="A part that is too large",
    why="Parts inside parts can grow without limit.",
    remedy="Use other parts in it less often.",
    good=HOME + "slots: {after: a}\nparts: {a: '<part:b>', b: Open daily.}\n",
    bad=HOME + f"slots: {{after: a}}\nparts: {{a: '{'<part:b>' * 50}', b: '{'Open daily. ' * 400}'}}\n",
)

SECTION_LINKED = Rule(
    code="section-linked",
    level=Level.ERROR,
    title="A link to a section",
    why="A section has no page of its own.",
    standard=COMMON,
    remedy="Name a page under it.",
    good={"site.yaml": HOME + "  learn: {title: Learn, pages: {a: A}}\n", "content/home.md": "[Learn](page:learn)\n"},
    bad={
        "site.yaml": HOME + "  learn: {title: Learn, kind: section, pages: {a: A}}\n",
        "content/home.md": "[Learn](page:learn)\n",
    },
)

DRAFT_LINKED = Rule(
    code="draft-linked",
    level=Level.WARNING,
    title="A link to a draft",
    why="The page is not there; only the text of the link is shown.",
    standard=COMMON,
    remedy="Publish the page, or remove the link.",
    good={"site.yaml": HOME + "  tides: Tides\n", "content/home.md": "Our [tides](page:tides).\n"},
    bad={"site.yaml": HOME + "  tides: {title: Tides, draft: yes}\n", "content/home.md": "Our [tides](page:tides).\n"},
)

PARAMETER_MISSING = Rule(
    code="parameter-missing",
    level=Level.ERROR,
    title="A link without a value that its address needs",
    why="The address has a parameter, and a link must lead to one page.",
    standard=COMMON,
    remedy="Add the value to the page: `page:swimmers?id=7`.",
    good={
        "site.yaml": HOME + "  tables: {title: Tables, kind: backend, path: '/tables/{month}/'}\n",
        "content/home.md": "The [tides of May](page:tables?month=5).\n",
    },
    bad={
        "site.yaml": HOME + "  tables: {title: Tables, kind: backend, path: '/tables/{month}/'}\n",
        "content/home.md": "The [tides of May](page:tables).\n",
    },
)


_MENU = (
    '<nav aria-label="{{ menu.label }}"><ul>{% for entry in menu.entries %}'
    '<li><a href="{{ entry.address }}"{% if entry.current %} aria-current="{{ entry.current }}"{% endif %}>'
    "{{ entry.label }}</a></li>{% endfor %}</ul></nav>"
)
TEMPLATE_UNUSABLE = Rule(
    code="template-unusable",
    level=Level.ERROR,
    title="An own template that cannot be used",
    why="The pages that use it would miss that part.",
    remedy="See docs/own-templates.md for what a template can contain.",
    good={"site.yaml": TWO_PAGES, "templates/menu.html": _MENU},
    bad={"site.yaml": TWO_PAGES, "templates/menu.html": _MENU.replace("entry.label", "entry.title")},
)

TEMPLATE_HIDES = Rule(
    code="template-hides",
    level=Level.ERROR,
    title="An own template hides links from some people",
    why="People who use a keyboard or a screen reader never reach what only a mouse can open.",
    standard="WCAG 2.2, 2.1.1 Keyboard",
    remedy="Show it without script; a button with `aria-controls`, or `details`, can fold it.",
    good={"site.yaml": TWO_PAGES, "templates/menu.html": _MENU},
    bad={"site.yaml": TWO_PAGES, "templates/menu.html": _MENU.replace("<a ", '<a tabindex="-1" ')},
)

TEMPLATE_TAGS = Rule(
    code="template-tags",
    level=Level.ERROR,
    title="A tag in an own template or a layout that is not closed, or was never opened",
    why="Everything after it on the page ends up inside it, and the piece cannot be used on its own elsewhere.",
    standard="HTML, 13.1.2 Elements",
    remedy="Close the element in the same template. What surrounds a whole page belongs in "
    "`templates/page.html` or in a layout.",
    good={"site.yaml": TWO_PAGES, "templates/menu.html": _MENU},
    bad={"site.yaml": TWO_PAGES, "templates/menu.html": _MENU.replace("</nav>", "")},
)

_TWO_LANGUAGES = (
    "site: {{name: Mill, base: 'https://mill.example', languages: [en, cy]}}\n"
    "pages:\n  home: {{path: /, title: Home{}}}\n"
)
LANGUAGE_NOT_BUILT = Rule(
    code="language-not-built",
    level=Level.WARNING,
    title="A language without pages",
    why="Its address would lead to no page.",
    standard=COMMON,
    remedy="Give the home page its title in that language, such as `cy: Hafan`.",
    good=_TWO_LANGUAGES.format(", cy: Hafan"),
    bad=_TWO_LANGUAGES.format(""),
)


def lacks(key: str, missing: tuple[str, ...]) -> tuple[str, str]:
    """The message and the remedy for a link that lacks values."""
    names = ", ".join(f"`{name}`" for name in missing)
    example = "&".join(f"{name}=…" for name in missing)
    return f"The address of the page `{key}` needs a value for {names}.", f"Write `{key}?{example}`."


RULES = (
    PART_TOO_LARGE,
    SECTION_LINKED,
    DRAFT_LINKED,
    PARAMETER_MISSING,
    TEMPLATE_UNUSABLE,
    TEMPLATE_HIDES,
    TEMPLATE_TAGS,
    LANGUAGE_NOT_BUILT,
)
"""In the order in which they are listed."""
