"""The settings of a target, as `publish.yaml` or the application has them. Never a secret."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from importlib import import_module
from importlib.metadata import entry_points
from pathlib import Path
from typing import TYPE_CHECKING, Any, cast

from basilica.core.map.site.settings_reader import parse_base
from basilica.store.errors import UsageError

if TYPE_CHECKING:
    from basilica.store.targets.target import PublishTarget


@dataclass(frozen=True, slots=True)
class SettingWord:
    """A setting: its name, what it is in words, and the one that counts where none is given (None: it must be)."""

    name: str
    meaning: str
    default: str | None = ""


ADDRESS = SettingWord("address", "Where the live site is read, such as https://mill.example: for `basilica live`.")

_OURS = "basilica.store.targets"
KINDS = {
    "folder": f"{_OURS}.folder_target:FolderTarget",
    "sftp": f"{_OURS}.sftp_target:SftpTarget",  # takes a while to import
    "git": f"{_OURS}.git_target:GitTarget",
    **{point.name: point.value for point in entry_points(group="basilica.targets")},
}
"""By name, where the class of each kind of target is. Other packages add theirs as entry points `basilica.targets`."""


def target_class(kind: str) -> type[PublishTarget]:
    """The class of a kind of target."""
    module, _, name = KINDS[kind].partition(":")
    return cast("type[PublishTarget]", getattr(import_module(module), name))


def words_of(kind: str) -> tuple[SettingWord, ...]:
    """The settings of a kind of target."""
    return (*target_class(kind).WORDS, ADDRESS)


@dataclass(frozen=True, slots=True)
class TargetSettings:
    """A target by its ``name``: its kind, the values of its settings, and the folder at which relative paths begin."""

    name: str
    kind: str
    values: Mapping[str, str] = field(default_factory=dict)
    beside: Path | None = None

    def __getitem__(self, word: str) -> str:
        found = self.values.get(word, "")
        return found or next((one.default or "" for one in words_of(self.kind) if one.name == word), "")

    @property
    def place(self) -> str:
        """What is published to, in one line: the same for two targets that are one place."""
        return target_class(self.kind).place_of(self)

    def path(self, word: str) -> Path:
        """A setting that is a path on this machine."""
        path = Path(self[word]).expanduser()
        return path if path.is_absolute() or self.beside is None else (self.beside / path).resolve()

    @property
    def local_root(self) -> Path | None:
        """The folder of the live site, if that is on this machine."""
        root = target_class(self.kind).ROOT
        return self.path(root) if root else None

    @property
    def local_words(self) -> tuple[str, ...]:
        """The settings with a value that are paths on this machine."""
        return tuple(word for word in target_class(self.kind).LOCAL if self.values.get(word))

    @property
    def address(self) -> str:
        """Where the live site is read, without a slash in the end; empty where that is not said."""
        return self["address"].rstrip("/")


def settings_of(name: str, given: Mapping[str, Any], beside: Path | None = None) -> TargetSettings:
    """The settings of a target as somebody gave them. Raises ``UsageError`` with the word and the remedy."""
    where = f"The target `{name[:60]}`"
    if not name or not name.replace("-", "").isalnum() or name != name.lower() or len(name) > 40:
        raise UsageError(
            f"{where} has a name that is not allowed. Use lower-case letters, digits and hyphens, such as `live`."
        )
    kind = given.get("kind")
    if kind not in KINDS:
        raise UsageError(f"{where} needs a `kind`: {', '.join(KINDS)}.")
    words = words_of(kind)
    values = _values(where, name, words, given)
    for setting in words:
        if setting.default is None and not values.get(setting.name):
            raise UsageError(f"{where} needs `{setting.name}`: {setting.meaning[0].lower()}{setting.meaning[1:]}")
    if values.get("address"):
        address, reason = parse_base(values["address"])
        if address is None:
            raise UsageError(f"{where}: `address` {reason}. Write it as https://mill.example.")
        values["address"] = str(address)  # as browsers have it
    settings = TargetSettings(name, kind, values, beside)
    problem = target_class(kind).problem_with(settings)
    if problem:
        raise UsageError(f"{where}: {problem}")
    return settings


def _values(where: str, name: str, words: Iterable[SettingWord], given: Mapping[str, Any]) -> dict[str, str]:
    """What is given, word by word, as text."""
    values = {}
    known = [word.name for word in words]
    for word, value in given.items():
        if word == "kind":
            continue
        if word in ("password", "passphrase"):
            raise UsageError(
                f"{where} has a `{word}`. Remove it: secrets are kept in the keyring, or in the environment as "
                f"{secret_variable(name)}."
            )
        if word not in known:
            raise UsageError(f"{where} has the word `{word}`, which is none of: kind, {', '.join(known)}.")
        if isinstance(value, bool) or not isinstance(value, str | int) or "\n" in str(value) or "\0" in str(value):
            raise UsageError(f"{where}: `{word}` is not a single line of text.")
        values[word] = str(value).strip()
    return values


def secret_variable(name: str) -> str:
    """The variable of the environment that has the secret of a target."""
    return "BASILICA_SECRET_" + name.upper().replace("-", "_")
