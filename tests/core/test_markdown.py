"""What content can be written in, held against the examples of the specification."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from selectolax.lexbor import LexborHTMLParser

from basilica.core.build import build, stage_findings
from basilica.core.compile import Compiled, compile_map
from basilica.core.content.source_links import page_links
from basilica.core.edits.apply import edit
from basilica.core.edits.command import Command
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.duplicate_page import DuplicatePage
from basilica.core.edits.commands.name_page import NamePage
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.edits.fixes import with_fixes
from basilica.core.findings.on_plan.html_findings import html_faults
from basilica.core.map.map_files import Files
from basilica.core.shared.markdown import Content, as_html, head_of
from tests.core.help import HOME, markdown, texts

# GitHub Flavored Markdown 0.29: examples 198 to 205 (tables), 279 and 280 (tasks), 491 and 492 (strikethrough), 622 to
# 631 (bare links), from memory; `align` of cells is said by class here, and boxes have labels.
EXAMPLES = [
    ("| foo | bar |\n| --- | --- |\n| baz | bim |", [["foo", "bar"], ["baz", "bim"]]),
    ("| abc | defghi |\n:-: | -----------:\nbar | baz", [["abc", "defghi"], ["bar", "baz"]]),
    ("| f\\|oo  |\n| ------ |\n| b `\\|` az |\n| b **\\|** im |", [["f|oo"], ["b | az"], ["b | im"]]),
    ("| abc | def |\n| --- | --- |\n| bar | baz |\n> bar", [["abc", "def"], ["bar", "baz"]]),
    ("| abc | def |\n| --- | --- |\n| bar | baz |\nbar\n\nbar", [["abc", "def"], ["bar", "baz"], ["bar", ""]]),
    ("| abc | def |\n| --- |\n| bar |", []),
    ("| abc | def |\n| --- | --- |\n| bar |\n| bar | baz | boo |", [["abc", "def"], ["bar", ""], ["bar", "baz"]]),
    ("| abc | def |\n| --- | --- |", [["abc", "def"]]),
]


def html(text: str) -> LexborHTMLParser:
    return LexborHTMLParser(as_html(Content("content/a.md", text)).html)


@pytest.mark.parametrize(("text", "rows"), EXAMPLES)
def test_tables(text: str, rows: list[list[str]]) -> None:
    found = [[cell.text() for cell in row.css("th, td")] for row in html(text).css("tr")]
    assert found == rows
    assert "style=" not in as_html(Content("content/a.md", text)).html


def test_cells_stand_as_their_column_says() -> None:
    cells = html("| a | b | c |\n|:--|:-:|--:|\n| 1 | 2 | 3 |").css("td")
    assert [cell.attributes.get("class") for cell in cells] == [None, "b-center", "b-end"]


def test_tasks_have_boxes_with_labels() -> None:
    """Examples 279 and 280; WCAG 2.2, 4.1.2."""
    found = html("- [x] foo\n  - [ ] bar\n  - [x] baz\n- [ ] bim")
    assert [label.text().strip() for label in found.css("label")] == ["foo", "bar", "baz", "bim"]
    assert ["checked" in box.attributes for box in found.css("label > input[disabled]")] == [True, False, True, False]
    assert not html("- [y] foo").css("input")


@pytest.mark.parametrize(
    ("text", "addresses"),
    [
        ("www.commonmark.org", ["http://www.commonmark.org"]),
        ("Visit www.commonmark.org/help for more.", ["http://www.commonmark.org/help"]),
        ("Visit www.commonmark.org.", ["http://www.commonmark.org"]),
        ("(www.google.com/search?q=Markup+(business))", ["http://www.google.com/search?q=Markup+(business)"]),
        ("http://commonmark.org", ["http://commonmark.org"]),
        ("foo@bar.baz", ["mailto:foo@bar.baz"]),
        ("a.b-c_d@a.b-", []),
        ("`www.commonmark.org`", []),
    ],
)
def test_bare_links(text: str, addresses: list[str]) -> None:
    assert [link.attributes["href"] for link in html(text).css("a")] == addresses


def test_words_that_are_struck_out() -> None:
    assert html("~~Hi~~ Hello, world!").css_first("del").text() == "Hi"
    assert not html("This ~~has a\n\nnew paragraph~~.").css("del")


def test_notes_terms_ids_and_notices() -> None:
    page = html(
        "## Times and *prices* {#times}\n\nOpen[^when], and again[^when].\n\nTerm\n: What it means\n\n"
        "::: notice Bring <boots>\nIt is wet.\n:::\n\n[^when]: But not in winter.\n"
    )
    heading = page.css_first("h2")
    assert heading.attributes["id"] == "times" and heading.text() == "Times and prices"
    assert page.css_first("dl > dd").text().strip() == "What it means"
    notice = page.css_first(".b-notice[role=note]")
    assert notice.css_first("strong").text() == "Bring <boots>" and "It is wet." in notice.text()
    ids = {node.attributes["id"] for node in page.css("[id]")}
    for link in page.css("a"):
        assert (link.attributes["href"] or "").removeprefix("#") in ids
    assert len(page.css("[id]")) == len(ids)


@given(st.text(alphabet="|-: \n[x]~{#a}w.^`*>", max_size=80))
def test_whatever_is_written_something_comes_out(text: str) -> None:
    found = as_html(Content("content/a.md", text)).html
    for name in ("table", "tr", "ul", "li", "del", "section", "a", "label"):
        assert len(re.findall(rf"<{name}[ >]", found)) == found.count(f"</{name}>")


def test_links_in_tables_and_notes_are_known_by_their_place() -> None:
    text = "| a |\n|---|\n| [x](page:visit) |\n\n[^n]: [y](page:hours) `page:no`\n\n[z][^n]\n"
    assert [match[1] for _, match in page_links(text, "markdown")] == ["visit", "hours"]


@pytest.mark.parametrize(
    ("text", "head", "shown"),
    [
        ("---\ntitle: A\nlabel: B\n---\n# Words\n", "title: A\nlabel: B\n", "Words"),
        ("---\r\ntitle: A\r\n---\r\nWords", "title: A\r\n", "Words"),
        ("---\n\nWords\n\n---\n", "", "Words"),  # two lines across the page
        ("Words\n---\ntitle: A\n---\n", "", "Wordstitle: A"),
    ],
)
def test_a_head_is_never_shown(text: str, head: str, shown: str) -> None:
    assert head_of(Content("content/a.md", text)) == head
    assert "".join(html(text).text().split("\n")) == shown


def test_links_between_texts_lead_to_their_pages() -> None:
    maps = HOME + "pages: {home: {path: /}, visit: {pages: {hours: }}, milling: {pages: {calendar: }}}\n"
    text = "[a](../milling/calendar.md#march) [b](hours.md) [c](/x.md) [d](https://a.example/x.md) [e](gone.md)"
    result = build(compile_map(maps), markdown(visit__hours=text))
    page = LexborHTMLParser(texts(result.files)["visit/hours/index.html"])
    links = [link.attributes.get("href") for link in page.css("main p a")]
    assert links == ["/milling/calendar/#march", "/visit/hours/", "/x.md", "https://a.example/x.md", None]
    assert {f.code for f in result.findings if f.stops} == {"unknown-page", "dead-anchor", "dead-link"}


def test_icons_stand_in_text_by_name() -> None:
    text = "## {icon:clock} Times\n\nOpen {icon:sun} `{icon:sun}` [a](https://a.example '{icon:sun}') {icon:sunn}\n"
    result = build(compile_map(HOME + "pages: {home: {path: /}}\nparts: {end: '{icon:ship} x'}\n"), markdown(home=text))
    page = LexborHTMLParser(texts(result.files)["index.html"])
    assert len(page.css("main svg.b-icon[aria-hidden=true]")) == 2
    assert page.css_first("main h2").attributes["id"] == "times"
    assert page.css_first("main code").text() == "{icon:sun}"
    unknown = [(f.code, f.file, f.line) for f in result.findings if f.code == "unknown-icon"]
    assert unknown == [("unknown-icon", "content/home.md", 3)]


@pytest.mark.parametrize("kind", ["md", "html"])
def test_relative_links_to_files_beside_the_texts(kind: str) -> None:
    files = Files({"public/timetable.pdf": b"%PDF", "files/mill.png": b"x"})
    maps = HOME + "pages: {home: {path: /}, visit: {pages: {hours: }}}\n"
    written = {
        "md": "[t](../../public/timetable.pdf) ![m](../../files/mill.png) [g](../../public/gone.pdf) [v](../visit.md)",
        "html": '<a href="../../public/timetable.pdf">t</a> <img alt="m" src="../../files/mill.png">'
        ' <a href="../../public/gone.pdf">g</a> <a href="../visit.md">v</a>',
    }
    contents = {"visit/hours": Content(f"content/visit/hours.{kind}", written[kind])}
    result = build(compile_map(maps, files), contents)
    page = LexborHTMLParser(texts(result.files)["visit/hours/index.html"]).css_first("main")
    assert [link.attributes.get("href") for link in page.css("a")][:3] == ["/timetable.pdf", None, "/visit/"]
    assert re.fullmatch(r"/assets/mill\..*png", page.css_first("img").attributes["src"])
    gone = next(f for f in result.findings if f.code == "unknown-file")
    assert (gone.file, gone.line, gone.column) == (f"content/visit/hours.{kind}", 1, written[kind].index("gone") + 1)


def headed(text: str, page: str = "{pages: {hours: }}") -> tuple[Compiled, dict[str, Content]]:
    contents = {"visit/hours": Content("content/visit/hours.md", text)}
    source = f"site: {{name: Mill}}\npages:\n  home: {{path: /}}\n  visit: {page}\n"
    return compile_map(source, Files().with_heads(contents)), contents


HEADED = "---\ntitle: Opening hours\nlabel: Hours\ndescription: >\n  When\n  it opens\ndraft: true\n"
HEADED += "date: 2026-03-01 10:00:00\n---\n\nAt ten.\n"


def test_the_head_of_a_text_says_what_the_map_does_not() -> None:
    compiled, contents = headed(HEADED)
    page = compiled.plan.site.pages["visit/hours"]
    assert (page.title, page.label, page.description) == ("Opening hours", "Hours", "When it opens")
    assert page.options.extra.date == "2026-03-01"
    assert page.options.draft and "visit/hours" not in {entry.page for entry in compiled.plan.menus["main"].entries}
    found = build(compiled, contents).findings
    assert not {"said-twice", "content-head"} & {f.code for f in found}
    assert not any("`visit/hours` has no title" in f.message for f in found)


@pytest.mark.parametrize(
    ("word", "said", "left"),
    [
        ("title", "title: H", HEADED.replace("title: Opening hours\n", "")),
        ("description", "description: D", HEADED.replace("description: >\n  When\n  it opens\n", "")),
        ("draft", "draft: no", HEADED.replace("draft: true\n", "")),
        ("date", "date: 2025-12-24", HEADED.replace("date: 2026-03-01 10:00:00\n", "")),
    ],
)
def test_the_map_wins_and_the_fix_takes_the_other_out(word: str, said: str, left: str) -> None:
    compiled, contents = headed(HEADED, f"{{pages: {{hours: {{{said}}}}}}}")
    page = compiled.plan.site.pages["visit/hours"]
    values = {"title": page.title, "description": page.description, "draft": "yes" if page.options.draft else "no"}
    values["date"] = page.options.extra.date
    assert values[word] == said.partition(": ")[2]
    (twice,) = [f for f in stage_findings(compiled, contents) if f.code == "said-twice"]
    assert twice.file == "content/visit/hours.md" and f"the {word} of" in twice.message and twice.fix is not None
    assert with_fixes(HEADED, [twice.fix]) == left


@pytest.mark.parametrize(
    ("head", "code", "place"),
    [
        ("title: [a, b]", "content-head", (2, 1)),
        ("title: A\nlabel: *b", "content-head", (3, 8)),
        ("title: A\ntitle: B", "content-head", (3, 1)),
        ("draft: perhaps", "content-head", (2, 1)),
        (f"label: {'x' * 301}", "content-head", (2, 1)),
        ("author: A\ntags: [a]", "content-head-unread", (2, 1)),
        ("date: tomorrow", "content-head", (2, 1)),
        ("updated: 2026-02-30", "content-head", (2, 1)),
    ],
)
def test_a_head_that_cannot_be_read(head: str, code: str, place: tuple[int, int]) -> None:
    compiled, contents = headed(f"---\n{head}\n---\nWords\n")
    found = [(f.code, (f.line, f.column)) for f in stage_findings(compiled, contents) if f.file]
    assert found == [(code, place)]
    assert compiled.plan.site.pages["visit/hours"].title == "Hours"


@given(st.text(alphabet="-:\n \"'[]{}&*!|>%@`atidlergf", max_size=60))
def test_whatever_a_head_is_the_map_is_read(head: str) -> None:
    compiled, contents = headed(f"---\n{head}\n---\nWords\n")
    assert compiled.plan is not None
    stage_findings(compiled, contents)


@pytest.mark.parametrize(
    "command",
    [
        RenameId("visit/hours", "times"),
        RenameId("visit", "come"),
        NamePage("visit/hours", "Times"),
        SetWord("visit/hours", "draft", "no"),
        SetWord("visit/hours", "description", "Other"),
        SetWord("visit/hours", "title", "Other"),
        SetWord("visit/hours", "date", "2025-12-24"),
        DuplicatePage("visit/hours"),
        DeletePage("visit/hours"),
    ],
    ids=str,
)
def test_pages_with_heads_are_edited_like_others(command: Command) -> None:
    source = "site: {name: Mill}\npages:\n  home: {path: /}\n  visit: {pages: {hours: }}\n"
    edited = edit(headed(HEADED)[0], source, command)
    pages = edited.compiled.plan.site.pages
    key = edited.keys.get("visit/hours")
    if key is not None:
        shown = {"title": pages[key].title, "label": pages[key].label, "description": pages[key].description}
        as_they_were = {"title": "Opening hours", "label": "Hours", "description": "When it opens"}
        if isinstance(command, SetWord) and command.word in as_they_were:
            as_they_were[command.word] = command.value
        if isinstance(command, NamePage):
            as_they_were["label"] = "Times"
        assert shown == as_they_were
        assert pages[key].options.draft == (getattr(command, "word", "") != "draft")


@pytest.mark.parametrize(
    ("name", "text", "found"),
    [
        ("a.html", "<p>é <img src=x>\n</section>", [("content-tags", 2, 1), ("content-no-words", 1, 6)]),
        ("a.html", "<div>\n<b>x", [("content-tags", 1, 1), ("content-tags", 2, 1)]),
        (
            "a.md",
            "Text <b>x <i>y</b>\n\n<div>\n\n`<p>`\n\n    <div>\n",
            [("content-tags", 1, 11), ("content-tags", 3, 1)],
        ),
        ("a.md", "> ![](a.png) <https://a.example> <br> 1 < 2\n\n<details>\n\n**b**\n\n</details>", []),
        ("a.md", "A <img src='a.png'>", [("content-no-words", 1, 3)]),
        ("a.html", "<div><part:opening></div><part:opening>", []),
    ],
)
def test_faults_of_html_in_texts_have_their_place(name: str, text: str, found: list[tuple[str, int, int]]) -> None:
    assert [
        (rule.code, line, column) for rule, line, column, _ in html_faults(Content(f"content/{name}", text))
    ] == found
