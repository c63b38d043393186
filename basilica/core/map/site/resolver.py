"""The one way from a document to a site."""

from __future__ import annotations

from basilica.core.language.sections import MAP
from basilica.core.language.sections.header_words import HEADER
from basilica.core.map.document import Document, Mapping, Node, Scalar
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.map.site import site_rules
from basilica.core.map.site.checks_reader import read_checks
from basilica.core.map.site.facts_reader import read_facts
from basilica.core.map.site.field_reader import Context, InLanguage, keys_of, kind_of
from basilica.core.map.site.head_reader import FileNames, read_head
from basilica.core.map.site.header_reader import read_header
from basilica.core.map.site.inlay_reader import read_inlay
from basilica.core.map.site.menu_reader import read_menus
from basilica.core.map.site.model import Entry, Site
from basilica.core.map.site.page_options_reader import ExtraReader
from basilica.core.map.site.page_reader import find_home, read_pages
from basilica.core.map.site.part_reader import Names, read_parts, read_slots
from basilica.core.map.site.redirects_reader import read_redirects
from basilica.core.map.site.references import References
from basilica.core.map.site.settings_reader import read_site
from basilica.core.map.site.table_reader import TableReader
from basilica.core.map.site.theme_reader import read_breadcrumbs, read_page_end, read_phrases, read_theme
from basilica.core.rules.finding import Finding


def resolve(
    document: Document, files: Files = NO_FILES, language: str = "", in_language: InLanguage | None = None
) -> tuple[Site | None, tuple[Finding, ...]]:
    """Make the site that a document says, with the files beside it; in one of its languages, if not in the first.
    ``in_language`` takes what an included file says of a page, by its key, to what it says in that language.

    Returns None for the site where the document holds no page at all, and otherwise what could be made of it,
    with every finding of this stage. Nothing that may stand in a part that was not read is called missing.
    """
    context = Context(document.lines, document.complete, files)
    if in_language is not None:
        context.in_language = in_language
    root = document.root
    if root is None or (isinstance(root, Scalar) and root.is_nothing):
        return None, ()
    if not isinstance(root, Mapping):
        if document.complete:
            context.say(
                site_rules.WRONG_SHAPE,
                root.start,
                f"The map is {kind_of(root)} where keys are expected.",
                "Begin with `site:` and `pages:` on lines of their own.",
            )
        return None, context.findings.done()
    keys = keys_of(root, MAP, "The map", context)

    def part(name: str) -> Node:
        return keys[name][1] if name in keys else Scalar("", root.start)

    context.facts = read_facts(part("facts"), context)
    settings = read_site(part("site"), keys["site"][0].start if "site" in keys else root.start, context)
    language = language or settings.language
    named_parts = read_parts(part("parts"), files, context, language, settings.languages)
    written_menus = part("menus")
    menu_names = [name.value for name, _ in written_menus.pairs] if isinstance(written_menus, Mapping) else []
    names = Names(named_parts, dict.fromkeys(["main", *menu_names]), files, context)
    file_names = FileNames(files, context)
    extras, tables = ExtraReader(names, file_names, context), TableReader(names, context)
    read = read_pages(part("pages"), context, extras, tables)
    pages = read.pages
    home = find_home(pages, context)
    menus = read_menus(part("menus"), pages, References(pages), context)
    site = Site(
        name=settings.name or (pages[home].title if home else "Untitled site"),
        named=settings.name is not None,
        base=settings.base,
        language=language,
        languages=settings.languages,
        language_prefix=settings.language_prefix,
        urls=settings.urls,
        links=settings.links,
        title=settings.title,
        home_title=settings.home_title,
        pages=pages,
        home=home,
        menus=menus,
        parts=named_parts,
        files=files,
        texts=read.texts,
        rows=read.rows,
        tables=read.tables,
        facts=context.facts,
        lines=context.lines,
        crumbs=read_breadcrumbs(part("breadcrumbs"), context),
        header=read_header(part("header"), "`header`", HEADER, context),
        page_end=read_page_end(part("page-end"), context),
        theme=read_theme(part("theme"), context),
        slots=read_slots(part("slots"), names),
        layout=names.layout(part("layout"), "the map") if "layout" in keys else "",
        head=read_head(part("head"), file_names, context),
        inlay=read_inlay(part("inlay"), list(menus), context),
        checks=read_checks(part("checks"), context),
        redirects=read_redirects(part("redirects"), References(pages), context),
        phrases=read_phrases(part("phrases"), language, settings.language_at, context),
    )
    if not pages:
        return None, context.findings.done()
    if home and menus["main"].entries and not _is_given(home, menus["main"].entries):
        context.say(
            site_rules.HOME_NOT_IN_MENU,
            menus["main"].at,
            f"Home (`{home}`) is not in the main menu.",
            f"Add `- {home}` to it, or leave it: the site's name leads home too.",
        )
    return site, context.findings.done()


def _is_given(key: str, entries: tuple[Entry, ...]) -> bool:
    return any(entry.page == key or _is_given(key, entry.items) for entry in entries)
