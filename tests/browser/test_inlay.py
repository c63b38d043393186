"""What is set into pages that exist leaves everything else in them as it looks."""

from __future__ import annotations

from pathlib import Path
from random import Random

import pytest
from playwright.sync_api import Page

from basilica.core.compile import compile_map
from basilica.core.exchange.site_import import analyse
from basilica.core.exchange.site_import.wrapped_regions import wrapped_regions
from basilica.core.outputs.inlay import with_marks
from basilica.core.shared.output_file import File
from basilica.services.inlays import FolderInlay
from tests.browser.conftest import serving, write
from tests.core.test_site_import import made_site

HEADER = {
    "static": "",
    "sticky": "header: {behaviour: shrink}\n",
}
SHEETS = (
    "p { margin: 1em }",
    "* { box-sizing: border-box } body { margin: 3rem; font: 12px/1.3 Georgia; color: #333; background: #fee }",
    "html { font-size: 20px } a { color: #900; text-decoration: none } main, #content { width: 60%; float: right }",
    "@layer site { h1 { letter-spacing: 2px } img { width: 50px } ul { list-style: square } }",
)
LOOKS = """() => {
  const inside = new Set();
  const walk = (node, marked) => {
    for (const child of node.childNodes) {
      if (child.nodeType === Node.COMMENT_NODE) {
        if (/^ basilica: /.test(child.data)) marked = true;
        if (/^ \\/basilica: /.test(child.data)) marked = false;
      }
      if (child.nodeType !== Node.ELEMENT_NODE) continue;
      if (marked) inside.add(child);
      walk(child, marked);
    }
  };
  walk(document, false);
  const within = (element) => element && (inside.has(element) || within(element.parentElement));
  const drawn = [document.documentElement, document.body, ...document.body.querySelectorAll("*")];
  const text = (style) => Array.from(style, (name) => `${name}: ${style.getPropertyValue(name)}`).join("; ");
  return drawn.filter((element) => !within(element)).map((element) => {
    const found = [element.tagName, text(getComputedStyle(element))];
    for (const pseudo of ["::before", "::after"]) {
      const style = getComputedStyle(element, pseudo);
      if (style.content !== "none" && style.content !== "normal") found.push(text(style));
    }
    return found;
  });
}"""
JUMPS = ("scroll-padding-block-start", "scroll-padding-top")
"""Room for the header when a link jumps to a place in the page; only where it sticks."""
GROWS = ("height", "block-size", "perspective-origin", "transform-origin")
"""What depends on how high an element is, and the page is higher with a header in it."""


@pytest.mark.long
def test_the_rest_of_200_pages_looks_as_before(page: Page, tmp_path: Path) -> None:
    seen = 0
    for seed in range(200):
        if seen >= 200:
            break
        made, random = made_site(seed, 0), Random(seed)
        kind, sheet = random.choice(list(HEADER)), random.choice(SHEETS).encode()
        files = [File(one.path, sheet if one.path == "style.css" else one.data) for one in made.files]
        site = analyse(files)
        assert site is not None
        spans = wrapped_regions(site)  # what is replaced is marked, and compared with nothing
        folder = tmp_path / str(seed)
        write(tuple(File(one.path, with_marks(one.data, spans.get(one.path, ()))) for one in files), folder)
        pages = "".join(f"  p{number}: {{path: '/{name}'}}\n" for number, name in enumerate(made.pages[1:]))
        home = "/" if made.pages[0] == "index.html" else f"/{made.pages[0]}"
        text = f"site: {{name: M, urls: files}}\npages:\n  home: {{path: {home}}}\n{pages}{HEADER[kind]}"
        compiled = compile_map(text)
        assert compiled.plan is not None and not compiled.stops
        with serving(folder) as address:
            before = {name: looks(page, f"{address}/{name}") for name in made.pages}
        assert len(before[made.pages[0]][0][1]) > 5_000
        assert FolderInlay(compiled.plan, {}, folder, place=True).run(write=True).problems == ()
        with serving(folder) as address:  # another port: nothing comes from the browser's memory
            for name in made.pages:
                after = looks(page, f"{address}/{name}")
                assert page.locator(".b-footer").count() == 1
                assert page.locator("p.foot, #nav, nav nav").count() == 0
                assert [tag for tag, *_ in after] == [tag for tag, *_ in before[name]], name
                for was, now in zip(before[name], after, strict=True):
                    other = set(said(was)) ^ set(said(now)) if was != now else set()
                    allowed = JUMPS if was[0] == "HTML" and kind == "sticky" else ()
                    assert not [one for one in other if not one.startswith((*GROWS, *allowed))], (seed, name, was[0])
                seen += 1
    assert seen >= 200


def looks(page: Page, address: str) -> list[list[str]]:
    """Every element outside the marks: its tag, its computed style, and that of what is drawn before and after it."""
    page.goto(address)
    found: list[list[str]] = page.evaluate(LOOKS)
    return found


def said(styles: list[str]) -> list[str]:
    """Single declarations."""
    return [one.strip() for style in styles[1:] for one in style.split(";")]
