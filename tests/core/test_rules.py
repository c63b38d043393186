"""What a map says of checks: their levels, what is ignored and why, own words, other hosts, and how far is far."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.build import build
from basilica.core.findings import CHECKS, audit
from basilica.core.findings.on_map.label_differs import similar
from basilica.core.findings.spelling import Speller
from basilica.core.findings.vague_words import is_vague
from basilica.core.rules.finding import Finding
from basilica.core.shared.output_file import File
from scripts.make_docs import LEVELS
from tests.core.help import compiled, markdown

PAGES = """\
site: {name: Mill, base: 'https://mill.example', language: en-GB}
pages:
  home: {path: /, title: Mill, description: All of it.}
  news:
    title: News
    description: What is new.
    pages:
      gate: {title: The new gate, description: Green oak.}
"""


def said(more: str, code: str, text: str = "[click here](page:home)\n", pages: str = PAGES) -> list[Finding]:
    """What one check says of a small site with more of the map."""
    built = build(compiled(pages + more), markdown(news=text, news__gate=text))
    assert built.files, built.findings
    return [finding for finding in built.findings if finding.code == code]


def levels(findings: list[Finding]) -> dict[str, str]:
    return {finding.built: str(finding.level) for finding in findings}


def test_a_level_holds_for_the_whole_site() -> None:
    assert levels(said("", "vague-link")) == {
        "news/index.html": "advice",
        "news/gate/index.html": "advice",
    }
    louder = said("checks: {levels: {vague-link: error}}\n", "vague-link")
    assert set(levels(louder).values()) == {"error"} and all(finding.stops for finding in louder)
    ignored = said("checks:\n  levels:\n    vague-link:\n      reason: Old words.\n", "vague-link")
    assert {(f.ignored, f.reason, f.stops) for f in ignored} == {(True, "Old words.", False)}


def test_a_page_lets_be_for_itself_and_those_under_it() -> None:
    below = PAGES.replace("    title: News\n", "    title: News\n    ignore: {vague-link: Quoted.}\n")
    assert set(levels(said("", "vague-link", pages=below)).values()) == {"ignore"}
    alone = PAGES.replace("description: Green oak.", "description: Green oak., ignore: {vague-link: Quoted.}")
    alone = alone.replace("Green oak.,", "Green oak,")
    assert levels(said("", "vague-link", pages=alone)) == {
        "news/index.html": "advice",
        "news/gate/index.html": "ignore",
    }
    louder = said("checks: {levels: {vague-link: error}}\n", "vague-link", pages=alone)
    assert levels(louder) == {"news/index.html": "error", "news/gate/index.html": "ignore"}


@pytest.mark.parametrize(
    ("more", "code", "line"),
    [
        ("checks: {levels: {vague-lnk: ignore}}\n", "unknown-check", 9),
        ("checks:\n  levels:\n    unknown-page:\n      reason: x\n", "unknown-check", 11),
        ("checks:\n  levels:\n    dead-link: warning\n", "missing-key", 11),
        ("checks: {levels: {vague-link: {level: loud, reason: x}}}\n", "bad-value", 9),
        ("checks: {levels: [vague-link]}\n", "wrong-shape", 9),
        ("checks: {clicks: none}\n", "bad-value", 9),
        ("checks: {level: {}}\n", "unknown-key", 9),
    ],
)
def test_what_cannot_be_meant_is_said(more: str, code: str, line: int) -> None:
    stops = [(finding.code, finding.line) for finding in compiled(PAGES + more).findings if finding.stops]
    assert stops[0] == (code, line)


def test_a_page_cannot_let_be_what_no_check_says() -> None:
    pages = PAGES.replace("    title: News\n", "    title: News\n    ignore: {nonsense: x}\n")
    assert [f.code for f in compiled(pages).findings if f.stops] == ["unknown-check"]
    stage = PAGES.replace("    title: News\n", "    title: News\n    ignore: {no-content: x}\n")
    assert ["on one page" in f.message for f in compiled(stage).findings if f.stops] == [True]
    for wrong in ("ignore: [x]", "ignore: x"):
        shape = compiled(PAGES.replace("    title: News\n", f"    title: News\n    {wrong}\n"))
        assert "wrong-shape" in {finding.code for finding in shape.findings}


def test_what_is_said_while_the_map_is_read_is_let_be_too() -> None:
    without = "menus: {main: [news]}\n"
    assert [str(f.level) for f in said(without, "home-not-in-menu")] == ["advice"]
    let = said(without + "checks: {levels: {home-not-in-menu: {reason: The name leads home.}}}\n", "home-not-in-menu")
    assert [(f.ignored, f.reason) for f in let] == [(True, "The name leads home.")]


def test_what_the_documentation_says_of_levels_can_be_read() -> None:
    text = "site: {name: Mill, base: 'https://mill.example'}\n" + LEVELS
    text = text.replace("pages:\n", "pages:\n  home: {path: /, title: Mill}\n")
    assert [finding.code for finding in compiled(text).findings if finding.level != "advice"] == []


def test_hosts_and_words_are_the_maps_own() -> None:
    picture = '<img src="https://pictures.example/a.png" alt="A">\n'
    assert len(said("", "other-host", picture)) == 2
    assert said("checks: {hosts: Pictures.Example}\n", "other-host", picture) == []
    misspelt = PAGES.replace("What is new.", "What is here to recieve.").replace("Green oak.", "Grene oak.")
    assert {f.message.split("`")[1] for f in said("", "misspelt", pages=misspelt)} == {"Grene", "recieve"}
    assert said("checks: {spelling: [recieve, grene]}\n", "misspelt", pages=misspelt) == []


def test_far_is_what_the_map_says() -> None:
    files = {f"{n}.html": f'<main><a href="{n + 1}.html">x</a></main>' for n in range(1, 6)}
    files["index.html"] = '<main><a href="1.html">x</a></main>'
    found = audit(File(name, text.encode()) for name, text in files.items()).findings()
    assert {f.built for f in found if f.code == "far-from-home"} == {"4.html", "5.html"}


@given(st.sampled_from(["admision", "recieve", "Oppening"]), st.booleans())
def test_a_sites_own_words_are_never_misspelt(word: str, own: bool) -> None:
    speller = Speller.of("en", [word] if own else [])
    assert speller is not None
    assert bool(list(speller.misspellings(f"{word} hours"))) is not own


@pytest.mark.long
@pytest.mark.parametrize(
    ("language", "text", "off"),
    [
        ("en-GB", "Favourite colours of the harbour, organised by the labour centre in metres of fibre", []),
        ("en-US", "The harbour", [("harbour", "harbor")]),
        ("en", "See Saltern Reach and Marvellou Things", []),  # names, as their capitals say
        ("en", "The langauge of tides", [("langauge", "language")]),
        ("de", "Öffnungszeiten und Anfahrt", []),
        ("de", "Heute geöfnet bis Sonntaag", [("geöfnet", "geöffnet")]),
        ("fr", "Les horaires du moullin", [("moullin", "moulin")]),
    ],
)
def test_words_are_looked_up_in_the_language_of_the_site(language: str, text: str, off: list[tuple[str, str]]) -> None:
    speller = Speller.of(language, [])
    assert speller is not None
    assert list(speller.misspellings(text)) == off


def test_a_language_without_a_list_is_not_spelt() -> None:
    assert Speller.of("cy", []) is None
    assert said("", "misspelt", pages=PAGES.replace("en-GB", "cy").replace("Green oak.", "Grene oak.")) == []


@pytest.mark.parametrize(
    ("label", "title", "is_alike"),
    [
        ("Hours", "Opening hours", True),
        ("Visit", "Plan your visit", True),
        ("Visitors", "Visiting the mill", True),
        ("Tides", "Tide tables", True),
        ("News", "Press pictures", False),
        ("FAQ", "Questions and answers", False),
        ("Über uns", "Über die Mühle", True),
        ("→", "Anything", True),
    ],
)
def test_a_label_is_like_a_title_or_not(label: str, title: str, is_alike: bool) -> None:
    assert similar(label, title) is is_alike


@pytest.mark.parametrize("text", ["Click here", "HERE", "more …", "Read more »", "hier", "En savoir plus"])
def test_words_that_say_nothing(text: str) -> None:
    assert is_vague(text)
    assert not is_vague(f"{text} about the tides of the estuary")


def test_codes_are_said_once_and_are_file_names() -> None:
    codes = [check.code for check in CHECKS]
    assert len(codes) == len(set(codes)) == 45
    for check in CHECKS:
        assert check.run
        assert check.run.__module__.rpartition(".")[2] == check.code.replace("-", "_")
