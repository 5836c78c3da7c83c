"""The gates before the pump runs: what each asks to be seen on this job, and how it stands by its evidence."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from rough_draw.core.catalogue.systems import LINKS
from rough_draw.core.message import Message, Name, listed, message, one_of
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import left_out
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.evidence import Gate
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import opened_words
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope

Kind = Literal["items", "sections", "sweep", "pressure-test", "oil", "blank-off", "rig-proof", "gauge"]
State = Literal["open", "passed", "stated", "doubtful", "failed", "skipped"]


@dataclass(frozen=True)
class Item:
    """One thing to be seen: a stable key, in words."""

    key: str
    label: Message


@dataclass(frozen=True, kw_only=True)
class GateSpec:
    """A check: what is asked and why. ``any_of``: one of its items is enough; ``proposed``: the one that the sheet
    speaks for, empty where it does not tell.
    """

    key: str
    kind: Kind = "items"
    items: tuple[Item, ...] = ()
    any_of: bool = False
    proposed: str = ""

    @property
    def title(self) -> Message:
        """What is asked."""
        return message(f"check-{self.key}")

    @property
    def why(self) -> Message:
        """Why."""
        return message(f"check-{self.key}.why")


@dataclass(frozen=True)
class GateState:
    """How a gate stands: ``words`` are its evidence, or what it still wants."""

    spec: GateSpec
    state: State
    words: Name

    @property
    def holds_up(self) -> bool:
        """Whether the draw should wait for it."""
        return self.state in ("open", "failed")


def _items(check: str, *keys: str) -> tuple[Item, ...]:
    return tuple(Item(k, message(f"check-{check}-{k}")) for k in keys)


def _check(key: str, *keys: str, any_of: bool = False) -> GateSpec:
    """A check of things that are seen one by one."""
    return GateSpec(key=key, items=_items(key, *keys), any_of=any_of)


POWER = _check("power", "off", "locked", "dead")
COMPRESSOR = _check("compressor", "lead", "enable", "none", any_of=True)
RECOVERED = _check("recovered", "recovered", "pumped-down", "none", any_of=True)
TEST = GateSpec(key="pressure-test", kind="pressure-test")
PROTECTION = _check("protection", "eyes", "hands", "air", "exhaust")
HEATERS = _check("heaters", "crankcase", "blanket", "warm", any_of=True)
OIL = GateSpec(key="oil", kind="oil")
BLANK = GateSpec(key="blank-off", kind="blank-off")
PROOF = GateSpec(key="rig-proof", kind="rig-proof")
GAUGE = GateSpec(key="gauge", kind="gauge")
FLAMMABLE = _check("flammable", "sources", "pump", "detector", "flame")


def gates_for(job: Job) -> tuple[GateSpec, ...]:
    """Gates that apply to this job, in the order in which they are gone through."""
    ports = tuple(
        Item(f"zero:{p.id}", message("check-zero-at", port=p.words())) for p in job.scope.ports if _used(job, p.section)
    )
    vented = GateSpec(
        key="nitrogen-vented",
        items=ports,
    )
    sweep = GateSpec(
        key="sweep",
        kind="sweep",
        items=_items("sweep", "swept"),
    )
    flammable = (FLAMMABLE,) if job.scope.fluid.flammable else ()
    compressor = replace(COMPRESSOR, proposed=_compressor_is(job))
    recovered = replace(RECOVERED, proposed=_charge_went(job))
    first = (POWER, compressor, recovered, *flammable, PROTECTION, TEST, vented, _sections(job), sweep, HEATERS)
    return (*first, OIL, BLANK, PROOF, GAUGE)


def _compressor_is(job: Job) -> str:
    """None, where the sheet has no compressor in what is evacuated; a condensing unit has one within."""
    there = any(s.kind in ("compressor", "condenser") and not s.holds_charge for s in job.scope.sections)
    return "" if there else "none"


def _charge_went(job: Job) -> str:
    """Where the refrigerant is, by the sheet: none was in a new system, and a unit that keeps its charge has it."""
    if job.scope.condition == "new-dry":
        return "none"
    return "pumped-down" if any(s.holds_charge for s in job.scope.sections) else ""


def _used(job: Job, section: str) -> bool:
    return not job.scope.section(section).holds_charge


def _sections(job: Job) -> GateSpec:
    """Every valve inside the system that has to be open, with the way in which it is opened."""
    found = []
    for x in job.scope.links:
        kept = any(job.scope.section(end).holds_charge for end in (x.a, x.b))
        if x.kind in LINKS and x.kind not in ("capillary", "filter-drier") and not kept:
            found.append(Item(f"link:{x.id}", opened_words(x)))
    return GateSpec(key="sections", kind="sections", items=tuple(found))


def states(job: Job, answers: dict[str, tuple[State, Name]]) -> list[GateState]:
    """How every gate stands. ``answers``: state and words of those that are computed, by gate."""
    return [_state(job, spec, job.prove.gates.get(spec.key, Gate()), answers) for spec in gates_for(job)]


def _state(job: Job, spec: GateSpec, gate: Gate, answers: dict[str, tuple[State, Name]]) -> GateState:
    if gate.state == "skipped":
        return GateState(spec, "skipped", gate.note)
    if spec.key in answers:
        state, words = answers[spec.key]
        # What was said before there was evidence stands until there is some.
        if state == "open" and gate.state == "done":
            return GateState(spec, "stated", gate.note or message("check-stated"))
        return GateState(spec, state, words)
    if spec.kind == "sections" and (out := _not_reached(job)):
        return GateState(spec, "failed", message("check-not-reached", sections=listed(out)))
    seen = [i for i in spec.items if i.key in gate.items]
    left = [i for i in spec.items if i.key not in gate.items]
    if (spec.any_of and seen) or (not spec.any_of and not left):
        said = listed([i.label for i in seen]) or message("check-nothing-closes")
        told = message("check-seen-note", seen=said, note=gate.note) if gate.note else message("check-seen", seen=said)
        return GateState(spec, "passed", told)
    if gate.state == "done":
        return GateState(spec, "stated", gate.note or message("check-stated"))
    labels = [i.label for i in left]
    wanted = one_of(labels) if spec.any_of else listed(labels)
    return GateState(spec, "open", message("check-still", wanted=wanted))


def _not_reached(job: Job) -> list[str]:
    return list(_left_out(job.scope, job.rig))


@lru_cache(maxsize=128)
def _left_out(scope: Scope, rig: Rig) -> tuple[str, ...]:
    # Asked for every job on the Yard, and it depends on nothing but these.
    try:
        assembly = assemble(Job(scope=scope, rig=rig))
    except ScopeError:
        return ()
    return tuple(assembly.system.labels[s] for s in left_out(assembly))
