"""What the application answers to its own script: structures, from which the script's types are generated."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import msgspec
from flask import Response, jsonify


class ScriptAnswer(msgspec.Struct, frozen=True, kw_only=True):
    """An answer as JSON. Each kind has its type in ``frontend/src/answers.ts``; see ``scripts/script_types.py``."""

    def plain(self) -> Any:
        """The answer as plain data, such as for Jinja's ``tojson``."""
        return msgspec.to_builtins(self)


class Refusal(ScriptAnswer, frozen=True, kw_only=True, omit_defaults=True):
    """Why something was not done. ``asks`` names what the person must agree to first; the other values belong to a
    conflict: the ``text`` and ``revision`` as they are now, ``merged`` what both made, ``lost`` lines of theirs that
    this would replace, ``file`` the file in conflict."""

    message: str
    asks: str | None = None
    text: str | None = None
    revision: int | None = None
    merged: str | None = None
    lost: list[str] = []
    file: str | None = None


def answered(value: ScriptAnswer | Sequence[ScriptAnswer] | Sequence[str]) -> Response:
    """A response with an answer as JSON."""
    return jsonify(msgspec.to_builtins(value))
