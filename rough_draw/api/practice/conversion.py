"""Practice as the API says it."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from rough_draw.api.deps import floats, maybe
from rough_draw.api.plan.schemas import Choice
from rough_draw.api.practice.schemas import (
    DebriefOut,
    DeedOut,
    DoneOut,
    FaultOption,
    GroupOut,
    JudgedOut,
    MarkOut,
    PathOut,
    RigOption,
    RigSlot,
    RigsOut,
    RunOut,
    SaidOut,
    ScenarioCard,
    TruthOut,
    VanPart,
    WrongOut,
)
from rough_draw.api.practice.sessions import Debrief, Session
from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.message import Message, Name, message
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import CallVerdict, NameCause
from rough_draw.core.practice.actions import verdict_words
from rough_draw.core.practice.rig_choice import slots
from rough_draw.core.practice.scenario import Scenario, possible
from rough_draw.core.practice.scoring import SKILLS
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.setups import PATTERNS, fits
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.debrief_facts import to_name
from rough_draw.standins.practice.offers import groups
from rough_draw.standins.practice.session_log import Track
from rough_draw.store import practice as store

MOST_POINTS = 900


def card(s: Scenario, own: bool = False, past: Sequence[store.Past] = ()) -> ScenarioCard:
    """A scenario without what it hides."""
    mine = [p.marks["total"] for p in past if p.scenario == s.key and p.marks.get("total") is not None]
    template = TEMPLATES.get(s.sheet.scope.template)
    party = s.sheet.party
    return ScenarioCard(
        key=s.key,
        title=s.title,
        brief=s.brief,
        level=s.level,
        ends=s.ends,
        rigged=s.rigged,
        place=" · ".join(x for x in (party.customer, party.unit) if x),
        system=message(
            "practice-system",
            system=template.name if template else message("practice-own-system"),
            refrigerant=s.sheet.scope.refrigerant,
        ),
        own=own,
        best=max(mine) if mine else None,  # type: ignore[type-var]
        tries=len([p for p in past if p.scenario == s.key]),
    )


def run_out(s: Session) -> RunOut:
    """A session as it stands."""
    bay = s.bay
    criterion = chosen(bay.scenario.sheet.criterion)
    pa = bay.shows()
    second = bay.track.second[-1][1] if bay.track.second else None
    return RunOut(
        key=s.key,
        scenario=card(bay.scenario),
        time=bay.time,
        arrived=bay.scenario.arrive_s,
        speed=s.speed,
        rigged=bay.rigged,
        pump_on=bay.pump_on,
        isolated=bay.isolated,
        pa=pa,
        over_range=pa is None and bay.rigged and bool(bay.track.shown) and not bay.charged,
        rate_micron_s=_rate(bay),
        second_pa=second,
        charged=bay.charged,
        target_pa=criterion.target,
        limit_pa=criterion.limit,
        hold_s=criterion.minutes * 60.0,
        school=message("practice-standard", standard=criterion.name, rule=criterion.rule()),
        # How a section's own valve stands is not seen from outside.
        shut=[
            g.name
            for g in bay.board.gates.values()
            if g.kind != "section" and g.name not in bay.contents.opened and bay.rigged
        ],
        # What somebody else did is not known, but for what the brief says of it.
        done=[DoneOut(at=d.at, kind=d.kind, words=d.words, showed=d.showed) for d in bay.done if not d.before],
        groups=[
            GroupOut(
                key=g.key,
                words=g.words,
                deeds=[DeedOut(kind=d.kind, words=d.words, minutes=d.minutes) for d in g.deeds],
            )
            for g in groups(bay)
        ],
        causes=[Choice(value=c.key, label=c.words) for c in bay.nameable()],
        verdicts=[Choice(value=k, label=message(f"called-{k}")) for k in actions.VERDICTS],
        ends=[Choice(value=k, label=message(f"end-{k}")) for k in actions.ENDS],
        hints=[]
        if s.exam
        else [
            Choice(value=str(n), label=message(f"hint-{n}"), note=f"−{c:.0f}") for n, c in enumerate(actions.HINTS, 1)
        ],
        ended=bay.ended,
        truth=_truth_out(bay) if bay.scenario.sandbox else None,
    )


def _truth_out(bay: Bay) -> TruthOut:
    """What is so, for who may see it."""
    worst = None if bay.charged else bay.highest()
    held = bay.apart() and not bay.charged
    truth = bay.hold_truth().verdicts(chosen(bay.scenario.sheet.criterion).limit) if held else ()
    return TruthOut(
        wrong=[WrongOut(key=c.key, severity=s) for c, s in bay.at_work()],
        possible=[FaultOption(value=c.key, label=c.words, later=False) for c in possible(bay.told)],
        true_pa=None if bay.charged else bay.pressure(bay.assembly.gauge_node),
        worst_pa=worst,
        worst=bay.worst_spot(),
        water_kg=sum(bay.water()),
        truly=verdict_words(truth[0]) if truth else "",
    )


def _rate(bay: Bay) -> float | None:
    """µ/s over the last minute's readings."""
    n = 30
    shown, at = bay.track.shown[-n:], bay.track.at[-n:]
    good = [(t, p) for t, p in zip(at, shown, strict=True) if not math.isnan(p)]
    if len(good) < 8:
        return None
    t, p = np.array(good).T
    return float(np.polyfit(t - t[0], p, 1)[0] / MICRON_PA)


def rigs_out(job: Job) -> RigsOut:
    """Hook-ups that a system allows, and what the van has for them."""
    return RigsOut(
        rigs=[
            RigOption(
                pattern=p.key,
                name=p.name,
                words=p.words,
                slots=[RigSlot(slot=s, kind=k, where=w) for s, k, w in slots(job, p.key)],
            )
            for p in PATTERNS.values()
            if fits(p.key, job.scope)
        ],
        van=[VanPart(id=k.id, kind=k.kind, name=k.name) for k in VAN],
    )


def path_out(track: Track) -> PathOut:
    """What was read and what was true, thinned where it is much."""
    step = max(1, math.ceil(len(track.at) / MOST_POINTS))
    return PathOut(
        at=floats(np.array(track.at[::step]), 7),
        shown=maybe(np.array(track.shown[::step])),
        true=maybe(np.array(track.true[::step])),
        highest=maybe(np.array(track.highest[::step])),
    )


def _value(series: Sequence[float], bay: Bay, at: float) -> float | None:
    found = bay.track.value(series, at)
    return None if math.isnan(found) else found


def _judged(bay: Bay) -> list[JudgedOut]:
    limit = chosen(bay.scenario.sheet.criterion).limit
    known = {kind_of(k) for k in to_name(bay)}
    found = []
    number = 0
    for d in bay.done:
        right: Name = ""
        if d.hold is not None and isinstance(d.action, CallVerdict):
            best = d.hold.verdicts(limit)
            said = d.action.verdict
            right = "right" if said in best else message("practice-it-was", verdict=verdict_words(best[0]))
        elif isinstance(d.action, NameCause):
            right = "right" if kind_of(d.action.cause) in known else "not so"
        found.append(
            JudgedOut(
                number=None if d.before else number,
                reason=d.reason,
                at=d.at,
                kind=d.kind,
                words=d.words,
                showed=d.showed,
                before=d.before,
                said=[SaidOut(severity=c.severity, words=c.words, why=c.why) for c in d.said],
                shown_pa=_value(bay.track.shown, bay, d.at),
                true_pa=_value(bay.track.true, bay, d.at),
                highest_pa=_value(bay.track.highest, bay, d.at),
                worst=d.worst,
                right=right,
            )
        )
        number += not d.before
    return found


def _truth(s: Scenario) -> list[Message]:
    """What was hidden, in words, with what to do about it."""
    known = {c.key: c for c in possible(s.sheet)}
    found: list[Message] = [
        message("practice-cause", cause=known[f.key].words, cure=known[f.key].cure) for f in s.hidden.faults
    ]
    found += [message(f"practice-found-{k}") for k in s.hidden.found]
    links = {x.id: x.words() for x in s.sheet.scope.links}
    found += [message("practice-was-closed", link=links[n]) for n in s.hidden.shut]
    if any(b.kind == "ballast-open" for b in s.before):
        found.append(message("practice-ballast-stood-open"))
    return found or [message("practice-nothing-wrong")]


def _lessons(s: Scenario) -> list[Message | str]:
    """What its maker says of it; where that is nothing, what is to be learned from each thing that was the matter."""
    if s.lesson:
        return [s.lesson]
    kinds = [kind_of(f.key) for f in s.hidden.faults]
    kinds += s.hidden.found
    if s.hidden.shut:
        kinds.append("section-shut")
    if any(b.kind == "ballast-open" for b in s.before):
        kinds.append("ballast")
    return [message(f"lesson-{k}") for k in dict.fromkeys(kinds or ["none"])]


def debrief_out(key: str, d: Debrief) -> DebriefOut:
    """A debrief for the wire."""
    s = d.bay.scenario
    criterion = chosen(s.sheet.criterion)
    return DebriefOut(
        scenario=card(s, past=store.listing()),
        replay=bool(store.get(key).replay_of),
        lessons=_lessons(s),
        truth=_truth(s),
        total=d.total,
        marks=[MarkOut(skill=m.skill, words=SKILLS[m.skill], score=m.score, lines=list(m.lines)) for m in d.marks],
        deeds=_judged(d.bay),
        expert=_judged(d.expert),
        own_path=path_out(d.bay.track),
        expert_path=path_out(d.expert.track),
        spent_s=d.bay.time - s.arrive_s,
        expert_s=d.expert.time - s.arrive_s,
        arrived=s.arrive_s,
        target_pa=criterion.target,
        limit_pa=criterion.limit,
        finished=bool(d.bay.ended),
    )
