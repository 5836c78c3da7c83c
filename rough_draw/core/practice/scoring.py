"""The debrief of a practice job: scores by skill with their reasons, from what was done and what was true.

Scores are of this game, not of a person: weights are chosen so that what hurts weighs most.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.interlock.consequence import Consequence, ConsequenceKind, Severity
from rough_draw.core.message import Message, Value, message
from rough_draw.core.message.figure import duration, gauge_pressure, vacuum
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import (
    Action,
    AskHint,
    CallVerdict,
    Look,
    NameCause,
    VerdictKind,
    read_action,
)
from rough_draw.core.practice.scenario import FoundKind

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
    (Look("power"), "power"),
    (Look("pressure"), "pressure"),
)
WRONG_COSTS = 12.0
END_COSTS = 20.0
NO_HOLD_MOST, NO_HOLD_SHARE = 25.0, 0.5
"""The whole at the most where a system was released on less than this share of the hold that its standard asks, or was
acted on before any hold could say a thing."""
SOON_S = 60.0
"""A steep leak may be called early, but no rise means anything sooner than this after isolating, s: gauge,
rig and system are still evening out."""
ACTED_WRONG_MOST = 30.0
"""The whole at the most where a wrong verdict was acted on."""
LATER_MOST, LATER_READ_MOST, LATER_RIGHT_MOST = 20.0, 35.0, 60.0
"""The whole at the most where the job was left for later: without a sound hold, with one, with one that was read
rightly."""
OTHERS_MOST = 50.0
"""The whole at the most where it was sent to repair, and a sound hand mends it and goes on."""
WRONG_MOST = 30.0
"""Economy at the most where the verdict was wrong: what was done quickly was not the job."""
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
    ``falling``: isolated over the target while it still fell; ``steep``: it rose so fast that nobody waits for more.
    ``expert_end``: how a sound hand ends it. ``left_unsafe``: what a look would have found, and nobody made safe.
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
    falling: bool = False
    steep: bool = False
    expert_end: str = ""
    held_s: float = 0.0
    left_unsafe: tuple[FoundKind, ...] = ()


@dataclass(frozen=True)
class Mark:
    """A skill's score, 0 to 100 (None: not asked in this job), with a line for everything that took or gave points."""

    skill: Skill
    score: float | None
    lines: tuple[Message, ...]


def _lost(points: float, what: str, **values: Value) -> Message:
    return message("mark-lost", points=round(points), what=message(f"mark-{what}", **values))


def _clamp(x: float) -> float:
    return max(0.0, min(100.0, x))


def marks(f: Facts) -> list[Mark]:
    """Scores by skill, in the order of `SKILLS`."""
    return [safety(f), rig(f), reading(f), diagnosis(f), economy(f)]


def total(found: Sequence[Mark], f: Facts) -> float:
    """The whole, 0 to 100: the mean of what was asked, never more than 30 over safety, and no pass without a hold."""
    asked = [m.score for m in found if m.score is not None]
    mean = sum(asked) / len(asked)
    safe = next(m.score for m in found if m.skill == "safety")
    return min(mean, (safe if safe is not None else 100.0) + 30.0, *(most for most, _ in caps(f)))


def caps(f: Facts) -> list[tuple[float, Message]]:
    """What keeps the whole down whatever the skills are worth: how much at the most, and why."""
    found: list[tuple[float, str, dict[str, Value]]] = []
    acted = f.end in ("release", "repair")
    held = {"time": duration(f.held_s), "asked": duration(f.hold_s)}
    if f.end == "release" and f.held_s < NO_HOLD_SHARE * f.hold_s:
        found.append((NO_HOLD_MOST, "no-hold", {**held}))
    soon = min(SOON_S, f.hold_s) if f.steep else NO_HOLD_SHARE * f.hold_s
    if f.end == "repair" and f.held_s < soon:
        found.append((NO_HOLD_MOST, "too-soon", {**held}))
    if f.end == "repair" and f.expert_end == "release":
        found.append((OTHERS_MOST, "finished-by-others", {}))
    if acted and f.falling:
        found.append((NO_HOLD_MOST, "hasty", {"level": vacuum(f.target)}))
    right, _ = _verdict_called(f)
    if acted and not right:
        found.append((ACTED_WRONG_MOST, "acted-wrong" if _calls(f) else "acted-unread", {}))
    if f.end == "later":
        sound = f.held_s >= NO_HOLD_SHARE * f.hold_s and not f.falling
        most = LATER_MOST if not sound else LATER_RIGHT_MOST if right else LATER_READ_MOST
        found.append((most, "gave-up-read" if sound and right else "gave-up", {}))
    return [(most, message(f"mark-{what}", most=round(most), **values)) for most, what, values in found]


def own(f: Facts) -> list[Act]:
    """What the learner did."""
    return [a for a in f.acts if not a.before]


def safety(f: Facts) -> Mark:
    """Stops and cautions of the interlock, looks left out, a charge into what was not sound."""
    score = 100.0
    lines: list[Message] = []
    for a in own(f):
        for c in a.of("stop"):
            score -= STOP_COSTS
            lines.append(message("mark-lost", points=round(STOP_COSTS), what=c.words))
        for c in a.of("caution"):
            score -= CAUTION_COSTS
            lines.append(message("mark-lost", points=round(CAUTION_COSTS), what=c.words))
    done = {a.action for a in own(f)}
    for look, what in LOOKS_ASKED:
        if look not in done:
            score -= LOOK_COSTS
            lines.append(_lost(LOOK_COSTS, f"not-looked-{what}", zero=gauge_pressure(0.0)))
    for left in f.left_unsafe:
        score -= STOP_COSTS
        lines.append(_lost(STOP_COSTS, f"left-{left}"))
    if f.charged and not set(f.truth_at_end) & {"tight"}:
        score -= CHARGED_COSTS
        lines.append(_lost(CHARGED_COSTS, "charged-unsound"))
    return Mark("safety", _clamp(score), tuple(lines or [message("mark-nothing")]))


def rig(f: Facts) -> Mark:
    """The rig in use against the best of the van (60), and its answers to the questions a to d (40)."""
    if f.own_rig is None or f.best_rig is None:
        return Mark("rig", None, (message("mark-rig-given"),))
    ratio = min(1.0, f.best_rig / max(f.own_rig, 1.0))
    score = 60.0 * ratio
    lines = [message("mark-rig-times", own=duration(f.own_rig), best=duration(f.best_rig))]
    for letter, says in zip("abcd", f.answers, strict=False):
        score += {"yes": 10.0, "partly": 5.0}.get(says, 0.0)
        if says != "yes":
            lines.append(message(f"mark-rig-{letter}", how="partly" if says == "partly" else "no"))
    return Mark("rig", _clamp(score), tuple(lines))


def reading(f: Facts) -> Mark:
    """Isolated deep enough everywhere (40), before the pump stopped (20), held long enough (25), ballast (15)."""
    lines: list[Message] = []
    score = 0.0
    if f.at_isolation is None:
        lines.append(message("mark-never-isolated"))
    else:
        deep = f.at_isolation <= 1.3 * f.target
        score += 40.0 if deep else 15.0 if f.at_isolation <= 3 * f.target else 0.0
        worst = vacuum(f.at_isolation)
        shown = f.shown_at_isolation
        lines.append(
            message("mark-isolated-at", worst=worst, shown=vacuum(shown))
            if shown
            else message("mark-isolated-unread", worst=worst)
        )
        before = not any(c.kind in PUMP_STOPPED_FIRST for a in own(f) for c in a.of("stop"))
        score += 20.0 if before else 0.0
        share = min(1.0, f.held_s / max(f.hold_s, 1.0))
        score += 25.0 * share
        lines.append(message("mark-held", time=duration(f.held_s), asked=duration(f.hold_s)))
    score += 0.0 if f.ballast_left else 15.0
    if f.ballast_left:
        lines.append(message("mark-ballast-left"))
    return Mark("reading", _clamp(score), (*lines, *(why for _, why in caps(f))))


def _calls(f: Facts) -> list[tuple[Act, VerdictKind]]:
    """The verdicts that were called, with their acts."""
    return [(a, a.action.verdict) for a in own(f) if isinstance(a.action, CallVerdict)]


def _verdict_called(f: Facts) -> tuple[float, list[Message]]:
    """Points for the last verdict that was called, and why."""
    calls = _calls(f)
    if not calls:
        return 0.0, [message("mark-no-verdict")]
    last, said = calls[-1]
    words = actions.verdict_words(said)
    if said in last.right:
        return 60.0, [message("mark-right", said=words)]
    half = any((right, said) in PAIRS for right in last.right)
    truth = actions.verdict_words(last.right[0])
    return 30.0 if half else 0.0, [message("mark-half" if half else "mark-wrong", said=words, truth=truth)]


def diagnosis(f: Facts) -> Mark:
    """The verdict (60), and what was the matter named (40); wrong names cost."""
    score, lines = _verdict_called(f)
    named = {a.action.cause for a in own(f) if isinstance(a.action, NameCause)}
    kinds = {kind_of(k) for k in f.faults}
    hit = {k for k in f.faults if k in named or kind_of(k) in {kind_of(n) for n in named}}
    wrong = [n for n in named if kind_of(n) not in kinds]
    score += 40.0 * (len(hit) / len(f.faults) if f.faults else 1.0)
    if f.faults:
        lines.append(message("mark-named", hit=len(hit), all=len(f.faults)))
    score -= WRONG_COSTS * len(wrong)
    if wrong:
        lines.append(_lost(WRONG_COSTS * len(wrong), "named-wrong", causes=", ".join(kind_of(w) for w in wrong)))
    good = set(f.truth_at_end) & {"tight"}
    leaky = set(f.truth_at_end) & {"leak", "both"}
    if f.end == "repair" and not leaky:
        score -= END_COSTS
        lines.append(_lost(END_COSTS, "repaired-sound"))
    elif f.end == "release" and not good:
        score -= END_COSTS
        lines.append(_lost(END_COSTS, "passed-unsound"))
    return Mark("diagnosis", _clamp(score), tuple(lines))


def economy(f: Facts) -> Mark:
    """Time against a sound expert's on the same job, hints, breaks off."""
    if not any(isinstance(a.action, CallVerdict) for a in own(f)):
        return Mark("economy", 0.0, (message("mark-broken-off", time=duration(f.spent)),))
    # A hold that goes on past what is asked is no waste, as long as it is one.
    spent = f.spent - max(0.0, min(f.held_s, 2.0 * f.hold_s) - f.hold_s)
    ratio = min(1.0, f.expert / max(spent, 1.0))
    # Quicker than a sound hand by leaving things out is not economy: the other skills say what was left out.
    score = 100.0 * ratio
    lines = [message("mark-times", own=duration(f.spent), expert=duration(f.expert))]
    for a in own(f):
        if isinstance(a.action, AskHint):
            cost = actions.HINTS[a.action.step - 1]
            score -= cost
            lines.append(_lost(cost, "hint"))
    if not _verdict_called(f)[0] and score > WRONG_MOST:
        score = WRONG_MOST
        lines.append(message("mark-quickly-wrong", most=round(WRONG_MOST)))
    return Mark("economy", _clamp(score), tuple(lines))
