"""What a map says of checks: their levels, and which are silent where, each with a reason."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from basilica.core.findings.check import Check
from basilica.core.map.site import Site
from basilica.core.map.site.model import LevelSetting
from basilica.core.rules.finding import Finding, Findings
from basilica.core.rules.rule import RULES, Level


class Rules:
    """The rules of one site, ready to be asked; without one there are none."""

    def __init__(self, site: Site | None) -> None:
        self._site = site
        self._rules = {rule.code: rule for rule in site.checks.levels} if site is not None else {}
        pages = site.pages.items() if site is not None else ()
        self._silent = {key: dict(page.own.extra.ignored) for key, page in pages if page.own.extra.ignored}

    def of_check(self, check: Check, page: str | None) -> tuple[Level, str]:
        """The level that a check has on a page of the map (None: the whole site), and the reason given for it."""
        return self._of(check.code, check.level, page)

    def said_at(self, code: str, page: str) -> str:
        """Where the map says that a check is silent on a page: at the `page` itself or for the `site`; empty where a
        page above says it."""
        if code in self._silent.get(page, {}):
            return "page"
        above = self._site.ancestors(page) if self._site is not None and page in self._site.pages else ()
        if any(code in self._silent.get(key, {}) for key in above):
            return ""
        return "site" if code in self._rules else ""

    def settle(self, findings: Iterable[Finding]) -> tuple[Finding, ...]:
        """What stages found, with the levels that the map gives them. Without an error a map can be built, and with one
        it cannot, so errors stay what they are."""
        if not self._rules:
            return tuple(findings)
        return tuple(self._settled(finding) for finding in findings)

    def _settled(self, finding: Finding) -> Finding:
        if finding.stops or finding.given is not None:
            return finding
        level, reason = self._of(finding.code, finding.level, None)
        return replace(finding, given=level, reason=reason) if reason or level is not finding.level else finding

    def _of(self, code: str, level: Level, page: str | None) -> tuple[Level, str]:
        if self._silent and page is not None and self._site is not None and page in self._site.pages:
            for key in (page, *self._site.ancestors(page)):
                reason = self._silent.get(key, {}).get(code)
                if reason:
                    return Level.IGNORE, reason
        rule = self._rules.get(code)
        return (Level(rule.level), rule.reason) if rule is not None else (level, "")


def look_at_rules(site: Site, known: dict[str, Level]) -> tuple[Finding, ...]:
    """What is wrong with the rules themselves: codes that no check has, and errors that cannot be anything else.
    ``known`` has the level of every check."""
    findings = Findings()
    named = [(rule.code, rule.at, rule) for rule in site.checks.levels]
    ignored = [(code, page.at, None) for page in site.pages.values() for code, _ in page.own.extra.ignored]
    for code, at, rule in [*named, *ignored]:
        if code not in known and code not in RULES:
            findings.add(
                "unknown-check",
                site.lines.place(at),
                f"There is no check `{code[:60]}`.",
                "Write a code as it stands in brackets beside a finding, such as `vague-link`.",
            )
        elif code not in known and RULES[code].level is Level.ERROR:
            findings.add(
                "unknown-check",
                site.lines.place(at),
                f"`{code}` is said while the map is read; without it nothing can be built, so it stays an error.",
                "Take it out.",
            )
        elif code not in known and rule is None:
            findings.add(
                "unknown-check",
                site.lines.place(at),
                f"`{code}` is said while the map is read, so it cannot be ignored on one page.",
                "Write it at `levels:` under `checks:`.",
            )
        elif rule is not None and not rule.reason and _is_lower(rule, known.get(code) or RULES[code].level):
            findings.add("missing-key", site.lines.place(at), *_asks_why(rule))
    return findings.done()


def _is_lower(rule: LevelSetting, level: Level) -> bool:
    return list(Level).index(Level(rule.level)) > list(Level).index(level)


def _asks_why(rule: LevelSetting) -> tuple[str, str]:
    message = f"`{rule.code}` is made `{rule.level}`, and nothing says why."
    return message, "Add `reason:` with the reason; it is shown beside what is ignored."
