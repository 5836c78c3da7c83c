"""Tests that tell the causes of a slow draw apart: what to do, how each can turn out, and how likely by cause.

Tests on the rig are simulated on what each cause leaves standing, and their outcomes judged by what a sound rig of this
volume does; what is seen by eye has likelihoods of its own, which are estimates.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from rough_draw.core.diagnosis.diagnosis import TOP, Case, Weighed
from rough_draw.core.diagnosis.draws import Draw
from rough_draw.core.diagnosis.eye_tests import BLANK_MOST, EYE
from rough_draw.core.diagnosis.faults import Cause, CauseKind
from rough_draw.core.engine.compile import EngineError, compile_network
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.simulate import advance
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import vacuum
from rough_draw.core.model.isolation import isolation
from rough_draw.core.physics.gas import T_REF
from rough_draw.core.physics.units import MICRON_PA

SURE = 0.9
"""Probability of a simulated outcome: the rest is shared by the others, for hands and gauges that are not perfect."""
PLAYED, LOOKED = 0.5, 0.9
"""Powers of a test whose outcomes are computed, and of a look: measured over labelled draws."""
PUSHES = 2e-2
"""Throughput, Pa·m³/s, from which gas is felt at the exhaust: estimate, some ten millilitres a minute."""
STRAY = 0.015
"""Probability that a look along the parts finds something where nothing is, shared by them all (estimate)."""


@dataclass(frozen=True)
class Outcome:
    """One way a test can turn out. ``means``: kinds of causes whose place it names."""

    key: str
    words: Name
    means: tuple[CauseKind, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Test:
    """A test: what to do, the minutes it takes, its outcomes, and each one's likelihood by cause.

    Where ``tubes`` are named they are shut for ``seconds``, and the gauge is read before and after; ``levels`` Pa part
    its outcomes.
    """

    key: str
    do: Message
    minutes: float
    outcomes: tuple[Outcome, ...]
    likelihood: Mapping[str, tuple[float, ...]]
    tubes: tuple[str, ...] = ()
    seconds: float = 0.0
    levels: tuple[float, ...] = ()

    @property
    def power(self) -> float:
        """Of its likelihoods in the odds.

        What is computed by the model that judged the curve repeats its errors; who overlooks one thing overlooks two.
        """
        return PLAYED if self.levels else LOOKED

    def words_of(self, outcome: str) -> Name:
        """An outcome in words; its key where this rig's test no longer has it."""
        return next((o.words for o in self.outcomes if o.key == outcome), outcome)

    def number_of(self, outcome: str) -> int | None:
        """Which of its outcomes this is; None where this rig's test does not have it."""
        return next((n for n, o in enumerate(self.outcomes) if o.key == outcome), None)

    def outcome_at(self, pa: float) -> str:
        """The outcome of a reading, Pa."""
        return self.outcomes[int(np.searchsorted(self.levels, pa))].key


YES_NO = tuple(Outcome(k, message(f"test-says-{k}")) for k in ("yes", "no"))
SOUND = 1.5
"""Times the rise of a sound rig, computed for its shut-in volume and gauge, over which a rise counts."""
LEAPS = 10.0
"""Times that, from which it is a large one."""
FALLS = 0.85
"""Share of the reading before, under which a gauge has fallen."""
CREEPS = 1.1
"""Times the reading before, within which a gauge stays whatever was computed."""


def tests_of(case: Case) -> list[Test]:
    """Every test that this rig allows; none where nothing is in question."""
    if len(case.weighed) < 2:
        return []
    found = [_seen(case, *row) for row in EYE]
    found.append(_pushing(case))
    by_part = (_ways(case), _cores(case), _joints(case), _one_by_one(case), _smell(case), _bent(case))
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
    if (second := _second(case)) is not None:
        found.append(second)
    return found


def _of_kind(case: Case, kind: CauseKind) -> dict[str, Name]:
    """Parts or ports that a kind of cause is about, with their names."""
    singles = [one for w in case.weighed for one in w.cause.each]
    return {c.place: c.where for c in singles if c.kind == kind and c.place}


_Row = tuple[str, Name, Mapping[str, float]]


def _rows(case: Case, kind: CauseKind, likely: float, more: Mapping[str, float] | None = None) -> list[_Row]:
    """A row for each part that a kind of cause is about; ``more``: other kinds that show there as well."""
    return [
        (i, w, {f"{kind}:{i}": likely, **{f"{k}:{i}": p for k, p in (more or {}).items()}})
        for i, w in _of_kind(case, kind).items()
    ]


def _ways(case: Case) -> Test:
    rows = _rows(case, "shut", 0.96)
    rows += _rows(case, "gauge-shut", 0.96)
    rows += _rows(case, "section-shut", 0.85)
    return _which(case, "ways", 1.0, rows)


def _cores(case: Case) -> Test:
    rows = _rows(case, "core", 0.96)
    if len(rows) > 1:
        rows.append(("each", message("test-core-each"), {"cores": 0.96}))
    return _which(case, "core", 2.0, rows)


def _joints(case: Case) -> Test:
    """Joints wetted one by one: those of the rig, then every section of the system by its name."""
    rows = _rows(case, "hose-leak", 0.75)
    rows += _rows(case, "tool-leak", 0.75)
    rows += _rows(case, "gauge-joint", 0.8)
    rows += _rows(case, "manifold-leak", 0.7)
    if any(w.cause.kind == "pump-joint" for w in case.weighed):
        rows.append(("pump-joint", message("test-joints-pump"), {"pump-joint": 0.8}))
    labels = case.base.system.labels
    places = [n.removeprefix("system.") for n in case.base.pumped]
    share = {"system-leak": 0.7 / max(1, len(places)), "open": 0.9 / max(1, len(places))}
    for name in sorted(places):
        rows.append((f"in:{name}"[:60], message("test-joints-in", section=labels.get(name, name)), share))
    return _which(case, "joints", 4.0, rows, {r[0]: ("system-leak", "open") for r in rows if r[0].startswith("in:")})


def _smell(case: Case) -> Test:
    rows = _rows(case, "dirty-hose", 0.85)
    if len(rows) > 1:
        rows.append(("each", message("test-each"), {"all-hoses": 0.85}))
    return _which(case, "smell", 3.0, rows)


def _bent(case: Case) -> Test:
    return _which(case, "bent", 1.0, [*_rows(case, "kinked", 0.9), *_rows(case, "plugged", 0.75)])


def _one_by_one(case: Case) -> Test:
    """The hoses on the pump alone, one after the other."""
    rows = _rows(case, "hose-leak", 0.93, {"dirty-hose": 0.9})
    if len(rows) > 1:
        shared = {"all-hoses": 0.9, "manifold-leak": 0.8, "pump-joint": 0.9}
        rows.append(("each", message("test-each"), shared))
    return _which(case, "hoses", 5.0, rows)


def _likely(by_kind: Mapping[str, float], other: float, cause: Cause) -> float:
    """How likely a look finds something: where two causes are at work, either of them."""
    nothing = 1.0
    for one in cause.each:
        nothing *= 1.0 - by_kind.get(one.key, by_kind.get(one.kind, other))
    return 1.0 - nothing


GUESS = 0.15
"""How likely a look by eye finds something of what is not known here."""


def _seen(case: Case, key: str, minutes: float, yes: Mapping[str, float], other: float) -> Test:
    """A question to the eye: how likely yes is, by cause or kind of cause."""
    told = {}
    for w in case.weighed:
        p = GUESS if w.cause.kind == "other" else _likely(yes, other, w.cause)
        told[w.cause.key] = (p, 1.0 - p)
    do = message(f"test-{key}", most=vacuum(BLANK_MOST))
    return Test(key=key, do=do, minutes=minutes, outcomes=YES_NO, likelihood=told)


def _which(
    case: Case,
    key: str,
    minutes: float,
    rows: Sequence[_Row],
    means: Mapping[str, tuple[CauseKind, ...]] | None = None,
) -> Test:
    """A question with one answer for each part it can be, and one for none of them."""
    told: dict[str, tuple[float, ...]] = {}
    for w in case.weighed if rows else ():
        p = np.array([_likely(likely, STRAY / len(rows), w.cause) for _, _, likely in rows])
        p = p * min(1.0, 0.98 / max(float(p.sum()), 1e-9))
        told[w.cause.key] = (*(float(x) for x in p), max(0.02, 1.0 - float(p.sum())))
    named = (Outcome(i, _at(key, i, name), (means or {}).get(i, ())) for i, name, _ in rows)
    outcomes = (*named, Outcome("none", message(f"test-{key}-none")))
    return Test(key=key, do=message(f"test-{key}"), minutes=minutes, outcomes=outcomes, likelihood=told)


def _at(key: str, row: str, name: Name) -> Name:
    """A row's answer in words: a part by its name, or what brings its own sentence along."""
    own = row in ("each", "pump-joint") or row.startswith("in:")
    return name if own else message(f"test-{key}-at", place=name)


def _shares(w: Weighed, count: int, found: Callable[[Draw], int]) -> tuple[float, ...]:
    """Likelihoods of a simulated test: what its heaviest draws do, and a rest for hands that are not perfect."""
    if not w.draws:
        return tuple([1.0 / count] * count)
    p = np.full(count, (1.0 - SURE) / (count - 1))
    top = [d for d in w.draws[:TOP] if d.weight > 0.02] or list(w.draws[:1])
    whole = sum(d.weight for d in top)
    for d in top:
        p[found(d)] += d.weight / whole * (SURE - (1.0 - SURE) / (count - 1))
    return tuple(float(x) for x in p / p.sum())


def _pushing(case: Case) -> Test:
    """Whether gas still leaves the pump, by cause: what it takes in at its ultimate is nothing."""
    told = {}
    for w in case.weighed:
        p = 0.5
        if w.draws:
            whole = sum(d.weight for d in w.draws[:TOP])
            p = 0.05 + 0.87 * sum(d.weight / whole * (_throughput(d) > PUSHES) for d in w.draws[:TOP])
        told[w.cause.key] = (p, 1.0 - p)
    return Test(key="thumb", do=message("test-thumb"), minutes=0.3, outcomes=YES_NO, likelihood=told)


def _throughput(d: Draw) -> float:
    pump = d.network.pumps[0]
    p = _pressure(d.network, d, pump.node)
    return pump.speed * max(0.0, p - pump.ultimate - pump.ultimate_water)


def _pressure(net: Network, d: Draw, node: str) -> float:
    i = net.index(node)
    n = net.nodes[i]
    return float(np.maximum(d.final.gas[i], 0.0).sum() * n.temperature / (T_REF * n.volume))


def _offset(w: Weighed, d: Draw) -> float:
    return w.cause.shift(float(d.z[-1]), float(d.z[-2])) * MICRON_PA


def _moved(case: Case, key: str, do: Message, minutes: float, tubes: tuple[str, ...], seconds: float) -> Test:
    """A valve shut for a while: where the gauge is then, simulated for every cause.

    A rise counts by what a sound rig does, shut in like this: a small volume rises fast with nothing wrong.
    """
    before = _now(case)
    sound = [w for w in case.weighed if w.cause.kind == "none"]
    rises = [b - a for w in sound for d in w.draws for a, b in [_shut_in(case, w, d, tubes, seconds)]]
    usual = SOUND * float(np.quantile(rises, 0.9)) if rises else 0.0
    stays = max(before + usual, CREEPS * before)
    far = max(before + LEAPS * (stays - before), 2.0 * stays)
    levels = (FALLS * before, stays, far)

    def outcome(w: Weighed, d: Draw) -> int:
        a, b = _shut_in(case, w, d, tubes, seconds)
        # What its draw shows now may be off the reading a little: the change is what is judged.
        return int(np.searchsorted(levels, max(0.0, before + (b - a)) if b >= a else before * b / max(a, 1e-3)))

    told = {w.cause.key: _shares(w, 4, lambda d, w=w: outcome(w, d)) for w in case.weighed}  # type: ignore[misc]
    names = ("falls", "stays", "rises", "leaps")
    words = [message(f"test-says-{n}", low=vacuum(levels[0]), sound=vacuum(stays), far=vacuum(far)) for n in names]
    return Test(
        key=key,
        do=message("test-which-way", do=do),
        minutes=minutes,
        outcomes=tuple(Outcome(n, w) for n, w in zip(names, words, strict=True)),
        likelihood=told,
        tubes=tubes,
        seconds=seconds,
        levels=levels,
    )


def _now(case: Case) -> float:
    """What the gauge shows, Pa: the middle of its last readings, or its range where it is over that."""
    last = case.readings.pa[-5:]
    seen = last[np.isfinite(last)]
    return float(np.median(seen)) if seen.size else case.readings.over


def _shut_in(case: Case, w: Weighed, d: Draw, tubes: tuple[str, ...], seconds: float) -> tuple[float, float]:
    """What the gauge shows on one draw, Pa, before and ``seconds`` after valves are shut."""
    net = d.network
    for name in tubes:
        net = net.with_tube(name, open=False)
    try:
        result = advance(compile_network(net), replace(d.final, step=1e-3), d.final.time + seconds, rtol=1e-2)
    except EngineError:
        return 0.0, 0.0
    shown = np.minimum(result.total(case.base.gauge_node) + _offset(w, d), case.readings.over)
    return float(shown[0]), float(shown[-1])


SECOND = (0.15, 0.6, 1.5)
"""Shares of the gauge's reading that part the outcomes of a second one at the pump."""


def _second(case: Case) -> Test | None:
    """A second gauge at the pump, read beside the one there is: what lies between them shows at once."""
    if any(m.node == "intake" for m in case.readings.more) or case.base.gauge_node == "intake":
        return None
    here = _now(case)
    if here >= case.readings.over:
        return None
    levels = tuple(x * here for x in SECOND)

    def outcome(w: Weighed, d: Draw) -> int:
        shown = _pressure(d.network, d, case.base.gauge_node) + _offset(w, d)
        return int(np.searchsorted(SECOND, _pressure(d.network, d, "intake") / max(shown, 1e-3)))

    told = {w.cause.key: _shares(w, 4, lambda d, w=w: outcome(w, d)) for w in case.weighed}  # type: ignore[misc]
    names = ("far-under", "under", "alike", "over")
    marks = {"low": vacuum(levels[0]), "mid": vacuum(levels[1]), "high": vacuum(levels[2])}
    return Test(
        key="second",
        do=message("test-second"),
        minutes=2.0,
        outcomes=tuple(Outcome(n, message(f"test-second-{n}", **marks)) for n in names),
        likelihood=told,
        levels=levels,
    )
