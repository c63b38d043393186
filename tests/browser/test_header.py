"""The header in a real browser: where it is after each step of a scroll, held against the simulation."""

from __future__ import annotations

import random
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.header import Machine, Settings, Viewport, simulate, table_of
from basilica.core.header.scroll_traces import TRACES
from basilica.core.outputs.static_site import Renderer
from basilica.store.folders import Source
from tests.browser.conftest import Application, serving, settle, write
from tests.browser.test_application import SITE

WINDOW = 600
STEPS = """([pages, traces, window]) => {
  const frame = () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  const frames = pages.map((html) => {
    const frame = document.createElement("iframe");
    Object.assign(frame.style, { width: "1000px", height: window + "px", border: 0, position: "fixed", top: 0 });
    frame.srcdoc = html;
    document.body.append(frame);
    return new Promise((done) => (frame.onload = () => done(frame)));
  });
  return Promise.all(frames).then(async (frames) => {
    const seen = frames.map(() => []);
    const look = (frame) => {
      const { document } = frame.contentWindow;
      const box = document.querySelector(".b-header").getBoundingClientRect();
      const state = document.documentElement.dataset.bState || "rest";
      return { state, top: box.top, height: box.height, scrolled: frame.contentWindow.scrollY };
    };
    const start = frames.map((frame) => {
      const root = frame.contentWindow.document;
      const box = (name) => root.querySelector(name)?.getBoundingClientRect();
      return {
        page: root.documentElement.scrollHeight,
        row: box(".b-utility")?.height || 0,
        reach: box("[data-b-end]")?.top || box(".b-header-range")?.bottom || 0,
        top: look(frame).top,
      };
    });
    for (let step = 0; step < traces[0].length; step++) {
      frames.forEach((frame, at) => frame.contentWindow.scrollTo({ top: traces[at][step], behavior: "instant" }));
      for (let waited = 0; waited < 3; waited++) await frame();
      frames.forEach((frame, at) => seen[at].push(look(frame)));
    }
    frames.forEach((frame) => frame.remove());
    return { start, seen };
  });
}"""


def made_up(chance: random.Random) -> dict[str, Any]:
    """Settings at random, none of which flickers."""
    height = chance.randint(40, 150)
    depth = chance.randint(60, 260)
    behaviour = chance.choice(["static", "sticky", "shrink", "hide", "shrink-hide"])
    return {
        "behaviour": behaviour,
        "height": height,
        "small": chance.randint(26, height - 10),
        "depth": max(depth, height + 20),
        "band": chance.choice([height, chance.randint(height, max(depth, height + 20))]),
        "hides-after": chance.choice([0, 8, 40]),
        "returns-after": chance.choice([0, 8, 40]),
        "shadow": chance.choice(["none", "scrolled", "always"]),
        "layout": chance.choice(["sticky", "sticky", "fixed"]),
        "room": chance.choice(["kept", "kept", "follows"]),
        "border": chance.choice(["line", "none"]),
        "bar": chance.choice(["full", "content"]),
        "row": chance.choice(["scrolls", "stays", "leaves"]),
        "until": chance.choice(["page", "content", "after", "stop"]),
        "layer": 10,
    }


def page_of(settings: dict[str, Any], chance: random.Random) -> tuple[str, Any]:
    """A whole page with its style and script in it, and what is planned for its header."""
    said = ", ".join(f"{name}: {value}" for name, value in settings.items())
    row = "menus: {utility: [home]}\n" if chance.random() < 0.5 else ""
    ends = settings["until"] in ("after", "stop")
    above = "header: stop, " if chance.random() < 0.5 else ""  # it stands in the row above as well
    row += f"parts: {{stop: Stop}}\nslots: {{{above}after: stop}}\n" if ends else ""
    text = f"site: {{name: Mill}}\npages: {{home: {{path: /}}, other: Other}}\n{row}header: {{{said}}}\n"
    plan = compile_map(text).plan
    assert plan is not None
    renderer = Renderer(plan, {}, stamps=False)
    style, script = (renderer.generated_file(f"assets/navigation.{kind}").decode() for kind in ("css", "js"))
    tall = f'<div style="height: {chance.choice([300, 900, 2500, 4000])}px">Text</div>'
    before = '<div class="b-after">' if ends else "</main>"
    html = renderer.page("home").decode().replace(before, tall + before)
    head, _, rest = html.partition("</head>")
    head = "\n".join(line for line in head.splitlines() if "assets/" not in line)
    after = '<div style="height: 700px">After</div>' if settings["until"] != "page" else ""
    inside = rest.replace("</body>", f"{after}<script>{script}</script></body>")
    return f"{head}<style>{style}</style></head>{inside}", plan.header.cell(1000, WINDOW)


# CSS Positioned Layout 3 and CSS Scroll Anchoring 1, as Chromium has them, for 240 settings and traces at random.
@pytest.mark.browser
def test_the_simulation_is_what_the_browser_shows(browser: Browser) -> None:
    chance = random.Random(20261125)
    context = browser.new_context(viewport={"width": 1000, "height": WINDOW}, reduced_motion="reduce")
    page = context.new_page()
    compared = 0
    for _ in range(12):
        made = [made_up(chance) for _ in range(20)]
        pages = [page_of(settings, chance) for settings in made]
        traces = [
            [chance.choice([0, near, near + chance.uniform(-30, 30), chance.uniform(0, 4000)]) for _ in range(9)]
            for near in (settings["depth"] for settings in made)
        ]
        traces = [[round(depth) for depth in trace] for trace in traces]
        found = page.evaluate(STEPS, [[html for html, _ in pages], traces, WINDOW])
        for settings, (_, cell), trace, start, seen in zip(
            made, pages, traces, found["start"], found["seen"], strict=True
        ):
            viewport = Viewport(start["page"], WINDOW, start["row"], start["reach"])
            moments = simulate(cell.settings, viewport, list(enumerate(trace)))
            for step, (moment, real) in enumerate(zip(moments, seen, strict=True)):
                told = f"{settings} after {trace[: step + 1]} on {viewport}: {moment}, but {real}"
                assert moment.state == real["state"], told
                for name in ("height", "top", "scrolled"):
                    assert abs(getattr(moment, name) - real[name]) <= 1, told
                compared += 1
    context.close()
    assert compared == 240 * 9


def built(demo: Source, folder: Path, header: str) -> Path:
    """The demo with another header; all findings but those about the share of the screen stop it here."""
    text = demo.map.decode()
    start = text.index("header:\n  behaviour")
    end = text.index("\n\n", start)
    result = build(compile_map(text[:start] + f"header: {header}" + text[end:], demo.files), demo.contents)
    assert {finding.code for finding in result.findings if finding.level in ("error", "warning")} <= {
        "header-takes-much",
        "untranslated",  # the line under the name, for one
    }
    return write(result.files, folder)


HEADERS = [
    "{behaviour: shrink, shadow: scrolled, min-window: 0}",
    "{behaviour: hide, top-row: stays, min-window: 0}",
    "{behaviour: shrink-hide, top-row: leaves, tagline: With the tide, min-window: 0}",
    "{behaviour: sticky, layout: fixed, top-row: stays, min-window: 0}",
]


# Web Vitals: a layout shift of at most 0.1 is good; here there is none at all.
@pytest.mark.parametrize("header", HEADERS)
def test_no_ready_made_trace_shifts_the_layout(page: Page, demo: Source, tmp_path: Path, header: str) -> None:
    with serving(built(demo, tmp_path, header)) as address:
        page.goto(address + "/visit/hours/")
        page.add_style_tag(content="main { min-height: 4000px }")
        settle(page)
        page.evaluate("""() => { window.shifts = 0; new PerformanceObserver((list) => {
            for (const entry of list.getEntries()) window.shifts += entry.value;
        }).observe({ type: "layout-shift", buffered: false }) }""")
        end = page.evaluate("document.documentElement.scrollHeight - innerHeight")
        for _, trace in TRACES.values():
            points = [[time / 2, depth] for time, depth in trace(Settings(threshold=100), end)]
            page.evaluate(
                """(points) => new Promise((done) => {
                  const start = performance.now();
                  let at = 0;
                  requestAnimationFrame(function next() {
                    while (at < points.length && points[at][0] <= performance.now() - start) at++;
                    scrollTo({ top: points[Math.max(at - 1, 0)][1], behavior: "instant" });
                    if (at < points.length) requestAnimationFrame(next); else setTimeout(done, 350);
                  });
                })""",
                points,
            )
        assert page.evaluate("document.documentElement.dataset.bState || 'rest'") != ""
        assert page.evaluate("window.shifts") == 0


# Common practice, no source: a bar runs the width of the window; what is in it keeps the width of the content, centred.
def test_the_bar_is_as_wide_as_the_window_and_what_is_in_it_as_the_content(
    page: Page, demo: Source, tmp_path: Path
) -> None:
    for bar, widths in (("full", (1280, 900)), ("content", (900, 900))):
        folder = built(demo, tmp_path / bar, f"{{behaviour: static, width: 900, bar: {bar}}}")
        with serving(folder) as address:
            page.goto(address + "/visit/hours/")
            for name, width in zip((".b-header", ".b-header .b-bar"), widths, strict=True):
                box = page.locator(name).bounding_box()
                assert box and (box["width"], box["x"]) == (width, (1280 - width) / 2)


JUMPS = """([paths, starts]) => Promise.all(paths.map(async (path) => {
  const frame = document.createElement("iframe");
  Object.assign(frame.style, { width: "1280px", height: "420px", border: 0, position: "fixed", top: 0 });
  frame.src = path;
  document.documentElement.append(frame);
  await new Promise((done) => (frame.onload = done));
  const inside = frame.contentWindow, root = inside.document.documentElement;
  const still = () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  const edge = () => Math.max(...[".b-header", ".b-utility"].map((name) => {
    const part = root.querySelector(name);
    if (!part || inside.getComputedStyle(part).position === "static") return 0;
    return part.getBoundingClientRect().bottom;
  }));
  const hidden = [], states = new Set(), found = [...root.querySelectorAll("main [id]")];
  for (const { id } of found) for (const way of starts) {
    for (const depth of way) {
      inside.scrollTo({ top: depth * root.scrollHeight, behavior: "instant" });
      await still();
    }
    states.add(root.dataset.bState || "rest");
    inside.location.hash = "";
    inside.location.hash = "#" + id;
    await still();
    await still();
    const { top } = inside.document.getElementById(id).getBoundingClientRect();
    if (top < edge() - 1 || top > inside.innerHeight) hidden.push([path, id, way, top, edge()]);
  }
  return [hidden, [...states], found.length];
}))"""


# CSS Scroll Snap 1: `scroll-padding` keeps what a jump leads to clear of what lies over the top of the window.
@pytest.mark.parametrize("header", HEADERS)
def test_every_anchor_is_in_view_whatever_state_one_jumps_in(
    browser: Browser, demo: Source, tmp_path: Path, header: str
) -> None:
    context = browser.new_context(viewport={"width": 1280, "height": 420}, reduced_motion="reduce")
    page = context.new_page()
    plan = compile_map(demo.map, demo.files).plan
    assert plan is not None
    with serving(built(demo, tmp_path, header)) as address:
        page.goto(address + "/robots.txt")
        paths = [plan.routes[key].path for key in plan.builds()]
        found = page.evaluate(JUMPS, [paths, [[0], [0, 0.3], [0, 1], [1, 0.9], [0.2, 0.16]]])
    context.close()
    assert [hidden for hidden, _, _ in found if hidden] == []
    assert sum(count for _, _, count in found) > 20
    wanted = {row.state for row in table_of(Settings(behaviour=plain(header)))} | {"rest"}
    assert set().union(*(states for _, states, _ in found)) >= wanted


def plain(header: str) -> str:
    """The behaviour in a header's settings."""
    return header.partition("behaviour: ")[2].partition(",")[0]


FOCUSED = """() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => {
  const at = document.activeElement, box = at.getBoundingClientRect();
  if (at === document.body) return done(null);
  const x = box.left + Math.min(box.width / 2, 4);
  const seen = [box.top + 2, box.bottom - 2].map((edge) => {
    const node = document.elementFromPoint(x, Math.min(Math.max(edge, 0), innerHeight - 1));
    return node && (at.contains(node) || node.contains(at));
  });
  done([at.textContent.trim(), seen.every(Boolean)]);
})))"""


FOCUSES = """async () => {
  const still = () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  const every = [...document.querySelectorAll("a[href], button, summary")].filter((node) => node.offsetWidth);
  const hidden = [];
  for (const at of [...every, ...every.reverse()]) {
    if (!at.offsetWidth) continue;
    at.focus();
    await still();
    const box = at.getBoundingClientRect(), x = box.left + Math.min(box.width / 2, 4);
    for (const edge of [box.top + 2, box.bottom - 2]) {
      const seen = document.elementFromPoint(x, Math.min(Math.max(edge, 0), innerHeight - 1));
      if (!seen || !(at.contains(seen) || seen.contains(at))) hidden.push([at.textContent.trim(), edge]);
    }
  }
  return [hidden, every.length];
}"""


# WCAG 2.2, 2.4.11: what has the focus is not wholly hidden; here it is not hidden at all. Every page with the header
# that moves most; one page with each of the others, and by the key itself.
@pytest.mark.parametrize("header", HEADERS)
def test_nothing_that_has_the_focus_is_under_the_header(
    browser: Browser, demo: Source, tmp_path: Path, header: str
) -> None:
    context = browser.new_context(viewport={"width": 1000, "height": 420}, reduced_motion="reduce")
    page = context.new_page()
    plan = compile_map(demo.map, demo.files).plan
    assert plan is not None
    keys = plan.builds() if "shrink-hide" in header else ("visit/hours",)
    with serving(built(demo, tmp_path, header)) as address:
        for key in keys:
            page.goto(address + plan.routes[key].path)
            hidden, count = page.evaluate(FOCUSES)
            assert (hidden, count > 10) == ([], True), key
        page.goto(address + "/visit/hours/")
        stops = 0
        for key in ("Tab", "Shift+Tab"):
            for _ in range(200):
                page.keyboard.press(key)
                here = page.evaluate(FOCUSED)
                if here is None:
                    break
                stops += 1
                assert here[1], (key, here)
    context.close()
    assert stops > 30


# A rubber band pulls a page past its ends; this browser has none, so the script is told of one.
def test_a_rubber_band_changes_nothing(page: Page, demo: Source, tmp_path: Path) -> None:
    with serving(built(demo, tmp_path, "{behaviour: shrink-hide}")) as address:
        page.goto(address + "/visit/hours/")
        page.add_style_tag(content="main { min-height: 3000px }")
        end = page.evaluate("document.documentElement.scrollHeight - innerHeight")
        machine = Machine(table_of(Settings(behaviour="shrink-hide")))
        for depth in (0, -80, -5, 400, end, end + 90, end + 20, end, end - 20, -60, 0):
            seen = page.evaluate(
                """(depth) => new Promise((done) => {
                  Object.defineProperty(window, "scrollY", { get: () => depth, configurable: true });
                  dispatchEvent(new Event("scroll"));
                  const root = document.documentElement;
                  requestAnimationFrame(() => requestAnimationFrame(() => done(root.dataset.bState)));
                })""",
                depth,
            )
            assert seen == machine.look(depth, end), depth


def test_a_header_is_tried_drawn_recorded_and_written(page: Page, application: Application) -> None:
    page.goto(f"{application.address}{SITE}/header?page=visit/hours")
    says = page.locator(".frame-says")
    expect(says).to_have_text("The page beside matches.")
    page.locator("#depth").focus()
    for _ in range(3):
        page.keyboard.press("PageUp")
    depth = page.locator("#depth")
    depth.fill("150")
    expect(page.locator(".now .here")).to_have_text("small")
    expect(says).to_have_text("The page beside matches.")
    expect(page.locator(".machine .live th")).to_have_text(["small"])
    page.get_by_role("button", name="Hides on scroll down").first.click()
    expect(page.locator("figcaption")).to_contain_text(["As the map has it: shrink", "As set here: hide"])
    page.locator("#own-opacity").fill("30")
    expect(page.locator(".facts-pane .notice", has_text="opacity:")).to_be_visible()
    page.locator("#own-opacity").fill("300")
    expect(page.locator(".own .notice.wrong")).to_contain_text("300")
    page.locator("#own-opacity").fill("")
    page.get_by_role("link", name="Jumps to anchors").click()
    expect(page.locator(".strip").last).to_have_attribute("aria-label", "The trace along time: rest, hidden, rest")
    beside = page.locator(".stage .ground")
    expect(beside).to_have_attribute("aria-busy", "false")  # the trace was played to its end
    frame = next(one for one in page.frames if one.parent_frame)
    page.locator("h2").first.click()
    page.keyboard.press("r")
    expect(page.locator("[x-ref=record]")).to_have_attribute("aria-pressed", "true")
    expect(beside).to_have_attribute("aria-busy", "false")
    for depth_now in (150, 260, 200, 60):
        frame.evaluate("depth => scrollTo(0, depth)", depth_now)
        expect(page.locator("#depth")).to_have_value(str(depth_now))  # it was told, and so recorded
    page.keyboard.press("r")
    expect(page.locator(".stage .notice")).to_contain_text("Recorded")
    expect(page.locator(".strip").last).to_have_attribute("aria-label", "The trace along time: rest, hidden, rest")
    page.get_by_role("button", name="Replay").click()
    expect(beside).to_have_attribute("aria-busy", "false")
    expect(page.locator("#depth")).to_have_value("60")  # where the recording ended
    page.get_by_role("button", name="Save to map").click()
    expect(page.locator(".notice.done")).to_contain_text("to the map")
    expect(page.locator("figcaption")).to_contain_text(["As the map has it: hide"])
    page.get_by_role("link", name="In the map").click()
    expect(page.locator(".cm-content")).to_contain_text("behaviour: hide")


def test_what_somebody_else_saved_meanwhile_stays_and_is_said(page: Page, application: Application) -> None:
    page.goto(application.address + SITE + "/header")
    other = page.context.new_page()
    other.goto(application.address + SITE + "/header")
    for name, value in (("height", "90"), ("small-height", "44")):
        other.locator(f"#own-{name}").fill(value)
    other.get_by_role("button", name="Save to map").click()
    expect(other.get_by_text("Saved height, small-height to the map.")).to_be_visible()
    page.locator("#own-height").fill("95")
    page.get_by_role("button", name="Save to map").click()
    expect(page.get_by_role("alert")).to_contain_text("Somebody else changed height meanwhile")
    expect(page.get_by_label("Keep “90”, as they saved it")).not_to_be_checked()
    expect(page.locator("#own-height")).to_have_value("95")
    expect(page.locator("#own-small-height")).to_have_value("44")
    page.get_by_label("Replace it with what is typed here: “95”").check()
    page.get_by_role("button", name="Save to map").click()
    expect(page.get_by_text("Saved height to the map.")).to_be_visible()
    page.goto(application.address + SITE + "/header")
    expect(page.locator("#own-height")).to_have_value("95")
    expect(page.locator("#own-small-height")).to_have_value("44")
