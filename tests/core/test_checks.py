"""Files → findings: one fault is put into a built site that holds, and the check for it speaks, on that page."""

from __future__ import annotations

import pytest

from basilica.core.build import build, verify
from basilica.core.compile import compile_map
from basilica.core.findings import audit
from basilica.core.shared.output_file import File
from basilica.store.folders import Source
from tests.core.help import grave, loud

PAGE = "visit/hours/index.html"
LIT = '<a href="/visit/hours/" aria-current="page">Opening hours</a>'

FAULTS = [
    ("wrong-current", ' aria-current="page"><svg', "><svg"),
    ("wrong-current", '<a href="/tides/">', '<a href="/tides/" aria-current="true">'),
    ("wrong-current", "<li data-path>", "<li>"),
    ("menu-differs", '<a href="/tides/">Tides</a>', '<a href="/tides/">Tide</a>'),
    ("menu-differs", '<a href="/tides/">Tides</a>', '<a href="/flour/">Tides</a>'),
    ("menu-differs", '<li>\n              <a href="/tides/">Tides</a>\n            </li>\n', ""),
    ("menu-differs", '<nav class="b-footer-menu" aria-label="Footer">', '<nav class="b-footer-menu">'),
    ("wrong-breadcrumbs", '<li><a href="/visit/">Visit</a></li>', ""),
    ("wrong-breadcrumbs", '<span aria-current="page">Opening hours</span>', "<span>Opening hours</span>"),
    ("breadcrumb-data", '"position":2', '"position":3'),
    ("dead-link", 'href="/milling/calendar/">calendar', 'href="../milling/calendar/">calendar'),
    ("missing-file", "/assets/navigation.", "/assets/navigated."),
    ("dead-anchor", 'href="#content"', 'href="#contents"'),
]


@pytest.fixture(scope="module")
def sound(demo: Source) -> tuple[File, ...]:
    return build(compile_map(demo.map, demo.files), demo.contents).files


@pytest.mark.long
@pytest.mark.parametrize(("code", "stands", "instead"), FAULTS)
def test_a_fault_is_found(demo: Source, sound: tuple[File, ...], code: str, stands: str, instead: str) -> None:
    plan = compile_map(demo.map, demo.files).plan
    assert plan is not None
    assert loud(verify(sound, plan, demo.contents).findings()) == []
    broken = [
        File(file.path, file.data.replace(stands.encode(), instead.encode(), 1)) if file.path == PAGE else file
        for file in sound
    ]
    assert broken != list(sound)
    found = loud(verify(broken, plan, demo.contents).findings())
    assert code in {finding.code for finding in found}
    place = plan.site.lines.place(plan.site.pages["visit/hours"].at)
    for finding in found:
        assert PAGE in finding.message
        assert finding.file == "content/visit/hours.md" or (finding.line, finding.column) == place[:2]


def test_colours_of_the_shared_parts_are_read_from_what_was_built(demo: Source, sound: tuple[File, ...]) -> None:
    plan = compile_map(demo.map, demo.files).plan
    assert plan is not None
    pale = [File(file.path, file.data.replace(b"--b-ink: #1a2233", b"--b-ink: #777777")) for file in sound]
    found = grave(verify(pale, plan, demo.contents).findings())
    assert [finding.code for finding in found] == ["unreadable-style"] * 2 and "4.47" in found[0].message


def test_without_a_map_the_page_that_was_missed_stands_out() -> None:
    """A hand-made site whose menus are links without a list, and links to its folders."""

    def page(label: str, mark: str = "") -> bytes:
        menu = f'<nav><a href="/">Home</a> <a href="/a">{label}</a> <a href="/b/"{mark}>B</a></nav>'
        return f'<!doctype html><html lang="en"><title>{label}</title>{menu}<main><h1>{label}</h1></main>'.encode()

    files = {name: page("A") for name in ("index.html", "b/index.html", "c.html", "d.html")}
    files["a.html"] = page("Ay", ' aria-current="page"')
    found = audit(File(name, data) for name, data in files.items()).findings()
    assert {f.built for f in found if f.code == "stale-menu"} == {"a.html"}
    assert not [f for f in found if f.code in ("dead-link", "conflicting-current")]
    named = {name: data.replace(b"<nav>", b'<nav aria-label="Main">') for name, data in files.items()}
    found = audit(File(name, data) for name, data in named.items()).findings()
    assert [(f.built, f.code) for f in found if f.code == "conflicting-current"] == [("a.html", "conflicting-current")]


def test_a_page_that_nothing_leads_to_is_found(demo: Source, sound: tuple[File, ...]) -> None:
    plan = compile_map(demo.map, demo.files).plan
    assert plan is not None
    cut = [File(file.path, file.data.replace(b'href="/press/"', b'href="/news/"')) for file in sound]
    assert [(f.code, f.line) for f in grave(verify(cut, plan, demo.contents).findings())] == [
        ("unreachable", plan.site.lines.place(plan.site.pages["press"].at)[0])
    ]


def test_a_missing_file_is_found_on_every_page_that_links_to_it(demo: Source, sound: tuple[File, ...]) -> None:
    plan = compile_map(demo.map, demo.files).plan
    assert plan is not None
    found = loud(verify([file for file in sound if file.path != "press/index.html"], plan, demo.contents).findings())
    # The news and the site map link to it, and so does what stands at its old address: its link, and the address it
    # calls canonical.
    assert sorted((f.code, f.file) for f in found) == [("dead-link", "")] * 4 + [
        ("missing-page", ""),
        ("sitemap-differs", ""),
    ]


@pytest.mark.long
def test_a_leading_slash_that_forgets_the_sub_folder_is_found(demo: Source) -> None:
    text = demo.map.decode().replace("base: https://saltern-reach.example", "base: https://trust.example/mill")
    contents = dict(demo.contents)
    wrong = contents["press"].text + "\n[Outside](/other-site/) and [meant for here](/visit/hours/)\n"
    contents["press"] = type(contents["press"])("content/press.md", wrong)
    found = loud(build(compile_map(text, demo.files), contents).findings)
    assert [(f.code, f.file) for f in found] == [("dead-link", "content/press.md")]
    assert "/visit/hours/" in found[0].message
