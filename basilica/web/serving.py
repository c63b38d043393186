"""Serving the application and, at an origin of its own, the previews."""

from __future__ import annotations

import logging
import signal
import sys
import threading
from pathlib import Path

import click
from flask import Flask
from waitress.server import BaseWSGIServer, create_server

from basilica.services.all_services import Services
from basilica.services.folder_sync import sites_in
from basilica.services.host import Host
from basilica.store.errors import UsageError
from basilica.store.password import Password
from basilica.store.targets import settings_of
from basilica.web.app import create_app
from basilica.web.config import Config
from basilica.web.demo import DEMO_NAME, load_demo
from basilica.web.preview.server import create_preview_app


def serve(config: Config, demo: bool, folders: tuple[Path, ...] = ()) -> None:
    """Serve until interrupted. Raises ``UsageError`` where a port or the folder cannot be used, and where others could
    reach it without a password."""
    config.check()
    if config.is_open and not Password(config.data).mark:
        raise UsageError(
            "Others than you could reach this, and there is no password. Set one with `basilica password --data"
            f" {config.data}`, or listen on 127.0.0.1 alone."
        )
    try:
        services = Services.of(config.data, config.builds_at_once)
    except OSError as error:
        raise UsageError(f"{config.data} cannot be written to: {error.strerror}.") from error
    host = None
    if demo:
        load_demo(services.store)
        host = _demo_host(config, services)
    for folder in folders:
        for site in sites_in(folder):
            services.folders.adopt(site)
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    app, previews = create_app(config, services), create_preview_app(config, services)
    servers = [_listening(app, config, config.port), _listening(previews, config, config.preview_port)]
    if config.is_open and not config.is_secure:
        click.echo(
            "Warning: the password and all pages are sent in clear. Put it behind a proxy that speaks https.", err=True
        )
    click.echo(f"Basilica is at {config.seen}/ and its previews are at {config.seen_previews}/. Stop it with Ctrl+C.")
    click.echo(f"What you make is kept in {config.data.resolve()}.")
    if host is not None:
        click.echo(f"The demo can be published to a host on this machine, which answers at {host.address}/.")
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    threading.Thread(target=servers[1].run, daemon=True).start()
    try:
        servers[0].run()
    finally:
        services.close()  # the database is one complete file from now on


def _demo_host(config: Config, services: Services) -> Host:
    """A host on this machine to which the demo can be published, at the ports behind that of previews, or at others
    where those are taken."""
    folder, port = config.data / "host", config.preview_port
    try:
        host = Host(folder, port + 2, port + 3)
    except OSError:
        host = Host(folder)
    demo = next((site for site in services.store.all() if site.name == DEMO_NAME), None)
    if demo is not None:
        services.publishing.log.put_target(demo.slug, settings_of("live", host.settings()))
    return host


def _listening(app: Flask, config: Config, port: int) -> BaseWSGIServer:
    # What is too large is refused by its length, before it is read.
    most = config.upload_megabytes * 1024 * 1024
    try:
        return create_server(app, host=config.host, port=port, threads=8, ident=None, max_request_body_size=most)
    except OSError as error:
        raise UsageError(
            f"Port {port} on {config.host} cannot be used: {error.strerror}. Choose others with --port and"
            " --preview-port."
        ) from error
