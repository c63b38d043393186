"""Writes the documentation that is made from the code; with --check, fails where it is not what it would write."""

from __future__ import annotations

import ast
import json
import sys
import tomllib
from pathlib import Path

from basilica.core.exchange import list_rules
from basilica.core.findings import CHECKS, STAGE_RULES, Check
from basilica.core.header import Settings, table_of
from basilica.core.header.viewport_share import FIFTH, SCREENS
from basilica.core.map.schema import sections as words
from basilica.core.map.schema.json_schema import json_schema
from basilica.core.rules import limits
from basilica.core.rules.rule import Example, Stage
from basilica.core.shared.icons import shapes

DOCS = Path(__file__).parent.parent / "docs"
MADE = "<!-- Made by `make docs` from the code; edit that, not this. -->\n"


def findings() -> str:
    """Every finding: code, level, title and reason."""
    rows = "\n".join(f"| `{k.code}` | {k.level} | {k.title} | {k.why} |" for k in (*STAGE_RULES, *list_rules.RULES))
    return (
        f"{MADE}# Findings\n\nAn error stops a build; a warning and an advice do not. Codes are stable.\n\n"
        f"| code | level | what | why it matters |\n| --- | --- | --- | --- |\n{rows}\n\n"
        "What is found once the pages are built, and read again, is told in [checks.md](checks.md).\n"
    )


_GROUPS = {
    Stage.BUILT: "On built pages, held against the map",
    Stage.ANY: "On built pages, whoever built them",
    Stage.MAP: "On the map",
}


def checks() -> str:
    """Every check, with its examples."""
    parts = []
    for stage, title in _GROUPS.items():
        group = [
            rule
            for rule in (*CHECKS, *STAGE_RULES)
            if rule.good and (Stage.MAP if rule.stage is Stage.READING else rule.stage) is stage
        ]
        parts.append(f"## {title}\n\n" + "\n".join(_check(check) for check in group))
    return (
        f"{MADE}# The checks\n\n"
        "After a build every file is read again, and every page is held against the map and against the other pages. "
        "An error stops the build; a warning and an advice do not. `basilica check MAP` runs all of it, "
        "`basilica check MAP --built DIR` on a folder that was built before, and `basilica audit DIR`, on any built "
        f"site, the {sum(check.stage is Stage.ANY for check in CHECKS)} that need no map.\n\n"
        "The map can say how grave a check is, and let it be, with a reason that stays in view:\n\n"
        "```yaml\nchecks:\n  levels:\n    one-way-only: warning\n    description-missing:\n      level: ignore\n"
        "      reason: The lists are made from a table.\n  hosts: maps.example      # pages may load from there\n"
        "  words: [saltern, leat]   # the site's own, for the spelling\n  clicks: 4                # that a page may "
        "be away from home\npages:\n  news:\n    ignore: {vague-link: The old words are quoted.}  # and below it\n"
        "```\n\n" + "\n".join(parts)
    )


def _check(check: Check) -> str:
    """One check: what it is about, and what is and is not as it asks."""
    stage = "" if check.stage is not Stage.READING else " It is said while the map is read."
    return (
        f"### `{check.code}`\n\n**{check.title}** ({check.level}). {check.why}{stage}\n\n"
        f"- Comes from: {check.standard}\n- Remedy: {check.remedy}\n\n"
        f"Holds:\n\n{_example(check.good)}\nIs off:\n\n{_example(check.bad)}"
    )


def _example(example: Example) -> str:
    """An example as blocks of code; of long ones the beginning."""
    files = {"": example} if isinstance(example, str) else example
    blocks = []
    for name, text in files.items():
        kind = "yaml" if text.startswith("site:") else "xml" if text.startswith("<url") else "html"
        shown = text if len(text) <= 600 else f"{text[:600]} …"
        blocks.append((f"{name}:\n\n" if name else "") + f"```{kind}\n{shown.rstrip()}\n```\n")
    return "\n".join(blocks)


def language() -> str:
    """The reference of the map language: every word, section by section."""
    titles = {
        "": "At the top",
        "site": "Under `site:`",
        "pages": "Under a page",
        "menus": "Under a menu, where it is more than its entries",
        "entries": "In an entry of a menu",
        "auto": "Under `auto:`",
        "breadcrumbs": "Under `breadcrumbs:`",
        "header": "Under `header:`",
        "header on a page": "Under `header:` of a page",
        "mobile": "Under `mobile:` of a header",
        "page-end": "Under `page-end:`",
        "theme": "Under `theme:`",
        "phrases": "Under `words:`",
        "parts": "Under a part",
        "head": "Under `head:`",
        "social": "Under `social:`",
        "table": "Under `table:`",
        "checks": "Under `checks:`",
        "level": "Under a check, in `levels:`",
    }
    parts = []
    for section, known in words.SECTIONS.items():
        rows = "\n".join(
            f"| `{w.name}` | {', '.join(f'`{v}`' for v in w.values) or w.value_type} | {w.default} | {w.meaning} |"
            for w in known
        )
        parts.append(
            f"## {titles[section]}\n\n| key | takes | default | meaning |\n| --- | --- | --- | --- |\n{rows}\n"
        )
    return (
        f"{MADE}# The map language, word by word\n\nHow the words work together is told in [page-map.md](page-map.md). "
        "`site.schema.json` beside this page is the same for editors.\n\n" + "\n".join(parts) + "\n## Limits\n\n"
        f"- {limits.TEXT_BYTES:,} bytes of text\n- {limits.PAGES:,} pages\n- {limits.LEVELS} levels of pages, and of "
        f"entries in a menu\n- {limits.LABEL_CHARACTERS} characters in a title or a label\n"
        f"- {limits.MENU_LINKS:,} links in menus, over all pages\n"
    )


def header() -> str:
    """What a header does: for each behaviour, its table, and the picture of that."""
    parts = []
    for behaviour in next(word.values for word in words.HEADER if word.name == "behaviour"):
        for shadow in ("none", "scrolled"):
            table = table_of(Settings(behaviour=behaviour, shadow=shadow))
            title = f"## `{behaviour}`" + (", with `shadow: scrolled`" if shadow == "scrolled" else "")
            if not table:
                if shadow == "none":
                    parts.append(f"{title}\n\nNo table and no script: style alone does it.\n")
                continue
            said = [(row.state, " and ".join(map(str, row.guards)), row.next) for row in table]
            rows = "\n".join(f"| {state} | {guards} | {then} |" for state, guards, then in said)
            drawn = "\n".join(f"    {state} --> {then}: {guards}" for state, guards, then in said)
            parts.append(
                f"{title}\n\n| state | when | next |\n| --- | --- | --- |\n{rows}\n\n"
                f"```mermaid\nstateDiagram-v2\n    [*] --> rest\n{drawn}\n```\n"
            )
    screens = "\n".join(f"- {screen}: {width} × {height}" for screen, width, height in SCREENS)
    return (
        f"{MADE}# What a header does\n\nThe states are `rest`, at the top of the page at full height; `over`, at full "
        "height over content, where that looks different; `small`; and `hidden`, moved up by its own height. `depth` "
        "is how far the page is scrolled, never below 0 nor past its end; `fall` and `rise` are how far it was "
        "scrolled down or up since it last turned. Each look at the page runs the table until no line fits. A header "
        "in which something has the focus or is open is never hidden. The numbers are those of a map that gives "
        "none.\n\n"
        + "\n".join(parts)
        + f"\n## Windows that are looked at\n\nA header that takes over {FIFTH} percent of one is a warning.\n\n"
        f"{screens}\n"
    )


def icons() -> str:
    """The names of the icons that an entry may have, by their first letter."""
    by_letter: dict[str, list[str]] = {}
    for name in shapes():
        by_letter.setdefault(name[0], []).append(f"`{name}`")
    listed = "\n\n".join(", ".join(names) for names in by_letter.values())
    return f"{MADE}# Icons\n\nLucide's, as they ship with Basilica: `icon: clock` in an entry of a menu.\n\n{listed}\n"


def architecture() -> str:
    """The floors of the core, with a picture made from the imports."""
    floors = _floors()
    imports = {floor: _imported(floor) & set(floors) - {floor} for floor in floors}
    rows = "\n".join(f"| `{floor}` | {_told(floor)} |" for floor in floors)
    arrows = "\n".join(
        f"    {floor} --> {other}"
        for floor in floors
        for other in floors
        if other in imports[floor]
        # What is reached through another floor as well needs no arrow of its own.
        and not any(other in imports[between] for between in imports[floor])
    )
    return (
        f"{MADE}# The architecture\n\n## One way through\n\n"
        "text → **document** (nodes with line and column) → **site** (every reference resolved) → **plan** (routes, "
        "menus as each page sees them, breadcrumbs, headers) → **files** → **findings**, from the site, the plan, and "
        "the built files read again. Each arrow is one function; each stage is a value that can be printed, compared "
        "and tested alone. `basilica/core/pipeline.py` is the only place that puts them together: `compile_map`, "
        "`build`, `verify`. Application, command line, library and bench call it.\n\n"
        "## Around the core\n\n"
        "| folder | what |\n| --- | --- |\n"
        "| `basilica/core` | the rules and the computation; no web, no database, no clock, no network |\n"
        "| `basilica/store` | folders on disk, SQLite through SQLAlchemy and Alembic, and how the two stay the same |\n"
        "| `basilica/web` | the application, a folder for each workspace; `application.yaml` is its own page map |\n"
        "| `basilica/cli`, `basilica/library.py` | the command line; what `from basilica import …` gives |\n"
        "| `basilica/demo` | the demo sites |\n"
        "| `frontend` | sources of styles and scripts; `make assets` builds them into `basilica/web/static` |\n"
        "| `tests`, `bench` | the tests; speed, as ratios |\n\n"
        "## The floors of the core\n\n"
        "A floor imports only floors below it here, which the contracts in `pyproject.toml` hold; from the roof down:"
        f"\n\n| floor | what |\n| --- | --- |\n{rows}\n\n"
        "The same from the imports. An arrow that follows from others is left out.\n\n"
        f"```mermaid\ngraph TD\n{arrows}\n```\n\n"
        "Three things to know before a change:\n\n"
        "- **An edit is proved.** It changes the site and patches the text, apart from each other; the patched text, "
        "read again, must say the changed site.\n"
        "- **A build is proved.** The checks read the built files, not the intention.\n"
        "- **The header is a table.** The simulation, the script in the browser, the drawing and "
        "[its documentation](header.md) come from `core/header/state_machine.py`.\n\n"
        "How to add a check, an edit, an output or a language: [CONTRIBUTING.md](../CONTRIBUTING.md). What words mean: "
        "[glossary.md](glossary.md).\n"
    )


def _floors() -> list[str]:
    """The floors, from the roof down, as the contracts have them."""
    contracts = tomllib.loads((DOCS.parent / "pyproject.toml").read_text("utf-8"))["tool"]["importlinter"]["contracts"]
    return next(each["layers"] for each in contracts if each.get("containers") == ["basilica.core"])


def _modules(floor: str) -> list[Path]:
    folder = DOCS.parent / "basilica" / "core" / floor
    return sorted(folder.rglob("*.py")) if folder.is_dir() else [folder.with_suffix(".py")]


def _imported(floor: str) -> set[str]:
    """The floors that the modules of one import from."""
    found = set()
    for module in _modules(floor):
        for node in ast.walk(ast.parse(module.read_text("utf-8"))):
            if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("basilica.core."):
                found.add(str(node.module).split(".")[2])
    return found


def _told(floor: str) -> str:
    """The first sentence of what a floor says of itself."""
    text = ast.get_docstring(ast.parse(_modules(floor)[0].read_text("utf-8"))) or ""
    return " ".join(text.partition("\n\n")[0].split())


def main() -> int:
    """Write or check."""
    made = {
        "findings.md": findings(),
        "checks.md": checks(),
        "map-words.md": language(),
        "header.md": header(),
        "icons.md": icons(),
        "architecture.md": architecture(),
        "site.schema.json": json.dumps(json_schema(), indent=2) + "\n",
    }
    stale = [name for name, text in made.items() if not _is(DOCS / name, text)]
    if "--check" in sys.argv:
        for name in stale:
            print(f"docs/{name} is not what the code says. Run: make docs", file=sys.stderr)
        return 1 if stale else 0
    for name in stale:
        (DOCS / name).write_text(made[name], encoding="utf-8")
    return 0


def _is(path: Path, text: str) -> bool:
    return path.is_file() and path.read_text(encoding="utf-8") == text


if __name__ == "__main__":
    sys.exit(main())
