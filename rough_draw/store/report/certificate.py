"""A certificate on paper: who has passed what, and the hash by which its text is known."""

from __future__ import annotations

import io
from typing import Any

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.platypus import SimpleDocTemplate, Spacer, Table, TableStyle

from rough_draw.core.message import Name, message
from rough_draw.core.message.figure import number
from rough_draw.core.records.firm_signature import fingerprint
from rough_draw.store.qr import qr_drawing
from rough_draw.store.report.inks import INK
from rough_draw.store.report.style import BODY, HEAD, SMALL, TITLE, VERDICT, WIDTH, listed, text
from rough_draw.text import say
from rough_draw.text.reader import reader

QR = 30 * mm


def render_certificate(told: dict[str, Any]) -> bytes:
    """A certificate, as it was written, as PDF bytes."""
    out = io.BytesIO()
    who: Name = str(told["name"]) or message("certificate-nobody")
    head = message("certificate-who", name=who, level=str(told["level"]))
    count, mean = str(len(told["jobs"])), number(float(told["mean"]))
    doc = SimpleDocTemplate(
        out,
        pagesize=A4,
        leftMargin=18 * mm,
        rightMargin=18 * mm,
        topMargin=28 * mm,
        bottomMargin=18 * mm,
        title=say(head),
        author=str(told["firm"]),
        lang=reader().locale,
        displayDocTitle=True,
    )
    jobs = [[str(j["title"]), number(float(j["points"])), str(j["ended"]).replace("T", " ")] for j in told["jobs"]]
    columns = [message(f"certificate-{k}") for k in ("job", "points", "ended")]
    by = [text(message("certificate-hash"), SMALL), text(str(told["hash"]), BODY)]
    if told.get("firm_key"):
        firm: Name = str(told["firm"]) or message("certificate-a-firm")
        by += [Spacer(1, 2 * mm), text(message("certificate-firm", firm=firm), SMALL)]
        by += [text(fingerprint(str(told["firm_key"])), BODY)]
    seal = Table([[by, qr_drawing(str(told["hash"]), QR, INK)]], colWidths=[WIDTH - QR - 4 * mm, QR + 4 * mm])
    seal.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]))
    doc.build(
        [
            text(str(told["firm"]) or "Rough Draw", HEAD),
            Spacer(1, 8 * mm),
            text(message("certificate-title"), TITLE),
            Spacer(1, 3 * mm),
            text(head, VERDICT),
            Spacer(1, 5 * mm),
            text(message("certificate-how", count=count, mean=mean), BODY),
            Spacer(1, 6 * mm),
            listed(columns, jobs, [WIDTH - 75 * mm, 25 * mm, 50 * mm]),
            Spacer(1, 10 * mm),
            seal,
            Spacer(1, 8 * mm),
            text(message("certificate-practice"), SMALL),
        ]
    )
    return out.getvalue()
