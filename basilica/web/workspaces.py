"""The workspaces of the application. A new one is a folder, and a line here."""

from __future__ import annotations

from basilica.web.addresses.blueprint import blueprint as addresses
from basilica.web.checks.blueprint import blueprint as checks
from basilica.web.header.blueprint import blueprint as header
from basilica.web.history.blueprint import blueprint as history
from basilica.web.map.blueprint import blueprint as map_
from basilica.web.output.blueprint import blueprint as output
from basilica.web.pages.blueprint import blueprint as pages
from basilica.web.parts.blueprint import blueprint as parts
from basilica.web.preview.blueprint import blueprint as preview
from basilica.web.publish.blueprint import blueprint as publish
from basilica.web.settings.blueprint import blueprint as settings
from basilica.web.sign_in.blueprint import blueprint as sign_in
from basilica.web.site_import.blueprint import blueprint as site_import
from basilica.web.sites.blueprint import blueprint as sites

WORKSPACES = (
    sites,
    site_import,
    map_,
    pages,
    parts,
    header,
    settings,
    preview,
    checks,
    addresses,
    output,
    publish,
    history,
    sign_in,
)
