"""What a home page tells search engines: the site, and who is behind it, as schema.org data."""

from __future__ import annotations

import json
from typing import Any

from markupsafe import Markup

from basilica.core.content.assets import Assets
from basilica.core.language.sections.part_words import IDENTITY
from basilica.core.plan import Plan
from basilica.core.shared.facts import telephone


def site_data(plan: Plan, assets: Assets) -> Markup:
    """The data that `head: data` asks for, in a form that cannot end the script element it stands in; empty for none,
    and without a base."""
    wanted, home = plan.site.head.data, plan.addresses.canonical(plan.site.home) if plan.site.home else None
    if not wanted or home is None:
        return Markup("")
    made = {"site": _site, "organisation": _organisation}
    found = [made[word](plan, assets, home) for word in wanted]
    said = found[0] if len(found) == 1 else {"@graph": found}
    text = json.dumps({"@context": "https://schema.org", **said}, ensure_ascii=False, separators=(",", ":"))
    return Markup(text.replace("<", "\\u003c"))


def _site(plan: Plan, _: Assets, home: str) -> dict[str, Any]:
    site = plan.site
    return {"@type": "WebSite", "name": site.name, "url": home, "inLanguage": site.language}


def _organisation(plan: Plan, assets: Assets, home: str) -> dict[str, Any]:
    """Whoever is behind the site, with what the first part of the kind `contact` says."""
    site = plan.site
    found: dict[str, Any] = {"@type": "Organization", "name": site.name, "url": home}
    identity = site.parts.get(IDENTITY)
    picture = (identity.value("picture") if identity else "") or site.head.icon
    if picture and picture in assets:
        found["logo"] = plan.addresses.full(assets.path(picture))
    contact = next((part for part in site.parts.values() if part.kind == "contact"), None)
    if contact is not None:
        said = {
            "telephone": telephone(contact.value("telephone")) if contact.value("telephone") else "",
            "email": contact.value("mail"),
            "address": ", ".join(line.strip() for line in contact.value("place").splitlines() if line.strip()),
        }
        found |= {word: value for word, value in said.items() if value}
    return found
