"""Marks, breadcrumbs, and what the header does."""

from __future__ import annotations

import pytest
from hypothesis import given

from basilica.core.compile import compile_map
from tests.core.help import HOME, planned
from tests.core.maps import RandomMap, maps


def test_marks_follow_the_page_tree_and_the_path_follows_the_menu() -> None:
    plan = planned(
        HOME
        + """\
pages:
  home: {path: /}
  visit: {pages: {hours: {pages: {winter: }}}}
  history:
  press:
menus:
  main:
    - visit
    - group: Learn
      items: [history]
    - group: Times
      items: [hours]
"""
    )
    main = plan.menus["main"]
    seen = {key: main.mark(plan.site, key) for key in plan.site.pages}
    labels = [entry.label for entry in main.entries]
    assert {
        key: (labels[mark.entry], mark.current, [labels[n] for n in mark.path]) if mark else None
        for key, mark in seen.items()
    } == {
        "home": None,  # home is nobody's parent, and no entry is current for it where it is not in the menu
        "visit": ("Visit", "page", []),
        "visit/hours": ("Hours", "page", ["Times"]),
        "visit/hours/winter": ("Hours", "true", ["Times"]),
        "history": ("History", "page", ["Learn"]),
        "press": None,
    }


@pytest.mark.long
@given(maps())
def test_marks_and_breadcrumbs_of_any_map(random: RandomMap) -> None:
    compiled = compile_map(random.text)
    assert compiled.plan is not None
    assert not compiled.stops, compiled.findings
    plan, main = compiled.plan, compiled.plan.menus["main"]
    assert list(plan.site.pages) == random.keys
    for key in random.keys:
        pieces = key.split("/")
        up = ["/".join(pieces[:n]) for n in range(len(pieces), 0, -1)]
        lit = next((above for above in up if above in random.menu), None)
        mark = main.mark(plan.site, key)
        assert (mark and main.entries[mark.entry].page) == lit
        if mark and lit:
            assert mark.current == ("page" if lit == key else "true")
            assert [main.entries[n].page or main.entries[n].label for n in mark.path] == random.menu[lit]
        expected = [] if key == "the-home-page" else ["the-home-page", *reversed(up)]
        assert [level.page for level in plan.breadcrumbs(key)] == expected
