"""What is said about the examples of rules: the tests hold it, and the documentation shows it."""

from __future__ import annotations

import tempfile
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path

import basilica
from basilica.core.build import build, verify
from basilica.core.compile import Compiled, compile_map
from basilica.core.exchange import map_of, read_list_or_table
from basilica.core.exchange.site_import import analyse
from basilica.core.exchange.site_import.drift_findings import drift_findings
from basilica.core.findings import audit
from basilica.core.findings.on_source import source_findings
from basilica.core.map.site.settings_reader import parse_base
from basilica.core.rules.examples import Example
from basilica.core.rules.finding import Finding
from basilica.core.rules.rule import Rule, Stage
from basilica.core.shared.output_file import File
from basilica.core.site_reader import Resolver
from basilica.store.folders import Source, read_source

DEMO = Path(basilica.__file__).parent / "demo" / "saltern-reach" / "site.yaml"
PAGE = "visit/hours/index.html"
"""The page of the demo into which pieces of pages are put."""
WHOLE = '<!doctype html><html lang="en"><title>Mill</title><main>{}</main></html>'


def findings_of(rule: Rule, example: Example) -> tuple[Finding, ...]:
    """Everything that is said about an example of a rule."""
    if rule.stage is Stage.LIST:
        items, found = read_list_or_table(str(example))
        return found + map_of(items, "site: {name: Mill}\n")[1]
    if rule.stage in (Stage.READING, Stage.MAP):
        return _of_map(example)
    if rule.stage is Stage.EXISTING:
        files = [File(name, text.encode()) for name, text in pages_of(example).items()]
        site = analyse(files)
        resolver = Resolver((file.path for file in files), base=parse_base("https://mill.example")[0])
        return (drift_findings(site) if site is not None else ()) + source_findings(files, resolver)
    if rule.stage is Stage.ANY:
        return audit(File(name, text.encode()) for name, text in pages_of(example).items()).findings()
    return _of_built(rule, example)


def bytes_of(example: Example) -> dict[str, bytes]:
    """The files of an example; one without a name is the map."""
    files = example if isinstance(example, Mapping) else {"site.yaml": example}
    return {name: data if isinstance(data, bytes) else str(data).encode() for name, data in files.items()}


def pages_of(example: Example) -> dict[str, str]:
    """The files of an example that is one or more pages; a piece of a page stands in a whole one."""
    pieces = example if isinstance(example, Mapping) else {"index.html": example}
    return {name: _whole(str(text)) if name.endswith(".html") else str(text) for name, text in pieces.items()}


def _whole(text: str) -> str:
    return text if text.startswith("<!") else WHOLE.format(text if "<h1" in text else f"<h1>Mill</h1>{text}")


def _of_map(example: Example) -> tuple[Finding, ...]:
    with tempfile.TemporaryDirectory() as folder:
        for name, data in bytes_of(example).items():
            path = Path(folder) / name
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_bytes(data)
        source = read_source(Path(folder) / "site.yaml")
    return source.findings + build(compile_map(source.map, source.files), source.contents).findings


def _of_built(rule: Rule, example: Example) -> tuple[Finding, ...]:
    """An example that is a piece of the demo: the built demo has the good one, and here this one in its place."""
    source, compiled, files = _demo()
    here = rule.good if isinstance(rule.good, Mapping) else {PAGE: rule.good}
    there = example if isinstance(example, Mapping) else {PAGE: example}
    for name, piece in bytes_of(here).items():
        assert any(file.path == name and piece in file.data for file in files), f"the demo has no such piece: {piece!r}"
    changed = [
        File(file.path, file.data.replace(bytes_of(here)[file.path], bytes_of(there)[file.path], 1))
        if file.path in there
        else file
        for file in files
        if file.path in there or file.path not in here
    ]
    assert compiled.plan is not None
    return verify(changed, compiled.plan, source.contents).findings()


@lru_cache(maxsize=1)
def _demo() -> tuple[Source, Compiled, tuple[File, ...]]:
    source = read_source(DEMO)
    compiled = compile_map(source.map, source.files)
    return source, compiled, build(compiled, source.contents).files
