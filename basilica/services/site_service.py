"""Sites as people work on them: opened, edited, saved, and brought together with their folders."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping

from basilica.core.diff import in_words
from basilica.core.diff.merge import Merged, merge
from basilica.core.edits import Command, EditRejected
from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Contents, following
from basilica.services.comparisons import Comparisons
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.folder_sync import FolderProblem, FolderSync
from basilica.services.known_addresses import KnownAddresses
from basilica.store.contents import Moves
from basilica.store.errors import UsageError
from basilica.store.records import NO_CHANGES, Conflict, FileChange, FileChanges, SiteRecord
from basilica.store.sites import Sites
from basilica.store.undo_steps import ContentBefore, Step, TakeBack, UndoSteps

MOST_WORDS = 200
"""Characters of the words of a step."""
_CHANGED_SINCE = "This was changed since, so it cannot be undone from here. History has every version."


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
        self._steps = UndoSteps(store.database)

    def open(self, slug: str) -> SiteRecord:
        """A site as it stands; for one of a folder, as that stands."""
        return self._folders.look(self._store.get(slug))

    def save(
        self, slug: str, text: str, revision: int, moves: Moves = (), changed: FileChanges = NO_CHANGES
    ) -> SiteRecord:
        """Save the text that is being worked on, with the files beside it that are ``changed``, all of it or nothing.
        Content goes along with its pages, as ``moves`` say; a page that is back under its old key, however it came to
        be gone, finds its text again; and what links to pages that have another key follows them."""
        saving = self._saving(self._store.get(slug), text, revision, moves, changed)
        return self._folders.change(self._store.get(slug), saving)

    def type(self, slug: str, text: str, revision: int, moves: Moves, changed: FileChanges, words: str) -> SiteRecord:
        """Save the text that is being worked on, as ``save`` does, as a step that ``words`` name: typing is one step
        until something else is done."""
        was = self._store.get(slug)
        saving, back = self._saving(was, text, revision, moves, changed), _undoing(was.text, moves, changed, {})
        return self._step(slug, words, saving, lambda: back, typed=True)

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
        site, files = self.open(slug), files or {}
        if site.revision != revision:
            raise Conflict(site)
        if not self._maps.is_good(site):
            raise EditRejected("The map has errors, so nothing was written.")
        beside = self._maps.files(site).replaced(files)
        edited = self._maps.edit(beside, site.text, *commands, keeping=self._addresses.keeping(slug, keep))
        changed = {name: FileChange(beside.get(name), data) for name, data in edited.files.items()}
        moves = edited.moves(self._maps.compiled(site.text, beside))
        is_edited = edited.text != site.text or bool(edited.files)
        if not files and not is_edited:
            return len(edited.redirected)
        saving = self._saving(site, edited.text, revision, moves, changed, beside)

        def save_all() -> SiteRecord:
            record = self._store.put_files(slug, files) if files else site
            return saving() if is_edited else record

        def back() -> TakeBack:
            return _undoing(site.text, moves if is_edited else (), changed, self._there_of(slug, files))

        self._step(slug, edited.words, save_all, back)
        return len(edited.redirected)

    def _saving(
        self,
        was: SiteRecord,
        text: str,
        revision: int,
        moves: Moves,
        changed: FileChanges,
        there: Files | None = None,
    ) -> Callable[[], SiteRecord]:
        """What saves a text in place of that of a site as it ``was``, with ``there`` beside it."""
        there = self._maps.files(was) if there is None else there
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

        return lambda: self._store.save(was.slug, text, revision, not compiled.stops, moves, rewrite, changed)

    def _step(
        self, slug: str, words: str, act: Callable[[], SiteRecord], back: Callable[[], TakeBack], typed: bool = False
    ) -> SiteRecord:
        """Do something to a site in one transaction with the step that takes it ``back``, and then in its folder."""

        def one() -> SiteRecord:
            was, how = self._store.get(slug), back()
            site = act()
            self._steps.remember(was, site, words[:MOST_WORDS], how, typed)
            return site

        return self._folders.change(self._store.get(slug), one)

    def last_step(self, site: SiteRecord) -> Step | None:
        """The last thing that happened to a site, where it can be taken back."""
        return self._steps.last(site)

    def undo(self, slug: str, after: str, others: bool = False) -> str:
        """Take the last thing that was done to a site back (edits, content, or files), by the state ``after`` it, and
        give its words. Raises ``UsageError`` where something came after it, and where another person did it, unless
        the steps of ``others`` are meant too."""
        site = self.open(slug)
        last = self._steps.last(site)
        how = self._steps.how(last) if last is not None and last.after == after else None
        if last is None or how is None:
            raise UsageError(_CHANGED_SINCE)
        if not last.is_own and not others:
            raise UsageError(f"The last step is another person's: {last.words}. It comes after yours, if you did any.")

        saving = None
        if how.text is not None:
            saving = self._saving(site, how.text, site.revision, how.moves, how.changed)

        def take_back() -> SiteRecord:
            record = self._store.get(slug)
            if self._steps.last(record) != last:  # somebody, or the folder, was quicker
                raise UsageError(_CHANGED_SINCE)
            if saving is not None:
                record = saving()
            if how.files:
                record = self._store.put_files(slug, how.files)
            for was in how.contents:
                known = self._store.contents(slug).get(was.key)
                record = self._store.write(slug, was.key, was.text, known.text if known else "", was.suffix)
            self._steps.drop(last)
            return record

        self._folders.change(site, take_back)
        return last.words

    def write_merged(
        self, slug: str, key: str, text: str, was: str, suffix: str | None = None, typed: bool = False
    ) -> tuple[SiteRecord, str]:
        """Save the content of a page as ``write`` does, put together with what somebody else saved since it ``was``,
        and give what was saved. Raises ``ContentConflict`` where both changed the same lines."""
        while True:
            try:
                return self.write(slug, key, text, was, suffix, typed), text
            except Conflict as conflict:
                known = self._store.contents(slug).get(key)
                theirs = known.text if known is not None else ""
                merged = merge(was, text, theirs)
                if merged.collisions:
                    raise ContentConflict(conflict.current, theirs, merged) from conflict
                text, was = merged.text, theirs

    def write(
        self, slug: str, key: str, text: str, was: str, suffix: str | None = None, typed: bool = False
    ) -> SiteRecord:
        """Save the content of a page, as ``Sites.write`` does. What is ``typed``, and saved by itself, is one step with
        what was typed before it."""

        def back() -> TakeBack:
            return TakeBack(contents=[_content_before(self._store.contents(slug), key)])

        return self._step(
            slug,
            f"Wrote the content of {key}",
            lambda: self._store.write(slug, key, text, was, suffix),
            back,
            typed,
        )

    def copy_content(self, slug: str, source: str, target: str) -> int:
        """Copy the content of a page, in every language and for every slot, to a page that has none of it yet. Returns
        how many texts were copied."""
        contents = self._store.contents(slug)
        copies = {
            to: contents[key]
            for key in contents
            if key.partition(".")[0] == source and (to := target + key.removeprefix(source)) not in contents
        }

        def copy_all() -> SiteRecord:
            for to, copy in copies.items():
                self._store.write(slug, to, copy.text, "", copy.name.rpartition(".")[2])
            return self._store.get(slug)

        back = TakeBack(contents=[_content_before(contents, to) for to in copies])
        self._step(slug, f"Copied the content of {source} to {target}", copy_all, lambda: back)
        return len(copies)

    def put_file(self, slug: str, name: str, data: bytes | None, was: str | None) -> SiteRecord:
        """Put a file beside the map, or take one away (None), where ``was`` is there, as ``Sites.put_files`` does."""
        return self.put_files(slug, {name: data}, was)

    def put_files(self, slug: str, files: Mapping[str, bytes | None], was: str | None = None) -> SiteRecord:
        """Put files beside the map, or take them away (None), all of them or none, as ``Sites.put_files`` does."""
        words = ", ".join(f"{'Deleted' if data is None else 'Saved'} {name}" for name, data in files.items())
        return self._step(
            slug,
            words,
            lambda: self._store.put_files(slug, files, was),
            lambda: TakeBack(files=self._there_of(slug, files)),
        )

    def _there_of(self, slug: str, names: Collection[str]) -> dict[str, bytes | None]:
        there = self._store.files(slug) if names else {}
        return {name: there.get(name) for name in names}

    def save_version(self, slug: str, revision: int, note: str) -> SiteRecord:
        """Keep the current site as a version, with what it changes in words."""
        impact = in_words(self._comparisons.since_version(self.open(slug)))
        return self._store.save_version(slug, revision, note, impact)

    def restore(self, slug: str, number: int, revision: int) -> SiteRecord:
        """Put a version in place again, as a new one; nothing is ever removed."""
        version = self._store.version(slug, number)
        impact = in_words(self._comparisons.between(slug, None, number))
        good = not self._maps.compiled(version.text, version.files).stops
        return self._folders.change(
            self._store.get(slug), lambda: self._store.restore(slug, number, revision, good, impact)
        )

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


def _content_before(contents: Contents, key: str) -> ContentBefore:
    """What takes a change of the content of a page back to what it is in ``contents``."""
    before = contents.get(key)
    if before is None:
        return ContentBefore(key=key, text="", suffix=None)
    return ContentBefore(key=key, text=before.text, suffix=before.name.rpartition(".")[2])


def _undoing(text: str, moves: Moves, changed: FileChanges, files: Mapping[str, bytes | None]) -> TakeBack:
    """What takes a change of a map back, whose ``text``, and whose ``files``, were those before it."""
    return TakeBack(
        text=text,
        moves=[(new, old) for old, new in moves if new is not None],
        changed={name: FileChange(one.now, one.was) for name, one in changed.items()},
        files=dict(files),
    )
