"""One planner, whoever asks: lists, dialog and log agree in every state along every order."""

from __future__ import annotations

import pytest

from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.itinerary import route
from rough_draw.core.interlock.orders import full_order
from rough_draw.core.interlock.preview import foresee, standing, touches_on
from rough_draw.core.interlock.release import done_steps, release_goal, release_steps
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import isolation
from rough_draw.core.sheet.job import Job, Release
from rough_draw.core.sheet.run_state import Touch, fold, in_effect, known
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.core.sheet.templates import TEMPLATES
from tests.builders import CHARGING_HOSE, usual_job
from tests.depth import first
from tests.routes import check_route


def held(job: Job) -> tuple[list[Touch], tuple[str, ...]]:
    """What a run has logged when its hold is over, by the planner's own order, and the isolating valves."""
    valves = isolation(job, assemble(job)).valves
    kinds = ["pump-on", *(s.key for s in full_order(job, "hold").steps)]
    return [Touch(k, 600.0 * n) for n, k in enumerate(kinds)], valves


WAYS = [(p, w) for p in PATTERNS for w in ("unit-charge", "cylinder")]


@pytest.mark.parametrize(("pattern", "way"), first(6, WAYS))
def test_list_log_and_dialog_agree_along_a_release(pattern: str, way: str) -> None:
    job = usual_job(pattern, hose=True)
    job = job.model_copy(update={"release": Release(way=way)})  # type: ignore[arg-type]
    steps = release_steps(job)
    if not steps:
        assert full_order(job, release_goal(job)).missing
        return
    made, valves = held(job)
    for n, step in enumerate(steps):
        run = fold(made, valves)
        assert len(done_steps(job, run)) == sum(known(s.key.partition("~")[0]) for s in steps[:n])
        kind = step.key.partition("~")[0]
        if not known(kind):
            continue
        assert not foresee(job, run, kind).stop, (step.key, [c.key for c in foresee(job, run, kind).consequences])
        made.append(Touch(kind, made[-1].at + 60.0))
    board, _, state = standing(job, fold(made, valves))
    assert board.ports.keys() <= state.capped, "every port of the rig is capped at the end"


@pytest.mark.parametrize("pattern", PATTERNS)
def test_a_hold_logged_valve_by_valve_is_the_hold(pattern: str) -> None:
    job = usual_job(pattern)
    made, valves = held(job)
    run = fold(made, valves)
    assert run.isolated_at is not None
    assert not run.stopped_unisolated
    together = fold([Touch("pump-on", 0), Touch("isolate", 5), Touch("pump-off", 9)], valves)
    assert run.shut >= set(valves)
    assert together.shut >= set(valves)


def test_what_was_taken_back_did_not_happen() -> None:
    job = usual_job("three-tools")
    made, valves = held(job)
    more = [*made, Touch("crack:system.suction-service", 9e3), Touch("undo:crack:system.suction-service", 9.1e3)]
    assert fold(more, valves) == fold(made, valves)
    assert [t.kind for t in in_effect(more)] == [t.kind for t in made]
    # The last one of its kind is meant, and what was never done is not taken back.
    twice = [Touch("open:tool-a", 1), Touch("shut:tool-a", 2), Touch("open:tool-a", 3), Touch("undo:open:tool-a", 4)]
    assert [t.kind for t in in_effect(twice)] == ["open:tool-a", "shut:tool-a"]
    assert in_effect([Touch("undo:open:tool-a", 1)]) == []
    assert not known("undo:nonsense")


def test_what_a_hand_does_at_the_release_is_foreseen_where_things_stand() -> None:
    job = usual_job("three-tools")
    made, valves = held(job)
    run = fold(made, valves)
    assert foresee(job, run, "core-in:suction").stop
    assert foresee(job, run, "see-pressure").stop
    cracked = fold([*made, Touch("shut:tool-c", 1e4), Touch("crack:system.suction-service", 1.1e4)], valves)
    assert not foresee(job, cracked, "see-pressure").stop
    assert foresee(job, cracked, "take-off:tool-a").stop, "its port would stand open"
    offers = {o.kind for o in touches_on(job, cracked, "tool-a")}
    assert "open:tool-a" in offers


SYSTEMS = [
    t
    for t in TEMPLATES
    if any(fits(p, Scope.model_validate({"template": t, **TEMPLATES[t].build()})) for p in PATTERNS)
]
EVERY: tuple[GoalKey, ...] = (
    "draw",
    "hold",
    "release-unit",
    "release-cylinder",
    "end-cylinder",
    "swap-hose",
    "cores-out",
)


@pytest.mark.parametrize("template", first(5, TEMPLATES))
def test_no_order_on_any_system_and_setup_holds_a_stop_or_a_part_that_is_not_there(template: str) -> None:
    values = TEMPLATES[template]
    on = Scope.model_validate({"template": template, **values.build(), **values.scope})
    for pattern in [p for p in PATTERNS if fits(p, on)]:
        rig = rig_from(pattern, on)
        job = Job(scope=on, rig=type(rig).model_validate({**rig.model_dump(), "spares": [CHARGING_HOSE]}))
        for goal in EVERY:
            check_route(route(job, goal))
            there = (
                {p.id for p in (*job.rig.parts, *job.rig.spares)} | {p.id for p in on.ports} | {"cylinder", "nitrogen"}
            )
            for step in full_order(job, goal).steps:
                name = step.touch.on if step.touch is not None else ""
                base = name.removeprefix("port:").removeprefix("system.").partition(".")[0]
                links = {x.id for x in on.links} | {s.id for s in on.sections}
                assert not name or base in there | links, (pattern, goal, step.key)
