"""Any hands at all in the bay: nothing breaks, nothing turns up from nowhere, and it can be played again."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.core.practice.rig_choice import RigChoice
from rough_draw.scenarios.handmade import by_hand
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice.bay import Bay, played
from rough_draw.standins.practice.offers import groups
from rough_draw.standins.practice.session_log import CannotDo
from tests.depth import drawn

HAND = {s.key: s for s in by_hand()}
SOME = [
    "it-stops-over-a-thousand",
    "six-hundred-and-no-lower",
    "four-thousand-six-hundred",
    "alarm-in-a-fifth-of-a-litre",
    "the-freezer-on-the-quay",
    "put-your-own-rig-on",
]
CHOICE = RigChoice(pattern="three-tools", parts={"pump": 1, "hose-a": 5, "hose-b": 4, "gauge": 16})


@settings(max_examples=drawn(8))
@given(
    st.sampled_from(SOME),
    st.lists(st.tuples(st.integers(0, 10**6), st.floats(0, 200)), min_size=1, max_size=10),
)
def test_any_hands_in_any_order(name: str, picks: list[tuple[int, float]]) -> None:
    b = Bay(HAND[name], VAN)
    least = 0.0
    for pick, wait in picks:
        offered = [d.kind for g in groups(b) for d in g.deeds] + ["rig:three-tools", "verdict:leak", "cause:ballast"]
        kind = offered[pick % len(offered)]
        before, was_charged = b.time, b.charged
        minutes = b.minutes(kind) if kind != "nitrogen:sweep" or b.rigged else 0.0
        try:
            done = b.do(kind, CHOICE if kind.startswith("rig:") else None)
        except CannotDo:
            assert b.time == before, "what cannot be done takes no time"
            continue
        assert b.time == pytest.approx(before + 60 * minutes)
        assert done.words
        b.advance(b.time + wait)
        if not b.charged:
            pressures = [b.pressure(n.name) for n in b._compiled.network.nodes]
            assert all(math.isfinite(p) and p >= 0 for p in pressures)
            assert max(pressures) < 1.2e5, "nothing over the atmosphere without a charge"
        assert not (was_charged and not b.charged), "a charge does not go back by itself"
        assert b.time >= least
        least = b.time
    track = b.track
    assert len(track.at) == len(track.shown) == len(track.true) == len(track.highest)
    assert track.at == sorted(track.at)
    again = played(b.scenario, VAN, [(d.at, d.kind, d.choice) for d in b.done if not d.before])
    again.advance(b.time)
    n = len(track.at)
    assert again.track.at[:n] == track.at
    for one, two in zip(again.track.highest[:n], track.highest, strict=True):
        assert one == two or (math.isnan(one) and math.isnan(two))
