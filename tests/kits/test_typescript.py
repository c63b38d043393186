"""The typed data: what the compiler takes and refuses, and what it says while it runs."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path

import pytest
from selectolax.lexbor import LexborHTMLParser

from basilica.core.map.map_files import Files
from basilica.core.outputs.kits import typescript
from basilica.core.outputs.static_site import Renderer
from tests.core.help import markdown, planned
from tests.core.test_outputs import LAYOUT, ODD, PUBLIC, TEXTS

pytestmark = pytest.mark.tools

COMPILER = Path(__file__).parents[2] / "frontend" / "node_modules" / ".bin" / "tsc"
STRICT = ("--strict", "--noUncheckedIndexedAccess", "--target", "es2022", "--module", "nodenext", "--lib", "es2022,dom")
USE = """\
import { href, isCurrent, isOnPath, menusOn, pageAt, routes, trailOf, type Entry } from "./navigation/index.js";

const flat = (entries: readonly Entry[]): Entry[] => entries.flatMap((entry) => [entry, ...flat(entry.items)]);
const found = Object.keys(routes).map((key) => {
  const id = key as keyof typeof routes;
  const path = "/m" + routes[id].address.replace(/\\{number\\}/, "7").replace(/\\{rest\\.\\.\\.\\}/, "x/y");
  const menus = Object.entries(menusOn(id));
  return {
    id,
    at: pageAt(path),
    current: menus.flatMap(([name, menu]) =>
      flat(menu.entries).flatMap((entry) => {
        const mark = isCurrent(path, name, entry);
        return mark ? [[name, entry.number, mark]] : [];
      }),
    ),
    path: menus.flatMap(([name, menu]) =>
      flat(menu.entries).flatMap((entry) => (isOnPath(path, name, entry) ? [[name, entry.number]] : [])),
    ),
    links: flat(menusOn(id)["main"]?.entries ?? []).flatMap((entry) => (entry.href ? [entry.href] : [])),
    trail: trailOf(id).map((level) => level.label),
  };
});
const lot: string = href("shop/lot", { number: "7 8", rest: "x/y z" }, "top");
console.log(JSON.stringify({ found, lot, home: href("home"), none: pageAt("/nowhere") ?? null }));
"""
WRONG = {
    'href("hmoe")': "hmoe",
    'href("shop/lot")': "Expected 2-3 arguments",
    'href("shop/lot", { number: 7 })': "'rest' is missing",
    'href("home", { number: 7 })': "undefined",
}


@pytest.fixture(scope="module")
def site() -> Renderer:
    return Renderer(planned(ODD, Files({"page-layouts/own.html": LAYOUT, **PUBLIC})), markdown(**TEXTS))


@pytest.fixture(scope="module")
def folder(site: Renderer, tmp_path_factory: pytest.TempPathFactory) -> Path:
    root = tmp_path_factory.mktemp("typed")
    (root / "navigation").mkdir()
    for file in typescript.files(site):
        (root / "navigation" / file.path).write_bytes(file.data)
    (root / "package.json").write_text('{"type": "module"}')
    return root


def compiled(folder: Path, text: str, name: str = "use.ts") -> str:
    """What the compiler says; nothing where all is well."""
    (folder / name).write_text(text)
    strict = [
        "--strict",
        "--noUncheckedIndexedAccess",
        "--target",
        "es2022",
        "--module",
        "nodenext",
        "--lib",
        "es2022,dom",
    ]
    return subprocess.run([COMPILER, *strict, name], cwd=folder, capture_output=True, text=True).stdout


def test_it_compiles_strictly_and_says_what_the_site_shows(site: Renderer, folder: Path) -> None:
    assert compiled(folder, USE) == ""
    done = subprocess.run(["node", "use.js"], cwd=folder, capture_output=True, text=True, check=True)
    said = json.loads(done.stdout)
    assert (said["lot"], said["home"], said["none"]) == ("/m/shop/lot-7%208/x/y%20z#top", "/m/", None)
    plan = site.plan
    for row in said["found"]:
        marks = {name: mark for name, mark in plan.marks(row["id"]).items() if mark}
        assert row["at"] == row["id"]
        assert row["current"] == [
            [name, number, mark.current] for name, mark in marks.items() for number in mark.entries
        ]
        assert sorted(row["path"]) == sorted([name, number] for name, mark in marks.items() for number in mark.path)
        assert row["trail"] == [level.label for level in plan.breadcrumbs(row["id"])]
    shown = [link.attributes["href"] for link in LexborHTMLParser(site.page("home")).css(".b-main a")]
    assert said["found"][0]["links"] == shown


@pytest.mark.parametrize("call", WRONG)
def test_what_the_map_does_not_have_is_an_error_of_the_compiler(call: str, folder: Path) -> None:
    text = f'import {{ href }} from "./navigation/index.js";\nconsole.log({call});\n'
    assert WRONG[call] in compiled(folder, text, "wrong.ts")
