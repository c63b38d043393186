"""The JSON Schema (draft 2020-12) of a page map, for editors that check as one types."""

from __future__ import annotations

from typing import Any

from basilica.core.map.schema import sections as words
from basilica.core.map.schema.inlay_words import INLAY, MARKUP, REPLACED
from basilica.core.map.schema.part_words import COUNTER
from basilica.core.rules import limits

Schema = dict[str, Any]

_TEXT: Schema = {"type": ["string", "number", "boolean"]}
"""Every scalar is text in a map; readers of plain YAML may take `404` or `no` for something else."""
_LABEL: Schema = {**_TEXT, "maxLength": limits.LABEL_CHARACTERS}
_TEXTS: Schema = {"anyOf": [_TEXT, {"type": "array", "items": _TEXT}]}
_NAMED: Schema = {"type": "object", "additionalProperties": _TEXT}
_TAG = "^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$"
"""The tag of a language, below which words stand that hold in it."""
_LEVELS: Schema = {"type": "integer", "minimum": 1, "maximum": limits.LEVELS}
_YES_OR_NO: Schema = {"enum": ["yes", "no", True, False]}
"""Readers of plain YAML take both for booleans."""


def _keys(section: tuple[words.Word, ...], own: dict[str, Schema] | None = None) -> Schema:
    properties: Schema = {}
    for word in section:
        values = _YES_OR_NO if word.value_type == "yes or no" else {"enum": list(word.values)} if word.values else _TEXT
        schema: Schema = dict((own or {}).get(word.name, values))
        properties[word.name] = {**schema, "description": word.meaning}
    told: Schema = {"patternProperties": {_TAG: {}}}
    return {"type": "object", "properties": properties, **told, "additionalProperties": False}


def _header(section: tuple[words.Word, ...]) -> Schema:
    numbers = {
        name: {"anyOf": [{"type": "integer", "minimum": least, "maximum": most}, {"type": "string"}]}
        for name, (least, most) in words.RANGES.items()
    }
    if any(word.name == "mobile" for word in section):
        numbers["mobile"] = _header((words.BELOW, *words.MOBILE))
    return _keys(section, numbers)


def _levels() -> Schema:
    level: Schema = {"enum": list(words.LEVEL[0].values)}
    return {"type": "object", "additionalProperties": {"anyOf": [level, _keys(words.LEVEL, {"reason": _LABEL})]}}


def json_schema() -> Schema:
    """The schema. It knows shapes and names; references, clashes and the rest are for ``basilica check``."""
    ids = {"pattern": "^[a-z0-9-]+$", "not": {"enum": sorted(words.ENTRY_WORDS)}}
    replaced: Schema = {"enum": list(REPLACED)}
    hidden: Schema = {"enum": ["menus", "breadcrumbs", "sitemap"]}
    page = _keys(
        words.PAGE,
        {
            "title": _LABEL,
            "label": _LABEL,
            "was": _TEXTS,
            "pages": {"$ref": "#/$defs/pages"},
            "hidden": {"anyOf": [hidden, {"type": "array", "items": hidden}]},
        },
    )
    names: Schema = {"anyOf": [_TEXT, {"type": "array", "items": _TEXT}, {"type": "null"}]}
    slots: Schema = {"type": "object", "additionalProperties": names}
    shared = {"slots": slots, "social": _keys(words.SOCIAL), "styles": _TEXTS, "scripts": _TEXTS}
    for word in ("slots", "social", "styles", "scripts", "without"):
        meaning = page["properties"][word]["description"]
        page["properties"][word] = {**shared.get(word, _TEXTS), "description": meaning}
    reasons: Schema = {"type": "object", "additionalProperties": _LABEL}
    level: Schema = {"anyOf": [_TEXT, {**_keys(words.TRAIL, {"group": _LABEL}), "required": ["group"]}]}
    trail: Schema = {"anyOf": [_TEXT, {"type": "array", "items": level, "minItems": 1}]}
    page["properties"]["breadcrumbs"] = {**trail, "description": page["properties"]["breadcrumbs"]["description"]}
    page["properties"]["ignore"] = {**reasons, "description": page["properties"]["ignore"]["description"]}
    page["properties"]["header"] = {"anyOf": [{"enum": list(words.MOBILE[0].values)}, _header(words.PAGE_HEADER)]}
    header = _header(words.HEADER)
    counter = {**_keys(COUNTER, {"data": _NAMED, "hosts": _TEXTS}), "required": ["script"]}
    width: Schema = {"type": "integer", "minimum": 1}
    own = {"items": {"$ref": "#/$defs/entries"}, "above": width, "below": width}
    entry = _keys(words.ENTRY, {"label": _LABEL, "group": _LABEL, "note": _LABEL, **own})
    auto: Schema = {"anyOf": [_LEVELS, {"type": "null"}, _keys(words.AUTO, {"levels": _LEVELS, "except": _TEXTS})]}
    auto_only: Schema = {
        "type": "object",
        "properties": {"auto": auto},
        "required": ["auto"],
        "additionalProperties": False,
    }
    menu = _keys(words.MENU, {"entries": {"$ref": "#/$defs/entries"}, "label": _LABEL})
    menu["minProperties"] = 1
    del entry["properties"]["auto"]
    short: Schema = {
        "type": "object",
        "minProperties": 1,
        "maxProperties": 1,
        "propertyNames": {"not": {"enum": sorted(words.ENTRY_WORDS)}},
        "additionalProperties": {"anyOf": [{"$ref": "#/$defs/entries"}, {"type": "null"}]},
    }
    told = {"enum": list(next(word.values for word in words.HEAD if word.name == "data"))}
    kinds = (["page"], ["group"], ["file"], ["url", "label"])
    long = [{**entry, "required": kind} for kind in kinds]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A page map",
        **_keys(
            words.MAP,
            {
                "site": _keys(
                    words.SITE,
                    {
                        "languages": {"type": "array", "items": _TEXT},
                        "name": _LABEL,
                        "title": _LABEL,
                        "home-title": _LABEL,
                    },
                ),
                "pages": {"$ref": "#/$defs/pages"},
                "menus": {
                    "type": "object",
                    "propertyNames": {"pattern": "^[a-z0-9-]+$"},
                    "additionalProperties": {"anyOf": [{"$ref": "#/$defs/entries"}, menu]},
                },
                "breadcrumbs": _keys(words.BREADCRUMBS),
                "header": header,
                "page-end": _keys(words.PAGE_END),
                "theme": _keys(words.THEME),
                "phrases": _keys(words.PHRASE_WORDS),
                "parts": {
                    "type": "object",
                    "propertyNames": {"pattern": "^[a-z0-9-]{1,60}$"},
                    "additionalProperties": {"anyOf": [_TEXT, _keys(words.PART)]},
                },
                "checks": _keys(words.CHECKS, {"levels": _levels(), "hosts": _TEXTS, "words": _TEXTS}),
                "inlay": _keys(
                    INLAY,
                    {
                        "replace": {"anyOf": [replaced, {"type": "array", "items": replaced}]},
                        "menus": {"type": "object", "additionalProperties": _keys(MARKUP)},
                        "breadcrumbs": _keys(MARKUP),
                    },
                ),
                "slots": slots,
                "redirects": _NAMED,
                "facts": {**_NAMED, "propertyNames": {"pattern": "^[a-z0-9-]{1,60}$"}},
                "head": _keys(
                    words.HEAD,
                    {
                        **shared,
                        "fonts": _NAMED,
                        "meta": _NAMED,
                        "counter": counter,
                        "data": {"anyOf": [told, {"type": "array", "items": told}]},
                    },
                ),
            },
        ),
        "required": ["pages"],
        "$defs": {
            "pages": {
                "type": "object",
                "propertyNames": ids,
                "additionalProperties": {"anyOf": [{"type": "null"}, _LABEL, page]},
            },
            "entries": {
                "anyOf": [
                    {"const": "auto"},
                    auto_only,
                    {"type": "array", "items": {"anyOf": [_TEXT, auto_only, short, *long]}},
                ]
            },
        },
    }
