"""Labelled faults: how often the right cause comes first, before and after the guided tests."""

from __future__ import annotations

import random
import sys
import time
from collections import Counter
from dataclasses import dataclass, field

from bench.simulated import Case, answer, labelled
from rough_draw.core.diagnosis.diagnosis import look_into
from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.diagnosis.next_test import opinion, tests_of
from rough_draw.core.sheet.steps import Answered

TESTS = 10
"""Guided tests at the most."""
SURE = 0.95
"""Odds at which nobody looks further."""


@dataclass
class Score:
    """Counts over labelled draws."""

    asked: int = 0
    before: int = 0
    first: int = 0
    second: int = 0
    tests: int = 0
    minutes: float = 0.0
    look_ms: list[float] = field(default_factory=list)
    by_kind: Counter[str] = field(default_factory=Counter)
    missed: Counter[str] = field(default_factory=Counter)


def one(case: Case, rng: random.Random, score: Score, talk: bool = False) -> None:
    """Ask about one draw, follow the tests it proposes, and count."""
    key = case.truth.fault or "none"
    kind = kind_of(key)
    begun = time.perf_counter()
    look = look_into(case.job, case.touches, 0.0, case.readings)
    score.look_ms.append(1e3 * (time.perf_counter() - begun))
    answers: list[Answered] = []
    tests = tests_of(look)
    told = opinion(look, tests=tests)
    score.asked += 1
    score.by_kind[kind] += 1
    score.before += told.suspects[0].key == key
    while len(answers) < TESTS and told.tests and (told.suspects[0].odds < SURE or not answers):
        test = told.tests[0]
        answers.append(Answered(test.key, answer(case, test, rng)))
        score.minutes += test.minutes
        told = opinion(look, answers, tests)
    score.tests += len(answers)
    ranks = [s.key for s in told.suspects]
    score.first += ranks[0] == key
    score.second += key in ranks[:2]
    score.missed[kind] += ranks[0] != key
    if talk and ranks[0] != key:
        before = look.odds
        top = [f"{s.key} {s.odds:.2f} ({before[s.key]:.2f})" for s in told.suspects[:3]]
        mine = next(s.odds for s in told.suspects if s.key == key)
        print(f"  {key} s={case.truth.severity:+.1f} at={case.truth.fault_at:.0f} risen={case.risen}:", end=" ")
        print(f"{top}; {mine:.3f} ({before[key]:.2f}) {answers}", flush=True)


def measure(seed: int, count: int, talk: bool = False) -> Score:
    """``count`` labelled draws from ``seed`` on."""
    rng = random.Random(seed)
    score = Score()
    for case in labelled(seed, count):
        one(case, rng, score, talk)
    return score


if __name__ == "__main__":
    found = measure(int(sys.argv[1]), int(sys.argv[2]), "-v" in sys.argv)
    n = found.asked
    print(
        f"{n}: before {found.before / n:.0%}, first {found.first / n:.0%}, in two {found.second / n:.0%}, "
        f"tests {found.tests / n:.1f}, minutes {found.minutes / n:.1f}, look {sorted(found.look_ms)[n // 2]:.0f} ms"
    )
    print({k: f"{found.by_kind[k] - found.missed[k]}/{found.by_kind[k]}" for k in found.by_kind})
