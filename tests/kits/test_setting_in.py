"""How kits are set in: what is said of it, which routes clash, what a host does wrong, and kits that are made again."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest
from click.testing import CliRunner, Result
from hypothesis import given
from hypothesis import strategies as st
from werkzeug.exceptions import HTTPException
from werkzeug.routing import Map, RequestRedirect, Rule

from basilica.cli import main
from basilica.core.outputs.kits.route_clashes import route_clashes
from basilica.core.outputs.kits.setting_in import KITS, ApplicationNames, steps
from basilica.core.plan import Plan
from basilica.services.application_folder import application_names
from basilica.store.errors import UsageError
from tests.core.help import planned
from tests.kits.help import HOSTS

MAP = """\
site: {name: Club, base: 'https://club.example/m'}
pages:
  home: {path: /, title: Club}
  visit: {title: Visit, pages: {hours: Hours}}
  boats: {kind: backend, path: /boats/, pages: {boat: {kind: backend, path: '{name}'}}}
"""


@pytest.fixture(scope="module")
def plan() -> Plan:
    return planned(MAP)


@pytest.mark.parametrize("kind", KITS)
def test_a_kit_says_in_five_lines_how_it_is_set_in(kind: str, plan: Plan) -> None:
    lines = steps(kind, plan, ApplicationNames("src/our_app.py", "src/our_urls.py", "layout.njk", "inner"))
    assert len(lines) == 5 and "@" not in "".join(lines).replace("@app.get", "")
    named = {"flask": "layout.njk", "django": "src/our_urls.py", "express": "inner", "includes": "shared/top.php"}
    assert named.get(kind, 'href("boats")') in "".join(lines)
    assert all(line.count("`") % 2 == 0 for line in lines)


@pytest.mark.parametrize(
    ("kind", "names"),
    [
        ("flask", ApplicationNames("host.py", "", "base.html", "content")),
        ("django", ApplicationNames("host.py", "host.py", "base.html", "content")),
        ("express", ApplicationNames("host.js", "", "base.html", "content")),
    ],
)
def test_the_folder_of_an_application_tells_its_names(kind: str, names: ApplicationNames) -> None:
    found = application_names(HOSTS / kind, kind)
    assert found == (names if kind != "django" else ApplicationNames("", "host.py", "base.html", "content"))
    with pytest.raises(UsageError):
        application_names(HOSTS / "nowhere", kind)


@pytest.mark.parametrize(
    ("listed", "met"),
    [
        ("static  GET  /static/<path:filename>\nboats GET /m/boats\nboat GET /m/boats/<name>", []),
        ("/m/visit\n/m/boats\n/m/boats/:name", [(1, "visit", "is answered by your code")]),
        ("m/visit/hours/\tapp.views.hours\nm/boats/\nm/boats/<str:name>", [(1, "visit/hours", "is answered")]),
        ("/m/:page/\n/m/boats\n/m/boats/:name", [(1, "visit", "fits /m/visit/")]),
        ("/m/*rest\n/m/boats\n/m/boats/:name", [(1, "visit", "and 1 more")]),
        ("/api/:id", [(0, "boats", "No route"), (0, "boats/boat", "No route")]),
        ("GET things\n\n(nothing here)", []),
        ("/m/boats\n/m/boats/:name\n" + "/x/" + ":a" * 40 + "b\n" * 2_100, [(1_001, "", "more than 1,000 lines")]),
    ],
)
def test_routes_that_meet_pages(listed: str, met: list[tuple[int, str, str]], plan: Plan) -> None:
    found = route_clashes(listed, plan, "/m")
    assert [(clash.line, clash.page) for clash in found] == [(line, page) for line, page, _ in met]
    for clash, (_, _, said) in zip(found, met, strict=True):
        assert said in clash.message and clash.remedy


def test_pages_in_every_language_are_met_and_home_is_no_rest() -> None:
    text = MAP.replace("/m'}", "', languages: [en, cy]}").replace("title: Club", "title: Club, cy: Clwb")
    found = route_clashes("/cy\n/*rest\n/boats\n/boats/:name", planned(text))
    assert [(clash.line, clash.page) for clash in found] == [(1, "home@cy"), (2, "visit")]


PIECES = st.lists(st.sampled_from(["visit", "hours", "<a>", "<path:b>", "news", "x"]), min_size=1, max_size=3)


@given(PIECES)
def test_what_fits_a_page_is_what_werkzeug_would_send_there(pieces: list[str]) -> None:
    """Werkzeug, URL Routing: a rule that answers the address of a page clashes with it, and no other does."""
    plan = planned(MAP)
    names = iter("abcdef")
    path = "/m/" + "/".join(f"<{piece[1:-2]}{next(names)}>" if "<" in piece else piece for piece in pieces) + "/"
    adapter = Map([Rule(path, endpoint="x")]).bind("club.example")

    def answered(address: str) -> bool:
        try:
            return bool(adapter.match(address))
        except RequestRedirect:
            return True
        except HTTPException:
            return False

    wanted = [key for key in ("home", "visit", "visit/hours") if answered("/m" + plan.routes[key].path)]
    found = {clash.page for clash in route_clashes(path, plan, "/m") if clash.line}
    assert bool(found) == bool(wanted) and found <= set(wanted)


def basilica(*arguments: str) -> Result:
    return CliRunner().invoke(main, list(arguments))


@pytest.fixture
def site(tmp_path: Path) -> Path:
    (tmp_path / "map").mkdir()
    path = tmp_path / "map" / "site.yaml"
    path.write_text(MAP)
    return path


def test_the_command_says_the_lines_and_the_clashes(site: Path, tmp_path: Path) -> None:
    (tmp_path / "routes.txt").write_text("/m/visit\n/m/boats\n/m/boats/<x>\n")
    told = basilica(
        "adopt", str(site), "flask", "--app", str(HOSTS / "flask"), "--routes", str(tmp_path / "routes.txt")
    )
    assert told.exit_code == 1 and "1. Build it" in told.output and "`host.py`" in told.output
    assert "line 1: /m/visit is answered by your code" in told.output
    assert basilica("adopt", str(site), "express").exit_code == 0
    assert basilica("adopt", str(site), "flask", "--app", str(tmp_path / "nowhere")).exit_code == 2


@pytest.mark.long
def test_made_again_a_kit_keeps_what_was_written_and_says_what_changed(site: Path, tmp_path: Path) -> None:
    app = tmp_path / "app"
    kit = app / "site_navigation"
    command = ("build", str(site), "--out", str(kit), "--output", "flask")
    app.mkdir()
    (app / "app.py").write_text("# the host's\n")
    assert basilica(*command).exit_code == 0
    (kit / "ours.py").write_text("# written beside it\n")
    (kit / "__pycache__").mkdir()
    (kit / "__pycache__" / "x.pyc").write_bytes(b"")
    site.write_text(MAP.replace("title: Visit", "title: Come").replace("hours: Hours", "hours: Hours, prices: Prices"))
    again = basilica(*command)
    assert again.exit_code == 0 and "1 new (data/pages/visit/prices.json)" in again.output
    assert "changed (data/layouts.json" in again.output
    assert "Left alone: 1 file that Basilica did not write, such as ours.py" in again.output
    assert "Nothing in it changed." in basilica(*command).output
    (kit / "__init__.py").write_text("# changed by hand\n")
    site.write_text(MAP)
    refused = basilica(*command)
    assert refused.exit_code == 2 and "__init__.py" in refused.output and "--force" in refused.output
    assert (kit / "__init__.py").read_text() == "# changed by hand\n"
    assert basilica(*command, "--force").exit_code == 0 and (kit / "ours.py").exists() and (app / "app.py").exists()
    shown = "from app import app; print(app.test_client().get('/m/visit/').status_code)"
    (app / "app.py").write_text("from flask import Flask\nfrom site_navigation import SiteNavigation\n")
    with (app / "app.py").open("a") as program:
        program.write("app = Flask(__name__)\nSiteNavigation(app)\n")
    done = subprocess.run([sys.executable, "-c", shown], cwd=app, capture_output=True, text=True)
    assert done.stdout == "200\n", done.stderr
