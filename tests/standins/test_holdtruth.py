"""What really is in a hold: rates against V dp/dt, and right verdicts over the whole range of what can be."""

from __future__ import annotations

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import Gas, Leak, Network, Node, Outgassing, Tube
from rough_draw.core.engine.simulate import initial_state
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.standins.practice.hold_truth import AHEAD, NEVER, SLOW, HoldTruth, hold_truth

LIMIT = 500 * MICRON_PA


def held(leaks: tuple[Leak, ...] = (), hose: float = 0.0, shut: bool = False) -> HoldTruth:
    """Ten litres of system with a little rig on them, isolated at 10 Pa of air."""
    net = Network(
        nodes=(Node("system.a", 8e-3, group="system"), Node("system.b", 2e-3, group="system"), Node("hose.a", 1e-4)),
        tubes=(
            Tube(name="ab", a="system.a", b="system.b", bore=8e-3, length=0.1, open=not shut),
            Tube(name="ah", a="system.a", b="hose.a", bore=8e-3, length=0.1),
        ),
        leaks=leaks,
        outgassing=(Outgassing(node="hose.a", gas=Gas.AIR, steady=hose),) if hose else (),
        initial=dict.fromkeys(("system.a", "system.b", "hose.a"), (10.0, 0.0, 0.0)),
    )
    must = frozenset({"system.a", "system.b"})
    return hold_truth(compile_network(net), initial_state(net), "system.a", must, 10.0)


@pytest.mark.parametrize("micron_s", [0.05, 0.3, 2.0, 40.0])
def test_a_leaks_rate_is_its_throughput_over_the_volume(micron_s: float) -> None:
    volume = 8e-3 + 2e-3 + 1e-4
    q = micron_s * MICRON_PA * volume
    truth = held((Leak("system.b", q),))
    assert truth.leak == pytest.approx(micron_s, rel=1e-6)
    assert truth.rig == 0.0
    assert truth.verdicts(LIMIT) == (("leak",) if micron_s > SLOW else ("tight",))


def test_what_the_rig_lets_in_is_not_the_systems() -> None:
    volume = 8e-3 + 2e-3 + 1e-4
    q = 3.0 * MICRON_PA * volume
    seat, hose = held((Leak("hose.a", q, name="seat"),)), held(hose=q)
    assert seat.rig == pytest.approx(3.0)
    assert hose.rig == pytest.approx(3.0)
    assert seat.leak == hose.leak == 0.0
    assert seat.verdicts(LIMIT) == hose.verdicts(LIMIT) == ("rig",)


def test_a_part_that_is_shut_off_is_not_held() -> None:
    truth = held(shut=True)
    assert not truth.covers
    assert truth.verdicts(LIMIT) == ("not-judged",)


TRUTHS = st.builds(
    HoldTruth,
    leak=st.floats(0, 50),
    rig=st.floats(0, 50),
    water=st.floats(0, 2e4),
    refrigerant=st.floats(0, 2e4),
    covers=st.just(True),
    highest=st.floats(1, 1e5),
)


@given(TRUTHS)
@example(HoldTruth(leak=0.0, rig=0.0, water=0.0, refrigerant=251.0, covers=True, highest=1.0))
@example(HoldTruth(leak=0.0, rig=0.0, water=0.0, refrigerant=501.0, covers=True, highest=1.0))
def test_there_is_one_right_verdict_and_dry_enough_may_stand_beside_it(truth: HoldTruth) -> None:
    found, *also = truth.verdicts(LIMIT)
    if also:
        assert also == ["tight"]
        assert found in ("moisture", "refrigerant")
        assert max((truth.water + truth.refrigerant) * MICRON_PA, truth.highest) <= LIMIT
    whole = AHEAD * (truth.leak + truth.rig) + truth.water + truth.refrigerant
    if truth.highest > NEVER:
        assert found == "not-judged"
    elif found == "tight":
        assert truth.leak <= SLOW or AHEAD * truth.leak <= 0.1 * whole
        assert truth.highest <= LIMIT
    elif found in ("leak", "both"):
        assert truth.leak > SLOW


@given(TRUTHS)
def test_a_leak_worth_naming_is_not_covered_by_what_boils(truth: HoldTruth) -> None:
    whole = AHEAD * (truth.leak + truth.rig) + truth.water + truth.refrigerant
    if truth.highest <= NEVER and truth.leak > max(SLOW, truth.rig) and AHEAD * truth.leak > 0.101 * whole:
        assert truth.verdicts(LIMIT)[0] in ("leak", "both")


@given(TRUTHS, st.floats(1.5, 100))
@example(HoldTruth(leak=1.0, rig=0.0, water=401.0, refrigerant=2401.0, covers=True, highest=1.0), 2.0)
def test_a_larger_leak_never_makes_it_tight(truth: HoldTruth, factor: float) -> None:
    from dataclasses import replace

    if truth.verdicts(LIMIT)[0] in ("leak", "both"):
        worse = replace(truth, leak=truth.leak * factor)
        assert worse.verdicts(LIMIT)[0] in ("leak", "both")
