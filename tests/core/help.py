"""Small helps for tests of the core."""

from __future__ import annotations

import re
from collections.abc import Iterable
from textwrap import dedent

from basilica.core.compile import Compiled, compile_map
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Content, Contents
from basilica.core.rules.finding import Finding
from basilica.core.shared.output_file import File

HOME = "site: {name: Mill, base: 'https://mill.example'}\n"


def compiled(text: str, files: Files = NO_FILES) -> Compiled:
    """A compiled map, from indented text."""
    return compile_map(dedent(text), files)


def planned(text: str, files: Files = NO_FILES) -> Plan:
    """The plan of a map without errors."""
    result = compiled(text, files)
    assert result.plan is not None
    assert not result.stops, result.findings
    return result.plan


def loud(findings: Iterable[Finding]) -> list[Finding]:
    """What the map does not say to ignored."""
    return [finding for finding in findings if not finding.ignored]


def grave(findings: Iterable[Finding]) -> list[Finding]:
    """What is more than advice."""
    return [finding for finding in loud(findings) if finding.level != "advice"]


def codes(text: str) -> list[tuple[str, int, int]]:
    """Code, line and column of the errors of a map."""
    return [(f.code, f.line, f.column) for f in compiled(text).findings if f.stops]


def markdown(**texts: str) -> Contents:
    """Content by key, ``__`` standing for ``/``."""
    keys = {name.replace("__", "/"): text for name, text in texts.items()}
    return {key: Content(f"content/{key}.md", text) for key, text in keys.items()}


def navigation(files: Iterable[File], suffix: str) -> bytes:
    """The style sheet (`css`) or the script (`js`) of the navigation in a build."""
    return next(f.data for f in files if re.fullmatch(rf"assets/navigation\.(\w+\.)?{suffix}", f.path))


def texts(files: Iterable[File]) -> dict[str, str]:
    """What stands in the files of a build, by path; letters and pictures are left out."""
    return {
        file.path: file.data.decode() for file in files if not file.path.endswith((".woff2", ".webp", ".jpg", ".png"))
    }


def built(plan: Plan, contents: Contents | None = None) -> list[File]:
    """Every file of a build."""
    return list(Renderer(plan, contents or {}).files())
