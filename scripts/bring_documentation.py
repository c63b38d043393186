"""Brings the HTML documentation of three packages of Debian into a folder: real pages that nobody here wrote, to hold
imports and audits against. They are not committed."""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

PACKAGES = {
    "debian-faq": "usr/share/doc/debian/FAQ",
    "apt-doc": "usr/share/doc/apt-doc",
    "developers-reference": "usr/share/developers-reference",
}
"""A small book, a manual with translations, and a reference with links to the page before and the one after; each with
the folder of its pages."""


def bring(into: Path) -> dict[str, tuple[Path, str]]:
    """By package, the folder of its pages and its version. Raises ``RuntimeError`` where they cannot be brought."""
    for tool in ("apt-get", "dpkg-deb"):
        if shutil.which(tool) is None:
            raise RuntimeError(f"There is no {tool} on this machine.")
    found = {}
    for name, below in PACKAGES.items():
        root = into / name
        root.mkdir(parents=True, exist_ok=True)
        with tempfile.TemporaryDirectory() as folder:
            got = subprocess.run(
                ["apt-get", "download", "-qq", name], cwd=folder, capture_output=True, text=True, timeout=300
            )
            package = next(Path(folder).glob("*.deb"), None)
            if package is None:
                raise RuntimeError(f"{name} cannot be brought: {got.stderr.strip()[-300:]}")
            said = subprocess.run(["dpkg-deb", "-f", package, "Version"], capture_output=True, text=True, check=True)
            subprocess.run(["dpkg-deb", "-x", package, root], check=True)
        found[name] = root / below, said.stdout.strip()
    return found


if __name__ == "__main__":
    target = Path(sys.argv[1] if len(sys.argv) > 1 else "build/documentation")
    try:
        for name, (folder, version) in bring(target).items():
            print(f"{name} {version}: {folder}")
    except RuntimeError as error:
        sys.exit(str(error))
