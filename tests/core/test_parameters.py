"""Parameters in the paths of pages that other code answers, held against Werkzeug's routing."""

from __future__ import annotations

from urllib.parse import unquote, urlencode, urlsplit

import pytest
from hypothesis import given
from hypothesis import strategies as st
from werkzeug.routing import Map, Rule

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.outputs.static_site.generated_files import sitemap_addresses
from basilica.core.plan.content_links import Content
from basilica.core.plan.parameters import filled
from tests.core.help import HOME, built, codes, markdown, planned, texts

CLUB = """site: {name: Club, base: 'https://club.example/x'}
menus: {main: [home, team?id=7, {page: 'team?id=8&tab=a b#top', label: Eight}, about]}
pages:
  home: {path: /}
  about:
  swimmers:
    kind: backend
    path: /swimmers
    pages:
      team: {title: Team, kind: backend, path: '{id}', pages: {times: {kind: backend, path: times/}}}
  shop: {title: Shop, kind: backend, path: '/shop/{rest...}/'}
  pay: {kind: backend, path: /pay/}
parts: {p: {text: '[seven](page:team?id=7)'}}
slots: {after: p}
"""
TEXT = "[a](page:team/times?id=1%2F2&x=y#z) [b](page:shop?rest=a/b%20c) <a href='page:about?q=1'>c</a>"


def test_links_are_filled_in_and_paths_stay_as_written() -> None:
    plan = planned(CLUB)
    paths = {key: route.path for key, route in plan.routes.items() if route.is_backend}
    assert paths == {
        "swimmers": "/swimmers",
        "swimmers/team": "/swimmers/{id}",
        "swimmers/team/times": "/swimmers/{id}/times/",
        "shop": "/shop/{rest...}/",
        "pay": "/pay/",
    }
    files = texts(built(plan, markdown(about=TEXT)))
    page = files["about/index.html"]
    for address in (
        "/x/swimmers/7",
        "/x/swimmers/8?tab=a+b#top",
        "/x/swimmers/1%2F2/times/?x=y#z",
        "/x/shop/a/b%20c/",
        "/x/about/?q=1",
    ):
        assert f'href="{address}"' in page, address
    assert "{" not in files["sitemap.xml"] and "/x/pay/" in files["sitemap.xml"]
    assert len(sitemap_addresses(plan)) == 4
    result = build(compile_map(CLUB), {"about": Content("content/about.md", TEXT)})
    assert [finding.message for finding in result.findings if finding.stops] == []


def test_dot_segments_beside_parameters_are_made_normal() -> None:
    """RFC 3986, 5.2.4, as for every path."""
    plan = planned(HOME + "pages:\n  home: {path: /}\n  a: {kind: backend, path: '/x/./y/../{id}//z/'}\n")
    assert plan.routes["a"].path == "/x/{id}/z/"


def test_an_automatic_menu_and_lists_leave_them_out() -> None:
    plan = planned(CLUB.replace("[home, team?id=7, {page: 'team?id=8&tab=a b#top', label: Eight}, about]", "auto"))
    assert [entry.page for entry in plan.menus["main"].entries] == ["home", "about", "swimmers", "pay"]
    listed = planned(CLUB.replace("about:\n", "about: {list: site}\n"))
    page = next(file.data.decode() for file in built(listed) if file.path == "about/index.html")
    assert "%7B" not in page and "{id}" not in page


@pytest.mark.parametrize(
    ("pages", "code"),
    [
        ("a: {path: '/a/{id}/'}", "bad-path"),
        ("a: {was: /b/7/}\n  b: {kind: backend, path: '/b/{id}/'}", "redirect-clash"),
        ("a: {kind: backend, path: '/a/{id/'}", "bad-path"),
        ("a: {kind: backend, path: '/a/{1}/'}", "bad-path"),
        ("a: {kind: backend, path: '/{id}/{id}'}", "bad-path"),
        ("a: {kind: backend, path: '/{rest...}/x'}", "bad-path"),
        ("a: {kind: backend, path: '/x{rest...}'}", "bad-path"),
        ("a: {kind: backend, path: '/{id}', pages: {b: B}}", "bad-path"),
        ("a: {kind: backend, path: '/x/{id}'}\nmenus: {main: [home, a]}", "parameter-missing"),
        ("a: {kind: backend, path: '/x/{id}'}\nmenus: {main: [home, 'a?no=1']}", "parameter-missing"),
        ("a: {kind: backend, path: '/x/{id}'}\nslots: {after: p}\nparts: {p: '[x](page:a)'}", "parameter-missing"),
    ],
)
def test_what_cannot_be_is_a_finding(pages: str, code: str) -> None:
    assert [name for name, _, _ in codes(HOME + "pages:\n  home: {path: /}\n  " + pages + "\n")] == [code]


VALUES = st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc")), min_size=1, max_size=8).filter(
    lambda text: text.strip("/.") == text
)


@given(VALUES, VALUES)
def test_filled_paths_are_those_that_werkzeug_takes_apart(one: str, other: str) -> None:
    """Werkzeug, URL Routing: what a rule made of a path gets back is what a link gave."""
    path = "/swim-{id}/x/{rest...}/"
    rules = Map([Rule("/swim-<id>/x/<path:rest>/", endpoint="x")], merge_slashes=False).bind("club.example")
    address, rest, missing = filled(path, urlencode({"id": one, "rest": other, "more": "1"}))
    assert (rest, missing) == ("more=1", ())
    if "/" in one:
        return  # a piece of a path cannot hold one for Werkzeug, even encoded
    assert rules.match(unquote(urlsplit(f"https://club.example{address}").path)) == ("x", {"id": one, "rest": other})
