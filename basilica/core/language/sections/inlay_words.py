"""How shared regions are set into pages that exist."""

from __future__ import annotations

from basilica.core.language.codecs import KEYS, PLAIN, one_of, several
from basilica.core.language.word import Word

REPLACED = ("title", "description", "canonical")
"""What of a page's own head can be replaced."""

INLAY = (
    Word("folder", PLAIN, "The folder of the existing pages, relative to the map's folder, or in full."),
    Word(
        "replace",
        several(one_of(*REPLACED), "one or several of"),
        "What the map replaces in the head of each page; the rest of the head stays as it is.",
    ),
    Word(
        "menus",
        KEYS,
        "For each menu, the HTML of the entries between its marks `entries NAME`, so that it fits"
        " the pages' own styles.",
    ),
    Word("breadcrumbs", KEYS, "The same for breadcrumbs."),
)

MARKUP = (
    Word(
        "entry",
        PLAIN,
        "The HTML of an entry: `{address}` is its link, `{label}` its text, and `{below}` the entries under it.",
        '`<li><a href="{address}">{label}</a>{below}</li>`',
    ),
    Word("current", PLAIN, "The entry of the page that is shown.", "`entry` with `aria-current`"),
    Word("section", PLAIN, "The current entry, on pages under its page.", "as `current`"),
    Word("holds", PLAIN, "An entry that contains the current one.", "as `entry`"),
    Word("group", PLAIN, "An entry that is not a link.", "`entry` without its link"),
    Word("between", PLAIN, "What separates two entries.", "a new line"),
    Word("below", PLAIN, "What surrounds the entries under another: `{entries}`.", "`<ul>{entries}</ul>`"),
)
