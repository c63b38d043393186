"""Routes and written addresses, against published examples and a general-purpose library."""

from __future__ import annotations

from urllib.parse import quote

import ada_url
import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.plan import relative, resolve
from tests.core.help import HOME, codes, planned

# RFC 3986, 5.4.1 and 5.4.2: the 42 examples on this base.
BASE = "http://a/b/c/d;p?q"
EXAMPLES = """
g:h g:h | g http://a/b/c/g | ./g http://a/b/c/g | g/ http://a/b/c/g/ | /g http://a/g | //g http://g |
?y http://a/b/c/d;p?y | g?y http://a/b/c/g?y | #s http://a/b/c/d;p?q#s | g#s http://a/b/c/g#s |
g?y#s http://a/b/c/g?y#s | ;x http://a/b/c/;x | g;x http://a/b/c/g;x | g;x?y#s http://a/b/c/g;x?y#s |
 http://a/b/c/d;p?q | . http://a/b/c/ | ./ http://a/b/c/ | .. http://a/b/ | ../ http://a/b/ | ../g http://a/b/g |
../.. http://a/ | ../../ http://a/ | ../../g http://a/g | ../../../g http://a/g | ../../../../g http://a/g |
/./g http://a/g | /../g http://a/g | g. http://a/b/c/g. | .g http://a/b/c/.g | g.. http://a/b/c/g.. |
..g http://a/b/c/..g | ./../g http://a/b/g | ./g/. http://a/b/c/g/ | g/./h http://a/b/c/g/h |
g/../h http://a/b/c/h | g;x=1/./y http://a/b/c/g;x=1/y | g;x=1/../y http://a/b/c/y |
g?y/./x http://a/b/c/g?y/./x | g?y/../x http://a/b/c/g?y/../x | g#s/./x http://a/b/c/g#s/./x |
g#s/../x http://a/b/c/g#s/../x | http:g http://a/b/c/g
"""
PAIRS = [tuple(part.strip().rpartition(" ")[::2]) for part in EXAMPLES.strip("\n").split("|")]


def test_there_are_42_examples() -> None:
    assert len(PAIRS) == 42


@pytest.mark.parametrize(("reference", "target"), PAIRS)
def test_references_resolve_as_published(reference: str, target: str) -> None:
    url = resolve(BASE, reference.strip())
    assert url is not None
    # An empty path and `/` are the same for http (RFC 3986, 6.2.3); `http:g` is taken as browsers take it.
    assert url.href == (target + "/" if target == "http://g" else target)


SEGMENTS = (
    st.text(st.sampled_from("abcxyz019-._~:@!$&'()*+,;=%é "), min_size=1, max_size=6)
    .filter(lambda text: text.strip(".") != "")
    .map(lambda text: quote(text, safe="!$&'()*+,;=:@-._~"))
)
PATHS = st.builds(
    lambda parts, slash: "/" + "/".join(parts) + ("/" if slash and parts else ""),
    st.lists(SEGMENTS, max_size=5),
    st.booleans(),
)


@given(PATHS, PATHS)
def test_relative_links_lead_where_they_should(source: str, target: str) -> None:
    """At every depth, in every address style; the reference is the library that browsers' rules are written in."""
    there = ada_url.URL("https://x.example" + target).href
    assert ada_url.URL(relative(source, target), base="https://x.example" + source).href == there


# The table of the map language: path and file of home, a page and a page under it, in each style.
@pytest.mark.parametrize(
    ("urls", "expected"),
    [
        ("folders", ["/ index.html", "/visit/ visit/index.html", "/visit/hours/ visit/hours/index.html"]),
        ("files", ["/ index.html", "/visit.html visit.html", "/visit/hours.html visit/hours.html"]),
        ("bare", ["/ index.html", "/visit visit.html", "/visit/hours visit/hours.html"]),
    ],
)
def test_paths_and_files(urls: str, expected: list[str]) -> None:
    plan = planned(f"site: {{urls: {urls}}}\npages:\n  home: {{path: /}}\n  visit: {{pages: {{hours: }}}}\n")
    assert [f"{route.path} {route.file}" for route in plan.routes.values()] == expected


@pytest.mark.parametrize(
    ("urls", "links", "up", "down", "asset"),
    [
        ("folders", "root", "/m/", "/m/visit/hours/", "/m/assets/navigation.css"),
        ("folders", "document", "../", "hours/", "../assets/navigation.css"),
        ("folders", "file", "../index.html", "hours/index.html", "../assets/navigation.css"),
        ("files", "document", "./", "visit/hours.html", "assets/navigation.css"),
        ("files", "file", "index.html", "visit/hours.html", "assets/navigation.css"),
        ("bare", "document", "./", "visit/hours", "assets/navigation.css"),
        (
            "bare",
            "absolute",
            "https://x.example/m/",
            "https://x.example/m/visit/hours",
            "https://x.example/m/assets/navigation.css",
        ),
    ],
)
def test_written_addresses(urls: str, links: str, up: str, down: str, asset: str) -> None:
    plan = planned(
        f"site: {{base: 'https://x.example/m', urls: {urls}, links: {links}}}\n"
        "pages:\n  home: {path: /}\n  visit: {pages: {hours: }}\n"
    )
    write = plan.addresses
    assert write.to_page("home", "visit") == up
    assert write.to_page("visit/hours", "visit") == down
    assert write.to_file("assets/navigation.css", "visit") == asset
    assert write.to_page("visit/hours", None) == "/m" + plan.routes["visit/hours"].path  # on the not-found page
    assert write.canonical("visit/hours") == "https://x.example/m" + plan.routes["visit/hours"].path


def test_paths_are_made_normal() -> None:
    plan = planned(
        HOME
        + """\
pages:
  home: {path: /}
  a:
    path: one//./two/
    pages:
      b: {path: ../three}
      c: {path: /caf%c3%a9/Ünder}
      d: {path: 100%}
"""
    )
    assert [(r.path, r.file) for r in plan.routes.values()] == [
        ("/", "index.html"),
        ("/one/two/", "one/two/index.html"),
        ("/one/three/", "one/three/index.html"),
        ("/caf%C3%A9/%C3%9Cnder/", "café/Ünder/index.html"),
        ("/one/two/100%25/", "one/two/100%/index.html"),
    ]


@pytest.mark.parametrize(
    ("first", "second", "urls", "code"),
    [
        ("/x", "/x/", "folders", "address-clash"),
        ("/x", "/X", "folders", "address-clash"),
        ("/x", "/%78", "bare", "address-clash"),
        ("/caf%C3%A9", "/café", "bare", "address-clash"),
        ("/y", "/404", "bare", "file-clash"),
        ("/y", "/sitemap.xml", "folders", "file-clash"),
        ("/y", "/.basilica-build", "folders", "file-clash"),
        ("/y.html", "/y.html/z", "files", "file-clash"),
        ("/y", "/index", "files", "file-clash"),
        ("/y", "/a?b", "folders", "bad-path"),
        ("/y", "/a%2Fb", "folders", "bad-path"),
        ("/y", "/" + "a" * 300, "folders", "path-too-long"),
    ],
)
def test_clashes_are_findings(first: str, second: str, urls: str, code: str) -> None:
    pages = f"pages:\n  home: {{path: /}}\n  one: {{path: '{first}'}}\n  two: {{path: '{second}'}}\n"
    text = f"site: {{urls: {urls}}}\n{pages}"
    assert codes(text) == [(code, 5, 15)]
