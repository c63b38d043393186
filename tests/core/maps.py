"""Maps made at random, with what they should mean worked out apart from Basilica."""

from __future__ import annotations

from dataclasses import dataclass, field

from hypothesis import strategies as st

IDS = st.from_regex(r"[a-z0-9][a-z0-9-]{0,5}", fullmatch=True).filter(
    lambda text: text not in {"page", "group", "label", "url", "items", "auto", "separator", "assets", "404", "index"}
)
TITLES = st.text(
    st.characters(codec="utf-8", exclude_categories=("Cs", "Cc", "Cn", "Co", "Zl", "Zp")), min_size=1, max_size=12
).filter(lambda text: text.strip() != "")


@dataclass
class RandomPage:
    """A page of a random tree."""

    id: str
    title: str
    pages: list[RandomPage] = field(default_factory=list)


@st.composite
def trees(draw: st.DrawFn, depth: int = 3) -> list[RandomPage]:
    """Pages side by side, with pages under them."""
    ids = draw(st.lists(IDS, unique=True, min_size=1, max_size=4))
    return [
        RandomPage(i, draw(TITLES), draw(trees(depth - 1)) if depth > 1 and draw(st.booleans()) else []) for i in ids
    ]


def keys_of(pages: list[RandomPage], above: str = "") -> list[str]:
    """The keys of a tree, parents first."""
    found = []
    for page in pages:
        key = f"{above}/{page.id}" if above else page.id
        found += [key, *keys_of(page.pages, key)]
    return found


def quoted(text: str) -> str:
    """Text as a YAML scalar in single quotes."""
    return "'" + text.replace("'", "''") + "'"


def write_pages(pages: list[RandomPage], indent: int = 2) -> str:
    """The tree as it stands in a map."""
    lines = []
    for page in pages:
        pad = " " * indent
        lines.append(f"{pad}{page.id}:\n{pad}  title: {quoted(page.title)}\n")
        if page.pages:
            lines.append(f"{pad}  pages:\n{write_pages(page.pages, indent + 4)}")
    return "".join(lines)


@dataclass
class RandomMap:
    """A whole map: its text, its tree, and the keys that stand in its main menu, with the keys above each there."""

    text: str
    pages: list[RandomPage]
    menu: dict[str, list[str]]

    @property
    def keys(self) -> list[str]:
        return ["the-home-page", *keys_of(self.pages)]


def _entries(draw: st.DrawFn, keys: list[str], above: list[str], menu: dict[str, list[str]], pad: str) -> str:
    """Entries for all of ``keys``, nested at random, some below groups. Notes in ``menu`` what holds each page:
    keys of pages, and names of groups."""
    text = ""
    while keys:
        key = keys.pop(0)
        under = [keys.pop(0) for _ in range(draw(st.integers(0, min(2, len(keys)))))] if len(above) < 3 else []
        if under and draw(st.booleans()):
            name = f"Group {len(menu)}"
            text += f"{pad}- group: {name}\n{pad}  items:\n"
            text += _entries(draw, [key, *under], [*above, name], menu, pad + "    ")
            continue
        menu[key] = list(above)
        text += f"{pad}- page: {key}\n"
        if under:
            text += f"{pad}  items:\n" + _entries(draw, under, [*above, key], menu, pad + "    ")
    return text


@st.composite
def maps(draw: st.DrawFn) -> RandomMap:
    """A map without errors in a random address style and link style, its main menu made of random pages."""
    pages = draw(trees())
    keys = draw(st.permutations(["the-home-page", *keys_of(pages)]))
    standing = keys[: draw(st.integers(0, len(keys)))]
    menu: dict[str, list[str]] = {}
    menu_text = _entries(draw, list(standing), [], menu, "    ")
    base = draw(st.sampled_from(["https://x.example", "https://x.example/a/b", "http://x.example:8080/m"]))
    urls = draw(st.sampled_from(["folders", "files", "bare"]))
    links = draw(st.sampled_from(["root", "document", "file", "absolute"]))
    text = (
        f"site:\n  name: Random\n  base: {base}\n  urls: {urls}\n  links: {links}\n"
        f"pages:\n  the-home-page:\n    path: /\n{write_pages(pages)}"
        f"menus:\n  main:{chr(10) + menu_text if menu_text else ' []' + chr(10)}"
    )
    return RandomMap(text, pages, menu)
