"""The end of the report: charge, ports, running readings, kit, cautions, signature, seal and amendments."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from reportlab.graphics.shapes import Drawing, Line, Path
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, KeepTogether, Spacer

from rough_draw.core.charging.cautions import caution, caution_keys, ticked
from rough_draw.core.charging.charge import charge_to_weigh
from rough_draw.core.interlock.release import release_steps
from rough_draw.core.message import Message, Name, all_of, message
from rough_draw.core.message import listed as listed_names
from rough_draw.core.message.figure import duration, gauge_pressure, mass, temperature
from rough_draw.core.physics.units import kelvin
from rough_draw.core.records.hash_chain import Entry, closing_of
from rough_draw.core.sheet.job import Job, Release, Running
from rough_draw.core.sheet.scope import Port
from rough_draw.store.report_charts import INK, MEASURED, STRONG
from rough_draw.store.report_parts import HEAD, SMALL, WIDTH, grid, listed, text
from rough_draw.text import say

PAD_W, PAD_H = 600.0, 160.0


@dataclass(frozen=True, kw_only=True)
class Closing:
    """What the end of the report rests on beside the sheet.

    Weights kg from the scale or as typed; ``running`` judged words by "first" and "later"; ``kit`` rows of name, number
    and how it stands; the ``chain`` of a sealed record and what is ``wrong`` with it.
    """

    start_kg: float | None = None
    end_kg: float | None = None
    running: tuple[tuple[str, tuple[Name, ...]], ...] = ()
    kit: tuple[tuple[Name, Name, Name], ...] = ()
    chain: tuple[Entry, ...] = ()
    wrong: tuple[Message, ...] = ()


def _port_checked(release: Release, port: Port) -> Message:
    """How a port was checked, for how long, and whether it held."""
    seen = message(f"port-{release.port_checks[port.id]}")
    result = release.port_results.get(port.id)
    if result is None:
        return message("report-port-checked", port=port.words(), seen=seen)
    told = "report-port-tight" if result.tight else "report-port-leaks"
    return message(told, port=port.words(), seen=seen, time=duration(60.0 * result.minutes))


def _weights(release: Release, c: Closing) -> Message:
    """What the scale showed: before, in between, after."""
    if c.start_kg is None or c.end_kg is None:
        return message("report-no-weights")
    plain = message("report-weights", before=mass(c.start_kg), after=mass(c.end_kg))
    between = listed_names([message("report-mass", mass=mass(x)) for x in release.interim_kg])
    return message("report-weights-between", weights=plain, between=between) if release.interim_kg else plain


def _charge(job: Job, c: Closing) -> list[tuple[str, Name]]:
    charge = charge_to_weigh(job.scope)
    release = job.release
    weighed = release.weighed_kg
    if weighed is None and c.start_kg is not None and c.end_kg is not None:
        weighed = c.start_kg - c.end_kg
    done = [s.title for s in release_steps(job) if s.key in release.steps_done]
    checks = [_port_checked(release, p) for p in job.scope.ports if p.id in release.port_checks]
    to_weigh = message("report-no-nameplate")
    if charge is not None:
        to_weigh = message("report-to-weigh-of", mass=mass(charge.to_weigh), sum=charge.words)
    return [
        ("to-weigh", to_weigh),
        ("weighed", message("report-mass", mass=mass(weighed)) if weighed is not None else ""),
        ("scale", _weights(release, c)),
        ("recovered", message("report-mass", mass=mass(release.recovered_kg)) if release.recovered_kg else ""),
        ("release", listed_names(done)),
        ("ports-checked", listed_names(checks) or message("report-none-recorded")),
        ("new-cores", str(release.cores_new)),
    ]


def _seen(name: str, r: Running | None, words: Sequence[Name]) -> tuple[str, Name] | None:
    if r is None:
        return None
    found: list[Name] = []
    if r.at:
        found.append(datetime.fromtimestamp(r.at).astimezone().strftime("%Y-%m-%d %H:%M"))
    for key, kpa in (("suction", r.suction_kpa), ("liquid", r.liquid_kpa)):
        if kpa is not None:
            found.append(message(f"report-running-{key}", pressure=gauge_pressure(1e3 * kpa)))
    for key, c in (("suction", r.suction_c), ("liquid", r.liquid_c), ("in", r.in_c), ("out", r.out_c)):
        if c is not None:
            found.append(message(f"report-running-{key}-at", temperature=temperature(kelvin(c))))
    if r.condensate is not None:
        found.append(message("report-condensate" if r.condensate else "report-no-condensate"))
    return name, listed_names([*found, *([r.note] if r.note else []), *words])


def drawn(path: str, width: float) -> Drawing | None:
    """A signature as it was drawn: strokes M x y L x y …, on a pad of 600 by 160. None where there is none, or no
    path."""
    scale = width / PAD_W
    out = Drawing(width, PAD_H * scale)
    strokes = Path(strokeColor=MEASURED, strokeWidth=1.1, fillColor=None)
    words = path.replace("M", " M ").replace("L", " L ").split()
    count, k = 0, 0
    try:
        while k + 2 < len(words):
            x, y = float(words[k + 1]) * scale, (PAD_H - float(words[k + 2])) * scale
            if not (math.isfinite(x) and math.isfinite(y)) or words[k] not in "ML":
                return None
            (strokes.moveTo if words[k] == "M" else strokes.lineTo)(x, y)
            count, k = count + 1, k + 3
    except ValueError:
        return None
    if count < 2:
        return None
    out.add(Line(0, 0.2 * PAD_H * scale, width, 0.2 * PAD_H * scale, strokeColor=STRONG, strokeWidth=0.6))
    out.add(strokes)
    return out


def _sealed(c: Closing) -> list[Flowable]:
    closed = closing_of(c.chain)
    if closed is None:
        return []
    when = datetime.fromtimestamp(closed.at).astimezone().strftime("%Y-%m-%d %H:%M:%S %Z")
    state = message("report-not-whole", faults=all_of(c.wrong) or "") if c.wrong else message("report-whole")
    sealed = {"when": when, "by": str(closed.body.get("by", "")), "count": len(c.chain)}
    rows: list[tuple[str, Name]] = [
        ("sealed", message("report-sealed-of", state=state, **sealed)),
        ("hash", closed.hash),
    ]
    parts: list[Flowable] = [text(message("report-seal"), HEAD), grid(rows, 1)]
    amended = [_amended(e.at, e.body) for e in c.chain if e.kind == "amendment"]
    if amended:
        widths = [30 * mm, 30 * mm, 35 * mm, 35 * mm, WIDTH - 130 * mm]
        parts += [
            Spacer(1, 4),
            listed(
                [message(f"report-amended-{k}") for k in ("when", "what", "said", "should", "why")], amended, widths
            ),
        ]
    return parts


def _amended(at: float, body: Any) -> list[str]:
    when = datetime.fromtimestamp(at).astimezone().strftime("%Y-%m-%d %H:%M")
    return [
        when,
        body.get("what", ""),
        body.get("before", ""),
        body.get("after", ""),
        f"{body.get('reason', '')} ({body.get('by', '')})",
    ]


def closing(job: Job, c: Closing) -> list[Flowable]:
    """Everything after the hold and the proofs."""
    words = dict(c.running)
    seen = [_seen("first", job.release.first, words.get("first", ()))]
    seen.append(_seen("later", job.release.later, words.get("later", ())))
    rows = _charge(job, c) + [s for s in seen if s is not None]
    if job.closing.deviation:
        rows.append(("deviations", job.closing.deviation))
    rows.append(("remarks", job.closing.remarks or message("report-none")))
    parts: list[Flowable] = [text(message("report-release-and-charge"), HEAD), grid(rows, 1)]
    if c.kit:
        parts += [
            text(message("report-kit"), HEAD),
            listed(
                [message(f"report-kit-{k}") for k in ("part", "number", "health")],
                [list(k) for k in c.kit],
                [WIDTH * 0.4, 20 * mm, WIDTH * 0.6 - 20 * mm],
                SMALL,
            ),
        ]
    told = job.closing.acknowledged
    parts.append(text(message("report-cautions"), HEAD))
    refrigerant = job.scope.refrigerant
    for key in caution_keys(job.scope):
        mark = "report-ticked" if ticked(key, refrigerant, told) else "report-unticked"
        parts.append(text(message(mark, what=caution(key, refrigerant)), SMALL))
    signature = drawn(job.closing.signature, 70 * mm)
    signed: list[Flowable] = [text(message("report-signature"), HEAD)]
    if signature is not None:
        signed.append(signature)
    signed.append(text(f"{job.closing.signed_by} {job.closing.signed_at}".strip() or message("report-not-signed")))
    parts.append(KeepTogether(signed))
    return parts + _sealed(c)


class Numbered(Canvas):
    """A canvas that knows at its end how many pages there are, and says so on each."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._pages: list[dict[str, Any]] = []

    def showPage(self) -> None:
        """Keep the page until all are there."""
        self._pages.append(dict(self.__dict__))
        self._startPage()

    def save(self) -> None:
        """Write every page with its number and the number of all."""
        for n, state in enumerate(self._pages, 1):
            self.__dict__.update(state)
            self.setFont("Helvetica", 7)
            self.setFillColor(INK)
            self.drawRightString(
                A4[0] - 18 * mm, 10 * mm, say(message("report-page", number=n, count=len(self._pages)))
            )
            super().showPage()
        super().save()
