"""The words below `inlay:`, which say how shared regions are set into pages that exist."""

from __future__ import annotations

from basilica.core.map.schema.word import Word

REPLACED = ("title", "description", "canonical")
"""What of a page's own head can be replaced."""

INLAY = (
    Word("folder", "text", "The folder of the existing pages, relative to the map's folder, or in full."),
    Word(
        "replace",
        "one or several of",
        "What the map replaces in the head of each page; the rest of the head stays as it is.",
        REPLACED,
    ),
    Word(
        "menus",
        "keys",
        "For each menu, the HTML of the entries between its marks `entries NAME`, so that it fits"
        " the pages' own styles.",
    ),
    Word("breadcrumbs", "keys", "The same for breadcrumbs."),
)

MARKUP = (
    Word(
        "entry",
        "text",
        "The HTML of an entry: `{address}` is its link, `{label}` its text, and `{below}` the entries under it.",
        (),
        '`<li><a href="{address}">{label}</a>{below}</li>`',
    ),
    Word("current", "text", "The entry of the page that is shown.", (), "`entry` with `aria-current`"),
    Word("section", "text", "The current entry, on pages under its page.", (), "as `current`"),
    Word("holds", "text", "An entry that contains the current one.", (), "as `entry`"),
    Word("group", "text", "An entry that is not a link.", (), "`entry` without its link"),
    Word("between", "text", "What separates two entries.", (), "a new line"),
    Word("below", "text", "What surrounds the entries under another: `{entries}`.", (), "`<ul>{entries}</ul>`"),
)
