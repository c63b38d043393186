"""Kits in hosts that exist: each shows what the static site shows, and leaves the host as it was."""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path
from urllib.parse import quote

import pytest
from selectolax.lexbor import LexborHTMLParser

from basilica.core.map.map_files import Files
from basilica.core.map.site import Base
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.redirect_lists import redirect_target
from basilica.store.folders import Source
from tests.core.help import markdown, planned
from tests.core.test_languages import MAP as IN_LANGUAGES
from tests.core.test_languages import TEXTS as TEXTS_IN_LANGUAGES
from tests.core.test_outputs import LAYOUT, ODD, PUBLIC, TEXTS, own_templates
from tests.kits.help import COMMANDS, Host, host

SCRIPT = re.compile(rb"navigation\.[0-9a-f]{10}\.js")
"""The script says where the site is, and a kit learns it while it runs: so its stamp is another."""

RUFF = (sys.executable, "-m", "ruff", "check", "--isolated")


def renderer_of(name: str, demo: Source) -> Renderer:
    if name == "demo":
        return Renderer(planned(demo.map.decode(), demo.files), demo.contents)
    if name == "languages":
        contents = markdown(**TEXTS_IN_LANGUAGES)
        return Renderer(planned(IN_LANGUAGES, Files().with_heads(contents)), contents)
    own = own_templates() if name == "own templates" else {}
    return Renderer(planned(ODD, Files({"page-layouts/own.html": LAYOUT, **PUBLIC, **own})), markdown(**TEXTS))


@pytest.fixture(scope="module", params=COMMANDS)
def kind(request: pytest.FixtureRequest) -> str:
    return str(request.param)


@pytest.fixture(scope="module", params=["demo", "odd", "own templates", "languages"])
def site(request: pytest.FixtureRequest, demo: Source) -> Renderer:
    return renderer_of(request.param, demo)


@pytest.fixture(scope="module")
def where(kind: str, site: Renderer, tmp_path_factory: pytest.TempPathFactory) -> Host:
    return host(kind, site, tmp_path_factory.mktemp("host") / "host")


def pages(site: Renderer) -> dict[str, bytes]:
    """Every page of the static site by its path below that of the site, and by its further ones."""
    all_of = (site, *site.in_other_languages)
    own = {each.plan.routes[key].path: each.page(key) for each in all_of for key in each.pages}
    return own | {further.path: each.page(further.key or "") for each in all_of for further in each.plan.further}


def base_of(site: Renderer) -> str:
    return site.plan.site.base.path if site.plan.site.base else ""


@pytest.mark.tools
def test_whole_documents_are_those_of_the_static_site(site: Renderer, where: Host) -> None:
    wanted, base = pages(site), base_of(site)
    answers, _ = where.ask([base + path for path in wanted], base)
    for (path, page), answer in zip(wanted.items(), answers, strict=True):
        assert answer.status == 200, path
        assert SCRIPT.sub(b"", answer.body) == SCRIPT.sub(b"", page), path


SHARED = ("title", "link[rel=canonical]", "link[hreflang]", "script[type]", "header", ".b-breadcrumbs", "footer")


def shared(page: bytes) -> dict[str, list[str]]:
    """What pages share, as it stands in one: what is to be seen, and where it leads."""
    parser = LexborHTMLParser(page)
    return {each: [re.sub(r"\s+", " ", node.html or "") for node in parser.css(each)] for each in SHARED}


@pytest.mark.tools
@pytest.mark.parametrize("mount", ["", "/deep/er"])
def test_in_the_base_of_the_host_all_is_shared_as_in_the_static_site(site: Renderer, where: Host, mount: str) -> None:
    """At any mount point: link for link, mark for mark, with the host's own document around."""
    base = site.plan.site.base or Base("", "")
    moved = Renderer(site.plan.moved(base=Base(base.origin, mount), links="root"), site.all_contents)
    wanted = pages(moved)
    answers, problems = where.ask([mount + path for path in wanted], mount, own_base=True)
    assert problems == []
    for (path, page), answer in zip(wanted.items(), answers, strict=True):
        assert answer.status == 200 and b'<body class="host">' in answer.body, path
        assert shared(answer.body) == shared(page), path


@pytest.mark.tools
def test_the_host_stays_as_it_was(site: Renderer, where: Host) -> None:
    """Its own pages, its own errors, and what it escapes."""
    base = base_of(site)
    asked = ["/api/words", "/api/nothing", "/about-host", "/no-such-page", f"{base}/no/such/page/"]
    answers, _ = where.ask(asked, base, own_base=True)
    words, nothing, about, missing, below = answers
    assert (words.status, words.body.replace(b" ", b"").strip()) == (200, b'{"words":7}')
    assert (nothing.status, nothing.body) == (404, b"The host has nothing there.")
    assert b"&lt;Host&gt;" in about.body and b"<header" in about.body and b'aria-current="page"' not in about.body
    assert (missing.status, missing.body) == (404, b"The host has nothing there.")
    assert below.status == 404


@pytest.mark.tools
def test_files_and_old_addresses(site: Renderer, where: Host) -> None:
    """Names that change with what is in them are for good; the others keep their names and bytes."""
    base, plan = base_of(site), site.plan
    public = list(site.public_files())
    stamped = [
        file for file in site.assets_files() if file.path.startswith("assets/") and not file.path.endswith(".js")
    ]
    answers, _ = where.ask([f"{base}/{quote(file.path)}" for file in (*public, *stamped)], base)
    for file, answer in zip((*public, *stamped), answers, strict=True):
        assert (answer.status, answer.body) == (200, file.data), file.path
        assert ("immutable" in answer.headers.get("cache-control", "")) == (file in stamped), file.path
    answers, _ = where.ask([plan.addresses.old(old) for old in plan.redirects], base)
    for old, answer in zip(plan.redirects, answers, strict=True):
        assert (answer.status, answer.headers.get("location", "")) == (old.status, redirect_target(plan, old)), old
    if plan.site.base:
        sitemap, robots = where.ask([f"{base}/sitemap.xml", f"{base}/robots.txt"], base)[0]
        assert sitemap.body == site.generated_file("sitemap.xml") and robots.status == 200


@pytest.mark.tools
def test_a_page_that_other_code_answers_is_a_page_of_the_site(site: Renderer, where: Host) -> None:
    """Its entry is current, its parameters stand in its addresses, and it says what only the host knows."""
    base, plan = base_of(site), site.plan
    backends = [route for route in plan.routes.values() if route.is_backend]
    paths = [re.sub(r"\{\w+\}", "a b", re.sub(r"\{\w+\.\.\.\}", "x/y", route.path)) for route in backends]
    answers, _ = where.ask([base + quote(path) for path in paths], base, own_base=True, title="A & <b>")
    assert backends
    for route, path, answer in zip(backends, paths, answers, strict=True):
        page = LexborHTMLParser(answer.body)
        assert answer.status == 200, path
        assert "A & <b>" in page.css_first("title").text() and page.css_first("h1").text() == "A & <b>"
        assert page.css_first("main p").text() == "<b>"
        mark = plan.marks(route.key).get("main")
        current = page.css(".b-main a[aria-current]")
        assert not mark or [node.attributes["aria-current"] for node in current][:1] == [mark.current], path
        trail = page.css(".b-breadcrumbs li")
        assert not plan.breadcrumbs(route.key) or trail[-1].text().strip() == "A & <b>", path
        assert "{" not in "".join(node.attributes.get("href") or "" for node in page.css(".b-breadcrumbs a")), path


@pytest.mark.tools
def test_programs_are_well_written(demo: Source, tmp_path: Path) -> None:
    """Held against a general linter, and Node's own parser."""
    renderer = renderer_of("demo", demo)
    for kind in COMMANDS:
        folder = host(kind, renderer, tmp_path / kind).folder / COMMANDS[kind][1]
        done = subprocess.run(
            [
                sys.executable,
                "-m",
                "ruff",
                "check",
                "--isolated",
                "--line-length",
                "120",
                "--select",
                "E,F,I,UP,B",
                ".",
            ],
            cwd=folder,
            capture_output=True,
            text=True,
        )
        assert done.returncode == 0, done.stdout
        for script in folder.glob("*.js"):
            subprocess.run(["node", "--check", script], check=True)


@pytest.mark.tools
@pytest.mark.parametrize("kind", COMMANDS)
@pytest.mark.parametrize(
    ("change", "said"),
    [
        (("{% block content %}", "{% block inner %}"), "has no block"),
        (("{{ navigation.header }}", ""), "header"),
        (("{{ navigation.footer }}", ""), "footer"),
    ],
)
def test_what_is_wrong_in_a_host_is_said(
    kind: str, change: tuple[str, str], said: str, demo: Source, tmp_path: Path
) -> None:
    """A base without room for the content is an error that names its blocks; one that leaves a part out is found by the
    kit's own check."""
    there = host(kind, renderer_of("demo", demo), tmp_path / "host")
    base = next((there.folder).glob("*/base.html"))
    base.write_text(base.read_text().replace(*change))
    (answer,), problems = there.ask(["/visit/"], own_base=True)
    if said == "has no block":
        assert answer.status == 500
        told = there.log + answer.body.decode()
        assert kind == "django" or re.search("base.html has no block .?content.*inner", told), told
        assert problems
    else:
        assert any(said in problem for problem in problems) or set(problems) == {"its tests fail"}, problems


@pytest.mark.tools
def test_links_of_an_application_stay_in_the_language_of_the_page(demo: Source, tmp_path: Path) -> None:
    """And say where one is: on the page itself, and on those below it."""
    wanted = ["/cy/ymweld/", "/book", "page", "true", ""]
    programs = {
        "flask": "from site_navigation.pages import SITE; p = SITE.page('visit/hours@cy', '')\n"
        "print([p.address('visit'), p.address('book')] + [p.current(k) for k in ('visit/hours', 'visit', 'news')])",
        "express": "const site = require('./site-navigation/pages.js'); const p = new site.Page('visit/hours@cy', '');"
        "console.log([p.address('visit'), p.address('book'),"
        " ...['visit/hours', 'visit', 'news'].map((k) => p.current(k))])",
    }
    for kind, program in programs.items():
        there = host(kind, renderer_of("languages", demo), tmp_path / kind)
        command = [COMMANDS[kind][0][0], "-c" if kind == "flask" else "-e", program]
        said = subprocess.run(command, cwd=there.folder, capture_output=True, text=True, check=True).stdout
        found = re.findall(r"""'([^']*)'""", said.replace(' aria-current="', "").replace('"', ""))
        assert found == wanted, said
