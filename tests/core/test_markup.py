"""Addresses, parts and values by name in texts: these are replaced, and all else stays letter for letter."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.content.markup import references, rewrite
from basilica.core.content.source_links import page_links, updated_links
from basilica.core.map.site.references import References

CODE = [
    "<pre><code>&lt;a href=page:tides&gt; <a href=page:tides></code></pre>",
    "<!-- <a href='page:tides'> {title} <part:note> -->",
    "<script>if (a < b) { x = '<a href=\"page:tides\">' + {title} }</script>",
    "<style>a[href='page:tides'] {title}</style>",
    "<code>{title} <part:note></code>",
    "<textarea>href=page:tides</textarea>",
    "<?php {title} ?>",
]
PLAIN = [
    "<p>Write href=page:tides, or part:note.</p>",
    '<b class="page:tides" title="href=page:tides">more</b>',
    "<a href='https://mill.example/?page:tides'>out</a>",
    '<i data-href="page:tides">x</i>',
    "{ title } {titles} { ",
    "<br/> 1 < 2 > \u00fc\U0001f9c2\n",
    "<p",
]
NAMED = [
    ('<a href=page:t>Tides</a> and <b class="x">more</b>', '<a href="[page t]">Tides</a> and <b class="x">more</b>'),
    ("<a id=a href='page:tides#high' >T</a>", '<a id=a href="[page tides#high]" >T</a>'),
    ('<a\nHREF = "PAGE:tides"\tx>T</a>', '<a\nHREF = "[page tides]"\tx>T</a>'),
    ('<img alt="a > b" src="file:mill.jpg">', '<img alt="a > b" src="[file mill.jpg]">'),
    ('<a class="b" href="page:gone">Gone</a>', '<a class="b" data-no-page>Gone</a>'),
    ("<part:note>\n", "[part note]"),
    ("<part:note></part:note>", "[part note]"),
    ('<p><a href="part:note">n</a></p>\n', "[part note]"),
    ('<p>So: <a href="part:note">n</a>.</p>', "<p>So: [part note].</p>"),
    ('<h2 title="{label}">{title}</h2>', '<h2 title="[label]">[title]</h2>'),
    ("<code>page:x</code> {site}", "<code>page:x</code> [site]"),
]


def _rewritten(markup: str) -> str:
    return rewrite(
        markup,
        lambda scheme, written: None if written == "gone" else f"[{scheme} {written}]",
        lambda name: f"[part {name}]",
        lambda name: f"[{name}]",
    )


@pytest.mark.parametrize(("written", "wanted"), NAMED)
def test_what_is_written_by_name_is_replaced(written: str, wanted: str) -> None:
    assert _rewritten(written) == wanted


@given(st.lists(st.sampled_from([*((text, text) for text in CODE + PLAIN[:-1]), *NAMED]), max_size=9), st.booleans())
def test_what_stands_outside_is_the_same_letter_for_letter(pieces: list[tuple[str, str]], broken: bool) -> None:
    """Whatever stands beside whatever. A tag that never ends can only be the last."""
    end = PLAIN[-1] if broken else ""
    assert _rewritten("".join(piece for piece, _ in pieces) + end) == "".join(piece for _, piece in pieces) + end


@given(st.text(st.sampled_from("<>/=\"'!-? \nabpre{}code"), max_size=60), st.text(max_size=8))
def test_markup_without_names_is_never_changed(one: str, other: str) -> None:
    text = one + other + one
    assert _rewritten(text) == text
    assert not references(text)


SOURCES = [
    ("markdown", "See [tides](page:tides#high) and `[tides](page:tides)`.\n\n    [tides](page:tides)\n", [0]),
    (
        "markdown",
        "```\n<a href=page:tides>\n```\n\nThe word page:tides, [a][t] <page:tides>\n\n[t]: page:tides\n",
        [2, 3],
    ),
    (
        "markdown",
        "<div>\n<a href='page:tides'>T</a>\n<!-- page:tides -->\n</div>\n\n<b><a href=page:tides>T</a>\n",
        [0, 2],
    ),
    ("markdown", "1. One\n   [two](page:tides)\n\n> quoted [three](<page:tides>)\n", [0, 1]),
    ("html", "<p title='page:tides'><a href='page:tides'>page:tides</a><pre>\n<a href='page:tides'></pre>", [1]),
]


@pytest.mark.parametrize(("markup", "text", "links"), SOURCES)
def test_links_in_a_source_follow_a_page_and_samples_of_them_do_not(markup: str, text: str, links: list[int]) -> None:
    assert [number for number, _ in page_links(text, markup)] == links
    old, new = References(["home", "tides"]), References(["home", "tide-table"])
    changed = updated_links(text, markup, {"tides": "tide-table"}, old, new)
    pieces = text.split("page:tides")
    wanted = pieces[0]
    for number, piece in enumerate(pieces[1:]):
        wanted += ("page:tide-table" if number in links else "page:tides") + piece
    assert changed == wanted
    raw = "|\n      " + text.replace("\n", "\n      ")  # as a block of text in a map
    assert updated_links(text, markup, {"tides": "tide-table"}, old, new, raw) == "|\n      " + wanted.replace(
        "\n", "\n      "
    )
