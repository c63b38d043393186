"""The pattern of whole numbers within a range, for schemas of values that are texts."""

from __future__ import annotations


def between(least: int, most: int) -> str:
    """A regular expression (ECMA-262) for the numbers from ``least`` to ``most``, in digits, with any zeros before."""
    below_zero = "|".join(_of_lengths(max(1, -most), -least)) if least < 0 else ""
    above = "|".join(_of_lengths(max(0, least), most)) if most >= 0 else ""
    return "|".join([*([f"-0*(?:{below_zero})"] if below_zero else []), *([f"0*(?:{above})"] if above else [])])


def _of_lengths(least: int, most: int) -> list[str]:
    """Patterns of the numbers from ``least`` to ``most``, neither below zero, by their count of digits."""
    found = []
    for length in range(len(str(least)), len(str(most)) + 1):
        first = max(least, 10 ** (length - 1) if length > 1 else 0)
        found += _of_length(str(first), str(min(most, 10**length - 1)))
    return found


def _of_length(first: str, last: str) -> list[str]:
    """Patterns of the numbers from ``first`` to ``last``, which have as many digits."""
    if not first:
        return [""]
    rest = len(first) - 1
    if first[0] == last[0]:
        return [first[0] + tail for tail in _of_length(first[1:], last[1:])]
    between_them = range(int(first[0]) + 1, int(last[0]))
    middle = [f"[{between_them[0]}-{between_them[-1]}]" + "[0-9]" * rest] if between_them else []
    return [
        *(first[0] + tail for tail in _of_length(first[1:], "9" * rest)),
        *middle,
        *(last[0] + tail for tail in _of_length("0" * rest, last[1:])),
    ]
