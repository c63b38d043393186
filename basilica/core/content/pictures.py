"""Pictures in the text of pages: their size, so that nothing moves when they come; when they are fetched; and smaller
ones for smaller screens."""

from __future__ import annotations

import html
import io
import re
import warnings
from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import NamedTuple
from urllib.parse import unquote

from basilica.core.shared.html_scanner import Replacement, attributes, replaced, scan

WIDTHS = (480, 960, 1600)
"""The widths of smaller pictures where none are named, CSS px: a phone, a tablet, a desktop (common practice, no
source)."""
_MADE = re.compile(r"-([1-9][0-9]{1,4})w(\.[A-Za-z]+)$")
_SUFFIXES = (".jpg", ".jpeg", ".png", ".webp")
_MOST_PIXELS = 60_000_000
"""A picture of more is left as it is: it would take the machine's memory."""
_QUALITY = 82


class Picture(NamedTuple):
    """A picture of the site: its ``width`` and ``height``, and smaller ones by their width; CSS px, and names."""

    width: int
    height: int
    smaller: tuple[tuple[int, str], ...] = ()


class PictureLeft(NamedTuple):
    """A picture that no smaller one was made of, and why."""

    name: str
    why: str


def smaller_name(name: str, width: int) -> str:
    """What a smaller picture is called: ``mill.jpg`` → ``mill-480w.jpg``."""
    stem, _, suffix = name.rpartition(".")
    return f"{stem}-{width}w.{suffix}"


def smaller_by_name(names: Iterable[str]) -> dict[str, list[tuple[int, str]]]:
    """For each picture that has smaller ones beside it: their widths and names, narrowest first."""
    found: dict[str, list[tuple[int, str]]] = {}
    for name in names:
        made = _MADE.search(name)
        if made:
            found.setdefault(name[: made.start()] + made[2], []).append((int(made[1]), name))
    return {name: sorted(smaller) for name, smaller in found.items()}


def with_sizes(
    markup: str, picture: Callable[[str], Picture | None], address: Callable[[str], str | None], content_width: int
) -> str:
    """Markup in which every picture of the site says its size, all but the first are fetched when they are near, and
    smaller ones stand beside it. What is written there already stays. ``picture`` knows files by name, and ``address``
    writes where one of them is, as markup; ``content_width`` is that of the content, CSS px."""
    if "<img" not in markup or "file:" not in markup:
        return markup
    data = markup.encode("utf-8", "surrogatepass")
    found: list[Replacement] = []
    first = True
    for piece in scan(data, {b"img"}):
        said = {one.name: data[one.value_start : one.value_end] for one in attributes(data, piece)}
        source = html.unescape(said.get(b"src", b"").decode("utf-8", "replace"))
        known = picture(unquote(source[5:])) if source.lower().startswith("file:") else None
        if known is not None:
            more = _said_of(known, said, first, address, content_width)
            at = piece.start + len(b"<img")
            found.append((at, at, "".join(f' {name}="{text}"' for name, text in more).encode()))
        first = False
    return replaced(data, found).decode("utf-8", "surrogatepass")


def _said_of(
    known: Picture,
    said: Mapping[bytes, bytes],
    first: bool,
    address: Callable[[str], str | None],
    content_width: int,
) -> Iterator[tuple[str, str]]:
    if b"width" not in said and b"height" not in said:
        yield "width", str(known.width)
        yield "height", str(known.height)
    if not first and b"loading" not in said:
        yield "loading", "lazy"
    smaller = [(width, address(name)) for width, name in known.smaller if width < known.width]
    if smaller and b"srcset" not in said:
        whole = address(html.unescape(said[b"src"].decode("utf-8", "replace"))[5:])
        places = [*smaller, (known.width, whole)]
        yield "srcset", ", ".join(f"{place} {width}w" for width, place in places if place)
        if b"sizes" not in said:
            widest = min(known.width, content_width)
            yield "sizes", f"(max-width: {widest}px) 100vw, {widest}px"


def smaller_pictures(
    files: Mapping[str, bytes], widths: Iterable[int] = WIDTHS
) -> Iterator[tuple[str, bytes] | PictureLeft]:
    """Smaller ones of every picture that is wider than these widths, CSS px, by name; those that are there are not made
    again. A picture that cannot be read is left, with the reason."""
    for name in sorted(files):
        if not name.lower().endswith(_SUFFIXES) or _MADE.search(name):
            continue
        wanted = {width: smaller_name(name, width) for width in sorted(set(widths))}
        missing = {width: other for width, other in wanted.items() if other not in files}
        if missing:
            yield from _resized(name, files[name], missing)


def _resized(name: str, data: bytes, missing: Mapping[int, str]) -> Iterator[tuple[str, bytes] | PictureLeft]:
    from PIL import Image, ImageOps, UnidentifiedImageError

    with warnings.catch_warnings():
        warnings.simplefilter("ignore", Image.DecompressionBombWarning)
        try:
            picture = Image.open(io.BytesIO(data))
            if picture.width * picture.height > _MOST_PIXELS:
                yield PictureLeft(name, f"it has {picture.width} × {picture.height} pixels, more than can be read here")
                return
            if getattr(picture, "is_animated", False):
                yield PictureLeft(name, "it moves")
                return
            kind = picture.format
            turned = ImageOps.exif_transpose(picture)
            if turned.mode in ("P", "1"):  # of which no picture between two sizes can be made
                turned = turned.convert("RGBA" if "transparency" in turned.info else "RGB")
            profile = picture.info.get("icc_profile")
            for width, other in missing.items():
                if width >= turned.width:
                    continue
                small = turned.resize(
                    (width, max(1, round(turned.height * width / turned.width))), Image.Resampling.LANCZOS
                )
                out = io.BytesIO()
                small.save(out, kind, quality=_QUALITY, optimize=True, icc_profile=profile)
                yield other, out.getvalue()
        except (UnidentifiedImageError, Image.DecompressionBombError, OSError, ValueError, SyntaxError):
            yield PictureLeft(name, "it cannot be read")
