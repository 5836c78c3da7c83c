"""The pump's oil: what its look says, and when it is due by the firm's own rules."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.message import Message, all_of, message
from rough_draw.core.message.figure import duration, vacuum
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.evidence import OilLook, Prove
from rough_draw.core.sheet.kit_history import KitEvent
from rough_draw.core.sheet.oil_rule import OilRule

DISPOSAL = message("oil-disposal")
LOOKS: tuple[OilLook, ...] = ("fresh", "amber", "dark", "milky")
"""How the oil looks in the glass."""
LEVELS = ("low", "right", "high")
"""Where it stands in the glass, running."""


def look_words(look: OilLook) -> Message:
    """What a look says."""
    return message(f"oil-look-{look}.means")


def _and(*told: Message) -> Message:
    return all_of(told) or DISPOSAL


@dataclass(frozen=True)
class OilAnswer:
    """Whether the oil is good, due or bad, in words with the reason; hours and jobs since the last change."""

    verdict: str
    words: Message
    hours: float | None
    jobs: int | None


def since_change(history: list[KitEvent]) -> tuple[float | None, int | None]:
    """Hours run and jobs done since the last change of oil; None where no change is on file."""
    changes = [e.at for e in history if e.kind == "oil-change"]
    if not changes:
        return None, None
    last = max(changes)
    later = [e for e in history if e.at > last]
    hours = sum(float(e.values.get("hours", 0.0)) for e in later if e.kind == "run")
    return hours, len({e.job for e in later if e.kind == "run"})


def judge(prove: Prove, rule: OilRule, history: list[KitEvent]) -> OilAnswer:
    """Judge the oil by its look first, then by the rule, then by its level."""
    hours, jobs = since_change(history)
    if prove.oil_changed:
        done = message("oil-changed") if prove.oil_collected else _and(message("oil-changed"), DISPOSAL)
        return OilAnswer("good" if prove.oil_level != "low" else "bad", done, 0.0, 0)
    if prove.oil == "unknown":
        return OilAnswer("open", message("oil-look"), hours, jobs)
    if prove.oil in ("milky", "dark"):
        return OilAnswer("bad", _and(look_words(prove.oil), message("oil-change-now"), DISPOSAL), hours, jobs)
    if prove.oil_level in ("low", "high"):
        return OilAnswer("bad", message(f"oil-level-{prove.oil_level}"), hours, jobs)
    why = _due(rule, hours, jobs, history)
    if why is not None:
        return OilAnswer("due", _and(why, message("oil-change"), DISPOSAL), hours, jobs)
    return OilAnswer("good", look_words(prove.oil), hours, jobs)


def _due(rule: OilRule, hours: float | None, jobs: int | None, history: list[KitEvent]) -> Message | None:
    """Why the oil is due, or nothing."""
    if rule.each_use:
        return message("oil-rule-each-use")
    if rule.after_hours is not None and hours is not None and hours >= rule.after_hours:
        return message("oil-rule-hours", hours=duration(3600.0 * hours), rule=duration(3600.0 * rule.after_hours))
    if rule.after_jobs is not None and jobs is not None and jobs >= rule.after_jobs:
        return message("oil-rule-jobs", count=jobs, rule=rule.after_jobs)
    read = [float(e.values["micron"]) for e in sorted(history, key=lambda e: e.at) if e.kind == "blank-off"]
    if rule.blank_off_times is not None and len(read) >= 2 and read[-1] >= rule.blank_off_times * min(read[:-1]):
        was, now = (vacuum(m * MICRON_PA) for m in (min(read[:-1]), read[-1]))
        return message("oil-rule-blank-off", was=was, now=now)
    return None
