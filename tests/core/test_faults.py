"""Three hundred random sites: each holds, and a fault put into one of its pages is found there, by its check."""

from __future__ import annotations

import random
import re
from collections.abc import Callable

import pytest

from basilica.core.build import verify
from basilica.core.compile import compile_map
from basilica.core.findings import audit
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Contents
from basilica.core.shared.output_file import File
from tests.core.help import grave, markdown

SITES = 300
LEAF = re.compile(r'<li>\n<a href="[^"]*">[^<]*</a>\n</li>\n')
Fault = Callable[[str, random.Random], str]


def random_site(chance: random.Random) -> tuple[Plan, Contents]:
    """A tree of eight to twenty pages, in a random style of addresses and of links, each with a link to another."""
    lines, keys, open_pages = [], ["home"], []
    for number in range(chance.randint(8, 20)):
        while open_pages and chance.random() < 0.5:
            open_pages.pop()
        key = "/".join([*open_pages, f"p{number}"])
        keys.append(key)
        pad = "  " * (2 * len(open_pages) + 1)
        lines.append(
            f"{pad}p{number}:\n{pad}  title: Page {number}\n{pad}  description: About {number}\n{pad}  pages:\n"
        )
        if len(open_pages) < 2:
            open_pages.append(f"p{number}")
    urls, links = chance.choice(["folders", "files", "bare"]), chance.choice(["root", "document", "file", "absolute"])
    base = "https://x.example" + chance.choice(["", "/mill"])
    text = (
        f"site: {{name: X, base: '{base}', urls: {urls}, links: {links}}}\n"
        f"pages:\n  home: {{path: /, title: Home, description: All}}\n{''.join(lines)}"
        f"menus:\n  main:\n    auto: {chance.randint(1, 3)}\n"
    )
    plan = compile_map(text).plan
    assert plan is not None, text
    contents = markdown(**{key.replace("/", "__"): f"See [there](page:{chance.choice(keys)}).\n" for key in keys})
    return plan, contents


def _in_menu(change: Callable[[str, random.Random], str]) -> Fault:
    """A fault within the main menu of a page."""

    def fault(page: str, chance: random.Random) -> str:
        start = page.index('<nav class="b-main"')
        end = page.index("</nav>", start)
        return page[:start] + change(page[start:end], chance) + page[end:]

    return fault


def _dropped(menu: str, chance: random.Random) -> str:
    entry = chance.choice(LEAF.findall(menu))
    return menu.replace(entry, "", 1)


def _stale(menu: str, chance: random.Random) -> str:
    entry = chance.choice(LEAF.findall(menu))
    return menu.replace(entry, entry.replace("</a>", " of last year</a>"), 1)


def _marked(menu: str, chance: random.Random) -> str:
    entry = chance.choice(LEAF.findall(menu))
    return menu.replace(entry, entry.replace('">', '" aria-current="page">'), 1)


def _deeper(menu: str, chance: random.Random) -> str:
    entry = chance.choice(LEAF.findall(menu))
    return menu.replace(entry, entry.replace('href="', 'href="down/').replace("down/http", "http/"), 1)


def _swapped(menu: str, chance: random.Random) -> str:
    one, other = chance.choice(re.findall(f"({LEAF.pattern})({LEAF.pattern})", menu))
    return menu.replace(one + other, other + one, 1)


def _dead(page: str, chance: random.Random) -> str:
    start = page.index("<p>See <a ")
    return page[:start] + re.sub('href="[^"]*"', 'href="gone.html"', page[start:], count=1)


def _without_crumb(page: str, chance: random.Random) -> str:
    crumbs = re.search(r'<nav class="b-breadcrumbs".*?</nav>', page, re.DOTALL)
    assert crumbs
    return page.replace(crumbs[0], re.sub(r"<li>.*?</li>\n?", "", crumbs[0], count=1), 1)


FAULTS: dict[str, tuple[Fault, str]] = {
    "a dropped entry": (_in_menu(_dropped), "menu-differs"),
    "a stale label": (_in_menu(_stale), "menu-differs"),
    "a second mark": (_in_menu(_marked), "wrong-current"),
    "a wrong depth": (_in_menu(_deeper), "menu-differs"),
    "a swapped order": (_in_menu(_swapped), "menu-differs"),
    "a dead link": (_dead, "dead-link"),
    "a missing breadcrumb": (_without_crumb, "wrong-breadcrumbs"),
}


@pytest.mark.long
@pytest.mark.parametrize("seeds", [range(start, start + 60) for start in range(0, SITES, 60)], ids=lambda s: str(s[0]))
def test_one_fault_in_a_random_site_is_found_where_it_is(seeds: range) -> None:
    for seed in seeds:
        chance = random.Random(seed)
        plan, contents = random_site(chance)
        files = list(Renderer(plan, contents).files())
        assert grave(verify(files, plan, contents).findings()) == [], seed
        assert not [f for f in audit(files, plan.site.base).findings() if f.level == "error"], seed
        name = list(FAULTS)[seed % len(FAULTS)]
        fault, code = FAULTS[name]
        for _ in range(50):
            key = chance.choice([key for key in plan.routes if key != plan.site.home])
            path = plan.routes[key].file
            page = next(file.data.decode() for file in files if file.path == path)
            try:
                broken = fault(page, chance)
            except IndexError:
                continue  # the menu has nothing of this kind on any page of the site
            break
        else:
            broken = _stale_anywhere(page)
            code = "menu-differs"
        assert broken != page, (seed, name)
        changed = [File(path, broken.encode()) if file.path == path else file for file in files]
        found = grave(verify(changed, plan, contents).findings())
        assert code in {finding.code for finding in found}, (seed, name, path)
        assert {finding.built for finding in found if finding.code == code} == {path}, (seed, name)


def _stale_anywhere(page: str) -> str:
    start = page.index('<nav class="b-main"')
    return page[:start] + page[start:].replace("</a>", " of last year</a>", 1)
