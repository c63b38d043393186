"""The files beside the pages: sitemap, robots, redirects, and the style sheet and script of the navigation."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from urllib.parse import quote

from basilica.core.outputs.static_site.assets import Assets
from basilica.core.outputs.static_site.redirect_lists import REDIRECT_LISTS
from basilica.core.outputs.static_site.stylesheet import ROOTS, style_and_script
from basilica.core.outputs.static_site.template_environment import css_string, environment
from basilica.core.plan import Plan, Redirect

ROBOTS, SITEMAP = "robots.txt", "sitemap.xml"
STYLE, SCRIPT, OWN_STYLE = "assets/navigation.css", "assets/navigation.js", "assets/site.css"
SITEMAP_ADDRESSES = 50_000
"""The most addresses in one sitemap (sitemaps.org protocol 0.9)."""


def navigation_files(plan: Plan, assets: Assets, inlaid: frozenset[str] | None = None) -> dict[str, bytes]:
    """The style sheet and the script of the navigation, and the site's own style sheet where the map has one. Where
    these are for regions that are ``inlaid`` in pages of somebody else, only what those need."""
    context = style_and_script(plan, inlaid)
    wanted = [STYLE] if inlaid is None or not inlaid.isdisjoint(ROOTS) else []
    wanted += [SCRIPT] if context["header"] else []
    files = {name: environment().get_template(name.rpartition("/")[2]).render(context).encode() for name in wanted}
    if STYLE in files:
        files[STYLE] = _faces(plan, assets).encode() + files[STYLE]
    if plan.site.theme.css:
        files[OWN_STYLE] = plan.site.theme.css.encode()
    return files


def _faces(plan: Plan, assets: Assets) -> str:
    """The letters that the map names. `optional`: text is never moved by letters that come late."""
    faces = ""
    for family, name in plan.site.head.fonts:
        path = quote(assets.path(name).removeprefix("assets/"))
        faces += f"@font-face {{ font-family: {css_string(family)}; src: url({path}); font-display: optional; }}\n"
    return faces


def sitemap_addresses(plan: Plan) -> list[str]:
    """The full address of every page that belongs in the sitemap."""
    listed = [key for key, page in plan.site.pages.items() if "sitemap" not in page.options.hidden]
    listed = [key for key in listed if key in plan.routes and key not in plan.drafts]
    listed = [
        key for key in listed if not plan.routes[key].parameters and not plan.site.pages[key].options.extra.noindex
    ]
    return [plan.addresses.canonical(key) or "" for key in listed]


def sitemaps(plan: Plan, most: int = SITEMAP_ADDRESSES) -> dict[str, bytes]:
    """The sitemap; past so many addresses several, and an index of these (sitemaps.org protocol 0.9)."""
    addresses = sitemap_addresses(plan)
    template = environment().get_template(SITEMAP)
    if len(addresses) <= most:
        return {SITEMAP: template.render(addresses=addresses).encode()}
    files = {}
    for number, start in enumerate(range(0, len(addresses), most), 1):
        files[f"sitemap-{number}.xml"] = template.render(addresses=addresses[start : start + most]).encode()
    index = environment().get_template("sitemap-index.xml")
    full = [plan.addresses.full(name) for name in files]
    return {SITEMAP: index.render(addresses=full).encode(), **files}


def generated_file(plan: Plan, name: str, shared: Mapping[str, Any]) -> bytes:
    """One of the files beside the pages, but for those that pages load."""
    if name in REDIRECT_LISTS:
        return REDIRECT_LISTS[name](plan).encode()
    if name == ROBOTS:
        return environment().get_template(ROBOTS).render(sitemap=plan.addresses.full(SITEMAP)).encode()
    redirect = next((each for each in plan.redirects if each.file == name), None)
    return _redirect(plan, redirect, shared) if redirect else sitemaps(plan)[name]


def _redirect(plan: Plan, redirect: Redirect, shared: Mapping[str, Any]) -> bytes:
    """The page at an old address. It works without a server's help, and search engines take it as moved."""
    to = title = redirect.url
    canonical: str | None = redirect.url
    if redirect.key is not None:
        to = plan.addresses.to_page(redirect.key, redirect.route, redirect.fragment)
        canonical, title = plan.addresses.canonical(redirect.key), plan.site.pages[redirect.key].title
    template = environment().get_template("redirect.html")
    return template.render(shared, to=to, canonical=canonical, title=title).encode()
