"""`docs/tour.md`, walked as it is written."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.browser.conftest import Application

TOUR = Path(__file__).parent.parent.parent / "docs" / "tour.md"


def workspace(page: Page, name: str) -> None:
    page.locator(".workspaces a", has_text=re.compile(f"^{name}$")).click()
    expect(page.locator(".workspaces a[aria-current]")).to_have_text(name)
    page.wait_for_load_state()  # keys that come before the scripts are nobody's


def test_the_tour_leads_where_it_says(page: Page, application: Application) -> None:
    steps = re.findall(r"^\d+\. (.+(?:\n   .+)*)", TOUR.read_text(), re.MULTILINE)
    assert len(steps) == 15
    walk = (
        open_it,
        look_at_the_map,
        draw,
        make_a_fault,
        write,
        pages,
        parts,
        header,
        preview,
        checks,
        output,
        keep,
        published,
        new,
        existing,
    )
    for number, (step, said) in enumerate(zip(walk, steps, strict=True), 1):
        names = re.findall(r"\*\*(.+?)\*\*", said)
        assert all(name in (step.__doc__ or "") for name in names), f"step {number} speaks of {names}"
        step(page, application)


def open_it(page: Page, application: Application) -> None:
    """Saltern Reach Tide Mill."""
    page.goto(application.address)
    page.get_by_role("link", name="Saltern Reach Tide Mill").first.click()


def look_at_the_map(page: Page, _: Application) -> None:
    """Map."""
    page.locator("a.node", has_text="The stones").click()
    expect(page.locator(".node.way-here")).to_have_count(1)
    expect(page.locator(".cell.here title")).to_contain_text("Learn")
    expect(page.locator(".cm-activeLine")).to_contain_text("stones:")


def draw(page: Page, _: Application) -> None:
    """Draw."""
    page.locator('a.node[data-key="how-it-works/stones"]').focus()
    page.keyboard.press("n")
    page.keyboard.type("The bells")
    page.keyboard.press("Enter")
    bells = page.locator("a.node", has_text="The bells")
    expect(bells).to_be_focused()
    expect(page.locator(".cm-content")).to_contain_text("The bells")
    page.keyboard.press("Alt+ArrowUp")
    expect(page.locator(".plan > .notice")).to_contain_text("Moved The bells")
    expect(page.locator("#reach-bar")).to_contain_text("1")
    page.locator("#reach-bar").click()
    expect(page.get_by_role("dialog", name="What the change affects")).to_contain_text("New page files")
    page.keyboard.press("Escape")


def make_a_fault(page: Page, _: Application) -> None:
    """Write."""
    page.set_viewport_size({"width": 1280, "height": 6400})
    page.locator(".cm-line", has_text="- take-part: [vol").first.click()
    page.keyboard.press("End")
    page.keyboard.press("ArrowLeft")
    page.keyboard.type(", nowhere")
    expect(page.locator(".findings li.error")).to_contain_text("There is no page nowhere.")
    expect(page.locator(".plan-status .when-bad")).to_be_visible()
    for _ in range(3):
        page.keyboard.press("Control+z")
    expect(page.locator("#finding-count")).to_contain_text("No errors")
    page.set_viewport_size({"width": 1280, "height": 800})


def write(page: Page, _: Application) -> None:
    """The content of a page."""
    page.locator('a.node[data-key="history"]').click()
    expect(page.locator(".facts h3").first).to_have_text("History")
    page.get_by_text("Content", exact=True).click()
    page.locator("#content-text").focus()
    page.keyboard.press("Control+End")
    page.keyboard.type(" See [the wheel](page:wheel).")
    expect(page.locator("#content-status")).to_have_text("Saved.")


def pages(page: Page, _: Application) -> None:
    """Pages."""
    workspace(page, "Pages")
    page.locator(".tree a", has_text="Press pictures").click()
    expect(page.locator(".lit", has_text="Main").locator("li").first).to_be_visible()
    expect(page.locator("tr.now code").first).to_have_text("/press/")
    expect(page.frame_locator("iframe.itself").locator("h1")).to_have_text("Press pictures")
    page.keyboard.press(".")
    expect(page.locator("#page-title")).not_to_have_text("Press pictures")


def parts(page: Page, _: Application) -> None:
    """Parts."""
    workspace(page, "Parts")
    page.locator(".tree a", has_text="find-us").click()
    expect(page.locator("#part-title")).to_have_text("find-us")
    expect(page.locator(".widths iframe")).to_have_count(3)
    page.locator(".areas").get_by_role("link", name="slot before").click()
    expect(page.get_by_role("group", name="Parts that fill it")).to_be_visible()


def header(page: Page, _: Application) -> None:
    """Header. Settings."""
    workspace(page, "Header")
    page.wait_for_load_state("load")  # its script is there
    page.get_by_role("link", name="Back and forth at the depth").click()
    expect(page.locator(".strip").last).to_be_visible()
    page.get_by_role("button", name="Hides on scroll down").first.click()
    expect(page.locator("figcaption")).to_contain_text(["As the map has it", "As set here: hide"])
    expect(page.get_by_role("button", name="Record")).to_be_visible()
    workspace(page, "Settings")
    page.get_by_label("Page titles").fill("{title} · {site}")
    expect(page.get_by_text("1 setting is tried here")).to_be_visible()
    page.get_by_role("button", name="Save to map").click()
    expect(page.get_by_role("status").filter(has_text="Set ")).to_be_visible()
    page.get_by_role("button", name="Undo: Set ").click()
    expect(page.get_by_text("Undone: ")).to_be_visible()


def preview(page: Page, _: Application) -> None:
    """Preview."""
    workspace(page, "Preview")
    expect(page.locator("iframe")).to_have_count(3)
    for name in ("No script", "Links disabled", "Right to left"):
        expect(page.get_by_label(name)).to_have_count(1)
    page.get_by_role("button", name="Play through pages").click()
    expect(page.get_by_role("button", name="Play through pages")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Escape")


def checks(page: Page, application: Application) -> None:
    """Checks."""
    page.goto(f"{application.address}/sites/saltern-reach-tide-mill/pages?page=press")
    box = page.locator("textarea[name=text]")
    box.fill(box.input_value() + "\n[Click here](/gone/)\n")
    page.get_by_role("button", name="Save the text").click()
    expect(page.get_by_role("status").filter(has_text="Saved the content of")).to_be_visible()
    workspace(page, "Checks")
    expect(page.locator(".checks-view")).to_be_visible()
    expect(page.locator(".tiles")).to_be_visible()
    page.locator(".tiles").focus()
    page.keyboard.press("j")
    expect(page.locator(".beside")).to_contain_text("/gone/")
    expect(page.locator(".beside")).to_contain_text("content/press.md, line")
    expect(page.get_by_text("Report", exact=True)).to_be_visible()


def output(page: Page, _: Application) -> None:
    """Output."""
    workspace(page, "Output")
    expect(page.locator(".files .broken")).to_contain_text("the build")
    page.get_by_label("Flask kit").check()
    page.get_by_role("button", name="Build").click()
    expect(page.get_by_label("Flask kit")).to_be_checked()


def keep(page: Page, _: Application) -> None:
    """Save version, History."""
    workspace(page, "Map")
    page.get_by_label("Note for the version").fill("The bells are on the map")
    page.keyboard.press("Control+s")
    expect(page.locator("#saved-mark")).to_contain_text("Saved")
    workspace(page, "History")
    expect(page.locator("tbody tr").nth(1)).to_contain_text("The bells are on the map")


def published(page: Page, _: Application) -> None:
    """Publish."""
    workspace(page, "Publish")
    page.get_by_role("button", name="Compare with the live site").click()
    expect(page.get_by_text("files differ")).to_be_visible()
    expect(page.get_by_role("alert")).to_contain_text("stops this publish")
    page.get_by_label("Publish all the same, because").fill("It is a tour")
    page.get_by_role("button", name="Publish").click()
    expect(page.get_by_text("The live site matches the build.")).to_be_visible()
    expect(page.get_by_text("files fetched from the live site")).to_be_visible()


def new(page: Page, application: Application) -> None:
    """New site → A list."""
    page.goto(application.address)
    page.get_by_role("link", name="New site").first.click()
    page.get_by_label("Name").fill("From a list")
    page.get_by_text("A list", exact=True).click()
    page.get_by_label("The list").fill("Home\nVisit\n  Opening hours\n")
    expect(page.locator("form a.node")).to_have_count(3)
    page.get_by_role("button", name="Create site").click()
    expect(page.locator("svg.plan-svg a.node")).to_have_count(3)


def existing(page: Page, application: Application) -> None:
    """New site → An existing site → The demo. Create site."""
    page.goto(application.address)
    page.get_by_role("link", name="New site").first.click()
    page.get_by_role("link", name="An existing site").click()
    page.get_by_label("The demo").check()
    page.get_by_role("button", name="Read the site").click()
    expect(page.locator(".drift tbody tr")).to_have_count(5)
    page.get_by_role("button", name="Create site").click()
    expect(page.locator("svg.plan-svg a.node", has_text="Weddings")).to_be_visible()
