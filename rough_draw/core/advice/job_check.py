"""A job looked over as a whole: its rig's findings, what its release lacks, what its charge leaves open."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.advice.finding import RANK, Finding, Severity
from rough_draw.core.advice.findings import findings
from rough_draw.core.charging.charge import extra_length
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.interlock.orders import Missing, full_order
from rough_draw.core.interlock.release import release_goal
from rough_draw.core.message import Name, message
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.system import ScopeError
from rough_draw.core.planning.plan import Plan, plan_job
from rough_draw.core.sheet.job import Job


@dataclass(frozen=True)
class Found:
    """One thing found: its code, how grave, on which part, port, section or link, and in words."""

    code: str
    severity: Severity
    on: str
    words: Name


def findings_of(job: Job, plan: Plan) -> list[Finding]:
    """Findings of a planned job's rig."""
    return findings(job, plan.assembly, isolation(job, plan.assembly), plan.gauge_error, plan.target)


def lacking(job: Job) -> tuple[Missing, ...]:
    """What the release of this job lacks, by the planner."""
    return full_order(job, release_goal(job)).missing


def looked_over(job: Job) -> list[Found]:
    """Everything found about a job, the gravest first. A rig in pieces is one finding that says where."""
    try:
        plan = plan_job(job)
    except (ScopeError, NetworkError) as e:
        return [Found("rig-apart", "stop", getattr(e, "place", "") or "", e.told)]
    found = [Found(f.kind, f.severity, f.place, f.title) for f in findings_of(job, plan)]
    found += [Found(f"missing-{m.code}", "caution", "", m.words) for m in lacking(job)]
    found += _charge(job)
    return sorted(found, key=lambda f: RANK[f.severity])


def _charge(job: Job) -> list[Found]:
    """What the charge leaves open: no nameplate, an adder of nothing for a line beyond the included length."""
    scope = job.scope
    found = []
    if not scope.fluid.tabled:
        told = message("no-saturation", refrigerant=scope.refrigerant)
        found.append(Found("no-saturation", "note", "scope.refrigerant", told))
    if scope.nameplate_kg is None:
        found.append(Found("no-nameplate", "note", "scope.nameplate_kg", message("charge-no-nameplate")))
    elif scope.adder_g_per_m == 0.0 and extra_length(scope) > 0.0:
        found.append(Found("adder-zero", "caution", "scope.adder_g_per_m", message("charge-adder-zero")))
    return found
