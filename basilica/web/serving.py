"""Serving the application and, at an origin of its own, the previews."""

from __future__ import annotations

import logging
import threading
from dataclasses import dataclass
from ipaddress import ip_address
from pathlib import Path
from urllib.parse import urlsplit

import click
from waitress.server import create_server

from basilica.store.errors import UsageError
from basilica.store.password import Password
from basilica.store.session_key import session_key
from basilica.store.sites import Sites
from basilica.store.sync import sites_in
from basilica.web.app import UPLOAD_BYTES, ApplicationSettings, create_app
from basilica.web.demo import load_demo
from basilica.web.preview.server import create_preview_app
from basilica.web.preview.sessions import Sessions
from basilica.web.security import LOOPBACK
from basilica.web.services import SiteServices


@dataclass(frozen=True, slots=True)
class Address:
    """Where the application listens, and how browsers reach it. ``origin`` and ``preview_origin`` are those that
    browsers see behind a proxy; None where there is none."""

    host: str
    port: int
    preview_port: int
    origin: str | None = None
    preview_origin: str | None = None
    allowed_hosts: tuple[str, ...] = ()

    @property
    def _named(self) -> str:
        return f"[{self.host}]" if ":" in self.host else self.host

    @property
    def _is_any(self) -> bool:
        return self.host in ("0.0.0.0", "::", "")

    @property
    def seen(self) -> str:
        """The application's origin as browsers see it."""
        return self.origin or f"http://{self._seen_name}:{self.port}"

    @property
    def seen_previews(self) -> str:
        """The previews' origin as browsers see it."""
        return self.preview_origin or f"http://{self._seen_name}:{self.preview_port}"

    @property
    def _seen_name(self) -> str:
        return self.allowed_hosts[0] if self._is_any and self.allowed_hosts else self._named

    @property
    def names(self) -> frozenset[str]:
        """The host names that are answered."""
        named = [urlsplit(origin).hostname or "" for origin in (self.origin, self.preview_origin) if origin]
        own = () if self._is_any else (self._named,)
        return LOOPBACK | {name.lower() for name in (*self.allowed_hosts, *named, *own) if name}

    @property
    def is_open(self) -> bool:
        """Whether others than the person at this machine can reach it."""
        try:
            is_loopback = ip_address(self.host).is_loopback
        except ValueError:
            is_loopback = self.host == "localhost"
        others = self.names - LOOPBACK - {self._named}
        return not is_loopback or bool(others)

    def check(self) -> None:
        """Raises ``UsageError`` where browsers could not follow it."""
        if (self.origin is None) != (self.preview_origin is None):
            raise UsageError(
                "Behind a proxy both --origin and --preview-origin are needed, each an address of its own."
            )
        if self._is_any and not self.allowed_hosts and not self.origin:
            raise UsageError(
                f"{self.host} is every address of this machine. Name the one that browsers use: --allowed-host."
            )
        if self.origin and urlsplit(self.origin).netloc == urlsplit(self.preview_origin or "").netloc:
            raise UsageError("--origin and --preview-origin are the same; previews need an address of their own.")


def serve(address: Address, data: Path, demo: bool, folders: tuple[Path, ...] = ()) -> None:
    """Serve until interrupted. Raises ``UsageError`` where a port or the folder cannot be used, and where others could
    reach it without a password."""
    address.check()
    password = Password(data)
    if address.is_open and not password.mark:
        raise UsageError(
            "Others than you could reach this, and there is no password. Set one with `basilica password"
            f"{'' if data == Path('instance') else f' --data {data}'}`, or listen on 127.0.0.1 alone."
        )
    try:
        store = Sites(data)
    except OSError as error:
        raise UsageError(f"{data} cannot be written to: {error.strerror}.") from error
    if demo:
        load_demo(store)
    sessions, services = Sessions(), SiteServices(store)
    for folder in folders:
        for site in sites_in(folder):
            services.folders.adopt(site)
    secure = address.seen.startswith("https:")
    asked = password if address.is_open else None
    settings = ApplicationSettings(address.seen_previews, address.names, asked, secure, address.seen, session_key(data))
    app = create_app(services, sessions, settings)
    previews = create_preview_app(services, sessions, address.seen_previews, address.names)
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    servers = []
    for application, at in ((app, address.port), (previews, address.preview_port)):
        try:
            # What is too large is refused by its length, before it is read.
            most = {"max_request_body_size": UPLOAD_BYTES}
            servers.append(create_server(application, host=address.host, port=at, threads=8, ident=None, **most))
        except OSError as error:
            raise UsageError(
                f"Port {at} on {address.host} cannot be used: {error.strerror}. Choose others with --port and"
                " --preview-port."
            ) from error
    if address.is_open and not secure:
        click.echo(
            "Warning: the password and all pages are sent in clear. Put it behind a proxy that speaks https.", err=True
        )
    click.echo(f"Basilica is at {address.seen}/ and its previews are at {address.seen_previews}/. Stop it with Ctrl+C.")
    threading.Thread(target=servers[1].run, daemon=True).start()
    servers[0].run()
