"""Maps in which features meet; edits made from the product's own registries, and what an edit may remove, worked out
apart from Basilica's own account of it."""

from __future__ import annotations

import csv
import importlib
import io
import pkgutil
import re
import typing
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from random import Random
from typing import Any

import msgspec

from basilica.core.compile import Compiled
from basilica.core.edits import Command, Edited, commands
from basilica.core.edits.fields import named_fields, numbered, word_fields
from basilica.core.edits.map_data import MapData, data_of, map_data
from basilica.core.findings import RULES
from basilica.core.language.sections import SECTIONS
from basilica.core.language.sections.menu_words import ENTRY_WORDS
from basilica.core.language.word import Word
from basilica.core.map.document import Mapping, Node, Sequence
from basilica.core.map.map_files import Files
from basilica.core.map.site import Site
from basilica.core.plan.ended_addresses import answered
from basilica.core.plan.site_plan import every_redirect
from basilica.core.rules.rule import Stage

FILES = Files(
    {
        "tables/mill.md": b"{name} in {place}\n",
        "files/a.pdf": b"%PDF-1.4",
        "files/a.css": b"p {}",
        "files/a.js": b"",
        "files/a.svg": b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"></svg>',
    }
)
_MARK = re.compile(r"[A-Z].* q\d+z|class-q\d+z")
LANGUAGES = ("en", "cy", "fr-CA")


def registered() -> list[type[Command]]:
    """Every command of the product, whoever uses it."""
    for module in pkgutil.iter_modules(commands.__path__):
        importlib.import_module(f"{commands.__name__}.{module.name}")

    def below(kind: type[Command]) -> Iterator[type[Command]]:
        for each in kind.__subclasses__():
            yield from below(each) or ()
            is_ours = each.__module__.startswith(f"{commands.__name__.partition('.')[0]}.")  # and not of a test
            if is_ours and each.__struct_config__.tag is not None and "change" in vars(each):
                yield each

    return sorted(below(Command), key=lambda kind: kind.__name__)


@dataclass
class FeatureMap:
    """A map made at random: its data, its text and the features that meet in it."""

    chance: Random
    data: dict[str, Any] = field(default_factory=dict)
    features: set[str] = field(default_factory=set)
    files: Files = FILES
    marks: int = 0

    def mark(self, word: str = "text") -> str:
        """A text that no other place of the map has."""
        self.marks += 1
        return f"{word[:12].capitalize()} q{self.marks}z"

    def often(self, part: float = 0.5) -> bool:
        """Whether something is so that is so in a part of all cases."""
        return self.chance.random() < part

    def has(self, feature: str, part: float = 0.5) -> bool:
        """The same of a feature, which is noted."""
        if self.often(part):
            self.features.add(feature)
            return True
        return False


def feature_map(seed: int) -> FeatureMap:
    """The map of a number."""
    made = FeatureMap(Random(seed))
    tags = LANGUAGES[1 : 3 if made.has("third language", 0.25) else 2] if made.has("second language", 0.7) else ()
    site: dict[str, Any] = {"name": made.mark("site"), "base": "https://mill.example"}
    if tags:
        site["languages"] = [LANGUAGES[0], *tags]
        for tag in tags:
            site[tag] = {"name": made.mark("site")}
    if made.has("addresses that are files", 0.3):
        site["urls"] = made.chance.choice(["files", "bare"])
    made.data["site"] = site
    made.data["pages"] = pages = {"home": _page(made, "home", tags)}
    pages["home"]["path"] = "/"
    for page_id in ("visit", "mills", "tides"):
        pages[page_id] = _page(made, page_id, tags)
    pages["visit"]["pages"] = {page_id: _page(made, page_id, tags) for page_id in ("hours", "way")}
    if made.has("bare titles", 0.4):
        pages["visit"]["pages"]["plain"] = made.mark("title")
        pages["nothing"] = None
    if made.has("table"):
        more = {"description": "In {place}", "text": "mill.md"}
        by_path, grouped = (
            {"path": "{id}", "label": "{id}", **more},
            {"section": made.chance.choice(["letter", "{place}"])},
        )
        words = made.chance.choice([{}, {}, more, by_path, grouped])
        pages["mills"]["table"] = {"file": "mills.csv", "title": "{name}", **words} if made.often(0.7) else "mills.csv"
        places = made.mark("place"), made.mark("place")
        rows = [(made.mark("name"), made.chance.choice(places), f"m{number}", made.mark("note")) for number in range(3)]
        table = "".join(f'{name},"{place}",{page_id},{note}\r\n' for name, place, page_id, note in rows)
        made.files = Files({**made.files, "tables/mills.csv": f"name,place,id,note\r\n{table}".encode()})
    if made.has("include"):
        pages["tides"]["include"] = "maps/more.yaml"
        words = "".join(f", {tag}: {{title: {made.mark('title')}, was: /{tag}/inner.htm}}" for tag in tags)
        inner = f"inner: {{title: {made.mark('title')}{words}}}"
        other = f"other:\n    title: {made.mark('title')} # {made.mark('comment')}\n    was: /other.htm\n"
        below = f"    pages: {{deep: {{description: {made.mark('description')}}}}}\n  last: {made.mark('title')}\n"
        more_pages = f"pages:\n  # {made.mark('comment')}\n  {inner}\n  {other}{below}"
        made.files = Files({**made.files, "maps/more.yaml": more_pages.encode()})
    if made.has("links between pages", 0.4):
        pages["tides"]["highlight"] = "visit"
        pages["visit"]["pages"]["way"]["breadcrumbs"] = "mills"
    if made.has("draft", 0.2):
        pages["visit"]["pages"]["way"]["draft"] = "yes"
    made.data["menus"] = _menus(made, tags)
    if made.has("redirects", 0.4):
        made.data["redirects"] = {"/gone": "visit", "/away": "gone"}
    if made.has("facts", 0.3):
        made.data["facts"] = {"phone": made.mark("phone")}
    if made.has("parts"):
        made.data["parts"] = {
            "note": {
                "text": made.mark("note"),
                **{tag: made.mark("note") for tag in tags},
            },
            "listing": {"kind": "links", "menu": "footer"} if "footer" in made.data["menus"] else made.mark("note"),
        }
        made.data["slots"] = {"after": "note"}
    for name in ("breadcrumbs", "header", "theme", "phrases", "page-end"):
        if made.has(f"settings of {name}", 0.25):
            made.data[name] = dict(_chosen(made, name, 2))
    return made


def _page(made: FeatureMap, page_id: str, tags: tuple[str, ...]) -> dict[str, Any]:
    page: dict[str, Any] = {"title": made.mark("title")}
    if made.often(0.3):
        page["label"] = made.mark("label")
    if made.often(0.4):
        page["description"] = made.mark("description")
    if made.has("old addresses", 0.3):
        page["was"] = made.chance.choice([f"/{page_id}.htm", [f"/{page_id}.htm", f"/old/{page_id}.htm"]])
    if made.has("further addresses", 0.2):
        page["also"] = made.chance.choice([f"/{page_id}-now/", [f"/{page_id}-now/", f"/short/{page_id}.html"]])
    for tag in tags:
        if made.often(0.6):
            page[tag] = made.mark("title")
        elif page_id == "home" or made.often():
            page[tag] = {"title": made.mark("title")}
            if page_id != "home" and made.has("path in another language"):
                page[tag]["path"] = f"{page_id}-{tag.lower()}"
            if made.has("old address in another language", 0.4):
                page[tag]["was"] = f"/{tag}/{page_id}.htm"
                page[tag]["also"] = f"/{tag}/{page_id}-now/"
            if made.often(0.3):
                page[tag]["description"] = made.mark("description")
    if page_id != "home" and made.has("settings of a page", 0.3):
        page |= _chosen(made, "pages", 2)
    return page


def _menus(made: FeatureMap, tags: tuple[str, ...]) -> dict[str, Any]:
    def entry(value: dict[str, Any]) -> dict[str, Any]:
        if made.often():
            value |= {"label": made.mark("label")} if "group" not in value else {"note": made.mark("note")}
        if made.often(0.3):
            value["class"] = made.mark("class").lower().replace(" ", "-")
        if made.often():
            value |= _chosen(made, "entries", 2, ("icon", "width"))
        for tag in tags:
            if made.has("entry in another language"):
                value[tag] = {"group" if "group" in value else "label": made.mark("label")}
        return value

    entries: list[Any] = ["home"]
    if made.has("automatic part of a menu", 0.4):
        entries.append({"auto": {"except": "tides", "levels": "2"}} if made.often() else "auto")
    else:
        entries.append(entry({"page": "visit", "items": ["hours"] if made.often() else "auto"}))
    if made.has("group", 0.6):
        below = [entry({"page": "tides"}), entry({"url": "https://a.example/", "label": made.mark("label")})]
        entries.append(entry({"group": made.mark("group"), "items": below[: made.chance.choice([1, 2])]}))
    if made.has("anchor", 0.3):
        entries.append(entry({"page": "way#there", "label": made.mark("label")}))
    if made.has("file", 0.3):
        entries.append(entry({"file": "a.pdf", "label": made.mark("label")}))
    if made.has("separator", 0.3):
        entries += ["separator", entry({"url": "mailto:a@b.example", "label": made.mark("label")})]
    found: dict[str, Any] = {"main": entries}
    if made.has("automatic menu", 0.4):
        found["main"] = made.chance.choice(["auto", {"auto": {"levels": "1"}}, {"entries": "auto", "hover": "yes"}])
    if made.has("footer menu"):
        found["footer"] = {
            "place": "footer",
            "label": made.mark("label"),
            "entries": ["visit", entry({"page": "mills"})],
        }
        for tag in tags:
            found["footer"][tag] = {"label": made.mark("label")}
    if made.has("section menu", 0.3):
        found["side"] = {"section": "visit", "entries": "auto" if made.often() else ["hours", "way"]}
    return found


def _chosen(made: FeatureMap, section: str, count: int, types: tuple[str, ...] = ("text", "colour")) -> dict[str, str]:
    """Some words of a section with values of their types; those that name something else of the map are left out."""
    known = [word for word in SECTIONS[section] if word.name not in {"css", "title", "layout", "date", "updated"}]
    plain = [word for word in known if word.values or word.value_type in ("yes or no", *types)]
    plain = [word for word in plain if "{}" not in word.default]  # where something is filled in
    chosen = made.chance.sample(plain, min(count, len(plain)))
    return {
        word.name: value_of(word, made) for word in chosen if word.name not in ("kind", "draft", "hidden", "preset")
    }


def value_of(word: Word, made: FeatureMap) -> str:
    """A value for a word of the language."""
    if word.name == "show":
        return "button"  # as an icon it needs one
    if word.values:
        return made.chance.choice(word.values)
    by_type = {
        "yes or no": made.chance.choice(["yes", "no"]),
        "number": str(made.chance.choice([1, 2, 50, 100])),
        "width": str(made.chance.choice([400, 900])),
        "colour": made.chance.choice(["#123456", "navy"]),
        "reference": made.chance.choice(["visit", "hours", "tides"]),
        "address": made.chance.choice(["https://b.example/", "mailto:a@b.example"]),
        "file": "a.pdf",
        "icon": "clock",
        "path": made.chance.choice(["here", "/else/where/", "there-"]) + str(made.chance.randrange(99)),
        "date": "2026-05-04",
    }
    if word.name in ("class", "query"):
        return made.mark("class").lower().replace(" ", "-")
    return by_type.get(word.value_type, made.mark(word.name))


def text_of(made: FeatureMap) -> str:
    """The map as a person may write it: in lines or in brackets, with comments between."""
    brackets = made.has("brackets", 0.3)
    comments = made.has("comments", 0.6)
    lines: list[str] = []

    def quoted(value: str) -> str:
        return value if value.replace(" ", "").replace("-", "").isalnum() and made.often(0.7) else f'"{value}"'

    def flow(value: Any) -> str:
        if isinstance(value, dict):
            return (
                "{"
                + ", ".join(
                    f"{name}: {flow(inner)}" if inner is not None else f"{name}:" for name, inner in value.items()
                )
                + "}"
            )
        return "[" + ", ".join(map(flow, value)) + "]" if isinstance(value, list) else quoted(str(value))

    def remark(pad: str) -> None:
        if comments and made.often(0.25):
            lines.append(f"{pad}# {made.mark('comment')}")

    def write(value: Any, pad: str, head: str) -> None:
        """``value`` behind ``head``, or below it."""
        if isinstance(value, dict | list) and value and not (brackets and made.often(0.3) and pad):
            lines.append(head.rstrip())
            inner = pad + "  "
            if isinstance(value, dict):
                for name, each in value.items():
                    remark(inner)
                    write(each, inner, f"{inner}{name}: ")
            else:
                for each in value:
                    remark(inner)
                    if isinstance(each, dict) and len(each) > 0 and not (brackets and made.often()):
                        item(each, inner)
                    else:
                        lines.append(f"{inner}- {flow(each)}")
            remark(inner)
        else:
            end = f" # {made.mark('comment')}" if comments and made.often(0.1) else ""
            lines.append((head + ("" if value is None else flow(value)) + end).rstrip())

    def item(each: dict[str, Any], pad: str) -> None:
        first = True
        for name, value in each.items():
            write(value, pad + "  ", f"{pad}{'- ' if first else '  '}{name}: ")
            first = False

    for section, value in made.data.items():
        remark("")
        write(value, "", f"{section}: ")
        if made.often(0.3):
            lines.append("")
    return "\n".join(lines) + "\n"


def command_for(kind: type[Command], site: Site, made: FeatureMap) -> Command | None:
    """A command of a kind, with fields that fit the site; None if the site has nothing for it."""
    hints = typing.get_type_hints(kind)
    named, worded = dict(named_fields(kind)), dict(word_fields(kind))
    values: dict[str, Any] = {}
    order = {"page": 0, "menu": 1, "entry": 2}  # an entry is one of the menu
    for name in sorted(kind.__struct_fields__, key=lambda name: order.get(named.get(name, ""), 3)):
        hint = hints[name]
        choices = _choices(named.get(name), site, values.get("menu"), made)
        if choices is not None:
            optional = type(None) in typing.get_args(hint)
            if not choices and not optional:
                return None
            values[name] = None if optional and (not choices or made.often(0.4)) else made.chance.choice(choices)
        elif name in worded:
            words = SECTIONS[worded[name]]
            if hint is str:
                values[name] = made.chance.choice(words).name
            else:
                some = made.chance.sample(words, made.chance.choice([1, 1, 2, 3]))
                values[name] = {word.name: "" if made.often(0.2) else value_of(word, made) for word in some}
        else:
            values[name] = _free(kind, name, hint, values, site, made)
    return kind(**values)


def _choices(names: str | None, site: Site, menu: str | None, made: FeatureMap) -> list[Any] | None:
    entries = numbered(site.menus[menu].entries) if menu in site.menus else []
    known: dict[str | None, list[Any]] = {
        "page": [*site.pages],
        "menu": [*site.menus],
        "entry": [*range(len(entries))],
        "part": [*site.parts],
        "language": [*site.languages[1:]],
    }
    return known.get(names)


def _free(kind: type[Command], name: str, hint: Any, values: dict[str, Any], site: Site, made: FeatureMap) -> Any:
    """A value for a field that names nothing of the map, by its type."""
    choice = made.chance.choice
    literal = [each for each in (hint, *typing.get_args(hint)) if typing.get_origin(each) is typing.Literal]
    if literal:
        return choice(typing.get_args(literal[0]))
    if hint is bool:
        return made.often()
    if int in (hint, *typing.get_args(hint)):
        return choice([0, 1, 2, 99])
    sections = {section: words for section, words in SECTIONS.items() if section and section in made.data}
    if name == "settings":
        words = SECTIONS["pages"] if values.get("key") else sections[section := choice(sorted(sections))]
        word = choice([word for word in words if word.name != "pages"])  # those are edited one by one
        item = typing.get_args(hint)[0]
        path = (word.name,) if values.get("key") else (section, word.name)
        return (item(path, "" if made.often(0.3) else value_of(word, made)),)
    if name == "pages":
        item = typing.get_args(hint)[0]
        return (
            item(made.mark("title"), pages=(item(made.mark("title")),)),
            item(choice(["Hours", made.mark("title")])),
        )
    if name == "labels":
        return {tag: "" if made.often(0.2) else made.mark("label") for tag in site.languages[1:] if made.often()}
    if name == "value":
        section = next((value for key, value in word_fields(kind)), "")
        word = next((word for word in SECTIONS.get(section, ()) if word.name == values.get("word")), None)
        return "" if made.often(0.2) else value_of(word, made) if word else made.mark()
    if name in ("id", "new", "part", "slot", "name") and (name, kind.__name__) not in FREE_NAMES:
        return choice([f"new{made.chance.randrange(99)}", "after", "footer"])
    by_name: dict[str, list[Any]] = {
        "menu": [*site.menus, "main", "extra"],
        "name": [*site.menus] if kind.__name__ in ("DeleteMenu", "RenameMenu") else [made.mark("name")],
        "parts": [*site.parts, "none", ""],
        "kind": ["text", "contact", "links", "search"],
        "code": [rule.code for rule in RULES.values() if rule.stage not in (Stage.READING, Stage.LIST, Stage.EXISTING)],
        "like": ["", *site.menus],
        "section": ["", "visit"],
        "place": ["footer", "utility", "part"],
        "first": ["", "tides", "way"],
        "under": ["", "visit"],
        "lead": ["", "home"],
    }
    if name == "ended":
        return ()
    return choice(by_name.get(name, [made.mark(name)]))


# What an edit may remove, worked out from what it is about.


def texts_in(data: MapData) -> Counter[str]:
    """The marked texts of some data."""
    found: Counter[str] = Counter()

    def walk(value: MapData) -> None:
        if isinstance(value, dict):
            for inner in value.values():
                walk(inner)
        elif isinstance(value, list):
            for inner in value:
                walk(inner)
        elif isinstance(value, str) and _MARK.fullmatch(value):
            found[value] += 1

    walk(data)
    return found


def words_in(data: MapData) -> Counter[str]:
    """The names of keys in some data that are words of the language: how often each is there."""
    known = {word.name for words in SECTIONS.values() for word in words} | {*LANGUAGES}
    found: Counter[str] = Counter()

    def walk(value: MapData, named: bool = False) -> None:
        """``named``: whether people's own names come first."""
        for name, inner in value.items() if isinstance(value, dict) else ():
            if isinstance(inner, list) and name not in ENTRY_WORDS | {"entries", *KEYS_WITH_LISTS}:
                walk(inner)  # `visit: [hours]`, the short way
                continue
            if name in known and not named:
                found[name] += 1
            walk(inner, not named and name in ("pages", "menus", "parts"))
        for inner in value if isinstance(value, list) else ():
            walk(inner)

    walk(data)
    return found


FREE_NAMES = {("name", "NamePage"), ("name", "DeleteMenu"), ("name", "RenameMenu")}
"""Fields that are called like ids, and are none, or are of what is there."""
KEYS_WITH_LISTS = {"languages", "was", "also", "except", "hidden", "breadcrumbs", "styles", "scripts", "without"}
COPIES = {"DuplicatePage", "NewMenu"}
STRUCTURE = {"pages", "items", "entries", "menus", "page", "title", "redirects"}
"""Words that come and go with the way of writing: `visit: [hours]` is `page: visit` with `items`."""


def about(command: Command, text: str, compiled: Compiled) -> list[MapData]:
    """The data that a command is about: what it may remove. Nothing for a kind that is not known here."""
    assert compiled.plan is not None and compiled.document.root is not None
    site, data, kind = compiled.plan.site, map_data(text, compiled.files), type(command).__name__
    of: Any = command
    root = compiled.document.root
    if kind == "DeletePage":
        gone = {key for key in site.pages if key == of.key or key.startswith(of.key + "/")}
        led = [_at(root, e.at) for menu in site.menus.values() for e in numbered(menu.entries) if e.page in gone]
        menus = [data["menus"].get(name) for name, menu in site.menus.items() if menu.settings.section in gone]
        led += [_at(root, e.at) for menu in site.menus.values() for e in numbered(menu.written) if e.page in gone]
        links = {"highlight": "", "breadcrumbs": "", "except": "", "levels": ""}  # of others, which named it
        return [
            raw_page(data, of.key),
            row_of(compiled, of.key),
            *led,
            *menus,
            data.get("redirects"),
            *([links] * 4),
            "auto",
        ]
    if kind == "RemoveFromMenu":
        return [_at(root, numbered(site.menus[of.menu].entries)[of.number].at)]
    if kind == "SetEntry":
        entry = _at(root, numbered(site.menus[of.menu].entries)[of.number].at)
        return [{word: entry.get(word) for word in (*of.words, *of.labels)} if isinstance(entry, dict) else None]
    if kind == "AddToMenu":  # a page that was left out is left in
        return [{"except": ""}]
    if kind in ("NamePage", "SetWord") and of.key in site.rows:
        label = site.pages[of.key].own_label
        return [row_of(compiled, of.key, of.word if kind == "SetWord" else "label" if label else "title")]
    if kind in ("NamePage", "SetWord", "TranslatePage"):
        page = raw_page(data, of.key)
        page = page.get(of.language, {}) if kind == "TranslatePage" and isinstance(page, dict) else page
        words = ("title", "label") if kind == "NamePage" else (of.word,) if kind == "SetWord" else (*of.words,)
        if kind == "TranslatePage":  # one that has no words in a language is written without it
            return [{of.language: {word: page.get(word) for word in words} if isinstance(page, dict) else page}]
        return [{word: page.get(word) for word in words} if isinstance(page, dict) else page]
    if kind == "SetSettings":
        held = raw_page(data, of.key) if of.key is not None else data
        return [{each.path[-1]: _value(held, each.path)} for each in of.settings]
    if kind in ("SetHeader", "FillSlot", "SuppressCheck"):
        held = raw_page(data, of.key) if of.key is not None else data
        return [held.get(name) for name in ("header", "slots", "ignore", "checks") if isinstance(held, dict)]
    if kind == "SetPart":
        part = data["parts"][of.part]
        return [{of.word: part.get(of.word)} if isinstance(part, dict) else part]
    if kind in ("DeleteMenu", "FollowPages", "NewMenu"):
        return [data.get("menus", {}).get(getattr(of, "menu", getattr(of, "name", "")))]
    return []


def raw_page(data: MapData, key: str) -> MapData:
    """What the map itself says of a page; None if a table or a file makes it."""
    for page_id in key.split("/"):
        data = (data.get("pages") or {}).get(page_id) if isinstance(data, dict) else None
    return data


COLUMNS = {"title": "name", "label": "id", "path": "id", "description": "place"}
"""What the tables of feature maps say in which column."""


def tables_in(files: Files) -> list[dict[str, str]]:
    """The rows of the table among some files."""
    text = files["tables/mills.csv"].decode() if "tables/mills.csv" in files else ""
    return [dict(row) for row in csv.DictReader(io.StringIO(text, newline=""))]


def row_of(compiled: Compiled, key: str, word: str = "") -> MapData:
    """The cells of the row that a page is made from, or the one for a word; None for other pages."""
    assert compiled.plan is not None
    place = compiled.plan.site.rows.get(key)
    if place is None:
        return None
    row = tables_in(compiled.files)[place.number - 1]
    return row if not word else [row.get(COLUMNS.get(word, ""))]


def _value(data: MapData, path: tuple[str, ...]) -> MapData:
    for name in path:
        data = data.get(name) if isinstance(data, dict) else None
    return data


def _at(node: Node, offset: int) -> MapData:
    """The data of the outermost node of a list that begins at an offset."""
    for item in node.items if isinstance(node, Sequence) else ():
        pairs = item.pairs if isinstance(item, Mapping) else ()
        if offset in (item.start, *(each.start for pair in pairs for each in pair)):
            return data_of(item)
    inner = (
        node.items if isinstance(node, Sequence) else [v for _, v in node.pairs] if isinstance(node, Mapping) else ()
    )
    return next((found for each in inner if (found := _at(each, offset)) is not None), None)


@dataclass
class Losses:
    """What an edit removed that it is not about."""

    texts: list[str]
    words: list[str]
    comments: list[str]
    addresses: list[str]
    unwritten: list[str]
    """What it was to write and did not."""

    def __bool__(self) -> bool:
        return bool(self.texts or self.words or self.comments or self.addresses or self.unwritten)


def losses(command: Command, before: str, compiled: Compiled, edited: Edited) -> Losses:
    """What an edit removed that it is not about, and does not name."""
    allowed = about(command, before, compiled)
    was, now = map_data(before, compiled.files), map_data(edited.text, edited.compiled.files)
    cells, cells_now = tables_in(compiled.files), tables_in(edited.compiled.files)
    texts = texts_in([was, cells]) - texts_in([now, cells_now]) - texts_in(allowed)
    words = words_in(was) - words_in(now) - words_in(allowed)
    if getattr(command, "write_out", False):
        words -= Counter({word.name: 9 for word in SECTIONS["auto"]} | {"auto": 9})
    if "removed the group" in edited.words:  # which it names; its own words go with it
        texts = Counter(text for text in texts if not text.startswith(("Group", "Note", "Label", "class-")))
        words -= Counter({word.name: 9 for word in SECTIONS["entries"]} | dict.fromkeys(LANGUAGES, 9))
    remarks: Counter[str] = Counter()
    said, says = Counter(_remarks(before, compiled)), Counter(_remarks(edited.text, edited.compiled))
    if "removed the group" not in edited.words:
        remarks = said - says
    twice = [] if type(command).__name__ in COPIES else [*(says - said)]
    assert compiled.plan is not None and edited.compiled.plan is not None
    answers = answered(edited.compiled.plan).keys() | {old.address for _, old in every_redirect(edited.compiled.plan)}
    named = {each.address for each in edited.ended if each.page is None or each.address in edited.words}
    addresses = sorted(answered(compiled.plan).keys() - answers - named)
    asked = texts_in(msgspec.to_builtins(command)).keys()
    return Losses(
        [text for text in texts if text not in edited.words],
        [word for word in words if word not in STRUCTURE],
        [*twice, *([] if _goes_with_its_comments(command, allowed) else remarks)],
        addresses,
        [] if "left out `" in edited.words else [*(asked - texts_in([now, cells_now]).keys())],
    )


def _goes_with_its_comments(command: Command, allowed: list[MapData]) -> bool:
    """Whether an edit removes something of the text as a whole, with what is said of it there."""
    kind, value, parts = type(command).__name__, getattr(command, "value", None), getattr(command, "parts", None)
    if kind == "RemoveFromMenu":
        return "auto" not in (allowed[0], *(allowed[0] if isinstance(allowed[0], dict) else ()))
    if kind in ("TranslatePage", "SetEntry"):
        return "" in {**command.words, **getattr(command, "labels", {})}.values()  # type: ignore[attr-defined]
    return kind in ("DeletePage", "DeleteMenu", "FollowPages", "SetSettings", "SuppressCheck") or "" in (value, parts)


def _remarks(text: str, compiled: Compiled) -> list[str]:
    """The comments of a map and of the file that it may include."""
    text += "\n".join(compiled.files.text(f"maps/{name}") for name in compiled.files.under("maps"))
    return [line[line.index("# ") :].strip() for line in text.splitlines() if "# Comment" in line]
