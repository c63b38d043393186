"""Links as others follow them: the library that browsers' own parser is, and a general-purpose link checker."""

from __future__ import annotations

import csv
import http.server
import subprocess
import sys
import threading
from functools import partial
from pathlib import Path
from urllib.parse import unquote, urlsplit

import ada_url
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from basilica.core.build import build, verify
from basilica.core.compile import compile_map
from basilica.core.outputs.static_site import Renderer
from basilica.core.shared.output_file import File
from basilica.core.site_reader import Resolver
from basilica.store.folders import Source
from bench.plain import PlainSite
from bench.sites import large_contents, large_map

FILES = ("index.html", "a.html", "visit/index.html", "visit/hours.html", "visit/é x.html", "assets/a.css")
PIECES = st.sampled_from(
    ["..", ".", "visit", "hours.html", "a.html", "index.html", "é x.html", "%C3%A9%20x.html", "", "b"]
)
REFERENCES = st.builds(
    lambda start, pieces, end: start + "/".join(pieces) + end,
    st.sampled_from(["", "/", "./", "../", "//site.invalid/", "https://site.invalid/", "\\", " /"]),
    st.lists(PIECES, max_size=5),
    st.sampled_from(["", "/", "#x", "?q", "?q#%20x", "\t"]),
)


@given(st.sampled_from([file for file in FILES if file.endswith(".html")]), REFERENCES)
@example("visit/hours.html", "..")
@example("index.html", "//other.example/a.html")
def test_links_lead_where_ada_says(file: str, reference: str) -> None:
    """WHATWG URL, by `ada-url`; then what a server of files answers: a folder is its index.html."""
    path = ("/" + file).removesuffix("index.html")
    target = Resolver(FILES).target(file, reference)
    try:
        joined = urlsplit(ada_url.join_url("https://site.invalid" + path, reference))
    except ValueError:
        assert target.lost is not None
        return
    if joined.netloc != "site.invalid":
        assert target.outside
        return
    wanted = unquote(joined.path)[1:]
    names = (wanted, wanted + "index.html" if wanted.endswith("/") or not wanted else "", wanted + "/index.html")
    found = next((name for name in (*names, wanted + ".html") if name in FILES), None)
    assert (target.file, target.fragment) == (found, unquote(joined.fragment))


class Quiet(http.server.SimpleHTTPRequestHandler):
    def log_message(self, *_: object) -> None:
        pass


@pytest.mark.long
def test_dead_links_are_those_that_a_link_checker_finds(demo: Source, tmp_path: Path) -> None:
    """LinkChecker, on the same folder behind a plain server. Two things are other there: it asks the server for what
    other code of the site answers (`/tickets/`), where there is nothing; and it does not know that the canonical
    address and the sitemap speak of another host than the one it asks."""
    compiled = compile_map(demo.map, demo.files)
    assert compiled.plan is not None
    faults = {
        "visit/hours/index.html": ('href="/milling/calendar/">calendar', 'href="../calendar/">calendar'),
        "history/index.html": ("<h1", '<img src="/assets/none.png" alt="None"><a href="#nowhere">x</a><h1'),
        "news/index.html": ('href="/press/"', 'href="/presse/?a=1#b"'),
        "tides/index.html": ("/assets/site.", "/assets/sites."),
    }
    files = []
    for file in build(compiled, demo.contents).files:
        old, new = faults.get(file.path, ("", ""))
        assert old.encode() in file.data
        files.append(File(file.path, file.data.replace(old.encode(), new.encode(), 1)) if old else file)
    for file in files:
        (tmp_path / file.path).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / file.path).write_bytes(file.data)
    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), partial(Quiet, directory=str(tmp_path)))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    address = f"http://127.0.0.1:{server.server_port}"
    run = subprocess.run(
        [str(Path(sys.executable).parent / "linkchecker"), "--no-status", "-o", "csv", address + "/"],
        capture_output=True,
        text=True,
        timeout=300,
        check=False,
    )
    server.shutdown()
    rows = csv.DictReader((line for line in run.stdout.splitlines() if not line.startswith("#")), delimiter=";")
    theirs = {urlsplit(row["url"]).path for row in rows if row["valid"] == "False"}
    ours = {
        target.lost
        for finding in verify(files, compiled.plan, demo.contents).findings()
        if finding.code in ("dead-link", "missing-file")
        for target in [
            Resolver([f.path for f in files], compiled.plan).target(finding.built, finding.message.split("`")[1])
        ]
    }
    assert theirs - {"/tickets/"} == ours == {"/visit/calendar/", "/assets/none.png", "/presse/", *_style(files)}


def _style(files: list[File]) -> set[str]:
    name = next(file.path for file in files if file.path.startswith("assets/site."))
    return {"/" + name.replace("site.", "sites.", 1)}


@pytest.mark.long
def test_a_plain_template_makes_the_same_bytes() -> None:
    """What `make bench` measures against, and a second hand that wrote menus, marks and breadcrumbs."""
    plan, contents = compile_map(large_map(under=4)).plan, large_contents(under=4)
    assert plan is not None
    ours = {file.path: file.data for file in Renderer(plan, contents).files()}
    theirs = {
        file.path: file.data
        for file in PlainSite(plan, contents, tuple(f"/{path}" for path in ours if path.startswith("assets/"))).files()
    }
    assert len(theirs) == len(plan.site.pages) == 500
    assert {path: ours[path] for path in theirs} == theirs
