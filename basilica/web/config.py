"""How the application is set up: from options of the command, the environment, and a file; in this order.

The file is `basilica.toml`, in the folder where Basilica is started or in the user's folder of configuration. Every
setting is also a variable: `data` is `BASILICA_DATA`.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from ipaddress import ip_address
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

import msgspec
from platformdirs import user_config_path, user_data_path

from basilica.store.errors import UsageError

LOOPBACK = frozenset({"127.0.0.1", "localhost", "[::1]"})
"""What the application answers to on its own machine."""

FILE = "basilica.toml"
_NAME = "basilica"
_PREFIX = "BASILICA_"


class Config(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Where the data is, where the application listens, and how browsers reach it.

    ``origin`` and ``preview_origin`` are those that browsers see behind a proxy; ``allowed_hosts`` are more host names
    that are answered. ``builds_at_once`` is how many builds run at the same time, ``upload_megabytes`` how large a
    request may be."""

    data: Path = msgspec.field(default_factory=lambda: user_data_path(_NAME))
    host: str = "127.0.0.1"
    port: int = 8000
    preview_port: int = 8001
    origin: str | None = None
    preview_origin: str | None = None
    allowed_hosts: tuple[str, ...] = ()
    builds_at_once: int = 2
    upload_megabytes: int = 16

    @property
    def _named(self) -> str:
        return f"[{self.host}]" if ":" in self.host else self.host

    @property
    def _is_any(self) -> bool:
        return self.host in ("0.0.0.0", "::", "")

    @property
    def _seen_name(self) -> str:
        return self.allowed_hosts[0] if self._is_any and self.allowed_hosts else self._named

    @property
    def seen(self) -> str:
        """The application's origin as browsers see it."""
        return self.origin or f"http://{self._seen_name}:{self.port}"

    @property
    def seen_previews(self) -> str:
        """The previews' origin as browsers see it."""
        return self.preview_origin or f"http://{self._seen_name}:{self.preview_port}"

    @property
    def is_secure(self) -> bool:
        """Whether browsers reach it by https."""
        return self.seen.startswith("https:")

    @property
    def names(self) -> frozenset[str]:
        """The host names that are answered."""
        named = [urlsplit(origin).hostname or "" for origin in (self.origin, self.preview_origin) if origin]
        own = () if self._is_any else (self._named,)
        return LOOPBACK | {name.lower() for name in (*self.allowed_hosts, *named, *own) if name}

    @property
    def is_open(self) -> bool:
        """Whether others than the person at this machine can reach it."""
        try:
            is_loopback = ip_address(self.host).is_loopback
        except ValueError:
            is_loopback = self.host == "localhost"
        others = self.names - LOOPBACK - {self._named}
        return not is_loopback or bool(others)

    def check(self) -> None:
        """Raises ``UsageError`` where browsers could not follow it."""
        if (self.origin is None) != (self.preview_origin is None):
            raise UsageError(
                "Behind a proxy both --origin and --preview-origin are needed, each an address of its own."
            )
        if self._is_any and not self.allowed_hosts and not self.origin:
            raise UsageError(
                f"{self.host} is every address of this machine. Name the one that browsers use: --allowed-host."
            )
        if self.origin and urlsplit(self.origin).netloc == urlsplit(self.preview_origin or "").netloc:
            raise UsageError("--origin and --preview-origin are the same; previews need an address of their own.")
        if min(self.builds_at_once, self.upload_megabytes) < 1:
            raise UsageError("builds_at_once and upload_megabytes are at least 1.")


def read_config(options: Mapping[str, Any], environment: Mapping[str, str], folder: Path) -> Config:
    """The configuration: ``options`` of the command (None and empty ones are not given), else the ``environment``, else
    the file in ``folder`` or in the user's. Raises ``UsageError`` with the place and the remedy."""
    values: dict[str, Any] = {}
    for path in (user_config_path(_NAME) / FILE, folder / FILE):
        if path.is_file():
            values = _checked(_read(path), str(path), strict=True)
    values |= _checked(_of_environment(environment), "the environment", strict=False)
    values |= {name: value for name, value in options.items() if value not in (None, ())}
    return Config(**values)


def _read(path: Path) -> dict[str, Any]:
    try:
        found = tomllib.loads(path.read_text(encoding="utf-8"))
    except (OSError, UnicodeDecodeError, tomllib.TOMLDecodeError) as error:
        raise UsageError(f"{path} cannot be read: {error}.") from error
    if isinstance(found.get("data"), str):  # as it is written beside the file
        found["data"] = str(path.parent / Path(found["data"]).expanduser())
    return found


def _of_environment(environment: Mapping[str, str]) -> dict[str, Any]:
    """What the variables say; one that is none of ours is left to whoever it belongs to."""
    found: dict[str, Any] = {}
    for name in Config.__struct_fields__:
        text = environment.get(_PREFIX + name.upper(), "").strip()
        if text:
            found[name] = text.split() if name == "allowed_hosts" else text
    return found


def _decoded(kind: type, value: Any) -> Any:
    if kind is Path and isinstance(value, str):
        return Path(value).expanduser()
    raise TypeError(f"{value!r} is not a path")


def _checked(values: dict[str, Any], where: str, strict: bool) -> dict[str, Any]:
    try:
        read = msgspec.convert(values, Config, strict=strict, dec_hook=_decoded)
    except msgspec.ValidationError as error:
        known = ", ".join(Config.__struct_fields__)
        raise UsageError(f"The configuration in {where} cannot be used: {error}. The settings are {known}.") from error
    return {name: getattr(read, name) for name in values}
