"""Whatever the map can say is set by hand: every word has its screen, and every control writes just its word."""

from __future__ import annotations

import io
import re
from typing import Any

import pytest
from flask.testing import FlaskClient

from basilica.core.edits.map_data import map_data, page_in, set_in
from basilica.core.language.sections import SECTIONS as SCHEMA
from basilica.core.language.sections import default_of, screen_of
from basilica.core.language.sections.page_words import TRAIL
from basilica.services.all_services import Services
from basilica.web.settings.controls import SECTIONS, Control, controls
from basilica.web.workspaces import WORKSPACES
from tests.web.test_web import token

DEMO_SLUG = "saltern-reach-tide-mill"
PAGE = "history"
FILES = {
    "files/own.css": b"p { margin: 0 }",
    "files/own.js": b"void 0",
    "files/own.woff2": b"wOF2",
    "files/own.webmanifest": b"{}",
    "files/own.png": b"\x89PNG\r\n\x1a\n",
    "maps/more.yaml": b"pages: {older: Older}\n",
    "tables/mills.csv": b"name,place\nOne,Here\n",
    "tables/mills.md": b"{name}",
}
VALUES: dict[str, Any] = {
    "site.languages": ["en-GB", "cy"],
    "head.data": ["site", "organisation"],
    "site.base": "https://other.example",
    "site.language": "en-GB",
    "site.title": "{title} · {site}",
    "site.home-title": "{site}",
    "theme.size": "90",
    "theme.spacing": "20",
    "theme.css": "a { color: red }\nb { color: blue }",
    "breadcrumbs.shorten": "4",
    "breadcrumbs.size": "120",
    "layout": "with-aside",
    "facts": {"fax": "01632 960999"},
    "head.icon": "own.png",
    "head.styles": ["own.css"],
    "head.scripts": ["own.js"],
    "head.manifest": "own.webmanifest",
    "head.fonts": {"Own Sans": "own.woff2"},
    "head.meta": {"theme-color": "#14204a"},
    "parts.identity.picture": "own.png",
    "parts.identity.small-picture": "own.png",
    "head.social.picture": "own.png",
    "head.counter.script": "https://count.example/c.js",
    "redirects": {"/old-page.htm": "visit"},
    "checks.clicks": "4",
    "checks.hosts": ["cdn.example"],
    "inlay.folder": "../pages",
    "inlay.replace": ["title", "canonical"],
    "breadcrumbs": ["visit", "group: Long ago"],
    "was": ["/once.html", "/twice.html"],
    "include": "more.yaml",
    "styles": ["own.css"],
    "scripts": ["own.js"],
    "css": "p { color: red }",
    "js": "void 1",
    "without": ["breadcrumbs"],
    "social.picture": "own.png",
    "table.file": "mills.csv",
    "table.text": "mills.md",
    "table.layout": "with-aside",
    "table.title": "{name}",
    "menus.section": "history",
    "menus.fold": "900",
    "phrases.under": "Below {}",
    "phrases.moved-text": "Now at {}",
    **{f"own markup.{word}": "<li>{label}</li>" for word in ("current", "section", "holds", "group")},
    "own markup.entry": '<li><a href="{address}">{label}</a>{below}</li>',
    "own markup.below": "<ul>{entries}</ul>",
}
NOT_BOTH = {("menus", "mill", "place"), ("menus", "friends", "section")}
"""A menu of a section has no other place, and the other way round; the demo's menus have one of them."""
NEEDS = {"head.counter.data": ("head.counter.script",), "head.counter.hosts": ("head.counter.script",)}
TABLE = ("table.file",)


def every_control(services: Services) -> list[tuple[str, Control]]:
    site = services.store.get(DEMO_SLUG)
    plan = services.maps.good_plan(site)
    assert plan is not None
    return [
        (section, control)
        for section in SECTIONS
        for _, inside in controls(section, plan, map_data(site.text), PAGE)
        for control in inside
        if control.path not in NOT_BOTH
    ]


def value_for(section: str, control: Control) -> Any:
    last, of_menu = control.path[-1], control.path[0] == "menus"
    names = [
        control.name,
        f"menus.{last}" if of_menu else "",
        f"own markup.{last}" if control.path[0] == "inlay" else "",
    ]
    for name in names:
        if name in VALUES:
            return VALUES[name]
    if control.kind == "choice":
        return next(one for one in reversed(control.word.values) if one != control.now)
    if control.kind == "colour":
        return "#123456"
    if control.kind == "pairs":
        return {"some-name": "some value"}
    if control.kind == "lines":
        return ["one.example", "two.example"]
    if control.word.value_type == "reference":
        return "visit"
    return {"number": "15"}.get(control.kind, "Some words")


def fields_of(control: Control, value: Any) -> dict[str, Any]:
    if isinstance(value, dict):
        rows = {**dict(control.rows), **value}
        return {f"{control.name}:name": list(rows), f"{control.name}:value": list(rows.values())}
    return {control.name: "\n".join(value) if control.kind == "lines" else value}


def test_every_word_of_the_map_has_a_screen() -> None:
    screens = {
        screen_of(section, word).partition(":")[0].lower() for section, words in SCHEMA.items() for word in words
    }
    assert screens <= {blueprint.name for blueprint in WORKSPACES}
    set_here = [word for _, groups in SECTIONS.values() for group in groups for word in group.words]
    for section, words in SCHEMA.items():  # a word of a section of settings without a group would be nowhere
        for word in words:
            on_settings = screen_of(section, word).startswith("Settings") and section != "menus"
            assert not (on_settings and word.is_controlled) or word in set_here or word in TRAIL, (section, word.name)
    assert default_of(SCHEMA["site"], "urls") == "folders"


@pytest.mark.long
def test_every_control_writes_its_word_and_no_other(client: FlaskClient, services: Services) -> None:
    for name, data in FILES.items():
        services.sites.put_file(DEMO_SLUG, name, data, None)
    everything = every_control(services)
    assert len(everything) > 120
    wrong, key = [], token(client)
    for section, control in everything:
        before = services.store.get(DEMO_SLUG)
        page = client.get(f"/sites/{DEMO_SLUG}/settings?section={section}&page={PAGE}").get_data(as_text=True)
        assert f'name="{control.name}' in page, control.name
        value = value_for(section, control)
        sent = fields_of(control, value)
        for other in NEEDS.get(control.name, ()) or (TABLE if control.path[0] == "table" else ()):
            sent.setdefault(other, VALUES[other])
        answer = client.post(
            f"/sites/{DEMO_SLUG}/settings?section={section}&page={PAGE}",
            data={"csrf_token": key, "revision": before.revision, **sent},
        )
        expected = map_data(before.text)
        holder = page_in(expected, PAGE) if section == "page" else expected
        for name, said in sent.items():
            if name == control.name or ":" in name:
                continue
            set_in(holder, name.split("."), said)
        if isinstance(value, dict):
            for name, said in value.items():
                set_in(holder, (*control.path, name), said)
        else:
            if control.path[0] == "menus" and isinstance(holder["menus"].get(control.path[1]), list):
                holder["menus"][control.path[1]] = {"entries": holder["menus"][control.path[1]]}
            several = (
                [{"group": one[7:]} if one.startswith("group: ") else one for one in value]
                if isinstance(value, list)
                else value
            )
            single = isinstance(several, list) and len(several) == 1
            set_in(holder, control.path, several[0] if single else several)
        after = services.store.get(DEMO_SLUG)
        got = map_data(after.text)
        if control.name in ("site.urls", "site.language-prefix"):
            got, expected = got["site"], expected["site"]  # addresses that others may know are kept, at pages
        if answer.status_code != 303 or got != expected:
            told = re.search(r'role="alert"[^>]*>([^<]*)', answer.get_data(as_text=True))
            wrong.append(f"{section} {control.name} {value} {answer.status_code} {told and told[1]}")
        if after.text != before.text:
            services.sites.save(DEMO_SLUG, before.text, after.revision)
    assert not wrong, "\n".join(wrong)


@pytest.mark.long
@pytest.mark.parametrize("section", sorted(SECTIONS))
def test_settings_that_are_tried_are_shown_and_not_written(
    client: FlaskClient, services: Services, section: str
) -> None:
    before = services.store.get(DEMO_SLUG)
    page = client.get(f"/sites/{DEMO_SLUG}/settings?section={section}&page={PAGE}").get_data(as_text=True)
    shown = re.search(r'"token": ?"([^"]+)"', page)
    assert shown
    control = next(one for of, one in every_control(services) if of == section)
    sent = {
        name: [value] if isinstance(value, str) else value
        for name, value in fields_of(control, value_for(section, control)).items()
    }
    answer = client.post(
        f"/sites/{DEMO_SLUG}/settings/look?section={section}&page={PAGE}",
        json={"token": shown[1], "form": sent},
        headers={"X-CSRFToken": token(client)},
    )
    assert answer.status_code == 200 and answer.json is not None
    tried = services.previews.sessions.tried(shown[1])
    assert (tried is not None) is (answer.json["changed"] > 0) is (not answer.json["message"])
    assert services.store.get(DEMO_SLUG).text == before.text


@pytest.mark.long
def test_what_was_set_is_undone(client: FlaskClient, services: Services) -> None:
    before = services.store.get(DEMO_SLUG)
    address = f"/sites/{DEMO_SLUG}/settings"
    sent = {"csrf_token": token(client), "revision": before.revision, "site.name": 'A "mill" & more'}
    shown = client.post(address, data={**sent, "site.urls": "files"}, follow_redirects=True).get_data(as_text=True)
    changed = services.store.get(DEMO_SLUG)
    assert map_data(changed.text)["site"]["name"] == 'A "mill" & more'
    assert ">Undo: Set name, urls; 31 old addresses kept</span></button>" in shown and "Set name, urls." in shown
    stale = client.post(address, data={**sent, "site.name": "Late"})
    assert stale.status_code == 409 and "Late" in stale.get_data(as_text=True)
    step = re.search(r'name="step" value="([^"]+)"', shown)
    last = services.sites.last_step(changed)
    assert step and last and (step[1], last.words) == (last.after, "Set name, urls; 31 old addresses kept")
    for wrong in ("", step[1][1:]):
        assert client.post(f"{address}/undo", data={**sent, "step": wrong}).status_code == 409
    assert client.post(f"{address}/undo", data={**sent, "step": step[1]}).status_code == 303
    undone = services.store.get(DEMO_SLUG)
    assert undone.text == before.text
    assert client.post(f"{address}/undo", data={**sent, "step": step[1]}).status_code == 409
    assert ">Undo: " not in client.post(
        address,
        data={**sent, "revision": undone.revision, "site.name": "Saltern Reach Tide Mill"},
        follow_redirects=True,
    ).get_data(as_text=True)
    # There and back by hand: the addresses that were kept on the way are the pages' own again.
    for style in ("files", "folders"):
        revision = services.store.get(DEMO_SLUG).revision
        assert client.post(address, data={**sent, "revision": revision, "site.urls": style}).status_code == 303
        assert map_data(services.store.get(DEMO_SLUG).text)["site"]["urls"] == style


def test_settings_of_a_page_in_another_file_are_written_there(client: FlaskClient, services: Services) -> None:
    text = services.store.get(DEMO_SLUG).text
    services.sites.put_file(DEMO_SLUG, "maps/more.yaml", FILES["maps/more.yaml"], None)
    text = text.replace("  history: History\n", "  past: {include: more.yaml}\n  history: History\n")
    services.sites.save(DEMO_SLUG, text, services.store.get(DEMO_SLUG).revision)
    page = client.get(f"/sites/{DEMO_SLUG}/settings?section=page&page=past/older").get_data(as_text=True)
    assert "is written in maps/more.yaml (line " in page
    sent = {"csrf_token": token(client), "revision": services.store.get(DEMO_SLUG).revision, "social.title": "Seen"}
    assert client.post(f"/sites/{DEMO_SLUG}/settings?section=page&page=past/older", data=sent).status_code == 303
    assert b"title: Seen" in services.store.files(DEMO_SLUG)["maps/more.yaml"]
    assert services.store.get(DEMO_SLUG).text == text


def test_settings_wait_until_the_map_has_no_errors(client: FlaskClient, services: Services) -> None:
    site = services.store.get(DEMO_SLUG)
    broken = services.sites.save(DEMO_SLUG, "- no\n" + site.text, site.revision)
    sent = {"csrf_token": token(client), "revision": broken.revision, "site.name": "Other"}
    for address in (f"/sites/{DEMO_SLUG}/settings", f"/sites/{DEMO_SLUG}/settings?section=page&page={PAGE}"):
        answer = client.post(address, data=sent)
        assert answer.status_code == 422 and "The map has errors" in answer.get_data(as_text=True)
        assert client.get(address).status_code == 200
    assert services.store.get(DEMO_SLUG).text == broken.text


SVG = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path d="M0 0h8v8z"/></svg>'


@pytest.mark.long
def test_a_logo_is_uploaded_and_set_by_one_step(client: FlaskClient, services: Services) -> None:
    before = services.store.get(DEMO_SLUG)
    address, name = f"/sites/{DEMO_SLUG}/settings", "files/brand-new.svg"
    svg = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20H0z"/></svg>'
    sent = {"csrf_token": token(client), "parts.identity.text": "Brand new"}
    for revision, code in ((before.revision + 1, 409), (before.revision, 303)):
        assert name not in services.store.files(DEMO_SLUG)
        upload = (io.BytesIO(svg), "brand-new.svg")
        answer = client.post(f"{address}?section=logo", data={**sent, "revision": revision, "upload": upload})
        assert answer.status_code == code
    changed = services.store.get(DEMO_SLUG)
    assert map_data(changed.text)["parts"]["identity"]["picture"] == "brand-new.svg"
    assert services.store.files(DEMO_SLUG)[name] == svg
    step = services.sites.last_step(changed)
    assert step and client.post(f"{address}/undo", data={**sent, "step": step.after}).status_code == 303
    undone = services.store.get(DEMO_SLUG)
    assert (undone.text, undone.files_digest) == (before.text, before.files_digest)


def test_uploads_replace_only_what_they_are_to_replace(client: FlaskClient, services: Services) -> None:
    address, data = (
        f"/sites/{DEMO_SLUG}/parts/upload",
        {"revision": "1", "csrf_token": token(client), "folder": "files"},
    )
    before = services.maps.files(services.store.get(DEMO_SLUG))
    both = [(io.BytesIO(b"new"), "new.txt"), (io.BytesIO(SVG), "mill.svg")]
    refused = client.post(address, data={**data, "file": both}, content_type="multipart/form-data")
    assert refused.status_code == 422 and "There is another mill.svg in files" in refused.text
    assert services.maps.files(services.store.get(DEMO_SLUG)) == before  # all of them or none
    both = [(io.BytesIO(b"new"), "new.txt"), (io.BytesIO(SVG), "mill.svg")]
    done = client.post(address, data={**data, "file": both, "replace": "yes"}, content_type="multipart/form-data")
    after = services.maps.files(services.store.get(DEMO_SLUG))
    assert (done.status_code, after["files/mill.svg"], after["files/new.txt"]) == (303, SVG, b"new")


@pytest.mark.parametrize(
    ("name", "data", "status", "said"),
    [
        ("../../own.svg", SVG, 200, '"own.svg"'),
        ("own.html", SVG, 422, "ends with .svg"),
        ("own.svg", b"\xff" * 9, 422, "cannot be read as SVG"),
        ("mill.svg", SVG, 422, "There is another mill.svg"),
    ],
)
def test_an_uploaded_icon_is_looked_at_and_writes_over_nothing(
    client: FlaskClient, services: Services, name: str, data: bytes, status: int, said: str
) -> None:
    before = services.maps.files(services.store.get(DEMO_SLUG))
    answer = client.post(
        f"/sites/{DEMO_SLUG}/map/icon",
        data={"icon": (io.BytesIO(data), name)},
        headers={"X-CSRFToken": token(client)},
        content_type="multipart/form-data",
    )
    assert answer.status_code == status and said in answer.text
    after = services.maps.files(services.store.get(DEMO_SLUG))
    assert {name: after[name] for name in before} == dict(before)
