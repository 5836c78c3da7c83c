"""The practice bay: a simulated job that hands work on. Every deed takes its time, and is judged as it is made.

What happens follows from the scenario and the deeds alone, so that a session is kept as its deeds and played again.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from rough_draw.core.diagnosis.faults import Cause
from rough_draw.core.interlock.consequence import Consequence, Touch, caution, touch_of
from rough_draw.core.interlock.nitrogen_hands import pressed, swept
from rough_draw.core.interlock.port_parts import PLUNGER
from rough_draw.core.interlock.step_words import part_words
from rough_draw.core.interlock.transition import play
from rough_draw.core.message import Fault, Name, message
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import (
    Action,
    AskHint,
    CallVerdict,
    Check,
    DoTest,
    End,
    Look,
    MakeSafe,
    NameCause,
    Nitrogen,
    PutRigOn,
    SetFault,
    read_action,
)
from rough_draw.core.practice.rig_choice import RigChoice, RigFault, rig_of
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.steps import OnPart, OnRun
from rough_draw.standins.practice.hold_truth import HoldTruth, hold_truth
from rough_draw.standins.practice.observations import hint, looked, outcome, port_words
from rough_draw.standins.practice.session_log import CannotDo, Done, Named
from rough_draw.standins.practice.working_unit import WorkingUnit
from rough_draw.standins.world import PUMP, World


class Bay(WorkingUnit):
    """One practice job, with hands at it. ``because``: why they do what they do next, where somebody says so."""

    because: Name = ""

    def __init__(self, scenario: Scenario, van: Sequence[KitItem]) -> None:
        super().__init__(scenario, van)
        self.found_begins()
        self.unit_begins()
        for b in scenario.before:
            self._wait_out(b.at_s)
            self._make(b.kind, None, before=True)
        self._wait_out(scenario.arrive_s)

    def do(self, kind: str, choice: RigChoice | None = None) -> Done:
        """Do something: its minutes pass, then it is done. Raises CannotDo where it cannot be."""
        if self.ended:
            raise CannotDo(message("cannot-over"))
        minutes = self.minutes(kind)
        self._check(kind, choice)
        self.check_unit(read_action(kind))
        self._wait_out(self.time + minutes * 60.0)
        return self._make(kind, choice)

    def minutes(self, kind: str) -> float:
        """Minutes that a deed takes here. Raises CannotDo for a kind that is not known."""
        minutes = actions.minutes_of(kind)
        if minutes is None:
            raise CannotDo(message("cannot-unknown", deed=kind[:60]))
        return minutes + (self.sweep().minutes if self.rigged and read_action(kind) == Nitrogen("sweep") else 0.0)

    def _check(self, kind: str, choice: RigChoice | None) -> None:
        """Whether hands can do it here. Raises CannotDo."""
        action = read_action(kind)
        if not self.rigged and _needs_rig(action):
            raise CannotDo(message("cannot-no-rig"))
        match action:
            case OnPart("open" | "shut" | "crack" | "stem-cap", thing):
                if thing not in self.board.gates:
                    raise CannotDo(message("cannot-no-valve", valve=thing))
            case OnPart("core-out" | "core-in" | "cap" | "check-port" as move, port):
                if self.told.scope.port(port) is None:
                    raise CannotDo(message("cannot-no-port", port=port))
                if move in ("core-out", "core-in") and port not in self.board.ports:
                    raise CannotDo(message("cannot-no-tool", port=port_words(self.told.scope, port)))
            case OnPart("take-off" | "put-on", part) if part.endswith(PLUNGER):
                if part.removesuffix(PLUNGER) not in self.board.ends:
                    raise CannotDo(message("cannot-take-off", part=part))
            case OnPart("purge" | "zero-scale" | "weigh-in" | "trim" | "empty-hose", source):
                if source not in self.board.gates:
                    raise CannotDo(message("cannot-no-valve", valve=source))
            case OnPart("put-on", part):
                if part not in self.off:
                    raise CannotDo(message("cannot-take-off", part=part))
            case OnPart("take-off", part):
                if part not in self.board.ends or part in self.off:
                    raise CannotDo(message("cannot-take-off", part=part))
            case SetFault(cause):
                if not (self.scenario.sandbox and any(c.key == cause for c in self.could_be())):
                    raise CannotDo(message("cannot-unknown", deed=kind[:60]))
            case PutRigOn():
                self._check_rig(choice)
            case CallVerdict():
                if not (self.isolated or self.apart()):
                    raise CannotDo(message("cannot-not-isolated"))
            case OnRun("isolate"):
                if not self.isolation.tubes:
                    raise CannotDo(message("cannot-isolate"))
            case Nitrogen(how):
                if self.charged:
                    raise CannotDo(message("cannot-under-pressure"))
                if how == "sweep" and not self.sweep().passed:
                    raise CannotDo(message("cannot-sweep"))
            case NameCause(cause):
                if not any(c.key == cause for c in self.nameable()):
                    raise CannotDo(message("cannot-name", cause=cause))
            case _:
                pass

    def _check_rig(self, choice: RigChoice | None) -> None:
        if choice is None:
            raise CannotDo(message("cannot-which-rig"))
        if self.charged:
            raise CannotDo(message("cannot-under-pressure"))
        try:
            rig_of(self.told, choice, self.van)
        except (RigFault, ValueError) as e:
            raise CannotDo(e.told if isinstance(e, Fault) else str(e)) from None

    def apart(self) -> bool:
        """Whether shut valves part the system from the pump, by hand or all together."""
        return self.rigged and self.assembly.gauge_node not in self._compiled.network.connected(PUMP)

    def _make(self, kind: str, choice: RigChoice | None, before: bool = False) -> Done:
        self.creep()
        action = read_action(kind)
        of_unit = self.on_unit(action)
        said = tuple(self.unit_said(action))
        if not (said or of_unit):
            said = self._judged(kind)
        names = self.names()
        for key in actions.cures(kind, [c.key for c, _ in self.at_work()]):
            self.mended.add(key)
        self.lock(action)
        showed = self.work_unit(action) if of_unit else self._carried_out(kind, action, choice)
        hold = self.hold_truth() if isinstance(action, CallVerdict) else None
        moved = isinstance(action, OnPart) and action.move in ("open", "crack") and not of_unit
        opened = action.part if isinstance(action, OnPart) and moved else ""
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
            worst=self.worst_spot(),
            apart=self.apart(),
            reason=self.because,
        )
        self.done.append(made)
        return made

    def _carried_out(self, kind: str, action: Action | None, choice: RigChoice | None) -> str:
        """Do it to the simulated job; what it showed."""
        match action:
            case PutRigOn() if choice is not None:
                self._put_on(rig_of(self.told, choice, self.van), self._off_with(choice))
                self.rigged = True
                self.press_again()
            case OnPart("take-off" | "put-on", part) if part.endswith(PLUNGER):
                pass
            case OnPart("take-off", part):
                self.off.add(part)
            case OnPart("put-on", part):
                self.off.discard(part)
            case OnRun("warm-up"):
                self.warmed = True
            case DoTest(test):
                showed = outcome(self, test)
                self.second = self.second or test == "second"
                return showed
            case End(end):
                self.ended = end
            case Nitrogen(how):
                self.let_down()
                return self.press() if how == "test" else self.sweep_through()
            case SetFault(cause, severity):
                self.set_fault(cause, severity)
            case MakeSafe(safe):
                return self.make_safe(safe)
            case Look(what):
                charged = self.unit_pressure() if what == "pressure" else None
                return charged or self.see(what) or looked(self, what)
            case AskHint(step):
                return hint(self, step)
            case OnPart("open" | "shut", valve) if valve not in self.assembly.valves:
                pass
            case OnRun() | OnPart():
                World.touch(self, kind)
            case _:
                pass
        return ""

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
            case Nitrogen(how):
                by = (
                    pressed(self.board, self.contents, self.test_pa())
                    if how == "test"
                    else swept(self.board, self.contents)
                )
                self.contents, told = by
                return tuple(told)
            case PutRigOn() if self.still_pressed():
                return (caution("loosened-under-pressure"),)
            case OnRun("isolate" | "reopen" as move):
                touches = [Touch("shut" if move == "isolate" else "open", v) for v in self.isolation.valves]
            case OnPart(part_move, part):
                touches = [Touch(part_move, part)]
            case OnRun(run_move):
                touches = [t for t in [touch_of(run_move)] if t is not None]
            case Check(what):
                touches = [Touch(what)]
            case _:
                return ()
        said: dict[str, Consequence] = {}
        for t in touches:
            self.contents, found = play(self.board, self.contents, t)
            said |= {c.key: c for c in found if c.key not in said}
        return tuple(said.values())

    def names(self) -> dict[str, Name]:
        """Valves, parts and causes in words."""
        # A part that is a valve too has the valve's name, which tells it from others of its kind.
        found = {p: part_words(self.board, p) for p in self.board.ends}
        found |= {g: self.board.label(g) for g in self.board.gates}
        found |= {f"{p}{PLUNGER}": message("plunger-of", tool=found[p]) for p in self.board.ends}
        found |= {p.id: message("the", thing=p.words()) for p in self.told.scope.ports}
        return found | {c.key: c.words for c in self.nameable()}

    def hold_truth(self) -> HoldTruth:
        """What would rise in the isolated part, and why."""
        gauge = self.assembly.gauge_node
        apart = PUMP not in self._compiled.network.connected(gauge)
        must = frozenset(self.system_nodes()) if apart else frozenset((PUMP, ""))
        state = replace(self._state, time=self.time, step=1e-3)
        return hold_truth(self._compiled, state, gauge, must, self.highest())

    def could_be(self) -> list[Cause]:
        """Every cause that this rig and system could have, with its place: no more than the list of names tells."""
        return [c for c in self._known.values() if c.kind != "none"]

    def nameable(self) -> list[Named]:
        """What could be the matter, for a person to name."""
        more = [
            Named("ballast", message("named-ballast")),
            Named("section-shut", message("named-section-shut")),
            Named("core-in", message("named-core-in")),
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
        case OnRun("pump-on" | "isolate") | CallVerdict() | Nitrogen():
            return True
        case _:
            return False


def played(scenario: Scenario, van: Sequence[KitItem], deeds: Iterable[tuple[float, str, RigChoice | None]]) -> Bay:
    """A session again from its deeds: when each was finished, what it was. Raises CannotDo for one that cannot be."""
    bay = Bay(scenario, van)
    for at, kind, choice in deeds:
        bay.advance(max(bay.time, at - bay.minutes(kind) * 60.0))
        bay.do(kind, choice)
    return bay
