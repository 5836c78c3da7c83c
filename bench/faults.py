"""Labelled draws: how often the right cause comes first, and how often the odds are sure of a wrong one."""

from __future__ import annotations

import random
import sys
import time
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field

from bench.simulated import EVERY, HEALTHY, UNKNOWN, Case, answer, labelled
from rough_draw.core.diagnosis.diagnosis import Case as Looked
from rough_draw.core.diagnosis.diagnosis import look_into
from rough_draw.core.diagnosis.field_tests import tests_of
from rough_draw.core.diagnosis.opinion import Opinion, opinion
from rough_draw.core.sheet.steps import Answered

TESTS = 20
"""Guided tests at the most."""
SURE = 0.95
"""Odds at which nobody looks further."""
WRONG = 0.8
"""Odds that a wrong cause may not have."""
SAID = (0.0, 0.1, 0.3, 0.5, 0.7, 0.8, 0.9, 0.95, 1.01)


@dataclass
class Score:
    """Counts over labelled draws; ``said`` by bin of the first cause's odds, ``got`` how often it was right there."""

    asked: int = 0
    known: int = 0
    before: int = 0
    first: int = 0
    second: int = 0
    tests: int = 0
    minutes: float = 0.0
    sure_wrong: int = 0
    healthy: int = 0
    accused: int = 0
    look_ms: list[float] = field(default_factory=list)
    by_kind: Counter[str] = field(default_factory=Counter)
    missed: Counter[str] = field(default_factory=Counter)
    said: Counter[int] = field(default_factory=Counter)
    got: Counter[int] = field(default_factory=Counter)
    evidence: list[float] = field(default_factory=list)


def one(case: Case, rng: random.Random, score: Score, talk: bool = False) -> None:
    """Ask about one draw, follow the tests it proposes, and count."""
    begun = time.perf_counter()
    look = look_into(case.job, case.touches, 0.0, case.readings)
    score.look_ms.append(1e3 * (time.perf_counter() - begun))
    answers: list[Answered] = []
    tests = tests_of(look)
    told = before = opinion(look, tests=tests)
    while len(answers) < TESTS and told.tests and (told.suspects[0].odds < SURE or not answers):
        test = told.tests[0]
        answers.append(Answered(test.key, answer(case, test, rng)))
        score.minutes += test.minutes
        told = opinion(look, answers, tests)
    score.tests += len(answers)
    _count(case, look, before, told, score)
    if talk and told.suspects[0].key not in case.keys:
        odds = look.odds
        top = [f"{s.key} {s.odds:.2f}" for s in told.suspects[:3]]
        mine = {k: round(sum(p for x, p in odds.items() if k in x.split("+")), 3) for k in case.keys}
        print(f"  {case.kind} {case.truth.all()} risen={case.risen}: {top} before {mine}", end=" ")
        print([f"{a.test}={a.outcome}" for a in answers], flush=True)


def _count(case: Case, look: Looked, before: Opinion, told: Opinion, score: Score) -> None:
    top = told.suspects[0]
    right = top.key in case.keys
    score.asked += 1
    score.by_kind[case.kind] += 1
    score.missed[case.kind] += not right
    score.sure_wrong += top.odds > WRONG and not right
    n = next(i for i in range(len(SAID) - 1) if top.odds < SAID[i + 1])
    score.said[n] += 1
    score.got[n] += right
    if case.kind in (HEALTHY, "none"):
        score.healthy += 1
        score.accused += not right and top.odds > 0.5
    if case.kind in UNKNOWN:
        return
    score.known += 1
    score.before += before.suspects[0].key in case.keys
    score.first += right
    score.second += any(s.key in case.keys for s in told.suspects[:2])
    mine = [w.evidence for w in look.weighed if set(w.cause.key.split("+")) == set(case.keys)]
    score.evidence += mine


def measure(seed: int, count: int, talk: bool = False, kinds: Sequence[str] = EVERY) -> Score:
    """``count`` labelled draws from ``seed`` on."""
    rng = random.Random(seed)
    score = Score()
    for case in labelled(seed, count, kinds):
        one(case, rng, score, talk)
    return score


def table(s: Score) -> str:
    """The score in a few lines."""
    n, k = s.asked, max(1, s.known)
    lines = [
        f"{n}: before {s.before / k:.0%}, first {s.first / k:.0%}, in two {s.second / k:.0%}, sure and wrong "
        f"{s.sure_wrong / n:.1%}, sound ones accused {s.accused}/{s.healthy}, tests {s.tests / n:.1f}, "
        f"minutes {s.minutes / n:.1f}, look {sorted(s.look_ms)[n // 2]:.0f} ms",
        "said / got: " + ", ".join(f"{SAID[i]:.2f}: {s.got[i]}/{s.said[i]}" for i in sorted(s.said)),
        ", ".join(f"{x} {s.by_kind[x] - s.missed[x]}/{s.by_kind[x]}" for x in s.by_kind),
    ]
    return "\n".join(lines)


if __name__ == "__main__":
    found = measure(int(sys.argv[1]), int(sys.argv[2]), "-v" in sys.argv, sys.argv[4:] or EVERY)
    print(table(found))
    print("evidence of the right one:", [round(x, 1) for x in sorted(found.evidence)])
