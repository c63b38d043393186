"""Kits in hosts with a strict content policy, as a person walks through them."""

from __future__ import annotations

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from basilica.core.outputs.static_site import Renderer
from basilica.store.folders import Source
from tests.core.help import planned
from tests.kits.help import COMMANDS, host


@pytest.mark.parametrize("kind", COMMANDS)
def test_a_walk_through_a_host(kind: str, page: Page, demo: Source, tmp_path: Path) -> None:
    renderer = Renderer(planned(demo.map.decode(), demo.files), demo.contents)
    failed: list[str] = []
    page.on("response", lambda answer: failed.append(answer.url) if answer.status >= 400 else None)
    with host(kind, renderer, tmp_path / "host").serving("Book a tide") as address:
        page.goto(address + "/")
        main = page.get_by_role("navigation", name="Main", exact=True)
        expect(main.get_by_role("link", name="Home")).to_have_attribute("aria-current", "page")
        button = main.get_by_role("button", name="Visit")
        button.click()
        expect(button).to_have_attribute("aria-expanded", "true")
        main.get_by_role("link", name="Opening hours").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Opening hours")
        expect(page.get_by_role("navigation", name="Breadcrumb").get_by_role("listitem")).to_have_text(
            ["Home", "Visit", "Opening hours"]
        )
        assert page.locator(".b-main > ul").evaluate("e => getComputedStyle(e).display") == "flex"  # the style is there
        page.get_by_role("link", name="Book").first.click()  # the host's own view
        expect(page.get_by_role("heading", level=1)).to_have_text("Book a tide")
        expect(page.locator(".b-utility a[aria-current=page]")).to_have_text("Book")
        page.goto(address + "/visit/hours/")
        page.get_by_role("link", name="Cymraeg").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Oriau agor")
        expect(page.locator("html")).to_have_attribute("lang", "cy")
        page.goto(address + "/about-host")  # a page that the map does not know
        expect(page.locator("[aria-current=page]")).to_have_count(0)
        expect(main.get_by_role("link", name="Home")).to_be_visible()
    assert failed == []
