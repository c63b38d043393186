"""The settings of a target, as `publish.yaml` or the application has them. Never a secret."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from basilica.core.map.site.settings_reader import parse_base
from basilica.store.errors import UsageError


@dataclass(frozen=True, slots=True)
class SettingWord:
    """A setting: its name, what it is in words, and the one that counts where none is given (None: it must be)."""

    name: str
    meaning: str
    default: str | None = ""


ADDRESS = SettingWord("address", "Where the live site is read, such as https://mill.example: for `basilica live`.")

WORDS: dict[str, tuple[SettingWord, ...]] = {
    "folder": (
        SettingWord("folder", "The folder of the live site on this machine; it is made where it is not there.", None),
        ADDRESS,
    ),
    "sftp": (
        SettingWord("host", "The name or the number of the server.", None),
        SettingWord("port", "The port of its SSH.", "22"),
        SettingWord("user", "The user there.", None),
        SettingWord("folder", "The folder of the live site there; relative ones begin at the user's home.", "."),
        SettingWord("key", "The file of the private key. Without one a password is asked of the keyring."),
        SettingWord("host-key", "The fingerprint of the server's key, SHA256:…; without one it is shown and asked."),
        ADDRESS,
    ),
    "git": (
        SettingWord("repository", "The folder of the repository: bare, or a clone.", None),
        SettingWord("branch", "The branch that has the live site; it is made where it is not there.", None),
        SettingWord("folder", "The folder in the branch; the whole of it where none is given."),
        ADDRESS,
    ),
}
"""The settings of each kind of target."""


@dataclass(frozen=True, slots=True)
class TargetSettings:
    """A target by its ``name``: its kind, the values of its settings, and the folder at which relative paths begin."""

    name: str
    kind: str
    values: Mapping[str, str] = field(default_factory=dict)
    beside: Path | None = None

    def __getitem__(self, word: str) -> str:
        found = self.values.get(word, "")
        return found or next((one.default or "" for one in WORDS[self.kind] if one.name == word), "")

    @property
    def place(self) -> str:
        """What is published to, in one line: the same for two targets that are one place."""
        if self.kind == "folder":
            return str(self.path("folder"))
        if self.kind == "git":
            below = f" /{self['folder']}" if self["folder"] else ""
            return f"{self.path('repository')} branch {self['branch']}{below}"
        return f"{self['user']}@{self['host']}:{self['port']} {self['folder']}"

    def path(self, word: str) -> Path:
        """A setting that is a path on this machine."""
        path = Path(self[word]).expanduser()
        return path if path.is_absolute() or self.beside is None else (self.beside / path).resolve()

    @property
    def address(self) -> str:
        """Where the live site is read, without a slash in the end; empty where that is not said."""
        return self["address"].rstrip("/")


def settings_of(name: str, given: Mapping[str, Any], beside: Path | None = None) -> TargetSettings:
    """The settings of a target as somebody gave them. Raises ``UsageError`` with the word and the remedy."""
    where = f"The target `{name[:60]}`"
    if not name or not name.replace("-", "").isalnum() or name != name.lower() or len(name) > 40:
        raise UsageError(f"{where} has no good name. Use lower-case letters, digits and hyphens, such as `live`.")
    kind = given.get("kind")
    if kind not in WORDS:
        raise UsageError(f"{where} needs a `kind`: {', '.join(WORDS)}.")
    values = _values(where, name, WORDS[kind], given)
    for setting in WORDS[kind]:
        if setting.default is None and not values.get(setting.name):
            raise UsageError(f"{where} needs `{setting.name}`: {setting.meaning[0].lower()}{setting.meaning[1:]}")
    if "port" in values and not (values["port"].isascii() and values["port"].isdigit() and int(values["port"]) < 65536):
        raise UsageError(f"{where}: `port` is no number up to 65535.")
    if values.get("address"):
        address, reason = parse_base(values["address"])
        if address is None:
            raise UsageError(f"{where}: `address` {reason}. Write it as https://mill.example.")
        values["address"] = str(address)  # as browsers have it
    if kind == "git" and not {"", ".", ".."}.isdisjoint(values.get("folder", "x").split("/")):
        raise UsageError(f"{where}: `folder` is no folder in a branch. Write it as docs or docs/site.")
    return TargetSettings(name, kind, values, beside)


def _values(where: str, name: str, words: Iterable[SettingWord], given: Mapping[str, Any]) -> dict[str, str]:
    """What is given, word by word, as text."""
    values = {}
    known = [word.name for word in words]
    for word, value in given.items():
        if word == "kind":
            continue
        if word in ("password", "passphrase"):
            raise UsageError(
                f"{where} has a `{word}`. Take it out: secrets are kept in the keyring, or in the environment as "
                f"{secret_variable(name)}."
            )
        if word not in known:
            raise UsageError(f"{where} has the word `{word}`, which is none of: kind, {', '.join(known)}.")
        if isinstance(value, bool) or not isinstance(value, str | int) or "\n" in str(value) or "\0" in str(value):
            raise UsageError(f"{where}: `{word}` is no text of one line.")
        values[word] = str(value).strip()
    return values


def secret_variable(name: str) -> str:
    """The variable of the environment that has the secret of a target."""
    return "BASILICA_SECRET_" + name.upper().replace("-", "_")
