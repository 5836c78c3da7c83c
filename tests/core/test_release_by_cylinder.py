"""The release of every pattern by a cylinder, a charging hose in the van, read through by hand."""

from __future__ import annotations

import pytest

from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.orders import full_order
from rough_draw.core.sheet.setups import PATTERNS
from tests.builders import told_order, usual_job

# "!" stands before a caution of the step before it that no order of steps avoids.
BY_CYLINDER: dict[str, dict[GoalKey, str]] = {
    "one-hose-bare-gauge": {
        "release-cylinder": (
            "take-off:hose-a put-on:charging-hose cylinder purge:cylinder zero-scale:cylinder open:cylinder "
            "open:tool-a ! suction-only ! gauge-fouled weigh-in:cylinder see-pressure shut:cylinder shut:tool-a "
            "open:system.suction-service open:system.liquid-service start open:tool-a~2 open:cylinder~2 ! "
            "throttle trim:cylinder shut:cylinder~2 empty-hose:cylinder shut:tool-a~2 "
            "stem-cap:system.suction-service stem-cap:system.liquid-service take-off:charging-hose "
            "put-on:tool-a.plunger open:tool-a~3 core-in:suction take-off:tool-a cap:suction check-port:suction "
            "take-off:gauge cap:liquid check-port:liquid pump-care"
        ),
    },
    "one-hose-valved-gauge": {
        "release-cylinder": (
            "shut:tool-b take-off:gauge put-on:charging-hose cylinder purge:cylinder zero-scale:cylinder "
            "open:cylinder open:tool-b weigh-in:cylinder see-pressure shut:cylinder shut:tool-b~2 "
            "open:system.suction-service open:system.liquid-service start shut:system.liquid-service "
            "open:tool-b~2 open:cylinder~2 ! throttle trim:cylinder shut:cylinder~2 empty-hose:cylinder "
            "shut:tool-b~3 stem-cap:system.suction-service open:system.liquid-service~2 "
            "stem-cap:system.liquid-service take-off:charging-hose put-on:tool-b.plunger open:tool-b~3 "
            "core-in:liquid take-off:tool-b cap:liquid check-port:liquid take-off:hose-a put-on:tool-a.plunger "
            "open:tool-a core-in:suction take-off:tool-a cap:suction check-port:suction pump-care"
        ),
    },
    "single-port": {
        "release-cylinder": (
            "take-off:hose-a put-on:charging-hose cylinder shut:tool-b purge:cylinder zero-scale:cylinder "
            "open:cylinder open:tool-a ! suction-only weigh-in:cylinder see-pressure shut:cylinder shut:tool-a "
            "open:system.suction-service open:system.liquid-service start open:tool-a~2 open:cylinder~2 ! "
            "throttle trim:cylinder shut:cylinder~2 empty-hose:cylinder shut:tool-a~2 "
            "stem-cap:system.suction-service stem-cap:system.liquid-service take-off:charging-hose "
            "put-on:tool-a.plunger open:tool-a~3 core-in:suction take-off:gauge take-off:tool-a cap:suction "
            "check-port:suction pump-care"
        ),
    },
    "two-hoses": {
        "release-cylinder": (
            "take-off:hose-b put-on:charging-hose cylinder purge:cylinder zero-scale:cylinder open:cylinder "
            "open:tool-b ! gauge-fouled weigh-in:cylinder see-pressure shut:cylinder shut:tool-b "
            "open:system.suction-service open:system.liquid-service start shut:system.liquid-service "
            "open:tool-b~2 open:cylinder~2 ! throttle trim:cylinder shut:cylinder~2 empty-hose:cylinder "
            "shut:tool-b~2 stem-cap:system.suction-service open:system.liquid-service~2 "
            "stem-cap:system.liquid-service take-off:charging-hose put-on:tool-b.plunger open:tool-b~3 "
            "core-in:liquid take-off:gauge take-off:tool-b cap:liquid check-port:liquid take-off:hose-a "
            "put-on:tool-a.plunger open:tool-a core-in:suction take-off:tool-a cap:suction check-port:suction "
            "pump-care"
        ),
    },
    "three-tools": {
        "release-cylinder": (
            "take-off:hose-b put-on:charging-hose cylinder shut:tool-c purge:cylinder zero-scale:cylinder "
            "open:cylinder open:tool-b weigh-in:cylinder see-pressure shut:cylinder shut:tool-b "
            "open:system.suction-service open:system.liquid-service start shut:system.liquid-service "
            "open:tool-b~2 open:cylinder~2 ! throttle trim:cylinder shut:cylinder~2 empty-hose:cylinder "
            "shut:tool-b~2 stem-cap:system.suction-service open:system.liquid-service~2 "
            "stem-cap:system.liquid-service take-off:charging-hose put-on:tool-b.plunger open:tool-b~3 "
            "core-in:liquid take-off:gauge take-off:tool-b cap:liquid check-port:liquid take-off:hose-a "
            "put-on:tool-a.plunger open:tool-a core-in:suction take-off:tool-a cap:suction check-port:suction "
            "pump-care"
        ),
    },
    "four-port-sensor": {
        "release-cylinder": (
            "put-on:charging-hose cylinder shut:manifold.low shut:tool-a purge:cylinder zero-scale:cylinder "
            "open:cylinder open:manifold.charge ! gauge-fouled weigh-in:cylinder see-pressure shut:cylinder "
            "shut:manifold.charge shut:manifold.high shut:tool-b open:system.suction-service "
            "open:system.liquid-service start open:tool-a open:manifold.low open:manifold.charge~2 "
            "open:cylinder~2 ! throttle trim:cylinder shut:cylinder~2 open:manifold.high empty-hose:cylinder "
            "shut:manifold.charge~2 shut:manifold.high~2 shut:manifold.low~2 shut:tool-a~2 "
            "stem-cap:system.suction-service stem-cap:system.liquid-service take-off:hose-b put-on:tool-b.plunger "
            "open:tool-b core-in:liquid take-off:tool-b cap:liquid check-port:liquid take-off:hose-a "
            "put-on:tool-a.plunger open:tool-a~2 core-in:suction take-off:tool-a cap:suction check-port:suction "
            "pump-care"
        ),
    },
    "four-port-tool-gauge": {
        "release-cylinder": (
            "take-off:hose-b put-on:charging-hose cylinder purge:cylinder zero-scale:cylinder open:cylinder "
            "open:tool-b ! gauge-fouled weigh-in:cylinder see-pressure shut:cylinder shut:manifold.high "
            "shut:manifold.low shut:manifold.vacuum shut:tool-b open:system.suction-service "
            "open:system.liquid-service start shut:system.liquid-service open:tool-b~2 open:cylinder~2 ! throttle "
            "trim:cylinder shut:cylinder~2 empty-hose:cylinder shut:tool-b~2 stem-cap:system.suction-service "
            "open:system.liquid-service~2 stem-cap:system.liquid-service take-off:charging-hose "
            "put-on:tool-b.plunger open:tool-b~3 core-in:liquid take-off:tool-b cap:liquid check-port:liquid "
            "take-off:hose-a put-on:tool-a.plunger open:tool-a core-in:suction take-off:gauge take-off:tool-a "
            "cap:suction check-port:suction pump-care"
        ),
    },
    "four-port-as-tee": {
        "release-cylinder": (
            "take-off:hose-b put-on:charging-hose cylinder shut:tool-c purge:cylinder zero-scale:cylinder "
            "open:cylinder open:tool-b weigh-in:cylinder see-pressure shut:cylinder shut:manifold.high "
            "shut:manifold.low shut:manifold.vacuum shut:tool-b open:system.suction-service "
            "open:system.liquid-service start shut:system.liquid-service open:tool-b~2 open:cylinder~2 ! throttle "
            "trim:cylinder shut:cylinder~2 empty-hose:cylinder shut:tool-b~2 stem-cap:system.suction-service "
            "open:system.liquid-service~2 stem-cap:system.liquid-service take-off:charging-hose "
            "put-on:tool-b.plunger open:tool-b~3 core-in:liquid take-off:gauge take-off:tool-b cap:liquid "
            "check-port:liquid take-off:hose-a put-on:tool-a.plunger open:tool-a core-in:suction take-off:tool-a "
            "cap:suction check-port:suction pump-care"
        ),
    },
    "two-valve": {
        "release-cylinder": (
            "take-off:hose-b put-on:charging-hose cylinder purge:cylinder zero-scale:cylinder open:cylinder "
            "open:tool-b ! gauge-fouled weigh-in:cylinder see-pressure shut:cylinder shut:manifold.high "
            "shut:manifold.low shut:tool-b open:system.suction-service open:system.liquid-service start "
            "shut:system.liquid-service open:tool-b~2 open:cylinder~2 ! throttle trim:cylinder shut:cylinder~2 "
            "empty-hose:cylinder shut:tool-b~2 stem-cap:system.suction-service open:system.liquid-service~2 "
            "stem-cap:system.liquid-service take-off:charging-hose put-on:tool-b.plunger open:tool-b~3 "
            "core-in:liquid take-off:gauge take-off:tool-b cap:liquid check-port:liquid take-off:hose-a "
            "put-on:tool-a.plunger open:tool-a core-in:suction take-off:tool-a cap:suction check-port:suction "
            "pump-care"
        ),
    },
    "quarter-hoses": {
        "release-cylinder": (
            "take-off:hose-b put-on:charging-hose cylinder purge:cylinder zero-scale:cylinder open:cylinder "
            "open:tool-b ! gauge-fouled weigh-in:cylinder see-pressure shut:cylinder shut:tool-b "
            "open:system.suction-service open:system.liquid-service start shut:system.liquid-service "
            "open:tool-b~2 open:cylinder~2 ! throttle trim:cylinder shut:cylinder~2 empty-hose:cylinder "
            "shut:tool-b~2 stem-cap:system.suction-service open:system.liquid-service~2 "
            "stem-cap:system.liquid-service take-off:charging-hose put-on:tool-b.plunger open:tool-b~3 "
            "core-in:liquid take-off:gauge take-off:tool-b cap:liquid check-port:liquid take-off:hose-a "
            "put-on:tool-a.plunger open:tool-a core-in:suction take-off:tool-a cap:suction check-port:suction "
            "pump-care"
        ),
    },
    "cylinder-ready": {
        "release-cylinder": (
            "cylinder shut:hose-a shut:manifold.low zero-scale:cylinder open:cylinder open:manifold.charge ! "
            "gauge-fouled weigh-in:cylinder see-pressure shut:cylinder shut:hose-b shut:hose-c "
            "shut:manifold.charge shut:manifold.high open:system.suction-service open:system.liquid-service start "
            "open:hose-a open:manifold.low open:manifold.charge~2 open:hose-c open:cylinder~2 ! throttle "
            "trim:cylinder shut:cylinder~2 open:manifold.high empty-hose:cylinder shut:hose-a~2 shut:hose-c~2 "
            "shut:manifold.charge~2 shut:manifold.high~2 shut:manifold.low~2 stem-cap:system.suction-service "
            "stem-cap:system.liquid-service take-off:hose-b cap:liquid check-port:liquid take-off:hose-a "
            "cap:suction check-port:suction pump-care"
        ),
    },
    "low-side-dial": {
        "release-cylinder": (
            "put-on:charging-hose cylinder purge:cylinder zero-scale:cylinder open:cylinder open:manifold.high "
            "purge:cylinder~2 open:manifold.low ! suction-only weigh-in:cylinder see-pressure shut:cylinder "
            "shut:manifold.high shut:manifold.low open:system.suction-service open:system.liquid-service start "
            "open:manifold.low~2 open:manifold.high~2 open:cylinder~2 ! throttle trim:cylinder shut:cylinder~2 "
            "empty-hose:cylinder shut:manifold.high~2 shut:manifold.low~2 stem-cap:system.suction-service "
            "stem-cap:system.liquid-service take-off:hose-a cap:suction check-port:suction pump-care"
        ),
    },
    "pump-on-high": {
        "release-cylinder": "missing:liquid-way",
    },
    "far-gauge": {
        "release-cylinder": (
            "shut:tool-b take-off:gauge put-on:charging-hose cylinder purge:cylinder zero-scale:cylinder "
            "open:cylinder open:tool-b weigh-in:cylinder see-pressure shut:cylinder shut:tool-b~2 "
            "open:system.suction-service open:system.liquid-service start shut:system.liquid-service "
            "open:tool-b~2 open:cylinder~2 ! throttle trim:cylinder shut:cylinder~2 empty-hose:cylinder "
            "shut:tool-b~3 stem-cap:system.suction-service open:system.liquid-service~2 "
            "stem-cap:system.liquid-service take-off:charging-hose put-on:tool-b.plunger open:tool-b~3 "
            "core-in:liquid take-off:tool-b cap:liquid check-port:liquid take-off:hose-a put-on:tool-a.plunger "
            "open:tool-a core-in:suction take-off:tool-a cap:suction check-port:suction pump-care"
        ),
    },
    "commercial": {
        "release-cylinder": (
            "take-off:hose-a put-on:charging-hose cylinder shut:tool-c purge:cylinder zero-scale:cylinder "
            "open:cylinder open:tool-a ! suction-only weigh-in:cylinder see-pressure shut:cylinder shut:tool-a "
            "start open:tool-a~2 open:cylinder~2 ! throttle trim:cylinder shut:cylinder~2 empty-hose:cylinder "
            "shut:tool-a~2 take-off:hose-b put-on:tool-b.plunger open:tool-b core-in:discharge take-off:tool-b "
            "cap:discharge check-port:discharge take-off:charging-hose put-on:tool-a.plunger open:tool-a~3 "
            "core-in:suction take-off:tool-a cap:suction check-port:suction take-off:gauge put-on:tool-c.plunger "
            "open:tool-c core-in:liquid take-off:tool-c cap:liquid check-port:liquid pump-care"
        ),
    },
}


def test_the_table_names_every_pattern() -> None:
    assert set(BY_CYLINDER) == set(PATTERNS)


@pytest.mark.parametrize(("pattern", "goal"), [(p, g) for p, by_goal in BY_CYLINDER.items() for g in by_goal])
def test_the_order_on_a_pattern(pattern: str, goal: GoalKey) -> None:
    found = full_order(usual_job(pattern, hose=True), goal)
    assert all(s.why for s in found.steps)
    assert told_order(found) == BY_CYLINDER[pattern][goal]
