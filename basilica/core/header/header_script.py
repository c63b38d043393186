"""The script of a header, line by line: the tables of a site's headers, and what runs them in the browser.

What runs them is `header.js`, where each line has its reason behind it; the tables are put into it as data.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import cache
from importlib.resources import files as resources
from typing import NamedTuple

from basilica.core.header.header_plan import HeaderPlan
from basilica.core.header.state_machine import MEASURES, Transition

_DATA = "HEADERS"
LINE = 52
"""More than one line of entries is high, CSS px."""


class Code(NamedTuple):
    """A line of the script, and why it is there."""

    code: str
    why: str


def script_of(headers: Iterable[HeaderPlan]) -> tuple[Code, ...]:
    """The lines of the script; none where style alone does what is wanted."""
    headers = [header for header in headers if any(cell.table for cell in header.cells)]
    if not headers:
        return ()
    found: list[Code] = []
    for line in _source():
        before, data, after = line.code.partition(_DATA)
        if not data:
            found.append(line)
            continue
        first, *between, last = _tables(headers)
        found += [Code(before + first.code, line.why), *between, Code(last.code + after, last.why)]
    return tuple(found)


@cache
def _source() -> tuple[Code, ...]:
    """The lines of `header.js` inside its function, each with its reason."""
    lines = resources("basilica.core.header").joinpath("header.js").read_text(encoding="utf-8").splitlines()
    begins = next(number for number, line in enumerate(lines, 1) if line.startswith("("))
    inside = lines[begins : lines.index("})();")]
    return tuple(Code(code, why) for code, _, why in (line.partition(" // ") for line in inside))


def _tables(headers: list[HeaderPlan]) -> Iterator[Code]:
    yield Code("{", "")
    for header in headers:
        yield Code(f'    "{header.name}": [', f"Header {header.name}." if header.name else "The header of most pages.")
        for cell in header.cells:
            media = cell.windows.media or "all"
            yield Code(
                f'      [matchMedia("{media}"), [', "In these windows:" if cell.table else "Here it stays at rest."
            )
            for row in cell.table:
                yield Code(
                    f"        {_row(row)},", f"{row.state}, with {' and '.join(map(str, row.guards))}: {row.next}."
                )
            small = cell.settings
            most = (
                f", {max(small.small_height, LINE)}, {small.small_name_height}" if cell.table and small.shrinks else ""
            )
            yield Code(f"      ]{most}],", "No higher may the menu and the name be when small." if most else "")
        yield Code("    ],", "")
    yield Code("  }", "")


def _row(row: Transition) -> str:
    guards = "".join(f", [{MEASURES.index(measure)}, {int(over)}, {px}]" for measure, over, px in row.guards)
    return f'["{row.state}", "{row.next}"{guards}]'
