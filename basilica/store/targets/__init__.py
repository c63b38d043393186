"""Where sites are published to. A kind of target is one module, and its line in ``KINDS``."""

from __future__ import annotations

from importlib import import_module
from typing import cast

from basilica.store.targets.target import PublishTarget, TargetProblem
from basilica.store.targets.target_settings import TargetSettings, settings_of

KINDS = {"folder": "FolderTarget", "sftp": "SftpTarget", "git": "GitTarget"}
"""By name, the class of each kind of target, in the module of its name; that for SSH takes a while to import."""


def open_target(settings: TargetSettings) -> PublishTarget:
    """The target of some settings, to be used with ``with``."""
    module = import_module(f"{__name__}.{settings.kind}_target")
    return cast(PublishTarget, getattr(module, KINDS[settings.kind])(settings))


__all__ = ["KINDS", "PublishTarget", "TargetProblem", "TargetSettings", "open_target", "settings_of"]
