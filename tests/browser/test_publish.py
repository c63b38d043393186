"""The Publish workspace, in a real browser: from a new target to the live site, and back again."""

from __future__ import annotations

from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.services.host import Host
from basilica.store.folders import OWNERS_MARK, Source
from basilica.store.publishes import Publishes
from basilica.store.sites import Sites
from basilica.store.targets import settings_of
from tests.browser.conftest import Application

pytestmark = pytest.mark.browser


def compare(page: Page) -> None:
    page.get_by_role("button", name="Compare").click()
    expect(page.get_by_role("group", name="Every file, folder by folder")).to_be_visible()


def test_from_a_target_to_the_live_site_and_back(
    page: Page, application: Application, tmp_path: Path, demo: Source
) -> None:
    site = application.address + "/sites/saltern-reach-tide-mill/publish"
    with Host(tmp_path / "www") as host:
        live, settings = tmp_path / "www", host.settings()
        (tmp_path / OWNERS_MARK).touch()  # its key is in a folder that is typed
        page.goto(site)
        assert Axe().run(page).response["violations"] == []
        page.get_by_text("New target").click()
        new = page.locator("details[open]")
        new.get_by_label("Name").fill("stage")
        new.get_by_label("SFTP").check()
        for word in ("host", "port", "user", "folder", "key", "address"):
            new.locator(f"#sftp-{word}").fill(settings[word])
        new.get_by_role("button", name="Add the target").click()
        page.get_by_role("button", name="Compare").click()
        expect(page.get_by_role("alert")).to_contain_text(host.sftp.fingerprint)
        page.get_by_role("button", name="This is the right server").click()
        expect(page.get_by_text("56 files differ")).to_be_visible()
        page.get_by_label("Note").fill("The first of it")
        page.get_by_role("button", name="Publish").click()
        expect(page.get_by_text("The live site matches the build.")).to_be_visible()
        expect(page.get_by_text("55 files fetched from the live site")).to_be_visible()
        expect(page.locator(".lintel")).to_contain_text("Live")
        made = build(compile_map(demo.map, demo.files), demo.contents).files
        assert {file.path: file.data for file in made} == {
            path.relative_to(live).as_posix(): path.read_bytes()
            for path in live.rglob("*")
            if path.is_file() and ".basilica" not in path.parts
        }

        host.edit("history/index.html")
        (live / "press" / "index.html").unlink()
        (live / "CNAME").write_text("mill.example")
        compare(page)
        expect(page.get_by_text("2 files differ, 54 are the same")).to_be_visible()
        expect(page.locator(".why")).to_contain_text("history/index.html was edited there")
        expect(page.locator(".why")).to_contain_text("press/index.html was deleted there")
        expect(page.get_by_role("region", name="Differences in history/index.html")).to_contain_text(
            "Closed this Sunday"
        )
        expect(page.locator(".lintel")).to_contain_text("edited there")
        assert Axe().run(page).response["violations"] == []
        page.get_by_role("button", name="Publish").click()
        assert "history" in page.locator(":invalid").last.get_attribute("name")  # type: ignore[operator]
        page.get_by_role("button", name="Take over").click()
        expect(page.get_by_role("status").filter(has_text="content/history.md")).to_be_visible()
        expect(page.get_by_text("1 file differs")).to_be_visible()
        page.get_by_role("button", name="Publish").click()
        expect(page.get_by_text("1 file sent")).to_be_visible()
        assert "Closed this Sunday" in (live / "history" / "index.html").read_text()
        assert (live / "press" / "index.html").is_file() and (live / "CNAME").is_file()

        page.get_by_role("button", name="Take back").last.click()
        expect(page.get_by_role("heading", name="What taking it back would change")).to_be_visible()
        expect(page.get_by_text("1 file differs")).to_be_visible()
        page.get_by_role("button", name="Take it back").click()
        expect(page.get_by_text("1 file sent")).to_be_visible()
        assert "Closed this Sunday" not in (live / "history" / "index.html").read_text()
        expect(page.locator(".publish table").last.locator("tbody tr")).to_have_count(3)

        page.get_by_role("link", name="Side by side").click()
        frames = page.locator("iframe")
        expect(frames).to_have_count(2)
        for number in (0, 1):
            inside = frames.nth(number).content_frame
            expect(inside.get_by_role("heading", level=1)).to_be_visible()


def test_a_lost_connection_is_said_and_the_next_publish_completes_it(
    page: Page, application: Application, tmp_path: Path
) -> None:
    with Host(tmp_path / "www") as host:
        store = Sites(application.data)
        Publishes(store.database).put_target("saltern-reach-tide-mill", settings_of("far", host.settings()))
        store.close()
        page.goto(application.address + "/sites/saltern-reach-tide-mill/publish?target=far")
        compare(page)
        host.faults.drop_at = 100_000
        page.get_by_role("button", name="Publish").click()
        expect(page.get_by_role("alert")).to_contain_text("The connection to 127.0.0.1 was lost")
        compare(page)
        expect(page.get_by_text("A publish was interrupted")).to_be_visible()
        page.get_by_role("button", name="Publish").click()
        expect(page.get_by_text("The live site matches the build.")).to_be_visible()
        assert not list((tmp_path / "www").rglob("*.basilica-unfinished"))
