"""The script of a header, line by line: the tables of a site's headers, and what runs them in the browser."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from basilica.core.header.header_plan import HeaderPlan
from basilica.core.header.state_machine import MEASURES, Transition


class Code(NamedTuple):
    """A line of the script, and why it is there."""

    code: str
    why: str


_START = (
    Code(
        '  var root = document.documentElement, state = "rest", down = true, waiting = false, last, turn, cell;',
        "Where the header is in its table, which way the page goes, and where it last turned.",
    ),
)
_RUN = (
    Code("  function look() {", "One look at the page: one measurement, and as many steps through the table as fit."),
    Code(
        '    var now = (headers[root.dataset.bHeader || ""] || []).find(function (one) { return one[0].matches; });',
        "The table of this page's header, for a window of this size.",
    ),
    Code(
        "    var depth = Math.max(0, Math.min(scrollY, root.scrollHeight - innerHeight)), row;",
        "How far the page is scrolled; a rubber band pulls past neither end.",
    ),
    Code("    if (last === undefined) last = turn = depth;", "A page may open scrolled; nothing has moved yet."),
    Code("    if (depth !== last && depth > last !== down) {", "It goes the other way now:"),
    Code("      down = !down;", "so it is remembered"),
    Code("      turn = last;", "where it turned."),
    Code("    }", ""),
    Code("    last = depth;", "For the next look."),
    Code("    waiting = false;", "The next scroll asks for another look."),
    Code('    if (now !== cell) state = "rest";', "The window has another size: its own table begins at rest."),
    Code("    cell = now;", ""),
    Code("    function fits(line) {", "Whether a line of the table leads on from here:"),
    Code("      return line[0] === state && line.slice(2).every(function (guard) {", "from this state, every guard"),
    Code(
        "        return ([depth, down ? depth - turn : 0, down ? 0 : turn - depth][guard[0]] > guard[2])"
        " === !!guard[1];",
        "on depth, fall or rise: more than so many pixels, or at most that.",
    ),
    Code("      });", ""),
    Code("    }", ""),
    Code(
        "    while (cell && (row = cell[1].find(fits))) state = row[1];",
        "To the next state, until no line fits.",
    ),
    Code(
        "    if (root.dataset.bState !== state) root.dataset.bState = state;",
        "The state as an attribute; the style does the rest.",
    ),
    Code("  }", ""),
    Code("  function soon() {", "However often the page is scrolled,"),
    Code("    if (!waiting) waiting = requestAnimationFrame(look);", "there is one look a frame."),
    Code("  }", ""),
    Code('  addEventListener("scroll", soon, { passive: true });', "It never holds the scrolling up."),
    Code('  addEventListener("resize", soon, { passive: true });', "Another size may have another table."),
    Code("  look();", "The page may have opened scrolled."),
)


def script_of(headers: Iterable[HeaderPlan]) -> tuple[Code, ...]:
    """The lines of the script; none where style alone does what is wanted."""
    headers = [header for header in headers if header.scripted]
    if not headers:
        return ()
    return (*_START, *_tables(headers), *_RUN)


def _tables(headers: list[HeaderPlan]) -> Iterator[Code]:
    yield Code("  var headers = {", "For each header its kinds of windows, and for each of these a table.")
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
            yield Code("      ]],", "")
        yield Code("    ],", "")
    yield Code("  };", "")


def _row(row: Transition) -> str:
    guards = "".join(f", [{MEASURES.index(measure)}, {int(over)}, {px}]" for measure, over, px in row.guards)
    return f'["{row.state}", "{row.next}"{guards}]'
