"""Pages that nobody here wrote: the documentation of three packages of Debian, which a script brings.

For each a small file says what a person found by reading it; and what audits say of them was judged by reading, for
each code up to fifty findings that a kept seed (1782) drew."""

from __future__ import annotations

import csv
import json
import tempfile
from collections import Counter, defaultdict
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import unquote, urlsplit

import pytest
from lxml import html

from basilica.core.exchange.site_import import analyse
from basilica.core.rules.finding import Finding
from basilica.services.audits import audit_folder, built_files
from basilica.store.site_archives import read_site
from scripts.bring_documentation import PACKAGES, bring

DATA = Path(__file__).parents[1] / "data"
READ = {name: json.loads((DATA / f"documentation/{name}.json").read_text()) for name in PACKAGES}
Folders = dict[str, tuple[Path, str]]


@pytest.fixture(scope="module")
def documentation() -> Iterator[Folders]:
    with tempfile.TemporaryDirectory() as folder:
        try:
            yield bring(Path(folder))
        except RuntimeError as error:
            pytest.skip(str(error))


def folder_of(name: str, documentation: Folders) -> Path:
    folder, version = documentation[name]
    if version != READ[name]["version"]:
        pytest.skip(f"{name} is {version} here, and {READ[name]['version']} was read.")
    return folder


@pytest.mark.long
@pytest.mark.parametrize("name", PACKAGES)
def test_what_a_person_found_by_reading(name: str, documentation: Folders) -> None:
    site = analyse(read_site(folder_of(name, documentation)))
    assert site is not None
    assert {
        "version": READ[name]["version"],
        "pages": len(site.pages),
        "main menu": site.main.name if site.main else None,
        "with a sequence": len(site.with_sequence),
        "pages that drift": sorted({one.file for one in site.drift}),
    } == READ[name]


def audited(folder: Path) -> tuple[Finding, ...]:
    """All that an audit says of a folder."""
    return audit_folder(folder, built_files(folder)).findings


@pytest.mark.long
def test_at_most_one_finding_of_a_code_is_not_so(documentation: Folders) -> None:
    with (DATA / "judged_findings.csv").open(newline="") as file:
        judged = [tuple(row.values()) for row in csv.DictReader(file)]
    wrong = Counter(row[0] for row in judged if row[-1] != "yes")
    assert all(count <= 1 for count in wrong.values())
    recorded = {row[:-1] for row in judged}
    said: dict[str, set[tuple[str, ...]]] = defaultdict(set)
    for name in PACKAGES:
        for one in audited(folder_of(name, documentation)):
            said[one.code].add((one.code, name, one.file, str(one.line), str(one.column), one.message))
    for code, found in said.items():
        drawn = {row for row in recorded if row[0] == code}
        assert len(drawn) >= min(50, len(found)), f"of `{code}` not enough were judged"
        assert drawn <= found, sorted(drawn - found)[:3]
        assert len(found) > 50 or found == drawn, sorted(found - drawn)[:3]


@pytest.mark.long
@pytest.mark.parametrize("name", PACKAGES)
def test_dead_links_and_anchors_are_those_of_another_reader(name: str, documentation: Folders) -> None:
    """lxml, a general-purpose library, reads the same pages: every link of `a` and every id, and what is not there."""
    folder = folder_of(name, documentation)
    trees = {
        path.relative_to(folder).as_posix(): html.parse(str(path), html.HTMLParser(encoding="utf-8")).getroot()
        for path in folder.rglob("*.html")
        if path.is_file() and not path.is_symlink()
    }
    anchors = {file: {*tree.xpath("//@id"), *tree.xpath("//a/@name")} for file, tree in trees.items()}
    dead = set()
    for file, tree in trees.items():
        for href in tree.xpath("//a/@href"):
            parts = urlsplit(href)
            if parts.scheme or parts.netloc:
                continue
            target = (folder / file).parent / unquote(parts.path) if parts.path else folder / file
            target = target / "index.html" if target.is_dir() else target
            inside = target.resolve().relative_to(folder.resolve()).as_posix()
            gone = not target.is_symlink() and not target.exists()
            missing = inside in anchors and parts.fragment and unquote(parts.fragment) not in anchors[inside]
            if gone or missing:
                dead.add((file, href))
    said = {one.file for one in audited(folder) if one.code in ("dead-link", "dead-anchor")}
    assert said == {file for file, _ in dead}
