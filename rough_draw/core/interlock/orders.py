"""Orders of steps for a sheet's rig, derived and put in words with their reasons: the one planner, whoever asks."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace
from functools import lru_cache

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Consequence, Touch
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.itinerary import Act, Leg, Route, Said, route
from rough_draw.core.interlock.step_words import step_told, touch_words
from rough_draw.core.message import Message, all_of, message
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope


@dataclass(frozen=True)
class Step:
    """One step: a stable key, what to do, why, cautions that no order avoids, and the touch that it is."""

    key: str
    title: Message
    why: Message | None = None
    care: tuple[Consequence, ...] = ()
    touch: Touch | None = None

    @property
    def kind(self) -> str:
        """As a run logs it, the second time like the first."""
        return self.key.partition("~")[0]


@dataclass(frozen=True)
class Missing:
    """What the rig lacks for a goal: a code, and in words."""

    code: str
    words: Message

    @property
    def why(self) -> Message:
        """What would help."""
        return Message(f"{self.words.key}.why", self.words.values)


@dataclass(frozen=True)
class Order:
    """A derived order. Where something is missing, the steps are those that can be done without it."""

    steps: tuple[Step, ...]
    missing: tuple[Missing, ...] = ()


def order(job: Job, goal: GoalKey, on: str = "") -> list[Step]:
    """Steps to a goal in their order, without a stop; what is missing comes first, each as a step that says so."""
    found = full_order(job, goal, on)
    lacking = [Step(f"missing:{m.code}", m.words, m.why) for m in found.missing]
    return [*lacking, *found.steps]


def full_order(job: Job, goal: GoalKey, on: str = "") -> Order:
    """The order to a goal, and what is missing for it. ``on``: the part it is about, for a goal that is about one."""
    return _derived(job.scope, job.rig, job.habits, goal, on)


@lru_cache(maxsize=128)
def _derived(scope: Scope, rig: Rig, habits: Habits, goal: GoalKey, on: str) -> Order:
    # Asked with every reading of a run, and it depends on nothing but these.
    job = Job(scope=scope, rig=rig, habits=habits)
    try:
        found = route(job, goal, on)
    except ScopeError as e:
        return Order((), (Missing("rig-apart", message("missing-rig-apart", fault=e.told)),))
    return in_words(found, goal)


def in_words(found: Route, goal: GoalKey) -> Order:
    """A route as steps, or what keeps it from being one."""
    missing = [Missing(code, message(f"missing-{code}")) for code in found.missing]
    steps: list[Step] = []
    for stretch in found.stretches:
        if isinstance(stretch, Leg) and not stretch.sequence.found:
            reasons = all_of([c.whole for c in stretch.sequence.missing]) or ""
            missing += [] if missing else [Missing("no-order", message("missing-no-order", reasons=reasons))]
            continue
        steps += _steps(stretch, goal, {c.key for s in steps for c in s.care})
    return Order(_numbered([] if any(m.code == "no-order" for m in missing) else steps), tuple(missing))


def _steps(stretch: Leg | Act | Said, goal: GoalKey, told: set[str]) -> list[Step]:
    if isinstance(stretch, Said):
        return [step_of(stretch)]
    if isinstance(stretch, Act):
        return [_step(stretch.board, stretch.touch, stretch.said, goal, told, stretch.after)]
    return [_step(stretch.board, s.touch, s.said, goal, told, s.after) for s in stretch.sequence.steps]


def _step(
    board: Board, touch: Touch, said: tuple[Consequence, ...], goal: GoalKey, told: set[str], after: State
) -> Step:
    care = tuple(c for c in said if c.severity == "caution" and c.key not in told)
    told |= {c.key for c in said}
    title, why = touch_words(board, touch, said, goal, after)
    return Step(touch.text, title, why, care, touch)


def step_of(said: Said) -> Step:
    """A step that no compartment knows of: a hose moved, a regulator set."""
    title, why = step_told(said.told, dict(said.values))
    return Step(said.key, title, why, (), said.touch)


def _numbered(steps: list[Step]) -> tuple[Step, ...]:
    """Steps with keys of their own: the second time the same is done it is the second."""
    seen: Counter[str] = Counter()
    found = []
    for s in steps:
        seen[s.key] += 1
        found.append(s if seen[s.key] == 1 else replace(s, key=f"{s.key}~{seen[s.key]}"))
    return tuple(found)
