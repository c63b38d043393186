"""Titles by the site's pattern, and pages that search engines leave out: in every output."""

from __future__ import annotations

import pytest
from selectolax.lexbor import LexborHTMLParser

from basilica.core.build import build
from basilica.core.compile import compile_map
from tests.core.help import built, planned, texts

MAP = """site: {name: Tide Mill, base: 'https://mill.example', title: '{title} · {section} · {site}'}
pages:
  home: {path: /, title: The mill, label: Home}
  visit: {title: Plan your visit, label: Visit, pages: {hours: Hours & <days>, thanks: {noindex: yes}}}
"""


def titles(text: str) -> dict[str, str]:
    pages = {file.path: LexborHTMLParser(file.data) for file in built(planned(text)) if file.path.endswith(".html")}
    return {path: page.css_first("title").text() for path, page in pages.items()}


def test_titles_follow_the_pattern_and_headings_do_not() -> None:
    found = titles(MAP)
    assert found == {
        "index.html": "The mill",
        "visit/index.html": "Plan your visit · Visit · Tide Mill",
        "visit/hours/index.html": "Hours & <days> · Visit · Tide Mill",
        "visit/thanks/index.html": "Thanks · Visit · Tide Mill",
        "404.html": "Page not found · Page not found · Tide Mill",
    }
    assert titles(MAP.replace("title: '{title}", "home-title: '{site}: {title}', title: '{title}"))["index.html"] == (
        "Tide Mill: The mill"
    )
    hours = next(file.data.decode() for file in built(planned(MAP)) if file.path == "visit/hours/index.html")
    assert LexborHTMLParser(hours).css_first("h1").text() == "Hours & <days>"


def test_what_is_kept_out_of_search_engines_is_in_no_sitemap() -> None:
    """Robots meta tag, `noindex` (RFC 9309 has no such rule; common practice, no source)."""
    result = build(compile_map(MAP), {})
    files = texts(result.files)
    robots = '<meta name="robots" content="noindex">'
    assert [path for path, text in files.items() if robots in text] == ["visit/thanks/index.html"]
    assert "thanks" not in files["sitemap.xml"] and "/visit/hours/" in files["sitemap.xml"]
    assert "sitemap-differs" not in {finding.code for finding in result.findings}


@pytest.mark.parametrize(
    ("pattern", "says"),
    [
        ("{name} - {site}", "`{name}`, which no page has"),
        ("{titel} - {site}", "Did you mean `{title}`?"),
        ("The mill", "has no `{title}`"),
    ],
)
def test_a_pattern_that_cannot_be_is_a_finding(pattern: str, says: str) -> None:
    compiled = compile_map(f"site: {{name: X, title: '{pattern}'}}\npages: {{home: {{path: /}}, a: A}}\n")
    (finding,) = [each for each in compiled.findings if each.code == "bad-value"]
    assert says in f"{finding.message} {finding.remedy}"
    assert compiled.plan is not None and compiled.plan.head_title("a", "A") == "A"
