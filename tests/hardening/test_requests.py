"""Whatever comes in a request is answered: no error of the server for odd types, huge numbers, halves of characters,
deep or broken JSON, wrong encodings; and no change is made for a foreign host, a foreign origin or without a token."""

from __future__ import annotations

import json
from collections.abc import Iterator
from itertools import cycle
from pathlib import Path
from typing import Any
from urllib.parse import quote

import pytest
from flask import Flask
from hypothesis import given, settings
from hypothesis import strategies as st
from werkzeug.routing import Rule

from basilica.services.all_services import Services
from basilica.web.app import create_app
from basilica.web.config import Config
from tests.hardening import TIMES
from tests.hardening.test_folders import BAD_KEYS

MAP = "site: {name: Mill}\npages:\n  home: {path: /}\n  a: A\n"
ORIGIN = "http://127.0.0.1:8001"
NAMES = (
    *("words", "revision", "moves", "text", "key", "was", "note", "base", "mine", "page", "width", "chosen", "turned"),
    *("edits", "commands", "list", "name", "start", "decided", "archive", "csrf_token", "file", "part", "slot", "kind"),
    *("newer", "older", "from", "off", "check", "reason", "level", "where", "screen", "message", "trace", "window"),
    *(
        "state",
        "other",
        "otherstate",
        "token",
        "compress",
        "drafts",
        "output",
        "path",
        "save",
        "depth",
        "values",
        "title",
    ),
)
TEXTS = (
    *("", "²", "x", "-1", "9" * 30, "9" * 5000, "1e999", "nan", "\ud800", "a\0b", "\u202e", "home", "files/x.png"),
    *("../../x", "<script>", "{{ 7*7 }}", "%00", "=1+1", "[", "yes", '[["home","../../x"]]', "\ufeff" * 3),
)
VALUES: tuple[Any, ...] = (
    *TEXTS,
    *(None, True, -1, 10**30, 1.5, [], {}, [[]], {"a": {"b": [1, None]}}, ["x"] * 50, [["home", None], [None, 1]]),
    *([{"kind": text, "key": text, "command": text} for text in TEXTS[:6]], {"tag": "rename", "key": []}),
)
BODIES = (
    b"",
    b"[" * 100_000,
    b'{"a":' * 10_000,
    b"\xff\xfe",
    b"null",
    b"[]",
    b'"x"',
    b"{",
    b"1" * 5000,
    b'{"text": 1}',
)


@pytest.fixture(scope="module")
def application(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Flask]:
    data = tmp_path_factory.mktemp("data")
    opened = Services.of(data)
    opened.store.make("Mill", MAP, {}, "First")
    app = create_app(Config(data=data), opened)
    app.config["WTF_CSRF_ENABLED"] = False
    yield app
    opened.close()


def rules(app: Flask) -> list[Rule]:
    return [rule for rule in app.url_map.iter_rules() if rule.endpoint != "static"]


def address(rule: Rule, value: str) -> str:
    """An address of a rule: the site that is there, and ``value`` for all else in it."""
    found = rule.rule.replace("<slug>", "mill")
    for name in rule.arguments - {"slug"}:
        for kind in ("int:", "path:", ""):
            found = found.replace(f"<{kind}{name}>", value)
    return found


def ask(app: Flask, rule: Rule, where: str, **sent: Any) -> None:
    for method in sorted(rule.methods - {"HEAD", "OPTIONS"}):
        answer = app.test_client().open(where, method=method, **sent)
        assert answer.status_code < 500, (method, where[:200], str(sent)[:300], answer.text[:300])


def test_no_query_and_no_form_brings_an_error_of_the_server(application: Flask) -> None:
    texts = cycle(TEXTS)
    for rule in rules(application):
        for turn in range(len(TEXTS)):
            given_texts = {name: next(texts) for name in NAMES} | {"start": ("list", "upload", "blank")[turn % 3]}
            form = {name: text.encode("utf-8", "replace").decode() for name, text in given_texts.items()}
            query = "&".join(f"{name}={quote(text, errors='surrogatepass')}" for name, text in given_texts.items())
            part = next(texts)
            number = "9" * 40 if turn % 2 else "7"
            value = number if "<int:" in rule.rule else quote(part, safe="", errors="surrogatepass") or "x"
            ask(application, rule, f"{address(rule, value)}?{query}", data=form)
            next(texts)


def test_no_json_brings_an_error_of_the_server(application: Flask) -> None:
    for rule in rules(application):
        if rule.methods & {"POST", "PUT"}:
            for body in BODIES:
                ask(application, rule, address(rule, "7"), data=body, content_type="application/json")
                ask(application, rule, address(rule, "7"), data=body, content_type="application/x-www-form-urlencoded")
                ask(application, rule, address(rule, "7"), data=body, content_type="multipart/form-data; boundary=x")
            for value in VALUES:
                body = json.dumps(dict.fromkeys(NAMES, value)).encode()
                ask(application, rule, address(rule, "7"), data=body, content_type="application/json")


JSON = st.recursive(
    st.one_of(st.none(), st.booleans(), st.integers(), st.floats(), st.sampled_from(TEXTS), st.text(max_size=5)),
    lambda inner: st.one_of(
        st.lists(inner, max_size=4), st.dictionaries(st.sampled_from((*NAMES, "tag", "parent", "after", "id")), inner)
    ),
    max_leaves=12,
)


@settings(max_examples=150 * TIMES, deadline=None)
@given(data=JSON, number=st.integers(0, 10_000))
def test_no_odd_json_brings_an_error_of_the_server(application: Flask, data: Any, number: int) -> None:
    changing = [rule for rule in rules(application) if rule.methods & {"POST", "PUT"}]
    rule = changing[number % len(changing)]
    body = json.dumps(data if isinstance(data, dict) else {"text": data, "revision": 1, "edits": data})
    ask(application, rule, address(rule, "7"), data=body.encode(), content_type="application/json")


@pytest.mark.parametrize("key", BAD_KEYS)
def test_no_move_leads_out_of_a_site(application: Flask, key: str) -> None:
    services: Services = application.extensions["services"]
    before = services.store.contents("mill")
    for moves in ([["a", key]], [[key, key]], [[None, key]], [["home", key]]):
        body = json.dumps({"text": MAP, "revision": services.store.get("mill").revision, "moves": moves})
        answer = application.test_client().put(
            "/sites/mill/map/text", data=body.encode(), content_type="application/json"
        )
        assert answer.status_code < 500
    assert services.store.contents("mill") == before


def test_every_change_is_guarded(tmp_path: Path) -> None:
    """The guards hold for every route there is, and for those that come."""
    opened = Services.of(tmp_path)
    opened.store.make("Mill", MAP, {}, "First")
    app = create_app(Config(data=tmp_path), opened)
    for rule in rules(app):
        where = address(rule, "1")
        assert app.test_client().get(where, headers={"Host": "evil.example"}).status_code in (400, 405)
        for method in sorted(rule.methods & {"POST", "PUT", "DELETE", "PATCH"}):
            for headers in ({"Origin": "http://evil.example"}, {"Sec-Fetch-Site": "cross-site"}, {"Origin": "null"}):
                assert app.test_client().open(where, method=method, headers=headers).status_code == 403, where
            answer = app.test_client().open(where, method=method, json={})
            assert answer.status_code == 400 and "token" in answer.text.lower(), where
    assert [site.revision for site in opened.store.all()] == [1]
    opened.close()
