"""The page for addresses that do not exist, with a text of its own; and what every head says beside."""

from __future__ import annotations

import pytest
from selectolax.lexbor import LexborHTMLParser

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Content
from tests.core.help import built, codes, planned, texts

MAP = """site: {name: X, base: 'https://x.example/m', links: document}
head: {manifest: app.webmanifest, meta: {theme-color: '#14204a', owner-check: 'a"<b>'}}
pages:
  home: {path: /}
  a: {pages: {b: }}
parts: {p: 'Call {site}, [a](page:a)'}
"""
TEXT = "# Lost\n\n[B](page:b) <part:p> [no](page:none)"


def test_its_own_text_has_root_links_and_findings() -> None:
    files = Files({"files/app.webmanifest": b"{}"})
    contents = {"404": Content("content/404.md", TEXT)}
    result = build(compile_map(MAP, files), contents)
    (lost,) = [file for file in built(planned(MAP, files), contents) if file.path == "404.html"]
    page = LexborHTMLParser(lost.data)
    assert page.css_first("h1").text() == "Lost"
    assert [link.attributes["href"] for link in page.css("main a[href]")] == ["/m/a/b/", "/m/a/"]
    found = [(finding.code, finding.file) for finding in result.findings if finding.stops]
    assert found == [("unknown-page", "content/404.md")]
    assert page.css_first("meta[name=owner-check]").attributes["content"] == 'a"<b>'
    assert page.css_first("meta[name=theme-color]").attributes["content"] == "#14204a"
    assert page.css_first("link[rel=manifest]").attributes["href"].endswith(".webmanifest")


def test_a_page_with_that_id_keeps_its_text() -> None:
    text = MAP.replace("  a:", "  404: {title: Numbers}\n  a:").replace("manifest: app.webmanifest, ", "")
    files = texts(built(planned(text), {"404": Content("content/404.md", "Own")}))
    assert "Own" in files["404/index.html"] and "Own" not in files["404.html"]


@pytest.mark.parametrize("meta", ["{viewport: x}", "{'og:title': x}", "{'a b': x}", "[x]", "{robots: noindex}"])
def test_what_a_head_says_already_is_a_finding(meta: str) -> None:
    found = codes(f"site: {{name: X}}\npages: {{home: {{path: /}}}}\nhead: {{meta: {meta}}}\n")
    assert [name for name, _, _ in found] in (["bad-value"], ["wrong-shape"])
