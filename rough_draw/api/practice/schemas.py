"""What practice says over the wire."""

from __future__ import annotations

from pydantic import BaseModel, Field

from rough_draw.api.plan.schemas import Choice as Option
from rough_draw.api.said import Said
from rough_draw.core.practice.rig_choice import RigChoice
from rough_draw.core.practice.scenario import Hidden
from rough_draw.core.sheet.job import Job


class ScenarioCard(BaseModel):
    """A scenario as a learner sees it: nothing of what is hidden. ``best`` of one's scores, None before the first."""

    key: str
    title: Said
    brief: Said
    level: int
    ends: Said
    rigged: bool
    place: Said
    system: Said
    own: bool = False
    best: float | None = None
    tries: int = 0


class SkillOut(BaseModel):
    """A skill over the last sessions: its mean, of how many, and how it went before."""

    skill: str
    words: Said
    score: float | None
    of: int
    past: list[float]


class StretchOut(BaseModel):
    """A stretch of the path: the mean of the last jobs that train it, how many are done well, what to try next."""

    stretch: str
    words: Said
    score: float | None
    well: int
    of: int
    next: str | None
    title: Said


class PastRun(BaseModel):
    """A session in short; ``replay``: it went on from another, and counts for nothing."""

    key: str
    scenario: str
    title: Said
    began_at: float
    ended_at: float | None
    total: float | None
    replay: bool


class PracticeOut(BaseModel):
    """Everything on the Practice page, of whoever is at this browser. ``next`` is the scenario proposed, with why."""

    who: str
    scenarios: list[ScenarioCard]
    skills: list[SkillOut]
    path: list[StretchOut]
    runs: list[PastRun]
    next: str | None
    why: Said


class LearnerOut(BaseModel):
    """Somebody of the class: jobs ended unhelped, the last of them, means by skill and by stretch of the path."""

    name: str
    jobs: int
    last_at: float | None
    mean: float | None
    skills: list[SkillOut]
    path: list[StretchOut]


class ExamIn(BaseModel):
    """An examination at a level."""

    level: int = Field(ge=1, le=5)


class ExamJob(BaseModel):
    """A job of an examination that was begun: points when it is over, and how often a stop was touched."""

    run: str
    title: Said
    ended: bool
    points: float | None
    stops: int


class ExamOut(BaseModel):
    """An examination: its jobs so far, of how many, and how it stands: open, passed or failed."""

    key: str
    name: str
    level: int
    began_at: float
    state: str
    of: int
    jobs: list[ExamJob]


class ReplayIn(BaseModel):
    """Go on from before a deed of a session, by its number."""

    before: int = Field(ge=0, le=10_000)


class BeginIn(BaseModel):
    """Which scenario to begin: a key, or ``made-<level>-<number>``."""

    scenario: str = Field(pattern=r"^[a-z0-9-]{1,40}$")


class SandboxIn(BaseModel):
    """A sandbox: a sheet, what is wrong with it to begin with, another rig than the sheet's."""

    sheet: Job
    hidden: Hidden = Hidden()
    rig: RigChoice | None = None


class PaceIn(BaseModel):
    """Times real time: 0 (stands), 1, 10, 60, 300."""

    speed: int


class DeedIn(BaseModel):
    """Something to do; a rig comes with its choice."""

    kind: str = Field(max_length=80)
    choice: RigChoice | None = None


class DeedOut(BaseModel):
    """Something that can be done, with its minutes."""

    kind: str
    words: Said
    minutes: float


class GroupOut(BaseModel):
    """Deeds that belong together."""

    key: str
    words: Said
    deeds: list[DeedOut]


class DoneOut(BaseModel):
    """Something that was done; ``showed`` is what a test or a look told."""

    at: float
    kind: str
    words: Said
    showed: Said


class WrongOut(BaseModel):
    """Something that is wrong in a sandbox: a key, and how bad as a normal deviate."""

    key: str
    severity: float


class TruthOut(BaseModel):
    """What is so in a sandbox: at the gauge and at the worst spot Pa, free water kg.

    ``truly``: what is so of what is isolated; ``possible``: everything that can be put wrong with what stands there.
    """

    wrong: list[WrongOut]
    possible: list[FaultOption]
    true_pa: float | None
    worst_pa: float | None
    worst: Said
    water_kg: float
    truly: Said


class RunOut(BaseModel):
    """A session as it stands. Times s since its beginning, pressures Pa. ``truth``: what is so, in a sandbox."""

    key: str
    scenario: ScenarioCard
    time: float
    arrived: float
    speed: int
    rigged: bool
    pump_on: bool
    isolated: bool
    pa: float | None
    over_range: bool
    rate_micron_s: float | None
    second_pa: float | None
    charged: bool
    target_pa: float
    limit_pa: float
    hold_s: float
    school: Said
    shut: list[str]
    done: list[DoneOut]
    groups: list[GroupOut]
    causes: list[Option]
    verdicts: list[Option]
    ends: list[Option]
    hints: list[Option]
    ended: str
    truth: TruthOut | None


class TrackOut(BaseModel):
    """Readings of a session after a time: s, Pa; null where over range. ``worst_pa``: what was so, in a sandbox."""

    at: list[float]
    pa: list[float | None]
    worst_pa: list[float | None]
    second_at: list[float]
    second_pa: list[float]


class RigSlot(BaseModel):
    """A place of a hook-up that a part of the van fills."""

    slot: str
    kind: str
    where: Said


class RigOption(BaseModel):
    """A hook-up that this system allows, and its places."""

    pattern: str
    name: Said
    words: Said
    slots: list[RigSlot]


class RigsOut(BaseModel):
    """Hook-ups and the van: parts by number, with kind and name."""

    rigs: list[RigOption]
    van: list[VanPart]


class VanPart(BaseModel):
    """A part in the van."""

    id: int
    kind: str
    name: Said


class SaidOut(BaseModel):
    """A consequence of a deed."""

    severity: str
    words: Said
    why: Said


class JudgedOut(BaseModel):
    """A deed in the debrief: what followed from it, what the gauge said then and what was true, Pa.

    ``number``: by which the job can be gone on with from before it; ``reason``: why a sound hand does it.
    """

    number: int | None = None
    reason: Said = ""
    at: float
    kind: str
    words: Said
    showed: Said
    before: bool
    said: list[SaidOut]
    shown_pa: float | None
    true_pa: float | None
    highest_pa: float | None
    worst: Said
    right: Said


class MarkOut(BaseModel):
    """A skill's score with its reasons."""

    skill: str
    words: Said
    score: float | None
    lines: list[Said]


class PathOut(BaseModel):
    """A draw: what the gauge said, what was true at the gauge and at the worst spot. s, Pa."""

    at: list[float]
    shown: list[float | None]
    true: list[float | None]
    highest: list[float | None]


class DebriefOut(BaseModel):
    """A session beside a sound hand's."""

    scenario: ScenarioCard
    replay: bool
    lessons: list[Said]
    truth: list[Said]
    total: float
    marks: list[MarkOut]
    deeds: list[JudgedOut]
    expert: list[JudgedOut]
    own_path: PathOut
    expert_path: PathOut
    spent_s: float
    expert_s: float
    arrived: float
    target_pa: float
    limit_pa: float
    finished: bool


class FaultOption(BaseModel):
    """Something that can be wrong; ``later``: it may as well begin in the middle of the draw."""

    value: str
    label: Said
    later: bool


class PossibleOut(BaseModel):
    """What a trainer can hide in a sheet: faults by key, links that can be shut."""

    faults: list[FaultOption]
    links: list[Option]
    patterns: list[Option]
    found: list[Option]


RigsOut.model_rebuild()
RunOut.model_rebuild()
