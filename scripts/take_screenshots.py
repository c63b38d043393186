"""Takes the pictures in docs/screenshots from the demo. Usage: take_screenshots.py, with `make demo` running."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Page, sync_playwright

APPLICATION = "http://127.0.0.1:8000"
SITE = f"{APPLICATION}/sites/saltern-reach-tide-mill"
FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"
VIEWS = {
    "sites": APPLICATION,
    "new-site": f"{APPLICATION}/new",
    "site": SITE,
    "map": f"{SITE}/map?page=how-it-works/stones",
    "preview": f"{SITE}/preview?page=visit/hours&width=tablet",
    "output": f"{SITE}/output?file=visit/hours/index.html",
}


def main() -> None:
    """Take every picture at 1280 by 800."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for name, address in VIEWS.items():
            page.goto(address)
            page.wait_for_timeout(1500)
            page.screenshot(path=FOLDER / f"{name}.png")
        fault(page)
        generated(page)
        browser.close()


def fault(page: Page) -> None:
    """A fault in the map, which is undone again."""
    page.goto(f"{SITE}/map?line=76&column=1")
    page.wait_for_timeout(1000)
    page.locator(".cm-line", has_text="- visit: [hours").click()
    page.keyboard.press("End")
    page.keyboard.press("ArrowLeft")
    page.keyboard.type(", nowhere")
    page.wait_for_timeout(1500)
    page.screenshot(path=FOLDER / "map-fault.png")
    for _ in range(4):
        page.keyboard.press("Control+z")
    page.wait_for_timeout(1500)


def generated(page: Page) -> None:
    """A generated page, by itself, with a submenu open."""
    page.goto(f"{SITE}/preview?page=how-it-works/stones")
    page.wait_for_timeout(1000)
    page.goto(page.frames[1].url)
    page.get_by_role("button", name="Learn").click()
    page.screenshot(path=FOLDER / "generated-page.png")


if __name__ == "__main__":
    main()
