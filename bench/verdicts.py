"""How right the verdict is, on holds with known truth."""

from __future__ import annotations

import statistics
import time
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field

import numpy as np

from bench.holds import LIMIT_MICRON, Case, one
from rough_draw.core.hold.result import Circumstances, Verdict
from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import ATMOSPHERE_PA, MICRON_PA

TIGHT_MOST = 0.1
"""µ/s; a truth that leaks no more than this may be called tight."""


@dataclass
class Score:
    """Counts over many holds; ``wrong`` lists seeds with what was said of what."""

    asked: int = 0
    conclusive: int = 0
    right: int = 0
    by_kind: dict[str, list[int]] = field(default_factory=dict)
    missed: int = 0
    big: int = 0
    slow: int = 0
    flagged: int = 0
    rates: int = 0
    rates_in: int = 0
    levels: int = 0
    levels_in: int = 0
    steady: int = 0
    named: int = 0
    sound_s: list[float] = field(default_factory=list)
    look_ms: list[float] = field(default_factory=list)
    wrong: list[tuple[int, str, str, str]] = field(default_factory=list)
    turned: list[tuple[int, str, str, str, str]] = field(default_factory=list)


def known(case: Case, upto: float) -> Circumstances:
    """What the sheet knows of this hold."""
    h = case.hose
    scale = MICRON_PA * case.volume.value
    hose = None if h is None else Quantity(h.value * scale, h.low * scale, h.high * scale, "Pa·m³/s", h.source)
    return Circumstances(
        hose=hose, drawn=case.drawn_s, touches=tuple(t for t in case.touches if t < upto), ran=float(case.ran)
    )


def right(v: Verdict, case: Case) -> bool:
    """Whether every claim of a verdict is true of this hold. A level by a tenth off the limit may go either way."""
    t = case.truth
    leaks, seen = t.leak > 0.03, v.detection
    dry_may = t.settles < 1.1 * LIMIT_MICRON
    wet_may = t.water and t.settles > 0.9 * LIMIT_MICRON
    if v.verdict in ("tight-and-dry", "creeping", "hose"):
        return t.leak <= max(TIGHT_MOST, seen) and dry_may and not t.refrigerant
    if v.verdict == "leak":
        return leaks and (not t.water or "water" in v.open)
    if v.verdict == "leak-and-moisture":
        return leaks and wet_may
    if v.verdict == "moisture":
        return wet_may and (t.leak <= max(TIGHT_MOST, seen) or "leak" in v.open)
    if v.verdict == "refrigerant":
        return t.refrigerant and t.leak <= max(TIGHT_MOST, seen)
    if v.verdict == "vapour":
        return (wet_may or t.refrigerant) and t.leak <= max(TIGHT_MOST, seen)
    if v.verdict == "shallow":
        return t.settles > 0.9 * LIMIT_MICRON and t.leak <= max(TIGHT_MOST, seen)
    return False


def called_tight(v: Verdict, leak: float) -> bool:
    """Whether a verdict passes a leak by: calls it tight, or names a bound that it is above."""
    return v.verdict in ("tight-and-dry", "creeping") or (v.verdict in ("hose", "shallow") and leak > v.detection)


def contradicts(first: Verdict, later: Verdict) -> bool:
    """Whether a later verdict takes back what an earlier one said; more said of the same is no contradiction."""
    a, b = first.verdict, later.verdict
    return a != b and not (a == "moisture" and b == "leak-and-moisture" and "leak" in first.open)


def judged(case: Case, upto: float | None = None, find_sound: bool = False) -> Verdict:
    """The verdict on a hold, or on its part up to ``upto`` s."""
    t, p = case.time, case.pressure
    if upto is not None:
        t, p = t[case.time <= upto], p[case.time <= upto]
    end = float(t[-1]) if t.size else 0.0
    return judge_hold(t, p, case.volume, case.coldest, None, known(case, end), (), find_sound)


def count(seed: int, stops: tuple[float, ...], score: Score) -> None:
    """Judge one hold at its end, and again each time it might have been stopped."""
    case = one(seed)
    t = case.truth
    score.asked += 1
    tally = score.by_kind.setdefault(t.kind, [0, 0, 0])
    tally[0] += 1
    begun = time.perf_counter()
    v = judged(case)
    score.look_ms.append(1e3 * (time.perf_counter() - begun))
    said = v.verdict not in ("not-settled", "creeping", "invalid")
    if said:
        score.conclusive += 1
        tally[1] += 1
        good = right(v, case)
        score.right += good
        tally[2] += good
        if not good:
            score.wrong.append((seed, t.kind, v.verdict, "end"))
    if t.leak >= 0.3:
        score.big += 1
        score.missed += called_tight(v, t.leak)
    if 0.05 <= t.leak < 0.3 and case.quantum <= 1:
        score.slow += 1
        score.flagged += v.rising
    if v.verdict == "leak" and t.kind in ("leak", "slow-leak"):
        score.rates += 1
        score.rates_in += v.rate.low <= t.leak <= v.rate.high
    if said:
        later = case.after[min(int(case.time[-1] + 600), case.after.size - 1)]
        score.levels += 1
        score.levels_in += v.ahead[0][1].low <= later <= v.ahead[0][1].high or later > ATMOSPHERE_PA
    for stop in stops:
        first = judged(case, stop)
        if first.sound:
            score.named += 1
            score.sound_s.append(float(stop))
            score.steady += first.verdict == v.verdict
            if contradicts(first, v):
                score.turned.append((seed, t.kind, first.verdict, v.verdict, f"{stop / 60:.0f} min"))
            if not right(first, case):
                score.wrong.append((seed, t.kind, first.verdict, f"{stop / 60:.0f} min"))
            if t.leak >= 0.3:
                score.missed += called_tight(first, t.leak)
            break
    else:
        if said:
            score.named += 1
            score.steady += 1
            score.sound_s.append(float(case.time[-1]))


def _piece(args: tuple[int, int, int, tuple[float, ...]]) -> Score:
    first, last, by, stops = args
    score = Score()
    for seed in range(first, last, by):
        count(seed, stops, score)
    return score


def measure(first: int, count_: int, stops: tuple[float, ...] = (), workers: int = 2) -> Score:
    """Judge ``count_`` holds from seed ``first`` on, over ``workers`` processes."""
    pieces = [(first + k, first + count_, workers, stops) for k in range(workers)]
    if workers == 1:
        return _piece(pieces[0])
    with ProcessPoolExecutor(workers) as pool:
        found = list(pool.map(_piece, pieces))
    return merged(found)


def merged(found: list[Score]) -> Score:
    """Counts of several pieces together."""
    whole = Score()
    for s in found:
        for name, value in s.__dict__.items():
            if name == "by_kind":
                for kind, tally in value.items():
                    mine = whole.by_kind.setdefault(kind, [0, 0, 0])
                    whole.by_kind[kind] = [a + b for a, b in zip(mine, tally, strict=True)]
            else:
                setattr(whole, name, getattr(whole, name) + value)
    return whole


def report(s: Score) -> str:
    """The counts in words."""
    lines = [
        f"holds {s.asked}, conclusive {s.conclusive / s.asked:.1%}, right {s.right / max(1, s.conclusive):.2%}",
        f"leaks from 0.3 µ/s on: {s.big}, called tight {s.missed}",
        f"slow leaks {s.slow}, flagged {s.flagged / max(1, s.slow):.1%}",
        f"rates in their interval {s.rates_in / max(1, s.rates):.1%} of {s.rates}; level in 10 min "
        f"{s.levels_in / max(1, s.levels):.1%} of {s.levels}",
    ]
    if s.sound_s:
        lines.append(
            f"first sound moment: median {statistics.median(s.sound_s) / 60:.1f} min of {s.named}, same at the end "
            f"{s.steady / max(1, s.named):.1%}"
        )
    lines.append(f"a look {statistics.median(s.look_ms):.0f} ms, most {max(s.look_ms):.0f}")
    lines += [f"  {k}: {a}, conclusive {b}, right {c}" for k, (a, b, c) in sorted(s.by_kind.items())]
    return "\n".join(lines)


STOPS = tuple(float(x) for x in np.arange(120, 1200, 60))

if __name__ == "__main__":
    import sys

    found = measure(int(sys.argv[1]), int(sys.argv[2]), STOPS if len(sys.argv) > 3 else ())
    print(report(found))
    for w in found.wrong[:60]:
        print(*w)
    for turned in found.turned[:60]:
        print("turned", *turned)
