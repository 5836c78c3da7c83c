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

from rough_draw.core.charging.charge import cautions, charge_to_weigh
from rough_draw.core.interlock.release import release_steps
from rough_draw.core.records.hash_chain import Entry
from rough_draw.core.sheet.job import Job, Running
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
    running: tuple[tuple[str, tuple[str, ...]], ...] = ()
    kit: tuple[tuple[str, str, str], ...] = ()
    chain: tuple[Entry, ...] = ()
    wrong: tuple[str, ...] = ()


def _kg(x: float | None) -> str:
    return f"{x:.3f} kg" if x is not None else ""


def _charge(job: Job, c: Closing) -> list[tuple[str, str]]:
    charge = charge_to_weigh(job.scope)
    release = job.release
    weighed = release.weighed_kg
    if weighed is None and c.start_kg is not None and c.end_kg is not None:
        weighed = c.start_kg - c.end_kg
    scale = (
        f"{_kg(c.start_kg)} before, {_kg(c.end_kg)} after" if c.start_kg is not None and c.end_kg is not None else ""
    )
    done = [say(s.title) for s in release_steps(job) if s.key in release.steps_done]
    checks = "; ".join(
        f"{p.words()}: {release.port_checks[p.id]}" for p in job.scope.ports if p.id in release.port_checks
    )
    return [
        ("To weigh in", f"{charge.to_weigh:.2f} kg: {charge.words}" if charge else "no nameplate charge given"),
        ("Weighed in", f"{weighed:.2f} kg" if weighed is not None else ""),
        ("By the scale", scale or "no weights taken"),
        ("Release", "; ".join(done)),
        ("Ports looked at", checks or "none recorded"),
        ("New cores", str(release.cores_new)),
    ]


def _seen(name: str, r: Running | None, words: Sequence[str]) -> tuple[str, str] | None:
    if r is None:
        return None
    figures = [
        f"suction {r.suction_kpa:g} kPa" if r.suction_kpa is not None else "",
        f"{r.suction_c:g} °C" if r.suction_c is not None else "",
        f"liquid {r.liquid_kpa:g} kPa" if r.liquid_kpa is not None else "",
        f"{r.liquid_c:g} °C" if r.liquid_c is not None else "",
        f"in {r.in_c:g} °C" if r.in_c is not None else "",
        f"out {r.out_c:g} °C" if r.out_c is not None else "",
        {True: "condensate runs off", False: "no condensate", None: ""}[r.condensate],
        r.note,
        *words,
    ]
    when = datetime.fromtimestamp(r.at).astimezone().strftime("%Y-%m-%d %H:%M: ") if r.at else ""
    return name, when + ", ".join(f for f in figures if f)


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
    closed = next((e for e in c.chain if e.kind == "closed"), None)
    if closed is None:
        return []
    when = datetime.fromtimestamp(closed.at).astimezone().strftime("%Y-%m-%d %H:%M:%S %Z")
    state = "NOT WHOLE: " + "; ".join(c.wrong) if c.wrong else "whole: nothing was changed since"
    rows: list[tuple[str, str]] = [
        ("Sealed", f"{when} by {closed.body.get('by', '')}, {len(c.chain)} entries, {state}"),
        ("Hash", closed.hash),
    ]
    parts: list[Flowable] = [text("Seal", HEAD), grid(rows, 1)]
    amended = [_amended(e.at, e.body) for e in c.chain if e.kind == "amendment"]
    if amended:
        widths = [30 * mm, 30 * mm, 35 * mm, 35 * mm, WIDTH - 130 * mm]
        parts += [
            Spacer(1, 4),
            listed(["Amended", "What", "It said", "It should say", "Why, and by whom"], amended, widths),
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
    seen = [_seen("After the start", job.release.first, words.get("first", ()))]
    seen.append(_seen("Days later", job.release.later, words.get("later", ())))
    rows = _charge(job, c) + [s for s in seen if s is not None]
    rows += [("Deviations", job.closing.deviation or "none recorded"), ("Remarks", job.closing.remarks or "none")]
    parts: list[Flowable] = [text("Release and charge", HEAD), grid(rows, 1)]
    if c.kit:
        parts += [
            text("Kit", HEAD),
            listed(
                ["Part", "Number", "How it stands"],
                [list(k) for k in c.kit],
                [WIDTH * 0.4, 20 * mm, WIDTH * 0.6 - 20 * mm],
                SMALL,
            ),
        ]
    told = set(job.closing.acknowledged)
    parts.append(text("Cautions", HEAD))
    parts += [text(f"{'[x]' if w in told else '[ ]'} {w}", SMALL) for w in cautions(job.scope)]
    signature = drawn(job.closing.signature, 70 * mm)
    signed: list[Flowable] = [text("Signature", HEAD)]
    if signature is not None:
        signed.append(signature)
    signed.append(text(f"{job.closing.signed_by} {job.closing.signed_at}".strip() or "not signed"))
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
            self.drawRightString(A4[0] - 18 * mm, 10 * mm, f"page {n} of {len(self._pages)}")
            super().showPage()
        super().save()
