"""The debrief of a practice job: scores by skill with their reasons, from what was done and what was true.

Scores are of this game, not of a person: weights are chosen so that what hurts weighs most.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.interlock.consequence import Consequence, ConsequenceKind, Severity
from rough_draw.core.physics.units import micron
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import Action, AskHint, CallVerdict, Look, NameCause, read_action

Skill = Literal["safety", "rig", "reading", "diagnosis", "economy"]
SKILLS: dict[Skill, str] = {
    "safety": "Safety",
    "rig": "Rig",
    "reading": "Reading",
    "diagnosis": "Diagnosis",
    "economy": "Economy",
}
STOP_COSTS = 35.0
CAUTION_COSTS = 8.0
LOOK_COSTS = 10.0
CHARGED_COSTS = 50.0
LOOKS_ASKED = (
    (Look("power"), "power not locked out and verified dead"),
    (Look("pressure"), "0 gauge not seen"),
)
WRONG_COSTS = 12.0
PUMP_STOPPED_FIRST: tuple[ConsequenceKind, ...] = ("off-before-isolated", "back-through-pump")
PAIRS = {("both", "leak"), ("both", "moisture"), ("moisture", "both"), ("leak", "both")}
"""Verdicts that are half of the truth: what is right, what was said."""


@dataclass(frozen=True)
class Act:
    """One deed for the debrief: when (s), its kind, the consequences by severity and key, what was right of a verdict.

    ``before``: done by someone else, before the learner came.
    """

    at: float
    kind: str
    said: tuple[Consequence, ...] = ()
    right: tuple[str, ...] = ()
    before: bool = False

    @property
    def action(self) -> Action | None:
        """What was done, typed."""
        return read_action(self.kind)

    def of(self, severity: Severity) -> tuple[Consequence, ...]:
        """What followed, of one severity."""
        return tuple(c for c in self.said if c.severity == severity)


@dataclass(frozen=True, kw_only=True)
class Facts:
    """What was so. ``faults``: keys that were at work, and what of them can be named; ``wrong_end``: charged although
    it leaked or was wet, or sent to repair although nothing leaked. Times s, pressures Pa.

    ``own_rig``/``best_rig``: seconds to the target of the rig in use and of the best that the van allows, both as they
    should be; ``answers``: what the rig says to questions a to d; None of these where no rig was up for choice.
    """

    acts: tuple[Act, ...]
    faults: tuple[str, ...]
    target: float
    limit: float
    hold_s: float
    spent: float
    expert: float
    own_rig: float | None = None
    best_rig: float | None = None
    answers: tuple[str, ...] = ()
    at_isolation: float | None = None
    shown_at_isolation: float | None = None
    charged: bool = False
    truth_at_end: tuple[str, ...] = ()
    end: str = ""
    ballast_left: bool = False
    held_s: float = 0.0


@dataclass(frozen=True)
class Mark:
    """A skill's score, 0 to 100 (None: not asked in this job), with a line for everything that took or gave points."""

    skill: Skill
    score: float | None
    lines: tuple[str, ...]


def _clamp(x: float) -> float:
    return max(0.0, min(100.0, x))


def marks(f: Facts) -> list[Mark]:
    """Scores by skill, in the order of `SKILLS`."""
    return [safety(f), rig(f), reading(f), diagnosis(f), economy(f)]


def total(found: Sequence[Mark]) -> float:
    """The whole, 0 to 100: the mean of what was asked, and never more than 30 over safety."""
    asked = [m.score for m in found if m.score is not None]
    mean = sum(asked) / len(asked)
    safe = next(m.score for m in found if m.skill == "safety")
    return min(mean, (safe if safe is not None else 100.0) + 30.0)


def own(f: Facts) -> list[Act]:
    """What the learner did."""
    return [a for a in f.acts if not a.before]


def safety(f: Facts) -> Mark:
    """Stops and cautions of the interlock, looks left out, a charge into what was not sound."""
    score, lines = 100.0, []
    for a in own(f):
        for c in a.of("stop"):
            score -= STOP_COSTS
            lines.append(f"−{STOP_COSTS:.0f}: {c.words}")
        for c in a.of("caution"):
            score -= CAUTION_COSTS
            lines.append(f"−{CAUTION_COSTS:.0f}: {c.words}")
    done = {a.action for a in own(f)}
    for look, what in LOOKS_ASKED:
        if look not in done:
            score -= LOOK_COSTS
            lines.append(f"−{LOOK_COSTS:.0f}: {what}")
    if f.charged and not set(f.truth_at_end) & {"tight"}:
        score -= CHARGED_COSTS
        lines.append(f"−{CHARGED_COSTS:.0f}: charge let into a system that was not sound")
    return Mark("safety", _clamp(score), tuple(lines or ["Nothing to say: that is as it should be."]))


def rig(f: Facts) -> Mark:
    """The rig in use against the best of the van (60), and its answers to the questions a to d (40)."""
    if f.own_rig is None or f.best_rig is None:
        return Mark("rig", None, ("The rig was not up for choice.",))
    ratio = min(1.0, f.best_rig / max(f.own_rig, 1.0))
    score = 60.0 * ratio
    lines = [f"{f.own_rig / 60:.0f} min to the target as it should be; the best of the van {f.best_rig / 60:.0f} min"]
    words = {
        "a": "it can be shut off from pump and hoses",
        "b": "the gauge sits inside, away from the pump",
        "c": "the gauge can be shut off before refrigerant",
        "d": "every port without a core keeps a valve",
    }
    for letter, says in zip("abcd", f.answers, strict=False):
        score += {"yes": 10.0, "partly": 5.0}.get(says, 0.0)
        if says != "yes":
            lines.append(f"{'Partly' if says == 'partly' else 'Not so'}: {words[letter]}")
    return Mark("rig", _clamp(score), tuple(lines))


def reading(f: Facts) -> Mark:
    """Isolated deep enough everywhere (40), before the pump stopped (20), held long enough (25), ballast (15)."""
    lines = []
    score = 0.0
    if f.at_isolation is None:
        lines.append("Never isolated: nothing was read on hold.")
    else:
        deep = f.at_isolation <= 1.3 * f.target
        score += 40.0 if deep else 15.0 if f.at_isolation <= 3 * f.target else 0.0
        shown = (
            f"the gauge said {micron(f.shown_at_isolation):,.0f} µ" if f.shown_at_isolation else "no figure was read"
        )
        lines.append(f"Isolated with {micron(f.at_isolation):,.0f} µ at the worst spot; {shown}")
        before = not any(c.kind in PUMP_STOPPED_FIRST for a in own(f) for c in a.of("stop"))
        score += 20.0 if before else 0.0
        share = min(1.0, f.held_s / max(f.hold_s, 1.0))
        score += 25.0 * share
        lines.append(f"Held {f.held_s / 60:.0f} min of the {f.hold_s / 60:.0f} that the school asks")
    score += 0.0 if f.ballast_left else 15.0
    if f.ballast_left:
        lines.append("The ballast stayed open to the end of the draw")
    return Mark("reading", _clamp(score), tuple(lines))


def _verdict_called(f: Facts) -> tuple[float, list[str]]:
    """Points for the last verdict that was called, and why."""
    calls = [(a, a.action.verdict) for a in own(f) if isinstance(a.action, CallVerdict)]
    if not calls:
        return 0.0, ["No verdict was called."]
    last, said = calls[-1]
    words = actions.VERDICTS[said].lower()
    if said in last.right:
        return 60.0, [f"Right: {words}"]
    half = any((right, said) in PAIRS for right in last.right)
    truth = actions.verdict_words(last.right[0]).lower()
    return 30.0 if half else 0.0, [f"{'Half right' if half else 'Wrong'}: said {words}, it was: {truth}"]


def diagnosis(f: Facts) -> Mark:
    """The verdict (60), and what was the matter named (40); wrong names cost."""
    score, lines = _verdict_called(f)
    named = {a.action.cause for a in own(f) if isinstance(a.action, NameCause)}
    kinds = {kind_of(k) for k in f.faults}
    hit = {k for k in f.faults if k in named or kind_of(k) in {kind_of(n) for n in named}}
    wrong = [n for n in named if kind_of(n) not in kinds]
    score += 40.0 * (len(hit) / len(f.faults) if f.faults else 1.0)
    if f.faults:
        lines.append(f"{len(hit)} of {len(f.faults)} things that were the matter named")
    score -= WRONG_COSTS * len(wrong)
    if wrong:
        lines.append(f"−{WRONG_COSTS * len(wrong):.0f}: named and not so: {', '.join(kind_of(w) for w in wrong)}")
    good = set(f.truth_at_end) & {"tight"}
    leaky = set(f.truth_at_end) & {"leak", "both"}
    if f.end == "repair" and not leaky:
        score -= 20.0
        lines.append("−20: sent to repair, and nothing leaked")
    elif f.end == "release" and not good:
        score -= 20.0
        lines.append("−20: passed, and it was not sound")
    return Mark("diagnosis", _clamp(score), tuple(lines))


def economy(f: Facts) -> Mark:
    """Time against a sound expert's on the same job, hints, breaks off."""
    if not any(isinstance(a.action, CallVerdict) for a in own(f)):
        return Mark("economy", 0.0, (f"Broken off after {f.spent / 60:.0f} min without a verdict: nothing was saved.",))
    ratio = min(1.0, f.expert / max(f.spent, 1.0))
    # Quicker than a sound hand by leaving things out is not economy: the other skills say what was left out.
    score = 100.0 * ratio
    lines = [f"{f.spent / 60:.0f} min; a sound hand {f.expert / 60:.0f} min"]
    for a in own(f):
        if isinstance(a.action, AskHint):
            cost = actions.HINTS[a.action.step - 1][1]
            score -= cost
            lines.append(f"−{cost:.0f}: a hint")
    return Mark("economy", _clamp(score), tuple(lines))
