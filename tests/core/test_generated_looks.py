"""The looks of generated pages: colours by day and by night, letters, sizes; pictures, tables, code; indentation."""

from __future__ import annotations

import io
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from rcssmin import cssmin
from rjsmin import jsmin
from selectolax.lexbor import LexborHTMLParser

from basilica.core.compile import compile_map
from basilica.core.content.pictures import PictureLeft, smaller_by_name, smaller_name, smaller_pictures
from basilica.core.map.map_files import Files
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.indentation import indented
from basilica.core.outputs.static_site.stylesheet import sizes
from basilica.core.shared import theme
from basilica.core.shared.enhanced_markup import enhanced
from basilica.core.shared.fonts import FONTS, font_files
from tests.core.help import HOME, built, markdown, navigation, planned, texts

MAP = HOME + "pages: {home: {path: /}, a: {pages: {b: }}}\n"
HEX = st.integers(0, 0xFFFFFF).map("#{:06x}".format)


@pytest.mark.long
@given(st.sampled_from(sorted(theme.PRESETS)), HEX, HEX)
def test_own_colours_can_be_read_by_night(preset: str, link: str, current: str) -> None:
    """WCAG 2.2, 1.4.3, whatever the site's own colours are."""
    dark = theme.dark_version(theme.PRESETS[preset], {"link": link, "current": current})
    if dark:
        assert theme.poor_pairs(dark) == [] or dark["current"] != current
        assert all(theme.contrast(dark["link"], dark[behind]) >= theme.ENOUGH for behind in ("ground", "panel"))
        assert theme.contrast(dark["ground"], "#ffffff") > theme.contrast(dark["ground"], "#000000")


def test_a_site_that_is_dark_has_no_other_version() -> None:
    dark = "theme: {ground: '#101418', ink: '#ffffff', quiet: '#cccccc', link: '#aaccff', hover: '#ffffff'}\n"
    for text, scheme in (("", "light dark"), ("theme: {dark: never}\n", "light"), (dark, "dark")):
        style = navigation(built(planned(MAP + text)), "css").decode()
        assert f"color-scheme: {scheme};" in style
        assert ("prefers-color-scheme" in style) is (scheme == "light dark")


@pytest.mark.long
@pytest.mark.parametrize("name", [*FONTS, "system"])
@pytest.mark.parametrize(("language", "parts"), [("en", 1), ("pl", 2)])
def test_letters_ship_with_the_pages(name: str, language: str, parts: int) -> None:
    text = MAP.replace("base:", f"language: {language}, base:") + f"theme: {{font: {name}}}\n"
    files = {file.path: file.data for file in built(planned(text))}
    fonts = [path for path in files if path.endswith(".woff2")]
    assert len(fonts) == (0 if name == "system" else parts)
    style = navigation(built(planned(text)), "css").decode()
    home = LexborHTMLParser(files["index.html"])
    for path in fonts:
        assert files[path][:4] == b"wOF2" and path.rpartition("/")[2] in style  # WOFF File Format 2.0, 4.1
    assert [link.attributes["href"] for link in home.css("link[as=font]")] == [f"/{path}" for path in fonts[-1:]]
    assert [font.name.partition("-latin")[0] for font in font_files(name, language)] == len(fonts) * [
        FONTS[name].file if name in FONTS else ""
    ]


def test_sizes_grow_between_their_ends() -> None:
    """`--b-fluid` is 0 in windows of 320 px and 1 rem in those of 1,600 px; each step is larger than the one below."""
    for step in theme.HEADINGS.values():
        made = sizes(step)
        assert made["fluid"] == "clamp(0px, (100vw - 20rem) / 80, 1rem)"
        ends = []
        for name in ("text", "h3", "h2", "h1"):
            least, more = map(float, re.findall(r"(-?[0-9.]+)(?:rem| \*)", made[name]))
            ends.append((least, least + more))
        assert ends == sorted(ends) and all(least < most for least, most in ends)


PIECES = st.recursive(
    st.sampled_from(["<p>x</p>", "<img src=a>", "<pre>\n  a\n b\n</pre>", "text", '<a href="b">\nc</a>', "<br>"]),
    lambda inner: st.lists(inner, max_size=3).map(
        lambda found: "<ul>\n<li>" + "</li>\n<li>".join(found) + "</li>\n</ul>"
    ),
    max_leaves=12,
)


@pytest.mark.long
@given(PIECES, st.integers(0, 4))
def test_indentation_changes_white_space_between_elements_alone(markup: str, depth: int) -> None:
    once = indented(markup, depth)
    assert (
        re.sub(r"\n *", "\n", once.split("<pre>")[0]) == re.sub(r"\n *", "\n", markup.split("<pre>")[0]).lstrip(" ")
        or depth
    )
    assert [line.strip() for line in once.split("\n")] == [line.strip() for line in markup.split("\n")]
    assert re.findall(r"<pre>.*?</pre>", once, re.DOTALL) == re.findall(r"<pre>.*?</pre>", markup, re.DOTALL)
    assert indented(once, depth) == once


def test_every_page_is_indented() -> None:
    page = texts(built(planned(MAP)))["a/b/index.html"]
    assert page.startswith("<!DOCTYPE html>\n<html")
    assert '\n  <a class="b-skip"' in page and '\n    <main id="content"' in page and "\n            <li" in page


def test_tables_and_code_are_dressed_and_all_else_stays() -> None:
    page = LexborHTMLParser(enhanced("<h2>Prices &amp; more</h2>\n<table><tr><td>1</td></tr></table>"))
    box = page.css_first("div.b-table[tabindex='0']")
    assert box.attributes["aria-label"] == "Prices & more" and box.css_first("table")
    for left in ("<p>a <b>c</p>", "<table><tr>", "</table>", "<!-- <table></table> -->", "<code>&lt;table&gt;</code>"):
        assert enhanced(left) == left
    code = enhanced('<pre><code class="language-python">x = "&lt;b&gt;"  # y\n</code></pre>')
    assert LexborHTMLParser(code).css_first("pre").text() == 'x = "<b>"  # y\n'
    assert {span.attributes["class"] for span in LexborHTMLParser(code).css("span")} >= {"c1", "s2"}
    unknown = '<pre><code class="language-nonesuch">x</code></pre>'
    assert enhanced(unknown) == unknown


@given(st.text(alphabet="<>/tablecpion hr&;\"'= \n", max_size=60))
def test_dressing_never_loses_a_letter(markup: str) -> None:
    boxes = re.compile(r'<div class="b-table"[^>]*>|</div>| tabindex="0"')
    assert boxes.sub("", enhanced(markup)) == boxes.sub("", markup)


def photo(width: int, height: int, kind: str = "JPEG") -> bytes:
    out = io.BytesIO()
    Image.effect_noise((width, height), 30).convert("RGB").save(out, kind)
    return out.getvalue()


def test_pictures_say_their_size_and_have_smaller_ones() -> None:
    files = {"big.jpg": photo(1200, 600), "small.png": photo(100, 50, "PNG"), "bad.webp": b"RIFF", "a.svg": b"<svg/>"}
    made = list(smaller_pictures(files, (480, 960, 1600)))
    left = [one for one in made if isinstance(one, PictureLeft)]
    new = dict(one for one in made if not isinstance(one, PictureLeft))
    assert [one.name for one in left] == ["bad.webp"]
    assert {name: Image.open(io.BytesIO(data)).size for name, data in new.items()} == {
        "big-480w.jpg": (480, 240),
        "big-960w.jpg": (960, 480),
    }
    assert not [one for one in smaller_pictures({**files, **new}, (480, 960)) if not isinstance(one, PictureLeft)]
    assert smaller_by_name([*files, *new]) == {"big.jpg": [(480, "big-480w.jpg"), (960, smaller_name("big.jpg", 960))]}
    plan = planned(MAP, Files({f"files/{name}": data for name, data in {**files, **new}.items()}))
    text = "![one](file:small.png)\n\n![two](file:big.jpg)\n\n<img src='file:big.jpg' width='7' loading='eager' alt=''>"
    page = LexborHTMLParser(texts(built(plan, markdown(home=text)))["index.html"])
    one, two, three = (picture.attributes for picture in page.css("main img"))
    assert (one["width"], one["height"]) == ("100", "50") and "loading" not in one and "srcset" not in one
    assert (two["width"], two["height"], two["loading"]) == ("1200", "600", "lazy")
    assert [place.split()[1] for place in (two["srcset"] or "").split(", ")] == ["480w", "960w", "1200w"]
    assert (three["width"], three["loading"]) == ("7", "eager") and "height" not in three


def test_small_on_request_is_the_same() -> None:
    for kind, small in (("css", cssmin), ("js", jsmin)):
        plain, made = (navigation(built(planned(MAP + more)), kind).decode() for more in ("", "head: {minify: yes}\n"))
        assert made == small(plain) and len(made) < len(plain)


@pytest.mark.parametrize(
    ("css", "codes"),
    [
        ("* { padding: 0 }", set()),  # weighs less than a class
        ("ul { list-style: square !important }", {"style-takes-structure"}),
        ("nav[aria-label] li { display: inline }", {"style-takes-structure"}),
        ("@media print { body nav > ul:first-of-type { padding: 1em } }", {"style-takes-structure"}),
        ("@layer reset { nav[aria-label] ul { padding: 0 } }", set()),
        ("@layer reset { ul { padding: 0 !important } }", {"style-takes-structure"}),  # CSS Cascade 5, 6.1
        ("nav:is(.own, [aria-label]) ul { padding: 0 }", {"style-takes-structure"}),
        ("main ul { padding: 0 !important }", set()),
        (".own ul { padding: 0 }", set()),
        (".b-main ul { padding: 0 }", set()),  # it is meant
        ("[hidden] { display: none !important }", {"style-takes-structure"}),
        ("a { color: red !important }", set()),
        ("html { font-size: 62.5% }", {"root-font-size"}),
        (":root { font-size: 100% }", set()),
        ("nav > > ul { padding: 0 !important }", set()),  # which no browser can read either
    ],
)
@pytest.mark.parametrize("where", ["theme", "file"])
def test_own_rules_that_take_structure_away_are_found(css: str, codes: set[str], where: str) -> None:
    """CSS Cascade 5, 6.4; Selectors 4, 17."""
    files = Files({"files/own.css": css.encode()}) if where == "file" else Files()
    more = "head: {styles: own.css}\n" if where == "file" else f"theme:\n  css: |\n    {css}\n"
    known = ("style-takes-structure", "root-font-size")
    found = [one for one in compile_map(MAP + more, files).findings if one.code in known]
    line = (MAP + more).count("\n") if where == "theme" else 1
    assert {one.code for one in found} == codes
    assert all((one.file, one.line) == ("files/own.css" if where == "file" else "", line) for one in found)


def test_headers_are_named_after_the_pages_where_they_begin() -> None:
    pages = "{home: {path: /}, a: {header: static, pages: {b: {header: sticky}}}, c: {pages: {a: {header: hide}}}}"
    files = texts(built(planned(f"{HOME}pages: {pages}\nheader: shrink\n")))
    roots = {path: LexborHTMLParser(page).css_first("html") for path, page in files.items() if path.endswith("html")}
    names = {path: root.attributes.get("data-b-header") for path, root in roots.items()}
    assert (names["index.html"], names["a/index.html"], names["a/b/index.html"]) == (None, "a", "b")
    assert names["c/a/index.html"] == "c-a"


def test_what_texts_have_is_styled_where_it_stands() -> None:
    files = texts(built(planned(MAP), markdown(home="Words.", a="> Words")))
    sheet = next(path for path in files if path.startswith("assets/content."))
    assert sheet not in files["index.html"] and sheet in files["a/index.html"]
    assert Renderer(planned(MAP), {}, inlaid=frozenset(["footer"])).navigation_names.keys().isdisjoint({sheet})
