"""What is said to people, as markup."""

from __future__ import annotations

from markupsafe import Markup, escape


def with_code(message: object) -> Markup:
    """A message in which what stands between backticks is shown as code; where one of them is alone, all stay. Nothing
    where there is none."""
    text = str(message or "")
    pieces = text.split("`")
    if len(pieces) % 2 == 0:
        return escape(text)
    shown = (Markup("<code>{}</code>").format(piece) if at % 2 else escape(piece) for at, piece in enumerate(pieces))
    return Markup("").join(shown)
