"""The settings of what stands on every page: breadcrumbs, what ends a page, theme, and phrases."""

from __future__ import annotations

from collections.abc import Mapping as Map

from basilica.core.language.sections.breadcrumbs_words import BREADCRUMBS, Crumbs
from basilica.core.language.sections.page_end_words import PAGE_END, PageEnd
from basilica.core.language.sections.phrases_words import PHRASE_WORDS
from basilica.core.language.sections.theme_words import THEME, Theme
from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context, Keys, chosen, keys_of, label_of, number_in, text_of
from basilica.core.shared.locales import MENU_NAMES, PART_NAMES, languages, phrases, ships
from basilica.core.shared.theme import hex_of, poor_pairs

SEPARATORS = {"slash": "/", "arrow": "→", "dot": "·", "bullet": "•"}
_CSS = 100_000
"""Characters of a site's own style sheet."""

_LANDMARKS = (*MENU_NAMES, *PART_NAMES)
"""Words that name parts of a page."""


def read_breadcrumbs(node: Node, context: Context) -> Crumbs:
    """How breadcrumbs look."""
    keys = keys_of(node, BREADCRUMBS, "`breadcrumbs`", context)
    plain = Crumbs()
    separator = None
    if "separator" in keys:
        separator = text_of(keys["separator"][1], "The separator", context)
        if separator is not None and len(separator) > 20:
            message = "The separator has more than 20 characters."
            context.say(site_rules.TOO_LONG, keys["separator"][1].start, message, "Shorten it.")
            separator = None
    size = number_in(keys, BREADCRUMBS, "size", context)
    shorten = number_in(keys, BREADCRUMBS, "shorten", context)
    return Crumbs(
        separator=SEPARATORS.get(separator, separator) if separator else plain.separator,
        home=chosen(keys, BREADCRUMBS, "home", context),
        itself=chosen(keys, BREADCRUMBS, "itself", context) == "show",
        shorten=shorten or 0,
        groups=chosen(keys, BREADCRUMBS, "groups", context) == "yes",
        place=chosen(keys, BREADCRUMBS, "place", context),
        look=chosen(keys, BREADCRUMBS, "look", context),
        size=plain.size if size is None else size,
    )


def read_page_end(node: Node, context: Context) -> PageEnd:
    """What closes each page."""
    keys = keys_of(node, PAGE_END, "`page-end`", context)
    return PageEnd(*(chosen(keys, PAGE_END, name, context) for name in ("list", "sequence")))


def read_theme(node: Node, context: Context) -> Theme:
    """How generated parts look. A pair of colours that is hard to read becomes a finding, with a better one."""
    keys = keys_of(node, THEME, "`theme`", context)
    colours: dict[str, str] = {}
    for word in THEME:
        if word.value_type != "colour" or word.name not in keys:
            continue
        at = keys[word.name][1]
        text = text_of(at, f"The colour `{word.name}`", context)
        colour = hex_of(text) if text is not None else None
        if colour is not None:
            colours[word.name] = colour
        elif text is not None:
            context.say(
                site_rules.BAD_VALUE,
                at.start,
                f"`{text[:40]}` is not a colour that covers what is behind it.",
                "Write it as CSS does, such as `#1f4fa3` or `rebeccapurple`.",
            )
    size = number_in(keys, THEME, "size", context)
    spacing = number_in(keys, THEME, "spacing", context)
    css = text_of(keys["css"][1], "The style sheet", context) if "css" in keys else None
    if css is not None and len(css) > _CSS:
        context.say(
            site_rules.TOO_LONG,
            keys["css"][1].start,
            f"The style sheet has more than {_CSS:,} characters.",
            "Shorten it.",
        )
        css = None
    plain = Theme()
    theme = Theme(
        preset=chosen(keys, THEME, "preset", context),
        colours=tuple(colours.items()),
        size=plain.size if size is None else size,
        weight=chosen(keys, THEME, "weight", context),
        spacing=spacing or 0,
        align=chosen(keys, THEME, "align", context),
        divider=chosen(keys, THEME, "divider", context),
        current_weight=chosen(keys, THEME, "current-weight", context),
        current_line=chosen(keys, THEME, "current-line", context),
        font=chosen(keys, THEME, "font", context),
        corners=chosen(keys, THEME, "corners", context),
        headings=chosen(keys, THEME, "headings", context),
        dark=chosen(keys, THEME, "dark", context),
        transitions=chosen(keys, THEME, "transitions", context) == "yes",
        css=css or "",
        css_at=keys["css"][1].start if "css" in keys else 0,
        css_in_lines="css" in keys and _in_lines(keys["css"][1], context),
    )
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
    own: dict[str, str] = {}
    for name, (_, value) in keys.items():
        text = label_of(value, f"The words `{name}`", context)
        if text is None:
            continue
        if name in ("under", "moved-text") and text.count("{}") != 1:
            context.say(
                site_rules.BAD_VALUE,
                value.start,
                f"The phrase `{name}` needs `{{}}` once, where the label goes.",
                f"Write it such as “{phrases(language, {})[name]}”.",
            )
            continue
        own[name] = text
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
