"""What the store says to a person."""

from __future__ import annotations


class UsageError(Exception):
    """Something was asked for that cannot be done; the message says what to do instead."""


class NotStored(UsageError):
    """The database cannot be read or written at the moment: the disk is full, or another program holds it."""
