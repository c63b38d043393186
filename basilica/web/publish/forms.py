"""What the Publish workspace is asked."""

from __future__ import annotations

from flask import request

from basilica.store.targets import KINDS, words_of
from basilica.web.forms import BasilicaForm, OneLine, Values


class TargetForm(BasilicaForm):
    """A target: its name, its kind, and a secret that is not kept with it. Its settings come under their own names."""

    name = OneLine(default="")
    kind = OneLine(default="")
    secret = OneLine(default="")
    act = OneLine(default="")
    run = OneLine(default="")

    @property
    def given(self) -> dict[str, str]:
        """The settings that its kind has, as they were filled in."""
        words = [word.name for word in words_of(self.kind.data)] if self.kind.data in KINDS else []
        found = {word: " ".join(request.form.get(f"{self.kind.data}-{word}", "").split()) for word in words}
        return {"kind": self.kind.data, **{word: value for word, value in found.items() if value}}


class ChosenTarget(BasilicaForm):
    """Which target is meant; and of an earlier publish that is to be taken back, its number."""

    target = OneLine(default="")
    earlier = OneLine(default="")


class SendForm(BasilicaForm):
    """What was chosen for a publish: the comparison, which files are overwritten, left or deleted, and words for the
    history."""

    target = OneLine(default="")
    run = OneLine(default="")
    note = OneLine(default="")
    reason = OneLine(default="")
    even_if_busy = OneLine(default="")
    file = OneLine(default="")
    remove = Values()
    deletions = OneLine(default="")

    @property
    def overwritten(self) -> tuple[str, ...]:
        """The files that are written over, though they were edited there."""
        return self._chosen("overwrite")

    @property
    def left(self) -> tuple[str, ...]:
        """The files that stay as they were edited there."""
        return self._chosen("leave")

    @staticmethod
    def of_all(state: str) -> str:
        """What becomes of all files in a state of which nothing else was said: `overwrite`, `leave`, or nothing."""
        chosen = request.form.get(f"all:{state}", "")
        return chosen if chosen in ("overwrite", "leave") else ""

    @staticmethod
    def _chosen(choice: str) -> tuple[str, ...]:
        return tuple(
            name.removeprefix("file:")
            for name, value in request.form.items()
            if name.startswith("file:") and value == choice
        )
