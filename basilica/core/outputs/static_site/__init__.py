"""The static site: a file for every page, the style sheet, the script, the sitemap, and the not-found page."""

from basilica.core.outputs.static_site.site_renderer import Renderer

__all__ = ["Renderer"]
