"""The reach of a change, held against two full builds."""

from __future__ import annotations

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from selectolax.lexbor import LexborHTMLParser

from basilica.core.compile import compile_map
from basilica.core.diff import Impact, SiteVersion, impact_of
from basilica.core.edits import EditRejected, edit
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Content, Contents
from basilica.store.folders import Source
from tests.core.help import planned
from tests.core.test_editing import an_act, written_maps


def parts_of(page: bytes) -> dict[str, str]:
    """A built page cut into parts, by its markup alone."""
    tree = LexborHTMLParser(page)
    found = {}
    reach = tree.css(".b-header-range")  # what holds the header within the content is the layout's, as the content is
    for node in reach:
        node.unwrap()
    for part, selector in (
        ("menu", "nav.b-main, .b-utility, nav.b-section"),
        ("breadcrumbs", "nav.b-breadcrumbs"),
        ("data", 'script[type="application/ld+json"]'),
        ("body", "main, .b-aside, body > .b-part"),
        ("footer", "footer.b-footer"),
        ("header", ".b-header-space"),
    ):
        nodes = tree.css(selector)
        found[part] = "".join(node.html or "" for node in nodes)
        for node in nodes:
            node.decompose()
    found["breadcrumbs"] += found.pop("data")
    found["body"] += "reach" * len(reach)
    found["head"] = tree.html or ""
    return {part: " ".join(markup.split()) for part, markup in found.items()}


def by_building(old: tuple[Plan, Contents], new: tuple[Plan, Contents]) -> dict[str, object]:
    """What differs between two full builds."""
    files = [{file.path: file.data for file in Renderer(*state).files()} for state in (old, new)]
    pages = [{state[0].routes[key].file for key in state[0].builds()} for state in (old, new)]
    both = pages[0] & pages[1]
    changed = {}
    for file in both:
        then, now = parts_of(files[0][file]), parts_of(files[1][file])
        differ = {part for part in now if then[part] != now[part]}
        assert bool(differ) == (files[0][file] != files[1][file])
        if differ:
            changed[file] = differ
    lists = (files[0].keys() - pages[0]) | (files[1].keys() - pages[1])
    return {
        "new": pages[1] - pages[0],
        "gone": pages[0] - pages[1],
        "changed": changed,
        "lists": {name for name in lists if files[0].get(name) != files[1].get(name)},
    }


def as_said(found: Impact) -> dict[str, object]:
    return {
        "new": set(found.new_files),
        "gone": set(found.gone_files),
        "changed": {file: set(parts) for file, parts in found.files.items()},
        "lists": set(found.lists),
    }


@st.composite
def contents_for(draw: st.DrawFn, plan: Plan) -> Contents:
    """A little content, with links to pages, for some of the pages."""
    keys = sorted(plan.site.pages)
    texts = st.sampled_from(["Words.\n", "# Own heading\n", *(f"[there](page:{key}#x)\n" for key in keys)])
    chosen = draw(st.lists(st.sampled_from(keys), unique=True, max_size=4))
    return {key: Content(f"content/{key}.md", draw(texts)) for key in chosen}


@pytest.mark.long
@settings(max_examples=150, deadline=None)
@given(st.data())
def test_what_is_said_is_what_two_builds_differ_in(data: st.DataObject) -> None:
    states = []
    for text in (data.draw(written_maps()), data.draw(written_maps())):
        style = data.draw(
            st.sampled_from(["links: document", "links: file", "urls: bare", "base: 'https://x.example/m'"])
        )
        header = data.draw(st.sampled_from(["behaviour: static", "behaviour: sticky, until: content", "tagline: T"]))
        text = text.replace("{name: S}", f"{{name: S, {style}}}")
        text += "" if "header:" in text else f"\nheader: {{{header}}}\n"
        compiled = compile_map(text)
        assume(compiled.plan and not compiled.stops)
        states.append((compiled.plan, data.draw(contents_for(compiled.plan))))
    compiled = compile_map(text)
    if data.draw(st.booleans()):
        # Two maps with nothing in common say little: let the one come from the other by an act.
        try:
            after = edit(compiled, text, an_act(data.draw, compiled.plan.site))
        except EditRejected:
            return
        states[0] = after.compiled.plan, states[1][1]
    old, new = states
    assert as_said(impact_of(SiteVersion(*old), SiteVersion(*new))) == by_building(old, new)


def test_a_page_added_to_the_menu_of_the_demo_reaches_every_page(demo: Source) -> None:
    """Common practice, no source: n + 1 pages go out, and the generated lists."""
    text = demo.map.decode()
    old = planned(text, demo.files)
    text = text.replace("  history: History\n", "  history: History\n  bells: The bells\n")
    found = impact_of(SiteVersion(old, demo.contents), SiteVersion(planned(text, demo.files), demo.contents))
    assert (found.added, found.menus) == (("bells",), ())
    assert dict(found.files) == {"site-map/index.html": ("body",)}  # it lists every page
    text = text.replace("- news\n", "- news\n    - bells\n")
    found = impact_of(SiteVersion(old, demo.contents), SiteVersion(planned(text, demo.files), demo.contents))
    assert found.added == ("bells",)
    assert found.menus == ("main",)
    assert len(found.files) == found.touched("menu") == len(old.builds())
    assert set(found.lists) >= {"sitemap.xml", "404.html"}


def test_pages_are_followed_where_they_go() -> None:
    old = planned("pages:\n  home: {path: /}\n  visit:\n    pages:\n      hours: Opening hours\n  tides: Tides\n")
    new = planned(
        "pages:\n  home: {path: /}\n  visit:\n  hours: Opening hours\n  water: {title: Tide tables, was: /tides/}\n"
    )
    found = impact_of(SiteVersion(old, {}), SiteVersion(new, {}))
    assert (found.added, found.gone) == ((), ())
    assert [(m.old, m.new, m.old_path, m.new_path) for m in found.moved] == [
        ("visit/hours", "hours", "/visit/hours/", "/hours/"),
        ("tides", "water", "/tides/", "/water/"),
    ]
    assert {(r.key, r.old, r.new) for r in found.retitled} == {("water", "Tides", "Tide tables")}
