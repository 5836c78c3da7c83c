"""What is proposed and cannot be built is left out; what was asked for is refused; orders name what is there."""

from __future__ import annotations

import pytest

from rough_draw.core.advice.finding import fix_by
from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.interlock.itinerary import Leg, route
from rough_draw.core.message import message
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from tests import builders


def taken_outlet() -> Rig:
    """A second gauge on an outlet that has one."""
    rig = builders.one_hose()
    gauge = rig.gauge
    assert gauge is not None
    return rig_edit.add(rig, {"kind": "gauge", "id": "gauge-2", "on": gauge.on, "at": gauge.at, "port": gauge.port})


def test_an_edit_that_makes_no_rig_is_refused_where_it_is_asked_for_and_left_out_where_it_is_proposed() -> None:
    with pytest.raises(ValueError, match="wrong-"):
        taken_outlet()
    assert rig_edit.attempt(taken_outlet) is None
    assert fix_by(Job(rig=builders.one_hose()), message("fix-core-tool", port="x"), taken_outlet) is None
    made = fix_by(Job(rig=builders.one_hose()), message("fix-core-tool", port="x"), builders.one_hose)
    assert made is not None


@pytest.mark.parametrize("valve", [True, False])
def test_what_is_left_under_vacuum_is_closed_by_valves_that_there_are(valve: bool) -> None:
    rig = builders.one_hose()
    parts = [p.model_copy(update={"valve": valve}) if p.kind == "pump" else p for p in rig.parts]
    job = Job(rig=rig.with_parts(parts))
    gates = make_board(job).gates
    for stretch in route(job, "end-cylinder").stretches:
        assert isinstance(stretch, Leg)
        for step in stretch.sequence.steps:
            assert step.touch.kind not in ("open", "shut") or step.touch.on in gates
