"""What people write who come from elsewhere: the word that is meant, its fix, and nothing that only follows from it."""

from __future__ import annotations

import pytest

from basilica.core.compile import compile_map
from basilica.core.edits.fixes import fixes_by_file, with_fixes
from basilica.core.language.sections import SECTIONS
from basilica.core.map.site.site_rules import OTHER_WORD

MAP = """site: {name: Mill, base: "https://mill.example"}
pages:
  home: {path: /}
  visit: {title: Visit, pages: {hours: Hours}}
menus: {main: [home, {page: visit, label: See us}, {label: Shop, url: "https://shop.example"}]}
header: {behaviour: sticky}
theme: {ground: "#ffffff"}
"""
MISTAKES = [
    ("base:", "url:"),
    ("base:", "domain:"),
    ("title: Visit", "name: Visit"),
    ("pages: {hours", "children: {hours"),
    ("{path: /}", "{slug: /}"),
    ("{path: /}", "{permalink: /}"),
    ("menus:", "nav:"),
    ("menus:", "navigation:"),
    ("label: Shop, url:", "label: Shop, href:"),
    ("label: Shop, url:", "title: Shop, link:"),
    ("label: See us", "name: See us"),
    ("behaviour:", "behavior:"),
    ("ground:", "background:"),
    ("hours: Hours", "hours: {hidden: menus}", "hours: {hidden: true}"),
    ("{title: Visit,", "{title: Visit, draft: no,", "{title: Visit, draft: false,"),
    ("main: [home,", "main: {entries: [home,", "main: {items: [home,"),
]


@pytest.mark.parametrize("case", MISTAKES, ids=lambda case: case[-1])
def test_a_word_from_elsewhere_is_read_as_what_is_meant(case: tuple[str, ...]) -> None:
    right, *between, wrong = case
    good = MAP.replace(right, between[0]) if between else MAP
    bad = MAP.replace(right, wrong)
    for text in (good, bad):
        if "main: {" in text:
            good, bad = (each.replace('example"}]}', 'example"}]}}') for each in (good, bad))
            break
    assert good != bad
    compiled, stopping = compile_map(bad), [each for each in compile_map(bad).findings if each.stops]
    assert {each.code for each in stopping} == {OTHER_WORD.code}, [each.message for each in stopping]
    assert with_fixes(bad, fixes_by_file(compiled.findings)[""]) == good
    assert compiled.plan is not None and compiled.plan.site == compile_map(good).plan.site  # type: ignore[union-attr]


@pytest.mark.parametrize(
    ("said", "remedy"),
    [
        ("  visit: {weight: 3}\n", "Pages come in the order in which the map has them"),
        ("  visit: {file: visit.md}\n", "The content of a page is in a file of its own"),
        ("  visit: {in-menu: yes}\n", "Write the page under `menus:`"),
        ("header: {sticky: true}\n", "Write `behaviour: sticky`."),
        ("  visit: {path: /a, url: /b}\n", "Remove one of the two."),
        ("  visit: {breadcrumbs: false}\n", "Write `hidden: breadcrumbs` for none."),
        ("  über-uns: Wir\n", "Write `uber-uns`;"),
        ("  visit: See us\nmenus: {main: [home, See us]}\n", "The page with that title is `visit`."),
        ("menus: {main: [home, 'https://shop.example']}\n", "Write it as `url:`, with a `label:`."),
        ("menus: {main: [home, {href: 'https://shop.example'}]}\n", "Add `label:` to it."),
    ],
)
def test_what_a_map_says_otherwise_is_told(said: str, remedy: str) -> None:
    findings = compile_map("site: {name: M}\npages:\n  home: {path: /}\n" + said).findings
    told = [each.remedy for each in findings if each.stops and not (each.code == OTHER_WORD.code and each.fix)]
    assert len(told) == 1 and told[0].startswith(remedy), told


def test_no_word_is_meant_by_another_of_its_section() -> None:
    for section, words in SECTIONS.items():
        synonyms = [synonym for word in words for synonym in word.synonyms]
        assert len(synonyms) == len(set(synonyms)), section
        assert not {*synonyms} & {name for word in words for name in (word.name, word.old_name)}, section
