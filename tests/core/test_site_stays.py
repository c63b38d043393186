"""Sites that stay: marks are set around what pages share, and what is set in there is what was there."""

from __future__ import annotations

import shutil
import subprocess
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.exchange.site_import import analyse
from basilica.core.outputs.inlay import outside_marks, without_marks
from basilica.core.shared.output_file import File
from basilica.services import site_stays
from basilica.services.inlays import FolderInlay, files_with, names_below
from basilica.services.site_stays import BEFORE, PROOF, SiteStay, stay_site, undo_stay, write_stay
from basilica.store.errors import UsageError
from basilica.store.folders import read_source
from basilica.store.site_archives import read_site
from tests.core.test_inlay import ODD
from tests.core.test_site_import import DEMO, made_site


def stays(files: tuple[File, ...], left: tuple[str, ...] = ()) -> SiteStay:
    site = analyse(files)
    assert site is not None
    return stay_site(site, files, left)


@pytest.mark.long
@settings(max_examples=300)
@given(st.integers(0, 10_000_000))
def test_sound_pages_get_marks_alone_and_faults_are_mended(seed: int) -> None:
    made = made_site(seed)
    files = tuple(made.files)
    found = stays(files)
    assert not found.compiled.stops and found.stayed.notes == ()
    marked = {file for file, fault in made.faults if fault != "style sheet missing"}
    assert {one.file for one in found.changes} == set(made.pages)
    assert {one.file for one in found.mended} == marked
    lacking = {file for file, fault in made.faults if fault == "missing"}
    for one in found.changes:
        assert without_marks(one.marked) == one.before
        if one.file not in lacking:
            assert outside_marks(one.after) == outside_marks(one.marked)
    after = {one.file: one.after for one in found.changes}
    again = analyse([File(file.path, after.get(file.path, file.data)) for file in files])
    assert again is not None
    assert {str(one.kind) for one in again.drift} <= {"style sheet missing"}


@pytest.mark.long
def test_the_demo_stays_and_is_proved(tmp_path: Path) -> None:
    pages, out = tmp_path / "pages", tmp_path / "map"
    shutil.copytree(DEMO / "pages", pages)
    found = stays(read_site(pages))
    assert {one.file: one.mended for one in found.mended} == {
        "contact.htm": ("entries main",),
        "links.htm": ("entries main",),
        "records.htm": ("entries main", "part foot"),
        "tower.html": ("entries main",),
        "events/outing 2024.htm": ("entries main",),
    }
    write_stay(found, pages, out)
    compiled = compile_map(
        read_source(out / "site.yaml").map, files_with(read_source(out / "site.yaml").files, names_below(pages))
    )
    assert compiled.plan is not None and [one.code for one in compiled.findings] == ["no-base"]
    setting = FolderInlay(compiled.plan, {}, pages)
    report = setting.run(write=True)
    assert (report.changed, report.problems, report.unmarked, report.absent, report.strangers) == ((), (), (), (), ())
    # The proof holds for a general tool: POSIX `patch` takes every byte back, and puts it on again.
    changed = {one.file: (pages / one.file).read_bytes() for one in found.changes}
    for flags, wanted in ((("-R",), {one.file: one.before for one in found.changes}), ((), changed)):
        subprocess.run(
            ["patch", "-p1", "--binary", "-s", "-i", str(out / PROOF), *flags], cwd=pages, check=True, timeout=60
        )
        assert {file: (pages / file).read_bytes() for file in wanted} == wanted
    # A page that was changed since keeps what is new in it, and loses the marks alone.
    (pages / "about.htm").write_bytes(changed["about.htm"].replace(b"A band of fourteen", b"A band of fifteen"))
    said = dict(undo_stay(out / "site.yaml", pages))
    assert said.pop("about.htm") == "was changed since, so its marks alone were taken out"
    assert set(said.values()) == {"is as it was"} and len(said) == 17
    assert b"A band of fifteen" in (pages / "about.htm").read_bytes()
    shutil.copy(DEMO / "pages/about.htm", pages / "about.htm")
    assert {file.path: file.data for file in read_site(pages)} == {
        file.path: file.data for file in read_site(DEMO / "pages")
    }
    with pytest.raises(UsageError, match="is among the pages"):
        write_stay(found, pages, pages / "map")
    (out / BEFORE).unlink()
    with pytest.raises(UsageError, match="cannot be read"):
        list(undo_stay(out / "site.yaml", pages))


def test_an_exception_stays_as_it_is() -> None:
    found = stays(read_site(DEMO / "pages"), ("records.htm", "links.htm"))
    assert [one.file for one in found.mended] == ["contact.htm", "tower.html", "events/outing 2024.htm"]
    after = {one.file: one.after for one in found.changes}
    assert b"The ringers" in after["records.htm"] and b"Mondays" in after["records.htm"]
    assert b"guestbook.htm" in after["links.htm"] and b"basilica: part foot" in after["links.htm"]


def test_a_page_that_was_changed_meanwhile_stops_everything(tmp_path: Path) -> None:
    pages = tmp_path / "pages"
    shutil.copytree(DEMO / "pages", pages)
    found = stays(read_site(pages))
    (pages / "bells.htm").write_bytes(b"<title>New</title>")
    with pytest.raises(UsageError, match=r"bells\.htm was changed since it was read"):
        write_stay(found, pages, tmp_path / "map")
    assert not (tmp_path / "map").exists()
    assert (pages / "about.htm").read_bytes() == (DEMO / "pages/about.htm").read_bytes()


@pytest.mark.long
def test_a_new_page_is_made_like_another_and_only_the_menu_changes_elsewhere(tmp_path: Path) -> None:
    pages, out = tmp_path / "pages", tmp_path / "map"
    shutil.copytree(DEMO / "pages", pages)
    write_stay(stays(read_site(pages)), pages, out)
    before = {file.path: file.data for file in read_site(pages)}
    text = (out / "site.yaml").read_text()
    text = text.replace(
        "  contact:\n", "  open-day:\n    title: Open day & cake\n    path: /events/open day.htm\n  contact:\n"
    ).replace("    - contact\n", "    - open-day\n    - contact\n")
    source = read_source(out / "site.yaml")
    compiled = compile_map(text, files_with(source.files, names_below(pages)))
    assert compiled.plan is not None and not compiled.stops
    setting = FolderInlay(compiled.plan, {}, pages)
    assert setting.run(write=True).absent == ("events/open day.htm",)
    made = FolderInlay(compiled.plan, {}, pages).run(write=True, like="learn/glossary.html")
    assert [one.file for one in made.changed] == ["events/open day.htm"]
    new = (pages / "events/open day.htm").read_text("cp1252")
    assert "<title>Open day &amp; cake - Upper Thornby Bell Ringers</title>" in new
    assert "<h2>Open day &amp; cake</h2>" in new and "Rounds" not in new and "description" not in new
    assert 'href="../ringers.css"' in new and '<li class="here"><a href="open%20day.htm">' in new
    assert 'class="steps"' not in new
    changed = {name for name, data in before.items() if (pages / name).read_bytes() != data}
    assert changed == {name for name, data in before.items() if b"basilica: entries main" in data}
    refused = FolderInlay(compiled.plan, {}, pages)
    (pages / "events/open day.htm").unlink()
    assert "has no marks" in refused.run(write=True, like="ringers.htm").problems[0].problem
    assert not (pages / "events/open day.htm").exists()


MENU = (
    '<ul id="m"><li><a href="a.html">First one</a><li class=x><a href=b.html>Second &amp; third</a>',
    "<p>[<a href='a.html'>First one</a> | <a href=\"b.html\"><i>Second</i> three</a> | Words]",
    '<table><tr><td><a href="a.html">First one</a></td><td><a href="c.html#x">Third</a></td></table>',
)


@pytest.mark.long
@settings(max_examples=150, deadline=None)
@given(
    st.lists(st.lists(ODD, max_size=4), min_size=3, max_size=4),
    st.sampled_from(MENU),
    st.sampled_from(["utf-8", "utf-8-sig", "windows-1252"]),
    st.sampled_from(["\n", "\r\n"]),
)
def test_no_page_is_too_odd_to_stay(pieces: list[list[str]], menu: str, charset: str, newline: str) -> None:
    files = tuple(
        File(
            f"{name}.html",
            newline.join([f"<title>{name}</title>", *some[:2], menu, *some[2:]]).encode(charset, "xmlcharrefreplace"),
        )
        for name, some in zip("abcd", pieces, strict=False)
    )
    found = stays(files)
    for one in found.changes:
        if one.problem:
            assert one.after == one.before
            continue
        assert without_marks(one.marked) == one.before
        if one.file not in found.stayed.put_in:
            assert outside_marks(one.after) == outside_marks(one.marked)


def test_what_cannot_be_written_whole_is_not_written(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    pages, out = tmp_path / "pages", tmp_path / "map"
    shutil.copytree(DEMO / "pages", pages)
    found = stays(read_site(pages))
    write = site_stays.write_atomically

    def full(path: Path, data: bytes) -> None:
        if path.name == "gallery.html" and b"basilica:" in data:
            raise UsageError("The disk is full.")
        write(path, data)

    monkeypatch.setattr(site_stays, "write_atomically", full)
    with pytest.raises(UsageError, match="full"):
        write_stay(found, pages, out)
    assert not out.exists()
    assert {file.path: file.data for file in read_site(pages)} == {
        file.path: file.data for file in read_site(DEMO / "pages")
    }


def test_menus_that_nest_and_are_indented_stay_as_they_are_written() -> None:
    sections = {"visit": ("hours", "prices"), "mill": ("wheel", "stones", "sluice"), "flour": ("rye", "wheat")}

    def item(file: str, here: str, label: str, below: str = "", step: str = "  ") -> str:
        current = here == file or (below and here.startswith(file.removesuffix(".html") + "-"))
        return f'{step}<li{" class=on" if current else ""}><a href="/{file}">{label}</a>{below}</li>\n'

    def menu(here: str) -> str:
        made = item("index.html", here, "Home")
        for section, pages in sections.items():
            inside = "".join(item(f"{section}-{page}.html", here, page.title(), "", "      ") for page in pages)
            made += item(f"{section}.html", here, section.title(), f"\n    <ul>\n{inside}    </ul>\n  ")
        return f'<ul class="nav">\n{made}</ul>'

    names = ["index.html", *(f"{one}.html" for one in sections)]
    names += [f"{section}-{page}.html" for section, pages in sections.items() for page in pages]
    files = tuple(
        File(
            name,
            f'<!doctype html><title>{name} | Mill</title><header><a href="/index.html">The mill at home</a></header>\n'
            f"{menu(name)}\n<main><h1>{name}</h1>Own words of {name} alone</main>".encode(),
        )
        for name in names
    )
    found = stays(files)
    assert {one.file for one in found.changes} == set(names) and found.mended == ()
    assert [one.marked.count(b"<!-- basilica: entries main -->") for one in found.changes] == [1] * len(names)
