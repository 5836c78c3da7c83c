"""The gates before the pump runs: what each asks to be seen on this job, and how it stands by its evidence."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.catalogue.systems import LINKS
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import left_out
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.evidence import Gate
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope

Kind = Literal["items", "sections", "sweep", "pressure-test", "oil", "blank-off", "rig-proof", "gauge"]
State = Literal["open", "passed", "stated", "doubtful", "failed", "skipped"]


@dataclass(frozen=True)
class Item:
    """One thing to be seen: a stable key, in words."""

    key: str
    label: str


@dataclass(frozen=True, kw_only=True)
class GateSpec:
    """A gate: what is asked and why. ``any_of``: one of its items is enough."""

    key: str
    title: str
    why: str
    kind: Kind = "items"
    items: tuple[Item, ...] = ()
    any_of: bool = False


@dataclass(frozen=True)
class GateState:
    """How a gate stands: ``words`` are its evidence, or what it still wants."""

    spec: GateSpec
    state: State
    words: str

    @property
    def holds_up(self) -> bool:
        """Whether the draw should wait for it."""
        return self.state in ("open", "failed")


def _items(*pairs: tuple[str, str]) -> tuple[Item, ...]:
    return tuple(Item(k, label) for k, label in pairs)


POWER = GateSpec(
    key="power",
    title="Power off, locked, proved dead",
    why="A compressor that starts in vacuum has no cooling and can arc.",
    items=_items(("off", "isolator off"), ("locked", "locked and tagged"), ("dead", "proved dead at the terminals")),
)
COMPRESSOR = GateSpec(
    key="compressor",
    title="The compressor cannot start",
    why="A thermostat, a timer or a remote start calls when nobody looks. Never energise or megger one in a vacuum.",
    items=_items(
        ("lead", "lead or fuse out"),
        ("enable", "enable or run contact opened"),
        ("none", "no compressor in what is evacuated"),
    ),
    any_of=True,
)
RECOVERED = GateSpec(
    key="recovered",
    title="Refrigerant recovered or pumped down",
    why="Vented refrigerant harms, and is against the law.",
    items=_items(
        ("recovered", "recovered into a cylinder, weighed"),
        ("pumped-down", "pumped down into the unit, valves closed"),
        ("none", "new: none has been in it"),
    ),
    any_of=True,
)
TEST = GateSpec(
    key="pressure-test",
    title="Pressure test under nitrogen",
    why="A leak is found in minutes under nitrogen, in hours under vacuum.",
    kind="pressure-test",
)
PROTECTION = GateSpec(
    key="protection",
    title="Protection and air",
    why="Oil mist, cold burns, and gas that pushes the air away.",
    items=_items(
        ("eyes", "goggles"),
        ("hands", "gloves, long sleeves, safety boots"),
        ("air", "the place is ventilated"),
        ("exhaust", "the pump's exhaust led outside"),
    ),
)
HEATERS = GateSpec(
    key="heaters",
    title="Warmth",
    why="A warm compressor and a warm building give their water up sooner.",
    items=_items(
        ("crankcase", "crankcase or belly heater on"),
        ("blanket", "heat blanket or warm air, kept moving; never a flame"),
        ("warm", "all is above 15 °C already"),
    ),
    any_of=True,
)
OIL = GateSpec(
    key="oil", title="Pump oil", why="Wet oil gives its water back; the pump stalls over 1,000 µ.", kind="oil"
)
BLANK = GateSpec(
    key="blank-off", title="Pump blank-off", why="If the pump cannot pull deep alone, no system will.", kind="blank-off"
)
PROOF = GateSpec(
    key="rig-proof",
    title="Rig proof",
    why="A hose that leaks or is dirty is found now, and not in the hold.",
    kind="rig-proof",
)
GAUGE = GateSpec(
    key="gauge", title="Micron gauge", why="A fouled sensor reads wrong, and nothing on it says so.", kind="gauge"
)
FLAMMABLE = GateSpec(
    key="flammable",
    title="Flammable refrigerant",
    why="A2L and A3 refrigerants burn: what the pump blows out, and what comes out of the oil.",
    items=_items(
        ("sources", "no ignition source within reach of the gas, heavy gas in pits too"),
        ("pump", "the pump is rated for it"),
        ("detector", "a gas detector is on, fire extinguisher at hand"),
        ("flame", "swept with nitrogen before any flame"),
    ),
)


def gates_for(job: Job) -> tuple[GateSpec, ...]:
    """Gates that apply to this job, in the order in which they are gone through."""
    ports = tuple(Item(f"zero:{p.id}", f"0 gauge at the {p.words()}") for p in job.scope.ports if _used(job, p.section))
    vented = GateSpec(
        key="nitrogen-vented",
        title="Holding nitrogen vented",
        why="Pressure ruins a gauge and blows oil from a pump; it may have crept into a section thought closed.",
        items=ports,
    )
    sweep = GateSpec(
        key="sweep",
        title="Nitrogen sweep",
        why="It carries the air and the free water out of every section before the pump has to.",
        kind="sweep",
        items=_items(("swept", "swept through every section, as below")),
    )
    flammable = (FLAMMABLE,) if REFRIGERANTS[job.scope.refrigerant].safety != "A1" else ()
    first = (POWER, COMPRESSOR, RECOVERED, *flammable, PROTECTION, TEST, vented, _sections(job), sweep, HEATERS)
    return (*first, OIL, BLANK, PROOF, GAUGE)


def _used(job: Job, section: str) -> bool:
    return not job.scope.section(section).holds_charge


def _sections(job: Job) -> GateSpec:
    """Every valve inside the system that has to be open, with the way in which it is opened."""
    found = []
    for x in job.scope.links:
        kept = any(job.scope.section(end).holds_charge for end in (x.a, x.b))
        if x.kind in LINKS and x.kind not in ("capillary", "filter-drier") and not kept:
            how = x.note or LINKS[x.kind].opened
            found.append(Item(f"link:{x.id}", f"{x.words()}: {how}" if how else f"{x.words()} open"))
    why = "A section left closed is not evacuated, and nothing on the gauge says so."
    return GateSpec(key="sections", title="No section closed off", why=why, kind="sections", items=tuple(found))


def states(job: Job, answers: dict[str, tuple[State, str]]) -> list[GateState]:
    """How every gate stands. ``answers``: state and words of those that are computed, by gate."""
    return [_state(job, spec, job.prove.gates.get(spec.key, Gate()), answers) for spec in gates_for(job)]


def _state(job: Job, spec: GateSpec, gate: Gate, answers: dict[str, tuple[State, str]]) -> GateState:
    if gate.state == "skipped":
        return GateState(spec, "skipped", gate.note)
    if spec.key in answers:
        state, words = answers[spec.key]
        # What was said before there was evidence stands until there is some.
        if state == "open" and gate.state == "done":
            return GateState(spec, "stated", gate.note or "said to be done; no evidence")
        return GateState(spec, state, words)
    if spec.kind == "sections" and (out := _not_reached(job)):
        return GateState(
            spec, "failed", f"Not reached as the sheet has it: {', '.join(out)}. Open the way, or say why not."
        )
    seen = [i for i in spec.items if i.key in gate.items]
    left = [i for i in spec.items if i.key not in gate.items]
    note = f" {gate.note}" if gate.note else ""
    if (spec.any_of and seen) or (not spec.any_of and not left):
        said = "; ".join(i.label for i in seen) or "nothing in it can be closed"
        return GateState(spec, "passed", f"{said}.{note}")
    if gate.state == "done":
        return GateState(spec, "stated", gate.note or "said to be done; no evidence")
    wanted = " or ".join(i.label for i in left) if spec.any_of else ", ".join(i.label for i in left)
    return GateState(spec, "open", f"Still to be seen: {wanted}.")


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
