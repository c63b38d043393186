"""The style of a site's addresses is changed."""

from __future__ import annotations

from dataclasses import replace

from basilica.core.edits.command import Command, EditInProgress, EditRejected
from basilica.core.map.schema.sections import SITE
from basilica.core.map.site import Site

_URLS = next(word for word in SITE if word.name == "urls")
ADDRESS_STYLES = _URLS.values


class SetAddressStyle(Command, frozen=True, tag="set-address-style"):
    """Another style of addresses for the whole site: `folders`, `files` or `bare`."""

    urls: str

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        if self.urls not in _URLS.values:
            raise EditRejected(f"There is no style of addresses `{self.urls}`. Nothing was changed.")
        work.text.set_under(None, ("site",), "urls", self.urls if self.urls != _URLS.default else None)
        work.site = replace(work.site, urls=self.urls)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Set the style of addresses to {self.urls}"
