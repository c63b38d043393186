"""The configuration of the application, as far as commands need it."""

from __future__ import annotations

import os
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from basilica.web.config import Config


def configured(**options: object) -> Config:
    """The configuration with the options of a command. Raises ``UsageError``."""
    from basilica.web.config import read_config  # the application is not loaded for commands that do without it

    return read_config(options, os.environ, Path.cwd())
