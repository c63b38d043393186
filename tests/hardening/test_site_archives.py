"""Archives of sites that somebody sends: what leads out of them, is locked, or would fill the memory is refused."""

from __future__ import annotations

import io
import os
import zipfile
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.rules import limits
from basilica.core.shared.output_file import File
from basilica.services.site_imports import import_site, write_import
from basilica.store.errors import UsageError
from basilica.store.site_archives import read_archive, read_site

PAGE = b"<html><title>T</title><body><p>x"


def packed(files: dict[str, bytes], compression: int = zipfile.ZIP_DEFLATED) -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", compression) as archive:
        for name, data in files.items():
            archive.writestr(zipfile.ZipInfo(name), data, compression)
    return target.getvalue()


@pytest.mark.parametrize("name", ["../x.html", "/x.html", "a/../../x.html", "a\\..\\x.html", "C:/x.html", "a//x.html"])
def test_a_name_that_leads_out_is_refused(name: str) -> None:
    with pytest.raises(UsageError, match="leads out of it"):
        read_archive(packed({"index.html": PAGE, name: PAGE}))


def test_what_would_fill_the_memory_is_not_unpacked() -> None:
    with pytest.raises(UsageError, match=r"far larger|more than"):
        read_archive(packed({"index.html": PAGE, "zero.bin": b"\0" * (limits.FILE_BYTES + 1)}))
    many = packed({f"{number}.txt": b"" for number in range(limits.IMPORTED_FILES + 1)})
    with pytest.raises(UsageError, match="more than"):
        read_archive(many)


def test_what_says_that_it_is_small_is_read_no_further() -> None:
    """The size in the archive's list is a claim: here it is forged."""
    data = bytearray(packed({"index.html": PAGE, "zero.bin": b"\0" * (2 * limits.FILE_BYTES)}))
    at = data.rindex(b"PK\x01\x02")
    data[at + 24 : at + 28] = (10).to_bytes(4, "little")
    with pytest.raises(UsageError):
        read_archive(bytes(data))


def test_a_locked_archive_is_said() -> None:
    data = bytearray(packed({"index.html": PAGE}))
    for sign, offset in ((b"PK\x03\x04", 6), (b"PK\x01\x02", 8)):
        data[data.index(sign) + offset] |= 1
    with pytest.raises(UsageError, match="password"):
        read_archive(bytes(data))


def test_links_are_not_followed(tmp_path: Path) -> None:
    (tmp_path / "secret").write_text("secret")
    site = tmp_path / "site"
    site.mkdir()
    (site / "index.html").write_bytes(PAGE)
    os.symlink(tmp_path / "secret", site / "secret.txt")
    os.symlink(tmp_path, site / "out")
    assert [file.path for file in read_site(site)] == ["index.html"]
    link = zipfile.ZipInfo("secret.txt")
    link.external_attr = 0o120777 << 16
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as archive:
        archive.writestr("index.html", PAGE)
        archive.writestr(link, str(tmp_path / "secret"))
    assert [file.path for file in read_archive(target.getvalue())] == ["index.html"]


@given(st.binary(max_size=300))
def test_any_bytes_are_read_or_refused(data: bytes) -> None:
    for tried in (data, packed({"index.html": PAGE})[: len(data)] + data):
        try:
            read_archive(tried)
        except UsageError:
            continue


TAGS = [
    *("<ul>", "<li>", "<a href=b.html>", "</a>", "</ul>", "<table>", "<td>", "</b>", "<script>", "<!--", "<p class=x>"),
    *("text", "<title>A | B", "<meta http-equiv=refresh content='0;url=a.html'>"),
]
PAGES = st.lists(st.lists(st.sampled_from(TAGS), max_size=25), min_size=1, max_size=6)


@given(PAGES, st.binary(max_size=20))
def test_any_pages_become_a_map_that_can_be_built(pages: list[list[str]], noise: bytes) -> None:
    """Whatever the pages say, the map is read without errors, and every address is kept or its loss is said."""
    names = ["index.html", "a.html", "b.htm", "Über uns.html", "a/b.html", "A.html"]
    files = tuple(
        File(name, b"<html><body>" + "".join(pieces).encode() + noise)
        for name, pieces in zip(names, pages, strict=False)
    )
    try:
        found = import_site(files)
    except UsageError:
        return
    assert found.build.files, [finding.message for finding in found.build.findings if finding.stops]
    lost = [answer.address for answer in found.answers if answer.answer == "nowhere"]
    assert not lost or any("elsewhere it would be one" in note for note in found.moved.notes)


def test_nothing_is_written_over(tmp_path: Path) -> None:
    found = import_site((File("index.html", PAGE),))
    (tmp_path / "x").write_text("mine")
    with pytest.raises(UsageError, match="not empty"):
        write_import(found, tmp_path)
    assert (tmp_path / "x").read_text() == "mine" and len(list(tmp_path.iterdir())) == 1
