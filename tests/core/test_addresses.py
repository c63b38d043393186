"""Exact file names, and old addresses kept letter for letter: asked of real web servers."""

from __future__ import annotations

import csv
import http.client
import io
import socket
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from urllib.parse import unquote_to_bytes, urljoin, urlsplit

import ada_url
import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.plan import Plan
from basilica.core.plan.redirects import parsed
from tests.browser.conftest import write
from tests.core.help import HOME, built, codes, planned

STYLES = ("folders", "files", "bare")


@pytest.mark.parametrize("urls", STYLES)
@pytest.mark.parametrize(
    ("path", "file", "below"),
    [
        ("/AboutUs.htm", "AboutUs.htm", "AboutUs"),
        ("/shop/index.php", "shop/index.php", "shop"),
        ("Old%20Page.HTML", "Old Page.HTML", "Old Page"),
        ("/a/b.shtml", "a/b.shtml", "a/b"),
        ("/index.htm", "index.htm", ""),
    ],
)
def test_a_file_name_is_that_file_in_every_style(path: str, file: str, below: str, urls: str) -> None:
    text = f"site: {{name: X, urls: {urls}}}\npages:\n  home: {{path: /}}\n  a: {{path: '{path}', pages: {{b: B}}}}\n"
    plan = planned(text)
    assert plan.routes["a"].file == file
    assert plan.routes["a"].path == ada_url.URL(path.strip("/"), base="https://x.example/").pathname
    assert plan.routes["b" if "b" in plan.routes else "a/b"].file.startswith(f"{below}/b" if below else "b")
    assert file in {each.path for each in built(plan)}


@pytest.mark.parametrize("path", ["/release-2.0", "/about.me", "/v1.0/", "/.htm", "/a.html/", "/node.js/"])
def test_other_names_with_a_dot_are_folders(path: str) -> None:
    plan = planned(HOME + f"pages:\n  home: {{path: /}}\n  a: {{path: '{path}'}}\n")
    assert plan.routes["a"].file.endswith("/index.html")


@pytest.mark.parametrize(
    ("pages", "code"),
    [
        ("a: {path: /x.htm}, b: {path: /x.htm}", "address-clash"),
        ("a: {path: /x/index.html}, b: {path: /x/}", "file-clash"),
        ("a: {path: /x.htm}, b: {path: /x.htm/y}", "file-clash"),
        ("a: {path: /x.css}", "not-a-page"),
    ],
)
def test_what_cannot_be_is_a_finding(pages: str, code: str) -> None:
    found = compile_map(f"site: {{name: X}}\npages: {{home: {{path: /}}, {pages}}}\n").findings
    assert code in {finding.code for finding in found}


OLD = """site: {name: X, base: 'https://x.example'}
pages:
  home: {path: /, was: '/?page_id=7'}
  prices: {title: Prices, was: [/prices.htm, '/index.php?id=3&lang=en', '/old prices.html', /Preise/, /tarifs]}
  é: {title: É, path: /été/, was: ['/caf%C3%A9/$a+b;c=(1).htm', '/x.asp', '/p?a=$1&b="2"|3']}
redirects:
  /shop.htm: https://shop.example/new?x=1
  /old-times: prices#times
  /flyer.pdf: gone
  '/search?q=a b': https://find.example/100%25
  '/gone?x=$y': gone
""".replace("  é:", "  ete:")


def served(plan: Plan, folder: Path) -> Path:
    return write(tuple(built(plan)), folder)


@contextmanager
def nginx(root: Path, work: Path) -> Iterator[int]:
    """nginx as Debian has it, on the built site and the rules that came with it."""
    with _port() as port:
        folders = " ".join(
            f"{each}_temp_path {work}/{each};" for each in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
        )
        (work / "nginx.conf").write_text(f"""
user root; pid {work}/nginx.pid; error_log {work}/error.log; daemon off; events {{}}
http {{ access_log off; {folders}
  server {{ listen 127.0.0.1:{port}; root {root}; include {root}/redirects.nginx.conf; }} }}
""")
    with _running(["/usr/sbin/nginx", "-c", f"{work}/nginx.conf"], port, work):
        yield port


@contextmanager
def apache(root: Path, work: Path) -> Iterator[int]:
    """Apache as Debian has it."""
    modules = ("mpm_event", "authz_core", "dir", "rewrite")
    with _port() as port:
        (work / "apache.conf").write_text(
            "".join(f"LoadModule {name}_module /usr/lib/apache2/modules/mod_{name}.so\n" for name in modules)
            + f"Listen 127.0.0.1:{port}\nServerName x.example\nPidFile {work}/apache.pid\nErrorLog {work}/error.log\n"
            + f"DocumentRoot {root}\nDirectoryIndex index.html\n<VirtualHost *:{port}>\nDocumentRoot {root}\n"
            + f"Include {root}/redirects.apache.conf\n</VirtualHost>\n"
        )
    with _running(["/usr/sbin/apache2", "-f", f"{work}/apache.conf", "-DFOREGROUND"], port, work):
        yield port


@contextmanager
def _port() -> Iterator[int]:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        yield free.getsockname()[1]


@contextmanager
def _running(words: list[str], port: int, work: Path) -> Iterator[None]:
    process = subprocess.Popen(words, stdout=subprocess.DEVNULL, stderr=(work / "said").open("w"))
    try:
        while True:
            with socket.socket() as one:
                if one.connect_ex(("127.0.0.1", port)) == 0:
                    break
            assert process.poll() is None, (work / "said").read_text()
            time.sleep(0.05)
        yield
    finally:
        process.terminate()
        process.wait()


def asked(port: int, address: str) -> tuple[int, str]:
    """The status with which a server answers, and the path and query, or the other site, to which it leads."""
    connection = http.client.HTTPConnection("127.0.0.1", port)
    connection.request("GET", address)
    answer = connection.getresponse()
    to = answer.getheader("Location") or ""
    connection.close()
    parts = urlsplit(urljoin(f"http://127.0.0.1:{port}", to))
    return answer.status, parts._replace(scheme="", netloc="").geturl() if parts.port == port and to else to


@pytest.mark.tools
@pytest.mark.parametrize("server", [nginx, apache], ids=["nginx", "Apache"])
def test_every_old_address_is_answered_by_real_servers(server: object, tmp_path: Path) -> None:
    plan = planned(OLD)
    root = served(plan, tmp_path / "site")
    root.chmod(0o755)
    tmp_path.chmod(0o755)
    rows = list(csv.DictReader(io.StringIO((root / "redirects.csv").read_text())))
    assert len(rows) == 14
    with server(root, tmp_path) as port:  # type: ignore[operator]
        for row in rows:
            assert asked(port, row["from"]) == (int(row["status"]), row["to"]), row
        assert asked(port, "/") == (200, "") and asked(port, "/prices/")[0] == 200
        for near in (
            "/prices.htm/x",
            "/PRICES.HTM",
            "/Preise",
            "/index.php?id=3",
            "/index.php",
            "/xtarifs",
            "/tarifs2",
        ):
            assert asked(port, near)[0] in (301, 404) and asked(port, near)[1] in ("", "/Preise/"), near
        assert asked(port, "/prices.htm?campaign=a%20b") == (301, "/prices/?campaign=a%20b")
        assert asked(port, "/?page_id=8")[0] == 200


def test_pages_stand_where_files_can(tmp_path: Path) -> None:
    """A static host without rules: the page there leads on (HTML, the http-equiv attribute, refresh)."""
    root = served(planned(OLD), tmp_path)
    for file, to in {
        "prices.htm": "/prices/",
        "old prices.html": "/prices/",
        "Preise/index.html": "/prices/",
        "tarifs/index.html": "/prices/",
        "café/$a+b;c=(1).htm": "/%C3%A9t%C3%A9/",
        "shop.htm": "https://shop.example/new?x=1",
        "old-times/index.html": "/prices/#times",
    }.items():
        assert f'content="0; url={to}"' in (root / file).read_text(), file
    assert not (root / "x.asp").exists() and not (root / "flyer.pdf").exists() and not (root / "index.php").exists()


ADDRESSES = st.text(st.sampled_from("/aAé .%2?=&#:;+$'\"<>|^`{}[]@!~*()"), max_size=12).map("/{}".format)


@given(ADDRESSES)
def test_an_old_address_is_asked_for_as_browsers_ask(old: str) -> None:
    """WHATWG URL, by `ada-url`: what stands in a map is what a browser sends to the server."""
    path, query, problem = parsed(old, None)
    if problem:
        return
    url = ada_url.URL("https://x.example" + old.strip())
    assert (unquote_to_bytes(path), query) == (unquote_to_bytes(url.pathname), url.search.removeprefix("?"))


@pytest.mark.parametrize(
    ("line", "code"),
    [
        ("/x: nowhere", "unknown-page"),
        ("/x: ftp://x.example", "bad-scheme"),
        ("/x:", "wrong-shape"),
        ("/a/: home", "redirect-clash"),
        ("/: a", "bad-path"),
        ("/404.html: a", "redirect-clash"),
    ],
)
def test_redirects_that_cannot_be_are_findings(line: str, code: str) -> None:
    found = codes(f"site: {{name: X}}\npages: {{home: {{path: /}}, a: A}}\nredirects:\n  {line}\n")
    assert [name for name, _, _ in found] == [code]


def test_a_page_called_gone_can_be_led_to() -> None:
    compiled = compile_map("pages: {home: {path: /}, gone: Gone}\nredirects: {/x: 'page:gone', /y: gone}\n")
    assert compiled.plan is not None
    assert [(each.key, each.status) for each in compiled.plan.redirects] == [("gone", 301), (None, 410)]
