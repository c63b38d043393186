"""Resets and frameworks that a site loads beside the generated style sheet: what is structure stays, box by box."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Browser, expect

from basilica.core.compile import compile_map
from basilica.core.outputs.static_site import Renderer
from basilica.store.folders import Source

pytestmark = pytest.mark.browser

# Kinds of resets as they are in common use (common practice, no source); the second is the public-domain reset of
# E. Meyer, version 2.0, and the last what Tailwind CSS 4 has as its preflight, both shortened, from memory.
RESETS = {
    "universal": "* { margin: 0; padding: 0; border: 0; box-sizing: border-box }",
    "of 2011": "html, body, div, span, h1, h2, p, a, img, small, ul, ol, li, form, label, header, footer, nav, aside"
    " { margin: 0; padding: 0; border: 0; font-size: 100%; font: inherit; vertical-align: baseline }"
    " body { line-height: 1 } ol, ul { list-style: none }",
    "normal": "html { line-height: 1.15 } body { margin: 0 } a { background: transparent } img { border-style: none }"
    " button, input { font-family: inherit; font-size: 100%; line-height: 1.15; margin: 0 }"
    " [hidden], template { display: none }",
    "modern": "*, *::before, *::after { box-sizing: border-box } * { margin: 0 } body { line-height: 1.5 }"
    " img, picture, svg { display: block; max-width: 100% } input, button { font: inherit } p { text-wrap: pretty }",
    "unset": "button { all: unset } ul, ol { all: unset } li { display: block }"
    " nav ul { padding-left: 40px; margin: 1em 0 }",
    "elements": "nav { position: static; display: block; padding: 1rem } header { position: static; padding: 2rem }"
    " nav li { float: left; list-style: square } nav a { display: block; padding: 14px 16px } ul ul { display: block }",
    "preflight": "*, ::after, ::before { box-sizing: border-box; margin: 0; padding: 0; border: 0 solid }"
    " html { line-height: 1.5; tab-size: 4 } ol, ul, menu { list-style: none }"
    " a { color: inherit; text-decoration: inherit }"
    " img, svg, video { display: block; vertical-align: middle } img, video { max-width: 100%; height: auto }"
    " button, input { font: inherit; letter-spacing: inherit; color: inherit; background-color: transparent }"
    " [hidden]:where(:not([hidden='until-found'])) { display: none !important }",
}
PLACES = {
    "before": "<style>{reset}</style>{own}",
    "after": "{own}<style>{reset}</style>",
    "in a layer before": "<style>@layer base {{ {reset} }}</style>{own}",
    "in a layer after": "{own}<style>@layer base {{ {reset} }}</style>",
}
BOXES = """() => {
  const found = [];
  const names = ".b-skip, .b-header-space, .b-header, .b-header .b-bar, .b-name, .b-main, .b-utility, .b-breadcrumbs";
  const inside = ":is(.b-main, .b-utility, .b-section, .b-breadcrumbs) :is(ul, ol, li, a, button)";
  for (const one of document.querySelectorAll(`${names}, ${inside}`)) {
    const [style, box] = [getComputedStyle(one), one.getBoundingClientRect()];
    const said = ["display", "position", "listStyleType", "paddingLeft", "paddingTop", "marginLeft", "visibility"];
    found.push([`${one.tagName}.${one.className} ${one.textContent.trim().slice(0, 20)}`,
      ...[box.x, box.y, box.width, box.height].map(Math.round), ...said.map((name) => style[name])]);
  }
  return found;
}"""
# One family and weight for all, so that boxes can be told by their size: letters are looks.
LETTERS = "<style>* { font-family: sans-serif !important; font-weight: 400 !important }</style>"


@pytest.mark.parametrize("width", [1280, 390])
def test_no_reset_takes_the_structure_away(browser: Browser, demo: Source, width: int) -> None:
    plan = compile_map(demo.map.decode(), demo.files).plan
    assert plan is not None
    renderer = Renderer(plan, demo.contents, stamps=False)
    style, script = (renderer.generated_file(f"assets/navigation.{kind}").decode() for kind in ("css", "js"))
    html = re.sub(r"<(link|script)[^>]*assets/[^>]*>(</script>)?", "", renderer.page("visit/hours").decode())
    html = html.replace("</body>", f"<script>{script}</script></body>")
    page = browser.new_page(viewport={"width": width, "height": 800})

    def boxes(head: str) -> list[list[Any]]:
        page.set_content(html.replace("</head>", f"{head}{LETTERS}</head>"))
        if width < 700:
            page.locator(".b-menu-button").dispatch_event("click")
        else:
            page.locator(".b-main .b-submenu-button").first.dispatch_event("click")
        return page.evaluate(BOXES)  # type: ignore[no-any-return]

    own = f"<style>{style}</style>"
    plain = boxes("<style>body { margin: 0 }</style>" + own)
    assert len(plain) > 60
    wrong = []
    for name, reset in RESETS.items():
        for place, head in PLACES.items():
            for before, after in zip(plain, boxes(head.format(reset=reset, own=own)), strict=True):
                moved = [a for a, b in zip(before[1:5], after[1:5], strict=True) if abs(a - b) > 1]
                if moved or before[5:] != after[5:]:
                    wrong.append(f"{name}, {place}, {before[0]!r}: {before[1:]} became {after[1:]}")
                    break
    page.close()
    assert not wrong, "\n".join(wrong)


HOVERS = """\
site: {name: Mill, base: "https://mill.example"}
pages:
  home: {path: /}
  visit: {pages: {hours: Hours}}
menus:
  main: {hover: "yes", entries: [home, {page: visit#times, label: Times}, visit: [hours]]}
"""


def test_menus_open_and_close_as_people_expect(browser: Browser) -> None:
    plan = compile_map(HOVERS).plan
    assert plan is not None
    renderer = Renderer(plan, {}, stamps=False)
    style, script = (renderer.generated_file(f"assets/navigation.{kind}").decode() for kind in ("css", "js"))
    html = re.sub(r"<(link|script)[^>]*assets/[^>]*>(</script>)?", "", renderer.page("home").decode())
    page = browser.new_page(viewport={"width": 1100, "height": 700})
    page.set_content(
        html.replace("</head>", f"<style>{style}</style></head>").replace(
            "</body>", f"<script>{script}</script></body>"
        )
    )
    opener = page.locator(".b-main .b-submenu-button")
    opener.hover()
    assert opener.get_attribute("aria-expanded") == "true"
    opener.click()  # what hovering has opened stays
    assert opener.get_attribute("aria-expanded") == "true"
    opener.click()
    assert opener.get_attribute("aria-expanded") == "false"
    page.set_viewport_size({"width": 390, "height": 700})
    fold = page.locator(".b-menu-button")
    fold.click()
    rows = [row.bounding_box() for row in page.locator(".b-main > ul > li > a").all()]
    assert all(row and row["height"] >= 44 for row in rows)  # WCAG 2.2, 2.5.5 Target Size (Enhanced)
    assert opener.bounding_box()["x"] > 300  # type: ignore[index]
    page.locator(".b-main a", has_text="Times").evaluate("(link) => { link.href = '#content'; link.click(); }")
    expect(fold).to_have_attribute("aria-expanded", "false")
    fold.click()
    page.set_viewport_size({"width": 1100, "height": 700})
    page.wait_for_function("document.querySelector('.b-menu-button').getAttribute('aria-expanded') === 'false'")
    page.close()
