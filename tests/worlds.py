"""What people build, log and bring: odd rigs on odd systems, steps, tables. Drawn alike by tests of core, API and page.

Sheets that are whole come from `tests.builders`; here they are edited as a user edits them, some edits being refused.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from hypothesis import strategies as st

from rough_draw.core.readings.time_unit import SECONDS
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from tests.builders import jobs

PIECES: dict[str, dict[str, Any]] = {
    "adapter": {"kind": "adapter"},
    "pinned adapter": {"kind": "adapter", "depressor": True},
    "valve": {"kind": "valve"},
    "tool": {"kind": "tool", "side_core": True},
    "own tool": {"kind": "tool", "plunger": "own"},
    "hose": {"kind": "hose", "size": "1/4 in", "made_for": "pressure", "ball_end": True},
    "tee": {"kind": "tee"},
    "gauge": {"kind": "gauge", "valve": True},
    "cylinder": {"kind": "cylinder", "dip_tube": False},
    "nitrogen": {"kind": "nitrogen"},
    "manifold": {"kind": "manifold"},
}
CHANGES: dict[str, dict[str, Any]] = {
    "hose": {"ball_end": True, "low_loss": True, "depressor": True, "made_for": "pressure"},
    "tool": {"plunger": "own", "side_core": True, "bore": "1/4 in"},
    "pump": {"valve": False, "ballast": False},
    "gauge": {"valve": True, "depressor": False, "shows_kpa": 3000},
    "manifold": {"body": "two-valve", "inlet": "centre"},
}
PLACES = ("end", "side", "a", "b", "low", "high", "charge", "sensor")
EDITS = ("remove", "swap", "insert", "at-port", "add", "add-port", "move", "under", "manifold")
RUN = ("pump-on", "isolate", "reopen", "pump-off", "see-pressure", "vent-pump", "check-hold", "break")
"""Steps on the run as a whole."""


@dataclass(frozen=True, kw_only=True)
class Edit:
    """One thing done to a rig: to which part, with which other, at which port and place, with what."""

    op: str
    part: str
    other: str
    port: str
    at: str
    piece: str


def edited(rig: Rig, e: Edit) -> Rig:
    """The rig after an edit. Raises ValueError where it is refused."""
    kind = next(p.kind for p in rig.parts if p.id == e.part)
    match e.op:
        case "remove":
            return rig_edit.remove(rig, e.part)
        case "swap":
            return rig_edit.swap(rig, e.part, CHANGES.get(kind, {}))
        case "insert":
            return rig_edit.insert(rig, e.part, PIECES[e.piece])
        case "at-port":
            return rig_edit.put_at_port(rig, e.part, PIECES[e.piece])
        case "add":
            return rig_edit.add(rig, {**PIECES[e.piece], "on": e.part, "at": e.at})
        case "add-port":
            return rig_edit.add(rig, {**PIECES[e.piece], "port": e.port})
        case "move":
            return rig_edit.move(rig, e.part, e.other, e.at, None)
        case "under":
            return rig_edit.put_under(rig, rig.gauge.id if rig.gauge else e.part)
        case _:
            return rig_edit.without_manifold(rig)


@st.composite
def edits(draw: st.DrawFn, job: Job) -> Edit:
    """Any edit of a sheet's rig, sensible or not."""
    ids = st.sampled_from([p.id for p in job.rig.parts])
    return Edit(
        op=draw(st.sampled_from(EDITS)),
        part=draw(ids),
        other=draw(ids),
        port=draw(st.sampled_from([p.id for p in job.scope.ports] or ["none"])),
        at=draw(st.sampled_from(PLACES)),
        piece=draw(st.sampled_from(sorted(PIECES))),
    )


@st.composite
def odd_jobs(draw: st.DrawFn, most: int = 6) -> Job:
    """A sheet whose rig has been edited up to ``most`` times; edits that are refused change nothing."""
    job = draw(jobs())
    for _ in range(draw(st.integers(0, most))):
        try:
            job = job.model_copy(update={"rig": edited(job.rig, draw(edits(job)))})
        except ValueError:
            continue
    return Job.model_validate(job.model_dump())


@st.composite
def touches(draw: st.DrawFn, job: Job, most: int = 8) -> list[str]:
    """Steps that somebody logged, in whatever order: on the run, on valves and ports of the sheet."""
    valves = [p.id for p in job.rig.parts] + [x.id for x in job.scope.links]
    on_part = [f"{way}:{v}" for v in valves for way in ("open", "shut")]
    on_port = [f"{way}:{p.id}" for p in job.scope.ports for way in ("core-out", "core-in", "cap")]
    return draw(st.lists(st.sampled_from([*RUN, *on_part, *on_port]), max_size=most))


ODD_SHEETS = (
    "",
    '{"format":',
    "null",
    "[]",
    "7e999",
    "[" * 5000,
    '{"party": 5}',
    '{"party": {"customer": null}}',
    '{"scope": {"sections": 5}}',
    '{"rig": {"parts": [{"kind": "warp-drive"}]}}',
    '{"scope": {"ambient_c": 1e308}}',
)
"""Sheets as a damaged file or a later version may leave them: none of them can be read."""

TIMES = np.arange(0.0, 1200.0, 30.0)
MICRONS = 210.0 + 0.35 * TIMES
"""The hold that every table holds: 0.35 µ/s."""
HEADED = [
    ("time (min)", "minutes"),
    ("elapsed (h)", "hours"),
    ("elapsed_ms", "milliseconds"),
    ("t_min", "minutes"),
    ("t [s]", "seconds"),
    ("min", "minutes"),
    ("Elapsed time sec", "seconds"),
    ("elapsedSeconds", "seconds"),
    ("Zeit / min", "minutes"),
    ("Time in hours", "hours"),
    ("Temps (min)", "minutes"),
    ("Durée écoulée [s]", "seconds"),
    ("tid (s)", "seconds"),
    ("Tempo [minuti]", "minutes"),
    ("uren", "hours"),
    ("Tiempo transcurrido (horas)", "hours"),
]
"""Headers of a column of elapsed time, with their unit."""
UNSAID = (("time", "minutes"), ("elapsed", "hours"), ("time", "seconds"))
"""Headers that leave the unit open."""
PRESSURES = (("vacuum (micron)", 1.0), ("p_mTorr", 1.0), ("Torr", 1e3), ("pressure [Pa]", 7.50062), ("mbar", 750.062))
"""Headers of a column of pressure, with the microns to each."""


@dataclass(frozen=True)
class Table:
    """A table as somebody's logger wrote it: its bytes, and whether it says its unit of time."""

    data: bytes
    says_unit: bool


@st.composite
def tables(draw: st.DrawFn) -> Table:
    """The hold in any layout: separators, decimal commas, preambles, line ends, encodings, further columns."""
    header, unit = draw(st.sampled_from([*HEADED, *UNSAID]))
    separator = draw(st.sampled_from([",", ";", "\t"]))
    pressure, per = draw(st.sampled_from(PRESSURES))
    comma = separator != "," and draw(st.booleans())
    preamble = draw(st.sampled_from(["", "Cold room 4\n", "logger 7;v2\nsite;quay\n"]))
    end = draw(st.sampled_from(["\n", "\r\n"]))
    encoding = draw(st.sampled_from(["utf-8", "utf-8-sig", "utf-16", "cp1252"]))
    more = draw(st.booleans())
    rows = [separator.join([header, pressure, *(["note"] if more else [])])]
    for t, p in zip(TIMES, MICRONS, strict=True):
        cells = [f"{t / SECONDS[unit]:.9f}", f"{p / per:.8f}", *([""] if more else [])]
        rows.append(separator.join(c.replace(".", ",") if comma else c for c in cells))
    text = preamble + end.join(rows) + end
    return Table(text.encode(encoding), (header, unit) in HEADED)
