"""Parts: named pieces of content that pages share."""

from __future__ import annotations

from basilica.core.language.codecs import ADDRESS, FILE, PLAIN, Number, TextCodec, named, one_of
from basilica.core.language.word import Word

BUILT_IN_PARTS = ("header", "breadcrumbs", "section-menus", "list", "sequence", "footer")
"""Parts that the map itself gives; with ``menu-NAME`` for each menu."""

MENU_PART = "menu-"

IDENTITY = "identity"
"""The part of this name is in the header, in the place of the site's name."""

SLOTS = ("header", "bar", "before", "after", "aside", "footer", "end")
"""The slots of the layout that ships."""

PLAIN_LAYOUT = "plain"
"""The name of the layout that ships."""

KINDS: dict[str, tuple[str, ...]] = {
    "text": (),
    "identity": ("picture", "small-picture", "name", "show-name", "height", "line"),
    "contact": ("title", "telephone", "mail", "place", "opening"),
    "links": ("title", "menu"),
    "form": ("title", "form", "to", "button"),
    "notice": ("title",),
    "embed": ("title", "url", "height"),
    "legal": ("name", "since"),
}
"""The words of each ready kind, beside ``kind``, ``text`` and ``html``."""

HEIGHTS = {"embed": Number(least=40, most=4000), "identity": Number(least=12, most=400)}
"""How high a part of a kind can be, CSS px."""

PART = (
    Word("kind", one_of(*tuple(KINDS)), "A ready-made kind, or `text`: only what you write.", "text"),
    Word(
        "text",
        PLAIN,
        "Markdown. `{title}`, `{label}`, `{section}`, `{description}` and `{site}` insert those of the page.",
    ),
    Word("html", PLAIN, "The same in HTML, instead of `text`."),
    Word("title", PLAIN, "A heading above the part. `embed`: a description of what is shown."),
    Word("picture", FILE, "`identity`: the logo, a file in `files`."),
    Word(
        "small-picture",
        FILE,
        "`identity`: the logo that replaces it after the header has shrunk.",
        title="Picture when small",
    ),
    Word("name", PLAIN, "`identity` and `legal`: the name that is shown.", "the site's name"),
    Word(
        "show-name",
        one_of("yes", "no"),
        "`identity`: whether the name is shown beside the logo; if not, it is the logo's text alternative.",
        "yes",
        title="Show the name",
    ),
    Word("line", PLAIN, "`identity`: a line of text below the name."),
    Word("telephone", PLAIN, "`contact`: the telephone number, as people read it."),
    Word("mail", PLAIN, "`contact`: the e-mail address."),
    Word("place", PLAIN, "`contact`: the postal address, line by line."),
    Word("opening", PLAIN, "`contact`: the opening hours, line by line."),
    Word("menu", named("name of a menu"), "`links`: the menu to list. With `place: part` it appears nowhere else."),
    Word("form", one_of("search", "message"), "`form`: what it is for.", "message"),
    Word("to", ADDRESS, "`form`: where it is sent: a path of the site, or a full address."),
    Word("button", PLAIN, "`form`: the text of its button.", "“Search” or “Send”"),
    Word("url", ADDRESS, "`embed`: the address that is shown in a frame."),
    Word(
        "height",
        TextCodec(name="number", control="number"),
        "`embed`: the height of the frame, in pixels. `identity`: the height of the logo, in pixels.",
        "`embed`: 360, `identity`: 40",
        title="Height, px",
    ),
    Word("since", PLAIN, "`legal`: the year, or the years, of the copyright."),
)
