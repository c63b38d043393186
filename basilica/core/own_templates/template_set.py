"""The templates of a site's own: which there are, and why one cannot be used."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files as resources
from typing import Any

from basilica.core.map.map_files import Files
from basilica.core.own_templates.sandbox import TemplateEnvironment, TemplateRefused, names_asked
from basilica.core.rules import limits

FOLDER = "templates"
NAMES = ("menu", "breadcrumbs", "header", "footer", "page")
"""What can have markup of one's own, by the name of the template's file without `.html`."""


@dataclass(frozen=True, slots=True)
class TemplateProblem:
    """Why a template cannot be used, and what to do; ``line`` counts from 1."""

    file: str
    line: int
    message: str
    remedy: str


class TemplateSet:
    """The templates of a site. Frozen once made."""

    def __init__(self, texts: Mapping[str, str]) -> None:
        """``texts`` are their texts, by the name of the file below the folder."""
        self.texts = dict(texts)
        self.problems: list[TemplateProblem] = []
        self.good: dict[str, Any] = {}
        """By name, those that can be run."""
        environment = TemplateEnvironment()
        for file, text in texts.items():
            name = file.removesuffix(".html")
            if name not in NAMES or not file.endswith(".html"):
                known = ", ".join(f"`{each}.html`" for each in NAMES)
                self._say(file, 1, f"`{file[:60]}` is not read.", f"The templates are called {known}.")
            elif len(text) > limits.TEMPLATE_CHARACTERS:
                message = f"The template has more than {limits.TEMPLATE_CHARACTERS:,} characters."
                self._say(file, 1, message, "Split it into parts.")
            else:
                try:
                    self.good[name] = environment.from_text(text, file)
                except TemplateRefused as refused:
                    self._say(file, refused.line, str(refused), refused.remedy)

    def __contains__(self, name: str) -> bool:
        return name in self.good

    def line_of(self, name: str, *attributes: str) -> int:
        """The first line of a template that asks for one of some attributes; 1 where none does."""
        text = self.texts.get(f"{name}.html", "")
        return next((line for each in attributes for line in names_asked(text, each)), 1)

    def _say(self, file: str, line: int, message: str, remedy: str) -> None:
        self.problems.append(TemplateProblem(f"{FOLDER}/{file}", line, message, remedy))


@lru_cache(maxsize=16)
def templates_of(files: Files) -> TemplateSet:
    """The templates of a site."""
    return TemplateSet({name: files.text(f"{FOLDER}/{name}") for name in files.under(FOLDER)})


@lru_cache(maxsize=8)
def starting(name: str) -> str:
    """The template to begin from: what it writes is what is built without it."""
    package = resources("basilica.core.own_templates").joinpath("starting")
    return package.joinpath(f"{name}.html").read_text(encoding="utf-8")
