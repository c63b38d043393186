"""The other outputs, held against the static site, and against programs that read such files for a living."""

from __future__ import annotations

import csv
import gzip
import io
import json
import os
import re
import subprocess
import sys
from collections.abc import Iterable
from pathlib import Path

import brotli
import pytest
from extruct.jsonld import JsonLdExtractor
from jinja2 import Environment
from selectolax.lexbor import LexborHTMLParser
from usp.tree import sitemap_from_str
from werkzeug.exceptions import NotFound
from werkzeug.routing import Map, RequestRedirect, Rule

from basilica.core.compile import compile_map
from basilica.core.map.map_files import Files
from basilica.core.outputs import includes, open_data
from basilica.core.outputs.compression import with_copies
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.generated_files import sitemaps
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.own_templates.template_set import NAMES, starting
from basilica.core.plan import Plan
from basilica.core.plan.parameters import parameters_of
from basilica.core.shared.output_file import File
from basilica.store.folders import Source
from tests.core.help import HOME, markdown, planned

ODD = (
    HOME.replace("'}", "/m'}").replace("{name: Mill", "{name: 'Mill {{ x }} <?= 1 ?>'")
    + """\
pages:
  home: {path: /, title: "{{ home }} {% x %}", label: "It's \\\\ home"}
  a:
    title: "<?php echo 1; ?> 'q'"
    highlight: home
    breadcrumbs: [{group: "N {{ n }}"}, c2]
    pages: {b: {title: B, was: /old/b, without: [footer, identity], layout: own, class: wide, js: "x('</p>')"}}
  c2: {title: "C {fact:tel}", pages: {e: {title: E, breadcrumbs: a/b, pages: {f: }}}}
  part: {kind: section, pages: {c: {draft: yes}, d: }}
  sign: {path: '/Süd (1)+a<b>:c*d'}
  shop: {kind: backend, path: /shop/, pages: {lot: {kind: backend, path: 'lot-{number}/{rest...}'}}}
menus:
  main: [home, a: [b], {group: G, items: [part: [d], b#x, e, {file: leaflet.pdf}]}, separator, {page: b, label: "B!"},
    {page: shop, show: button, class: 'cta md:px-2', above: 500},
    'lot?number=7&rest=x/y&q=1#z']
  utility: {hover: yes, class: top, entries: [{url: "mailto:a@b.example", label: M, icon: mail}]}
  side: {section: a, label: Side, entries: auto}
parts:
  identity: {kind: identity, name: "Own & {{ name }}", line: L}
  odd: {kind: text, html: "{fact:open}<b>{{ 7 }}{# c #}<?= 2 ?> {title} <a href='page:a/b?k=v#x'>b</a></b> <part:say>"}
  say: {kind: links, menu: utility}
slots: {footer: odd, header: say}
breadcrumbs: {home: icon, shorten: 4, groups: yes}
facts: {tel: "+44 <1> {{ 2 }}", open: "*Sun*"}
head: {counter: {script: 'https://count.example/c.js', data: {site: 'm"{{ 1 }}'}}}
page-end: {sequence: map}
redirects: {'/a/?page=2': b, /old.asp: shop, /left: gone, '/o "d': 'https://other.example/?x=1', /times: b#x}
"""
)
TEXTS = {
    "home": "{{ lipsum() }} [a](page:a) [l](file:leaflet.pdf) [call](tel:{fact:tel}) {fact:open}\n\n<part:odd>\n",
    "a": "# Own\n\n<?php evil(); ?>\n",
    "a/b": "Words <part:say>",
    "a/b.after": "Slot {{ 1 }}",
}
PUBLIC = {
    "public/leaflet.pdf": b"%PDF",
    "public/.well-known/security.txt": b"Contact: mailto:a@b.example\n",
    "public/old site/It's (1).HTM": b"<p id=x>as it is\r\n",
    "public/docs/index.html": b"<h1>Docs",
    "public/robots.txt": b"User-agent: *\n",
}
LAYOUT = b'{% extends "plain" %}\n{% block top %}{{ part("header") }}<i>{{ page.title }}</i>{% endblock %}\n'


CHANGED = {
    "menu": [
        (" data-path", ' class="leads"'),
        ("<ul", """<ul data-of="{{ menu.name }} {{ '{{ 1 }} <?= 2 ?>' }}\""""),
        ("<li{{ classes(entry) }}", "<li{% if entry.current %} data-here{% endif %}{{ classes(entry) }}"),
    ],
    "breadcrumbs": [("<li><span", "<li class='last'><span")],
    "header": [
        ("</header>", """<a href="{{ link('a/b') }}">{{ page.title }}</a></header>"""),
        ("</header>", """<a href="{{ file('leaflet.pdf') }}">{{ icon('file') }} PDF</a></header>"""),
    ],
    "footer": [("<footer", """<footer data-of="{{ page.section }}{% if slot('header') %} full{% endif %}\"""")],
    "page": [("{{ body }}", "<!-- {{ site.name }} -->\n{{ body }}")],
}


def own_templates() -> dict[str, bytes]:
    """Templates that write something else than the built-in ones, in each of them."""
    found = {}
    for name in NAMES:
        text = starting(name)
        for old, new in CHANGED[name]:
            assert old in text
            text = text.replace(old, new)
        found[f"templates/{name}.html"] = text.encode()
    return found


@pytest.fixture(scope="module", params=["demo", "odd", "own templates"])
def site(request: pytest.FixtureRequest, demo: Source) -> Renderer:
    if request.param == "demo":
        return Renderer(planned(demo.map.decode(), demo.files), demo.contents)
    own = own_templates() if request.param != "odd" else {}
    return Renderer(planned(ODD, Files({"page-layouts/own.html": LAYOUT, **PUBLIC, **own})), markdown(**TEXTS))


def put(files: Iterable[File], folder: Path) -> Path:
    for file in files:
        path = folder / file.path
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(file.data)
    return folder


def bare(page: str) -> str:
    """A page without the space between its tags."""
    return re.sub(r"\s+", " ", re.sub(r"\s*(<[^>]*>)\s*", r"\1", page))


def test_other_white_space_in_templates_leaves_pages_right(site: Renderer, monkeypatch: pytest.MonkeyPatch) -> None:
    """The templates are shared, not searched for words: spaces inside and around their tags change nothing."""
    wanted = [bare(site.page(key).decode()) for key in site.pages]
    loader = environment().loader
    assert loader is not None
    source = loader.get_source

    def spaced(env: Environment, name: str) -> tuple[str, str | None, object]:
        text, *rest = source(env, name)
        if name.startswith("parts/"):
            text = re.sub(r"\{\{ (.*?) \}\}", r"{{   \1   }}", re.sub(r"(?m)^\{% (.*?) %\}$", r"  {%   \1   %}", text))
        return text, *rest  # type: ignore[return-value]

    monkeypatch.setattr(loader, "get_source", spaced)
    environment().cache.clear()  # type: ignore[union-attr]
    try:
        again = Renderer(site.plan, site.contents)
        assert [bare(again.page(key).decode()) for key in again.pages] == wanted
    finally:
        monkeypatch.undo()
        environment().cache.clear()  # type: ignore[union-attr]


@pytest.mark.tools
def test_php_has_the_parts_for_other_code_and_for_what_is_not_there(site: Renderer, tmp_path: Path) -> None:
    """A page that other code answers is current in its menus; 404.php is the page of the static site, with its status;
    what servers and search engines ask for lies beside them."""
    folder, rooted = put(includes.files(site), tmp_path), includes.rooted(site)
    plan = rooted.plan
    for key in (key for key, route in plan.routes.items() if route.is_backend):
        values = ", ".join(f"'{one.name}' => '7'" for one in parameters_of(plan.routes[key].path))
        code = (
            f"$page = '{key}'; $values = [{values}]; require 'shared/top.php'; echo 'own'; require 'shared/bottom.php';"
        )
        done = subprocess.run(["php", "-r", code], cwd=folder, capture_output=True, text=True)
        page = LexborHTMLParser(done.stdout)
        assert "own" in page.css_first("main").text() and not done.stderr
        marks = [mark for mark in plan.marks(key).values() if mark]
        assert bool(page.css("header [aria-current], .b-utility a[aria-current]")) == bool(marks), key
    for each in (rooted, *rooted.in_other_languages):
        lost = folder / each.not_found.replace(".html", ".php")
        code = f"require '{lost}'; fwrite(STDERR, (string) http_response_code());"
        done = subprocess.run(["php", "-r", code], capture_output=True)
        assert (done.stdout, done.stderr) == (each.generated_file(each.not_found), b"404")
        assert (folder / each.not_found.replace(".html", ".shtml")).read_bytes() == done.stdout
    lists = {"redirects.csv", "redirects.nginx.conf", "redirects.apache.conf"} if plan.redirects else set()
    assert {*lists, "sitemap.xml", "robots.txt"} <= {path.name for path in folder.iterdir()}


@pytest.mark.tools
def test_php_pages_are_those_of_the_static_site_byte_for_byte(site: Renderer, tmp_path: Path) -> None:
    """Run by PHP itself, at every folder depth, with code of one's own before the document begins."""
    folder = put(includes.files(site), tmp_path)
    rooted = includes.rooted(site)
    for each in (rooted, *rooted.in_other_languages):
        for key in each.pages:
            page = folder / (each.plan.routes[key].file.removesuffix(".html") + ".php")
            done = subprocess.run(["php", str(page)], capture_output=True)
            assert done.stdout == each.page(key), page
    code = "$page = 'nowhere/../x'; require 'shared/top.php';"
    lost = subprocess.run(["php", "-r", code], cwd=folder, capture_output=True, text=True)
    assert "no page with the key" in lost.stdout + lost.stderr
    code = f"$page = '{rooted.pages[1]}'; $menu = 'main'; header('X: y'); require 'shared/menu.php';"
    alone = subprocess.run(["php", "-r", code], cwd=folder, capture_output=True, text=True)
    assert alone.stdout == str(rooted.menu("main", rooted.pages[1]))


@pytest.mark.long
def test_server_side_includes_put_the_same_pages_together(site: Renderer, tmp_path: Path) -> None:
    folder, rooted = put(includes.files(site), tmp_path), includes.rooted(site)
    base = rooted.plan.site.base.path if rooted.plan.site.base else ""

    def included(match: re.Match[str]) -> str:
        return (folder / match[1].removeprefix(f"{base}/")).read_text()

    for each in (rooted, *rooted.in_other_languages):
        for key in each.pages:
            page = (folder / (each.plan.routes[key].file.removesuffix(".html") + ".shtml")).read_text()
            whole = re.sub(r'<!--#include virtual="([^"]+)" -->', included, page)
            assert whole.encode() == each.page(key), key


def test_open_data_reads_back(site: Renderer, tmp_path: Path) -> None:
    plan = site.plan
    files = {file.path: file.data.decode() for file in open_data.files(site)}
    routes = json.loads(files["routes.json"])
    assert [row["path"] for row in routes] == [r.path for k, r in plan.routes.items() if k not in plan.drafts]
    assert [row["path"] for row in csv.DictReader(io.StringIO(files["routes.csv"]))] == [row["path"] for row in routes]
    for key in site.pages:
        read = JsonLdExtractor().extract(site.page(key).decode())
        assert read == ([data] if (data := json.loads(files["breadcrumbs.json"]).get(plan.routes[key].path)) else [])
    shown = LexborHTMLParser(site.page(plan.site.home or "")).css(".b-main a")
    said: list[str] = []

    def walk(entries: list[dict]) -> None:  # type: ignore[type-arg]
        for entry in entries:
            said.extend([entry["address"]] if entry["address"] else [])
            walk(entry["items"])

    walk(json.loads(files["navigation.json"])["menus"]["main"]["entries"])
    assert said == [link.attributes["href"] for link in shown]


def test_a_general_reader_of_sitemaps_finds_every_page(site: Renderer) -> None:
    read = sitemap_from_str(site.generated_file("sitemap.xml").decode())
    plans = tuple(site.plan.languages.values()) or (site.plan,)
    listed = [(plan, key) for plan in plans for key in plan.routes if key not in plan.drafts]
    listed = [(plan, key) for plan, key in listed if "{" not in plan.routes[key].path]
    wanted = list(dict.fromkeys(plan.addresses.canonical(key) for plan, key in listed))  # other code answers for all
    assert [page.url for page in read.all_pages()] == wanted


def test_past_its_limit_a_sitemap_is_an_index_of_several(demo: Source) -> None:
    """sitemaps.org protocol 0.9: at most so many addresses in one file, then an index."""
    plan = planned(demo.map.decode(), demo.files)
    files = sitemaps(plan, 10)
    index = LexborHTMLParser(files["sitemap.xml"])
    assert [node.text() for node in index.css("sitemap loc")] == [
        f"https://saltern-reach.example/sitemap-{number}.xml" for number in (1, 2, 3, 4)
    ]
    found = [page.url for name in list(files)[1:] for page in sitemap_from_str(files[name].decode()).all_pages()]
    assert found == [page.url for page in sitemap_from_str(sitemaps(plan)["sitemap.xml"].decode()).all_pages()]


@pytest.mark.parametrize("urls", ["folders", "files", "bare"])
def test_routes_are_those_of_a_general_router(demo: Source, urls: str) -> None:
    """Werkzeug's own map, given the same paths, comes to the same page for every address, old ones included."""
    plan: Plan | None = compile_map(demo.map.replace(b"urls: folders", f"urls: {urls}".encode()), demo.files).plan
    assert plan is not None
    rules = [Rule(route.path, endpoint=key) for key, route in plan.routes.items()]
    rules += [
        Rule(old.path, redirect_to=plan.routes[old.key].path.lstrip("/"), endpoint="old") for old in plan.redirects
    ]
    adapter = Map(rules).bind("mill.example")
    for key, route in plan.routes.items():
        assert adapter.match(route.path) == (key, {})
    for old in plan.redirects:
        with pytest.raises(RequestRedirect) as moved:
            adapter.match(old.path)
        assert moved.value.new_url == f"http://mill.example{plan.routes[old.key].path}"
    with pytest.raises(NotFound):
        adapter.match("/no-such-page/")


@pytest.mark.long
def test_compressed_copies_hold_the_same(site: Renderer) -> None:
    """Read back by the standard library and by Brotli's own reader; the same bytes each time."""
    files = list(with_copies(site.files()))
    by_path = {file.path: file.data for file in files}
    assert files == list(with_copies(site.files()))
    for path, data in by_path.items():
        if path.endswith((".html", ".css", ".js")) and len(data) > 300:  # of what is short no copy is smaller
            assert gzip.decompress(by_path[f"{path}.gz"]) == data == brotli.decompress(by_path[f"{path}.br"])
            assert len(by_path[f"{path}.br"]) < len(data)


def test_two_runs_make_the_same_bytes() -> None:
    """Names in sets come in another order in each process; a kit that differed would be published anew each time."""
    recipe = Path(__file__).parents[2] / "docs" / "recipes" / "components" / "site.yaml"
    code = (
        "import hashlib, sys; from pathlib import Path; from basilica.core.build import build, outputs\n"
        "from basilica.core.compile import compile_map\n"
        "from basilica.core.outputs.output_formats import OUTPUT_FORMATS\n"
        "from basilica.store.folders import read_source\n"
        "source = read_source(Path(sys.argv[1])); compiled = compile_map(source.map, source.files)\n"
        "made = outputs(build(compiled, source.contents), compiled, source.contents, OUTPUT_FORMATS.values())\n"
        "print(len(made), hashlib.sha256(repr([(file.path, file.data) for file in made]).encode()).hexdigest())\n"
    )
    runs = [
        subprocess.run(
            [sys.executable, "-c", code, str(recipe)],
            env={**os.environ, "PYTHONHASHSEED": seed},
            capture_output=True,
            text=True,
            check=True,
        ).stdout
        for seed in ("1", "2")
    ]
    assert runs[0] == runs[1] and int(runs[0].split()[0]) > 100
