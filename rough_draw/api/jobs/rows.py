"""A row of the Yard: where a job stands and what it waits for, kept while it holds."""

from __future__ import annotations

from threading import Lock

import numpy as np
from cachetools import LRUCache, cached

from rough_draw.api import runs
from rough_draw.api.devices.gauge_driver import Link
from rough_draw.api.devices.hub import Hub
from rough_draw.api.hold import holds
from rough_draw.api.jobs.schemas import StageState, YardRow
from rough_draw.api.renewed import Renewed
from rough_draw.api.run.standing import hand_wanted
from rough_draw.core.hold.wording import headline
from rough_draw.core.message import Name, message
from rough_draw.core.proving.stage_progress import STAGES, Stage, current, stages
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import pump_name
from rough_draw.store import jobs
from rough_draw.text.reader import reader

WORKED_S = 3.0
"""How old what is worked out of readings, as what comes next, may be before it is worked out anew, s."""
MOST_S = 15.0
"""How old it may be shown, beside the last of the readings, s."""
QUIET_S = 8.0
"""How old what is worked out beside, a verdict or a plan, may be in a row that nothing is read for, s."""


def stages_of(run: runs.RunView) -> list[Stage]:
    """The stages of a job with what each lacks."""
    needs = criteria.chosen(run.job.criterion).minutes * 60.0
    return stages(run.job, run.state, holds.hold_span(run), needs, any(s.at.size for s in run.series))


def states(found: list[Stage]) -> list[StageState]:
    """The same as the API says it."""
    return [StageState(key=s.key, done=s.done, missing=s.missing) for s in found]


def _last(job: Job, series: list[jobs.Readings]) -> tuple[float | None, bool]:
    """What the gauge that is read says last, Pa, and whether it is over its range."""
    main = runs.main_of(job, series)
    if main is None or not main.at.size:
        return None, False
    over = bool(np.isnan(main.pa[-1]))
    return (None, True) if over else (float(main.pa[-1]), False)


def _row(stored: jobs.StoredJob, hub: Hub) -> YardRow:
    run = runs.view_of(stored)
    found = stages_of(run)
    stage = current(found)
    words: Name = {s.key: s.missing for s in found}[stage]
    ended = found[-1].done
    link = hub.links.get(stored.key)
    is_live = link is not None and not link.stale
    pa, over, next_at = None, False, None
    next_title: Name = ""
    if not ended:
        pa, over = _last(run.job, run.series)
    # Plans and verdicts are shown here once they are there; the Yard does not wait for them.
    if is_live and not ended and runs.plan_ready(run.job):
        next_title, next_at = hand_wanted(stored.key, run, hub) or ("", None)
    if stage in ("release", "record") and (judged := holds.judged_ready(run)) is not None:
        if judged.verdict.verdict != "tight-and-dry" and not run.job.release.steps_done and not ended:
            stage, words = "hold", headline(judged.verdict)
        else:
            words = (
                message("yard-verdict-and", verdict=judged.verdict.sentence, missing=words)
                if words
                else judged.verdict.sentence
            )
    start_at = run.job.plans.start_at if run.state.started_at is None and not ended else None
    if start_at is not None and not next_title:
        next_title, next_at = message("day-start-pump"), start_at
    if ended:
        words = message("yard-signed", by=run.job.closing.signed_by)
    return YardRow(
        key=stored.key,
        title=stored.job.title,
        customer=stored.job.party.customer,
        unit=stored.job.party.unit,
        refrigerant=stored.job.scope.refrigerant,
        stage=stage,
        words=words,
        pa=pa,
        over_range=over,
        live=is_live,
        next_title=next_title,
        next_at=next_at,
        stages=states(found),
        updated_at=stored.updated_at,
        technician=run.job.party.technician,
        pump=pump_name(run.job.rig.pump),
        start_at=start_at,
        rank=_rank(is_live and next_title != "", next_at, found[-1].done),
    )


def _rank(hand: bool, at: float | None, done: bool) -> float:
    """Where a row stands: a hand needed soonest first, then what is planned, then the rest, and what is done last."""
    return (0.0 if hand else 1e12) + (at if at is not None else 1e11) + (1e10 if done else 0.0)


def faulty(stored: jobs.StoredJob, fault: Name) -> YardRow:
    """A job that cannot be worked out, with why: its sheet is where that is mended."""
    read = not stored.fault
    return YardRow(
        key=stored.key,
        title=stored.job.title,
        customer=stored.job.party.customer,
        unit=stored.job.party.unit,
        refrigerant=stored.job.scope.refrigerant if read else "",
        stage="scope",
        words=fault,
        pa=None,
        over_range=False,
        live=False,
        next_title="",
        next_at=None,
        stages=[StageState(key=key, done=False, missing=fault if key == "scope" else "") for key in STAGES],
        updated_at=stored.updated_at,
        technician=stored.job.party.technician,
        pump=pump_name(stored.job.rig.pump) if read else "",
        start_at=None,
        rank=_rank(False, None, False),
    )


def _sealed_key(stored: jobs.StoredJob, hub: Hub) -> tuple[object, ...]:
    return stored.key, stored.version, stored.updated_at, stored.sealed_at, reader()


@cached(LRUCache(4096), key=_sealed_key, lock=Lock())
def _sealed_row(stored: jobs.StoredJob, hub: Hub) -> YardRow:
    """Of sealed records, which do not change."""
    return _row(stored, hub)


_under_way: Renewed[YardRow] = Renewed(WORKED_S, MOST_S)
_quiet: Renewed[YardRow] = Renewed(QUIET_S, 3.0 * QUIET_S)


def _open_row(
    stored: jobs.StoredJob, hub: Hub, link: Link, touched: int, series: list[jobs.Readings] | None
) -> YardRow:
    """Of jobs that a gauge is read for, with their last readings."""
    ground = stored.version, stored.updated_at, touched, link.stale, runs.plan_ready(stored.job)
    row = _under_way.of((stored.key, reader()), ground, lambda: _row(stored, hub))
    if row.stages[-1].done:
        return row
    pa, over = _last(stored.job, jobs.readings(stored.key) if series is None else series)
    return row.model_copy(update={"pa": pa, "over_range": over})


def _quiet_row(stored: jobs.StoredJob, hub: Hub, mark: tuple[int, int]) -> YardRow:
    """Of jobs that no gauge is heard of: they change by their sheet, a step, or a reading that is typed."""
    ground = stored.version, stored.updated_at, mark
    return _quiet.of((stored.key, reader()), ground, lambda: _row(stored, hub))


def row_of(
    stored: jobs.StoredJob, hub: Hub, mark: tuple[int, int], series: list[jobs.Readings] | None = None
) -> YardRow:
    """A job's row; ``mark``: how far it has come (`jobs.marks`). ``series``: its readings, where they are at hand."""
    if stored.sealed_at is not None:
        return _sealed_row(stored, hub)
    link = hub.links.get(stored.key)
    return _quiet_row(stored, hub, mark) if link is None else _open_row(stored, hub, link, mark[0], series)
