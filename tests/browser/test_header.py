"""The header in a real browser: where it is after each step of a scroll, held against the simulation."""

from __future__ import annotations

import random
from typing import Any

import pytest
from playwright.sync_api import Browser

from basilica.core.compiled import compile_map
from basilica.core.header import Scene, simulate
from basilica.core.outputs.static_site import Renderer

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
        reach: box(".b-reach")?.bottom || 0,
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
    behaviour = chance.choice(["static", "stick", "shrink", "retreat", "shrink-retreat"])
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
        "until": chance.choice(["page", "content"]),
        "layer": 10,
    }


def page_of(settings: dict[str, Any], chance: random.Random) -> tuple[str, Any]:
    """A whole page with its style and script in it, and what is planned for its header."""
    said = ", ".join(f"{name}: {value}" for name, value in settings.items())
    row = "menus: {utility: [home]}\n" if chance.random() < 0.5 else ""
    text = f"site: {{name: Mill}}\npages: {{home: {{path: /}}, other: Other}}\n{row}header: {{{said}}}\n"
    plan = compile_map(text).plan
    assert plan is not None
    renderer = Renderer(plan, {})
    style, script = (renderer.generated_file(f"assets/navigation.{kind}").decode() for kind in ("css", "js"))
    tall = f'<div style="height: {chance.choice([300, 900, 2500, 4000])}px">Text</div>'
    html = renderer.page("home").decode().replace("</main>", tall + "</main>")
    head, _, rest = html.partition("</head>")
    head = "\n".join(line for line in head.splitlines() if "assets/" not in line)
    after = '<div style="height: 700px">After</div>' if settings["until"] == "content" else ""
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
            scene = Scene(start["page"], WINDOW, start["row"], start["reach"])
            moments = simulate(cell.settings, scene, list(enumerate(trace)))
            for step, (moment, real) in enumerate(zip(moments, seen, strict=True)):
                told = f"{settings} after {trace[: step + 1]} on {scene}: {moment}, but {real}"
                assert moment.state == real["state"], told
                for name in ("height", "top", "scrolled"):
                    assert abs(getattr(moment, name) - real[name]) <= 1, told
                compared += 1
    context.close()
    assert compared == 240 * 9
