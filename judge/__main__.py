"""Builds the demo sites and the maps that press hard, and holds every page against checkers, axe and Lighthouse."""

from __future__ import annotations

import http.server
import json
import os
import subprocess
import sys
import tempfile
import threading
from collections.abc import Iterator
from functools import partial
from pathlib import Path

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, sync_playwright

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.shared.markdown import Content
from basilica.core.shared.output_file import File
from basilica.store.folders import read_source
from basilica.web.demo import DEMO, SEEDS

ROOT = Path(__file__).parent.parent
CHECKERS = ROOT / "tests/checkers"
CHROMIUM = "/usr/bin/chromium"
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-sync"]
ENGLISH = """\
A mill is a house for two stones and some water, and for whoever sweeps the floor under both of them.

> A quotation.

```python
def floor(number): return number + 1
```

"""
ENGLISH += f"{'It is loud, and then it is very quiet. ' * 60}\n"
ARABIC = "طاحونة قديمة تعمل بالمد والجزر. " * 60
GERMAN = "Eine Mühle ist ein Haus für zwei Steine und etwas Wasser, und für den, der darunter den Boden fegt. " * 20
PICTURE = (
    '<div class="b-full"><img alt="A wall" width="1600" height="500" src="data:image/svg+xml,'
    "%3Csvg%20xmlns='http://www.w3.org/2000/svg'%20viewBox='0%200%2016%205'%3E"
    "%3Crect%20width='16'%20height='5'%20fill='%23753'/%3E%3C/svg%3E\"></div>"
)
WORDS = {"ar": ARABIC, "de": GERMAN}
"""What fills pages, in the language of each site; English for the others."""
WIDTHS = (320, 390, 768, 1280, 1920)
MODES = {
    "plain": {},
    "dark": {"color_scheme": "dark"},
    "forced colours": {"forced_colors": "active"},
    "less motion": {"reduced_motion": "reduce"},
}
OPEN = "document.querySelectorAll('[aria-expanded]').forEach((one) => one.setAttribute('aria-expanded', 'true'))"
LACKS = ("scripting", "view-transition", "Saw ")
"""What the Nu checker's own list of CSS lacks: Media Queries 5, 7.1, and View Transitions 1 and 2."""


def main() -> None:
    """Judge everything, or the sites that are named; ends with 1 where something is wrong."""
    wrong = 0
    with tempfile.TemporaryDirectory() as folder:
        for name, files in _sites():
            if sys.argv[1:] and name not in sys.argv[1:]:
                continue
            site = Path(folder) / name
            for file in files:
                (site / file.path).parent.mkdir(parents=True, exist_ok=True)
                (site / file.path).write_bytes(file.data)
            moved = b'http-equiv="refresh"'  # such a page leads on at once
            pages = [str(path.relative_to(site)) for path in site.rglob("*.html") if moved not in path.read_bytes()]
            pages.sort()
            found = [*_checked(site), *_seen(site, pages), *_measured(site)]
            wrong += len(found)
            print(f"{name}: {len(pages)} pages, {len(found)} wrong", flush=True)
            for line in found[:200]:
                print(f"  {line}", flush=True)
    sys.exit(1 if wrong else 0)


def _sites() -> Iterator[tuple[str, tuple[File, ...]]]:
    for place in (DEMO, SEEDS):
        source = read_source(place)
        yield place.parent.name, build(compile_map(source.map, source.files), source.contents).files
    for path in sorted((Path(__file__).parent / "maps").glob("*.yaml")):
        compiled = compile_map(path.read_text(encoding="utf-8"))
        assert compiled.plan is not None, compiled.findings
        words = WORDS.get(compiled.plan.site.language, ENGLISH)
        texts = dict.fromkeys(compiled.plan.site.pages, words)
        if "over" in texts:  # the page whose header lies over a picture
            texts["over"] = f"{PICTURE}\n\n# Over\n\n{words}"
        made = build(compiled, {key: Content(f"content/{key}.md", text) for key, text in texts.items()})
        for finding in made.findings:
            print(f"  {path.name}:{finding.line}: {finding.code} {finding.message}")
        yield path.stem, made.files


def _checked(site: Path) -> Iterator[str]:
    """What the Nu checker, html-validate and Stylelint say."""
    jar = str(ROOT / "frontend/node_modules/vnu-jar/build/dist/vnu.jar")
    sheets = [str(path) for path in site.glob("assets/[cn]*.css")]
    pages = [str(path) for path in site.rglob("*.html")]
    for words in (["--skip-non-html", str(site)], ["--css", *sheets]):
        done = subprocess.run(["java", "-jar", jar, *words], capture_output=True, text=True)
        yield from (f"Nu: {line}" for line in done.stderr.splitlines() if not any(word in line for word in LACKS))
    bin_ = CHECKERS / "node_modules/.bin"
    for tool, words in (
        ("html-validate", ["-c", str(CHECKERS / "htmlvalidate.json"), "--formatter", "text", *pages]),
        ("stylelint", ["--config", str(CHECKERS / "stylelint.json"), "--formatter", "unix", *sheets]),
    ):
        done = subprocess.run([str(bin_ / tool), *words], capture_output=True, text=True)
        yield from (f"{tool}: {line}" for line in done.stdout.splitlines() if line.strip())


def _seen(site: Path, pages: list[str]) -> Iterator[str]:
    """What axe says at five widths and in four modes, closed and open, and what lies over another thing or is cut."""
    faults = (ROOT / "tests/browser/generated.js").read_text(encoding="utf-8").partition("\n() =>")[2]
    with sync_playwright() as playwright, _served(site) as address:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        # What pages share is laid out alike on each: in narrow windows and other modes a part of them is enough.
        few = pages[:: max(1, len(pages) // 6)]
        for mode, settings in MODES.items():
            for width in WIDTHS:
                context = browser.new_context(viewport={"width": width, "height": 800}, **settings)
                page = context.new_page()
                for path in pages if (mode, width) == ("plain", 1280) else few:
                    for said in _of_page(page, f"{address}/{path}", faults):
                        if mode == "forced colours" and said.startswith("axe, color-contrast"):
                            continue  # the colours there are the reader's own
                        yield f"{mode}, {width} px, {path}: {said}"
                context.close()
        browser.close()


def _of_page(page: Page, address: str, faults: str) -> Iterator[str]:
    page.goto(address)
    yield from page.evaluate(f"() =>{faults}")
    for opened in (False, True):
        if opened:
            page.evaluate(OPEN)
        for rule in Axe().run(page).response["violations"]:
            yield f"axe, {rule['id']}: {rule['nodes'][0]['html'][:120]}"


def _measured(site: Path) -> Iterator[str]:
    """What Lighthouse gives less than 100 for, on a phone and on a desktop."""
    with _served(site) as address:
        for form in ("phone", "desktop"):
            words = [
                f"{address}/index.html",
                "--output=json",
                "--quiet",
                f"--chrome-flags={' '.join(['--headless=new', *FLAGS])}",
            ]
            words += ["--preset=desktop"] if form == "desktop" else []
            words += ["--only-categories=performance,accessibility,best-practices,seo"]
            done = subprocess.run(
                [str(ROOT / "judge/node_modules/.bin/lighthouse"), *words],
                capture_output=True,
                text=True,
                env={**os.environ, "CHROME_PATH": CHROMIUM},
            )
            if done.returncode:
                yield f"Lighthouse, {form}: {done.stderr.strip()[-200:]}"
                continue
            report = json.loads(done.stdout)
            for name, category in report["categories"].items():
                if category["score"] != 1:
                    weighed = [one["id"] for one in category["auditRefs"] if one["weight"]]
                    less = [name for name in weighed if (report["audits"][name]["score"] or 0) < 1]
                    yield f"Lighthouse, {form}: {name} has {100 * category['score']:.0f}, by {', '.join(less)}"


class _Quiet(http.server.SimpleHTTPRequestHandler):
    def do_GET(self) -> None:
        """A file; what browsers ask for unasked is no fault of the site."""
        if self.path == "/favicon.ico":
            self.send_response(204)
            self.end_headers()
        else:
            super().do_GET()

    def log_message(self, *_: object) -> None:
        """Nothing."""


class _served:  # noqa: N801
    """A folder as a plain server gives it out."""

    def __init__(self, folder: Path) -> None:
        self._server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), partial(_Quiet, directory=str(folder)))

    def __enter__(self) -> str:
        threading.Thread(target=self._server.serve_forever, daemon=True).start()
        return f"http://127.0.0.1:{self._server.server_port}"

    def __exit__(self, *_: object) -> None:
        self._server.shutdown()


if __name__ == "__main__":
    main()
