"""Reports, held against the schema and the readers of their formats; and the baseline."""

from __future__ import annotations

import json
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st
from junitparser import JUnitXml
from selectolax.lexbor import LexborHTMLParser

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.findings import CHECKS, RULES, audit
from basilica.core.findings.mosaic import State, mosaic_of, worst
from basilica.core.findings.reports import FORMATS, Baseline, Report
from basilica.core.rules.finding import Finding
from basilica.core.rules.rule import Level
from basilica.core.shared.output_file import File
from basilica.store.folders import Source

SARIF = json.loads((Path(__file__).parents[1] / "data/sarif-schema-2.1.0.json").read_text())
"""The schema of OASIS, errata 01, as it is published."""

EVIL = "<script>alert(1)</script>]]>\x0b\x00\U0001f600&amp;"
BROKEN = """
site: {name: Mill, base: 'https://mill.example'}
pages:
  home: {path: /, title: Mill, description: All of it.}
  hours:
    title: Opening hours
    ignore: {description-missing: They change too often.}
  fees: {title: "%s"}
checks:
  levels: {title-missing: warning}
"""


@pytest.fixture(scope="module")
def report() -> Report:
    from basilica.core.shared.markdown import Content

    contents = {"hours": Content("content/hours.md", '<a href="/gone/">Gone</a>\n\n#### Winter <b>&</b>\n')}
    built = build(compile_map(BROKEN % "</title><script>alert(1)</script>"), contents)
    assert built.results is not None
    return Report("maps & more/site.yaml", "maps & more", built.all_findings, mosaic_of(built.results))


def test_sarif_is_what_its_schema_asks(report: Report) -> None:
    log = json.loads(FORMATS["sarif"](report))
    jsonschema.Draft4Validator(SARIF).validate(log)
    results = {result["ruleId"]: result for result in log["runs"][0]["results"]}
    assert results["dead-link"]["level"] == "error"
    place = results["dead-link"]["locations"][0]["physicalLocation"]
    assert place["artifactLocation"]["uri"] == "maps%20%26%20more/content/hours.md"
    assert place["region"] == {"startLine": 1, "startColumn": 10}
    ignored = [result for result in log["runs"][0]["results"] if result.get("suppressions")]
    assert [each["suppressions"][0]["justification"] for each in ignored] == ["They change too often."]
    assert all(
        result["ruleId"] == log["runs"][0]["tool"]["driver"]["rules"][result["ruleIndex"]]["id"]
        for result in log["runs"][0]["results"]
    )
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.Draft4Validator(SARIF).validate({**log, "version": "2.0"})


def test_junit_has_a_case_for_each_check(report: Report) -> None:
    suites = JUnitXml.fromstring(FORMATS["junit"](report).encode())
    cases = {case.name: case for suite in suites for case in suite}
    assert {check.code for check in CHECKS} <= cases.keys()
    assert [name for name, case in cases.items() if not case.is_passed] == ["dead-link"]
    assert "content/hours.md:1:10" in cases["dead-link"].result[0].text
    assert "heading-order" in (cases["heading-order"].system_out or "")


def test_the_page_holds_all_it_needs(report: Report) -> None:
    html = FORMATS["html"](report)
    page = LexborHTMLParser(html)
    assert page.css("script, link, img, iframe") == []
    assert "They change too often." in html
    assert report.mosaic is not None
    rows = page.css("tbody tr")
    assert len(rows) == len(report.mosaic.rows)
    cells = [cell.attributes["class"] for cell in rows[1].css("td")]
    assert "".join(str(cell) for cell in cells) == report.mosaic.rows[1].tiles


def test_nothing_in_a_finding_breaks_a_report() -> None:
    findings = (Finding(RULES["dead-link"], EVIL, EVIL, file=EVIL, given=Level.ERROR, built=EVIL),)
    for name, write in FORMATS.items():
        text = write(Report(EVIL, EVIL, findings))
        if name in ("json", "sarif"):
            json.loads(text)
        elif name == "junit":
            JUnitXml.fromstring(text.encode())
        elif name == "html":
            assert "<script" not in text


FINDINGS = st.lists(
    st.builds(
        Finding,
        st.sampled_from(CHECKS),
        st.sampled_from(["one", "two"]),
        st.just(""),
        st.integers(1, 9),
        given=st.sampled_from(list(Level)),
    )
)


@given(FINDINGS, FINDINGS)
def test_a_baseline_knows_what_was_there_and_no_more(before: list[Finding], new: list[Finding]) -> None:
    baseline = Baseline.parse(Baseline.of(before).as_text())
    assert Report("m", "", tuple(before), baseline=baseline).new == ()
    both = Report("m", "", (*before, *new), baseline=baseline)
    assert len(both.new) == sum(1 for finding in new if not finding.ignored)
    assert {(f.code, f.message) for f in both.new} <= {(f.code, f.message) for f in new}


@pytest.mark.parametrize("text", ["", "[]", "{}", '{"version": 2, "findings": []}', '{"version": 1, "findings": [1]}'])
def test_what_is_no_baseline_is_said(text: str) -> None:
    with pytest.raises(ValueError, match="not a baseline"):
        Baseline.parse(text)


def test_the_demo_is_an_unbroken_field(demo: Source) -> None:
    built = build(compile_map(demo.map, demo.files), demo.contents)
    assert built.results is not None
    mosaic = mosaic_of(built.results)
    assert mosaic.counts[State.BROKEN] == mosaic.counts[State.DIFFERS] == 0
    assert mosaic.counts[State.IGNORED] == 4 and mosaic.counts[State.PASSES] > 900
    states = {row.name: row for row in mosaic.rows}
    section = next(column.name for column in mosaic.columns if "In this part" in column.title)
    assert mosaic.state(states["home"], "breadcrumbs") is State.ABSENT
    assert worst(states["take-part/members-evening"].tiles) is State.ABSENT
    assert mosaic.state(states["how-it-works/wheel"], section) is State.PASSES
    assert mosaic.state(states["visit"], section) is State.ABSENT


def test_the_shortest_way_is_the_shortest() -> None:
    """Of two ways to a page the one with fewer links, and none where there is none."""

    def page(*links: str) -> bytes:
        return ("<main>" + "".join(f'<a href="{link}">x</a>' for link in links) + "</main>").encode()

    built = audit(
        [
            File("index.html", page("a.html", "b.html")),
            File("a.html", page("c.html")),
            File("b.html", page("a.html", "d.html")),
            File("c.html", page("d.html", "e.html")),
            File("d.html", page()),
            File("e.html", page("index.html")),
            File("alone.html", page("index.html")),
        ]
    ).built
    assert built.way_to("d.html") == ("index.html", "b.html", "d.html")
    assert built.way_to("e.html") == ("index.html", "a.html", "c.html", "e.html")
    assert built.way_to("alone.html") == ()
    assert built.clicks == {"index.html": 0, "a.html": 1, "b.html": 1, "c.html": 2, "d.html": 2, "e.html": 3}
    assert built.linked_from("a.html") == ("index.html", "b.html")
