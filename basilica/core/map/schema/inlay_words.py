"""The words below `inlay:`, which say how shared regions are set into pages that exist."""

from __future__ import annotations

from basilica.core.map.schema.word import Word

REPLACED = ("title", "description", "canonical")
"""What of a page's own head can be replaced."""

INLAY = (
    Word("folder", "text", "The folder of the pages, as the map's own folder sees it, or in full."),
    Word(
        "replace",
        "one or several of",
        "What the map says in place of what the head of a page says itself; the rest of the head stays the page's.",
        REPLACED,
    ),
    Word(
        "menus",
        "keys",
        "By menu, how its entries are written between marks `entries NAME`, so that the pages' own style fits them.",
    ),
    Word("breadcrumbs", "keys", "The same for breadcrumbs."),
)

MARKUP = (
    Word(
        "entry",
        "text",
        "An entry, in HTML: `{address}` is where it leads, `{label}` what it is called, and `{below}` the entries under"
        " it.",
        (),
        '`<li><a href="{address}">{label}</a>{below}</li>`',
    ),
    Word("current", "text", "The entry of the page one is on.", (), "`entry` with `aria-current`"),
    Word("section", "text", "The current entry on pages under its page.", (), "as `current`"),
    Word("holds", "text", "An entry that holds the current one.", (), "as `entry`"),
    Word("group", "text", "An entry that leads nowhere.", (), "`entry` without its link"),
    Word("between", "text", "What stands between two entries.", (), "a new line"),
    Word("below", "text", "What stands around the entries under one: `{entries}`.", (), "`<ul>{entries}</ul>`"),
)
