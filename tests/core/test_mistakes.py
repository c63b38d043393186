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


P = "pages: {home: {path: /, title: M}, visit: Visit}\n"
S = "site: {name: X}\n"
SHAPES = {
    "site: Mill\n" + P: ("Write `name: Mill`", "site: {name: Mill}\n" + P),
    "site:\n  name:X\n" + P: ("Write `name: X`.", "site:\n  name: X\n" + P),
    "site:\n  name:\u00a0X\n" + P: ("`name:` has no space behind its colon.", "site:\n  name: X\n" + P),
    "site: {name: X, language: german}\n" + P: ("Write `de`.", "site: {name: X, language: de}\n" + P),
    "site: {name: X, base: www.x.example/a}\n" + P: (
        "Write `https://www.x.example/a`.",
        'site: {name: X, base: "https://www.x.example/a"}\n' + P,
    ),
    "site:\n  name: X\n  languages: en, de\npages: {home: {path: /, title: M, de: M}}\n": (
        "Write `languages: [en, de]`.",
        "site:\n  name: X\n  languages: [en, de]\npages: {home: {path: /, title: M, de: M}}\n",
    ),
    S + P + "menus:\n  main: home, visit\n": ("Write `[home, visit]`.", S + P + "menus:\n  main: [home, visit]\n"),
    S + P + "menus:\n  main:\n    - Shop: https://s.example\n": (
        "so it needs `label:` and `url:`",
        S + P + 'menus:\n  main:\n    - {label: Shop, url: "https://s.example"}\n',
    ),
    S + P + "menus:\n  main:\n    home: Home\n    visit: Visit\n": ("Write `- home` for each", None),
    S + P + "menus:\n  main:\n    - visit\n      - home\n": ("Write `- visit:`.", None),
    S + "pages:\n  - home\n  - visit\n": ("Write `home:` in place of `- home`.", None),
    S + "theme:\n  link: #14204a\n" + P: ("what follows `#` without them is a comment", None),
}


@pytest.mark.parametrize(("text", "said", "fixed"), [(text, *wanted) for text, wanted in SHAPES.items()])
def test_what_is_written_in_another_shape_is_said_once_with_how_a_map_says_it(
    text: str, said: str, fixed: str | None
) -> None:
    """Language tags: RFC 5646, 2.2.1, in which no tag with more than three letters at its beginning is registered."""
    (found,) = [each for each in compile_map(text).findings if each.stops]
    assert said in f"{found.message} {found.remedy}"
    assert (with_fixes(text, [found.fix]) if found.fix else None) == fixed
    assert fixed is None or not compile_map(fixed).stops
