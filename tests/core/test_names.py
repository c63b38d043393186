"""One word for one thing: the glossary is what the code has, and no name means two things."""

from __future__ import annotations

import ast
import importlib
import re
from collections import defaultdict
from pathlib import Path

import pytest

import basilica

PACKAGE = Path(basilica.__file__).parent
GLOSSARY = (PACKAGE.parent / "docs" / "glossary.md").read_text(encoding="utf-8")
ROWS = re.findall(r"^\| ([^|]+) \| [^|]+ \| (`[^|]+`) \|$", GLOSSARY, re.MULTILINE)
NAMED = [(term, name) for term, names in ROWS for name in re.findall(r"`([\w.]+)`", names)]


@pytest.mark.parametrize(("term", "name"), NAMED, ids=lambda each: each)
def test_what_the_glossary_names_is_there(term: str, name: str) -> None:
    module, _, attribute = f"basilica.core.{name}".rpartition(".")
    assert hasattr(importlib.import_module(module), attribute), f"{term}: there is no {name}"


def test_the_glossary_says_each_term_once() -> None:
    terms = [term for row, _ in ROWS for term in row.split(", ")]
    assert len(terms) == len(set(terms)) and len(NAMED) > 45


@pytest.mark.long
def test_no_two_public_classes_share_a_name() -> None:
    owners: dict[str, list[str]] = defaultdict(list)
    for module in PACKAGE.rglob("*.py"):
        for node in ast.walk(ast.parse(module.read_text(encoding="utf-8"))):
            if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                owners[node.name].append(str(module.relative_to(PACKAGE)))
    assert {name: where for name, where in owners.items() if len(where) > 1} == {}


def test_no_two_modules_of_the_core_share_a_name() -> None:
    owners: dict[str, list[str]] = defaultdict(list)
    for module in (PACKAGE / "core").rglob("*.py"):
        if module.stem != "__init__":
            owners[module.stem].append(str(module.relative_to(PACKAGE)))
    assert {name: where for name, where in owners.items() if len(where) > 1} == {}
