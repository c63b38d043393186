"""Record what the demos become, to hold a redesign against it: every file of every output, in every style of
addresses and links, and every finding.

    python scripts/record_outputs.py RECORD.json            write the record
    python scripts/record_outputs.py RECORD.json --against  compare with it; exit status 1 where anything differs

Only the command line is used, so that a record of an older revision can be made with that revision's own package:
``PYTHONPATH=OLD_CHECKOUT python scripts/record_outputs.py …``. ``--quick`` leaves most styles of the large demo out.
``--maps FOLDER`` adds the findings of every map in a folder.
"""

from __future__ import annotations

import argparse
import hashlib
import json
import re
import shutil
import sys
import tempfile
from itertools import product
from pathlib import Path

from click.testing import CliRunner

import basilica
from basilica.cli import main as basilica_command

DEMOS = Path(basilica.__file__).parent / "demo"
STYLES = list(product(("folders", "files", "bare"), ("root", "document", "file", "absolute")))
OUTPUTS = ("site", "flask", "django", "express", "typescript", "includes", "data")


def run(*arguments: str) -> str:
    """What a command prints, and its exit status."""
    result = CliRunner().invoke(basilica_command, list(arguments))
    if result.exception and not isinstance(result.exception, SystemExit):
        raise result.exception
    return f"{result.exit_code}\n{result.output}"


def digests(folder: Path) -> dict[str, str]:
    """The digest of every file in a folder, by its path in there."""
    return {
        str(path.relative_to(folder)): hashlib.sha256(path.read_bytes()).hexdigest()[:16]
        for path in sorted(folder.rglob("*"))
        if path.is_file()
    }


def styled(text: str, urls: str, links: str) -> str:
    """A map's text in one style of addresses and links."""
    text = re.sub(r"(?m)^  (urls|links): .*\n", "", text)
    return re.sub(r"(?m)^site:\n", f"site:\n  urls: {urls}\n  links: {links}\n", text, count=1)


def record(quick: bool, maps: Path | None) -> dict[str, dict[str, str]]:
    """Everything, by demo, style and output."""
    found: dict[str, dict[str, str]] = {}
    with tempfile.TemporaryDirectory() as name:
        work = Path(name)
        for demo in ("saltern-reach", "marrow-valley"):
            large = demo == "marrow-valley"
            shutil.copytree(DEMOS / demo, work / demo)
            site = work / demo / "site.yaml"
            text = site.read_text()
            found[f"{demo}/findings"] = {"": run("check", str(site), "--format", "json").replace(str(work), "")}
            for urls, links in STYLES[::5] if quick and large else STYLES:
                site.write_text(styled(text, urls, links))
                for output in OUTPUTS:
                    out = work / "out"
                    shutil.rmtree(out, ignore_errors=True)
                    run("build", str(site), "--out", str(out), "--output", output)
                    found[f"{demo}/{urls}/{links}/{output}"] = digests(out)
            site.write_text(text)
            if not large:
                found[f"{demo}/inlay"] = inlaid(site, work / "pages")
        for path in sorted(maps.rglob("*.yaml")) if maps else ():
            found[f"map/{path.name}"] = {"": run("check", str(path), "--format", "json")}
    return found


def inlaid(site: Path, folder: Path) -> dict[str, str]:
    """The digests of plain pages into which the shared parts were set."""
    for key in ("index", "visit/index", "visit/hours/index", "news/index"):
        page = folder / f"{key}.html"
        page.parent.mkdir(parents=True, exist_ok=True)
        page.write_text(
            f'<!doctype html>\n<html lang="en"><head><title>{key}</title></head>\n<body><main id="content">'
            f"<h1>{key}</h1></main></body></html>\n"
        )
    said = run("inlay", str(site), str(folder), "--place").replace(str(folder), "")
    return {"": said, **digests(folder)}


def differences(before: dict[str, dict[str, str]], after: dict[str, dict[str, str]]) -> list[str]:
    """What differs between two records, a line each."""
    found = []
    for name in sorted(before.keys() & after.keys()):
        paths = before[name].keys() | after[name].keys()
        off = sorted(path for path in paths if before[name].get(path) != after[name].get(path))
        if off:
            found.append(f"{name}: {len(off)} differ, such as {off[:4]}")
    return found


def main() -> int:
    """The command."""
    parser = argparse.ArgumentParser(description=(__doc__ or "").split("\n")[0])
    parser.add_argument("record", type=Path)
    parser.add_argument("--against", action="store_true")
    parser.add_argument("--quick", action="store_true")
    parser.add_argument("--maps", type=Path)
    asked = parser.parse_args()
    made = record(asked.quick, asked.maps)
    if not asked.against:
        asked.record.write_text(json.dumps(made, indent=1))
        return 0
    off = differences(json.loads(asked.record.read_text()), made)
    print("\n".join(off) or f"The same: {sum(map(len, made.values())):,} files and findings.")
    return 1 if off else 0


if __name__ == "__main__":
    sys.exit(main())
