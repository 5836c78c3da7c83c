"""Nobody is passed for idling, guessing or giving up: a hand of middling skill that does the work stands above them."""

from __future__ import annotations

import random

import pytest

from bench.plays import cheats, middling, score
from rough_draw.core.practice.scenario import Scenario
from rough_draw.scenarios.generator import make
from rough_draw.scenarios.handmade import by_hand
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice.expert import expert
from tests.depth import first

PASSES = 60.0
"""The whole from which somebody would say that it was done."""
PICKED = (
    "a-dry-line-set",
    "six-hundred-and-no-lower",
    "the-gauge-never-wakes-up",
    "it-holds-but-not-quite",
    "the-pan-ran-over",
)
"""Each of another kind; every scenario is played by `python -m bench.plays`."""


@pytest.mark.parametrize(
    "scenario", first(1, [*(s for s in by_hand() if s.key in PICKED), make(7, 3)]), ids=lambda s: s.key or s.title
)
def test_leaving_the_work_out_never_beats_doing_it(scenario: Scenario) -> None:
    theirs, best = expert(scenario, VAN)
    hand = score(middling(scenario, VAN, best), theirs, best)
    for how, bay in cheats(scenario, VAN, best, random.Random(scenario.key), 4):
        found = score(bay, theirs, best)
        assert found <= hand, (how, found, hand)
        assert found < PASSES, (how, found)
