"""What a gauge sees of the system in a hold: computed, said before the draw, and no verdict where it sees nothing."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from rough_draw.core.advice.findings import findings
from rough_draw.core.hold.context import circumstances
from rough_draw.core.hold.result import Circumstances
from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.gauge_sight import gauge_offset
from rough_draw.core.model.isolation import isolation
from rough_draw.core.physics.conductance import tube_conductance
from rough_draw.core.physics.quantity import exact
from rough_draw.core.physics.slot import slot_conductance
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.run_state import fold
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from

HERE = Scope(condition="new-dry")
M = MICRON_PA


def seen(rig: Rig, level: float = 500 * M, pumped: float = 1800.0) -> float:
    job = Job(scope=HERE, rig=rig)
    a = assemble(job)
    return gauge_offset(a, isolation(job, a), level, pumped)


def told(rig: Rig) -> dict[str, str]:
    job = Job(scope=HERE, rig=rig)
    a = assemble(job)
    return {f.kind: f.severity for f in findings(job, a, isolation(job, a), 1.0, 66.7)}


def test_on_a_tool_it_reads_the_system() -> None:
    for pattern in ("two-hoses", "three-tools", "one-hose-valved-gauge", "single-port", "far-gauge"):
        assert abs(seen(rig_from(pattern, HERE))) < 2 * M
        assert "gauge-beyond-core" not in told(rig_from(pattern, HERE))


def test_behind_cores_it_reads_its_own_hoses() -> None:
    """Q/C of the hoses over both cores, by hand: within what the pressures in between do to C."""
    rig = rig_from("cylinder-ready", HERE)
    job = Job(scope=HERE, rig=rig)
    a = assemble(job)
    held = isolation(job, a)
    got = gauge_offset(a, held, 500 * M)
    inside = [o for o in a.network.outgassing if o.node in a.network.with_pump(running=False).connected(a.gauge_node)]
    shut = {t.name for t in a.network.tubes if t.name in held.tubes}
    assert shut
    q = held.inflow()
    core = next(t for t in a.network.tubes if t.name == "suction.port")
    p = 500 * M + 0.5 * got
    c = 2.0 * slot_conductance(core.bore, core.width, core.length, p + 1.0, p - 1.0)
    assert inside
    assert got == pytest.approx(q / c, rel=0.35)
    assert tube_conductance(5e-3, 1.5, p + 1, p - 1) > c


@pytest.mark.parametrize("minutes", [2, 10, 60])
def test_the_longer_the_rig_was_pumped_on_the_less(minutes: float) -> None:
    rig = rig_from("cylinder-ready", HERE)
    assert seen(rig, pumped=60.0 * minutes) > seen(rig, pumped=60.0 * minutes + 600.0) > 0.0


@pytest.mark.parametrize("pattern", [k for k in PATTERNS if fits(k, HERE)])
def test_it_can_be_computed_for_every_setup(pattern: str) -> None:
    rig = rig_from(pattern, HERE)
    value = seen(rig)
    assert value > -5 * M
    if rig.gauge is None:
        assert math.isfinite(value)


def test_with_its_core_left_in_it_sees_nothing() -> None:
    rig = rig_from("one-hose-valved-gauge", HERE).with_core("liquid", True)
    assert math.isinf(seen(rig))


def flat(offset: float, **more: Any) -> str:
    t = np.linspace(0.0, 1200.0, 241)
    p = np.full_like(t, 300.0 * M) + 0.02 * M * np.sin(t)
    return judge_hold(t, p, exact(8e-3, "m³", "m"), 288.0, known=Circumstances(offset=offset, **more)).verdict


def test_a_hold_by_a_gauge_that_does_not_read_the_system_has_no_verdict() -> None:
    assert flat(0.0) == "tight-and-dry"
    assert flat(math.inf) == "invalid"
    assert flat(400 * M) == "invalid"
    assert flat(20 * M) == "tight-and-dry"


def test_the_circumstances_of_a_hold_carry_it() -> None:
    job = Job(scope=HERE.model_copy(update={"elevation_m": 2_000.0}), rig=rig_from("cylinder-ready", HERE))
    a = assemble(job)
    known = circumstances(job, isolation(job, a), fold([]), [], 0.0, 600.0, a)
    assert known.offset == pytest.approx(gauge_offset(a, isolation(job, a), 500 * M), rel=0.3)
    assert known.atmosphere < 80_000.0


def test_air_let_in_is_known_by_the_air_of_the_place() -> None:
    t = np.linspace(0.0, 1200.0, 241)
    p = np.where(t < 600, 30.0, 76_000.0)
    for atmosphere, key in ((79_500.0, "unfit-atmosphere"), (101_325.0, None)):
        v = judge_hold(t, p, exact(8e-3, "m³", "m"), 288.0, known=replace(Circumstances(), atmosphere=atmosphere))
        assert (v.why.key if v.why is not None else None) == key


def test_it_is_said_before_the_draw() -> None:
    poor = rig_edit.swap(rig_from("cylinder-ready", HERE), "hose-a", {"age": "old"})
    assert told(poor)["gauge-beyond-core"] in ("stop", "caution")
