"""Where others can reach the application, nobody is answered without the password."""

from __future__ import annotations

import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import msgspec
import pytest
from flask.testing import FlaskClient

from basilica.services.all_services import Services
from basilica.store.errors import UsageError
from basilica.store.password import Password
from basilica.web.app import create_app
from basilica.web.config import Config
from basilica.web.serving import serve
from tests.hardening.test_requests import MAP, address, rules

SECRET = "tide mill, forty days"


@pytest.fixture
def client(tmp_path: Path) -> Iterator[FlaskClient]:
    Password(tmp_path).set(SECRET)
    opened = Services.of(tmp_path)
    opened.store.make("Mill", MAP, {}, "First")
    yield create_app(Config(data=tmp_path, allowed_hosts=("mill.example",)), opened).test_client()
    opened.close()


def test_the_password_leaves_the_folder_of_data_to_its_owner(tmp_path: Path) -> None:
    data = tmp_path / "data"
    Password(data).set(SECRET)
    Services.of(data).close()
    assert {name.name: oct(name.stat().st_mode & 0o077) for name in (data, *data.glob("*"))}.items() >= {
        ("data", "0o0"),
        ("password", "0o0"),
        ("basilica.sqlite", "0o0"),
    }


def sign_in(client: FlaskClient, password: str, to: str = "") -> tuple[int, str]:
    page = client.get("/sign-in").text
    token = re.search(r'name="csrf_token" value="([^"]+)"', page)
    assert token
    form = {"csrf_token": token[1], "password": password, "to": to}
    answer = client.post("/sign-in", data=form)
    return answer.status_code, answer.headers.get("Location", "")


def test_nothing_is_answered_to_those_who_are_not_signed_in(client: FlaskClient) -> None:
    app = client.application
    app.config["WTF_CSRF_ENABLED"] = False
    for rule in rules(app):
        if rule.endpoint.startswith("sign_in."):
            continue
        for method in sorted(rule.methods - {"OPTIONS"}):
            answer = app.test_client().open(address(rule, "1"), method=method, json={} if method == "POST" else None)
            assert answer.status_code in (303, 401), (method, rule)
            assert "Mill" not in answer.text


def test_the_password_lets_in_and_another_one_puts_out(client: FlaskClient, tmp_path: Path) -> None:
    assert sign_in(client, "wrong")[0] == 403 and client.get("/").status_code == 303
    assert sign_in(client, SECRET, "/sites/mill") == (303, "/sites/mill")
    assert "Mill" in client.get("/").text and "Sign out" in client.get("/").text
    Password(tmp_path).set(SECRET + "!")
    assert client.get("/").status_code == 303
    assert sign_in(client, SECRET + "!")[0] == 303
    token = re.search(r'name="token" content="([^"]+)"', client.get("/").text)
    assert token and client.post("/sign-out", data={"csrf_token": token[1]}).status_code == 303
    assert client.get("/").status_code == 303


@pytest.mark.parametrize("to", ["//evil.example", "/\\evil.example", "https://evil.example", "evil", "/a\r\nX: y"])
def test_signing_in_leads_nowhere_else(client: FlaskClient, to: str) -> None:
    assert sign_in(client, SECRET, to) == (303, "/")


def test_attempts_are_counted(client: FlaskClient) -> None:
    assert [sign_in(client, "wrong")[0] for _ in range(10)] == [403] * 10
    assert sign_in(client, SECRET)[0] == 429


def test_it_is_kept_as_a_hash_of_its_owner(tmp_path: Path) -> None:
    password = Password(tmp_path)
    assert not password.mark and not password.fits("")
    with pytest.raises(UsageError, match="12 characters"):
        password.set("short")
    command = [sys.executable, "-m", "basilica", "password", "--stdin", "--data", str(tmp_path)]
    assert subprocess.run(command, input=SECRET + "\n", text=True, capture_output=True).returncode == 0
    kept = tmp_path / "password"
    assert SECRET not in kept.read_text() and kept.stat().st_mode & 0o777 == 0o600
    assert password.fits(SECRET) and not password.fits(SECRET + " ")


@pytest.mark.parametrize(
    ("where", "is_open"),
    [
        (Config(host="127.0.0.1"), False),
        (Config(host="localhost"), False),
        (Config(host="::1"), False),
        (Config(host="127.0.0.2"), False),
        (Config(host="0.0.0.0", allowed_hosts=("mill.local",)), True),
        (Config(host="192.0.2.7"), True),
        (Config(host="127.0.0.1", allowed_hosts=("mill.local",)), True),
        (Config(host="127.0.0.1", origin="https://b.example", preview_origin="https://p.b.example"), True),
    ],
)
def test_without_a_password_it_is_not_opened(where: Config, is_open: bool, tmp_path: Path) -> None:
    assert where.is_open is is_open
    if is_open:
        with pytest.raises(UsageError, match="basilica password"):
            serve(msgspec.structs.replace(where, data=tmp_path), False)


def test_the_addresses_are_those_that_browsers_use() -> None:
    assert Config(host="0.0.0.0", allowed_hosts=("mill.local",)).seen_previews == "http://mill.local:8001"
    assert Config(host="::1").seen == "http://[::1]:8000"
    proxied = Config(host="127.0.0.1", origin="https://b.example", preview_origin="https://p.b.example")
    assert (proxied.seen, proxied.seen_previews) == ("https://b.example", "https://p.b.example")
    assert {"b.example", "p.b.example"} <= proxied.names
    for wrong in (
        Config(host="0.0.0.0"),
        Config(host="127.0.0.1", origin="https://b.example"),
        Config(host="127.0.0.1", origin="https://b.example", preview_origin="https://b.example"),
    ):
        with pytest.raises(UsageError):
            wrong.check()
