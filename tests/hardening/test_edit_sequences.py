"""Edits one after another on maps in which features meet: whatever they are not about is still there."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from itertools import combinations
from pathlib import Path
from typing import Any

import pytest

from basilica.core.compile import Compiled, compile_map
from basilica.core.edits import Command, EditRejected, edit
from basilica.core.edits.commands import set_entry
from basilica.core.edits.commands.move_page import MovePage
from basilica.core.edits.commands.set_entry import SetEntry
from basilica.core.edits.kept_addresses import Keeping
from basilica.core.edits.map_data import map_data
from basilica.core.edits.source_patcher import Snippet, SourcePatcher
from basilica.core.exchange import items_from, read_list, write_list
from basilica.core.exchange.list_edits import merge_list
from basilica.core.language.sections.menu_words import ENTRY
from basilica.services.all_services import Services
from tests.hardening import TIMES
from tests.hardening.edit_sequences import (
    FeatureMap,
    command_for,
    feature_map,
    losses,
    raw_page,
    registered,
    text_of,
    texts_in,
)

SEQUENCES, STEPS = 100 * TIMES, 8
CANNOT = "The way the map is written"
"""What is said where a map could not be edited, and where the words of an edit did not come to hold."""
LOSES = "This would also remove"


def features(seed: int) -> tuple[FeatureMap, str, Compiled]:
    made = feature_map(seed)
    text = text_of(made)
    return made, text, compile_map(text, made.files)


def test_no_sequence_of_edits_loses_what_it_is_not_about(capsys: pytest.CaptureFixture[str]) -> None:
    kinds, done, met, broken = registered(), Counter[str](), Counter[tuple[str, str]](), 0
    for seed in range(SEQUENCES):
        made, text, compiled = features(seed)
        broken += compiled.stops
        for _ in range(0 if compiled.stops else STEPS):
            assert compiled.plan is not None
            kind = min(made.chance.sample(kinds, 6), key=lambda kind: done[kind.__name__])
            command = command_for(kind, compiled.plan.site, made)
            if command is None:
                continue
            refusal = ""
            try:
                edited = edit(compiled, text, command, keeping=Keeping(None))
            except EditRejected as refused:
                refusal = str(refused)
            assert not refusal.startswith((CANNOT, LOSES)), (seed, command, text)
            if refusal:
                continue
            lost = losses(command, text, compiled, edited)
            assert not lost, (seed, command, lost, text)
            done[kind.__name__] += 1
            met.update(combinations(sorted({*made.features, kind.__name__}), 2))
            text, compiled = edited.text, edited.compiled
    assert broken < SEQUENCES / 20
    if TIMES >= 20:
        assert {kind.__name__ for kind in kinds} == set(done), "some commands were never done"
        rare = {pair: count for pair, count in met.items() if count < 20}
        with capsys.disabled():
            print(f"\n{sum(done.values())} edits, {len(met)} pairs of features, the rarest {met.most_common()[-1]}")
        assert not rare


def test_a_list_loses_nothing_that_it_does_not_change() -> None:
    done = Counter[str]()
    for seed in range(40 * TIMES):
        made, text, compiled = features(seed)
        if compiled.stops or compiled.plan is None:
            continue
        lines = write_list(items_from(compiled.plan)).splitlines()
        was = map_data(text, compiled.files)
        for act in ("nothing", "add", "rename", "delete", "swap"):
            changed, at = [*lines], made.chance.randrange(len(lines))
            lead = changed[at][: len(changed[at]) - len(changed[at].lstrip())]
            if changed[at].startswith("["):
                continue
            if act == "add":
                changed.insert(at + 1, f"{lead}A new page")
            elif act == "rename":
                changed[at] = changed[at].replace(" q", " renamed q", 1)
            elif act == "delete":
                changed.pop(at)
            elif act == "swap" and at:
                changed[at - 1], changed[at] = changed[at], changed[at - 1]
            merged = merge_list(compiled, text, read_list("\n".join(changed))[0], (), Keeping(None))
            assert act != "nothing" or not merged.changes, (seed, merged.changes)
            now = map_data(merged.text, merged.compiled.files)
            named = "".join(change.words for change in merged.done) + lines[at]
            gone = [raw_page(was, key) for key in compiled.plan.site.pages if key not in merged.keys]
            lost = texts_in(was) - texts_in(now) - texts_in(gone)
            left = [word for word in lost if word not in named]
            named_as_gone = ("Delete ", "Remove ", "removed the group", "becomes an automatic one")
            if act != "delete" and not any(word in named for word in named_as_gone):
                assert not left, (seed, act, lines[at], left)
            done[act] += bool(merged.done)
    assert min(done[act] for act in ("add", "rename", "delete", "swap")) > 10 * TIMES


def outcomes(kind: type[Command], seeds: int = 80) -> Iterator[str]:
    """What comes of edits of one kind, some on each map: `done`, `lost` or `refused`."""
    for seed in range(seeds):
        made, text, compiled = features(seed)
        for _ in range(0 if compiled.stops else 4):
            assert compiled.plan is not None
            command = command_for(kind, compiled.plan.site, made)
            try:
                lost = command and losses(command, text, compiled, edit(compiled, text, command, keeping=Keeping(None)))
                yield "lost" if lost else "done"
            except EditRejected:
                yield "refused"


def is_worse(now: Iterator[str], before: list[str]) -> bool:
    """Whether an edit loses something that did not, or cannot be done that could; it looks no further than that."""
    return any(one != other and other == "done" for one, other in zip(now, before, strict=True))


@pytest.mark.long
def test_a_word_that_is_not_written_at_an_entry_is_noticed(monkeypatch: pytest.MonkeyPatch) -> None:
    whole, before, missed = set_entry.entry_data, [*outcomes(SetEntry)], []
    for name in [word.name for word in ENTRY if word.name not in ("items", "auto")]:

        def forgetful(entry: Any, words: Any, gone: str = name) -> dict[str, Any]:
            return {word: value for word, value in whole(entry, words).items() if word != gone}

        monkeypatch.setattr(set_entry, "entry_data", forgetful)
        missed += [] if is_worse(outcomes(SetEntry), before) else [name]
    assert not missed


@pytest.mark.long
def test_a_word_that_a_page_loses_as_it_moves_is_noticed(monkeypatch: pytest.MonkeyPatch) -> None:
    whole, before, missed = SourcePatcher.cut, [*outcomes(MovePage)], []
    pages = [page for seed in range(80) for page in features(seed)[0].data["pages"].values() if page]
    names = [word for word in {word for page in pages for word in page} if word != "pages"]
    for name in names:

        def forgetful(self: SourcePatcher, holder: Any, index: int, gone: str = name) -> Snippet:
            chunk = whole(self, holder, index)
            kept = [line for line in chunk.lines if not (line.startswith(f"  {gone}:") and not line.endswith(":"))]
            return Snippet(tuple(kept), chunk.flow, chunk.comments)

        monkeypatch.setattr(SourcePatcher, "cut", forgetful)
        missed += [] if is_worse(outcomes(MovePage), before) else [name]
    assert not missed, names


def test_each_edit_is_undone_to_the_byte(tmp_path: Path) -> None:
    services, undone = Services.of(tmp_path), 0
    for seed in range(4 * TIMES):
        made, text, compiled = features(seed)
        if compiled.stops:
            continue
        slug = services.store.make(f"Map {seed}", text, {}, "", files=made.files).slug
        for _ in range(STEPS):
            before = services.store.get(slug)
            plan = services.maps.compiled(before.text, before).plan
            command = command_for(made.chance.choice(registered()), plan.site, made) if plan is not None else None
            try:
                services.sites.apply(slug, before.revision, *([command] if command else []))
            except EditRejected:
                continue
            step = services.sites.last_step(services.store.get(slug))
            there = services.store.get(slug)
            if step is not None and (there.text, there.files_digest) != (before.text, before.files_digest):
                services.sites.undo(slug, step.after)
                after = services.store.get(slug)
                assert after.text == before.text and after.files_digest == before.files_digest, (seed, command)
                undone += 1
                services.sites.apply(slug, after.revision, command)  # and on from there
    services.close()
    assert undone > 4 * TIMES
