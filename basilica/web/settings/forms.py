"""What the Settings workspace is asked and told."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import msgspec
from flask_wtf.file import FileField

from basilica.core.diff.field_merge import FieldMerge
from basilica.core.edits import EditRejected
from basilica.core.edits.commands.set_settings import Setting
from basilica.core.edits.source_patcher import NotHere
from basilica.core.map.site.written_place import not_here
from basilica.core.plan import Plan
from basilica.web.forms import seen_in
from basilica.web.merged_form import MergedForm
from basilica.web.settings.controls import SECTIONS, Control, controls


class SettingsQuery(msgspec.Struct):
    """The section and the page that are looked at."""

    section: str
    page: str

    @classmethod
    def of(cls, arguments: Mapping[str, str], plan: Plan) -> SettingsQuery:
        """From the query of an address."""
        section, page = arguments.get("section", ""), arguments.get("page", "")
        return cls(
            section if section in SECTIONS else "site",
            page if page in plan.routes else plan.site.home or next(iter(plan.routes)),
        )

    @property
    def key(self) -> str | None:
        """The page whose own settings they are; None for the site's."""
        return self.page if self.section == "page" else None

    @property
    def query(self) -> dict[str, str]:
        """The same as the query of an address."""
        return {"section": self.section, "page": self.page}


@dataclass(frozen=True, slots=True)
class SettingsMerge:
    """The settings of a form merged with those of the map: its ``fields`` by the path of each, which for pairs are as
    many as there are names; and by the same, the control of each and its setting."""

    fields: FieldMerge[str]
    changes: Mapping[str, tuple[Control, Setting]]

    @property
    def settings(self) -> tuple[Setting, ...]:
        """Those that can be written without touching what somebody else saved."""
        return tuple(self.changes[name][1] for name in self.fields.apart)

    @property
    def titles(self) -> dict[str, str]:
        """What each field is called on the screen."""
        return {
            name: f"{control.title}: {change.path[-1]}" if control.kind == "pairs" else control.title
            for name, (control, change) in self.changes.items()
        }

    def typed(self, sent: Mapping[str, list[str]]) -> dict[str, list[Any]]:
        """What the controls show that were changed, by name: their values, or rows of name and value, with those of
        somebody else too."""
        found: dict[str, list[Any]] = {}
        pairs: dict[str, dict[str, str]] = {}
        for name in self.fields.typed:
            control, change = self.changes[name]
            if control.kind != "pairs":
                found[control.name] = list(sent.get(control.name, ()))
                continue
            rows = pairs.setdefault(control.name, dict(control.rows))
            rows.pop(change.path[-1], None)
            if change.value:
                rows[change.path[-1]] = str(change.value)
        return found | {name: list(rows.items()) for name, rows in pairs.items()}

    def seen(self) -> dict[str, Any]:
        """What the fields in conflict are compared with if the form is sent again, by the names of their controls."""
        found: dict[str, Any] = {}
        for name in self.fields.theirs:
            control, change = self.changes[name]
            before = self.fields.opened[name]
            if control.kind == "pairs":
                rows = found.setdefault(control.name, dict(control.rows))
                rows.pop(change.path[-1], None)
                found[control.name] |= {change.path[-1]: before} if before else {}
            else:
                found[control.name] = before.split("\n") if control.kind in ("several", "lines") else before or None
        return found


class SettingsForm(MergedForm):
    """The settings of a section; their fields are those of its controls."""

    upload = FileField()

    def merged_with(
        self, groups: Iterable[tuple[str, Sequence[Control]]], sent: Mapping[str, list[str]]
    ) -> SettingsMerge:
        """The settings that were ``sent`` merged with those of the map."""
        seen = self.seen.data
        changes = {
            ".".join(change.path): (control, change)
            for _, inside in groups
            for control in inside
            for change in control.changes(sent, seen)
        }
        typed = {name: text_of(change) for name, (_, change) in changes.items()}
        saved = {name: control.text_at(change.path) for name, (control, change) in changes.items()}
        opened = {name: control.opened(seen).text_at(change.path) for name, (control, change) in changes.items()}
        return SettingsMerge(self.merged(typed, saved, opened if seen else {}), changes)


def text_of(change: Setting) -> str:
    """The value of a setting as one text."""
    return change.value if isinstance(change.value, str) else "\n".join(change.value)


class SettingsTried(msgspec.Struct):
    """Settings that are being tried: the values of a form, by name."""

    token: str = ""
    form: dict[str, list[str]] = {}


def controls_of(query: SettingsQuery, plan: Plan, data: Any) -> list[tuple[str, list[Control]]]:
    """The controls of a section, in groups. Raises ``EditRejected`` for a page that is written elsewhere."""
    try:
        return controls(query.section, plan, data, query.page)
    except NotHere as error:
        raise EditRejected(f"{not_here(plan.site, query.page)}; nothing was changed.") from error


def wanted(query: SettingsQuery, plan: Plan, data: Any, sent: Mapping[str, list[str]]) -> tuple[Setting, ...]:
    """The settings that a form changes: those that are others than they were when it was opened (`seen`)."""
    groups = controls_of(query, plan, data)
    seen = seen_in(next(iter(sent.get("seen", ())), ""))
    return tuple(change for _, inside in groups for control in inside for change in control.changes(sent, seen))
