"""The diagnosis of each draw: its causes weighed once, kept until touches or readings have moved on."""

from __future__ import annotations

import threading
import time
from dataclasses import dataclass, field
from functools import partial

import numpy as np
from cachetools import LRUCache

from rough_draw.api import runs
from rough_draw.api.beside import Beside
from rough_draw.core.diagnosis.curve_signs import Signature, signature
from rough_draw.core.diagnosis.diagnosis import Case, look_into
from rough_draw.core.diagnosis.draws import Further, Readings
from rough_draw.core.diagnosis.field_tests import Test, tests_of
from rough_draw.core.diagnosis.opinion import Opinion, opinion
from rough_draw.core.engine.compile import EngineError
from rough_draw.core.message import Telling, message
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.sheet.gauge_owner import AT_PUMP
from rough_draw.core.sheet.run_state import Touch
from rough_draw.core.sheet.steps import Answered, LookedAnew, OnRun
from rough_draw.store import jobs

FRESH_S = 240.0
"""A case stands this long on the draw's clock, or while tests on it are being answered this many times over."""
ANSWERING = 5.0
STILL = 3.0
"""Times as long an older case is given at once, while it is looked into anew beside."""
EARLY = 0.75
"""Share of that after which a case is looked into anew beforehand."""
PAUSE_S = 30.0
"""Between two looks beforehand at one job whose rig was changed meanwhile, s by the wall clock; else it is as long as
by the draw's own: a simulated one runs faster than anybody looks."""
MOST_WISHED = 3
"""Draws that wait to be looked into beforehand."""
REST = 2.0
"""Times as long as a look beforehand took none follows that nobody asked for: where many draws strike the eye they
would take the server's whole time.
"""
LEAST = 6
MOST_JOBS = 16


class NotYet(Telling):
    """There is nothing to look into yet."""


@dataclass
class _Kept:
    made_of: MadeOf
    case: Case
    tests: list[Test]
    as_of: float


@dataclass
class _Place:
    lock: threading.Lock = field(default_factory=threading.Lock)
    kept: _Kept | None = None


_places: LRUCache[str, _Place] = LRUCache(MOST_JOBS)
_guard = threading.Lock()
# One after the other: who looks at a draw never waits for looks at others.
_beforehand = Beside("look")


@dataclass
class _Looks:
    """When each draw was last looked into, its case kept still or not, and until when none is beforehand: s by the
    monotonic clock.
    """

    at: LRUCache[str, float] = field(default_factory=lambda: LRUCache(256))
    rest_until: float = float("-inf")


_looks = _Looks()


@dataclass(frozen=True)
class Why:
    """A draw looked into: the case, the opinion after the answers, and when the readings of it end (epoch s)."""

    case: Case
    opinion: Opinion
    answers: list[Answered]
    sign: Signature | None
    as_of: float


def physical(touches: list[Touch]) -> list[Touch]:
    """Touches that change the rig: notes and findings do not."""
    return [t for t in touches if t.kind != "note" and not isinstance(t.step, Answered | LookedAnew)]


MadeOf = tuple[str, tuple[tuple[str, float], ...]]


def made_of(run: runs.RunView) -> MadeOf:
    """What a look at a draw, or a fit of it, rests on but for its readings: the sheet, and the steps that change the
    rig.
    """
    return runs.plan_key(run.job), tuple((t.kind, t.at) for t in physical(run.made))


def answers_of(touches: list[Touch]) -> list[Answered]:
    """Answers that count: since the last fresh start, the last of each test, none older than a cure of its subject."""
    found: dict[str, Answered] = {}
    for t in touches:
        match t.step:
            case LookedAnew():
                found.clear()
            case Answered(test) as one:
                found[test] = one
            case OnRun("ballast-open" | "ballast-shut"):
                found.pop("ballast", None)
            case _:
                pass
    return list(found.values())


def sign_of(run: runs.RunView) -> Signature | None:
    """The sign of a draw so far; None before it or where nothing strikes the eye."""
    main, start = run.main(), run.state.started_at
    if main is None or start is None or run.state.isolated_at is not None or run.by_needle():
        return None
    if run.state.broken_at is not None:
        return None
    keep = main.at >= max(start, run.state.pulled_at or start)
    boils = saturation_pressure(runs.plan_for(run.job).assembly.system.coldest)
    return signature(main.at[keep] - start, np.asarray(main.pa[keep]), boils)


def _beside(run: runs.RunView, main: jobs.Readings, start: float, over: float) -> tuple[Further, ...]:
    """Readings of the other gauges whose place on the rig is known, the one at the pump among them."""
    nodes = {**runs.plan_for(run.job).assembly.gauges, AT_PUMP: "intake"}
    ranges = {g.id: g.over_micron * MICRON_PA for g in run.job.rig.gauges}
    found = []
    for s in run.series:
        keep = s.at >= start
        if s is not main and s.part in nodes and int(keep.sum()) > 1:
            at, pa = s.at[keep] - start, np.asarray(s.pa[keep])
            found.append(Further(nodes[s.part], at, pa, ranges.get(s.part, over)))
    return tuple(found)


def ahead(key: str, run: runs.RunView, asked: bool = False) -> None:
    """Look into a draw before somebody asks why: the answer stands when they do. Returns at once.

    A page that watches wishes it again and again, and is passed over while others wait or the looks rest; who has
    ``asked`` is not.
    """
    waiting = _beforehand.waiting()
    full = len(waiting) >= MOST_WISHED or time.monotonic() < _looks.rest_until
    if asked or key in waiting or not full:
        _beforehand.wish(key, partial(_look_ahead, key, run))


def _look_ahead(key: str, run: runs.RunView) -> None:
    with _guard:
        place = _places.get(key)
        looked = _looks.at.get(key, float("-inf"))
    main = run.main()
    kept = place.kept if place is not None else None
    begun = time.monotonic()
    if main is not None:
        same = kept is None or kept.made_of == made_of(run)
        young = kept is not None and same and float(main.at[-1]) - kept.as_of < EARLY * FRESH_S
        if young or begun - looked < (EARLY * FRESH_S if same else PAUSE_S):
            return
    try:
        why(key, run, anew=kept is not None)
    except (Telling, EngineError):
        # Who asks is told why not.
        return
    except Exception:
        _rest(begun)
        raise
    _rest(begun)


def _rest(begun: float) -> None:
    now = time.monotonic()
    _looks.rest_until = now + REST * (now - begun)


def why(key: str, run: runs.RunView, anew: bool = False) -> Why:
    """Look into a running draw. Raises NotYet without a draw or readings, ScopeError or NetworkError by the sheet."""
    main, start, gauge = run.main(), run.state.started_at, run.job.rig.gauge
    if start is None or run.state.isolated_at is not None or not run.state.pump_on or run.state.broken_at is not None:
        raise NotYet(message("diagnosis-no-draw"))
    if gauge is None or run.by_needle():
        raise NotYet(message("diagnosis-no-gauge"))
    keep = main.at >= start if main is not None else np.zeros(0, dtype=bool)
    if main is None or int(keep.sum()) < LEAST:
        raise NotYet(message("diagnosis-wait", count=LEAST))
    answers = answers_of(run.touches)
    with _guard:
        place = _places.setdefault(key, _Place())
    rests_on = made_of(run)
    now = float(main.at[-1])
    span = FRESH_S * (ANSWERING if answers else 1.0)
    kept = place.kept
    if kept is not None and kept.made_of == rests_on and not anew and span < now - kept.as_of <= STILL * span:
        ahead(key, run, asked=True)
        return Why(kept.case, opinion(kept.case, answers, kept.tests), answers, sign_of(run), kept.as_of)
    with place.lock:
        kept = place.kept
        if kept is None or kept.made_of != rests_on or anew or now - kept.as_of > span:
            at, pa = main.at[keep] - start, np.asarray(main.pa[keep])
            over = gauge.over_micron * MICRON_PA
            case = look_into(
                run.job, physical(run.made), start, Readings(at, pa, over, _beside(run, main, start, over))
            )
            kept = place.kept = _Kept(rests_on, case, tests_of(case), now)
            with _guard:
                _looks.at[key] = time.monotonic()
        return Why(kept.case, opinion(kept.case, answers, kept.tests), answers, sign_of(run), kept.as_of)
