"""The plain way: one template that loops over the menu for each page. It writes the same bytes."""

from __future__ import annotations

import json
from collections.abc import Iterator

from jinja2 import Environment, FileSystemLoader
from markupsafe import Markup

from basilica.core.plan import Plan
from basilica.core.plan.content_links import Content
from basilica.core.shared.output_file import File

_HERE = __file__.rpartition("/")[0]


class PlainSite:
    """A site rendered page by page, every link and mark worked out in the template."""

    def __init__(self, plan: Plan, contents: dict[str, Content], assets: tuple[str, ...]) -> None:
        """``assets`` are the addresses of the style sheet, the script, and others, with the font among them."""
        self.plan = plan
        self.style, self.script, *others = assets
        self.font = next(address for address in others if address.endswith(".woff2"))
        self.contents = contents
        env = Environment(
            loader=FileSystemLoader(_HERE),
            autoescape=True,
            trim_blocks=True,
            lstrip_blocks=True,
            keep_trailing_newline=True,
        )
        self.template = env.get_template("plain.html")
        main = plan.menus["main"]

        def entry(number: int) -> dict[str, object]:
            planned = main.entries[number]
            items = [entry(item) for item in planned.items]
            keys = {planned.page} | {key for item in items for key in item["keys"]}  # type: ignore[attr-defined]
            return {"number": number, "label": planned.label, "page": planned.page, "items": items, "keys": keys}

        self.menu = [entry(number) for number in main.top]
        self.standing = set(main.page_entries)

    def files(self) -> Iterator[File]:
        """Every page."""
        site = self.plan.site
        for key, page in site.pages.items():
            trail = self.plan.breadcrumbs(key)
            lit = next((above for above in (key, *site.ancestors(key)) if above in self.standing), None)
            data = [
                {
                    "@type": "ListItem",
                    "position": position,
                    "name": level.label,
                    "item": "https://large.example" + self.plan.routes[level.page or key].path,
                }
                for position, level in enumerate(trail, 1)
            ]
            document = {"@context": "https://schema.org", "@type": "BreadcrumbList", "itemListElement": data}
            html = self.template.render(
                style=self.style,
                script=self.script,
                font=self.font,
                site=site,
                page=page,
                routes=self.plan.routes,
                menu=self.menu,
                trail=trail,
                lit=lit,
                current="page" if lit == key else "true",
                data=Markup(json.dumps(document, separators=(",", ":"))) if trail else "",
                body=Markup(self.contents[key].text),
            )
            yield File(self.plan.routes[key].file, html.encode())
