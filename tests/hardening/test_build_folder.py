"""A build into a folder: killed at any step it is finished by the next, and what it did not write stays."""

from __future__ import annotations

import os
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest

from basilica.core.shared.output_file import File
from basilica.store import build_folder
from basilica.store.build_folder import BuildFolder
from basilica.store.errors import UsageError

OLD = {"index.html": b"old", "a/index.html": b"a", "b": b"a file", "gone/x/index.html": b"gone", "same.css": b"same"}
NEW = {"index.html": b"new", "a": b"a file now", "b/index.html": b"b", "c/index.html": b"c", "same.css": b"same"}
OWN = {"CNAME": b"mill.example", ".git/HEAD": b"ref: main", "gone/own.txt": b"mine"}


def built(target: Path, files: dict[str, bytes], force: bool = False, sources: tuple[Path, ...] = ()) -> BuildFolder:
    with BuildFolder(target, force, sources) as made:
        made.write((File(name, data) for name, data in files.items()), lambda: None)
        made.keep()
    return made


def tree(target: Path) -> dict[str, bytes]:
    found = {path.relative_to(target).as_posix(): path.read_bytes() for path in target.rglob("*") if path.is_file()}
    found.pop(".basilica-build", None)
    return found


@pytest.fixture
def target(tmp_path: Path) -> Path:
    out = tmp_path / "out"
    built(out, OLD)
    for name, data in OWN.items():
        (out / name).parent.mkdir(exist_ok=True)
        (out / name).write_bytes(data)
    return out


class Killed(BaseException):
    """As a kill: nothing that runs after it in the program."""


def test_what_it_did_not_write_stays_and_is_reported(target: Path) -> None:
    assert set(built(target, NEW).left) == set(OWN)
    assert tree(target) == NEW | OWN
    assert built(target, NEW).left and tree(target) == NEW | OWN
    assert sorted(path.name for path in target.parent.iterdir()) == ["out"]


@pytest.mark.parametrize("at", range(14))
def test_killed_at_any_step_it_is_finished_by_the_next(target: Path, at: int, monkeypatch: pytest.MonkeyPatch) -> None:
    steps = 0

    def counted(act: Callable[..., Any]) -> Callable[..., Any]:
        def acted(*arguments: Any, **named: Any) -> Any:
            nonlocal steps
            steps += 1
            if steps > at:
                raise Killed
            return act(*arguments, **named)

        return acted

    with monkeypatch.context() as patched:
        patched.setattr(build_folder.os, "replace", counted(os.replace))
        patched.setattr(Path, "unlink", counted(Path.unlink))
        patched.setattr(build_folder.shutil, "rmtree", lambda *_, **__: None)  # a kill leaves what there is
        with suppress(Killed):
            built(target, NEW)
    for name, data in OWN.items():
        assert (target / name).read_bytes() == data
    for path in list(target.glob(".basilica-building-*")):  # of a process that is gone
        path.rename(path.with_name(".basilica-building-4194304"))
    journal = target / ".basilica-journal"
    if journal.exists():
        journal.write_text(journal.read_text().replace(f"-{os.getpid()}", "-4194304"))
    built(target, NEW)
    assert tree(target) == NEW | OWN


def test_what_was_changed_by_hand_or_is_in_the_way_is_said_before_it_goes(target: Path) -> None:
    (target / "index.html").write_bytes(b"by hand")
    (target / "c").write_bytes(b"mine")
    (target / "gone/x/index.html").write_bytes(b"by hand too")
    before = tree(target)
    with pytest.raises(UsageError, match=r"c, index\.html\. Copy"):
        built(target, NEW)
    assert tree(target) == before
    assert "gone/x/index.html" in built(target, NEW, force=True).left
    assert tree(target) == NEW | OWN | {"gone/x/index.html": b"by hand too"}


def test_a_source_is_never_built_over(tmp_path: Path) -> None:
    (tmp_path / "site" / "files").mkdir(parents=True)
    sources = (tmp_path / "site" / "site.yaml", tmp_path / "site" / "files")
    for out in (tmp_path, tmp_path / "site", tmp_path / "site/files", tmp_path / "site/files/out"):
        with pytest.raises(UsageError, match="the source of the build"):
            built(out, NEW, force=True, sources=sources)
    (tmp_path / "linked").symlink_to(tmp_path / "site")
    with pytest.raises(UsageError, match="the source of the build"):
        built(tmp_path / "linked", NEW, force=True, sources=sources)
    built(tmp_path / "site" / "dist", NEW, sources=sources)


def test_links_in_a_built_folder_are_not_written_through(target: Path, tmp_path: Path) -> None:
    (tmp_path / "elsewhere").mkdir()
    (target / "c").symlink_to(tmp_path / "elsewhere")
    with pytest.raises(UsageError):
        built(target, NEW, force=True)
    assert not list((tmp_path / "elsewhere").iterdir())
    (target / ".basilica-journal").write_text('["../elsewhere", ["index.html"], ["../../x"]]')
    (target / "c").unlink()
    built(target, NEW)
    assert tree(target) == NEW | OWN


def test_two_builds_at_once_do_not_take_each_others_files(target: Path) -> None:
    with BuildFolder(target, False, ()) as first:
        first.write([File("a.html", b"first")], lambda: None)
        with pytest.raises(UsageError, match="Another build into"):
            built(target, NEW)
        first.keep()
    assert tree(target)["a.html"] == b"first"
    built(target, NEW)
    assert tree(target) == NEW | OWN
