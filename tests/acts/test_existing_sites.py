"""Existing sites, lines 11 to 14: brought in and inlaid by the commands that people use."""

from __future__ import annotations

import re
from collections.abc import Mapping
from pathlib import Path

import pytest
from click.testing import CliRunner, Result

from basilica.cli import main
from basilica.core.exchange.site_import.lost_things import lost_things
from basilica.core.exchange.site_import.lost_words import lost_words
from basilica.core.exchange.site_import.old_page import read_old_page
from basilica.core.shared.output_file import File
from basilica.core.site_reader.link_resolver import Resolver

PAGE = """<!DOCTYPE html>
<html lang="en"><head><meta charset="utf-8"><title>{title} – Pond</title></head><body>
<div id="top"><a href="index.html">Home</a> | <a href="order.html">Order</a> | <a href="pond.html">The pond</a> |
<a href="gear.html">Gear</a></div>
<div id="main"><h1>{title}</h1><p>All about {title}.</p></div>
{own}
<div id="foot"><p>© 1998 The Pond Club</p></div>
</body></html>
"""
NAMES = ("index", "order", "pond", "gear", "reeds", "newts")
OWN = {
    "files": '<p ><a href="pdf/{name}.pdf">Download as PDF</a></p>',
    "pictures": '<div class="pic"><img src="pic/{name}.png" alt=""><p>The pond in summer</p></div>',
    "hidden values": '<form class="f" action="/buy"><p>Buy it <input type="hidden" name="item" value="{name}">'
    "<button>Buy</button></p></form>",
    "frames": '<div class="frame"><p>Seen from above</p><iframe src="maps/{name}.svg" title="Map"></iframe></div>',
    "next": '<div class="go"><a href="{before}.html">Earlier</a> <a href="{after}.html">Later</a></div>',
    "queries": '<div class="q"><p>See also <a href="order.html?item={number}">this item</a></p></div>',
}


def run(*words: str | Path) -> Result:
    return CliRunner().invoke(main, [str(word) for word in words])


def put(folder: Path, own: str, frame: str = PAGE) -> dict[str, str]:
    """A site whose pages have a block of their own that says the same on all; by name, what is in it."""
    folder.mkdir()
    found = {}
    for number, name in enumerate(NAMES):
        around = {"before": NAMES[number - 1], "after": NAMES[(number + 1) % len(NAMES)]}
        found[name] = own.format(name=name, number=number, **around)
        (folder / f"{name}.html").write_text(frame.format(title=name.title(), own=found[name]))
        for kind, ending in (("pdf", "pdf"), ("pic", "png"), ("maps", "svg")):
            (folder / kind).mkdir(exist_ok=True)
            (folder / kind / f"{name}.{ending}").write_text(name)
    return found


def built(folder: Path, tmp_path: Path) -> Mapping[str, str]:
    """A site brought in and built: its pages by name."""
    done = run("import", folder, "--out", tmp_path / "new")
    assert done.exit_code == 0, done.output
    run("build", tmp_path / "new" / "site.yaml", "--out", tmp_path / "out")
    return {name: (tmp_path / "out" / f"{name}.html").read_text() for name in NAMES}


@pytest.mark.parametrize("kind", OWN)
def test_11_what_says_the_same_and_leads_elsewhere_stays_each_pages_own(tmp_path: Path, kind: str) -> None:
    put(tmp_path / "old", OWN[kind])
    for number, (name, page) in enumerate(built(tmp_path / "old", tmp_path).items()):
        values = {
            "files": f"{name}.pdf",
            "pictures": f"{name}.png",
            "hidden values": f'value="{name}"',
            "frames": f"maps/{name}.svg",
            "next": f"{NAMES[(number + 1) % len(NAMES)]}",
            "queries": f"item={number}",
        }
        assert page.count(values[kind]) >= 1, name
        others = [one for one in NAMES if one != name]
        if kind in ("files", "pictures", "hidden values", "frames"):
            assert not any(values[kind].replace(name, other) in page for other in others), name


@pytest.mark.parametrize("kind", ["files", "pictures", "hidden values", "frames", "queries"])
def test_11_nor_are_they_marked_where_pages_stay(tmp_path: Path, kind: str) -> None:
    own = put(tmp_path / "old", OWN[kind])
    assert run("import", tmp_path / "old", "--stay", "--out", tmp_path / "map").exit_code == 0
    assert run("inlay", tmp_path / "map" / "site.yaml", tmp_path / "old").exit_code == 0
    for name, text in own.items():
        page = (tmp_path / "old" / f"{name}.html").read_text()
        assert text in re.sub(r"<!-- /?basilica: [^>]*-->", "", page)


def test_12_a_sentence_with_links_is_no_menu(tmp_path: Path) -> None:
    sentence = (
        '<p class="say">You can <a href="order.html?item={number}">order it</a>, <a href="pond.html">see the pond</a> '
        'or <a href="gear.html">see the gear</a></p>'
    )
    put(tmp_path / "old", sentence)
    for number, (name, page) in enumerate(built(tmp_path / "old", tmp_path).items()):
        words = " ".join(page.replace("\n", " ").split())
        assert "You can" in words and f"item={number}" in words and "or <a" in words, name


def test_12_a_text_that_leads_on_at_its_end_is_no_sequence(tmp_path: Path) -> None:
    frame = PAGE.replace('<div id="main"><h1>{title}</h1><p>All about {title}.</p></div>\n{own}', "{own}")
    own = (
        "<article><h1>{name}</h1><p>Water {number} stands here.</p><ul><li>Look closely {number}"
        '<li><a href="{before}.html">Previous</a> <a href="{after}.html">Next</a></ul></article>'
    )
    put(tmp_path / "old", own, frame)
    for number, page in enumerate(built(tmp_path / "old", tmp_path).values()):
        assert f"Water {number} stands here." in page and f"Look closely {number}" in page


def test_12_what_most_pages_say_beside_the_menu_is_on_all_of_them(tmp_path: Path) -> None:
    frame = PAGE.replace(
        '<div id="top">',
        '<div id="head"><p>Slow water since 1998</p><form action="/find" class="s"><p>Search the pond <input name="q">'
        '</p></form></div>\n<div id="top">',
    )
    put(tmp_path / "old", "<p>{name}</p>", frame)
    for name, page in built(tmp_path / "old", tmp_path).items():
        for words in ("© 1998 The Pond Club", "Slow water since 1998", "Search the pond", 'action="/find"'):
            assert words in page, (name, words)


def test_13_a_first_link_to_a_place_on_the_page_stays(tmp_path: Path) -> None:
    frame = (
        PAGE.replace('<div id="top">', '<div id="top2">')
        .replace("<body>\n", "<body>\n{own}", 1)
        .replace("\n{own}\n<div", "\n<div")
    )
    put(tmp_path / "old", '<p>Before you begin (see <a href="#{name}">the shell</a>), {name}.</p>', frame)
    for name, page in built(tmp_path / "old", tmp_path).items():
        assert f'(see <a href="#{name}">the shell</a>)' in page, name


@pytest.fixture
def inlaid(tmp_path: Path) -> tuple[Path, Path]:
    """A map, and the pages into which it was set."""
    (tmp_path / "pages").mkdir()
    for name in ("index", "visit"):
        (tmp_path / "pages" / f"{name}.html").write_text(
            f"<!DOCTYPE html>\n<html lang=en><head><title>{name}</title></head><body><p>{name}</p></body></html>"
        )
    site = tmp_path / "site.yaml"
    site.write_text(
        "site: {name: Mill, urls: files, links: file}\npages:\n  home: {path: /, title: The old mill, label: Home}\n"
        "  visit: Visit\ninlay: {replace: [title]}\n"
    )
    assert run("inlay", site, tmp_path / "pages", "--place").exit_code == 0
    return site, tmp_path / "pages"


def test_14_what_somebody_changed_between_marks_is_not_written_over(inlaid: tuple[Path, Path]) -> None:
    site, pages = inlaid
    page = pages / "visit.html"
    page.write_text(
        page.read_text()
        .replace('<footer class="b-footer"', '<footer data-mine class="b-footer"', 1)
        .replace(">Visit</a>", ">Visit us</a>", 1)
    )
    mine = page.read_text()
    site.write_text(site.read_text().replace("visit: Visit", "visit: Come"))
    asked = run("inlay", site, pages)
    assert asked.exit_code == 1 and "somebody changed something" in asked.output and page.read_text() == mine
    assert ">Come</a>" in (pages / "index.html").read_text()
    assert run("inlay", site, pages, "--overwrite").exit_code == 0
    assert ">Come</a>" in page.read_text() and "Visit us" not in page.read_text()
    assert run("inlay", site, pages, "--check").exit_code == 0


def test_14_the_title_of_home_stays_its_title(tmp_path: Path) -> None:
    put(tmp_path / "old", "<p>{name}</p>")
    assert run("import", tmp_path / "old", "--stay", "--out", tmp_path / "map").exit_code == 0
    site = tmp_path / "map" / "site.yaml"
    site.write_text(site.read_text().replace("\ninlay:\n", "\ninlay:\n  replace: [title]\n"))
    before = {path.name: path.read_text() for path in (tmp_path / "old").glob("*.html")}
    assert run("inlay", site, tmp_path / "old").exit_code == 0
    for name, text in before.items():
        assert text.partition("</title>")[0] == (tmp_path / "old" / name).read_text().partition("</title>")[0]


def test_14_undo_names_pages_that_were_made_meanwhile(tmp_path: Path) -> None:
    put(tmp_path / "old", "<p>{name}</p>")
    assert run("import", tmp_path / "old", "--stay", "--out", tmp_path / "map").exit_code == 0
    site = tmp_path / "map" / "site.yaml"
    site.write_text(site.read_text().replace("\npages:\n", "\npages:\n  frogs: {title: Frogs, path: /frogs.html}\n"))
    made = run("inlay", site, tmp_path / "old", "--make")
    assert made.exit_code == 0 and (tmp_path / "old/frogs.html").exists(), made.output
    undone = run("inlay", site, tmp_path / "old", "--undo")
    assert undone.exit_code == 0 and "frogs.html was made since, and keeps its marks" in undone.output


def test_12_what_is_not_brought_along_is_named(tmp_path: Path) -> None:
    """Whatever the reason: here the words of a region that the old pages show by a script alone."""
    before = {"a.html": b"<html><body><h1>A</h1><p>Kept. Made by hand in 1998. Kept too.</p></body></html>"}
    after = {"a.html": b"<html><body><h1>A</h1><p>Kept. Kept too.</p></body></html>"}
    pages = {name: read_old_page(File(name, data)) for name, data in before.items()}
    assert lost_words(pages, after) == ("“Made by hand in 1998.” of a.html is not on the new pages.",)
    assert lost_words(pages, before) == ()


def test_12_what_one_language_shares_stays_and_heads_are_named(tmp_path: Path) -> None:
    """A footer of the pages in one language alone is no part of the site, and is not lost with them. What a page has in
    its head and a new one has not is named."""
    old = tmp_path / "old"
    for folder, language, foot in (("", "en", ""), ("cy/", "cy", '<div id="foot"><p>Ffôn: 01632 960142</p></div>')):
        (old / folder).mkdir(parents=True)
        for name in NAMES:
            nav = " | ".join(f'<a href="{each}.html">{each.title()}</a>' for each in NAMES)
            (old / folder / f"{name}.html").write_text(
                f'<!DOCTYPE html><html lang="{language}"><head><meta charset="utf-8"><title>{name.title()}</title>'
                f'<style>.{name} {{ color: red }}</style><meta property="og:title" content="{name}">'
                f'<link rel="alternate" hreflang="cy" href="/cy/{name}.html"><link rel="alternate" hreflang="en" '
                f'href="/{name}.html"></head><body><div id="nav">{nav}</div><div id="main"><h1>{name.title()}</h1>'
                f"<p>All about {language} {name}, in its own words.</p></div>{foot}</body></html>"
            )
    done = run("import", old, "--out", tmp_path / "new")
    assert "`<style>` of 12 pages" in done.output and '`<meta name="og:title">` of 12 pages' in done.output
    assert "is not on the new pages" not in done.output, "each is held against the page in its own language"
    run("build", tmp_path / "new" / "site.yaml", "--out", tmp_path / "out")
    welsh = [path.read_text() for path in (tmp_path / "out" / "cy").glob("*.html") if path.name != "404.html"]
    assert len(welsh) == 6 and all("Ffôn: 01632 960142" in page for page in welsh)
    assert "Ffôn" not in (tmp_path / "out" / "pond.html").read_text()


def test_12_what_is_said_within_the_content_stays_there_and_shared_blocks_are_what_they_were(tmp_path: Path) -> None:
    """A block that all pages have between their own words is no header and no footer; a form that they share still
    sends, a list is a list, and links to a block find it."""
    own = '<div class="warn"><p>Stand back from the edge, see <a href="#rules">the rules</a>.</p></div>'
    own += "<p>More of {name}, and of its water.</p>"
    beside = '<form class="find" action="/find"><label>Find <input name="q"></label><button>Go</button></form>'
    beside += '<ul class="facts"><li>Founded in 1998</li><li>Forty members</li></ul><p id="rules">No dogs in it.</p>'
    put(tmp_path / "old", own, PAGE.replace('<div id="foot">', beside + '<div id="foot">'))
    for name, page in built(tmp_path / "old", tmp_path).items():
        if name in NAMES:
            title, warned, more = (page.index(words) for words in (f"<h1>{name.title()}", "Stand back", "More of"))
            assert title < warned < more
            assert re.search(r'<form [^>]*action="/find"', page) and page.count("No dogs in it.") == 1
            assert re.search(r"<ul[^>]*>\s*<li>Founded in 1998</li>", page) and 'id="rules"' in page


def test_12_things_that_are_not_brought_along_are_named() -> None:
    """Whatever the reason; what is there in another way, at a new address, is not lost."""
    old = {
        "a.html": b'<body><h1 id="top">A</h1><a href="b.html#part">B</a> <a href="b.html?item=2">Buy</a>'
        b'<img src="x.png"><form action="/find"><input type="hidden" name="from" value="a"></form>'
        b'<a href="gone.html">Gone</a></body>',
        "b.html": b'<body><h2 id="part">B</h2><a href="a.html">A</a><iframe src="x.png"></iframe></body>',
        "x.png": b"",
    }
    pages = {name: read_old_page(File(name, data)) for name, data in old.items() if name.endswith("html")}
    before = Resolver(old)
    less = {
        "a.html": b'<body><h1>A</h1><a href="/b/#part">B</a><a href="/b/">Buy</a><form action="/"></form></body>',
        "b.html": b'<body><h2>B</h2><a href="/a/">A</a></body>',
    }
    moved = {
        name: re.sub(rb'(href|src)="(\w)\.html', rb'\1="/\2/', old[name]).replace(b"x.png", b"/x.png") for name in less
    }

    def lost(made: Mapping[str, bytes]) -> tuple[str, ...]:
        new = {name: File(f"{name[0]}/index.html", data) for name, data in made.items()}
        same = {file.path: name for name, file in new.items()}
        return lost_things(pages, before.target, new, Resolver([*same, "x.png"]), same)

    assert lost(moved) == ()
    assert [re.sub(r"^The | is not on the new pages\.$", "", message) for message in lost(less)] == [
        "form that sends to `/find` of a.html",
        "frame `x.png` of b.html",
        "hidden value `from=a` of a.html",
        "link to `b.html?item=2` of a.html",
        "picture `x.png` of a.html",
        "place that links lead to, `#part` of b.html",
    ]
