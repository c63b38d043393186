"""What a map says of checks: their levels, and which are ignored where, each with a reason."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from basilica.core.language.sections.checks_words import LevelSetting
from basilica.core.map.site import Site, site_rules
from basilica.core.rules.examples import HOME
from basilica.core.rules.finding import Finding, Findings
from basilica.core.rules.rule import Level, Rule, Stage

UNKNOWN_CHECK = Rule(
    code="unknown-check",
    level=Level.ERROR,
    title="A check that does not exist",
    why="The setting has no effect.",
    remedy="Use a code that is listed in docs/checks.md.",
    good=HOME + "checks: {levels: {vague-link: error}}\n",
    bad=HOME + "checks: {levels: {vague-lnk: error}}\n",
)


class CheckLevels:
    """The levels that one site gives, ready to be asked; without a site there are none."""

    def __init__(self, site: Site | None) -> None:
        self._site = site
        self._levels = {rule.code: rule for rule in site.checks.levels} if site is not None else {}
        pages = site.pages.items() if site is not None else ()
        self._ignored = {key: dict(page.options.extra.ignored) for key, page in pages if page.options.extra.ignored}

    def of_rule(self, rule: Rule, page: str | None) -> tuple[Level, str]:
        """The level that a check has on a page of the map (None: the whole site), and the reason given for it."""
        return self._of(rule.code, rule.level, page)

    def said_at(self, code: str, page: str) -> str:
        """Where the map says that a check is ignored on a page: at the `page` itself or for the `site`; empty where a
        page above says it."""
        if code in self._ignored.get(page, {}):
            return "page"
        above = self._site.ancestors(page) if self._site is not None and page in self._site.pages else ()
        if any(code in self._ignored.get(key, {}) for key in above):
            return ""
        return "site" if code in self._levels else ""

    def settle(self, findings: Iterable[Finding]) -> tuple[Finding, ...]:
        """What stages found, with the levels that the map gives them. Without an error a map can be built, and with one
        it cannot, so errors stay what they are."""
        if not self._levels:
            return tuple(findings)
        return tuple(self._settled(finding) for finding in findings)

    def _settled(self, finding: Finding) -> Finding:
        if finding.stops or finding.given is not None:
            return finding
        level, reason = self._of(finding.code, finding.level, None)
        return replace(finding, given=level, reason=reason) if reason or level is not finding.level else finding

    def _of(self, code: str, level: Level, page: str | None) -> tuple[Level, str]:
        if self._ignored and page is not None and self._site is not None and page in self._site.pages:
            for key in (page, *self._site.ancestors(page)):
                reason = self._ignored.get(key, {}).get(code)
                if reason:
                    return Level.IGNORE, reason
        rule = self._levels.get(code)
        return (Level(rule.level), rule.reason) if rule is not None else (level, "")


def level_findings(site: Site, known: Mapping[str, Rule]) -> tuple[Finding, ...]:
    """What is wrong with the levels themselves: codes of no rule, and errors that must stay errors. ``known`` has
    every rule by its code."""
    findings = Findings()
    named = [(setting.code, setting.at, setting) for setting in site.checks.levels]
    ignored = [(code, page.at, None) for page in site.pages.values() for code, _ in page.options.extra.ignored]
    for code, at, setting in [*named, *ignored]:
        rule = known.get(code)
        if rule is None:
            message = f"There is no check `{code[:60]}`."
            remedy = "Write the code that is shown in brackets beside a finding, such as `vague-link`."
        elif rule.stage is not Stage.READING:
            if setting is not None and not setting.reason and _is_lower(setting, rule.level):
                findings.add(site_rules.MISSING_KEY, site.lines.place(at), *_asks_why(setting))
            continue
        elif rule.level is Level.ERROR:
            message = f"`{code}` is found while the map is read. Nothing can be built then, so it stays an error."
            remedy = "Remove it."
        elif setting is None:
            message = f"`{code}` is found while the map is read, so it cannot be ignored on one page."
            remedy = "Write it at `levels:` under `checks:`."
        else:
            if not setting.reason and _is_lower(setting, rule.level):
                findings.add(site_rules.MISSING_KEY, site.lines.place(at), *_asks_why(setting))
            continue
        findings.add(UNKNOWN_CHECK, site.lines.place(at), message, remedy)
    return findings.done()


def _is_lower(rule: LevelSetting, level: Level) -> bool:
    return list(Level).index(Level(rule.level)) > list(Level).index(level)


def _asks_why(rule: LevelSetting) -> tuple[str, str]:
    message = f"`{rule.code}` is set to `{rule.level}` without a reason."
    return message, "Add `reason:` with the reason; it is shown beside what is ignored."
