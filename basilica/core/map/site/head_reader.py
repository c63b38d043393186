"""What heads load: icon, style sheets, scripts, letters, and what is shown where a page is passed on."""

from __future__ import annotations

import re
from urllib.parse import urlsplit

from basilica.core.language.sections.head_words import COUNTER, HEAD, SOCIAL, Counter, HeadSettings, Social
from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.map_files import Files
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import (
    Context,
    keys_of,
    kind_of,
    label_of,
    text_of,
    texts_of,
    web_address,
)
from basilica.core.map.site.word_reader import read_words

AUTO = "auto"
"""In place of a file: one that is made."""
_FAMILY = re.compile(r"[A-Za-z][A-Za-z0-9 _-]{0,60}")
_SUFFIXES = {
    "style sheet": (".css",),
    "script": (".js", ".mjs"),
    "icon": (".svg", ".png", ".ico", ".webp"),
    "picture": (".svg", ".png", ".jpg", ".jpeg", ".webp", ".gif", ".avif"),
    "font": (".woff2", ".woff", ".ttf", ".otf"),
    "manifest": (".webmanifest", ".json"),
}
_DATA = re.compile(r"[a-z][a-z0-9-]{0,60}")
_META = re.compile(r"[A-Za-z][A-Za-z0-9:._-]{0,80}")
_SAID = {
    "viewport": "is on every page already",
    "charset": "is on every page already",
    "description": "belongs to each page, as `description:`",
    "keywords": "belongs to each page, as `keywords:`",
    "robots": "belongs to each page, as `noindex:`",
}
"""Names for which the map has words of its own, and where these stand."""


class FileNames:
    """Names of files as they are written in a map, looked up among those that there are."""

    def __init__(self, files: Files, context: Context) -> None:
        self._known = files.under("files")
        self._context = context

    def one(self, node: Node, what: str) -> str:
        """The name of a file of one kind; empty with a finding where there is none."""
        text = text_of(node, f"The {what}", self._context)
        if text is None or not isinstance(node, Scalar):
            return ""
        name = text.strip().removeprefix("files/")
        if name not in self._known:
            near = self._context.nearest(name, self._known)
            self._context.say(
                site_rules.UNKNOWN_FILE,
                node.start,
                f"There is no file `{name[:80]}` in the folder `files`.",
                f"Did you mean `{near}`?" if near else "Put it there; what pages load comes from the site itself.",
                self._context.instead(node, near),
            )
            return ""
        if not name.lower().endswith(_SUFFIXES[what]):
            message = f"`{name[:80]}` is no {what}."
            remedy = "Name a file that ends with " + " or ".join(_SUFFIXES[what]) + "."
            self._context.say(site_rules.BAD_VALUE, node.start, message, remedy)
            return ""
        return name

    def several(self, node: Node, what: str) -> tuple[str, ...]:
        """The same of a list, or of one text in its place; each once."""
        names = [self.one(item, what) for item in texts_of(node, f"The {what}", self._context)]
        return tuple(dict.fromkeys(name for name in names if name))


def read_head(node: Node, names: FileNames, context: Context) -> HeadSettings:
    """What every page loads."""
    keys = keys_of(node, HEAD, "`head`", context)
    return HeadSettings(
        icon=names.one(keys["icon"][1], "icon") if "icon" in keys else "",
        styles=names.several(keys["styles"][1], "style sheet") if "styles" in keys else (),
        scripts=names.several(keys["scripts"][1], "script") if "scripts" in keys else (),
        fonts=_fonts(keys["fonts"][1], names, context) if "fonts" in keys else (),
        manifest=_manifest(keys["manifest"][1], names) if "manifest" in keys else "",
        meta=_meta(keys["meta"][1], context) if "meta" in keys else (),
        social=read_social(keys["social"][1], "`head`", names, context) if "social" in keys else Social(),
        counter=_counter(keys["counter"][1], names, context) if "counter" in keys else None,
        **read_words(keys, HEAD, context, "`head`"),
        at=next((keys[word][0].start for word in ("touch-icon", "manifest", "feed") if word in keys), node.start),
    )


def read_social(node: Node, where: str, names: FileNames, context: Context) -> Social:
    """What is shown where a page is passed on."""
    keys = keys_of(node, SOCIAL, f"`social` of {where}", context)

    picture = names.one(keys["picture"][1], "picture") if "picture" in keys else ""
    return Social(picture=picture, **read_words(keys, SOCIAL, context, f"`social` of {where}"))


def _manifest(node: Node, names: FileNames) -> str:
    if isinstance(node, Scalar) and node.value.strip() == AUTO:
        return AUTO
    return names.one(node, "manifest")


def _pairs(node: Node, word: str, wanted: str, example: str, context: Context) -> tuple[tuple[Scalar, Node], ...]:
    """The names below a word with their values; none, with a finding, where other things stand there."""
    if isinstance(node, Mapping):
        return node.pairs
    message = f"`{word}` is {kind_of(node)} where {wanted} are expected."
    context.say(site_rules.WRONG_SHAPE, node.start, message, f"Write such as `{example}` below it.")
    return ()


def _meta(node: Node, context: Context) -> tuple[tuple[str, str], ...]:
    found = []
    for name, value in _pairs(node, "meta", "names with their contents", "theme-color: '#14204a'", context):
        known = _SAID.get(name.value.lower(), "belongs under `social:`" if name.value.startswith("og:") else "")
        if known or not _META.fullmatch(name.value):
            message = f"`{name.value[:60]}` {known or 'cannot be the name of what a head says'}."
            remedy = "Remove it." if known else "Use letters, digits, `:`, `.` and `-`."
            context.say(site_rules.BAD_VALUE, name.start, message, remedy)
            continue
        text = label_of(value, f"`{name.value}` of `meta`", context)
        if text:
            found.append((name.value, text))
    return tuple(found)


def _counter(node: Node, names: FileNames, context: Context) -> Counter | None:
    keys = keys_of(node, COUNTER, "`counter`", context)
    if "script" not in keys:
        if isinstance(node, Mapping):
            message = "`counter` names no script."
            context.say(site_rules.MISSING_KEY, node.start, message, "Add `script:` with its address, or a file.")
        return None
    written = keys["script"][1]
    data = []
    for name, value in (
        _pairs(keys["data"][1], "data", "names with their texts", "site: mill", context) if "data" in keys else ()
    ):
        if not _DATA.fullmatch(name.value):
            message = f"`data-{name.value[:60]}` cannot be the name of an attribute."
            context.say(site_rules.BAD_VALUE, name.start, message, "Use lower-case letters, digits and hyphens.")
            continue
        text = label_of(value, f"`{name.value}` of `counter`", context)
        data += [(name.value, text)] if text else []
    hosts = (
        [host.value.strip() for host in texts_of(keys["hosts"][1], "`hosts` of `counter`", context)]
        if ("hosts" in keys)
        else []
    )
    if not isinstance(written, Scalar) or "://" not in written.value:
        file = names.one(written, "script")
        return Counter(file=file, data=tuple(data), hosts=tuple(hosts)) if file else None
    url = web_address(written.value)
    if url is None:
        message = f"`{written.value[:80]}` is not an address of a script."
        context.say(site_rules.BAD_SCHEME, written.start, message, "Begin it with https:, or name a file in `files`.")
        return None
    own = urlsplit(url).hostname or ""
    return Counter(url, data=tuple(data), hosts=(own, *(host for host in hosts if host != own)))


def _fonts(node: Node, names: FileNames, context: Context) -> tuple[tuple[str, str], ...]:
    found = []
    for family, value in _pairs(node, "fonts", "families with their files", "Mill Sans: mill.woff2", context):
        if not _FAMILY.fullmatch(family.value):
            message = f"`{family.value[:60]}` cannot be the name of a font family."
            context.say(site_rules.BAD_VALUE, family.start, message, "Use letters, digits, spaces and hyphens.")
            continue
        file = names.one(value, "font")
        if file:
            found.append((family.value, file))
    return tuple(found)
