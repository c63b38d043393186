"""Writes the documentation that is made from the code; with --check, fails where it is not what it would write."""

from __future__ import annotations

import ast
import json
import sys
import tomllib
from collections.abc import Iterable, Mapping
from pathlib import Path
from string import Template

from basilica.core.exchange import list_rules
from basilica.core.exchange.site_import import drift_findings
from basilica.core.findings import CHECKS, STAGE_RULES, on_source
from basilica.core.header import Settings, table_of
from basilica.core.header.viewport_share import FIFTH, SCREENS
from basilica.core.language.json_schema import json_schema
from basilica.core.language.sections import SECTIONS, screen_of
from basilica.core.language.sections.header_words import HEADER
from basilica.core.outputs.output_formats import OUTPUT_FORMATS
from basilica.core.own_templates import NAMES
from basilica.core.own_templates.sandbox import FILTERS, TESTS
from basilica.core.own_templates.views import VALUES, documented
from basilica.core.rules import limits
from basilica.core.rules.examples import Example, Many
from basilica.core.rules.rule import Rule, Stage
from basilica.core.shared.icons import shapes
from scripts.rule_examples import findings_of
from scripts.script_types import script_types

DOCS = Path(__file__).parent.parent / "docs"
MADE = "<!-- Made by `make docs` from the code; edit that, not this. -->\n"


def findings() -> str:
    """Every rule of the reading of a map, and of a list, with its examples."""
    groups: dict[str, Iterable[Rule]] = {
        "While the map is read and planned": STAGE_RULES,
        "While a list is read that is to become a map": list_rules.RULES,
        "While a site that exists is read": (*drift_findings.RULES, *on_source.RULES),
    }
    return (
        f"{MADE}# Findings\n\nWhat is said from the text of a map to its plan. An error stops a build; a warning and "
        "an advice do not. Codes are stable. What is found once the pages are built, and read again, is told in "
        "[checks.md](checks.md).\n\n"
        + "\n".join(
            f"## {title}\n\n{_index(rules)}\n" + "\n".join(map(_told_of, rules)) for title, rules in groups.items()
        )
    )


_GROUPS = {
    Stage.BUILT: "On built pages, held against the map",
    Stage.ANY: "On built pages, whoever built them",
    Stage.MAP: "On the map",
}


def checks() -> str:
    """Every check, with its examples."""
    groups = {title: [check for check in CHECKS if check.stage is stage] for stage, title in _GROUPS.items()}
    return (
        f"{MADE}# The checks\n\n"
        "After a build every file is read again, and every page is held against the map and against the other pages. "
        "An error stops the build; a warning and an advice do not. `basilica check MAP` runs all of it, "
        "`basilica check MAP --built DIR` on a folder that was built before, and `basilica audit DIR`, on any built "
        f"site, the {len(groups[_GROUPS[Stage.ANY]])} that need no map.\n\n"
        "The map can say how grave a check is, and that it is ignored, with a reason that stays in view:\n\n"
        f"```yaml\n{LEVELS}```\n\n"
        + "\n".join(
            f"## {title}\n\n{_index(rules)}\n" + "\n".join(map(_told_of, rules)) for title, rules in groups.items()
        )
    )


LEVELS = """\
checks:
  levels:
    one-way-only: warning
    description-missing:
      level: ignore
      reason: The lists are made from a table.
  hosts: maps.example         # pages may load from there
  spelling: [saltern, leat]   # the site's own words
  clicks: 4                   # that a page may be away from home
pages:
  news:
    ignore: {vague-link: The old words are quoted.}  # and below it
"""
"""How a map speaks of checks; a test reads it."""


def _sections(groups: Mapping[str, Iterable[Rule]]) -> str:
    parts = (f"## {title}\n\n{_index(rules)}\n" + "\n".join(map(_told_of, rules)) for title, rules in groups.items())
    return "\n".join(parts)


def _index(rules: Iterable[Rule]) -> str:
    """A table of rules."""
    rows = "\n".join(f"| [`{rule.code}`](#{rule.code}) | {rule.level} | {rule.title} |" for rule in rules)
    return f"| code | level | what |\n| --- | --- | --- |\n{rows}\n"


def _told_of(rule: Rule) -> str:
    """One rule: what it is about, what passes, and what is said of what does not."""
    found = next(finding for finding in findings_of(rule, rule.bad) if finding.code == rule.code)
    return (
        f"### `{rule.code}`\n\n**{rule.title}** ({rule.level}). {rule.why}\n\n"
        f"- Comes from: {rule.standard}\n- Remedy: {rule.remedy}\n\n"
        f"This passes:\n\n{_example(rule.good)}\nThis does not:\n\n{_example(rule.bad)}\n"
        f"It says: {_short(found.message)} {found.remedy}\n"
    )


def _example(example: Example) -> str:
    """An example as blocks of code; of long ones the beginning."""
    files = example if isinstance(example, Mapping) else {"": example}
    blocks = []
    for name, text in files.items():
        shown = _written(text)
        kind = "yaml" if shown.startswith("site:") else "xml" if shown.startswith("<url") else ""
        kind = kind or ("html" if shown.startswith("<") else "text")
        blocks.append((f"{name}:\n\n" if name else "") + f"```{kind}\n{shown.rstrip()}\n```\n")
    return "\n".join(blocks)


def _written(text: str | bytes | Many) -> str:
    """A text of an example as one can print it."""
    if isinstance(text, Many):
        return f"{text.before}{_short(text.piece.replace('{n}', '1'))}… and so on, {text.times:,} times"
    if isinstance(text, bytes):
        return repr(text)[2:-1].replace("\\n", "\n") + "\n"
    return _short(text)


def _short(text: str) -> str:
    return text if len(text) <= 600 else f"{text[:600]} …"


def language() -> str:
    """The reference of the map language: every word, section by section."""
    titles = {
        "": "At the top",
        "site": "Under `site:`",
        "pages": "Under a page",
        "levels of breadcrumbs": "In a level of `breadcrumbs:` of a page",
        "menus": "Under a menu, where it is more than its entries",
        "entries": "In an entry of a menu",
        "auto": "Under `auto:`",
        "breadcrumbs": "Under `breadcrumbs:`",
        "header": "Under `header:`",
        "header on a page": "Under `header:` of a page",
        "mobile": "Under `mobile:` of a header",
        "page-end": "Under `page-end:`",
        "theme": "Under `theme:`",
        "phrases": "Under `phrases:`",
        "parts": "Under a part",
        "head": "Under `head:`",
        "social": "Under `social:`",
        "counter": "Under `counter:`",
        "table": "Under `table:`",
        "inlay": "Under `inlay:`",
        "own markup": "Under a menu in `inlay: menus:`, and under `inlay: breadcrumbs:`",
        "checks": "Under `checks:`",
        "level": "Under a check, in `levels:`",
    }
    parts = []
    for section, known in SECTIONS.items():
        rows = "\n".join(
            f"| `{w.name}` | {', '.join(f'`{v}`' for v in w.values) or w.value_type} | {w.default} | {w.meaning} "
            f"| {screen_of(section, w)} |"
            for w in known
        )
        parts.append(
            f"## {titles[section]}\n\n| key | takes | default | meaning | by hand |\n"
            f"| --- | --- | --- | --- | --- |\n{rows}\n"
        )
    return (
        f"{MADE}# The map language, word by word\n\nHow the words work together is told in [page-map.md](page-map.md). "
        "`site.schema.json` beside this page is the same for editors. *By hand* is the screen of the application that "
        "writes the word, and where on it.\n\n" + "\n".join(parts) + "\n## Limits\n\n"
        f"- {limits.TEXT_BYTES:,} bytes of text\n- {limits.PAGES:,} pages\n- {limits.LEVELS} levels of pages, and of "
        f"entries in a menu\n- {limits.LABEL_CHARACTERS} characters in a title or a label\n"
        f"- {limits.MENU_LINKS:,} links in menus, over all pages\n"
    )


def header() -> str:
    """What a header does: for each behaviour, its table, and the picture of that."""
    parts = []
    for behaviour in next(word.values for word in HEADER if word.name == "behaviour"):
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


def own_templates() -> str:
    """What own templates can say, and what they see: the words stand in `own-templates.md` beside this."""
    sees = ""
    for name in NAMES:
        rows = "\n".join(f"| `{value}` | {meaning} |" for value, meaning in VALUES[name].items())
        sees += f"\n### `templates/{name}.html`\n\n| value | is |\n| --- | --- |\n{rows}\n"
    views = ""
    for view, meaning, values in documented():
        rows = "\n".join(
            f"| `.{name}` | `{kind.replace('|', chr(92) + '|')}` | {said} |" for name, kind, said in values
        )
        views += f"\n### `{view}`\n\n{meaning}\n\n| value | type | is |\n| --- | --- | --- |\n{rows}\n"
    text = Template((Path(__file__).parent / "own-templates.md").read_text(encoding="utf-8"))
    return MADE + text.substitute(
        sees=sees,
        views=views,
        filters=", ".join(f"`{name}`" for name in FILTERS),
        tests=", ".join(f"`{name}`" for name in TESTS),
        steps=f"{limits.TEMPLATE_STEPS:,}",
        characters=f"{limits.TEMPLATE_OUTPUT:,}",
    )


def outputs() -> str:
    """The outputs: a row for each, from where they are listed; the words are in `outputs.md` beside this."""
    rows = "\n".join(f"| `{each.name}` | {each.title} | {each.meaning} |" for each in OUTPUT_FORMATS.values())
    text = Template((Path(__file__).parent / "outputs.md").read_text(encoding="utf-8"))
    return MADE + text.substitute(outputs=f"| name | output | what it is for |\n| --- | --- | --- |\n{rows}")


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
        "and tested alone. Two places put them together: `basilica/core/compile` (`compile_map`) and "
        "`basilica/core/build.py` (`build`, `verify`). Application, command line, library and bench call them.\n\n"
        "## Around the core\n\n"
        "| folder | what |\n| --- | --- |\n"
        "| `basilica/core` | the rules and the computation; no web, no database, no clock, no network |\n"
        "| `basilica/store` | what is kept: SQLite through SQLAlchemy and Alembic, folders on disk, built folders |\n"
        "| `basilica/services` | what application and command line do alike: sites, compiled maps, builds in the"
        " background, previews, sites of folders; no Flask |\n"
        "| `basilica/web` | the application, a folder for each workspace; `application.yaml` is its own page map |\n"
        "| `basilica/cli`, `basilica/library.py` | the command line; what `from basilica import …` gives |\n"
        "| `basilica/demo` | the demo sites |\n"
        "| `frontend` | styles and scripts: a folder for each screen, and in `entries` what it starts; `make assets` "
        "builds them into `basilica/web/static` |\n"
        "| `tests`, `bench` | the tests; speed, as ratios |\n\n"
        "## The floors of the core\n\n"
        "A floor imports only floors below it here, which the contracts in `pyproject.toml` hold; from the roof down:"
        f"\n\n| floor | what |\n| --- | --- |\n{rows}\n\n"
        "The same from the imports. An arrow that follows from others is left out.\n\n"
        f"```mermaid\ngraph TD\n{arrows}\n```\n\n"
        "Four things to know before a change:\n\n"
        "- **An act is accounted for: conservation.** What goes into an edit, an import, a save, an inlay, a publish "
        "or a kit comes out as *kept*, *changed as asked* or *dropped, named and agreed to*. What an act does not "
        "know, it keeps; what it could not read, it does not treat as absent; success is reported from the result. "
        "`core/shared/conservation.py` draws up the account; edits call it in `core/edits/apply.py` for every word "
        "and comment of the map, lists are merged by such edits, imports in `site_import/lost_words.py`.\n"
        "- **An edit is proved.** It changes the site and patches the text, apart from each other; the patched text, "
        "read again, must say the changed site.\n"
        "- **A build is proved.** The checks read the built files, not the intention.\n"
        "- **The header is a table.** The simulation, the script in the browser, the drawing and "
        "[its documentation](header.md) come from `core/header/state_machine.py`.\n\n"
        "How to add a check, an edit, an output, a workspace or a language: [CONTRIBUTING.md](../CONTRIBUTING.md). "
        "What words mean: [glossary.md](glossary.md).\n"
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
        "../frontend/src/answers.ts": script_types(),
        "findings.md": findings(),
        "checks.md": checks(),
        "map-words.md": language(),
        "header.md": header(),
        "icons.md": icons(),
        "own-templates.md": own_templates(),
        "outputs.md": outputs(),
        "architecture.md": architecture(),
        "site.schema.json": json.dumps(json_schema(), indent=2) + "\n",
    }
    stale = [name for name, text in made.items() if not _is(DOCS / name, text)]
    if "--check" in sys.argv:
        for name in stale:
            print(f"{(DOCS / name).resolve()} is not what the code says. Run: make docs", file=sys.stderr)
        return 1 if stale else 0
    for name in stale:
        (DOCS / name).write_text(made[name], encoding="utf-8")
    return 0


def _is(path: Path, text: str) -> bool:
    return path.is_file() and path.read_text(encoding="utf-8") == text


if __name__ == "__main__":
    sys.exit(main())
