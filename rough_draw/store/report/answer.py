"""The first page, the answer: what was evacuated, where and by whom, what came out, what deviates, signature."""

from __future__ import annotations

import io
from collections.abc import Sequence

import numpy as np
from reportlab.lib.colors import Color
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Image, KeepTogether, Spacer, Table, TableStyle

from rough_draw.core.hold.wording import headline, likely
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import duration, mass, rise, share, vacuum
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.run_state import Touch, known
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.store.report.charts import Curve, draw_chart
from rough_draw.store.report.closing import signed, weighed_in
from rough_draw.store.report.inks import GREEN, INK, OCHRE, STOP, STRONG
from rough_draw.store.report.record import Record, stamp_both
from rough_draw.store.report.style import FIGURE, SMALL, STRONG_TEXT, TITLE, VERDICT, WIDTH, Heading, text
from rough_draw.text import say

LOGO = (42 * mm, 18 * mm)
TONES: dict[str, Color] = {"tight-and-dry": GREEN, "moisture": OCHRE, "hose": OCHRE, "unverified": OCHRE}
SAYS = {True: "passed", False: "failed", None: "not-yet"}
"""What a standard says, by the key of its word."""


def answer(r: Record) -> list[Flowable]:
    """The whole of the first page."""
    return [
        *_head(r),
        *_verdict(r),
        Spacer(1, 5),
        _figures(r),
        *_deviations(r),
        *_trace(r),
        KeepTogether(signed(r.job)),
    ]


def _head(r: Record) -> list[Flowable]:
    job = r.job
    p, s = job.party, job.scope
    firm: list[Flowable] = []
    if r.firm.logo is not None:
        image = Image(io.BytesIO(r.firm.logo))
        image._restrictSize(*LOGO)
        image.hAlign = "RIGHT"
        firm.append(image)
    name = r.firm.name or p.firm
    firm += [text(line, SMALL) for line in (name, *r.firm.address.splitlines()) if line]
    customer = p.customer or say(message("report-evacuation"))
    title: list[Flowable] = [text(message("report-title"), SMALL), text(f"{customer}: {p.unit}".rstrip(": "), TITLE)]
    began = next((t.at for t in r.touches if t.kind == "pump-on"), None)
    began = began if began is not None or r.at is None or not r.at.size else float(r.at[0])
    system = TEMPLATES[s.template].name if s.template in TEMPLATES else s.template
    lines: list[Name] = [p.site, message("report-what-it-is", system=system, refrigerant=s.refrigerant)]
    by = message("report-licensed", name=p.technician, licence=p.licence) if p.licence else p.technician
    dated = {"dated": "no", "when": ""} if began is None else {"dated": "yes", "when": stamp_both(began)}
    lines.append(message("report-by", by=by, **dated) if by else "")
    title += [text(line) for line in lines if line]
    table = Table([[title, firm]], colWidths=[WIDTH - LOGO[0] - 4 * mm, LOGO[0] + 4 * mm])
    table.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]))
    return [table, Spacer(1, 3)]


def _verdict(r: Record) -> list[Flowable]:
    """What came out, largest of all, with its odds and what the standard says; first that it is not real, if so."""
    criterion = criteria.chosen(r.job.criterion)
    v = r.verdict
    lines: list[Flowable] = []
    tone = STOP
    if r.is_simulated:
        lines.append(text(message("report-simulated"), STRONG_TEXT))
    if v is None:
        lines.append(text(message("report-no-hold"), VERDICT))
    else:
        tone = TONES.get(v.verdict, STOP)
        lines.append(text(headline(v), VERDICT))
        if v.verdict in ("unverified", "invalid"):
            # Nothing was found out, and there are no odds of that.
            words = message("report-certifies-nothing", time=duration(v.span), inside=r.inside)
        else:
            sure = {"likely": likely(v.probability), "odds": share(v.probability)}
            words = message("report-verdict", time=duration(v.span), inside=r.inside, **sure)
        lines.append(text(words))
    outcome = v.criteria[0] if v is not None and v.criteria else None
    says = message(f"report-{SAYS[outcome.passed]}") if outcome is not None else message("report-not-yet")
    lines.append(text(message("report-standard-says", standard=criterion.name, rule=criterion.rule(), says=says)))
    box = Table([[lines]], colWidths=[WIDTH])
    rule = ("LINEBEFORE", (0, 0), (0, -1), 4, tone)
    box.setStyle(TableStyle([rule, ("BOX", (0, 0), (-1, -1), 1.0, INK), ("LEFTPADDING", (0, 0), (-1, -1), 10)]))
    return [box]


def _at(r: Record, moment: float) -> float | None:
    """The reading nearest before a moment, Pa."""
    if r.at is None or r.pa is None:
        return None
    keep = (r.at <= moment + 1.0) & np.isfinite(r.pa)
    return float(r.pa[keep][-1]) if keep.any() else None


def _figures(r: Record) -> Table:
    """The figures that are asked for: lowest, at isolation, at the end, how long, how fast, how much."""
    v = r.verdict
    lowest = float(np.nanmin(r.pa)) if r.pa is not None and np.isfinite(r.pa).any() else None
    isolated = _at(r, r.hold_start) if r.hold_start is not None else None
    end = _at(r, r.hold_start + v.span) if r.hold_start is not None and v is not None else None
    weighed = weighed_in(r.job, r.closing)
    none = message("report-no-figure")
    # A needle's place in microns would pass for something that was measured.
    needle = v is not None and v.verdict == "unverified"
    levels = [message("report-by-needle") if needle else _level(pa) for pa in (lowest, isolated, end)]
    tiles: list[tuple[str, Name]] = [
        ("lowest", levels[0]),
        ("isolated", levels[1]),
        ("end", levels[2]),
        ("held", message("figure-time", time=duration(v.span)) if v is not None else none),
        ("rate", message("figure-rise", rise=rise(v.slope.value * MICRON_PA)) if v and not needle else none),
        ("charge", message("report-mass", mass=mass(weighed)) if weighed is not None else none),
    ]
    cells = [[[text(message(f"report-tile-{k}"), SMALL), text(value, FIGURE)] for k, value in tiles]]
    table = Table(cells, colWidths=[WIDTH / len(tiles)] * len(tiles))
    style = [("INNERGRID", (0, 0), (-1, -1), 0.5, STRONG), ("BOX", (0, 0), (-1, -1), 0.8, INK)]
    table.setStyle(TableStyle([*style, ("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 5)]))
    return table


def _level(pa: float | None) -> Name:
    return message("level", level=vacuum(pa)) if pa is not None else message("report-no-figure")


def _deviations(r: Record) -> list[Flowable]:
    """What was not done or came out otherwise, with its reason: it stands before all that was done."""
    words: list[Message] = []
    for what, reason in r.deviations:
        key = "report-deviation-why" if reason else "report-deviation-open"
        words.append(message(key, what=what, reason=reason))
    lines = [text(w) for w in words] or [text(message("report-no-deviations"))]
    return [KeepTogether([Heading(message("report-deviations")), *lines])]


def shown_steps(r: Record) -> list[Touch]:
    """Steps of the run in their order, by the numbers that they have on the trace and in the list."""
    return [t for t in r.touches if known(t.kind)]


def _trace(r: Record) -> list[Flowable]:
    if r.at is None or r.pa is None or r.at.size < 2:
        return [Heading(message("report-draw")), text(message("report-no-readings"))]
    t0 = min(float(r.at[0]), *(float(g.at[0]) for g in r.others if g.at.size)) if r.others else float(r.at[0])
    curves = [Curve(at=r.at - t0, pa=r.pa, simulated=_since(r.simulated, t0))]
    curves += [Curve(at=g.at - t0, pa=g.pa, simulated=_since(g.simulated, t0)) for g in r.others if g.at.size > 1]
    marks = [(t.at - t0, str(n)) for n, t in enumerate(shown_steps(r), 1)]
    end = max(float(c.at[-1]) for c in curves)
    chart = draw_chart(curves, [m for m in marks if m[0] <= end], criteria.chosen(r.job.criterion).target, WIDTH)
    parts: list[Flowable] = [Heading(message("report-draw-of", count=int(r.at.size), since=stamp_both(t0))), chart]
    if len(curves) > 1:
        parts.append(text(message("report-dashed", gauges=r.others[0].name), SMALL))
    return [KeepTogether(parts)]


def _since(spans: Sequence[tuple[float, float]], t0: float) -> tuple[tuple[float, float], ...]:
    return tuple((a - t0, b - t0) for a, b in spans)
