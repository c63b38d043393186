"""The files beside the pages: sitemap, robots, redirects, and the style sheet and script of the navigation."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any
from urllib.parse import quote

from rcssmin import cssmin
from rjsmin import jsmin

from basilica.core.content.assets import FOLDER, Assets, stamped
from basilica.core.outputs.static_site.language_links import alternates
from basilica.core.outputs.static_site.redirect_lists import REDIRECT_LISTS
from basilica.core.outputs.static_site.style_layers import parted
from basilica.core.outputs.static_site.stylesheet import ROOTS, style_and_script
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.plan import Plan, Redirect
from basilica.core.shared.css_text import css_string
from basilica.core.shared.enhanced_markup import CODE_COLOURS, CODE_NAMES
from basilica.core.shared.fonts import FONTS, FontFile, font_files

ROBOTS, SITEMAP = "robots.txt", "sitemap.xml"
STYLE, SCRIPT, OWN_STYLE = "assets/navigation.css", "assets/navigation.js", "assets/site.css"
CONTENT_STYLE = "assets/content.css"
_SMALLER: dict[str, Callable[[str], str]] = {STYLE: cssmin, CONTENT_STYLE: cssmin, SCRIPT: jsmin}
_COMMENT = re.compile(r"^ *//.*\n| +//.*$", re.MULTILINE)
SITEMAP_ADDRESSES = 50_000
"""The most addresses in one sitemap (sitemaps.org protocol 0.9)."""


def navigation_files(
    plan: Plan, assets: Assets, inlaid: frozenset[str] | None = None, stamps: bool = True
) -> dict[str, bytes]:
    """The style sheet and the script of the navigation, the letters of the theme, and the site's own style sheet where
    the map has one. Where these are for regions that are ``inlaid`` in pages of somebody else, only what those need;
    ``stamps`` tells whether their names will have stamps."""
    context = style_and_script(plan, inlaid)
    wanted = [STYLE] if inlaid is None or not inlaid.isdisjoint(ROOTS) else []
    wanted += [SCRIPT] if context["header"] else []
    made = {name: environment().get_template(name.rpartition("/")[2]).render(context) for name in wanted}
    if inlaid is None:
        words = {"code_names": CODE_NAMES, "code_colours": CODE_COLOURS}
        made[CONTENT_STYLE] = parted(environment().get_template("content.css").render(words))
    fonts = _fonts(plan) if inlaid is None else ()
    if STYLE in made:
        faces = _shipped_faces(plan.site.theme.shown_font, fonts, stamps)
        made[STYLE] = faces + _faces(plan, assets) + parted(made[STYLE])
        if context["transitions"]:
            made[STYLE] += "@media (prefers-reduced-motion: no-preference) { @view-transition { navigation: auto; } }\n"
    if SCRIPT in made:
        made[SCRIPT] = _COMMENT.sub("", made[SCRIPT])
    if plan.site.head.minify:
        made = {name: _SMALLER[name](text) for name, text in made.items()}
    files = {name: text.encode() for name, text in made.items()}
    files |= {f"{FOLDER}/{font.name}": font.data for font in fonts}
    if plan.site.theme.css:
        files[OWN_STYLE] = plan.site.theme.css.encode()
    return files


def _fonts(plan: Plan) -> tuple[FontFile, ...]:
    return font_files(plan.site.theme.shown_font, plan.site.language)


def preloaded(plan: Plan) -> str:
    """The font of which a page asks at once, so that its first line is in these letters; empty for none."""
    fonts = _fonts(plan)
    return f"{FOLDER}/{fonts[-1].name}" if fonts else ""


def _shipped_faces(name: str, fonts: tuple[FontFile, ...], stamps: bool) -> str:
    """The letters of a font that ships, part by part. What comes last is asked first."""
    faces = ""
    for font in fonts:
        address = stamped(font.name, font.data) if stamps else font.name
        characters = f" unicode-range: {font.characters};" if font.characters else ""
        faces += (
            f'@font-face {{ font-family: "{FONTS[name].family}"; font-weight: 300 800; src: url({address});'
            f" font-display: optional;{characters} }}\n"
        )
    return faces


def _faces(plan: Plan, assets: Assets) -> str:
    """The letters that the map names. `optional`: text is never moved by letters that come late."""
    faces = ""
    for family, name in plan.site.head.fonts:
        path = quote(assets.path(name).removeprefix("assets/"))
        faces += f"@font-face {{ font-family: {css_string(family)}; src: url({path}); font-display: optional; }}\n"
    return faces


def sitemap_addresses(plan: Plan) -> list[tuple[str, str]]:
    """The full address of every page that belongs in the sitemap, and the day on which it was last changed, if the map
    says it."""
    listed = [key for key, page in plan.site.pages.items() if "sitemap" not in page.options.hidden]
    listed = [key for key in listed if key in plan.routes and key not in plan.drafts]
    listed = [
        key for key in listed if not plan.routes[key].parameters and not plan.site.pages[key].options.extra.noindex
    ]
    dates = {key: plan.site.pages[key].options.extra for key in listed}
    found = [(plan.addresses.canonical(key) or "", dates[key].updated or dates[key].date) for key in listed]
    others = [other for tag, other in plan.languages.items() if tag != plan.site.language and plan.site.is_first]
    own = (one for other in others for one in sitemap_addresses(other))
    return [*found, *(one for one in own if one not in found)]


def sitemaps(plan: Plan, most: int = SITEMAP_ADDRESSES) -> dict[str, bytes]:
    """The sitemap; past so many addresses several, and an index of these (sitemaps.org protocol 0.9)."""
    addresses = sitemap_addresses(plan)
    template = environment().get_template(SITEMAP)
    told = (alternates(plan, key) for key in plan.site.pages if plan.languages)
    by_address = {address: each for each in told for _, address in each}
    if len(addresses) <= most:
        return {SITEMAP: template.render(addresses=addresses, alternates=by_address).encode()}
    files = {}
    for number, start in enumerate(range(0, len(addresses), most), 1):
        part = addresses[start : start + most]
        files[f"sitemap-{number}.xml"] = template.render(addresses=part, alternates=by_address).encode()
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
