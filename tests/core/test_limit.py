"""What keeps a draw from its target, and what of its time is whose."""

from __future__ import annotations

import pytest

from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.ensemble import FIELDS, members
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.planning.limit import standing_inside, what_decides
from rough_draw.core.planning.plan import HORIZON, draw_down, plan_job, rank_upgrades
from rough_draw.core.planning.time_share import TAKERS, time_shares
from rough_draw.core.sheet.criteria import CriterionChoice, chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.core.sheet.templates import TEMPLATES


def sheet(template: str, pattern: str, **scope: object) -> Job:
    t = TEMPLATES[template]
    made = Scope.model_validate({"template": template, **t.build(), **t.scope, **scope})
    return Job(scope=made, rig=rig_from(pattern, made), criterion=CriterionChoice(school="code-minimum"))


@pytest.mark.parametrize("template", ["cooler", "ducted-split", "multi-zone", "line-set", "packaged"])
@pytest.mark.parametrize("pattern", ["two-hoses", "cylinder-ready", "three-tools"])
def test_the_shares_add_up_to_the_time(template: str, pattern: str) -> None:
    job = sheet(template, pattern)
    shares = time_shares(job)
    assert tuple(s.taker for s in shares) == TAKERS
    assert all(s.seconds >= 0.0 for s in shares)
    plan = plan_job(job, 4)
    whole = plan.time_to_target.value if plan.time_to_target else HORIZON
    assert sum(s.seconds for s in shares) == pytest.approx(whole, rel=0.03, abs=3.0)


def test_cores_left_in_are_the_rigs_time_and_oil_is_its_own() -> None:
    def of(job: Job) -> dict[str, float]:
        return {s.taker: s.seconds for s in time_shares(job)}

    cores = of(sheet("ducted-split", "cylinder-ready", condition="new-dry"))
    assert cores["rig"] > 0.5 * sum(cores.values())
    oily = of(sheet("packaged", "two-hoses", condition="open-hours"))
    assert oily["oil"] > of(sheet("packaged", "two-hoses", condition="new-dry"))["oil"]


def test_pulling_the_cores_is_what_to_change_first() -> None:
    """On every template that takes this rig only a whole further way with a tool of its own may save more."""
    for template in TEMPLATES:
        scope = Scope.model_validate({"template": template, **TEMPLATES[template].build(), **TEMPLATES[template].scope})
        if not fits("cylinder-ready", scope) or template == "outdoor-air":
            continue
        job = sheet(template, "cylinder-ready")
        if not any(p.core for p in job.scope.ports):
            continue
        plan = plan_job(job, 4)
        best = rank_upgrades(job, plan.time_to_target.value if plan.time_to_target else None, banded=0)
        others = [u.change.key for u in best if not u.change.key.startswith("second-")]
        assert others[0].startswith("pull-core"), (template, others[:3])
        assert any(u.change.key == "pull-cores" for u in best[:2])


def test_what_decides_is_what_differs() -> None:
    draws = members(48)
    assert what_decides(draws, [True] * 48) is None
    assert what_decides(draws, [False] * 48) is None
    for field in FIELDS:
        assert what_decides(draws, [getattr(u, field) < 0.7 for u in draws]) == field
    assert what_decides(draws, [n % 2 == 0 for n in range(48)]) is None, "what nothing decides is not laid to anything"


def test_out_of_reach_says_what_it_hangs_on() -> None:
    """A pump that may or may not go under the target: the plan names it, and a blank-off settles it."""
    job = sheet("line-set", "two-hoses", condition="new-dry")
    deep = job.model_copy(update={"criterion": CriterionChoice(school="deep-and-flat")})
    unsure = plan_job(deep)
    assert 0.0 < unsure.share_reaching < 1.0
    assert unsure.deciding == "pump"
    rig = deep.rig.with_parts(
        [p.model_copy(update={"blank_off_micron": 20.0}) if p.kind == "pump" else p for p in deep.rig.parts]
    )
    sure = plan_job(deep.model_copy(update={"rig": rig}))
    assert sure.share_reaching > unsure.share_reaching
    assert sure.deciding is None


def test_what_stands_inside_the_system_is_said() -> None:
    """Pulled from the suction end alone, the liquid line behind its metering device stands far above the port."""
    scope = Scope(condition="new-dry")
    job = Job(scope=scope, rig=rig_from("one-hose-valved-gauge", scope))
    a = assemble(job)
    target = chosen(job.criterion).target
    run = draw_down(a, target, 2e-3)
    at = float(run.time[-1])
    inside = standing_inside(a, run, at)
    assert inside == pytest.approx(
        max(float(run.at(n, [at])[0]) for n in a.pumped) - float(run.at("system.suction", [at])[0]), rel=1e-6
    )
    assert inside > 0.05 * target
    both = assemble(Job(scope=scope, rig=rig_from("two-hoses", scope)))
    quick = draw_down(both, target, 2e-3)
    assert quick.time[-1] < run.time[-1]


def test_no_draw_of_any_setup_breaks_off() -> None:
    """Every hook-up on every kind of system, at the far ends of all unknowns: the engine carries it through."""
    for template in TEMPLATES:
        made = Scope.model_validate({"template": template, **TEMPLATES[template].build(), **TEMPLATES[template].scope})
        for pattern in PATTERNS:
            if not fits(pattern, made):
                continue
            job = Job(scope=made, rig=rig_from(pattern, made))
            for z in (-2.0, 2.0):
                a = assemble(job, Unknowns(**dict.fromkeys(FIELDS, z)))
                assert draw_down(a, 40.0, 3e-2).time[-1] <= HORIZON
