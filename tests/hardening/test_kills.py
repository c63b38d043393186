"""Killed at any file-system event while it saves, keeps and builds, nothing is lost that was said to be done."""

from __future__ import annotations

import shutil
import signal
import time
from pathlib import Path

import pytest

from basilica.services.all_services import Services
from basilica.services.folder_builds import build_folder
from basilica.store.folders import read_source
from tests.hardening import TIMES
from tests.hardening.killed import KINDS, PAGES, begin, begin_pages, edit, kept, processes, set_in

KILLS = 20 if TIMES == 1 else 25 * TIMES


@pytest.fixture(scope="module")
def begun(tmp_path_factory: pytest.TempPathFactory) -> Path:
    root = tmp_path_factory.mktemp("kills") / "root"
    begin(root)
    return root


def test_a_kill_loses_nothing_that_was_said_to_be_done(begun: Path) -> None:
    met = set()
    for order in range(KILLS):
        root = begun.parent / "killed"
        # The site knows its folder by its path: each run has the same one.
        shutil.move(begun, root.with_name("kept"))
        shutil.copytree(root.with_name("kept"), begun)
        try:
            at = 0 if order % 4 == 3 else 1 + order * 7 % 211
            process = processes.Process(target=edit, args=(begun, at, order))
            process.start()
            if not at:  # at any time, not at an event
                time.sleep(0.5 + order * 0.137 % 1)
                process.kill()
            process.join(120)
            assert process.exitcode == -signal.SIGKILL
            lines = (begun / "done").read_text().splitlines() if (begun / "done").exists() else []
            done = dict.fromkeys(KINDS, 0) | {line.split()[0]: int(line.split()[1]) for line in lines}
            met.update(kind for kind in KINDS if done[kind])
            check(begun, done, len(lines))
        finally:
            shutil.rmtree(begun)
            shutil.move(root.with_name("kept"), begun)
    assert met == set(KINDS)


def check(root: Path, done: dict[str, int], last: int) -> None:
    """What was done is there, or what was begun after it; and the folder, the site and the build are whole."""
    services = Services.of(root / "data")
    slug = services.store.all()[0].slug
    found = kept(services, slug)
    for kind, number in found.items():
        assert number in (done[kind], last + 1), (kind, number, done, last)
    site = services.sites.open(slug)
    assert services.sites.folder_problem(site) is None
    assert (root / "mill" / "site.yaml").read_text() == site.text
    assert (root / "mill" / "content" / "a.md").read_text() == f"{found['write']}\n"
    services.close()
    build_folder(read_source(root / "mill" / "site.yaml"), root / "out", False)
    assert (root / "out" / "CNAME").read_text() == "mill.example\n"
    assert f"<p>{found['write']}</p>" in (root / "out" / "a" / "index.html").read_text()
    left = [path.name for folder in ("mill", "out", "data") for path in (root / folder).rglob(".*")]
    assert [name for name in left if name != ".basilica-build"] == []


def test_a_kill_leaves_every_page_as_it_was_or_as_it_will_be(tmp_path: Path) -> None:
    root, whole = tmp_path / "root", tmp_path / "whole"
    begin_pages(root)
    shutil.copytree(root, whole)
    set_in(whole)
    old, new = pages(root), pages(whole)
    assert len(new) == PAGES and not set(old.values()) & set(new.values())
    for order in range(KILLS // 5):
        at = tmp_path / f"killed-{order}"
        shutil.copytree(root, at)
        process = processes.Process(target=set_in, args=(at, 1 + order * 167 % (3 * PAGES)))
        process.start()
        process.join(120)
        assert process.exitcode == -signal.SIGKILL
        found = pages(at)
        assert all(data in (old[name], new[name]) for name, data in found.items()) and set(found) == set(new)
        set_in(at)
        assert tree(at) == tree(whole)
        shutil.rmtree(at)


def pages(folder: Path) -> dict[str, bytes]:
    return {name: data for name, data in tree(folder).items() if name.endswith(".html")}


def tree(folder: Path) -> dict[str, bytes]:
    """Every file of a folder, hidden ones too."""
    return {path.relative_to(folder).as_posix(): path.read_bytes() for path in folder.rglob("*") if path.is_file()}
