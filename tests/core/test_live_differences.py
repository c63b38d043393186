"""A build held against what is live: exactly what differs is said, and doing it gives the build."""

from __future__ import annotations

import hashlib

from hypothesis import given
from hypothesis import strategies as st

from basilica.core.diff.live_differences import (
    LiveState,
    compare_live,
    expectation,
    name_digest,
    sending_list,
)
from basilica.core.diff.page_parts import differing_parts

PATHS = [
    "index.html",
    "visit/index.html",
    "assets/a.css",
    "assets/b.js",
    "sitemap.xml",
    "mill.pdf",
    "CNAME",
    "404.html",
]
BYTES = st.sampled_from([b"a", b"b", b"c"])
TREE = st.dictionaries(st.sampled_from(PATHS), BYTES)


def digests(tree: dict[str, bytes]) -> dict[str, str]:
    return {path: hashlib.sha256(data).hexdigest() for path, data in tree.items()}


def remembered(tree: dict[str, bytes]) -> dict[str, set[str]]:
    return {name_digest(path): {digest} for path, digest in digests(tree).items()}


@given(
    published=TREE, built=TREE, edits=st.dictionaries(st.sampled_from(PATHS), st.none() | st.sampled_from([b"x", b"y"]))
)
def test_exactly_what_differs_is_said_and_doing_it_gives_the_build(
    published: dict[str, bytes], built: dict[str, bytes], edits: dict[str, bytes | None]
) -> None:
    """``edits`` are made by hand after the publish: files deleted (None), changed, or put there."""
    live = {**published, **{path: data for path, data in edits.items() if data is not None}}
    live = {path: data for path, data in live.items() if edits.get(path, b"") is not None}
    found = compare_live(digests(built), digests(live), remembered(published))
    state = {file.path: file.state for file in found.files}
    assert {path for path, one in state.items() if one is not LiveState.SAME} == {
        path for path in {*built, *live} if built.get(path) != live.get(path)
    }
    by_hand = {path for path in edits if path in live and live[path] != published.get(path)}
    assert {file.path for file in found.files if file.needs_consent} == {
        path for path in by_hand if built.get(path) != live[path] and (path in built or path in published)
    }
    nobodys = {path for path in live if path not in published and path not in built}
    assert {file.path for file in found.of(LiveState.UNKNOWN)} == nobodys

    def done(overwrites: bool) -> dict[str, bytes]:
        chosen = sending_list(found, lambda path: overwrites, lambda path: False)
        assert chosen.count == len({path for stage in chosen.stages for path in stage} | set(chosen.deleted))
        after = {**live, **{path: built[path] for stage in chosen.stages for path in stage}}
        return {path: data for path, data in after.items() if path not in chosen.deleted}

    assert done(True) == {**built, **{path: live[path] for path in nobodys}}
    cautious = done(False)
    assert {path: cautious[path] for path in by_hand if path in cautious} == {path: live[path] for path in by_hand}
    expected = expectation(found, digests(built), digests(published))
    assert expected.paths == {path for path in {*built, *published} if built.get(path) != published.get(path)}
    differing = {path for path, one in state.items() if one not in (LiveState.SAME, LiveState.UNKNOWN)}
    assert (expected.paths | {file.path for file in expected.more}) - set(expected.less) == differing


def test_files_go_before_pages_and_pages_before_lists_and_deletions_last() -> None:
    """What a page needs is there before it, and nothing that a live page leads to goes before that page does."""
    found = compare_live(
        digests(dict.fromkeys(PATHS, b"a")), digests({"old.html": b"a"}), remembered({"old.html": b"a"})
    )
    chosen = sending_list(found, lambda path: False, lambda path: False)
    assert chosen.stages == (
        ("CNAME", "assets/a.css", "assets/b.js", "mill.pdf"),
        ("404.html", "index.html", "visit/index.html"),
        ("sitemap.xml",),
    )
    assert chosen.deleted == ("old.html",)


def test_a_state_that_a_cut_off_publish_left_is_no_edit() -> None:
    known = {name_digest("index.html"): {*digests({"q": b"a"}).values(), *digests({"q": b"b"}).values()}}
    for data, state in ((b"a", LiveState.CHANGED), (b"b", LiveState.CHANGED), (b"x", LiveState.EDITED)):
        found = compare_live(digests({"index.html": b"c"}), digests({"index.html": data}), known)
        assert [file.state for file in found.files] == [state]


def test_the_list_on_a_host_names_no_page() -> None:
    assert "secret" not in name_digest("secret/index.html") and len(name_digest("a")) == 32


PAGE = (
    b"<!doctype html><html><head><title>A</title></head><body><header><a>Mill</a><nav><a>Visit</a></nav>"
    b"</header><nav class=b-breadcrumbs><a>Home</a></nav><main><h1>A</h1><nav><a>Below</a></nav></main>"
    b"<footer><nav><a>Foot</a></nav></footer><p>Last</p></body></html>"
)


@given(st.sets(st.sampled_from(["<title>A", "Mill", "Visit", "Home", "<h1>A", "Below", "Foot", "Last"])))
def test_in_which_parts_a_page_differs_is_told_from_the_page(changed: set[str]) -> None:
    where = {"<title>A": "head", "Mill": "header", "Visit": "menu", "Home": "breadcrumbs", "<h1>A": "body"}
    where |= {"Below": "body", "Foot": "footer", "Last": "page"}
    other = PAGE
    for text in changed:
        other = other.replace(text.encode(), text.encode() + b"x")
    assert set(differing_parts(PAGE, other)) == {where[text] for text in changed}
