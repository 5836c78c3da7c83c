"""Why a draw does not go as planned: every cause weighed by the readings, with its odds.

Each cause is the sheet's network with one thing wrong, or two; its evidence is how well draws of it, over all that is
not known exactly, tell the readings (importance sampling as in `live_fit`). Beside them stands what is not known here:
it is as likely as the causes are bad at telling the readings. Answers to tests multiply the odds.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.diagnosis.causes import causes
from rough_draw.core.diagnosis.curve_signs import jumps, rising_since
from rough_draw.core.diagnosis.draws import SPREAD, D, Draw, Further, Play, Readings, weights
from rough_draw.core.diagnosis.faults import SINGLE, Cause, CauseKind, keys_of, together
from rough_draw.core.diagnosis.importance_sampling import Proposal, around, moments
from rough_draw.core.diagnosis.live_fit import EFFECTIVE, thinned
from rough_draw.core.diagnosis.replay import standing
from rough_draw.core.model.assemble import Assembly, assemble
from rough_draw.core.model.ensemble import run_all, spread
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch, ballast_left_open

FloatArray = NDArray[np.float64]

PLAIN, FIRST, NEAR, MORE, ROUNDS = 24, 3, 6, 4, 5
"""Draws: of the sheet as it is, of each cause from the priors, near what the early readings tell of the unknowns, then
toward the readings."""
FAR = 0.6
"""Log of pressure beyond which a curve is only known to be off: steps in time look like that."""
EARLY = 3_000 * MICRON_PA
"""Readings over this, Pa, tell volume, bore and pump much the same whatever is wrong later."""
TOP = 3
"""Draws of a cause, its heaviest, that stand for it afterwards: what a test would show is asked of these. The others
are let go when it is weighed, as a case is kept for minutes; of the sheet as it is all are kept, for what is usual."""
HOPELESS, CLOSER, PAIRS = 10.0, 12, 11
"""A cause whose evidence is this far under the best, in natural logs, is not looked into further; at the most so many
are, and so many pairs are tried."""
FORGOTTEN = 3.0
"""Odds beforehand of a ballast that the log leaves open, against about one for all the rest (estimate)."""
SCATTER = 8.0
"""What a gauge that jumps, or does not, adds to the evidence of causes that scatter, or do not (estimate)."""
DOUBT = 0.12
"""Share of the evidence that every cause keeps: for what the model and its few draws do not know (estimate)."""
TEMPER = 0.4
"""Power of the evidence in the odds: few draws tell it no better (estimate)."""
UNKNOWN, UNKNOWN_PRIOR = -7.0, 0.08
"""Evidence, natural log, of what is not known here, and its odds beforehand: what the right cause seldom falls under
(measured over labelled draws)."""
NO_BETTER = 1.0
"""Natural log by which what is not known here may explain the readings better than the best of what is."""
RISES_BY_ITSELF = 0.01
"""Odds beforehand that a gauge rises while pumping and nothing is wrong (estimate)."""
OFTEN = 2.0
"""How much likelier two things are wrong together than chance has it: who is careless once is so twice (estimate)."""
BACKGROUND: tuple[CauseKind, ...] = ("water", "system-leak", "fouled", "refrigerant", "ballast", "core", "slow-pump")
"""What is easily there beside another cause and hides behind it."""


@dataclass(frozen=True)
class Weighed:
    """A cause with its evidence (natural log) and the draws that carry it most, heaviest first."""

    cause: Cause
    evidence: float
    draws: tuple[Draw, ...]


@dataclass(frozen=True)
class Case:
    """A draw under question: all its causes weighed, before any test. ``onset``: since when it rises, s."""

    job: Job
    base: Assembly
    readings: Readings
    weighed: tuple[Weighed, ...]
    onset: float | None

    @property
    def odds(self) -> dict[str, float]:
        """Odds of every cause, and of every two together, by the readings alone; they sum to one."""
        log = np.array([w.evidence for w in self.weighed])
        prior = np.array([w.cause.prior for w in self.weighed])
        # That nothing is wrong is the one thing that the model knows well: it has no benefit of the doubt.
        doubt = np.array([0.0 if w.cause.kind in SINGLE else DOUBT for w in self.weighed])
        p = prior * (np.exp(TEMPER * (log - log.max())) + doubt)
        p = p / p.sum()
        return {w.cause.key: float(x) for w, x in zip(self.weighed, p, strict=True)}


def marginal(odds: dict[str, float]) -> dict[str, float]:
    """Odds of every single cause, whatever is beside it; they may sum to more than one."""
    found: dict[str, float] = {}
    for key, p in odds.items():
        for one in keys_of(key):
            found[one] = found.get(one, 0.0) + p
    return found


def look_into(job: Job, touches: Sequence[Touch], start: float, readings: Readings) -> Case:
    """Weigh every cause by the readings so far. Raises ScopeError or NetworkError where the sheet is at fault."""
    base = assemble(job)
    jumping = jumps(readings.pa)
    every = causes(job, base)
    if _is_there(job, readings):
        # Who has reached the target accuses nobody.
        return Case(job, base, readings, (Weighed(every[0], 0.0, ()),), None)
    # A break with nitrogen lifts the gauge by itself: a rise counts since the last of them.
    lately = readings.at >= max((x.at - start for x in touches if x.kind == "break-end"), default=0.0)
    onset = None if jumping else rising_since(readings.at[lately], readings.pa[lately])
    thin = _thin(readings)
    kept = list(standing(touches, start))
    every = [_as_logged(c, kept) for c in every]
    if onset is not None:
        every = [c for c in every if c.later or c.scatters or c.key == "none"]
        # What rises while it is pumped does not go as planned, whatever a draw or two may say.
        every[0] = replace(every[0], prior=RISES_BY_ITSELF)
    play = Play(job=job, base=base, touches=kept, start=start, readings=thin, onset=onset)
    near, plain = _near(play, every[0])
    play.slope = _slope(np.array([d.z for d in plain[0]]), plain[0])
    first = [_Looked(every[0], *plain), *run_all(lambda c: _look(play, c, near), every[1:])]
    _closer(play, first, [_promise(x, play) for x in first])
    beside = _pairs(play, first, near)
    known = [_scattered(x.weighed(thin), jumping) for x in (*first, *beside)]
    evidence = min(UNKNOWN, NO_BETTER + max(w.evidence for w in known))
    unknown = Weighed(Cause(kind="other", prior=UNKNOWN_PRIOR), evidence, ())
    return Case(job, base, readings, (*known, unknown), onset)


def _is_there(job: Job, readings: Readings) -> bool:
    """Whether the gauge stands at or under the target."""
    last = readings.pa[-3:]
    return bool(last.size and np.isfinite(last).all() and (last <= chosen(job.criterion).target).all())


def _thin(r: Readings) -> Readings:
    t, p = thinned(r.at, r.pa)
    more = tuple(Further(m.node, *thinned(m.at, m.pa), m.over) for m in r.more if m.at.size > 1)
    return Readings(t, p, r.over, more)


def _near(play: Play, plain: Cause) -> tuple[tuple[FloatArray, FloatArray], tuple[list[Draw], list[Proposal]]]:
    """Where the unknowns lie by the early readings, and the plain draws that told so."""
    t, p = play.readings.at, play.readings.pa
    seen = np.isfinite(p)
    early = seen & ((t <= 0.3 * float(t[-1])) | (np.where(seen, p, 0.0) > EARLY))
    only = np.concatenate([early, np.zeros(play.readings.all_at().size - early.size, dtype=bool)])
    zs = np.array(spread(PLAIN, D))
    draws = run_all(lambda z: play.draw(plain, z), list(zs))
    wide: list[Proposal] = [(len(zs), np.zeros(D), np.eye(D))]
    w, _ = weights(draws, wide, play.readings, only if early.any() else None)
    mean, cov = moments(zs, w, 0.1)
    # Onset and severity are what the early readings do not tell.
    mean[-2:], cov[-2:, :], cov[:, -2:] = 0.0, 0.0, 0.0
    cov[-2, -2] = cov[-1, -1] = 1.0
    return (mean, cov), (draws, wide)


def _as_logged(cause: Cause, touches: list[Touch]) -> Cause:
    """A ballast that was opened and never logged shut is likely open still."""
    return replace(cause, prior=FORGOTTEN) if cause.key == "ballast" and ballast_left_open(touches) else cause


def _scattered(w: Weighed, jumping: bool) -> Weighed:
    """Evidence of the scatter, which no draw of a network has."""
    return replace(w, evidence=w.evidence + SCATTER) if w.cause.scatters == jumping else w


@dataclass
class _Looked:
    """A cause with its draws and where they were drawn from."""

    cause: Cause
    draws: list[Draw]
    proposals: list[Proposal]

    def weigh(self, readings: Readings) -> tuple[FloatArray, float]:
        return weights(self.draws, self.proposals, readings)

    def worth(self, readings: Readings) -> float:
        """Its evidence with its odds beforehand, natural log."""
        return float(np.log(self.cause.prior)) + self.weigh(readings)[1]

    def weighed(self, readings: Readings) -> Weighed:
        w, evidence = self.weigh(readings)
        order = np.argsort(-w)[: None if self.cause.kind == "none" else TOP]
        return Weighed(self.cause, evidence, tuple(replace(self.draws[i], weight=float(w[i])) for i in order))


LADDER = (-1.9, -1.1, -0.4, 0.4, 1.1, 1.9)
"""Severities at which every cause is tried where the unknowns likely lie: how grave it is decides most."""


def _look(play: Play, cause: Cause, near: tuple[FloatArray, FloatArray]) -> _Looked:
    mean, cov = near
    steps = around(mean, LADDER_SPREAD * cov, np.array(spread(len(LADDER), D, 80)))
    steps[:, -1] = LADDER
    steps[:, -2] = LADDER[::-1] if cause.beside is not None else 0.0
    zs = np.vstack([np.array(spread(FIRST, D)), around(mean, cov, np.array(spread(NEAR, D, 50))), steps])
    rungs = LADDER_SPREAD * cov
    rungs[-1, -1], rungs[-2, -2] = 2.0, 2.0 if cause.beside is not None else 0.3
    draws = [play.draw(cause, z) for z in zs]
    return _Looked(cause, draws, [(FIRST, np.zeros(D), np.eye(D)), (NEAR, mean, cov), (len(LADDER), mean, rungs)])


LADDER_SPREAD = 0.15
"""Share of the unknowns' variance about which the ladder is climbed."""


def _closer(play: Play, looked: Sequence[_Looked], worth: Sequence[float], most: int = CLOSER) -> None:
    """Draw more of what is worth it, where its draws so far say that the readings are met."""
    best = max(worth)
    ranked = sorted(zip(worth, looked, strict=True), key=lambda x: -x[0])[:most]

    def again(x: _Looked) -> None:
        # Two gauges ask for more: few draws tell both.
        for n in range(ROUNDS + ROUNDS * bool(play.readings.more)):
            mean, cov, _ = _toward(x, play)
            zs = around(mean, cov, np.array(spread(MORE, D, 100 + n * MORE)))
            x.draws += [play.draw(x.cause, z) for z in zs]
            x.proposals.append((MORE, mean, cov))

    run_all(again, [x for w, x in ranked if w > best - HOPELESS])


def _pairs(play: Play, singles: Sequence[_Looked], near: tuple[FloatArray, FloatArray]) -> list[_Looked]:
    """Two causes at once: of what the readings speak for most, and of that with what hides easily."""
    thin = play.readings
    ranked = sorted((x for x in singles if x.cause.kind not in (*SINGLE, "jumping")), key=lambda x: -x.worth(thin))
    top = [x.cause for x in ranked[:4]]
    if not top:
        return []
    hidden = [x.cause for x in ranked if x.cause.kind in BACKGROUND]
    tried: dict[frozenset[str], Cause] = {}
    for a, b in [*((top[0], b) for b in hidden), *combinations(top, 2)]:
        if a.kind != b.kind and not (a.place and a.place == b.place):
            tried.setdefault(frozenset((a.key, b.key)), together(a, b, OFTEN))
    found: list[_Looked] = run_all(lambda c: _look(play, c, near), list(tried.values())[:PAIRS])
    if found:
        worth = [_promise(x, play) for x in found]
        best = max(x.worth(thin) for x in singles)
        good = [(w, x) for w, x in zip(worth, found, strict=True) if w > best - HOPELESS]
        if good:
            _closer(play, [x for _, x in good], [w for w, _ in good], 4)
    return found


TRUST = 0.1
"""Weight of the plain sheet's slopes beside those of a cause's own draws."""


def _slope(zs: FloatArray, draws: Sequence[Draw]) -> FloatArray:
    """How the plain curve moves with each unknown, log Pa a deviate: (unknowns, readings)."""
    curves = np.array([d.curve[0] for d in draws])
    zc, yc = zs - zs.mean(axis=0), curves - curves.mean(axis=0)
    found = np.linalg.solve(zc.T @ zc + np.eye(D), zc.T @ yc)
    found[-2:] = 0.0
    return found


def _promise(looked: _Looked, play: Play) -> float:
    """What a cause may come to when it is looked into, natural log: few draws alone hardly hit a narrow one."""
    return max(looked.worth(play.readings), float(np.log(looked.cause.prior)) + _toward(looked, play)[2])


def _toward(looked: _Looked, play: Play) -> tuple[FloatArray, FloatArray, float]:
    """Where a cause likely meets the readings: a Gauss-Newton step from its best draw, the spread about it, and how
    well it would tell the readings there if curves moved straight.

    The slopes are a ridge regression of the curves on their places (as in ensemble Kalman inversion: Iglesias et al.
    2013), so that no draw has to be repeated for a derivative; what few draws do not tell is as on the plain sheet.
    """
    readings = play.readings
    w, _ = looked.weigh(readings)
    soft = w**0.25 / (w**0.25).sum()
    zs = np.array([d.z for d in looked.draws])
    pa = readings.all_pa()
    seen = np.isfinite(pa)
    curves = np.array([d.curve[0, seen] for d in looked.draws])
    zc, yc = zs - soft @ zs, curves - soft @ curves
    usual = TRUST * play.slope[:, seen] if play.slope is not None else 0.0
    slope = np.linalg.solve((zc * soft[:, None]).T @ zc + TRUST * np.eye(D), (zc * soft[:, None]).T @ yc + usual)
    best = int(np.argmax(w))
    off = np.clip(np.log(np.maximum(pa[seen], 1e-3)) - curves[best], -FAR, FAR)
    precision = 1.2 * min(1.0, EFFECTIVE / max(int(seen.sum()), 1)) / SPREAD**2
    inverse = np.linalg.inv(precision * slope @ slope.T + np.eye(D))
    step = inverse @ (precision * slope @ off - zs[best])
    step = np.clip(step, -2.0, 2.0)
    mean = zs[best] + step
    left = off - step @ slope
    volume = 0.5 * float(np.linalg.slogdet(inverse)[1])
    told = -0.5 * (precision * float(left @ left) + float(mean @ mean)) + volume
    return mean, 1.5 * inverse + 0.01 * np.eye(D), told
