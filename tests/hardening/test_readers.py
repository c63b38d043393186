"""Whatever comes from outside is read without an error: what fuzzing once found, and mutations of it; paths and keys
that a map makes never lead out of a folder or an archive."""

from __future__ import annotations

import io
import zipfile
from pathlib import PurePosixPath, PureWindowsPath

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.outputs.archive import zip_of
from basilica.core.outputs.static_site import Renderer
from tests.hardening import TIMES
from tests.hardening.readers import READERS, SEEDS

CASES = [(reader, path) for reader in READERS for path in sorted((SEEDS / reader).iterdir())]
PIECES = (
    b"<",
    b">",
    b'"',
    b"'",
    b"\0",
    b"\xff",
    b"&#0;",
    b"{",
    b"}}",
    b"[",
    b": ",
    b"\n",
    b"\r",
    b"  ",
    b"\t",
    b"---\n",
)


@pytest.mark.parametrize(("reader", "path"), CASES, ids=[f"{reader}: {path.name}" for reader, path in CASES])
def test_what_was_found_is_read(reader: str, path: object) -> None:
    READERS[reader](path.read_bytes())  # type: ignore[attr-defined]


@settings(max_examples=120 * TIMES)
@given(case=st.sampled_from(CASES), data=st.data())
def test_mutations_of_it_are_read(case: tuple[str, object], data: st.DataObject) -> None:
    reader, path = case
    text = path.read_bytes()  # type: ignore[attr-defined]
    for _ in range(data.draw(st.integers(1, 4))):
        start = data.draw(st.integers(0, len(text)))
        end = data.draw(st.integers(start, min(start + 20, len(text))))
        new = data.draw(st.one_of(st.sampled_from(PIECES), st.just(text[start:end] * 2), st.binary(max_size=4)))
        text = text[:start] + new + text[end:]
    READERS[reader](text)


ODD = st.lists(
    st.sampled_from([*"./\\a~ é?#:\t", "..", "//", "%2e", "%2F", "C:", "con", "a.htm"]),
    max_size=6,
).map("".join)


@settings(max_examples=150 * TIMES)
@given(paths=st.lists(ODD, min_size=1, max_size=3), urls=st.sampled_from(["folders", "files", "bare"]))
def test_no_file_of_a_site_leads_out_of_a_folder_or_an_archive(paths: list[str], urls: str) -> None:
    lines = [f"  p{n}: {{path: {path!r}, was: [{'/' + path!r}]}}" for n, path in enumerate(paths) if "'" not in path]
    text = f"site: {{name: Mill, urls: {urls}}}\npages:\n  home: {{path: /}}\n" + "\n".join(lines) + "\n"
    compiled = compile_map(text)
    if compiled.plan is None or compiled.stops:
        return
    files = list(Renderer(compiled.plan, {}).files())
    archive = zipfile.ZipFile(io.BytesIO(zip_of(files, "mill")))
    for name in [*(file.path for file in files), *archive.namelist()]:
        for kind in (PurePosixPath, PureWindowsPath):
            path = kind(name)
            assert not path.is_absolute() and not path.drive and ".." not in path.parts, name
