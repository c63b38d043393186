"""The Header workspace: what a header does, drawn and worked out; its settings, tried and written to the map."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from flask import Blueprint, Response, current_app, flash, jsonify, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.drawing.scroll_timeline import draw, draw_trace, over_time
from basilica.core.edits import EditRejected, header_words
from basilica.core.edits.commands.set_header import SetHeader
from basilica.core.header import Viewport, simulate
from basilica.core.header.header_plan import ROW
from basilica.core.header.presets import HEADER_PRESETS, preset_values
from basilica.core.header.scroll_traces import TRACES
from basilica.core.header.viewport_share import SCREENS
from basilica.core.pipeline import Compiled
from basilica.core.plan import Plan
from basilica.store.records import Conflict, SiteRecord
from basilica.web.context import previews, site_services
from basilica.web.header.view_model import HeaderView, fields, header_view, own_header
from basilica.web.values import text_in, whole_number

blueprint = Blueprint("header", __name__, template_folder="templates", url_prefix="/sites/<slug>/header")

DRAWING, STRIP = 176, 84
"""Heights of the elevation, and of a trace along time, in their own px."""
WIDTHS = {1: 620, 2: 310}
"""Their width, by how many stand side by side."""
_SCREEN = 5  # a laptop
_MOST_POINTS = 4_000
_DEEPEST = 1_000_000
_PAGE = 2_400
"""How high a page is taken to be, CSS px, until one has been looked at."""


@dataclass(frozen=True, slots=True)
class HeaderQuery:
    """What the workspace is asked to show: a page, whose settings they are (``whole``: the site's), which windows'
    (``mobile``), and in what window (by its place in ``SCREENS``)."""

    key: str
    whole: bool
    mobile: bool
    screen: int

    @classmethod
    def of(cls, data: Any, plan: Plan) -> HeaderQuery:
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


@blueprint.get("")
def show(slug: str) -> str:
    """The header of one page, as the newest good text has it."""
    return _page(site_services().open(slug), request.args, {}, "")


@blueprint.post("")
def write(slug: str) -> BaseResponse | tuple[str, int]:
    """Write the settings that were changed into the map, all of them or none."""
    services = site_services()
    site = services.open(slug)
    compiled = services.compiled(site.text, site)
    typed = request.form.to_dict()
    still = " What you typed is still here."
    if compiled.plan is None or compiled.stops:
        return _page(site, request.args, typed, "The map has errors, so nothing was written." + still), 422
    query = HeaderQuery.of(request.args, compiled.plan)
    start = HEADER_PRESETS.get(request.form.get("start", ""))
    if start:
        typed = preset_values(start, header_words(not query.whole, query.mobile))
    try:
        text, written = _tried(site, site.text, query, typed)
        if written:
            services.save(slug, text, request.form.get("revision", -1, type=int), True)
            flash(written)  # type: ignore[arg-type]
    except EditRejected as refused:
        return _page(site, request.args, typed, str(refused) + still), 422
    except Conflict:
        message = "The site was changed meanwhile, so nothing was written." + still
        return _page(services.open(slug), request.args, typed, message), 409
    return redirect(url_for("header.show", slug=slug, **query.query), 303)  # type: ignore[arg-type]


@blueprint.post("/look")
def look(slug: str) -> Response | tuple[Response, int]:
    """What the settings that are being tried do: drawn, worked out, and ready to be seen in the frame."""
    services = site_services()
    site = services.sites.get(slug)
    data = request.get_json(silent=True)
    good = _good(site)
    if not isinstance(data, dict) or good is None or good.plan is None:
        return jsonify(message="There is nothing to look at: the map has errors."), 422
    query = HeaderQuery.of(data, good.plan)
    sent = data.get("form")
    form = {name: text_in(sent, name) for name in sent} if isinstance(sent, dict) else {}
    text, message = _good_text(site), ""
    try:
        text, _ = _tried(site, text, query, form)
    except EditRejected as refused:
        message = str(refused)
    token = text_in(data, "token")
    if previews().site(token) == slug:
        previews().try_out(token, text if text != _good_text(site) else None)
    tried = services.compiled(text, site)
    assert tried.plan is not None
    view = header_view(tried, query.key, *query.window)
    viewport = _viewport(data.get("scene"), view, query)
    trace = _trace(data.get("trace"), view, viewport)
    plans = [("As set here" if text != _good_text(site) else "As the map has it", view)]
    if text != _good_text(site):
        plans.insert(0, ("As the map has it", header_view(good, query.key, *query.window)))
    return jsonify(
        message=message,
        tried=text != _good_text(site),
        trace=trace,
        elevation=render_template(
            "header/_elevation.html", drawn=[_drawn(*each, viewport, trace, WIDTHS[len(plans)]) for each in plans]
        ),
        facts=render_template("header/_facts.html", view=view, plan=tried.plan, site=site),
        fields=render_template(
            "header/_holds.html", groups=fields(view, tried.plan, query.at, query.mobile), screens=SCREENS
        ),
    )


@blueprint.post("/moment")
def frame(slug: str) -> Response | tuple[Response, int]:
    """Where the header is after a way through the page."""
    services = site_services()
    site = services.sites.get(slug)
    data = request.get_json(silent=True)
    if not isinstance(data, dict):
        return jsonify(message="Nothing was asked."), 422
    token = text_in(data, "token")
    tried = previews().tried(token) if previews().site(token) == slug else None
    compiled = services.compiled(tried or _good_text(site), site)
    if compiled.plan is None or compiled.stops:
        return jsonify(message="The map has errors."), 422
    query = HeaderQuery.of(data, compiled.plan)
    view = header_view(compiled, query.key, *query.window)
    viewport = _viewport(data.get("scene"), view, query)
    asked = data.get("path")
    path = _points([[at, depth] for at, depth in enumerate(asked if isinstance(asked, list) else [])])
    now = simulate(view.settings, viewport, path or [(0, 0)])[-1]
    shown = render_template("header/_moment.html", now=now, view=view, viewport=viewport)
    return jsonify(shown=shown, state=now.state, top=now.top, height=now.height)


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
    compiled = site_services().compiled(_good_text(site), site)
    return None if compiled.plan is None or compiled.stops else compiled


def _good_text(site: SiteRecord) -> str:
    return site.last_valid_text if site_services().compiled(site.text, site).stops else site.text


def _tried(site: SiteRecord, text: str, query: HeaderQuery, form: dict[str, str]) -> tuple[str, list[str]]:
    """The text with the settings of a form in it, and the words that are other now. Raises ``EditRejected``."""
    services = site_services()
    compiled = services.compiled(text, site)
    assert compiled.plan is not None
    own = own_header(compiled.plan, query.at)
    now = dict(own.mobile if query.mobile else own.own)
    known = [word for word in header_words(not query.whole, query.mobile) if word in form]
    written = [word for word in known if " ".join(form[word].split()) != str(now.get(word, ""))]
    text = services.edit(site, text, *(SetHeader(word, form[word], query.at, query.mobile) for word in written)).text
    return text, written


def _viewport(data: Any, view: HeaderView, query: HeaderQuery) -> Viewport:
    """What the frame has told of the page, or a page as pages are."""
    told = data if isinstance(data, dict) else {}

    def length(name: str, plain: float) -> float:
        value = told.get(name)
        good = isinstance(value, int | float) and not isinstance(value, bool) and 0 <= value <= _DEEPEST
        return float(value) if good else plain

    row = ROW if view.cell.row else length("row", 0)
    return Viewport(length("page", _PAGE), length("window", query.window[1]), row, length("reach", 0))


def _points(data: Any) -> list[tuple[float, float]]:
    """The points of a trace that somebody sent: times that go on, and depths."""
    found: list[tuple[float, float]] = []
    for point in data[-_MOST_POINTS:] if isinstance(data, list) else []:
        good = isinstance(point, list) and len(point) == 2 and all(type(value) in (int, float) for value in point)
        if good and all(abs(value) <= _DEEPEST for value in point) and (not found or point[0] >= found[-1][0]):
            found.append((float(point[0]), float(point[1])))
    return found


def _trace(data: Any, view: HeaderView, viewport: Viewport) -> list[list[float]]:
    if isinstance(data, str) and data in TRACES:
        points = list(TRACES[data][1](view.settings, max(viewport.page - viewport.window, 0)))
    else:
        points = _points(data)
    return [[time, depth] for time, depth in points]


def _page(site: SiteRecord, arguments: Any, typed: dict[str, str], problem: str) -> str:
    """The workspace, with what was ``typed`` in its form."""
    good = _good(site)
    if good is None or good.plan is None:
        return render_template("header/show.html", site=site, plan=None)
    plan = good.plan
    query = HeaderQuery.of(arguments, plan)
    view = header_view(good, query.key, *query.window)
    viewport = _viewport(None, view, query)
    trace = _trace(arguments.get("trace"), view, viewport)
    token = previews().open(site.slug)
    return render_template(
        "header/show.html",
        site=site,
        plan=plan,
        current=_good_text(site) == site.text,
        query=query,
        view=view,
        groups=fields(view, plan, query.at, query.mobile),
        typed=typed,
        problem=problem,
        screens=SCREENS,
        starts=HEADER_PRESETS,
        traces=TRACES,
        viewport=viewport,
        drawn=[_drawn("As the map has it", view, viewport, trace, WIDTHS[1])],
        now=simulate(view.settings, viewport, [(0, 0)])[0],
        state={
            "token": token,
            "root": f"{current_app.config['PREVIEW_ORIGIN']}/{token}",
            "path": plan.routes[query.key].path,
            "window": query.window,
            "starts": {
                name: preset_values(start, header_words(not query.whole, query.mobile))
                for name, start in HEADER_PRESETS.items()
            },
            **query.query,
        },
    )
