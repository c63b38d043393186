"""Two people on one map, and finding pages."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from basilica.core.diff.merge import merge, merges_by_itself
from basilica.core.plan.page_search import find_pages
from basilica.store.folders import Source
from tests.core.help import planned

LINES = st.builds(
    lambda lines, last: "".join(lines) + last,
    st.lists(st.sampled_from(["a\n", "b\n", "c\n", "d\n", "e\n"]), max_size=8),
    st.sampled_from(["", "a", "f"]),  # the last line may have no break
)


def test_changes_that_do_not_meet_are_put_together() -> None:
    base = "one\ntwo\nthree\nfour\nfive\n"
    merged = merge(base, "zero\none\ntwo\nthree\nfour\nfive\n", "one\ntwo\nthree\n4\nfive\nsix\n")
    assert merged.text == "zero\none\ntwo\nthree\n4\nfive\nsix\n"
    assert (merged.collisions, merged.taken) == ((), 2)


def test_a_line_behind_a_last_one_without_a_break_does_not_change_that_one() -> None:
    merged = merge("A paragraph.", "First.\n\nA paragraph.", "A paragraph.\n\nLast.")
    assert (merged.text, merged.collisions) == ("First.\n\nA paragraph.\n\nLast.", ())
    assert merge("a\r\nb", "a\r\nb\r\nc", "0\r\na\r\nb").text == "0\r\na\r\nb\r\nc"


def test_a_collision_keeps_mine_and_shows_both() -> None:
    merged = merge("one\ntwo\nthree\n", "one\nMINE\nthree\n", "one\nTHEIRS\nthree\nfour\n")
    assert merged.text == "one\nMINE\nthree\nfour\n"
    assert [(c.line, c.mine, c.theirs) for c in merged.collisions] == [(2, ("MINE\n",), ("THEIRS\n",))]


def test_a_merge_is_asked_about_where_it_stops_a_build_that_neither_stopped() -> None:
    base, mine, theirs = "a\nb\nc\n", "a\nb\nc\nx\n", "x\na\nb\nc\n"
    merged = merge(base, mine, theirs)
    assert merges_by_itself(merged, mine, theirs, lambda _: False)
    assert not merges_by_itself(merged, mine, theirs, lambda text: text.count("x") == 2)
    assert merges_by_itself(merged, mine, theirs, lambda text: "c\nx" in text)  # it stops for mine alone, too
    assert not merges_by_itself(merge(base, "a\n1\nc\n", "a\n2\nc\n"), mine, theirs, lambda _: False)


@given(LINES, LINES, LINES)
def test_what_only_one_changed_is_as_that_one_has_it(base: str, mine: str, theirs: str) -> None:
    assert merge(base, mine, base).text == mine
    assert merge(base, base, theirs).text == theirs
    assert merge(base, mine, mine).text == mine
    merged, mirrored = merge(base, mine, theirs), merge(base, theirs, mine)
    assert len(merged.collisions) == len(mirrored.collisions)
    if not merged.collisions:
        assert merged.text == mirrored.text


def test_pages_are_found_by_a_few_letters(demo: Source) -> None:
    plan = planned(demo.map.decode(), demo.files)

    def first(words: str) -> str:
        return find_pages(plan, words)[0].key

    assert first("hours") == "visit/hours"
    assert first("tide ta") == "tides"  # its title; its label is Tides
    assert first("/how-it-works/st") == "how-it-works/stones"
    assert first("opn hrs") == "visit/hours"
    assert first("prviacy") == "privacy"
    assert find_pages(plan, "zzzzzz") == []
    assert len(find_pages(plan, "")) == len(plan.site.pages)
