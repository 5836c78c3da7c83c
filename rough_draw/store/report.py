"""The report: one evacuation on paper, for a customer, an inspector and a lawyer."""

from __future__ import annotations

import io
from dataclasses import dataclass, field
from datetime import datetime

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, KeepTogether, SimpleDocTemplate, Spacer

from rough_draw import __version__
from rough_draw.core.advice.setup_check import answers
from rough_draw.core.charging.charge import grams_per_year
from rough_draw.core.hold.result import Verdict
from rough_draw.core.hold.verdict import ALGORITHM
from rough_draw.core.hold.wording import NAMES, disagreements, likely, reasons
from rough_draw.core.model.assemble import Assembly, valve_names
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.rig_graph import hose_label
from rough_draw.core.model.system import build_system
from rough_draw.core.physics.units import micron
from rough_draw.core.proving.assessment import prove
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import HosePart, ManifoldPart
from rough_draw.core.sheet.run_state import Touch, known, words_of
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.store.report_charts import INK, draw_chart, hold_chart
from rough_draw.store.report_closing import Closing, Numbered, closing
from rough_draw.store.report_parts import HEAD, SMALL, TITLE, VERDICT, WIDTH, grid, listed, text

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Record:
    """Everything that goes on paper. Times are epoch seconds, pressures Pa."""

    job: Job
    touches: tuple[Touch, ...]
    at: FloatArray | None
    pa: FloatArray | None
    gauge: str
    verdict: Verdict | None
    hold_start: float | None
    inside: str
    inputs_hash: str
    assembly: Assembly | None = None
    closing: Closing = field(default_factory=Closing)


def _clock(at: float, with_date: bool = False) -> str:
    local = datetime.fromtimestamp(at).astimezone()
    return local.strftime("%Y-%m-%d %H:%M:%S %Z") if with_date else local.strftime("%H:%M:%S")


def _parties(r: Record) -> list[Flowable]:
    job = r.job
    p, s, rig = job.party, job.scope, job.rig
    system = build_system(s)
    volume = system.volume()
    hoses = ", ".join(hose_label(x).replace("·", "×") for x in rig.parts if isinstance(x, HosePart))
    ports = ", ".join(
        f"{x.words()} ({'core in' if x.core and (x.id in rig.cores_in or rig.on_port(x.id) is None) else 'core out'})"
        for x in s.ports
    )
    body = next((x for x in rig.parts if isinstance(x, ManifoldPart)), None)
    gauge = rig.gauge
    where = ""
    if r.assembly is not None:
        where = next(a.words for a in answers(job, r.assembly, isolation(job, r.assembly)) if a.letter == "b")
    oil = f"{s.oil}, {s.oil_kg:g} kg"
    blank = f", blank-off {rig.pump.blank_off_micron:,.0f} µ" if rig.pump.blank_off_micron else ""
    rows = [
        ("Customer", p.customer),
        ("Site", p.site),
        ("Unit", p.unit),
        ("System", TEMPLATES[s.template].name if s.template in TEMPLATES else s.template),
        ("Refrigerant", s.refrigerant),
        ("Oil", oil),
        ("Volume", f"{volume.value * 1e3:.1f} l ({volume.low * 1e3:.1f} to {volume.high * 1e3:.1f})"),
        ("Condition", s.condition.replace("-", " ")),
        ("Ambient", f"{s.ambient_c:g} °C, coldest spot {s.coldest_c:g} °C"),
        ("Elevation", f"{s.elevation_m:g} m"),
        ("Pump", f"{rig.pump.name or 'pump'}, {rig.pump.plate_cfm:g} CFM, oil {rig.pump.oil}{blank}"),
        ("Hoses", hoses),
        ("Ports", ports),
        ("Manifold", f"{body.body}, pump on its {body.inlet} place" if body else "none"),
        ("Gauge", f"{r.gauge or (gauge.name if gauge else '') or 'gauge'}. {where}" if gauge else "dial only"),
        ("Technician", f"{p.technician}{', licence ' + p.licence if p.licence else ''}"),
        ("Firm", p.firm),
    ]
    return [grid(rows)]


def _proved(r: Record) -> list[Flowable]:
    said = {"open": "not recorded", "skipped": "SKIPPED", "failed": "FAILED"}
    rows = [[g.spec.title, f"{said.get(g.state, g.state)}. {g.words}".rstrip(". ") + "."] for g in prove(r.job).gates]
    half = -(-len(rows) // 2)
    # Two to a line: a normal job is to fit on two pages.
    pairs = [[*rows[k], *(rows[half + k] if half + k < len(rows) else ["", ""])] for k in range(half)]
    widths = [WIDTH * 0.17, WIDTH * 0.33] * 2
    return [text("Proved before the pump ran", HEAD), listed(["Gate", "State and evidence"] * 2, pairs, widths, SMALL)]


def _draw(r: Record) -> list[Flowable]:
    if r.at is None or r.pa is None or r.at.size < 2:
        return [text("Draw", HEAD), text("No readings were taken.")]
    criterion = criteria.chosen(r.job.criterion)
    t0 = float(r.at[0])
    shown = [t for t in r.touches if known(t.kind)]
    names = valve_names(r.job)
    marks = [(t.at - t0, str(n + 1)) for n, t in enumerate(shown)]
    chart = draw_chart(r.at - t0, r.pa, marks, criterion.target, WIDTH)
    rows = [[str(n + 1), _clock(t.at), words_of(t.kind, names), t.note] for n, t in enumerate(shown)]
    parts: list[Flowable] = [
        KeepTogether([text(f"Draw: {r.at.size:,} readings from {_clock(t0, True)}", HEAD), chart]),
    ]
    if rows:
        parts += [
            Spacer(1, 4),
            listed(["", "Time", "Touch", "Note"], rows, [8 * mm, 22 * mm, 70 * mm, WIDTH - 100 * mm], SMALL),
        ]
    return parts


def _hold(r: Record) -> list[Flowable]:
    v = r.verdict
    if v is None or r.hold_start is None or r.at is None or r.pa is None:
        return [text("Hold", HEAD), text("No hold was read.")]
    criterion = criteria.chosen(r.job.criterion)
    keep = (r.at >= r.hold_start) & np.isfinite(r.pa)
    t, p = r.at[keep] - r.hold_start, r.pa[keep]
    within = t <= v.span + 1.0
    fit = v.best()
    words = [f"{v.sentence}: {likely(v.probability)}, {v.probability:.0%}; {v.span / 60:.0f} min read; {r.inside}."]
    words += [x[0].upper() + x[1:] + "." for x in reasons(v)]
    odds = sorted(v.odds.items(), key=lambda x: x[1], reverse=True)
    if odds:
        words.append("Odds: " + ", ".join(f"{NAMES[k]} {x:.1%}" for k, x in odds) + ".")
    if "leak" in v.verdict:
        g = grams_per_year(v.leak, r.job.scope)
        words.append(
            f"Leak {v.rate.value:.2f} µ/s ({v.rate.low:.2f} to {v.rate.high:.2f}), {v.leak.value:.2e} Pa·m³/s, "
            f"about {g.value:,.0f} g a year at working pressure ({g.low:,.0f} to {g.high:,.0f}, estimate)."
        )
    if "moisture" in v.verdict:
        m = v.moisture
        words.append(f"Water left {m.value:.2f} g ({m.low:.2f} to {m.high:.2f}).")
    words += disagreements(v, grams_per_year(v.leak, r.job.scope))
    parts: list[Flowable] = [
        KeepTogether(
            [
                text("Hold", HEAD),
                text(v.sentence, VERDICT),
                hold_chart(t[within], p[within], fit, criterion.limit, WIDTH),
            ]
        )
    ]
    parts += [text(w) for w in words]
    said = {True: "passed", False: "FAILED", None: "not yet"}
    rows = [[o.name, said[o.passed], o.reason] for o in v.criteria]
    parts += [Spacer(1, 4), listed(["School", "Says", "Because"], rows, [38 * mm, 20 * mm, WIDTH - 58 * mm], SMALL)]
    return parts


def _readings(r: Record) -> list[Flowable]:
    if r.at is None or r.pa is None or r.at.size < 2:
        return []
    count = min(40, r.at.size)
    picks = np.unique(np.linspace(0, r.at.size - 1, count).astype(int))
    cells = [
        (_clock(float(r.at[i])), "over range" if np.isnan(r.pa[i]) else f"{micron(float(r.pa[i])):,.0f} µ")
        for i in picks
    ]
    per = -(-len(cells) // 6)
    rows = []
    for k in range(per):
        row: list[str] = []
        for c in range(6):
            row += list(cells[c * per + k]) if c * per + k < len(cells) else ["", ""]
        rows.append(row)
    head = ["Time", "Reading"] * 6
    return [KeepTogether([text("Readings at even steps", HEAD), listed(head, rows, [WIDTH / 12] * 12, SMALL)])]


def _closing(r: Record) -> list[Flowable]:
    return closing(r.job, r.closing)


def render(record: Record, printed_at: datetime | None = None) -> bytes:
    """The report as PDF bytes. ``printed_at`` is the time in the footer (now, if not given)."""
    out = io.BytesIO()
    job = record.job
    when = (printed_at or datetime.now().astimezone()).strftime("%Y-%m-%d %H:%M")
    foot = f"Rough Draw {__version__}, verdict {ALGORITHM}"
    if record.inputs_hash:
        foot += f", hold data SHA-256 {record.inputs_hash[:16]}"

    def page(canvas: Canvas, _: SimpleDocTemplate) -> None:
        canvas.saveState()
        canvas.setFont("Helvetica", 7)
        canvas.setFillColor(INK)
        canvas.drawString(18 * mm, 10 * mm, f"{foot}, printed {when}")
        canvas.setStrokeColor(INK)
        canvas.setLineWidth(1.2)
        canvas.line(18 * mm, 14 * mm, A4[0] - 18 * mm, 14 * mm)
        canvas.restoreState()

    doc = SimpleDocTemplate(
        out,
        pagesize=A4,
        leftMargin=18 * mm,
        rightMargin=18 * mm,
        topMargin=15 * mm,
        bottomMargin=18 * mm,
        title=f"Evacuation record: {job.party.customer} {job.party.unit}".strip(),
        author=job.party.firm,
    )
    heading = f"{job.party.customer or 'Evacuation'}: {job.party.unit}".rstrip(": ")
    story: list[Flowable] = [text("Evacuation record", SMALL), text(heading, TITLE), Spacer(1, 4)]
    criterion = criteria.chosen(job.criterion)
    story += _parties(record)
    story.append(text(f"Criterion: {criterion.name}: {criterion.rule()}."))
    for section in (_draw, _hold, _proved, _readings, _closing):
        story += section(record)
    doc.build(story, onFirstPage=page, onLaterPages=page, canvasmaker=Numbered)
    return out.getvalue()
