"""The mosaic in a real browser, and the checks beside others that look for the same things."""

from __future__ import annotations

import json
import re
import subprocess
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.findings import RULES
from basilica.core.findings.mosaic import mosaic_of
from basilica.core.findings.reports import FORMATS, Report
from basilica.core.rules.rule import Stage
from basilica.store.folders import Source
from scripts.rule_examples import pages_of
from tests.browser.conftest import Application, settle, until
from tests.browser.test_pages import JAR

pytestmark = pytest.mark.browser

SLUG = "saltern-reach-tide-mill"
SEEDS = "marrow-valley-seed-exchange"
STEP, HEAD, LABEL = 17, 132, 158
"""Sizes of the drawing, CSS px."""


def open_checks(page: Page, application: Application, slug: str = SLUG, query: str = "") -> None:
    page.goto(f"{application.address}/sites/{slug}/checks{query}")
    expect(page.locator(".across" if "view=table" in query else ".tiles")).to_be_visible()


def break_a_text(page: Page, application: Application) -> None:
    """A dead link and a vague one on the page for the press."""
    page.goto(f"{application.address}/sites/{SLUG}/pages?page=press")
    box = page.locator("textarea[name=text]")
    box.fill(box.input_value() + '\n<a href="/gone/">Click here</a>\n')
    page.get_by_role("button", name="Save the text").click()
    expect(page.get_by_role("status").filter(has_text="Saved the content of")).to_be_visible()


def test_a_tile_is_found_by_keys_and_by_the_mouse(page: Page, application: Application) -> None:
    break_a_text(page, application)
    open_checks(page, application)
    expect(page.get_by_text("on 2 tiles").first).to_be_visible()
    tiles = page.locator(".tiles")
    tiles.focus()
    page.keyboard.press("j")
    expect(page.locator("#beside-title")).to_have_text("Press pictures")
    expect(page.locator(".beside")).to_contain_text("The link to /gone/ on press/index.html leads to no file")
    expect(page.locator(".beside")).to_contain_text("content/press.md, line")
    expect(page).to_have_url(re.compile("page=press&check=dead-link"))
    frame = page.frame_locator(".beside iframe")
    expect(frame.locator("a[href$='/gone/']")).to_have_attribute("style", re.compile("solid"))
    page.keyboard.press("j")
    expect(page.locator(".beside")).to_contain_text("says only Click here")
    page.keyboard.press("j")
    expect(page.locator(".status")).to_have_text("No further findings.")
    page.keyboard.press("ArrowLeft")
    expect(page.locator(".status")).to_contain_text("Press pictures")
    page.keyboard.press("o")
    expect(page.locator(".status")).to_have_text("1 pages in view.")
    tiles.click(position={"x": 20, "y": HEAD + 5})
    expect(page.locator(".beside")).to_contain_text("Path from home")
    expect(page.locator(".beside ol.way li")).to_have_text(["Home", "News", "Press pictures"])
    page.locator(".beside ol.way a").nth(1).click()
    expect(page.locator("#beside-title")).to_have_text("News")
    page.go_back()
    expect(page.locator("#beside-title")).to_have_text("Press pictures")
    page.reload()
    expect(page.locator("#beside-title")).to_have_text("Press pictures")
    expect(page.get_by_label("Findings only")).to_be_checked()


def test_a_check_is_let_be_and_speaks_again(page: Page, application: Application) -> None:
    break_a_text(page, application)
    open_checks(page, application, query="?page=press&check=vague-link")
    beside = page.locator(".beside")
    expect(beside).to_contain_text("says only Click here")
    beside.get_by_text("Ignore…", exact=True).first.click()
    beside.get_by_label("The reason").fill("Quoted from the paper")
    beside.get_by_role("button", name="Ignore…").click()
    expect(beside).to_contain_text("Ignored. Reason: Quoted from the paper")
    expect(page.get_by_text("on 1 tile").first).to_be_visible()
    page.goto(f"{application.address}/sites/{SLUG}/map?page=press")
    expect(page.locator(".cm-line", has_text="vague-link: Quoted from the paper")).to_be_visible()
    open_checks(page, application, query="?page=press&check=vague-link")
    beside.get_by_role("button", name="Stop ignoring").click()
    expect(page.get_by_text("on 2 tiles").first).to_be_visible()
    counts = page.locator(".pane-head .broken").first.inner_text().partition(", on")[0]
    expect(page.locator(".standing")).to_contain_text(counts)  # a count has one meaning


def test_a_column_and_the_whole_are_told_beside(page: Page, application: Application) -> None:
    break_a_text(page, application)
    open_checks(page, application)
    beside = page.locator(".beside")
    expect(beside).to_contain_text("Choose a tile")
    beside.get_by_role("link", name="A link that leads nowhere").click()
    expect(page.locator("#beside-title")).to_have_text("A link that leads nowhere")
    expect(page).to_have_url(re.compile(r"\?check=dead-link$"))
    beside.get_by_role("link", name="Press pictures").click()
    expect(page.locator("#beside-title")).to_have_text("Press pictures")
    expect(page.locator(".beside:focus")).to_have_count(1)
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keyboard shortcuts")).to_contain_text("findings only")
    page.keyboard.press("Escape")
    page.locator("summary", has_text="Report").click()
    with page.expect_download() as started:
        page.get_by_role("link", name="SARIF 2.1.0").click()
    log = json.loads(Path(started.value.path()).read_text())
    assert "dead-link" in {result["ruleId"] for result in log["runs"][0]["results"]}


def test_a_large_site_is_folded_and_scrolls_to_its_end(page: Page, application: Application) -> None:
    open_checks(page, application, SEEDS)
    expect(page.locator(".tiles")).to_be_visible()
    tiles = page.locator(".tiles")
    until(page, lambda: tiles.evaluate("node => node.scrollHeight") < 1000)
    tiles.focus()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    expect(page.locator("#beside-title")).to_have_text("Varieties")
    page.keyboard.press("Space")
    until(page, lambda: tiles.evaluate("node => node.scrollHeight") < 1000)  # its sections are folded in turn
    page.get_by_label("Pages named").fill("e")
    expect(page.locator(".status")).to_contain_text("pages in view")
    until(page, lambda: tiles.evaluate("node => node.scrollHeight") > 15_000)
    tiles.focus()
    page.keyboard.press("End")
    until(page, lambda: tiles.evaluate("node => node.scrollTop") > 15_000)
    settle(page)
    # What is in view is drawn: the last row of tiles is green where it should be.
    colour = tiles.locator("canvas").evaluate(
        "(node, at) => [...node.getContext('2d').getImageData(at[0], at[1], 1, 1).data].slice(0, 3)",
        [LABEL + 7, page.evaluate("document.querySelector('.tiles').clientHeight") - 40],
    )
    assert colour == [27, 107, 80]


@pytest.mark.parametrize(
    "query", ["", "?page=visit/hours&check=menu-main", "?check=dead-link&view=table", "?page=press"]
)
def test_nothing_for_axe_on_the_mosaic(page: Page, application: Application, query: str) -> None:
    open_checks(page, application, query=query)
    expect(page.locator(".tiles, .across").first).to_be_visible()
    violations = Axe().run(page, "main").response["violations"]
    assert [(v["id"], [node["target"] for node in v["nodes"]][:3]) for v in violations] == []


def test_without_script_the_table_is_the_mosaic(page: Page, application: Application) -> None:
    context = page.context.browser.new_context(java_script_enabled=False)  # type: ignore[union-attr]
    plain = context.new_page()
    plain.goto(f"{application.address}/sites/{SLUG}/checks")
    plain.locator(".across").wait_for()  # until the build is done the page loads itself again
    expect(plain.locator(".across tbody tr")).to_have_count(25)
    plain.get_by_role("link", name="Next", exact=True).click()
    expect(plain.locator(".across tbody tr")).to_have_count(7)
    plain.get_by_role("link", name="ignored").first.click()
    expect(plain.locator(".beside")).to_contain_text("Ignored. Reason")
    context.close()


def test_the_report_page_is_valid_and_for_everybody(page: Page, demo: Source, tmp_path: Path) -> None:
    built = build(compile_map(demo.map, demo.files), demo.contents)
    assert built.results is not None
    report = Report("site.yaml", "", built.all_findings, mosaic_of(built.results))
    (tmp_path / "report.html").write_text(FORMATS["html"](report))
    done = subprocess.run(
        ["java", "-jar", str(JAR), "--errors-only", str(tmp_path / "report.html")], capture_output=True, check=False
    )
    assert done.stderr.decode() == ""
    page.goto(f"file://{tmp_path}/report.html")
    assert [v["id"] for v in Axe().run(page).response["violations"]] == []


AXE = {
    "empty-link": "link-name",
    "heading-order": "heading-order",
    "language": "html-has-lang",
    "no-title": "document-title",
    "one-main": "landmark-no-duplicate-main",
    "landmark-names": "landmark-unique",
    "focus-order": "tabindex",
    "unreadable-style": "color-contrast",
    "main-heading": "page-has-heading-one",
}
"""The rule of axe-core that looks for the same as a check of ours.

Two differ, each for a reason. `main-heading` speaks of two headings of level 1 as well, which axe lets be: its example
is such a page. `small-target` speaks of any picture that is a link and smaller than 24 px, as the page says; axe, which
sees the page drawn, lets it be where nothing else is near (WCAG 2.2, 2.5.8, the exception for spacing)."""
LETS_BE = {"main-heading"}


@pytest.mark.parametrize("code", [code for code in AXE if code not in LETS_BE])
def test_axe_says_the_same(page: Page, code: str) -> None:
    check = RULES[code]
    assert check.stage is Stage.ANY
    for example, speaks in ((check.good, False), (check.bad, True)):
        page.set_content(pages_of(example)["index.html"])
        violations = {violation["id"] for violation in Axe().run(page).response["violations"]}
        assert (AXE[code] in violations) is speaks, (code, violations)


NU = {
    "duplicate-id": "Duplicate ID",
    "one-main": "more than one visible",
    "no-title": "Element “head” is missing",
}
"""What the Nu HTML checker says to the same fault. Of `language` and `heading-order` it warns at most, since HTML asks
neither; links, names and sizes are no part of what it checks."""


def test_the_nu_checker_says_the_same(tmp_path: Path) -> None:
    expected = {}
    for code, says in NU.items():
        for example, speaks in ((RULES[code].good, False), (RULES[code].bad, True)):
            path = tmp_path / f"{code}-{speaks}.html"
            path.write_text(pages_of(example)["index.html"])
            expected[path.name] = says, speaks
    words = ["java", "-jar", str(JAR), "--format", "json", "--exit-zero-always", *map(str, tmp_path.glob("*.html"))]
    said = json.loads(subprocess.run(words, capture_output=True, check=True).stderr)["messages"]
    errors = [message for message in said if message["type"] == "error"]
    for name, (says, speaks) in expected.items():
        mine = [message["message"] for message in errors if message["url"].endswith(name)]
        assert any(says in message for message in mine) is speaks, (name, mine)
