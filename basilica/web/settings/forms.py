"""What the Settings workspace is asked and told."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import msgspec
from flask_wtf.file import FileField

from basilica.core.edits import EditRejected
from basilica.core.edits.commands.set_settings import Setting
from basilica.core.edits.source_patcher import NotHere
from basilica.core.map.site.written_place import not_here
from basilica.core.plan import Plan
from basilica.web.forms import AsOpened, BasilicaForm, Revision, seen_in
from basilica.web.settings.controls import SECTIONS, controls


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


class SettingsForm(BasilicaForm):
    """The settings of a section; their fields are those of its controls."""

    revision = Revision(default=-1)
    seen = AsOpened(default=dict)
    upload = FileField()


class SettingsTried(msgspec.Struct):
    """Settings that are being tried: the values of a form, by name."""

    token: str = ""
    form: dict[str, list[str]] = {}


def wanted(query: SettingsQuery, plan: Plan, data: Any, sent: Mapping[str, list[str]]) -> tuple[Setting, ...]:
    """The settings that a form changes: those that are others than they were when it was opened (`seen`)."""
    try:
        groups = controls(query.section, plan, data, query.page)
    except NotHere as error:
        raise EditRejected(f"{not_here(plan.site, query.page)}; nothing was changed.") from error
    seen = seen_in(next(iter(sent.get("seen", ())), ""))
    return tuple(change for _, inside in groups for control in inside for change in control.changes(sent, seen))
