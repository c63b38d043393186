"""The JSON Schema (draft 2020-12) of a page map, for editors that check as one types."""

from __future__ import annotations

from basilica.core.language.codecs import LABEL, TEXT_SCHEMA, Schema
from basilica.core.language.sections import MAP
from basilica.core.language.sections.breadcrumbs_words import BREADCRUMBS
from basilica.core.language.sections.checks_words import CHECKS, LEVEL
from basilica.core.language.sections.head_words import COUNTER, HEAD, SOCIAL
from basilica.core.language.sections.header_words import BELOW, HEADER, MOBILE, PAGE_HEADER
from basilica.core.language.sections.inlay_words import INLAY, MARKUP
from basilica.core.language.sections.menu_words import AUTO, ENTRY, ENTRY_WORDS, MENU
from basilica.core.language.sections.page_end_words import PAGE_END
from basilica.core.language.sections.page_words import PAGE, TABLE, TRAIL
from basilica.core.language.sections.part_words import PART
from basilica.core.language.sections.phrases_words import PHRASE_WORDS
from basilica.core.language.sections.site_words import SITE
from basilica.core.language.sections.theme_words import THEME
from basilica.core.language.word import Word
from basilica.core.rules import limits

_LABEL = LABEL.schema()
_DIGITS = [str(level) for level in range(1, limits.LEVELS + 1)]
_TEXTS: Schema = {"anyOf": [TEXT_SCHEMA, {"type": "array", "items": TEXT_SCHEMA}]}
_NAMED: Schema = {"type": "object", "additionalProperties": TEXT_SCHEMA}
_OF_THREE = "ast|ceb|chr|ckb|dsb|fil|fur|gsw|haw|hsb|kok|lij|mni|nds|sat|scn|sco|sma|sme|smj|smn|sms|szl|tet|vec|yue"
"""Languages that have no tag of two letters (ISO 639-3). Any three letters would take misspelt words for languages."""
_TAG = f"^([a-z]{{2}}|{_OF_THREE})(-[A-Za-z0-9]{{1,8}})*$"
"""The tag of a language, with words for it below."""
_IN_LANGUAGE: Schema = {"anyOf": [TEXT_SCHEMA, {"type": "object"}, {"type": "null"}]}
_LEVELS: Schema = {"anyOf": [{"type": "integer", "minimum": 1, "maximum": limits.LEVELS}, {"enum": _DIGITS}]}
"""`auto: 3` takes digits alone."""


def _keys(section: tuple[Word, ...], own: dict[str, Schema] | None = None, languages: bool = False) -> Schema:
    """The keys of a section. Its ``languages`` can say something else, each under its tag."""
    properties: Schema = {}
    for word in section:
        schema: Schema = dict((own or {}).get(word.name) or word.codec.schema())
        properties[word.name] = {**schema, "description": word.meaning}
    said: Schema = {"type": "object", "properties": properties, "additionalProperties": False}
    return {**said, "patternProperties": {_TAG: _IN_LANGUAGE}} if languages else said


def _or_nothing(schema: Schema) -> Schema:
    """A place that may be left empty as well."""
    return {"anyOf": [schema, {"type": "null"}]}


def _header(section: tuple[Word, ...]) -> Schema:
    mobile = _or_nothing(_keys((BELOW, *MOBILE)))
    return _keys(section, {"mobile": mobile} if section is not MOBILE else {})


def _levels_of_checks() -> Schema:
    level: Schema = {"enum": list(LEVEL[0].values)}
    return {"type": "object", "additionalProperties": {"anyOf": [level, _keys(LEVEL)]}}


def _page(slots: Schema, social: Schema) -> Schema:
    level: Schema = {"anyOf": [TEXT_SCHEMA, {**_keys(TRAIL), "required": ["group"]}]}
    table = {**_keys(TABLE), "required": ["file"]}
    header = _header(PAGE_HEADER)
    return _keys(
        PAGE,
        {
            "pages": _or_nothing({"$ref": "#/$defs/pages"}),
            "breadcrumbs": {"anyOf": [TEXT_SCHEMA, {"type": "array", "items": level, "minItems": 1}]},
            "ignore": _or_nothing({"type": "object", "additionalProperties": _LABEL}),
            "header": _or_nothing({"anyOf": [{"enum": list(MOBILE[0].values)}, {**header, "minProperties": 1}]}),
            "table": {"anyOf": [TEXT_SCHEMA, table]},
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
    own = {"items": _or_nothing({"$ref": "#/$defs/entries"})}
    entry = _keys(tuple(word for word in ENTRY if word.name != "auto"), own, languages=True)
    short: Schema = {
        "type": "object",
        "minProperties": 1,
        "maxProperties": 1,
        "propertyNames": {"not": {"enum": sorted(ENTRY_WORDS)}},
        "additionalProperties": _or_nothing({"$ref": "#/$defs/entries"}),
    }
    long = [{**entry, "required": kind} for kind in (["page"], ["group"], ["file"], ["url", "label"])]
    items = {"anyOf": [TEXT_SCHEMA, auto_only, short, *long]}
    return {"anyOf": [{"const": "auto"}, auto_only, {"type": "array", "items": items}]}


def json_schema() -> Schema:
    """The schema. It knows shapes, names and single values; references, clashes and the rest are for
    ``basilica check``."""
    ids = {"pattern": "^[a-z0-9-]+$", "not": {"enum": sorted(ENTRY_WORDS)}}
    names: Schema = _or_nothing(_TEXTS)
    slots: Schema = {"type": "object", "additionalProperties": names}
    social = _keys(SOCIAL)
    menu = _keys(MENU, {"entries": {"$ref": "#/$defs/entries"}}, languages=True)
    own: dict[str, Schema] = {
        "site": _keys(SITE, languages=True),
        "pages": {"$ref": "#/$defs/pages"},
        "menus": {
            "type": "object",
            "propertyNames": {"pattern": "^[a-z0-9-]+$"},
            "additionalProperties": {"anyOf": [{"$ref": "#/$defs/entries"}, {**menu, "minProperties": 1}]},
        },
        "breadcrumbs": _keys(BREADCRUMBS, languages=True),
        "header": {**_header(HEADER), "patternProperties": {_TAG: _IN_LANGUAGE}},
        "page-end": _keys(PAGE_END, languages=True),
        "theme": _keys(THEME, languages=True),
        "facts": {**_NAMED, "propertyNames": {"pattern": "^[A-Za-z0-9-]{1,60}$"}, "patternProperties": {_TAG: {}}},
        "parts": {
            "type": "object",
            "propertyNames": {"pattern": "^[a-z0-9-]{1,60}$"},
            "additionalProperties": {"anyOf": [TEXT_SCHEMA, _keys(PART, languages=True)]},
        },
        "slots": slots,
        "head": _keys(
            HEAD,
            {
                "social": _or_nothing(social),
                "fonts": _or_nothing(_NAMED),
                "meta": _or_nothing(_NAMED),
                "counter": _or_nothing({**_keys(COUNTER, {"data": _NAMED}), "required": ["script"]}),
            },
            languages=True,
        ),
        "phrases": _keys(PHRASE_WORDS, languages=True),
        "redirects": _NAMED,
        "inlay": _keys(
            INLAY,
            {
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
