"""A hostile page in a preview: none of its ways leads to the application, or to another host."""

from __future__ import annotations

import http.server
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Error, Page, expect

from basilica.core.plan.content_links import Content
from basilica.services.all_services import Services
from tests.browser.conftest import Application
from tests.hardening.test_script import SCRIPT, TABLE, texts_map, wrong_map

PREVIEW = "/sites/saltern-reach-tide-mill/preview?width=desktop&page=visit"
WAYS = (Path(__file__).parent / "ways_out.js").read_text()
KNOWN = f"const {{ staying, leaving }} = {WAYS.strip()};"
NAMES = f"() => {{ {KNOWN} return [Object.keys(staying), Object.keys(leaving)]; }}"
TRY = f"""([name, app, other]) => {{
  {KNOWN}
  const read = (staying[name] ?? leaving[name])(app, other);
  const late = new Promise((done) => setTimeout(done, 1500));
  return Promise.race([read, late]).then((found) => String(found ?? ""), () => "");
}}"""


@pytest.fixture
def elsewhere() -> Iterator[tuple[str, list[str]]]:
    """Another host, and what was asked of it."""
    asked: list[str] = []

    class Host(http.server.BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            asked.append(self.path)
            self.send_response(200)
            self.send_header("Access-Control-Allow-Origin", "*")
            self.end_headers()

        do_POST = do_GET  # noqa: N815

        def log_message(self, *_: object) -> None:
            """Nothing."""

    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), Host)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}", asked
    server.shutdown()


def test_no_way_leads_out_of_a_preview(
    browser: Browser, application: Application, elsewhere: tuple[str, list[str]]
) -> None:
    other, asked = elsewhere
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    page = context.new_page()
    told: list[str] = []
    page.on("dialog", lambda dialog: (told.append(f"dialog: {dialog.message}"), dialog.dismiss()))
    page.on("download", lambda download: told.append(f"download: {download.suggested_filename}"))
    context.on("page", lambda opened: told.append(f"window: {opened.url}"))
    page.goto(application.address + PREVIEW)
    title = page.title()
    staying, leaving = page.evaluate(NAMES)
    assert len(staying) + len(leaving) >= 25
    for name in staying:
        assert _tried(page, name, application.address, other) == "", name
    for name in leaving:
        page.goto(application.address + PREVIEW)
        _tried(page, name, application.address, other)
        page.wait_for_timeout(250)
        assert (page.url, page.title()) == (application.address + PREVIEW, title), name
    assert (asked, told) == ([], [])
    page.goto(application.address)
    assert page.locator("main strong").all_text_contents() == ["Marrow Valley Seed Exchange", "Saltern Reach Tide Mill"]
    page.goto(f"{application.address}/sites/saltern-reach-tide-mill/history")
    assert page.locator("tbody tr").count() == 2 and "unsaved" not in page.locator("tbody").inner_text()
    # The ways are ways: on a page that nothing holds many of them lead somewhere.
    page.goto(other)
    asked.clear()
    read = [name for name in staying if page.evaluate(TRY, [name, application.address, other])]
    assert len(read) > 8 and len(asked) > 8, (read, asked)
    context.close()


def _tried(page: Page, name: str, app: str, other: str) -> str:
    """What the page in the frame read on its way."""
    handle = page.locator("iframe").first.element_handle()
    frame = handle.content_frame() if handle else None
    assert frame is not None
    frame.wait_for_load_state()
    try:
        return str(frame.evaluate(TRY, [name, app, other]))
    except Error:  # it was on its way elsewhere
        return ""


def test_what_is_typed_is_text_on_every_screen(page: Page, application: Application) -> None:
    """What scripts put onto screens, too: pieces that they fetch, lists that they make, messages."""
    opened = Services.of(application.data)
    # In its own page the text of a page may act; here it shall not.
    content = {"a": Content("content/a.md", SCRIPT.replace("hit()", ""))}
    opened.store.make("texts", texts_map(), content, SCRIPT, files=TABLE)
    opened.store.make("wrong", wrong_map(), content, SCRIPT, files=TABLE)
    for slug in ("texts", "wrong"):
        opened.store.rename(slug, SCRIPT)
    opened.close()

    def inert(where: str) -> None:
        assert page.locator("mark-x, img[src=x]").count() == 0, where

    page.goto(application.address)
    expect(page.get_by_text(SCRIPT).first).to_be_visible()
    inert("sites")
    for slug in ("texts", "wrong"):
        for where in ("map", "pages?page=a", "parts", "header", "preview?page=a", "checks", "output", "history"):
            page.goto(f"{application.address}/sites/{slug}/{where}")
            page.wait_for_load_state("networkidle")
            inert(f"{slug} {where}")
            page.keyboard.press("Control+k")
            page.keyboard.type("mark")
            page.keyboard.press("Escape")
            inert(f"{slug} {where}, finding")
    page.goto(f"{application.address}/sites/texts/map")
    page.locator(".cm-content").click()
    page.keyboard.press("Control+End")
    page.keyboard.type(f"\nx: {SCRIPT}")
    expect(page.locator(".finding, .findings li").first).to_be_visible()
    inert("typed")
