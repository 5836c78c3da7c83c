"""The pump's oil: what its look says, and when it is due by the firm's own rules."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.sheet.evidence import OilLook, Prove
from rough_draw.core.sheet.kit_history import KitEvent
from rough_draw.core.sheet.oil_rule import OilRule

DISPOSAL = "Drain it warm. Used oil is collected as waste, never poured away."

LOOKS: dict[OilLook, tuple[str, str]] = {
    "fresh": ("Clear", "Like new: nothing in it."),
    "amber": ("Straw to amber", "A day's work is in it; good for a dry system still."),
    "dark": ("Dark", "Dirt, or it was hot: it wears the vanes and pulls less deep."),
    "milky": ("Milky", "Water in it. It gives it back: the pump stalls over 1,000 µ."),
}
"""How the oil looks in the glass: its name and what it says."""

LEVELS = {
    "low": "Under the middle of the glass, running: it runs hot and does not seal.",
    "right": "About the middle of the glass or a little over, running.",
    "high": "Well over the middle, running: it throws oil out of the exhaust.",
}


@dataclass(frozen=True)
class OilAnswer:
    """Whether the oil is good, due or bad, in words with the reason; hours and jobs since the last change."""

    verdict: str
    words: str
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
        done = "Changed now." if prove.oil_collected else f"Changed now. {DISPOSAL}"
        return OilAnswer("good" if prove.oil_level != "low" else "bad", done, 0.0, 0)
    if prove.oil == "unknown":
        return OilAnswer("open", "Look at it in the glass.", hours, jobs)
    if prove.oil in ("milky", "dark"):
        return OilAnswer("bad", f"{LOOKS[prove.oil][1]} Change it now. {DISPOSAL}", hours, jobs)
    if prove.oil_level in ("low", "high"):
        return OilAnswer("bad", LEVELS[prove.oil_level], hours, jobs)
    why = _due(rule, hours, jobs, history)
    if why:
        return OilAnswer("due", f"{why} Change it. {DISPOSAL}", hours, jobs)
    return OilAnswer("good", LOOKS[prove.oil][1], hours, jobs)


def _due(rule: OilRule, hours: float | None, jobs: int | None, history: list[KitEvent]) -> str:
    """Why the oil is due, or nothing."""
    if rule.each_use:
        return "The rule here: fresh at each use."
    if rule.after_hours is not None and hours is not None and hours >= rule.after_hours:
        return f"{hours:.0f} h since the last change; the rule here is {rule.after_hours:g} h."
    if rule.after_jobs is not None and jobs is not None and jobs >= rule.after_jobs:
        return f"{jobs} jobs since the last change; the rule here is {rule.after_jobs}."
    read = [float(e.values["micron"]) for e in sorted(history, key=lambda e: e.at) if e.kind == "blank-off"]
    if rule.blank_off_times is not None and len(read) >= 2 and read[-1] >= rule.blank_off_times * min(read[:-1]):
        return f"The blank-off went from {min(read[:-1]):.0f} to {read[-1]:.0f} µ."
    return ""
