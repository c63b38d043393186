"""The live site fetched again: what is right is said to be, and what is not is found."""

from __future__ import annotations

import csv
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from basilica.core.build import build, renderer_of
from basilica.core.compile import compile_map
from basilica.core.diff.live_answers import LiveLook
from basilica.core.diff.taking_over import take_over
from basilica.core.edits import EditRejected
from basilica.core.plan import Plan
from basilica.core.rules.rule import Level
from basilica.services.host import Host
from basilica.services.live_look import LiveSite, look_at
from basilica.store.errors import UsageError
from basilica.store.folders import Source
from tests.browser.conftest import write

MAP = """site: {name: Mill, language: en}
pages:
  home: {path: /, title: Mill}
  visit: {title: Visit, was: [/old, /sub/old.html]}
  tides: Tides
redirects: {/gone: gone}
menus: {main: [home, visit, tides]}
"""


@pytest.fixture(scope="module")
def built() -> tuple[Plan, dict[str, bytes]]:
    compiled = compile_map(MAP)
    assert compiled.plan is not None
    return compiled.plan, {file.path: file.data for file in build(compiled, {}).files}


@pytest.fixture
def host(built: tuple[Plan, dict[str, bytes]], tmp_path: Path) -> Iterator[Host]:
    with Host(put(built[1], tmp_path / "www")) as host:
        yield host


def put(files: dict[str, bytes], folder: Path) -> Path:
    for path, data in files.items():
        (folder / path).parent.mkdir(parents=True, exist_ok=True)
        (folder / path).write_bytes(data)
    return folder


def look(host: Host, built: tuple[Plan, dict[str, bytes]], authority: Path | None = None) -> LiveLook:
    return look_at(LiveSite(host.address, authority), built[0], {}, built[1], built[1])


@pytest.mark.long
def test_what_is_right_is_said_to_be(host: Host, built: tuple[Plan, dict[str, bytes]]) -> None:
    seen = look(host, built)
    assert seen.wrong == () and seen.fetched == len(built[1]) - 2  # two only lead on
    asked = {one.what for one in seen.answers}
    assert asked == {"Page", "File", "Redirect", "Not found", "Compression", "Caching"}
    assert sum(one.what == "Redirect" for one in seen.answers) == 3


@pytest.mark.long
def test_what_is_wrong_is_found(host: Host, built: tuple[Plan, dict[str, bytes]]) -> None:
    home = host.folder / "index.html"
    home.write_bytes(home.read_bytes().replace(b'href="/visit/"', b'href="/visti/"', 1))
    (host.folder / "tides" / "index.html").unlink()
    (host.folder / "404.html").write_bytes(b"<p>Nothing here")
    (host.folder / "redirects.csv").write_text("from,to,status\n/old,/tides/,301\n")
    seen = look(host, built)
    found = {(one.what, one.address.removeprefix(host.address), one.level): one.words for one in seen.wrong}
    assert "is not what was built" in found["Page", "/", Level.ERROR]
    assert found["Page", "/tides/", Level.ERROR] == "answers 404"
    assert "should lead to /visit/" in found["Redirect", "/old", Level.ERROR]
    assert found["Redirect", "/gone", Level.ADVICE] == "answers 404; the map says that it is gone: 410"
    assert any("other page" in words or "another page" in words for words in found.values())
    assert any(
        one.what == "Check dead-link" and "/visti/" in one.words for one in seen.wrong
    )  # all checks, on what is live
    assert any(one.what == "Check menu-differs" for one in seen.wrong) and seen.fails


@pytest.mark.long
def test_a_page_for_everything_is_no_answer(host: Host, built: tuple[Plan, dict[str, bytes]], tmp_path: Path) -> None:
    """A host that answers 200 where nothing is."""
    from tests.browser.conftest import serving

    with serving(
        put(built[1], tmp_path / "plain")
    ) as address:  # a plain server: it knows no redirects and packs nothing
        seen = look_at(LiveSite(address), built[0], {}, built[1], built[1])
    said = {(one.what, one.level) for one in seen.wrong}
    assert (
        ("Redirect", Level.ERROR) in said
        and ("Compression", Level.ADVICE) in said
        and ("Caching", Level.ADVICE) in said
    )


@pytest.mark.long
def test_certificates(built: tuple[Plan, dict[str, bytes]], tmp_path: Path) -> None:
    with Host(put(built[1], tmp_path / "www"), tls=True) as host:
        with pytest.raises(UsageError, match="is not trusted"):
            look(host, built)
        seen = look(host, built, host.authority)
        assert seen.wrong == () and any(one.what == "Certificate" for one in seen.answers)
    with pytest.raises(UsageError, match="cannot be fetched"):
        look(host, built, host.authority)


@pytest.mark.long
def test_a_link_checker_finds_nothing_dead_on_the_host(demo: Source, tmp_path: Path) -> None:
    """LinkChecker, on the demo as the host serves it; `/tickets/` is answered by other code of the site."""
    made = build(compile_map(demo.map, demo.files), demo.contents).files
    with Host(write(made, tmp_path / "www")) as host:
        run = subprocess.run(
            [str(Path(sys.executable).parent / "linkchecker"), "--no-status", "-o", "csv", host.address + "/"],
            capture_output=True,
            text=True,
            timeout=300,
            check=False,
        )
        rows = list(csv.DictReader((one for one in run.stdout.splitlines() if one[:1] != "#"), delimiter=";"))
    dead = {row["url"].removeprefix(host.address) for row in rows if row["valid"] == "False"}
    assert dead == {"/tickets/"}, dead


def test_a_slow_host_is_slow(host: Host) -> None:
    host.faults.slow = 0.4
    began = time.monotonic()
    assert LiveSite(host.address).get("/").status == 200
    assert time.monotonic() - began >= 0.4


EDITS = [
    ("</main>", "<p>Closed this Sunday.</p>\n</main>"),
    ("rent was forty eels", "rent was fifty eels"),
    ("Peru.</p>", "Peru, and stayed there.</p>"),
    ("<p>Tobias Wren milled", "<p>Our own Tobias Wren milled"),
    ("After that\nit had nineteen owners. ", ""),
    ("<p>Tobias Wren milled", "<p>Edited <strong>by</strong> hand. Tobias Wren milled"),
    ("<p>Tobias Wren milled", '<p>See <a href="/flour/">our flour</a>. Tobias Wren milled'),
    ("Peru.</p>", "Peru. <em>He came back</em>.</p>"),
]


@pytest.mark.parametrize(("old", "new"), EDITS)
def test_an_edit_by_hand_comes_back_into_the_content(old: str, new: str, demo: Source) -> None:
    compiled = compile_map(demo.map, demo.files)
    page = renderer_of(compiled, demo.contents).page("history").decode()
    assert page.count(old) == 1
    live = page.replace(old, new)
    found = take_over(compiled, demo.contents, "history/index.html", live.encode())
    assert (found.key, found.name) == ("history", "content/history.md") and "<" not in found.text
    contents = {**demo.contents, "history": type(demo.contents["history"])(found.name, found.text)}
    again = renderer_of(compiled, contents).page("history").decode()
    assert "".join(again.split()) == "".join(live.split())
    kept = set(demo.contents["history"].text.splitlines()) - set(found.text.splitlines())
    assert len(kept) <= 2  # the other lines are as somebody wrote them


@pytest.mark.long
@pytest.mark.parametrize(
    ("old", "new"), [("<h1>Press pictures", "<h1>For the press"), ("free to print", "free to use")]
)
def test_a_title_and_a_description_come_back_into_the_map(old: str, new: str, demo: Source) -> None:
    compiled, text = compile_map(demo.map, demo.files), demo.map.decode()
    page = renderer_of(compiled, demo.contents).page("press").decode()
    assert old in page and new not in page
    live = page.replace(old, new, 1)
    found = take_over(compiled, demo.contents, "press/index.html", live.encode(), None, text)
    assert found.command is not None and len(set(found.text.splitlines()) - set(text.splitlines())) == 1
    assert new in renderer_of(compile_map(found.text, demo.files), demo.contents).page("press").decode()


@pytest.mark.parametrize("old", ["Take part", "<title>"])
def test_an_edit_of_what_pages_share_has_no_place_in_the_content(old: str, demo: Source) -> None:
    compiled = compile_map(demo.map, demo.files)
    live = renderer_of(compiled, demo.contents).page("history").replace(old.encode(), old.encode() + b"X")
    with pytest.raises(EditRejected, match="more than the page's own content"):
        take_over(compiled, demo.contents, "history/index.html", live)
    as_published = renderer_of(compiled, demo.contents).page("history")
    with pytest.raises(EditRejected, match="nobody edited it"):
        take_over(compiled, demo.contents, "history/index.html", as_published)


def test_a_file_that_goes_out_as_it_is_comes_back_as_it_is(demo: Source) -> None:
    found = take_over(compile_map(demo.map, demo.files), demo.contents, "tide-times.pdf", b"%PDF new")
    assert (found.key, found.name, found.data) == ("", "public/tide-times.pdf", b"%PDF new")
