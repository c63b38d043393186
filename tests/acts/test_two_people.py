"""Two people at one site, lines 6 to 9: through the forms of the workspaces, and what the Map workspace sends."""

from __future__ import annotations

import html
import re
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from flask.testing import FlaskClient
from sqlalchemy import event

from basilica.core.edits.map_data import map_data, value_in
from basilica.core.shared.markdown import Content
from basilica.services.all_services import Services
from tests.web.test_web import SLUG, token


def fields_of(page: str, action: str) -> dict[str, list[str]]:
    """What a browser would send of the form whose address ends so, untouched."""
    forms = re.findall(r"<form\b.*?</form>", page, re.DOTALL)
    form = next(one for one in forms if 'method="post"' in one and re.search(action, one.partition(">")[0]))
    found: dict[str, list[str]] = {}
    for tag in re.findall(r"<input\b[^>]*>", form):
        own = dict(re.findall(r"""([a-z-]+)=["']((?:(?<==")[^"]*|(?<==')[^']*))["']""", tag))
        if own.get("type") in ("checkbox", "radio") and not re.search(r"\bchecked\b", tag):
            continue
        if own.get("type") != "file" and "name" in own:
            found.setdefault(own["name"], []).append(html.unescape(own.get("value", "")))
    for name, inside in re.findall(r'<select\b[^>]*name="([^"]+)"[^>]*>(.*?)</select>', form, re.DOTALL):
        options = re.findall(r"<option([^>]*)>([^<]*)", inside)
        chosen = next((one for one in options if "selected" in one[0]), options[0])
        value = re.search(r'value="([^"]*)"', chosen[0])
        found.setdefault(name, []).append(html.unescape(value[1] if value else chosen[1].strip()))
    for name, inside in re.findall(r'<textarea\b[^>]*name="([^"]+)"[^>]*>\n?(.*?)</textarea>', form, re.DOTALL):
        found.setdefault(name, []).append(html.unescape(inside))
    return found


@pytest.mark.long
@pytest.mark.parametrize(
    ("screen", "mine", "theirs"),
    [
        ("header", ("behaviour", "sticky", ("header", "behaviour")), ("height", "90", ("header", "height"))),
        ("settings", ("site.name", "Mine", ("site", "name")), ("site.title", "{title} – {site}", ("site", "title"))),
    ],
)
def test_6_the_second_save_writes_what_was_touched_alone(
    client: FlaskClient,
    services: Services,
    screen: str,
    mine: tuple[str, str, tuple[str, ...]],
    theirs: tuple[str, str, tuple[str, ...]],
) -> None:
    address, (field, value, path), (other, their_value, their_path) = f"/sites/{SLUG}/{screen}", mine, theirs
    sent = fields_of(client.get(address).text, r'id="own"')
    sent["csrf_token"] = [token(client)]
    assert "seen" in sent and field in sent and other in sent
    # Somebody else saves another field of the same form, and the site has another revision.
    assert client.post(address, data={**sent, other: their_value}).status_code == 303
    first = client.post(address, data={**sent, field: value})
    assert first.status_code == 409 and "changed meanwhile" in first.text and value in first.text
    again = fields_of(first.text, r'id="own"')
    assert again[field] == [value] and again[other] == [their_value]
    again["csrf_token"] = sent["csrf_token"]
    assert client.post(address, data=again).status_code == 303
    data = map_data(services.store.get(SLUG).text)
    assert (value_in(data, path), value_in(data, their_path)) == (value, their_value)


@pytest.mark.long
def test_6_what_both_changed_is_named(client: FlaskClient) -> None:
    address = f"/sites/{SLUG}/header"
    sent = fields_of(client.get(address).text, r'id="own"')
    sent["csrf_token"] = [token(client)]
    assert client.post(address, data={**sent, "height": "91"}).status_code == 303
    assert "Height is now “91”" in client.post(address, data={**sent, "height": "92"}).text


@pytest.mark.long
def test_6_parts_and_pages_send_what_was_touched(client: FlaskClient, services: Services) -> None:
    name = next(name for name, part in map_data(services.store.get(SLUG).text)["parts"].items() if "text" in part)
    for address, action, field, other, path in (
        (f"parts?part={name}", r"/parts\?part=", "own-text", None, ("parts", name, "text")),
        ("pages?page=press", r'class="own"', "title", "keywords", ("pages", "press", "title")),
    ):
        address = f"/sites/{SLUG}/{address}"
        sent = fields_of(client.get(address).text, action)
        sent["csrf_token"] = [token(client)]
        post_to = address.partition("?")[0] + ("?page=press" if "pages" in address else f"?part={name}")
        if other is not None:
            assert client.post(post_to, data={**sent, other: "quay"}).status_code == 303
        else:
            services.sites.save(SLUG, services.store.get(SLUG).text + "\n", services.store.get(SLUG).revision)
        first = client.post(post_to, data={**sent, field: "Mine"})
        assert first.status_code == 409
        again = {**fields_of(first.text, action), "csrf_token": sent["csrf_token"]}
        assert again[field] == ["Mine"] and (other is None or again[other] == ["quay"])
        assert client.post(post_to, data=again).status_code == 303
        data = map_data(services.store.get(SLUG).text)
        assert value_in(data, path) == "Mine"
        assert other is None or value_in(data, ("pages", "press", other)) == "quay"


def put(client: FlaskClient, text: str, was: str) -> tuple[int, dict[str, Any]]:
    answer = client.put(
        f"/sites/{SLUG}/map/content",
        json={"key": "press", "text": text, "was": was},
        headers={"X-CSRFToken": token(client)},
    )
    return answer.status_code, answer.get_json()


def test_7_both_are_in_a_text_that_two_people_wrote(client: FlaskClient, services: Services) -> None:
    was = "# Press\n\nOne.\n\nTwo.\n"
    services.sites.write(SLUG, "press", was, services.store.contents(SLUG)["press"].text)
    assert put(client, "Above.\n\n" + was, was)[0] == 200
    status, answer = put(client, was + "\nBelow.\n", was)
    both = "Above.\n\n" + was + "\nBelow.\n"
    assert (status, answer["merged"]) == (200, both) and services.store.contents(SLUG)["press"].text == both
    # The same line: what yours would replace is named, and the rest of theirs is in what is offered.
    assert put(client, both.replace("One.", "Mine."), both)[0] == 200
    status, answer = put(client, both.replace("One.", "Theirs.") + "\nLast.\n", both)
    assert status == 409 and answer["lost"] == ["Mine."]
    assert "Theirs." in answer["merged"] and answer["merged"].endswith("Last.\n")


def test_7_the_form_of_a_text_keeps_both_too(client: FlaskClient, services: Services) -> None:
    address = f"/sites/{SLUG}/pages/text?page=press"
    was = services.store.contents(SLUG)["press"].text
    sent = {"csrf_token": token(client), "page": "press", "slot": "", "was": was}
    services.sites.write(SLUG, "press", "Above.\n\n" + was, was)
    assert client.post(address, data={**sent, "text": was + "\nBelow.\n"}).status_code == 303
    both = services.store.contents(SLUG)["press"].text
    assert both.startswith("Above.") and both.endswith("Below.\n")


@contextmanager
def held(services: Services) -> Iterator[None]:
    """Another program holds the database, for longer than anybody here waits."""
    engine = services.store.database._engine
    other = sqlite3.connect(str(engine.url.database), isolation_level=None)
    event.listen(engine, "checkout", lambda connection, *_: connection.execute("PRAGMA busy_timeout=10"))
    other.execute("BEGIN IMMEDIATE")
    yield
    other.execute("ROLLBACK")
    other.close()


@contextmanager
def full(services: Services) -> Iterator[None]:
    """The disk is full: SQLite may add no page to its file."""
    engine = services.store.database._engine

    def limit(connection: sqlite3.Connection, *_: object) -> None:
        pages = connection.execute("PRAGMA page_count").fetchone()[0]
        connection.execute(f"PRAGMA max_page_count={pages}")

    event.listen(engine, "checkout", limit)
    yield
    event.remove(engine, "checkout", limit)
    event.listen(engine, "checkout", lambda connection, *_: connection.execute("PRAGMA max_page_count=1000000"))


@pytest.mark.parametrize(
    ("trouble", "said"), [(held, "Another program holds the database"), (full, "The disk is full")]
)
def test_8_a_save_that_cannot_be_kept_says_so(client: FlaskClient, services: Services, trouble: Any, said: str) -> None:
    site = services.store.get(SLUG)
    headers, form = {"X-CSRFToken": token(client)}, fields_of(client.get(f"/sites/{SLUG}/settings").text, r'id="own"')
    long = site.text + "# typed\n" * 20_000
    with trouble(services):
        for _ in range(2):  # also the second time
            answer = client.put(
                f"/sites/{SLUG}/map/text", json={"text": long, "revision": site.revision}, headers=headers
            )
            assert answer.status_code == 503 and said in answer.get_json()["message"]
        typed = {**form, "csrf_token": headers["X-CSRFToken"], "site.name": "Typed Typed"}
        shown = client.post(f"/sites/{SLUG}/settings", data=typed)
        if trouble is held:  # a few words more find room on a disk that takes no page more
            assert shown.status_code == 503, re.findall(r'role="alert"[^>]*>(.{0,300})', shown.text)
            assert said in shown.text and "Typed Typed" in shown.text
            assert "is saved" not in shown.text
    now = services.store.get(SLUG)
    assert "# typed" not in now.text
    again = client.put(f"/sites/{SLUG}/map/text", json={"text": long, "revision": now.revision}, headers=headers)
    assert again.status_code == 200 and services.store.get(SLUG).text == long


@pytest.mark.long
def test_9_no_errors_is_said_once_the_pages_were_checked(client: FlaskClient, services: Services) -> None:
    was = services.store.contents(SLUG)["press"].text
    services.sites.write(SLUG, "press", was + "\n{icon:nonesuch}\n", was)
    for screen in ("settings", "parts", "pages", "header", "map"):
        services.builds.forget(SLUG)
        assert "No errors" not in client.get(f"/sites/{SLUG}/{screen}").text
    built = services.builds.of(services.store.get(SLUG)).wait(120)
    assert built is not None and built.build.stops
    for screen in ("settings", "checks/found"):
        shown = client.get(f"/sites/{SLUG}/{screen}").text
        assert "1 error" in shown and "No errors" not in shown
    services.sites.write(SLUG, "press", was, was + "\n{icon:nonesuch}\n")
    services.builds.of(services.store.get(SLUG)).wait(120)
    assert "No errors" in client.get(f"/sites/{SLUG}/settings").text


def test_a_copy_of_a_page_has_its_content_in_every_language(client: FlaskClient, services: Services) -> None:
    text = "site: {name: M, languages: [en, cy]}\npages:\n  home: {path: /, title: M, cy: Melin}\n"
    text += "  visit: {title: Visit, cy: Ymweld}\n  visit-copy: {title: Visit (copy), cy: Ymweld (copy)}\n"
    contents = {
        "visit": Content("content/visit.html", "<p>How to come</p>\n"),
        "visit.cy": Content("content/visit.cy.md", "Sut i ddod\n"),
        "visit.aside": Content("content/visit.aside.md", "Beside it\n"),
        "visit-copy.aside": Content("content/visit-copy.aside.md", "Its own\n"),
    }
    slug = services.store.make("M", text, contents, "").slug
    sent = {"key": "visit", "to": "visit-copy"}
    headers = {"X-CSRFToken": token(client)}
    assert client.post(f"/sites/{slug}/map/copy-content", json=sent, headers=headers).get_json() == {"copied": 2}
    now = services.store.contents(slug)
    assert now["visit-copy"] == Content("content/visit-copy.html", "<p>How to come</p>\n"), "HTML stays HTML"
    assert now["visit-copy.cy"].text == "Sut i ddod\n" and now["visit-copy.aside"].text == "Its own\n"
    gone = client.post(f"/sites/{slug}/map/copy-content", json={**sent, "to": "nowhere"}, headers=headers)
    assert gone.status_code == 404 and "no content was copied" in gone.get_json()["message"]
