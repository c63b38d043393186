"""The Addresses workspace, without a browser."""

from __future__ import annotations

import csv
import io
import re
import time

import pytest
from flask.testing import FlaskClient

from basilica.services.all_services import Services
from tests.web.test_web import SLUG, token

HERE = f"/sites/{SLUG}/addresses"
OLD = "https://old.example/visit/hours/\n/visit/hours\n/opening_hours.htm\n/zebra.htm\n"


def cells(page: str) -> list[str]:
    """The addresses in the first column of the table of routes."""
    return re.findall(r'<th scope="row"><code>([^<]+)</code>', page)


def test_routes_are_sorted_found_and_taken_along(client: FlaskClient) -> None:
    every = cells(client.get(HERE).text)
    assert every[0] == "/" and len(every) == 29 and sorted(every, key=str.casefold) != every
    assert cells(client.get(f"{HERE}?sort=path").text) == sorted(every, key=str.casefold)
    assert cells(client.get(f"{HERE}?sort=path&down=yes").text) == sorted(every, key=str.casefold)[::-1]
    found = client.get(f"{HERE}?q=pictures").text
    assert cells(found) == ["/press/"] and "/pictures/" in found
    rows = list(csv.DictReader(io.StringIO(client.get(f"{HERE}/routes.csv?q=footer").text)))
    assert rows and all("footer" in row["menus"] or "footer" in row["path"] for row in rows)


def test_old_addresses_are_looked_up_and_written(client: FlaskClient, services: Services) -> None:
    form = {"csrf_token": token(client), "list": OLD}
    page = client.post(f"{HERE}/old", data=form).text
    assert "1 answer as before" in page and "1 redirect" in page and "2 lead nowhere" in page
    revision = services.store.get(SLUG).revision
    take = {"csrf_token": form["csrf_token"], "revision": revision, "address": ["/opening_hours.htm", "/zebra.htm"]}
    wrong = client.post(f"{HERE}/old/take", data=take | {"list": OLD, "take": ["1"], "to": ["visit/hours", "zebras"]})
    assert wrong.status_code == 422 and "There is no page <code>zebras</code>" in wrong.text
    assert 'value="zebras"' in wrong.text and "2 lead nowhere" in wrong.text  # nothing that was typed is lost
    empty = client.post(f"{HERE}/old/take", data=take | {"take": ["1"], "to": ["visit/hours", " "]})
    assert empty.status_code == 422 and "Name a page for /zebra.htm" in empty.text
    none = client.post(f"{HERE}/old/take", data=take | {"list": OLD, "take": ["9", "x"], "to": ["visit/hours", ""]})
    assert none.status_code == 422 and "No address was chosen" in none.text
    done = client.post(
        f"{HERE}/old/take", data=take | {"take": ["0"], "to": ["visit/hours", ""]}, follow_redirects=True
    )
    assert "1 old address written" in done.text
    assert "was: /opening_hours.htm" in services.store.get(SLUG).text
    assert "/zebra.htm" not in services.store.get(SLUG).text
    late = client.post(f"{HERE}/old/take", data=take | {"take": ["0"], "to": ["visit/hours"]})
    assert late.status_code == 409


@pytest.mark.long
def test_a_style_keeps_what_was_handed_out(client: FlaskClient, services: Services) -> None:
    """Before an export all that a version has; after one, what went out with it."""
    record = services.store.make("Small", "pages:\n  home: {path: /}\n  a: A\n", {}, "")
    services.sites.save("small", record.text + "  b: B\n", record.revision)
    assert services.addresses.of("small") == {"/", "/a/"}
    while client.get("/sites/small/output/archive.zip").status_code == 202:
        time.sleep(0.1)  # it is still made, on a slow machine
    assert services.addresses.of("small") == {"/", "/a/", "/b/"}
    revision = services.store.get("small").revision
    services.sites.save("small", services.store.get("small").text + "  c: C\n", revision)
    form = {"csrf_token": token(client), "revision": revision + 1, "urls": "files", "keep": "yes"}
    done = client.post("/sites/small/addresses/style", data=form, follow_redirects=True)
    assert "2 old addresses kept" in " ".join(done.text.split())
    text = services.store.get("small").text
    assert "was: /a/" in text and "was: /b/" in text and "/c/" not in text and "urls: files" in text
    assert client.post("/sites/small/addresses/style", data=form | {"urls": "x"}).status_code in (409, 422)


@pytest.mark.long
def test_the_pages_form_keeps_an_address_or_not(client: FlaskClient, services: Services) -> None:
    for keep, kept in (({"keep": "yes"}, True), ({}, False)):
        revision = services.store.get(SLUG).revision
        form = {"csrf_token": token(client), "revision": revision, "page": "privacy", "word": "path"}
        path = f"/data-{len(keep)}/"
        done = client.post(f"/sites/{SLUG}/pages", data=form | keep | {"path": path}, follow_redirects=True)
        assert ("1 old address kept" in " ".join(done.text.split())) is kept
        assert path in services.store.get(SLUG).text
    assert "was: /privacy/" in services.store.get(SLUG).text
