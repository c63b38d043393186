"""Words of the map language that are called otherwise today: each is a finding whose fix writes today's word."""

from __future__ import annotations

import re
from dataclasses import replace
from pathlib import Path

import pytest

from basilica.core.compile import compile_map
from basilica.core.edits.fixes import fixes_by_file, with_fixes
from basilica.core.language.sections import SECTIONS
from basilica.core.map.map_files import NO_FILES, Files
from tests.test_cli import run

NEW = """\
site: {name: Mill}
pages:
  home: {path: /, title: Mill, header: sticky}
  tickets: {title: Tickets, kind: backend, path: /tickets/}
  visit:
    title: Visit
    ignore: {vague-link: "Mine"}
    header: {behaviour: hide, mobile: {behaviour: shrink-hide, small-height: 30}}
  learn: {include: learn.yaml}
header:
  behaviour: shrink-hide  # low once it returns
  small-height: 50
  threshold: 120
  threshold-margin: 20
  min-window: 400
  space: kept
  top-row: stays
page-end: {list: none}
theme: {preset: meadow}
phrases: {menu: Pages!}
checks:
  spelling: Saltern
  levels: {vague-link: {level: ignore, reason: Quoted}}
"""
OLD = """\
site: {name: Mill}
pages:
  home: {path: /, title: Mill, header: stick}
  tickets: {title: Tickets, kind: served, path: /tickets/}
  visit:
    title: Visit
    silent: {vague-link: "Mine"}
    header: {behaviour: retreat, narrow: {behaviour: shrink-retreat, small: 30}}
  learn: {mount: learn.yaml}
header:
  behaviour: shrink-retreat  # low once it returns
  small: 50
  depth: 120
  band: 20
  short: 400
  room: kept
  row: stays
closing: {list: none}
looks: {start: meadow}
words: {menu: Pages!}
checks:
  words: Saltern
  levels: {vague-link: {level: silent, because: Quoted}}
"""
CHANGED = sum(old != new for old, new in zip(re.findall(r"[\w-]+", OLD), re.findall(r"[\w-]+", NEW), strict=True))
NEW_PIECE = "title: Learn\npages:\n  stones: {title: Stones, kind: backend, path: /s/}\n"
OLD_PIECE = NEW_PIECE.replace("backend", "served")


def test_every_old_word_is_a_finding_with_its_fix_and_is_read_as_what_it_is_now() -> None:
    old = compile_map(OLD, Files({"maps/learn.yaml": OLD_PIECE.encode()}))
    new = compile_map(NEW, Files({"maps/learn.yaml": NEW_PIECE.encode()}))
    assert {finding.code for finding in old.findings if finding.stops} == {"old-word"}
    assert not new.stops
    fixes = fixes_by_file(old.findings)
    assert with_fixes(OLD, fixes[""]) == NEW
    assert with_fixes(OLD_PIECE, fixes["maps/learn.yaml"]) == NEW_PIECE
    assert old.plan is not None and new.plan is not None
    assert replace(old.plan.site, files=NO_FILES) == replace(new.plan.site, files=NO_FILES)
    assert old.plan.site.header == new.plan.site.header and old.plan.site.theme == new.plan.site.theme
    assert old.plan.site.checks == new.plan.site.checks and old.plan.routes == new.plan.routes


def test_an_old_word_beside_the_new_one_is_left_to_the_person() -> None:
    text = "site: {name: Mill}\npages:\n  home: {path: /}\nheader: {behaviour: shrink, depth: 3, threshold: 120}\n"
    found = [finding for finding in compile_map(text).findings if finding.code == "old-word"]
    assert [(finding.fix, finding.column) for finding in found] == [(None, 29)]


def test_the_old_map_has_every_word_that_was_renamed() -> None:
    words = {word.old_name for section in SECTIONS.values() for word in section} - {""}
    values = {old for section in SECTIONS.values() for word in section for old, _ in word.old_values}
    assert {word for word in words if f"{word}:" in OLD} == words
    assert {value for value in values if f": {value}" in OLD} == values


@pytest.mark.long
def test_old_maps_are_mended_on_the_disk_all_at_once(tmp_path: Path) -> None:
    site = tmp_path / "site.yaml"
    site.write_bytes(b"\xef\xbb\xbf" + OLD.replace("\n", "\r\n").encode())
    (tmp_path / "maps").mkdir()
    (tmp_path / "maps/learn.yaml").write_text(OLD_PIECE)
    (tmp_path / "layouts").mkdir()
    (tmp_path / "layouts/wide.html").write_text("{{ content }}")
    before = run("check", site, "--format", "json")  # the text shows ten of a code
    assert before.returncode == 1 and "`looks` is called `theme` now" in before.stdout
    assert "The folder `layouts` is called `page-layouts` now" in before.stdout
    done = run("check", site, "--fix")
    assert done.returncode == 0 and "old-word" not in done.stdout and f"{site}: {CHANGED} words replaced" in done.stderr
    assert site.read_bytes() == b"\xef\xbb\xbf" + NEW.replace("\n", "\r\n").encode()
    assert (tmp_path / "maps/learn.yaml").read_text() == NEW_PIECE
    assert (tmp_path / "page-layouts/wide.html").is_file() and not (tmp_path / "layouts").exists()
    assert run("check", site, "--fix").stderr.count("replaced") == 0
