"""All redirects as a table, and in the forms of the usual web servers, to be included in what these are told.

An old address is compared letter for letter: the path as the server decodes it, and the query where it has one. A query
of another kind, such as that of a campaign, goes along to the new address.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Mapping
from urllib.parse import unquote, unquote_to_bytes

from basilica.core.plan import Plan, Redirect, every_redirect

_SPECIAL = re.compile(r"[.^$*+?()\[\]{}|]")


def redirect_target(plan: Plan, redirect: Redirect) -> str:
    """Where an old address leads, as a server says it; empty where it is gone."""
    if redirect.key is None:
        return redirect.url
    return plan.addresses.to_page(redirect.key, None, redirect.fragment)


def table(plan: Plan) -> str:
    """Every redirect as a line of comma-separated values (RFC 4180): from, to, status."""
    target = io.StringIO()
    writer = csv.writer(target)
    writer.writerow(("from", "to", "status"))
    writer.writerows(
        (own.addresses.old(each), redirect_target(own, each), each.status) for own, each in every_redirect(plan)
    )
    return target.getvalue()


def nginx(plan: Plan) -> str:
    """For nginx, to be included in a `server` block (module ngx_http_rewrite_module, core directive `location`)."""
    lines = ["# Redirects of old addresses. In the server block: include redirects.nginx.conf;"]
    for own, redirect in _queries_first(plan):
        if not _is_text(redirect.path):
            lines.append(f"# Left out, since it cannot be written here: {own.addresses.old(redirect)}")
            continue
        old, to = own.addresses.old(redirect), redirect_target(own, redirect)
        returns = "return 410;"
        if not redirect.is_gone:
            address, mark, fragment = to.replace("$", "%24").partition("#")
            carried = "" if redirect.query or "?" in address else "$is_args$args"
            returns = f'return 301 "{address}{carried}{mark}{fragment}";'
        if redirect.query:
            asked = _SPECIAL.sub(r"\\\g<0>", old).replace('"', r"\"")
            lines.append(f'if ($request_uri ~ "^{asked}$") {{ {returns} }}')
        else:
            lines.append(f'location = "{_quoted(unquote(old))}" {{ {returns} }}')
    return "\n".join(lines) + "\n"


def apache(plan: Plan) -> str:
    """For Apache, in a virtual host or an `.htaccess` (module mod_rewrite)."""
    lines = [
        "# Redirects of old addresses. In the virtual host: Include redirects.apache.conf; or the same in .htaccess.",
        "RewriteEngine On",
    ]
    for own, redirect in _queries_first(plan):
        path = unquote(own.addresses.old(redirect).partition("?")[0])
        asked = [_argument(f"={text}") for text in (path, redirect.query) if text]
        if not _is_text(redirect.path) or None in asked:
            lines.append(f"# Left out, since it cannot be written here: {own.addresses.old(redirect)}")
            continue
        lines += [f"RewriteCond %{{{what}}} {text}" for what, text in zip(_ASKED, asked, strict=False)]
        if redirect.is_gone:
            lines.append('RewriteRule "^" "-" [G,L]')
            continue
        to = redirect_target(own, redirect)
        drop = ",QSD" if redirect.query or "#" in to else ""
        to = to.replace("%", r"\%").replace("$", r"\$")
        lines.append(f'RewriteRule "^" "{to}" [R=301,L,NE{drop}]')
    return "\n".join(lines) + "\n"


def _is_text(path: str) -> bool:
    """Whether the decoded path can be written into a list, which is text: servers compare what they decoded."""
    try:
        unquote_to_bytes(path).decode()
    except UnicodeDecodeError:
        return False
    return True


_ASKED = ("REQUEST_URI", "QUERY_STRING")
"""What Apache knows of what was asked for: the decoded path, and the query as it came."""


def _argument(text: str) -> str | None:
    """A text as one argument of Apache's mod_rewrite, which takes it between quotation marks of either kind and undoes
    no escapes; None for a text that has both kinds, or a backslash before a space."""
    mark = next((mark for mark in "\"'" if mark not in text), None)
    return f"{mark}{text}{mark}" if mark is not None and "\\ " not in text else None


def _quoted(text: str) -> str:
    """A text as nginx takes it between quotation marks."""
    return text.replace("\\", "\\\\").replace('"', r"\"")


def _queries_first(plan: Plan) -> list[tuple[Plan, Redirect]]:
    """The redirects in the order in which a server has to try them, each with the plan of its language."""
    return sorted(every_redirect(plan), key=lambda each: not each[1].query)


REDIRECT_LISTS: Mapping[str, Callable[[Plan], str]] = {
    "redirects.csv": table,
    "redirects.nginx.conf": nginx,
    "redirects.apache.conf": apache,
}
"""By the name of the file, each form in which all redirects are told."""
