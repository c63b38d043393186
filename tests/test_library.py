"""Basilica as a library: its examples are run, and what it writes is read."""

from __future__ import annotations

import doctest
from collections.abc import Iterable
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

import basilica
from basilica import MapBuilder, MapError, library, load, loads
from basilica.core.outputs.static_site import Renderer
from basilica.library import MenuEntry
from basilica.store.folders import Source
from basilica.web.demo import DEMO
from tests.core.help import planned
from tests.core.maps import TITLES, RandomPage, keys_of, trees


@pytest.mark.long
def test_every_example_does_what_it_says() -> None:
    assert doctest.testmod(library).attempted > 5
    assert doctest.testmod(library).failed == 0
    page = Path(basilica.__file__).parent.parent / "docs/library.md"
    read = doctest.testfile(str(page), module_relative=False)
    assert (read.failed, read.attempted > 5) == (0, True)


@pytest.mark.long
@given(trees(), st.lists(TITLES, min_size=1, max_size=3))
def test_what_the_builder_writes_is_the_map_that_was_meant(tree: list[RandomPage], words: list[str]) -> None:
    builder = MapBuilder("Random", base="https://x.example")
    builder.page("the-home-page", path="/")

    def add(pages: list[RandomPage], under: Any) -> None:
        for page in pages:
            add(page.pages, under.page(page.id, title=page.title, description=words[0]))

    add(tree, builder)
    builder.menu("main", ["the-home-page", {"group": "All", "items": [page.id for page in tree]}])
    site = builder.build()
    assert list(site.pages) == ["the-home-page", *keys_of(tree)]
    by_key = {route.key: route for route in site.routes}
    assert [by_key[page.id].title for page in tree] == [" ".join(page.title.split()) for page in tree]
    group = site.menu("main", seen_from=tree[0].id)[1]
    assert [entry.page for entry in group.items] == [page.id for page in tree]
    assert group.items[0].current == "page" and group.on_path


@pytest.mark.long
def test_the_library_sees_what_the_built_pages_show(demo: Source) -> None:
    site, plan = load(DEMO), planned(demo.map.decode(), demo.files)
    renderer = Renderer(plan, demo.contents)
    for key in renderer.pages:
        page = renderer.page(key).decode()
        for crumb in site.breadcrumbs(key):
            assert (f'<a href="{crumb.address}">{crumb.label}</a>' in page) if crumb.address else crumb.label in page
        lit = [entry.current for entry in _all(site.menu("main", seen_from=key)) if entry.current]
        assert lit == ([mark.current] if (mark := plan.marks(key)["main"]) else [])
    files = {file.path: file.data for file in site.build().files}
    assert files["index.html"] == renderer.page("home")


def _all(entries: Iterable[MenuEntry]) -> list[MenuEntry]:
    return [one for entry in entries for one in (entry, *_all(entry.items))]


def test_what_is_wrong_is_an_error_with_its_place() -> None:
    with pytest.raises(MapError, match="line 3: ") as caught:
        loads("pages:\n  home: {path: /}\n  a: {tilte: x}\n")
    assert [finding.code for finding in caught.value.findings if finding.stops] == ["unknown-key"]
    site = loads("pages: {home: {path: /}}", {"home": "Words"}, {"files/x.txt": b"y"})
    for ask in (lambda: site.menu("none", "home"), lambda: site.menu("main", "none"), lambda: site.breadcrumbs("none")):
        with pytest.raises(KeyError):
            ask()
    builder = MapBuilder("M")
    builder.page("a")
    with pytest.raises(ValueError, match="already"):
        builder.page("a")
