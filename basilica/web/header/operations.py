"""What the Header workspace writes into the map."""

from __future__ import annotations

from flask import flash, request
from werkzeug.wrappers import Response

from basilica.core.diff.field_merge import FieldMerge
from basilica.core.edits.commands.set_header import SetHeader
from basilica.core.plan import Plan
from basilica.store.records import SiteRecord
from basilica.web.header.forms import HeaderQuery, HeaderSettings
from basilica.web.merged_form import write_merged
from basilica.web.workspace import same_place, say_unchanged


def write(slug: str) -> Response:
    """Write the settings that were changed, all of them or none."""
    form = HeaderSettings.sent()

    def edits(_: SiteRecord, plan: Plan) -> tuple[FieldMerge[str], list[SetHeader]]:
        query = HeaderQuery.of(request.args, plan)
        merge = query.merged(plan, form)
        return merge, query.edits(merge.apart)

    _, done = write_merged(slug, form, edits)
    if done:
        words = ", ".join(change.word for change in done if isinstance(change, SetHeader))
        flash(f"Saved {words} to the map.")
    else:
        say_unchanged()
    return same_place(slug)
