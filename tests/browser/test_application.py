"""The application, used by a person: the whole way, and the ways it can go wrong."""

from __future__ import annotations

import io
import re
import zipfile

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, Route, expect

from tests.browser.conftest import Application, settle, until

SITE = "/sites/saltern-reach-tide-mill"


def type_over(page: Page, text: str) -> None:
    """Replace the whole map by typing, without the mouse."""
    page.locator(".cm-content").focus()
    page.keyboard.press("Control+a")
    page.keyboard.insert_text(text)


def go_to_line(page: Page, text: str) -> None:
    """Put the cursor into the line with ``text``; the window is high enough for the whole map."""
    page.set_viewport_size({"width": 1280, "height": 8400})
    page.locator(".cm-line", has_text=text).first.click()


def take_completion(page: Page) -> None:
    """Take the first completion; the editor ignores keys for a moment after the list has opened."""
    page.wait_for_timeout(150)
    page.keyboard.press("Enter")


def test_from_a_new_site_to_its_archive(page: Page, application: Application) -> None:
    page.goto(application.address)
    page.get_by_role("link", name="New site").first.click()
    expect(page.get_by_label("Name")).to_be_focused()
    page.keyboard.type("Upper Mill")
    page.keyboard.press("Enter")
    expect(page.locator("svg.plan-svg a.node")).to_have_count(1)
    type_over(
        page,
        "site:\n  name: Upper Mill\n  base: https://upper.example\n"
        "pages:\n  home: {path: /}\n  visit:\n    title: Visit us\n",
    )
    expect(page.locator("svg.plan-svg a.node")).to_have_count(2)
    expect(page.locator("#saved-mark")).to_contain_text("Unsaved changes")
    page.get_by_label("Note for the version").fill("Two pages")
    page.get_by_role("button", name="Save version").click()
    expect(page.locator("#saved-mark")).to_contain_text("Saved")
    page.locator(".workspaces a", has_text="Preview").click()
    page.locator(".switch label", has_text="Tablet").click()
    frame = page.frame_locator("iframe")
    frame.locator(".b-main a", has_text="Visit us").click()
    expect(page.locator(".tree a[aria-current]")).to_have_text("Visit us")
    page.locator(".workspaces a", has_text="Output").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Download the archive").click()
    with zipfile.ZipFile(io.BytesIO(download.value.path().read_bytes())) as archive:
        assert b"<h1>Visit us</h1>" in archive.read("upper-mill/visit/index.html")
    page.goto(f"{application.address}/sites/upper-mill")
    expect(page.locator(".plain li").first).to_contain_text("Two pages")


def test_a_fault_is_underlined_listed_and_found_by_key(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    expect(page.locator("#finding-count")).to_contain_text("No errors")
    go_to_line(page, "- take-part: [vol")
    page.keyboard.press("End")
    page.keyboard.press("ArrowLeft")
    page.keyboard.type(", nowhere")
    finding = page.locator(".findings li.error")
    expect(finding).to_contain_text("There is no page nowhere.")
    expect(page.locator(".cm-lintRange-error")).to_have_count(1)
    expect(page.locator(".plan-status .when-bad")).to_be_visible()
    expect(page.locator("svg.plan-svg a.node")).to_have_count(29)
    go_to_line(page, "site:")
    page.locator("#finding-count").click()
    finding.locator("a").click()
    expect(page.locator(".cm-activeLine")).to_contain_text("nowhere")
    for _ in range(3):  # what is typed in one go is undone in a few steps
        page.keyboard.press("Control+z")
    expect(page.locator("#finding-count")).to_contain_text("No errors")
    expect(page.locator("#saved-mark")).to_contain_text("Saved")


def test_choosing_in_one_chooses_in_the_others(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    page.locator('a.node[data-key="how-it-works/stones/dressing"]').click()
    expect(page.locator(".cm-activeLine")).to_contain_text("dressing: Dressing a stone")
    expect(page.locator(".facts h3").first).to_have_text("Dressing a stone")
    assert page.locator(".node.way-here").evaluate_all("nodes => nodes.map(node => node.dataset.key)") == [
        "how-it-works",
        "how-it-works/stones",
    ]
    expect(page.locator(".cell.here title")).to_have_text("Group in the main menu: Learn")
    go_to_line(page, "privacy: Privacy notice")
    expect(page.locator('a.node[aria-current="true"]')).to_have_attribute("data-key", "privacy")
    page.locator('a.node[data-key="visit"]').click()
    page.locator(".drawing").focus()
    page.keyboard.press("Tab")
    expect(page.locator(".cell").first).to_be_focused()
    page.keyboard.press("Tab")
    expect(page.locator('a.node[data-key="visit"]')).to_be_focused()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowDown")
    expect(page.locator(".facts h3").first).to_have_text("Getting here")
    page.reload()
    expect(page.locator('a.node[aria-current="true"]')).to_have_attribute("data-key", "visit/getting-here")


def test_the_text_of_a_page_is_written_beside_it_and_proved(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map?page=press")
    page.get_by_text("Content", exact=True).click()
    page.locator("#content-text").focus()
    page.keyboard.press("Control+End")
    page.keyboard.type("More on [opening](page:hors) and [prices](/visit/hours/#price).")
    expect(page.locator("#content-status")).to_have_text("Saved.")
    expect(page.locator(".findings li.error")).to_contain_text(
        ["There is no page hors.", "jumps to price, which is not on visit/hours/index.html"]
    )
    expect(page.locator("#finding-count")).to_contain_text("2 errors")
    page.locator('a.node[data-key="visit"]').click()
    page.locator(".findings li.error a").first.click()
    expect(page.locator("#content-text")).to_be_focused()
    expect(page.locator("#content-text")).to_have_value(re.compile("More on .opening"))
    page.locator(".workspaces a", has_text="Output").click()
    expect(page.locator(".files .broken")).to_contain_text("2 findings stop the build")


def test_what_stops_a_build_leads_to_its_line(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    go_to_line(page, "behaviour: shrink")
    page.keyboard.press("End")
    page.keyboard.type("s")
    expect(page.locator("#finding-count")).to_contain_text("1 error")
    page.goto(application.address + SITE + "/output")
    expect(page.locator(".file-list a")).to_have_count(0)
    page.get_by_role("link", name="bad-value").or_(page.locator(".found .error a")).click()
    expect(page.locator(".cm-activeLine")).to_have_text("  behaviour: shrinks")


def test_completion_knows_pages_and_words(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    go_to_line(page, "privacy: Privacy notice")
    type_over(
        page, "site:\n  urls: folders\npages:\n  home: {path: /}\n  getting-here:\nmenus:\n  main:\n    - home\n    "
    )
    expect(page.locator("a.node")).to_have_count(2)
    page.keyboard.type("- get")
    expect(page.locator(".cm-tooltip-autocomplete li")).to_contain_text(["getting-here"])
    take_completion(page)
    expect(page.locator(".cm-activeLine")).to_have_text("    - getting-here")
    page.keyboard.press("Enter")
    page.keyboard.press("Control+Home")
    page.keyboard.press("End")
    page.keyboard.press("Enter")
    page.keyboard.type("lin")
    expect(page.locator(".cm-tooltip-autocomplete li").first).to_contain_text("links")
    take_completion(page)
    page.keyboard.type("do")
    expect(page.locator(".cm-tooltip-autocomplete li").first).to_have_text("document")
    take_completion(page)
    expect(page.locator(".findings li.error:not(:has([data-file]))")).to_have_count(0)
    type_over(page, "facts: {phone: 01632 960142}\npages:\n  home: {path: /, title: M}\nheader:\n  tagline: Call")
    expect(page.locator("a.node")).to_have_count(1)
    page.keyboard.type(" {fact:p")
    expect(page.locator(".cm-tooltip-autocomplete li").first).to_have_text("phone")
    take_completion(page)
    expect(page.locator(".cm-activeLine")).to_have_text("  tagline: Call {fact:phone}")


def test_an_answer_that_is_lost_on_its_way_is_no_conflict(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    lost = []

    def lose(route: Route) -> None:
        route.fetch()  # it is saved, and nobody hears of it
        lost.append(route.request.method)
        route.abort()

    page.route("**/text", lose, times=1)
    go_to_line(page, "# Everything here is made up.")
    page.keyboard.press("End")
    page.keyboard.type(" Lost.")
    expect(page.locator(".code .notice")).to_contain_text("cannot be reached")
    page.keyboard.type(" Heard.")
    expect(page.locator(".code .notice")).to_be_hidden()
    page.reload()
    expect(page.locator(".cm-line", has_text="Lost. Heard.")).to_have_count(1)
    assert lost == ["PUT"]


def test_nothing_typed_is_lost_when_the_server_is_killed(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    go_to_line(page, "# Everything here is made up.")
    page.keyboard.press("End")
    with page.expect_response("**/map/text"):
        page.keyboard.type(" Saved.")
    application.kill()
    page.keyboard.type(" Typed while it was dead.")
    expect(page.locator(".code .notice")).to_contain_text("cannot be reached")
    application.start()
    expect(page.locator(".code .notice")).to_be_hidden()
    page.route("**/map/text", lambda route: route.abort())
    page.keyboard.type(" And after.")
    until(page, lambda: page.evaluate("Object.values(localStorage).some((text) => text.includes('And after.'))"))
    application.kill()
    page.unroute("**/map/text")
    page.evaluate("window.onbeforeunload = null")
    application.start()
    page.on("dialog", lambda dialog: dialog.accept())
    page.goto(application.address + SITE + "/map")
    expect(page.locator(".cm-line").nth(1)).to_have_text(
        "# Everything here is made up. Saved. Typed while it was dead. And after."
    )


def test_no_content_is_lost_when_the_server_is_killed(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map?page=press")
    page.get_by_text("Content", exact=True).click()
    content, status = page.locator("#content-text"), page.locator("#content-status")
    content.press("Control+End")
    page.keyboard.type("Saved.")
    expect(status).to_have_text("Saved.")
    application.kill()
    page.keyboard.type(" Typed while it was dead.")
    expect(status).to_contain_text("cannot be reached")
    page.keyboard.type(" And on.")
    page.on("dialog", lambda dialog: dialog.accept())
    application.start()
    page.reload()
    expect(content).to_have_value(re.compile(r"Saved\. Typed while it was dead\. And on\.$"))
    until(page, lambda: "And on." in page.request.get(application.address + SITE + "/map/page?page=press").text())
    page.wait_for_load_state("networkidle")  # nothing is read any more that the other window could have written
    other = page.context.new_page()
    other.goto(page.url)
    other.get_by_text("Content", exact=True).click()
    other.locator("#content-text").fill("Theirs.")
    expect(other.locator("#content-status")).to_have_text("Saved.")
    content.evaluate("field => (field.closest('details').open = true)")
    content.fill("Mine.")
    page.get_by_role("button", name="Use the other version").click()
    expect(content).to_have_value("Theirs.")
    content.press("Control+z")
    expect(content).to_have_value("Mine.")
    expect(status).to_have_text("Saved.")
    page.reload()
    expect(content).to_have_value("Mine.")


def test_a_version_has_all_that_was_typed(page: Page, application: Application) -> None:
    """Also what was typed while a save is on its way; and an answer from before it does not stand afterwards."""
    saves: list[Route] = []
    proofs: list[Route] = []
    page.goto(application.address + SITE + "/map")
    go_to_line(page, "# Everything here is made up.")
    page.keyboard.press("End")
    page.route("**/map/text", lambda route: saves.append(route), times=1)
    page.keyboard.type(" One.")
    until(page, lambda: bool(saves))
    page.keyboard.type(" Two.")
    page.keyboard.press("Control+s")
    saves[0].continue_()
    expect(page.locator("#saved-mark")).to_have_attribute("data-saved", "yes")
    newest = page.request.get(application.address + SITE + "/map/version-text").json()["text"]
    assert "# Everything here is made up. One. Two." in newest
    page.route("**/map/proof", lambda route: proofs.append(route), times=1)
    page.keyboard.type(" Three.")
    until(page, lambda: bool(proofs))
    proof = application.address + SITE + "/map/proof"
    until(page, lambda: page.request.get(proof).status == 200)
    before = page.request.get(proof).json()
    page.keyboard.press("Control+s")
    expect(page.locator("#saved-mark")).to_have_attribute("data-saved", "yes")
    with page.expect_response("**/map/proof"):
        proofs[0].fulfill(json=before)
    settle(page)
    expect(page.locator("#saved-mark")).to_have_attribute("data-saved", "yes")


def test_leaving_with_unkept_text_warns(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map?page=press")
    page.get_by_text("Content", exact=True).click()
    go_to_line(page, "# Everything here is made up.")
    with page.expect_response("**/map/page?*"):
        page.keyboard.type("!")
    expect(page.locator("#saved-mark")).to_contain_text("Unsaved changes")
    asked: list[str] = []
    page.on("dialog", lambda dialog: (asked.append(dialog.type), dialog.accept()))
    page.locator("#content-text").fill("Just now.")  # what was opened stays open
    page.locator(".workspaces a", has_text="Preview").click()  # it is saved first
    expect(page.frame_locator("iframe").first.locator("main")).to_contain_text("Just now.")
    assert asked == []
    page.go_back()
    page.locator(".cm-content").click()
    page.locator(".workspaces a", has_text="Sites").click()
    expect(page.get_by_role("heading", name="Sites")).to_be_visible()
    assert asked == ["beforeunload"]


def test_the_second_window_keeps_what_it_typed(page: Page, application: Application) -> None:
    other = page.context.new_page()
    for window in (page, other):
        window.route("**/map/changes*", lambda route: route.abort())  # neither looks what the other did
        window.goto(application.address + SITE + "/map")
    for window, text in ((page, " One"), (other, " Two")):
        go_to_line(window, "# Everything here is made up.")
        window.keyboard.press("End")
        with window.expect_response("**/map/text"):
            window.keyboard.type(text)
    expect(other.locator(".code .notice")).to_contain_text("saved from elsewhere")
    expect(other.locator(".cm-line").nth(1)).to_contain_text("Two")
    other.get_by_role("button", name="Use the other version").click()
    expect(other.locator(".cm-line").nth(1)).to_contain_text("made up. One")
    other.locator(".cm-content").focus()
    other.keyboard.press("Control+z")
    expect(other.locator(".cm-line").nth(1)).to_contain_text("made up. Two")
    expect(other.locator("#saved-mark")).to_contain_text("Unsaved changes")
    other.close(run_before_unload=False)


@pytest.mark.parametrize("script", ["on", "off"])
def test_the_selection_follows_the_links_in_the_preview(page: Page, application: Application, script: str) -> None:
    waiting: list[Route] = []
    page.route("**/preview/seen?**", lambda route: waiting.append(route))
    page.goto(f"{application.address}{SITE}/preview?width=tablet&script={script}")
    frame = page.frame_locator("iframe")
    frame.get_by_role("link", name="milling days", exact=True).first.click()
    expect(frame.locator("h1")).to_have_text("Milling days")  # before it is known here what was served
    for one in waiting:
        one.continue_()
    page.unroute("**/preview/seen?**")
    expect(page.locator(".tree a[aria-current]")).to_have_text("Milling days")
    expect(page.locator(".address")).to_have_text("/milling/")
    page.locator(".tree a", has_text="Sea loaf").click()
    expect(frame.locator("h1")).to_have_text("Sea loaf")
    expect(frame.locator(".b-menu-button")).to_be_visible(visible=script == "on")
    # All of it is there: the script that the button needs has run, and the load is one that the workspace heard of.
    page.frames[-1].wait_for_load_state("load")
    if script == "on":
        frame.get_by_role("button", name="Menu", exact=True).click()
    frame.get_by_role("link", name="Mill shop").click()
    expect(page.locator(".notice")).to_contain_text("leads away from the site")
    expect(frame.locator("h1")).to_have_text("Sea loaf")


def test_widths(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/preview?width=phone")
    page.frame_locator("iframe").locator("h1").wait_for()
    for name, width in (("Phone", 390), ("Tablet", 768), ("Desktop", 1280)):
        page.locator(".switch label", has_text=name).click()
        shown = page.frame_locator("iframe").locator("h1")
        until(page, lambda shown=shown, width=width: shown.evaluate("() => innerWidth") == width)  # type: ignore[misc]


@pytest.mark.parametrize(
    "path",
    [
        "/",
        "/new",
        "/archive",
        SITE,
        *(
            f"{SITE}/{name}"
            for name in (
                "map",
                "pages",
                "header",
                "header?for=page&windows=narrow&trace=flick",
                "preview",
                "preview?width=over",
                "checks",
                "output",
                "history",
            )
        ),
        "/none",
        "/sites/none/map",
    ],
)
def test_nothing_for_axe_on_any_screen(page: Page, application: Application, path: str) -> None:
    page.goto(application.address + path)
    page.wait_for_load_state("networkidle")
    page.locator("[data-working]").wait_for(state="detached")
    assert Axe().run(page).response["violations"] == []
    page.keyboard.press("?")
    if path not in (SITE + "/map", "/new"):
        expect(page.get_by_role("dialog", name="Keyboard shortcuts")).to_be_visible()
        assert Axe().run(page).response["violations"] == []


def test_nothing_for_axe_while_the_map_is_broken(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    type_over(page, "pages:\n  home: {path: /}\n  two: {path: /}\nmenus: {main: [home, noone, nobody]}\n")
    expect(page.locator(".findings li.error")).to_have_count(3)
    assert Axe().run(page).response["violations"] == []


def test_old_words_of_a_map_are_replaced_by_one_press(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    type_over(page, "pages:\n  home: {path: /}\nlooks: {start: meadow}\nheader: retreat\n")
    page.get_by_role("button", name="Replace all 3 words").click()
    expect(page.locator(".cm-content")).to_contain_text("theme: {preset: meadow}")
    expect(page.locator(".cm-content")).to_contain_text("header: hide")
    expect(page.locator(".findings")).not_to_contain_text("old-word")
    page.locator(".cm-content").click()
    page.keyboard.press("Control+z")
    expect(page.locator(".cm-content")).to_contain_text("looks: {start: meadow}")
    expect(page.locator(".cm-content")).to_contain_text("header: retreat")
