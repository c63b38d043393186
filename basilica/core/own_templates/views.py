"""What own templates see. The documentation of templates is made from these classes: their names, types and words."""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import ClassVar

from markupsafe import Markup

from basilica.core.own_templates.sandbox import TemplateView

_PYTHON_NAMES = {"css_class": "class"}
"""What a template calls by a word that Python has for itself."""


class _Shown(TemplateView):
    """A view whose fields are all shown."""

    shown: ClassVar[dict[str, str]] = {}

    def __init_subclass__(cls) -> None:
        names = [name for name in cls.__annotations__ if not name.startswith("_") and name != "shown"]
        cls.shown = {_PYTHON_NAMES.get(name, name): name for name in names}


@dataclass(frozen=True, slots=True)
class Address:
    """An address as it is written on the page that is shown. A template writes it, and does not change it: on another
    page it is another."""

    room: Markup

    def __html__(self) -> str:
        return self.room


class WrittenText(Address):
    """A text of the page that is shown. A template writes it; it cannot ask what it says."""

    __slots__ = ()


@dataclass(frozen=True)
class ShownEntry(_Shown):
    """An entry of a menu."""

    label: str
    """What it says."""
    address: Address | str
    """Where it leads; empty for a group, a section and a separator."""
    current: str
    """`page` on the page it links to, `true` on pages below that one, and empty elsewhere: the value of
    `aria-current`."""
    on_path: bool
    """Whether the current entry is below it in this menu."""
    kind: str
    """`page`, `anchor`, `group`, `outside`, `file` or `separator`."""
    entries: tuple[ShownEntry, ...]
    """Those below it."""
    id: str
    """A name for the list below it that no other on the page has."""
    note: str
    """A line of explanation; mostly empty."""
    icon: Markup
    """Its drawing; empty for none."""
    external: bool
    """Whether it leads to another site."""
    show: str
    """`text`, `icon` or `button`."""
    above: int
    """The width of the window, CSS px, above which alone it is seen; 0 for no limit."""
    below: int
    """That below which alone it is seen."""
    css_class: str
    """Names of classes that the map gives."""


@dataclass(frozen=True)
class ShownMenu(_Shown):
    """A menu, as the page that is shown sees it."""

    name: str
    """Its name in the map, such as `main`."""
    label: str
    """Its name for screen readers: the `aria-label` of its `nav`, which identifies it."""
    place: str
    """Where: `main`, `row-above`, `section`, `footer`, in a `part`, or `alone`."""
    css_class: str
    """Names of classes that the map gives."""
    hover: bool
    """Whether its submenus open under the mouse."""
    opens: str
    """How a page's submenu opens: by a button `beside` the link, or by the entry `itself`."""
    entries: tuple[ShownEntry, ...]
    """Those at the top."""


@dataclass(frozen=True)
class ShownBreadcrumb(_Shown):
    """One of the breadcrumbs."""

    label: str
    """What it says."""
    address: Address | str
    """Where it leads; empty for the page itself, a section, and a name alone."""
    current: bool
    """Whether it is the page itself."""
    icon: Markup
    """The drawing of home, where the map wants that in place of its name; else empty."""


@dataclass(frozen=True)
class ShownSite(_Shown):
    """The site."""

    name: str
    """Its name."""
    language: str
    """The tag of its language, such as `en-GB`."""
    direction: str
    """`rtl` where it is written from right to left; else empty."""
    home: Address
    """The address of its home page."""


@dataclass(frozen=True)
class ShownPage(_Shown):
    """The page that is shown. These are written, and cannot be asked about: what surrounds pages is rendered once."""

    title: WrittenText
    """Its title."""
    label: WrittenText
    """What menus call it."""
    description: WrittenText
    """Its description."""
    section: WrittenText
    """The label of the page at the top that it belongs to."""


@dataclass(frozen=True)
class ShownLogo(_Shown):
    """The picture beside the name, or in its place."""

    address: Address
    """Where it lies."""
    width: int
    """CSS px; 0 where the file does not say."""
    height: int
    """CSS px; 0 where the file does not say."""
    small: Address | str
    """The picture of the small header; empty for none."""
    alone: bool
    """Whether it replaces the name, and so is its text alternative."""


def documented() -> list[tuple[str, str, list[tuple[str, str, str]]]]:
    """Every view for the documentation: its name, its words, and of each value the name, the type and the words."""
    import inspect
    import re

    source = inspect.getsource(inspect.getmodule(ShownEntry))  # type: ignore[arg-type]
    found = []
    for view in (ShownSite, ShownPage, ShownMenu, ShownEntry, ShownBreadcrumb, ShownLogo):
        body = source.partition(f"class {view.__name__}(_Shown):")[2].partition("\n\n\n")[0]
        values = []
        for field in fields(view):
            said = re.search(rf"^    {field.name}: .*?\n    \"\"\"(.*?)\"\"\"", body, re.MULTILINE | re.DOTALL)
            words = " ".join(said[1].split()) if said else ""
            values.append((_PYTHON_NAMES.get(field.name, field.name), str(field.type).replace("Shown", ""), words))
        found.append((view.__name__.removeprefix("Shown"), " ".join((view.__doc__ or "").split()), values))
    return found


VALUES = {
    "menu": {
        "menu": "the `Menu`",
        "phrases": 'the site\'s phrases by name, `phrases["under"]`',
        "site": "the `Site`",
        "icon(name)": "the drawing of an icon",
    },
    "breadcrumbs": {
        "breadcrumbs": "all of them, each a `Breadcrumb`, in their order",
        "start, folded, end": "the same in three lists: where the map shortens them, those in the middle are `folded`;"
        " else all are in `end`",
        "phrases, site, icon(name)": "as for menus",
    },
    "header": {
        "name": "the name that is shown",
        "logo": "the `Logo`, or nothing",
        "tagline": "the line below the name; mostly empty",
        "main_menu": "the main menu, as `menu.html` writes it",
        "row_above": "the row above the header, with its menus",
        "slot(name)": 'the parts in a slot, such as `slot("bar")`; empty for none',
        "bar_label": "what the slot `bar` is called when it is folded",
        "page": "the `Page`",
        "file(name), link(key)": "the address of a file, and of a page",
        "phrases, site, icon(name)": "as for menus",
    },
    "footer": {
        "footer_menus": "the menus of the footer, as `menu.html` writes them",
        "slot(name)": 'the parts in a slot, such as `slot("footer")`; empty for none',
        "page, file(name), link(key), phrases, site, icon(name)": "as for the header",
    },
    "page": {
        "head": "everything in the `head`",
        "body": "everything in the `body`: what the layout places",
        "html_attributes, body_attributes": "the text of the two elements, with a space before that of the body",
        "page, phrases, site": "as for the header",
    },
}
"""By template, what it sees, and what that is."""
