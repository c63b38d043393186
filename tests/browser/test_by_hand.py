"""What the map can say is done by hand: entries, menus, settings, panes; and a whole site out of nothing."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Locator, Page, Route, expect

from basilica.services.all_services import Services
from basilica.store.folders import Source
from tests.browser.conftest import Application, settle, until
from tests.browser.test_application import SITE, type_over

FOLLOWING = """\
site: {name: Small, base: "https://small.example"}
pages:
  home: {path: /, title: Home}
  visit: Visit
  learn: Learn
menus:
  main: auto
"""


@pytest.fixture
def empty(tmp_path: Path) -> Iterator[Application]:
    """An application that has no site yet."""
    (tmp_path / "data").mkdir()
    Services.of(tmp_path / "data").close()
    running = Application(tmp_path / "data", demo=False)
    yield running
    running.end()


def in_order(page: Page) -> list[str]:
    return [entry.split("\n")[0].strip() for entry in page.locator(".menus-list .entry").all_inner_texts()]


def open_menus(page: Page, application: Application, text: str) -> None:
    page.goto(application.address + SITE + "/map")
    type_over(page, text)
    expect(page.locator("a.node")).to_have_count(3)
    page.get_by_role("button", name="Menus", exact=True).click()
    expect(page.locator(".menus-list .entry")).to_have_count(3)


def told(page: Page, words: str) -> None:
    expect(page.get_by_role("status").filter(has_text=words).first).to_be_visible()


def test_entries_and_menus_by_hand(page: Page, application: Application) -> None:
    open_menus(page, application, FOLLOWING.replace("auto", "[home, visit, learn]"))
    page.get_by_role("button", name="New entry in Main").click()
    dialog = page.get_by_role("dialog", name="New entry")
    dialog.get_by_label("An address outside the site").check()
    dialog.get_by_label("Address", exact=True).fill("javascript:alert(1)")
    dialog.get_by_label("Label").fill("Shop")
    dialog.get_by_role("button", name="Save entry").click()
    expect(dialog.get_by_role("alert")).to_contain_text("address")
    assert [one for one in Axe().run(page).response["violations"] if one["impact"] in ("serious", "critical")] == []
    dialog.get_by_label("Address", exact=True).fill("https://shop.example/")
    late: list[Route] = []  # the icons of the empty field come after those of what was typed
    page.route("**/drawn-icons?*", lambda route: late.append(route), times=1)
    dialog.get_by_label("Icon", exact=True).focus()
    until(page, lambda: bool(late))
    dialog.get_by_label("Icon", exact=True).fill("shopping")
    bag = dialog.get_by_role("button", name="shopping-bag")
    expect(bag).to_be_visible()
    with page.expect_response("**/drawn-icons?*") as answer:
        late[0].continue_()
    answer.value.finished()
    settle(page)
    bag.click()
    dialog.get_by_role("button", name="Save entry").click()
    told(page, "Added Shop to the menu main.")
    expect(page.locator(".menus-list .entry")).to_have_count(4)
    expect(page.locator(".cm-content")).to_contain_text("icon: shopping-bag")
    page.locator(".menus-list .entry", has_text="Visit").focus()
    page.keyboard.press("F2")
    dialog = page.get_by_role("dialog", name="Edit entry")
    dialog.get_by_label("Note").fill("Every day")
    dialog.get_by_label("Shown as").select_option("button")
    dialog.get_by_role("button", name="Save entry").click()
    expect(page.locator(".cm-content")).to_contain_text("note: Every day")
    expect(page.locator(".cm-content")).to_contain_text("show: button")
    page.get_by_role("button", name="New menu").click()
    dialog = page.get_by_role("dialog", name="New menu")
    dialog.get_by_label("Name").fill("main")
    dialog.get_by_role("button", name="Save menu").click()
    expect(dialog.get_by_role("alert")).to_contain_text("already")
    dialog.get_by_label("Name").fill("social")
    dialog.get_by_role("button", name="Save menu").click()
    told(page, "Added the menu social.")
    more = page.locator("summary", has_text="More for Social")
    more.click()
    page.get_by_role("button", name="Follow the pages").locator("visible=true").click()
    page.get_by_role("dialog").get_by_label("Levels").fill("1")
    page.get_by_role("dialog").get_by_role("button", name="Follow the pages").click()
    expect(page.locator(".cm-content")).to_contain_text("entries: {auto: {levels: 1}}")
    more.click()
    page.get_by_role("button", name="Delete…").locator("visible=true").click()
    expect(page.get_by_role("dialog")).to_contain_text("will be deleted. The pages stay")
    page.get_by_role("button", name="Delete menu").click()
    expect(page.locator(".cm-content")).not_to_contain_text("social")
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(page.locator(".cm-content")).to_contain_text("social")


def test_a_menu_that_follows_the_pages_goes_on_following_unless_one_says_so(
    page: Page, application: Application
) -> None:
    open_menus(page, application, FOLLOWING)
    expect(page.locator(".menus-list")).to_contain_text("Follows the pages")
    page.locator(".menus-list .entry", has_text="Learn").focus()
    page.keyboard.press("Alt+ArrowUp")
    dialog = page.get_by_role("dialog", name="This entry follows the pages")
    dialog.get_by_role("button", name="Move the page").click()
    told(page, "Moved Learn")
    expect(page.locator(".menus-list .entry").nth(1)).to_contain_text("Learn")
    expect(page.locator(".cm-content")).to_contain_text("main: auto")
    page.locator(".menus-list .entry", has_text="Learn").focus()
    page.keyboard.press("Delete")
    told(page, "Removed Learn from the menu main.")
    expect(page.locator(".cm-content")).to_contain_text("main: {auto: {except: learn}}")
    expect(page.locator(".menus-list")).to_contain_text("Not in it: Learn")
    expect(page.locator(".menus-list .entry")).to_have_count(2)
    page.locator(".menus-list .entry", has_text="Visit").focus()
    page.keyboard.press("g")
    page.get_by_label("The group's name").fill("Come")
    page.keyboard.press("Enter")
    expect(dialog.get_by_role("button", name="Move the page")).to_be_hidden()
    dialog.get_by_role("button", name="Write the entries out").click()
    expect(page.locator(".cm-content")).not_to_contain_text("auto")
    expect(page.locator(".menus-list .entry")).to_have_count(3)
    assert in_order(page) == ["Home", "Come", "Visit"]


def test_a_new_page_is_in_the_menu_by_the_same_act_and_a_copy_has_its_content(
    page: Page, application: Application
) -> None:
    open_menus(page, application, FOLLOWING.replace("auto", "[home, visit, learn]"))
    page.get_by_role("button", name="Page", exact=True).click()
    page.locator('a.node[data-key="learn"]').click()
    page.get_by_label("Text of Learn").fill("Come and see.")
    expect(page.locator("#content-status")).to_have_text("Saved.")
    page.get_by_role("button", name="Duplicate").click()
    told(page, "Duplicated Learn.")
    expect(page.locator("a.node")).to_have_count(4)
    page.locator('a.node[data-key="learn-copy"]').click()
    expect(page.get_by_label("Text of Learn (copy)")).to_have_value("Come and see.")
    page.locator('a.node[data-key="visit"]').click()
    page.locator('a.node[data-key="visit"]').focus()
    page.keyboard.press("n")
    page.keyboard.type("Tickets")
    page.keyboard.press("Enter")
    told(page, "Added Tickets")
    expect(page.locator(".cm-content")).to_contain_text("main: [home, visit, tickets, learn]")
    expect(page.locator('a.node[data-key="tickets"]')).to_be_focused()
    page.get_by_label("New pages in menu").uncheck()
    page.locator('a.node[data-key="learn"]').focus()
    page.keyboard.press("n")
    page.keyboard.type("Hidden")
    page.keyboard.press("Enter")
    told(page, "Added Hidden")
    expect(page.locator(".cm-content")).to_contain_text("main: [home, visit, tickets, learn]")
    page.reload()
    expect(page.get_by_label("New pages in menu")).not_to_be_checked()


def test_settings_are_tried_saved_and_undone_where_one_stands(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/settings?section=theme")
    frame = page.frame_locator("iframe")
    expect(frame.get_by_role("heading", level=1)).to_be_visible()
    page.get_by_label("Preset").select_option("lantern")
    told(page, "1 setting is tried here")
    page.get_by_label("Links", exact=True).fill("nothing")
    expect(page.get_by_role("alert")).to_contain_text("not a colour")
    page.get_by_label("Links", exact=True).fill("")
    expect(page.get_by_role("alert")).to_be_hidden()
    page.get_by_role("button", name="Save to map").click()
    told(page, "Set preset.")
    assert [one for one in Axe().run(page).response["violations"] if one["impact"] in ("serious", "critical")] == []
    page.get_by_role("button", name="Undo").click()
    told(page, "Undone: ")
    expect(page.get_by_label("Preset")).to_have_value("slate")
    page.get_by_role("link", name="Facts").click()
    page.get_by_role("button", name="Another").click()
    page.keyboard.type("fax")
    page.keyboard.press("Tab")
    page.keyboard.type("01632 960999")
    page.get_by_role("button", name="Save to map").click()
    told(page, "Set fax.")
    page.evaluate("history.back()")
    expect(page.get_by_label("Preset")).to_be_visible()


def test_panes_are_as_wide_as_one_wants_them_and_stay_so(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map")
    line, code = page.get_by_role("separator", name="Width of Code"), page.locator(".pane.code")
    before = code.bounding_box()
    assert before
    line.focus()
    for _ in range(4):
        page.keyboard.press("ArrowRight")
    after = code.bounding_box()
    assert after and 60 < after["width"] - before["width"] < 130
    page.reload()
    again = code.bounding_box()
    assert again and abs(again["width"] - after["width"]) < 3
    line.focus()
    page.keyboard.press("Home")
    reset = code.bounding_box()
    assert reset and abs(reset["width"] - before["width"]) < 3


LIST = """\
Home
Visit
  Opening hours
  Getting here
  Access
Learn
  History
  The wheel
  The stones
News
Take part
Contact
Footer:
  COMING HERE
    Opening hours
  THE TRUST
    Take part
  SMALL PRINT
    Contact
"""


def test_a_site_out_of_nothing_in_few_clicks(page: Page, empty: Application, demo: Source, tmp_path: Path) -> None:
    """Twelve pages, submenus, a shrinking header with a logo, a footer of three columns, a call to action and a link
    out with an icon: as somebody new would, and counted."""
    clicks, loads = 0, 0

    def click(target: Locator) -> None:
        nonlocal clicks
        clicks += 1
        target.click()

    def note(request: object) -> None:
        nonlocal loads
        if request.is_navigation_request() and request.frame == page.main_frame:  # type: ignore[attr-defined]
            loads += request.redirected_from is None  # type: ignore[attr-defined]

    page.on("request", note)
    page.goto(empty.address)
    page.keyboard.type("Tide Mill")
    click(page.get_by_label("A list of pages"))
    click(page.get_by_label("The list"))
    page.keyboard.insert_text(LIST)
    click(page.get_by_role("button", name="Create site"))
    page.wait_for_url("**/map*")  # with its script
    expect(page.locator("a.node")).to_have_count(12)
    click(page.get_by_role("button", name="Menus", exact=True))
    click(page.get_by_role("button", name="New entry in Main"))
    click(page.get_by_label("An address outside the site"))
    for word in ("https://shop.example/", "Shop", "shopping-bag"):
        page.keyboard.press("Tab")
        page.keyboard.type(word)
    page.keyboard.press("Enter")
    told(page, "Added Shop to the menu main.")
    click(page.get_by_role("button", name="New entry in Main"))
    expect(page.get_by_role("combobox", name="Page").or_(page.get_by_label("Page", exact=True)).last).to_be_focused()
    page.keyboard.type("contact")
    page.keyboard.press("Tab")
    page.keyboard.type("Book a visit")
    page.get_by_label("Shown as").focus()  # behind the icons, however many are shown
    page.keyboard.type("b")
    click(page.get_by_role("button", name="Save entry"))
    told(page, "Added Book a visit to the menu main.")
    click(page.get_by_role("link", name="Settings", exact=True))
    page.wait_for_url("**/settings*")  # and for its script, which stays where one is
    click(page.get_by_role("link", name="Logo"))
    (tmp_path / "wheel.svg").write_bytes(demo.files["files/wheel.svg"])
    clicks += 1  # the button of the field
    page.get_by_label("Upload").set_input_files(tmp_path / "wheel.svg")
    click(page.get_by_role("button", name="Save to map"))
    told(page, "Set picture.")
    click(page.get_by_role("link", name="Header", exact=True).first)
    page.wait_for_url("**/header*")
    click(page.get_by_role("button", name="Shrinks on scroll", exact=True))
    told(page, "It is tried here, and not written yet.")
    click(page.get_by_role("button", name="Save to map"))
    told(page, "Saved behaviour")
    assert clicks <= 25 and loads <= 4, (clicks, loads)
    frame = page.frame_locator("iframe")
    expect(frame.get_by_role("link", name="Shop").locator("svg").first).to_be_visible()
    expect(frame.get_by_role("link", name="Book a visit")).to_be_visible()
    expect(frame.locator("header img, header svg").first).to_be_visible()
    expect(frame.get_by_role("contentinfo").get_by_role("link")).to_have_count(3)
    page.get_by_label("Filler text").check()
    expect(frame.get_by_role("heading", name="Filler text")).to_be_attached()
    store = Services.of(empty.data)
    text = store.store.get("tide-mill").text
    store.close()
    assert "behaviour: shrink" in text and "picture: wheel.svg" in text and "show: button" in text


def test_by_night_everything_can_be_read(browser: Browser, application: Application) -> None:
    """Every screen in the colours that the system asks for, held against WCAG 2.2, 1.4.3."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme="dark")
    page = context.new_page()
    page.set_default_timeout(60_000)
    poor = []
    views = ["map", "pages", "parts?part=find-us", "header", "settings?section=theme", "preview", "checks", "output"]
    for view in [*views, "publish", "history", "addresses"]:
        page.goto(f"{application.address}{SITE}/{view}")
        page.wait_for_load_state("networkidle")
        found = Axe().run(page, options={"runOnly": ["color-contrast"]}).response["violations"]
        poor += [f"{view}: {node['html'][:120]} {node['any'][0]['message']}" for one in found for node in one["nodes"]]
    context.close()
    assert not poor, "\n".join(poor)


def test_languages_by_hand(page: Page, application: Application) -> None:
    """A page gets a title in a language in which its column says that it is not there; the preview shows it."""
    page.goto(f"{application.address}{SITE}/pages?page=tides")
    tree = page.locator(".tree")
    expect(tree.get_by_role("link", name="Tides is not in cy")).to_be_visible()
    page.get_by_label("Title in Cymraeg").fill("Tablau'r llanw")
    page.get_by_label("Path in Cymraeg").fill("llanw")
    page.get_by_role("button", name="Save Cymraeg").click()
    told(page, "Saved title, path in Cymraeg to the map.")
    expect(tree.get_by_role("link", name="Tides in cy: Tablau'r llanw")).to_be_visible()
    page.goto(f"{application.address}{SITE}/preview?page=tides&width=desktop")
    frame = page.frame_locator(".ground iframe")
    expect(frame.get_by_role("heading", level=1)).to_have_text("Tide tables")
    page.get_by_label("Language").select_option(label="Cymraeg")
    expect(frame.get_by_role("heading", level=1)).to_have_text("Tablau'r llanw")
    expect(page.locator("code.address")).to_have_text("/cy/llanw/")
    page.locator(".tree").get_by_role("link", name="History").click()
    expect(page.get_by_role("status").filter(has_text="not there in Cymraeg")).to_be_visible()
    expect(frame.get_by_role("heading", level=1)).to_have_text("History")
    frame.get_by_role("link", name="Cymraeg").click()  # the page's own switch: to the nearest page above
    expect(frame.get_by_role("heading", level=1)).to_have_text("Melin Lanw Saltern Reach")
    expect(page.locator("code.address")).to_have_text("/cy/")
    assert Axe().run(page).response["violations"] == []


def test_a_page_of_another_file_says_where_it_is_written(page: Page, application: Application) -> None:
    seeds = f"{application.address}/sites/marrow-valley-seed-exchange/map?page="
    page.goto(f"{seeds}varieties/herbs/amber-beauty")
    panel = page.locator(".facts")
    expect(panel.get_by_text("is row ")).to_be_visible()
    for name in ("Duplicate", "Down", "Under"):
        page.get_by_role("toolbar").get_by_role("button", name=name, exact=True).click()
        expect(page.get_by_role("status").filter(has_text="of the table tables/varieties.csv").first).to_be_visible()
        expect(page.get_by_role("dialog")).to_have_count(0)
    expect(panel.get_by_role("link", name="Open the table")).to_be_visible()
    page.get_by_role("toolbar").get_by_role("button", name="Name", exact=True).click()
    page.get_by_role("textbox", name="Name").fill("Amber Dawn")
    page.keyboard.press("Enter")
    expect(page.get_by_role("status").filter(has_text="Named Amber Beauty Amber Dawn").first).to_be_visible()
    expect(panel.get_by_role("heading", name="Amber Dawn")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(panel.get_by_role("heading", name="Amber Beauty")).to_be_visible()
    page.goto(f"{seeds}growing/drying")
    panel.get_by_role("link", name="maps/growing.yaml, line ").click()
    text = page.get_by_label("Content", exact=True)
    until(page, lambda: "drying" in text.evaluate("(at) => at.value.slice(at.selectionStart, at.selectionEnd)"))
