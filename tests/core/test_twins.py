"""For every check a sound site and a broken one, as its documentation shows them: it is silent on the first and speaks
on the second."""

from __future__ import annotations

from collections.abc import Mapping

import pytest

from basilica.core.findings import CHECKS, STAGE_RULES, Check, audit
from basilica.core.pipeline import build, compile_map, verify
from basilica.core.plan.content_links import Content
from basilica.core.rules.rule import Example, Stage
from basilica.core.shared.output_file import File
from basilica.store.folders import Source

PAGE = "visit/hours/index.html"
"""The page of the demo into which pieces of pages are put."""
WHOLE = '<!doctype html><html lang="en"><title>Mill</title><main>{}</main></html>'


def said(example: Example, check: Check, demo: Source) -> set[str]:
    """The codes of what is said about an example."""
    if check.stage in (Stage.MAP, Stage.READING):
        files = {"site.yaml": example} if isinstance(example, str) else example
        contents = {name[8:-3]: Content(name, text) for name, text in files.items() if name.startswith("content/")}
        return {finding.code for finding in build(compile_map(files["site.yaml"]), contents).findings}
    if check.stage is Stage.BUILT:
        compiled = compile_map(demo.map, demo.files)
        assert compiled.plan is not None
        files = build(compiled, demo.contents).files
        if isinstance(check.good, Mapping):  # what an example has no more is taken away
            assert isinstance(example, Mapping)
            assert all(
                any(f.path == name and text.encode() in f.data for f in files) for name, text in check.good.items()
            )
            left = [file for file in files if file.path not in check.good.keys() - example.keys()]
            return {finding.code for finding in verify(left, compiled.plan, demo.contents).findings()}
        assert isinstance(example, str)
        assert any(file.path == PAGE and check.good.encode() in file.data for file in files)
        changed = [
            File(file.path, file.data.replace(check.good.encode(), example.encode(), 1)) if file.path == PAGE else file
            for file in files
        ]
        return {finding.code for finding in verify(changed, compiled.plan, demo.contents).findings()}
    pieces = example if isinstance(example, Mapping) else {"index.html": example}
    pages = {
        name: text
        if not name.endswith(".html") or text.startswith("<!")
        else WHOLE.format(text if "<h1" in text else f"<h1>Mill</h1>{text}")
        for name, text in pieces.items()
    }
    return {finding.code for finding in audit(File(name, text.encode()) for name, text in pages.items()).findings()}


@pytest.mark.parametrize("check", [*CHECKS, *(rule for rule in STAGE_RULES if rule.good)], ids=lambda check: check.code)
def test_a_check_speaks_on_the_broken_twin_alone(check: Check, demo: Source) -> None:
    assert check.code not in said(check.good, check, demo)
    assert check.code in said(check.bad, check, demo)
    assert all((check.title, check.why, check.standard, check.remedy))
