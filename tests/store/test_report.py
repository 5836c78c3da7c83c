"""The report: what is on it, for a tight job, a leaking one, and an empty sheet."""

from __future__ import annotations

import io
import re
from dataclasses import replace
from datetime import datetime
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from pypdf import PdfReader
from reportlab.graphics.shapes import Line, PolyLine, Rect, String
from reportlab.pdfbase.pdfmetrics import stringWidth

from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA, kelvin
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.evidence import Gate, Prove
from rough_draw.core.sheet.job import Closing, Job, Party, Release
from rough_draw.core.sheet.scope import Scope
from rough_draw.standins.scripted_run import play
from rough_draw.standins.world import Truth
from rough_draw.store.photos import Photo, made_ready
from rough_draw.store.report import record as record_of
from rough_draw.store.report.build import render
from rough_draw.store.report.charts import Curve, Frame, draw_chart
from rough_draw.store.report.closing import weighed_in
from rough_draw.store.report.fonts import BOLD
from rough_draw.store.report.inks import GREEN, STRONG
from rough_draw.store.report.record import Gauge, Record
from tests.store.test_photos import picture


def words(pdf: bytes) -> str:
    """The text of a report, run together."""
    return re.sub(r"\s+", " ", " ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages))


def sheet(**changes: Any) -> Job:
    base: dict[str, Any] = {
        "party": Party(
            customer="Larkspur Flower Wholesale",
            site="Auction Lane 4",
            unit="Cold room 3",
            firm="Quillmere Cold Works",
            technician="Mara Tollivet",
            licence="QCW-014",
        ),
        "scope": Scope(condition="new-dry", refrigerant="R-455A", nameplate_kg=3.2),
        "prove": Prove(
            gates={
                "power": Gate(state="done"),
                "pressure-test": Gate(state="skipped", note="tested by the day shift"),
            }
        ),
        "release": Release(weighed_kg=3.25, steps_done=("see-pressure",)),
        "closing": Closing(signed_by="Mara Tollivet", signed_at="2026-05-04 16:20", remarks="Door gasket renewed."),
    }
    return Job(**{**base, **changes})


def record(job: Job, leak: float = 0.0) -> Record:
    played = play(job, Truth(unknowns=Unknowns(water=-2.0, extra_leak=leak), seed=4), hold_min=20, below=0.5)
    start = 1_760_000_000.0
    at = start + np.array([t for t, _ in played.readings])
    pa = np.array([np.nan if p is None else p for _, p in played.readings])
    isolated = start + next(t.at for t in played.touches if t.kind == "isolate")
    keep = (at >= isolated) & np.isfinite(pa)
    volume = Quantity(9e-3, 8e-3, 1e-2, "m³", "test")
    verdict = judge_hold(at[keep] - isolated, pa[keep], volume, kelvin(14), chosen(job.criterion))
    touches = tuple(type(t)(t.kind, t.at + start, t.note) for t in played.touches)
    return Record(
        job=job,
        touches=touches,
        at=at,
        pa=pa,
        gauge="Gauge 2",
        verdict=verdict,
        hold_start=isolated,
        inside="gauge and system only",
        inputs_hash="ab" * 32,
    )


def test_a_tight_job_on_paper() -> None:
    r = record(sheet())
    assert r.verdict is not None
    assert r.verdict.verdict == "tight-and-dry"
    pdf = render(r, datetime(2026, 5, 4, 17, 0))
    text = words(pdf)
    for part in (
        "Larkspur Flower Wholesale: Cold room 3",
        "Auction Lane 4",
        "Quillmere Cold Works",
        "license QCW-014",
        "R-455A",
        "Tight and dry",
        "gauge and system only",
        "Deep and flat",
        "Code minimum",
        "Two-limit",
        "System isolated",
        "Pump stopped",
        "SKIPPED",
        "tested by the day shift",
        "Door gasket renewed.",
        "2026-05-04 16:20",
        "3.250 kg",
        "mildly flammable",
        "Local codes",
        "printed 2026-05-04 17:00",
        "abababababababab",
        "page 1 of",
    ):
        assert part in text, part
    assert 1 <= len(re.findall(rb"/Type /Page\b(?!s)", pdf)) <= 4


def test_a_leaking_job_says_how_much() -> None:
    r = record(sheet(closing=Closing(deviation="customer asked to stop")), leak=2e-3)
    assert r.verdict is not None
    assert "leak" in r.verdict.verdict
    text = words(render(r))
    assert "It leaks" in text
    assert "This hold test sees leaks from about" in text
    assert "FAILED" in text
    assert "customer asked to stop" in text
    assert "not signed" in text


def empty(**changes: Any) -> Record:
    """A record of nothing but ``changes``."""
    kept: dict[str, Any] = {"job": Job(), "touches": (), "at": None, "pa": None, "gauge": "", "verdict": None}
    return Record(**{**kept, "hold_start": None, "inside": "", "inputs_hash": "", **changes})


def test_an_empty_sheet_still_prints() -> None:
    text = words(render(empty()))
    assert "No readings were taken." in text
    assert "No hold test was read." in text
    assert "Not recorded" in text


def test_each_cylinder_is_on_paper_and_all_of_them_are_added() -> None:
    both = record_of.Closing(cylinders=((16.42, 7.11), (16.25, 9.05)))
    text = words(render(empty(closing=both)))
    for part in ("cylinder 1: 16.420 kg before, 7.110 kg after", "cylinder 2: 16.250 kg before", "16.510 kg"):
        assert part in text, part
    assert weighed_in(Job(), both) == pytest.approx(16.51)
    one = record_of.Closing(cylinders=((16.42, 7.11),))
    assert "cylinder 1" not in words(render(empty(closing=one)))
    # What still stands open has no weight after it.
    assert weighed_in(Job(), record_of.Closing(cylinders=((16.42, 7.11), (16.25, None)))) is None
    drifted = record_of.Closing(cylinders=((16.42, 7.11), (16.25, 16.27)))
    assert weighed_in(Job(), drifted) == pytest.approx(9.31), "a scale's drift is nothing that was taken back"
    assert weighed_in(Job(), record_of.Closing()) is None


def test_the_same_record_prints_the_same_but_for_the_time() -> None:
    r = record(sheet())
    a = words(render(r, datetime(2026, 1, 1, 8, 0)))
    b = words(render(r, datetime(2026, 1, 1, 9, 0)))
    assert a != b
    assert a.replace("08:00", "09:00") == b


def test_awkward_text_is_printed_not_obeyed() -> None:
    party = Party(customer="<b>Bold & Sons</b> ]]>", unit="(room) \\ 1", technician="µ − Ω")
    text = words(render(record(sheet(party=party))))
    assert "<b>Bold&Sons</b>" in text.replace(" ", ""), "marks are printed as they stand"
    assert "(room) \\ 1" in text


def test_the_first_page_is_the_answer_and_stands_alone() -> None:
    r = record(sheet(), leak=2e-3)
    whole = PdfReader(io.BytesIO(render(r)))
    first = re.sub(r"\s+", " ", whole.pages[0].extract_text())
    for part in ("It leaks", "Lowest level", "At isolation", "Held", "20 min", "3.25 kg", "Deviations", "Signature"):
        assert part in first, part
    alone = PdfReader(io.BytesIO(render(r, one_page=True)))
    assert len(alone.pages) == 1
    assert len(whole.pages) > 1
    assert whole.metadata is not None
    assert whole.metadata.title == "Evacuation record: Larkspur Flower Wholesale Cold room 3"
    assert whole.trailer["/Root"]["/Lang"] == "en-US"
    marks = [str(m["/Title"]) for m in whole.outline if not isinstance(m, list)]
    assert marks[0] == "Deviations"
    assert len(marks) > 6
    fonts = {
        str(f["/BaseFont"]) for p in whole.pages for f in (x.get_object() for x in p["/Resources"]["/Font"].values())
    }
    assert not any("Courier" in f for f in fonts)
    assert any("RoughDraw" in f or "+" in f for f in fonts)


def test_simulated_readings_are_called_so_on_every_page_that_has_them() -> None:
    r = record(sheet())
    assert r.at is not None
    made = replace(r, simulated=((float(r.at[0]), float(r.at[-1])),))
    text = words(render(made))
    assert text.count("SIMULATED") >= 3
    assert "SIMULATED" not in words(render(r))


def test_a_second_gauge_photos_and_hands_are_on_paper() -> None:
    r = record(sheet())
    assert r.at is not None
    assert r.pa is not None
    data, width, height = made_ready(picture())
    seen = Photo(
        sha256="ab" * 32,
        about="oil",
        caption="the glass",
        at=1.76e9,
        hand="Ossi Brandt",
        width=width,
        height=height,
        data=data,
    )
    absent = replace(seen, about="check:power-off", caption="", data=None)
    hand = tuple(replace(t, hand="Ossi Brandt") for t in r.touches)
    other = Gauge(name="Gauge 7", at=r.at, pa=r.pa * 0.5)
    pdf = render(replace(r, touches=hand, others=(other,), photos=(seen, absent)))
    text = words(pdf)
    for part in (
        "Dashed: Gauge 7",
        "Readings: Gauge 7",
        "the glass",
        "Oil glass",
        "Check: power off",
        "not in this file",
    ):
        assert part in text, part
    assert text.count("Ossi Brandt") >= len(hand)
    assert sum(len(p.images) for p in PdfReader(io.BytesIO(pdf)).pages) == 1


@pytest.mark.parametrize("name", ["Łódzki Chłód", "Größ & Söhne", "Čtvrtý mráz", "冷蔵", "Ψύξη", "a\u0000b\u2028c"])
def test_any_name_prints(name: str) -> None:
    text = words(render(record(sheet(party=Party(customer=name, unit="x")))))
    if all(ord(c) < 0x180 for c in name if c.isalpha()) and "\0" not in name:
        assert name in text


def test_marks_close_by_each_other_do_not_lie_on_each_other() -> None:
    frame = Frame(400, 200, 20, 10, 1e6, log=True)
    for n in range(1, 13):
        frame.mark(1.0 + 0.01 * n, str(n))
    places = [
        (s.x, s.y, s.x + stringWidth(s.text, BOLD, 7))
        for s in frame.drawing.contents
        if isinstance(s, String) and s.fontName == BOLD
    ]
    assert len(places) == 12
    for i, a in enumerate(places[:6]):
        for b in places[i + 1 : 6]:
            assert a[1] != b[1] or a[2] <= b[0] or b[2] <= a[0]


@pytest.mark.parametrize("lowest", [4.0, 43.0, 120.0])
@pytest.mark.parametrize("target", [30.0, 500.0])
def test_what_is_drawn_stands_within_the_axis(lowest: float, target: float) -> None:
    steps = np.geomspace(760_000.0, lowest, 40) * MICRON_PA
    # A gauge whose zero is off, and one over its range, take no axis with them.
    curve = Curve(at=np.arange(43.0) * 60.0, pa=np.concatenate([steps, [np.nan, 0.0, -1.0]]))
    drawn = draw_chart([curve], (), target * MICRON_PA, 400.0)
    box = next(s for s in drawn.contents if isinstance(s, Rect))
    heights = next(s for s in drawn.contents if isinstance(s, PolyLine)).points[1::2][:40]
    assert all(above > below for above, below in pairwise(heights))
    assert box.y <= heights[-1]
    # No decade more than is wanted is left empty below.
    decades = [s.y1 for s in drawn.contents if isinstance(s, Line) and s.x1 == box.x and s.strokeColor == STRONG]
    assert sorted(decades)[1] > min(
        heights[-1], *(s.y1 for s in drawn.contents if isinstance(s, Line) and s.strokeColor == GREEN)
    )


def test_a_needles_place_is_not_printed_as_a_figure() -> None:
    r = record(sheet())
    assert r.verdict is not None
    first = (
        PdfReader(io.BytesIO(render(replace(r, verdict=replace(r.verdict, verdict="unverified")))))
        .pages[0]
        .extract_text()
    )
    assert first.count("needle") >= 3
    lowest = PdfReader(io.BytesIO(render(r))).pages[0].extract_text()
    assert "needle" not in lowest
