"""The types of the script: what the application really answers is what they say, and what they look for is there."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import msgspec
import pytest
from flask.testing import FlaskClient

from basilica.services.all_services import Services
from basilica.web.answers import Refusal, ScriptAnswer
from basilica.web.checks.answers import ChecksState, MosaicTiles
from basilica.web.header.answers import HeaderMoment, HeaderState, TriedHeader
from basilica.web.map import answers as of_map
from basilica.web.preview.answers import DifferingPart, PreviewState, ServedPages
from basilica.web.settings.answers import SettingsState, TriedSettings
from basilica.web.sites.answers import ListedSite

SLUG = "saltern-reach-tide-mill"
BASE = f"/sites/{SLUG}"
SOURCES = Path(__file__).parents[2] / "frontend/src"
TEMPLATES = Path(__file__).parents[2] / "basilica/web"


def state_in(page: str) -> dict[str, Any]:
    found = re.search(r'<script type="application/json" id="state">(.*?)</script>', page, re.S)
    assert found
    state: dict[str, Any] = json.loads(found[1])
    return state


@pytest.mark.parametrize(
    ("screen", "kind"),
    [
        ("map", of_map.MapState),
        ("header", HeaderState),
        ("settings", SettingsState),
        ("preview", PreviewState),
        ("checks", ChecksState),
    ],
)
def test_the_state_of_a_screen_is_of_its_kind(
    client: FlaskClient, services: Services, screen: str, kind: type[ScriptAnswer]
) -> None:
    services.builds.of(services.store.get(SLUG)).wait(60)
    msgspec.convert(state_in(client.get(f"{BASE}/{screen}").text), kind, strict=True)


def test_answers_are_of_their_kinds(client: FlaskClient, services: Services) -> None:
    services.builds.of(services.store.get(SLUG)).wait(60)
    page = client.get(f"{BASE}/map").text
    found = re.search(r'name="token" content="([^"]+)"', page)
    assert found
    headers, text = {"X-CSRFToken": found[1]}, services.store.get(SLUG).text
    token = state_in(client.get(f"{BASE}/preview").text)["token"]
    mine = text.replace("# Everything here is made up.", "# All of it is made up.")

    def answers(method: str, address: str, kind: Any, body: object = None, status: int = 200) -> Any:
        answer = client.open(address, method=method, json=body, headers=headers)
        assert answer.status_code == status, (address, answer.text[:200])
        return msgspec.convert(answer.json, kind, strict=True)

    def revision() -> int:
        return services.store.get(SLUG).revision

    at = f"{BASE}/map"
    answers("GET", f"{at}/find?words=tide", list[of_map.FoundPage])
    answers("GET", f"{at}/reach", of_map.VersionImpact)
    answers("GET", f"{at}/version-text", of_map.VersionText)
    answers("GET", f"{at}/icons", list[str])
    answers("GET", f"{at}/proof", of_map.Proof)
    answers("GET", f"{at}/changes?revision=0", of_map.Changes)
    answers("POST", f"{at}/merge", of_map.MergedTexts, {"base": text, "mine": mine})
    answers("PUT", f"{at}/text", of_map.SavedText, {"text": mine, "revision": revision()})
    answers("PUT", f"{at}/text", Refusal, {"text": text, "revision": revision() - 1}, 409)
    edit = {"edit": "name-page", "key": "tides", "name": "Tide times"}
    answers("POST", f"{at}/edit", of_map.EditedText, {"text": mine, "edit": edit})
    answers("POST", f"{at}/edit", Refusal, {"text": mine, "edit": {**edit, "key": "gone"}}, 422)
    answers("POST", f"{at}/going", of_map.Deletion, {"text": mine, "key": "tides"})
    for place in ("all", "under"):
        listed = {"text": mine, "list": "Home\nNews", "place": place, "key": "visit", "menu": "", "declined": []}
        answers("POST", f"{at}/list", of_map.ListedChanges, listed)
    content = services.store.contents(SLUG)["press"].text
    written = {"key": "press", "text": "Now.", "was": content}
    answers("PUT", f"{at}/content", of_map.WrittenContent, written)
    answers("PUT", f"{at}/content", Refusal, {**written, "text": "Then."}, 409)
    step = services.sites.last_step(services.store.get(SLUG))
    assert step is not None
    answers("POST", f"{at}/undo", of_map.Undone, {"step": step.after})
    answers("POST", f"{at}/undo", Refusal, {"step": step.after}, 409)
    answers("POST", f"{at}/copy-content", of_map.CopiedContent, {"key": "press", "to": "privacy"})
    answers("POST", f"{at}/version", of_map.SavedVersion, {"revision": revision(), "note": "N"})
    services.builds.of(services.store.get(SLUG)).wait(60)
    answers("GET", f"{BASE}/checks/mosaic.json", MosaicTiles)
    tried = {"token": token, "form": {"behaviour": "static"}, "page": "home", "screen": "0"}
    answers("POST", f"{BASE}/header/look", TriedHeader, tried)
    answers("POST", f"{BASE}/header/moment", HeaderMoment, {**tried, "path": [0, 90]})
    answers("POST", f"{BASE}/settings/look", TriedSettings, {"token": token, "form": {}})
    answers("GET", f"{BASE}/preview/seen?token={token}.1", ServedPages)
    answers("GET", f"{BASE}/preview/differing?page=home&other=tides", list[DifferingPart])
    answers("POST", "/new/list", ListedSite, {"list": "Home\nNews", "name": "Mill"})


def test_what_the_script_looks_for_by_reference_is_in_the_templates() -> None:
    there = {name for path in TEMPLATES.rglob("*.html") for name in re.findall(r'x-ref="(\w+)"', path.read_text())}
    asked = {
        (path.name, name)
        for path in SOURCES.rglob("*.ts")
        for fields in re.findall(r"(?:type \w*Refs = |Dialog<)\{(.*?)\}", path.read_text(), re.S)
        for name in re.findall(r"(\w+)\??:", fields)
    }
    assert len(asked) > 40
    assert {(file, name) for file, name in asked if name not in there} == set()
