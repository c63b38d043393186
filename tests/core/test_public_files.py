"""Files that keep their names: as they go out, in menus and texts, beside pages and old addresses."""

from __future__ import annotations

import zipfile
from io import BytesIO
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.build import build
from basilica.core.map.map_files import Files, is_file_name
from basilica.core.outputs.archive import zip_of
from basilica.core.outputs.compression import with_copies
from basilica.core.outputs.static_site import Renderer
from basilica.core.shared.output_file import File
from basilica.store.folders import read_source
from tests.core.help import HOME, compiled, markdown, planned

MAP = HOME + "pages: {home: {path: /}, tides: Tides}\nmenus: {main: [home, {file: 'times 1.pdf', icon: clock}]}\n"
FILES = {
    "public/times 1.pdf": b"%PDF \x00\xff",
    "public/robots.txt": b"User-agent: *\nDisallow:\n",
    "public/.well-known/security.txt": b"Contact: mailto:trust@mill.example\r\n",
    "public/plan/index.html": b"<h2 id=hall>Hall",
}


def test_they_go_out_as_they_are_and_links_to_them_are_checked() -> None:
    text = "[p](file:times%201.pdf) [q](/plan/#hall) [r](/plan/#nave) [s](/times.pdf) [t](file:none.pdf)"
    made = build(compiled(MAP, Files(FILES)), markdown(tides=text))
    files = {file.path: file.data for file in made.files}
    assert {name: files[name.removeprefix("public/")] for name in FILES} == FILES
    page = files["tides/index.html"].decode()
    assert page.count('href="/times%201.pdf"') == 2  # in the menu, by its name in words, and in the text
    assert ">Times 1</a>" in page
    assert {(f.code, f.message.split("`")[1]) for f in made.findings if f.stops} == {
        ("unknown-file", "none.pdf"),
        ("dead-link", "/times.pdf"),
        ("dead-anchor", "/plan/#nave"),
    }
    assert not [f for f in made.findings if f.built.startswith("plan/")]  # what is handed out as it is, is not judged
    assert zipfile.ZipFile(BytesIO(zip_of(made.files, "out"))).read("out/times 1.pdf") == FILES["public/times 1.pdf"]


@pytest.mark.parametrize(
    ("name", "more", "code"),
    [
        ("tides/index.html", "", "file-clash"),
        ("TIDES", "", "file-clash"),  # a folder must stand there
        ("404.html", "", "file-clash"),
        ("index.html", "", "file-clash"),
        ("Robots.txt", "", "file-clash"),  # with robots.txt
        ("Sitemap.XML", "", "file-clash"),
        ("old.htm", "redirects: {/old.htm: tides}\n", "redirect-clash"),
        ("old/index.html", "redirects: {/old/: tides}\n", "redirect-clash"),
    ],
)
def test_none_stands_where_something_else_must(name: str, more: str, code: str) -> None:
    found = compiled(MAP + more, Files({**FILES, f"public/{name}": b"x"})).findings
    assert [finding.code for finding in found if finding.stops] == [code]
    assert name in found[-1].message or name in found[0].message


def test_own_robots_stand_in_place_of_the_made_ones() -> None:
    plain, own = planned(MAP.partition("menus")[0]), planned(MAP, Files(FILES))
    assert "robots.txt" in Renderer(plain, {}).generated
    assert [file.path for file in Renderer(own, {}).files()].count("robots.txt") == 1


@pytest.mark.parametrize("links", ["root", "document", "file", "absolute"])
def test_a_file_is_written_as_pages_are(links: str) -> None:
    plan = planned(MAP.replace("}\n", f", links: {links}}}\n", 1), Files(FILES))
    wanted = {"root": "/", "document": "../", "file": "../", "absolute": "https://mill.example/"}[links]
    assert f'href="{wanted}times%201.pdf"' in Renderer(plan, {}).page("tides").decode()


@given(st.text(max_size=20))
def test_a_name_leads_nowhere_else(name: str) -> None:
    """What may be the name of such a file stays below its folder, on every system."""
    if is_file_name(f"public/{name}"):
        pieces = name.split("/")
        assert all(piece not in ("", ".", "..", ".git") and piece == piece.rstrip(". ") for piece in pieces)
        assert not set('\0\\<>:"|?*\n') & set(name)


def test_a_folder_is_read_with_what_is_hidden_and_without_what_nobody_means(tmp_path: Path) -> None:
    (tmp_path / "site.yaml").write_text(MAP)
    for name in (*FILES, "public/.git/config", "public/a/.DS_Store", "files/.hidden"):
        (tmp_path / name).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / name).write_bytes(FILES.get(name, b"secret"))
    source = read_source(tmp_path / "site.yaml")
    assert dict(source.files) == FILES
    assert {finding.file for finding in source.findings} == {"public/.git", "public/a/.DS_Store"}


def test_an_output_holds_no_file_twice() -> None:
    data = b"x" * 400
    files = [File("a.json", data), File("a.json.gz", b"mine")]
    assert [file.path for file in with_copies(files, {"a.json", "a.json.gz"})] == ["a.json", "a.json.br", "a.json.gz"]
