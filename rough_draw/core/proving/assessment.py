"""Everything that Prove says of a sheet: the gates by their evidence, and what each means for the stages after it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from rough_draw.core.message import Message, Name, all_of, listed, message
from rough_draw.core.message.figure import rise, throughput, vacuum
from rough_draw.core.model.isolation import Isolation
from rough_draw.core.model.proof_network import ProofStage, mark_of, proof_stages
from rough_draw.core.model.rise_rate import measured
from rough_draw.core.model.system import ScopeError, build_system
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.proving import blank_off, gauge_check, pressure_test, pump_oil
from rough_draw.core.proving.checklist import GateState, State, states
from rough_draw.core.proving.stage_verdict import StageAnswer, judge_stage
from rough_draw.core.sheet.evidence import PressureReading, StageReading
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit_history import KitEvent
from rough_draw.core.sheet.oil_rule import OilRule

History = Mapping[int, list[KitEvent]]


@dataclass(frozen=True, kw_only=True)
class Proof:
    """The judgements. ``fault``: why the rig has no stages (it is in pieces)."""

    gates: list[GateState]
    test: pressure_test.PressureTest
    earlier: list[tuple[PressureReading, pressure_test.PressureTest]]
    oil: pump_oil.OilAnswer
    blank_off: blank_off.BlankOff
    gauge: gauge_check.GaugeAnswer
    stages: list[tuple[ProofStage, StageAnswer]] = field(default_factory=list)
    fault: Name = ""


_STATE: dict[str, State] = {
    "good": "passed",
    "tight": "passed",
    "usable": "doubtful",
    "due": "doubtful",
    "doubtful": "doubtful",
    "too-short": "doubtful",
    "bad": "failed",
    "leaks": "failed",
    "too-low": "failed",
    "open": "open",
}


def prove(job: Job, rule: OilRule | None = None, history: History | None = None) -> Proof:
    """Judge all that was proved. ``history`` of the kit by its number makes it surer; without it nothing fails."""
    past = history or {}
    pump = job.rig.pump
    of_pump = past.get(pump.kit or 0, [])
    system = build_system(job.scope)
    volume = system.volume().value
    test = pressure_test.judge(job.prove.latest_test, volume, system.atmosphere)
    before = [(t, pressure_test.judge(t, volume, system.atmosphere)) for t in job.prove.tests]
    oil = pump_oil.judge(job.prove, rule or OilRule(), of_pump)
    seen = job.prove.stages.get("pump", StageReading())
    if seen.part not in ("", mark_of(job.rig, "pump")):
        seen = StageReading()
    micron = seen.settled_micron if seen.settled_micron is not None else pump.blank_off_micron
    earlier = [e for e in of_pump if e.kind != "blank-off" or e.values.get("micron") != micron]
    blank = blank_off.judge(pump, micron, seen.running, earlier, seen.after_s)
    gauge = gauge_check.judge(job.rig.gauge, job.prove.gauge, system.atmosphere)
    stages: list[tuple[ProofStage, StageAnswer]] = []
    fault: Name = ""
    try:
        stages = [(s, judge_stage(job, n)) for n, s in enumerate(proof_stages(job))]
    except ScopeError as e:
        fault = e.told
    answers: dict[str, tuple[State, Name]] = {
        "pressure-test": _of_test(job, test),
        "oil": (_STATE[oil.verdict], oil.words),
        "blank-off": (_STATE[blank.verdict], _with_figure(micron, blank)),
        "rig-proof": _of_rig(stages, fault),
        "gauge": (_STATE[gauge.verdict], all_of(gauge.words) or ""),
    }
    return Proof(
        gates=states(job, answers),
        test=test,
        earlier=before,
        oil=oil,
        blank_off=blank,
        gauge=gauge,
        stages=stages,
        fault=fault,
    )


def _of_test(job: Job, test: pressure_test.PressureTest) -> tuple[State, Name]:
    """A strength test that held says nothing of a small leak: the tightness test is still to come."""
    if test.verdict == "tight" and job.prove.latest_test.kind == "strength":
        return "open", message("pressure-test-strength-only", words=test.words)
    return _STATE[test.verdict], test.words


def _with_figure(micron: float | None, blank: blank_off.BlankOff) -> Message:
    return (
        blank.words
        if micron is None
        else message("blank-off-read", level=vacuum(micron * MICRON_PA), words=blank.words)
    )


def _of_rig(stages: list[tuple[ProofStage, StageAnswer]], fault: Name) -> tuple[State, Name]:
    """The worst of the stages, and which are still to be read."""
    if fault:
        return "open", fault
    beyond = stages[1:]
    bad = [s.title for s, a in beyond if a.verdict == "bad"]
    if bad:
        return "failed", message("stages-bad", stages=listed(bad))
    doubtful = [s.title for s, a in beyond if a.verdict == "doubtful"]
    left = [s.title for s, a in beyond if a.verdict == "open" and not s.optional]
    if left:
        return "open", message("stages-left", stages=listed(left))
    if doubtful:
        return "doubtful", message("stages-doubtful", stages=listed(doubtful))
    return "passed", message("stages-good", count=sum(a.verdict != "open" for _, a in beyond))


def known_in_the_hold(job: Job, held: Isolation, volume: float) -> list[Message]:
    """What the rig proof says of the hold: each hose whose inflow was read, inside what is held or outside.

    ``volume`` m³ of what is held.
    """
    found = []
    read = measured(job)
    stages = {s.key: (s, judge_stage(job, n)) for n, s in enumerate(proof_stages(job)) if s.key in read}
    for key, q in read.items():
        stage, answer = stages[key]
        rate = q.value / volume / MICRON_PA
        inside = key in held.hoses
        if inside:
            values = {"inflow": throughput(q.value), "rate": rise(rate * MICRON_PA)}
            found.append(message("known-inside", stage=stage.title, **values))
        elif answer.verdict in ("bad", "doubtful"):
            found.append(message("known-outside", stage=stage.title, verdict=answer.verdict))
    return found
