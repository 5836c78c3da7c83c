"""The seven stages of a job, the gates of Prove, and what each stage still misses."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.job import Job
from rough_draw.core.release import release_steps
from rough_draw.core.runstate import RunState

STAGES: tuple[str, ...] = ("scope", "rig", "prove", "draw", "hold", "release", "record")


@dataclass(frozen=True)
class Gate:
    """A check before the pump runs: stable key, what is checked, why."""

    key: str
    title: str
    why: str


GATES: tuple[Gate, ...] = (
    Gate("power", "Power off, locked, proved dead", "A compressor that starts in vacuum has no cooling and can arc."),
    Gate("recovered", "Refrigerant recovered or pumped down", "Vented refrigerant harms, and is against the law."),
    Gate("pressure-test", "Pressure test passed", "A leak is found in minutes under nitrogen, in hours under vacuum."),
    Gate(
        "nitrogen-vented", "Holding nitrogen vented at every port", "Pressure ruins a gauge and blows oil from a pump."
    ),
    Gate("sections", "Every section open: solenoids, expansion and check valves", "A shut section is not evacuated."),
    Gate("oil", "Pump oil clear, level right", "Wet oil gives its water back; the pump stalls over 1,000 µ."),
    Gate("blank-off", "Pump blank-off read, running", "If the pump cannot pull deep alone, no system will."),
    Gate("protection", "Goggles, gloves, ventilation, exhaust outside", "Oil mist and refrigerant."),
)
FLAMMABLE = Gate("flammable", "No ignition source; pump rated for flammable gas", "A2L and A3 refrigerants can burn.")


def gates_for(job: Job) -> tuple[Gate, ...]:
    """Gates that apply to this job."""
    if REFRIGERANTS[job.scope.refrigerant].safety != "A1":
        return (*GATES, FLAMMABLE)
    return GATES


@dataclass(frozen=True)
class Stage:
    """One joint of the rail: whether it is done, and what is missing if not."""

    key: str
    done: bool
    missing: str


def stages(job: Job, run: RunState, hold_span: float, hold_needs: float) -> list[Stage]:
    """State of every stage. ``hold_span`` s has been read of ``hold_needs`` s of the chosen school."""
    named = bool(job.party.customer.strip() and job.party.unit.strip())
    open_gates = [
        g for g in gates_for(job) if job.prove.gates.get(g.key) is None or job.prove.gates[g.key].state == "open"
    ]
    steps = [s for s in release_steps(job) if s.key not in job.release.steps_done]
    drawn = run.started_at is not None and run.isolated_at is not None
    if run.started_at is None:
        draw_missing = "the pump has not been started"
    else:
        draw_missing = "not isolated yet"
    held = drawn and hold_span >= hold_needs
    left = max(0.0, hold_needs - hold_span) / 60.0
    n, m = len(open_gates), len(steps)
    return [
        Stage("scope", named, "" if named else "customer and unit"),
        Stage("rig", named, "" if named else "the scope comes first"),
        Stage("prove", not open_gates, "" if not open_gates else f"{n} check{'s' if n != 1 else ''} open"),
        Stage("draw", drawn, "" if drawn else draw_missing),
        Stage("hold", held, "" if held else (f"{left:.0f} min to go" if drawn else "comes after the draw")),
        Stage("release", not steps, "" if not steps else f"{m} step{'s' if m != 1 else ''} to go"),
        Stage("record", bool(job.closing.signed_by), "" if job.closing.signed_by else "not signed"),
    ]


def current(found: list[Stage]) -> str:
    """The stage a job stands at: the last done one's successor, where work was done out of order too."""
    last = max((i for i, s in enumerate(found) if s.done), default=-1)
    return STAGES[min(last + 1, len(STAGES) - 1)]
