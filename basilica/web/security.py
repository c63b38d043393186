"""Who may ask for what: host names, origins, tokens, and what a page of the application may load."""

from __future__ import annotations

import secrets
from urllib.parse import urlsplit

from flask import Flask, Response, abort, g, request
from flask_wtf.csrf import CSRFProtect

SAFE = ("GET", "HEAD", "OPTIONS")


def host_allowed(host: str, allowed: frozenset[str]) -> bool:
    """Whether a ``Host`` header names this machine: a foreign name that leads here is turned away."""
    name = host.rpartition(":")[0] if host.rpartition(":")[2].isdigit() else host
    return name.lower() in allowed


def same_origin(one: str, other: str) -> bool:
    """Whether two addresses have the same scheme, host and port (RFC 6454, 5)."""
    return urlsplit(one)[:2] == urlsplit(other)[:2]


def protect(app: Flask, allowed_hosts: frozenset[str], preview_origin: str, own_origin: str = "") -> None:
    """Put the guards in front of every request, and the policy behind every answer. ``own_origin`` is the application's
    as browsers see it, where a proxy is between them; else it is that of each request."""

    @app.before_request
    def _guard() -> None:
        g.nonce = secrets.token_urlsafe(16)
        if not host_allowed(request.headers.get("Host", ""), allowed_hosts):
            abort(
                400,
                "Basilica does not answer to this host name. Use 127.0.0.1, or start it with --allowed-host.",
            )
        if request.method in SAFE:
            return
        origin = request.headers.get("Origin")
        site = request.headers.get("Sec-Fetch-Site", "same-origin")
        own = own_origin or f"{request.scheme}://{request.host}"
        if site not in ("same-origin", "none") or (origin and not same_origin(origin, own)):
            abort(403, "This change was asked for by another site, so it was not made.")

    CSRFProtect(app)  # its guard comes after this one

    @app.after_request
    def _policy(response: Response) -> Response:
        nonce = g.get("nonce", "")
        response.headers["Content-Security-Policy"] = "; ".join(
            (
                "default-src 'none'",
                "script-src 'self'",
                f"style-src 'self' 'nonce-{nonce}'",
                "img-src 'self' data:",
                "font-src 'self'",
                "connect-src 'self'",
                f"frame-src {' '.join((preview_origin, *g.get('framed', ())))}",
                "form-action 'self'",
                "base-uri 'none'",
                "frame-ancestors 'none'",
            )
        )
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "same-origin"
        response.headers["Cross-Origin-Opener-Policy"] = "same-origin"
        if request.endpoint != "static":
            response.headers["Cache-Control"] = "no-store"
        return response
