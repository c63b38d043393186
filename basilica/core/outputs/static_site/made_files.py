"""Files that are made of others: pictures of the icon, the manifest, the pictures of pages that are passed on, and the
feed of dated pages."""

from __future__ import annotations

import json
from functools import cached_property

from basilica.core.content.assets import FOLDER, Assets, stamped
from basilica.core.map.map_files import PUBLIC
from basilica.core.map.site import Page
from basilica.core.map.site.head_reader import AUTO
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.plan import Plan
from basilica.core.shared.svg_pictures import as_png

TOUCH_ICON, MANIFEST, FEED = "apple-touch-icon.png", "site.webmanifest", "feed.xml"
_TOUCH, _ICONS, _ROOM = 180, (192, 512), 0.1
"""How wide the pictures of the icon are (common practice, no source), and the room around it."""
SOCIAL_SIZE = (1200, 630)
"""Width and height of a picture of a page that is passed on (common practice, no source)."""
_ENTRIES = 50
"""Pages in a feed."""


class MadeFiles:
    """What is made for one plan, each file at its path in a build. What lies in `public` under the same name goes
    before it."""

    def __init__(self, plan: Plan, assets: Assets) -> None:
        self._plan, self._assets = plan, assets
        self._head = plan.site.head
        self._ground = plan.site.theme.all_colours()["ground"]

    def __contains__(self, name: object) -> bool:
        return name in self.names

    @cached_property
    def names(self) -> tuple[str, ...]:
        """The paths of all files, known before they are made."""
        found = [TOUCH_ICON] if self._head.touch_icon and self._icon else []
        found += [MANIFEST] if self._head.manifest == AUTO and self._icon else []
        found += [FEED] if self._head.feed and self.dated else []
        kept = [name for name in found if f"{PUBLIC}/{name}" not in self._plan.site.files]
        if MANIFEST in kept:
            kept += self._icons
        return (*kept, *self._social)

    def data(self, name: str) -> bytes:
        """One of them."""
        if name == TOUCH_ICON:
            return self._picture(_TOUCH)
        if name == MANIFEST:
            return self._manifest
        if name == FEED:
            return self._feed
        return self._social[name] if name in self._social else self._icons[name]

    def social(self, picture: str) -> str:
        """Where the picture of a page that is passed on lies in a build: as it is, or, of a drawing, in pixels."""
        if not picture.lower().endswith(".svg"):
            return self._assets.path(picture)
        return next((path for path in self._social if path.startswith(_stem(picture))), self._assets.path(picture))

    @property
    def dated(self) -> tuple[Page, ...]:
        """The pages of the feed, the newest first."""
        plan = self._plan
        found = [plan.site.pages[key] for key in plan.builds() if plan.site.pages[key].options.extra.date]
        if plan.site.base is None:
            return ()
        return tuple(sorted(found, key=lambda page: page.options.extra.date, reverse=True)[:_ENTRIES])

    # How they are made

    @property
    def _icon(self) -> bytes:
        return self._plan.site.files[f"files/{self._head.icon}"] if self._head.icon.lower().endswith(".svg") else b""

    def _picture(self, width: int) -> bytes:
        return as_png(self._icon, width, width, self._ground, _ROOM)

    @cached_property
    def _icons(self) -> dict[str, bytes]:
        """The pictures that the manifest names."""
        made = {f"icon-{width}.png": self._picture(width) for width in _ICONS}
        return {f"{FOLDER}/{stamped(name, data)}": data for name, data in made.items()}

    @cached_property
    def _manifest(self) -> bytes:
        """The site as an application (W3C Web App Manifest)."""
        site, write = self._plan.site, self._plan.addresses
        home = write.rooted("/")
        pictures = zip(self._icons, _ICONS, strict=True)
        said = {
            "name": site.name,
            "lang": site.language,
            "start_url": home,
            "scope": home,
            "display": "browser",
            "background_color": self._ground,
            "theme_color": self._ground,
            "icons": [
                {
                    "src": write.rooted(f"/{name}"),
                    "sizes": f"{width}x{width}",
                    "type": "image/png",
                    "purpose": "any maskable",
                }
                for name, width in pictures
            ],
        }
        return (json.dumps(said, ensure_ascii=False, indent=2) + "\n").encode()

    @cached_property
    def _social(self) -> dict[str, bytes]:
        """The drawings that are shown where pages are passed on, in pixels."""
        plan = self._plan
        shown = [self._head.social.picture]
        shown += [page.options.extra.social.picture for page in plan.site.pages.values() if page.options.extra.social]
        found = {}
        for name in dict.fromkeys(name for name in shown if name.lower().endswith(".svg")):
            data = as_png(plan.site.files[f"files/{name}"], *SOCIAL_SIZE, self._ground)
            found[f"{FOLDER}/{stamped(f'{name[:-4]}-card.png', data)}"] = data
        return found

    @cached_property
    def _feed(self) -> bytes:
        """The dated pages (RFC 4287, The Atom Syndication Format)."""
        plan = self._plan
        entries = [
            {
                "title": page.title,
                "address": plan.addresses.canonical(page.key),
                "published": _timestamp(page.options.extra.date),
                "updated": _timestamp(page.options.extra.updated or page.options.extra.date),
                "summary": page.description or "",
            }
            for page in self.dated
        ]
        newest = max(str(entry["updated"]) for entry in entries)
        shown = environment().get_template(FEED)
        home = plan.addresses.canonical(plan.site.home) if plan.site.home else plan.addresses.full("")
        own = plan.addresses.full(FEED)
        return shown.render(site=plan.site, entries=entries, updated=newest, home=home, own=own).encode()


def _timestamp(day: str) -> str:
    """The beginning of a day (RFC 3339)."""
    return f"{day}T00:00:00Z"


def _stem(picture: str) -> str:
    """What the path of a picture in pixels begins with."""
    return f"{FOLDER}/{picture[:-4]}-card."
