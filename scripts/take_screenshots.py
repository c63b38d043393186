"""Takes the pictures in docs/screenshots from the demo. Usage: take_screenshots.py, with `make demo` running."""

from __future__ import annotations

import io
import shutil
import sys
import tempfile
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).parent.parent))
from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.shared.theme import PRESETS
from basilica.store.folders import OWNERS_MARK, read_source
from basilica.web.demo import DEMO
from bench.sites import map_of

APPLICATION = "http://127.0.0.1:8000"
SITE = f"{APPLICATION}/sites/saltern-reach-tide-mill"
HAND_MADE = Path(__file__).parent.parent / "basilica" / "demo" / "upper-thornby" / "pages"
FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"
VIEWS = {
    "sites": APPLICATION,
    "map": f"{SITE}/map?page=how-it-works/stones",
    "pages": f"{SITE}/pages?page=visit/hours#languages",
    "parts": f"{SITE}/parts?page=milling&part=find-us",
    "header": f"{SITE}/header?page=visit/hours",
    "settings": f"{SITE}/settings?section=theme&page=visit/hours",
    "preview": f"{SITE}/preview?page=visit/hours",
    "checks": f"{SITE}/checks?page=history&check=description-missing",
    "addresses": f"{SITE}/addresses",
    "output": f"{SITE}/output?output=site&output=flask&file=flask/README.md",
}
LIST = """Home
Visit
  Opening hours
  Getting here -> directions
LEARN
  How the mill works
  History
Mill shop | https://shop.saltern-reach.example
Footer:
  Privacy notice
"""


def main() -> None:
    """Take every picture at 1280 by 800."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for name, address in VIEWS.items():
            page.goto(address)
            page.wait_for_timeout(1500)
            page.screenshot(path=FOLDER / f"{name}.png")
        published(page)
        fault(page)
        drawn(page)
        lists(page)
        existing(page)
        staying(page)
        large(page)
        generated(page)
        browser.close()


def published(page: Page) -> None:
    """The demo published, a page edited on its host by hand and another here, and compared."""
    host = Path(__file__).parent.parent / "instance" / "host"
    page.goto(f"{SITE}/publish")
    for word in ("Compare", "Publish"):
        page.get_by_role("button", name=word).first.click()
        page.wait_for_timeout(6_000)
    edited = host / "history" / "index.html"
    edited.write_bytes(edited.read_bytes().replace(b"    </main>", b"<p>Closed this Sunday.</p>\n    </main>"))
    (host / "CNAME").write_text("saltern-reach.example\n")
    page.goto(f"{SITE}/publish")
    page.get_by_role("button", name="Compare").click()
    page.wait_for_timeout(4_000)
    page.screenshot(path=FOLDER / "publish.png")


def fault(page: Page) -> None:
    """A fault in the map, which is undone again."""
    page.goto(f"{SITE}/map?line=209&column=1")
    page.wait_for_timeout(1000)
    page.locator(".cm-line", has_text="- take-part: [vol").click()
    page.keyboard.press("End")
    page.keyboard.press("ArrowLeft")
    page.keyboard.type(", nowhere")
    page.wait_for_timeout(1500)
    page.screenshot(path=FOLDER / "map-fault.png")
    for _ in range(4):
        page.keyboard.press("Control+z")
    page.wait_for_timeout(1500)


def drawn(page: Page) -> None:
    """A page added and put into the main menu, what that reaches, and the History with it; then back again."""
    page.goto(f"{SITE}/map?page=history")
    page.wait_for_timeout(1000)
    page.locator("a.node.here").focus()
    page.keyboard.press("n")
    page.keyboard.type("The bells")
    page.keyboard.press("Enter")
    page.wait_for_timeout(1200)
    page.locator("#reach-bar").click()
    page.wait_for_timeout(300)
    page.screenshot(path=FOLDER / "impact.png")
    page.keyboard.press("Escape")
    page.get_by_label("Note for the version").fill("The bells, in the main menu")
    page.keyboard.press("Enter")
    page.wait_for_timeout(1500)
    page.goto(f"{SITE}/history")
    page.screenshot(path=FOLDER / "history.png")
    page.get_by_role("button", name="Restore").first.click()
    page.wait_for_timeout(500)


def lists(page: Page) -> None:
    """A list, with the plan of what it will make."""
    page.goto(f"{APPLICATION}/new")
    page.get_by_label("Name").fill("Saltern Reach Tide Mill")
    page.locator('[value="list"]').check()
    page.locator("#list").fill(LIST)
    page.wait_for_timeout(1000)
    page.screenshot(path=FOLDER / "new-site.png")


def existing(page: Page) -> None:
    """A site that exists, as it is found, before anything is made of it."""
    page.goto(f"{APPLICATION}/new/existing")
    page.get_by_label("The demo").check()
    page.get_by_role("button", name="Read the site").click()
    page.get_by_text("addresses answer").wait_for()
    page.screenshot(path=FOLDER / "import.png")


def staying(page: Page) -> None:
    """The same site with marks around what its pages share, and one that was changed by hand since."""
    with tempfile.TemporaryDirectory() as folder:
        pages = Path(folder) / "ringers"
        shutil.copytree(HAND_MADE, pages)
        (pages / OWNERS_MARK).touch()
        page.goto(f"{APPLICATION}/new/existing")
        page.get_by_label("In a folder").check()
        page.get_by_label("The folder").fill(str(pages))
        page.get_by_role("button", name="Read the site").click()
        page.get_by_role("link", name="See what would change").click()
        page.get_by_role("button", name="Set the marks into").click()
        for name in ("about.htm", "tower.html"):
            text = (pages / name).read_text("cp1252")
            (pages / name).write_text(text.replace(">History<", ">Our history<"), "cp1252")
        page.get_by_role("button", name="See what would change").click()
        page.get_by_text("would change.").wait_for()
        page.screenshot(path=FOLDER / "inlay.png")
    slug = page.url.partition("/sites/")[2].partition("/")[0]
    page.goto(f"{APPLICATION}/sites/{slug}")
    page.get_by_role("button", name="Archive").click()


def large(page: Page) -> None:
    """2,000 pages: folded, with the overview. The site is archived afterwards."""
    with tempfile.NamedTemporaryFile("w", suffix=".yaml") as file:
        file.write(map_of(2000))
        file.flush()
        page.goto(f"{APPLICATION}/new")
        page.get_by_label("Name").fill("Two thousand pages")
        page.locator('[value="upload"]').check()
        page.locator("#file").set_input_files(file.name)
        page.get_by_role("button", name="Create site").click()
    site = f"{APPLICATION}/sites/two-thousand-pages"
    page.goto(f"{site}/map?page=section-3/page-3-2")
    page.wait_for_timeout(2500)
    page.screenshot(path=FOLDER / "map-2000.png")
    page.goto(site)
    page.get_by_role("button", name="Archive").click()


def generated(page: Page) -> None:
    """A generated page in each of the four presets, with a submenu open."""
    source = read_source(DEMO)
    pictures = []
    for preset in PRESETS:
        text = source.map.decode().replace("preset: slate", f"preset: {preset}").replace("links: root", "links: file")
        with tempfile.TemporaryDirectory() as folder:
            for file in build(compile_map(text, source.files), source.contents).files:
                path = Path(folder) / file.path
                path.parent.mkdir(parents=True, exist_ok=True)
                # Letters that come late are not waited for otherwise.
                path.write_bytes(file.data.replace(b"font-display: optional", b"font-display: block"))
            page.goto(f"file://{folder}/visit/hours/index.html")
            page.wait_for_timeout(500)
            page.get_by_role("button", name="Pages under Visit").click()
            pictures.append(Image.open(io.BytesIO(page.screenshot())))
    wide, high = pictures[0].size
    sheet = Image.new("RGB", (wide, high))
    for at, picture in enumerate(pictures):
        sheet.paste(
            picture.resize((wide // 2, high // 2), Image.Resampling.LANCZOS), (at % 2 * wide // 2, at // 2 * high // 2)
        )
    sheet.save(FOLDER / "generated-page.png", optimize=True)


if __name__ == "__main__":
    main()
