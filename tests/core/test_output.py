"""Plan → files: what is written, for the demo and for any map."""

from __future__ import annotations

import itertools
import json
from pathlib import Path
from xml.etree import ElementTree

import brotli
import extruct
import pytest
import yaml
from hypothesis import given, settings
from jsonschema import Draft202012Validator

from basilica.core.build import build, verify
from basilica.core.compile import compile_map
from basilica.core.language.json_schema import json_schema
from basilica.core.map.map_files import NO_FILES
from basilica.core.outputs.archive import zip_of
from basilica.core.plan.content_links import following
from basilica.store.folders import Source
from basilica.web.output.view_model import file_tree
from tests.core.help import HOME, built, codes, compiled, grave, loud, markdown, navigation, planned, texts
from tests.core.maps import RandomMap, maps

STYLES = list(
    itertools.product(["folders", "files", "bare"], ["root", "document", "file", "absolute"], ["", "/mill/old"])
)


@pytest.mark.long
@pytest.mark.parametrize(("urls", "links", "path"), STYLES)
def test_the_demo_holds_in_every_style(demo: Source, urls: str, links: str, path: str) -> None:
    text = demo.map.decode().replace("urls: folders", f"urls: {urls}").replace("links: root", f"links: {links}")
    text = text.replace("base: https://saltern-reach.example", f"base: https://saltern-reach.example{path}")
    result = build(compile_map(text, demo.files), demo.contents)
    assert loud(result.findings) == []
    assert len(result.files) == 28 + 19 + 9  # six pages in Welsh, what they load, and a page for what is not there


@pytest.mark.long
@settings(max_examples=40)
@given(maps())
def test_any_map_without_errors_holds_once_built(random: RandomMap) -> None:
    plan = compile_map(random.text).plan
    assert plan is not None
    found = verify(built(plan), plan, {}).findings()
    # A page in no menu, below none that is, has no link to it, and titles at random can be equal, or say nothing: that
    # is all there may be to say beside advice.
    random_words = {"duplicate-title", "duplicate-label", "vague-label"}
    assert {finding.code for finding in grave(found)} <= {"unreachable", *random_words}


@pytest.mark.long
def test_the_same_map_gives_the_same_bytes(demo: Source) -> None:
    one, other = (zip_of(build(compile_map(demo.map, demo.files), demo.contents).files, "mill") for _ in range(2))
    assert one == other


def test_the_head_says_what_the_map_says(demo: Source) -> None:
    page = texts(build(compile_map(demo.map, demo.files), demo.contents).files)
    hours = page["visit/hours/index.html"]
    assert '<html lang="en-GB">' in hours
    assert "<title>Opening hours</title>" in hours
    assert '<meta name="description" content="When the mill is open, month by month' in hours
    assert '<link rel="canonical" href="https://saltern-reach.example/visit/hours/">' in hours
    assert hours.index('<a class="b-skip" href="#content">') < hours.index("<header")
    assert hours.count("<h1>") == 1
    assert '<a href="/milling/calendar/">calendar</a>' in hours


def test_breadcrumb_data_reads_back(demo: Source) -> None:
    """schema.org BreadcrumbList, read by a general-purpose reader of structured data."""
    files = texts(build(compile_map(demo.map, demo.files), demo.contents).files)
    found = extruct.extract(files["how-it-works/stones/dressing/index.html"], syntaxes=["json-ld"])["json-ld"]
    assert [item["@type"] for item in found] == ["BreadcrumbList"]
    assert [(i["position"], i["name"], i["item"]) for i in found[0]["itemListElement"]] == [
        (1, "Home", "https://saltern-reach.example/"),
        (2, "How the mill works", "https://saltern-reach.example/how-it-works/"),
        (3, "The stones", "https://saltern-reach.example/how-it-works/stones/"),
        (4, "Dressing a stone", "https://saltern-reach.example/how-it-works/stones/dressing/"),
    ]
    assert extruct.extract(files["index.html"], syntaxes=["json-ld"])["json-ld"] == []


def test_the_sitemap_lists_every_page() -> None:
    """sitemaps.org protocol 0.9."""
    plan = planned(HOME + "pages:\n  home: {path: /}\n  a: {path: '/a&b/é'}\n")
    files = {file.path: file.data for file in built(plan)}
    root = ElementTree.fromstring(files["sitemap.xml"])
    space = "{http://www.sitemaps.org/schemas/sitemap/0.9}"
    assert [loc.text for loc in root.iter(f"{space}loc")] == [
        "https://mill.example/",
        "https://mill.example/a&b/%C3%A9/",
    ]
    assert b"Sitemap: https://mill.example/sitemap.xml" in files["robots.txt"]


def test_without_a_base_there_is_no_sitemap_and_a_finding_says_so() -> None:
    result = compiled("site: {name: M}\npages:\n  home: {path: /}\n")
    assert result.plan is not None
    assert [f.code for f in result.findings] == ["no-base"]
    files = {file.path: file.data for file in built(result.plan)}
    assert "sitemap.xml" not in files
    assert b"canonical" not in files["index.html"]


def test_markup_in_texts_is_only_text() -> None:
    evil = '</title><script>alert(1)</script>" onload="x'
    plan = planned(
        f"site: {{name: '{evil}'}}\n"
        f"pages:\n  home: {{path: /, title: '{evil}', description: '{evil}'}}\n  a: '{evil}'\n"
        f"menus:\n  main:\n    - home\n    - group: '{evil}'\n      items: [a]\n"
        "breadcrumbs:\n  separator: '\"}</style>*'\n"
    )
    for file in built(plan):
        if file.path.endswith(".html"):
            assert b"<script>alert" not in file.data
            assert b'" onload="' not in file.data
        if file.path.endswith(".css"):
            assert b"</style" not in file.data
    assert {f.code for f in grave(verify(built(plan), plan, {}).findings())} <= {
        "duplicate-title",
        "duplicate-description",
    }


def test_content_is_markdown_with_links_by_key() -> None:
    plan = planned(HOME + "pages:\n  home: {path: /}\n  visit: {pages: {hours: }}\n")
    contents = markdown(
        home="See [hours](page:hours#times), <a class=x href='page:visit'>visit</a> and [no](page:nowhere).",
        visit__hours="# Own title\n\n## Times\n\n## Content\n",
    )
    result = build(compiled(HOME + "pages:\n  home: {path: /}\n  visit: {pages: {hours: }}\n"), contents)
    files = texts(result.files)
    assert '<a href="/visit/hours/#times">hours</a>' in files["index.html"]
    assert '<a class=x href="/visit/">visit</a>' in files["index.html"]
    assert "page:" not in files["index.html"]
    assert [(f.code, f.file, f.line, f.column) for f in result.findings if f.stops] == [
        ("unknown-page", "content/home.md", 1, contents["home"].text.index("page:nowhere") + 1)
    ]
    hours = files["visit/hours/index.html"]
    assert hours.count("<h1") == 1
    assert "Own title</h1>" in hours
    assert 'id="times"' in hours
    assert hours.count('id="content"') == 1
    assert plan.routes["visit/hours"].path == "/visit/hours/"


def test_old_addresses_lead_on() -> None:
    """RFC 9110, 15.4.2: moved permanently is 301. RFC 4180: lines of the table end with CRLF."""
    plan = planned(
        "site: {name: X, base: 'https://x.example/m', links: document}\n"
        "pages:\n  home: {path: /}\n  a:\n    was: [/old/, /deep/er/page.html]\n    pages: {b: {was: /plain}}\n"
    )
    files = texts(built(plan))
    assert files["redirects.csv"] == (
        "from,to,status\r\n/m/old/,/m/a/,301\r\n/m/deep/er/page.html,/m/a/,301\r\n/m/plain,/m/a/b/,301\r\n"
    )
    assert 'content="0; url=../a/"' in files["old/index.html"]
    assert '<a href="../../a/">' in files["deep/er/page.html"]
    assert '<link rel="canonical" href="https://x.example/m/a/b/">' in files["plain/index.html"]
    assert "plain" not in files["sitemap.xml"]
    assert grave(verify(built(plan), plan, {}).findings()) == []


@pytest.mark.parametrize(
    ("was", "code"),
    [
        ("/b/", "redirect-clash"),  # a page is there
        ("/B/", "redirect-clash"),  # so is this one, for some servers
        ("/404.html", "redirect-clash"),
        ("/sitemap.xml/../404.html", "bad-path"),
        ("[/x/, /x/]", "redirect-clash"),
        ("/x?y", ""),
        ("/x.asp", ""),
        ("/x.pdf", ""),
        ("/x#y", "bad-path"),
        ("https://other.example/x", "bad-path"),
        ("[/x/, /x/index.html, /x, /A/, /a]", ""),
        ("/", "bad-path"),
    ],
)
def test_old_addresses_that_are_in_use_are_findings(was: str, code: str) -> None:
    written = was if was.startswith("[") else f"'{was}'"
    found = codes(f"site: {{name: X}}\npages:\n  home: {{path: /}}\n  a: {{was: {written}}}\n  b:\n")
    assert [name for name, _, _ in found] == [code] * bool(code)


def test_content_follows_pages_that_have_another_key() -> None:
    before = planned(HOME + "pages:\n  home: {path: /}\n  a: {pages: {hours: }}\n  b: {pages: {hours: }}\n")
    after = planned(HOME + "pages:\n  home: {path: /}\n  a: {pages: {times: }}\n  b: {pages: {hours: }}\n")
    keys = {"home": "home", "a": "a", "a/hours": "a/times", "b": "b", "b/hours": "b/hours"}
    contents = markdown(home="[x](page:a/hours#now), [y](page:b/hours), page:hours, subpage:a/hours, page:none")
    text = following(contents, NO_FILES, keys, before, after)[0]["home"].text
    assert text == "[x](page:a/times#now), [y](page:b/hours), page:hours, subpage:a/hours, page:none"


@pytest.mark.long
def test_style_and_script_stay_small(demo: Source) -> None:
    files = build(compile_map(demo.map, demo.files), demo.contents).files
    assert sum(len(brotli.compress(navigation(files, kind))) for kind in ("css", "js")) < 6000


def test_the_schema_takes_the_demo_and_refuses_what_is_wrong(demo: Source) -> None:
    """JSON Schema, draft 2020-12."""
    schema = json_schema()
    Draft202012Validator.check_schema(schema)
    validator = Draft202012Validator(schema)
    assert list(validator.iter_errors(yaml.safe_load(demo.map))) == []
    for wrong in ({"pages": {"A b": None}}, {"pages": {}, "header": {"behaviour": "wave"}}, {"page": {}}):
        assert list(validator.iter_errors(wrong)), json.dumps(wrong)


def test_committed_documentation_links_exist() -> None:
    docs = Path(__file__).parents[2] / "docs"
    assert {"findings.md", "map-words.md", "page-map.md", "site.schema.json"} <= {path.name for path in docs.iterdir()}


def test_files_stand_in_a_tree_with_what_became_of_them() -> None:
    before = {"a.html": b"1", "x/gone.html": b"1", "x/y/same.html": b"1"}
    after = {"a.html": b"2", "x/y/same.html": b"1", "x/y/new.html": b"1"}
    tree = file_tree(after, before)
    assert (tree.count, tree.changed) == (4, 3)
    assert [(name, state) for name, _, _, state in tree.files] == [("a.html", "changed")]
    inner = tree.folders["x"]
    assert (inner.count, inner.changed, inner.files) == (3, 2, [("gone.html", "x/gone.html", 1, "gone")])
    assert [state for *_, state in inner.folders["y"].files] == ["new", "same"]
    assert file_tree(after, None).changed == 0


@pytest.mark.long
def test_the_demo_with_a_table_holds(seeds: Source) -> None:
    result = build(compile_map(seeds.map, seeds.files), seeds.contents)
    assert loud(result.findings) == []
    assert sum(file.path.endswith("index.html") for file in result.files) == 1216
