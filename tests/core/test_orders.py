"""The orders before a release on every pattern, read through by hand."""

from __future__ import annotations

import pytest

from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.orders import full_order
from rough_draw.core.sheet.setups import PATTERNS
from tests.builders import told_order, usual_job

# "!" stands before a caution of the step before it that no order of steps avoids.
ORDERS: dict[str, dict[GoalKey, str]] = {
    "one-hose-bare-gauge": {
        "rig-up": "put-on:gauge put-on:tool-a shut:tool-a put-on:hose-a",
        "cores-out": (
            "take-off:hose-a put-on:tool-a.plunger open:tool-a core-out:suction shut:tool-a "
            "take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:tool-a",
        "hold": "shut:tool-a shut:pump pump-off",
        "check-hold": "shut:tool-a open:tool-a",
        "retest": "pump-on open:pump open:tool-a read-target shut:tool-a shut:pump pump-off",
        "oil-change": "shut:tool-a shut:pump pump-off oil-change pump-on open:pump open:tool-a",
        "swap-hose": "shut:tool-a vent-pump pump-off take-off:hose-a put-on:hose-a pump-on open:tool-a",
        "end-cylinder": (
            "shut:tool-a vent-pump pump-off take-off:gauge ! not-seen cap:liquid take-off:hose-a cap:suction tag "
            "pump-care"
        ),
    },
    "one-hose-valved-gauge": {
        "rig-up": "put-on:tool-b put-on:gauge put-on:tool-a shut:tool-a put-on:hose-a",
        "cores-out": (
            "take-off:gauge put-on:tool-b.plunger open:tool-b core-out:liquid shut:tool-b take-off:tool-b.plunger "
            "put-on:gauge take-off:hose-a put-on:tool-a.plunger open:tool-a core-out:suction shut:tool-a "
            "take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:tool-a",
        "hold": "shut:tool-a shut:pump pump-off",
        "check-hold": "shut:tool-a open:tool-a",
        "retest": "pump-on open:pump open:tool-a read-target shut:tool-a shut:pump pump-off",
        "oil-change": "shut:tool-a shut:pump pump-off oil-change pump-on open:pump open:tool-a",
        "swap-hose": "shut:tool-a vent-pump pump-off take-off:hose-a put-on:hose-a pump-on open:tool-a",
        "end-cylinder": (
            "shut:tool-a vent-pump pump-off shut:tool-b take-off:gauge cap:liquid take-off:hose-a cap:suction tag "
            "pump-care"
        ),
    },
    "single-port": {
        "rig-up": "put-on:tool-a shut:tool-a put-on:tool-b put-on:gauge put-on:hose-a",
        "cores-out": (
            "take-off:hose-a put-on:tool-a.plunger open:tool-a core-out:suction shut:tool-a "
            "take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:tool-a",
        "hold": "shut:tool-a shut:pump pump-off",
        "check-hold": "shut:tool-a open:tool-a",
        "retest": "pump-on open:pump open:tool-a read-target shut:tool-a shut:pump pump-off",
        "oil-change": "shut:tool-a shut:pump pump-off oil-change pump-on open:pump open:tool-a",
        "swap-hose": "shut:tool-a vent-pump pump-off take-off:hose-a put-on:hose-a pump-on open:tool-a",
        "end-cylinder": "shut:tool-a vent-pump pump-off take-off:hose-a cap:suction tag pump-care",
    },
    "two-hoses": {
        "rig-up": (
            "put-on:tool-b shut:tool-b put-on:gauge put-on:tool-a shut:tool-a put-on:hose-b put-on:tee put-on:hose-a"
        ),
        "cores-out": (
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-out:liquid shut:tool-b "
            "take-off:tool-b.plunger put-on:hose-b take-off:hose-a put-on:tool-a.plunger open:tool-a "
            "core-out:suction shut:tool-a take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:tool-a open:tool-b",
        "hold": "shut:tool-a shut:tool-b shut:pump pump-off",
        "check-hold": "shut:tool-a shut:tool-b open:tool-a open:tool-b",
        "retest": ("pump-on open:pump open:tool-a open:tool-b read-target shut:tool-a shut:tool-b shut:pump pump-off"),
        "oil-change": (
            "shut:tool-a shut:tool-b shut:pump pump-off oil-change pump-on open:pump open:tool-a open:tool-b"
        ),
        "swap-hose": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-a put-on:hose-a pump-on open:tool-a open:tool-b"
        ),
        "end-cylinder": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-b cap:liquid take-off:hose-a cap:suction "
            "tag pump-care"
        ),
    },
    "three-tools": {
        "rig-up": (
            "put-on:tool-b shut:tool-b put-on:tool-c put-on:gauge put-on:tool-a shut:tool-a put-on:hose-b "
            "put-on:tee put-on:hose-a"
        ),
        "cores-out": (
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-out:liquid shut:tool-b "
            "take-off:tool-b.plunger put-on:hose-b take-off:hose-a put-on:tool-a.plunger open:tool-a "
            "core-out:suction shut:tool-a take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:tool-a open:tool-b",
        "hold": "shut:tool-a shut:tool-b shut:pump pump-off",
        "check-hold": "shut:tool-a shut:tool-b open:tool-a open:tool-b",
        "retest": ("pump-on open:pump open:tool-a open:tool-b read-target shut:tool-a shut:tool-b shut:pump pump-off"),
        "oil-change": (
            "shut:tool-a shut:tool-b shut:pump pump-off oil-change pump-on open:pump open:tool-a open:tool-b"
        ),
        "swap-hose": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-a put-on:hose-a pump-on open:tool-a open:tool-b"
        ),
        "end-cylinder": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-b cap:liquid take-off:hose-a cap:suction "
            "tag pump-care"
        ),
    },
    "four-port-sensor": {
        "rig-up": (
            "put-on:tool-b shut:tool-b put-on:tool-a shut:tool-a put-on:hose-b put-on:manifold put-on:hose-p "
            "put-on:hose-a put-on:gauge shut:manifold.high shut:manifold.low shut:manifold.vacuum"
        ),
        "cores-out": (
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-out:liquid shut:tool-b "
            "take-off:tool-b.plunger put-on:hose-b take-off:hose-a put-on:tool-a.plunger open:tool-a "
            "core-out:suction shut:tool-a take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on open:manifold.vacuum open:manifold.low open:manifold.high read-floor",
        "draw": (
            "ballast-open pump-on open:manifold.vacuum open:manifold.low open:manifold.high read-floor "
            "open:tool-a open:tool-b"
        ),
        "hold": "shut:manifold.vacuum ! hoses-in-hold shut:pump pump-off",
        "check-hold": "shut:manifold.vacuum ! hoses-in-hold open:manifold.vacuum",
        "retest": (
            "pump-on open:pump open:manifold.vacuum read-target shut:manifold.vacuum ! hoses-in-hold shut:pump pump-off"
        ),
        "oil-change": (
            "shut:manifold.vacuum ! hoses-in-hold shut:pump pump-off oil-change pump-on open:pump open:manifold.vacuum"
        ),
        "swap-hose": (
            "shut:tool-a shut:tool-b ! gauge-outside vent-pump pump-off take-off:hose-p put-on:hose-p pump-on "
            "open:tool-a open:tool-b"
        ),
        "end-cylinder": (
            "shut:tool-a shut:tool-b ! gauge-outside vent-pump pump-off take-off:hose-b cap:liquid "
            "take-off:hose-a cap:suction tag pump-care"
        ),
    },
    "four-port-tool-gauge": {
        "rig-up": (
            "put-on:tool-b shut:tool-b put-on:tool-a shut:tool-a put-on:gauge put-on:hose-b put-on:manifold "
            "put-on:hose-p put-on:hose-a shut:manifold.high shut:manifold.low shut:manifold.vacuum"
        ),
        "cores-out": (
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-out:liquid shut:tool-b "
            "take-off:tool-b.plunger put-on:hose-b take-off:hose-a put-on:tool-a.plunger open:tool-a "
            "core-out:suction shut:tool-a take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on open:manifold.vacuum open:manifold.low open:manifold.high read-floor",
        "draw": (
            "ballast-open pump-on open:manifold.vacuum open:manifold.low open:manifold.high read-floor "
            "open:tool-a open:tool-b"
        ),
        "hold": "shut:tool-a shut:tool-b shut:pump pump-off",
        "check-hold": "shut:tool-a shut:tool-b open:tool-a open:tool-b",
        "retest": ("pump-on open:pump open:tool-a open:tool-b read-target shut:tool-a shut:tool-b shut:pump pump-off"),
        "oil-change": (
            "shut:tool-a shut:tool-b shut:pump pump-off oil-change pump-on open:pump open:tool-a open:tool-b"
        ),
        "swap-hose": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-p put-on:hose-p pump-on open:tool-a open:tool-b"
        ),
        "end-cylinder": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-b cap:liquid take-off:hose-a cap:suction "
            "tag pump-care"
        ),
    },
    "four-port-as-tee": {
        "rig-up": (
            "put-on:tool-b shut:tool-b put-on:tool-c put-on:gauge put-on:tool-a shut:tool-a put-on:hose-b "
            "put-on:manifold put-on:hose-p put-on:hose-a shut:manifold.high shut:manifold.low "
            "shut:manifold.vacuum"
        ),
        "cores-out": (
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-out:liquid shut:tool-b "
            "take-off:tool-b.plunger put-on:hose-b take-off:hose-a put-on:tool-a.plunger open:tool-a "
            "core-out:suction shut:tool-a take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on open:manifold.vacuum open:manifold.low open:manifold.high read-floor",
        "draw": (
            "ballast-open pump-on open:manifold.vacuum open:manifold.low open:manifold.high read-floor "
            "open:tool-a open:tool-b"
        ),
        "hold": "shut:tool-a shut:tool-b shut:pump pump-off",
        "check-hold": "shut:tool-a shut:tool-b open:tool-a open:tool-b",
        "retest": ("pump-on open:pump open:tool-a open:tool-b read-target shut:tool-a shut:tool-b shut:pump pump-off"),
        "oil-change": (
            "shut:tool-a shut:tool-b shut:pump pump-off oil-change pump-on open:pump open:tool-a open:tool-b"
        ),
        "swap-hose": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-p put-on:hose-p pump-on open:tool-a open:tool-b"
        ),
        "end-cylinder": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-b cap:liquid take-off:hose-a cap:suction "
            "tag pump-care"
        ),
    },
    "two-valve": {
        "rig-up": (
            "put-on:tool-b shut:tool-b put-on:gauge put-on:tool-a shut:tool-a put-on:hose-b put-on:manifold "
            "put-on:hose-p put-on:hose-a shut:manifold.high shut:manifold.low"
        ),
        "cores-out": (
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-out:liquid shut:tool-b "
            "take-off:tool-b.plunger put-on:hose-b take-off:hose-a put-on:tool-a.plunger open:tool-a "
            "core-out:suction shut:tool-a take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on open:manifold.low open:manifold.high read-floor",
        "draw": ("ballast-open pump-on open:manifold.low open:manifold.high read-floor open:tool-a open:tool-b"),
        "hold": "shut:tool-a shut:tool-b shut:pump pump-off",
        "check-hold": "shut:tool-a shut:tool-b open:tool-a open:tool-b",
        "retest": ("pump-on open:pump open:tool-a open:tool-b read-target shut:tool-a shut:tool-b shut:pump pump-off"),
        "oil-change": (
            "shut:tool-a shut:tool-b shut:pump pump-off oil-change pump-on open:pump open:tool-a open:tool-b"
        ),
        "swap-hose": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-p put-on:hose-p pump-on open:tool-a open:tool-b"
        ),
        "end-cylinder": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-b cap:liquid take-off:hose-a cap:suction "
            "tag pump-care"
        ),
    },
    "quarter-hoses": {
        "rig-up": (
            "put-on:tool-b shut:tool-b put-on:gauge put-on:tool-a shut:tool-a put-on:hose-b put-on:tee put-on:hose-a"
        ),
        "cores-out": (
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-out:liquid shut:tool-b "
            "take-off:tool-b.plunger put-on:hose-b take-off:hose-a put-on:tool-a.plunger open:tool-a "
            "core-out:suction shut:tool-a take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:tool-a open:tool-b",
        "hold": "shut:tool-a shut:tool-b shut:pump pump-off",
        "check-hold": "shut:tool-a shut:tool-b open:tool-a open:tool-b",
        "retest": ("pump-on open:pump open:tool-a open:tool-b read-target shut:tool-a shut:tool-b shut:pump pump-off"),
        "oil-change": (
            "shut:tool-a shut:tool-b shut:pump pump-off oil-change pump-on open:pump open:tool-a open:tool-b"
        ),
        "swap-hose": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-a put-on:hose-a pump-on open:tool-a open:tool-b"
        ),
        "end-cylinder": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-b cap:liquid take-off:hose-a cap:suction "
            "tag pump-care"
        ),
    },
    "cylinder-ready": {
        "rig-up": (
            "put-on:hose-b put-on:hose-a put-on:manifold put-on:hose-p put-on:hose-c put-on:cylinder put-on:gauge "
            "shut:hose-a shut:hose-b shut:hose-c shut:manifold.charge shut:manifold.high shut:manifold.low "
            "shut:manifold.vacuum"
        ),
        "cores-out": "",
        "rig-alone": "ballast-open pump-on open:manifold.vacuum open:manifold.low open:manifold.high read-floor",
        "draw": (
            "ballast-open pump-on open:manifold.vacuum open:manifold.low open:manifold.high read-floor "
            "open:hose-a open:hose-b"
        ),
        "hold": "shut:manifold.vacuum ! hoses-in-hold shut:manifold.charge shut:pump pump-off",
        "check-hold": "shut:manifold.charge shut:manifold.vacuum ! hoses-in-hold open:manifold.vacuum",
        "retest": (
            "pump-on open:pump open:manifold.vacuum read-target shut:manifold.vacuum ! hoses-in-hold shut:pump pump-off"
        ),
        "oil-change": (
            "shut:manifold.vacuum ! hoses-in-hold shut:manifold.charge shut:pump pump-off oil-change pump-on "
            "open:pump open:manifold.vacuum"
        ),
        "swap-hose": (
            "shut:hose-a shut:hose-b ! gauge-outside vent-pump pump-off take-off:hose-p put-on:hose-p pump-on "
            "open:hose-a open:hose-b"
        ),
        "end-cylinder": (
            "shut:hose-a shut:hose-b ! gauge-outside vent-pump pump-off take-off:hose-b ! not-seen cap:liquid "
            "take-off:hose-a cap:suction tag pump-care"
        ),
    },
    "low-side-dial": {
        "rig-up": "put-on:hose-a put-on:manifold put-on:hose-p shut:manifold.low",
        "cores-out": "",
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:manifold.low",
        "hold": "shut:manifold.low ! hoses-in-hold shut:pump pump-off",
        "check-hold": "shut:manifold.low ! hoses-in-hold open:manifold.low",
        "retest": (
            "pump-on open:pump open:manifold.low read-target shut:manifold.low ! hoses-in-hold shut:pump pump-off"
        ),
        "oil-change": (
            "shut:manifold.low ! hoses-in-hold shut:pump pump-off oil-change pump-on open:pump open:manifold.low"
        ),
        "swap-hose": (
            "shut:manifold.low ! hoses-in-hold vent-pump pump-off take-off:hose-p put-on:hose-p pump-on "
            "open:manifold.low"
        ),
        "end-cylinder": (
            "shut:manifold.low ! hoses-in-hold vent-pump pump-off take-off:hose-a ! not-seen cap:suction tag pump-care"
        ),
    },
    "pump-on-high": {
        "rig-up": (
            "put-on:hose-b put-on:hose-a put-on:manifold put-on:hose-p put-on:gauge shut:manifold.high "
            "shut:manifold.low"
        ),
        "cores-out": "",
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:manifold.high open:manifold.low",
        "hold": "shut:manifold.high ! hoses-in-hold shut:pump pump-off",
        "check-hold": "shut:manifold.high ! hoses-in-hold open:manifold.high",
        "retest": (
            "pump-on open:pump open:manifold.high read-target shut:manifold.high ! hoses-in-hold shut:pump pump-off"
        ),
        "oil-change": (
            "shut:manifold.high ! hoses-in-hold shut:pump pump-off oil-change pump-on open:pump open:manifold.high"
        ),
        "swap-hose": (
            "shut:manifold.high ! hoses-in-hold vent-pump pump-off take-off:hose-p put-on:hose-p pump-on "
            "open:manifold.high"
        ),
        "end-cylinder": (
            "shut:manifold.low shut:manifold.high ! hoses-in-hold vent-pump pump-off take-off:hose-b ! not-seen "
            "cap:liquid take-off:hose-a cap:suction tag pump-care"
        ),
    },
    "far-gauge": {
        "rig-up": "put-on:tool-b put-on:gauge put-on:tool-a shut:tool-a put-on:hose-a",
        "cores-out": (
            "take-off:gauge put-on:tool-b.plunger open:tool-b core-out:liquid shut:tool-b take-off:tool-b.plunger "
            "put-on:gauge take-off:hose-a put-on:tool-a.plunger open:tool-a core-out:suction shut:tool-a "
            "take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:tool-a",
        "hold": "shut:tool-a shut:pump pump-off",
        "check-hold": "shut:tool-a open:tool-a",
        "retest": "pump-on open:pump open:tool-a read-target shut:tool-a shut:pump pump-off",
        "oil-change": "shut:tool-a shut:pump pump-off oil-change pump-on open:pump open:tool-a",
        "swap-hose": "shut:tool-a vent-pump pump-off take-off:hose-a put-on:hose-a pump-on open:tool-a",
        "end-cylinder": (
            "shut:tool-a vent-pump pump-off shut:tool-b take-off:gauge cap:liquid take-off:hose-a cap:suction tag "
            "pump-care"
        ),
    },
    "commercial": {
        "rig-up": (
            "put-on:tool-b shut:tool-b put-on:tool-c put-on:gauge put-on:tool-a shut:tool-a put-on:hose-b "
            "put-on:tee put-on:hose-a"
        ),
        "cores-out": (
            "take-off:hose-b put-on:tool-b.plunger open:tool-b core-out:discharge shut:tool-b "
            "take-off:tool-b.plunger put-on:hose-b take-off:gauge put-on:tool-c.plunger open:tool-c "
            "core-out:liquid shut:tool-c take-off:tool-c.plunger put-on:gauge take-off:hose-a "
            "put-on:tool-a.plunger open:tool-a core-out:suction shut:tool-a take-off:tool-a.plunger put-on:hose-a"
        ),
        "rig-alone": "ballast-open pump-on read-floor",
        "draw": "ballast-open pump-on read-floor open:tool-a open:tool-b",
        "hold": "shut:tool-a shut:tool-b shut:pump pump-off",
        "check-hold": "shut:tool-a shut:tool-b open:tool-a open:tool-b",
        "retest": ("pump-on open:pump open:tool-a open:tool-b read-target shut:tool-a shut:tool-b shut:pump pump-off"),
        "oil-change": (
            "shut:tool-a shut:tool-b shut:pump pump-off oil-change pump-on open:pump open:tool-a open:tool-b"
        ),
        "swap-hose": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-a put-on:hose-a pump-on open:tool-a open:tool-b"
        ),
        "end-cylinder": (
            "shut:tool-a shut:tool-b vent-pump pump-off take-off:hose-b cap:discharge shut:tool-c take-off:gauge "
            "cap:liquid take-off:hose-a cap:suction tag pump-care"
        ),
    },
}


def test_the_table_names_every_pattern() -> None:
    assert set(ORDERS) == set(PATTERNS)


@pytest.mark.parametrize(("pattern", "goal"), [(p, g) for p, by_goal in ORDERS.items() for g in by_goal])
def test_the_order_on_a_pattern(pattern: str, goal: GoalKey) -> None:
    found = full_order(usual_job(pattern), goal)
    assert all(s.why for s in found.steps)
    assert told_order(found) == ORDERS[pattern][goal]
