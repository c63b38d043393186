"""``make bench``: builds a large site beside plain ways of doing the same, and prints ratios.

Everything is written twice over: to memory, where the work itself shows, and to the project's own disk. Of all rounds
the least time counts, since a disk that is busy with something else only ever adds to it.
"""

from __future__ import annotations

import gc
import os
import shutil
import subprocess
import sys
import time
from collections.abc import Callable, Iterable
from pathlib import Path

import yaml
from rich.console import Console
from rich.table import Table
from selectolax.lexbor import LexborHTMLParser

from basilica.core.build import verify
from basilica.core.compile import compile_map
from basilica.core.drawing import draw, folds
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan.content_links import Content
from basilica.core.shared.output_file import File
from basilica.store.build_folder import BuildFolder
from basilica.store.folders import write_atomically
from bench.inlays import inlays
from bench.kit_start import kit_start
from bench.load import load
from bench.plain import PlainSite
from bench.publishing import publishing
from bench.sites import PAGES, large_contents, large_map, map_of

DISK = Path(__file__).parent / ".work"
MEMORY = Path("/dev/shm/basilica-bench")
EDITED = 2_000
SAMPLE = "section-3/page-3-3/index.html"

Runs = dict[str, Callable[[], object]]


def main() -> None:
    """Measure, taking turns so that all sides see the same machine, and print the least times and their ratios."""
    console = Console()
    text, contents = large_map(), large_contents()
    changes(console, text, contents)
    compiled = compile_map(text)
    assert compiled.plan is not None
    assert not compiled.stops, compiled.findings[:3]
    plan = compiled.plan
    files = list(Renderer(plan, contents).files())
    plain = PlainSite(plan, contents, tuple(f"/{f.path}" for f in files if f.path.startswith("assets/")))
    theirs = next(file.data for file in plain.files() if file.path == SAMPLE)
    assert theirs == next(file.data for file in files if file.path == SAMPLE), "the two do not make the same page"
    pages = [file for file in files if file.path.endswith(".html")]
    size = sum(len(file.data) for file in files)
    console.print(f"{PAGES:,} pages, {len(files):,} files of {size / len(files):,.0f} bytes on average.")
    for name, folder, rounds in (("memory", MEMORY, 5), ("the disk", DISK, 3)):
        if not folder.parent.is_dir():
            continue
        runs: Runs = {
            "build": lambda folder=folder: write(Renderer(compile_map(text).plan or plan, contents).files(), folder),
            "plain": lambda folder=folder: write(plain.files(), folder),
            "bytes": lambda folder=folder: write(files, folder),
        }
        least = measure(runs, rounds, folder)
        show(console, f"Written to {name}", least)
        console.print(f"  build / plain template:       {least['build'] / least['plain']:.2f}  (wanted: below 0.50)")
        console.print(
            f"  build / writing the same:     {least['build'] / least['bytes']:.2f}  (wanted on disk: 3 at most)"
        )
    runs = {
        "again": lambda: verify(files, plan, contents).findings(),
        "parse": lambda: [LexborHTMLParser(page.data).root for page in pages],
    }
    least = measure(runs, 3, MEMORY)
    show(console, "Reading the built files again", least)
    console.print(f"  reading again / parsing alone: {least['again'] / least['parse']:.2f}  (wanted: 4 at most)")
    megabytes = int(subprocess.run([sys.executable, "-m", "bench.memory"], capture_output=True, check=True).stdout)
    console.print(f"  memory of building and checking, in a process of its own: {megabytes} MB  (wanted: below 1,000)")
    keystroke(console)
    inlays(console, measure, show, MEMORY)
    publishing(console, measure, show, MEMORY)
    kit_start(console, measure, show)
    load(console)


def changes(console: Console, text: str, contents: dict[str, Content]) -> None:
    """One page's text changed, and one menu label: what that costs while the site is open, beside writing the files."""
    folder = DISK
    plan = compile_map(text).plan
    assert plan is not None
    open_site = Renderer(plan, contents)
    key = "section-3/page-3-3"
    open_site.page(key)
    file = plan.routes[key].file
    other = {**contents, key: Content(contents[key].name, contents[key].text + "One word more.\n")}
    page = open_site.with_contents(other).page(key)
    assert page != open_site.page(key)
    renamed = text.replace("    title: Section 1\n", "    title: Section One\n    label: One\n", 1)
    after = compile_map(renamed).plan
    assert after is not None
    files = list(Renderer(after, contents).files())
    before = {each.path: each.data for each in open_site.files()}
    must = [each for each in files if before.get(each.path) != each.data]
    assert len(must) > PAGES * 0.99

    def one_text() -> None:
        write_atomically(folder / file, open_site.with_contents(other).page(key))

    def one_label() -> None:
        changed = compile_map(renamed).plan
        assert changed is not None
        made = Renderer(changed, contents)
        write((each for each in made.files() if before.get(each.path) != each.data), folder)

    runs: Runs = {
        "one text": one_text,
        "its file": lambda: write_atomically(folder / file, page),
        "one label": one_label,
        "its files": lambda: write(must, folder),
    }
    least = measure(runs, 5, folder)
    show(console, "Changed, and written to the disk", least)
    console.print(f"  one text / its file:   {least['one text'] / least['its file']:.2f}  (wanted: 3 at most)")
    console.print(f"  one label / its files: {least['one label'] / least['its files']:.2f}  (wanted: 3 at most)")


def keystroke(console: Console) -> None:
    """What the server computes after a keystroke, beside the parser's events alone."""
    text = map_of(EDITED)

    def drawn() -> None:
        plan = compile_map(text).plan
        assert plan is not None
        draw(plan, folded=folds(plan))

    runs: Runs = {
        "drawn": drawn,
        "events": lambda: [None for _ in yaml.parse(text, Loader=yaml.CSafeLoader)],
    }
    least = measure(runs, 25, MEMORY)
    show(console, f"After a keystroke, at {EDITED:,} pages", least, EDITED)
    console.print(
        f"  reading, checking and drawing / events: {least['drawn'] / least['events']:.2f}  (wanted: 5 at most)"
    )


def write(files: Iterable[File], folder: Path) -> None:
    """Write files as the command line does, into a folder that is not there yet."""
    with BuildFolder(folder / f"out-{time.monotonic_ns()}", False, ()) as made:
        made.write(files, lambda: None)
        made.keep()


def measure(runs: Runs, rounds: int, folder: Path) -> dict[str, float]:
    """The least seconds of each run over all rounds."""
    shutil.rmtree(folder, ignore_errors=True)
    least = dict.fromkeys(runs, float("inf"))
    gc.collect()
    gc.freeze()  # what the bench itself holds is no part of any side
    for _ in range(rounds):
        for name, run in runs.items():
            gc.collect()
            os.sync()
            begun = time.perf_counter()
            run()
            least[name] = min(least[name], time.perf_counter() - begun)
    shutil.rmtree(folder, ignore_errors=True)
    return least


NAMES = {
    "kit": "the kit",
    "hand": "by hand",
    "build": "Basilica: from the map's text to files",
    "plain": "(a) a template that loops over the menu on each page, the same bytes",
    "bytes": "(b) writing the same bytes",
    "one text": "one page's text changed: making and writing that page",
    "its file": "writing the same file",
    "one label": "one label changed: reading, making and writing every page that shows it",
    "its files": "writing the same files",
    "again": "parsing, reading and checking every file",
    "parse": "parsing alone",
    "drawn": "reading, checking and drawing the map",
    "events": "the parser's event stream alone",
    "place": "putting marks into every page, and what all share between them",
    "alone": "parsing every page, and writing the same",
    "check": "holding every page against the map",
    "compare": "comparing a build with what is live",
    "hash": "hashing the files of both",
    "send": "comparing, sending, each file beside and then renamed over",
    "copy": "the same library's plain copy",
}


def show(console: Console, title: str, least: dict[str, float], pages: int = PAGES) -> None:
    """Print one table of least times."""
    table = Table(title, "seconds", "µs a page")
    for name, seconds in least.items():
        table.add_row(NAMES[name], f"{seconds:.3f}", f"{seconds / pages * 1e6:,.0f}")
    console.print(table)


if __name__ == "__main__":
    main()
