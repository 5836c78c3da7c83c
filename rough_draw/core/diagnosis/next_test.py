"""The next cheapest test that tells the causes of a slow draw apart, and what its outcome makes of their odds.

Tests on the rig are simulated on what each cause leaves standing; what is seen by eye has likelihoods of its own, which
are estimates.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from rough_draw.core.diagnosis.diagnosis import Case, Draw, Weighed
from rough_draw.core.diagnosis.faults import Cause, CauseKind
from rough_draw.core.engine.compile import EngineError, compile_network
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.simulate import advance
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import vacuum
from rough_draw.core.model.isolation import isolation
from rough_draw.core.physics.gas import T_REF
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.steps import Answered

SURE = 0.9
"""Probability of a simulated outcome: the rest is shared by the others, for hands and gauges that are not perfect."""
PUSHES = 2e-2
"""Throughput, Pa·m³/s, from which a thumb feels gas push at the exhaust: estimate, some ten millilitres a minute."""
STRAY = 0.005
"""Probability that a look at one part finds what is not there (estimate)."""
TOP = 3
HANDLING = 1.0
"""Minutes that every test costs beside its own: going there, writing down (estimate)."""


@dataclass(frozen=True)
class Outcome:
    """One way a test can turn out."""

    key: str
    words: Name


@dataclass(frozen=True, kw_only=True)
class Test:
    """A test: what to do, the minutes it takes, its outcomes, and each one's likelihood by cause.

    Where ``tubes`` are named they are shut for ``seconds``, and the gauge is read before and after.
    """

    key: str
    do: Message
    minutes: float
    outcomes: tuple[Outcome, ...]
    likelihood: Mapping[str, tuple[float, ...]]
    tubes: tuple[str, ...] = ()
    seconds: float = 0.0

    def words_of(self, outcome: str) -> Name:
        """An outcome in words; its key where this rig's test no longer has it."""
        return next((o.words for o in self.outcomes if o.key == outcome), outcome)


@dataclass(frozen=True)
class Suspect:
    """A cause with its odds."""

    key: str
    words: Message
    cure: Message
    odds: float


@dataclass(frozen=True)
class Opinion:
    """Causes by their odds, tests by what they tell for their minutes, the best first, and ``every`` test there is."""

    suspects: tuple[Suspect, ...]
    tests: tuple[Test, ...]
    every: tuple[Test, ...]


YES_NO = tuple(Outcome(k, message(f"test-says-{k}")) for k in ("yes", "no"))
MOVES = tuple(Outcome(k, message(f"test-says-{k}")) for k in ("falls", "stays", "rises"))


def opinion(case: Case, answers: Sequence[Answered] = (), tests: Sequence[Test] | None = None) -> Opinion:
    """Odds after the answers (test and outcome), and which test comes next. Answers to unknown tests change nothing.

    ``tests`` are those of `tests_of`, where they are at hand: they are simulated, and the same for any answers.
    """
    every = {t.key: t for t in (tests if tests is not None else tests_of(case))}
    odds = case.odds
    for a in answers:
        t = every.get(a.test)
        n = next((i for i, o in enumerate(t.outcomes) if o.key == a.outcome), None) if t is not None else None
        if t is not None and n is not None:
            odds = {k: p * t.likelihood[k][n] for k, p in odds.items()}
            whole = sum(odds.values())
            odds = {k: p / whole for k, p in odds.items()}
    causes = {w.cause.key: w.cause for w in case.weighed}
    ranked = sorted(odds, key=lambda k: -odds[k])
    done = {a.test for a in answers}
    open_tests = [t for t in every.values() if t.key not in done]
    worth = sorted(open_tests, key=lambda t: -_gain(t, odds) / (t.minutes + HANDLING))
    return Opinion(
        tuple(Suspect(k, causes[k].words, causes[k].cure, odds[k]) for k in ranked),
        tuple(t for t in worth if _gain(t, odds) > 0.01),
        tuple(every.values()),
    )


def _gain(test: Test, odds: Mapping[str, float]) -> float:
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


EYE: tuple[tuple[str, float, dict[str, float], float], ...] = (
    ("ballast", 0.3, {"ballast": 0.99}, 0.005),
    ("oil", 0.5, {"wet-oil": 0.92, "water": 0.3}, 0.01),
    ("frost", 1.5, {"ice": 0.9, "water": 0.6}, 0.03),
    ("sound", 1.0, {"slow-pump": 0.94}, 0.015),
    ("joint", 1.0, {"jumping": 0.94}, 0.015),
    ("drops", 2.0, {"oil-carried": 0.94}, 0.01),
    ("gauge", 3.0, {"fouled": 0.95, "oil-carried": 0.3}, 0.01),
    (
        "blank",
        6.0,
        {"worn-pump": 0.95, "wet-oil": 0.93, "ballast": 0.95, "oil-carried": 0.6, "slow-pump": 0.3, "fouled": 0.95},
        0.02,
    ),
)
"""What is seen by eye: key, minutes, how likely yes is by cause or kind of cause, and by any other."""
BLANK_MOST = 100 * MICRON_PA
"""Pa over which a pump alone counts as staying high."""


def tests_of(case: Case) -> list[Test]:
    """Every test that this rig allows."""
    found = [_seen(case, *row) for row in EYE]
    found.append(_seen(case, "thumb", 0.3, _pushing(case), 0.05))
    by_part = (_ways(case), _cores(case), _joints(case), _one_by_one(case), _smell(case))
    found += [t for t in by_part if len(t.outcomes) > 1]
    held = isolation(case.job, case.base)
    if held.tubes and held.gauge_inside:
        do = message("test-hold", where=held.where)
        found.append(_moved(case, "hold", do, 1.5, held.tubes, 60.0))
    pump = next((v for v in case.base.valves.values() if v.name == "pump"), None)
    if pump is not None and held.tubes != (pump.tube,):
        do = message("test-pump-valve")
        found.append(_moved(case, "pump-valve", do, 1.0, (pump.tube,), 30.0))
    tools = _of_kind(case, "shut")
    for tool in tools if len(tools) > 1 else ():
        do = message("test-tool", tool=case.base.valves[tool].label)
        found.append(_moved(case, f"tool:{tool}", do, 1.0, (f"{tool}.ball",), 30.0))
    return found


def _of_kind(case: Case, kind: CauseKind) -> dict[str, Name]:
    """Parts or ports that a kind of cause is about, with their names."""
    return {w.cause.place: w.cause.where for w in case.weighed if w.cause.kind == kind and w.cause.place}


def _ways(case: Case) -> Test:
    rows = [(i, w, {f"shut:{i}": 0.96}) for i, w in _of_kind(case, "shut").items()]
    return _which(case, "ways", 1.0, rows)


def _cores(case: Case) -> Test:
    rows = [(i, w, {f"core:{i}": 0.96}) for i, w in _of_kind(case, "core").items()]
    return _which(case, "core", 3.0, rows)


def _joints(case: Case) -> Test:
    rows = [(i, w, {f"hose-leak:{i}": 0.75}) for i, w in _of_kind(case, "hose-leak").items()]
    rows.append(("system", message("test-joints-system"), {"system-leak": 0.7, "open": 0.9}))
    return _which(case, "joints", 4.0, rows)


def _smell(case: Case) -> Test:
    rows = [(i, w, {f"dirty-hose:{i}": 0.85}) for i, w in _of_kind(case, "dirty-hose").items()]
    return _which(case, "smell", 3.0, rows)


def _one_by_one(case: Case) -> Test:
    """The hoses on the pump alone, one after the other."""
    rows = [(i, w, {f"hose-leak:{i}": 0.93, f"dirty-hose:{i}": 0.9}) for i, w in _of_kind(case, "hose-leak").items()]
    return _which(case, "hoses", 5.0, rows)


def _likely(by_kind: Mapping[str, float], other: float, cause: Cause) -> float:
    return by_kind.get(cause.key, by_kind.get(cause.kind, other))


def _seen(case: Case, key: str, minutes: float, yes: Mapping[str, float], other: float) -> Test:
    """A question to the eye: how likely yes is, by cause or kind of cause."""
    told = {}
    for w in case.weighed:
        p = _likely(yes, other, w.cause)
        told[w.cause.key] = (p, 1.0 - p)
    do = message(f"test-{key}", most=vacuum(BLANK_MOST))
    return Test(key=key, do=do, minutes=minutes, outcomes=YES_NO, likelihood=told)


def _which(case: Case, key: str, minutes: float, rows: Sequence[tuple[str, Name, Mapping[str, float]]]) -> Test:
    """A question with one answer for each part it can be, and one for none of them."""
    told = {}
    for w in case.weighed:
        p = [_likely(likely, STRAY, w.cause) for _, _, likely in rows]
        told[w.cause.key] = (*p, max(0.02, 1.0 - sum(p)))
    named = (Outcome(i, message(f"test-{key}-at", place=name)) for i, name, _ in rows)
    outcomes = (*named, Outcome("none", message(f"test-{key}-none")))
    return Test(key=key, do=message(f"test-{key}"), minutes=minutes, outcomes=outcomes, likelihood=told)


def _pushing(case: Case) -> dict[str, float]:
    """Whether gas still leaves the pump, by cause: what it takes in at its ultimate is nothing."""
    found = {}
    for w in case.weighed:
        share = 0.0
        whole = sum(d.weight for d in w.draws[:TOP])
        for d in w.draws[:TOP]:
            share += d.weight / whole * (_throughput(d) > PUSHES)
        found[w.cause.key] = 0.05 + 0.87 * share
    return found


def _throughput(d: Draw) -> float:
    pump = d.network.pumps[0]
    p = _pressure(d.network, d, pump.node)
    return pump.speed * max(0.0, p - pump.ultimate - pump.ultimate_water)


def _pressure(net: Network, d: Draw, node: str) -> float:
    i = net.index(node)
    n = net.nodes[i]
    return float(np.maximum(d.final.gas[i], 0.0).sum() * n.temperature / (T_REF * n.volume))


def _moved(case: Case, key: str, do: Message, minutes: float, tubes: tuple[str, ...], seconds: float) -> Test:
    """A valve shut for a while: which way the gauge goes, simulated for every cause."""
    told = {}
    for w in case.weighed:
        p = np.full(3, (1.0 - SURE) / 2.0)
        top = [d for d in w.draws[:TOP] if d.weight > 0.02] or list(w.draws[:1])
        whole = sum(d.weight for d in top)
        for d in top:
            p[_turned(case, w, d, tubes, seconds)] += d.weight / whole * (SURE - (1.0 - SURE) / 2.0)
        told[w.cause.key] = tuple(float(x) for x in p / p.sum())
    return Test(
        key=key,
        do=message("test-which-way", do=do),
        minutes=minutes,
        outcomes=MOVES,
        likelihood=told,
        tubes=tubes,
        seconds=seconds,
    )


def _turned(case: Case, w: Weighed, d: Draw, tubes: tuple[str, ...], seconds: float) -> int:
    """Which of `MOVES` the gauge makes on one draw, ``seconds`` after the valves are shut."""
    net = d.network
    for name in tubes:
        net = net.with_tube(name, open=False)
    try:
        result = advance(compile_network(net), replace(d.final, step=1e-3), d.final.time + seconds, rtol=1e-2)
    except EngineError:
        return 1
    offset = w.cause.offset(float(d.z[-1])) * MICRON_PA if w.cause.offset is not None else 0.0
    shown = np.minimum(result.total(case.base.gauge_node) + offset, case.readings.over)
    return way(float(shown[0]), float(shown[-1]))


def way(before: float, after: float) -> int:
    """Which of `MOVES` two readings are, Pa: a fall by a sixth or a rise by a quarter counts."""
    ratio = after / max(before, 1e-3)
    return 0 if ratio < 0.85 else 2 if ratio > 1.25 else 1
