"""A new check, a new edit, a new output and a new language: each is one thing in one place, as it is here."""

from __future__ import annotations

import json
from collections.abc import Iterator
from importlib import import_module
from pathlib import Path
from pkgutil import iter_modules

import pytest

import basilica.store.targets as targets_folder
from basilica import web
from basilica.core.build import build, outputs
from basilica.core.compile import compile_map
from basilica.core.edits import EditRejected, edit
from basilica.core.edits.command import Command, EditInProgress, label_of
from basilica.core.edits.site_changes import with_word
from basilica.core.findings import CHECKS, run_checks
from basilica.core.findings.check import Check, Violation
from basilica.core.findings.mosaic import State, mosaic_of
from basilica.core.map.site import Site
from basilica.core.outputs.output_formats import OutputFormat
from basilica.core.outputs.static_site import Renderer
from basilica.core.rules.rule import Level, Stage
from basilica.core.shared import locales
from basilica.core.shared.output_file import File
from basilica.core.site_reader import BuiltSite, read_site
from basilica.store.targets.target_settings import KINDS
from basilica.web.workspaces import WORKSPACES
from tests.core.help import HOME, planned

MAP = HOME + "pages:\n  home: {path: /, title: Home}\n  tides: Tides\n"


def shouts(built: BuiltSite) -> Iterator[Violation]:
    for page in built.pages:
        if (page.head.title or "").isupper():
            yield Violation(page, f"The title of {page.file} shouts.")


SHOUTING = Check(
    code="shouting",
    level=Level.WARNING,
    title="A title in capitals",
    why="It is read out letter by letter.",
    remedy="Write it as a sentence.",
    good="<title>Tides</title>",
    bad="<title>TIDES</title>",
    stage=Stage.ANY,
    run=shouts,
)


def test_a_check() -> None:
    plan = planned(MAP.replace("Tides", "TIDES"))
    results = run_checks(read_site(Renderer(plan, {}).files(), plan), (*CHECKS, SHOUTING))
    found = [finding for finding in results.findings() if finding.rule is SHOUTING]
    assert [(finding.message, finding.line) for finding in found] == [("The title of tides/index.html shouts.", 4)]
    mosaic = mosaic_of(results)
    assert mosaic.state(mosaic.by_name["tides"], "shouting") is State.DIFFERS
    assert mosaic.state(mosaic.by_name["home"], "shouting") is State.PASSES


class Describe(Command, frozen=True, tag="describe"):
    """A page gets its title as its description."""

    key: str

    def change(self, work: EditInProgress) -> None:
        title = work.site.pages[self.key].title
        work.text.set_word(self.key, "description", title)
        work.change_page(self.key, lambda page: with_word(page, "description", title))

    def describe(self, before: Site) -> str:
        return f"Described {label_of(before, self.key)}"


class Lie(Describe, frozen=True, tag="lie"):
    """The text says another thing than the site."""

    def change(self, work: EditInProgress) -> None:
        work.text.set_word(self.key, "description", "Something else")
        work.change_page(self.key, lambda page: with_word(page, "description", page.title))


def test_an_edit() -> None:
    done = edit(compile_map(MAP), MAP, Describe("tides"))
    assert done.text == MAP.replace("  tides: Tides", "  tides:\n    title: Tides\n    description: Tides")
    assert done.words == "Described Tides" and done.compiled.plan is not None
    with pytest.raises(EditRejected):
        edit(compile_map(MAP), MAP, Lie("tides"))


def listing(renderer: Renderer) -> Iterator[File]:
    yield File("pages.txt", "".join(f"{renderer.plan.path_of(key)}\n" for key in renderer.pages).encode())


def test_an_output() -> None:
    compiled = compile_map(MAP)
    made = outputs(build(compiled, {}), compiled, {}, [OutputFormat("list", "A list", "Paths.", listing)])
    assert made == (File("pages.txt", b"/\n/tides/\n"),)


def test_a_language(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    own = {name: f"{name} ({{}})" for name in locales.PHRASES}
    (tmp_path / "eo.json").write_text(json.dumps(own))
    (tmp_path / "en.json").write_text(json.dumps(dict(locales.ENGLISH)))
    monkeypatch.setattr(locales, "_FOLDER", tmp_path)
    try:
        locales.languages.cache_clear()
        locales.built_in.cache_clear()
        plan = planned(MAP.replace("name: Mill", "name: Mill, language: eo"))
        assert plan.site.phrases["skip"] == "skip ({})" and locales.languages() == ("en", "eo")
    finally:
        monkeypatch.undo()
        locales.languages.cache_clear()
        locales.built_in.cache_clear()


@pytest.mark.parametrize("language", locales.languages())
def test_no_language_lacks_a_phrase(language: str) -> None:
    known = json.loads((Path(locales.__file__).parent / f"{language}.json").read_text(encoding="utf-8"))
    assert known.keys() == locales.PHRASES.keys() and all(known.values())
    assert {name for name, text in known.items() if "{}" in text} == {"under", "moved-text"}


def test_no_list_of_the_product_lacks_one_of_its_own() -> None:
    """The lists have an order that people see, so they are written by hand; what is in the folders is in them."""
    own = {f"basilica.core.findings.{module}" for module in ("on_map", "on_site")}
    assert {check.run.__module__ for check in CHECKS} == {
        f"{package}.{name}" for package in own for _, name, _ in iter_modules(import_module(package).__path__)
    }
    folders = {path.parent.name for path in Path(web.__file__).parent.glob("*/blueprint.py")}
    assert {workspace.import_name.split(".")[-2] for workspace in WORKSPACES} == folders
    targets = {path.stem for path in Path(targets_folder.__file__).parent.glob("*_target.py")}
    assert {place.partition(":")[0].rpartition(".")[2] for place in KINDS.values()} == targets
