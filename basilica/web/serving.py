"""Serving the application and, at an origin of its own, the previews."""

from __future__ import annotations

import logging
import threading
from pathlib import Path

import click
from waitress.server import create_server

from basilica.store.errors import UsageError
from basilica.store.sites import Sites
from basilica.store.sync import sites_in
from basilica.web.app import UPLOAD_BYTES, ApplicationSettings, create_app
from basilica.web.demo import load_demo
from basilica.web.preview.server import create_preview_app
from basilica.web.preview.sessions import Sessions
from basilica.web.security import LOOPBACK
from basilica.web.services import SiteServices


def serve(
    host: str,
    port: int,
    preview_port: int,
    preview_origin: str | None,
    allowed_host: tuple[str, ...],
    data: Path,
    demo: bool,
    folders: tuple[Path, ...] = (),
) -> None:
    """Serve until interrupted. Raises ``UsageError`` where a port or the folder cannot be used."""
    try:
        store = Sites(data)
    except OSError as error:
        raise UsageError(f"{data} cannot be written to: {error.strerror}.") from error
    if demo:
        load_demo(store)
    named = f"[{host}]" if ":" in host else host
    origin = preview_origin or f"http://{named}:{preview_port}"
    allowed = LOOPBACK | {name.lower() for name in allowed_host}
    sessions, services = Sessions(), SiteServices(store)
    for folder in folders:
        for site in sites_in(folder):
            services.folders.adopt(site)
    app = create_app(services, sessions, ApplicationSettings(origin, allowed))
    previews = create_preview_app(services, sessions, origin, allowed)
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    servers = []
    for application, at in ((app, port), (previews, preview_port)):
        try:
            # What is too large is refused by its length, before it is read.
            most = {"max_request_body_size": UPLOAD_BYTES}
            servers.append(create_server(application, host=host, port=at, threads=8, ident=None, **most))
        except OSError as error:
            raise UsageError(
                f"Port {at} on {host} cannot be used: {error.strerror}. Choose others with --port and --preview-port."
            ) from error
    click.echo(f"Basilica is at http://{named}:{port}/ and its previews are at {origin}/. Stop it with Ctrl+C.")
    threading.Thread(target=servers[1].run, daemon=True).start()
    servers[0].run()
