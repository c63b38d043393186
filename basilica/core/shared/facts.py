"""Facts that stand once, such as a telephone number, and are said by name wherever a text has them: `{fact:phone}`."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping

Facts = Mapping[str, str]
"""By name, what is so."""

FACT = re.compile(r"\{fact:([a-z0-9-]{1,60})\}")


def with_facts(text: str, facts: Facts) -> str:
    """A text with every fact in its place; one that is not known stays as it is written."""
    return FACT.sub(lambda found: facts.get(found[1], found[0]), text) if "{fact:" in text else text


def unknown_facts(text: str, facts: Facts) -> Iterator[tuple[str, int]]:
    """The names in a text that no fact has, each with its place in it."""
    return ((found[1], found.start()) for found in FACT.finditer(text) if found[1] not in facts)


def telephone(number: str) -> str:
    """A telephone number as people read it, as it is dialled (RFC 3966): digits, and a plus in front."""
    return ("+" if number.strip().startswith("+") else "") + re.sub(r"[^0-9]", "", number.replace("(0)", ""))
