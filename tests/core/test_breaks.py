"""Breaks with nitrogen: dilution, the network while one is made, and what they take out."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.catalogue.breaking import FILL_S
from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import Gas
from rough_draw.core.engine.simulate import advance, initial_state
from rough_draw.core.model.assemble import assemble
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.next_step import Outlook, next_touches
from rough_draw.core.planning.nitrogen_breaks import broken, dilution, levels, pulling, way_of, worth
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import CriterionChoice, Job
from rough_draw.core.sheet.run_state import Touch, fold
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import rig_from

M = MICRON_PA


def wet() -> Job:
    scope = Scope(condition="flooded", free_water_g=5)
    return Job(scope=scope, rig=rig_from("three-tools", scope), criterion=CriterionChoice(school="triple"))


def test_a_break_at_1500_micron_leaves_one_part_in_five_hundred() -> None:
    # 1,500 µ is 199.98 Pa: with 101,325 Pa of nitrogen on top, 0.1974 % is what ideal mixing leaves.
    assert dilution(1_500 * M, 101_325.0) == pytest.approx(1.974e-3, rel=1e-3)


@given(st.floats(10, 5_000), st.integers(1, 3))
def test_dilutions_multiply_and_never_add_vapour(level: float, count: int) -> None:
    one = dilution(level * M, 101_325.0)
    assert 0 < one < 1
    assert one**count <= one


def test_nitrogen_fills_to_the_atmosphere_and_no_further_and_brings_no_water() -> None:
    job = wet()
    base = assemble(job)
    way = way_of(job, base)
    net = base.network
    deep = advance(compile_network(net), initial_state(net), 1800.0).final
    full = advance(compile_network(broken(net, way)), deep, deep.time + 8 * FILL_S.value)
    place = net.index(way.node)
    total = full.pressure[:, place, :].sum(axis=1)
    assert total[-1] == pytest.approx(net.atmosphere, rel=0.03)
    assert total.max() <= net.atmosphere * 1.001
    # Every gram of vapour that is there was there before or has boiled off what was free or bound.
    system = [i for i, n in enumerate(net.nodes) if n.group == "system"]
    vapour = np.maximum(full.pressure[:, system, Gas.WATER], 0.0).sum(axis=1)
    assert vapour[-1] / net.atmosphere < 0.2


def test_pulling_again_undoes_a_break() -> None:
    job = wet()
    base = assemble(job)
    way = way_of(job, base)
    again = pulling(broken(base.network, way), way)
    assert again.leaks == base.network.leaks
    assert [t.open for t in again.tubes] == [t.open for t in base.network.tubes]
    for a, b in zip(again.pools, base.network.pools, strict=True):
        assert a.heat_inflow == pytest.approx(b.heat_inflow)


def test_a_rig_without_a_valve_stops_its_pump_for_the_break() -> None:
    job = wet()
    way = way_of(job, assemble(job))
    bare = type(way)((), way.node)
    net = broken(assemble(job).network, bare)
    assert not net.pumps[0].running
    assert pulling(net, bare).pumps[0].running


def test_more_breaks_take_more_time_and_never_leave_more_water() -> None:
    found = worth(wet())
    assert [c.breaks for c in found.cycles] == [0, 1, 2, 3]
    times = [c.time.value for c in found.cycles if c.time is not None]
    assert len(times) >= 2
    assert times == sorted(times)
    left = [c.left for c in found.cycles if c.time is not None]
    assert all(b <= 1.02 * a for a, b in pairwise(left))
    assert 0 <= found.advised <= 3
    assert found.why
    assert found.share == pytest.approx(dilution(levels(wet(), 1)[0], assemble(wet()).network.atmosphere))


def test_the_cards_lead_through_the_cycles_in_their_order() -> None:
    job, c = wet(), chosen(CriterionChoice(school="triple"))
    outlook = Outlook(None, None, None)

    def first(touches: list[Touch], pa: float, now: float) -> str:
        return next_touches(job, fold(touches), c, pa, False, outlook, now, "the tools")[0].kind

    done = [Touch("ballast-open", 0), Touch("pump-on", 0), Touch("ballast-shut", 300), Touch("oil-change", 500)]
    assert first(done, 1_400 * M, 900) == "break"
    done.append(Touch("break", 900))
    assert fold(done).breaks == 1
    assert first(done, 1_400 * M, 950) == "break-end"
    done.append(Touch("break-end", 1200))
    assert fold(done).broken_at is None
    assert first(done, 1_400 * M, 1500) == "break"
    done += [Touch("break", 1500), Touch("break-end", 1900)]
    kinds = [n.kind for n in next_touches(job, fold(done), c, 400 * M, False, outlook, 2500, "the tools")]
    assert "break" not in kinds
    assert kinds[-1] == "isolate"


def test_a_wet_system_is_asked_for_fresh_oil_once() -> None:
    job, c = wet(), chosen(CriterionChoice(school="triple"))
    begun = [Touch("ballast-open", 0), Touch("pump-on", 0), Touch("ballast-shut", 300)]
    kinds = [n.kind for n in next_touches(job, fold(begun), c, 1_800 * M, False, Outlook(None, None, None), 400, "x")]
    assert kinds[0] == "oil-change"
    begun.append(Touch("oil-change", 500))
    kinds = [n.kind for n in next_touches(job, fold(begun), c, 1_800 * M, False, Outlook(None, None, None), 600, "x")]
    assert "oil-change" not in kinds
