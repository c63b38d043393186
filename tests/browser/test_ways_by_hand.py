"""Ways through the application that a person goes by hand, without touching the code, and every screen at sizes that
people have: keyboards, phones, and text of twice the size."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from urllib.parse import quote

import pytest
import yaml
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page, Route, expect

from basilica.services.all_services import Services
from tests.browser.conftest import Application, until
from tests.browser.test_application import SITE
from tests.browser.test_by_hand import FOLLOWING, open_menus, told

SCREENS = (
    *("map", "pages", "parts", "parts?slot=after", "header", "settings?section=theme", "preview", "checks"),
    *("checks?view=table", "output", "publish", "history", "addresses", "addresses/old", ""),
)
ELSEWHERE = ("/", "/new", "/new/existing", "/archive")


def saved(application: Application) -> dict[str, dict[str, object]]:
    services = Services.of(application.data)
    try:
        found: dict[str, dict[str, object]] = yaml.safe_load(services.store.get(SITE.rpartition("/")[2]).text)
    finally:
        services.close()
    return found


@pytest.mark.parametrize(("screen", "label"), [("header", "Written for"), ("settings?section=facts", "Page")])
def test_what_is_chosen_before_the_scripts_are_there_counts(
    page: Page, application: Application, screen: str, label: str
) -> None:
    held: list[Route] = []
    page.route("**/scripts/*.js", lambda route: held.append(route), times=1)
    page.goto(f"{application.address}{SITE}/{screen}", wait_until="commit")
    choice = page.get_by_label(label, exact=True)
    value = choice.locator("option").nth(1).get_attribute("value") or ""
    choice.select_option(value)
    until(page, lambda: bool(held))
    held[0].continue_()
    page.wait_for_url(lambda address: f"={quote(value, safe='')}" in address)
    expect(choice).to_have_value(value)


def test_a_header_that_shrinks_and_hides_and_another_on_one_page(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/header")
    page.get_by_role("button", name="Shrinks, hides on scroll down").click()
    told(page, "It is tried here, and not written yet.")
    page.get_by_label("Sticks until").select_option("after")
    page.get_by_label("Shadow strength").select_option("strong")
    page.get_by_role("button", name="Save to map").click()
    told(page, "Saved behaviour")
    header = saved(application)["header"]
    assert (header["behaviour"], header["until"], header["shadow-strength"]) == ("shrink-hide", "after", "strong")
    page.get_by_label("Page", exact=True).select_option("flour")
    page.get_by_label("Written for").select_option("page")
    expect(page.get_by_label("Behaviour")).to_have_value("")
    page.get_by_label("Behaviour").select_option("static")
    page.get_by_role("button", name="Save to map").click()
    told(page, "Saved behaviour")
    pages = saved(application)["pages"]
    assert "static" in str(pages["flour"]["header"])  # type: ignore[index]
    page.get_by_role("button", name="Undo").click()
    told(page, "Undone: ")
    assert "header" not in saved(application)["pages"]["flour"]  # type: ignore[operator]


def test_a_logo_without_the_name(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/settings?section=logo")
    page.get_by_label("Show the name").select_option("no")
    page.get_by_label("Height, px").fill("56")
    told(page, "2 settings are tried here")
    name = page.frame_locator("iframe").get_by_role("banner").get_by_role("link", name="Saltern Reach Tide Mill")
    expect(name.locator("span")).to_have_count(0)  # the picture says it
    expect(name.locator("img")).to_have_js_property("complete", True)
    picture = name.locator("img").bounding_box()
    assert picture and abs(picture["height"] - 56) < 25  # the page is drawn smaller
    page.get_by_role("button", name="Save to map").click()
    told(page, "Set show name, height.")
    identity = saved(application)["parts"]["identity"]
    assert isinstance(identity, dict) and (identity["show-name"], identity["height"]) in [("no", 56), (False, 56)]


def test_a_menu_of_a_section_and_a_group_that_follows_pages(page: Page, application: Application) -> None:
    open_menus(page, application, FOLLOWING.replace("auto", "[home, visit, learn]"))
    page.get_by_role("button", name="New menu").click()
    dialog = page.get_by_role("dialog", name="New menu")
    dialog.get_by_label("Name").fill("in-learn")
    dialog.get_by_label("On one page and the pages under it").check()
    dialog.get_by_label("That page").fill("learn")
    dialog.get_by_role("button", name="Save menu").click()
    told(page, "Added the menu in-learn.")
    expect(page.locator(".cm-content")).to_contain_text("section: learn")
    # The pages under it come from a list, into their place.
    page.locator('a.node[data-key="learn"]').click()
    page.get_by_role("button", name="Import a list").click()
    dialog = page.get_by_role("dialog", name="Import a list")
    waiting: list[Route] = []
    page.route("**/map/list", lambda route: waiting.append(route))
    dialog.get_by_label("The list").fill("History\n  The wheel\nThe stones")
    with page.expect_request("**/map/list"):
        dialog.get_by_label("New pages under Learn").check()
    # What is not shown yet cannot be taken.
    expect(dialog.get_by_role("button", name="Add the pages")).to_be_disabled()
    for one in waiting:
        one.continue_()
    page.unroute("**/map/list")
    expect(dialog).to_contain_text("3 new: History, The wheel, The stones")
    dialog.get_by_text("As code, with what changes").click()
    expect(dialog.locator(".cm-changedLine").first).to_be_visible()
    dialog.get_by_role("button", name="Add the pages").click()
    expect(page.locator("a.node")).to_have_count(6)
    page.get_by_role("button", name="New entry in Main").click()
    dialog = page.get_by_role("dialog", name="New entry")
    dialog.get_by_label("A group: a heading that opens").check()
    dialog.get_by_label("Name").fill("More")
    dialog.get_by_role("button", name="Save entry").click()
    expect(dialog.get_by_role("alert")).to_contain_text("child pages")
    dialog.get_by_label("Or all child pages of").fill("learn")
    dialog.get_by_role("button", name="Save entry").click()
    told(page, "Added More to the menu main.")
    expect(page.locator(".cm-content")).to_contain_text("under: learn")


SVG = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path d="M0 0h8v8z"/></svg>'


def test_an_icon_of_ones_own_and_entries_that_are_moved(page: Page, application: Application, tmp_path: Path) -> None:
    open_menus(page, application, FOLLOWING.replace("auto", "[home, visit, learn]"))
    (tmp_path / "own.svg").write_text(SVG)
    (tmp_path / "bad.svg").write_text("<svg>")
    page.locator(".menus-list .entry", has_text="Visit").focus()
    page.keyboard.press("F2")
    dialog = page.get_by_role("dialog", name="Edit entry")
    dialog.get_by_label("Icon of your own").set_input_files(tmp_path / "bad.svg")
    expect(dialog.get_by_role("alert")).to_contain_text("cannot be an icon")
    dialog.get_by_label("Icon of your own").set_input_files(tmp_path / "own.svg")
    expect(dialog.get_by_label("Icon", exact=True)).to_have_value("own.svg")
    dialog.get_by_role("button", name="Save entry").click()
    expect(page.locator(".cm-content")).to_contain_text("icon: own.svg")
    entries = page.locator(".menus-list .entry")
    told(page, "Edited the entry Visit.")
    entries.last.focus()
    page.keyboard.press("Alt+ArrowUp")
    told(page, "Moved Learn")
    expect(entries.last).to_contain_text("Visit")

    def has_icon() -> bool:
        services = Services.of(application.data)
        try:
            return "files/own.svg" in services.store.files(SITE.rpartition("/")[2])
        finally:
            services.close()

    for step, left in ((1, True), (2, False)):  # the icon goes with its entry
        page.get_by_role("button", name="Undo").first.click()
        until(page, lambda left=left: has_icon() is left)  # type: ignore[misc]
        expect(page.locator(".cm-content")).to_contain_text("icon: own.svg" if step == 1 else "main:")
    page.get_by_role("button", name="Redo").first.click()
    until(page, has_icon)


def test_an_entry_is_dragged_and_the_list_is_not_drawn_anew_under_it(page: Page, application: Application) -> None:
    open_menus(page, application, FOLLOWING.replace("auto", "[home, visit, learn]"))
    entries = page.locator(".menus-list .entry")
    shown = entries.locator("visible=true")
    entries.nth(2).hover()
    page.mouse.down()
    shown.nth(1).hover()
    expect(page.locator(".menus-list .sortable-ghost")).to_have_count(1)
    # Another's save comes in while it is held.
    with page.expect_response("**/map/menus"):
        page.evaluate("document.querySelector('[data-side=menus]').click()")
    expect(page.locator(".menus-list .sortable-ghost")).to_have_count(1)
    shown.nth(0).hover(position={"x": 20, "y": 2})
    expect(shown.first).to_contain_text("Learn")  # it makes room
    page.mouse.up()
    told(page, "Moved Learn")
    expect(page.locator(".cm-content")).to_contain_text("main: [learn, home, visit]")


def test_a_page_with_children_moves_and_its_addresses_are_kept(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map?page=how-it-works")
    expect(page.locator("a.node.here")).to_be_visible()
    key = page.locator("a.node.here").get_attribute("data-key")
    assert key
    services = Services.of(application.data)
    slug = SITE.rpartition("/")[2]
    site = services.store.get(slug)
    before = services.maps.good_plan(site)
    services.sites.save_version(slug, site.revision, "Known to others")
    services.close()
    assert before is not None
    old = {each: before.path_of(each) for each in before.routes if each == key or each.startswith(f"{key}/")}
    assert len(old) > 1
    page.reload()
    page.locator("a.node.here").focus()
    page.keyboard.press("Alt+ArrowRight")
    told(page, "Moved")
    expect(page.locator("#saved-mark")).to_have_attribute("data-saved", "no")
    services = Services.of(application.data)
    after = services.maps.good_plan(services.store.get(slug))
    services.close()
    assert after is not None
    led = {each.address: each.key for each in after.redirects}
    moved = {path for path in old.values() if path not in {route.path for route in after.routes.values()}}
    assert moved and moved <= set(led)


def test_a_page_of_an_included_file_moves_in_it_and_out_of_it_and_back(page: Page, application: Application) -> None:
    slug, piece = SITE.rpartition("/")[2], "maps/more.yaml"

    def now() -> tuple[str, str]:
        services = Services.of(application.data)
        try:
            return services.store.get(slug).text, services.store.files(slug)[piece].decode()
        finally:
            services.close()

    services = Services.of(application.data)
    site = services.store.get(slug)
    services.sites.put_file(slug, piece, b"# older\npages:\n  older: Older\n  oldest: Oldest\n", None)
    text = site.text.replace("\nmenus:", "\n  past: {title: Past, include: more.yaml}\nmenus:", 1)
    services.sites.save(slug, text, site.revision)
    services.close()
    before = now()
    page.goto(application.address + SITE + "/map?page=past/oldest")
    expect(page.locator("a.node.here")).to_have_attribute("data-key", "past/oldest")
    page.get_by_role("button", name="Up", exact=True).click()
    told(page, "Moved Oldest among its neighbours")
    until(page, lambda: now()[1].endswith("  oldest: Oldest\n  older: Older\n"))
    page.get_by_role("button", name="Out", exact=True).click()
    told(page, "Moved Oldest to the top")
    until(page, lambda: "oldest" not in now()[1] and "\n  oldest:" in now()[0])
    for _ in range(2):
        page.get_by_role("button", name="Undo", exact=False).first.click()
    until(page, lambda: now() == before)


def test_parts_are_made_where_they_stand_and_sorted(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/parts?slot=after")
    made = page.locator("details", has_text="A new part for this slot").locator("form")
    made.get_by_label("Name").fill("open-today")
    made.get_by_label("Notice").check()
    made.get_by_label("Text, if any").locator("visible=true").fill("Open from ten.")
    made.get_by_role("button", name="Create part").click()
    told(page, "Created the part open-today")
    page.goto(application.address + SITE + "/parts?slot=after")
    page.get_by_label("One more part").select_option("find-us")
    page.get_by_role("button", name="Save to map").click()
    told(page, "Filled the slot after")
    assert saved(application)["slots"]["after"] == ["open-today", "find-us"]
    page.get_by_role("button", name="Move find-us").focus()
    page.keyboard.press("ArrowUp")
    page.get_by_role("button", name="Save to map").click()
    expect(page.get_by_label("Part 1")).to_have_value("find-us")
    assert saved(application)["slots"]["after"] == ["find-us", "open-today"]
    page.get_by_role("button", name="Undo").click()
    told(page, "Undone: ")
    expect(page.get_by_label("Part 1")).to_have_value("open-today")


def test_what_has_changed_shows_in_the_code(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/map?page=flour")
    button = page.get_by_role("button", name="Changes", exact=True)
    button.click()
    expect(button).to_have_attribute("aria-pressed", "true")
    expect(page.locator(".editor .cm-changedLine")).to_have_count(0)
    page.locator("a.node.here").focus()
    page.keyboard.press("F2")
    page.keyboard.type("Stone-ground flour")
    page.keyboard.press("Enter")
    expect(page.locator(".editor .cm-changedLine")).to_contain_text(["Stone-ground flour"])
    expect(page.locator(".editor .cm-deletedChunk").first).to_be_visible()
    button.click()
    expect(page.locator(".editor .cm-changedLine")).to_have_count(0)


def every_screen(browser: Browser, application: Application, width: int, height: int) -> Iterator[tuple[str, Page]]:
    """Every screen in turn, in a window of that size, once what it waits for is there."""
    context = browser.new_context(viewport={"width": width, "height": height})
    page = context.new_page()
    page.set_default_timeout(60_000)
    for path in (*(f"{SITE}/{screen}".rstrip("/") for screen in SCREENS), *ELSEWHERE):
        page.goto(application.address + path)
        expect(page.locator("[data-working]")).to_have_count(0)
        yield path, page
    context.close()


@pytest.mark.parametrize(("width", "height", "why"), [(1280, 800, "as it is"), (640, 400, "at 200 %")])
def test_every_screen_is_free_of_what_axe_finds(
    browser: Browser, application: Application, width: int, height: int, why: str
) -> None:
    """All rules of axe-core; 640 × 400 CSS px is a window of 1280 × 800 at twice the size (WCAG 2.2, 1.4.4)."""
    found = []
    for path, page in every_screen(browser, application, width, height):
        violations = Axe().run(page).response["violations"]
        found += [f"{path} {why}: {one['id']}: {one['nodes'][0]['html'][:160]}" for one in violations]
    assert not found, "\n".join(found)


MUCH = """<a class="count bad" href="#">12 errors, 230 warnings</a>
<a class="count drifted" href="#"><span class="word">Older is live, 27 Nov, edited there</span></a>"""
OVER = """() => {
  const out = [];
  const wide = document.documentElement.scrollWidth - innerWidth;
  if (wide > 1) out.push(`the page is ${wide} px wider than the window`);
  const last = document.querySelector(".lintel > :last-child").getBoundingClientRect();
  if (last.right > innerWidth + 1) out.push("the bar runs out of the window");
  const bar = [...document.querySelectorAll(".lintel > *")].filter((one) => one.getBoundingClientRect().width > 0);
  for (const [index, one] of bar.entries()) {
    for (const other of bar.slice(index + 1)) {
      const [a, b] = [one.getBoundingClientRect(), other.getBoundingClientRect()];
      const across = Math.min(a.right, b.right) - Math.max(a.left, b.left);
      const down = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
      if (across > 1 && down > 1) out.push(`${one.className} lies over ${other.className}`);
    }
  }
  for (const head of document.querySelectorAll(".pane-head")) {
    const box = head.getBoundingClientRect();
    for (const one of head.children) {
      const own = one.getBoundingClientRect();
      const over = own.width && (own.right > box.right + 1 || own.bottom > box.bottom + 1);
      if (over) out.push(`${head.textContent.trim().slice(0, 30)} runs over`);
    }
  }
  return [...new Set(out)];
}"""


@pytest.mark.parametrize("width", [390, 1024, 1280])
def test_nothing_lies_over_another_thing(browser: Browser, application: Application, width: int) -> None:
    """A phone can look and check; from 1024 px on all can be done, also while the bar has much to say."""
    found = []
    for path, page in every_screen(browser, application, width, 800):
        found += [f"{path} at {width} px: {one}" for one in page.evaluate(OVER)]
        # The bar with everything that it can have to say.
        page.evaluate("(more) => document.getElementById('standing')?.insertAdjacentHTML('beforeend', more)", MUCH)
        found += [f"{path} at {width} px, with much to say: {one}" for one in page.evaluate(OVER)]
    assert not found, "\n".join(found)
