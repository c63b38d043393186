"""Text → document: the scalar rules, places, and input that means harm."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.map.document import Lines, Mapping, Node, Scalar, Sequence, read
from basilica.core.rules import limits
from tests.core.help import codes


def test_every_scalar_is_text() -> None:
    # YAML 1.2 core schema makes some of these booleans, numbers and nulls; a map does not.
    document, findings = read("{no: yes, on: ~, 404: 1.0, a: null, b: 2026-11-24, c: 0x1F}")
    assert findings == ()
    assert isinstance(document.root, Mapping)
    assert [(key.value, value.value) for key, value in document.root.pairs if isinstance(value, Scalar)] == [
        ("no", "yes"),
        ("on", "~"),
        ("404", "1.0"),
        ("a", "null"),
        ("b", "2026-11-24"),
        ("c", "0x1F"),
    ]


@pytest.mark.parametrize(
    ("text", "code", "place"),
    [
        ("", "map-empty", (1, 1)),
        ("# only a comment\n", "map-empty", (1, 1)),
        (b"a: \xff", "not-utf8", (1, 4)),
        (b"\x89PNG\r\n\x1a\n\x00\x00", "not-text", (1, 1)),
        ("a: b\nc: \x07", "map-syntax", (2, 4)),
        ("x" * (limits.TEXT_BYTES + 1), "too-large", (1, 1)),
        ("[" * 100_000, "too-deep", (1, limits.NESTING + 1)),
        ("- " * 100_000, "too-deep", (1, 2 * limits.NESTING + 1)),
        ("{a: " * 50_000, "too-deep", (1, 4 * limits.NESTING + 1)),
        ("a: &x 1", "no-anchors", (1, 4)),
        ("a: *x", "no-anchors", (1, 4)),
        ("a: !!int 1", "no-tags", (1, 4)),
        ("a: 1\n<<: {b: 2}", "no-merge", (2, 1)),
        ("a: 1\nb: 2\na: 3", "duplicate-key", (3, 1)),
        ("? [a, b]\n: c", "key-not-text", (1, 3)),
        ("a: 1\n---\nb: 2", "several-documents", (2, 1)),
        ("a:\n\tb: 1", "map-syntax", (2, 1)),
        ("é: ünï: b", "map-syntax", (1, 7)),
    ],
)
def test_what_cannot_be_read_says_so(text: str | bytes, code: str, place: tuple[int, int]) -> None:
    _, findings = read(text)
    assert (code, place) in [(f.code, (f.line, f.column)) for f in findings]
    assert all(f.message.endswith(".") and f.remedy.endswith(".") for f in findings)


def test_what_stands_before_a_fault_is_still_read() -> None:
    document, findings = read("site:\n  name: Mill\npages:\n  home: {path: /\n")
    assert not document.complete
    assert [f.code for f in findings] == ["map-syntax"]
    assert isinstance(document.root, Mapping)
    assert [key.value for key, _ in document.root.pairs] == ["site", "pages"]


def test_a_broken_text_is_not_blamed_for_what_was_not_read() -> None:
    # Home and the page of the menu may stand in the part after the fault.
    assert [code for code, *_ in codes("menus:\n  main: [home]\npages:\n  home: {path: /\n  x: y")] == ["map-syntax"]


def test_many_findings_are_counted() -> None:
    _, findings = read("\n".join(["a: 1"] * 3000))
    assert len(findings) == limits.FINDINGS + 1
    assert findings[-1].code == "too-many-findings"
    assert f"{2999 - limits.FINDINGS:,} more" in findings[-1].message


KEYS = st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc", "Zl", "Zp")), max_size=8)


@given(
    st.recursive(
        KEYS, lambda below: st.lists(below, max_size=3) | st.dictionaries(KEYS, below, max_size=3), max_leaves=12
    )
)
def test_nodes_say_where_they_stand(value: object) -> None:
    """Whatever is written with quotes is read back, each text at the quote that opens it, in characters."""
    text = "# ünïcödé 😀\n" + _flow(value)
    document, findings = read(text)
    assert findings == ()
    assert document.root is not None
    assert _plain(document.root) == value
    for scalar in _scalars(document.root):
        assert text[scalar.start] == '"'
        line, column, _ = Lines.of(text).place(scalar.start)
        assert text.split("\n")[line - 1][column - 1] == '"'


@given(st.text(max_size=200) | st.binary(max_size=200))
def test_no_input_is_a_crash(source: str | bytes) -> None:
    document, findings = read(source)
    assert document.root is not None or findings


def _flow(value: object) -> str:
    if isinstance(value, dict):
        return "{" + ",\n ".join(f"{_flow(key)}: {_flow(item)}" for key, item in value.items()) + "}"
    if isinstance(value, list):
        return "[" + ", ".join(_flow(item) for item in value) + "]"
    escaped = "".join(c if c.isalnum() and c.isascii() else f"\\U{ord(c):08x}" for c in str(value))
    return f'"{escaped}"'


def _plain(node: Node) -> object:
    if isinstance(node, Mapping):
        return {key.value: _plain(value) for key, value in node.pairs}
    return [_plain(item) for item in node.items] if isinstance(node, Sequence) else node.value


def _scalars(node: Node) -> list[Scalar]:
    if isinstance(node, Mapping):
        return [s for key, value in node.pairs for s in (key, *_scalars(value))]
    return [s for item in node.items for s in _scalars(item)] if isinstance(node, Sequence) else [node]
