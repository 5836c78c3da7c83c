"""The release of every pattern by the unit's own charge, read through by hand."""

from __future__ import annotations

import pytest

from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.orders import full_order
from rough_draw.core.sheet.setups import PATTERNS
from tests.builders import told_order, usual_job

# "!" stands before a caution of the step before it that no order of steps avoids.
BY_THE_UNIT: dict[str, dict[GoalKey, str]] = {
    "one-hose-bare-gauge": {
        "release-unit": (
            "crack:system.suction-service ! gauge-fouled see-pressure open:system.suction-service "
            "stem-cap:system.suction-service open:system.liquid-service stem-cap:system.liquid-service "
            "take-off:hose-a put-on:tool-a.plunger open:tool-a core-in:suction take-off:tool-a cap:suction "
            "check-port:suction take-off:gauge cap:liquid check-port:liquid pump-care"
        ),
    },
    "one-hose-valved-gauge": {
        "release-unit": (
            "shut:tool-b crack:system.suction-service see-pressure open:system.suction-service "
            "stem-cap:system.suction-service open:system.liquid-service stem-cap:system.liquid-service "
            "take-off:hose-a put-on:tool-a.plunger open:tool-a core-in:suction take-off:tool-a cap:suction "
            "check-port:suction take-off:gauge put-on:tool-b.plunger open:tool-b core-in:liquid take-off:tool-b "
            "cap:liquid check-port:liquid pump-care"
        ),
    },
    "single-port": {
        "release-unit": (
            "shut:tool-b crack:system.suction-service see-pressure open:system.suction-service "
            "stem-cap:system.suction-service open:system.liquid-service stem-cap:system.liquid-service "
            "take-off:hose-a put-on:tool-a.plunger open:tool-a core-in:suction take-off:gauge take-off:tool-a "
            "cap:suction check-port:suction pump-care"
        ),
    },
    "two-hoses": {
        "release-unit": (
            "crack:system.suction-service ! gauge-fouled see-pressure open:system.suction-service "
            "stem-cap:system.suction-service open:system.liquid-service stem-cap:system.liquid-service "
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-in:liquid take-off:gauge take-off:tool-b "
            "cap:liquid check-port:liquid take-off:hose-a put-on:tool-a.plunger open:tool-a core-in:suction "
            "take-off:tool-a cap:suction check-port:suction pump-care"
        ),
    },
    "three-tools": {
        "release-unit": (
            "shut:tool-c crack:system.suction-service see-pressure open:system.suction-service "
            "stem-cap:system.suction-service open:system.liquid-service stem-cap:system.liquid-service "
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-in:liquid take-off:gauge take-off:tool-b "
            "cap:liquid check-port:liquid take-off:hose-a put-on:tool-a.plunger open:tool-a core-in:suction "
            "take-off:tool-a cap:suction check-port:suction pump-care"
        ),
    },
    "four-port-sensor": {
        "release-unit": (
            "shut:manifold.high shut:manifold.low shut:tool-a shut:tool-b crack:system.suction-service "
            "see-pressure open:system.suction-service stem-cap:system.suction-service open:system.liquid-service "
            "stem-cap:system.liquid-service take-off:hose-b put-on:tool-b.plunger open:tool-b core-in:liquid "
            "take-off:tool-b cap:liquid check-port:liquid take-off:hose-a put-on:tool-a.plunger open:tool-a "
            "core-in:suction take-off:tool-a cap:suction check-port:suction pump-care"
        ),
    },
    "four-port-tool-gauge": {
        "release-unit": (
            "shut:manifold.high shut:manifold.low shut:manifold.vacuum crack:system.suction-service ! "
            "gauge-fouled see-pressure open:system.suction-service stem-cap:system.suction-service "
            "open:system.liquid-service stem-cap:system.liquid-service take-off:hose-b put-on:tool-b.plunger "
            "open:tool-b core-in:liquid take-off:tool-b cap:liquid check-port:liquid take-off:hose-a "
            "put-on:tool-a.plunger open:tool-a core-in:suction take-off:gauge take-off:tool-a cap:suction "
            "check-port:suction pump-care"
        ),
    },
    "four-port-as-tee": {
        "release-unit": (
            "shut:manifold.high shut:manifold.low shut:manifold.vacuum shut:tool-c crack:system.suction-service "
            "see-pressure open:system.suction-service stem-cap:system.suction-service open:system.liquid-service "
            "stem-cap:system.liquid-service take-off:hose-b put-on:tool-b.plunger open:tool-b core-in:liquid "
            "take-off:gauge take-off:tool-b cap:liquid check-port:liquid take-off:hose-a put-on:tool-a.plunger "
            "open:tool-a core-in:suction take-off:tool-a cap:suction check-port:suction pump-care"
        ),
    },
    "two-valve": {
        "release-unit": (
            "shut:manifold.high shut:manifold.low crack:system.suction-service ! gauge-fouled see-pressure "
            "open:system.suction-service stem-cap:system.suction-service open:system.liquid-service "
            "stem-cap:system.liquid-service take-off:hose-b put-on:tool-b.plunger open:tool-b core-in:liquid "
            "take-off:gauge take-off:tool-b cap:liquid check-port:liquid take-off:hose-a put-on:tool-a.plunger "
            "open:tool-a core-in:suction take-off:tool-a cap:suction check-port:suction pump-care"
        ),
    },
    "quarter-hoses": {
        "release-unit": (
            "crack:system.suction-service ! gauge-fouled see-pressure open:system.suction-service "
            "stem-cap:system.suction-service open:system.liquid-service stem-cap:system.liquid-service "
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-in:liquid take-off:gauge take-off:tool-b "
            "cap:liquid check-port:liquid take-off:hose-a put-on:tool-a.plunger open:tool-a core-in:suction "
            "take-off:tool-a cap:suction check-port:suction pump-care"
        ),
    },
    "cylinder-ready": {
        "release-unit": (
            "shut:hose-a shut:hose-b shut:hose-c shut:manifold.high shut:manifold.low "
            "crack:system.suction-service see-pressure open:system.suction-service "
            "stem-cap:system.suction-service open:system.liquid-service stem-cap:system.liquid-service "
            "take-off:hose-b cap:liquid check-port:liquid take-off:hose-a cap:suction check-port:suction "
            "pump-care"
        ),
    },
    "low-side-dial": {
        "release-unit": (
            "crack:system.suction-service see-pressure open:system.suction-service "
            "stem-cap:system.suction-service open:system.liquid-service stem-cap:system.liquid-service "
            "take-off:hose-a cap:suction check-port:suction pump-care"
        ),
    },
    "pump-on-high": {
        "release-unit": (
            "shut:manifold.low crack:system.suction-service ! gauge-fouled see-pressure take-off:hose-b "
            "open:system.suction-service stem-cap:system.suction-service open:system.liquid-service "
            "stem-cap:system.liquid-service cap:liquid check-port:liquid take-off:hose-a cap:suction "
            "check-port:suction pump-care"
        ),
    },
    "far-gauge": {
        "release-unit": (
            "shut:tool-b crack:system.suction-service see-pressure open:system.suction-service "
            "stem-cap:system.suction-service open:system.liquid-service stem-cap:system.liquid-service "
            "take-off:hose-a put-on:tool-a.plunger open:tool-a core-in:suction take-off:tool-a cap:suction "
            "check-port:suction take-off:gauge put-on:tool-b.plunger open:tool-b core-in:liquid take-off:tool-b "
            "cap:liquid check-port:liquid pump-care"
        ),
    },
    "commercial": {
        "release-unit": "missing:kept-charge",
    },
}


def test_the_table_names_every_pattern() -> None:
    assert set(BY_THE_UNIT) == set(PATTERNS)


@pytest.mark.parametrize(("pattern", "goal"), [(p, g) for p, by_goal in BY_THE_UNIT.items() for g in by_goal])
def test_the_order_on_a_pattern(pattern: str, goal: GoalKey) -> None:
    found = full_order(usual_job(pattern), goal)
    assert all(s.why for s in found.steps)
    assert told_order(found) == BY_THE_UNIT[pattern][goal]
