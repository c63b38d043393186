"""The database: brought up to date from every schema there was, read while it is written, closed to others."""

from __future__ import annotations

import hashlib
import json
import sqlite3
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import Engine, create_engine, delete, event, update
from sqlalchemy.exc import IntegrityError, StatementError

from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Content
from basilica.store.blobs import digest
from basilica.store.database import Database, back_up
from basilica.store.errors import UsageError
from basilica.store.publishes import KEPT_PUBLISHES, NewPublish, Publishes
from basilica.store.records import NotFound
from basilica.store.session_key import session_key
from basilica.store.sites import Sites
from basilica.store.tables import BlobRow, SiteRow, Table, VersionRow

SCHEMAS = ("0001", "0002", "0003", "0004", "0005", "0006", "0007")
NEWER = {
    "kept_state": "version",
    "good_text": "last_valid_text",
    "contents_mark": "contents_digest",
    "files_mark": "files_digest",
    "aside_at": "archived_at",
    "kept_at": "saved_at",
    "reach": "impact",
    "aside": "archived",
}
"""What columns and tables were called up to 0003, and from 0004 on."""
MAP, OLD_MAP = "pages: {home: {path: /}}\n", "pages: {home: {path: /old}}\n"
SHA = {text: hashlib.sha256(text.encode()).hexdigest() for text in ("Höme", "picture", OLD_MAP)}


def rows_of(schema: str) -> list[tuple[str, dict[str, object]]]:
    """One row or two of every table that a schema has, in its own words."""
    layouts = "layouts" if schema < "0004" else "page-layouts"
    rows: list[tuple[str, dict[str, object]]] = [
        ("site", {"id": 1, "slug": "mill", "name": "Mill", "made_at": "2026-01-01 08:00:00", "text": MAP}),
        ("kept_state", {"id": 7, "site_id": 1, "text": OLD_MAP, "note": "First", "kept_at": "2026-01-02 08:30:00"}),
        ("content", {"id": 1, "site_id": 1, "key": "home", "name": "content/home.md", "text": "Here"}),
    ]
    rows[0][1].update(good_text=OLD_MAP, revision=3, saved_at="2026-01-03 08:00:00")
    if schema >= "0002":
        rows[0][1].update(contents_mark="c", aside_at="2026-01-04 08:00:00", folder="/mill")
        rows[0][1].update({"synced": MAP} if schema < "0005" else {"folder_digests": '{"site.yaml": "x"}'})
        listed = json.dumps({"home": ["content/home.md", SHA["Höme"]]})
        rows[1][1].update(contents=listed, reach="All", contents_mark="c")
        gone = {"id": 2, "site_id": 1, "key": "gone", "name": "content/gone.md", "text": "Gone", "aside": 1}
        rows.append(("content", gone))
        text = "Höme" if schema < "0006" else "Höme".encode()
        rows.append(("blob", {"sha": SHA["Höme"], "text" if schema < "0006" else "data": text}))
    if schema >= "0003":
        rows[0][1].update(files_mark="f")
        rows[1][1].update(files=json.dumps({f"{layouts}/wide.html": SHA["picture"]}), files_mark="f")
        rows.append(("file_data" if schema < "0006" else "blob", {"sha": SHA["picture"], "data": b"picture"}))
        rows.append(("file", {"id": 1, "site_id": 1, "name": f"{layouts}/wide.html", "sha": SHA["picture"]}))
    if schema >= "0005":
        rows[0][1].update(edited_here=1)
    if schema >= "0006":
        rows[0][1].update(map_digest=digest(MAP))
        rows[1][1].update(map_digest=digest(OLD_MAP))
        rows[2][1].update(archived=0)
    if schema >= "0004":
        rows = [(NEWER.get(table, table), {NEWER.get(n, n): v for n, v in row.items()}) for table, row in rows]
    return rows


def fill(path: Path, schema: str) -> None:
    Database(path, schema).close()
    with sqlite3.connect(path) as old:
        for table, row in rows_of(schema):
            marks = ", ".join("?" * len(row))
            old.execute(f"INSERT INTO {table} ({', '.join(row)}) VALUES ({marks})", list(row.values()))


@pytest.mark.parametrize("schema", SCHEMAS)
def test_a_database_of_every_schema_opens_with_everything_in_it(tmp_path: Path, schema: str) -> None:
    fill(tmp_path / "basilica.sqlite", schema)
    sites = Sites(tmp_path)
    (site,) = sites.all(archived=schema >= "0002")
    assert (site.slug, site.name, site.revision, site.is_saved) == ("mill", "Mill", 3, False)
    assert site.last_version_at is not None and site.last_version_at.isoformat() == "2026-01-02T08:30:00+00:00"
    assert (sites.get("mill").text, sites.get("mill").last_valid_text) == (MAP, OLD_MAP)
    (listed,) = sites.versions("mill")
    version = sites.version("mill", 7)
    assert (listed.id, listed.note, version.text) == (7, "First", OLD_MAP)
    assert {key: content.text for key, content in sites.contents("mill").items()} == {"home": "Here"}
    if schema >= "0002":
        assert (listed.impact, version.contents["home"].text, site.folder) == ("All", "Höme", "/mill")
        sites.save("mill", MAP, 3, True, [(None, "gone")])
        assert sites.contents("mill")["gone"].text == "Gone"
    if schema >= "0003":
        assert dict(version.files) == dict(sites.files("mill")) == {"page-layouts/wide.html": b"picture"}
    sites.archive("mill", True)
    sites.delete("mill")
    sites.collect(datetime.now(UTC) + timedelta(days=2))
    sites.close()
    with sqlite3.connect(tmp_path / "basilica.sqlite") as now:
        left = [now.execute(f"SELECT count(*) FROM {table}").fetchone()[0] for table in Table.metadata.tables]
    assert left == [0] * len(left)


def test_the_migrations_make_the_tables_that_the_code_describes(tmp_path: Path) -> None:
    Database(tmp_path / "basilica.sqlite").close()
    with create_engine(f"sqlite:///{tmp_path}/basilica.sqlite").connect() as connection:
        # Names of constraints differ, which SQLite does not know apart; tables, columns and their kinds do not.
        found = compare_metadata(MigrationContext.configure(connection), Table.metadata)
    assert [one for one in found if one[0] not in ("add_constraint", "remove_constraint")] == []


def test_a_migration_that_would_lose_what_refers_to_something_is_not_done(tmp_path: Path) -> None:
    path = tmp_path / "basilica.sqlite"
    fill(path, "0005")
    with sqlite3.connect(path) as old:
        old.execute("DELETE FROM site")
    with pytest.raises(UsageError, match="refer to nothing"):
        Sites(tmp_path)
    with sqlite3.connect(path) as still:
        assert still.execute("SELECT version_num FROM alembic_version").fetchone() == ("0005",)
        assert still.execute("SELECT count(*) FROM version").fetchone() == (1,)


def test_readers_wait_for_nobody(tmp_path: Path) -> None:
    """While somebody writes, all that reads is answered, as things were before."""
    sites = Sites(tmp_path)
    sites.make("Mill", MAP, {}, "First", files=Files({"files/a.txt": b"A"}))
    writer = sqlite3.connect(tmp_path / "basilica.sqlite", isolation_level=None)
    writer.execute("BEGIN IMMEDIATE")
    writer.execute("UPDATE site SET name = 'Other'")
    assert [site.name for site in sites.all()] == ["Mill"] and sites.all(archived=True) == []
    version = sites.versions("mill")[0]
    for read in (sites.get, sites.summary, sites.contents, sites.files, sites.digests_of, sites.edited_here):
        read("mill")
    assert sites.version("mill", version.id).text == MAP and sites.of_folder("/none") is None
    writer.execute("COMMIT")
    assert [site.name for site in sites.all()] == ["Other"]
    writer.close()


@pytest.mark.long
def test_what_lists_ask_for_is_one_query_and_no_text(tmp_path: Path) -> None:
    sites = Sites(tmp_path)
    for number in range(4):
        sites.make(f"Site {number}", MAP, {}, "First")
    asked: list[str] = []

    def note(_connection: object, _cursor: object, statement: str, *_: object) -> None:
        asked.append(statement)

    event.listen(Engine, "before_cursor_execute", note)
    try:
        assert len(sites.all()) == 4 and len(sites.versions("site-1")) == 1
    finally:
        event.remove(Engine, "before_cursor_execute", note)
    queries = [statement for statement in asked if not statement.startswith("BEGIN")]
    assert len(queries) == 2 and not any(".text" in query for query in queries)
    with pytest.raises(NotFound):
        sites.versions("none")


def test_times_have_a_zone(tmp_path: Path) -> None:
    sites = Sites(tmp_path)
    made = sites.make("Mill", MAP, {}, "First")
    assert made.last_version_at is not None and made.last_version_at.utcoffset() == timedelta(0)
    with pytest.raises(StatementError, match="without a zone"), sites._write() as session:
        session.add(VersionRow(site_id=1, text="", note="", saved_at=datetime(2026, 1, 1)))


def test_what_is_kept_is_open_to_its_owner_alone(tmp_path: Path) -> None:
    Sites(tmp_path / "data").make("Mill", MAP, {}, "First")
    key = session_key(tmp_path / "data")
    modes = {path.name: path.stat().st_mode & 0o777 for path in (tmp_path / "data").iterdir()}
    assert modes["basilica.sqlite"] == modes["session-key"] == 0o600 and set(modes.values()) == {0o600}
    assert (tmp_path / "data").stat().st_mode & 0o777 == 0o700
    assert session_key(tmp_path / "data") == key and len(key) >= 64
    (tmp_path / "data" / "session-key").write_text("short")
    assert session_key(tmp_path / "data") not in ("short", key)


def test_what_nothing_refers_to_is_collected_after_a_day_and_nothing_else(tmp_path: Path) -> None:
    sites = Sites(tmp_path)
    sites.make("Mill", MAP, {"home": Content("content/home.md", "Text")}, "First", files=Files({"files/a": b"first"}))
    sites.put_files("mill", {"files/a": b"between versions"})
    sites.put_files("mill", {"files/a": b"now"})
    publishes, new = Publishes(sites.database), NewPublish("live", "host", "1", None, "", "", "")
    for number in range(KEPT_PUBLISHES + 1):
        publishes.add("mill", new, {"index.html": f"page {number}".encode()})

    def kept() -> set[bytes]:
        with sqlite3.connect(tmp_path / "basilica.sqlite") as database:
            return {data for (data,) in database.execute("SELECT data FROM blob")}

    everything = kept()
    start = datetime.now(UTC)
    sites.collect(start + timedelta(hours=23))
    assert kept() == everything
    sites.put_files("mill", {"files/b": b"between versions"})  # used again, within the day
    sites.collect(start + timedelta(hours=25))
    assert everything - kept() == {b"page 0"}
    sites.put_files("mill", {"files/b": None})
    sites.collect(start + timedelta(days=2))
    assert b"between versions" in kept()  # a day from when it was found, not from when it came
    sites.collect(start + timedelta(days=4))
    assert everything - kept() == {b"page 0", b"between versions"}
    assert dict(sites.version("mill", sites.versions("mill")[0].id).files) == {"files/a": b"first"}
    sites.archive("mill", True)
    sites.delete("mill")
    sites.collect(start + timedelta(days=9))
    assert kept() == set()
    sites.close()


def test_nobody_deletes_a_blob_that_is_referred_to(tmp_path: Path) -> None:
    sites = Sites(tmp_path)
    sites.make("Mill", MAP, {}, "First", files=Files({"files/a": b"first"}))
    sites.put_files("mill", {"files/a": None})
    with pytest.raises(IntegrityError), sites.database.write() as session:
        session.execute(delete(BlobRow))
    sites.close()


def test_a_backup_is_one_complete_file_while_others_write(tmp_path: Path) -> None:
    sites, copy = Sites(tmp_path / "data"), tmp_path / "copy" / "basilica.sqlite"
    sites.make("Mill", MAP, {}, "First", files=Files({"files/a": b"first"}))
    (tmp_path / "copy").mkdir()
    copy.write_bytes(b"an older copy")
    with sites.database.write() as session:
        session.execute(update(SiteRow).values(name="Half done"))
        back_up(tmp_path / "data" / "basilica.sqlite", copy)
    assert [path.name for path in copy.parent.iterdir()] == [copy.name] and copy.stat().st_mode & 0o777 == 0o600
    again = Sites(copy.parent)
    assert again.get("mill").name == "Mill" and dict(again.files("mill")) == {"files/a": b"first"}
    again.close()
    sites.close()
    assert [path.name for path in (tmp_path / "data").iterdir()] == ["basilica.sqlite"]
    with pytest.raises(UsageError, match="the database itself"):
        back_up(tmp_path / "data" / "basilica.sqlite", tmp_path / "data" / "basilica.sqlite")
    with pytest.raises(UsageError, match="Nothing was written"):
        back_up(tmp_path / "data" / "basilica.sqlite", tmp_path / "data")
    assert [path.name for path in (tmp_path / "data").iterdir()] == ["basilica.sqlite"]
