"""The Map workspace drawn: acts on the plan by key and by mouse, one undo for all, lists, and what a change reaches."""

from __future__ import annotations

import re
import urllib.request
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Locator, Page, Route, expect

from tests.browser.conftest import Application, until
from tests.browser.test_application import SITE, go_to_line, type_over

SMALL = """\
site: {name: Small, base: "https://small.example"}
pages:
  home: {path: /, title: Home}
  visit:   # the section
    title: Visit
    pages:
      hours: Opening hours
      access: Access
  learn: Learn
menus:
  main:
    - home
    - visit: [hours]
    - learn
  footer: []
"""


@pytest.fixture
def small(page: Page, application: Application) -> Page:
    """The Map workspace with a small map in it, kept."""
    page.goto(application.address + SITE + "/map")
    type_over(page, SMALL)
    expect(page.locator("a.node")).to_have_count(5)
    page.keyboard.press("Control+s")
    expect(page.locator("#saved-mark")).to_contain_text("Saved")
    return page


def node(page: Page, key: str) -> Locator:
    return page.locator(f'a.node[data-key="{key}"]')


def text_of(page: Page) -> str:
    return "\n".join(page.locator(".cm-line").all_inner_texts()).replace("\n\n", "\n")


def choose(page: Page, key: str) -> None:
    node(page, key).click()
    node(page, key).focus()
    expect(node(page, key)).to_have_attribute("aria-current", "true")


def test_everything_on_the_plan_by_keyboard_with_one_undo(small: Page) -> None:
    page = small
    page.set_viewport_size({"width": 1280, "height": 1400})
    done = page.locator(".plan > .notice")
    choose(page, "visit/hours")
    page.keyboard.press("n")
    page.keyboard.type("Getting here")
    page.keyboard.press("Enter")
    expect(done).to_have_text("Added Getting here under Visit.")
    expect(node(page, "visit/getting-here")).to_be_focused()
    page.keyboard.press("Alt+ArrowUp")
    expect(done).to_have_text("Moved Getting here among its neighbours.")
    expect(node(page, "visit/getting-here")).to_be_focused()
    page.keyboard.press("Alt+ArrowLeft")
    expect(done).to_contain_text("Moved Getting here to the top; 1 old address kept.")  # a version has it
    expect(node(page, "getting-here")).to_be_focused()
    page.keyboard.press("Alt+ArrowRight")
    expect(node(page, "visit/getting-here")).to_be_focused()
    page.keyboard.press("F2")
    page.keyboard.type("How to get here")
    page.keyboard.press("Enter")
    expect(done).to_have_text("Named Getting here How to get here.")
    assert "      getting-here: How to get here" in text_of(page)
    assert "  visit:   # the section" in text_of(page)
    page.locator(".cm-content").focus()
    page.keyboard.press("Control+End")
    page.keyboard.insert_text("# typed")
    expect(page.locator("[data-do=undo]")).to_have_attribute("title", "Undo: Typing")
    for words in ("Typing", "Named Getting here How to get here", "Moved Getting here under Visit"):
        expect(page.locator("[data-do=undo]")).to_have_attribute("title", f"Undo: {words}")
        page.locator("[data-do=undo]").click()
    expect(page.locator("[data-do=redo]")).to_have_attribute("title", "Redo: Moved Getting here under Visit")
    expect(node(page, "getting-here")).to_be_visible()
    for _ in range(3):
        page.locator("[data-do=undo]").click()
    expect(page.locator("a.node")).to_have_count(5)
    expect(page.locator("#saved-mark")).to_contain_text("Saved")


def test_the_beam_and_the_menus_by_keyboard(small: Page) -> None:
    page = small
    choose(page, "visit/access")
    page.keyboard.press("b")
    expect(page.locator(".cell").first).to_be_focused()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Alt+ArrowRight")
    expect(page.locator(".cell title")).to_contain_text(["Home", "Learn", "Visit"])
    expect(page.locator(".cell").nth(2)).to_be_focused()
    page.keyboard.press("g")
    page.keyboard.type("Come")
    page.keyboard.press("Enter")
    expect(page.locator(".cell title").nth(2)).to_have_text("Group in the main menu: Come")
    page.get_by_role("button", name="Menus").click()
    entry = page.locator(".menus-list .entry")
    expect(entry).to_contain_text(["Home", "Learn", "Come", "Visit", "Opening hours"])
    entry.first.focus()
    for _ in range(4):
        page.keyboard.press("ArrowDown")
    page.keyboard.press("Alt+ArrowLeft")
    expect(page.locator(".plan > .notice")).to_contain_text("Moved Opening hours in the menu main into Come")
    page.keyboard.press("Delete")  # at once: the focus is at no time on anything but the entry
    expect(entry).to_have_count(4)
    choose(page, "visit/access")
    page.keyboard.press("m")
    expect(page.locator(".cell title").last).to_contain_text("Access")
    page.keyboard.press("m")
    expect(page.locator(".cell title")).to_have_count(3)
    page.locator('.menus-list [data-put="footer"]').click()
    expect(page.locator('[data-menu="footer"]')).to_have_text(re.compile("Access"))
    assert "footer: [access]" in text_of(page)


def test_a_page_is_dragged(small: Page) -> None:
    page = small
    source, target = node(page, "learn").bounding_box(), node(page, "visit/access").bounding_box()
    assert source and target
    page.mouse.move(source["x"] + 20, source["y"] + 10)
    page.mouse.down()
    page.mouse.move(target["x"] + 30, target["y"] + target["height"] - 12, steps=4)
    page.mouse.move(target["x"] + 30, target["y"] + target["height"] - 3)
    expect(page.locator(".drop")).to_be_visible()
    page.mouse.up()
    expect(node(page, "visit/learn")).to_be_visible()
    assert [n.get_attribute("data-key") for n in page.locator("a.node").all()][-1] == "visit/learn"
    assert "- learn" in text_of(page)  # a reference by its end is right still


def test_a_deleted_page_comes_back_with_its_text(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    choose(page, "visit/hours")
    page.keyboard.press("Delete")
    dialog = page.get_by_role("dialog", name="Delete this page?")
    expect(dialog).to_contain_text("1 page will be deleted")
    expect(dialog).to_contain_text("Links that will be dead")
    expect(dialog.get_by_label("To Visit, the page above")).to_be_checked()
    assert Axe().run(page).response["violations"] == []
    dialog.get_by_role("button", name="Delete").click()
    expect(node(page, "visit/hours")).to_have_count(0)
    expect(page.locator("#finding-count")).to_contain_text("error")  # the links in other pages' texts are dead now
    expect(page.locator(".plan > .notice")).to_contain_text("3 old addresses kept")
    page.locator("[data-do=undo]").click()
    choose(page, "visit/hours")
    page.get_by_text("Content", exact=True).click()
    expect(page.locator("#content-text")).to_have_value(re.compile("Prices"))
    expect(page.locator("#saved-mark")).to_contain_text("Saved")


def test_an_id_is_renamed_with_its_address_and_links(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    choose(page, "visit/hours")
    page.get_by_role("button", name="Rename id").click()
    page.keyboard.type("opening")
    expect(page.get_by_label("Redirect the 2 addresses that others may know")).to_be_checked()
    page.keyboard.press("Enter")
    expect(node(page, "visit/opening")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(node(page, "visit/hours")).to_be_visible()
    expect(page.locator(".facts")).not_to_contain_text("Was at")
    page.get_by_role("button", name="Redo").click()
    expect(node(page, "visit/opening")).to_be_visible()
    expect(page.locator(".facts")).to_contain_text("/visit/hours/")  # it was there
    expect(page.locator("#reach-bar")).to_contain_text("1 moved")
    expect(node(page, "visit/opening").locator(".flag")).to_have_text("moved")
    page.locator("#reach-bar").click()
    expect(page.get_by_role("dialog", name="What the change affects")).to_contain_text("/visit/opening/")
    assert Axe().run(page).response["violations"] == []
    page.keyboard.press("Escape")
    expect(page.locator("#finding-count")).to_contain_text("No errors")
    page.goto(application.address + SITE + "/preview?page=visit/opening&width=desktop")
    page.frame_locator("iframe").locator("h1").wait_for()
    old = page.frames[1].url.replace("opening", "hours")
    assert b"This page has moved" in urllib.request.urlopen(old).read()


def test_a_page_is_found_from_anywhere(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/output")
    page.keyboard.press("/")
    finder = page.get_by_role("dialog", name="Find a page")
    page.keyboard.type("tide ta")
    expect(finder.get_by_role("option").first).to_contain_text("/tides/")
    assert Axe().run(page).response["violations"] == []
    page.keyboard.press("Enter")
    expect(node(page, "tides")).to_have_attribute("aria-current", "true")
    page.keyboard.press("Alt+p")
    page.keyboard.type("sea lo")
    expect(finder.get_by_role("option")).to_have_count(1)
    page.keyboard.press("Enter")
    expect(node(page, "flour/recipes/sea-loaf")).to_be_focused()


def test_references_are_followed_and_remedies_done_by_key(small: Page) -> None:
    page = small
    page.set_viewport_size({"width": 1280, "height": 1400})
    page.locator(".cm-line", has_text="- visit: [hours]").click()
    page.keyboard.press("End")
    for _ in range(3):
        page.keyboard.press("ArrowLeft")
    page.keyboard.press("F12")
    expect(page.locator(".cm-activeLine")).to_contain_text("hours: Opening hours")
    page.keyboard.press("F12")
    expect(page.locator(".facts a[data-line]").first).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator(".cm-activeLine")).to_contain_text("- visit: [hours]")
    page.keyboard.press("End")
    page.keyboard.press("ArrowLeft")
    page.keyboard.type("x, acess")
    expect(page.locator(".findings .fix")).to_have_count(2)
    page.keyboard.press("Alt+Enter")
    expect(page.locator(".cm-activeLine")).to_contain_text("- visit: [hours, acess]")
    expect(page.locator(".findings .fix")).to_have_count(1)
    page.locator(".findings .fix").click()
    expect(page.locator(".cm-activeLine")).to_contain_text("- visit: [hours, access]")
    # What is off in the texts of pages that are not in this map comes as soon as these are built.
    expect(page.locator(".findings")).not_to_contain_text("acess")
    page.locator(".cm-line span", has_text="access").last.hover()
    expect(page.locator(".hover-page")).to_have_text("Access /visit/access/")


def test_a_map_from_a_list_without_the_mouse(page: Page, application: Application) -> None:
    """The way of a new user: twelve pages on two levels, a group, an outside link and a footer, by keyboard alone."""
    page.goto(application.address)
    page.get_by_role("link", name="New site").first.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_label("Name")).to_be_focused()
    page.keyboard.type("Upper Mill")
    page.keyboard.press("Tab")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Tab")
    page.keyboard.insert_text(
        "Home\nVisit\n  Hours\n  Getting here\n  Access\nWhat's on\n  Milling days\n  Talks\n"
        "LEARN\n  How it works\n  History\nShop | https://shop.example\nFooter:\n  Privacy\n  Contact\n"
    )
    expect(page.locator("svg.plan-svg a.node")).to_have_count(12)
    page.keyboard.press("Tab")
    page.get_by_role("button", name="Create site").focus()
    page.keyboard.press("Enter")
    expect(page.locator(".cell title")).to_contain_text(["Home", "Visit", "What's on", "LEARN", "Shop"])
    expect(page.locator(".bay text").first).to_have_text("Footer menu")
    expect(page.locator("#finding-count")).to_contain_text("No errors")
    page.get_by_role("button", name="Import a list").click()
    assert Axe().run(page).response["violations"] == []
    expect(page.get_by_role("dialog")).to_contain_text("Nothing: the pages and menus are as they are now.")
    page.keyboard.insert_text("label,level\nHome,1\nNews,1\nOld news,2\n")
    expect(page.locator(".list-plan a.node")).to_have_count(3)
    assert Axe().run(page).response["violations"] == []
    page.get_by_role("checkbox", name="Add Old news").uncheck()
    expect(page.locator(".list-plan a.node")).to_have_count(2)
    page.keyboard.press("Space")
    expect(page.locator(".list-plan a.node")).to_have_count(3)
    page.get_by_role("button", name="Change the site").click()
    expect(page.locator(".drawing a.node")).to_have_count(3)
    page.locator("[data-do=undo]").click()
    expect(page.locator(".drawing a.node")).to_have_count(12)


def test_two_windows_are_put_together(page: Page, application: Application) -> None:
    other = page.context.new_page()
    for window in (page, other):
        window.route("**/map/changes*", lambda route: route.abort())
        window.goto(application.address + SITE + "/map")

    def types(window: Page, line: str, text: str) -> None:
        go_to_line(window, line)
        window.keyboard.press("End")
        with window.expect_response("**/map/text"):
            window.keyboard.type(text)

    first, line = other.locator(".cm-line").nth(1), other.locator(".editor .cm-line", has_text="privacy: Privacy")
    types(page, "# Everything here is", " One")
    types(other, "privacy: Privacy notice", " here")
    expect(first).to_contain_text("One")
    expect(first).to_have_class(re.compile("cm-arrived"))
    expect(other.get_by_role("status").filter(has_text="Somebody else changed the map: line 2.")).to_be_visible()
    expect(line).to_contain_text("Privacy notice here")
    expect(other.locator("#saved-mark")).to_contain_text("Unsaved changes")
    other.locator(".cm-content").focus()
    other.keyboard.press("Control+z")  # takes back what was done here, and leaves theirs
    expect(line).not_to_contain_text("here")
    expect(first).to_contain_text("One")
    types(page, "# Everything here is", " Two")
    types(other, "# Everything here is", " Three")
    other.get_by_role("button", name="See both").click()
    expect(other.get_by_role("dialog", name="Both changed")).to_contain_text("1 place changed on both sides")
    other.get_by_role("button", name="Merge").click()
    expect(first).to_contain_text("One Three")
    page.unroute("**/map/changes*")
    expect(page.locator(".cm-line").nth(1)).to_contain_text("One Three")
    other.close(run_before_unload=False)


def test_going_back_keeps_a_new_state(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map?page=press")
    page.get_by_text("Content", exact=True).click()
    page.locator("#content-text").fill("Nothing.\n")
    expect(page.locator("#saved-mark")).to_contain_text("Unsaved changes")
    page.get_by_label("Note for the version").fill("Emptied")
    page.get_by_role("button", name="Save version").click()
    expect(page.locator("#saved-mark")).to_contain_text("Saved")
    page.goto(application.address + SITE + "/history")
    expect(page.locator("tbody tr").nth(1)).to_contain_text("1 of 27 page files change")
    expect(page.get_by_text("Pages whose text changed: 1")).to_be_visible()
    page.get_by_role("button", name=re.compile("Restore")).click()
    expect(page.locator("tbody tr").nth(1)).to_contain_text("Back to: As it came with Basilica")
    assert Axe().run(page).response["violations"] == []
    page.goto(application.address + SITE + "/map?page=press")
    page.get_by_text("Content", exact=True).click()
    expect(page.locator("#content-text")).not_to_have_value("Nothing.\n")


def test_a_site_is_set_aside_brought_back_and_deleted(page: Page, application: Application) -> None:
    page.goto(application.address + SITE)
    page.get_by_role("button", name="Duplicate").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Saltern Reach Tide Mill, a copy")
    page.get_by_label("Site name").fill("The copy")
    page.get_by_role("button", name="Rename").click()
    page.get_by_role("button", name="Archive").click()
    page.get_by_role("button", name="Unarchive The copy").click()
    page.get_by_role("button", name="Archive").click()
    page.get_by_label("Type its name").fill("The wrong copy")
    page.get_by_role("button", name="Delete The copy").click()
    expect(page.get_by_role("alert")).to_contain_text("was not deleted")
    page.get_by_label("Type its name").fill("The copy")
    page.get_by_role("button", name="Delete The copy").click()
    expect(page.get_by_text("No site is archived.")).to_be_visible()


def paste_over(page: Page, text: str) -> None:
    """Replace the whole map by pasting, as one does with a long text."""
    page.locator(".cm-content").focus()
    page.keyboard.press("Control+a")
    page.locator(".cm-content").evaluate(
        """(editor, text) => {
          const clipboardData = new DataTransfer();
          clipboardData.setData("text/plain", text);
          editor.dispatchEvent(new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }));
        }""",
        text,
    )


def test_the_plan_at_2000_pages(page: Page, application: Application) -> None:
    lines = ["site: {name: Large}", "pages:", "  home: {path: /}"]
    for section in range(40):
        lines += [f"  section-{section}:", "    pages:", *(f"      page-{section}-{n}:" for n in range(49))]
    page.goto(application.address + SITE + "/map")
    paste_over(page, "\n".join(lines) + "\nmenus: {main: [home, section-1]}\n")
    expect(page.locator("a.node")).to_have_count(41)  # folded
    choose(page, "section-1")
    page.keyboard.press(" ")
    expect(page.locator("a.node")).to_have_count(41 + 49)
    expect(node(page, "section-1")).to_be_focused()
    expect(page.locator(".overview")).to_be_visible()
    for _ in range(3):
        page.keyboard.press("+")
    expect(page.get_by_text("195%")).to_be_visible()
    page.keyboard.press("ArrowRight")
    expect(node(page, "section-1/page-1-0")).to_be_focused()
    expect(node(page, "section-1/page-1-0")).to_be_in_viewport()
    page.keyboard.press("/")
    page.keyboard.type("page-39-48")
    page.keyboard.press("Enter")
    expect(node(page, "section-39/page-39-48")).to_be_in_viewport()


def test_a_folder_is_the_truth(page: Page, application: Application, tmp_path: Path) -> None:
    folder = tmp_path / "mill"
    (folder / "content").mkdir(parents=True)
    dos = SMALL.replace("\n", "\r\n")  # as some editors write it, and as it stays
    (folder / "site.yaml").write_bytes(dos.encode())
    (folder / "content" / "learn.md").write_text("Learn this.\n")
    application.kill()
    application.folder = folder
    application.start()
    page.goto(application.address + "/sites/small/map?page=learn")
    (folder / "site.yaml").write_bytes(dos.replace("learn: Learn", "learn: Learn more  # outside").encode())
    expect(page.locator(".cm-line", has_text="# outside")).to_have_count(1)
    expect(node(page, "learn")).to_contain_text("Learn more")
    choose(page, "learn")
    page.keyboard.press("Alt+ArrowRight")
    expect(node(page, "visit/learn")).to_be_visible()
    written = (folder / "site.yaml").read_bytes()
    assert b"        title: Learn more\r\n        was: /learn/\r\n" in written
    assert b"\n" not in written.replace(b"\r\n", b"")
    assert (folder / "content/visit/learn.md").read_text() == "Learn this.\n"
    assert not (folder / "content/learn.md").exists()
    page.locator("[data-do=undo]").click()
    expect(node(page, "learn")).to_be_visible()
    until(page, (folder / "content/learn.md").exists)
    assert (folder / "content/learn.md").read_text() == "Learn this.\n"
    (folder / "content" / "learn.md").write_text("Learn that.\n")
    page.reload()
    expect(page.locator("#content-text")).to_have_value("Learn that.\n")


def test_text_without_a_page_is_set_aside_and_found_again(small: Page) -> None:
    page = small
    page.locator(".findings a", has_text="There is no page press").click()
    page.get_by_role("button", name="Archive it").click()
    expect(page.locator(".findings a", has_text="There is no page press")).to_have_count(0)
    type_over(page, SMALL.replace("  learn: Learn", "  learn: Learn\n  press: Press pictures"))
    choose(page, "press")
    expect(page.locator("#content-text")).to_have_value(re.compile("picture"))


def test_work_that_ends_takes_nothing_from_who_types(page: Page, application: Application) -> None:
    looks: list[str] = []

    def working(route: Route) -> None:
        """The page as while work is on its way, and to everybody who looks again as once it is done."""
        looks.append(route.request.resource_type)
        answer = route.fetch()
        first = looks == ["document"]
        route.fulfill(response=answer, body=re.sub("<main", "<main data-working" if first else "<main", answer.text()))

    page.route("**/output", working)
    page.goto(application.address + SITE + "/output")
    page.keyboard.press("/")
    page.keyboard.type("tide")
    finder = page.get_by_role("dialog", name="Find a page")
    for _ in range(2):
        with page.expect_request("**/output"):
            pass
    expect(finder.get_by_role("combobox")).to_have_value("tide")
    assert looks.count("document") == 1
    with page.expect_request(lambda request: request.url.endswith("/output") and request.resource_type == "document"):
        page.keyboard.press("Escape")
