"""What pages share, set into pages that exist in several languages."""

from __future__ import annotations

from pathlib import Path

import pytest
from selectolax.lexbor import LexborHTMLParser

from basilica.core.map.map_files import Files
from basilica.core.outputs.static_site import Renderer
from basilica.services.inlays import FolderInlay
from tests.core.help import markdown, planned
from tests.core.test_languages import MAP, TEXTS

PAGE = '<html lang="{}"><head><title>Old</title></head>\n<body><main id="content">Mine</main></body></html>'
SHARED = ("header.b-header", ".b-utility", ".b-breadcrumbs", ".b-footer")


def told(data: bytes) -> list[object]:
    """What a page shows in what it shares: each link with its words, language and mark; and what its head leads to."""
    page = LexborHTMLParser(data)
    links = [
        (where, one.text(strip=True), *(one.attributes.get(name) for name in ("href", "lang", "aria-current")))
        for where in SHARED
        for one in page.css(f"{where} a, {where} [aria-current]")
    ]
    heads = page.css("head link[rel=canonical], head link[hreflang]")
    return [*links, *((one.attributes.get("hreflang"), one.attributes["href"]) for one in heads)]


@pytest.fixture
def site() -> Renderer:
    contents = markdown(**TEXTS)
    return Renderer(planned(MAP, Files().with_heads(contents)), contents)


def built(site: Renderer) -> dict[str, bytes]:
    both = (site, *site.in_other_languages)
    return {each.plan.routes[key].file: each.page(key) for each in both for key in each.pages}


def folder_of(site: Renderer, folder: Path) -> FolderInlay:
    return FolderInlay(site.plan, site.all_contents, folder, place=True)


@pytest.mark.long
def test_every_page_shows_what_the_static_site_shows(site: Renderer, tmp_path: Path) -> None:
    wanted = built(site)
    for file, data in wanted.items():
        (tmp_path / file).parent.mkdir(parents=True, exist_ok=True)
        language = LexborHTMLParser(data).css_first("html").attributes["lang"]
        (tmp_path / file).write_text(PAGE.format(language))
    report = folder_of(site, tmp_path).run(True)
    assert (report.problems, report.absent, report.unmarked, report.strangers) == ((), (), (), ())
    for file, data in wanted.items():
        found = (tmp_path / file).read_bytes()
        assert told(found) == told(data), file
        loaded = LexborHTMLParser(found).css("head link[rel=stylesheet], head script[src]")
        for one in loaded:
            name = (one.attributes.get("href") or one.attributes["src"] or "").removeprefix("/x/")
            assert (tmp_path / name).is_file()
    assert folder_of(site, tmp_path).run(True).changed == ()


def test_a_page_says_its_own_translations_once(site: Renderer, tmp_path: Path) -> None:
    own = '<link rel="alternate" hreflang="cy" href="https://elsewhere.example/"></head>'
    (tmp_path / "index.html").write_text(PAGE.format("en-GB").replace("</head>", own))
    assert folder_of(site, tmp_path).run(True).problems == ()
    heads = LexborHTMLParser((tmp_path / "index.html").read_bytes()).css("link[hreflang]")
    assert [one.attributes["href"] for one in heads] == ["https://elsewhere.example/"]
    assert not list(tmp_path.glob("assets/*.cy.*"))  # no page of that language asks for one


def test_the_switch_alone_and_new_pages_in_their_language(site: Renderer, tmp_path: Path) -> None:
    marks = "".join(f"<!-- basilica: {name} --><!-- /basilica: {name} -->" for name in ("languages", "breadcrumbs"))
    (tmp_path / "index.html").write_text(PAGE.format("en-GB").replace("<main", f"{marks}<main"))
    setting = FolderInlay(site.plan, site.all_contents, tmp_path)
    report = setting.run(True, like="")
    assert report.problems == () and {one.file for one in report.changed} >= built(site).keys()
    for file, data in built(site).items():
        made, wanted = LexborHTMLParser((tmp_path / file).read_bytes()), LexborHTMLParser(data)
        if file != "index.html":
            document = made.css_first("html").attributes
            assert document == {name: wanted.css_first("html").attributes.get(name) for name in document}
            assert "lang" in document and ("dir" in document) == file.startswith("ar/")
        shown = ".b-languages :is(a, span), .b-breadcrumbs :is(a, span)"
        assert [one.html for one in made.css(shown)] == [one.html for one in wanted.css(shown)]


def test_pages_that_do_not_say_their_language_are_set_in_once(site: Renderer, tmp_path: Path) -> None:
    for file in built(site):
        (tmp_path / file).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / file).write_text(PAGE.replace(' lang="{}"', ""))
    assert folder_of(site, tmp_path).run(True).problems == ()
    assert folder_of(site, tmp_path).run(True).changed == ()
