"""What is made of a slow draw: the causes by their odds after the tests made so far, and the test that comes next."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from rough_draw.core.diagnosis.diagnosis import Case, marginal
from rough_draw.core.diagnosis.faults import Cause, CauseKind, keys_of, kind_of
from rough_draw.core.diagnosis.field_tests import Test, tests_of
from rough_draw.core.message import Message, Name
from rough_draw.core.sheet.steps import Answered

HANDLING = 4.0
"""Minutes added to a test's own when tests are ranked: going there, writing down, and a turn of the list spent on it.

With little of it many small tests come first, and people give up before the telling one (measured over labelled draws).
"""
TELLS = 0.01
"""Bits that a test must be expected to take away to be worth naming."""
ORDERS: dict[CauseKind, str] = {
    "hose-leak": "swap-hose",
    "dirty-hose": "swap-hose",
    "kinked": "swap-hose",
    "wet-oil": "oil-change",
    "oil-carried": "oil-change",
    "core": "cores-out",
    "cores": "cores-out",
    "plugged": "cores-out",
    "water": "nitrogen-break",
    "ice": "nitrogen-break",
}
"""Cures that are an order of steps on this rig, by the goals of the planner."""


LEAKS: tuple[CauseKind, ...] = (
    *("system-leak", "open", "hose-leak"),
    *("tool-leak", "gauge-joint", "manifold-leak", "pump-joint"),
)
"""Causes that let air in for as long as they are there."""
AT_ONCE: dict[CauseKind, str] = {"ballast": "ballast", "gauge-shut": "ways", "shut": "ways"}
"""Causes that one turn of a hand takes away, by the look that finds them: done first, whatever else is likely."""
ACTED_ON = 0.5
"""Odds from which a cause is acted on."""


@dataclass(frozen=True)
class Suspect:
    """A cause with its odds, whatever is beside it. ``goal`` and ``on``: the order of steps that cures it, if one does.

    ``place``: where a test has found it.
    """

    key: str
    words: Message
    cure: Message
    odds: float
    goal: str = ""
    on: str = ""
    place: Name = ""


@dataclass(frozen=True)
class Opinion:
    """Causes by their odds, tests by what they tell for their minutes, the best first, and ``every`` test there is.

    ``both``: two causes that are likely at work together, with the odds of that.
    """

    suspects: tuple[Suspect, ...]
    tests: tuple[Test, ...]
    every: tuple[Test, ...]
    both: tuple[str, str, float] | None = None

    @property
    def to_do(self) -> tuple[Suspect, ...]:
        """What to act on, in its order: a turn of a hand first; nobody pumps for hours on what very likely leaks."""
        likely = [s for s in self.suspects if s.odds >= ACTED_ON]
        return tuple(sorted(likely, key=lambda s: (kind_of(s.key) not in AT_ONCE, kind_of(s.key) not in LEAKS)))


ONE_ANSWER = 0.8
"""Odds that a cause gets at the most where a single answer carries it: hands slip, eyes see what they look for, and a
detector sniffs the van (estimate; measured over labelled draws)."""
WITHOUT = 0.5
"""Odds that a cause must have without any one of the answers, to be sure by all of them."""
ROUNDS = 200
"""More than are ever needed: the causes of one account are two at the most, and each round closes in on both."""

TWO = 0.3
"""Odds from which two causes together are worth naming."""


def opinion(case: Case, answers: Sequence[Answered] = (), tests: Sequence[Test] | None = None) -> Opinion:
    """Odds after the answers (test and outcome), and which test comes next. Answers to unknown tests change nothing.

    ``tests`` are those of `tests_of`, where they are at hand: they are simulated, and the same for any answers.
    """
    every = {t.key: t for t in (tests if tests is not None else tests_of(case))}
    asked = [(every[a.test], a.outcome) for a in answers if a.test in every]
    told = [(t, n) for t, outcome in asked if (n := t.number_of(outcome)) is not None]
    odds = supported(case.odds, [{k: p[n] ** t.power for k, p in t.likelihood.items()} for t, n in told])
    found = {kind: t.outcomes[n].words for t, n in told for kind in t.outcomes[n].means}
    causes = {one.key: one for w in case.weighed for one in w.cause.each}
    each = marginal(odds)
    ranked = sorted(each, key=lambda k: -each[k])
    done = {a.test for a in answers}
    open_tests = [t for t in every.values() if t.key not in done]
    gains = {t.key: gain(t, odds) for t in open_tests}
    # A glance at what is likely, and cured where it is seen, comes before any test that tells more.
    glance = AT_ONCE.get(causes[ranked[0]].kind, "") if each[ranked[0]] >= ACTED_ON else ""
    worth = sorted(open_tests, key=lambda t: (t.key != glance, -gains[t.key] / (t.minutes + HANDLING)))
    return Opinion(
        tuple(_suspect(causes[k], each[k], found.get(causes[k].kind, "")) for k in ranked),
        tuple(t for t in worth if gains[t.key] > TELLS),
        tuple(every.values()),
        _both(odds),
    )


def supported(odds: Mapping[str, float], told: Sequence[Mapping[str, float]]) -> dict[str, float]:
    """Odds after the answers, where no single answer makes sure.

    ``odds`` by key before them; ``told``: each answer's likelihood by key. A cause whose odds would be under `WITHOUT`
    but for one answer is not over `ONE_ANSWER`: the odds are then mixed with those without that answer, as if it had
    been given falsely so often. Sums to one.
    """

    def after(some: Sequence[Mapping[str, float]]) -> dict[str, float]:
        p = {k: x * float(np.prod([t[k] for t in some])) for k, x in odds.items()}
        whole = sum(p.values())
        return {k: x / whole for k, x in p.items()}

    found = after(told)
    if not told or max(marginal(found).values()) <= ONE_ANSWER:
        return found
    without = [after([*told[:n], *told[n + 1 :]]) for n in range(len(told))]
    each = [marginal(p) for p in without]
    by_one = [k for k in each[0] if min(m[k] for m in each) < WITHOUT]
    # Where two causes are at work together both may be too sure, and what takes one down may bring up the other.
    for _ in range(ROUNDS):
        sure = marginal(found)
        over = [k for k in by_one if sure[k] > ONE_ANSWER + 1e-12]
        if not over:
            break
        worst = max(over, key=lambda k: sure[k])
        n = min(range(len(told)), key=lambda n: each[n][worst])
        part = (ONE_ANSWER - each[n][worst]) / (sure[worst] - each[n][worst])
        found = {k: part * p + (1.0 - part) * without[n][k] for k, p in found.items()}
    return found


def _suspect(c: Cause, odds: float, place: Name) -> Suspect:
    goal = ORDERS.get(c.kind, "")
    return Suspect(c.key, c.words, c.cure, odds, goal, c.place if goal == "swap-hose" else "", place)


def _both(odds: Mapping[str, float]) -> tuple[str, str, float] | None:
    key = max(odds, key=lambda k: odds[k])
    two = keys_of(key)
    return (two[0], two[1], odds[key]) if len(two) == 2 and odds[key] >= TWO else None


def gain(test: Test, odds: Mapping[str, float]) -> float:
    """Bits of what is not known that a test is expected to take away."""

    def entropy(p: np.ndarray[tuple[int], np.dtype[np.float64]]) -> float:
        q = p[p > 0]
        return float(-(q * np.log2(q)).sum())

    keys = list(odds)
    prior = np.array([odds[k] for k in keys])
    left = 0.0
    for n in range(len(test.outcomes)):
        joint = prior * np.array([test.likelihood[k][n] for k in keys])
        p = float(joint.sum())
        if p > 0:
            left += p * entropy(joint / p)
    return entropy(prior) - left
