"""The rig: edited in its slots, started from a pattern, put together from the kit, compared, written and read."""

from __future__ import annotations

import json
from concurrent.futures import ThreadPoolExecutor
from contextvars import copy_context
from typing import Any

from fastapi import APIRouter, HTTPException, Response, UploadFile
from pydantic import ValidationError

from rough_draw.api import runs
from rough_draw.api.deps import Key, job_out
from rough_draw.api.errors import refusal
from rough_draw.api.plan.conversion import plan_out
from rough_draw.api.plan.schemas import Apply, BestOut, CarryOut, PatternOut, RigEdit, RigPlan, TakeTemplate
from rough_draw.api.rig_log import log_rig_change
from rough_draw.api.schemas import JobOut
from rough_draw.core.advice.job_check import findings_of
from rough_draw.core.advice.packing_list import carry
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.message import Fault, Name, message
from rough_draw.core.model.system import ScopeError
from rough_draw.core.planning.rig_search import Best
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import as_hose, free
from rough_draw.core.sheet.rig import HosePart, Rig
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from, usual_setups
from rough_draw.store import jobs, shelf
from rough_draw.store.job_files import FileFault, where
from rough_draw.store.rig_svg import rig_svg
from rough_draw.text import say

router = APIRouter(tags=["rig"])

MOST_RIG_BYTES = 256 * 1024
SCOPE_KEPT = (
    "ambient_c",
    "coldest_c",
    "elevation_m",
    "barometer_hpa",
    "humidity_pct",
    "custom",
    "refrigerant",
)


def _save(key: str, version: int, job: Job, **changes: Any) -> JobOut:
    return _saved(key, version, job, job.model_copy(update=changes))


def _saved(key: str, version: int, before: Job, after: Job) -> JobOut:
    stored = jobs.save(key, version, after)
    log_rig_change(key, before.rig, after.rig)
    return job_out(stored)


@router.get("/jobs/{key}/patterns")
def patterns(key: Key) -> list[PatternOut]:
    """The hook-ups in use, and which of them this system has the ports for."""
    scope = jobs.get(key).job.scope
    return [
        PatternOut(key=p.key, name=p.name, words=p.words, ports=p.ports, fits=fits(p.key, scope))
        for p in PATTERNS.values()
    ]


def _edited(job: Job, edit: RigEdit) -> Rig:
    rig, name = job.rig, edit.part
    match edit.op:
        case "pattern":
            if name not in PATTERNS:
                raise Fault(message("edit-no-setup", setup=name))
            return rig_from(name, job.scope).model_copy(update={"cord": rig.cord})
        case "swap":
            return rig_edit.swap(rig, name, edit.fields)
        case "kit":
            item = shelf.kit_item(edit.kit or 0)
            part = rig.get(name)
            if part is None or part.kind != item.kind:
                raise Fault(message("edit-wrong-kind", item=item.name, kind=item.called, part=name))
            keep = {k: getattr(part, k) for k in ("depressor", "fits") if hasattr(part, k)}
            return rig_edit.take_from_kit(rig, name, item.id, item.name, {**item.values, **keep})
        case "remove":
            return rig_edit.remove(rig, name)
        case "insert":
            return rig_edit.insert(rig, name, edit.fields)
        case "at-port":
            return rig_edit.put_at_port(rig, name, edit.fields)
        case "add":
            return rig_edit.add(rig, {**edit.fields, "on": edit.on, "at": edit.at, "port": edit.port})
        case "way":
            return _way(job, edit.port or "")
        case "move":
            return rig_edit.move(rig, name, edit.on, edit.at, edit.port)
        case "core":
            return rig.with_core(edit.port or "", bool(edit.fields.get("in")))
        case "cord":
            return rig.with_parts(list(rig.parts), cord=edit.fields or None)


def _way(job: Job, port_id: str) -> Rig:
    """One more hose to a port: the best free one of the kit, or one like the first."""
    port = job.scope.port(port_id)
    if port is None:
        raise Fault(message("edit-no-port", port=port_id))
    kit = shelf.fitting()
    hoses = [k for k in free(kit, job.rig, "hose") if as_hose(k).made_for == "vacuum"]
    tools = free(kit, job.rig, "tool")
    first = next((p for p in job.rig.parts if isinstance(p, HosePart)), None)
    hose: dict[str, Any] = {"size": first.size, "length_m": first.length_m} if first else {}
    if hoses:
        hose = {**hoses[0].values, "kit": hoses[0].id, "name": hoses[0].name, "depressor": False}
    tool = {**tools[0].values, "kit": tools[0].id, "name": tools[0].name} if tools else {}
    return rig_edit.add_way(job.rig, port.id, port.size, hose, tool)


@router.post("/jobs/{key}/rig")
def edit_rig(key: Key, edit: RigEdit) -> JobOut:
    """Make one edit of the rig; refused edits say why and leave it as it was."""
    job = jobs.get(key).job
    try:
        rig = _edited(job, edit)
    except ValidationError as e:
        raise ScopeError(where(e), _place(e)) from None
    except ValueError as e:
        raise ScopeError(
            e.told if isinstance(e, Fault) else str(e), f"rig.parts.{edit.part}" if edit.part else "rig"
        ) from None
    return _save(key, edit.version, job, rig=rig)


def _place(e: ValidationError) -> str:
    first = e.errors()[0]
    ctx = first.get("ctx") or {}
    return str(ctx.get("place") or ".".join(["rig", *(str(x) for x in first["loc"])]))


@router.post("/jobs/{key}/apply")
def apply(key: Key, body: Apply) -> JobOut:
    """Take over the fix of a finding, a ranked change, the best rig of the van, or a rig set aside, by its key."""
    job = jobs.get(key).job
    if body.key == "best":
        best = _best(job)
        if best.chosen is None:
            raise HTTPException(409, say(best.reason))
        return _save(key, body.version, job, rig=best.chosen.job.rig)
    if body.key.startswith("aside-"):
        n = int(body.key.removeprefix("aside-")) if body.key.removeprefix("aside-").isdigit() else -1
        if not 0 <= n < len(job.aside):
            raise refusal(404, "no-rig-aside")
        now = job.aside[n].model_copy(update={"rig": job.rig})
        aside = tuple(now if i == n else a for i, a in enumerate(job.aside))
        return _save(key, body.version, job, rig=job.aside[n].rig, aside=aside)
    for f in findings_of(job, runs.plan_for(job)):
        if f.key == body.key and f.fix is not None:
            return _saved(key, body.version, job, f.fix.job)
    for u in runs.upgrades_for(job):
        if u.change.key == body.key:
            return _saved(key, body.version, job, u.change.job)
    raise refusal(404, "no-such-edit", key=body.key)


def _best(job: Job) -> Best:
    return runs.best_for(job)


@router.get("/jobs/{key}/best")
def best(key: Key) -> BestOut:
    """The best rig that the van allows on this system, by search."""
    found = _best(jobs.get(key).job)
    c = found.chosen
    return BestOut(
        reason=found.reason,
        missing=found.missing,
        tried=found.tried,
        pattern=PATTERNS[c.pattern].name if c else "",
        seconds=c.seconds if c else None,
        rig=c.job.rig if c else None,
    )


@router.get("/jobs/{key}/compare")
def compare(key: Key) -> list[RigPlan]:
    """The chosen rig and those set aside, planned on the same system."""
    job = jobs.get(key).job
    rigs: list[tuple[Name, Rig]] = [(message("this-rig"), job.rig)]
    rigs += [(a.name or message("rig-number", number=n + 2), a.rig) for n, a in enumerate(job.aside)]

    def one(found: tuple[int, tuple[Name, Rig]]) -> RigPlan:
        n, (name, rig) = found
        try:
            return RigPlan(index=n, name=name, plan=plan_out(job.model_copy(update={"rig": rig})), fault="")
        except (ScopeError, NetworkError) as e:
            return RigPlan(index=n, name=name, plan=None, fault=e.told)

    with ThreadPoolExecutor(2) as pool:
        # Each thread says it to the one who asks.
        here = [(copy_context(), found) for found in enumerate(rigs)]
        return list(pool.map(lambda x: x[0].run(one, x[1]), here))


@router.get("/jobs/{key}/carry")
def carried(key: Key) -> CarryOut:
    """What to carry for this job, and what is ticked off."""
    job = jobs.get(key).job
    return CarryOut(items=carry(job), packed=list(job.plans.packed))


@router.get("/jobs/{key}/rig.svg", response_class=Response)
def rig_drawing(key: Key) -> Response:
    """The rig line as SVG."""
    job = jobs.get(key).job
    svg = rig_svg(job, runs.plan_for(job))
    return Response(svg, media_type="image/svg+xml", headers={"Content-Disposition": 'attachment; filename="rig.svg"'})


@router.get("/jobs/{key}/rig.json", response_class=Response)
def rig_json(key: Key) -> Response:
    """The rig as JSON, to be read on another job."""
    body = json.dumps({"format": "rough-draw/rig", "version": 1, **jobs.get(key).job.rig.model_dump()}, indent=1)
    return Response(
        body, media_type="application/json", headers={"Content-Disposition": 'attachment; filename="rig.json"'}
    )


@router.post("/jobs/{key}/rig-file")
def read_rig(key: Key, file: UploadFile) -> JobOut:
    """Read a rig from its JSON file over the rig of this job."""
    data = file.file.read(MOST_RIG_BYTES + 1)
    if len(data) > MOST_RIG_BYTES:
        raise FileFault(message("file-large-rig", most=MOST_RIG_BYTES // 1024))
    try:
        values = json.loads(data)
    except (UnicodeDecodeError, RecursionError):
        raise FileFault(message("file-not-utf8")) from None
    except json.JSONDecodeError as e:
        raise FileFault(message("file-not-json", line=e.lineno, column=e.colno, fault=e.msg)) from None
    if not isinstance(values, dict) or values.pop("format", None) != "rough-draw/rig" or values.pop("version", 1) != 1:
        raise FileFault(message("file-no-rig"))
    try:
        rig = Rig.model_validate(values)
    except ValidationError as e:
        raise FileFault(where(e)) from None
    stored = jobs.get(key)
    return _save(key, stored.version, stored.job, rig=rig)


@router.post("/jobs/{key}/template")
def take_template(key: Key, body: TakeTemplate) -> JobOut:
    """Start the scope from a template; weather and refrigerant stay, and the rig is fitted to the new ports."""
    job = jobs.get(key).job
    kept = {k: getattr(job.scope, k) for k in SCOPE_KEPT}
    values = {**shelf.template_scope(body.key, body.own), **kept}
    scope = Scope.model_validate(values)
    usual = usual_setups(scope)
    kept_setup = (job.rig.pattern,) if job.rig.pattern in PATTERNS and len(usual) > 1 else ()
    pattern = next((p for p in (*kept_setup, *usual) if fits(p, scope)), "single-port")
    rig = rig_from(pattern, scope).model_copy(update={"cord": job.rig.cord})
    rig = _same_kit(job.rig, rig)
    return _save(key, body.version, job, scope=scope, rig=rig)


def _same_kit(old: Rig, new: Rig) -> Rig:
    """Parts of the old rig that stand under the same id keep what they are."""
    for part in new.parts:
        was = old.get(part.id)
        if was is not None and was.kind == part.kind and was.kind in ("pump", "hose", "gauge"):
            own = was.model_dump(exclude={"id", "kind", "on", "at", "port", "depressor", "fits"})
            new = rig_edit.swap(new, part.id, own)
    return new
