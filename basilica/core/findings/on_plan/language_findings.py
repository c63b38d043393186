"""What of a site in several languages is in another than its page: words that were left as they are in the first."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.map.map_files import PUBLIC
from basilica.core.map.site import EntryKind
from basilica.core.plan import Plan
from basilica.core.plan.routes import comparable
from basilica.core.rules.finding import Findings
from basilica.core.rules.place import START
from basilica.core.rules.rule import Level, Rule
from basilica.core.shared.markdown import Content, Contents, as_html

_MAP = (
    "site: {{name: Mill, base: 'https://mill.example', languages: [en, cy], cy: Melin}}\n"
    "pages:\n  home: {{path: /, title: Home, cy: Hafan}}\n  tides: {{title: Tides, cy: {title}}}\n"
    "menus:\n  main: [home, {{group: Learn{group}, items: [tides]}}]\n"
)

UNTRANSLATED = Rule(
    code="untranslated",
    level=Level.WARNING,
    title="Text in another language than its page",
    why="Readers of the page do not understand it, and screen readers mispronounce it.",
    standard="WCAG 2.2, 3.1.2 Language of Parts",
    remedy="Write it under the tag of the language, such as `cy: …`, beside the others.",
    good=_MAP.format(title="Llanw", group=", cy: Dysgu"),
    bad=_MAP.format(title="Llanw", group=""),
)

SAME_IN_BOTH = Rule(
    code="same-in-both",
    level=Level.ADVICE,
    title="A page with the same title in two languages",
    why="A title that was copied to be translated later looks like this.",
    remedy="Translate it, or leave it if the name is the same in both.",
    good=_MAP.format(title="Llanw", group=", cy: Dysgu"),
    bad=_MAP.format(title="Tides", group=", cy: Dysgu"),
)

LANGUAGE_CLASH = Rule(
    code="language-clash",
    level=Level.ERROR,
    title="A page at an address that a language uses",
    why="One of the two would be lost.",
    remedy="Give the page another `path:`, or remove the file from `public`.",
    good=_MAP.format(title="Llanw", group=", cy: Dysgu"),
    bad=_MAP.format(title="Llanw", group=", cy: Dysgu").replace("menus:", "  cy: Wales\nmenus:"),
)

RULES = (UNTRANSLATED, SAME_IN_BOTH, LANGUAGE_CLASH)


def find(plan: Plan, findings: Findings) -> None:
    """What stands in this language as in the first. Nothing for the first itself."""
    if plan.site.is_first:
        return
    first, site = plan.languages[plan.site.languages[0]].site, plan.site
    taken = {comparable(route.file): key for key, route in plan.routes.items() if not route.is_backend}
    for key, route in plan.languages[first.language].routes.items():
        if not route.is_backend and comparable(route.file) in taken:
            message = f"The page `{key}` is at {route.path}, where the pages in `{site.language}` begin."
            findings.add(LANGUAGE_CLASH, site.lines.place(first.pages[key].at), message)
    for name in site.files.public:
        if comparable(name) in taken:
            message = f"The file {PUBLIC}/{name} is where a page in `{site.language}` is."
            findings.add(LANGUAGE_CLASH, site.lines.place(site.pages[taken[comparable(name)]].at), message)
    for what, words, at, file in _shared_words(plan):
        findings.add(
            UNTRANSLATED, site.lines.place(at), f"{what} says `{words[:60]}`, as in `{first.language}`.", file=file
        )
    for key in plan.builds():
        page, before = site.pages[key], first.pages[key]
        if page.title == before.title and not page.is_home and plan.languages[first.language].is_built(key):
            message = f"The page `{key}` is called `{page.title[:60]}` in `{first.language}` as well."
            findings.add(SAME_IN_BOTH, site.lines.place(page.at), message)


def same_texts(plan: Plan, own: Contents, first: Contents, findings: Findings) -> None:
    """The texts of pages that are those of the first language, word for word."""
    for key in plan.builds():
        text, before = own.get(key), first.get(key)
        if text is None or before is None or not _words_of(text) or _words_of(text) != _words_of(before):
            continue
        message = f"The text of `{key}` is the one in `{plan.site.languages[0]}`, word for word."
        findings.add(SAME_IN_BOTH, START, message, "Translate it, or remove the file.", file=text.name)


def _words_of(text: Content) -> str:
    return as_html(text).html.strip()


def _shared_words(plan: Plan) -> Iterator[tuple[str, str, int, str]]:
    """What pages share and says the same as in the first language: what it is, its words, its place and its file."""
    site = plan.site
    first = plan.languages[site.languages[0]].site
    for name, menu in site.menus.items():
        before = {entry.at: entry.label for entry in first.menus[name].entries} if name in first.menus else {}
        for entry in menu.entries:
            if entry.kind is EntryKind.GROUP and before.get(entry.at) == entry.label:
                yield f"The group of the menu `{name}`", entry.label, entry.at, ""
    for name, part in site.parts.items():
        other = first.parts.get(name)
        words = part.text or part.value("title") or part.value("opening")
        if (
            other is not None
            and words
            and (part.text, part.values) == (other.text, other.values)
            and plan.shows(name, None)
        ):
            yield f"The part `{name}`", " ".join(words.split()), part.at, part.file
    if site.header.own == first.header.own and (tagline := dict(site.header.own).get("tagline")):
        yield "The line under the name", str(tagline), site.header.places.get("tagline", 0), ""
