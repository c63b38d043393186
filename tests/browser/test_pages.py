"""The generated pages, in a real browser and under the checkers of others."""

from __future__ import annotations

import re
import subprocess
from collections.abc import Callable
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page, expect

from basilica.core.build import build, renderer_of
from basilica.core.compile import compile_map
from basilica.core.outputs import open_data
from basilica.store.folders import Source
from tests.browser.conftest import Quiet, serving, settle, variant, write

JAR = Path(__file__).parents[2] / "frontend/node_modules/vnu-jar/build/dist/vnu.jar"


@pytest.fixture(scope="session")
def paths(demo: Source) -> list[str]:
    plan = compile_map(demo.map, demo.files).plan
    assert plan is not None
    return [each.routes[key].path for each in plan.languages.values() for key in each.builds()]


@pytest.mark.parametrize("links", ["root", "file"])
def test_the_markup_is_valid(demo: Source, tmp_path: Path, links: str) -> None:
    """The Nu HTML checker finds no errors and no warnings, on any page and in the style sheet."""
    folder = write(variant(demo, links=links), tmp_path)
    for words in (["--skip-non-html", str(folder)], ["--css", *map(str, folder.glob("assets/*.css"))]):
        done = subprocess.run(["java", "-jar", str(JAR), *words], capture_output=True, text=True, timeout=300)
        # The checker's own list of CSS lacks Media Queries 5, 7.1, and View Transitions 1 and 2.
        lacks = ("scripting", "view-transition", "Saw ")
        assert [line for line in done.stderr.splitlines() if not any(word in line for word in lacks)] == []


CHECKERS = Path(__file__).parents[1] / "checkers"


def test_the_recommended_rules_of_others_hold(demo: Source, tmp_path: Path) -> None:
    """html-validate and Stylelint, with all that each recommends."""
    folder = write(variant(demo, links="root"), tmp_path)
    pages, sheets = map(str, folder.rglob("*.html")), map(str, folder.glob("assets/[cn]*.css"))
    for words in (
        ["html-validate", "-c", str(CHECKERS / "htmlvalidate.json"), "--formatter", "text", *pages],
        ["stylelint", "--config", str(CHECKERS / "stylelint.json"), *sheets],
    ):
        done = subprocess.run(
            [str(CHECKERS / "node_modules/.bin" / words[0]), *words[1:]], capture_output=True, text=True, timeout=600
        )
        assert (done.returncode, done.stdout.strip()) == (0, "")


@pytest.mark.parametrize("width", [320, 768, 1280])
def test_nothing_for_axe_on_any_page(page: Page, served: str, paths: list[str], width: int) -> None:
    """axe-core, all its rules, with submenus closed and with all of them open: every page in a wide window, and every
    third one in narrow ones, where only what pages share is laid out otherwise."""
    page.set_viewport_size({"width": width, "height": 800})
    axe = Axe()
    for path in [*paths, "/404.html"][:: 1 if width == 1280 else 3]:
        page.goto(served + path)
        assert axe.run(page).response["violations"] == [], (path, width)
        page.evaluate(
            "document.querySelectorAll('[aria-expanded]').forEach(b => b.setAttribute('aria-expanded', 'true'))"
        )
        assert axe.run(page).response["violations"] == [], (path, width, "open")


@pytest.mark.parametrize("script", [True, False])
def test_every_page_is_reached_by_clicking_from_home(
    browser: Browser, served: str, paths: list[str], script: bool
) -> None:
    context = browser.new_context(java_script_enabled=script, viewport={"width": 1280, "height": 800})
    page = context.new_page()
    seen, waiting = {"/"}, ["/"]
    page.goto(served + "/")
    while waiting:
        here = waiting.pop()
        page.goto(served + here)
        hrefs = [link.get_attribute("href") or "" for link in page.locator("a[href]").all()]
        for href in dict.fromkeys(hrefs):
            if not href.startswith("/") or href.partition("#")[0] in seen or href == PRINTED:
                continue
            _open_what_holds(page, href)
            page.locator(f'a[href="{href}"]:visible').first.click()
            page.wait_for_url(served + href)
            seen.add(href.partition("#")[0])
            waiting.append(href.partition("#")[0])
            page.goto(served + here)
    assert seen - {"/tickets/"} == set(paths)  # other code answers there
    context.close()


PRINTED = "/tide-times.pdf"
"""A file that the browser keeps, and shows on no page."""


def _open_what_holds(page: Page, href: str) -> None:
    if page.locator(f'a[href="{href}"]:visible').count() == 0:
        page.locator(f'li:has(a[href="{href}"]) > button').first.click()


FOCUS = """() => { const at = document.activeElement; return [
    at.tagName, at.getAttribute("href") ?? "", at.getAttribute("aria-expanded") ?? "", at.textContent.trim()
] }"""


def test_every_page_is_reached_by_keyboard_alone(page: Page, served: str, paths: list[str]) -> None:
    page.goto(served + "/")
    page.keyboard.press("Tab")
    assert page.evaluate(FOCUS)[3] == "Skip to content"
    seen, waiting = {"/"}, ["/"]
    while waiting:
        here = waiting.pop()
        page.goto(served + here)
        for _ in range(200):
            page.keyboard.press("Tab")
            tag, href, expanded, _text = page.evaluate(FOCUS)
            if tag == "BODY":
                break
            if tag == "BUTTON" and expanded == "false":
                page.keyboard.press("Enter")
            target = href.partition("#")[0]
            if tag == "A" and target.startswith("/") and target not in seen and href != PRINTED:
                page.keyboard.press("Enter")
                page.wait_for_url(served + href)
                seen.add(target)
                waiting.append(target)
                page.goto(served + here)
    assert seen - {"/tickets/"} == set(paths)  # other code answers there


def test_a_submenu_is_a_disclosure(page: Page, served: str) -> None:
    """WAI-ARIA APG, disclosure navigation: a button with its state; Escape closes and gives the focus back."""
    page.goto(served + "/tides/")
    button, link = page.get_by_role("button", name="Pages under Visit"), page.locator(".b-main a", has_text="Access")
    assert button.get_attribute("aria-expanded") == "false"
    assert page.locator(f'[id="{button.get_attribute("aria-controls")}"]').count() == 1
    assert not link.is_visible()
    button.click()
    assert button.get_attribute("aria-expanded") == "true"
    link.focus()
    page.keyboard.press("Escape")
    assert button.get_attribute("aria-expanded") == "false"
    assert button.evaluate("node => node === document.activeElement")
    button.click()
    page.get_by_role("button", name="Learn").click()
    assert not link.is_visible()
    page.locator("h1").click()
    assert page.locator('.b-main [aria-expanded="true"]').count() == 0


def test_the_lit_entry_is_drawn_so(page: Page, served: str) -> None:
    page.goto(served + "/visit/hours/")
    colour: Callable[[str], str] = lambda text: page.locator(".b-main > ul > li > a", has_text=text).evaluate(  # noqa: E731
        "node => getComputedStyle(node).color + getComputedStyle(node).boxShadow"
    )
    assert colour("Visit") != colour("Tides") == colour("Flour")
    assert page.locator('.b-main [aria-current="page"]').all_text_contents() == ["Opening hours"]


# Common practice, no source: 100 px at rest, 40 px past 100 px; the room in the flow never changes.
@pytest.mark.parametrize(("behaviour", "height"), [("sticky", 100), ("shrink", 40)])
def test_a_header_stays_at_the_top(page: Page, demo: Source, tmp_path: Path, behaviour: str, height: int) -> None:
    folder = write(variant(demo, behaviour=behaviour, links="file"), tmp_path)
    page.goto(f"file://{folder}/visit/hours/index.html")
    page.add_style_tag(content="main { min-height: 4000px }")
    content = page.locator("main").bounding_box()
    at_rest = page.locator("header").bounding_box()
    page.evaluate("""() => { window.shifts = 0; new PerformanceObserver(list => {
        for (const entry of list.getEntries()) window.shifts += entry.value;
    }).observe({ type: 'layout-shift' }) }""")
    page.mouse.wheel(0, 2000)
    page.wait_for_function("scrollY >= 1999")
    settle(page)
    box = page.locator("header").bounding_box()
    moved = page.locator("main").bounding_box()
    assert at_rest and box and content and moved
    assert (at_rest["height"], box["y"], box["height"]) == (100, 0, height)
    assert moved["y"] == content["y"] - 2000
    page.mouse.wheel(0, -2000)
    page.wait_for_function("scrollY === 0")
    settle(page)
    back = page.locator("header").bounding_box()
    assert back and (back["y"], back["height"]) == (at_rest["y"], 100)  # below the row above it
    assert page.evaluate("window.shifts") == 0


def test_a_static_header_scrolls_away(page: Page, demo: Source, tmp_path: Path) -> None:
    folder = write(variant(demo, behaviour="static", links="file"), tmp_path)
    page.goto(f"file://{folder}/visit/hours/index.html")
    page.add_style_tag(content="main { min-height: 4000px }")
    at_rest = page.locator("header").bounding_box()
    page.mouse.wheel(0, 500)
    page.wait_for_function("scrollY === 500")
    box = page.locator("header").bounding_box()
    assert at_rest and box and box["y"] == at_rest["y"] - 500


def test_a_jump_is_not_hidden_by_the_header(page: Page, served: str) -> None:
    page.set_viewport_size({"width": 1280, "height": 500})
    page.goto(served + "/visit/hours/#prices")
    heading, header = page.locator("#prices").bounding_box(), page.locator("header").bounding_box()
    assert heading and header
    assert heading["y"] >= header["y"] + header["height"]


@pytest.mark.parametrize(("urls", "links"), [("folders", "file"), ("files", "file"), ("bare", "file")])
def test_a_build_works_opened_from_a_folder(page: Page, demo: Source, tmp_path: Path, urls: str, links: str) -> None:
    folder = write(variant(demo, urls=urls, links=links), tmp_path)
    page.goto(f"file://{folder}/index.html")
    page.get_by_role("button", name="Learn").click()
    page.locator(".b-main a", has_text="The stones").click()
    page.get_by_role("link", name="dressed").click()
    expect(page.locator("h1")).to_have_text("Dressing a stone")
    page.locator("nav[aria-label=Breadcrumb] a", has_text="Home").click()
    expect(page).to_have_url(f"file://{folder}/index.html")
    page.wait_for_load_state()
    assert (
        page.evaluate("getComputedStyle(document.querySelector('.b-header')).backgroundColor") == "rgb(255, 255, 255)"
    )


@pytest.mark.parametrize("urls", ["folders", "files"])
def test_a_build_with_document_links_works_below_any_path(page: Page, demo: Source, tmp_path: Path, urls: str) -> None:
    write(variant(demo, urls=urls, links="document"), tmp_path / "any" / "where")
    with serving(tmp_path) as address:
        page.goto(f"{address}/any/where/")
        page.get_by_role("button", name="Learn").click()
        page.locator(".b-main a", has_text="The stones").click()
        page.get_by_role("link", name="dressed").click()
        expect(page.locator("h1")).to_have_text("Dressing a stone")
        assert page.evaluate("getComputedStyle(document.querySelector('.b-header')).pointerEvents") == "auto"
        page.locator("nav[aria-label=Breadcrumb] a", has_text="Home").click()
        expect(page).to_have_url(f"{address}/any/where/")


@pytest.mark.parametrize("script", [True, False])
def test_a_phone_has_every_entry_and_no_sideways_scroll(browser: Browser, served: str, script: bool) -> None:
    context = browser.new_context(viewport={"width": 320, "height": 640}, java_script_enabled=script)
    page = context.new_page()
    page.goto(served + "/visit/hours/")
    if script:
        assert not page.locator(".b-main a", has_text="Tides").is_visible()
        page.get_by_role("button", name="Menu", exact=True).click()
    assert page.locator(".b-main a", has_text="Tides").is_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 320
    context.close()


class WithPolicy(Quiet):
    """A server that sends a policy with every page."""

    policy = ""

    def end_headers(self) -> None:
        """As always, with the policy."""
        self.send_header("Content-Security-Policy", self.policy)
        super().end_headers()


def test_the_policy_for_hosts_allows_what_pages_load(page: Page, demo: Source, tmp_path: Path) -> None:
    """What is refused by it is an error of the page, and fails the test."""
    made = build(compile_map(demo.map, demo.files), demo.contents)
    renderer = renderer_of(compile_map(demo.map, demo.files), demo.contents)
    headers = {file.path: file.data.decode() for file in open_data.files(renderer)}["headers.nginx.conf"]
    handler = type("Handler", (WithPolicy,), {"policy": re.findall(r'Content-Security-Policy "([^"]*)"', headers)[0]})
    with serving(write(made.files, tmp_path), handler) as address:
        for key in renderer.pages:
            page.goto(address + renderer.plan.routes[key].path)
            assert page.evaluate("() => getComputedStyle(document.querySelector('.b-bar')).display") == "flex"
