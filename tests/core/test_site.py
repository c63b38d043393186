"""Document → site: pages, references, menus, and every finding at once."""

from __future__ import annotations

import pytest

from basilica.core.compile import compile_map
from basilica.core.edits.fixes import with_fixes
from basilica.core.map.site import EntryKind
from basilica.core.rules import limits
from tests.core.help import HOME, codes, compiled, planned

PAGES = (
    HOME
    + "pages:\n  home: {path: /}\n  visit:\n    pages: {hours: Opening hours, groups: }\n  news: {pages: {hours: }}\n"
)


def test_titles_labels_and_ids() -> None:
    site = planned(
        """\
        pages:
          home: {path: /, title: The mill, label: Home}
          getting-here:
          no: ~
          visit: {label: Visit us}
          "404": "<b>&"
        """
    ).site
    assert [(p.key, p.title, p.label) for p in site.pages.values()] == [
        ("home", "The mill", "Home"),
        ("getting-here", "Getting here", "Getting here"),
        ("no", "~", "~"),
        ("visit", "Visit", "Visit us"),
        ("404", "<b>&", "<b>&"),
    ]


def test_references_are_keys_or_suffixes_that_fit_one() -> None:
    site = planned(PAGES + "menus:\n  main: [home, groups, visit/hours, news, news/hours]\n").site
    assert [e.page for e in site.menus["main"].entries] == ["home", "visit/groups", "visit/hours", "news", "news/hours"]
    ambiguous = compiled(PAGES + "menus:\n  main: [hours]\n").findings
    assert [f.message for f in ambiguous if f.code == "ambiguous-page"] == [
        "`hours` fits several pages: `visit/hours`, `news/hours`."
    ]


def test_a_full_key_wins_over_a_suffix() -> None:
    text = HOME + "pages:\n  home: {path: /}\n  hours:\n  visit: {pages: {hours: }}\nmenus:\n  main: [hours]\n"
    assert planned(text).site.menus["main"].entries[0].page == "hours"


def test_every_form_of_entry() -> None:
    site = planned(
        PAGES
        + """\
menus:
  main:
    - home
    - visit: [groups]
    - page: news
      label: Latest
      items: auto
    - group: More
      items: [visit/hours#times]
    - {label: Shop, url: "HTTPS://Shop.example"}
    - {label: Ring, url: "tel:+441632960142"}
  side: {auto: 1}
  none: []
"""
    ).site
    main = site.menus["main"].entries
    assert [(e.kind, e.label, e.page, e.fragment, e.url) for e in main] == [
        (EntryKind.PAGE, "Home", "home", None, None),
        (EntryKind.PAGE, "Visit", "visit", None, None),
        (EntryKind.PAGE, "Latest", "news", None, None),
        (EntryKind.GROUP, "More", None, None, None),
        (EntryKind.OUTSIDE, "Shop", None, None, "https://shop.example/"),
        (EntryKind.OUTSIDE, "Ring", None, None, "tel:+441632960142"),
    ]
    assert [e.page for e in main[2].items] == ["news/hours"]
    assert [(e.page, e.fragment) for e in main[3].items] == [("visit/hours", "times")]
    assert [(e.page, e.items) for e in site.menus["side"].entries] == [("home", ()), ("visit", ()), ("news", ())]
    assert site.menus["none"].entries == ()


def test_auto_takes_the_tree_two_levels_unless_it_says() -> None:
    text = HOME + "pages:\n  home: {path: /}\n  a: {pages: {b: {pages: {c: }}}}\n"
    implied, said = planned(text).site, planned(text + "menus:\n  main: auto\n").site
    assert implied.menus == said.menus
    assert implied.menus["main"].entries[1].items[0].items == ()
    three = planned(text + "menus:\n  main: {auto: 3}\n").site
    assert three.menus["main"].entries[1].items[0].items[0].page == "a/b/c"
    under = planned(text + "menus:\n  main:\n    - a: auto\n").site
    assert [e.page for e in under.menus["main"].entries[0].items] == ["a/b"]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("pages:\n  a:\n", [("no-home", 2, 3)]),
        ("pages:\n  a: {path: /}\n  b: {path: /}\n", [("two-homes", 3, 13)]),
        ("pages:\n  a: {path: /}\n  b: {path: .}\n", [("address-clash", 3, 13)]),
        ("pages:\n  a: {path: /, pages: {b: }}\n", [("home-has-pages", 2, 3)]),
        ("pages:\n  a: {pages: {b: {path: /}}}\n", [("home-nested", 2, 25)]),
        ("pages:\n  a: {path: /}\n  Über uns: x\n", [("bad-id", 3, 3)]),
        ("pages:\n  a: {path: /}\n  items: x\n", [("bad-id", 3, 3)]),
        ("pages:\n  a: {path: /, titel: x}\n", [("unknown-key", 2, 16)]),
        ("pages: [a]\n", [("wrong-shape", 1, 8)]),
        ("pages:\n  a: {path: /}\nmenus:\n  main: [a, b]\n", [("unknown-page", 4, 13)]),
        ("pages:\n  a: {path: /}\nmenus:\n  main: [{group: G, items: []}]\n", [("empty-group", 4, 10)]),
        ("pages:\n  a: {path: /}\nmenus:\n  main: [{label: L, url: 'javascript:x'}]\n", [("bad-scheme", 4, 26)]),
        ("pages:\n  a: {path: /}\nmenus:\n  main: [{url: 'https://x.example'}]\n", [("missing-key", 4, 10)]),
        ("pages:\n  a: {path: /}\nsite: {urls: folder}\n", [("bad-value", 3, 14)]),
        ("pages:\n  a: {path: /}\nsite: {base: 'ftp://x'}\n", [("bad-base", 3, 14)]),
        ("pages:\n  a: {path: /}\nsite: {links: absolute}\n", [("bad-base", 3, 15)]),
        ("pages:\n  a: {path: /, title: ''}\n", [("empty-text", 2, 23)]),
        ('pages:\n  a: {path: /, title: "x\\0y"}\n', [("bad-value", 2, 23)]),
        ("pages:\n  a: {path: /, label: %s}\n" % ("x" * 301), [("too-long", 2, 23)]),
        ("just a text\n", [("wrong-shape", 1, 1)]),
    ],
)
def test_findings_stand_where_the_fault_is(text: str, expected: list[tuple[str, int, int]]) -> None:
    assert codes(text) == expected


def test_all_findings_come_at_once_with_the_nearest_name() -> None:
    findings = compiled(PAGES + "menus:\n  main: [hom, visit/hurs]\nheadr: {}\nheader: {behavor: stick}\n").findings
    assert [(f.code, f.remedy) for f in findings if f.stops] == [
        ("unknown-page", "Did you mean `home`?"),
        ("unknown-page", "Did you mean `visit/hours`?"),
        ("unknown-key", "Did you mean `header`?"),
        ("unknown-key", "Did you mean `behaviour`?"),
    ]


@pytest.mark.parametrize(
    ("fault", "mended"),
    [
        ("pages:\n  home: {path: /, titel: X}\n", "{path: /, title: X}"),
        ("pages:\n  home: {path: /}\n  visit:\nmenus: {main: [home, visti#x]}\n", "[home, visit#x]"),
        ("pages:\n  home: {path: /}\nheader: {behaviour: shink}\n", "behaviour: shrink"),
        ("pages:\n  home: {path: /}\n  Visit us: X\n", "visit-us: X"),
        (
            "pages: {home: {path: /}}\nmenus:\n  main:\n    - home\n    - url: https://www.shop.example/x\n",
            "    - label: shop.example\n      url:",
        ),
        (
            "pages: {home: {path: /}}\nmenus: {main: [home, {url: 'tel:1'}]}\n",
            '{label: "1", url',
        ),
        ("pages:\n  home: {path: /}\n  a: Mill: a tour  # c\n", 'a: "Mill: a tour"  # c'),
        ("pages:\n  home: {path: /}\n  a: @home\n", 'a: "@home"'),
    ],
)
def test_a_remedy_mends(fault: str, mended: str) -> None:
    text = HOME + fault
    result = compile_map(text)
    fix = next(finding.fix for finding in result.findings if finding.stops)
    assert fix is not None
    text = with_fixes(text, [fix])
    assert mended in text
    assert not compile_map(text).stops


@pytest.mark.long
def test_limits_are_findings() -> None:
    many = "pages:\n  home: {path: /}\n" + "".join(f"  p{n}:\n" for n in range(limits.PAGES)) + "menus: {main: []}\n"
    assert [code for code, *_ in codes(many)] == ["too-many-pages"]
    deep = "pages:\n  home: {path: /}\n" + "".join(
        "  " * (2 * n + 1) + f"p{n}:\n" + "  " * (2 * n + 2) + "pages:\n" for n in range(14)
    )
    assert [code for code, *_ in codes(deep)] == ["too-many-levels"]
    wide = "pages:\n  home: {path: /}\n" + "".join(f"  p{n}:\n" for n in range(6000))
    assert [code for code, *_ in codes(wide)] == ["menu-too-large"]
