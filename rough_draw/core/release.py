"""Breaking the vacuum: the order of touches for this rig and the chosen way."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.assemble import assemble
from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.charge import charge_to_weigh
from rough_draw.core.isolation import isolation
from rough_draw.core.job import Job
from rough_draw.core.questions import gauge_valve
from rough_draw.core.rig import ToolPart


@dataclass(frozen=True)
class Step:
    """One step: a stable key, what to do, and why or with what care."""

    key: str
    title: str
    why: str


def gauge_shut_by(job: Job) -> str | None:
    """Words for the valve that keeps refrigerant from the gauge on this rig; None if nothing does."""
    assembly = assemble(job)
    own = gauge_valve(job, assembly)
    if own is not None:
        return assembly.valves[own].label
    shut_off = isolation(job, assembly)
    return shut_off.where if shut_off.complete and not shut_off.gauge_inside else None


def release_steps(job: Job) -> list[Step]:
    """Steps in their order. Positive pressure comes before any core goes back or any hose comes off."""
    rig, scope = job.rig, job.scope
    steps: list[Step] = []
    gauge = rig.gauge
    valve = gauge_shut_by(job) if gauge is not None else None
    if valve is not None:
        steps.append(Step("gauge-valve", f"Shut {valve}", "Refrigerant and oil foul the gauge's sensor."))
    elif gauge is not None:
        steps.append(
            Step(
                "gauge-exposed",
                "Know that the gauge will see refrigerant",
                "No valve stands under it. Pulled off in vacuum it lets air in. "
                f"It stands {gauge.stands_kpa / 100:.0f} bar; clean it after.",
            )
        )
    if job.release.way == "unit-charge":
        steps.append(
            Step("crack", "Crack one service valve, a quarter turn", "Let a little of the unit's charge in, then wait.")
        )
    else:
        charge = charge_to_weigh(scope)
        weigh = f"{charge.to_weigh:.2f} kg to weigh. " if charge else "Weigh it in to the nameplate. "
        liquid = "Zeotropic: as liquid only. " if REFRIGERANTS[scope.refrigerant].zeotropic else ""
        steps.append(
            Step(
                "charge",
                "Zero the scale, then liquid into the liquid line",
                f"{weigh}{liquid}Suction shut: never liquid to the compressor. Stop short; trim it running.",
            )
        )
    steps.append(
        Step("positive", "See positive pressure at both ports", "A few psi. Before it, an open port draws air.")
    )
    if job.release.way == "unit-charge":
        steps.append(
            Step("open", "Open both service valves fully", "Back-seat without force; the right hex key, long enough.")
        )
    for part in rig.parts:
        port = scope.port(part.port) if part.port else None
        if isinstance(part, ToolPart) and port is not None and port.core and port.id not in rig.cores_in:
            text = "Only under positive pressure. New cores are cheap."
            steps.append(Step(f"core-{port.id}", f"Put the core back at the {port.words()}, through its tool", text))
    steps.append(
        Step("hoses", "Take the hoses off outside the shut tools", "The tools stay until the cores are proved to hold.")
    )
    steps.append(
        Step(
            "caps",
            "Tools off, caps on, bubble or electronic check at each port",
            "A trace of lubricant on each cap seal.",
        )
    )
    return steps
