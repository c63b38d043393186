"""Parts, layouts and slots, and the files that pages load."""

from __future__ import annotations

import hashlib
import re
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from selectolax.lexbor import LexborHTMLParser, LexborNode

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.content import layouts_of
from basilica.core.edits import EditRejected, edit
from basilica.core.edits.commands.fill_slot import FillSlot
from basilica.core.edits.commands.make_part import MakePart
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_part import SetPart
from basilica.core.map.map_files import Files, is_file_name
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan.content_links import Content
from basilica.services.inlays import FolderInlay
from basilica.store.folders import Source
from basilica.web.parts.view_model import Area, areas, idle_slots, used_on
from tests.core.help import HOME, built, markdown, planned, texts
from tests.core.maps import TITLES

MAP = (
    HOME
    + """\
pages:
  home: {path: /, title: Home}
  visit:
    title: Visit
    slots: {aside: told}
    pages:
      hours: {title: "Hours & <prices>", without: [told], slots: {after: none}}
      map: {title: Map, layout: wide}
parts:
  note: "Next: [hours](page:hours#now) and *{title}* in {section}"
  told: {kind: notice, title: Told, text: "Look:\\n\\n<part:note>"}
  find: {kind: contact, telephone: "+44 (0)1632 960142", mail: a@b.example, place: "One\\nTwo"}
  old: {kind: legal, since: "1987"}
slots: {footer: [find, old], after: note}
page-end: {sequence: map}
"""
)
WIDE = b"""{% extends "plain" %}
{% block main %}<section class="w">{{ super() }}
{% if slot("beside") %}<p>{{ slot("beside") }}</p>{% endif %}</section>{% endblock %}
"""
FILES = Files({"page-layouts/wide.html": WIDE})


def pages(text: str = MAP, files: Files = FILES, **texts: str) -> dict[str, LexborHTMLParser]:
    found = built(planned(text, files), markdown(**texts))
    return {f.path: LexborHTMLParser(f.data) for f in found if f.path.endswith(".html")}


def test_a_part_says_the_values_of_its_page_and_links_by_key() -> None:
    made = pages()
    hours, visit = made["visit/hours/index.html"], made["visit/index.html"]
    note = visit.css_first(".b-after [data-part=note]")
    assert " ".join(note.text().split()) == "Next: hours and Visit in Visit"
    assert note.css_first("a").attributes["href"] == "/visit/hours/#now"
    assert "Hours & <prices>" not in (hours.html or "") and "Hours &amp; &lt;prices&gt;" in (hours.html or "")
    contact = visit.css_first("footer [data-part=find]")
    assert contact.css_first("a").attributes["href"] == "tel:+441632960142"  # RFC 3966, 5.1.4: digits, + in front
    assert contact.css_first("p").html.count("<br>") == 1
    assert "© 1987 Mill" in visit.css_first("footer [data-part=old]").text()


def test_a_part_in_a_part_and_what_pages_keep_out() -> None:
    made = pages()
    told = made["visit/index.html"].css_first("aside.b-aside [data-part=told]")
    assert told.css_first("[data-part=note] a").attributes["href"] == "/visit/hours/#now"
    assert made["visit/hours/index.html"].css_first("[data-part]") is not None
    assert made["visit/hours/index.html"].css_first("[data-part=told]") is None  # kept out there
    assert made["visit/hours/index.html"].css_first(".b-after") is None  # `none` empties a slot
    assert made["index.html"].css_first("[data-part=told]") is None  # the slot is filled below `visit` alone
    assert made["visit/map/index.html"].css_first("section.w [data-part=note]") is not None


def test_a_page_has_its_own_text_for_a_slot() -> None:
    made = pages(**{"visit.aside": "Own [way](page:map).", "visit": "Text <part:find>"})
    aside = made["visit/index.html"].css_first("aside.b-aside")
    assert aside.css("a")[-1].attributes["href"] == "/visit/map/"
    assert made["visit/index.html"].css_first("main [data-part=find], main address") is not None
    assert made["visit/hours/index.html"].css_first("aside") is None


@pytest.mark.parametrize(
    "layout",
    [
        "{% for x in range(10**9) %}{% endfor %}{{ content }}",
        "{{ content.__class__ }}",
        "{{ page.title|upper }}{{ content }}",
        "{{ part('x' ~ 'y') }}{{ content }}",
        "{{ self.x() }}{{ content }}",
        "{% set x = 1 %}{{ content }}",
        "{% include 'plain' %}{{ content }}",
        "{% import 'plain' as p %}{{ content }}",
        "{{ cycler }}{{ content }}",
        "{{ part(slot) }}{{ content }}",
        "{% extends page.title %}",
        "{{ site.files }}{{ content }}",
        "{{ lipsum() }}{{ content }}",
        "{{ 1 + 1 }}{{ content }}",
        "{% macro m() %}{% endmacro %}{{ content }}",
        "{{ content }",
        "no room",
        "{% if reach %}" * 7000 + "{% endif %}" * 7000,
        "{% if " + "not " * 20000 + "reach %}{{ content }}{% endif %}",
        "{% if reach %}" * 40 + "{{ content }}" + "{% endif %}" * 40,
        '{% extends "wide" %}',
        '{% extends "nowhere" %}',
    ],
)
def test_a_layout_can_place_and_nothing_else(layout: str) -> None:
    """Every other word of the template language is refused before it is run, and named with its place."""
    files = Files({"page-layouts/wide.html": layout.encode()})
    found = [f for f in compile_map(MAP, files).findings if f.file]
    assert (
        [f.code for f in found] == ["layout-unread"]
        and found[0].file == "page-layouts/wide.html"
        and found[0].line == 1
    )


def test_findings_name_the_place() -> None:
    text = HOME + (
        "pages: {home: {path: /, slots: {nowhere: a}}}\n"
        "parts:\n  a: <part:b>\n  b: <part:c>\n  c: 'x <part:a> <part:none>'\n  d: '[x](page:gone) ![y](file:no.png)'\n"
        "slots: {after: [a, zz]}\n"
    )
    files = Files({"page-layouts/other.html": b'{{ content }}\n{{ part("lost") }}'})
    found = {(f.code, f.line, f.file) for f in compile_map(text, files).findings}
    assert ("part-ring", 4, "") in found and ("unknown-part", 6, "") in found and ("unknown-part", 8, "") in found
    assert ("unknown-page", 7, "") in found and ("unknown-file", 7, "") in found
    assert ("slot-nowhere", 2, "") in found and ("unknown-part", 2, "page-layouts/other.html") in found
    lost = Files({"parts/filed.md": b"[x](page:gone)"})
    assert not compile_map(HOME + "pages: {home: {path: /}}\n", lost).stops  # it stands nowhere
    for slots, contents in (("slots: {after: filed}\n", {}), ("", {"home": "<part:filed>"})):
        result = build(compile_map(HOME + "pages: {home: {path: /}}\n" + slots, lost), markdown(**contents))
        assert [(f.code, f.file) for f in result.findings if f.stops] == [("unknown-page", "parts/filed.md")]
    ring = next(f for f in compile_map(text).findings if f.code == "part-ring")
    assert "`a` → `b` → `c` → `a`" in ring.message


def test_what_is_not_utf8_is_said_and_a_wrong_kind_is_said_once() -> None:
    files = Files({"parts/p.md": b"caf\xe9", "tables/t.csv": b"n\ncaf\xe9\n"})
    text = (
        HOME + "pages:\n  home: {path: /}\n  t: {table: t.csv}\nparts: {a: {kind: contcat}}\nslots: {after: [p, a]}\n"
    )
    found = [(f.code, f.line, f.file) for f in compile_map(text, files).findings if f.stops]
    assert found == [("table-unread", 4, ""), ("bad-value", 5, ""), ("content-not-utf8", 1, "parts/p.md")]


def test_a_nul_character_opens_no_room() -> None:
    """Room for what differs is marked with it, so none may come in."""
    files = Files({"parts/p.html": b"<b>\0page key\0</b>", "page-layouts/own.html": b"\0content\0{{ content }}"})
    text = HOME + "pages: {home: {path: /, layout: own, slots: {}}}\nslots: {footer: p}\n"
    contents = {"home": Content("content/home.html", "<i>\0home\0</i>")}
    page = Renderer(planned(text, files), contents).page("home").decode()
    assert "\0" not in page and "<i>\ufffdhome\ufffd</i>" in page and page.count("<i>") == 1


def test_the_page_as_areas_and_where_parts_are_used() -> None:
    plan = planned(MAP, FILES)
    contents = markdown(**{"visit": "Text <part:old>", "visit.beside": "x"})

    def flat(found: tuple[Area, ...]) -> list[tuple[str, str, bool]]:
        return [one for area in found for one in ((area.kind, area.name, area.empty), *flat(area.inside))]

    shown = flat(areas(plan, contents, "visit"))
    assert shown.index(("part", "header", False)) < shown.index(("content", "visit", False))
    assert ("slot", "before", True) in shown and ("part", "told", False) in shown
    used = used_on(plan, contents)
    assert used["told"] == ("visit", "visit/map") and used["breadcrumbs"] == ("visit", "visit/hours", "visit/map")
    assert set(used["note"]) == {"home", "visit", "visit/map"}
    assert "before" in idle_slots(plan)["plain"] and "beside" in idle_slots(plan)["wide"]


CSS = b"@import 'b.css'; a{background:url(pics/x.png)} b{background:url(\"https://o.example/y.png\")}"


def test_files_are_stamped_with_what_they_hold_and_follow_one_another() -> None:
    def made(picture: bytes) -> dict[str, bytes]:
        files = {"files/a.css": CSS, "files/b.css": b"i{}", "files/pics/x.png": picture}
        text = HOME + "pages: {home: {path: /}}\nhead: {styles: a.css, icon: pics/x.png}\n"
        return {f.path: f.data for f in built(planned(text, Files(files)), markdown(home="![p](file:pics/x.png)"))}

    one, other = made(b"\x89PNG 1"), made(b"\x89PNG 2")
    mark = hashlib.sha256(b"\x89PNG 1").hexdigest()[:10]
    name = f"assets/pics/x.{mark}.png"
    assert name in one and name not in other
    sheet = next(path for path in one if re.fullmatch(r"assets/a\.\w{10}\.css", path))
    assert sheet not in other  # its own name follows what it loads
    assert name.removeprefix("assets/").encode() in one[sheet] and b"https://o.example/y.png" in one[sheet]
    page = LexborHTMLParser(one["index.html"])
    assert (
        page.css_first("main img").attributes["src"]
        == f"/{name}"
        == page.css_first("link[rel=icon]").attributes["href"]
    )
    assert f"/{sheet}" in [node.attributes["href"] for node in page.css("link[rel=stylesheet]")]


def test_what_a_head_has_of_its_own() -> None:
    files = Files({"files/p.png": b"\x89PNG", "files/one.css": b"", "files/one.js": b"", "files/m.woff2": b"w"})
    text = HOME + (
        "pages:\n  home: {path: /}\n  a: {keywords: 'x, y', class: wide, styles: one.css, scripts: one.js, css: 'p{}',"
        " js: 'go()', description: D, social: {title: 'T \"q\"'}}\n"
        "head: {social: {picture: p.png}, fonts: {Mill Sans: m.woff2}}\n"
    )
    made = texts(built(planned(text, files)))
    page, home = LexborHTMLParser(made["a/index.html"]), LexborHTMLParser(made["index.html"])
    met = {
        n.attributes.get("property") or n.attributes.get("name"): n.attributes["content"]
        for n in page.css("meta[content]")
    }
    assert met["keywords"] == "x, y" and met["og:title"] == 'T "q"' and met["og:description"] == "D"
    assert met["og:image"].startswith("https://mill.example/assets/p.")
    assert page.body.attributes["class"] == "wide" and page.css_first("style").text().strip() == "p{}"
    assert page.css("script")[-1].text().strip() == "go()" and page.css_first('script[src*="one."]') is not None
    assert home.css_first("[src*='one.']") is None and home.body.attributes.get("class") is None
    assert home.css("link[as=font]")[1].attributes["href"].startswith("/assets/m.")
    assert any("font-display: optional" in text for path, text in made.items() if path.endswith(".css"))


@pytest.mark.parametrize("css", ["p{}</style><script>", "</STYLE >"])
def test_inline_style_cannot_end_its_element(css: str) -> None:
    text = HOME + f"pages: {{home: {{path: /, css: '{css}'}}}}\n"
    assert "bad-value" in [f.code for f in compile_map(text).findings if f.stops]


def test_names_of_files_lead_nowhere_else() -> None:
    for bad in (
        "files/../x",
        "/files/x",
        "files//x",
        "files/.x",
        "other/x",
        "files",
        "files/a b",
        "files/a\\b",
        "files/é",
    ):
        assert not is_file_name(bad), bad
    assert is_file_name("files/pics/mill-2.jpg")


def test_a_row_of_parts_is_part_of_the_row_above_the_header(demo: Source) -> None:
    plan = planned(demo.map.decode(), demo.files)
    page = LexborHTMLParser(Renderer(plan, demo.contents).page("visit"))
    assert page.css_first(".b-utility [data-part=next-milling-day] a").attributes["href"] == "/milling/calendar/"
    assert page.css_first("footer [data-part=next-milling-day]") is not None
    assert page.css("nav") and not page.css("nav nav, nav [data-part]")  # a menu is a menu, and nothing else
    assert page.css_first("header img").attributes["width"] == "40"  # known before it is loaded: nothing moves


def test_acts_on_parts_are_refused_where_they_make_no_sense() -> None:
    files = Files({**FILES, "parts/filed.md": b"x"})
    compiled = compile_map(MAP, files)
    for act in (
        SetPart("filed", "text", "y"),
        SetPart("nobody", "title", "y"),
        SetPart("header", "text", "y"),
        SetPart("told", "telephone", "1"),
        SetPart("find", "text", "<part:find>"),
        FillSlot("after", "nobody"),
        MakePart("find", "text", "x"),
        MakePart("header", "text", "x"),
        MakePart("new", "form", ""),
        MakePart("new", "embed", "javascript:x()"),
    ):
        with pytest.raises(EditRejected, match=r"(?i)nothing was changed"):
            edit(compiled, MAP, act)
    renamed = edit(compiled, MAP, RenameId("visit/hours", "times"))
    assert "[hours](page:times#now)" in renamed.text


def test_tags_of_parts_and_layouts_are_closed_where_they_are_opened() -> None:
    files = Files(
        {
            "parts/p.html": b"<p>Open\n<div><b>daily</div>",
            "page-layouts/wide.html": b'{% if slot("after") %}\n<div>{{ slot("after") }}{% endif %}\n{{ content }}',
            "page-layouts/narrow.html": b'{% if slot("after") %}<b>{% else %}<i>{% endif %}{{ content }}'
            b'{% if slot("after") %}</b>{% else %}</i>{% endif %}{% block end %}<i>{% endblock %}',
            "page-layouts/own.html": b'{% extends "narrow" %}{% block end %}{% endblock %}',
        }
    )
    text = HOME + "pages: {home: {path: /, slots: {after: [p, q]}}}\nparts:\n  q: 'Or <section>not'\n"
    found = [f for f in compile_map(text, files).findings if f.code.endswith("-tags")]
    assert [(f.file, f.line, f.column, f.code) for f in found] == [
        ("", 4, 6, "content-tags"),
        ("page-layouts/narrow.html", 1, 1, "template-tags"),
        ("page-layouts/wide.html", 2, 1, "template-tags"),
        ("parts/p.html", 2, 6, "content-tags"),
    ]
    assert found[0].message == "`q` has `<section>`, which is never closed."


def test_layouts_are_read_once_for_the_same_files() -> None:
    assert layouts_of(Files(dict(FILES))) is layouts_of(FILES)


@pytest.mark.long
def test_parts_in_parts_cannot_grow_without_bound() -> None:
    """Each of 40 parts holds the next one ten times: nothing of it is ever put together."""
    rows = [f'  p{n}: {{kind: text, html: "{f"<part:p{n + 1}>" * 10}"}}' for n in range(39)]
    text = HOME + "pages: {home: {path: /}}\nparts:\n" + "\n".join([*rows, "  p39: end"]) + "\nslots: {after: p0}\n"
    found = {f.code for f in compile_map(text).findings if f.stops}
    assert found == {"part-too-large"}
    chain = "".join(f"  p{n}: {{kind: text, html: '<part:p{n + 1}>'}}\n" for n in range(3_000))
    deep = compile_map(HOME + "pages: {home: {path: /}}\nparts:\n" + chain + "  p3000: end\nslots: {after: p0}\n")
    assert {f.code for f in deep.findings if f.stops} == {"part-too-large"}
    big = HOME + "pages: {home: {path: /}}\nparts: {p: {kind: text, html: '" + "x" * 90_000 + "'}}\nslots: {after: p}\n"
    result = build(compile_map(big), markdown(home="<part:p>\n\n" * 100))
    assert [f.code for f in result.findings if f.stops] == ["part-too-large"]
    assert max(len(file.data) for file in result.files) < 6_000_000
    many = Files({"page-layouts/wide.html": b"{{ content }}" + b"{{ part('note') }}" * 200})
    assert [f.code for f in compile_map(MAP, many).findings if f.file] == ["layout-unread"]


KINDS = (
    HOME
    + """\
pages:
  home: {path: /, title: Home}
  other: {title: Other}
menus:
  main: [home, other]
  far: {place: part, label: Elsewhere, entries: [{url: "https://o.example", label: O, icon: ship}]}
parts:
  identity: {kind: identity, picture: p.svg, name: Another name, line: A line}
  told: {kind: notice, title: Told, text: "A *word*."}
  find: {kind: contact, title: Find us, telephone: 01632 960142, mail: a@b.example, place: Here, opening: "Mon\\nTue"}
  go: {kind: links, title: Go, menu: far}
  ask: {kind: form, title: Ask, to: /ask/}
  seek: {kind: form, form: search, title: Seek, to: "https://o.example/find", button: Look}
  show: {kind: embed, title: A map, url: "https://o.example/map", height: 200}
  own: {kind: legal, since: "1987", name: Us}
slots: {header: told, before: seek, after: [show, ask], aside: go, footer: [find, own]}
"""
)
ALL_KINDS = Files({"files/p.svg": b"<svg xmlns='http://www.w3.org/2000/svg' width='40' height='40'/>"})


def test_every_ready_kind_says_what_it_was_given() -> None:
    page = LexborHTMLParser(Renderer(planned(KINDS, ALL_KINDS), {}).page("other"))

    def part(name: str) -> LexborNode:
        return page.css_first(f"[data-part={name}]")

    assert page.css_first("header .b-name").text(strip=True) == "Another name"
    assert page.css_first("header .b-tagline").text() == "A line"
    assert page.css_first("header .b-name").attributes["href"] == "/"
    assert page.css_first('section[aria-label="Mill"] [data-part=told] strong').text() == "Told"  # no menu there
    assert [link.attributes["href"] for link in part("find").css("a")] == ["tel:01632960142", "mailto:a@b.example"]
    assert part("find").css("p")[-1].html.count("<br>") == 1
    assert part("go").css_first("nav[aria-label=Elsewhere] a").attributes["href"] == "https://o.example/"
    ask, seek = part("ask").css_first("form"), part("seek").css_first("form")
    assert (ask.attributes["method"], ask.attributes["action"]) == ("post", "/ask/")
    assert (seek.attributes["method"], seek.attributes["action"]) == ("get", "https://o.example/find")
    assert seek.attributes["role"] == "search" and seek.css_first("button").text() == "Look"
    for form in (ask, seek):
        fields = [node.attributes["id"] for node in form.css("input, textarea")]
        assert [label.attributes["for"] for label in form.css("label")] == fields  # each field has its own label
    frame = part("show").css_first("iframe").attributes
    assert (frame["src"], frame["title"], frame["height"]) == ("https://o.example/map", "A map", "200")
    assert part("own").text(strip=True) == "© 1987 Us"


@pytest.mark.long
@settings(max_examples=25, deadline=None)
@given(st.dictionaries(st.sampled_from(["home", "visit", "visit/hours", "visit.aside", "visit/map.after"]), TITLES))
def test_other_content_makes_the_pages_that_a_new_renderer_makes(texts: dict[str, str]) -> None:
    """What surrounds pages is shared between renderers of the same plan, and nothing of one shows in the other."""
    plan = planned(MAP.replace("{name: Mill", "{name: Mill, links: document"), FILES)
    first = Renderer(plan, markdown(visit="First", **{"visit/hours.after": "First"}))
    for key in first.pages:
        first.page(key)
    contents = markdown(**texts)
    again, fresh = first.with_contents(contents), Renderer(plan, contents)
    assert [again.page(key) for key in again.pages] == [fresh.page(key) for key in fresh.pages]
    assert again.findings() == fresh.findings()


def test_a_site_with_parts_is_set_into_pages_that_exist(tmp_path: Path) -> None:
    plan = planned(KINDS, ALL_KINDS)
    (tmp_path / "other").mkdir()
    for name in ("index.html", "other/index.html"):
        (tmp_path / name).write_text("<!doctype html><head><title>x</title></head><body><p id=content>Own</p></body>")
    laid = FolderInlay(plan, {}, tmp_path, place=True)
    assert laid.run(write=True).problems == ()
    page = (tmp_path / "other/index.html").read_text()
    assert "Another name" in page and "© 1987 Us" in page and "<p id=content>Own</p>" in page
    picture = next(path for path in tmp_path.glob("assets/p.*.svg"))
    assert f"/assets/{picture.name}" in page
    assert laid.run(write=True).changed == ()


@pytest.mark.parametrize("own", ["text", "html"])
def test_the_text_of_a_part_is_removed_by_its_own_word_alone(own: str) -> None:
    text = (
        f"{HOME}parts: {{about: {{kind: contact, {own}: Come, telephone: '01632 960142'}}}}\nslots: {{after: about}}\n"
    )
    text = text.replace("parts:", "pages: {home: {path: /}}\nparts:") if "pages:" not in text else text
    compiled = compile_map(text)
    other = "html" if own == "text" else "text"
    assert edit(compiled, text, SetPart("about", other, "")).text == text
    assert "Come" not in edit(compiled, text, SetPart("about", own, "")).text
