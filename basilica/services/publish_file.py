"""`publish.yaml` beside a map: where its site is published to."""

from __future__ import annotations

from pathlib import Path

from basilica.core.map.document import Document, Mapping, Node, Scalar, read
from basilica.core.rules import limits
from basilica.store.errors import UsageError
from basilica.store.folders import read_file
from basilica.store.targets import TargetSettings, settings_of

PUBLISH_FILE = "publish.yaml"


def targets_beside(folder: Path) -> dict[str, TargetSettings]:
    """The targets that the file in a folder names, in its order; none where there is no such file. Raises
    ``UsageError`` with the line and the remedy."""
    path = folder / PUBLISH_FILE
    if not path.exists():
        return {}
    document, findings = read(read_file(path, limits.TEXT_BYTES))
    if findings:
        first = findings[0]
        raise UsageError(f"{path}:{first.line}: {first.message} {first.remedy}".rstrip())
    root = document.root
    if not isinstance(root, Mapping) or [key.value for key, _ in root.pairs] != ["targets"]:
        raise UsageError(f"{path}: `targets:` is expected, and below it each target by name. {_EXAMPLE}")
    targets = root.pairs[0][1]
    if not isinstance(targets, Mapping):
        raise UsageError(f"{path}:{_line(document, targets)}: no target is named. {_EXAMPLE}")
    found = {}
    for name, node in targets.pairs:
        try:
            found[name.value] = settings_of(name.value, _words(node), folder)
        except UsageError as error:
            raise UsageError(f"{path}:{_line(document, name)}: {error}") from error
    return found


_EXAMPLE = "Such as `live: {kind: folder, folder: ../www}`."


def _line(document: Document, node: Node) -> int:
    return document.lines.place(node.start).line


def _words(node: Node) -> dict[str, str]:
    if not isinstance(node, Mapping):
        raise UsageError(f"Its settings are expected below it. {_EXAMPLE}")
    bad = next((key.value for key, value in node.pairs if not isinstance(value, Scalar)), None)
    if bad is not None:
        raise UsageError(f"`{bad}` is not text.")
    return {key.value: value.value for key, value in node.pairs if isinstance(value, Scalar)}
