"""The generated navigation in a real browser: by keyboard, mouse and touch, at every width, and without script."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page, expect

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.outputs.static_site.stylesheet import fits_from
from basilica.store.folders import Source
from tests.browser.conftest import settle, write

MAP = """\
site: {name: The long quay}
pages:
  home: {path: /}
  visit: {pages: {hours: Opening hours, access: {pages: {lift: The lift}}}}
  learn: {pages: {wheel: , stones: }}
  contact:
menus:
  main:
    SETTINGS
    entries: [home, visit: {auto: 2}, {group: More, items: [learn, wheel, stones]}, contact]
header: {behaviour: sticky}
theme: {css: "main { min-height: 200vh }"}
"""

Built = Callable[[str], str]


@pytest.fixture
def opened(tmp_path: Path) -> Built:
    """Build a map with file links, and give the address of the folder."""

    def make(text: str) -> str:
        text = text.replace("site: {", "site: {links: file, ")
        result = build(compile_map(text), {})
        assert not [finding for finding in result.findings if finding.stops]
        return f"file://{write(result.files, tmp_path)}"

    return make


def menu(settings: str = "opens: beside") -> str:
    return MAP.replace("SETTINGS", settings)


def shown(page: Page) -> list[str]:
    """The links of the main menu that can be seen."""
    links = page.locator(".b-main a")
    return [link.text_content() or "" for link in links.all() if link.is_visible()]


def at(page: Page) -> str:
    return str(
        page.evaluate("document.activeElement.getAttribute('aria-label') ?? document.activeElement.textContent.trim()")
    )


def test_submenus_by_keyboard(page: Page, opened: Built) -> None:
    """WAI-ARIA APG, disclosure navigation: Enter opens, arrows go along, Escape closes and returns to the button."""
    page.goto(opened(menu()) + "/contact/index.html")
    assert shown(page) == ["Home", "Visit", "Contact"]
    page.get_by_role("button", name="Pages under Visit").focus()
    page.keyboard.press("Enter")
    assert shown(page) == ["Home", "Visit", "Opening hours", "Access", "The lift", "Contact"]
    page.keyboard.press("ArrowDown")
    assert at(page) == "Opening hours"
    page.keyboard.press("ArrowDown")
    assert at(page) == "Access"
    page.keyboard.press("Home")
    assert at(page) == "Opening hours"
    page.keyboard.press("Escape")
    assert at(page) == "Pages under Visit" and shown(page) == ["Home", "Visit", "Contact"]
    page.keyboard.press("ArrowRight")
    assert at(page) == "More"
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Enter")  # one is open at a time
    assert shown(page) == ["Home", "Visit", "Opening hours", "Access", "The lift", "Contact"]
    for _ in range(9):
        page.keyboard.press("Tab")
    assert shown(page) == ["Home", "Visit", "Contact"]  # it closes on leaving


def test_a_mouse_opens_by_the_rules_of_wcag_1_4_13(page: Page, opened: Built) -> None:
    page.goto(opened(menu("hover: yes")) + "/index.html")
    page.locator(".b-main > ul > li", has_text="Visit").first.hover()
    expect(page.locator(".b-main a", has_text="Opening hours")).to_be_visible()
    page.locator(".b-main a", has_text="Opening hours").hover()  # what is open can be hovered, and stays
    page.wait_for_timeout(500)
    assert page.locator(".b-main a", has_text="Opening hours").is_visible()
    page.keyboard.press("Escape")  # and dismissed, without the mouse moving
    expect(page.locator(".b-main a", has_text="Opening hours")).to_be_hidden()
    page.mouse.move(600, 500)
    page.locator(".b-main button", has_text="More").hover()
    expect(page.locator(".b-main a", has_text="Wheel")).to_be_visible()
    page.mouse.move(600, 600)
    expect(page.locator(".b-main a", has_text="Wheel")).to_be_hidden()


def test_touch_opens_with_one_tap_and_goes_with_one(browser: Browser, opened: Built) -> None:
    context = browser.new_context(has_touch=True, viewport={"width": 390, "height": 700})
    page = context.new_page()
    page.goto(opened(menu("opens: inside\n    hover: yes")) + "/learn/wheel/index.html")
    before = page.locator("main").bounding_box()
    page.get_by_role("button", name="Menu").tap()
    # What leads to the page is open already, and the page below has not moved.
    assert "Wheel" in shown(page) and "Opening hours" not in shown(page)
    assert page.locator("main").bounding_box() == before
    page.locator(".b-main button", has_text="Visit").tap()
    assert "Opening hours" in shown(page) and "Wheel" in shown(page)
    page.locator(".b-main .b-first a").first.tap()
    expect(page.locator("h1")).to_have_text("Visit")
    page.get_by_role("button", name="Menu").tap()
    page.keyboard.press("Escape")
    if page.get_by_role("button", name="Menu").get_attribute("aria-expanded") == "true":
        page.keyboard.press("Escape")  # the first closed the submenu that was open
    expect(page.get_by_role("button", name="Menu")).to_be_focused()
    context.close()


def test_the_lit_entry_is_seen(page: Page, opened: Built) -> None:
    """By what is drawn: it differs from the others in colour, and in more than colour."""
    page.goto(opened(menu()) + "/contact/index.html")
    look = """link => { const style = getComputedStyle(link);
        return [style.color, style.fontWeight, style.boxShadow !== 'none'] }"""
    lit = page.locator(".b-main a", has_text="Contact").evaluate(look)
    other = page.locator(".b-main a", has_text="Home").evaluate(look)
    assert lit == ["rgb(122, 82, 0)", "700", True]
    assert other == ["rgb(26, 34, 51)", "400", False]
    page.locator(".b-main a", has_text="Home").hover()
    hovered = page.locator(".b-main a", has_text="Home").evaluate(
        "a => [getComputedStyle(a).color, getComputedStyle(a).textDecorationLine]"
    )
    assert hovered == ["rgb(21, 51, 111)", "underline"]
    page.goto(page.url.replace("contact", "learn/stones"))
    assert page.locator(".b-main button", has_text="More").evaluate(look)[0] == "rgb(122, 82, 0)"


@pytest.mark.parametrize("settings", ["opens: beside", "opens: inside"])
def test_the_menu_fits_from_the_width_at_which_it_unfolds(page: Page, opened: Built, settings: str) -> None:
    """The width is computed, with no browser; here it is looked at in one, with the fonts that it has."""
    text = menu(settings)
    width = fits_from(compile_map(text).plan)  # type: ignore[arg-type]
    address = opened(text)
    page.set_viewport_size({"width": width, "height": 700})
    page.goto(address + "/learn/stones/index.html")
    assert page.locator(".b-menu-button").is_hidden()
    boxes = [li.bounding_box() for li in page.locator(".b-main > ul > li").all()]
    assert len({box["y"] for box in boxes if box}) == 1
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    bar, last = page.locator(".b-header .b-bar").bounding_box(), boxes[-1]
    assert bar and last and last["x"] + last["width"] <= bar["x"] + bar["width"]
    page.set_viewport_size({"width": width - 1, "height": 700})
    assert page.locator(".b-menu-button").is_visible()


HARD = """\
site: {{name: {name}, language: {language}}}
pages:
  home: {{path: /}}
{pages}
menus:
  main: {{auto: 5}}
"""


@pytest.mark.parametrize("language", ["en", "ar"])
def test_long_labels_many_entries_and_five_levels_at_320_px(page: Page, opened: Built, language: str) -> None:
    """320 px is 1280 at 400% (WCAG 2.2, 1.4.10): nothing goes sideways, and axe-core finds nothing."""
    long = "A label that goes on and on " * 3 + "to ninety"
    deep = f"{{pages: {{a: {{pages: {{b: {{pages: {{c: {{pages: {{d: {long}}}}}}}}}}}}}}}}}"
    pages = "\n".join(f"  p{n}: {long[:90]} {n}" for n in range(58)) + f"\n  deep: {deep}"
    page.set_viewport_size({"width": 320, "height": 600})
    page.goto(opened(HARD.format(name=long, language=language, pages=pages)) + "/deep/a/b/c/d/index.html")
    assert page.evaluate("document.documentElement.scrollWidth") <= 320
    page.locator(".b-menu-button").click()
    assert page.locator(".b-main [aria-current=page]").is_visible()  # all that holds it is open
    assert page.evaluate("document.documentElement.scrollWidth") <= 320
    assert Axe().run(page).response["violations"] == []
    page.set_viewport_size({"width": 1280, "height": 700})
    assert page.locator(".b-menu-button").is_visible()  # such a menu fits at no width
    assert page.evaluate("document.documentElement.scrollWidth") <= 1280


def test_without_script_everything_is_in_view(browser: Browser, opened: Built) -> None:
    context = browser.new_context(java_script_enabled=False, viewport={"width": 320, "height": 640})
    page = context.new_page()
    page.goto(opened(menu("opens: inside")) + "/learn/stones/index.html")
    wanted = ["Home", "Visit", "Opening hours", "Access", "The lift", "Learn", "Wheel", "Stones", "Contact"]
    assert shown(page) == wanted
    assert page.locator(".b-main button:visible").count() == 0
    assert page.evaluate("document.documentElement.scrollWidth") <= 320
    context.close()


def test_paper_has_no_menus_and_the_address_beside_each_link(page: Page, served: str) -> None:
    page.goto(served + "/press/")
    page.emulate_media(media="print")
    assert page.locator("nav.b-main").is_hidden() and page.locator("nav.b-footer-menu").first.is_hidden()
    after = page.locator("main a[href='/contact/']").evaluate("a => getComputedStyle(a, '::after').content")
    assert "/contact/" in after


def test_no_shift_when_script_arrives_and_forced_colours_keep_the_mark(page: Page, demo: Source, served: str) -> None:
    page.add_init_script("""window.shifts = 0; new PerformanceObserver(list => {
        for (const entry of list.getEntries()) window.shifts += entry.value;
    }).observe({ type: 'layout-shift', buffered: true })""")
    for width in (390, 1280):
        page.set_viewport_size({"width": width, "height": 800})
        page.goto(served + "/visit/hours/")
        settle(page)
        assert page.evaluate("window.shifts") == 0
    page.emulate_media(forced_colors="active")
    border = page.locator(".b-main a[aria-current]").evaluate("a => getComputedStyle(a).borderBlockEndWidth")
    assert border == "3px"
