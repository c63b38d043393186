"""`inlay:`: how shared regions are set into pages that exist."""

from __future__ import annotations

import re

from basilica.core.language.sections.inlay_words import INLAY, MARKUP, REPLACED
from basilica.core.map.document import Mapping, Node, Scalar, Sequence
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import UNSEEN, Context, keys_of, kind_of, text_of
from basilica.core.map.site.shared_values import NO_INLAY, EntryMarkup, InlaySettings

_MOST = 2_000
"""Characters of a pattern."""
_ROOM = re.compile(r"\{(\w*)\}")
_KNOWN = {
    "entry": ("address", "label", "below"),
    "current": ("address", "label", "below"),
    "section": ("address", "label", "below"),
    "holds": ("address", "label", "below"),
    "group": ("label", "below"),
    "between": (),
    "below": ("entries",),
}
_NEEDED = {"entry": "label", "current": "label", "section": "label", "holds": "label", "group": "label"}


def read_inlay(node: Node, menus: list[str], context: Context) -> InlaySettings:
    """The settings; ``menus`` are the names of those that the map has."""
    keys = keys_of(node, INLAY, "`inlay`", context)
    if not keys:
        return NO_INLAY
    markups: dict[str, EntryMarkup] = {}
    if "menus" in keys:
        given = keys["menus"][1]
        if not isinstance(given, Mapping):
            message = f"`menus` below `inlay` is {kind_of(given)} where menus by name are expected."
            context.say(site_rules.WRONG_SHAPE, given.start, message, "Write such as `main:` below it.")
        for name, value in given.pairs if isinstance(given, Mapping) else ():
            if name.value not in menus:
                near = context.nearest(name.value, menus)
                message = f"There is no menu `{name.value[:60]}`."
                remedy = f"Did you mean `{near}`?" if near else "Name one of those below `menus:`."
                context.say(site_rules.UNKNOWN_KEY, name.start, message, remedy, context.instead(name, near))
                continue
            markups[name.value] = _markup(value, f"`{name.value}` below `inlay`", context)
    crumbs = _markup(keys["breadcrumbs"][1], "`breadcrumbs` below `inlay`", context) if "breadcrumbs" in keys else None
    replace = _replaced(keys["replace"][1], context) if "replace" in keys else frozenset()
    folder = text_of(keys["folder"][1], "The folder of the pages", context) if "folder" in keys else None
    return InlaySettings(replace, markups, crumbs, (folder or "").strip())


def _replaced(node: Node, context: Context) -> frozenset[str]:
    found = set()
    for item in node.items if isinstance(node, Sequence) else (node,):
        value = item.value.strip() if isinstance(item, Scalar) else ""
        if value in REPLACED:
            found.add(value)
            continue
        message = f"`{value[:60]}` is no part of a head that can be replaced." if value else "`replace` is empty here."
        context.say(site_rules.BAD_VALUE, item.start, message, f"Known are {', '.join(REPLACED)}.")
    return frozenset(found)


def _markup(node: Node, where: str, context: Context) -> EntryMarkup:
    keys = keys_of(node, MARKUP, where, context)
    found: dict[str, str] = {}
    for name, (_, value) in keys.items():
        text = value.value if isinstance(value, Scalar) else ""
        if not isinstance(value, Scalar) or (not text.strip() and name != "between"):
            message = f"`{name}` is {'empty' if isinstance(value, Scalar) else kind_of(value)}."
            context.say(site_rules.WRONG_SHAPE, value.start, message, "Write it in HTML, as it is in a page.")
            continue
        if len(text) > _MOST:
            context.say(
                site_rules.TOO_LONG, value.start, f"`{name}` has more than {_MOST:,} characters.", "Shorten it."
            )
            continue
        if UNSEEN.search(text):
            context.say(site_rules.BAD_VALUE, value.start, f"`{name}` has an invisible character.", "Remove it.")
            continue
        rooms = _ROOM.findall(text)
        wrong = next((room for room in rooms if room not in _KNOWN[name]), None)
        needed = _NEEDED.get(name, "entries" if name == "below" else "")
        if wrong is not None:
            known = ", ".join(f"`{{{room}}}`" for room in _KNOWN[name]) or "none"
            context.say(site_rules.BAD_VALUE, value.start, f"`{name}` has `{{{wrong}}}`.", f"Known there: {known}.")
        elif needed and needed not in rooms:
            message = f"`{name}` lacks `{{{needed}}}`."
            context.say(site_rules.BAD_VALUE, value.start, message, "Write it where that belongs.")
        elif "<!--" in text:
            context.say(site_rules.BAD_VALUE, value.start, f"`{name}` holds a comment.", "Remove it.")
        else:
            found[name] = text
    return EntryMarkup(**found)
