"""What the heads of pages load and say."""

from __future__ import annotations

from dataclasses import dataclass, field

from basilica.core.language.codecs import (
    FILE,
    KEYS,
    LABEL,
    NAMED_TEXTS,
    NO_OR_YES,
    PLAIN,
    YES_OR_NO,
    named,
    one_of,
    several,
)
from basilica.core.language.word import Word

SOCIAL = (
    Word("title", LABEL, "The title shown where the page is shared.", "the page's title"),
    Word("description", LABEL, "The text shown below the title.", "the page's description"),
    Word(
        "picture",
        FILE,
        "The picture shown with it, a file in `files`; an SVG file is shown as a PNG of 1200 by 630 pixels.",
    ),
    Word(
        "card",
        one_of("none", "summary", "summary_large_image"),
        "How messages that share the page show it (`twitter:card`): with a small picture, or a large one.",
        "none",
    ),
)


@dataclass(frozen=True, slots=True)
class Social:
    """What is shown where a page is passed on. ``picture`` is the name of a file."""

    title: str = ""
    description: str = ""
    picture: str = ""
    card: str = ""


COUNTER = (
    Word("script", named("address or file"), "Where the script is: a full address, or a file in `files`."),
    Word(
        "data",
        NAMED_TEXTS,
        "Settings for the script, each a name and a text: `site: mill` becomes the attribute `data-site`.",
    ),
    Word("hosts", several(PLAIN, "text or list of texts"), "Other hosts to which the script sends data."),
)


@dataclass(frozen=True, slots=True)
class Counter:
    """The script that counts visits: its ``url``, or its ``file`` in `files`; ``data`` are its `data-` attributes, and
    ``hosts`` those that it speaks to."""

    url: str = ""
    file: str = ""
    data: tuple[tuple[str, str], ...] = ()
    hosts: tuple[str, ...] = ()


HEAD = (
    Word("icon", FILE, "The icon of the site, a file in `files`.", group="Files", synonyms=("favicon",)),
    Word(
        "touch-icon",
        NO_OR_YES,
        "Whether to make a picture of the icon for home screens, 180 pixels wide. The icon must be an SVG file.",
        "no",
        group="Files",
    ),
    Word(
        "styles",
        several(FILE, "file or list of files"),
        "Style sheets that every page loads, after Basilica's own.",
        group="Files",
        synonyms=("stylesheets", "css"),
    ),
    Word(
        "scripts",
        several(FILE, "file or list of files"),
        "Scripts that every page loads; they run once the page is read.",
        group="Files",
        synonyms=("script", "javascript"),
    ),
    Word(
        "manifest",
        named("file or auto"),
        "The web app manifest, a file in `files`. `auto` makes one, with pictures of the icon, "
        "which must be an SVG file.",
        group="Files",
    ),
    Word(
        "feed",
        NO_OR_YES,
        "Whether to publish the pages that have a `date` as an Atom feed, feed.xml, newest first.",
        "no",
        group="Feed, and data for search engines",
    ),
    Word(
        "data",
        several(one_of("site", "organisation"), "one or several of"),
        "What the home page tells search engines as schema.org data: `site`, and `organisation` "
        "with its logo and contact details. The other pages always tell their breadcrumbs.",
        group="Feed, and data for search engines",
    ),
    Word(
        "prefetch",
        YES_OR_NO,
        "Whether to fetch a page of the site when the pointer is over its link, in browsers that "
        "can; never for readers who save data.",
        "yes",
        group="Speed",
    ),
    Word(
        "minify",
        NO_OR_YES,
        "Whether to write the style sheet and the script of the navigation in as few bytes as possible.",
        "no",
        group="Speed",
    ),
    Word(
        "fonts",
        NAMED_TEXTS,
        "Fonts, each a family name and its file, such as `Mill Sans: mill.woff2`.",
        group="Names and values",
    ),
    Word(
        "meta",
        NAMED_TEXTS,
        "More `meta` elements for every page, each a name and its content, such as `theme-color: "
        "'#14204a'`, or the code by which a search engine recognises the site's owner.",
        group="Names and values",
    ),
    Word("social", KEYS, "What is shown where a page is shared that has no such settings of its own."),
    Word("counter", KEYS, "The script that counts visits. Pages may load from its host; previews leave it out."),
)


@dataclass(frozen=True, slots=True)
class HeadSettings:
    """What every page loads, as names of files. ``fonts`` are pairs of a family and its file."""

    icon: str = ""
    styles: tuple[str, ...] = ()
    scripts: tuple[str, ...] = ()
    fonts: tuple[tuple[str, str], ...] = ()
    touch_icon: bool = False
    manifest: str = ""
    """A file, or `auto`."""
    feed: bool = False
    data: tuple[str, ...] = ()
    """What the home page tells search engines: `site`, `organisation`."""
    meta: tuple[tuple[str, str], ...] = ()
    """Names with their contents, for elements `meta`."""
    social: Social = Social()
    counter: Counter | None = None
    prefetch: bool = True
    """Whether pages that are pointed at are fetched before they are asked for."""
    minify: bool = False
    at: int = field(compare=False, default=0)


NO_HEAD = HeadSettings()
