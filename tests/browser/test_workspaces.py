"""The workspaces Pages and Preview: one page as the site sees it, and pages side by side."""

from __future__ import annotations

import re
import threading
from pathlib import Path

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Frame, Page, Route, expect

from basilica.web.preview.preview_options import PreviewOptions
from tests.browser.conftest import Application, Quiet, serving, until
from tests.browser.test_application import SITE


def frames(page: Page) -> list[Frame]:
    return [frame for frame in page.frames if frame.parent_frame]


def click_in(frame: Frame, label: str) -> None:
    """Click a link in a frame that is drawn smaller than it is, which a mouse of the test cannot hit."""
    frame.locator("a", has_text=re.compile(f"^{label}$")).first.evaluate("link => link.click()")


def test_one_page_as_the_site_sees_it(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/pages?page=press")
    lit = page.locator(".lit", has_text="Main")
    expect(lit.locator("li")).to_have_text(
        [
            "“Press pictures” has no entry here.",
            "The map names “News” as current for it, which has an entry here.",
            'So that entry is current, with aria-current="true".',
        ]
    )
    expect(page.locator("tr.now code").first).to_have_text("/press/")
    expect(page.frame_locator("iframe.itself").locator("h1")).to_have_text("Press pictures")
    page.locator(".part", has_text="Breadcrumbs").locator("summary").click()
    expect(page.locator(".part pre:visible")).to_contain_text('<nav class="b-breadcrumbs"')
    page.locator("h2").first.click()
    page.keyboard.press(",")
    expect(page.locator("#page-title")).to_have_text("Privacy notice")
    page.wait_for_load_state()  # keys that come before the scripts are nobody's
    page.keyboard.press(".")
    expect(page.locator("#page-title")).to_have_text("Press pictures")


def test_settings_are_written_into_the_map_and_put_back(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/pages?page=how-it-works/stones")
    page.get_by_label("Description", exact=True).fill("What the stones are made of.")
    page.get_by_label("Highlight").fill("history")
    page.get_by_label("sitemap").check()
    page.get_by_role("button", name="Save to map").click()
    expect(page.locator(".notice")).to_contain_text("Saved description, hidden, highlight to the map.")
    page.goto(f"{application.address}{SITE}/map?page=how-it-works/stones")
    for line in ("description: What the stones are made of.", "highlight: history", "hidden: sitemap"):
        expect(page.locator(".cm-content")).to_contain_text(line)
    page.goto(f"{application.address}{SITE}/pages?page=how-it-works/stones")
    page.get_by_label("Path", exact=True).fill("/visit")  # where another page is
    page.get_by_label("Title", exact=True).fill("Stones")
    page.get_by_role("button", name="Save to map").click()
    expect(page.get_by_role("alert")).to_contain_text("are both at /visit/. So nothing was changed.")
    expect(page.get_by_label("Title", exact=True)).to_have_value("Stones")  # what was typed is still there
    page.get_by_label("Path", exact=True).fill("")
    page.get_by_role("button", name="Save to map").click()
    expect(page.locator("#page-title")).to_have_text("Stones")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#page-title")).to_have_text("The stones")


def test_what_is_typed_elsewhere_stays_while_something_is_saved(page: Page, application: Application) -> None:
    """On a page with several forms, where one is saved, slowly; and leaving asks as long as something is not saved."""
    page.goto(application.address + SITE + "/pages?page=press")
    page.wait_for_load_state()
    content, keywords = page.locator("#page-text"), page.get_by_label("Keywords")
    late: list[Route] = []
    page.route("**/pages?page=press", lambda route: late.append(route), times=1)
    content.fill("Not saved yet.")
    page.get_by_label("sitemap").check()
    page.get_by_role("button", name="Save to map").click()
    until(page, lambda: bool(late))
    keywords.fill("mill")
    late[0].continue_()
    told = page.get_by_role("status")
    expect(told.filter(has_text="Saved hidden to the map.")).to_be_visible()
    expect(content).to_have_value("Not saved yet.")
    expect(keywords).to_have_value("mill")
    expect(keywords).to_be_focused()
    asked: list[str] = []
    page.once("dialog", lambda dialog: (asked.append(dialog.type), dialog.dismiss()))
    page.get_by_role("link", name="History", exact=True).first.click()
    until(page, lambda: asked == ["beforeunload"])
    page.get_by_role("button", name="Save the text").click()
    expect(told.filter(has_text="Saved the content of Press pictures.")).to_be_visible()
    expect(keywords).to_have_value("mill")
    page.get_by_role("button", name="Undo").click()
    expect(told.filter(has_text="Undone: ")).to_be_visible()
    expect(content).to_have_value(re.compile("^These pictures may be printed"))
    expect(page.get_by_label("sitemap")).to_be_checked()
    page.get_by_role("button", name="Save to map").click()
    page.locator(".workspaces a", has_text="Preview").click()  # waits until it is saved, and asks nothing
    expect(page).to_have_url(re.compile("/preview"))


def test_back_asks_for_what_is_not_saved(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/settings?section=theme")
    page.get_by_role("link", name="Breadcrumbs", exact=True).click()
    separator = page.get_by_label("Separator")
    separator.fill("~")
    asked: list[str] = []
    page.once("dialog", lambda dialog: (asked.append(dialog.type), dialog.dismiss()))
    page.evaluate("history.back()")
    until(page, lambda: asked == ["beforeunload"])
    expect(page).to_have_url(re.compile("section=breadcrumbs"))
    expect(separator).to_have_value("~")
    page.get_by_role("button", name="Save to map").click()
    expect(page.get_by_role("status").filter(has_text="Set separator.")).to_be_visible()
    page.get_by_role("link", name="Theme", exact=True).click()
    expect(page.get_by_role("heading", name="Theme", exact=True)).to_be_visible()
    page.evaluate("history.back()")
    expect(separator).to_have_value("~")


def test_two_windows_on_one_page(page: Page, application: Application) -> None:
    address = f"{application.address}{SITE}/pages?page=news"
    page.goto(address)
    other = page.context.new_page()
    other.goto(address)
    other.get_by_label("Label", exact=True).fill("Late news")
    other.get_by_role("button", name="Save to map").click()
    expect(other.locator(".notice")).to_contain_text("Saved label")
    page.get_by_label("Label", exact=True).fill("Old news")
    page.get_by_role("button", name="Save to map").click()
    expect(page.get_by_role("alert")).to_contain_text("Somebody else changed label meanwhile")
    expect(page.get_by_label("Label", exact=True)).to_have_value("Old news")
    page.get_by_label("Keep “Late news”, as they saved it").check()
    page.get_by_role("button", name="Save to map").click()
    expect(page.locator(".notice.done")).to_contain_text("Nothing was changed")
    expect(page.get_by_label("Label", exact=True)).to_have_value("Late news")


def test_three_widths_follow_one_another(page: Page, application: Application) -> None:
    page.set_viewport_size({"width": 1280, "height": 420})
    page.goto(f"{application.address}{SITE}/preview?page=visit/hours")
    shown = page.locator(".ground iframe")
    expect(shown).to_have_count(3)
    for number in range(3):
        expect(shown.nth(number).content_frame.locator("h1")).to_have_text("Opening hours")
    assert [frame.evaluate("innerWidth") for frame in frames(page)] == [390, 768, 1280]
    for frame in frames(page):
        frame.wait_for_load_state()
    frames(page)[0].evaluate("scrollTo(0, 400)")
    depth = "scrollY / (document.documentElement.scrollHeight - innerHeight)"
    assert frames(page)[0].evaluate(depth) > 0.2

    def is_at_one_depth() -> bool:
        one, *others = [frame.evaluate(depth) for frame in frames(page)]
        return all(abs(one - other) < 0.02 for other in others)

    until(page, is_at_one_depth)
    click_in(frames(page)[2], "calendar")
    expect(page.locator(".address")).to_have_text("/milling/calendar/")
    expect(page.locator(".tree a[aria-current]")).to_have_text("Calendar")
    for number in range(3):
        expect(shown.nth(number).content_frame.locator("h1")).to_have_text("Calendar")
    page.keyboard.press(".")
    expect(page.locator(".address")).to_have_text("/milling/first-visit/")
    page.keyboard.press("w")
    expect(page.get_by_role("button", name="Play through pages")).to_have_attribute("aria-pressed", "true")
    expect(page.locator(".address")).to_have_text("/tides/")
    expect(page.locator(".address")).to_have_text("/tides/reading/")
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Play through pages")).to_have_attribute("aria-pressed", "false")


def test_what_a_preview_puts_on_and_takes_off(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/preview?page=visit/hours&width=desktop")
    page.frame_locator("iframe").locator("h1").wait_for()
    background = "getComputedStyle(document.querySelector('.b-header')).backgroundColor"

    def after(label: str) -> Frame:
        page.get_by_label(label).check()
        page.frame_locator("iframe").locator("h1").wait_for()
        frames(page)[0].wait_for_load_state()
        return frames(page)[0]

    assert after("Right to left").evaluate("getComputedStyle(document.body).direction") == "rtl"
    assert after("Forced colours").evaluate(background) == "rgb(0, 0, 0)"
    page.get_by_label("Forced colours").uncheck()
    duration = "parseFloat(getComputedStyle(document.querySelector('.b-name')).transitionDuration)"
    assert after("Less motion").evaluate(duration) == 0
    assert after("Dark").evaluate("getComputedStyle(document.documentElement).colorScheme") == "dark"
    click_in(after("Links disabled"), "calendar")
    expect(page.locator(".notice")).to_have_text("That link would lead to /milling/calendar/. Links are disabled.")
    expect(page.locator(".address")).to_have_text("/visit/hours/")
    assert after("No style").evaluate("document.styleSheets.length") <= 1  # that of links that are asleep
    expect(page).to_have_url(re.compile("on=samdr"))


def test_two_states_of_a_page_laid_over_each_other(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/pages?page=tides")
    page.get_by_label("Label", exact=True).fill("Water")
    page.get_by_role("button", name="Save to map").click()
    page.goto(f"{application.address}{SITE}/preview?page=tides&width=over")
    expect(page.locator(".differing li")).to_have_text(["The shared parts are alike."])
    page.locator("select[name=otherstate]").select_option(index=1)
    expect(page.locator(".differing li").first).to_have_text(
        "Main: “Water” is only in the first; “Tides” is only in the second."
    )
    shown = page.locator(".ground iframe")
    for number in range(2):
        menu = shown.nth(number).content_frame.locator("nav.b-main")
        expect(menu).to_have_attribute("style", re.compile("dashed"))
    page.get_by_role("combobox", name="Overlay", exact=True).fill("visit/hours")
    page.keyboard.press("Tab")
    for number, heading in enumerate(("Tide tables", "Opening hours")):
        expect(shown.nth(number).content_frame.locator("h1")).to_have_text(heading)


def test_what_is_asked_of_a_page_half_read_is_done_when_it_is_read(page: Page, tmp_path: Path) -> None:
    rest = threading.Event()

    class Halved(Quiet):
        def do_GET(self) -> None:  # noqa: N802
            whole = b"<html><head></head><body><p>Half of it</p><nav>The rest</nav></body></html>"
            first, _, last = PreviewOptions().applied("page.html", whole).partition(b"<nav>")
            self.send_response(200)
            self.send_header("Content-Type", "text/html")
            self.end_headers()
            if self.path == "/":
                self.wfile.write(b'<iframe src="page.html"></iframe>')
            else:
                self.wfile.write(first)
                rest.wait()
                self.wfile.write(b"<nav>" + last)

    with serving(tmp_path, Halved) as address:
        page.goto(address, wait_until="commit")
        shown = page.frame_locator("iframe")
        shown.locator("p").wait_for()
        page.evaluate("frames[0].postMessage({basilica: 'workspace', mark: ['nav']}, '*')")
        rest.set()
        expect(shown.locator("nav")).to_have_attribute("style", re.compile("dashed"))


def test_addresses_are_accessible_and_old_ones_are_written(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/checks")
    page.get_by_role("link", name="Addresses", exact=True).click()
    expect(page.locator("table.routes tbody tr")).to_have_count(29)
    assert Axe().run(page).response["violations"] == []
    page.get_by_role("link", name="Address", exact=True).click()
    expect(page.locator("th[aria-sort=ascending]")).to_have_text("Address")
    page.get_by_role("link", name="Old addresses", exact=True).first.click()
    page.locator("#list").fill("/opening_hours.htm\n/visit/\n/zebra\n")
    page.get_by_role("button", name="Look them up").click()
    expect(page.get_by_text("2 lead nowhere")).to_be_visible()
    assert Axe().run(page).response["violations"] == []
    page.get_by_role("button", name="Write the chosen ones").click()
    expect(page.get_by_role("status").first).to_contain_text("1 old address written into the map")
    page.goto(f"{application.address}{SITE}/addresses?q=opening_hours")
    expect(page.locator("table.routes tbody tr")).to_contain_text(["/visit/hours/"])
    page.get_by_label("files: /").check()
    page.get_by_role("button", name="Set the style").click()
    expect(page.locator("table.routes tbody")).to_contain_text("/visit/hours.html")


def test_the_step_of_another_person_is_named_and_undone_only_on_request(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/map")
    page.locator(".cm-content").click()
    page.keyboard.press("Control+End")
    page.keyboard.type("\n# typed by one")
    expect(page.locator("#last-step")).to_have_attribute("data-words", "Typing in the map")
    browser = page.context.browser
    assert browser is not None
    other = browser.new_context().new_page()
    other.goto(f"{application.address}{SITE}/history")
    other.locator("[popovertarget=undo-others]").click()
    expect(other.get_by_text("The last step is another person's: Typing in the map.")).to_be_visible()
    other.goto(f"{application.address}{SITE}/map")
    other.locator("[data-do=undo]").click()
    expect(other.get_by_text("It comes after yours, if you did any.")).to_be_visible()
    expect(other.locator("#last-step")).to_have_attribute("data-words", "Typing in the map")
    other.get_by_role("button", name="Undo it too").click()
    expect(other.get_by_text("Undone: Typing in the map.")).to_be_visible()
    expect(other.locator(".cm-content")).not_to_contain_text("typed by one")
    other.context.close()
