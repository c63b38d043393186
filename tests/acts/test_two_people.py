"""Two people at one site, lines 6 to 9: through the forms of the workspaces, and what the Map workspace sends."""

from __future__ import annotations

import html
import itertools
import re
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from flask.testing import FlaskClient
from sqlalchemy import event

from basilica.core.edits.map_data import map_data
from basilica.core.shared.markdown import Content
from basilica.services.all_services import Services
from tests.hardening import TIMES
from tests.web.test_web import SLUG, token


def fields_of(page: str, action: str) -> dict[str, list[str]]:
    """What a browser would send of the form whose address ends so, untouched."""
    forms = re.findall(r"<form\b.*?</form>", page, re.DOTALL)
    form = next(one for one in forms if 'method="post"' in one and re.search(action, one.partition(">")[0]))
    known = re.search(r'\bid="([^"]+)"', form.partition(">")[0])
    if known:  # fields that stand elsewhere and name their form
        form += "".join(re.findall(rf'<(?:input|button)\b[^>]*\bform="{known[1]}"[^>]*>', page))
        form += "".join(re.findall(rf'<select\b[^>]*\bform="{known[1]}".*?</select>', page, re.DOTALL))
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


SECTIONS = ("site", "theme", "logo", "breadcrumbs", "menus", "pages", "page", "head", "checks")
FORMS = {
    "header": ("header", "header", r'id="own"'),
    "header of a page": ("header?for=page&page=visit", "header?for=page&page=visit", r'id="own"'),
    **{f"settings: {name}": (f"settings?section={name}&page=visit",) * 2 + (r'id="own"',) for name in SECTIONS},
    "rows": ("settings?section=facts&page=visit",) * 2 + (r'id="own"',),
    "part": ("parts?part=find-us", "parts?part=find-us", r"/parts\?part="),
    "page": ("pages?page=press", "pages?page=press", r'class="own"'),
    "translation": ("pages?page=visit", "pages/languages?page=visit", "translation-cy"),
}
"""By form: where it is shown, where it is sent, and what its tag has."""
TRIED = ("mine", "theirs", "40", "44", "#123456", "#654321", "2026-03-01", "2026-04-01", "/mine/", "home", "visit")
NOT_FIELDS = ("csrf_token", "revision", "seen", "page", "part", "word", "language", "keep")
HARD = TIMES >= 20


class Form:
    """A form of a screen, sent by one person or another."""

    def __init__(self, client: FlaskClient, services: Services, name: str) -> None:
        self.client, self.services = client, services
        self.shown, self.sent_to, self.tag = FORMS[name]
        self.text = services.store.get(SLUG).text
        self.token = [token(client)]

    def begin(self, text: str) -> dict[str, list[str]]:
        """The form as one opens it on a site with a text."""
        site = self.services.store.get(SLUG)
        if site.text != text:
            self.services.sites.save(SLUG, text, site.revision)
        return self.opened()

    def opened(self) -> dict[str, list[str]]:
        return fields_of(self.client.get(f"/sites/{SLUG}/{self.shown}").text, self.tag) | {"csrf_token": self.token}

    def send(self, fields: dict[str, list[str]]) -> tuple[int, str]:
        answer = self.client.post(f"/sites/{SLUG}/{self.sent_to}", data=fields)
        return answer.status_code, answer.text

    def now(self) -> str:
        return self.services.store.get(SLUG).text

    def alone(self, text: str, name: str, value: list[str]) -> str | None:
        """The text once a field has a value; None where that is refused, or nothing."""
        status, _ = self.send({**self.begin(text), name: value})
        return self.now() if status == 303 and self.now() != text else None

    def values(self) -> dict[str, list[list[str]]]:
        """For each field, or for some, two other values that can be saved; for rows of names, what is beside them."""
        found: dict[str, list[list[str]]] = {}
        opened = self.begin(self.text)
        page = self.client.get(f"/sites/{SLUG}/{self.shown}").text
        names = [name for name in opened if name not in NOT_FIELDS and not name.endswith(":name")]
        for name in names:
            if not HARD and [*map(len, found.values())].count(2) == 2:
                break
            options = re.search(rf'<select[^>]*name="{re.escape(name)}"[^>]*>(.*?)</select>', page, re.DOTALL)
            known = re.findall(r'<option(?: value="([^"]*)")?[^>]*>([^<]*)', options[1]) if options else []
            for value in [value or text for value, text in known] or TRIED:
                other = [value, *opened[name][1:]]
                if other != opened[name] and len(found.get(name, ())) < 2 and self.alone(self.text, name, other):
                    found.setdefault(name, []).append(other)
        return found


@pytest.mark.long
@pytest.mark.parametrize("name", [name for name in FORMS if name != "rows"])
def test_6_two_people_save_one_form_field_by_field(client: FlaskClient, services: Services, name: str) -> None:
    form = Form(client, services, name)
    values = form.values()
    assert values
    pairs = [*itertools.permutations(values, 2)]
    for mine, theirs in pairs if HARD else pairs[:2]:
        opened = form.begin(form.text)
        first = form.alone(form.text, theirs, values[theirs][0])
        expected = form.alone(first or "", mine, values[mine][0])
        form.begin(first or "")
        if expected is not None:
            status, _ = form.send({**opened, mine: values[mine][0]})
            assert (status, map_data(form.now())) == (303, map_data(expected)), (mine, theirs)
    for field in [field for field in values if len(values[field]) > 1][: None if HARD else 2]:
        opened = form.begin(form.text)
        theirs_saved, mine_saved = (form.alone(form.text, field, value) or "" for value in values[field])
        form.begin(theirs_saved)
        stale = {**opened, field: values[field][1]}
        status, answer = form.send(stale)
        assert (status, form.now()) == (409, theirs_saved), field
        again = {**fields_of(answer, form.tag), "csrf_token": form.token}
        assert again[field][:1] == values[field][1][:1], field
        assert form.send(again)[0] == 409 and form.now() == theirs_saved, f"the second save of {field} overwrites"
        (choice,) = set(re.findall(r'name="(settle[^"]+)"', answer))
        keep, put = map(html.unescape, re.findall(rf'name="{re.escape(choice)}" value="([^"]+)"', answer))
        assert form.send({**again, choice: [keep]})[0] == 303 and form.now() == theirs_saved, field
        assert form.send({**again, choice: [put]})[0] == 303 and map_data(form.now()) == map_data(mine_saved), field


@pytest.mark.long
def test_6_what_only_one_changed_is_saved_beside_what_both_changed(client: FlaskClient, services: Services) -> None:
    form = Form(client, services, "header")
    opened = form.begin(form.text)
    assert form.send({**opened, "height": ["91"]})[0] == 303
    status, answer = form.send({**opened, "height": ["92"], "behaviour": ["static"]})
    assert status == 409 and "Saved behaviour." in answer and "Somebody else changed height meanwhile" in answer
    assert "Keep “91”, as they saved it" in answer and "Replace it with what is typed here: “92”" in answer
    header = map_data(form.now())["header"]
    assert (header["height"], header["behaviour"]) == ("91", "static")
    # The choice holds for the value that was seen: a third person's is asked about again.
    again = {**fields_of(answer, form.tag), "csrf_token": form.token, "settle.height": ['mine "91"']}
    assert form.send({**form.opened(), "height": ["93"]})[0] == 303
    assert form.send(again)[0] == 409 and map_data(form.now())["header"]["height"] == "93"


@pytest.mark.long
def test_6_rows_of_somebody_else_stay_where_one_is_in_conflict(client: FlaskClient, services: Services) -> None:
    form = Form(client, services, "rows")
    opened = form.begin(form.text)
    names, (phone, mail, _) = opened["facts:name"][:-1], opened["facts:value"]
    theirs = {"facts:name": [*names, "boats"], "facts:value": ["01632 960001", mail, "2"]}
    assert form.send({**opened, **theirs})[0] == 303
    status, answer = form.send({**opened, "facts:value": ["01632 960002", mail, ""]})
    assert status == 409 and map_data(form.now())["facts"]["boats"] == "2"
    again = {**fields_of(answer, form.tag), "csrf_token": form.token}
    assert dict(zip(again["facts:name"], again["facts:value"], strict=True))["boats"] == "2"
    assert form.send({**again, "settle.facts.phone": ['mine "01632 960001"']})[0] == 303
    assert dict(map_data(form.now())["facts"]) == {"phone": "01632 960002", "mail": mail, "boats": "2"} and phone


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
