"""The Parts workspace in a real browser, and what its forms do in a preview."""

from __future__ import annotations

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.browser.conftest import Application

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
    page.get_by_role("button", name="Write into the map").click()
    expect(page.get_by_label("Telephone")).to_have_value("01632 960999")
    page.locator(".areas").get_by_role("link", name="slot before").click()
    page.get_by_label("Parts that fill it").fill("quiet-hour")
    page.get_by_label("Milling days, and those under it").check()
    page.get_by_role("button", name="Write into the map").click()
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
    shown = page.locator("iframe.itself").content_frame
    expect(shown.get_by_role("img", name="The mill")).to_be_visible()
    assert shown.get_by_role("img", name="The mill").evaluate("img => img.naturalWidth") == 640
    shown.locator("main").get_by_role("link", name="the wheel").click()
    expect(shown.locator("h1")).to_have_text("The wheel")
