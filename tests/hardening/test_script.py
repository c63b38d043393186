"""Script in every text that a person can type, and in every name, is a text: on every screen, in what screens are told
by the server, in reports and drawings, and in the pages that are built."""

from __future__ import annotations

import html
import io
import json
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import urlencode

import pytest
from flask import Flask
from lxml import etree
from selectolax.lexbor import LexborHTMLParser
from werkzeug.routing import Rule
from werkzeug.test import TestResponse

from basilica.core.compile import compile_map
from basilica.core.findings import audit
from basilica.core.findings.reports import FORMATS, Report
from basilica.core.language.sections import SECTIONS
from basilica.core.language.sections.part_words import KINDS
from basilica.core.map.map_files import Files
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan.content_links import Content
from basilica.core.shared.output_file import File
from basilica.services.all_services import Services
from basilica.web.app import create_app
from basilica.web.config import Config
from tests.hardening.test_requests import NAMES, address, rules

SCRIPT = """"'><mark-x onclick=hit()></script></style></title></textarea></select><img src=x onerror=hit()>"""
LEADING = "javascript:hit()"
HOLED = {
    ("phrases", "under"): "{}",
    ("phrases", "moved-text"): "{}",
    ("site", "title"): "{title}",
    ("parts", "telephone"): "01632 {fact:script}",
    **{("own markup", name): "{label}" for name in ("entry", "current", "section", "holds", "group")},
    ("own markup", "below"): "{entries}",
}
"""What words need to have in them."""
INSTEAD = {("parts", "mail"): "'onclick=hit();//javascript:hit()@mill.example"}
"""What is said in words that take less than any text."""
OWN = {"css", "js", "html", "text", "class"}
"""Words by which an author brings script, style and elements of their own into their own pages."""


def quoted(text: str) -> str:
    return "'" + text.replace("'", "''") + "'"


def texts_map() -> str:
    """A map without errors that has script as the value of every word that takes a text."""

    def words(section: str, *left_out: str) -> str:
        texts = [word.name for word in SECTIONS[section] if word.value_type == "text"]
        return ", ".join(
            f"{name}: {quoted(INSTEAD.get((section, name)) or SCRIPT + name + HOLED.get((section, name), ''))}"
            for name in texts
            if name not in OWN | set(left_out)
        )

    more = {"contact": "", "identity": "", "form": "form: message, to: /answer, ", "legal": ""}
    parts = ""
    for kind, given in more.items():
        others = {word.name for word in SECTIONS["parts"]} - {*KINDS[kind], "text"}
        parts += f"  {kind}: {{kind: {kind}, {given}{words('parts', *others)}}}\n"
    return f"""site: {{{words("site")}}}
pages:
  home: {{path: /, {words("pages")}}}
  c: {{breadcrumbs: [{{{words("levels of breadcrumbs")}}}]}}
  a: {{{words("pages")}, social: {{{words("social")}}}, ignore: {{title-long: {quoted(SCRIPT)}}}}}
  b: {{table: {{file: t.csv, {words("table", "section")}}}}}
menus:
  main:
    label: {quoted("Main" + SCRIPT)}
    entries: [home, {{page: a, {words("entries", "group")}}}, {{group: {quoted(SCRIPT + "group")}, items: [b]}}]
breadcrumbs: {{separator: '<mark-x onclick=h>'}}
inlay: {{{words("inlay")}, menus: {{main: {{{words("own markup")}}}}}}}
header: {{{words("header")}}}
parts:
{parts}slots: {{after: [contact, form, legal]}}
facts: {{script: {quoted(SCRIPT)}}}
head: {{social: {{{words("social")}}}, counter: {{script: 'https://count.example/', data: {{a: {quoted(SCRIPT)}}}}}}}
phrases: {{{words("phrases")}}}
checks: {{spelling: [{quoted(SCRIPT)}], levels: {{title-long: {{level: ignore, reason: {quoted(SCRIPT + "reason")}}}}}}}
"""


def wrong_map() -> str:
    """A map that has script as the value of every word, and where words and names stand."""
    text = "pages:\n  home: {path: /}\n"
    for section in ("site", "breadcrumbs", "header", "theme", "phrases", "checks", "head", "page-end"):
        text += f"{section}:\n" + "".join(f"  {word.name}: {quoted(SCRIPT)}\n" for word in SECTIONS[section])
        text += f"  {quoted(SCRIPT)}: x\n"
    text += "menus:\n" + f"  {quoted(SCRIPT)}: [home]\n  main:\n"
    text += "".join(f"    - {{page: home, {word.name}: {quoted(SCRIPT)}}}\n" for word in SECTIONS["entries"][1:])
    text += f"    - {{label: x, url: {quoted(LEADING)}}}\n    - {quoted(SCRIPT)}\n"
    text += "parts:\n" + f"  {quoted(SCRIPT)}: {{text: x}}\n"
    text += "".join(f"  p-{word.name}: {{{word.name}: {quoted(SCRIPT)}}}\n" for word in SECTIONS["parts"])
    pages = "".join(f"  w-{word.name}: {{{word.name}: {quoted(SCRIPT)}}}\n" for word in SECTIONS["pages"])
    return text.replace("pages:\n", f"pages:\n{pages}  {quoted(SCRIPT)}: x\n", 1)


TABLE = Files({"tables/t.csv": f'name\n"{SCRIPT.replace(chr(34), chr(34) * 2)}"\n'.encode(), "files/a.txt": b"x"})


@pytest.fixture(scope="module")
def application(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Flask]:
    data = tmp_path_factory.mktemp("data")
    opened = Services.of(data)
    for slug, text in {"texts": texts_map(), "wrong": wrong_map(), "typed": SCRIPT}.items():
        site = opened.store.make(slug, text, {"a": Content("content/a.md", SCRIPT)}, SCRIPT, files=TABLE)
        opened.store.save_version(site.slug, site.revision, SCRIPT, SCRIPT)
        opened.store.rename(site.slug, SCRIPT)
    app = create_app(Config(data=data), opened)
    app.config["WTF_CSRF_ENABLED"] = False
    yield app
    opened.close()


def acts(text: str) -> list[str]:
    """What in a text of HTML would act: elements, handlers and addresses that came out of the script."""
    tree = LexborHTMLParser(text)
    found = [node.tag for node in tree.css("mark-x, img[src=x]")]
    for node in tree.css("*"):
        for name, value in node.attributes.items():
            leads = name in ("href", "src", "action", "formaction", "data", "xlink:href")
            if name.startswith("on") or name == "srcdoc" or (leads and (value or "").strip().startswith("javascript:")):
                found.append(f"{node.tag} {name}")
    return found


def harmless(answer: TestResponse, where: str) -> None:
    """An answer that a browser would show, or a script would put onto a screen, holds nothing that acts."""
    assert answer.status_code < 500, where
    kind = answer.mimetype
    if kind == "text/html":
        assert acts(answer.text) == [], where
    elif kind == "application/json":
        for text in strings(json.loads(answer.text)):
            if "<" in text and text.lstrip().startswith("<"):  # a piece of a screen
                assert acts(text) == [], (where, text[:200])
    elif kind == "image/svg+xml" or "xml" in kind:
        tags = {str(node.tag).rpartition("}")[2] for node in etree.fromstring(answer.data).iter()}
        assert not tags & {"script", "mark-x", "img", "foreignObject"}, where


def strings(value: object) -> Iterator[str]:
    """All texts in data."""
    if isinstance(value, str):
        yield value
    elif isinstance(value, dict):
        for each in value.values():
            yield from strings(each)
    elif isinstance(value, list):
        for each in value:
            yield from strings(each)


SITES = ("texts", "wrong", "typed")


def of_site(rule: Rule, slug: str, value: str) -> str:
    return address(rule, value).replace("/sites/mill", f"/sites/{slug}")


def ends(rule: Rule) -> list[str]:
    """Values for what is left open in an address."""
    if rule.endpoint == "checks.report":
        return list(FORMATS)
    return {"map.as_list": ["txt", "csv"], "parts.file": ["files/a.txt", SCRIPT]}.get(rule.endpoint, ["1"])


@pytest.mark.parametrize("slug", SITES)
def test_no_screen_acts_on_what_was_typed(application: Flask, slug: str) -> None:
    services: Services = application.extensions["services"]
    client = application.test_client()
    for rule in rules(application):
        if "GET" not in rule.methods:
            continue
        for value in ends(rule):
            where = of_site(rule, slug, value)
            for query in (
                {},
                dict.fromkeys(NAMES, SCRIPT),
                {"page": "a", "part": "contact", "file": "files/a.txt", "output": "flask", "older": "1", "newer": "2"},
                {"message": SCRIPT, "title": SCRIPT, "for": SCRIPT, "q": SCRIPT},
                {"page": LEADING, "from": LEADING, "next": LEADING},
            ):
                answer = client.get(f"{where}?{urlencode(query)}" if query else where)
                harmless(answer, f"{where} {query}")
    services.store.archive(services.store.all()[0].slug, True)
    harmless(client.get("/archive"), "/archive")
    services.store.archive(services.store.all(archived=True)[0].slug, False)


@pytest.mark.parametrize("slug", SITES)
def test_no_answer_to_a_change_acts_on_what_was_typed(application: Flask, slug: str) -> None:
    client = application.test_client()
    for rule in rules(application):
        if rule.endpoint in ("sites.delete", "sites.archive"):
            continue
        for method in sorted(rule.methods & {"POST", "PUT"}):
            for value in ends(rule):
                where = of_site(rule, slug, value)
                for given in (SCRIPT, LEADING):
                    fields = dict.fromkeys((*NAMES, "scope", "for", "word", "own-title", "parts", "needed"), given)
                    harmless(client.open(where, method=method, data=fields), where)
                    harmless(client.open(where, method=method, json=fields), where)


def test_names_of_files_are_texts(application: Flask) -> None:
    name = "<mark-x onclick=hit()>\"' .txt"
    client = application.test_client()
    for where, field in (("/sites/texts/parts/upload", "file"), ("/new", "archive"), ("/new", "file")):
        answer = client.post(where, data={field: (io.BytesIO(b"PK"), name), "start": "upload", "folder": "files"})
        harmless(answer, where)
    results = audit([File(f"{name}.html", f"<title>{html.escape(SCRIPT)}</title><a href='gone'>x</a>".encode())])
    report = Report(name, SCRIPT, results.findings())
    assert "mark-x" in FORMATS["html"](report) and acts(FORMATS["html"](report)) == []
    etree.fromstring(FORMATS["junit"](report).encode())


def test_every_text_is_tried_and_no_built_page_acts_on_it(application: Flask, tmp_path: Path) -> None:
    text = texts_map()
    compiled = compile_map(text, TABLE)
    assert compiled.plan is not None and not compiled.stops, [f.message for f in compiled.findings if f.stops]
    missing = {
        (section, word.name)
        for section, words in SECTIONS.items()
        for word in words
        if word.value_type == "text"
        and word.name not in OWN
        and f"{word.name}: {quoted(SCRIPT + word.name)[:-1]}" not in text
    }
    assert not missing - {
        ("breadcrumbs", "separator"),
        ("table", "section"),
        *INSTEAD,
    }  # one is short, one an address
    for file in Renderer(compiled.plan, {}).files():
        if file.path.endswith(".html"):
            assert acts(file.data.decode()) == [], file.path
        elif file.path.endswith(".xml"):
            etree.fromstring(file.data)
