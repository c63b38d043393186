"""The text of a map that begins a site."""

from __future__ import annotations

from basilica.core.map.document.scalar_writer import write_scalar

_BLANK = """\
# The page map of the site. Everything shared is made from here.
{site}
pages:
  home:
    path: /
    title: {name}
    label: Home

menus:
  main:
    - home
"""


def site_section(name: str, language: str = "en", base: str = "") -> str:
    """The section `site:` of a new map."""
    lines = ["site:", f"  name: {write_scalar(name)}"]
    lines += [f"  base: {write_scalar(base)}"] if base else []
    return "\n".join([*lines, f"  language: {write_scalar(language)}", ""])


def blank_map(name: str, language: str = "en", base: str = "") -> str:
    """A map with the home page alone."""
    return _BLANK.format(site=site_section(name, language, base), name=write_scalar(name))
