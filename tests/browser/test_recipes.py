"""The recipes of the documentation in a real browser, each built as it says."""

from __future__ import annotations

import shutil
import subprocess
from collections.abc import Callable
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.map.map_files import Files
from basilica.store.folders import read_source
from tests.browser.conftest import serving, write

pytestmark = pytest.mark.browser
ROOT = Path(__file__).parents[2]
RECIPES = ROOT / "docs/recipes"
LOOK = """(one) => {
  const { display, color, backgroundColor } = getComputedStyle(one);
  return { display, color, backgroundColor };
}"""


def tailwind(folder: Path) -> bytes:
    """The style sheet that Tailwind's own build makes of the recipe, in a project that has it."""
    project = shutil.copytree(RECIPES / "tailwind", folder / "project")
    (project / "node_modules").symlink_to(ROOT / "frontend/node_modules")
    command = ["node_modules/.bin/tailwindcss", "-i", "tailwind.css", "-o", "files/site.css"]
    subprocess.run(command, cwd=project, check=True, capture_output=True)
    return (project / "files/site.css").read_bytes()


def with_tailwind(page: Page) -> None:
    current = page.locator("nav[aria-label=Main] [aria-current=page]").evaluate(LOOK)
    assert current["display"] == "block" and current["backgroundColor"] != "rgba(0, 0, 0, 0)"
    assert page.locator("nav[aria-label=Main] > ul").evaluate(LOOK)["display"] == "flex"
    assert page.get_by_role("link", name="Times").first.evaluate("(one) => getComputedStyle(one).fontWeight") == "700"
    assert page.locator("h1").evaluate("(one) => getComputedStyle(one).marginBlockStart") == "0px"  # preflight is on
    assert page.locator(".b-header .b-bar").evaluate(LOOK)["display"] == "flex"


def with_tokens(page: Page) -> None:
    link = page.locator("main a, .b-breadcrumbs a").first.evaluate(LOOK)
    assert link["color"] == "rgb(138, 28, 74)"
    assert page.locator("html").evaluate(LOOK)["backgroundColor"] == "rgb(255, 250, 245)"


def with_a_style_sheet(page: Page) -> None:
    current = page.locator(".b-main [aria-current]").evaluate(LOOK)
    assert (current["color"], current["backgroundColor"]) == ("rgb(255, 255, 255)", "rgb(20, 80, 110)")


def with_components(page: Page) -> None:
    assert page.locator("site-menu").first.get_attribute("data-links") == "4"
    assert page.locator("site-trail [aria-current=page]").text_content() == "The boats"


@pytest.mark.parametrize(
    ("recipe", "holds"),
    [
        ("tailwind", with_tailwind),
        ("design-system", with_tokens),
        ("plain-style-sheet", with_a_style_sheet),
        ("components", with_components),
    ],
)
def test_a_recipe_looks_as_it_says(page: Page, tmp_path: Path, recipe: str, holds: Callable[[Page], None]) -> None:
    source = read_source(RECIPES / recipe / "site.yaml")
    own = {"files/site.css": tailwind(tmp_path)} if recipe == "tailwind" else {}
    made = build(compile_map(source.map, Files({**source.files, **own})), source.contents)
    assert not any(finding.stops for finding in made.findings)
    with serving(write(made.files, tmp_path / "site")) as address:
        page.goto(f"{address}/boats/")
        holds(page)
        assert [each["id"] for each in Axe().run(page).response["violations"]] == []
        for width in (320, 768):
            page.set_viewport_size({"width": width, "height": 640})
            assert page.evaluate("() => document.documentElement.scrollWidth") == width
