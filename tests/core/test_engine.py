"""The engine: closed forms, conservation, order, and what it must never do."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.engine.compile import EngineError, compile_network
from rough_draw.core.engine.network import Gas, Leak, Network, NetworkError, Node, Outgassing, Pool, Pump, Sorbed, Tube
from rough_draw.core.engine.simulate import advance, initial_state, run, stored
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.physics.water import saturation_pressure

TORR = 133.322368


def one_volume(**extra: object) -> Network:
    """A bare volume on a perfect pump."""
    return Network(
        nodes=(Node("pump", 0.010),),
        pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),),
        atmosphere=760 * TORR,
        **extra,
    )  # type: ignore[arg-type]


def small_rig(bore: float = 0.009, water: float = 0.0, leak: float = 0.0) -> Network:
    """Pump, hose, port, coil and a line behind a metering device; wet or leaking if asked."""
    return Network(
        nodes=(
            Node("pump", 2e-5),
            Node("hose", 5e-5),
            Node("coil", 5e-3, 287.0, "system"),
            Node("line", 6e-4, 293.15, "system"),
        ),
        tubes=(
            Tube(name="inlet", a="pump", b="hose", bore=0.010, length=0.05),
            Tube(name="bore", a="hose", b="coil", bore=bore, length=1.5),
            Tube(name="metering", a="coil", b="line", bore=0.0016, length=0.006),
        ),
        pumps=(Pump(node="pump", speed=2.2e-3, ultimate=3.0, ultimate_water=0.6),),
        leaks=(Leak("line", leak, 0.01),) if leak else (),
        outgassing=(Outgassing(node="hose", gas=Gas.AIR, steady=1e-6, fresh=5e-5),),
        pools=(Pool("coil", water, 3e-3, 1.5),) if water else (),
        sorbed=(
            Sorbed(node="coil", gas=Gas.WATER, mass=2e-5, tau=900.0, capacity=1e-8, power=0.3),
            Sorbed(node="coil", gas=Gas.REFRIGERANT, mass=1e-4, tau=3000.0),
        ),
        humidity=0.012,
    )


def test_760_to_1_torr_in_23_4_seconds() -> None:
    # t = V/S ln(p₀/p) = 10/2.83 · ln 760 = 23.4 s.
    r = run(one_volume(), 60, rtol=1e-4)
    assert r.time_to("pump", TORR) == pytest.approx(23.4, abs=0.1)


def test_ultimate_is_reached_and_kept() -> None:
    net = Network(nodes=(Node("pump", 0.01),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=4.0),))
    assert run(net, 600).total("pump")[-1] == pytest.approx(4.0, rel=1e-3)


def test_leak_rise_half_a_micron_a_second_in_8_litres() -> None:
    # 0.5 µ/s · 8 l = 5.33e-4 Pa·m³/s.
    net = Network(nodes=(Node("v", 0.008),), leaks=(Leak("v", 5.333e-4),), initial={"v": (10.0, 0.0, 0.0)})
    r = run(net, 600)
    assert (r.total("v")[-1] - 10.0) / 600 / MICRON_PA == pytest.approx(0.5, rel=1e-3)


def test_two_volumes_even_out_with_tau_v_over_c() -> None:
    # Molecular flow: C constant, so the difference falls as e^(−t/τ), τ = V₁V₂/(V₁+V₂)/C.
    net = Network(
        nodes=(Node("a", 0.002), Node("b", 0.002)),
        tubes=(Tube(name="t", a="a", b="b", bore=0.002, length=1.0),),
        initial={"a": (0.2, 0, 0), "b": (0.0, 0, 0)},
    )
    c = math.pi * 0.002**3 / 12 * math.sqrt(8 * 8.314462618 * 293.15 / (math.pi * 28.97e-3))
    tau = 0.001 / c
    r = run(net, tau, rtol=1e-5)
    gap = float(r.total("a")[-1] - r.total("b")[-1])
    assert gap == pytest.approx(0.2 * math.exp(-1), rel=0.03)


@given(st.floats(0.003, 0.02), st.sampled_from([0.0, 1e-4, 0.004]), st.sampled_from([0.0, 1e-4]), st.floats(100, 9000))
def test_gas_and_water_are_conserved(bore: float, water: float, leak: float, until: float) -> None:
    net = small_rig(bore, water, leak)
    r = run(net, until, rtol=2e-3)
    start, end = initial_state(net), r.final
    before = stored(net, start.gas, start.pool, start.sorbed)
    after = stored(net, end.gas, end.pool, end.sorbed)
    gone = r.crossed[-1].sum(axis=0)
    assert np.allclose(before, after + gone, rtol=1e-3, atol=1e-9)
    assert np.all(r.pressure >= 0)
    assert np.all(r.pool[:, :, 0] >= 0)


def test_tolerance_does_not_move_the_answer() -> None:
    net = small_rig(water=0.002)
    level = 300 * MICRON_PA
    coarse = run(net, 20_000, rtol=3e-3).time_to("coil", level)
    fine = run(net, 20_000, rtol=1e-6).time_to("coil", level)
    assert coarse is not None
    assert coarse == pytest.approx(fine, rel=0.01)


def test_water_boils_at_saturation_of_its_own_temperature() -> None:
    r = run(small_rig(water=0.02), 900)
    i = r.network.index("coil")
    mid = len(r.time) // 2
    t_water, p_water = r.pool[mid, 0, 1], r.pressure[mid, i, Gas.WATER]
    assert r.pool[mid, 0, 0] > 0.001
    assert p_water < saturation_pressure(t_water)
    assert p_water > 0.4 * saturation_pressure(t_water)


def test_a_rapid_pull_freezes_water_and_slows() -> None:
    net = Network(
        nodes=(Node("pump", 0.006),),
        pumps=(Pump(node="pump", speed=5e-3, ultimate=1.0),),
        pools=(Pool("pump", 0.01, 2e-2, 0.2, 5.0),),
    )
    r = run(net, 3600)
    assert r.pool[:, 0, 1].min() < 272.0
    frozen = float(np.interp(600, r.time, r.total("pump")))
    assert frozen < 4_600 * MICRON_PA


def test_check_valve_passes_one_way() -> None:
    nodes = (Node("a", 0.001), Node("b", 0.001))
    tube = Tube(name="check", a="a", b="b", bore=0.004, length=0.02, one_way=True, crack=100.0)
    forward = run(Network(nodes=nodes, tubes=(tube,), initial={"a": (5000, 0, 0), "b": (100, 0, 0)}), 20)
    assert forward.total("a")[-1] == pytest.approx(forward.total("b")[-1] + 100, rel=0.02)
    back = run(Network(nodes=nodes, tubes=(tube,), initial={"a": (100, 0, 0), "b": (5000, 0, 0)}), 20)
    assert back.total("b")[-1] == pytest.approx(5000)


def test_a_shut_valve_keeps_the_section_at_atmosphere() -> None:
    net = small_rig().with_tube("metering", open=False)
    r = run(net, 600)
    assert r.total("line")[-1] == pytest.approx(101_325, rel=1e-6)
    assert r.total("coil")[-1] < 2000 * MICRON_PA


def test_events_isolate_then_hold() -> None:
    changes = [(600.0, lambda n: n.with_tube("bore", open=False)), (610.0, lambda n: n.with_pump(running=False))]
    r = run(small_rig(leak=5e-4), 1200, changes)
    assert r.at("coil", [1190])[0] > r.at("coil", [700])[0] > r.at("coil", [600])[0]


def test_pump_stopped_unisolated_lets_air_back() -> None:
    r = run(small_rig(), 700, [(600.0, lambda n: n.with_pump(running=False))])
    assert r.total("coil")[-1] > 1000


def test_a_stopped_pump_shut_off_fills_itself_and_rests() -> None:
    changes = [(600.0, lambda n: n.with_tube("bore", open=False)), (604.0, lambda n: n.with_pump(running=False))]
    r = run(small_rig(), 20_000, changes)
    assert r.total("pump")[-1] == pytest.approx(101_325, rel=1e-3)
    assert r.total("coil")[-1] < 1000, "the closed system keeps its vacuum but for what its oil gives off"
    assert len(r.time) < 2000


def test_5_ml_beside_200_litres() -> None:
    net = Network(
        nodes=(Node("pump", 5e-6), Node("hose", 5e-6), Node("tank", 0.2, group="system")),
        tubes=(
            Tube(name="a", a="pump", b="hose", bore=0.01, length=0.1),
            Tube(name="b", a="hose", b="tank", bore=0.008, length=1.0),
        ),
        pumps=(Pump(node="pump", speed=3e-3, ultimate=1.0),),
    )
    r = run(net, 7200)
    assert r.total("tank")[-1] < 10
    assert len(r.time) < 600


@pytest.mark.parametrize(
    ("build", "says"),
    [
        (lambda: Network(nodes=(Node("a", 1e-3), Node("a", 1e-3))), "network-same-name"),
        (lambda: Network(nodes=(Node("a", 0.0),)), "network-volume"),
        (
            lambda: Network(nodes=(Node("a", 1e-3),), tubes=(Tube(name="t", a="a", b="z", bore=0.01, length=1),)),
            "network-joins-nothing",
        ),
        (
            lambda: Network(
                nodes=(Node("a", 1e-3),), tubes=(Tube(name="t", a="a", b="atmosphere", bore=0.0, length=1),)
            ),
            "network-no-bore",
        ),
        (
            lambda: Network(nodes=(Node("a", 1e-3),), pumps=(Pump(node="b", speed=1e-3, ultimate=1),)),
            "network-placed-nowhere",
        ),
    ],
)
def test_impossible_networks_say_why(build, says: str) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(NetworkError, match=says):
        build()


def test_running_out_of_steps_is_said() -> None:
    net = small_rig()
    with pytest.raises(EngineError, match="too many steps"):
        advance(compile_network(net), initial_state(net), 1e4, max_steps=5)


def test_connected_follows_open_valves_only() -> None:
    net = small_rig()
    assert net.connected("coil") == {"pump", "hose", "coil", "line"}
    assert net.with_tube("bore", open=False).connected("coil") == {"coil", "line"}
    with pytest.raises(NetworkError, match="network-unknown"):
        net.with_tube("nothing", open=False)
