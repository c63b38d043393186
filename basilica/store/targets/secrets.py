"""Passwords and passphrases of targets: from the environment, else from the keyring of the system. They are written
nowhere else."""

from __future__ import annotations

import os

import keyring
from keyring.errors import KeyringError

from basilica.store.targets.target_settings import TargetSettings, secret_variable

_SERVICE = "basilica"


def secret_of(settings: TargetSettings) -> str | None:
    """The secret of a target; None where none is known."""
    given = os.environ.get(secret_variable(settings.name))
    if given:
        return given
    try:
        return keyring.get_password(_SERVICE, settings.place)
    except KeyringError:
        return None


def remember_secret(settings: TargetSettings, secret: str) -> bool:
    """Put the secret of a target into the keyring; False where the system has none."""
    try:
        keyring.set_password(_SERVICE, settings.place, secret)
    except KeyringError:
        return False
    return True


def forget_secret(settings: TargetSettings) -> None:
    """Take the secret of a target out of the keyring, if it is there."""
    try:
        keyring.delete_password(_SERVICE, settings.place)
    except KeyringError:
        return
