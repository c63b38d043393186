"""How generated pages look."""

from __future__ import annotations

from dataclasses import dataclass, field

from basilica.core.language.codecs import CODE, COLOUR, YES_OR_NO, Number, one_of
from basilica.core.language.word import Word
from basilica.core.shared.fonts import FONTS
from basilica.core.shared.theme import COLOUR_TITLES, COLOURS, CORNERS, HEADINGS, PRESETS, dark_version, settled_colours

_CALLED = {
    "ink": ("text", "foreground", "text-color"),
    "link": ("links", "accent", "primary"),
    "ground": ("background",),
}
"""What people call colours who come from elsewhere."""

THEME = (
    Word(
        "preset",
        one_of(*tuple(PRESETS)),
        "The theme to start from; the other settings change it.",
        "slate",
        old_name="start",
        group="Begin with",
    ),
    Word(
        "font",
        one_of(*(*FONTS, "system")),
        "The font of the pages: one that ships with Basilica, or `system`, the one of the reader's device.",
        "as in `preset`",
        group="Pages",
        synonyms=("font-family", "typeface"),
    ),
    Word(
        "headings", one_of(*tuple(HEADINGS)), "How much larger headings are than text.", "as in `preset`", group="Pages"
    ),
    Word(
        "corners", one_of(*tuple(CORNERS)), "The corners of buttons, panels and code.", "as in `preset`", group="Pages"
    ),
    Word(
        "dark",
        one_of("auto", "never"),
        "Whether readers whose device is set to dark get a dark version.",
        "auto",
        title="Dark version",
        group="Pages",
    ),
    Word(
        "transitions",
        YES_OR_NO,
        "Whether pages fade into one another in browsers that can; never for readers who ask for less motion.",
        "yes",
        group="Pages",
    ),
    *(
        Word(
            name,
            COLOUR,
            meaning,
            "as in `preset`",
            called=f"The colour `{name}`",
            title=COLOUR_TITLES[name],
            group="Colours",
            synonyms=_CALLED.get(name, ()),
        )
        for name, meaning in COLOURS.items()
    ),
    Word(
        "current-background",
        COLOUR,
        "The background of the current entry.",
        "nothing",
        called="The colour `current-background`",
        title=COLOUR_TITLES["current-background"],
        group="Current entry",
    ),
    Word(
        "current-weight",
        one_of("normal", "medium", "bold"),
        "The font weight of the current entry.",
        "bold",
        title="Weight",
        group="Current entry",
    ),
    Word(
        "current-line",
        one_of("below", "above", "none"),
        "Where the line that marks the current entry of menus is drawn.",
        "below",
        title="Line",
        group="Current entry",
    ),
    Word(
        "size",
        Number(least=60, most=200),
        "The size of text in menus, in percent of the page's.",
        "94",
        title="Text size",
        group="Menus",
        synonyms=("font-size",),
    ),
    Word(
        "weight",
        one_of("normal", "medium", "bold"),
        "The font weight of menus.",
        "normal",
        group="Menus",
        synonyms=("font-weight",),
    ),
    Word(
        "spacing",
        Number(least=-50, most=300),
        "The letter spacing of menus, in thousandths of the font size.",
        "0",
        title="Letter spacing",
        group="Menus",
    ),
    Word(
        "align",
        one_of("start", "center", "end"),
        "Where the main menu is placed in the header.",
        "end",
        title="Menu position",
        group="Menus",
    ),
    Word(
        "divider",
        one_of("none", "line", "dot"),
        "What is drawn between the entries of the main menu.",
        "none",
        group="Menus",
    ),
    Word(
        "css",
        CODE,
        "The site's own style sheet. It comes after Basilica's: all its rules override colours "
        "and type, and rules with a class also override sizes and positions.",
        called="The style sheet",
        title="Style sheet",
        group="Your own style",
        synonyms=("style", "styles", "stylesheet"),
    ),
)


@dataclass(frozen=True, slots=True)
class Theme:
    """How generated parts look. ``colours`` are the map's own, by name, over those of ``start``."""

    preset: str = "slate"
    colours: tuple[tuple[str, str], ...] = ()
    size: int = 94
    weight: str = "normal"
    spacing: int = 0
    align: str = "end"
    divider: str = "none"
    current_weight: str = "bold"
    current_line: str = "below"
    font: str = ""
    corners: str = ""
    headings: str = ""
    dark: str = "auto"
    transitions: bool = True
    css: str = ""
    css_at: int = field(compare=False, default=0)
    css_in_lines: bool = field(compare=False, default=False)
    """Whether its lines are lines of the map, from the one after ``css_at`` on."""

    def all_colours(self) -> dict[str, str]:
        """Every colour by its name, as ``#rrggbb``."""
        return dict(settled_colours(self.preset, self.colours))

    def dark_colours(self) -> dict[str, str]:
        """The same for those who ask for dark ones; none where there is no dark version."""
        return dark_version(PRESETS[self.preset], dict(self.colours)) if self.dark == "auto" else {}

    @property
    def shown_font(self) -> str:
        """The letters of pages: the name of a font that ships, or `system`."""
        return self.font or PRESETS[self.preset].font
