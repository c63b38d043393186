"""What is generated, under every condition that its readers have: letters, windows, colours, directions, paper."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.map.map_files import Files
from basilica.core.shared.markdown import Content
from basilica.core.shared.theme import contrast
from basilica.store.folders import Source
from tests.browser.conftest import serving, settle, until, write

pytestmark = pytest.mark.browser

FAULTS = (Path(__file__).parent / "generated.js").read_text(encoding="utf-8").partition("\n() =>")[2]
FAULTS = f"() =>{FAULTS}"
# WCAG 2.2, 1.4.12 Text Spacing
SPACING = (
    "* { line-height: 1.5 !important; letter-spacing: 0.12em !important; word-spacing: 0.16em !important }"
    " p { margin-bottom: 2em !important }"
)
# Narrow (WCAG 2.2, 1.4.10: 1,280 px at 400 % are 320), phones, on their side, tablets, desktops.
WINDOWS = ((320, 256), (320, 568), (390, 844), (740, 360), (768, 1024), (1024, 768), (1280, 800), (1920, 1080))
MAP = """\
site: {name: Verein der Freunde der Gezeitenmühle, base: "https://mill.example", language: de, links: file}
pages:
  home: {path: /, label: Start}
  visit:
    label: Besuch
    pages:
      hours: Öffnungszeiten
      way: {label: Anfahrtsbeschreibung, pages: {deep: {label: Schiffsanlegestelle, pages: {low: Niedrigwasser}}}}
  learn: {label: Wissen, pages: {wheel: Wasserrad, stones: Mühlsteine}}
  news: Neuigkeiten
  contact: Kontakt
menus:
  main: {entries: [home, visit: auto, news, contact, {group: Mehr, items: [wheel, stones, learn]}]}
  in-visit: {section: visit, entries: [visit, hours, way]}
  utility: [contact]
  footer: [home, news]
breadcrumbs: {shorten: 3}
HEADER
"""
TEXT = """\
<h1>Öffnungszeiten</h1>
<p>Donaudampfschifffahrtsgesellschaftskapitänsmützenabzeichen, und dazu <a href="page:news">Neuigkeiten</a>.</p>
<img src="file:marsh.svg" alt="Marsch">
<table><caption>Preise</caption><tr><th>Wer<th>Werktags<th>Am Wochenende und an allen Feiertagen
<tr><td>Erwachsene<td>6<td>8
</table>
<pre><code class="language-python">def offen(tag): return tag.month in range(4, 11) and tag.day > 4  # nie im Winter
</code></pre>
<p>{}</p>
""".replace("{}", "Viel Text, der gelesen werden will. " * 120)
PICTURE = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="900" height="600"><path d="M0 0h900v600H0z" fill="#9ab"/></svg>'
)
Made = Callable[..., str]


@pytest.fixture
def made(tmp_path: Path) -> Made:
    """Build the map above with other settings; gives the address of the folder."""

    def make(header: str = "", **replaced: str) -> str:
        text = MAP.replace("HEADER", header)
        for old, new in replaced.items():
            text = text.replace(old, new)
        contents = {"visit/hours": Content("content/visit/hours.html", TEXT)}
        result = build(compile_map(text, Files({"files/marsh.svg": PICTURE})), contents)
        assert not [finding for finding in result.findings if finding.stops]
        return f"file://{write(result.files, tmp_path)}"

    return make


def letters(page: Page, size: int) -> None:
    """The reader's own size of letters, px."""
    session = page.context.new_cdp_session(page)
    session.send("Page.setFontSizes", {"fontSizes": {"standard": size, "fixed": size}})


@pytest.mark.parametrize("size", [16, 24, 32])
def test_whatever_the_letters_nothing_overlaps_and_nothing_is_cut(page: Page, made: Made, size: int) -> None:
    """WCAG 2.2, 1.4.4, 1.4.10 and 1.4.12, at the top of the page and within it."""
    letters(page, size)
    wrong: dict[str, list[str]] = {}
    headers = ("{behaviour: shrink, small-height: 48}", "{behaviour: sticky, tagline: Acht Jahrhunderte}")
    for header in headers:
        address = made(f"header: {header}") + "/visit/way/deep/low/index.html"
        for width, height in WINDOWS:
            page.set_viewport_size({"width": width, "height": height})
            for style in ("", SPACING):
                page.goto(address)
                assert page.evaluate("getComputedStyle(document.documentElement).fontSize") == f"{size}px"
                page.add_style_tag(content=style or "/**/")
                found = page.evaluate(FAULTS)
                if found:
                    wrong[f"{header} {width} {bool(style)}"] = found
    assert wrong == {}


@pytest.mark.parametrize("behaviour", ["static", "sticky", "shrink", "hide"])
def test_a_header_takes_no_more_than_a_quarter_of_a_low_window(page: Page, made: Made, behaviour: str) -> None:
    page.goto(made(f"header: {{behaviour: {behaviour}, height: 96}}") + "/visit/hours/index.html")
    for width, height in ((320, 256), (740, 360)):
        page.set_viewport_size({"width": width, "height": height})
        assert page.locator(".b-header").bounding_box()["height"] <= height / 4 + 1  # type: ignore[index]
        page.evaluate("scrollTo(0, 900)")
        settle(page)
        assert page.locator(".b-header").evaluate("one => one.getBoundingClientRect().bottom") <= 0
        page.evaluate("scrollTo(0, 0)")


def test_a_name_takes_the_room_that_is_free(page: Page, made: Made) -> None:
    page.goto(made("header: {height: 64}") + "/index.html")
    lines = "one => Math.round(one.getBoundingClientRect().height / parseFloat(getComputedStyle(one).lineHeight))"
    for width, wanted in ((1280, 1), (320, 3)):
        page.set_viewport_size({"width": width, "height": 800})
        assert page.locator(".b-name span").evaluate(lines) <= wanted
        assert page.locator(".b-name span").evaluate("one => one.scrollHeight <= one.clientHeight + 1")


@pytest.mark.parametrize("width", [768, 1024, 1280, 1920])
@pytest.mark.parametrize("language", ["de", "ar"])
def test_submenus_stay_within_the_window(page: Page, made: Made, width: int, language: str) -> None:
    page.set_viewport_size({"width": width, "height": 500})
    page.goto(made("", **{"language: de": f"language: {language}", "main: {": "main: {fold: never, "}) + "/index.html")
    assert page.evaluate("document.documentElement.dir") == ("rtl" if language == "ar" else "")
    for button in page.locator(".b-main > ul > li > .b-submenu-button").all():
        button.click()
        box = button.locator("xpath=../ul").bounding_box()
        assert box and box["x"] >= 0 and box["x"] + box["width"] <= width and box["y"] + box["height"] <= 500
        widths = {round(one.bounding_box()["width"]) for one in button.locator("xpath=../ul/li/*[self::a]").all()}  # type: ignore[index]
        assert len(widths) <= 2  # beside a button, and alone
    assert page.locator('.b-main > ul > li > [aria-expanded="true"]').count() == 1


def test_arrow_keys_reach_every_entry_in_view(page: Page, made: Made) -> None:
    page.set_viewport_size({"width": 1600, "height": 700})
    page.goto(made() + "/index.html")
    page.locator(".b-main > ul > li > .b-submenu-button").first.click()
    page.locator(".b-main > ul > li > a").first.focus()
    reached = set()
    for _ in range(12):
        reached.add(page.evaluate("document.activeElement.textContent.trim() || document.activeElement.ariaLabel"))
        page.keyboard.press("ArrowDown")
    in_view = page.locator(".b-main a, .b-main button").evaluate_all(
        "ways => ways.filter((one) => one.offsetWidth).map((one) => one.textContent.trim() || one.ariaLabel)"
    )
    assert set(in_view) <= reached and "Niedrigwasser" not in in_view


def test_the_folded_menu_ends_where_the_window_does(page: Page, made: Made) -> None:
    page.goto(made("header: {behaviour: sticky}", **{"main: {": "main: {fold: always, "}) + "/visit/hours/index.html")
    for width, height in ((390, 500), (1920, 420)):
        page.set_viewport_size({"width": width, "height": height})
        page.locator(".b-menu-button").click()
        panel = page.locator(".b-main > ul")
        box = panel.bounding_box()
        assert box and box["y"] + box["height"] <= height + 1  # the row above counts as well
        assert panel.evaluate("one => getComputedStyle(one).borderBottomWidth") == "1px"
        page.keyboard.press("Escape")


def test_dark_where_dark_is_asked_for(page: Page, made: Made) -> None:
    """CSS Color Adjustment 1, 2; WCAG 2.2, 1.4.3."""
    look = """() => {
      const two = (n) => (+n).toString(16).padStart(2, "0");
      const hex = (text) => "#" + text.match(/[0-9]+/g).slice(0, 3).map(two).join("");
      const style = (name) => getComputedStyle(document.querySelector(name));
      const names = ["body", ".b-main a", "main h1", ".b-breadcrumbs a"];
      return names.map((name) => [hex(style("html").backgroundColor), hex(style(name).color)]);
    }"""
    page.emulate_media(color_scheme="dark")
    for theme in ("{preset: slate}", "{preset: meadow, link: '#123456'}", "{preset: harbour}", "{preset: lantern}"):
        page.goto(
            made(f"theme: {theme}\nheader: {{ground: '#ffffff', behaviour: sticky, opacity: 90}}")
            + "/visit/hours/index.html"
        )
        for ground, ink in page.evaluate(look):
            assert contrast(ground, "#ffffff") > 12 and contrast(ground, ink) >= 4.5, theme
        if "lantern" in theme:
            continue  # it is dark for everybody, and so is its bar
        bar = page.locator(".b-header").evaluate("one => getComputedStyle(one).backgroundColor")
        assert "1 1 1" not in bar and "255, 255, 255" not in bar
    page.goto(made("theme: {dark: never}") + "/visit/hours/index.html")
    assert page.evaluate(look)[0][0] == "#ffffff"


def test_shortened_breadcrumbs_stay_on_one_line(page: Page, made: Made) -> None:
    page.set_viewport_size({"width": 320, "height": 600})
    page.goto(made() + "/visit/way/deep/low/index.html")
    assert page.locator(".b-breadcrumbs ol").first.evaluate("one => one.getBoundingClientRect().height") < 34
    page.goto(made(**{"shorten: 3": "shorten: 3, look: steps"}) + "/visit/way/deep/low/index.html")
    assert page.locator(".b-breadcrumbs ol").first.evaluate("one => one.getBoundingClientRect().height") < 40
    page.locator(".b-breadcrumbs summary").click()
    assert page.locator(".b-breadcrumbs a").count() == 4
    assert page.evaluate("document.documentElement.scrollWidth") == 320


def test_who_comes_back_to_a_page_that_became_shorter_finds_the_place(page: Page, made: Made) -> None:
    page.goto(
        made("header: {behaviour: shrink, space: follows, height: 140}\ntheme: {font: system}")
        + "/visit/hours/index.html"
    )
    page.evaluate("scrollTo(0, 900)")
    settle(page)
    before = page.locator("main p").last.bounding_box()
    page.reload()

    def is_there() -> bool:
        after = page.locator("main p").last.bounding_box()
        return before is not None and after is not None and abs(before["y"] - after["y"]) <= 2

    until(page, is_there)
    settle(page)
    assert is_there()


def test_what_has_the_focus_is_in_view_with_its_ring(page: Page, made: Made) -> None:
    """WCAG 2.2, 2.4.11, under a fixed header and at the lower edge."""
    page.set_viewport_size({"width": 1000, "height": 480})
    links = "".join(f'<p><a href="#{n}">Link {n}</a></p>' for n in range(30))
    page.goto(made("header: {behaviour: sticky, layout: fixed, height: 80, min-window: 0}") + "/visit/hours/index.html")
    page.locator("main").evaluate("(main, links) => main.insertAdjacentHTML('beforeend', links)", links)
    page.locator("main a").last.focus()
    for key in ["Shift+Tab"] * 25 + ["Tab"] * 25:
        page.keyboard.press(key)
        box = page.evaluate("(({ top, bottom }) => [top, bottom])(document.activeElement.getBoundingClientRect())")
        assert box[0] >= 80 and box[1] + 5 <= 480


def test_edges_in_forced_colours_and_addresses_on_paper(page: Page, made: Made) -> None:
    page.emulate_media(forced_colors="active")
    page.set_viewport_size({"width": 390, "height": 800})
    page.goto(made() + "/visit/hours/index.html")
    page.locator(".b-menu-button").click()
    for button in page.locator(".b-main button").all():
        assert not button.is_visible() or button.evaluate("one => getComputedStyle(one).borderTopWidth") != "0px"
    page.emulate_media(media="print", forced_colors="none")
    address = made("", **{"links: file": "links: root"}).removeprefix("file://")
    with serving(Path(address)) as server:
        page.goto(f"{server}/visit/hours/")
        after = page.locator("main p a").evaluate("one => getComputedStyle(one, '::after').content")
        assert "https://mill.example" in after and "/news/" in after.replace("attr(href)", "/news/")
        assert page.locator(".b-main").evaluate("one => getComputedStyle(one).display") == "none"


def test_content_shifts_nothing_and_fits_every_window(page: Page, made: Made) -> None:
    """Web Vitals, layout shift; WCAG 2.2, 1.4.10 and 2.1.1."""
    page.add_init_script(
        "window.shift = 0; const add = (list) => list.getEntries().forEach((one) => (window.shift += one.value));"
        "new PerformanceObserver(add).observe({ type: 'layout-shift', buffered: true })"
    )
    page.set_viewport_size({"width": 320, "height": 600})
    page.goto(made() + "/visit/hours/index.html")
    settle(page)
    assert page.evaluate("window.shift") == 0
    picture = page.locator("main img")
    assert picture.evaluate("one => [one.width, one.height]") == [280, 187]
    assert page.evaluate("document.documentElement.scrollWidth") == 320
    box = page.locator("main .b-table")
    assert box.evaluate("one => one.scrollWidth > one.clientWidth") and box.get_attribute("aria-label") == "Preise"
    box.focus()
    page.keyboard.press("ArrowRight")
    page.wait_for_function("document.querySelector('.b-table').scrollLeft > 0")
    colours = page.locator(".b-code span").evaluate_all("all => all.map((one) => getComputedStyle(one).color)")
    assert len(set(colours)) >= 4
    assert page.locator("main h1").evaluate("one => one.scrollWidth <= one.clientWidth")


def test_pages_fade_and_are_fetched_ahead(browser: Browser, demo: Source, tmp_path: Path) -> None:
    """CSS View Transitions 2, 4; HTML, speculation rules; Media Queries 5, 11.1."""
    result = build(compile_map(demo.map, demo.files), demo.contents)
    fades = """() => [...document.styleSheets].flatMap((sheet) => [...sheet.cssRules]).some((rule) =>
      rule.media && matchMedia(rule.media.mediaText).matches
      && [...rule.cssRules].some((inner) => inner instanceof CSSViewTransitionRule && inner.navigation === "auto"))"""
    with serving(write(result.files, tmp_path)) as address:
        for motion in ("no-preference", "reduce"):
            context = browser.new_context(reduced_motion=motion)  # type: ignore[arg-type]
            page = context.new_page()
            page.goto(f"{address}/visit/hours/")
            assert page.evaluate(fades) is (motion == "no-preference")
            rules: dict[str, Any] = page.evaluate(
                "JSON.parse(document.querySelector('script[type=speculationrules]').textContent)"
            )
            assert {"not": {"href_matches": "/tickets/*"}} in rules["prefetch"][0]["where"]["and"]
            context.close()


def test_headers_stand_as_they_are_arranged(page: Page, made: Made) -> None:
    page.set_viewport_size({"width": 1280, "height": 800})

    def middle(name: str) -> tuple[float, float]:
        box = page.locator(name).bounding_box()
        assert box
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    page.goto(made("header: {arrange: centred, height: 120}") + "/index.html")
    assert abs(middle(".b-name")[0] - 640) < 2 and abs(middle(".b-main")[0] - 640) < 2
    assert middle(".b-main")[1] - middle(".b-name")[1] > 20
    page.goto(made("header: {arrange: two-rows, height: 120}") + "/index.html")
    name, menu = page.locator(".b-name").bounding_box(), page.locator(".b-main").bounding_box()
    assert name and menu and abs(name["x"] - menu["x"]) < 2 and menu["y"] >= name["y"] + name["height"]
    page.goto(made("header: {over-picture: yes, behaviour: sticky, height: 80}") + "/visit/hours/index.html")
    assert page.locator(".b-main a").first.evaluate("one => getComputedStyle(one).color") == "rgb(255, 255, 255)"
    assert page.locator(".b-breadcrumbs").bounding_box()["y"] < 80 + 60  # type: ignore[index]
    page.evaluate("scrollTo(0, 300)")
    page.wait_for_function("getComputedStyle(document.querySelector('.b-name')).color !== 'rgb(255, 255, 255)'")
    # White on the least that the header darkens of a white picture (WCAG 2.2, 1.4.3).
    assert contrast("#ffffff", f"#{3 * f'{round(255 * (1 - 0.56)):02x}'}") >= 4.5
    page.goto(made("header: {height: 80}", **{"main: {": "main: {submenus: panel, "}) + "/index.html")
    page.locator(".b-main > ul > li > .b-submenu-button").first.click()
    panel = page.locator(".b-main > ul > li > ul").first.bounding_box()
    assert panel and panel["x"] == 0 and panel["width"] == 1280


def test_a_part_in_the_bar_opens_and_closes(page: Page, made: Made) -> None:
    part = "slots: {bar: search}\nparts: {search: {kind: form, form: search, to: /search/}}"
    page.goto(made(part) + "/index.html")
    for width in range(600, 1300, 100):  # it stands in one row with the name and the menu, or with its button
        page.set_viewport_size({"width": width, "height": 700})
        rows = page.locator(".b-name, .b-main, .b-bar-part").evaluate_all(
            "all => all.map((one) => one.getBoundingClientRect()).map((box) => Math.round((box.top + box.bottom) / 2))"
        )
        assert max(rows) - min(rows) <= 2, (width, rows)
    page.get_by_text("Suchen").first.click()
    field = page.locator(".b-bar-part input")
    field.focus()
    page.keyboard.press("Escape")
    assert not field.is_visible() and page.evaluate("document.activeElement.tagName") == "SUMMARY"
    page.get_by_text("Suchen").first.click()
    page.locator("h1").click()
    assert not field.is_visible()
