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
            "open:tool-a",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "open:tool-a",
        ),
        "oil-change": (
            "shut:tool-a",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
        ),
    },
    "one-hose-valved-gauge": {
        "draw": (
            "open:tool-a",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "open:tool-a",
        ),
        "oil-change": (
            "shut:tool-a",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
        ),
    },
    "single-port": {
        "draw": (
            "open:tool-a",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "open:tool-a",
        ),
        "oil-change": (
            "shut:tool-a",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
        ),
    },
    "two-hoses": {
        "draw": (
            "open:tool-a",
            "open:tool-b",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "shut:tool-b",
            "open:tool-a",
            "open:tool-b",
        ),
        "oil-change": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
            "open:tool-b",
        ),
    },
    "three-tools": {
        "draw": (
            "open:tool-a",
            "open:tool-b",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "shut:tool-b",
            "open:tool-a",
            "open:tool-b",
        ),
        "oil-change": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
            "open:tool-b",
        ),
    },
    "four-port-sensor": {
        "draw": (
            "open:tool-a",
            "open:tool-b",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:manifold.vacuum",
            "! hoses-in-hold",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:manifold.vacuum",
            "! hoses-in-hold",
            "open:manifold.vacuum",
        ),
        "oil-change": (
            "shut:manifold.vacuum",
            "! hoses-in-hold",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:manifold.vacuum",
        ),
    },
    "four-port-tool-gauge": {
        "draw": (
            "open:tool-a",
            "open:tool-b",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "shut:tool-b",
            "open:tool-a",
            "open:tool-b",
        ),
        "oil-change": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
            "open:tool-b",
        ),
    },
    "four-port-as-tee": {
        "draw": (
            "open:tool-a",
            "open:tool-b",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "shut:tool-b",
            "open:tool-a",
            "open:tool-b",
        ),
        "oil-change": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
            "open:tool-b",
        ),
    },
    "two-valve": {
        "draw": (
            "open:tool-a",
            "open:tool-b",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "shut:tool-b",
            "open:tool-a",
            "open:tool-b",
        ),
        "oil-change": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
            "open:tool-b",
        ),
    },
    "quarter-hoses": {
        "draw": (
            "open:tool-a",
            "open:tool-b",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "shut:tool-b",
            "open:tool-a",
            "open:tool-b",
        ),
        "oil-change": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
            "open:tool-b",
        ),
    },
    "cylinder-ready": {
        "draw": (
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:manifold.vacuum",
            "! hoses-in-hold",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:manifold.vacuum",
            "! hoses-in-hold",
            "open:manifold.vacuum",
        ),
        "oil-change": (
            "shut:manifold.vacuum",
            "! hoses-in-hold",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:manifold.vacuum",
        ),
    },
    "low-side-dial": {
        "draw": (
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:manifold.low",
            "! hoses-in-hold",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:manifold.low",
            "! hoses-in-hold",
            "open:manifold.low",
        ),
        "oil-change": (
            "shut:manifold.low",
            "! hoses-in-hold",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:manifold.low",
        ),
    },
    "pump-on-high": {
        "draw": (
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:manifold.high",
            "! hoses-in-hold",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:manifold.high",
            "! hoses-in-hold",
            "open:manifold.high",
        ),
        "oil-change": (
            "shut:manifold.high",
            "! hoses-in-hold",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:manifold.high",
        ),
    },
    "far-gauge": {
        "draw": (
            "open:tool-a",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "open:tool-a",
        ),
        "oil-change": (
            "shut:tool-a",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
        ),
    },
    "commercial": {
        "draw": (
            "open:tool-a",
            "open:tool-b",
            "ballast-open",
            "pump-on",
        ),
        "hold": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
        ),
        "check-hold": (
            "shut:tool-a",
            "shut:tool-b",
            "open:tool-a",
            "open:tool-b",
        ),
        "oil-change": (
            "shut:tool-a",
            "shut:tool-b",
            "pump-off",
            "vent-pump",
            "oil-change",
            "pump-on",
            "open:tool-a",
            "open:tool-b",
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
        lines.append(step.key)
        lines += [f"! {c.key}" for c in step.care]
    assert tuple(lines) == ORDERS[pattern][goal]
