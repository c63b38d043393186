"""The settings of the whole site: its name, its base, its language and its addresses."""

from __future__ import annotations

import re
from typing import NamedTuple

import ada_url

from basilica.core.language.codecs import Choice
from basilica.core.language.sections.site_words import SITE
from basilica.core.map.document import Node, Scalar
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.languages import MOST, TAG, tags_in
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context, Keys, keys_of, label_of, text_of, texts_of
from basilica.core.map.site.model import Base
from basilica.core.map.site.word_reader import read_words

TITLE_VALUES = ("title", "site", "label", "section")
"""What a pattern of titles can have in braces."""
TITLE_VALUE = re.compile(r"\{([^{}]*)\}")
_CHOICES = tuple(word for word in SITE if isinstance(word.codec, Choice))
_PATTERNS = {"title": "title", "home_title": "home-title"}


class SiteSettings(NamedTuple):
    """What stands under `site:`; ``language_at`` is where the language is said, and ``name`` is None where none is."""

    languages: tuple[str, ...]
    name: str | None
    base: Base | None
    language: str
    language_at: int
    language_prefix: str
    urls: str
    links: str
    title: str = ""
    home_title: str = ""


_NAMED = """
    en english / de german deutsch / fr french français / es spanish español / it italian italiano / nl dutch nederlands
    pt portuguese / pl polish / cy welsh cymraeg / da danish / sv swedish / nb norwegian / fi finnish / cs czech
    ar arabic / he hebrew / el greek / ru russian / zh chinese / ja japanese / tr turkish
"""
_TAGS = {name: tag for tag, *names in map(str.split, re.split(r"[/\n]", _NAMED.strip())) for name in names}
"""The tags of languages that people write by name (ISO 639-1)."""

_HOST_ALONE = re.compile(r"[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)*\.[A-Za-z]{2,}(:[0-9]+)?(/[^\s?#]*)?")
"""A full address without its `https://`."""


def read_site(node: Node, at: int, context: Context) -> SiteSettings:
    """The settings of the whole site. ``at`` is where findings about what is missing point."""
    keys = keys_of(node, SITE, "`site`", context)
    name = label_of(keys["name"][1], "The site's name", context) if "name" in keys else None
    if "name" not in keys and context.complete and not (isinstance(node, Scalar) and node.value):
        context.say(site_rules.NO_NAME, at, "The site has no name.")
    base = _base(keys["base"][1], context) if "base" in keys else None
    if "base" not in keys and context.complete:
        context.say(
            site_rules.NO_BASE,
            at,
            "The site has no base address, so it gets no sitemap and no canonical addresses.",
        )
    language = text_of(keys["language"][1], "The language", context) if "language" in keys else None
    if language is not None and not TAG.fullmatch(language):
        said, meant = keys["language"][1], _TAGS.get(language.lower())
        context.say(
            site_rules.BAD_VALUE,
            keys["language"][1].start,
            f"`{language[:60]}` is not a language tag.",
            f"Write `{meant}`." if meant else "Write one such as `en`, `en-GB` or `pt-BR`.",
            context.instead(said, meant) if isinstance(said, Scalar) else None,
        )
        language = None
    choices = {word.field: word.default for word in _CHOICES} | read_words(keys, _CHOICES, context)
    if choices["links"] == "absolute" and base is None:
        context.say(
            site_rules.BAD_BASE,
            keys["links"][1].start,
            "Links cannot be absolute without a base address.",
            "Add `base: https://…` under `site:`, or choose other links.",
        )
        choices["links"] = "root"
    patterns = {name: _pattern(keys[word][1], f"`{word}`", context) for name, word in _PATTERNS.items() if word in keys}
    tags = _languages(keys, context) if "languages" in keys else ()
    language_at = keys["language"][1].start if "language" in keys else at
    if tags and base is None and "base" not in keys:
        message = (
            "A site in several languages has no base address, so its pages cannot name one another's translations."
        )
        context.say(site_rules.NO_BASE, keys["languages"][0].start, message)
    if tags:
        language, language_at = tags[0], keys["languages"][1].start
    return SiteSettings(tags, name, base, language or "en", language_at, **choices, **patterns)


def _languages(keys: Keys, context: Context) -> tuple[str, ...]:
    """The languages of the site; none with a finding where these are fewer than two."""
    found: dict[str, str] = {}
    given = keys["languages"][1]
    items = tags_in(given) if isinstance(given, Scalar) else ()
    if isinstance(given, Scalar) and len(items) > 1:
        listed = f"[{', '.join(item.value for item in items)}]"
        message, fix = "`languages` is one text where a list is expected.", context.instead(given, listed)
        context.say(site_rules.WRONG_SHAPE, given.start, message, f"Write `languages: {listed[:60]}`.", fix)
    for item in items if len(items) > 1 else texts_of(given, "`languages`", context):
        tag = item.value.strip()
        if not TAG.fullmatch(tag):
            message = f"`{tag[:60]}` is not a language tag."
            context.say(site_rules.BAD_VALUE, item.start, message, "Write one such as `en`, `en-GB` or `cy`.")
        elif tag.lower() in found:
            message = f"`{tag}` appears twice in `languages`."
            context.say(site_rules.BAD_VALUE, item.start, message, "Remove one of the two.")
        else:
            found[tag.lower()] = tag
    tags = tuple(found.values())
    said = getattr(keys["language"][1], "value", "").strip() if "language" in keys and tags else ""
    if said and said != tags[0]:
        message = f"`language` has no use beside `languages`, whose first is `{tags[0]}`."
        context.say(site_rules.KEY_WITHOUT_USE, keys["language"][0].start, message, "Remove it.")
    if not 1 < len(tags) <= MOST:
        message = f"`languages` names {len(tags)}, where two to {MOST} are expected."
        context.say(site_rules.BAD_VALUE, keys["languages"][1].start, message, "Write such as `languages: [en, cy]`.")
        return ()
    return tags


def _pattern(node: Node, what: str, context: Context) -> str:
    """A pattern of titles; empty with a finding where it has other values than there are, or not the title."""
    text = label_of(node, what, context) or ""
    unknown = next((name for name in TITLE_VALUE.findall(text) if name not in TITLE_VALUES), None)
    if unknown is not None:
        near = context.nearest(unknown, TITLE_VALUES)
        message = f"{what} has `{{{unknown[:40]}}}`, which no page has."
        remedy = (
            f"Did you mean `{{{near}}}`?" if near else f"Known are {', '.join(f'`{{{v}}}`' for v in TITLE_VALUES)}."
        )
        context.say(site_rules.BAD_VALUE, node.start, message, remedy)
        return ""
    if text and "{title}" not in text and what != "`home-title`":
        message = f"{what} has no `{{title}}`, so all pages would have one title."
        context.say(site_rules.BAD_VALUE, node.start, message, "Write it such as `{title} · {site}`.")
        return ""
    return text


def _base(node: Node, context: Context) -> Base | None:
    text = text_of(node, "The base address", context)
    if text is None:
        return None
    base, reason = parse_base(text.strip())
    if base is None:
        full = f"https://{text.strip()}" if _HOST_ALONE.fullmatch(text.strip()) else ""
        fix = context.instead(node, write_scalar(full)) if full and isinstance(node, Scalar) else None
        remedy = f"Write `{full[:80]}`." if full else ""
        context.say(site_rules.BAD_BASE, node.start, f"The base address {reason}.", remedy, fix)
    return base


def parse_base(text: str) -> tuple[Base | None, str]:
    """A base address from text, or None and why not. Parsed as browsers do (WHATWG URL)."""
    try:
        url = ada_url.URL(text)
    except ValueError:
        return None, "is not a full address"
    if url.protocol not in ("http:", "https:"):
        return None, "begins with neither `https:` nor `http:`"
    if url.username or url.password:
        return None, "holds a user name"
    if url.search or url.hash or text.endswith(("?", "#")):
        return None, "holds `?` or `#`"
    path = re.sub(r"/{2,}", "/", url.pathname).rstrip("/")
    return Base(url.origin, path), ""
