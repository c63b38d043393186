"""What heads ask to be made, read back by programs that read such files for a living."""

from __future__ import annotations

import io
import json
from datetime import date
from xml.etree import ElementTree

import pytest
from extruct.jsonld import JsonLdExtractor
from extruct.opengraph import OpenGraphExtractor
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from selectolax.lexbor import LexborHTMLParser
from usp.tree import sitemap_from_str

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.map.map_files import Files
from basilica.core.outputs import open_data
from basilica.core.outputs.static_site import Renderer
from basilica.core.shared.dates import is_date
from basilica.core.shared.svg_pictures import as_png
from tests.core.help import HOME, planned

DRAWING = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 10"><rect width="20" height="10" fill="#c00"/></svg>'
)
MAP = """\
site: {name: M & M, base: 'https://m.example/x', language: en-GB}
pages:
  home: {path: /, title: Home}
  a: {title: A <b>, date: 2026-03-01, description: Words & more, social: {picture: mill.svg, card: summary_large_image}}
  b: {title: B, date: 2026-04-01, updated: 2026-05-01}
  c: {title: C, date: 2026-06-01, draft: yes}
parts: {us: {kind: contact, telephone: 01632 960142, mail: a@m.example, place: "1 Quay\\nTown"}}
slots: {footer: us}
head: {icon: mill.svg, touch-icon: yes, manifest: auto, feed: yes, data: [site, organisation], social: {card: summary}}
"""
ATOM = "{http://www.w3.org/2005/Atom}"


@pytest.fixture(scope="module")
def made() -> dict[str, bytes]:
    result = build(compile_map(MAP, Files({"files/mill.svg": DRAWING})), {})
    assert not any(finding.stops for finding in result.findings)
    return {file.path: file.data for file in result.files}


def test_pictures_of_the_icon(made: dict[str, bytes]) -> None:
    head = LexborHTMLParser(made["a/index.html"]).css_first("head")
    touch = head.css_first("link[rel=apple-touch-icon]").attributes["href"]
    manifest = json.loads(made[head.css_first("link[rel=manifest]").attributes["href"].removeprefix("/x/")])
    sizes = {touch: 180} | {icon["src"]: int(icon["sizes"].partition("x")[0]) for icon in manifest["icons"]}
    assert sorted(sizes.values()) == [180, 192, 512]  # W3C Web App Manifest, 1.6: icons; its sizes are common practice
    for address, width in sizes.items():
        picture = Image.open(io.BytesIO(made[address.removeprefix("/x/")])).convert("RGB")
        assert picture.size == (width, width)
        assert picture.getpixel((width // 2, width // 2)) == (0xCC, 0, 0)
        assert picture.getpixel((1, 1)) == picture.getpixel((width // 2, width // 5)) == (255, 255, 255)
    assert (manifest["name"], manifest["lang"], manifest["start_url"]) == ("M & M", "en-GB", "/x/")


def test_what_is_shown_where_a_page_is_passed_on(made: dict[str, bytes]) -> None:
    page = made["a/index.html"].decode()
    said = dict(OpenGraphExtractor().extract(page)[0]["properties"])
    picture = Image.open(io.BytesIO(made[said["og:image"].removeprefix("https://m.example/x/")]))
    assert picture.size == (1200, 630) and picture.format == "PNG"
    assert (said["og:title"], said["og:url"]) == ("A <b>", "https://m.example/x/a/")
    cards = [
        LexborHTMLParser(made[name]).css_first("meta[name='twitter:card']").attributes["content"]
        for name in ("a/index.html", "b/index.html")
    ]
    assert cards == ["summary_large_image", "summary"]


def test_the_feed(made: dict[str, bytes]) -> None:
    """RFC 4287: what a feed and an entry must have (4.1.1, 4.1.2), dates as in RFC 3339, and links that are whole."""
    feed = ElementTree.fromstring(made["feed.xml"])
    link = LexborHTMLParser(made["index.html"]).css_first("link[rel=alternate][type='application/atom+xml']")
    assert link.attributes["href"] == "/x/feed.xml"
    for one in (feed, *feed.findall(f"{ATOM}entry")):
        for name in ("id", "title", "updated"):
            assert len(one.findall(ATOM + name)) == 1
    entries = feed.findall(f"{ATOM}entry")
    assert [entry.findtext(f"{ATOM}title") for entry in entries] == ["B", "A <b>"]  # the newest first, and no draft
    assert [entry.findtext(f"{ATOM}updated") for entry in entries] == ["2026-05-01T00:00:00Z", "2026-03-01T00:00:00Z"]
    assert feed.findtext(f"{ATOM}updated") == "2026-05-01T00:00:00Z"
    assert [entry.find(f"{ATOM}link").attrib["href"] for entry in entries] == [  # type: ignore[union-attr]
        "https://m.example/x/b/",
        "https://m.example/x/a/",
    ]
    assert feed.find(f"{ATOM}link[@rel='self']").attrib["href"] == "https://m.example/x/feed.xml"  # type: ignore[union-attr]


def test_a_general_reader_of_sitemaps_finds_the_days(made: dict[str, bytes]) -> None:
    read = sitemap_from_str(made["sitemap.xml"].decode())
    days = {page.url: page.last_modified.date() if page.last_modified else None for page in read.all_pages()}
    base = "https://m.example/x/"
    assert days == {base: None, f"{base}a/": date(2026, 3, 1), f"{base}b/": date(2026, 5, 1)}


def test_what_search_engines_are_told(made: dict[str, bytes]) -> None:
    """schema.org: WebSite and Organization on home, breadcrumbs on the others."""
    (home,) = JsonLdExtractor().extract(made["index.html"].decode())
    site, organisation = home["@graph"]
    assert (site["@type"], site["url"], site["inLanguage"]) == ("WebSite", "https://m.example/x/", "en-GB")
    logo = organisation.pop("logo")
    assert made[logo.removeprefix("https://m.example/x/")] == DRAWING
    assert organisation == {
        "@type": "Organization",
        "name": "M & M",
        "url": "https://m.example/x/",
        "telephone": "01632960142",
        "email": "a@m.example",
        "address": "1 Quay, Town",
    }
    (other,) = JsonLdExtractor().extract(made["a/index.html"].decode())
    assert other["@type"] == "BreadcrumbList"


def test_a_picture_of_a_page_needs_no_icon() -> None:
    text = HOME + "pages: {home: {path: /, social: {picture: mill.svg}}}\n"
    result = build(compile_map(text, Files({"files/mill.svg": DRAWING})), {})
    assert next(file.path for file in result.files if file.path.endswith(".png")).startswith("assets/mill-card.")


def test_what_lies_in_public_goes_before_what_would_be_made() -> None:
    files = Files({"files/mill.svg": DRAWING, "public/apple-touch-icon.png": b"own", "public/feed.xml": b"<own/>"})
    made = build(compile_map(MAP, files), {}).files
    paths = [file.path for file in made]
    assert paths.count("apple-touch-icon.png") == paths.count("feed.xml") == 1
    assert {file.data for file in made if file.path in ("apple-touch-icon.png", "feed.xml")} == {b"own", b"<own/>"}


USE = '<g id="a{0}">' + '<use href="#a{1}"/>' * 10 + "</g>"
NESTED = "".join(USE.format(number, number - 1) for number in range(1, 9))
SVG = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 9 9">{}</svg>'
FILTERED = SVG.format('<filter id="f">{}</filter><rect width="9" height="9" filter="url(#f)"/>{}')


@pytest.mark.parametrize(
    ("drawing", "problem"),
    [
        ("x", "cannot be read"),
        ("<svg/>", "not an SVG"),
        (SVG.format("<text>M</text>"), "text"),
        (SVG.replace(" viewBox='0 0 9 9'", "").replace(' viewBox="0 0 9 9"', "").format(""), "viewBox"),
        ("<!DOCTYPE svg [<!ENTITY a 'b'>]>" + SVG.format("&a;"), "entities"),
        (SVG.format('<rect id="a0"/>' + NESTED), "2,000 times"),
        (SVG.format('<g id="a"><use href="#a"/></g>'), "without end"),
        (SVG.format('<pattern id="p"><rect fill="url(#p)"/></pattern><rect fill="url(#p)"/>'), "without end"),
        (SVG.format("<g>" * 300 + "</g>" * 300), "cannot be read"),
        (SVG.format(" " * 400_000), "bytes"),
        (FILTERED.format('<feTurbulence numOctaves="1e9"/>', ""), "filters take too long"),
        (SVG.format('<rect width="9" height="9" filter="blur(9px)"/>' * 20), "too long"),
        (FILTERED.format('<feMorphology radius="2 60"/>', ""), "filters take too long"),
        (FILTERED.format('<feGaussianBlur stdDeviation="9"/>', '<rect style="filter: url(#f)"/>' * 20), "too long"),
    ],
)
def test_a_drawing_that_can_be_no_picture(drawing: str, problem: str) -> None:
    with pytest.raises(ValueError, match=problem):
        as_png(drawing.encode(), 20, 20)
    files = Files({"files/mill.svg": drawing.encode()})
    found = build(compile_map(HOME + "pages: {home: {path: /}}\nhead: {social: {picture: mill.svg}}\n", files), {})
    assert any(f.code == "svg-unusable" and problem in f.message for f in found.findings) and not found.files


def test_nothing_outside_a_drawing_is_drawn(tmp_path: object) -> None:
    """SVG 2, secure static mode: a picture of another file is left out."""
    other = f"{tmp_path}/other.png"
    Image.new("RGB", (9, 9), "blue").save(other)
    links = f'<image href="{other}" width="9" height="9"/><image xlink:href="file://{other}" width="9" height="9"/>'
    picture = Image.open(io.BytesIO(as_png(SVG.format(links).encode(), 9, 9, "#ffffff"))).convert("RGB")
    assert picture.getcolors() == [(81, (255, 255, 255))]


@given(st.integers(0, 9999), st.integers(0, 14), st.integers(0, 33))
def test_days_are_those_of_the_calendar(year: int, month: int, day: int) -> None:
    """Held against the standard library's calendar (ISO 8601)."""
    text = f"{year:04}-{month:02}-{day:02}"
    try:
        date.fromisoformat(text)
    except ValueError:
        assert not is_date(text)
    else:
        assert is_date(text)


def test_headers_for_the_usual_hosts() -> None:
    content = {"inline": "x()", "css": "p { color: red }"}
    text = HOME.replace("'}", "/m'}") + (
        f'pages: {{home: {{path: /, js: "{content["inline"]}", css: "{content["css"]}"}}}}\n'
        "head: {counter: {script: 'https://count.example/c.js', hosts: [beacon.example]}}\n"
        "parts: {map: {kind: embed, url: 'https://maps.example/x'}, f: {kind: form, to: 'https://mail.example/s'}}\n"
        "slots: {after: [map, f]}\n"
    )
    files = {file.path: file.data.decode() for file in open_data.files(Renderer(planned(text), {}))}
    for name in ("headers.nginx.conf", "headers.apache.conf"):
        assert "max-age=31536000, immutable" in files[name] and "^/m/assets/" in files[name]
        policy = files[name].partition("Content-Security-Policy ")[2].partition("\n")[0]
        for wanted in ("https://count.example", "frame-src 'self' https://maps.example", "'sha256-"):
            assert wanted in policy
        assert "connect-src 'self' https://count.example https://beacon.example" in policy
        assert "form-action 'self' https://mail.example" in policy and "'unsafe-inline'" not in policy
