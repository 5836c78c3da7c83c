"""The deviations of a stored job: what is known of it, gathered for the record."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, cast

from rough_draw.api import runs
from rough_draw.api.charge.conversion import charging_of
from rough_draw.api.devices.hub import ATTACHED, Hub
from rough_draw.api.hold import holds
from rough_draw.core.charging.cautions import caution, caution_keys, ticked
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.hold.wording import headline
from rough_draw.core.interlock.preview import foresee
from rough_draw.core.interlock.release import done_steps, release_steps
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import duration, vacuum
from rough_draw.core.model.assemble import valve_names
from rough_draw.core.model.system import ScopeError
from rough_draw.core.proving.assessment import prove
from rough_draw.core.records.deviation import CheckState, Deviation, Facts, deviations
from rough_draw.core.records.hash_chain import Entry, closing_of
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.run_state import known, words_of
from rough_draw.core.sheet.steps import TakenBack
from rough_draw.store import sealing, weights

LEAST_OFF_KG = 0.02
"""What a scale under a cylinder is trusted to, kg."""


def deviations_of(key: str, run: runs.RunView, hub: Hub) -> tuple[Deviation, ...]:
    """Everything that this job's record deviates in."""
    return deviations(_facts(key, run, hub))


def _facts(key: str, run: runs.RunView, hub: Hub) -> Facts:
    job, state = run.job, run.state
    standard = criteria.chosen(job.criterion)
    judged = _judged(run)
    outcome = judged.verdict.criteria[0] if judged is not None and judged.verdict.criteria else None
    return Facts(
        checks=_checks(run),
        drawn=state.started_at is not None,
        read=any(s.at.size for s in run.series),
        isolated=holds.hold_start(run) is not None,
        held=holds.hold_span(run),
        needed=standard.minutes * 60.0,
        verdict=judged.verdict.verdict if judged is not None else None,
        headline=headline(judged.verdict) if judged is not None else "",
        standard=standard.name,
        standard_passed=outcome.passed if outcome is not None else None,
        standard_reason=outcome.reason if outcome is not None else "",
        simulated=_simulated(key, run),
        against_stops=_against(run),
        off_kg=_off(key, run, hub),
        steps_left=_left(run),
        cautions_left=tuple(
            caution(k, job.scope.refrigerant)
            for k in caution_keys(job.scope)
            if not ticked(k, job.scope.refrigerant, job.closing.acknowledged)
        ),
    )


def _simulated(key: str, run: runs.RunView) -> bool:
    """Whether anything was read of a simulated gauge or scale, however it came into the job."""
    attached = any(t.kind == ATTACHED for t in run.touches)
    return attached or any(bool(s.simulated.any()) for s in run.series) or weights.any_simulated(key)


def _judged(run: runs.RunView) -> holds.Judged | None:
    """The verdict; None too where the sheet cannot be worked out: a record is made of that as well."""
    try:
        return holds.judge(run)
    except (ScopeError, NetworkError):
        return None


def _against(run: runs.RunView) -> tuple[Name, ...]:
    """Steps that were made though each was a stop as the run then stood; what was taken back as never done is none."""
    undone = {t.step.text for t in run.touches if isinstance(t.step, TakenBack)}
    try:
        names = valve_names(run.job)
        return tuple(
            words_of(t.kind, names)
            for n, t in enumerate(run.touches)
            if known(t.kind) and t.kind not in undone and _is_stop(run, n)
        )
    except (ScopeError, NetworkError):
        return ()


def _is_stop(run: runs.RunView, n: int) -> bool:
    try:
        return foresee(run.job, runs.state_of(run.job, run.touches[:n]), run.touches[n].kind).stop
    except KeyError:
        # On a part that is no longer on the sheet: what it did then is not known now.
        return False


def _checks(run: runs.RunView) -> Mapping[str, tuple[CheckState, Name]]:
    try:
        gates = prove(run.job).gates
    except (ScopeError, NetworkError):
        return {}
    return {g.spec.key: (cast(CheckState, g.state), g.spec.title) for g in gates if g.state != "passed"}


def _left(run: runs.RunView) -> tuple[Name, ...]:
    done = done_steps(run.job, run.state)
    return tuple(s.title for s in release_steps(run.job) if s.key not in done)


def _off(key: str, run: runs.RunView, hub: Hub) -> float | None:
    """How far the charge weighed in is from what was to be, kg, where it is beyond the margin."""
    seen = charging_of(key, run, hub)
    weighed = run.job.release.weighed_kg if run.job.release.weighed_kg is not None else seen.added_kg
    if weighed is None or seen.to_weigh_kg is None:
        return None
    off = weighed - seen.to_weigh_kg
    most = max(LEAST_OFF_KG, seen.to_weigh_kg * run.job.release.margin_pct / 100.0)
    return off if abs(off) > most else None


def printed(key: str, run: runs.RunView, hub: Hub) -> tuple[tuple[Name, str], ...]:
    """Deviations as the report has them, each with its reason: as they were sealed, or as they stand now."""
    closed = closing_of(sealing.chain_of(key))
    if closed is not None:
        return tuple((str(d["words"]), str(d["reason"])) for d in sealed_in(closed))
    return tuple((d.words, "") for d in deviations_of(key, run, hub))


def sealed_in(closed: Entry) -> list[dict[str, Any]]:
    """Deviations that a record was closed with; none in records of earlier versions."""
    return [d for d in closed.body.get("deviations", []) if isinstance(d, dict)]


def sealing_words(run: runs.RunView, count: int) -> Message:
    """What is being sealed, in plain words."""
    judged = _judged(run)
    main = run.main()
    lowest = None
    if main is not None and main.at.size:
        seen = main.pa[main.pa == main.pa]
        lowest = float(seen.min()) if seen.size else None
    return message(
        "sealing-what",
        drawn="yes" if run.state.started_at is not None else "no",
        lowest=vacuum(lowest) if lowest is not None else "",
        read="yes" if lowest is not None else "no",
        held="yes" if judged is not None else "no",
        span=duration(holds.hold_span(run)),
        headline=headline(judged.verdict) if judged is not None else "",
        count=count,
    )
