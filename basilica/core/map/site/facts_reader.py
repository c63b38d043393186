"""Facts by name, to be said wherever a text is."""

from __future__ import annotations

import re

from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context, kind_of, text_of
from basilica.core.rules import limits
from basilica.core.shared.facts import FACT

_NAME = re.compile(r"[a-z0-9-]{1,60}")


def read_facts(node: Node, context: Context) -> dict[str, str]:
    """Every fact by its name, each on one line."""
    if isinstance(node, Scalar) and node.is_nothing:
        return {}
    if not isinstance(node, Mapping):
        message = f"`facts` is {kind_of(node)} where facts by name are expected."
        context.say(site_rules.WRONG_SHAPE, node.start, message, "Write such as `phone: 01632 960142` below it.")
        return {}
    found: dict[str, str] = {}
    for name, value in node.pairs:
        if not _NAME.fullmatch(name.value):
            message = f"`{name.value[:60]}` cannot be the name of a fact."
            context.say(site_rules.BAD_ID, name.start, message, "Use lower-case letters, digits and hyphens.")
            continue
        text = text_of(value, f"The fact `{name.value}`", context)
        if text is None:
            continue
        text = " ".join(text.split())
        if len(text) > limits.LABEL_CHARACTERS:
            message = (
                f"The fact `{name.value}` has {len(text):,} characters; at most {limits.LABEL_CHARACTERS} are allowed."
            )
            context.say(site_rules.TOO_LONG, value.start, message, "Make it a part: `<part:name>` works in any text.")
            text = text[: limits.LABEL_CHARACTERS]
        if FACT.search(text):
            message = f"The fact `{name.value}` contains another fact."
            context.say(site_rules.BAD_VALUE, value.start, message, "Write the text out.")
            text = FACT.sub("", text)
        found[name.value] = text
    return found
