"""The report: what is on it, for a tight job, a leaking one, and an empty sheet."""

from __future__ import annotations

import re
from datetime import datetime
from typing import Any

import numpy as np
import pytest
from reportlab import rl_config

from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import kelvin
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.evidence import Gate, Prove
from rough_draw.core.sheet.job import Closing, Job, Party, Release
from rough_draw.core.sheet.scope import Scope
from rough_draw.standins.scripted_run import play
from rough_draw.standins.world import Truth
from rough_draw.store.report import Record, render


@pytest.fixture(autouse=True)
def plain(monkeypatch: pytest.MonkeyPatch) -> None:
    """Pages uncompressed, so that their words can be read."""
    monkeypatch.setattr(rl_config, "pageCompression", 0)


def words(pdf: bytes) -> str:
    """The text of a report, run together."""
    found = re.findall(rb"\(((?:[^()\\]|\\.)*)\) Tj", pdf)
    text = b" ".join(found).decode("latin-1")
    return re.sub(r"\s+", " ", re.sub(r"\\(\d{3})", lambda m: chr(int(m[1], 8)), text).replace("\\", ""))


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
        "3.25 kg",
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


def test_an_empty_sheet_still_prints() -> None:
    text = words(
        render(
            Record(
                job=Job(),
                touches=(),
                at=None,
                pa=None,
                gauge="",
                verdict=None,
                hold_start=None,
                inside="",
                inputs_hash="",
            )
        )
    )
    assert "No readings were taken." in text
    assert "No hold test was read." in text
    assert "Not recorded" in text


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
    assert "(room) 1" in text.replace("  ", " ")
