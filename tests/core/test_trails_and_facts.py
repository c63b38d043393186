"""Breadcrumbs by hand, a page twice in a menu, facts that stand once, and the script that counts visits."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.edits import edit
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan
from tests.core.help import HOME, codes, compiled, markdown, planned

TREE = """\
pages:
  home: {path: /}
  visit: {title: Visit, pages: {hours: Hours, tickets: Tickets}}
  learn: {title: Learn, pages: {stones: Stones}}
"""


def trail(plan: Plan, key: str) -> list[str]:
    return [level.label for level in plan.trail(key)]


def test_another_page_and_named_levels_stand_in_the_trail() -> None:
    plan = planned(
        HOME
        + TREE.replace("stones: Stones", "stones: {breadcrumbs: visit/hours, pages: {french: French}}").replace(
            "tickets: Tickets", "tickets: {breadcrumbs: [{group: Before you come}, learn, stones]}"
        )
    )
    assert trail(plan, "learn/stones") == ["Home", "Visit", "Hours", "Stones"]
    assert trail(plan, "learn/stones/french") == ["Home", "Visit", "Hours", "Stones", "French"]
    assert trail(plan, "visit/tickets") == ["Home", "Before you come", "Learn", "Stones", "Tickets"]
    assert trail(plan, "visit/hours") == ["Home", "Visit", "Hours"]
    page = Renderer(plan, {}).page("visit/tickets").decode()
    assert '"position":2,"name":"Before you come"}' in page  # schema.org: a level without an address has no `item`
    made = build(compile_map(plan_text := "\n".join([HOME, TREE])), {})
    assert made.files and plan_text
    assert not plan.trails.is_plain("learn/stones/french") and plan.trails.is_plain("visit/hours")


def test_a_group_of_the_main_menu_is_a_level_on_request() -> None:
    menu = "menus: {main: [home, {group: More, items: [{group: Older, items: [learn]}, visit/hours]}]}\n"
    plan = planned(HOME + TREE + menu + "breadcrumbs: {groups: yes}\n")
    assert trail(plan, "learn/stones") == ["Home", "More", "Older", "Learn", "Stones"]
    assert trail(plan, "visit/hours") == ["Home", "Visit", "More", "Hours"]
    assert trail(plan, "visit/tickets") == ["Home", "Visit", "Tickets"]
    assert trail(planned(HOME + TREE + menu), "learn/stones") == ["Home", "Learn", "Stones"]


def test_a_draft_is_left_out_of_a_trail() -> None:
    text = HOME + TREE.replace("stones: Stones", "stones: {breadcrumbs: [tickets, hours]}").replace(
        "tickets: Tickets", "tickets: {draft: yes}"
    )
    assert trail(planned(text), "learn/stones") == ["Home", "Hours", "Stones"]
    made = build(compiled(text), {}, drafts=False)
    assert [f.code for f in made.findings if f.line == 5 and f.code.startswith("draft")] == ["draft-entry"]
    assert not [f for f in made.findings if f.stops]


@pytest.mark.parametrize(
    "written",
    [
        "{title: S, breadcrumbs: stones}",
        "{title: S, breadcrumbs: hours#times}",
        "{title: S, breadcrumbs: []}",
        "{title: S, breadcrumbs: [hours, hours]}",
        "{title: S, breadcrumbs: [home]}",
        "{title: S, breadcrumbs: [team]}",
        "{title: S, breadcrumbs: stones/french, pages: {french: French}}",
    ],
)
def test_a_trail_that_cannot_be_is_a_finding_at_its_place(written: str) -> None:
    club = "  club: {kind: backend, path: /club/, pages: {team: {kind: backend, path: '{id}'}}}\n"
    text = HOME + TREE.replace("stones: Stones", f"stones: {written}") + club
    (found,) = [f for f in compiled(text).findings if f.stops]
    assert (found.code, found.line) == ("bad-breadcrumbs", 5)


def test_home_has_no_trail_to_write() -> None:
    found = codes(HOME + TREE.replace("{path: /}", "{path: /, breadcrumbs: learn}"))
    assert [code for code, _, _ in found] == ["key-without-use"]


KEYS = ("a", "b", "c", "d")


@given(st.lists(st.sampled_from(["", *KEYS]), min_size=4, max_size=4))
def test_no_circle_of_trails_hangs_or_passes(parents: list[str]) -> None:
    """Held against walking: a map is refused where following the pages named leads round, and only there."""
    pages = "".join(
        f"  {key}: {{title: T{', breadcrumbs: ' + parent if parent else ''}}}\n"
        for key, parent in zip(KEYS, parents, strict=True)
    )
    result = compiled(HOME + "pages:\n  home: {path: /}\n" + pages)

    def is_round(key: str) -> bool:
        met: list[str] = []
        while key:
            if key in met:
                return True
            met.append(key)
            key = parents[KEYS.index(key)]
        return False

    assert result.stops == any(map(is_round, KEYS))
    if not result.stops:
        assert result.plan is not None
        for key, parent in zip(KEYS, parents, strict=True):
            above = result.plan.trail(parent) if parent else result.plan.trail(key)[:1]
            assert result.plan.trail(key)[:-1] == above


@pytest.mark.long
def test_a_chain_without_end_is_cut_and_said() -> None:
    pages = "".join(f"  p{n}: {{title: P, breadcrumbs: p{n + 1}}}\n" for n in range(3000))
    found = compiled(HOME + "pages:\n  home: {path: /}\n" + pages + "  p3000: P\n").findings
    assert {f.code for f in found if f.stops} == {"bad-breadcrumbs"}
    assert any("have more than 12 levels" in f.message for f in found)


def test_edits_follow_the_pages_that_a_trail_names() -> None:
    text = HOME + TREE.replace("stones: Stones", "stones: {breadcrumbs: [hours, tickets]}").replace(
        "hours: Hours", "hours: {title: Hours, breadcrumbs: learn}"
    )
    renamed = edit(compile_map(text), text, RenameId("visit/hours", "times"), RenameId("learn", "mill"))
    assert renamed.compiled.plan is not None
    assert trail(renamed.compiled.plan, "mill/stones") == ["Home", "Hours", "Tickets", "Stones"]
    assert trail(renamed.compiled.plan, "visit/times") == ["Home", "Learn", "Hours"]
    fewer = edit(renamed.compiled, renamed.text, DeletePage("visit/times"))
    assert "breadcrumbs: [tickets]" in fewer.text
    none = edit(fewer.compiled, fewer.text, DeletePage("visit/tickets"))
    assert "breadcrumbs" not in none.text and none.compiled.plan is not None
    assert trail(none.compiled.plan, "mill/stones") == ["Home", "Learn", "Stones"]


def test_a_page_twice_in_a_menu_is_current_twice() -> None:
    menu = "menus: {main: [home, visit: [hours], {page: hours, show: button, label: Open today}]}\n"
    result = compiled(HOME + TREE + menu)
    plan = result.plan
    assert plan is not None and [(f.code, str(f.level)) for f in result.findings if f.line == 6] == [
        ("duplicate-entry", "advice")
    ]
    mark = plan.marks("visit/hours")["main"]
    assert mark is not None and (mark.entries, mark.current, mark.path) == ((2, 3), "page", (1,))
    made = build(result, {})
    page = next(file.data.decode() for file in made.files if file.path == "visit/hours/index.html")
    assert page.partition("<main")[0].count('aria-current="page"') == 3  # two entries, and the breadcrumb
    assert not [f for f in made.findings if f.stops]


FACTS = (
    HOME
    + """\
facts: {phone: "+44 (0)1632 960142", open: "Sundays, <11> to *4*", mail: a@mill.example}
pages:
  home: {path: /}
  visit: {title: "Open {fact:open}", label: "Call {fact:phone}", description: "{fact:open}."}
menus: {main: [home, visit, {url: "tel:{fact:phone}", label: "{fact:phone}"}]}
header: {tagline: "Since 1779. {fact:open}"}
parts:
  find: {kind: contact, telephone: "{fact:phone}", mail: "{fact:mail}", opening: "{fact:open}", text: "So: {fact:open}"}
slots: {after: find}
"""
)
TEXT = "We open {fact:open}, `{fact:open}`. [Call](tel:{fact:phone}) [Write](mailto:{fact:mail}) ![{fact:open}](x.png)"


def test_a_fact_is_said_wherever_a_text_is() -> None:
    made = build(compiled(FACTS), markdown(visit=TEXT))
    page = next(file.data.decode() for file in made.files if file.path == "visit/index.html")
    shown = "Sundays, &lt;11&gt; to *4*"
    for wanted in (
        f"<h1>Open {shown}</h1>",
        'content="Sundays, &lt;11&gt; to *4*."',
        '<a href="tel:+441632960142">+44 (0)1632 960142</a>',
        '<a href="tel:+441632960142">+44\N{NO-BREAK SPACE}(0)1632\N{NO-BREAK SPACE}960142</a>',
        '<a href="tel:+441632960142">Call</a>',
        '<a href="mailto:a@mill.example">Write</a>',
        f"We open {shown}, <code>{{fact:open}}</code>",
        f'alt="{shown}"',
        f"<p>So: {shown}</p>",
        f"Since 1779. {shown}",
    ):
        assert wanted in page, wanted
    assert page.count("{fact:") == 1  # in code, as it is written


def test_a_fact_that_is_not_there_is_a_finding_everywhere() -> None:
    text = FACTS.replace("facts: {phone", "facts: {fone")
    found = build(compiled(text), markdown(visit=TEXT)).findings
    assert {(f.code, f.line) for f in found if f.code == "unknown-fact"} == {("unknown-fact", n) for n in (5, 6, 9)}
    assert any("Did you mean `{fact:fone}`?" in f.remedy for f in found)
    sound = compiled(FACTS.replace("So: {fact:open}", "So: {fact:opens}"))
    assert [f.code for f in sound.findings if f.stops] == ["unknown-fact"]
    made = build(compiled(FACTS), markdown(visit="\n\nAt {fact:opens}"))
    assert [(f.code, f.line, f.column, f.file) for f in made.findings if f.stops] == [
        ("unknown-fact", 3, 5, "content/visit.md")
    ]


def test_a_part_in_a_field_is_said_and_a_number_must_be_one() -> None:
    text = HOME + TREE + 'parts: {phone: "01632", find: {kind: contact, telephone: "<part:phone>", mail: none}}\n'
    found = sorted((f.code, str(f.level)) for f in compiled(text).findings if f.line == 6)
    assert found == [("bad-value", "error"), ("bad-value", "error"), ("part-in-field", "warning")]


@pytest.mark.long
@given(st.text(alphabet=st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Cn", "Zl", "Zp")), max_size=30))
def test_what_an_edit_writes_is_read_as_it_was_meant(title: str) -> None:
    """A title with facts in it, in a form: the text keeps the fact by name, and the page says what is so."""
    title = " ".join(("{fact:open} " + title).split())
    edited = edit(compile_map(FACTS), FACTS, SetWord("visit", "title", title))
    assert edited.compiled.plan is not None and "{fact:open}" in edited.text.split("visit:")[1]
    assert edited.compiled.plan.site.pages["visit"].title == title.replace(
        "{fact:open}", "Sundays, <11> to *4*"
    ).replace("{fact:phone}", "+44 (0)1632 960142")


def test_the_script_that_counts_is_said_once_with_its_host() -> None:
    head = (
        "head: {counter: {script: 'https://count.example/c.js?a=1&b', data: {site: 'mill \"x\"'}, hosts: px.example}}\n"
    )
    made = build(compiled(HOME + TREE + head), markdown(learn="![](https://px.example/1.gif)"))
    for file in made.files:
        if file.path.endswith(".html"):
            tag = '<script src="https://count.example/c.js?a=1&amp;b" data-site="mill &#34;x&#34;" async></script>'
            assert tag in file.data.decode(), file.path
    assert "other-host" not in {finding.code for finding in made.findings}
    assert codes(HOME + TREE + "head: {counter: {script: 'ftp://count.example/c.js'}}\n") == [("bad-scheme", 6, 26)]
    assert codes(HOME + TREE + "head: {counter: {data: {site: x}}}\n") == [("missing-key", 6, 17)]
