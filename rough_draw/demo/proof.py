"""Demo data of Prove: the evidence of careful hands, and what is on file of the kit from earlier jobs."""

from __future__ import annotations

from typing import Any

from rough_draw.core.message import message
from rough_draw.core.message.figure import share, vacuum
from rough_draw.core.model.proof_network import expected, proof_stages
from rough_draw.core.physics.units import CFM_M3_S, MICRON_PA
from rough_draw.core.proving.checklist import gates_for
from rough_draw.core.sheet.evidence import Gate, GaugeCheck, Prove, StageReading
from rough_draw.core.sheet.job import Job
from rough_draw.store import kit_log

ANY = {"compressor": "lead", "recovered": "recovered", "heaters": "crankcase"}
"""Of gates where one thing is enough, the one that was seen."""
NOTES = {"power": "lock 7, meter on L1 to L3 and ground", "protection": "loading doors open"}


def proved(job: Job, skip: str = "", **seen: Any) -> Job:
    """The sheet with its evidence; ``seen`` is put over what is usual."""
    gates = {}
    for g in gates_for(job):
        items = tuple(i.key for i in g.items if g.key not in ANY or i.key == ANY[g.key])
        gates[g.key] = (
            Gate(state="skipped", note="no nitrogen on the boat; tested yesterday")
            if g.key == skip
            else Gate(items=items, note=NOTES.get(g.key, ""))
        )
    tested = {
        "test_start_kpa": 3100,
        "test_end_kpa": 3050,
        "test_start_c": 21.0,
        "test_end_c": 17.0,
        "test_minutes": 60,
        "test_wanted_kpa": 3100,
    }
    usual: dict[str, Any] = {
        "gates": gates,
        "oil": "fresh",
        "oil_level": "right",
        "stages": stages_read(job),
        "gauge": GaugeCheck(battery_pct=80, in_air="over"),
        **({} if skip == "pressure-test" else tested),
    }
    return job.model_copy(update={"prove": Prove(**{**usual, **seen})})


def stages_read(job: Job, bad: str = "") -> dict[str, StageReading]:
    """A rig proof as a careful hand reads it: what each stage is computed to do, one hose worse if so told."""
    found: dict[str, StageReading] = {}
    extra = 0.0
    for n, stage in enumerate(proof_stages(job)):
        extra += 4e-2 if stage.key == bad else 0.0
        speed = job.rig.pump.plate_cfm * CFM_M3_S
        settled = (expected(job, n).settled.value + extra / speed) / MICRON_PA
        rate = (stage.passing.value + extra) / stage.closed / MICRON_PA
        # Long enough to be read, and not over the gauge's range.
        seconds = round(max(4.0, min(45.0, 1500.0 / max(rate, 1.0))))
        to = round(settled + seconds * rate)
        rise = {} if n == 0 else {"from_micron": round(settled), "to_micron": to, "rise_s": seconds}
        found[stage.key] = StageReading(settled_micron=round(settled), after_s=120, part=stage.mark, **rise)
    return found


PAST: tuple[tuple[str, float, str, kit_log.EventKind, dict[str, Any], str], ...] = (
    ("Pump 1, 8 CFM", 190, "19", "blank-off", {"micron": 22, "oil": "fresh"}, "good"),
    ("Pump 1, 8 CFM", 120, "12", "oil-change", {}, "good"),
    ("Pump 1, 8 CFM", 120, "12", "blank-off", {"micron": 20, "oil": "fresh"}, "good"),
    ("Pump 1, 8 CFM", 40, "4", "blank-off", {"micron": 26, "oil": "fresh"}, "good"),
    ("Pump 1, 8 CFM", 40, "4", "run", {"hours": 3.4}, ""),
    ("Pump 3, 3 CFM, oil due", 200, "20", "blank-off", {"micron": 38, "oil": "fresh"}, "good"),
    ("Pump 3, 3 CFM, oil due", 200, "20", "oil-change", {}, "good"),
    ("Pump 3, 3 CFM, oil due", 90, "9", "blank-off", {"micron": 74, "oil": "used"}, "usable"),
    ("Pump 3, 3 CFM, oil due", 90, "9", "run", {"hours": 6.5}, ""),
    ("Pump 3, 3 CFM, oil due", 30, "3", "blank-off", {"micron": 165, "oil": "used"}, "bad"),
    ("Pump 3, 3 CFM, oil due", 30, "3", "run", {"hours": 5.2}, ""),
    ("Gauge 3, coarse", 30, "3", "gauge-check", {"in_air": "over", "battery_pct": 15}, "doubtful"),
)
"""Earlier events of the kit: part, days ago, a job since thrown away, kind, figures, how it was judged."""


def file_past(numbers: dict[str, int], now: float) -> None:
    """Put the earlier events on file."""
    words = {
        "bad": message("blank-off-bad", usable=vacuum(100 * MICRON_PA)),
        "doubtful": message("gauge-battery-low", charge=share(0.15)),
    }
    for name, days, job, kind, values, verdict in PAST:
        event = kit_log.NewEvent(numbers[name], kind, values, verdict, words.get(verdict, ""))
        kit_log.file(f"earlier-{job}", [event], now - days * 86_400.0)
