"""Events, volume from data, what limits, what matters most: and facts of the trade that the engine must reproduce."""

from __future__ import annotations

import math
import re
from pathlib import Path

import numpy as np
import pytest

from bench import validation
from bench.networks import branching, rig_of_twelve
from rough_draw.core.engine.events import (
    ballast,
    dilution,
    nitrogen_break,
    oil_change,
    part_swap,
    play,
    pump,
    valve,
    warm,
)
from rough_draw.core.engine.network import Leak, Network, NetworkError, Node, Pool
from rough_draw.core.engine.network import Pump as PumpElement
from rough_draw.core.engine.simulate import run
from rough_draw.core.model.assemble import assemble
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.bottlenecks import PUMP, limits
from rough_draw.core.planning.sensitivity import influences
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Scope
from tests.builders import one_hose

M = MICRON_PA


def bare(volume: float = 0.01, speed: float = 2e-3, ultimate: float = 3.0) -> Network:
    return Network(nodes=(Node("pump", volume),), pumps=(PumpElement(node="pump", speed=speed, ultimate=ultimate),))


def test_a_capped_rig_rises_hundreds_of_micron_for_a_leak_invisible_on_12_litres() -> None:
    # The same leak on 8 ml and on 12 l: a rate means nothing without the volume.
    def rise(volume: float, seconds: float) -> float:
        net = Network(nodes=(Node("v", volume),), leaks=(Leak("v", 1e-4),), initial={"v": (5.0, 0, 0)})
        return float(run(net, seconds).total("v")[-1] - 5.0) / M

    assert rise(8e-6, 5) > 300
    assert rise(12e-3, 5) < 0.5


def test_three_nitrogen_breaks_dilute_by_the_product_of_the_ratios() -> None:
    # The gas left from before is diluted by p_low/p_break each time.
    lows = [(200.0, 101_325.0)] * 3
    assert dilution(lows) == pytest.approx((200 / 101_325) ** 3)
    assert validation._three_breaks() == pytest.approx(dilution(lows), rel=1e-3)


def test_triple_evacuation_by_events() -> None:
    # Moist air as the tracer: after a break at 200 Pa its share is p_low/p_break.
    net = Network(
        nodes=(Node("pump", 0.01),), pumps=(PumpElement(node="pump", speed=2e-3, ultimate=0.0),), humidity=0.5
    )
    events = [valve_free for k in range(1, 4) for valve_free in (nitrogen_break(60.0 * k, "pump", 101_325.0),)]
    r = play(net, 181.0, events)
    low = float(np.interp(59.99, r.time, r.total("pump")))
    end = r.pressure[-1, 0]
    share = float(end[1] / end.sum())
    assert share == pytest.approx(0.5 * (low / 101_325) ** 3, rel=0.2)


def test_free_water_is_not_diluted_by_a_break() -> None:
    net = Network(
        nodes=(Node("pump", 0.01),),
        pumps=(PumpElement(node="pump", speed=2e-3, ultimate=1.0),),
        pools=(Pool("pump", 0.01, 3e-3, 1.5),),
    )
    r = play(net, 130.0, [nitrogen_break(120.0, "pump", 101_325.0)])
    before = r.pool[np.searchsorted(r.time, 119.9), 0, 0]
    assert r.pool[-1, 0, 0] == pytest.approx(before, rel=0.02)


def test_events_do_what_their_words_say() -> None:
    net = rig_of_twelve(0.0)
    base = run(net, 1800)
    opened = play(net, 1800, [ballast(600, True, 900 * M)])
    assert opened.total("coil")[-1] > 500 * M
    shut = play(net, 2400, [ballast(600, True, 900 * M), ballast(1200, False, 900 * M)])
    assert shut.total("coil")[-1] < opened.total("coil")[-1] / 2
    swapped = play(net, 1800, [part_swap(0.0, "a", 0.004, 3.0)])
    assert swapped.total("coil")[-1] > base.total("coil")[-1]
    stopped = play(net, 700, [pump(600, False)])
    assert stopped.total("coil")[-1] > 1000
    isolated = play(net, 700, [valve(590, "tool a", False), valve(590, "tool b", False), pump(600, False)])
    assert isolated.total("coil")[-1] < 300
    with pytest.raises(NetworkError, match="network-unknown"):
        play(net, 700, [valve(1, "nothing", False)])


def test_warming_dries_faster_and_fresh_oil_goes_deeper() -> None:
    net = rig_of_twelve(0.01)
    cold, warmed = run(net, 7200), play(net, 7200, [warm(60, "coil", 313.0)])
    assert warmed.time_to("coil", 500 * M) < 0.8 * cold.time_to("coil", 500 * M)  # type: ignore[operator]
    wet_oil = rig_of_twelve(0.0).with_pump(ultimate_water=80.0)
    assert run(wet_oil, 3600).total("coil")[-1] > 80
    assert play(wet_oil, 3600, [oil_change(1800, 0.5)]).total("coil")[-1] < 40


def test_what_limits_goes_from_pump_to_hose_and_names_water() -> None:
    job = Job(scope=Scope(free_water_g=3), rig=one_hose(3, "1/4 in"))
    a = assemble(job)
    early, late = limits(a, run(a.network, 1800), [5.0, 900.0])
    for moment in (early, late):
        assert sum(moment.resistance.values()) == pytest.approx(1.0)
        assert all(0 <= s <= 1 for s in moment.sources.values())
    assert early.sources["gas"] > 0.8
    assert late.sources["water"] > 0.8
    assert late.words.key == "limit-water"
    assert late.resistance[PUMP] < early.resistance[PUMP]


def test_the_widest_unknown_is_named_with_what_would_narrow_it() -> None:
    scope = Scope(condition="leak-drawn-air")
    unproved = influences(Job(scope=scope))
    assert unproved[0].unknown == "pump", (
        "whether a pump goes under its target is what decides, until it was blanked off"
    )
    assert unproved[0].measure.key == "unknown-pump.measure"
    rig = Job(scope=scope).rig
    proved = [p.model_copy(update={"blank_off_micron": 25.0}) if p.kind == "pump" else p for p in rig.parts]
    wet = influences(Job(scope=scope, rig=rig.with_parts(proved)))
    assert wet[0].unknown == "water"
    assert wet[0].span >= wet[-1].span
    assert wet[0].measure.key == "unknown-water.measure"
    measured = influences(Job(scope=Scope(condition="new-dry", volume_l=8)))
    assert next(i for i in measured if i.unknown == "volume").span == 0


def test_cost_grows_gently_with_nodes() -> None:
    # Steps, not seconds: a larger network of the same kind takes no more steps, so only a step's cost may grow.
    small, large = (len(run(branching(n), 3600).time) for n in (25, 200))
    assert large < 2 * small


def test_no_row_of_the_validation_table_is_off() -> None:
    for row in validation.rows():
        assert row.compute() == pytest.approx(row.expected, rel=row.within), row.case


def test_the_validation_page_is_current() -> None:
    text = (Path(__file__).parents[2] / "docs" / "physics.md").read_text()
    assert validation.filled(text) == text, "run scripts/validation"
    assert "**OFF**" not in text


def test_plots_are_drawn(tmp_path: Path) -> None:
    validation.plot_conductance(tmp_path / "a.svg")
    validation.plot_draws(tmp_path / "b.svg")
    for name in ("a.svg", "b.svg"):
        text = (tmp_path / name).read_text()
        assert len(re.findall(r"<(?:polyline|path|line)", text)) > 10


def test_an_hour_of_a_dry_rig_matches_its_time_constant() -> None:
    # No restriction: ln(p₀/p) S/V to 1 %.
    net = bare(0.012, 1e-3, 0.0)
    t = run(net, 600, rtol=1e-4).time_to("pump", 100.0)
    assert t == pytest.approx(12 * math.log(101_325 / 100), rel=0.01)
