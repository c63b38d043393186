"""The addresses of an old site, held against a map on the disk, and written into it."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from basilica.core.compile import Compiled, compile_map
from basilica.core.edits import edit
from basilica.core.edits.kept_addresses import taking
from basilica.core.exchange.address_lists import read_addresses
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan.content_links import Contents
from basilica.core.plan.old_addresses import AddressAnswer, Answer, OldAddresses
from basilica.core.rules import limits
from basilica.store.errors import UsageError
from basilica.store.folders import Source, place_in, read_file, read_source, write_atomically


@dataclass(frozen=True, slots=True)
class AddressCheck:
    """What each address answers, and how many were written into the map just now."""

    found: tuple[AddressAnswer, ...]
    written: int = 0
    is_cut: bool = False
    """Whether the list has more addresses than were looked up."""


def look_up(compiled: Compiled, contents: Contents, addresses: tuple[str, ...]) -> tuple[AddressAnswer, ...]:
    """What each address answers on the site of a map without errors."""
    assert compiled.plan is not None
    renderer = Renderer(compiled.plan, contents)
    files = {*renderer.generated, *renderer.asset_names}
    return OldAddresses(compiled.plan, files).look_up(addresses)


def look_up_addresses(map_path: Path, old: Path, write: bool) -> AddressCheck | Source:
    """Hold the addresses of the file ``old`` against a map; with ``write``, those that lead nowhere and are like a page
    are written into it first. Gives the source where its map has errors. Raises ``UsageError`` for what cannot be read
    or written, and ``EditRejected``."""
    source = read_source(map_path)
    addresses, is_cut = read_addresses(read_file(old, limits.TABLE_CHARACTERS).decode("utf-8", "replace"))
    if not addresses:
        raise UsageError(f"{old} has no addresses. Write one a line, such as /prices.htm.")
    compiled = compile_map(source.map, source.files)
    if compiled.plan is None or compiled.stops:
        return source
    found = look_up(compiled, source.contents, addresses)
    chosen = {each.address: each.nearest for each in found if each.answer is Answer.NOWHERE and each.nearest}
    if not write or not chosen:
        return AddressCheck(found, is_cut=is_cut)
    edited = edit(compiled, source.map.decode("utf-8"), taking(chosen, compiled.plan.site))
    for name, data in edited.files.items():
        write_atomically(place_in(map_path.parent, name), data)
    write_atomically(map_path, edited.text.encode("utf-8"))
    after = look_up(edited.compiled, source.contents, addresses)
    left = (sum(each.answer is Answer.NOWHERE for each in answers) for answers in (found, after))
    return AddressCheck(after, next(left) - next(left), is_cut)
