"""Shared regions in pages that exist: nothing outside their marks changes."""

from __future__ import annotations

import re
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from selectolax.lexbor import LexborHTMLParser

from basilica.core.compile import compile_map
from basilica.core.exchange.site_import import analyse, held_against_models
from basilica.core.exchange.site_import.held_against_models import wrapped_in
from basilica.core.exchange.site_import.wrapped_regions import wrapped_regions
from basilica.core.outputs.inlay import (
    REGIONS,
    CannotInlay,
    has_set_in,
    inlay,
    marked_regions_of,
    names_in,
    region_names,
)
from basilica.core.outputs.static_site import Renderer
from basilica.core.shared import html_scanner
from basilica.core.shared.html_scanner import attributes, scan
from basilica.core.shared.output_file import File

MAP = """site: {name: Mühle, base: https://mill.example}
pages: {home: {path: /}, visit: {pages: {hours: Öffnung → heute}}}
menus: {main: [home, visit], footer: [hours]}
"""


def renderer() -> Renderer:
    plan = compile_map(MAP).plan
    assert plan is not None
    return Renderer(plan, {}, menus_alone=tuple(plan.menus))


ALL_NAMES = frozenset(region_names(renderer().plan))
PARTS = marked_regions_of(renderer(), "visit/hours", ALL_NAMES)


def pair(name: str, inside: str = "") -> str:
    return f"<!-- basilica: {name} -->{inside}<!-- /basilica: {name} -->"


ODD = st.sampled_from(
    [
        "<p class=a>x < y & z</p>",
        "<script>if (a < b) s = '<!-- basilica: header -->';</script>",
        "<style>/* <!-- basilica: footer --> */</style>",
        '<a title="a > b <!-- basilica: footer -->" href=x=y>l</a>',
        "<textarea><!-- /basilica: header --></textarea>",
        "<!-- an own comment -- with > in it -->",
        "<!-->",
        "<!--->",
        "<?php echo 1 > 0; ?>",
        "<![CDATA[ x ]]>",
        "<br/><img alt='it is > there' src=\"p\">",
        "<unclosed attr='",
        "</body ><body>",
        "\t\xa0é→😀\f",
        "&amp;&nbsp",
        '<a b="c="d\'>',
        "",
    ]
)


@st.composite
def pages(draw: st.DrawFn) -> tuple[str, list[str]]:
    """A page with odd markup, in pieces between which its marks stand: `|name|` in a list is a mark."""
    names = draw(st.lists(st.sampled_from([*REGIONS, "menu main"]), unique=True, max_size=6))
    newline = draw(st.sampled_from(["\n", "\r\n"]))
    closed = ODD.filter(lambda piece: not piece.startswith("<unclosed"))  # that takes in all that follows
    outside = [newline.join(draw(st.lists(closed, max_size=4))) for _ in range(len(names) + 1)]
    outside[-1] += draw(ODD)
    inside = [draw(st.sampled_from(["", "\nold\n", "<p>old</p>", newline])) for _ in names]
    page = outside[0] + "".join(
        pair(name, old) + after for name, old, after in zip(names, inside, outside[1:], strict=True)
    )
    return page, outside


@pytest.mark.long
@settings(max_examples=500, deadline=None)
@given(pages(), st.sampled_from(["utf-8", "utf-8-sig", "iso-8859-1", "windows-1252"]))
def test_nothing_outside_the_marks_changes_and_twice_is_once(made: tuple[str, list[str]], charset: str) -> None:
    page, outside = made
    if charset.startswith("utf"):
        data = page.encode(charset)
        wanted = [piece.encode() for piece in outside]
    else:
        head = f"<meta charset={charset}>"
        data = (head + page).encode(charset, "ignore")
        wanted = [piece.encode(charset, "ignore") for piece in (head + outside[0], *outside[1:])]
    once = inlay(data, PARTS)
    left = re.split(
        rb"<!-- basilica: [a-z -]+ -->(?:(?!<!-- basilica).)*?<!-- /basilica: [a-z -]+ -->", _bare(once.data)
    )
    assert _bare(once.data).count(b"basilica") == _bare(data).count(b"basilica")
    assert b"".join(left).removeprefix(b"\xef\xbb\xbf") == b"".join(_bare(piece) for piece in wanted)
    again = inlay(once.data, PARTS)
    assert (again.data, again.changed) == (once.data, ())
    assert once.data.count(b"basilica") - page.count("basilica") == 0


def _bare(data: bytes) -> bytes:
    """A page without the texts that only look like marks, and without what is set in."""
    for quoted in re.findall(r"<script>.*?</script>|<style>.*?</style>|<textarea>.*?</textarea>|title=\"[^\"]*\"", ALL):
        data = data.replace(quoted.encode(), b"")
    return re.sub(rb"(<!-- basilica: ([a-z -]+) -->).*?(<!-- /basilica: \2 -->)", rb"\1\3", data, flags=re.DOTALL)


ALL = "<script>if (a < b) s = '<!-- basilica: header -->';</script><style>/* <!-- basilica: footer --> */</style>" + (
    '<a title="a > b <!-- basilica: footer -->"><textarea><!-- /basilica: header --></textarea>'
)


def test_what_is_set_in_is_what_the_static_site_has() -> None:
    made = renderer()
    page = b"<html><head><title>x</title></head>\n<body class=own>\n<main id=content>Own</main></body></html>"
    placed = inlay(page, marked_regions_of(made, "visit/hours", ALL_NAMES), place=True)
    built, own = LexborHTMLParser(made.page("visit/hours")), LexborHTMLParser(placed.data)
    for part in (
        ".b-skip",
        ".b-header-space",
        ".b-breadcrumbs",
        ".b-footer",
        'script[type="application/ld+json"]',
        "link",
    ):
        shown, set_in = ({" ".join((node.html or "").split()) for node in tree.css(part)} for tree in (built, own))
        assert set_in == shown != set(), part
    assert own.css_first("main").text() == "Own"
    outside = re.sub(rb"<!-- basilica: ([a-z-]+) -->.*?<!-- /basilica: \1 -->", b"", placed.data, flags=re.DOTALL)
    assert b"".join(outside.split()) == b"".join(page.split())
    assert inlay(placed.data, marked_regions_of(made, "visit/hours", ALL_NAMES), place=True).data == placed.data


def test_a_charset_that_lacks_a_letter_gets_a_reference() -> None:
    page = f"<meta charset='koi8-r'>{pair('breadcrumbs')}{pair('data')}".encode()
    done = inlay(page, PARTS).data
    assert b"&#214;ffnung &#8594; heute" in done and rb"\u00d6ffnung \u2192 heute" in done
    read = LexborHTMLParser(done)
    assert read.css_first(".b-breadcrumbs li:last-child").text().strip() == "Öffnung → heute"


@pytest.mark.parametrize(
    ("page", "said"),
    [
        ("a\n<!-- basilica: header -->", "Line 2: `header` is not closed"),
        ("<!-- /basilica: header -->", "Line 1: `header` is closed but was never opened"),
        (pair("header") + "\n\n" + pair("header"), "Line 3: `header` has marks already"),
        ("<!-- basilica: header -->" + pair("footer"), "begins inside `header`"),
        (pair("heder"), "Line 1: there is no region `heder`"),
        (pair("closing"), "Line 1: `closing` is called `page-end` now"),
        ("\ufeffx", "UTF-16"),
    ],
)
def test_a_page_with_wrong_marks_is_left_alone(page: str, said: str) -> None:
    with pytest.raises(CannotInlay, match=re.escape(said)):
        inlay(page.encode("utf-16" if "\ufeff" in page else "utf-8"), PARTS)
    with pytest.raises(CannotInlay, match="has no place"):
        inlay(b"<p>No head and no body", PARTS, place=True)


@pytest.mark.parametrize("piece", [b'<a b="c" ', b"<!--", b"<", b"<a =", b"</", b"<script>", b"<a b='"])
def test_no_page_takes_the_scanner_past_linear_time(piece: bytes) -> None:
    assert len(list(scan(piece * 50_000))) <= 50_000


OWN = """site: {name: Mill, base: https://mill.example, urls: files, links: file, title: '{title} | {site}'}
pages: {home: {path: /}, visit: {description: 'Come & see', pages: {hours: Opening}}, press: {}}
menus: {main: [home, visit: [hours], press]}
parts: {foot: {text: 'Write to [us](page:press).'}}
inlay:
  replace: [title, description, canonical]
  menus:
    main:
      entry: '<li><a href="{address}">{label}</a>{below}</li>'
      current: '<li class="on"><b>{label}</b>{below}</li>'
      holds: '<li class="open"><a href="{address}">{label}</a>{below}</li>'
      below: '<ol>{entries}</ol>'
  breadcrumbs: {entry: '<a href="{address}">{label}</a>', current: '<i>{label}</i>', between: ' / '}
"""


def set_into(page: str, key: str, file: str) -> str:
    plan = compile_map(OWN).plan
    assert plan is not None
    made = Renderer(plan, {}, menus_alone=tuple(plan.menus), inlaid=frozenset())
    head = {"title": "Opening | Mill", "description": "Come &amp; see", "canonical": "https://mill.example/x.html"}
    names = names_in(page.encode())
    return inlay(page.encode(), marked_regions_of(made, key, names), head=head, file=file).data.decode()


def test_entries_are_written_as_the_pages_write_them() -> None:
    page = f"<ul>{pair('entries main')}</ul><p>{pair('breadcrumbs')}</p>{pair('part foot')}{pair('list main')}"
    done = set_into(page, "visit/hours", "visit/hours.html")
    assert (
        '<li><a href="../index.html">Home</a></li>\n<li class="open"><a href="../visit.html">Visit</a>'
        '<ol><li class="on"><b>Opening</b></li></ol></li>\n<li><a href="../press.html">Press</a></li><!-- /basilica'
    ) in done
    crumbs = '<a href="../index.html">Home</a> / <a href="../visit.html">Visit</a> / <i>Opening</i>'
    assert f"<p><!-- basilica: breadcrumbs -->{crumbs}<!-- /basilica: breadcrumbs --></p>" in done
    assert '<p>Write to <a href="../press.html">us</a>.</p><!-- /basilica: part foot -->' in done
    bare = LexborHTMLParser(done.partition("list main -->")[2])
    assert [each.text() for each in bare.css("ul > li > a")] == ["Home", "Visit", "Opening", "Press"]
    assert bare.css_first("nav") is None and "assets/" not in done
    # What differs in how its links are spelled alone stays as somebody wrote it.
    other = done.replace('"../press.html"', "'../visit/../press.html'")
    assert set_into(other, "visit/hours", "visit/hours.html") == other


def test_the_head_of_a_page_is_replaced_and_never_doubled() -> None:
    page = (
        "<head><title>Old <b></title><meta content='x' name=description><link href=/old rel=canonical></head>"
        f"<body><title>no</title>{pair('entries main')}"
    )
    done = set_into(page, "visit/hours", "visit/hours.html")
    head = done.partition("</head>")[0]
    assert head == (
        "<head><title>Opening | Mill</title><meta content='Come &amp; see' name=description>"
        '<link href="https://mill.example/x.html" rel=canonical>'
    )
    kept = inlay(f"<head><link rel=canonical href=/a>{pair('head')}</head><body>".encode(), PARTS).data
    assert kept.count(b"canonical") == 1
    with pytest.raises(CannotInlay, match="It has `<base>`"):
        set_into(f"<head><base href='/x/'></head>{pair('entries main')}", "visit/hours", "visit/hours.html")


@pytest.mark.long
@settings(max_examples=200, deadline=None)
@given(pages())
def test_what_is_told_at_first_sight_is_so(made: tuple[str, list[str]]) -> None:
    data = made[0].encode()
    regions = {name: PARTS[name] for name in names_in(data) if name in PARTS}
    done = inlay(data, regions).data
    if has_set_in(done, regions):
        assert inlay(done, regions).changed == ()
    if has_set_in(data, regions):
        assert done == data


class _Never:
    def match(self, *_: object) -> None: ...
    def fullmatch(self, *_: object) -> None: ...


TAGS = st.sampled_from(
    [
        "<a", "<IMG ", ' href="x y"', " title='it is > there'", " src=a/b.png", " src=foo/", " checked",
        '  data-x = "1"', "/>", ">", ' alt=""', ' @click="a"', " x=it's", "\n", "</p>", "<br/>", " =x", "text",
        "<script>if(a<b)</script>", "<!-- b -->", "<pre>",
    ]
)  # fmt: skip


@pytest.mark.long
@settings(max_examples=500, deadline=None)
@given(st.lists(TAGS, max_size=10))
def test_plain_tags_are_read_by_the_same_rules_as_all(pieces: list[str]) -> None:
    data = "".join(pieces).encode()
    read = [(each, attributes(data, each) if each.kind == "open" else []) for each in scan(data)]
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(html_scanner, "_PLAIN_TAG", _Never())
        patch.setattr(html_scanner, "_PLAIN_NEXT", _Never())
        slowly = [(each, attributes(data, each) if each.kind == "open" else []) for each in scan(data)]
    assert [each for each, _ in read] == [each for each, _ in slowly]
    some = {b"p", b"img"}
    assert list(scan(data, some)) == [one for one, _ in slowly if one.name in some or one.kind in ("comment", "other")]
    for (_, quick), (_, slow) in zip(read, slowly, strict=True):
        assert [(one.name, one.start, data[one.value_start : one.value_end]) for one in quick] == [
            (one.name, one.start, data[one.value_start : one.value_end]) for one in slow
        ]


WORDS = "tide wheel stone sluice grain sack beam gate pond marsh reed barge".split()  # noqa: SIM905


def large_site(random: Random) -> list[File]:
    """76 pages in five sections, two of which have a menu of their own; some pages have drifted."""
    sections = [f"part-{number}" for number in range(5)]
    top = [("index.html", "Home"), *((f"{one}/index.html", one.title()) for one in sections)]
    names = [("index.html", ""), *((f"{one}/{name}.html", one) for one in sections for name in ("index", *WORDS, 1, 2))]
    with_menu, files = random.sample(sections, 2), []
    for name, section in names:
        up = "../" * name.count("/")
        entries = "".join(
            f'<li{" class=on" if href == name else ""}><a href="{up}{href}">{label}</a></li>'
            for href, label in top
            if random.random() > 0.01
        )
        crumbs = f'<p class="crumbs"><a href="{up}index.html">Home</a> &gt; {name}</p>' if section else ""
        steps = "".join(f'<li><a href="{one}.html">{section} {one}</a></li>' for one in WORDS[:3])
        menu = f'<ul class="steps">{steps}</ul>' if section in with_menu else ""
        own = " ".join(random.choices(WORDS, k=40))
        own += f'<a href="{up}{random.choice(names)[0]}">{random.choice(WORDS)}</a>'
        foot = "Saltern Reach Mill, Causeway Lane, since 1782" if random.random() > 0.03 else "Words of its own below"
        body = (
            f"<div class=top><ul>{entries}</ul></div>{crumbs}{menu}<h1>{name}</h1><p>{own}</p><p class=foot>{foot}</p>"
        )
        files.append(File(name, f"<html><head><title>{name}</title></head><body>{body}</body></html>".encode()))
    return files


@pytest.mark.long
@settings(max_examples=12)
@given(st.integers(0, 1_000_000))
def test_pages_held_against_models_have_what_a_comparison_of_all_finds(seed: int) -> None:
    files = large_site(Random(seed))
    site, compared = analyse(files), []
    assert site is not None

    def counted(given: list[File]) -> object:
        compared.append(sum(bool(file.data) for file in given))
        return analyse(given)

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(held_against_models, "analyse", counted)
        found = wrapped_in(files, models=24)
    assert found == wrapped_regions(site)
    assert len(compared) == 2 and compared[0] == 24 and compared[1] < len(files)
