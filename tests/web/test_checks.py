"""The Checks workspace, without a browser."""

from __future__ import annotations

import json
import re
import time
from urllib.parse import urlencode

import pytest
from flask.testing import FlaskClient

from basilica.services.all_services import Services

SLUG = "saltern-reach-tide-mill"
HERE = f"/sites/{SLUG}/checks"


def read(client: FlaskClient, address: str = HERE, **query: str) -> str:
    """The workspace, once everything is read."""
    for _ in range(100):
        answer = client.get(address + ("?" + urlencode(query) if query else ""))
        if 'http-equiv="refresh"' not in answer.text and answer.status_code != 409:
            assert answer.status_code == 200, answer.text[:500]
            return answer.text
        time.sleep(0.2)
    raise AssertionError("the checks did not end")


@pytest.fixture
def faulty(services: Services) -> Services:
    """The demo with a text that breaks some rules."""
    text = services.store.contents(SLUG)["press"].text
    more = 'Bad <a href="/gone/">Click here</a>\n\n<nav aria-label="Footer"><ul><li><a href="/">X</a></li></ul></nav>\n'
    services.sites.write(SLUG, "press", text + "\n" + more, text)
    return services


@pytest.mark.long
def test_everything_holds_and_what_is_let_be_says_why(client: FlaskClient) -> None:
    page = read(client)
    assert "Everything passes" in page and "4 ignored" in page
    rows = json.loads(read(client, HERE + "/mosaic.json"))
    names = [column[0] for column in rows["columns"]]
    tiles = {row[0]: row[3] for row in rows["rows"]}
    assert tiles["history"][names.index("description-missing")] == "l"
    assert set("".join(tiles.values())) == set("hlau")
    beside = read(client, HERE + "/tile", page="history", check="description-missing")
    assert "those who know what they look for" in beside and "Ignored. Reason" in beside


@pytest.mark.long
def test_a_tile_says_what_is_there_what_was_expected_and_where(client: FlaskClient, faulty: Services) -> None:
    page = read(client, page="press", check="menu-footer")
    assert "Found and expected" in page
    assert '<tr class="gone">' in page and '<tr class="come">' in page
    line = (
        faulty.store.get(SLUG)
        .text.splitlines()
        .index("  press:                          # in no menu; the news link to it")
        + 1
    )
    assert f"/map?line={line}&amp;column=3" in page
    assert re.search(
        r'<iframe[^>]* sandbox="allow-scripts allow-forms"[^>]* src="http://127.0.0.1:8001/[\w-]+/press/"', page
    )
    link = read(client, HERE + "/tile", page="press", check="dead-link")
    assert 'data-spot="a[href], area[href]"' in link
    assert "&lt;a href=&#34;/gone/&#34;&gt;Click here&lt;/a&gt;" in link
    assert "content/press.md, line" in link
    assert "3 clicks" not in link and "click" in link
    column = read(client, check="vague-link")
    assert "Press pictures" in column and "says only" in column and "level: ignore" in column
    assert ">1 finding<" in column


@pytest.mark.long
def test_what_is_wrong_in_another_language_is_in_its_column(client: FlaskClient, services: Services) -> None:
    text = services.store.contents(SLUG)["visit/hours.cy"].text
    services.sites.write(SLUG, "visit/hours.cy", text + "\n[Yma](/gone/)\n", text)
    page = read(client)
    assert "1 error" in page and "Every page was built, read again, and passes" not in page
    tile = read(client, HERE + "/tile", page="visit/hours", check="language-cy")
    assert "leads to no file of the site" in tile and 'slot=cy">content/visit/hours.cy.md, line' in tile
    assert re.search(r'<iframe[^>]* src="http://127.0.0.1:8001/[\w-]+/cy/[^"]+"[^>]*data-spot="a', tile)
    assert "passes every check" not in read(client, HERE + "/tile", page="visit/hours")


@pytest.mark.long
def test_filters_and_addresses_of_every_kind_have_an_answer(client: FlaskClient, faulty: Services) -> None:
    found = read(client, findings="yes", view="table")
    assert found.count('<th scope="row"') == 1
    assert read(client, q="TIDE", view="table").count('<th scope="row"') == 2
    assert "No page matches" in read(client, q="<script>", view="table")
    assert "<script>alert" not in read(client, page="<script>alert(1)</script>", check="'\"")
    for query in ({"from": "-5"}, {"from": "99999"}, {"from": "x"}, {"check": "none"}, {"page": "visit", "check": "x"}):
        read(client, **query)


@pytest.mark.long
@pytest.mark.parametrize("form", ["html", "json", "sarif", "junit", "text"])
def test_reports_are_kept_and_not_shown(client: FlaskClient, form: str) -> None:
    read(client)
    answer = client.get(f"{HERE}/report.{form}")
    assert answer.status_code == 200
    assert answer.headers["Content-Disposition"].startswith("attachment")
    assert client.get(f"{HERE}/report.exe").status_code == 404


def test_a_map_with_errors_says_what_is_in_the_way(client: FlaskClient, services: Services) -> None:
    site = services.store.get(SLUG)
    services.sites.save(SLUG, site.text + "\nnonsense: 1\n", site.revision)
    page = read(client)
    assert "Nothing to check yet" in page and "nonsense" in page
    assert client.get(HERE + "/mosaic.json").status_code == 409


@pytest.mark.long
def test_a_check_is_let_be_from_its_tile_and_speaks_again(client: FlaskClient, faulty: Services) -> None:
    def ask(**form: str) -> tuple[int, str]:
        found = re.search(r'name="token" content="([^"]+)"', client.get("/new").text)
        site = faulty.store.get(SLUG)
        known = {"csrf_token": found[1] if found else "", "revision": str(site.revision), "page": "press"}
        answer = client.post(HERE + "/ignore", data={**known, **form})
        return answer.status_code, answer.text

    assert client.post(HERE + "/ignore", data={"code": "vague-link"}).status_code == 400
    status, text = ask(code="vague-link", check="vague-link", reason=" ", where="page")
    assert status == 422 and "Write the reason" in text
    status, text = ask(code="nonsense", reason="Mine <b>", where="site")
    assert status == 422 and "There is no check <code>nonsense</code>" in text and 'value="Mine &lt;b&gt;"' in text
    before = faulty.store.get(SLUG).text
    assert ask(code="vague-link", check="vague-link", reason="It is quoted: so", where="page")[0] == 303
    after = faulty.store.get(SLUG).text
    assert set(after.splitlines()) - set(before.splitlines()) == {"    ignore:", '      vague-link: "It is quoted: so"'}
    page = read(client, HERE + "/tile", page="press", check="vague-link")
    assert "Ignored. Reason: It is quoted: so" in page and "Stop ignoring" in page
    assert ask(code="vague-link", where="page", speak="yes")[0] == 303
    assert faulty.store.get(SLUG).text == before
    assert ask(code="vague-link", reason="x", where="page", revision="1")[0] == 409
