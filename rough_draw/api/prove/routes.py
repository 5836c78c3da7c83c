"""Prove: the gates by their evidence, the simulated bench, and what is on file of the kit."""

from __future__ import annotations

import asyncio
import time

import numpy as np
from fastapi import APIRouter

from rough_draw.api import runs
from rough_draw.api.deps import HubDep, Key, floats, maybe, range_out
from rough_draw.api.devices.hub import Hub, bench_name
from rough_draw.api.errors import refusal
from rough_draw.api.pace import must_be_offered
from rough_draw.api.plan.schemas import Choice
from rough_draw.api.prove.schemas import (
    BenchIn,
    BenchOut,
    BenchTouchIn,
    BlankOffOut,
    EarlierTestOut,
    GateOut,
    GaugeCheckOut,
    KitCard,
    KitEventOut,
    OilOut,
    PressureTestOut,
    ProofStageOut,
    ProveOut,
)
from rough_draw.core.message import Fault, message
from rough_draw.core.model.proof_network import expected, proof_stages
from rough_draw.core.model.system import ScopeError
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.proving import bench_session
from rough_draw.core.proving.assessment import Proof, prove
from rough_draw.core.proving.health import health
from rough_draw.core.proving.pump_oil import LEVELS, LOOKS, look_words
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.steps import BenchStage, read_bench_step, text_of
from rough_draw.standins.gauge_server import SPEEDS
from rough_draw.store import jobs, kit_log, shelf

router = APIRouter(tags=["prove"])

MOST_POINTS = 600


@router.get("/jobs/{key}/prove")
def read_prove(key: Key) -> ProveOut:
    """How the gates stand, and what was worked out of their evidence."""
    job = jobs.get(key).job
    found = prove(job, shelf.settings().oil_rule, _past(key, job))
    test = found.test
    return ProveOut(
        gates=[
            GateOut(
                key=g.spec.key,
                title=g.spec.title,
                why=g.spec.why,
                kind=g.spec.kind,
                items=[Choice(value=i.key, label=i.label) for i in g.spec.items],
                proposed=g.spec.proposed,
                any_of=g.spec.any_of,
                state=g.state,
                words=g.words,
            )
            for g in found.gates
        ],
        test=PressureTestOut(
            verdict=test.verdict,
            words=test.words,
            expected_pa=test.expected,
            drop_pa=range_out(test.drop) if test.drop else None,
            leak_pa_m3_s=range_out(test.leak) if test.leak else None,
            smallest_pa_m3_s=test.smallest,
        ),
        earlier_tests=[
            EarlierTestOut(
                kind=t.kind,
                at=t.at,
                start_pa=None if t.start_kpa is None else 1e3 * t.start_kpa,
                end_pa=None if t.end_kpa is None else 1e3 * t.end_kpa,
                minutes=t.minutes,
                verdict=j.verdict,
                words=j.words,
                note=t.note,
            )
            for t, j in found.earlier
        ],
        oil=OilOut(
            verdict=found.oil.verdict,
            words=found.oil.words,
            hours=found.oil.hours,
            jobs=found.oil.jobs,
            looks=[Choice(value=k, label=message(f"oil-look-{k}"), note=look_words(k)) for k in LOOKS],
            levels=[
                Choice(value=k, label=message(f"oil-level-{k}.name"), note=message(f"oil-level-{k}")) for k in LEVELS
            ],
        ),
        blank_off=BlankOffOut(
            verdict=found.blank_off.verdict, words=found.blank_off.words, before_micron=list(found.blank_off.before)
        ),
        gauge=GaugeCheckOut(verdict=found.gauge.verdict, words=list(found.gauge.words)),
        stages=_stages(job, found),
        fault=found.fault,
    )


def _past(key: str, job: Job) -> dict[int, list[kit_log.KitEvent]]:
    """What is on file of the rig's parts from other jobs: this one is judged against its past."""
    return {n: [e for e in events if e.job != key] for n, events in kit_log.history(kit_log.of_job(job)).items()}


def _stages(job: Job, found: Proof) -> list[ProofStageOut]:
    held = None
    if any(a.own is not None for _, a in found.stages):
        held = runs.isolated(job)
    rows = []
    for n, (s, a) in enumerate(found.stages):
        rate = None
        if a.own is not None and held is not None and s.key in held[0].hoses:
            rate = a.own.value / held[1].value / MICRON_PA
        rows.append(
            ProofStageOut(
                key=s.key,
                short=s.short,
                title=s.title,
                do=s.do,
                mark=s.mark,
                volume_m3=s.closed,
                shuts=s.shuts,
                optional=s.optional,
                settled_pa=range_out(expected(job, n).settled),
                usual_pa_m3_s=range_out(s.own),
                verdict=found.blank_off.verdict if n == 0 else a.verdict,
                words=[found.blank_off.words] if n == 0 else list(a.words),
                own_pa_m3_s=range_out(a.own) if a.own is not None else None,
                hold_micron_s=rate,
            )
        )
    return rows


@router.get("/jobs/{key}/bench")
def read_bench(key: Key, hub: HubDep) -> BenchOut:
    """Where the bench stands, what its gauge says, and what it should say."""
    return _bench(key, hub)


@router.post("/jobs/{key}/bench")
async def start_bench(key: Key, body: BenchIn, hub: HubDep) -> BenchOut:
    """Put the rig on the simulated bench, from the beginning, or change its pace."""
    must_be_offered(body.speed, SPEEDS)
    job = (await asyncio.to_thread(jobs.get, key)).job
    try:
        await asyncio.to_thread(proof_stages, job)
    except ScopeError as e:
        raise refusal(409, "prove-no-rig", fault=e.told) from None
    async with hub.lock(bench_name(key)):
        await hub.attach_bench(key, job, body.speed)
    return await asyncio.to_thread(_bench, key, hub)


@router.delete("/jobs/{key}/bench")
async def stop_bench(key: Key, hub: HubDep) -> BenchOut:
    """Take the rig off the bench."""
    async with hub.lock(bench_name(key)):
        await hub.detach(bench_name(key))
    return await asyncio.to_thread(_bench, key, hub)


@router.post("/jobs/{key}/bench/touches", status_code=201)
async def touch_bench(key: Key, body: BenchTouchIn, hub: HubDep) -> BenchOut:
    """A touch on the bench: logged, and obeyed by the simulated one."""
    job = (await asyncio.to_thread(jobs.get, key)).job
    step = read_bench_step(body.kind)
    if step is None:
        raise refusal(422, "bench-unknown", step=body.kind)
    if isinstance(step, BenchStage) and step.stage not in [s.key for s in proof_stages(job)]:
        raise refusal(422, "bench-no-stage", stage=step.stage)
    link = hub.links.get(bench_name(key))
    at = (await link.touch(body.kind) if link is not None else None) or time.time()
    await asyncio.to_thread(jobs.add_touch, key, text_of(step), at, "")
    return await asyncio.to_thread(_bench, key, hub)


def _bench(key: str, hub: Hub) -> BenchOut:
    job = jobs.get(key).job
    name = bench_name(key)
    link, world = hub.links.get(name), hub.server.worlds.get(name)
    now = world.now() if world is not None else time.time()
    begun = world.start_at if world is not None else now
    run = bench_session.fold(t for t in jobs.touches(key) if t.at >= begun)
    since = max(run.since or now, run.pump_since or 0.0)
    series = jobs.readings(key, since - 0.5, bench=True)
    main = max(series, key=lambda s: s.at.size, default=None)
    at = main.at if main is not None else np.array([])
    pa = main.pa if main is not None else np.array([])
    try:
        said = bench_session.watch(job, run, at, pa, now)
        index = [s.key for s in proof_stages(job)].index(run.stage)
        band = expected(job, index)
    except (ScopeError, ValueError) as e:
        said, band = (
            bench_session.Watch(e.told if isinstance(e, Fault) else message("bench-stage-gone"), "caution", ""),
            None,
        )
    thin = max(1, at.size // MOST_POINTS)
    last = float(pa[-1]) if pa.size else float("nan")
    return BenchOut(
        attached=link is not None,
        speed=world.speed if world is not None else 1.0,
        stale=link.stale if link is not None else False,
        stage=run.stage,
        pump_on=run.pump_on,
        valve_open=run.shut_at is None,
        since_s=now - since if run.since is not None else None,
        shut_s=run.shut_at - since if run.shut_at is not None else None,
        pa=None if np.isnan(last) else last,
        over_range=bool(pa.size) and bool(np.isnan(last)),
        words=said.words,
        tone=said.tone,
        next=said.next,
        reading=said.reading,
        at=floats((at - since)[::thin]),
        shown=maybe(pa[::thin]),
        times=floats(band.times) if band else [],
        low=floats(band.band[0]) if band else [],
        mid=floats(band.band[1]) if band else [],
        high=floats(band.band[2]) if band else [],
    )


@router.get("/kit")
def read_kit() -> list[KitCard]:
    """All kit with what is on file of it, and how it stands."""
    rule = shelf.settings().oil_rule
    past = kit_log.history()
    titles = {s.key: s.job.title or s.job.party.unit or s.key for s in jobs.listing()}
    cards = []
    for k in shelf.kit():
        events = past.get(k.id, [])
        state, words = health(k.kind, k.values, events, rule, time.time())
        rows = [
            KitEventOut(
                kind=e.kind,
                words=message(f"kit-event-{e.kind}"),
                at=e.at,
                job=e.job,
                title=titles.get(e.job, ""),
                verdict=e.verdict,
                said=e.words,
                micron=e.values.get("micron", e.values.get("settled_micron")),
                inflow_pa_m3_s=e.values.get("inflow_pa_m3_s"),
                hours=e.values.get("hours"),
            )
            for e in reversed(events)
        ]
        cards.append(KitCard(id=k.id, kind=k.kind, name=k.name, values=k.values, state=state, words=words, events=rows))
    return cards
