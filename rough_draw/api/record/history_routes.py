"""Earlier evacuations, by system and by site: what each hold said, and how it goes from one to the next."""

from __future__ import annotations

from fastapi import APIRouter, Query

from rough_draw.api import runs
from rough_draw.api.each_job import of_job
from rough_draw.api.hold import holds
from rough_draw.api.record.schemas import HistoryOut, PastRow
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.message import message
from rough_draw.core.model.system import ScopeError
from rough_draw.core.physics.units import micron
from rough_draw.store import jobs

router = APIRouter(tags=["record"])

MOST = 100


def _row(stored: jobs.StoredJob) -> PastRow | None:
    """A job as a line of the history; None where nothing was drawn yet."""
    run = runs.view_of(stored)
    started = run.state.started_at
    main = run.main()
    if started is None and main is None:
        return None
    try:
        judged = holds.judge(run)
    except (ScopeError, NetworkError):
        judged = None
    v = judged.verdict if judged is not None else None
    at = judged.start if judged is not None else started if started is not None else stored.updated_at
    level = None
    if judged is not None:
        data = holds.hold_data(run)
        level = micron(float(data[2][-1])) if data is not None and data[2].size else None
    party = stored.job.party
    return PastRow(
        key=stored.key,
        at=at,
        customer=party.customer,
        site=party.site,
        unit=party.unit,
        refrigerant=stored.job.scope.refrigerant,
        technician=party.technician,
        verdict=v.verdict if v is not None else "",
        sentence=v.sentence if v is not None else message("report-no-hold"),
        slope_micron_s=v.slope.value if v is not None and v.readings else None,
        level_micron=level,
        draw_min=(at - started) / 60.0 if judged is not None and started is not None else None,
        sealed=stored.sealed_at is not None,
    )


def _wanted(stored: jobs.StoredJob, customer: str, site: str, unit: str, words: str) -> bool:
    party, scope = stored.job.party, stored.job.scope
    exact = ((customer, party.customer), (site, party.site), (unit, party.unit))
    if any(asked and asked != there for asked, there in exact):
        return False
    text = " ".join((party.customer, party.site, party.unit, party.technician, scope.refrigerant, stored.job.title))
    return all(w in text.lower() for w in words.lower().split())


@router.get("/history")
def history(
    customer: str = Query("", max_length=200),
    site: str = Query("", max_length=200),
    unit: str = Query("", max_length=200),
    q: str = Query("", max_length=200),
) -> HistoryOut:
    """Earlier evacuations, the latest first: of one customer, site or unit, or those that hold all of these words."""
    everything = jobs.listing()
    found = [s for s in everything if _wanted(s, customer, site, unit, q)]
    rows = [given.value for s in found[:MOST] if (given := of_job(s, _row)).value is not None]
    return HistoryOut(
        rows=sorted(rows, key=lambda r: r.at, reverse=True),
        total=len(found),
        sites=sorted({s.job.party.site for s in everything if s.job.party.site}),
        customers=sorted({s.job.party.customer for s in everything if s.job.party.customer}),
    )
