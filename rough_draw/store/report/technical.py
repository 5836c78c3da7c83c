"""Technical pages: the rig drawn, system and kit, checks and pressure tests, every step with its time, readings."""

from __future__ import annotations

import numpy as np
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether

from rough_draw.core.advice.drawing import gauge_place
from rough_draw.core.advice.setup_check import answers
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message import listed as all_listed
from rough_draw.core.message.figure import duration, gauge_pressure, length, mass, temperature, vacuum
from rough_draw.core.message.figure import volume as volume_of
from rough_draw.core.model.assemble import valve_names
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.system import build_system
from rough_draw.core.physics.units import MICRON_PA, kelvin
from rough_draw.core.proving.assessment import Proof, prove
from rough_draw.core.proving.checklist import GateState
from rough_draw.core.proving.pressure_test import PressureTest
from rough_draw.core.sheet.evidence import PressureReading
from rough_draw.core.sheet.naming import hose_size, pump_name, pump_size
from rough_draw.core.sheet.rig import HosePart, ManifoldPart, PumpPart, Rig
from rough_draw.core.sheet.run_state import words_of
from rough_draw.core.sheet.scope import Port
from rough_draw.store.jobs import day
from rough_draw.store.report.answer import shown_steps
from rough_draw.store.report.hold_page import ranged
from rough_draw.store.report.record import FloatArray, Record, clock, stamp_both
from rough_draw.store.report.rig_drawing import rig_drawing
from rough_draw.store.report.style import SMALL, WIDTH, Heading, grid, listed, text


def system(r: Record) -> list[Flowable]:
    """The rig as it was drawn, and what was evacuated with what."""
    parts: list[Flowable] = []
    if r.plan is not None:
        parts.append(KeepTogether([Heading(message("report-rig")), rig_drawing(r.job, r.plan, WIDTH)]))
    parts += [Heading(message("report-system-and-kit")), grid(_rows(r))]
    return parts


def _rows(r: Record) -> list[tuple[str, Name]]:
    job = r.job
    s, rig = job.scope, job.rig
    body = next((x for x in rig.parts if isinstance(x, ManifoldPart)), None)
    gauge = rig.gauge
    where: Name = ""
    if r.plan is not None:
        rigged = r.plan.assembly
        where = next(a.words for a in answers(job, rigged, isolation(job, rigged)) if a.letter == "b")
    ambient = {"ambient": temperature(kelvin(s.ambient_c)), "coldest": temperature(kelvin(s.coldest_c))}
    rows: list[tuple[str, Name]] = [
        ("oil", message("report-oil-of", oil=s.oil, mass=mass(s.oil_kg))),
        ("volume", ranged(volume_of, build_system(s).volume())),
        ("condition", message(f"condition-{s.condition}")),
        ("ambient", message("report-ambient-of", **ambient)),
        ("elevation", message("report-elevation-of", length=length(s.elevation_m))),
        ("pump", _pump(rig.pump)),
        ("hoses", all_listed([hose_size(x) for x in rig.parts if isinstance(x, HosePart)])),
        ("ports", all_listed([_port(x, rig) for x in s.ports])),
        (
            "manifold",
            message("report-manifold-of", body=message(f"manifold-{body.body}"), port=body.inlet)
            if body
            else message("report-none"),
        ),
        ("gauge", _gauge(r.gauge or gauge.name, where) if gauge else message("report-dial-only")),
    ]
    if rig.gauges[1:]:
        rows.append(("more-gauges", all_listed([_gauge(g.name, gauge_place(job, g)) for g in rig.gauges[1:]])))
    return rows


def _port(port: Port, rig: Rig) -> Message:
    is_in = rig.keeps_core(port)
    return message("report-port-core-in" if is_in else "report-port-core-out", port=port.words())


def _pump(pump: PumpPart) -> Message:
    size, oil = pump_size(pump.plate_cfm), message(f"oil-is-{pump.oil}")
    told = message("report-pump-of", name=pump_name(pump), size=size, oil=oil)
    if not pump.blank_off_micron:
        return told
    return message("report-pump-blank-off", pump=told, level=vacuum(pump.blank_off_micron * MICRON_PA))


def _gauge(name: str, where: Name) -> Message:
    return message("report-gauge-of", name=name or message("part-gauge"), where=where)


def proved(r: Record) -> list[Flowable]:
    """Checks with their evidence, and every pressure test that was made."""
    found = prove(r.job)
    rows: list[list[Name]] = [[g.spec.title, _gate(g)] for g in found.gates]
    half = -(-len(rows) // 2)
    # Two to a line: a normal job is to fit on few pages.
    pairs = [[*rows[k], *(rows[half + k] if half + k < len(rows) else ["", ""])] for k in range(half)]
    widths = [WIDTH * 0.17, WIDTH * 0.33] * 2
    head: list[Name] = [message("report-check"), message("report-evidence")] * 2
    parts: list[Flowable] = [Heading(message("report-proved")), listed(head, pairs, widths, SMALL)]
    tests = _tests(r, found)
    if tests:
        names = ("test", "when", "start-end", "minutes", "evidence")
        widths = [26 * mm, 28 * mm, 40 * mm, 16 * mm, WIDTH - 110 * mm]
        parts += [
            Heading(message("report-tests")),
            listed([message(f"report-test-{n}") for n in names], tests, widths, SMALL),
        ]
    return parts


def _gate(g: GateState) -> Message:
    return message("report-check-of", state=message(f"report-check-{g.state}"), evidence=g.words)


def _tests(r: Record, found: Proof) -> list[list[Name]]:
    every = [*found.earlier, (r.job.prove.latest_test, found.test)]
    return [_test(t, j) for t, j in every if t.start_kpa is not None]


def _test(t: PressureReading, judged: PressureTest) -> list[Name]:
    def at(kpa: float | None, c: float | None) -> Name:
        if kpa is None:
            return message("report-no-figure")
        plain = message("report-test-pressure", pressure=gauge_pressure(1e3 * kpa))
        return plain if c is None else message("report-test-at", pressure=plain, temperature=temperature(kelvin(c)))

    span = message("report-test-from-to", start=at(t.start_kpa, t.start_c), end=at(t.end_kpa, t.end_c))
    time = message("figure-time", time=duration(60.0 * t.minutes)) if t.minutes is not None else ""
    return [message(f"report-test-{t.kind}"), day(t.at) if t.at else "", span, time, judged.words]


def steps(r: Record) -> list[Flowable]:
    """Every step with its number on the trace, its time, whose hand it was, and what was noted."""
    shown = shown_steps(r)
    if not shown:
        return []
    names = valve_names(r.job)
    rows: list[list[Name]] = [
        [str(n), clock(t.at), words_of(t.kind, names), t.hand, t.note] for n, t in enumerate(shown, 1)
    ]
    head: list[Name] = ["", *(message(f"report-{k}") for k in ("time", "step", "hand", "note"))]
    widths = [8 * mm, 18 * mm, 66 * mm, 26 * mm, WIDTH - 118 * mm]
    return [Heading(message("report-steps", since=stamp_both(shown[0].at))), listed(head, rows, widths, SMALL)]


EACH = 42


def readings(r: Record) -> list[Flowable]:
    """Readings at even steps, of every gauge."""
    if r.at is None or r.pa is None or r.at.size < 2:
        return []
    parts = [_table(message("report-readings"), r.at, r.pa)]
    parts += [_table(message("report-readings-of", gauge=g.name), g.at, g.pa) for g in r.others if g.at.size > 1]
    if r.is_simulated:
        parts.append(text(message("report-simulated"), SMALL))
    return parts


def _table(title: Name, at: FloatArray, pa: FloatArray) -> Flowable:
    picks = np.unique(np.linspace(0, at.size - 1, min(EACH, at.size)).astype(int))
    cells: list[tuple[Name, Name]] = [
        (
            clock(float(at[i])),
            message("report-over-range") if np.isnan(pa[i]) else message("level", level=vacuum(float(pa[i]))),
        )
        for i in picks
    ]
    per = -(-len(cells) // 6)
    rows: list[list[Name]] = []
    for k in range(per):
        row: list[Name] = []
        for c in range(6):
            row += list(cells[c * per + k]) if c * per + k < len(cells) else ["", ""]
        rows.append(row)
    head: list[Name] = [message("report-time"), message("report-reading")] * 6
    return KeepTogether([Heading(title), listed(head, rows, [WIDTH / 12] * 12, SMALL)])
