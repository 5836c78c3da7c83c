"""The practice bay: a simulated job that hands work on. Every deed takes its time, and is judged as it is made.

What happens follows from the scenario and the deeds alone, so that a session is kept as its deeds and played again.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

import numpy as np

from rough_draw.core.catalogue.breaking import WARMTH
from rough_draw.core.diagnosis.faults import causes, kind_of
from rough_draw.core.engine.network import OUTSIDE, Network, Tube
from rough_draw.core.engine.simulate import compile_network, initial_state
from rough_draw.core.interlock.compartments import Board, make_board
from rough_draw.core.interlock.consequence import Consequence, Touch
from rough_draw.core.interlock.gas_state import State as Contents
from rough_draw.core.interlock.gas_state import before_the_draw
from rough_draw.core.interlock.orders import part_words
from rough_draw.core.interlock.transition import play
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import (
    Action,
    AskHint,
    CallVerdict,
    Cap,
    Check,
    Crack,
    DoTest,
    End,
    Look,
    NameCause,
    PutRigOn,
    read_action,
)
from rough_draw.core.practice.rig_choice import RigChoice, RigFault, rig_of
from rough_draw.core.practice.scenario import Scenario, seats, with_shut
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.steps import OnPart, OnRun
from rough_draw.standins.practice.hold_truth import HoldTruth, hold_truth
from rough_draw.standins.practice.observations import hint, looked, outcome
from rough_draw.standins.practice.session_log import CannotDo, Done, Named, Track
from rough_draw.standins.world import PUMP, Truth, World, gauge_of

GRID = 2.0
"""Seconds between readings: fixed, so that a session played again gives the same."""
PARTS_OWN = ("hose-leak", "dirty-hose", "seat", "core")
"""Kinds of fault that belong to a hose or a tool, and leave with it."""
OPENING = 5e-3
"""Bore, m, of a port or a hose's end left open."""
SOFTER = 4.0
"""How much faster warmth drives gas out of oil and walls (estimate)."""


class Bay(World):
    """One practice job. Time in s since its beginning."""

    def __init__(self, scenario: Scenario, van: Sequence[KitItem]) -> None:
        self.scenario = scenario
        self.van = tuple(van)
        hidden = scenario.hidden
        truth = Truth(
            unknowns=Unknowns(**hidden.unknowns),
            seed=hidden.seed,
            more=tuple((f.key, f.severity, f.at_s) for f in hidden.faults),
        )
        self.rigged = scenario.rigged
        self.told = scenario.sheet
        self.off: set[str] = set()
        self.taken_off: set[str] = set()
        self.warmed = False
        self.charged = False
        self.second = False
        self.ended = ""
        self.done: list[Done] = []
        self.track = Track()
        self.clock = 0.0
        super().__init__(scenario.true_job(), truth)
        self._put_on(scenario.sheet)
        for b in scenario.before:
            self._wait_out(b.at_s)
            self._make(b.kind, None, before=True)
        self._wait_out(scenario.arrive_s)

    # What stands there

    def _put_on(self, told: Job, leaves: frozenset[str] | None = None) -> None:
        """Take a sheet's rig on; the draw begins anew from the air. ``leaves``: faults of the pump or the gauge that
        go with what came off; None for the first rig.
        """
        self.told = told
        self.job = with_shut(told, self.still_shut())
        self.assembly = assemble(self.job, self.truth.unknowns, needs_pump=False)
        self.isolation = isolation(self.job, self.assembly)
        known = {c.key: c for c in [*causes(self.job, self.assembly), *seats(self.job, self.assembly.network)]}
        self._known = known
        self._coming = [(known[k], s, at) for k, s, at in self.truth.all() if k in known]
        if leaves is not None:
            # Other hoses and tools have not the faults of those that came off.
            gone = {k for k, _, _ in self.truth.all() if kind_of(k) in PARTS_OWN} | leaves
            self.taken_off |= gone - self.mended
            self.mended |= gone
        pool, sorbed = self._state.pool, self._state.sorbed
        self.pump_on, self.isolated, self.broken = False, False, False
        self.turned, self.off = {}, set()
        fresh = compile_network(self._network())
        made = initial_state(fresh.network)
        keeps = leaves is not None and made.pool.shape == pool.shape and made.sorbed.shape == sorbed.shape
        self._state = replace(made, pool=pool, sorbed=sorbed) if keeps else made
        self._compiled = fresh
        self.board: Board = make_board(self.job)
        self.contents: Contents = before_the_draw(self.board)
        self._shown = self.pressure(self.assembly.gauge_node)
        self._at_pump = self.pressure(PUMP)
        self.gauge = gauge_of(told)

    def still_shut(self) -> tuple[str, ...]:
        """Links that really are shut, and nobody has opened yet."""
        opened = {d.action for d in self.done}
        return tuple(n for n in self.scenario.hidden.shut if OnPart("open", f"system.{n}") not in opened)

    def _network(self) -> Network:
        net = super()._network()
        if self.warmed:
            pools = tuple(replace(p, heat_inflow=p.heat_inflow * WARMTH.value) for p in net.pools)
            sorbed = tuple(replace(s, tau=s.tau / SOFTER) for s in net.sorbed)
            net = replace(net, pools=pools, sorbed=sorbed)
        for part in sorted(self.off):
            room = self.board.ends[part]
            node = next(n.name for n in net.nodes if self.board.places.get(n.name) == room)
            net = replace(
                net, tubes=(*net.tubes, Tube(name=f"open.{part}", a=node, b=OUTSIDE, bore=OPENING, length=0.01))
            )
            for port, own in self.board.ports.items():
                if own == part and f"port:{port}" in self.board.sprung:
                    net = net.with_tube(f"{port}.port", open=False)
        return net

    def ways_shut(self) -> list[str]:
        """Valves of rig and system that stand shut, in words."""
        return [
            self.board.label(g.name)
            for g in self.board.gates.values()
            if g.name not in self.contents.opened and g.kind in ("valve", "section")
        ]

    # Time

    def advance(self, until: float) -> None:
        """Run on to the last whole `GRID` before ``until`` s, reading at each; the rest is kept on the clock.

        Only deeds end between two readings: how often somebody looked must not change how the time was cut up, or a
        session played again would differ in the last digits.
        """
        due = (self.time // GRID + 1.0) * GRID
        while due <= until:
            self._on(due)
            self._note(due)
            due += GRID
        self.clock = max(self.clock, until)

    def _wait_out(self, until: float) -> None:
        """Run on to ``until`` s exactly."""
        self.advance(until)
        self._on(until)
        self.clock = self.time

    def _on(self, until: float) -> None:
        if self.charged:
            self.time = max(self.time, until)
        else:
            super().advance(until)

    def _note(self, at: float) -> None:
        shown = None if self.charged or not self._has_gauge() else self.read()
        self.track.at.append(at)
        self.track.shown.append(float("nan") if shown is None else shown)
        self.track.true.append(float("nan") if self.charged else self.pressure(self.assembly.gauge_node))
        self.track.highest.append(float("nan") if self.charged else self.highest())
        if self.second and not self.charged:
            other = self.read(PUMP)
            if other is not None:
                self.track.second.append((at, other))

    def _has_gauge(self) -> bool:
        gauge = self.job.rig.gauge
        return self.rigged and gauge is not None and not ({gauge.id, gauge.on or ""} & self.off)

    def system_nodes(self) -> list[str]:
        """Nodes of what is to be evacuated."""
        return [f"system.{s.name}" for s in self.assembly.system.evacuated]

    def highest(self) -> float:
        """The highest true pressure anywhere in what is to be evacuated, Pa."""
        return max(self.pressure(n) for n in self.system_nodes())

    def water(self) -> list[float]:
        """Free water that is left in each pool, kg."""
        return [float(m) for m in self._state.pool[:, 0]]

    def shows(self) -> float | None:
        """The last reading, Pa; None over range or without a gauge."""
        last = self.track.shown[-1] if self.track.shown else float("nan")
        return None if np.isnan(last) else last

    # Hands

    def do(self, kind: str, choice: RigChoice | None = None) -> Done:
        """Do something: its minutes pass, then it is done. Raises CannotDo where it cannot be."""
        minutes = actions.minutes_of(kind)
        if minutes is None:
            raise CannotDo(f"there is nothing called '{kind[:60]}' to do")
        if self.ended:
            raise CannotDo("this practice job is over; begin it again, or another")
        self._check(kind, choice)
        self._wait_out(self.time + minutes * 60.0)
        return self._make(kind, choice)

    def _check(self, kind: str, choice: RigChoice | None) -> None:
        """Whether hands can do it here. Raises CannotDo."""
        action = read_action(kind)
        if not self.rigged and _needs_rig(action):
            raise CannotDo("no rig is on yet: put one together first")
        match action:
            case OnPart("open" | "shut", thing) | Crack(thing):
                if thing not in self.board.gates:
                    raise CannotDo(f"there is no valve '{thing}' here; there are {', '.join(self.board.gates)}")
            case OnPart("core-out" | "core-in", port) | Cap(port):
                if self.told.scope.port(port) is None:
                    raise CannotDo(f"there is no port '{port}'")
                if isinstance(action, OnPart) and port not in self.board.ports:
                    raise CannotDo(f"no core tool stands on the {port} port")
            case OnPart("take-off", part):
                if part not in self.board.ends or part in self.off:
                    raise CannotDo(f"'{part}' does not come off here")
            case PutRigOn():
                self._check_rig(choice)
            case CallVerdict():
                if not (self.isolated or self._apart()):
                    raise CannotDo("nothing is isolated, so no hold can be judged")
            case OnRun("isolate"):
                if not self.isolation.tubes:
                    raise CannotDo("no valve of this rig shuts the system off")
            case NameCause(cause):
                if not any(c.key == cause for c in self.nameable()):
                    raise CannotDo(f"'{cause}' is not among what could be the matter here")
            case _:
                pass

    def _check_rig(self, choice: RigChoice | None) -> None:
        if choice is None:
            raise CannotDo("which rig? Choose a hook-up and its parts")
        if self.charged:
            raise CannotDo("the system is under pressure; the rig cannot be changed now")
        try:
            rig_of(self.told, choice, self.van)
        except (RigFault, ValueError) as e:
            raise CannotDo(str(e)) from None

    def _apart(self) -> bool:
        """Whether shut valves part the system from the pump, by hand or all together."""
        return self.rigged and self.assembly.gauge_node not in self._compiled.network.connected(PUMP)

    def _make(self, kind: str, choice: RigChoice | None, before: bool = False) -> Done:
        said = self._judged(kind)
        names = self.names()
        action = read_action(kind)
        for key in actions.cures(kind, [c.key for c, _ in self.at_work()]):
            self.mended.add(key)
        showed = self._carried_out(kind, action, choice)
        hold = self.hold_truth() if isinstance(action, CallVerdict) else None
        opened = action.valve if isinstance(action, Crack) else ""
        if isinstance(action, OnPart) and action.move == "open":
            opened = action.part
        if opened and self.board.gates[opened].kind in ("service", "cylinder"):
            self.charged = True
        if not self.charged:
            self._again()
        words = actions.words_of(kind, names)
        made = Done(
            at=self.time,
            kind=kind,
            words=words,
            said=said,
            showed=showed,
            hold=hold,
            choice=choice,
            before=before,
            worst=self._worst(),
        )
        self.done.append(made)
        return made

    def _carried_out(self, kind: str, action: Action | None, choice: RigChoice | None) -> str:
        """Do it to the simulated job; what it showed."""
        match action:
            case PutRigOn() if choice is not None:
                self._put_on(rig_of(self.told, choice, self.van), self._off_with(choice))
                self.rigged = True
            case OnPart("take-off", part):
                self.off.add(part)
            case OnRun("warm-up"):
                self.warmed = True
            case DoTest(test):
                showed = outcome(self, test)
                self.second = self.second or test == "second"
                return showed
            case End(end):
                self.ended = end
            case Look(what):
                return looked(self, what)
            case AskHint(step):
                return hint(self, step)
            case OnPart("open" | "shut", valve) if valve not in self.assembly.valves:
                pass
            case OnRun() | OnPart():
                World.touch(self, kind)
            case _:
                pass
        return ""

    def _worst(self) -> str:
        """The section that stands highest, in words; nothing once charge is in."""
        if self.charged:
            return ""
        name = max(self.assembly.system.evacuated, key=lambda x: self.pressure(f"system.{x.name}")).name
        return self.assembly.system.labels.get(name, name)

    def _off_with(self, choice: RigChoice) -> frozenset[str]:
        """Faults that leave with a pump or a gauge of another number."""
        found: set[str] = set()
        for slot, kinds in (("pump", ("worn-pump", "wet-oil")), ("gauge", ("fouled", "jumping"))):
            part = self.told.rig.pump if slot == "pump" else self.told.rig.gauge
            if part is not None and slot in choice.parts and choice.parts[slot] != part.kit:
                found |= set(kinds)
        return frozenset(found)

    def _judged(self, kind: str) -> tuple[Consequence, ...]:
        """What the interlock says of it, and the contents after it."""
        match read_action(kind):
            case OnRun("isolate" | "reopen" as move):
                touches = [Touch("shut" if move == "isolate" else "open", v) for v in self.isolation.valves]
            case OnPart("open" | "shut" | "core-out" | "core-in" | "take-off" as part_move, part):
                touches = [Touch(part_move, part)]
            case Crack(valve):
                touches = [Touch("crack", valve)]
            case Cap(port):
                touches = [Touch("cap", port)]
            case OnRun("pump-on" | "pump-off" | "ballast-open" | "ballast-shut" | "oil-change" as run_move):
                touches = [Touch(run_move)]
            case Check(what):
                touches = [Touch(what)]
            case _:
                return ()
        said: dict[str, Consequence] = {}
        for t in touches:
            self.contents, found = play(self.board, self.contents, t)
            said |= {c.key: c for c in found if c.key not in said}
        return tuple(said.values())

    def names(self) -> dict[str, str]:
        """Valves, parts and causes in words."""
        found = {g: self.board.label(g) for g in self.board.gates}
        found |= {p: part_words(self.board, p) for p in self.board.ends}
        found |= {p.id: f"the {p.words()}" for p in self.told.scope.ports}
        return found | {c.key: c.words for c in self.nameable()}

    def hold_truth(self) -> HoldTruth:
        """What would rise in the isolated part, and why."""
        gauge = self.assembly.gauge_node
        apart = PUMP not in self._compiled.network.connected(gauge)
        must = frozenset(self.system_nodes()) if apart else frozenset((PUMP, ""))
        state = replace(self._state, time=self.time, step=1e-3)
        return hold_truth(self._compiled, state, gauge, must, self.highest())

    def nameable(self) -> list[Named]:
        """What could be the matter, for a person to name."""
        more = [
            Named("ballast", "the gas ballast is open"),
            Named("section-shut", "a section is shut off and was never reached"),
            Named("core-in", "a valve core is in the way"),
        ]
        seen = {m.key for m in more} | {"none"}
        found = [Named(c.key, c.words) for c in self._known.values() if c.key not in seen and c.kind != "shut"]
        return [*more, *found]


def _needs_rig(action: Action | None) -> bool:
    """Whether it cannot be done before a rig is on. Valves of the system itself can be worked without one."""
    match action:
        case OnPart("put-on", _):
            return False
        case OnPart(_, part):
            return not part.startswith("system.")
        case OnRun("pump-on" | "isolate") | CallVerdict():
            return True
        case _:
            return False


def played(scenario: Scenario, van: Sequence[KitItem], deeds: Iterable[tuple[float, str, RigChoice | None]]) -> Bay:
    """A session again from its deeds: when each was finished, what it was. Raises CannotDo for one that cannot be."""
    bay = Bay(scenario, van)
    for at, kind, choice in deeds:
        minutes = actions.minutes_of(kind) or 0.0
        bay.advance(max(bay.time, at - minutes * 60.0))
        bay.do(kind, choice)
    return bay
