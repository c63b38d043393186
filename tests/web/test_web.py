"""The application's answers, without a browser."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path
from xml.etree import ElementTree

import pytest
from flask.testing import FlaskClient

from basilica import web
from basilica.core.outputs.static_site import Renderer
from basilica.services.all_services import Services
from basilica.services.preview_sessions import PreviewSessions
from basilica.store.records import Conflict
from basilica.web.app import create_app
from basilica.web.config import Config
from basilica.web.navigation import routes
from basilica.web.preview.server import serve_path
from basilica.web.workspaces import WORKSPACES
from tests.core.help import planned
from tests.web.conftest import ORIGIN

SLUG = "saltern-reach-tide-mill"


def token(client: FlaskClient, page: str = "/new", **asked: str) -> str:
    found = re.search(r'name="token" content="([^"]+)"', client.get(page, **asked).text)
    assert found
    return found[1]


def make(client: FlaskClient, data: bytes, name: str = "map.yaml") -> tuple[int, str]:
    form = {"csrf_token": token(client), "start": "upload", "name": "Mine", "file": (io.BytesIO(data), name)}
    answer = client.post("/new", data=form, content_type="multipart/form-data", follow_redirects=True)
    return answer.status_code, answer.text


@pytest.mark.long
def test_the_applications_own_map_and_its_addresses_are_the_same(client: FlaskClient) -> None:
    """Every page of `application.yaml` is a view, every workspace of a site is a page of it, and all answer."""
    app, endpoints = client.application, {}
    for key, route in routes(SLUG).items():
        endpoints[key], _ = app.url_map.bind("localhost").match(route.path)
        answer = client.get(route.path)
        assert answer.status_code == 200, key
        assert 'aria-current="page"' in answer.text or key == "site"
    of_sites = {"sites": "index", "new": "new", "archive": "archived", "site": "show"}
    expected = {key: f"sites.{view}" for key, view in of_sites.items()} | {
        "sign-in": "sign_in.show",
        "new/existing": "site_import.new",
    }
    of_site = [workspace for workspace in WORKSPACES if (workspace.url_prefix or "").startswith("/sites/<slug>/")]
    assert endpoints == expected | {f"site/{workspace.name}": f"{workspace.name}.show" for workspace in of_site}


@pytest.mark.long
def test_its_navigation_comes_from_its_own_map(client: FlaskClient) -> None:
    page = client.get(f"/sites/{SLUG}/map").text
    assert f'<a href="/sites/{SLUG}/map" aria-current="page">Map</a>' in page
    assert f'<li><a href="/sites/{SLUG}">Saltern Reach Tide Mill</a></li>' in page


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "map is empty"),
        (b"\x89PNG\r\n\x1a\n\x00\x00\x00", "not a text file"),
        (b"name: \xff\xfe", "not UTF-8"),
        (b"a" * 10_000_000, "at most 2,097,152"),
        (b"Dear all, this is a letter.", "not a page map"),
        (b"<html><body>no</body></html>", "not a page map"),
    ],
)
def test_an_upload_that_is_no_map_is_refused_and_the_form_is_still_there(
    client: FlaskClient, services: Services, data: bytes, says: str
) -> None:
    code, page = make(client, data)
    assert code == 422
    assert says in page
    assert 'value="Mine"' in page
    assert len(services.store.all()) == 1


@pytest.mark.long
def test_a_map_with_faults_is_taken_and_they_are_listed(client: FlaskClient) -> None:
    code, page = make(client, b"pages:\n  home: {path: /}\n  b: {path: /}\n  c: <b>x</b>\n")
    assert code == 200
    assert "two-homes" in page
    assert "<b>x</b>" not in page


@pytest.mark.long
@pytest.mark.parametrize(
    "text",
    [
        "",
        "\0",
        "[" * 100_000,
        "a: &a [*a]",
        "pages:\n  a: {path: /}\nmenus: {main: [a, b]}",
        "\ud800",
        "x" * 10_000_000,
    ],
)
def test_any_text_is_saved_and_answered(client: FlaskClient, services: Services, text: str) -> None:
    base = f"/sites/{SLUG}/map"
    answer = client.put(f"{base}/text", json={"text": text, "revision": 1}, headers={"X-CSRFToken": token(client)})
    assert answer.status_code == 200
    assert answer.json is not None
    assert answer.json["good"] is False
    assert answer.json["drawing"] is None
    assert services.store.get(SLUG).text == text.replace("\ud800", "\ufffd")
    page = client.get(base).text
    assert 'class="node"' in page  # the last good plan is still drawn
    assert client.get(f"/sites/{SLUG}/output/archive.zip").status_code == 409
    assert client.get(f"/sites/{SLUG}/output").status_code == 200


def test_changes_need_the_token_the_origin_and_the_host(client: FlaskClient) -> None:
    address, body = f"/sites/{SLUG}/map/text", {"text": "x", "revision": 1}
    good = {"X-CSRFToken": token(client)}
    assert client.put(address, json=body).status_code == 400
    for foreign in ("http://evil.example", "https://localhost", "http://localhost:8001", "null"):
        assert client.put(address, json=body, headers={**good, "Origin": foreign}).status_code == 403
    assert client.put(address, json=body, headers={**good, "Sec-Fetch-Site": "cross-site"}).status_code == 403
    assert client.get("/", headers={"Host": "evil.example"}).status_code == 400
    assert client.put(address, json=body, headers={**good, "Origin": "http://localhost"}).status_code == 200


def test_behind_a_proxy_the_origin_is_the_one_that_browsers_see(services: Services, tmp_path: Path) -> None:
    config = Config(data=tmp_path, origin="https://mill.example", preview_origin="https://seen.example")
    app = create_app(config, services)
    app.config["SESSION_COOKIE_SECURE"] = False  # the test client is the proxy, which asks without TLS
    client, inside = app.test_client(), "http://127.0.0.1"
    good = {"X-CSRFToken": token(client, "/sign-in", base_url=inside)}

    def is_refused(origin: str) -> bool:
        answer = client.post("/sign-in", headers={**good, "Origin": origin}, base_url=inside)
        return "asked for by another site" in answer.text

    assert not is_refused("https://mill.example")
    for foreign in ("http://mill.example", "https://mill.example:8443", "https://seen.example", inside):
        assert is_refused(foreign)


@pytest.mark.parametrize("moves", [[["press", "x"], ["visit", "x"]], [["press", "x"], ["press", "y"]]])
def test_what_would_move_twice_is_refused_with_its_name(
    client: FlaskClient, services: Services, moves: list[list[str]]
) -> None:
    """Two contents under one key would be one."""
    site = services.store.get(SLUG)
    sent = {"text": site.text, "revision": site.revision, "moves": moves}
    answer = client.put(f"/sites/{SLUG}/map/text", json=sent, headers={"X-CSRFToken": token(client)})
    assert answer.status_code == 400 and "twice" in answer.text
    assert services.store.get(SLUG).revision == site.revision


def test_undo_says_whose_step_it_is(client: FlaskClient, services: Services) -> None:
    site = services.store.get(SLUG)
    sent = {"text": site.text + "# typed\n", "revision": site.revision, "words": "Typing in the map"}
    client.put(f"/sites/{SLUG}/map/text", json=sent, headers={"X-CSRFToken": token(client)})
    assert "Undo: Typing in the map" in client.get(f"/sites/{SLUG}/history").text
    other = client.application.test_client()
    shown = other.get(f"/sites/{SLUG}/history").text
    assert "another person&#39;s" in shown or "another person's" in shown
    step = re.search(r'name="step" value="([^"]+)"', shown)
    assert step
    form = {"csrf_token": token(other), "step": step[1]}
    refused = other.post(f"/sites/{SLUG}/history/undo", data=form, follow_redirects=True)
    assert "The last step is another person" in refused.text and "Typing in the map" in refused.text
    headers = {"X-CSRFToken": token(other)}
    assert other.post(f"/sites/{SLUG}/map/undo", json={"step": step[1]}, headers=headers).status_code >= 400
    assert services.store.get(SLUG).text.endswith("# typed\n")
    undone = other.post(f"/sites/{SLUG}/history/undo", data={**form, "others": "yes"}, follow_redirects=True)
    assert "Undone: Typing in the map." in undone.text
    assert services.store.get(SLUG).text == site.text


def test_the_second_window_to_save_is_told(client: FlaskClient, services: Services) -> None:
    good = {"X-CSRFToken": token(client)}
    address = f"/sites/{SLUG}/map/text"
    assert client.put(address, json={"text": "one", "revision": 1}, headers=good).status_code == 200
    second = client.put(address, json={"text": "two", "revision": 1}, headers=good)
    assert second.status_code == 409
    assert second.json is not None
    assert second.json["text"] == "one"
    with pytest.raises(Conflict):
        services.store.save_version(SLUG, 1, "late")
    assert [state.note for state in services.store.versions(SLUG)] == ["As it came with Basilica"]


def test_previews_are_pages_of_another_origin_in_a_sandbox(previews: FlaskClient, sessions: PreviewSessions) -> None:
    name = sessions.open(SLUG)
    page = previews.get(f"/{name}/visit/hours/", headers={"Host": "127.0.0.1:8001"})
    assert page.status_code == 200
    assert f'href="/{name}/visit/" ' in page.text or f'href="/{name}/visit/"' in page.text
    assert page.headers["Content-Security-Policy"].startswith("sandbox allow-scripts allow-forms; default-src 'self'")
    assert sessions.seen(name).key == "visit/hours"
    missing = previews.get(f"/{name}/../../etc/passwd", headers={"Host": "127.0.0.1:8001"})
    assert missing.status_code == 404
    nowhere = previews.get(f"/{name}/nowhere/", headers={"Host": "127.0.0.1:8001"})
    assert (nowhere.status_code, sessions.seen(name).key) == (404, None)
    assert "There is no page at this address" in nowhere.text
    assert previews.get("/no-such-token/", headers={"Host": "127.0.0.1:8001"}).status_code == 404
    assert previews.get(f"/{name}/", headers={"Host": "evil.example"}).status_code == 400


@pytest.mark.long
def test_the_archive_is_the_build(client: FlaskClient, monkeypatch: pytest.MonkeyPatch) -> None:
    import zipfile

    monkeypatch.setattr("basilica.web.output.views.PATIENCE", 60.0)  # a busy machine is no reason to fail
    answer = client.get(f"/sites/{SLUG}/output/archive.zip")
    with zipfile.ZipFile(io.BytesIO(answer.data)) as archive:
        assert len(archive.namelist()) == 56
        assert b"Saltern Reach" in archive.read(f"{SLUG}/index.html")


@pytest.mark.long
def test_a_large_build_shows_how_far_it_is_and_can_be_stopped(
    client: FlaskClient, services: Services, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("basilica.web.output.views.PATIENCE", 0.0)
    text = "pages:\n  home: {path: /}\n" + "".join(f"  page-{n}:\n" for n in range(3000)) + "menus: {main: [home]}\n"
    site = services.store.make("Large", text, {}, "")
    page = client.get("/sites/large/output").text
    assert re.search(r"<progress [^>]*aria-label", page)
    job = services.builds.of(site)
    assert job.wait(0) is None
    assert client.post("/sites/large/output/stop", data={"csrf_token": token(client)}).status_code == 303
    assert job.wait(10) is None
    again = services.builds.of(site)
    assert again is not job
    built = again.wait(60)
    assert built is not None
    assert len(built.build.files) == 3007


def test_content_is_not_overwritten_unseen(client: FlaskClient, services: Services) -> None:
    good = {"X-CSRFToken": token(client)}
    address = f"/sites/{SLUG}/map/content"
    was = services.store.contents(SLUG)["press"].text
    assert client.put(address, json={"key": "press", "text": "one", "was": was}, headers=good).status_code == 200
    assert client.put(address, json={"key": "press", "text": "two", "was": was}, headers=good).status_code == 409
    assert client.put(address, json={"key": "gone", "text": "x", "was": ""}, headers=good).status_code == 404
    assert services.store.contents(SLUG)["press"].text == "one"
    assert client.put(address, json={"key": "press", "text": "", "was": "one"}, headers=good).status_code == 200
    assert "press" not in services.store.contents(SLUG)


def test_a_name_in_any_letters_makes_a_site(client: FlaskClient, services: Services) -> None:
    for name in ("Łódź “Mill”: # {x} \u202e", "水車", "a" * 500, "<script>alert(1)</script>"):
        answer = client.post("/new", data={"csrf_token": token(client), "start": "blank", "name": name})
        assert answer.status_code == 303
        page = client.get(answer.headers["Location"])
        assert page.status_code == 200
        assert "<script>alert" not in page.text
    found = [services.store.get(site.slug) for site in services.store.all()]
    assert all(not services.maps.compiled(site.text, site).stops for site in found)


def act(client: FlaskClient, body: object, text: str = "") -> tuple[int, dict[str, object]]:
    text = text or client.application.extensions["services"].store.get(SLUG).text
    headers = {"X-CSRFToken": token(client)}
    answer = client.post(f"/sites/{SLUG}/map/edit", json={"text": text, "edit": body}, headers=headers)
    return answer.status_code, answer.get_json()


@pytest.mark.parametrize(
    "body",
    [
        None,
        [],
        {"edit": "explode"},
        {"edit": "name-page", "key": "visit"},
        {"edit": "name-page", "key": "visit", "name": " "},
        {"edit": "name-page", "key": "visit", "name": "a\u0007"},
        {"edit": "name-page", "key": {"a": 1}, "name": "x"},
        {"edit": "move-page", "key": "visit", "parent": "nowhere", "index": 0},
        {"edit": "move-page", "key": "visit", "parent": "visit/hours", "index": 0},
        {"edit": "move-entry", "menu": "main", "number": 999, "parent": None, "index": 0},
        {"edit": "move-entry", "menu": "main", "number": -1, "parent": 5, "index": -3},
        {"edit": "remove-from-menu", "menu": "nowhere", "number": True},
        {"edit": "add-page", "title": "x" * 400, "parent": None, "index": 0},
        {"edit": "rename-id", "key": "visit", "id": "../.."},
        {"edit": "add-to-menu", "menu": "Not a name", "key": "press", "parent": None, "index": 0},
    ],
)
def test_acts_that_make_no_sense_have_an_answer(client: FlaskClient, body: object) -> None:
    status, answer = act(client, body)
    assert status == 422
    assert re.search("othing was changed", str(answer["message"]))


def test_an_act_gives_the_text_and_what_moved(client: FlaskClient) -> None:
    status, answer = act(client, {"edit": "rename-id", "key": "visit", "id": "come"})
    assert status == 200
    assert answer["words"] == "Renamed the id visit to come; 5 old addresses kept"
    assert ["visit/hours", "come/hours"] in answer["moves"]  # type: ignore[operator]
    assert act(client, {"edit": "delete-page", "key": "visit"}, "pages: [")[0] == 422


@pytest.mark.parametrize(
    "listed", ["", "Home\n" * 3, "<script>alert(1)</script> | javascript:x", "a\n" + " " * 200 + "b", "\0"]
)
def test_any_list_has_an_answer(client: FlaskClient, services: Services, listed: str) -> None:
    headers = {"X-CSRFToken": token(client)}
    broken = client.post(f"/sites/{SLUG}/map/list", json={"list": listed, "text": "pages: ["}, headers=headers)
    assert broken.status_code == 422 and "The text has errors" in broken.get_json()["message"]
    sent = {"list": listed, "text": services.store.get(SLUG).text}
    answer = client.post(f"/sites/{SLUG}/map/list", json=sent, headers=headers)
    assert answer.status_code in (200, 422) and "<script>" not in answer.text
    form = {"csrf_token": token(client), "start": "list", "name": "L", "list": listed}
    assert client.post("/new", data=form, follow_redirects=True).status_code in (200, 422)


def test_the_site_goes_out_as_a_list_a_table_and_a_picture(client: FlaskClient) -> None:
    assert client.get(f"/sites/{SLUG}/map/listed.txt").text.startswith("Home\nVisit\n")
    assert client.get(f"/sites/{SLUG}/map/listed.csv").text.startswith("level,label,kind,address\r\n1,Home,page,")
    assert client.get(f"/sites/{SLUG}/map/listed.txt?page=none").status_code == 404
    picture = client.get(f"/sites/{SLUG}/map/plan.svg")
    assert picture.content_type.startswith("image/svg+xml")
    assert len(ElementTree.fromstring(picture.data).findall(".//{*}a[@class='node']")) == 29
    assert client.get(f"/sites/{SLUG}/history/1.zip").status_code == 200
    assert client.get(f"/sites/{SLUG}/history?older=77").status_code == 404


HEADER = f"/sites/{SLUG}/header"


@pytest.mark.parametrize(
    "body",
    [
        None,
        [],
        {"page": 7, "screen": "x", "form": [], "sizes": {"page": "high", "window": -1, "row": True}, "trace": "none"},
        {"form": {"height": "10px; } body", "behaviour": "<b>", "below": 3}, "trace": [[0, 1e30], [5], "x", [2, None]]},
        {"trace": [[time, (-1) ** time * 900] for time in range(20_000)], "path": ["a", [], 1e99, -5]},
    ],
)
def test_whatever_a_header_is_asked_has_an_answer(client: FlaskClient, body: object) -> None:
    for place in ("look", "moment"):
        answer = client.post(f"{HEADER}/{place}", json=body, headers={"X-CSRFToken": token(client)})
        assert answer.status_code in (200, 400, 415)
        assert "<b>" not in answer.text


def test_a_header_is_tried_in_its_own_preview_alone(
    client: FlaskClient, previews: FlaskClient, services: Services, sessions: PreviewSessions
) -> None:
    own, other, text = sessions.open(SLUG), sessions.open(SLUG), services.store.get(SLUG).text
    asked = {"token": own, "form": {"height": "123"}}
    answer = client.post(f"{HEADER}/look", json=asked, headers={"X-CSRFToken": token(client)})
    assert answer.get_json()["tried"] is True

    def style(token: str) -> str:
        page = previews.get(f"/{token}.1/", base_url=ORIGIN).text
        address = re.search(r'href="(/[^"]*/assets/navigation[^"]*)"', page)
        return previews.get(address[1] if address else "", base_url=ORIGIN).text

    assert "--b-height: 7.6875rem" in style(own)
    assert "--b-height: 7.6875rem" not in style(other)
    assert services.store.get(SLUG).text == text  # nothing is written before somebody says so
    client.post(f"{HEADER}/look", json={"token": own, "form": {}}, headers={"X-CSRFToken": token(client)})
    assert "--b-height: 7.6875rem" not in style(own)


@pytest.mark.long
def test_a_header_is_written_without_script(client: FlaskClient, services: Services) -> None:
    def send(query: str, **words: str) -> tuple[int, str]:
        form = {"csrf_token": token(client), "revision": str(services.store.get(SLUG).revision), **words}
        answer = client.post(f"{HEADER}?{query}", data=form, follow_redirects=True)
        return answer.status_code, answer.text

    assert send("", start="translucent")[0] == 200
    text = services.store.get(SLUG).text
    assert "opacity: 88" in text and "name-width: 340" in text and "behaviour: shrink" not in text
    assert send("page=visit&for=page&windows=mobile", height="52")[0] == 200
    assert "    header:\n      mobile:\n        height: 52\n" in services.store.get(SLUG).text
    text = services.store.get(SLUG).text
    code, shown = send("", height="9000", threshold="77")
    assert code == 422 and 'value="9000"' in shown and 'value="77"' in shown
    assert services.store.get(SLUG).text == text
    assert "Back and forth" in client.get(f"{HEADER}?trace=threshold").text


PARTS = f"/sites/{SLUG}/parts"


def post(client: FlaskClient, address: str, revision: int = -1, **words: object) -> tuple[int, str]:
    form = {"csrf_token": token(client), "revision": str(revision), **words}
    answer = client.post(address, data=form, content_type="multipart/form-data", follow_redirects=True)
    return answer.status_code, answer.text


@pytest.mark.long
def test_parts_are_made_written_and_placed_without_script(client: FlaskClient, services: Services) -> None:
    def now() -> int:
        return services.store.get(SLUG).revision

    code, shown = post(
        client, f"{PARTS}/new", now(), name="shop-news", kind="embed", **{"needed-embed": "https://shop.example/x"}
    )
    assert code == 200 and "On no page: it is in no slot" in shown
    code, shown = post(client, PARTS, now(), part="shop-news", word="title", **{"own-title": "News of the shop"})
    assert code == 200
    code, _ = post(client, f"{PARTS}/slot", now(), slot="after", parts="shop-news", page="flour", **{"for": "page"})
    text = services.store.get(SLUG).text
    assert code == 200
    assert '  shop-news:\n    kind: embed\n    url: "https://shop.example/x"\n    title: News of the shop\n' in text
    assert "    slots:\n      after: shop-news\n" in text
    shown = client.get(f"{PARTS}?page=flour&part=shop-news").text
    assert "On 3 of 28 pages." in shown and "Sea loaf" in shown
    code, shown = post(client, f"{PARTS}/slot", now(), slot="after", parts=["shop-news", "shop-olds"])
    assert code == 422 and "There is no part <code>shop-olds</code>" in shown
    code, shown = post(client, PARTS, 1, part="rights", word="since", **{"own-since": "1988"})
    assert code == 409 and 'value="1988"' in shown
    assert services.store.get(SLUG).text == text


@pytest.mark.long
def test_files_are_put_beside_the_map_and_never_shown_by_the_application(
    client: FlaskClient, services: Services, previews: FlaskClient, sessions: PreviewSessions
) -> None:
    evil = b"<svg xmlns='http://www.w3.org/2000/svg'><script>top.x = 1</script></svg>"
    upload = {"folder": "files", "file": (io.BytesIO(evil), "my picture.svg")}
    code, shown = post(client, f"{PARTS}/upload", **upload)
    assert code == 200 and "my-picture.svg" in shown and "<script>top" not in shown
    got = client.get(f"{PARTS}/file/files/my-picture.svg")
    assert got.data == evil and got.headers["Content-Type"] == "application/octet-stream"
    assert got.headers["Content-Disposition"].startswith("attachment")
    for name, folder in (
        ("../../x.svg", "files"),
        ("x.svg", "../files"),
        ("x.svg", "content"),
        ("", "files"),
        (".x", "files"),
    ):
        code, _ = post(client, f"{PARTS}/upload", folder=folder, file=(io.BytesIO(b"x"), name))
        assert code == 422 or [*services.store.files(SLUG)] == [*{**services.store.files(SLUG), "files/x.svg": b""}]
    sums = services.store.files(SLUG).sum("page-layouts/with-aside.html")
    code, _ = post(client, f"{PARTS}/file", file="page-layouts/with-aside.html", text="{% for %}", was=sums)
    assert code == 200 and "The layout cannot be read" in client.get(f"{PARTS}?file=page-layouts/with-aside.html").text
    code, shown = post(client, f"{PARTS}/file", file="page-layouts/with-aside.html", text="<mine>", was=sums)
    assert code == 409 and "&lt;mine&gt;" in shown
    code, _ = post(client, f"{PARTS}/remove", file="files/my-picture.svg")
    assert "files/my-picture.svg" not in services.store.files(SLUG)
    assert previews.get(f"/{sessions.open(SLUG)}.1/assets/none.svg", base_url=ORIGIN).status_code == 404


EDITS = "<script>top.evil = 1</script><img src=x onerror='top.evil = 1'><a href=\"javascript:top.evil = 1\">x</a>"


@pytest.mark.long
def test_what_can_act_is_kept_for_the_sites_own_pages_alone(
    client: FlaskClient, services: Services, previews: FlaskClient, sessions: PreviewSessions
) -> None:
    """It is in the built page as it was written; in the application it is text, and a preview is a page of nowhere."""
    site = services.store.get(SLUG)
    services.sites.write(SLUG, "tides", EDITS, services.store.contents(SLUG)["tides"].text)
    services.sites.put_file(SLUG, "parts/quiet-hour.md", EDITS.encode(), None)
    services.sites.save(
        SLUG,
        site.text.replace("parts:\n", f"parts:\n  acts: {{kind: text, html: '{EDITS.replace(chr(39), '')}'}}\n"),
        1,
    )
    page = previews.get(f"/{sessions.open(SLUG)}.1/tides/", base_url=ORIGIN)
    assert "onerror" in page.text
    assert "sandbox allow-scripts allow-forms;" in page.headers["Content-Security-Policy"]
    assert "allow-same-origin" not in page.headers["Content-Security-Policy"]
    for address in (
        "map",
        "pages?page=tides",
        "parts?part=acts",
        "parts?file=parts/quiet-hour.md",
        "output?file=tides/index.html",
    ):
        shown = client.get(f"/sites/{SLUG}/{address}").text
        assert "<script>top.evil" not in shown and "<img src=x" not in shown, address
        assert 'href="javascript' not in shown, address
    part = previews.get(f"/{sessions.open(SLUG)}/.part/acts?page=tides", base_url=ORIGIN)
    assert part.status_code == 200 and "sandbox" in part.headers["Content-Security-Policy"]


def test_a_form_is_received_by_the_preview_and_by_nobody_else(
    services: Services, previews: FlaskClient, sessions: PreviewSessions
) -> None:
    text = services.store.get(SLUG).text.replace("to: /messages/", "to: https://elsewhere.example/take")
    services.sites.save(SLUG, text, 1)
    own = sessions.open(SLUG)
    page = previews.get(f"/{own}/contact/", base_url=ORIGIN).text
    assert f'action="/{own}/received/"' in page and "elsewhere.example/take" not in page
    answer = previews.post(f"/{own}/received/", base_url=ORIGIN, data={"name": "<b>Ann</b>"})
    assert "&lt;b&gt;Ann&lt;/b&gt;" in answer.text and "Nothing was sent anywhere" in answer.text
    assert previews.post("/nobody/received/", base_url=ORIGIN).status_code == 404


@pytest.mark.long
def test_outputs_are_chosen_and_told_apart_from_the_build_before(client: FlaskClient, services: Services) -> None:
    address = f"/sites/{SLUG}/output?output=site&output=data&compress=yes"
    shown = client.get(address).text
    while "Building" in shown:
        shown = client.get(address).text
    assert "basilica build site.yaml --out data --output data --compress" in shown and ">index.html.br<" in shown
    names = zipfile.ZipFile(io.BytesIO(client.get(address.replace("output?", "output/archive.zip?")).data)).namelist()
    assert f"{SLUG}/data/routes.json" in names and f"{SLUG}/site/visit/index.html.gz" in names
    services.sites.write(SLUG, "tides", "Other words.", services.store.contents(SLUG)["tides"].text)
    shown = client.get(f"{address}&file=site/tides/index.html").text
    while "Building" in shown:
        shown = client.get(f"{address}&file=site/tides/index.html").text
    assert "Since the last build 3 files changed." in shown  # the page and its compressed copies
    assert re.search(r'<tr class="come">[^§]*?Other words', shown)
    got = client.get(f"/sites/{SLUG}/output/file?file=tides/index.html")
    assert b"Other words" in got.data and got.headers["Content-Type"] == "application/octet-stream"


@pytest.mark.long
def test_a_page_is_written_in_markdown_or_in_html(client: FlaskClient, services: Services) -> None:
    def text() -> tuple[str, str]:
        content = services.store.contents(SLUG)["tides"]
        return content.name, content.text

    address, was = f"/sites/{SLUG}/pages/text", text()[1]
    code, shown = post(client, address, page="tides", text="<p>Raw *x*</p>", was=was, markup="html")
    assert code == 200 and text() == ("content/tides.html", "<p>Raw *x*</p>")
    assert "&lt;p&gt;Raw *x*&lt;/p&gt;" in shown and 'value="html" selected' in shown
    code, shown = post(client, address, page="tides", text="Mine", was="older", markup="md")
    assert code == 409 and "Mine" in shown and text()[0] == "content/tides.html"
    code, _ = post(client, address, page="tides", text="*x*", was="<p>Raw *x*</p>", markup="md", slot="aside")
    assert code == 409
    code, _ = post(client, address, page="tides", text="Beside", was="", slot="aside", markup="md")
    assert services.store.contents(SLUG)["tides.aside"].name == "content/tides.aside.md"
    assert post(client, address, page="tides", text="x", was="", slot="../x")[0] == 422
    assert post(client, address, page="nowhere", text="x", was="")[0] == 422


def test_templates_can_be_read() -> None:
    """No line is wider than an editor, and addresses come from the routes."""
    for path in Path(web.__file__).parent.rglob("templates/**/*.*"):
        text = path.read_text()
        assert max(map(len, text.splitlines())) <= 160, path
        assert not re.search(r'(?:href|action|src)="/', text), path


def test_previews_have_every_language() -> None:
    text = (
        "site: {name: M, base: 'https://m.example', languages: [en, cy]}\npages: {home: {path: /, cy: Hafan}, a: A}\n"
    )
    renderer = Renderer(planned(text), {})
    served = {
        path: serve_path(renderer, path) for path in ("/", "/cy/", "/cy", "/a/", "/cy/a/", "/cyx/", "/robots.txt")
    }
    told = {path: (one.code, re.findall(r'lang="(\w+)"', one.data.decode())[:1]) for path, one in served.items()}
    assert told == {
        "/": (200, ["en"]),
        "/cy/": (200, ["cy"]),
        "/cy": (404, ["cy"]),
        "/a/": (200, ["en"]),
        "/cy/a/": (404, ["cy"]),
        "/cyx/": (404, ["en"]),
        "/robots.txt": (200, []),
    }
    text = text.replace("a: A", "a: {title: A, also: /b/c/}").replace("name: M", "name: M, links: document")
    further = Renderer(planned(text), {})
    here, own = serve_path(further, "/b/c/"), serve_path(further, "/a/")
    assert (here.code, here.file, here.key, own.key) == (200, "b/c/index.html", "a", "a")
    assert b'href="../../a/"' in here.data and b'href="../../a/"' not in own.data


@pytest.mark.long
def test_an_output_says_how_it_is_set_in(
    client: FlaskClient, services: Services, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """With the names of an application's files, and the routes of it that meet pages; what is wrong is said."""
    monkeypatch.setattr("basilica.web.output.views.PATIENCE", 60.0)  # a busy machine is no reason to fail
    page = client.get(f"/sites/{SLUG}/output?output=django").text
    assert "How the Django kit is set in" in page and "INSTALLED_APPS" in page
    (tmp_path / "shop").mkdir()
    (tmp_path / "shop" / "make_app.py").write_text("app = Flask(__name__)\n")
    sent = {"csrf_token": token(client), "output": "flask", "folder": str(tmp_path / "shop"), "routes": "/news\n/<b>"}
    page = client.post(f"/sites/{SLUG}/output/application", data=sent).text
    assert "<code>make_app.py</code>" in page and "/news is answered by your code" in page
    assert "/&lt;b&gt; fits /visit/" in page and "No route of the list answers /tickets/" in page
    lost = client.post(f"/sites/{SLUG}/output/application", data={**sent, "folder": str(tmp_path / "no<where>")}).text
    assert "no&lt;where&gt; is not a folder." in lost and "/news is answered" in lost
    assert client.post(f"/sites/{SLUG}/output/application", data={"output": "x"}).status_code == 400  # no token
    services.store.save(SLUG, "pages: {home: {path: /, titel: X}}\n", services.store.get(SLUG).revision, True)
    assert client.get(f"/sites/{SLUG}/output/application?output=nothing").status_code == 200


@pytest.mark.long
def test_a_page_is_translated_by_hand(client: FlaskClient, services: Services) -> None:
    before = services.store.get(SLUG)
    sent = {"csrf_token": token(client), "page": "tides", "language": "cy", "revision": before.revision}
    words = {"title": "Tablau\u2019r llanw", "label": "Llanw", "path": "llanw", "description": ""}
    answer = client.post(f"/sites/{SLUG}/pages/languages", data={**sent, **words})
    assert answer.status_code == 303 and answer.location.endswith("page=tides#languages")
    assert "cy: {title: Tablau\u2019r llanw, label: Llanw, path: llanw}" in services.store.get(SLUG).text
    page = client.get(f"/sites/{SLUG}/pages?page=tides").text
    assert 'value="Tablau\u2019r llanw"' in page and "Saved title, label, path in Cymraeg to the map." in page
    again = client.post(f"/sites/{SLUG}/pages/languages", data={**sent, **words, "title": "Y llanw"})
    assert again.status_code == 409 and "Y llanw" not in services.store.get(SLUG).text  # changed meanwhile
    wrong = {**sent, "revision": services.store.get(SLUG).revision, "language": "de", "title": "Gezeiten"}
    assert client.post(f"/sites/{SLUG}/pages/languages", data=wrong).status_code == 422
    draft = {**sent, **words, "revision": services.store.get(SLUG).revision, "draft": "yes"}
    assert client.post(f"/sites/{SLUG}/pages/languages", data=draft).status_code == 303
    page = client.get(f"/sites/{SLUG}/pages?page=tides").text
    assert '<option value="yes" selected>Yes</option>' in page and 'class="open">not there</span>' in page
    alone = {**sent, "page": "take-part/members-evening", "title": "Noson", "draft": "no"}
    alone["revision"] = services.store.get(SLUG).revision
    assert client.post(f"/sites/{SLUG}/pages/languages", data=alone).status_code == 303
    assert "not there, as “Take part” is not" in client.get(f"/sites/{SLUG}/pages?page={alone['page']}").text
    above = {**alone, "page": "take-part", "title": "Cymryd rhan", "draft": ""}
    above["revision"] = services.store.get(SLUG).revision
    assert client.post(f"/sites/{SLUG}/pages/languages", data=above).status_code == 303
    assert "nothing links to it. In Cymraeg it is not a draft" in " ".join(
        client.get(f"/sites/{SLUG}/map?page={alone['page']}").text.split()
    )


def test_who_only_looks_takes_no_message(client: FlaskClient) -> None:
    """The page of some work looks how far that is; what was done is said on the page that is loaded then."""
    address = f"/sites/{SLUG}/publish"
    with client.session_transaction() as session:
        session["_flashes"] = [("message", "The edit is in content/history.md now.")]
    client.get(address, headers={"Only-Looks": "yes"})
    assert "The edit is in content/history.md now." in client.get(address).text
    assert "The edit is in content/history.md now." not in client.get(address).text
