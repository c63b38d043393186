"""What the checks know about the site, and how serious each finding is."""

from __future__ import annotations

from dataclasses import dataclass, field

from basilica.core.language.codecs import KEYS, LABEL, PLAIN, Number, one_of, several
from basilica.core.language.word import Word

CLICKS = 3
"""How many clicks from home a page may be away where the map does not say (common practice, no source)."""

LEVEL = (
    Word(
        "level",
        one_of("error", "warning", "advice", "ignore", was={"silent": "ignore"}),
        "How serious the finding is here. `ignore` counts it and stops nothing.",
        "ignore",
    ),
    Word("reason", LABEL, "The reason, which is shown in place of the finding.", old_name="because"),
)


@dataclass(frozen=True, slots=True)
class LevelSetting:
    """The ``level`` that a check has on a site, and the reason given."""

    code: str
    level: str
    reason: str = ""
    at: int = field(compare=False, default=0)


CHECKS = (
    Word(
        "levels",
        KEYS,
        "The level of checks on this site: the code of each, with a level alone, or with `level` and `reason`.",
        screen="Checks: Ignore, beside a finding",
    ),
    Word("hosts", several(PLAIN, "host or list of hosts"), "Other hosts from which pages may load."),
    Word(
        "spelling",
        several(PLAIN, "text or list of texts"),
        "Words of the site's own that no word list has.",
        old_name="words",
    ),
    Word(
        "clicks",
        Number(least=1, most=20),
        "How many clicks any page may be away from home.",
        "3",
        title="Clicks from home",
    ),
)


@dataclass(frozen=True, slots=True)
class Checks:
    """What the map says of the checks."""

    hosts: tuple[str, ...] = ()
    spelling: tuple[str, ...] = ()
    clicks: int = CLICKS
    levels: tuple[LevelSetting, ...] = ()


NO_CHECKS = Checks()
