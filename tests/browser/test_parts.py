"""The Parts workspace in a real browser, and what its forms do in a preview."""

from __future__ import annotations

import subprocess
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Locator, Page, expect

from basilica.core.build import build
from basilica.core.compile import compile_map
from tests.browser.conftest import Application, serving, settle, until, write
from tests.browser.test_pages import JAR
from tests.core.test_parts import ALL_KINDS, KINDS

pytestmark = pytest.mark.browser
SITE = "/sites/saltern-reach-tide-mill"


def test_a_part_is_written_seen_at_three_widths_and_placed(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/parts?page=milling")
    assert [violation["id"] for violation in Axe().run(page).response["violations"]] == []
    page.locator(".areas").get_by_role("link", name="find-us").click()
    expect(page.locator("#part-title")).to_have_text("find-us")
    frames = page.locator(".widths iframe")
    expect(frames).to_have_count(3)
    for number, width in enumerate((320, 720, 1080)):
        frame = frames.nth(number)
        frame.scroll_into_view_if_needed()
        inside = frame.content_frame
        expect(inside.get_by_text("01632 960142")).to_be_visible()
        assert inside.locator("html").evaluate("() => innerWidth") in (width, width - 2)
    page.get_by_label("Telephone").fill("01632 960999")
    page.get_by_role("button", name="Save to map").click()
    expect(page.locator(".notice.done")).to_be_visible()
    expect(page.get_by_label("Telephone")).to_have_value("01632 960999")
    page.locator(".areas").get_by_role("link", name="slot before").click()
    filling = page.get_by_role("group", name="Parts that fill it").locator("xpath=ancestor::form")
    filling.get_by_label("One more part").select_option("quiet-hour")
    filling.get_by_label("Milling days, and those under it").check()
    filling.get_by_role("button", name="Save to map").click()
    expect(page.locator(".area.slot", has=page.get_by_role("link", name="slot before"))).to_contain_text("quiet-hour")
    assert [violation["id"] for violation in Axe().run(page).response["violations"]] == []


def test_a_message_in_a_preview_goes_no_further(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/pages?page=contact")
    shown = page.locator("iframe.itself").content_frame
    shown.get_by_label("Your name").fill("Ann <Example>")
    shown.get_by_label("Your e-mail address").fill("ann@mill.example")
    shown.get_by_label("Your message").fill("Is it open?")
    shown.get_by_role("button", name="Send").click()
    expect(shown.locator("h1")).to_have_text("What /messages/ would receive")
    expect(shown.locator("dd").first).to_have_text("Ann <Example>")


def test_a_pages_text_is_written_beside_the_page(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/pages?page=history")
    page.locator("#page-text").fill(
        "![The mill](file:mill.svg)\n\nSee [the wheel](page:wheel). <part:next-milling-day>"
    )
    page.get_by_role("button", name="Save the text").click()
    expect(page.get_by_role("status").filter(has_text="Saved the content of")).to_be_visible()
    shown = page.locator("iframe.itself").content_frame
    expect(shown.get_by_role("img", name="The mill")).to_have_js_property("naturalWidth", 640)
    shown.locator("main").get_by_role("link", name="the wheel").click()
    expect(shown.locator("h1")).to_have_text("The wheel")


def test_every_kind_of_part_is_valid_and_without_findings(page: Page, tmp_path: Path) -> None:
    """The Nu HTML checker and axe-core find nothing in any of them, and nothing moves while they load."""
    result = build(compile_map(KINDS, ALL_KINDS), {})
    assert not result.stops
    folder = write(result.files, tmp_path)
    done = subprocess.run(["java", "-jar", str(JAR), "--skip-non-html", str(folder)], capture_output=True, text=True)
    assert done.stderr == ""
    with serving(folder) as address:
        page.add_init_script(SHIFTS)
        for width in (320, 1280):
            page.set_viewport_size({"width": width, "height": 800})
            page.goto(f"{address}/other/")
            settle(page)
            assert page.evaluate("window.shifts") == 0
            found = Axe().run(page).response["violations"]
            assert [(each["id"], each["nodes"][0]["html"]) for each in found] == []
            assert page.evaluate("document.documentElement.scrollWidth") <= width


SHIFTS = """window.shifts = 0; new PerformanceObserver(list => {
  for (const entry of list.getEntries()) if (!entry.hadRecentInput) window.shifts += entry.value;
}).observe({ type: "layout-shift", buffered: true });"""


def test_a_large_site_is_as_quick_to_work_on(page: Page, application: Application) -> None:
    """1,216 pages: every workspace that lists them opens, and the keyboard goes where it should."""
    site = application.address + "/sites/marrow-valley-seed-exchange"
    page.goto(f"{site}/parts?page=varieties/beans&part=swap-day")
    expect(page.locator(".sections")).to_contain_text("On 1216 of 1216 pages.")
    page.goto(f"{site}/pages?page=varieties/beans/amber-giant-late")
    expect(page.locator("#page-title")).to_be_visible()
    page.keyboard.press(".")
    expect(page.locator(".tree a[aria-current]")).to_be_visible()
    page.goto(f"{site}/map?page=varieties/beans")
    expect(page.locator(".facts h3").first).to_have_text("Beans")
    page.goto(f"{site}/output?output=data")
    expect(page.locator(".files .holds")).to_contain_text("passes every check")
    expect(page.get_by_role("link", name="routes.csv")).to_be_visible()


def seen(page: Page, what: Locator) -> None:
    """Wait for what is shown once the built pages are checked; a slow machine says that they still are."""

    def is_shown() -> bool:
        if page.get_by_text("look again in a moment").is_visible():
            page.reload()
        return what.is_visible()

    until(page, is_shown)


def test_a_template_is_changed_with_the_page_beside(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/parts?page=visit/hours&file=templates/menu.html")
    assert [violation["id"] for violation in Axe().run(page).response["violations"]] == []
    field, save = page.get_by_label("Template", exact=True), page.get_by_role("button", name="Save the file")
    begun = field.input_value()
    field.fill(begun.replace('<nav class="', '<nav class="mine '))
    save.click()
    seen(page, page.get_by_text("Checked on every built page"))
    shown = page.locator("iframe.whole-page").content_frame
    expect(shown.locator("nav.mine.b-main [aria-current=page]")).to_have_text("Opening hours")
    field.fill(begun.replace(' aria-current="{{ entry.current }}"', ""))
    save.click()
    found = page.locator(".broken").filter(has_text="The menu main on index.html")
    seen(page, found)
    expect(found).to_contain_text("marks no entry as current")
    field.fill("{% include 'x' %}\n" + begun)
    save.click()
    expect(page.locator(".broken").filter(has_text="Line 1: A template has no include.")).to_have_count(1)
    page.get_by_text("Delete this file").click()
    page.get_by_role("button", name="Delete templates/menu.html").click()
    expect(page.get_by_role("link", name="menu built-in")).to_be_visible()
