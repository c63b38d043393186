"""What somebody edited on a live site by hand, taken over into the content or the files of the map."""

from __future__ import annotations

import html
import re
from collections.abc import Iterator, Mapping
from contextlib import suppress
from dataclasses import dataclass, field

from basilica.core.build import renderer_of
from basilica.core.compile import Compiled
from basilica.core.diff.hand_edits import hand_edits, taken_over
from basilica.core.edits import Command, EditRejected, edit
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.map.map_files import PUBLIC
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan.content_links import Content, Contents
from basilica.core.shared.page_encoding import as_text


@dataclass(frozen=True, slots=True)
class TakenOver:
    """What becomes of a hand edit: the content of the page ``key``, or the bytes of a file, by the ``name`` that it has
    beside the map; or a ``command`` for the map, of which ``text`` is what it becomes, and ``files`` are those that it
    includes and that change with it."""

    key: str
    name: str
    text: str = ""
    data: bytes = b""
    command: Command | None = None
    files: Mapping[str, bytes] = field(default_factory=dict)


def take_over(
    compiled: Compiled, contents: Contents, path: str, live: bytes, published: bytes | None = None, text: str = ""
) -> TakenOver:
    """The content, the file or the word of the map that brings the edit of ``path`` on the ``live`` site into the site
    as it stands. ``published`` is what was sent there before the edit; where that is not known, what would be sent now.
    ``text`` is that of the map. Content is taken only where the page that is built from it differs by just that edit;
    a title or a description also where the page says it in other places. Raises ``EditRejected`` where the edit reaches
    what other pages share, or cannot be brought back."""
    public = f"{PUBLIC}/{path}"
    if public in compiled.files:
        return TakenOver("", public, data=live)
    plan = compiled.plan
    key = next((key for key, route in plan.routes.items() if route.file == path), None) if plan is not None else None
    if key is None:
        raise EditRejected(f"`{path}` is made from the map, so an edit of it has no place. Overwrite it, or leave it.")
    renderer = renderer_of(compiled, contents)
    content = contents.get(key) or Content(f"content/{key}.md", "")
    built = as_text(renderer.page(key))
    was = as_text(published) if published is not None else built
    wanted = _edits(was, as_text(live))
    if not wanted:
        raise EditRejected(f"`{path}` is as it was published: nobody edited it there.")
    for proposal in taken_over(was, as_text(live), content.text, content.name.endswith(".md")):
        if _edits(built, as_text(_page(renderer, contents, key, Content(content.name, proposal)))) == wanted:
            return TakenOver(key, content.name, proposal)
    for command in _words(key, as_text(live)) if text else ():
        with suppress(EditRejected):
            edited = edit(compiled, text, command)
            made = as_text(renderer_of(edited.compiled, contents).page(key))
            if set(wanted) <= set(_edits(built, made)):
                return TakenOver("", "the map", edited.text, command=command, files=edited.files)
    raise EditRejected(
        f"The edit in `{path}` reaches more than the page's own content, or cannot be told from it. Make it in Pages, "
        "or in the part or the map that it belongs to, and then overwrite it there."
    )


_HEADING = re.compile(r"<h1\b[^>]*>(.*?)</h1>", re.DOTALL)
_DESCRIPTION = re.compile(r'<meta name="description" content="([^"]*)">')


def _words(key: str, live: str) -> Iterator[Command]:
    """The title and the description that a page says of itself, as edits of the map."""
    heading, description = _HEADING.search(live), _DESCRIPTION.search(live)
    if heading:
        yield SetWord(key, "title", " ".join(html.unescape(re.sub(r"<[^>]*>", "", heading[1])).split()))
    if description:
        yield SetWord(key, "description", html.unescape(description[1]))


def _page(renderer: Renderer, contents: Contents, key: str, content: Content) -> bytes:
    return renderer.with_contents({**contents, key: content}).page(key)


def _edits(one: str, two: str) -> list[tuple[str, str]]:
    """By which edits a page differs from another, without white space, which an edit by hand spells in its own way."""
    return [("".join(edit.old.split()), "".join(edit.new.split())) for edit in hand_edits(one, two)]
