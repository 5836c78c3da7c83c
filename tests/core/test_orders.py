"""Beginning the draw, holding, and changing the oil on every pattern: the derived orders, read through by hand."""

from __future__ import annotations

import pytest

from rough_draw.core.interlock.goals import GoalKey
from rough_draw.core.interlock.orders import order
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from tests.builders import scope

# A line that begins with "!" is a caution of the step before it that no order of touches avoids.
ORDERS: dict[str, dict[GoalKey, tuple[str, ...]]] = {
    "one-hose-bare-gauge": {
        "draw": (
            "Open the tool at the suction port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Open the tool at the suction port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
        ),
    },
    "one-hose-valved-gauge": {
        "draw": (
            "Open the tool at the suction port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Open the tool at the suction port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
        ),
    },
    "single-port": {
        "draw": (
            "Open the tool at the suction port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Open the tool at the suction port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
        ),
    },
    "two-hoses": {
        "draw": (
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
    },
    "three-tools": {
        "draw": (
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
    },
    "four-port-sensor": {
        "draw": (
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the manifold's vacuum valve",
            "! 3 m of hose stay in what is held",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the manifold's vacuum valve",
            "! 3 m of hose stay in what is held",
            "Open the manifold's vacuum valve",
        ),
        "oil-change": (
            "Shut the manifold's vacuum valve",
            "! 3 m of hose stay in what is held",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the manifold's vacuum valve",
        ),
    },
    "four-port-tool-gauge": {
        "draw": (
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
    },
    "four-port-as-tee": {
        "draw": (
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
    },
    "two-valve": {
        "draw": (
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
    },
    "quarter-hoses": {
        "draw": (
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Shut the tool at the liquid port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
            "Open the tool at the liquid port",
        ),
    },
    "cylinder-ready": {
        "draw": (
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the manifold's vacuum valve",
            "! 4.5 m of hose stay in what is held",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the manifold's vacuum valve",
            "! 4.5 m of hose stay in what is held",
            "Open the manifold's vacuum valve",
        ),
        "oil-change": (
            "Shut the manifold's vacuum valve",
            "! 4.5 m of hose stay in what is held",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the manifold's vacuum valve",
        ),
    },
    "low-side-dial": {
        "draw": (
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the manifold's low valve",
            "! 1.5 m of hose stay in what is held",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the manifold's low valve",
            "! 1.5 m of hose stay in what is held",
            "Open the manifold's low valve",
        ),
        "oil-change": (
            "Shut the manifold's low valve",
            "! 1.5 m of hose stay in what is held",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the manifold's low valve",
        ),
    },
    "pump-on-high": {
        "draw": (
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the manifold's high valve",
            "! 3 m of hose stay in what is held",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the manifold's high valve",
            "! 3 m of hose stay in what is held",
            "Open the manifold's high valve",
        ),
        "oil-change": (
            "Shut the manifold's high valve",
            "! 3 m of hose stay in what is held",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the manifold's high valve",
        ),
    },
    "far-gauge": {
        "draw": (
            "Open the tool at the suction port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Open the tool at the suction port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
        ),
    },
    "commercial": {
        "draw": (
            "Open the tool at the suction port",
            "Open the tool at the discharge port",
            "Open the ballast",
            "Start the pump",
        ),
        "hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the discharge port",
            "Stop the pump",
            "Let air in at the pump",
        ),
        "check-hold": (
            "Shut the tool at the suction port",
            "Shut the tool at the discharge port",
            "Open the tool at the suction port",
            "Open the tool at the discharge port",
        ),
        "oil-change": (
            "Shut the tool at the suction port",
            "Shut the tool at the discharge port",
            "Stop the pump",
            "Let air in at the pump",
            "Change the oil",
            "Start the pump",
            "Open the tool at the suction port",
            "Open the tool at the discharge port",
        ),
    },
}


def test_the_table_names_every_pattern() -> None:
    assert set(ORDERS) == set(PATTERNS)


@pytest.mark.parametrize(("pattern", "goal"), [(p, g) for p, by_goal in ORDERS.items() for g in by_goal])
def test_the_order_on_a_pattern(pattern: str, goal: GoalKey) -> None:
    on = scope("cooler", opened=True)
    if not fits(pattern, on):
        on = scope("chiller", opened=True)
    lines = []
    for step in order(Job(scope=on, rig=rig_from(pattern, on)), goal):
        assert step.why
        lines.append(step.title)
        lines += [f"! {c.split('. ')[0]}" for c in step.care]
    assert tuple(lines) == ORDERS[pattern][goal]
