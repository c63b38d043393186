"""The settings of what stands on every page: breadcrumbs, what ends a page, theme, and phrases."""

from __future__ import annotations

from collections.abc import Mapping as Map

from basilica.core.language.codecs import COLOUR
from basilica.core.language.sections.breadcrumbs_words import BREADCRUMBS, Crumbs
from basilica.core.language.sections.page_end_words import PAGE_END, PageEnd
from basilica.core.language.sections.phrases_words import PHRASE_WORDS
from basilica.core.language.sections.theme_words import THEME, Theme
from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context, Keys, keys_of
from basilica.core.map.site.word_reader import read_words
from basilica.core.shared.locales import MENU_NAMES, PART_NAMES, languages, phrases, ships
from basilica.core.shared.theme import poor_pairs

_CSS = 100_000
"""Characters of a site's own style sheet."""

_LANDMARKS = (*MENU_NAMES, *PART_NAMES)
"""Words that name parts of a page."""


def read_breadcrumbs(node: Node, context: Context) -> Crumbs:
    """How breadcrumbs look."""
    return Crumbs(**read_words(keys_of(node, BREADCRUMBS, "`breadcrumbs`", context), BREADCRUMBS, context))


def read_page_end(node: Node, context: Context) -> PageEnd:
    """What closes each page."""
    return PageEnd(**read_words(keys_of(node, PAGE_END, "`page-end`", context), PAGE_END, context))


def read_theme(node: Node, context: Context) -> Theme:
    """How generated parts look. A pair of colours that is hard to read becomes a finding, with a better one."""
    keys = keys_of(node, THEME, "`theme`", context)
    values = read_words(keys, THEME, context)
    given = [word for word in THEME if word.codec is COLOUR and word.field in values]
    colours = {word.name: values.pop(word.field) for word in given}
    if len(values.get("css", "")) > _CSS:
        message = f"The style sheet has more than {_CSS:,} characters."
        context.say(site_rules.TOO_LONG, keys["css"][1].start, message, "Shorten it.")
        del values["css"]
    if "css" in keys:
        at = keys["css"][1]
        values |= {"css_at": at.start, "css_in_lines": _in_lines(at, context)}
    theme = Theme(colours=tuple(colours.items()), **values)
    if colours:
        _say_poor(theme, keys, context)
    told = "current-background" in colours or theme.current_line != "none" or theme.current_weight != theme.weight
    if not told:
        first = next(keys[word][0].start for word in ("current-line", "current-weight", "weight") if word in keys)
        context.say(
            site_rules.CURRENT_BY_COLOUR_ALONE, first, "The current entry differs from the others by its colour alone."
        )
    return theme


def _in_lines(node: Node, context: Context) -> bool:
    """Whether each line of a text is a line of the map, as in a literal block."""
    if not isinstance(node, Scalar) or "\n" not in node.value:
        return False
    lines = context.lines.place(node.end)[0] - context.lines.place(node.start)[0]
    return lines - node.value.count("\n") in (0, 1)


def _say_poor(theme: Theme, keys: Keys, context: Context) -> None:
    for poor in poor_pairs(theme.all_colours()):
        own = poor.name if poor.name in keys else poor.behind
        if own not in keys:
            continue
        node = keys[own][1]
        better = poor.better if own == poor.name else None
        context.say(
            site_rules.POOR_CONTRAST,
            node.start,
            f"`{poor.name}` on `{poor.behind}` has a contrast of {int(poor.ratio * 100) / 100} to 1; 4.5 is needed.",
            f"The nearest that can be read is {better}." if better else f"Give `{poor.name}` another colour as well.",
            context.instead(node, f'"{better}"') if better and isinstance(node, Scalar) else None,
        )


def read_phrases(node: Node, language: str, at: int, context: Context) -> Map[str, str]:
    """Every phrase, in the site's language or in the map's own words. ``at`` is where the language stands."""
    keys = keys_of(node, PHRASE_WORDS, "`words`", context)
    read = read_words(keys, PHRASE_WORDS, context)
    own = {word.name: read[word.field] for word in PHRASE_WORDS if word.field in read}
    made = phrases(language, own)
    for name in _LANDMARKS:
        same = next((other for other in _LANDMARKS if other != name and made[other] == made[name]), None)
        if name in own and same is not None:
            context.say(
                site_rules.DUPLICATE_MENU_LABEL,
                keys[name][1].start,
                f"The words `{name}` and `{same}` are the same, and name two parts of a page.",
                "Use other words for one of them; screen readers tell the parts apart by them.",
            )
            break
    if not ships(language) and len(own) < len(PHRASE_WORDS) and isinstance(node, Scalar | Mapping):
        context.say(
            site_rules.PHRASES_IN_ENGLISH,
            at,
            f"The words that Basilica puts on pages do not ship in `{language}`, so they are English.",
            "Write them under `phrases:`. Built in are " + ", ".join(languages()) + ".",
        )
    return made
