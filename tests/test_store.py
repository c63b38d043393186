"""What is kept: states with their content, content that follows its pages, sites of folders."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

import pytest

from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Content
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.folder_sync import FolderSync, sites_in
from basilica.store.errors import UsageError
from basilica.store.folders import read_source, write_atomically
from basilica.store.records import Conflict, NotFound
from basilica.store.sites import Sites

MAP = "site: {name: Mill}\npages:\n  home: {path: /}\n  a: A\n  b: B\n"


def page(key: str, text: str) -> Content:
    return Content(f"content/{key}.md", text)


@pytest.fixture
def sites(tmp_path: Path) -> Iterator[Sites]:
    store = Sites(tmp_path / "data")
    yield store
    store.close()


def texts(sites: Sites, slug: str = "mill") -> dict[str, str]:
    return {key: content.text for key, content in sites.contents(slug).items()}


def test_a_kept_state_has_its_content_and_is_never_lost(sites: Sites) -> None:
    made = sites.make("Mill", MAP, {"a": page("a", "One")}, "First")
    assert made.is_saved
    assert not sites.write("mill", "a", "Two", "One").is_saved
    sites.save("mill", MAP + "# more\n", 1, True)
    first = sites.versions("mill")[0]
    back = sites.restore("mill", first.id, 2, True)
    assert (back.text, texts(sites), back.is_saved) == (MAP, {"a": "One"}, True)
    notes = [state.note for state in sites.versions("mill")]
    assert notes == ["Back to: First", "Kept before going back", "First"]
    kept = sites.version("mill", sites.versions("mill")[1].id)
    assert (kept.text, kept.contents["a"].text) == (MAP + "# more\n", "Two")
    with pytest.raises(Conflict):
        sites.restore("mill", first.id, 2, True)
    with pytest.raises(NotFound):
        sites.version("mill", 999)


def test_content_follows_its_page_aside_and_back(sites: Sites) -> None:
    sites.make("Mill", MAP, {"a": page("a", "A"), "b": page("b", "B")}, "")
    sites.save("mill", MAP, 1, True, [("a", "b"), ("b", "a")])  # they change places
    assert texts(sites) == {"a": "B", "b": "A"}
    assert {c.name for c in sites.contents("mill").values()} == {"content/a.md", "content/b.md"}
    sites.save("mill", MAP, 2, True, [("a", None), ("b", "c/d")])
    assert texts(sites) == {"c/d": "A"}
    sites.save("mill", MAP, 3, True, [("c/d", "b"), (None, "a")])
    assert texts(sites) == {"a": "B", "b": "A"}
    sites.save("mill", MAP, 4, True, [("a", None)])
    sites.write("mill", "a", "New", "")
    sites.save("mill", MAP, 5, True, [(None, "a")])  # what was written since stays
    assert texts(sites) == {"a": "New", "b": "A"}


def test_a_site_is_deleted_only_from_aside_and_leaves_nothing(sites: Sites) -> None:
    sites.make("Mill", MAP, {"a": page("a", "Only here")}, "")
    copy = sites.duplicate("mill", "Mill")
    assert copy.slug == "mill-2"
    with pytest.raises(NotFound):
        sites.delete("mill")
    sites.archive("mill", True)
    assert [site.slug for site in sites.all()] == ["mill-2"]
    sites.delete("mill")
    assert sites.all(archived=True) == []
    assert sites.version("mill-2", sites.versions("mill-2")[0].id).contents["a"].text == "Only here"


def folder_of(tmp_path: Path) -> Path:
    folder = tmp_path / "mill"
    (folder / "content").mkdir(parents=True)
    (folder / "site.yaml").write_text(MAP)
    (folder / "content" / "a.md").write_text("A\n")
    return folder


def test_a_folder_and_its_site_stay_the_same(sites: Sites, tmp_path: Path) -> None:
    folder = folder_of(tmp_path)
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.adopt(sites_in(folder)[0])
    assert (record.text, texts(sites)) == (MAP, {"a": "A\n"})
    (folder / "site.yaml").write_text(MAP + "# outside\n")
    os.utime(folder / "site.yaml", ns=(1, 1))
    record = sync.look(record)
    assert record.text.endswith("# outside\n")
    saved = sync.change(
        record,
        lambda: sites.save(
            record.slug, record.text + "# here\n", record.revision, True, [("a", "b")], lambda *both: both
        ),
    )
    assert (folder / "site.yaml").read_text() == saved.text == MAP + "# outside\n# here\n"
    assert not (folder / "content/a.md").exists()
    assert (folder / "content/b.md").read_text() == "A\n"
    assert FolderSync(sites, CompiledMaps(sites)).adopt(sites_in(tmp_path)[0]).slug == record.slug


def test_where_both_changed_neither_is_lost(sites: Sites, tmp_path: Path) -> None:
    folder = folder_of(tmp_path)
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.adopt(folder)
    (folder / "site.yaml").write_text(MAP + "# theirs, longer\n")
    with pytest.raises(Conflict) as stale:
        sync.change(record, lambda: sites.save("mill", MAP + "# mine\n", record.revision, True, (), lambda *both: both))
    assert stale.value.current.text == MAP + "# theirs, longer\n"
    assert (folder / "site.yaml").read_text() == MAP + "# theirs, longer\n"
    # The application was stopped between saving and writing, and the folder changed meanwhile.
    sites.save("mill", MAP + "# cut off\n", stale.value.current.revision, True)
    (folder / "site.yaml").write_text(MAP + "# theirs again\n")
    assert FolderSync(sites, CompiledMaps(sites)).look(sites.get("mill")).text == MAP + "# theirs again\n"
    assert MAP + "# cut off\n" in [sites.version("mill", version.id).text for version in sites.versions("mill")]


def test_a_folder_that_cannot_be_read_leaves_the_site_as_it_is(sites: Sites, tmp_path: Path) -> None:
    folder = folder_of(tmp_path)
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.adopt(folder)
    (folder / "site.yaml").write_bytes(b"site: {name: caf\xe9}\n")
    assert sync.look(record).text == MAP
    (folder / "site.yaml").unlink()
    assert sync.look(record).text == MAP
    with pytest.raises(UsageError, match=r"no site\.yaml"):
        sites_in(folder)


def test_a_file_is_written_whole_or_not_at_all(tmp_path: Path) -> None:
    target = tmp_path / "file"
    target.write_text("old")
    target.chmod(0o640)
    write_atomically(target, b"new")
    assert (target.read_text(), target.stat().st_mode & 0o777) == ("new", 0o640)
    (tmp_path / "folder" / "inside").mkdir(parents=True)
    with pytest.raises(UsageError, match="cannot be written"):
        write_atomically(tmp_path / "folder", b"new")
    assert sorted(path.name for path in tmp_path.iterdir()) == ["file", "folder"]


def test_files_are_kept_with_states_go_with_folders_and_leave_nothing(sites: Sites, tmp_path: Path) -> None:
    made = sites.make("Mill", MAP, {}, "", files=Files({"files/a.png": b"one", "parts/p.md": b"[x](page:a)"}))
    first = sites.versions("mill")[0].id
    changed = sites.put_files("mill", {"files/a.png": b"two"}, Files({"x": b"one"}).sum("x"))
    assert made.is_saved and not changed.is_saved
    with pytest.raises(Conflict):
        sites.put_files("mill", {"files/a.png": b"three"}, "")
    sites.save(
        "mill", MAP, 1, True, [("a", "b")], lambda contents, files: (contents, Files({**files, "parts/p.md": b""}))
    )
    assert sites.files("mill") == Files({"files/a.png": b"two", "parts/p.md": b""})
    sites.restore("mill", first, sites.get("mill").revision, True)
    assert sites.files("mill")["files/a.png"] == b"one"
    copy = sites.duplicate("mill", "Copy")
    sites.archive("mill", True)
    sites.delete("mill")
    assert sites.files(copy.slug)["files/a.png"] == b"one"

    folder = folder_of(tmp_path)
    for name, data in {
        "files/b.css": b"p{}",
        "files/.hidden": b"",
        "page-layouts/odd name.html": b"",
        "other/x.md": b"",
    }.items():
        (folder / name).parent.mkdir(exist_ok=True)
        (folder / name).write_bytes(data)
    (folder / "files" / "out.css").symlink_to("/etc/hostname")
    source = read_source(folder / "site.yaml")
    assert [*source.files] == ["files/b.css"]
    assert [(finding.code, finding.file) for finding in source.findings] == [
        ("file-unread", "files/out.css"),
        ("file-unread", "page-layouts/odd name.html"),
    ]
    sync = FolderSync(sites, CompiledMaps(sites))
    record = sync.adopt(folder)
    sync.change(record, lambda: sites.put_files("mill", {"parts/new.md": b"New"}, ""))
    sync.change(record, lambda: sites.put_files("mill", {"files/b.css": None}))
    assert (folder / "parts/new.md").read_bytes() == b"New" and not (folder / "files/b.css").exists()
    (folder / "parts/new.md").write_bytes(b"Newer")
    assert sites.files(sync.look(record).slug)["parts/new.md"] == b"Newer"
