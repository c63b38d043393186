"""Databases, files and lists that are not as they should be: a sentence says so, and nothing else is touched."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from werkzeug.http import parse_options_header

from basilica.core.exchange import read_list, read_table, write_list, write_table
from basilica.core.exchange.list_items import Item, ItemKind
from basilica.core.rules import limits
from basilica.store import folders
from basilica.store.errors import UsageError
from basilica.store.folders import read_source, write_atomically
from basilica.store.sites import Sites
from basilica.web.downloads import download
from tests.hardening.test_requests import application  # noqa: F401


def truncated(path: Path) -> None:
    path.write_bytes(path.read_bytes()[: path.stat().st_size // 2])


def foreign(path: Path) -> None:
    path.unlink()
    with sqlite3.connect(path) as other:
        other.execute("CREATE TABLE songs (name TEXT)")


def newer(path: Path) -> None:
    with sqlite3.connect(path) as known:
        known.execute("UPDATE alembic_version SET version_num = '9999'")


def no_database(path: Path) -> None:
    path.write_text("Dear all, this is a letter.\n" * 10)


@pytest.mark.parametrize(
    ("harm", "said"),
    [(truncated, "damaged"), (foreign, "another program"), (newer, "newer Basilica"), (no_database, "not a database")],
)
def test_a_database_that_cannot_be_used_is_said(tmp_path: Path, harm: Callable[[Path], None], said: str) -> None:
    store = Sites(tmp_path)
    for number in range(20):
        store.make(f"Mill {number}", "# a map\n" * 2000, {}, "")
    store.close()
    path = tmp_path / "basilica.sqlite"
    with sqlite3.connect(path) as whole:
        whole.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    harm(path)
    before = path.read_bytes()
    with pytest.raises(UsageError, match=said) as error:
        Sites(tmp_path)
    assert "--data" in str(error.value) and path.read_bytes() == before


def test_a_database_in_use_is_said(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    Sites(tmp_path).close()
    connect = sqlite3.connect
    monkeypatch.setattr(sqlite3, "connect", lambda *args, **named: connect(*args, **{**named, "timeout": 0}))
    other = connect(tmp_path / "basilica.sqlite", isolation_level=None)
    other.execute("PRAGMA journal_mode=DELETE")
    other.execute("BEGIN EXCLUSIVE")
    with pytest.raises(UsageError, match="in use"):
        Sites(tmp_path)
    other.close()


def test_a_file_that_never_ends_is_not_waited_for(tmp_path: Path) -> None:
    for odd in (Path("/dev/zero"), tmp_path / "pipe"):
        if odd.name == "pipe":
            import os

            os.mkfifo(odd)
        with pytest.raises(UsageError, match="is not a file"):
            read_source(odd)
    long = tmp_path / "site.yaml"
    with long.open("wb") as file:
        file.truncate(10 * limits.TEXT_BYTES)
    assert len(read_source(long).map) == limits.TEXT_BYTES + 1


def test_what_a_kill_left_beside_a_file_goes_with_the_next_write(tmp_path: Path) -> None:
    left = tmp_path / ".site.yaml.4194304-abcd.basilica-unfinished"
    left.write_text("half")
    mine = tmp_path / ".own"
    mine.write_text("mine")
    folders._swept.discard(tmp_path)
    write_atomically(tmp_path / "site.yaml", b"whole")
    assert sorted(path.name for path in tmp_path.iterdir()) == [".own", "site.yaml"]


LABELS = st.one_of(
    st.sampled_from(["=1+1", "'=x", "''@y", "+441632", "-5", "\ufeffHome", "\ufeff\ufeffHome", "@home", "'", "Home"]),
    st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc", "Zl", "Zp", "Zs")), min_size=1, max_size=6),
)


@given(st.lists(LABELS, min_size=1, max_size=5, unique_by=str.casefold))
def test_a_table_holds_no_formula_and_comes_back(labels: list[str]) -> None:
    items = [Item(ItemKind.PAGE, label) for label in labels]
    text = write_table(items)
    cells = [cell for row in text.splitlines()[1:] for cell in row.split(",")]
    assert not any(cell.startswith(("=", "+", "-", "@")) for cell in cells)
    assert [item.label for item in read_table(text)[0]] == labels


@pytest.mark.parametrize("label", ["\ufeffHome", "\ufeff\ufeffHome", "Home"])
def test_a_list_with_byte_order_marks_comes_back_as_it_was(label: str) -> None:
    items = (Item(ItemKind.PAGE, label), Item(ItemKind.PAGE, "Tides"))
    assert [item.label for item in read_list(write_list(items))[0]] == [label, "Tides"]


@pytest.mark.parametrize("name", ["mill.jpg", "café.pdf", '水車 "neu".png', "a\nb.txt", "x; filename=evil.html"])
def test_a_download_has_its_own_name(name: str, application: object) -> None:  # noqa: F811
    with application.test_request_context():  # type: ignore[attr-defined]
        answer = download(b"x", name)
    kind, said = parse_options_header(answer.headers["Content-Disposition"])
    assert kind == "attachment" and said["filename"] == name.replace("\n", "_")
    assert answer.mimetype == "application/octet-stream"
