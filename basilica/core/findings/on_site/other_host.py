"""Pages load nothing from other hosts, unless that is wanted."""

from __future__ import annotations

from collections.abc import Iterator
from urllib.parse import urlsplit

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import COMMON, Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """What each page loads from elsewhere. What an `embed` part shows was asked for, as was the script that counts
    visits, and so are the hosts that the map lists."""
    asked = _applies_here(built)
    known: dict[str, str] = {}
    for page in built.pages:
        said = set()
        for load in page.loads():
            url = load.url
            if "//" not in url[:9]:
                continue
            host = known.get(url)
            if host is None:
                target = built.resolver.target(page.file, url)
                host = known[url] = (urlsplit(target.url).hostname or "") if target.outside else ""
            if host and host not in asked and url not in said:
                said.add(url)
                yield Violation(
                    page,
                    f"{page.file} loads `{url[:120]}` from another host.",
                    spot=(f'{load.tag}[src="{url}"]', 0) if '"' not in url and load.tag in ("img", "iframe") else None,
                    written=url,
                )


def _applies_here(built: BuiltSite) -> frozenset[str]:
    if built.plan is None:
        return frozenset()
    site = built.plan.site
    shown = (urlsplit(part.value("url")).hostname for part in site.parts.values() if part.kind == "embed")
    counter = site.head.counter.hosts if site.head.counter is not None else ()
    return frozenset([*site.checks.hosts, *counter, *(host for host in shown if host)])


CHECK = Check(
    code="other-host",
    level=Level.WARNING,
    title="A page that loads from another host",
    why="The other host learns who reads which page, and the page waits for it.",
    standard=COMMON,
    remedy="Put the file into the folder `files`, or add the host to `hosts:` under `checks:`.",
    without_map="Put the file on the site itself, if nobody else need know who reads it.",
    good={
        "index.html": '<img src="wheel.svg" alt="The wheel">',
        "wheel.svg": "<svg xmlns='http://www.w3.org/2000/svg'/>",
    },
    bad='<img src="https://pictures.example/wheel.svg" alt="The wheel">',
    stage=Stage.ANY,
    run=run,
)
