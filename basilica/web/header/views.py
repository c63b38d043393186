"""The Header workspace: what a header does, drawn and worked out; its settings, tried and written to the map."""

from __future__ import annotations

from typing import Any

from flask import Response, current_app, render_template, request

from basilica.core.compile import Compiled
from basilica.core.drawing.scroll_timeline import draw, draw_trace, draw_window, over_time
from basilica.core.edits import EditRejected, header_words
from basilica.core.header import Viewport, simulate
from basilica.core.header.header_plan import ROW
from basilica.core.header.presets import HEADER_PRESETS, preset_values
from basilica.core.header.scroll_traces import TRACES
from basilica.core.header.viewport_share import SCREENS
from basilica.core.map.site.written_place import written_elsewhere
from basilica.services.preview_sessions import Tried
from basilica.store.records import SiteRecord
from basilica.web.answers import Refusal, answered
from basilica.web.context import services
from basilica.web.forms import STILL
from basilica.web.header.answers import HeaderMoment, HeaderState, TriedHeader
from basilica.web.header.forms import FrameSizes, HeaderQuery, HeaderSettings, Look
from basilica.web.header.view_model import HeaderView, fields, header_view
from basilica.web.merged_form import conflicts_of
from basilica.web.values import body

DRAWING, STRIP = 176, 84
"""Heights of the elevation, and of a trace along time, in their own px."""
WIDTHS = {1: 620, 2: 310}
"""Their width, by how many stand side by side."""
_MOST_POINTS = 4_000
_DEEPEST = 1_000_000
_PAGE = 2_400
"""How high a page is taken to be, CSS px, until one has been looked at."""


def show(slug: str) -> str:
    """The header of one page, as the newest good text has it."""
    return _page(services().sites.open(slug), request.args, None, "")


def refused(slug: str, problem: str) -> str:
    """The workspace with what was typed, and why it was not written."""
    typed = HeaderSettings.unchecked()
    return _page(services().sites.open(slug), request.args, typed, f"{problem} {STILL}")


def look(slug: str) -> Response | tuple[Response, int]:
    """What the settings that are being tried do: drawn, worked out, and ready to be seen in the frame."""
    site, asked = services().store.get(slug), body(Look)
    good, text, message = _good(site), services().maps.good_text(site), ""
    if good is None or good.plan is None:
        return answered(Refusal(message="There is nothing to look at: the map has errors.")), 422
    query, tried, shown = asked.query(good.plan), good, None
    try:
        edited = services().maps.edit(site, text, *query.tried(good.plan, asked.form, asked.seen))
        shown = Tried(edited.text, edited.files) if edited.text != text or edited.files else None
        tried = edited.compiled
    except EditRejected as rejected:
        message = str(rejected)
    sessions = services().previews.sessions
    if sessions.site(asked.token) == slug:
        sessions.try_out(asked.token, shown)
    assert tried.plan is not None
    is_tried = shown is not None
    view = header_view(tried, query.key, *query.window)
    viewport = _viewport(asked.sizes, view, query)
    trace = _trace(asked.trace, view, viewport)
    plans = [("As set here" if is_tried else "As the map has it", view)]
    if is_tried:
        plans.insert(0, ("As the map has it", header_view(good, query.key, *query.window)))
    drawings = [_drawn(*each, viewport, trace, WIDTHS[len(plans)]) for each in plans]
    groups = fields(view, tried.plan, query.at, query.mobile)
    return answered(
        TriedHeader(
            message=message,
            tried=is_tried,
            trace=trace,
            elevation=render_template("header/_elevation.html", drawn=drawings),
            facts=render_template("header/_facts.html", view=view, plan=tried.plan, site=site),
            fields=render_template("header/_holds.html", groups=groups, screens=SCREENS),
        )
    )


def frame(slug: str) -> Response | tuple[Response, int]:
    """Where the header is after a way through the page."""
    site, asked = services().store.get(slug), body(Look)
    sessions = services().previews.sessions
    tried = sessions.tried(asked.token) if sessions.site(asked.token) == slug else None
    tried = tried or Tried(services().maps.good_text(site), {})
    compiled = services().maps.compiled(tried.text, services().maps.files(site).replaced(tried.files))
    if compiled.plan is None or compiled.stops:
        return answered(Refusal(message="The map has errors.")), 422
    query = asked.query(compiled.plan)
    view = header_view(compiled, query.key, *query.window)
    viewport = _viewport(asked.sizes, view, query)
    path = _points([[at, depth] for at, depth in enumerate(asked.path)])
    now = simulate(view.settings, viewport, path or [(0, 0)])[-1]
    shown = render_template("header/_moment.html", now=now, drawn=draw_window(view.cell, viewport, now))
    return answered(HeaderMoment(shown=shown, state=now.state, top=now.top, height=now.height))


def _drawn(title: str, view: HeaderView, viewport: Viewport, trace: list[list[float]], width: int) -> dict[str, Any]:
    """What the drawing of one header needs."""
    moments = simulate(view.settings, viewport, [(time, depth) for time, depth in trace])
    line, turns = draw_trace(view.cell, viewport, width, DRAWING, moments) if moments else ("", ())
    return {
        "title": title,
        "view": view,
        "end": max(viewport.page - viewport.window, 0),
        "elevation": draw(view.cell, viewport, width, DRAWING),
        "line": line,
        "turns": turns,
        "strip": over_time(moments, width, STRIP),
        "strip_size": (width, STRIP),
        "moments": moments,
    }


def _good(site: SiteRecord) -> Compiled | None:
    compiled = services().maps.compiled(services().maps.good_text(site), site)
    return None if compiled.plan is None or compiled.stops else compiled


def _viewport(sizes: FrameSizes | None, view: HeaderView, query: HeaderQuery) -> Viewport:
    """What the frame has told of the page, or a page as pages are."""
    told = sizes or FrameSizes()

    def length(value: float | None, plain: float) -> float:
        return float(value) if value is not None and 0 <= value <= _DEEPEST else plain

    row = ROW if view.cell.row else length(told.row, 0)
    return Viewport(length(told.page, _PAGE), length(told.window, query.window[1]), row, length(told.reach, 0))


def _points(sent: list[list[float]]) -> list[tuple[float, float]]:
    """The points of a trace that somebody sent: times that go on, and depths."""
    found: list[tuple[float, float]] = []
    for point in sent[-_MOST_POINTS:]:
        good = len(point) == 2 and all(abs(value) <= _DEEPEST for value in point)
        if good and (not found or point[0] >= found[-1][0]):
            found.append((point[0], point[1]))
    return found


def _trace(asked: str | list[list[float]] | None, view: HeaderView, viewport: Viewport) -> list[list[float]]:
    """A trace by its name, or its points."""
    if isinstance(asked, str):
        known = TRACES.get(asked)
        points = list(known[1](view.settings, max(viewport.page - viewport.window, 0))) if known else []
    else:
        points = _points(asked or [])
    return [[time, depth] for time, depth in points]


def _page(site: SiteRecord, arguments: Any, form: HeaderSettings | None, problem: str) -> str:
    """The workspace, with what was typed in a ``form`` that was refused."""
    good = _good(site)
    if good is None or good.plan is None:
        return render_template("header/show.html", site=site, plan=None)
    plan = good.plan
    query = HeaderQuery.of(arguments, plan)
    merged = query.merged(plan, form) if form else None
    view = header_view(good, query.key, *query.window)
    viewport = _viewport(None, view, query)
    trace = _trace(arguments.get("trace"), view, viewport)
    token = services().previews.sessions.open(site.slug)
    return render_template(
        "header/show.html",
        site=site,
        plan=plan,
        current=services().maps.is_good(site),
        query=query,
        elsewhere=written_elsewhere(plan.site, query.at) if query.at else None,
        view=view,
        groups=fields(view, plan, query.at, query.mobile),
        typed=merged.typed if merged else {},
        seen=merged.opened if merged else query.now(plan),
        conflicts=conflicts_of(merged) if merged else (),
        problem=problem,
        screens=SCREENS,
        starts=HEADER_PRESETS,
        traces=TRACES,
        viewport=viewport,
        drawn=[_drawn("As the map has it", view, viewport, trace, WIDTHS[1])],
        now=(now := simulate(view.settings, viewport, [(0, 0)])[0]),
        at_rest=draw_window(view.cell, viewport, now),
        state=HeaderState(
            token=token,
            root=f"{current_app.config['PREVIEW_ORIGIN']}/{token}",
            path=plan.routes[query.key].path,
            window=query.window,
            starts={
                name: preset_values(start, header_words(not query.whole, query.mobile))
                for name, start in HEADER_PRESETS.items()
            },
            query=query.query,
        ).plain(),
    )
