"""The JSON Schema (draft 2020-12) of a page map, for editors that check as one types."""

from __future__ import annotations

from typing import Any

from coloraide.css.color_names import name2val_map

from basilica.core.language.number_pattern import between
from basilica.core.language.sections import MAP
from basilica.core.language.sections.breadcrumbs_words import BREADCRUMBS
from basilica.core.language.sections.checks_words import CHECKS, LEVEL
from basilica.core.language.sections.head_words import COUNTER, HEAD, SOCIAL
from basilica.core.language.sections.header_words import BELOW, HEADER, MOBILE, PAGE_HEADER
from basilica.core.language.sections.inlay_words import INLAY, MARKUP, REPLACED
from basilica.core.language.sections.menu_words import AUTO, ENTRY, ENTRY_WORDS, MENU
from basilica.core.language.sections.page_end_words import PAGE_END
from basilica.core.language.sections.page_words import PAGE, TABLE, TRAIL
from basilica.core.language.sections.part_words import PART
from basilica.core.language.sections.phrases_words import PHRASE_WORDS
from basilica.core.language.sections.site_words import SITE
from basilica.core.language.sections.theme_words import THEME
from basilica.core.language.word import Word
from basilica.core.rules import limits

Schema = dict[str, Any]

_TEXT: Schema = {"type": ["string", "number", "boolean"]}
"""Every scalar is text in a map; readers of plain YAML may take `404` or `no` for something else."""
_LABEL: Schema = {**_TEXT, "maxLength": limits.LABEL_CHARACTERS}
_CLASS: Schema = {"anyOf": [{"type": "string", "pattern": "^ *-?[A-Za-z_][A-Za-z0-9_:/. -]*$"}, {"type": "null"}]}
_DIGITS = [str(level) for level in range(1, limits.LEVELS + 1)]
_TEXTS: Schema = {"anyOf": [_TEXT, {"type": "array", "items": _TEXT}]}
_NAMED: Schema = {"type": "object", "additionalProperties": _TEXT}
_OF_THREE = "ast|ceb|chr|ckb|dsb|fil|fur|gsw|haw|hsb|kok|lij|mni|nds|sat|scn|sco|sma|sme|smj|smn|sms|szl|tet|vec|yue"
"""Languages that have no tag of two letters (ISO 639-3). Any three letters would take misspelt words for languages."""
_TAG = f"^([a-z]{{2}}|{_OF_THREE})(-[A-Za-z0-9]{{1,8}})*$"
"""The tag of a language, below which words stand that hold in it."""
_IN_LANGUAGE: Schema = {"anyOf": [_TEXT, {"type": "object"}, {"type": "null"}]}
_LEVELS: Schema = {"anyOf": [{"type": "integer", "minimum": 1, "maximum": limits.LEVELS}, {"enum": _DIGITS}]}
_NAMES: Schema = {"anyOf": [_TEXT, {"type": "array", "items": _TEXT}]}
_LANGUAGE: Schema = {"type": "string", "pattern": "^ *[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})* *$"}
_OF_TYPES: dict[str, Schema] = {
    "colour": {
        "anyOf": [
            {"enum": sorted(set(name2val_map) - {"transparent"})},
            {"type": "string", "pattern": "^(#([0-9A-Fa-f]{3}|[0-9A-Fa-f]{6}|[0-9A-Fa-f]{6}[fF]{2})|[a-z-]+\\(.*\\))$"},
        ]
    },
    "date": {"type": "string", "pattern": "^ *[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01]) *$"},
    "language tag": _LANGUAGE,
    "address or list of addresses": _NAMES,
    "file or list of files": _NAMES,
    "host or list of hosts": _NAMES,
    "name or list of names": _NAMES,
    "reference or list of references": _NAMES,
    "text or list of texts": _NAMES,
    "list of language tags": {"type": "array", "items": _LANGUAGE, "minItems": 2, "maxItems": 20},
}
"""Schemas of the types of values that need more than a text."""
_YES_OR_NO: Schema = {"enum": ["yes", "no", True, False]}
"""Readers of plain YAML take both for booleans."""


def _word(word: Word) -> Schema:
    """The values of a word by its type: what the reader takes, references and files aside."""
    if word.value_type == "yes or no":
        return _YES_OR_NO
    if word.value_type == "one of":
        return {"enum": [*word.values, *dict(word.old_values)]}
    if word.values and word.value_type not in _OF_TYPES:
        return _TEXT  # some values have a meaning, and others are taken as well
    if word.range is not None:
        return _number(*word.range)
    return _OF_TYPES.get(word.value_type, _TEXT)


def _number(least: int, most: int) -> Schema:
    """A whole number, also as a text, or with `px` behind it."""
    return {
        "anyOf": [
            {"type": "integer", "minimum": least, "maximum": most},
            {"type": "string", "pattern": f"^ *(?:{between(least, most)}) *(?:px)? *$"},
        ]
    }


def _keys(section: tuple[Word, ...], own: dict[str, Schema] | None = None, languages: bool = False) -> Schema:
    """The keys of a section. Its ``languages`` can say something else, each under its tag."""
    properties: Schema = {}
    for word in section:
        schema: Schema = dict((own or {}).get(word.name) or _word(word))
        properties[word.name] = {**schema, "description": word.meaning}
    said: Schema = {"type": "object", "properties": properties, "additionalProperties": False}
    return {**said, "patternProperties": {_TAG: _IN_LANGUAGE}} if languages else said


def _or_nothing(schema: Schema) -> Schema:
    """A place that may be left empty as well."""
    return {"anyOf": [schema, {"type": "null"}]}


def _phrases() -> Schema:
    with_label: Schema = {**_LABEL, "type": "string", "pattern": r"^[^{}]*\{\}[^{}]*$"}
    own = {word.name: with_label if "{}" in word.default else _LABEL for word in PHRASE_WORDS}
    return _keys(PHRASE_WORDS, own, languages=True)


def _header(section: tuple[Word, ...]) -> Schema:
    mobile = _or_nothing(_keys((BELOW, *MOBILE)))
    own = {"tagline": _LABEL, "until": _LABEL, **({"mobile": mobile} if section is not MOBILE else {})}
    return _keys(section, own)


def _levels_of_checks() -> Schema:
    level: Schema = {"enum": list(LEVEL[0].values)}
    return {"type": "object", "additionalProperties": {"anyOf": [level, _keys(LEVEL, {"reason": _LABEL})]}}


def _page(slots: Schema, social: Schema) -> Schema:
    hidden: Schema = {"enum": ["menus", "breadcrumbs", "sitemap"]}
    level: Schema = {"anyOf": [_TEXT, {**_keys(TRAIL, {"group": _LABEL}), "required": ["group"]}]}
    table = {**_keys(TABLE), "required": ["file"]}
    header = _header(PAGE_HEADER)
    return _keys(
        PAGE,
        {
            "title": _LABEL,
            "label": _LABEL,
            "class": _CLASS,
            "keywords": _LABEL,
            "pages": _or_nothing({"$ref": "#/$defs/pages"}),
            "hidden": {"anyOf": [hidden, {"type": "array", "items": hidden}]},
            "breadcrumbs": {"anyOf": [_TEXT, {"type": "array", "items": level, "minItems": 1}]},
            "ignore": _or_nothing({"type": "object", "additionalProperties": _LABEL}),
            "header": _or_nothing({"anyOf": [{"enum": list(MOBILE[0].values)}, {**header, "minProperties": 1}]}),
            "table": {"anyOf": [_TEXT, table]},
            "slots": _or_nothing(slots),
            "social": _or_nothing(social),
        },
        languages=True,
    )


def _entries() -> Schema:
    auto: Schema = {"anyOf": [_LEVELS, {"type": "null"}, _keys(AUTO, {"levels": _LEVELS})]}
    auto_only: Schema = {
        "type": "object",
        "properties": {"auto": auto},
        "required": ["auto"],
        "additionalProperties": False,
    }
    own = {
        "label": _LABEL,
        "group": _LABEL,
        "note": _LABEL,
        "class": _CLASS,
        "items": _or_nothing({"$ref": "#/$defs/entries"}),
    }
    entry = _keys(tuple(word for word in ENTRY if word.name != "auto"), own, languages=True)
    short: Schema = {
        "type": "object",
        "minProperties": 1,
        "maxProperties": 1,
        "propertyNames": {"not": {"enum": sorted(ENTRY_WORDS)}},
        "additionalProperties": _or_nothing({"$ref": "#/$defs/entries"}),
    }
    long = [{**entry, "required": kind} for kind in (["page"], ["group"], ["file"], ["url", "label"])]
    items = {"anyOf": [_TEXT, auto_only, short, *long]}
    return {"anyOf": [{"const": "auto"}, auto_only, {"type": "array", "items": items}]}


def json_schema() -> Schema:
    """The schema. It knows shapes, names and single values; references, clashes and the rest are for
    ``basilica check``."""
    ids = {"pattern": "^[a-z0-9-]+$", "not": {"enum": sorted(ENTRY_WORDS)}}
    names: Schema = _or_nothing(_TEXTS)
    slots: Schema = {"type": "object", "additionalProperties": names}
    social = _keys(SOCIAL, {"title": _LABEL, "description": _LABEL})
    title = {**_LABEL, "type": "string", "pattern": r"\{title\}"}
    replaced: Schema = {"enum": list(REPLACED)}
    told = {"enum": list(next(word.values for word in HEAD if word.name == "data"))}
    own_of_menu = {"entries": {"$ref": "#/$defs/entries"}, "label": _LABEL, "class": _CLASS}
    menu = _keys(MENU, own_of_menu, languages=True)
    own: dict[str, Schema] = {
        "site": _keys(SITE, {"name": _LABEL, "title": title, "home-title": _LABEL}, languages=True),
        "pages": {"$ref": "#/$defs/pages"},
        "menus": {
            "type": "object",
            "propertyNames": {"pattern": "^[a-z0-9-]+$"},
            "additionalProperties": {"anyOf": [{"$ref": "#/$defs/entries"}, {**menu, "minProperties": 1}]},
        },
        "breadcrumbs": _keys(BREADCRUMBS, {"separator": {**_TEXT, "maxLength": 20}}, languages=True),
        "header": {**_header(HEADER), "patternProperties": {_TAG: _IN_LANGUAGE}},
        "page-end": _keys(PAGE_END, languages=True),
        "theme": _keys(THEME, languages=True),
        "facts": {**_NAMED, "propertyNames": {"pattern": "^[A-Za-z0-9-]{1,60}$"}, "patternProperties": {_TAG: {}}},
        "parts": {
            "type": "object",
            "propertyNames": {"pattern": "^[a-z0-9-]{1,60}$"},
            "additionalProperties": {"anyOf": [_TEXT, _keys(PART, languages=True)]},
        },
        "slots": slots,
        "head": _keys(
            HEAD,
            {
                "social": _or_nothing(social),
                "fonts": _or_nothing(_NAMED),
                "meta": _or_nothing(_NAMED),
                "counter": _or_nothing({**_keys(COUNTER, {"data": _NAMED}), "required": ["script"]}),
                "data": {"anyOf": [told, {"type": "array", "items": told}]},
            },
            languages=True,
        ),
        "phrases": _phrases(),
        "redirects": _NAMED,
        "inlay": _keys(
            INLAY,
            {
                "replace": {"anyOf": [replaced, {"type": "array", "items": replaced}]},
                "menus": {"type": "object", "additionalProperties": _keys(MARKUP, languages=True)},
                "breadcrumbs": _or_nothing(_keys(MARKUP, languages=True)),
            },
        ),
        "checks": _keys(CHECKS, {"levels": _or_nothing(_levels_of_checks())}),
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A page map",
        **_keys(MAP, {name: own[name] if name == "pages" else _or_nothing(own[name]) for name in own}),
        "required": ["pages"],
        "$defs": {
            "pages": {
                "type": "object",
                "propertyNames": ids,
                "additionalProperties": {"anyOf": [{"type": "null"}, _LABEL, _page(slots, social)]},
            },
            "entries": _entries(),
        },
    }
