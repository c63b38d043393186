"""Where sites are published to. A kind of target is one module, and its line in ``KINDS``."""

from __future__ import annotations

from basilica.store.targets.target import PublishTarget, TargetProblem
from basilica.store.targets.target_settings import KINDS, TargetSettings, settings_of, target_class, words_of


def open_target(settings: TargetSettings) -> PublishTarget:
    """The target of some settings, to be used with ``with``."""
    return target_class(settings.kind)(settings)


__all__ = [
    "KINDS",
    "PublishTarget",
    "TargetProblem",
    "TargetSettings",
    "open_target",
    "settings_of",
    "target_class",
    "words_of",
]
