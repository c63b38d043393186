"""Values as they are written in a map: plain where every reader of YAML takes them for text, else in quotes."""

from __future__ import annotations

import json
import re

_PLAIN = re.compile(r"(?:[^\W_]|/)(?:[\w ./()&+'’–-]*[\w./)’])?")
_TAKEN_FOR_ANOTHER = re.compile(
    r"(?i:y|n|yes|no|on|off|true|false|null)|[-+]?[0-9][0-9_]*(?:\.[0-9_]*)?(?:e[-+]?[0-9]+)?|0[xo][0-9a-f]+"
    r"|[0-9]{4}-[0-9]+-[0-9]+.*",
    re.IGNORECASE,
)
"""What a reader of plain YAML may take for a truth value, a number or a date (YAML 1.1 types; YAML 1.2, 10.3)."""
_BREAKS = re.compile("[\x7f-\x9f\u2028\u2029\ufeff]")


def write_scalar(value: str) -> str:
    """A text as it is written in a map, on one line, fit for lists in brackets too. Reading it gives ``value``."""
    if _PLAIN.fullmatch(value) and not _TAKEN_FOR_ANOTHER.fullmatch(value):
        return value
    quoted = json.dumps(value, ensure_ascii=False)
    return _BREAKS.sub(lambda found: f"\\u{ord(found.group()):04x}", quoted)
