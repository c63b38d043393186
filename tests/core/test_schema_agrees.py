"""The JSON Schema (draft 2020-12) and the reader of maps take the same single values, for every word of the language.

References, files, and what one place of the map asks of another are for the reader alone."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
import yaml
from hypothesis import given
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from basilica.core.compile import compile_map
from basilica.core.edits.map_data import text_of
from basilica.core.language.json_schema import json_schema
from basilica.core.language.number_pattern import between
from basilica.core.language.sections import SECTIONS
from basilica.core.map.map_files import Files
from basilica.web.demo import DEMO, SEEDS

OF_ONE_VALUE = {"bad-value", "wrong-shape", "unknown-key", "too-long", "empty-text"}
"""Findings about a value by itself."""
FILES = Files({"tables/a.csv": b"name\nx\n", "files/a.svg": b"<svg xmlns='http://www.w3.org/2000/svg'/>"})
VALUES: tuple[Any, ...] = (
    *(
        "yes",
        "no",
        "maybe",
        0,
        1,
        2,
        12,
        100,
        9999,
        -1,
        "1.5",
        "12px",
        "#123456",
        "#12",
        "navy",
        "notacolour",
        "hsl(1 2% 3%)",
    ),
    *(
        "x",
        "a b",
        "home",
        "a.svg",
        "https://x.example/",
        "/x",
        "en",
        "en-GB",
        "2026-05-04",
        "2026-13-99",
        "clock",
        "auto",
    ),
    *(["home"], ["x", "y"], ["en", "cy"], {"a": "b"}, {"title": "x"}, "long " * 80),
    *sorted({value for words in SECTIONS.values() for word in words for value in word.values}),
)
LENIENT = {"class", "highlight"}
"""Words that the reader takes in a list as well, which nobody writes."""
TEMPLATES = {"own markup"}
"""Sections whose words are templates with their own syntax."""


def maps(section: str, word: str, value: Any) -> Iterator[dict[str, Any]]:
    """A map with a word of a section in its place; none for a section that needs others around it."""
    made: dict[str, Any] = {
        "site": {"name": "X", "base": "https://x.example"},
        "pages": {"home": {"path": "/", "title": "X"}, "visit": {"title": "V", "pages": {"hours": "H"}}},
        "menus": {"main": ["home", "visit"]},
    }
    page, said = made["pages"]["visit"], {word: value}
    if section in ("site", "breadcrumbs", "header", "page-end", "theme", "phrases", "checks", "head"):
        made.setdefault(section, {}).update(said)
    elif section == "pages":
        page |= said
    elif section == "menus":
        made["menus"]["other"] = {"entries": ["visit"], "place": "footer", **said}
    elif section == "entries" and word not in ("page", "group", "file", "url", "auto"):
        made["menus"]["main"].append({"page": "visit", "label": "L", "icon": "clock", **said})
    elif section == "auto":
        made["menus"]["main"] = [{"auto": said}]
    elif section == "header on a page":
        page["header"] = said
    elif section == "mobile":
        made["header"] = {"mobile": {"behaviour": "sticky", **said}}
    elif section == "social":
        made["head"] = {"social": said}
    elif section == "table":
        page["table"] = {"file": "a.csv", **said}
    elif section == "parts":
        made["parts"] = {"p": said if word == "html" else {"text": "x", **said}}
    elif section == "inlay":
        made["inlay"] = said
    elif section == "counter":
        made["head"] = {"counter": {"script": "https://x.example/a.js", **said}}
    elif section == "level":
        made["checks"] = {"levels": {"vague-link": {"level": "warning", "reason": "x", **said}}}
    elif section == "levels of breadcrumbs":
        page["breadcrumbs"] = [said]
    else:
        return
    yield made


@pytest.mark.long
@pytest.mark.parametrize("section", [name for name in SECTIONS if name not in TEMPLATES])
def test_the_schema_and_the_reader_agree(section: str) -> None:
    validator = Draft202012Validator(json_schema())
    apart = []
    for word in SECTIONS[section]:
        for value in (*VALUES, *(one + more for one in word.range or () for more in (-1, 0, 1))):
            for made in maps(section, word.name, value):
                findings = [finding for finding in compile_map(text_of(made), FILES).findings if finding.stops]
                if any(finding.code not in OF_ONE_VALUE for finding in findings) or "file" in word.value_type:
                    continue
                if validator.is_valid(made) != (not findings) and not (
                    word.name in LENIENT and isinstance(value, list)
                ):
                    apart.append((word.name, value, [finding.message for finding in findings]))
    assert not apart


@given(st.integers(-9999, 9999), st.integers(0, 9999), st.integers(-12000, 22000))
def test_numbers_within_a_range(least: int, more: int, number: int) -> None:
    assert bool(re.fullmatch(between(least, least + more), str(number))) == (least <= number <= least + more)


@pytest.mark.parametrize(
    "wrong", [{"nav": []}, {"site": {"url": "x"}}, {"theme": {"fon": "system"}}, {"pages": {"a": {"url": "/"}}}]
)
def test_a_misspelt_word_is_no_language(wrong: dict[str, Any]) -> None:
    assert not Draft202012Validator(json_schema()).is_valid({"pages": {"home": {"path": "/"}}, **wrong})


@pytest.mark.parametrize("demo", [DEMO, SEEDS], ids=lambda path: path.parent.name)
def test_shipped_maps_are_valid(demo: Path) -> None:
    for path in (demo, *demo.parent.glob("maps/*.yaml")):
        said = yaml.safe_load(path.read_text())
        schema = json_schema() if path == demo else {**json_schema(), "required": [], "additionalProperties": True}
        assert [error.message[:200] for error in Draft202012Validator(schema).iter_errors(said)] == []
