"""What the Header workspace is asked and told."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import msgspec
from flask import request

from basilica.core.diff.field_merge import FieldMerge, merge_fields
from basilica.core.edits import header_words
from basilica.core.edits.commands.set_header import SetHeader
from basilica.core.header.presets import HEADER_PRESETS, preset_values
from basilica.core.header.viewport_share import SCREENS
from basilica.core.plan import Plan
from basilica.web.forms import OneLine, seen_in
from basilica.web.header.view_model import own_header
from basilica.web.merged_form import MergedForm
from basilica.web.values import whole_number

_SCREEN = 5  # a laptop


@dataclass(frozen=True, slots=True)
class HeaderQuery:
    """What the workspace is asked to show: a page, whose settings they are (``whole``: the site's), which windows'
    (``mobile``), and in what window (by its place in ``SCREENS``)."""

    key: str
    whole: bool
    mobile: bool
    screen: int

    @classmethod
    def of(cls, data: Mapping[str, Any], plan: Plan) -> HeaderQuery:
        """From the query of an address, or what a browser sent."""
        key = data.get("page")
        screen = whole_number(data.get("screen"))
        return cls(
            key if isinstance(key, str) and key in plan.routes else plan.site.home or next(iter(plan.routes)),
            data.get("for") != "page",
            data.get("windows") == "mobile",
            screen if screen is not None and 0 <= screen < len(SCREENS) else _SCREEN,
        )

    @property
    def at(self) -> str | None:
        """The page whose own settings are written; None for the site's."""
        return None if self.whole else self.key

    @property
    def window(self) -> tuple[int, int]:
        """Width and height of the window, CSS px."""
        return SCREENS[self.screen][1:]

    @property
    def query(self) -> dict[str, str]:
        """The same as the query of an address."""
        which = {"for": "" if self.whole else "page", "windows": "mobile" if self.mobile else ""}
        return {"page": self.key, "screen": str(self.screen), **{name: value for name, value in which.items() if value}}

    def now(self, plan: Plan) -> dict[str, str]:
        """The settings here as the map has them, by word."""
        own = own_header(plan, self.at)
        written = dict(own.mobile if self.mobile else own.own)
        return {word: str(written.get(word, "")) for word in header_words(not self.whole, self.mobile)}

    def sent(self, plan: Plan, values: Mapping[str, str]) -> dict[str, str]:
        """The settings here among the ``values`` of a form, by word."""
        return {word: " ".join(values[word].split()) for word in self.now(plan) if word in values}

    def merged(self, plan: Plan, form: HeaderSettings) -> FieldMerge[str]:
        """The settings of a form merged with those of the map."""
        return form.merged(self.sent(plan, form.values_for(self)), self.now(plan))

    def edits(self, values: Mapping[str, str]) -> list[SetHeader]:
        """The edits that write some of the settings here."""
        return [SetHeader(word, value, self.at, self.mobile) for word, value in values.items()]

    def tried(self, plan: Plan, values: Mapping[str, str], seen: Mapping[str, Any]) -> list[SetHeader]:
        """The edits that show what was changed since it was ``seen``; other words are left."""
        return self.edits(merge_fields(self.sent(plan, values), seen, self.now(plan)).changed)


class HeaderSettings(MergedForm):
    """The settings of a header, each under its word; or a preset to ``start`` from."""

    start = OneLine(default="")

    def values_for(self, query: HeaderQuery) -> dict[str, str]:
        """The value of each setting, by word."""
        preset = HEADER_PRESETS.get(self.start.data)
        return preset_values(preset, header_words(not query.whole, query.mobile)) if preset else request.form.to_dict()


class FrameSizes(msgspec.Struct):
    """The page in the frame, as it told: heights in CSS px."""

    page: float | None = None
    window: float | None = None
    row: float | None = None
    reach: float | None = None


class Look(msgspec.Struct):
    """What is looked at, with settings that are being tried, and a way through the page: the name of a trace, or
    points of time and depth (``trace``); for one moment, the depths that were passed (``path``)."""

    token: str = ""
    page: str | None = None
    screen: str | int | None = None
    scope: str | None = msgspec.field(default=None, name="for")
    windows: str | None = None
    sizes: FrameSizes | None = None
    form: dict[str, str] = {}
    """The fields as they are, by name; what they were when the form was opened is below `seen`."""
    trace: str | list[list[float]] | None = None
    path: list[float] = []

    @property
    def seen(self) -> dict[str, Any]:
        """What the fields were when the form was opened, by name."""
        return seen_in(self.form.get("seen", ""))

    def query(self, plan: Plan) -> HeaderQuery:
        """The same as a query."""
        asked = {"page": self.page, "screen": self.screen, "for": self.scope, "windows": self.windows}
        return HeaderQuery.of(asked, plan)
