"""The record: report, readings table, job file."""

from __future__ import annotations

import re

from fastapi import APIRouter, Response

from rough_draw.api import runs
from rough_draw.api.charge.conversion import charging_of, runnings_of
from rough_draw.api.deps import HubDep, Key
from rough_draw.api.devices.hub import Hub
from rough_draw.api.hold import holds
from rough_draw.api.record.deviations import printed
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.message import message
from rough_draw.core.model.system import ScopeError
from rough_draw.core.planning.plan import Plan
from rough_draw.core.proving.health import health
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import part_name
from rough_draw.store import csv_tables, firm, job_files, jobs, kit_log, photos, sealing, shelf
from rough_draw.store.reading_cache import spans
from rough_draw.store.report.build import render
from rough_draw.store.report.record import Closing, Firm, Gauge, Record

router = APIRouter(tags=["record"])


def _name(key: str, ending: str) -> dict[str, str]:
    job = jobs.kept(key).job
    words = re.sub(r"[^a-z0-9]+", "-", f"{job.party.customer} {job.party.unit}".lower()).strip("-")[:60] or key
    return {"Content-Disposition": f'attachment; filename="{words}{ending}"'}


def _plan(job: Job) -> Plan | None:
    try:
        return runs.plan_for(job)
    except (ScopeError, NetworkError):
        return None  # the record is written though the rig on the sheet cannot be computed


def _closing(key: str, run: runs.RunView, hub: Hub) -> Closing:
    """Weights, running readings judged, the kit with its health, and the seal."""
    weights = charging_of(key, run, hub)
    seen = runnings_of(run.job)
    rule = shelf.settings().oil_rule
    filed = kit_log.history(kit_log.of_job(run.job))
    kit = []
    for part in run.job.rig.parts:
        if part.kit is None:
            continue
        values = part.model_dump(exclude={"id", "kit", "on", "at", "port"})
        state, why = health(part.kind, values, filed.get(part.kit, []), rule)
        kit.append(
            (
                part_name(part),
                message("report-kit-no", number=part.kit),
                message("report-kit-state", state=message(f"kit-state-{state}"), why=why)
                if state
                else message("report-kit-none"),
            )
        )
    chain = sealing.chain_of(key)
    return Closing(
        cylinders=tuple((c.start_kg, c.end_kg) for c in weights.cylinders),
        scale_simulated=weights.scale_simulated,
        running=tuple(
            (name, tuple(j.words for j in r.judged))
            for name, r in (("first", seen.first), ("later", seen.later))
            if r is not None
        ),
        kit=tuple(kit),
        chain=tuple(chain),
        wrong=tuple(f.words for f in sealing.faults(key)) if chain else (),
    )


def _record(key: str, hub: Hub) -> Record:
    """Everything of a job that goes on paper."""
    run = runs.view(key)
    judged = holds.judge(run)
    main = run.main()
    others = [s for s in run.series if s is not main]
    names = {g.id: g.name or message("gauge-number", number=n) for n, g in enumerate(run.job.rig.gauges, 1)}
    firm_of = shelf.settings()
    return Record(
        job=run.job,
        touches=tuple(run.touches),
        at=main.at if main else None,
        pa=main.pa if main else None,
        gauge=main.gauge if main else "",
        verdict=judged.verdict if judged else None,
        hold_start=judged.start if judged else None,
        inside=judged.isolation.inside if judged else "",
        inputs_hash=judged.inputs_hash if judged else "",
        volume=judged.volume.value if judged else 0.0,
        judged_on=judged.about_volume if judged else (),
        deviations=printed(key, run, hub),
        plan=_plan(run.job),
        simulated=tuple(spans(main.at, main.simulated)) if main else (),
        others=tuple(
            Gauge(name=names.get(s.part or "", s.gauge), at=s.at, pa=s.pa, simulated=tuple(spans(s.at, s.simulated)))
            for s in others
        ),
        photos=tuple(photos.of(key, with_data=True)),
        firm=Firm(name=firm_of.firm, address=firm_of.address, logo=firm.logo()),
        closing=_closing(key, run, hub),
    )


@router.get("/jobs/{key}/record.pdf", response_class=Response)
def record_pdf(key: Key, hub: HubDep) -> Response:
    """The report as PDF."""
    return Response(render(_record(key, hub)), media_type="application/pdf", headers=_name(key, ".pdf"))


@router.get("/jobs/{key}/page.pdf", response_class=Response)
def page_pdf(key: Key, hub: HubDep) -> Response:
    """The report's first page alone, as PDF."""
    body = render(_record(key, hub), one_page=True)
    return Response(body, media_type="application/pdf", headers=_name(key, "-page.pdf"))


@router.get("/jobs/{key}/readings.csv", response_class=Response)
def readings_table(key: Key) -> Response:
    """Readings as CSV, in microns, times in UTC."""
    return Response(csv_tables.readings_csv(key), media_type="text/csv; charset=utf-8", headers=_name(key, ".csv"))


@router.get("/jobs/{key}/job.json", response_class=Response)
def job_file(key: Key) -> Response:
    """The whole job as JSON."""
    body = job_files.text_of(job_files.dump(key))
    return Response(body, media_type="application/json", headers=_name(key, ".json"))


@router.get("/jobs/{key}/job.zip", response_class=Response)
def job_archive(key: Key) -> Response:
    """The whole job as JSON with its pictures beside it."""
    return Response(job_files.packed(key), media_type="application/zip", headers=_name(key, ".zip"))
