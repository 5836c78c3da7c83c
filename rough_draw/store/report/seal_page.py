"""The end of the paper: photos, follow-up visits, and the seal with its hash to be read by a camera."""

from __future__ import annotations

import io
from typing import Any

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Image, KeepTogether, Spacer, Table, TableStyle

from rough_draw.core.message import Name, all_of, message
from rough_draw.core.message import listed as listed_names
from rough_draw.core.message.figure import temperature
from rough_draw.core.physics.units import kelvin
from rough_draw.core.records.hash_chain import closing_of, signers
from rough_draw.core.sheet.job import Running
from rough_draw.store.jobs import day
from rough_draw.store.photos import ABOUT, Photo
from rough_draw.store.qr import qr_drawing
from rough_draw.store.report.closing import running_words
from rough_draw.store.report.inks import INK
from rough_draw.store.report.record import Record, stamp_both
from rough_draw.store.report.style import SMALL, WIDTH, Heading, grid, listed, text

COLUMNS = 3
BIG = WIDTH / COLUMNS - 4 * mm
QR = 26 * mm


def photos(r: Record) -> list[Flowable]:
    """Photos, three to a row, each with what it shows, when and by whom; of those not here, only that."""
    if not r.photos:
        return []
    cells = [_photo(p) for p in r.photos]
    rows = [
        [*cells[k : k + COLUMNS], *[[]] * (COLUMNS - len(cells[k : k + COLUMNS]))]
        for k in range(0, len(cells), COLUMNS)
    ]
    table = Table(rows, colWidths=[WIDTH / COLUMNS] * COLUMNS)
    table.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]))
    return [Heading(message("report-photos")), table]


def _what_of(about: str) -> Name:
    """What a picture is of; in its own words where it came in a file that says it otherwise."""
    if not ABOUT.fullmatch(about):
        return about
    kind, _, what = about.partition(":")
    return message(f"photo-of-{kind}", what=what.replace("-", " ").replace(":", " "))


def _photo(p: Photo) -> list[Flowable]:
    found: list[Flowable] = []
    if p.data is not None:
        image = Image(io.BytesIO(p.data))
        image._restrictSize(BIG, 0.8 * BIG)
        found.append(image)
    else:
        found.append(text(message("report-photo-absent"), SMALL))
    of = _what_of(p.about)
    found.append(text(p.caption or of, SMALL))
    found.append(
        text(
            message(
                "report-photo-by",
                of=of,
                when=day(p.at),
                by=p.hand,
                named="yes" if p.hand else "no",
                hash=p.sha256[:12],
            ),
            SMALL,
        )
    )
    return found


def visits(r: Record) -> list[Flowable]:
    """Follow-up visits, each an entry of its own after the seal."""
    rows = [_visit(e.at, e.body) for e in r.closing.chain if e.kind == "visit"]
    if not rows:
        return []
    head = [message(f"report-visit-{k}") for k in ("when", "days", "by", "seen")]
    widths = [30 * mm, 20 * mm, 32 * mm, WIDTH - 82 * mm]
    return [Heading(message("report-visits")), listed(head, rows, widths, SMALL)]


def _visit(at: float, body: Any) -> list[Name]:
    seen: list[Name] = []
    for key in ("set_point_c", "outdoor_c"):
        if body.get(key) is not None:
            seen.append(
                message(f"report-visit-{key[:-2].replace('_', '-')}", temperature=temperature(kelvin(body[key])))
            )
    seen += running_words(Running.model_validate(body.get("running") or {}))
    if body.get("note"):
        seen.append(str(body["note"]))
    days = message("report-visit-after", days=round(float(body.get("days", 0.0))))
    return [
        day(at),
        days,
        str(body.get("by", "")),
        listed_names(seen),
    ]


def seal(r: Record) -> list[Flowable]:
    """The seal: when, by whom, whether it is whole, its last hash in letters and for a camera; amendments."""
    chain = r.closing.chain
    closed = closing_of(chain)
    if closed is None:
        return []
    wrong = r.closing.wrong
    state = message("report-not-whole", faults=all_of(wrong) or "") if wrong else message("report-whole")
    sealed = {"when": stamp_both(closed.at), "by": str(closed.body.get("by", "")), "count": len(chain)}
    rows: list[tuple[str, Name]] = [
        ("sealed", message("report-sealed-of", state=state, **sealed)),
        ("hash", chain[-1].hash),
    ]
    rows += [("firm-key", message("report-signed-with", firm=name, key=key)) for name, key in signers(chain)]
    table = Table(
        [[grid(rows, 1, WIDTH - QR - 4 * mm), qr_drawing(chain[-1].hash, QR, INK)]],
        colWidths=[WIDTH - QR - 2 * mm, QR + 2 * mm],
    )
    table.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]))
    parts: list[Flowable] = [KeepTogether([Heading(message("report-seal")), table])]
    amended = [_amended(e.at, e.body) for e in chain if e.kind == "amendment"]
    if amended:
        head = [message(f"report-amended-{k}") for k in ("when", "what", "said", "should", "why")]
        widths = [30 * mm, 30 * mm, 35 * mm, 35 * mm, WIDTH - 130 * mm]
        parts += [Spacer(1, 4), listed(head, amended, widths, SMALL)]
    return parts


def _amended(at: float, body: Any) -> list[str]:
    said = [str(body.get(k, "")) for k in ("what", "before", "after")]
    return [day(at), *said, f"{body.get('reason', '')} ({body.get('by', '')})"]
