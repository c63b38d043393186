"""A process that edits a site and is killed at a file-system event."""

from __future__ import annotations

import multiprocessing
import os
import signal
import sys
from pathlib import Path
from typing import Any

from basilica.core.compile import compile_map
from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Content
from basilica.services.all_services import Services
from basilica.services.folder_builds import build_folder
from basilica.services.inlays import FolderInlay
from basilica.store.folders import read_source

processes = multiprocessing.get_context("forkserver")
processes.set_forkserver_preload(["tests.hardening.killed"])
KINDS = ("save", "write", "file", "version", "build")
NAMES = "open rename remove mkdir rmdir rmtree chmod truncate"
EVENTS = frozenset(name for each in NAMES.split() for name in (each, f"os.{each}", f"shutil.{each}"))
MAP = "site: {name: Mill}\nmenus: {main: [home, a]}\npages:\n  home: {path: /}\n  a: A\n"


def begin(root: Path) -> None:
    """A site of a folder, in a folder of data, and built once; with a file of somebody else's in the build."""
    (root / "mill" / "content").mkdir(parents=True)
    (root / "mill" / "site.yaml").write_text(MAP)
    (root / "mill" / "content" / "a.md").write_text("0\n")
    services = Services.of(root / "data")
    services.folders.adopt((root / "mill").resolve())
    services.close()
    build_folder(read_source(root / "mill" / "site.yaml"), root / "out", False)
    (root / "out" / "CNAME").write_text("mill.example\n")


def die_at(root: Path, at: int) -> None:
    """Kill this process at the file-system event number ``at`` below ``root``."""
    count = 0

    def note(event: str, arguments: Any) -> None:
        nonlocal count
        if event in EVENTS and arguments and str(root) in str(arguments[0]):
            count += 1
            if count >= at > 0:
                os.kill(os.getpid(), signal.SIGKILL)

    sys.addaudithook(note)


def edit(root: Path, at: int, order: int) -> None:
    """Edit, keep and build, noting what was done in the file `done`, up to the event number ``at``, and die there; with
    none, until this process is killed."""
    services = Services.of(root / "data")
    slug = services.store.all()[0].slug
    services.sites.open(slug)
    done = os.open(root / "done", os.O_WRONLY | os.O_CREAT | os.O_APPEND)
    die_at(root, at)
    for number in range(1, 1000):
        kind = KINDS[(number * (2 * order + 1) + order) % len(KINDS)]
        act(services, slug, root, kind, number)
        os.write(done, f"{kind} {number}\n".encode())


def act(services: Services, slug: str, root: Path, kind: str, number: int) -> None:
    """Do one thing; what it leaves says its number."""
    site = services.sites.open(slug)
    if kind == "save":
        services.sites.save(slug, f"{MAP}# {number}\n", site.revision)
    elif kind == "write":
        was = services.store.contents(slug).get("a", Content("content/a.md", "")).text
        services.sites.write(slug, "a", f"{number}\n", was)
    elif kind == "file":
        services.sites.put_file(slug, "files/n.txt", str(number).encode(), None)
    elif kind == "version":
        services.sites.save_version(slug, site.revision, str(number))
    else:
        build_folder(read_source(root / "mill" / "site.yaml"), root / "out", True)


PAGES = 200
OLD = "<!doctype html><html><head><title>Old</title></head><body><main id=content><h1>{}</h1></main></body></html>"


def begin_pages(root: Path) -> None:
    """A folder of somebody's pages, and the map of them."""
    names = [f"p{number}" for number in range(PAGES)]
    (root / "mill").mkdir(parents=True)
    (root / "mill" / "site.yaml").write_text(MAP + "".join(f"  {name}: Page\n" for name in names))
    for name in names:
        (root / "old" / name).mkdir(parents=True)
        (root / "old" / name / "index.html").write_text(OLD.format(name))


def set_in(root: Path, at: int = 0) -> None:
    """Set the shared regions into the pages; killed at the event number ``at``, where there is one."""
    source = read_source(root / "mill" / "site.yaml")
    plan = compile_map(source.map).plan
    assert plan is not None
    if at:
        die_at(root, at)
    FolderInlay(plan, {}, root / "old", place=True).run(write=True)


def kept(services: Services, slug: str) -> dict[str, int]:
    """Of each kind, the number of what was done last, as it is kept."""
    site, files = services.sites.open(slug), services.store.files(slug)
    notes = [version.note for version in services.store.versions(slug)]
    return {
        "save": int(site.text.removeprefix(MAP).strip("# \n") or 0),
        "write": int(services.store.contents(slug)["a"].text),
        "file": int((files if isinstance(files, Files) else {}).get("files/n.txt", b"0")),
        "version": max((int(note) for note in notes if note.isdigit()), default=0),
    }
