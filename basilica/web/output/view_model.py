"""The files of a build as a tree of folders, with what became of each since another build."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(slots=True)
class Folder:
    """A folder: its name, the folders and the files in it, and how many files are below it, changed ones apart."""

    name: str
    path: str
    folders: dict[str, Folder] = field(default_factory=dict)
    files: list[tuple[str, str, int, str]] = field(default_factory=list)
    """Name, path, bytes, and what became of it."""
    count: int = 0
    changed: int = 0


def states(files: Mapping[str, bytes], before: Mapping[str, bytes] | None) -> dict[str, str]:
    """For each file, and each that is gone, whether it is `new`, `changed`, `gone` or the `same` as before; all are the
    same where there is no build before."""
    if before is None:
        return dict.fromkeys(files, "same")
    found = {}
    for path, data in files.items():
        found[path] = "new" if path not in before else "same" if before[path] == data else "changed"
    return found | {path: "gone" for path in before if path not in files}


def file_tree(files: Mapping[str, bytes], before: Mapping[str, bytes] | None) -> Folder:
    """All files as a tree; those that are gone stand where they were."""
    root = Folder("", "")
    for path, state in sorted(states(files, before).items()):
        *folders, name = path.split("/")
        here = root
        above = [root]
        for folder in folders:
            where = f"{here.path}/{folder}" if here.path else folder
            here = here.folders.setdefault(folder, Folder(folder, where))
            above.append(here)
        data = files.get(path, (before or {}).get(path, b""))
        here.files.append((name, path, len(data), state))
        for folder_above in above:
            folder_above.count += 1
            folder_above.changed += state != "same"
    return root
