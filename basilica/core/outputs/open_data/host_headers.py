"""The headers that a host sends with a site, in the forms of the usual servers: how long what is fetched holds, and
what pages may load, worked out from the pages themselves."""

from __future__ import annotations

import base64
import hashlib
import re
from collections.abc import Callable, Iterable, Mapping
from urllib.parse import urlsplit

from selectolax.lexbor import LexborHTMLParser, LexborNode

STAMPED = r"^/assets/.*\.[0-9a-f]{10}\.[a-z0-9]+$"
"""Files whose name has a hash of what they hold."""
FOR_EVER, ASKED = "public, max-age=31536000, immutable", "no-cache"
"""What holds for ever (RFC 8246), and what is asked for again each time (RFC 9111, 5.2.2.4)."""

_LOADS = {
    "script": ("script-src", "src"),
    "img": ("img-src", "src"),
    "source": ("img-src", "srcset"),
    "iframe": ("frame-src", "src"),
    "video": ("media-src", "src"),
    "audio": ("media-src", "src"),
    "form": ("form-action", "action"),
    "object": ("object-src", "data"),
}
_ASKING = ", ".join((*_LOADS, "style", "link", "[style]"))
_DATA_BLOCKS = ("application/ld+json", "application/json", "speculationrules", "importmap")


def content_policy(pages: Iterable[bytes], speaks_to: Iterable[str] = ()) -> str:
    """What the pages of a site may load (Content Security Policy 3), so that all that they do load is allowed and
    nothing else. ``speaks_to`` are other hosts that their scripts ask."""
    found: dict[str, dict[str, None]] = {
        "default-src": {"'none'": None},
        "script-src": {"'self'": None, "'inline-speculation-rules'": None},
        "style-src": {"'self'": None},
        "img-src": {"'self'": None, "data:": None},
        "font-src": {"'self'": None},
        "connect-src": {"'self'": None, **{f"https://{host}": None for host in speaks_to}},
        "manifest-src": {"'self'": None},
        "form-action": {"'self'": None},
        "base-uri": {"'none'": None},
        "frame-ancestors": {"'self'": None},
    }
    for page in pages:
        for node in LexborHTMLParser(page).css(
            "script, style, link, img, source, iframe, video, audio, form, object, [style]"
        ):
            for directive, source in _asks(node):
                found.setdefault(directive, {"'self'": None} if directive.endswith("-src") else {})[source] = None
    return "; ".join(f"{directive} {' '.join(sources)}" for directive, sources in found.items())


def _asks(node: LexborNode) -> Iterable[tuple[str, str]]:
    """The directives that an element needs, each with what it has to allow."""
    tag, attributes = node.tag or "", node.attributes
    kind = (attributes.get("type") or "").lower()
    if tag == "script" and "src" not in attributes and kind not in _DATA_BLOCKS:
        yield "script-src", _hash(node.text(deep=True))
    elif tag == "style":
        yield "style-src", _hash(node.text(deep=True))
    elif tag == "link" and "stylesheet" in (attributes.get("rel") or "").lower().split():
        yield from _origin("style-src", attributes.get("href"))
    elif tag in _LOADS:
        directive, name = _LOADS[tag]
        for each in (attributes.get(name) or "").split(",") if name == "srcset" else [attributes.get(name)]:
            yield from _origin(directive, each)
    if attributes.get("style"):
        yield "style-src", "'unsafe-inline'"


def _origin(directive: str, address: str | None) -> Iterable[tuple[str, str]]:
    parts = urlsplit((address or "").strip().split(" ")[0])
    if parts.netloc:
        yield directive, f"{parts.scheme or 'https'}://{parts.netloc}"
    elif parts.scheme in ("data", "blob"):
        yield directive, f"{parts.scheme}:"


def _hash(text: str) -> str:
    return f"'sha256-{base64.b64encode(hashlib.sha256(text.encode()).digest()).decode()}'"


def _headers(policy: str) -> tuple[tuple[str, str], ...]:
    return (
        ("Content-Security-Policy", policy),
        ("X-Content-Type-Options", "nosniff"),
        ("Referrer-Policy", "strict-origin-when-cross-origin"),
    )


def nginx(policy: str, prefix: str) -> str:
    """For nginx, to be included in a `server` block (module ngx_http_headers_module). A `location` with headers of its
    own takes none from around it, so all stand in it again."""
    always = [f'add_header {name} "{value}" always;' for name, value in _headers(policy)]
    lines = [
        "# In the server block: include headers.nginx.conf;",
        f'add_header Cache-Control "{ASKED}" always;',
        *always,
        f'location ~ "{_stamped(prefix)}" {{',
        f'  add_header Cache-Control "{FOR_EVER}" always;',
        *(f"  {line}" for line in always),
        "}",
    ]
    return "\n".join(lines) + "\n"


def apache(policy: str, prefix: str) -> str:
    """For Apache, in a virtual host or an `.htaccess` (module mod_headers)."""
    lines = [
        "# In the virtual host: Include headers.apache.conf; or the same in .htaccess.",
        f'Header always set Cache-Control "{ASKED}"',
        *(f'Header always set {name} "{value}"' for name, value in _headers(policy)),
        f'<If "%{{REQUEST_URI}} =~ m#{_stamped(prefix)}#">',
        f'  Header always set Cache-Control "{FOR_EVER}"',
        "</If>",
    ]
    return "\n".join(lines) + "\n"


def _stamped(prefix: str) -> str:
    return STAMPED.replace("^/", f"^{re.escape(prefix)}/", 1)


HOST_HEADERS: Mapping[str, Callable[[str, str], str]] = {"headers.nginx.conf": nginx, "headers.apache.conf": apache}
"""By the name of the file, each form, given the policy and the path under which the site lives."""
