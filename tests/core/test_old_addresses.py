"""Addresses of an old site, in the forms in which people have them, held against a map."""

from __future__ import annotations

import csv
import io
import json
import re
from pathlib import Path
from urllib.parse import urljoin

import pytest
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.build import build
from basilica.core.exchange import address_lists
from basilica.core.exchange.address_lists import read_addresses
from basilica.core.plan.old_addresses import Answer, OldAddresses
from tests.core.help import compiled, markdown, planned, texts
from tests.test_cli import run

ADDRESSES = ("/", "/prices.htm", "/index.php?id=3", "/old%20page.html", "/visit/hours/")
LOG = '203.0.113.7 - - [01/Feb/2026:10:00:00 +0000] "{} {} HTTP/1.1" {} 512 "-" "x"\n'
FORMS = {
    "list": "# the old site\n" + "\n".join(ADDRESSES) + "\n/prices.htm\n",
    "with its host": "\r\n".join(f"https://old.example{each}#top" for each in ADDRESSES),
    "table": "Title;URL;Hits\n" + "".join(f'"A; b";http://www.old.example{each};7\n' for each in ADDRESSES),
    "table without headings": "".join(f"{each},301\n" for each in ADDRESSES),
    "sitemap": '<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">'
    + "".join(f"<url><loc>https://old.example{each}</loc></url>" for each in ADDRESSES)
    + "</urlset>",
    "log": "".join(LOG.format("GET", each, 200) for each in ADDRESSES)
    + LOG.format("GET", "/wp-login.php", 404)
    + LOG.format("POST", "/send", 200)
    + LOG.format("HEAD", "/prices.htm", 304),
}


@pytest.mark.parametrize("form", FORMS)
def test_all_forms_say_the_same(form: str) -> None:
    """sitemaps.org protocol 0.9; RFC 4180; the common log format of Apache httpd (from memory)."""
    assert read_addresses(FORMS[form]) == (ADDRESSES, False)


def test_a_list_that_is_too_long_says_so(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(address_lists, "OLD_ADDRESSES", 3)
    assert read_addresses("/a\n/b\n/a\n/c\n") == (("/a", "/b", "/c"), False)
    assert read_addresses("/a\n/b\n/c\n/d\n") == (("/a", "/b", "/c"), True)


@given(st.text(max_size=60) | st.text(st.sampled_from('<loc/>,;\t"\n GET HTTP1.'), max_size=60))
def test_any_text_is_read(text: str) -> None:
    assert all(each.startswith("/") for each in read_addresses(text).addresses)


MAP = """site: {name: X, base: 'https://x.example'}
pages:
  home: {path: /}
  visit: {title: Plan your visit, was: [/besuch.htm, /visit.htm], pages: {hours: Opening hours, access: }}
  mill: {title: How the mill works, path: /MillWorks.htm, also: /mill/}
  shop: {path: /shop/, kind: backend}
  lot: {path: '/lots/{id}/', kind: backend}
redirects: {/flyer.pdf: gone, '/index.php?id=3': visit, /news: https://news.example/}
"""


@pytest.mark.parametrize(
    ("address", "answer", "target"),
    [
        ("/", "same", "home"),
        ("/visit/", "same", "visit"),
        ("/visit/index.html", "same", "visit"),
        ("/MillWorks.htm", "same", "mill"),
        ("/shop/", "same", "shop"),
        ("/mill/", "same", "mill"),
        ("/robots.txt", "same", ""),
        ("/lots/7/", "same", "lot"),
        ("/visit", "redirect", "/visit/"),
        ("/besuch.htm?utm=1", "redirect", "/visit/"),
        ("/index.php?id=3", "redirect", "/visit/"),
        ("/news", "redirect", "https://news.example/"),
        ("/flyer.pdf", "gone", ""),
        ("/index.php", "nowhere", None),
        ("/Opening_Hours.html", "nowhere", "visit/hours"),
        ("/de/openingHours.asp", "nowhere", "visit/hours"),
        ("/access-for-all.php", "nowhere", "visit/access"),
        ("/how-the-mill-works/", "nowhere", "mill"),
        ("/zebra.htm", "nowhere", None),
        ("/logo.gif", "nowhere", None),
        ("/a\\b", "nowhere", None),
    ],
)
def test_what_an_address_answers(address: str, answer: str, target: str | None) -> None:
    (found,) = OldAddresses(planned(MAP), {"robots.txt"}).look_up([address])
    assert (found.answer, found.nearest if answer == "nowhere" else found.target) == (answer, target)
    assert found.steps == (1 if found.answer is Answer.REDIRECT else 0)


FURTHER = """site: {{name: X, base: 'https://x.example/mill', links: {}, languages: [en, cy]}}
pages:
  home: {{path: /, title: X, cy: X}}
  visit:
    title: Visit
    also: [/v/, /so/deep.html, /visit/index.html]
    cy: {{title: Ymweld, path: ymweld, also: /cy/y}}
  mill: {{title: Mill, was: /m/}}
"""


LINK = re.compile(r'<(?:a|script)[^>]* (?:href|src)="([^"]+)"')


@pytest.mark.parametrize("links", ["document", "file", "root", "absolute"])
def test_a_page_is_the_same_at_its_further_addresses(links: str) -> None:
    """RFC 6596: a copy names the canonical address. Links are resolved as RFC 3986, 5.2 says."""
    text = "[Mill](page:mill) [here](#a)\n\n## A {#a}"
    built = build(compiled(FURTHER.format(links)), markdown(visit=text))
    files = texts(built.files)
    assert not [finding for finding in built.findings if finding.level == "error"]
    for page, own, address, copy in (
        ("/mill/visit/", "visit/index.html", "/mill/v/", "v/index.html"),
        ("/mill/visit/", "visit/index.html", "/mill/so/deep.html", "so/deep.html"),
        ("/mill/cy/ymweld/", "cy/ymweld/index.html", "/mill/cy/y/", "cy/y/index.html"),
    ):
        at = address if links != "file" else f"/mill/{copy}"
        assert f'<link rel="canonical" href="https://x.example{page}">' in files[copy]
        there = [urljoin(f"https://x.example{page}", href) for href in LINK.findall(files[own])]
        here = [urljoin(f"https://x.example{at}", href) for href in LINK.findall(files[copy])]
        assert [url.replace(f"{at}#", f"{page}#") for url in here] == there
    assert "so/" not in files["sitemap.xml"] and "/v/" not in files["redirects.csv"] and "/m/" in files["redirects.csv"]


BESIDE = "The further address {} of the page `visit` cannot serve the page: the page `{}` is there."
NOT_BUILT = "`also` has no effect for the page `visit`, which Basilica does not build."
TAKEN = "The old address /v/ of the page `visit` cannot lead on: another further address, of the page `visit`, is"


@pytest.mark.parametrize(
    ("words", "said"),
    [
        ("also: /flour/", BESIDE.format("/flour/", "flour")),
        ("also: /flour", BESIDE.format("/flour", "flour")),
        ("also: /visit/", BESIDE.format("/visit/", "visit")),
        ("also: '/v?a=1'", "The further address of the page `visit` has a query."),
        ("also: /v.pdf", "The further address of the page `visit` ends like another kind of file than a page."),
        ("also: /v/, was: /v/", TAKEN + " there."),
        (
            "also: /v, kind: backend, path: /x/",
            "`also` has no effect for the page `visit`, which Basilica does not build.",
        ),
    ],
)
def test_a_further_address_that_cannot_be_is_said(words: str, said: str) -> None:
    found = compiled(f"site: {{name: X}}\npages:\n  home: {{path: /}}\n  visit: {{{words}}}\n  flour: Flour\n")
    assert said in [finding.message for finding in found.findings]


@pytest.mark.long
def test_an_old_site_is_replaced_from_the_command_line(tmp_path: Path) -> None:
    site, old = tmp_path / "site.yaml", tmp_path / "old.csv"
    site.write_text(MAP)
    old.write_text("url\nhttps://old.example/visit/\nhttps://old.example/OpeningHours.htm\nhttps://old.example/zebra\n")
    done = run("addresses", site, "--old", old)
    assert done.returncode == 1 and "is most like the page visit/hours" in done.stdout and site.read_text() == MAP
    assert "3 addresses: 1 same, 2 nowhere." in done.stderr
    assert run("addresses", site, "--old", old, "--write").returncode == 1
    assert "was: /OpeningHours.htm" in site.read_text()
    rows = json.loads(run("addresses", site, "--old", old, "--format", "json").stdout)
    assert [row["answer"] for row in rows] == ["same", "redirect", "nowhere"]
    table = list(csv.DictReader(io.StringIO(run("addresses", site, "--old", old, "--format", "csv").stdout)))
    assert [row["target"] for row in table] == ["visit", "/visit/hours/", ""]
    old.write_text("/visit/\n")
    assert run("addresses", site, "--old", old).returncode == 0
    old.write_text("\n")
    assert run("addresses", site, "--old", old).returncode == 2
    assert run("addresses", site, "--old", tmp_path).returncode == 2
