"""Own templates, rendered: each once for every answer that makes it another, with room for addresses."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping
from itertools import islice
from typing import Any

from markupsafe import Markup
from selectolax.lexbor import LexborHTMLParser, LexborNode

from basilica.core.map.map_files import linked_file
from basilica.core.map.site.model import EntryKind, TrailLevel
from basilica.core.map.site.shared_values import Part
from basilica.core.navigation.menus import Mark, MenuPlan
from basilica.core.outputs.static_site.indentation import indented
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import (
    NUL,
    EntryAddress,
    FileAddress,
    HomeAddress,
    OwnMenu,
    PageAddress,
    PageValue,
    RegionSlot,
    room_for,
    slot_in,
)
from basilica.core.own_templates import FOLDER, templates_of
from basilica.core.own_templates.sandbox import Function, TemplateRefused, Words, run
from basilica.core.own_templates.views import (
    Address,
    ShownBreadcrumb,
    ShownEntry,
    ShownLogo,
    ShownMenu,
    ShownPage,
    ShownSite,
    WrittenText,
)
from basilica.core.plan import Plan
from basilica.core.plan.plan_rules import TEMPLATE_HIDES, TEMPLATE_TAGS, TEMPLATE_UNUSABLE
from basilica.core.rules.rule import Rule
from basilica.core.shared.html_scanner import scan
from basilica.core.shared.icons import drawn, shapes
from basilica.core.shared.own_style import HidingStyles
from basilica.core.site_reader.tag_balance import line_of_tag, unbalanced

_LEADING = frozenset([EntryKind.PAGE, EntryKind.ANCHOR, EntryKind.FILE])
_DEPTHS = {"main": 4, "row-above": 2, "section": 2, "footer": 3}
"""How many elements of a page a menu stands in, by where it does."""
_MOST_WRITTEN = 250_000
"""Entries that a template may write for one menu, over all pages that are current in it: some 500 times 500, which
takes half a minute."""
_NAMED = 3
"""Faults of a template that are named."""
_RAW = ("title", "label", "description", "section")


class OwnMarkup:
    """Renders the own templates of one plan. What one may not do, or lacks, is noted, and nothing stands in its
    place."""

    def __init__(self, plan: Plan, direction: str) -> None:
        self._plan = plan
        self.templates = templates_of(plan.site.files)
        styles = (plan.site.files.get(f"files/{name}") for name in plan.site.head.styles if self.templates.good)
        texts = (data.decode("utf-8", "replace") for data in styles if data)
        self._styles = HidingStyles([plan.site.theme.css, *texts] if self.templates.good else [])
        self.problems: dict[tuple[str, int, str], tuple[Rule, str]] = {}
        """By file, line and message what is off: the rule, and the remedy."""
        self.asked: dict[OwnMenu, None] = {}
        """The menus for which there is room somewhere, in the order in which they were asked for."""
        self._menus: dict[tuple[str, str, Mark | None], SlotTemplate] = {}
        self.targets: set[PageAddress] = set()
        """The pages to which templates link by key."""
        self.files: set[FileAddress] = set()
        """The files whose addresses they write."""
        self._shared: dict[str, object] = {
            "site": ShownSite(plan.site.name, plan.site.language, direction, Address(room_for(HomeAddress()))),
            "phrases": Words(plan.site.phrases),
            "icon": Function(self._icon),
        }
        self._of_pages: dict[str, object] = {
            **self._shared,
            "page": ShownPage(*(WrittenText(room_for(PageValue(name))) for name in _RAW)),
            "file": Function(self._file),
            "link": Function(self._link),
        }

    def has(self, name: str) -> bool:
        """Whether there is a template of this name that can be used."""
        return name in self.templates

    # The templates

    def room(self, name: str, place: str) -> Markup:
        """Room for a menu."""
        asked = OwnMenu(name, place)
        self.asked[asked] = None
        return room_for(asked)

    def menu(self, menu: MenuPlan, place: str, mark: Mark | None) -> SlotTemplate:
        """A menu as a page with this mark sees it."""
        which = menu.name, place, mark
        known = self._menus.get(which)
        if known is None and self._is_too_large(menu):
            known = self._menus[which] = SlotTemplate("")
        if known is None:
            written = self._run("menu", menu=_menu(self._plan, menu, place, mark)) or Markup("")
            self._look_at("menu", written)
            depth = _DEPTHS.get(place)
            known = self._menus[which] = SlotTemplate(written if depth is None else indented(str(written), depth))
        return known

    def _is_too_large(self, menu: MenuPlan) -> bool:
        """Whether a menu would take too long: it is written once for each page that is current in it."""
        pages = {entry.page for entry in menu.entries if entry.page is not None}
        if len(menu.entries) * (len(pages) + 1) <= _MOST_WRITTEN:
            return False
        self._note(
            "menu",
            1,
            f"The menu `{menu.name}` has {len(menu.entries):,} entries, and would be written {len(pages) + 1:,} times:"
            " once for each page that is current in it.",
            "Let it have fewer, such as its first level alone (`auto: 1`), or remove the template.",
        )
        return True

    def breadcrumbs(self, key: str, trail: tuple[TrailLevel, ...]) -> SlotTemplate:
        """The breadcrumbs of a page, with room for the addresses of pages."""
        site, routes = self._plan.site, self._plan.routes
        as_icon = site.crumbs.home == "icon"

        def one(level: TrailLevel) -> ShownBreadcrumb:
            leads = level.page is not None and level.page in routes and level.page != key
            address = Address(room_for(PageAddress(level.page or ""))) if leads else ""
            icon = drawn("house") if as_icon and level.page == site.home and level.page != key else ""
            return ShownBreadcrumb(level.label, address, level.page == key, Markup(icon))

        found = tuple(one(level) for level in trail)
        start: tuple[ShownBreadcrumb, ...] = ()
        folded: tuple[ShownBreadcrumb, ...] = ()
        end = found
        if site.crumbs.shorten and len(trail) > site.crumbs.shorten:
            last = len(trail) - (site.crumbs.shorten - 2)
            start, folded, end = found[:1], found[1:last], found[last:]
        written = self._run("breadcrumbs", breadcrumbs=found, start=start, folded=folded, end=end) or Markup("")
        self._look_at("breadcrumbs", written)
        return SlotTemplate(indented(str(written), 1))

    def header(
        self, identity: Part | None, logo: ShownLogo | None, bar_label: str, slot: Callable[[str], Markup]
    ) -> Markup:
        """What stands above every page, with room for the main menu and the row above."""
        given: list[str] = []
        written = self._run(
            "header",
            name=(identity.value("name") if identity else "") or self._plan.site.name,
            logo=logo,
            tagline=self._plan.header.plain.tagline,
            main_menu=room_for(RegionSlot("main")),
            row_above=room_for(RegionSlot("utility")),
            bar_label=bar_label,
            slot=Function(_noting(slot, given)),
        )
        self._look_at("header", written or "", given)
        return written or Markup("")

    def footer(self, menus: tuple[Markup, ...], slot: Callable[[str], Markup]) -> Markup:
        """What stands below every page."""
        given: list[str] = []
        written = self._run("footer", footer_menus=menus, slot=Function(_noting(slot, given)))
        self._look_at("footer", written or "", given)
        return written or Markup("")

    def page(self, **values: Markup) -> Markup:
        """The page around its head and its body."""
        written = self._run("page", **values)
        if written is None:
            return Markup("")
        self._look_at("page", written, values.values())
        for name in ("head", "body"):
            if values[name] not in written:
                self._note("page", 1, f"The template does not write `{{{{ {name} }}}}`.", "Write it once.")
                return Markup("")
        return written

    # What they are given

    def picture(self, address: Markup, size: tuple[int, int] | None, small: Markup | str, alone: bool) -> ShownLogo:
        """The logo as templates see it."""
        width, height = size or (0, 0)
        return ShownLogo(Address(address), width, height, Address(Markup(small)) if small else "", alone)

    def _icon(self, name: str) -> Markup:
        if name not in shapes():
            raise TemplateRefused(f"There is no icon `{name[:60]}`.", remedy="Their names are listed in docs/icons.md.")
        return Markup(drawn(name))

    def _file(self, name: str) -> Address:
        found = linked_file(name, self._plan.site.files)
        if found is None:
            raise TemplateRefused(
                f"There is no file `{name[:80]}`.", remedy="Put it into the folder `files` or `public`."
            )
        file = FileAddress(found)
        self.files.add(file)
        return Address(room_for(file))

    def _link(self, key: str) -> Address:
        if key not in self._plan.routes or key in self._plan.drafts:
            raise TemplateRefused(f"There is no page `{key[:80]}` to lead to.", remedy="Write the whole key of a page.")
        target = PageAddress(key)
        self.targets.add(target)
        return Address(room_for(target))

    # How they are run

    def _run(self, template: str, /, **values: Any) -> Markup | None:
        """What a template writes; None where it was refused, or where it changed what it may only write."""
        shared = self._shared if template in ("menu", "breadcrumbs") else self._of_pages
        try:
            written = run(self.templates.good[template], {**shared, **values})
            if _is_whole(written):
                return Markup(written)
            raise TemplateRefused(
                "The template changes an address, or a text of the page.",
                self.templates.line_of(template, "address", "title", "label"),
                "Write it as it is, without a filter.",
            )
        except TemplateRefused as refused:
            self._note(template, refused.line, str(refused), refused.remedy)
            return None

    def _note(self, name: str, line: int, message: str, remedy: str, rule: Rule = TEMPLATE_UNUSABLE) -> None:
        self.problems[f"{FOLDER}/{name}.html", line or 1, message] = (rule, remedy)

    def _look_at(self, name: str, written: str, given: Iterable[str] = ()) -> None:
        """Note the tags that a template writes and that have no other, and the links that only a mouse can reach. What
        it was ``given`` to write, and what fills room, is not its own."""
        own = written
        for text in filter(None, given):
            own = own.replace(text, "")
        data = "".join(own.split(NUL)[::2]).encode("utf-8", "replace")
        for tag, words in islice(unbalanced(data, scan(data)), _NAMED):
            line = line_of_tag(self.templates.texts[f"{name}.html"], tag)
            self._note(name, line, f"What it writes has {words}.", TEMPLATE_TAGS.remedy, TEMPLATE_TAGS)
        found: dict[str, list[str]] = {}
        for words, why in hidden_links(written.replace(NUL, ""), self._styles):
            found.setdefault(why, []).append(f"`{words[:40]}`")
        for why, names in found.items():
            more = f" and {len(names) - _NAMED} more" if len(names) > _NAMED else ""
            message = f"{', '.join(names[:_NAMED])}{more}: no key leads there, since {why}."
            self._note(name, self.templates.line_of(name, "address"), message, TEMPLATE_HIDES.remedy, TEMPLATE_HIDES)


def _noting(write: Callable[[str], Markup], written: list[str]) -> Callable[[str], Markup]:
    """The same function, which notes what it gives."""

    def noted(name: str) -> Markup:
        text = write(name)
        written.append(str(text))
        return text

    return noted


def hidden_links(markup: str, styles: HidingStyles) -> Iterator[tuple[str, str]]:
    """The links of some markup that no key reaches, each with what hides it (HTML, 6.1 to 6.3 and 6.6), be it in the
    site's own ``styles``."""
    tree = LexborHTMLParser(f"<body>{markup}")
    by_style = styles.hidden(tree)
    opened = {node.attributes.get("popovertarget") for node in tree.css("[popovertarget]")}
    for link in tree.css("a[href], button"):
        if (link.attributes.get("tabindex") or "").strip().startswith("-"):
            yield " ".join(link.text().split()), "`tabindex` takes it out of the order"
        node: LexborNode | None = link
        while node is not None:
            why = _hides(node.tag or "", node.attributes, opened)
            if node.mem_id in by_style:
                why = why or f"it is in an element that `{by_style[node.mem_id][:80]}` hides"
            if why:
                yield " ".join(link.text().split()), why
                break
            node = node.parent


def _hides(tag: str, attributes: Mapping[str, str | None], opened: Collection[str | None]) -> str:
    """What hides an element and all in it; empty where nothing does."""
    style = (attributes.get("style") or "").replace(" ", "").lower()
    for name in ("hidden", "inert"):
        if name in attributes:
            return f"it is in an element that is `{name}`"
    if attributes.get("aria-hidden") == "true":
        return "it is in an element with `aria-hidden`"
    if "display:none" in style or "visibility:hidden" in style:
        return "it is in an element that its `style` hides"
    if tag == "dialog" and "open" not in attributes:
        return "it is in a `dialog` that only a script opens"
    if "popover" in attributes and attributes.get("id") not in opened:
        return "it is in a `popover` that no `popovertarget` opens"
    return f"it is in a `{tag}`, which shows nothing" if tag == "template" else ""


def _is_whole(written: str) -> bool:
    """Whether all room in some text is for something."""
    pieces = written.split(NUL)
    try:
        return len(pieces) % 2 == 1 and all(room_for(slot_in(piece)) == f"{NUL}{piece}{NUL}" for piece in pieces[1::2])
    except (ValueError, KeyError, TypeError, IndexError):
        return False


def _menu(plan: Plan, menu: MenuPlan, place: str, mark: Mark | None) -> ShownMenu:
    """A menu as templates see it."""

    def entry(number: int) -> ShownEntry:
        planned, display = menu.entries[number], menu.entries[number].display
        leads = planned.file or (planned.kind in _LEADING and planned.page in plan.routes)
        icon = Markup(display.drawing or drawn(display.icon)) if display.icon else Markup("")
        return ShownEntry(
            label=planned.label,
            address=Address(room_for(EntryAddress(menu.name, number))) if leads else planned.url or "",
            current=mark.current if mark and number in mark.entries else "",
            on_path=bool(mark and number in mark.path),
            kind=str(planned.kind),
            entries=tuple(map(entry, planned.items)),
            id=f"b-{menu.name}-{number}",
            note=display.note,
            icon=icon,
            external=bool(planned.url and planned.url.startswith("http")),
            show=display.show,
            above=display.above,
            below=display.below,
            css_class=display.css_class,
        )

    settings = menu.settings
    return ShownMenu(
        menu.name,
        menu.label,
        place,
        settings.css_class,
        bool(settings.hover),
        "beside" if settings.opens == "beside" else "itself",
        tuple(map(entry, menu.top)),
    )
