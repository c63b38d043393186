"""What each element of a page says, and to which list of its region that goes."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping

from selectolax.lexbor import LexborNode

from basilica.core.site_reader.built_page import FocusStop, Heading, InlineStyle, Landmark, Link, Load, Region

_LEVELS = {f"h{level}": level for level in range(1, 7)}
ROLES = {
    "main": "main",
    "nav": "navigation",
    "aside": "complementary",
    "header": "banner",
    "footer": "contentinfo",
    "search": "search",
}
"""Landmarks that an element is by itself (HTML Accessibility API Mappings)."""
_NAMED_ROLES = {"section": "region", "form": "form"}
"""Those that it is only with a name."""
_LANDMARKS = frozenset([*ROLES.values(), *_NAMED_ROLES.values()])
_SECTIONING = frozenset(["article", "aside", "main", "nav", "section"])
_LOADS = {
    "img": ("src", "srcset"),
    "source": ("src", "srcset"),
    "script": ("src",),
    "iframe": ("src",),
    "video": ("src", "poster"),
    "audio": ("src",),
    "track": ("src",),
    "embed": ("src",),
    "object": ("data",),
    "link": ("href",),
    "input": ("src",),
}
"""What each element loads."""
_FOCUSED = frozenset(["button", "input", "select", "textarea", "summary", "iframe"])
"""What takes the focus without a ``tabindex``, beside links."""


def own(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    """What any element can have."""
    if "id" in attributes:
        region.ids.append(attributes["id"] or "")
    elif node.tag == "a" and attributes.get("name"):
        region.names.append(attributes["name"] or "")
    if "style" in attributes:
        region.styles.append(InlineStyle(node.tag or "", attributes["style"] or ""))
    role = attributes.get("role")
    if role in _LANDMARKS:
        _landmark(region, node, attributes, str(role))
    if "tabindex" in attributes and node.tag not in _FOCUSED and "href" not in attributes:
        region.stops.append(FocusStop(node.tag or "", "", _number(attributes["tabindex"])))


def _link(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    href = attributes.get("href")
    if href is None:
        return
    name, size = _name(region, node, attributes)
    region.links.append(Link(href, name, region.in_main, size))
    region.stops.append(FocusStop(node.tag or "", href, _number(attributes.get("tabindex"))))


def _control(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    region.stops.append(FocusStop(node.tag or "", "", _number(attributes.get("tabindex"))))
    if node.tag in ("iframe", "input"):
        _load(region, node, attributes)


def _load(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    region.loads += loads_of(node.tag or "", attributes)


def _heading(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    region.headings.append(Heading(_LEVELS[node.tag or ""], _words(region, node) or _name(region, node, attributes)[0]))


def _region_landmark(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    tag = node.tag or ""
    if attributes.get("role") is not None:
        return
    named = bool(attributes.get("aria-label") or attributes.get("aria-labelledby"))
    role = ROLES.get(tag) or (_NAMED_ROLES[tag] if named else None)
    if tag in ("header", "footer") and (region.in_main or _is_within_section(node)):
        return
    if tag == "aside" and not named and _is_within_section(node, _SECTIONING - {"main"}):
        return  # scoped to a section, it is a landmark only with a name (HTML Accessibility API Mappings, aside)
    if role:
        _landmark(region, node, attributes, role)


def _form(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    if attributes.get("action"):
        region.forms.append(attributes["action"] or "")
    _region_landmark(region, node, attributes)


def _landmark(region: Region, node: LexborNode, attributes: Mapping[str, str | None], role: str) -> None:
    name = attributes.get("aria-label") or ""
    labelled = attributes.get("aria-labelledby")
    if labelled and not name:
        name = "#" + labelled
    links = tuple(link.attributes.get("href") or "" for link in node.css("a[href]")) if role == "navigation" else ()
    region.landmarks.append(Landmark(role, name, links))


def _is_within_section(node: LexborNode, kinds: frozenset[str] = _SECTIONING) -> bool:
    above = node.parent
    while above is not None:
        if above.tag in kinds:
            return True
        above = above.parent
    return False


READ: dict[str, Callable[[Region, LexborNode, Mapping[str, str | None]], None]] = {
    "a": _link,
    "area": _link,
    **dict.fromkeys(_FOCUSED, _control),
    **dict.fromkeys((tag for tag in _LOADS if tag not in _FOCUSED), _load),
    **dict.fromkeys(_LEVELS, _heading),
    **dict.fromkeys([*ROLES, *_NAMED_ROLES], _region_landmark),
    "form": _form,
}
"""What reads an element, by its tag."""


def loads_of(tag: str, attributes: Mapping[str, str | None]) -> Iterator[Load]:
    """Everything that an element loads."""
    for attribute in _LOADS[tag]:
        value = attributes.get(attribute)
        if value and attribute == "srcset":
            for candidate in value.split(","):
                url = candidate.split()
                if url:
                    yield Load(tag, url[0])
        elif value:
            yield Load(tag, value)


def _name(
    region: Region, node: LexborNode, attributes: Mapping[str, str | None]
) -> tuple[str, tuple[float, float] | None]:
    """The name that is read out (Accessible Name and Description Computation, the common part of it), and the size of
    what is shown where that is a picture alone."""
    text = _words(region, node)
    named = attributes.get("aria-label") or text
    if text:
        return named, None
    size = None
    for inner in node.css("img, svg, [aria-label], title"):
        own = inner.attributes
        if not named:
            named = own.get("alt") or own.get("aria-label") or (text_of(inner) if inner.tag == "title" else "")
        if size is None and inner.tag in ("img", "svg"):
            size = _size(own)
    return named or attributes.get("title") or "", size


def _size(attributes: Mapping[str, str | None]) -> tuple[float, float] | None:
    try:
        return float(attributes["width"] or ""), float(attributes["height"] or "")
    except (KeyError, ValueError):
        return None


def _number(text: str | None) -> int:
    try:
        return int(text or 0)
    except ValueError:
        return 0


def _words(region: Region, node: LexborNode) -> str:
    """The text of a link or a heading, as long as the region has some left to be read."""
    if region.text_left <= 0:
        return "…"
    text = text_of(node)
    region.text_left -= len(text)
    return text


def text_of(node: LexborNode) -> str:
    """The text of an element, with single spaces."""
    return " ".join((node.text() or "").split())


def words_outside_menus(root: LexborNode) -> str:
    """The text of the header and the footer, without that of menus."""
    if root.tag not in ("header", "footer", "div"):
        return ""
    found = [root] if root.tag != "div" else root.css("header, footer")
    texts = []
    for node in found[:1]:
        text = text_of(node)
        for nav in node.css("nav"):
            inner = text_of(nav)
            if inner:
                text = text.replace(inner, " ", 1)
        texts.append(" ".join(text.split()))
    return " ".join(texts)
