"""A site that exists is brought in, in the browser: read, looked at, made, mended, and held against what it was."""

from __future__ import annotations

import io
import shutil
import zipfile
from pathlib import Path

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from basilica.store.folders import OWNERS_MARK
from tests.browser.conftest import Application
from tests.browser.test_application import go_to_line

PAGES = Path(__file__).parents[2] / "basilica/demo/upper-thornby/pages"


def test_a_hand_made_site_is_brought_in_and_mended(page: Page, application: Application) -> None:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        for path in sorted(PAGES.rglob("*")):
            archive.write(path, f"ringers/{path.relative_to(PAGES)}")
    page.goto(application.address + "/new")
    page.get_by_role("link", name="An existing site").click()
    upload = {"name": "ringers.zip", "mimeType": "application/zip", "buffer": packed.getvalue()}
    page.get_by_label("The archive").set_input_files(upload)  # type: ignore[arg-type]
    page.get_by_role("button", name="Read the site").click()
    expect(page.get_by_text("19 of 19 addresses answer")).to_be_visible()
    rows = page.locator(".drift tbody tr")
    expect(rows).to_have_count(5)
    expect(rows.filter(has_text="tower.html")).to_contain_text("entry missing")
    page.locator("summary", has_text="links.htm").click()
    expect(page.locator("details[open]", has_text="links.htm").locator("pre").last).to_contain_text("guestbook.htm")
    assert Axe().run(page).response["violations"] == []
    page.get_by_label("Name").fill("Bell ringers")
    page.get_by_role("button", name="Create site").click()
    expect(page.locator("a.node", has_text="Raising a bell")).to_be_visible()
    expect(page.locator("#finding-count")).to_contain_text("No errors")
    # The dead link that was brought along is a finding, and none once it is mended.
    site = application.address + "/sites/bell-ringers"
    page.goto(site + "/checks")
    expect(page.locator("#content").get_by_text("on 16 tiles")).to_be_visible()
    page.goto(site + "/map?page=events/outing-2024")
    page.locator("summary", has_text="Content").click()
    content = page.locator("#content-text")
    content.fill(content.input_value().replace("../programme-2024.htm", "page:events"))
    expect(page.locator("#content-status")).to_contain_text("saved", ignore_case=True)
    page.goto(site + "/checks")
    expect(page.locator("#content").get_by_text("on 15 tiles")).to_be_visible()
    page.goto(site + "/preview")
    expect(page.frame_locator("iframe").first.get_by_role("heading", name="Eight bells on the hill")).to_be_visible()


def test_a_site_stays_and_its_map_changes_it(page: Page, application: Application, tmp_path: Path) -> None:
    folder = tmp_path / "ringers"
    shutil.copytree(PAGES, folder)
    page.goto(application.address + "/new/existing")
    page.get_by_label("In a folder").check()
    page.get_by_label("The folder").fill(str(folder))
    page.get_by_role("button", name="Read the site").click()
    # Whoever reaches the application could type any folder: the person who owns this one opens it.
    expect(page.get_by_role("alert")).to_contain_text(f"touch {folder / OWNERS_MARK}")
    expect(page.get_by_label("The folder")).to_have_value(str(folder))
    (folder / OWNERS_MARK).touch()
    page.get_by_role("button", name="Read the site").click()
    page.locator("summary", has_text="Show it on a page").click()
    framed = page.frame_locator("iframe.shown-menu").locator("[data-basilica-shown]")
    expect(framed.get_by_role("link", name="Practice nights")).to_be_visible()
    page.get_by_role("link", name="See what would change").click()
    expect(page.get_by_text("13 of 18 pages get marks and no other change.")).to_be_visible()
    page.locator("summary", has_text="records.htm").click()
    page.locator("details[open]", has_text="records.htm").get_by_label("It differs on purpose").check()
    page.get_by_role("button", name="Leave out the chosen ones").click()
    expect(page.get_by_label("records.htm stays as it is")).to_be_checked()
    assert Axe().run(page).response["violations"] == []
    page.get_by_role("button", name=f"Set the marks into {folder}").click()
    assert "<!-- basilica: entries main -->" in (folder / "about.htm").read_text("cp1252")
    assert "The ringers" in (folder / "records.htm").read_text("cp1252")
    page.get_by_role("button", name="See what would change").click()
    expect(page.get_by_text("Every page matches the map.")).to_be_visible()
    # A new page, and its entry, by hand in the map; then in the folder.
    site = application.address + "/sites/upper-thornby-bell-ringers"
    page.goto(site + "/map")
    go_to_line(page, "  - contact")
    page.keyboard.press("Home")
    page.keyboard.type("- open-day\n")
    page.locator(".cm-line", has_text="gallery: Gallery").click()
    page.keyboard.press("End")
    page.keyboard.type("\nopen-day: {title: Open day, path: /open-day.htm}")
    expect(page.locator("a.node", has_text="Open day")).to_be_visible()
    expect(page.locator("#finding-count")).to_contain_text("No errors")
    page.set_viewport_size({"width": 1280, "height": 800})
    page.goto(site + "/output")
    page.get_by_role("link", name="Into existing pages").click()
    page.get_by_role("button", name="See what would change").click()
    expect(page.get_by_text("17 files would change.")).to_be_visible()
    expect(page.get_by_text("such as open-day.htm")).to_be_visible()
    expect(page.locator(".diff tr.come")).to_contain_text(["Open day"])
    assert Axe().run(page).response["violations"] == []
    page.get_by_label("Made like").select_option("learn/raising.htm")
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_text("18 files changed.")).to_be_visible()
    made = (folder / "open-day.htm").read_text("cp1252")
    assert "<h2>Open day</h2>" in made and 'href="ringers.css"' in made
    assert 'href="open-day.htm">Open day</a>' in (folder / "index.htm").read_text("cp1252")
    page.get_by_role("button", name="Remove the marks again").click()
    expect(page.get_by_role("status")).to_contain_text("18 pages are as they were")
    (folder / "open-day.htm").unlink()
    for path in PAGES.rglob("*.htm*"):
        assert (folder / path.relative_to(PAGES)).read_bytes() == path.read_bytes()


def test_what_cannot_be_read_is_said_where_it_was_given(page: Page, application: Application) -> None:
    page.goto(application.address + "/new/existing")
    wrong = {"name": "x.zip", "mimeType": "application/zip", "buffer": b"PK\x03\x04no"}
    page.get_by_label("The archive").set_input_files(wrong)  # type: ignore[arg-type]
    page.get_by_role("button", name="Read the site").click()
    expect(page.get_by_role("alert")).to_contain_text("not a ZIP archive that can be read")
    page.get_by_label("In a folder").check()
    page.get_by_label("The folder").fill("/no/such/folder")
    page.get_by_role("button", name="Read the site").click()
    expect(page.get_by_role("alert")).to_contain_text("There is no folder /no/such/folder")
    expect(page.get_by_label("The folder")).to_have_value("/no/such/folder")
