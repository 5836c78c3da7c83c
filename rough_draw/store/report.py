"""The report: one evacuation on paper, for a customer, an inspector and a lawyer."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, KeepTogether, SimpleDocTemplate, Spacer

from rough_draw import __version__
from rough_draw.core.advice.drawing import gauge_place
from rough_draw.core.advice.setup_check import answers
from rough_draw.core.charging.charge import empty_after, grams_per_year
from rough_draw.core.hold.result import Verdict
from rough_draw.core.hold.verdict import ALGORITHM
from rough_draw.core.hold.wording import cause, charge_loss, disagreements, headline, likely, reasons
from rough_draw.core.message import Figure, Message, Name, message
from rough_draw.core.message import listed as all_listed
from rough_draw.core.message.figure import duration, length, mass, rise, share, temperature, throughput, vacuum
from rough_draw.core.message.figure import volume as volume_of
from rough_draw.core.model.assemble import Assembly, valve_names
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.system import build_system
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA, kelvin
from rough_draw.core.proving.assessment import prove
from rough_draw.core.proving.checklist import GateState
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import hose_size, pump_name, pump_size
from rough_draw.core.sheet.rig import HosePart, ManifoldPart, PumpPart, Rig
from rough_draw.core.sheet.run_state import Touch, known, words_of
from rough_draw.core.sheet.scope import Port
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.store.report_charts import INK, draw_chart, hold_chart
from rough_draw.store.report_closing import Closing, Numbered, closing
from rough_draw.store.report_parts import HEAD, SMALL, TITLE, VERDICT, WIDTH, grid, listed, text
from rough_draw.text import say

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Record:
    """Everything that goes on paper. Times are epoch seconds, pressures Pa; ``deviations`` with their reasons."""

    job: Job
    touches: tuple[Touch, ...]
    at: FloatArray | None
    pa: FloatArray | None
    gauge: str
    verdict: Verdict | None
    hold_start: float | None
    inside: Name
    inputs_hash: str
    volume: float = 0.0
    judged_on: tuple[Message, ...] = ()
    deviations: tuple[tuple[Name, str], ...] = ()
    assembly: Assembly | None = None
    closing: Closing = field(default_factory=Closing)


def _clock(at: float, with_date: bool = False) -> str:
    local = datetime.fromtimestamp(at).astimezone()
    return local.strftime("%Y-%m-%d %H:%M:%S %Z") if with_date else local.strftime("%H:%M:%S")


SAYS = {True: "passed", False: "failed", None: "not-yet"}
"""What a standard says, by the key of its word."""


def _level(pa: float) -> Name:
    return message("level", level=vacuum(pa))


def _range(of: Callable[[float], Figure], r: Range | Quantity) -> Message:
    """A figure with its range."""
    return message("figure-range", value=of(r.value), low=of(r.low), high=of(r.high))


def _port(port: Port, rig: Rig) -> Message:
    is_in = rig.keeps_core(port)
    return message("report-port-core-in" if is_in else "report-port-core-out", port=port.words())


def _pump(pump: PumpPart) -> Message:
    told = message(
        "report-pump-of", name=pump_name(pump), size=pump_size(pump.plate_cfm), oil=message(f"oil-is-{pump.oil}")
    )
    if not pump.blank_off_micron:
        return told
    return message("report-pump-blank-off", pump=told, level=vacuum(pump.blank_off_micron * MICRON_PA))


def _gauge(name: str, where: Name) -> Message:
    return message("report-gauge-of", name=name or message("part-gauge"), where=where)


def _gate(g: GateState) -> Message:
    return message("report-check-of", state=message(f"report-check-{g.state}"), evidence=g.words)


def _parties(r: Record) -> list[Flowable]:
    job = r.job
    p, s, rig = job.party, job.scope, job.rig
    system = build_system(s)
    volume = system.volume()
    hoses = all_listed([hose_size(x) for x in rig.parts if isinstance(x, HosePart)])
    ports = all_listed([_port(x, rig) for x in s.ports])
    body = next((x for x in rig.parts if isinstance(x, ManifoldPart)), None)
    gauge = rig.gauge
    where: Name = ""
    if r.assembly is not None:
        where = next(a.words for a in answers(job, r.assembly, isolation(job, r.assembly)) if a.letter == "b")
    oil = message("report-oil-of", oil=s.oil, mass=mass(s.oil_kg))
    rows: list[tuple[str, Name]] = [
        ("customer", p.customer),
        ("site", p.site),
        ("unit", p.unit),
        ("system", TEMPLATES[s.template].name if s.template in TEMPLATES else s.template),
        ("refrigerant", s.refrigerant),
        ("oil", oil),
        ("volume", _range(volume_of, volume)),
        ("condition", message(f"condition-{s.condition}")),
        (
            "ambient",
            message(
                "report-ambient-of", ambient=temperature(kelvin(s.ambient_c)), coldest=temperature(kelvin(s.coldest_c))
            ),
        ),
        ("elevation", message("report-elevation-of", length=length(s.elevation_m))),
        ("pump", _pump(rig.pump)),
        ("hoses", hoses),
        ("ports", ports),
        (
            "manifold",
            message("report-manifold-of", body=message(f"manifold-{body.body}"), port=body.inlet)
            if body
            else message("report-none"),
        ),
        ("gauge", _gauge(r.gauge or gauge.name, where) if gauge else message("report-dial-only")),
        ("technician", message("report-licensed", name=p.technician, licence=p.licence) if p.licence else p.technician),
        ("firm", p.firm),
    ]
    if rig.gauges[1:]:
        rows.append(("more-gauges", all_listed([_gauge(g.name, gauge_place(job, g)) for g in rig.gauges[1:]])))
    return [grid(rows)]


def _proved(r: Record) -> list[Flowable]:
    rows: list[list[Name]] = [[g.spec.title, _gate(g)] for g in prove(r.job).gates]
    half = -(-len(rows) // 2)
    # Two to a line: a normal job is to fit on two pages.
    pairs = [[*rows[k], *(rows[half + k] if half + k < len(rows) else ["", ""])] for k in range(half)]
    widths = [WIDTH * 0.17, WIDTH * 0.33] * 2
    return [
        text(message("report-proved"), HEAD),
        listed([message("report-check"), message("report-evidence")] * 2, pairs, widths, SMALL),
    ]


def _draw(r: Record) -> list[Flowable]:
    if r.at is None or r.pa is None or r.at.size < 2:
        return [text(message("report-draw"), HEAD), text(message("report-no-readings"))]
    criterion = criteria.chosen(r.job.criterion)
    t0 = float(r.at[0])
    shown = [t for t in r.touches if known(t.kind)]
    names = valve_names(r.job)
    marks = [(t.at - t0, str(n + 1)) for n, t in enumerate(shown)]
    chart = draw_chart(r.at - t0, r.pa, marks, criterion.target, WIDTH)
    rows: list[list[Name]] = [[str(n + 1), _clock(t.at), words_of(t.kind, names), t.note] for n, t in enumerate(shown)]
    parts: list[Flowable] = [
        KeepTogether([text(message("report-draw-of", count=int(r.at.size), since=_clock(t0, True)), HEAD), chart]),
    ]
    if rows:
        parts += [
            Spacer(1, 4),
            listed(
                ["", message("report-time"), message("report-step"), message("report-note")],
                rows,
                [8 * mm, 22 * mm, 70 * mm, WIDTH - 100 * mm],
                SMALL,
            ),
        ]
    return parts


def _deviations(r: Record) -> list[Flowable]:
    """What was not done or came out otherwise, with its reason: it stands before all that was done."""
    words: list[Message] = []
    for what, reason in r.deviations:
        key = "report-deviation-why" if reason else "report-deviation-open"
        words.append(message(key, what=what, reason=reason))
    lines = [text(w) for w in words] or [text(message("report-no-deviations"))]
    return [KeepTogether([text(message("report-deviations"), HEAD), *lines])]


def _hold(r: Record) -> list[Flowable]:
    v = r.verdict
    if v is None or r.hold_start is None or r.at is None or r.pa is None:
        return [text(message("report-hold"), HEAD), text(message("report-no-hold"))]
    criterion = criteria.chosen(r.job.criterion)
    keep = (r.at >= r.hold_start) & np.isfinite(r.pa)
    t, p = r.at[keep] - r.hold_start, r.pa[keep]
    within = t <= v.span + 1.0
    fit = v.best()
    if v.verdict in ("unverified", "invalid"):
        # Nothing was found out, and there are no odds of that.
        words = [message("report-certifies-nothing", time=duration(v.span), inside=r.inside)]
    else:
        sure = {"likely": likely(v.probability), "odds": share(v.probability)}
        words = [message("report-verdict", time=duration(v.span), inside=r.inside, **sure)]
    words += [*r.judged_on, *reasons(v)]
    odds = sorted(v.odds.items(), key=lambda x: x[1], reverse=True)
    if odds:
        named = [message("report-odds-of", cause=cause(k), odds=share(x)) for k, x in odds]
        words.append(message("report-odds", causes=all_listed(named)))
    if "leak" in v.verdict:
        rates = Range(v.rate.low * MICRON_PA, v.rate.value * MICRON_PA, v.rate.high * MICRON_PA)
        flow = throughput(v.leak.value)
        words.append(message("report-leak", rate=_range(rise, rates), inflow=flow))
    if "moisture" in v.verdict:
        m = v.moisture
        left = Range(1e-3 * m.low, 1e-3 * m.value, 1e-3 * m.high)
        words.append(message("report-water", mass=_range(mass, left)))
    words += disagreements(v)
    words += charge_loss(v, r.volume, empty_after(grams_per_year(v.leak, r.job.scope), r.job.scope.nameplate_kg))
    parts: list[Flowable] = [
        KeepTogether(
            [
                text(message("report-hold"), HEAD),
                text(headline(v), VERDICT),
                hold_chart(t[within], p[within], fit, criterion.limit, WIDTH),
            ]
        )
    ]
    parts += [text(w) for w in words]
    rows = [[o.name, message(f"report-{SAYS[o.passed]}"), o.reason] for o in v.criteria]
    head = [message(f"report-{k}") for k in ("standard", "says", "because")]
    parts += [Spacer(1, 4), listed(head, rows, [38 * mm, 20 * mm, WIDTH - 58 * mm], SMALL)]
    return parts


def _readings(r: Record) -> list[Flowable]:
    if r.at is None or r.pa is None or r.at.size < 2:
        return []
    count = min(40, r.at.size)
    picks = np.unique(np.linspace(0, r.at.size - 1, count).astype(int))
    cells = [
        (_clock(float(r.at[i])), message("report-over-range") if np.isnan(r.pa[i]) else _level(float(r.pa[i])))
        for i in picks
    ]
    per = -(-len(cells) // 6)
    rows = []
    for k in range(per):
        row: list[Name] = []
        for c in range(6):
            row += list(cells[c * per + k]) if c * per + k < len(cells) else ["", ""]
        rows.append(row)
    head = [message("report-time"), message("report-reading")] * 6
    return [KeepTogether([text(message("report-readings"), HEAD), listed(head, rows, [WIDTH / 12] * 12, SMALL)])]


def _closing(r: Record) -> list[Flowable]:
    return closing(r.job, r.closing)


def render(record: Record, printed_at: datetime | None = None) -> bytes:
    """The report as PDF bytes. ``printed_at`` is the time in the footer (now, if not given)."""
    out = io.BytesIO()
    job = record.job
    when = (printed_at or datetime.now().astimezone()).strftime("%Y-%m-%d %H:%M")
    made = {"version": __version__, "algorithm": ALGORITHM, "when": when}
    foot = say(message("report-foot", **made))
    if record.inputs_hash:
        foot = say(message("report-foot-hash", hash=record.inputs_hash[:16], **made))

    def page(canvas: Canvas, _: SimpleDocTemplate) -> None:
        canvas.saveState()
        canvas.setFont("Helvetica", 7)
        canvas.setFillColor(INK)
        canvas.drawString(18 * mm, 10 * mm, foot)
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
        title=say(message("report-title-of", customer=job.party.customer, unit=job.party.unit)).strip(" :"),
        author=job.party.firm,
    )
    customer = job.party.customer or say(message("report-evacuation"))
    heading = f"{customer}: {job.party.unit}".rstrip(": ")
    story: list[Flowable] = [text(message("report-title"), SMALL), text(heading, TITLE), Spacer(1, 4)]
    criterion = criteria.chosen(job.criterion)
    story += _parties(record)
    story.append(text(message("report-criterion", standard=criterion.name, rule=criterion.rule())))
    for section in (_deviations, _draw, _hold, _proved, _readings, _closing):
        story += section(record)
    doc.build(story, onFirstPage=page, onLaterPages=page, canvasmaker=Numbered)
    return out.getvalue()
