"""How a preview shows its pages: in which frame, of which version, and what is switched on or off.

It is part of the preview's address, behind the token, so that links within the pages keep it: ``token.2sr`` is frame 2,
without style, right to left. The pages themselves are those of a build; what an option changes is changed on the way
out.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from importlib.resources import files as resources

SWITCHES = {
    "s": ("style", "No style"),
    "a": ("disabled", "Links disabled"),
    "m": ("motion", "Less motion"),
    "d": ("dark", "Dark"),
    "r": ("rtl", "Right to left"),
    "c": ("colours", "Forced colours"),
    "f": ("filler", "Filler text"),
}
"""By the letter in the address: the name of each switch, and what it is called."""

_ADDRESS = re.compile(r"([0-9])([samdrcf]*)(?:k([0-9]{1,9}))?")
_HTML = re.compile(rb"<html([^>]*)>")
_DIRECTION = re.compile(rb' dir="[a-z]+"')
_SHEET = re.compile(rb"<link rel=\"stylesheet\"[^>]*>\n?")
_STYLE, _STYLE_END = re.compile(rb"<style\b"), b"</style>"

_DISABLED = b"<style>a, area { cursor: default !important }</style>"
_DISABLED_WITHOUT_SCRIPT = b"<noscript><style>a, area { pointer-events: none !important }</style></noscript>"
_COLOURS = (
    b"<style>*, *::before, *::after { background-color: #000 !important; color: #fff !important; border-color: #fff"
    b" !important; box-shadow: none !important } a, a * { color: #ff0 !important } button { border: 1px solid #0ff"
    b" !important } svg { forced-color-adjust: auto }</style>"
)
_FILLER = (
    b'<section aria-label="Filler text, in the preview alone"><h2>Filler text</h2>'
    + b"<p>This text is in the preview alone, so that there is something to scroll and to read. It says nothing, at the"
    b" length at which pages say something, and every paragraph of it is the same.</p>" * 24 + b"</section>"
)
_MAIN_END = b"</main>"
_SCRIPT = resources("basilica.web.preview").joinpath("preview.js").read_bytes()


@dataclass(frozen=True, slots=True)
class PreviewOptions:
    """``state`` is the number of a version; None is the current site."""

    frame: int = 0
    on: frozenset[str] = frozenset()
    state: int | None = None

    @classmethod
    def parse(cls, text: str) -> PreviewOptions | None:
        """The options that stand behind a token; None for what are none."""
        if not text:
            return cls()
        found = _ADDRESS.fullmatch(text)
        if not found:
            return None
        on = frozenset(SWITCHES[letter][0] for letter in found[2])
        return cls(int(found[1]), on, int(found[3]) if found[3] else None)

    def applied(self, file: str, data: bytes) -> bytes:
        """A file as it is shown with these options."""
        if file.endswith(".css"):
            if "motion" in self.on:
                data = data.replace(b"(prefers-reduced-motion: reduce)", b"all")
            if "dark" in self.on:
                data = data.replace(b"(prefers-color-scheme: dark)", b"all")
                data = data.replace(b"color-scheme: light dark", b"color-scheme: dark")
            return data.replace(b"(forced-colors: active)", b"all") if "colours" in self.on else data
        if not file.endswith(".html"):
            return data
        if "style" in self.on:
            data = _without_styles(_SHEET.sub(b"", data))
        if "rtl" in self.on:
            data = _HTML.sub(lambda match: b"<html" + _DIRECTION.sub(b"", match[1]) + b' dir="rtl">', data, count=1)
        if "filler" in self.on:
            data = data.replace(_MAIN_END, _FILLER + _MAIN_END, 1)
        extra = _COLOURS if "colours" in self.on else b""
        if "disabled" in self.on:
            extra += _DISABLED + _DISABLED_WITHOUT_SCRIPT
        disabled = b"true" if "disabled" in self.on else b"false"
        extra += b"<script>" + _SCRIPT.replace(b"(LINKS_DISABLED)", b"(" + disabled + b")") + b"</script>"
        return data.replace(b"</head>", extra + b"</head>", 1)


def _without_styles(data: bytes) -> bytes:
    """A page without its style elements: one walk, however many of them are not closed."""
    pieces, done = [], 0
    while found := _STYLE.search(data, done):
        end = data.find(_STYLE_END, found.end())
        if end < 0:
            break
        pieces.append(data[done : found.start()])
        done = end + len(_STYLE_END)
    return b"".join([*pieces, data[done:]])
