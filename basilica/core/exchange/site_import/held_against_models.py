"""What stands on the pages of a large site already: some of its pages are compared with each other, and the others held
against what was found on these. Pages of which that does not tell everything are compared after all, folder by folder.
"""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import pairwise

from basilica.core.exchange.site_import.language_versions import by_language, is_in_name
from basilica.core.exchange.site_import.old_page import can_be_compared, is_page
from basilica.core.exchange.site_import.site_analysis import analyse
from basilica.core.exchange.site_import.wrapped_regions import Spans, wrapped_regions
from basilica.core.rules import limits
from basilica.core.shared.html_scanner import replaced, scan
from basilica.core.shared.output_file import File

MODELS = 36
"""So many pages are compared with each other first."""
_LINK = re.compile(rb"""<a\s[^>]*?href\s*=\s*["']?\s*([^"'>\s#][^"'>\s]*)[^>]*>(.*?)</a""", re.IGNORECASE | re.DOTALL)
_USUAL = 0.9
"""On so many of the models a region stands for a page without it to be looked at more closely."""
_OFTEN = 0.2
"""Links that are on so many models, and in no region there, belong to no menu of a section."""
_VARIANTS = 100


def wrapped_in(files: Iterable[File], models: int = MODELS) -> Spans:
    """By file, what its page has where regions of a map would come (`wrapped_regions`). Up to twice as many pages as
    there are ``models`` are all compared with each other. Pages are compared with those in their language."""
    files = list(files)
    pages = {file.path: file for file in files if is_page(file)}
    spans: Spans = {}
    for own in by_language(pages.values(), _says).values():
        there = {file.path: file for file in own}
        spans |= _wrapped(there, [File(file.path, b"") for file in files if file.path not in there], models)
    return spans


_LANGUAGE = re.compile(rb"""<html\b[^>]*?\slang\s*=\s*["']?\s*([a-z-]+)""", re.IGNORECASE)
_VERSION = re.compile(rb"<(?:link|a)\b[^>]*\shreflang\b", re.IGNORECASE)


def _says(page: File) -> tuple[str, bool]:
    said = _LANGUAGE.search(page.data)
    language = said[1].decode() if said else ""
    return language, _VERSION.search(page.data) is not None or is_in_name(page.path, language)


def _wrapped(pages: dict[str, File], others: list[File], models: int) -> Spans:
    if len(pages) <= 2 * models and can_be_compared(pages.values()):
        return _compared(list(pages.values()), others)
    chosen = _models(pages, models)
    spans = _compared([pages[path] for path in chosen], _named(pages, chosen, others))
    known = _Known({path: pages[path].data for path in chosen}, spans)
    found = {path: known.find(file.data) for path, file in pages.items() if path not in chosen}
    spans |= {path: one for path, one in found.items() if one is not None}
    rest = [path for path, one in found.items() if one is None]
    clear = {path: spans.get(path, []) for path in pages if found.get(path, []) is not None}
    rest += _with_links_of_sections(pages, clear, chosen)
    for batch in _batches(sorted(rest), pages, sum(len(pages[path].data) for path in chosen)):
        together = (*chosen, *batch)
        again = _compared([pages[path] for path in together], _named(pages, together, others))
        for path in batch:
            spans.pop(path, None)
        spans |= {path: again[path] for path in batch if path in again}
    return spans


def _compared(pages: Sequence[File], others: Sequence[File]) -> Spans:
    site = analyse([*pages, *others])
    return dict(wrapped_regions(site)) if site is not None else {}


def _named(pages: Mapping[str, File], but: Iterable[str], others: Sequence[File]) -> list[File]:
    """All other files by their names alone: links may lead to them."""
    but = set(but)
    return [*others, *(File(path, b"") for path in pages if path not in but)]


def _models(pages: Mapping[str, File], count: int) -> tuple[str, ...]:
    """Pages spread over the whole site, and those nearest to its front, to which its menus lead."""
    paths = sorted(pages)
    spread = paths[:: max(1, 2 * len(paths) // count)]
    near = sorted(paths, key=lambda path: (path.count("/"), len(path), path))
    chosen: dict[str, None] = {}
    size = 0
    for path in dict.fromkeys((*(one for pair in zip(near, spread, strict=False) for one in pair), *near)):
        size += len(pages[path].data)
        if len(chosen) == count or size > limits.IMPORTED_PAGES_BYTES // 2:
            break
        chosen[path] = None
    return tuple(chosen)


class _Known:
    """The regions of the models, as they are written there."""

    def __init__(self, models: Mapping[str, bytes], spans: Spans) -> None:
        written: dict[str, Counter[bytes]] = defaultdict(Counter)
        tags: set[bytes] = set()
        by_tag = True
        for path, data in models.items():
            for start, end, name in spans.get(path, ()):
                written[name][data[start:end]] += 1
                if name == "breadcrumbs":
                    tag = data[start : data.find(b">", start) + 1]
                    tags.add(tag)
                    by_tag = by_tag and _of_tag(data, tag) == (start, end)
        least = max(1, _USUAL * len(models))
        self.usual = [name for name, count in written.items() if count.total() >= least]
        self.variants = {name: [text for text, _ in count.most_common(_VARIANTS)] for name, count in written.items()}
        self.tags = tags if by_tag and len(tags) == 1 else set()

    def find(self, data: bytes) -> list[tuple[int, int, str]] | None:
        """The regions of a page; None where not all of them are as on the models, or others seem to be there."""
        found = []
        for name, texts in self.variants.items():
            span = next((at for at in (_once(data, text) for text in texts) if at), None)
            if span is None and name == "breadcrumbs":
                span = next((at for at in (_of_tag(data, tag) for tag in self.tags) if at), None)
            if (span is None) is (name in self.usual):
                return None
            if span is not None:
                found.append((*span, name))
        found.sort()
        return found if all(one[1] <= two[0] for one, two in pairwise(found)) else None


def _once(data: bytes, text: bytes) -> tuple[int, int] | None:
    at = data.find(text)
    return (at, at + len(text)) if at >= 0 and data.find(text, at + 1) < 0 else None


def _of_tag(data: bytes, tag: bytes) -> tuple[int, int] | None:
    """The element that begins with a tag, if just one does."""
    begins = _once(data, tag)
    if begins is None:
        return None
    depth, name = 0, b""
    for piece in scan(data[begins[0] :]):
        name = name or piece.name
        if piece.name == name and piece.kind in ("open", "close"):
            depth += 1 if piece.kind == "open" else -1
            if depth == 0:
                return begins[0], begins[0] + piece.end
    return None


def _with_links_of_sections(pages: Mapping[str, File], spans: Spans, models: Sequence[str]) -> list[str]:
    """Of pages whose regions are known, those with two links outside of them which other pages have as well: they may
    have a menu of their section, which no model has."""
    labels = {path: _labels(pages[path].data, found) for path, found in spans.items()}
    counts = Counter(label for found in labels.values() for label in found)
    of_models = Counter(label for path in models for label in labels[path])
    usual = {label for label, count in of_models.items() if count > _OFTEN * len(models)}
    shared = {label for label, count in counts.items() if count > 1} - usual
    return [path for path, found in labels.items() if path not in models and len(found & shared) > 1]


def _labels(data: bytes, spans: Iterable[tuple[int, int, str]]) -> set[bytes]:
    own = replaced(data, ((start, end, b" ") for start, end, _ in sorted(spans)))
    return {b" ".join(label.split()) for _, label in _LINK.findall(own)}


def _batches(paths: Sequence[str], pages: Mapping[str, File], size: int) -> Iterator[list[str]]:
    """Pages side by side, so many that they can be compared beside the models, which have ``size`` bytes."""
    batch: list[str] = []
    room = limits.IMPORTED_PAGES_BYTES - size
    for path in paths:
        if batch and len(pages[path].data) > room:
            yield batch
            batch, room = [], limits.IMPORTED_PAGES_BYTES - size
        batch.append(path)
        room -= len(pages[path].data)
    if batch:
        yield batch
