"""What the Output workspace is asked."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import urlencode

from flask import request

from basilica.core.outputs.kits.setting_in import KITS
from basilica.core.outputs.output_formats import OUTPUT_FORMATS, SITE, OutputFormat
from basilica.web.forms import BasilicaForm, Button, OneLine, Text


class ExistingPages(BasilicaForm):
    """The folder of pages that exist, what is to be done there, and the page that new ones are made like."""

    folder = OneLine(default="")
    act = OneLine(default="look")
    like = OneLine(default="")
    overwrite = Button(default=False)


@dataclass(frozen=True, slots=True)
class OutputQuery:
    """What is asked for: outputs, and whether with drafts and with compressed copies."""

    kinds: tuple[OutputFormat, ...]
    drafts: bool
    compress: bool

    @classmethod
    def now(cls) -> OutputQuery:
        """As the address says; the static site where it does not."""
        kinds = tuple(
            OUTPUT_FORMATS[name] for name in dict.fromkeys(request.args.getlist("output")) if name in OUTPUT_FORMATS
        )
        return cls(kinds or (SITE,), request.args.get("drafts") == "yes", request.args.get("compress") == "yes")

    def query(self, **more: str) -> str:
        """The same for an address, with more behind it."""
        pairs = [("output", kind.name) for kind in self.kinds if self.kinds != (SITE,)]
        pairs += [("drafts", "yes")] if self.drafts else []
        pairs += [("compress", "yes")] if self.compress else []
        return "?" + urlencode([*pairs, *more.items()])

    def commands(self) -> list[str]:
        """The commands that do the same in a terminal."""
        more = (" --drafts" if self.drafts else "") + (" --compress" if self.compress else "")
        return [
            f"basilica build site.yaml --out {kind.name}{'' if kind is SITE else f' --output {kind.name}'}{more}"
            for kind in self.kinds
        ]


class Application(BasilicaForm):
    """An application into which an output is set: which output, its folder, and its routes as a list."""

    output = OneLine(default=KITS[0])
    folder = OneLine(default="")
    routes = Text(default="")
