"""What a master's hands never do, over every setup on every kind of system, by the unit's charge and by a cylinder."""

from __future__ import annotations

import pytest

from rough_draw.core.interlock.release import release_goal, release_steps
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import HosePart, Rig, ToolPart
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.core.sheet.templates import TEMPLATES
from tests.builders import CHARGING_HOSE
from tests.depth import first


def scope_of(template: str) -> Scope:
    values = TEMPLATES[template]
    return Scope.model_validate({"template": template, **values.build(), **values.scope})


JOBS = [
    (template, pattern, way)
    for template in TEMPLATES
    for pattern in PATTERNS
    for way in ("unit-charge", "cylinder")
    if fits(pattern, scope_of(template))
]


@pytest.mark.parametrize("template", first(5, TEMPLATES))
def test_no_core_goes_back_where_a_hose_still_sits(template: str) -> None:
    seen = 0
    for _, pattern, way in [j for j in JOBS if j[0] == template]:
        scope = scope_of(template)
        rig = Rig.model_validate({**rig_from(pattern, scope).model_dump(), "spares": [CHARGING_HOSE]})
        job = Job(scope=scope, rig=rig)
        job = job.model_copy(update={"release": job.release.model_copy(update={"way": way})})
        keys = [s.key for s in release_steps(job)]
        for tool in job.rig.parts:
            if not isinstance(tool, ToolPart) or tool.port is None or f"core-in:{tool.port}" not in keys:
                continue
            above = job.rig.get(tool.on or "")
            if not isinstance(above, HosePart):
                continue
            back = keys.index(f"core-in:{tool.port}")
            assert f"take-off:{above.id}" in keys[:back], (pattern, way, keys)
            assert f"take-off:{tool.id}" not in keys[:back]
            seen += 1
        caps = [n for n, k in enumerate(keys) if k.startswith("cap:")]
        on_ports = {f"take-off:{p.id}" for p in job.rig.parts if p.port is not None}
        offs = [n for n, k in enumerate(keys) if k in on_ports]
        if caps and offs and release_goal(job) != "end-cylinder":
            assert keys.index("see-pressure") < min(offs)
    assert seen or template in ("cylinder", "outdoor-air", "line-set") or not [j for j in JOBS if j[0] == template]
