"""What cannot be read out: pictures, fields, buttons and frames without words for them."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.on_source.source_rule import SourceFault, SourceRule
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import Resolver
from basilica.core.site_reader.page_source import PageSource, Tag

_NO_FIELD = ("hidden", "submit", "reset", "button", "image")


def run(page: PageSource, resolver: Resolver) -> Iterator[SourceFault]:
    """Every such element."""
    yield from faults(page)


def faults(page: PageSource) -> Iterator[SourceFault]:
    """Every such element."""
    labelled = {tag.attributes["for"] for tag in page.tags if tag.name == "label" and tag.attributes.get("for")}
    in_label = 0
    for number, tag in enumerate(page.tags):
        if tag.name == "label":
            in_label = max(0, in_label + (1 if tag.opens else -1))
        if not tag.opens or _has_name(tag):
            continue
        kind = tag.attributes.get("type", "").strip().lower()
        if tag.name in ("img", "area") or (tag.name == "input" and kind == "image"):
            is_picture = tag.name != "area" or "href" in tag.attributes
            if "alt" not in tag.attributes and is_picture and not _is_left_out(tag):
                source = tag.attributes.get("src") or tag.attributes.get("href", "")
                yield SourceFault(tag.start, f"The picture `{source[:80]}` on {page.file} has no `alt`.")
        elif tag.name in ("select", "textarea") or (tag.name == "input" and kind not in _NO_FIELD):
            if not in_label and tag.attributes.get("id") not in labelled:
                name = tag.attributes.get("name", "")
                yield SourceFault(tag.start, f"The field `{name[:80]}` on {page.file} has no label.")
        elif tag.name == "button":
            if not _words_in(page, number):
                yield SourceFault(tag.start, f"A button on {page.file} has no words.")
        elif tag.name in ("iframe", "frame") and not _is_left_out(tag):
            source = tag.attributes.get("src", "")
            yield SourceFault(tag.start, f"The frame `{source[:80]}` on {page.file} has no `title`.")


def _has_name(tag: Tag) -> bool:
    named = ("aria-label", "aria-labelledby", *(() if tag.name in ("img", "area") else ("title",)))
    return any(tag.attributes.get(name, "").strip() for name in named)


def _is_left_out(tag: Tag) -> bool:
    """Whether nobody is told of an element, on purpose."""
    return (
        tag.attributes.get("role", "") in ("presentation", "none")
        or tag.attributes.get("aria-hidden") == "true"
        or "hidden" in tag.attributes
        or "display:none" in tag.attributes.get("style", "").replace(" ", "")
    )


def _words_in(page: PageSource, number: int) -> bool:
    """Whether a button has words, or a picture that has some."""
    end = next((tag for tag in page.tags[number + 1 :] if tag.name == "button"), None)
    last = end.start if end is not None else len(page.data)
    inside = (tag for tag in page.tags[number + 1 :] if tag.start < last and tag.opens)
    if page.words(page.tags[number].end, last).strip():
        return True
    return any(tag.attributes.get("alt") or tag.attributes.get("aria-label") or tag.name == "title" for tag in inside)


RULE = SourceRule(
    code="no-words",
    stage=Stage.EXISTING,
    level=Level.ERROR,
    title="A picture, a field, a button or a frame that has no name",
    why="Screen readers announce that something is there, but not what.",
    standard="WCAG 2.2, 1.1.1 Non-text Content, 1.3.1 Info and Relationships, 4.1.2 Name, Role, Value",
    remedy='Add `alt` to pictures (`alt=""` if they are only decoration), a `label` to fields, '
    "text to buttons, and `title` to frames.",
    good='<img src="data:," alt="The wheel"> <label>Name <input name="name"></label>',
    bad='<img src="data:,"> Name <input name="name">',
    run=run,
)
