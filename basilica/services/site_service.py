"""Sites as people work on them: opened, edited, saved, and brought together with their folders."""

from __future__ import annotations

from collections.abc import Collection, Mapping

from basilica.core.diff import in_words
from basilica.core.diff.merge import Merged, merge
from basilica.core.edits import Command, EditRejected
from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Contents, following
from basilica.services.comparisons import Comparisons
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.folder_sync import FolderProblem, FolderSync
from basilica.services.known_addresses import KnownAddresses
from basilica.services.undo_steps import Step, UndoSteps
from basilica.store.contents import Moves
from basilica.store.records import NO_CHANGES, Conflict, FileChange, FileChanges, SiteRecord
from basilica.store.sites import Sites


class ContentConflict(Conflict):
    """Two people changed the same lines of the content of a page: what the other saved, and both ``merged``."""

    def __init__(self, current: SiteRecord, theirs: str, merged: Merged) -> None:
        super().__init__(current, "The text of this page")
        self.theirs, self.merged = theirs, merged


class SiteService:
    """What is done to sites, wherever they live: in the database alone, or in a folder too. Each method raises
    ``NotFound`` for a site that there is not, and ``Conflict`` where it was changed from elsewhere meanwhile."""

    def __init__(
        self,
        store: Sites,
        maps: CompiledMaps,
        comparisons: Comparisons,
        folders: FolderSync,
        addresses: KnownAddresses,
    ) -> None:
        self._store, self._maps, self._comparisons, self._folders = store, maps, comparisons, folders
        self._addresses = addresses
        self._steps = UndoSteps()

    def open(self, slug: str) -> SiteRecord:
        """A site as it stands; for one of a folder, as that stands."""
        return self._folders.look(self._store.get(slug))

    def save(
        self, slug: str, text: str, revision: int, moves: Moves = (), changed: FileChanges = NO_CHANGES
    ) -> SiteRecord:
        """Save the text that is being worked on, with the files beside it that are ``changed``, all of it or nothing.
        Content goes along with its pages, as ``moves`` say; a page that is back under its old key, however it came to
        be gone, finds its text again; and what links to pages that have another key follows them."""
        was = self._store.get(slug)
        there = self._maps.files(was)
        now = there.replaced({name: one.now for name, one in changed.items()})
        compiled, before = self._maps.compiled(text, now), self._maps.compiled(was.text, there).plan
        moves = [pair for pair in moves if pair != (None, None)]
        if before and compiled.plan and not compiled.stops:
            moves += [(None, key) for key in compiled.plan.site.pages if key not in before.site.pages]

        def rewrite(contents: Contents, files: Files) -> tuple[Contents, Files]:
            if before is None or compiled.plan is None:
                return contents, files
            gone = {old for old, _ in moves if old}
            # A link to a page that is gone stays as it is written: it may be back with the next key that is pressed.
            keys = {key: key for key in before.site.pages if key not in gone and key in compiled.plan.site.pages}
            keys.update({old: new for old, new in moves if old and new})
            return following(contents, files, keys, before, compiled.plan)

        return self._folders.save(was, text, revision, not compiled.stops, moves, rewrite, changed)

    def apply(
        self,
        slug: str,
        revision: int,
        *commands: Command,
        keep: bool = True,
        files: Mapping[str, bytes | None] | None = None,
    ) -> int:
        """Do edits to the text of a site as it was at ``revision``, and put the ``files`` beside it that they speak of,
        all of them or none. Addresses that others may know and that would end are kept, if asked for; tells how many.
        Raises ``EditRejected``."""
        site = self.open(slug)
        if site.revision != revision:
            raise Conflict(site)
        if not self._maps.is_good(site):
            raise EditRejected("The map has errors, so nothing was written.")
        before = self._there_of(slug, files or {})
        moves: Moves = ()
        changed: FileChanges = {}
        saved = with_files = self._put_all(site, files or {})
        try:
            edited = self._maps.edit(with_files, site.text, *commands, keeping=self._addresses.keeping(slug, keep))
            if edited.text != site.text or edited.files:
                there = self._there_of(slug, edited.files)
                changed = {name: FileChange(there[name], data) for name, data in edited.files.items()}
                moves = edited.moves(self._maps.compiled(site.text, with_files))
                saved = self.save(slug, edited.text, revision, moves, changed)
        except Exception:
            self._put_all(with_files, before)
            raise
        back = [(new, old) for old, new in moves if new is not None]
        undone = {name: FileChange(one.now, one.was) for name, one in changed.items()}
        if saved is not site:
            self._steps.remember(
                saved,
                edited.words,
                lambda now: self._put_all(self.save(slug, site.text, now.revision, back, undone), before),
                _bytes_of({**before, **{name: one.was for name, one in changed.items()}}),
            )
        return len(edited.redirected)

    def last_step(self, site: SiteRecord) -> Step | None:
        """The last thing that happened to a site, where it can be taken back."""
        return self._steps.last(site)

    def undo(self, slug: str, after: str) -> str:
        """Take the last thing that was done to a site back (edits, content, or files), by the state ``after`` it, and
        give its words. Raises ``UsageError`` where something came after it."""
        return self._steps.undo(self.open(slug), after)

    def write_merged(
        self, slug: str, key: str, text: str, was: str, suffix: str | None = None
    ) -> tuple[SiteRecord, str]:
        """Save the content of a page, put together with what somebody else saved since it ``was``, and give what was
        saved. Raises ``ContentConflict`` where both changed the same lines."""
        while True:
            try:
                return self.write(slug, key, text, was, suffix), text
            except Conflict as conflict:
                known = self._store.contents(slug).get(key)
                theirs = known.text if known is not None else ""
                merged = merge(was, text, theirs)
                if merged.collisions:
                    raise ContentConflict(conflict.current, theirs, merged) from conflict
                text, was = merged.text, theirs

    def write(self, slug: str, key: str, text: str, was: str, suffix: str | None = None) -> SiteRecord:
        """Save the content of a page, as ``Sites.write`` does."""
        before = self._store.contents(slug).get(key)
        saved = self._folders.write(self._store.get(slug), key, text, was, suffix)
        there = text if text.strip() else ""

        def take_back(now: SiteRecord) -> SiteRecord:
            if before is None:
                return self._folders.write(now, key, "", there)
            return self._folders.write(now, key, before.text, there, before.name.rpartition(".")[2])

        self._steps.remember(saved, f"Wrote the content of {key}", take_back)
        return saved

    def copy_content(self, slug: str, source: str, target: str) -> int:
        """Copy the content of a page, in every language and for every slot, to a page that has none of it yet. Returns
        how many texts were copied."""
        contents, copied = self._store.contents(slug), 0
        for key, content in contents.items():
            page, dot, rest = key.partition(".")
            to = f"{target}{dot}{rest}"
            if page == source and to not in contents:
                self.write(slug, to, content.text, "", content.name.rpartition(".")[2])
                copied += 1
        return copied

    def put_file(self, slug: str, name: str, data: bytes | None, was: str | None) -> SiteRecord:
        """Put a file beside the map, or take one away (None), as ``Sites.put_file`` does."""
        return self._put(slug, {name: data}, was)

    def put_files(self, slug: str, files: Mapping[str, bytes | None]) -> SiteRecord:
        """Put files beside the map, or take them away (None), whatever is there."""
        return self._put(slug, files, None)

    def _put(self, slug: str, files: Mapping[str, bytes | None], was: str | None) -> SiteRecord:
        before = self._there_of(slug, files)
        site = self._put_all(self._store.get(slug), files, was)
        words = ", ".join(f"{'Deleted' if data is None else 'Saved'} {name}" for name, data in files.items())
        self._steps.remember(site, words, lambda now: self._put_all(now, before), _bytes_of(before))
        return site

    def _there_of(self, slug: str, names: Collection[str]) -> dict[str, bytes | None]:
        there = self._store.files(slug) if names else {}
        return {name: there.get(name) for name in names}

    def _put_all(self, site: SiteRecord, files: Mapping[str, bytes | None], was: str | None = None) -> SiteRecord:
        for name, data in files.items():
            site = self._folders.put_file(site, name, data, was)
        return site

    def save_version(self, slug: str, revision: int, note: str) -> SiteRecord:
        """Keep the current site as a version, with what it changes in words."""
        impact = in_words(self._comparisons.since_version(self.open(slug)))
        return self._store.save_version(slug, revision, note, impact)

    def restore(self, slug: str, number: int, revision: int) -> SiteRecord:
        """Put a version in place again, as a new one; nothing is ever removed."""
        version = self._store.version(slug, number)
        impact = in_words(self._comparisons.between(slug, None, number))
        good = not self._maps.compiled(version.text, version.files).stops
        record = self._store.restore(slug, number, revision, good, impact)
        self._folders.put(record)
        return record

    def folder_problem(self, site: SiteRecord) -> FolderProblem | None:
        """Why a site and its folder are not the same; None where they are, and for a site without a folder."""
        return self._folders.problem(site)

    def decide_folder(self, slug: str, choice: str) -> None:
        """What becomes of a site whose folder is gone, or is another than before: one of the choices of its
        ``FolderProblem``. Raises ``UsageError`` where the folder cannot be read or written."""
        decide = {
            "write": self._folders.write_anew,
            "take": self._folders.take_over,
            "part": self._folders.part,
        }
        if choice in decide:
            decide[choice](self._store.get(slug))


def _bytes_of(files: Mapping[str, bytes | None]) -> int:
    return sum(len(data or b"") for data in files.values())
