"""Built pages read again: what stands in them, the same as other readers of HTML find, and the same in any order."""

from __future__ import annotations

import itertools
from collections.abc import Mapping

import lxml.html
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from selectolax.lexbor import LexborHTMLParser, LexborNode

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.findings import audit
from basilica.core.map.site import Base
from basilica.core.shared.output_file import File
from basilica.core.site_reader import PageReader, Resolver, read_site, shared_regions
from basilica.core.site_reader.built_page import BuiltPage
from basilica.core.site_reader.nesting import within_depth
from basilica.store.folders import Source

PAGE = """<!doctype html>
<html lang="en-GB">
<head><title>Opening
 hours</title><title>Two</title><meta name="Description" content=" When  open. "><meta name="robots" content="NOINDEX">
<link rel="canonical" href="https://x.example/hours/"><link rel="stylesheet" href="a.css"><base href="/b/">
<script src="a.js"></script><script type="application/ld+json">{"@type": "BreadcrumbList", "itemListElement":
[{"position": 1, "name": "Home", "item": {"@id": "/"}}, {"position": 2, "name": 7}]}</script></head>
<body><a href="#main">Skip</a>
<div><header><p>Call 01632 960142</p><nav aria-label="Main"><ul><li><a href="/">Home</a></li><li><button>More</button>
<ul><li><a href="/a/" aria-current="page"><svg aria-hidden="true"></svg>A</a></li></ul></li><li>-</li></ul></nav>
</header></div>
<div class="wrap" id="wrap"><nav aria-label="Breadcrumb"><ol><li><a href="/">Home</a></li>
<li><span aria-current="page">Hours</span></li></ol></nav>
<main id="main"><h1>Hours <small>today</small></h1><h3><img src="h.png" alt="By month"></h3>
<a href="t.html"><img src="t.png" alt="Tides" width="16" height="20"></a><a href="u.html" aria-label="Up">^</a>
<a href="v.html"><svg role="img" aria-label="Out"></svg></a><a href="w.html" title="West"></a><a name="old">no link</a>
<img srcset="x.png 1x, y.png 2x" src="z.png"><section aria-label="Times"><header>Not a banner</header></section>
<p tabindex="3" style="color: red">x</p><input type="image" src="go.png"></main></div>
<footer><p>Bye</p><nav><a href="/map">Map</a></nav></footer></body></html>"""


def read(text: str, crumbs: str | None = None) -> BuiltPage:
    return PageReader(crumbs).read(File("hours/index.html", text.encode()), None)


def test_a_page_says_what_stands_in_it() -> None:
    page = read(PAGE)
    head = page.head
    assert (page.language, head.title, head.titles, head.description) == ("en-GB", "Opening hours", 2, "When open.")
    assert (head.canonical, head.base, page.indexed) == ("https://x.example/hours/", "/b/", False)
    assert page.data == ((1, "Home", "/"), (2, "7", None))
    assert page.headings() == [(1, "Hours today"), (3, "By month")]
    assert page.breadcrumbs == (("Home", "/", None), ("Hours", None, "page"))
    assert [load.url for load in page.loads()] == [
        *("a.css", "a.js"),
        *("h.png", "t.png", "z.png", "x.png", "y.png", "go.png"),
    ]
    assert page.ids == {"wrap", "main"}
    names = {link.href: link.name for link in page.links() if link.in_main}
    assert names == {"t.html": "Tides", "u.html": "Up", "v.html": "Out", "w.html": "West"}
    assert next(link.size for link in page.links() if link.href == "t.html") == (16, 20)
    landmarks = [(landmark.role, landmark.name) for landmark in page.landmarks()]
    assert landmarks == [
        ("banner", ""),
        ("navigation", "Main"),
        ("navigation", "Breadcrumb"),
        ("main", ""),
        ("region", "Times"),
        ("contentinfo", ""),
        ("navigation", ""),
    ]
    (home, more, line) = page.menus["Main"].menu.entries
    assert (home.label, home.href, more.label, more.items[0].label, line.label) == ("Home", "/", "More", "A", "")
    assert page.menus["Main"].marks.current == ((2, "page"),)
    words = [region.words for region in page.regions if region.words]
    assert words == ["Call 01632 960142", "Bye"]
    stops = [stop for region in page.regions for stop in region.stops]
    assert stops[0] == ("a", "#main", 0) and ("p", "", 3) in stops and stops[-1][1] == "/map"


@pytest.mark.parametrize("text", ["", "<", "\0", "<html>", "<body></body>", "text alone", "<!doctype html><title>x"])
def test_what_is_hardly_a_page_is_read_too(text: str) -> None:
    page = read(text)
    assert list(page.links()) == [] and page.menus == {} and page.breadcrumbs == ()
    assert "no-title" in {f.code for f in audit([File("index.html", text.encode())]).findings()} or "title" in text


def menus(page: BuiltPage) -> list[tuple[str, object, object]]:
    return [(nav.name, nav.menu.entries, nav.marks) for nav in page.navs()]


MARKED = tuple(
    f'<header><nav aria-label="M"><ul><li{path}><a href="/a"{one}>A</a><ul><li><a href="/b"{two}>B</a></li></ul></li>'
    f"<li><span>C</span></li></ul></nav></header>"
    for path in ("", " data-path")
    for one in ("", ' aria-current="true"')
    for two in ("", ' aria-current="page"')
)
"""One menu with other marks."""
MARKUP = st.sampled_from(
    "<nav> </nav> <nav|aria-label=A> <ul> <li> </li> </ul> <main> </main> <a|href=x> </a> <h1> <h3> <header> </header>"
    " <footer> <div> </div> <img|src=y> <p|id=p> text <table> <svg><title>t <template>"
    " <select> <!-- --> <script> </script> <base|href=//[> &lt;\0\x0b".replace("|", "\0").split(" ")
    + [text.replace(" ", "\0\0") for text in MARKED]
).map(lambda text: text.replace("\0\0", " ").replace("\0", " ", 1))


@pytest.mark.long
@given(st.lists(st.lists(MARKUP, max_size=14), min_size=1, max_size=4))
@settings(max_examples=150)
def test_any_markup_is_read_and_pages_read_before_change_nothing(pages: list[list[str]]) -> None:
    """What pages share is read once; that must not show. And nothing that can stand in a page stops a check."""
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(shared_regions, "_LEAST", 1)
        _read_together(pages)


def _read_together(pages: list[list[str]]) -> None:
    files = [File(f"{number}.html", "".join(page).encode()) for number, page in enumerate([*pages, pages[0]])]
    audit([File("index.html", files[0].data), *files]).findings(None)
    shared = PageReader(None)
    for file in files:
        one, other = shared.read(file, None), PageReader(None).read(file, None)
        assert list(one.links()) == list(other.links())
        assert (menus(one), one.breadcrumbs, one.ids) == (menus(other), other.breadcrumbs, other.ids)
        assert (one.headings(), one.landmarks()) == (other.headings(), other.landmarks())


@pytest.mark.long
def test_links_and_loads_are_those_that_lxml_finds(demo: Source) -> None:
    """lxml.html, on every page of the demo: each address in an attribute is one that was read, and no other is."""
    compiled = compile_map(demo.map, demo.files)
    built = build(compiled, demo.contents)
    site = read_site(built.files, compiled.plan)
    pages = {page.file: page for page in (*site.pages, *site.redirects)}
    assert len(pages) == 29
    for file in built.files:
        if file.path in pages:
            page = pages[file.path]
            tree = lxml.html.document_fromstring(file.data)
            theirs = sorted(url for _, attribute, url, _ in tree.iterlinks() if attribute in ("href", "src", "data"))
            ours = [link.href for link in page.links()] + [load.url for load in page.loads()] + page.head.links
            canonical = [page.head.canonical] if page.head.canonical not in (None, *page.head.links) else []
            assert sorted(ours + canonical) == theirs, file.path
            assert page.ids == set(tree.xpath("//body//@id"))


def test_regions_that_pages_share_are_read_once(demo: Source) -> None:
    compiled = compile_map(demo.map, demo.files)
    site = read_site(build(compiled, demo.contents).files, compiled.plan)
    shared = [region for page in site.pages for region in page.regions if not region.in_main]
    assert len({id(region) for region in shared}) < len(shared) / 2
    assert sum(page.size for page in site.pages) > sum({id(r): r.size for r in shared}.values())


GRAPHS = st.integers(2, 7).flatmap(
    lambda count: st.tuples(st.just(count), st.sets(st.tuples(st.integers(0, count - 1), st.integers(0, count - 1))))
)


@given(GRAPHS)
def test_clicks_are_counted_as_they_are_the_fewest(graph: tuple[int, set[tuple[int, int]]]) -> None:
    """Against every walk of so many steps: the least power of the links that leads from home to a page."""
    count, links = graph
    names = ["index.html", *(f"{number}.html" for number in range(1, count))]
    pages = {
        name: "<main>" + "".join(f'<a href="{names[to]}">x</a>' for at, to in sorted(links) if at == number)
        for number, name in enumerate(names)
    }
    built = audit(File(name, text.encode()) for name, text in pages.items()).built
    reached = {0: 0}
    at = {0}
    for steps in itertools.count(1):
        at = {to for here in at for start, to in links if start == here} - reached.keys()
        if not at:
            break
        reached.update(dict.fromkeys(at, steps))
    assert built.clicks == {names[number]: steps for number, steps in reached.items()}
    for number, steps in reached.items():
        way = built.way_to(names[number])
        assert (len(way), way[0], way[-1]) == (steps + 1, "index.html", names[number])
        assert all((names.index(a), names.index(b)) in links for a, b in itertools.pairwise(way))


@pytest.mark.parametrize(
    ("files", "base", "page", "href", "file"),
    [
        (("index.html", "a/index.html"), None, "a/index.html", "..", "index.html"),
        (("index.html", "a/index.html"), None, "index.html", "a", "a/index.html"),
        (("index.html", "b.html"), None, "index.html", "/b", "b.html"),
        (
            ("index.html", "b.html"),
            Base("https://x.example", "/m"),
            "index.html",
            "https://x.example/m/b.html",
            "b.html",
        ),
        (("index.html", "b.html"), Base("https://x.example", "/m"), "b.html", "/m/", "index.html"),
        (("index.html", "a b.html"), None, "index.html", "a%20b.html", "a b.html"),
        (("index.html",), None, "index.html", "?q=1", "index.html"),
    ],
)
def test_without_a_map_a_folder_is_served_as_servers_do(
    files: tuple[str, ...], base: Base | None, page: str, href: str, file: str
) -> None:
    resolver = Resolver(files, base=base)
    assert resolver.target(page, href).file == file
    assert Resolver(files, base=base, served=["/tickets/"]).target(page, href).file == file


def test_redirects_are_followed_to_their_end() -> None:
    def old(to: str) -> str:
        return f'<meta http-equiv="refresh" content="0;URL=\'{to}\'"><a href="{to}">Moved</a>'

    pages: Mapping[str, str] = {
        "index.html": '<main><a href="old.html">x</a><a href="ring.html">y</a>',
        "old.html": old("older.html"),
        "older.html": old("new.html"),
        "new.html": "<main><h1>New</h1>",
        "ring.html": old("ring.html"),
    }
    built = audit(File(name, text.encode()) for name, text in pages.items()).built
    assert [page.file for page in built.redirects] == ["old.html", "older.html", "ring.html"]
    assert built.way_to("new.html") == ("index.html", "new.html")
    assert "ring.html" in built.leads_to("index.html")


def test_the_base_of_a_page_is_the_base_of_its_links() -> None:
    """HTML, the base element: relative links, root links and fragments alike are followed from it."""
    menu = (
        '<nav aria-label="Main"><ul><li><a href="a.html">A</a></li><li><a href="/index.html">Home</a></li></ul></nav>'
    )
    page = "<!doctype html><html lang=en><head><title>{}</title>{}</head><body>" + menu + "<main></main>"
    files = {
        "index.html": page.format("Home", ""),
        "a.html": page.format("A", ""),
        "deep/b.html": page.format("B", '<base href="../">'),
        "deep/c.html": page.format("C", ""),
        "d.html": page.format("D", '<base href="https://elsewhere.example/">'),
    }
    found = audit(File(name, text.encode()) for name, text in files.items())
    assert {f.built for f in found.findings() if f.code == "dead-link"} == {"deep/c.html"}
    assert found.built.leads_to("d.html") == frozenset()
    assert found.built.leads_to("deep/b.html") == {"a.html", "index.html"}


TAGS = [
    *(
        "a",
        "b",
        "button",
        "caption",
        "details",
        "div",
        "font",
        "form",
        "g",
        "h2",
        "iframe",
        "li",
        "main",
        "marquee",
        "math",
    ),
    *(
        "noscript",
        "object",
        "option",
        "p",
        "pre",
        "section",
        "select",
        "span",
        "svg",
        "table",
        "td",
        "template",
        "tr",
        "ul",
    ),
]
PIECES = st.sampled_from([*(f"<{tag}>" for tag in TAGS), *(f"</{tag}>" for tag in TAGS), "<g/>", "<br>", "<div/>", "x"])


@pytest.mark.long
@settings(max_examples=400)
@given(st.lists(PIECES, min_size=1, max_size=5), st.integers(1, 80))
def test_depth_is_never_told_as_much_less_than_a_parser_makes_of_it(pieces: list[str], times: int) -> None:
    """However tags are opened and closed, what is read is never deeper than was said; but for elements such as `li` and
    `tr`, which are not counted, and stand between those that are."""
    page = ("".join(pieces) * times).encode()
    kept = within_depth(page, 10)
    assert page.startswith(kept)
    body = LexborHTMLParser(b"<body>" + kept).body
    assert body is not None
    assert max((_depth(node, body) for node in body.traverse(include_text=False)), default=0) <= 4 * 10


def test_depth_of_pages_as_they_are() -> None:
    """Pictures, rows, paragraphs, comments and spans that nobody closed do not make a page deep, however many."""
    flat = "<p>a<ul><li>b</ul><br/><img src=x><svg><path d='M0 0'/><circle r=1></circle></svg><!-- <div> --><i>c</i>"
    flat += "<div><span>d</div>"
    page = ("<main>" + flat * 900 + "<table>" + "<tr><td>d" * 900 + "</table><script>'<div>'</script></main>").encode()
    assert within_depth(page) == page
    assert within_depth(page + b"<div>" * 600).count(b"<div>") - page.count(b"<div>") == 512


def _depth(node: LexborNode, body: LexborNode) -> int:
    depth, above = 0, node
    while above is not None and above.mem_id != body.mem_id:
        depth, above = depth + 1, above.parent
    return depth
