"""What was acknowledged is in the database, a version or the folder, whatever becomes of that; and nothing outside the
folder is read or written."""

from __future__ import annotations

import os
import shutil
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from basilica.core.plan.content_links import Content
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.folder_sync import FolderSync, SiteRecord
from basilica.store import folders
from basilica.store.errors import UsageError
from basilica.store.folders import place_in, read_source
from basilica.store.records import Conflict
from basilica.store.sites import Sites
from tests.hardening import TIMES

MAP = "site: {name: Mill}\npages:\n  home: {path: /}\n  a: A\n  b: B\n"


@pytest.fixture
def sites(tmp_path: Path) -> Iterator[Sites]:
    store = Sites(tmp_path / "data")
    yield store
    store.close()


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    found = tmp_path / "mill"
    for name, text in {"site.yaml": MAP, "content/a.md": "A\n", "content/b.md": "B\n", "parts/p.md": "P\n"}.items():
        (found / name).parent.mkdir(parents=True, exist_ok=True)
        (found / name).write_text(text)
    return found


def tree(folder: Path) -> dict[str, str]:
    return {path.relative_to(folder).as_posix(): path.read_text() for path in folder.rglob("*") if path.is_file()}


def everything(sites: Sites, slug: str, folder: Path) -> str:
    """All text that is anywhere: in the site, in its versions, in the folder."""
    found = [sites.get(slug).text, *(content.text for content in sites.contents(slug).values())]
    for version in (sites.version(slug, listed.id) for listed in sites.versions(slug)):
        found += [version.text, *(content.text for content in version.contents.values())]
    return "\n".join([*found, *(tree(folder).values() if folder.is_dir() else ())])


def saved(sync: FolderSync, sites: Sites, record: SiteRecord, text: str) -> SiteRecord:
    return sync.change(record, lambda: sites.save("mill", text, record.revision, True))


def written(sync: FolderSync, sites: Sites, record: SiteRecord, key: str, text: str, was: str) -> SiteRecord:
    return sync.change(record, lambda: sites.write("mill", key, text, was))


def test_what_could_not_be_written_goes_out_once_it_can(
    sites: Sites, folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.adopt(folder)

    def full(*_: object, **__: object) -> None:
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as patched:
        patched.setattr(folders.os, "replace", full)
        record = written(sync, sites, record, "a", "Typed while it was full", "A\n")
        record = saved(sync, sites, record, MAP + "# typed\n")
        problem = sync.problem(record)
        assert problem is not None and "No space left" in problem.message and "kept here" in problem.message
        (folder / "content/b.md").write_text("Changed there\n")
        record = sync.look(record)
        assert sites.contents("mill")["a"].text == "Typed while it was full"
    record = sync.look(record)
    assert sync.problem(record) is None
    assert tree(folder)["content/a.md"] == "Typed while it was full" and tree(folder)["site.yaml"] == MAP + "# typed\n"
    assert sites.contents("mill")["b"].text == "Changed there\n"
    assert not [path for path in folder.rglob("*") if path.name.startswith(".")]


def test_a_folder_that_is_moved_away_is_not_made_again_and_nothing_is_emptied(sites: Sites, folder: Path) -> None:
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.adopt(folder)
    away = folder.with_name("away")
    folder.rename(away)
    record = saved(sync, sites, sync.look(record), MAP + "# typed\n")
    problem = sync.problem(record)
    assert problem is not None and problem.choices == ("write", "part") and "not there" in problem.message
    assert not folder.exists() and set(sites.contents("mill")) == {"a", "b"}
    away.rename(folder)  # and it comes back
    record = sync.look(record)
    assert tree(folder)["site.yaml"] == MAP + "# typed\n" and sync.problem(record) is None
    shutil.rmtree(folder)
    sync.write_anew(sync.look(record))
    assert tree(folder)["content/a.md"] == "A\n" and set(sites.contents("mill")) == {"a", "b"}


def test_another_folder_in_its_place_asks(sites: Sites, folder: Path) -> None:
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.adopt(folder)
    record = sync.look(record)
    folder.rename(folder.with_name("away"))
    folder.mkdir()
    (folder / "site.yaml").write_text("site: {name: Other}\npages: {home: {path: /}}\n")
    record = sync.look(record)
    problem = sync.problem(record)
    assert problem is not None and problem.choices == ("take", "write", "part")
    record = written(sync, sites, record, "a", "Typed meanwhile", "A\n")
    assert set(tree(folder)) == {"site.yaml"} and sites.contents("mill")["a"].text == "Typed meanwhile"
    record = sync.take_over(record)
    assert "Other" in record.text and "Typed meanwhile" in everything(sites, "mill", folder)
    sync.part(record)
    assert sites.get("mill").folder is None and sync.problem(sites.get("mill")) is None


def test_what_was_edited_here_is_a_version_before_the_folder_comes_over_it(sites: Sites, folder: Path) -> None:
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.change(sync.adopt(folder), lambda: sites.write("mill", "a", "From here", "A\n"))
    assert tree(folder)["content/a.md"] == "From here"
    for text in ("From there", "From there, again"):  # edits there alone make no versions
        (folder / "content/a.md").write_text(text)
        record = sync.look(record)
    assert sites.contents("mill")["a"].text == "From there, again"
    assert [version.note for version in sites.versions("mill")][:-1] == ["What was here when the folder changed too"]
    assert "From here" in everything(sites, "mill", folder)


NAMES = st.sampled_from(["content/a.md", "content/b.md", "content/c.md", "site.yaml", "parts/p.md"])
STEPS = st.lists(
    st.tuples(st.sampled_from(["here", "there", "gone", "look", "away", "back", "stop", "full"]), NAMES), max_size=12
)


@settings(max_examples=60 * TIMES, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(steps=STEPS)
def test_nothing_acknowledged_is_lost(steps: list[tuple[str, str]], tmp_path_factory: pytest.TempPathFactory) -> None:
    """Edits here and there, a folder that goes and comes, a full disk, restarts: in any order."""
    root = tmp_path_factory.mktemp("steps")
    folder, away = root / "mill", root / "away"
    (folder / "content").mkdir(parents=True)
    (folder / "site.yaml").write_text(MAP)
    (folder / "content/a.md").write_text("A\n")
    sites = Sites(root / "data")
    sync, acknowledged, kept = FolderSync(sites, CompiledMaps(sites)), [], os.replace
    sync.adopt(folder)
    try:
        for number, (step, name) in enumerate(steps):
            mark, record = f"mark-{number}-", sync.look(sites.get("mill"))
            os.replace = kept
            if step == "here" and name.startswith("content/"):
                known = sites.contents("mill").get(name[8:-3])
                written(sync, sites, record, name[8:-3], mark, known.text if known else "")
                acknowledged.append(mark)
            elif step == "here" and name == "site.yaml":
                saved(sync, sites, record, MAP + f"# {mark}\n")
                acknowledged.append(mark)
            elif step == "there" and folder.is_dir():
                (folder / name).parent.mkdir(exist_ok=True)
                (folder / name).write_text(MAP + f"# there {number}\n" if name == "site.yaml" else f"there {number}")
            elif step == "gone" and name != "site.yaml" and (folder / name).exists():
                (folder / name).unlink()
            elif step == "away" and folder.is_dir():
                folder.rename(away)
            elif step == "back" and away.is_dir() and not folder.exists():
                away.rename(folder)
            elif step == "stop":
                sync = FolderSync(sites, CompiledMaps(sites))
            elif step == "full":
                os.replace = _no_room
        os.replace = kept
        sync.look(sites.get("mill"))
        everywhere = everything(sites, "mill", folder)
        # What was written over here, by the person, may be gone.
        last = {name: mark for mark, (_, name) in zip(acknowledged, _written(steps), strict=True)}
        assert all(mark in everywhere for mark in last.values()), (last, everywhere)
    finally:
        os.replace = kept
        sites.close()


def test_two_servers_on_one_folder_lose_nothing(folder: Path, tmp_path: Path) -> None:
    """Each with data of its own, both at once: what each acknowledged last is in the folder, or in a version of its
    own."""
    stores = [Sites(tmp_path / f"data-{number}") for number in range(2)]
    syncs = [FolderSync(store, CompiledMaps(store)) for store in stores]
    for sync in syncs:
        sync.adopt(folder)
    last: list[dict[str, str]] = [{}, {}]

    def edits(mine: int) -> None:
        for number in range(40 * TIMES):
            name, mark = "ab"[number % 3 % 2], f"server-{mine}-edit-{number}."
            record = syncs[mine].look(stores[mine].get("mill"))
            known = stores[mine].contents("mill")[name].text
            with suppress(Conflict):  # it was said that the text is another by now
                written(syncs[mine], stores[mine], record, name, mark, known)
                last[mine][name] = mark

    with ThreadPoolExecutor(2) as both:
        list(both.map(edits, (0, 1)))
    for sync, store in zip(syncs, stores, strict=True):
        sync.look(store.get("mill"))
    for mine, store in enumerate(stores):
        everywhere = everything(store, "mill", folder)
        assert last[mine] and all(mark in everywhere for mark in last[mine].values()), (last[mine], everywhere)
        store.close()


def _no_room(*_: object, **__: object) -> None:
    raise OSError(28, "No space left on device")


def _written(steps: list[tuple[str, str]]) -> list[tuple[str, str]]:
    return [(step, name) for step, name in steps if step == "here" and not name.startswith("parts/")]


BAD_KEYS = ["../../x", "..", "/etc/x", "a/../../x", "a\0b", "", "a//b", "./a", "a\\..\\b", "\ud800"]


@pytest.mark.parametrize("key", BAD_KEYS)
def test_no_key_leads_out_of_a_site(sites: Sites, folder: Path, key: str) -> None:
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.adopt(folder)
    before = tree(folder.parent / "mill")
    with pytest.raises(UsageError):
        sync.change(record, lambda: sites.save("mill", MAP, record.revision, True, [("a", key)]))
    with pytest.raises(UsageError):
        written(sync, sites, record, key, "x", "")
    with pytest.raises(UsageError):
        sites.make("Other", MAP, {key: Content(f"content/{key}.md", "x")}, "")
    if key:
        with pytest.raises(UsageError):
            sync.change(record, lambda: sites.put_files("mill", {f"files/{key}": b"x"}))
    assert tree(folder) == before and set(os.listdir(folder.parent)) == {"mill", "data"}
    assert set(sites.contents("mill")) == {"a", "b"} and len(sites.all()) == 1


def test_links_are_neither_read_nor_written_through(sites: Sites, folder: Path, tmp_path: Path) -> None:
    outside = tmp_path / "outside"
    outside.mkdir()
    (outside / "secret.md").write_text("secret")
    (folder / "content/linked.md").symlink_to(outside / "secret.md")
    (folder / "content/within.md").symlink_to(folder / "content/a.md")
    (folder / "files").symlink_to(outside)
    source = read_source(folder / "site.yaml")
    assert set(source.contents) == {"a", "b"} and list(source.files) == ["parts/p.md"]
    assert sorted(finding.file for finding in source.findings) == ["content/linked.md", "content/within.md", "files"]
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.change(sync.adopt(folder), lambda: sites.put_files("mill", {"files/secret.md": b"changed"}))
    assert (outside / "secret.md").read_text() == "secret" and sorted(os.listdir(outside)) == ["secret.md"]
    problem = sync.problem(record)
    assert problem is not None and "symbolic link" in problem.message
    with pytest.raises(UsageError):
        place_in(folder, "files/secret.md")
    (folder / "site.yaml").unlink()
    (folder / "site.yaml").symlink_to(outside / "map.yaml")
    (outside / "map.yaml").write_text(MAP)
    saved(sync, sites, sync.look(record), MAP + "# typed\n")
    assert (outside / "map.yaml").read_text() == MAP and "# typed" in sites.get("mill").text
