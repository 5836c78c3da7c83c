"""A sound hand at a practice job: rigs the best the van allows, looks before it mends, holds before it says."""

from __future__ import annotations

import math
from collections.abc import Sequence

from rough_draw.core.advice.setup_check import answers
from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.interlock.release import release_steps
from rough_draw.core.message import Message, Value, message
from rough_draw.core.message.figure import duration, vacuum
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.next_step import ballast_at
from rough_draw.core.planning.plan import time_to_target
from rough_draw.core.practice import actions
from rough_draw.core.practice.rig_choice import RigFault, rig_of
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.kit import KitItem
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.before_the_draw import looked_first, pumped_down
from rough_draw.standins.practice.best_choice import Best, best_choice
from rough_draw.standins.practice.evidence import ORDER, hold_says, jumps, meaning
from rough_draw.standins.practice.expected import still_wet
from rough_draw.standins.practice.mending import broken_with_nitrogen, going_on, mended, tried

LONGEST = 7 * 3600.0
LOOK_AGAIN = 20.0
STALLED = 240.0
"""Seconds in which a reading over the target has to fall by `LEAST`, or something is the matter."""
LEAST = 0.04
BLIND = 600.0
"""Seconds over range after which something is the matter."""
WORTH = 1.3
"""A standing rig is taken down for one that is this much quicker, or that can be held where it cannot."""
ROUNDS = 6
DRY_FOR = 15 * 60.0
"""How much longer a wet system is pulled after every hold that found it wet, s: once, then twice, and so on."""
AGAIN = 3600.0
"""Seconds after which a test that said no is made again: what was sound may have come loose."""
PATIENCE = 25
"""Stalls that are waited out where every test has said no."""
SLOW, SLOW_S = 1.6, 240.0
"""Times the planned draw, and seconds more, from which one that came down was slow."""
WAITED_FOR = ("water", "refrigerant", "ice")
"""Kinds that no hand takes away at once."""
HELD_ON = 40 * 60.0
"""How much longer a hold goes on that says leak where no leak was found, s."""
AS_STEEP = 0.8
"""Share of the rise before from which one has come back as steep."""
SCATTER = 0.12
"""How far a reading jumps from one to the next, as a log, before its joint is looked at."""


class Expert:
    """Plays one scenario to its end. ``bay`` holds what was done and when."""

    def __init__(self, scenario: Scenario, van: Sequence[KitItem], best: Best | None) -> None:
        self.bay = Bay(scenario, van)
        self.best = best
        self.job = scenario.sheet
        self.target = chosen(scenario.sheet.criterion).target
        self.asked: dict[str, float] = {}
        self.named: set[str] = set()
        self.patient = 0
        self.began = 0.0
        self.at_fault = ""
        self.held_before, self.rise = False, 0.0

    def play(self) -> Bay:
        """To the end, or as far as a working day goes."""
        pumped_down(self.bay)
        looked_first(self.bay)
        self._rig()
        self._ways()
        self._start()
        for n in range(ROUNDS):
            began = self.began = self.bay.time
            self._draw(began)
            self.bay.advance(max(self.bay.time, began + n * DRY_FOR))
            verdict = self._hold()
            if verdict in ("tight", "leak", "both") or self.bay.time > LONGEST:
                break
            self._again(verdict)
        self._finish(verdict)
        return self.bay

    def _because(self, key: str, **values: Value) -> None:
        """Why the next things are done."""
        self.bay.because = message(f"expert-{key}", **values)

    def _rig(self) -> None:
        bay = self.bay
        if self.best is None:
            return
        told = rig_of(self.job, self.best.choice, bay.van)
        if bay.rigged and self._charges_by_it():
            return
        if bay.rigged:
            poor = [a for a in answers(bay.told, bay.assembly, bay.isolation) if a.letter in "ab" and a.says == "no"]
            now = time_to_target(bay.told)
            slow = now is None or now > WORTH * self.best.seconds + 60.0 * actions.RIG_MINUTES
            if not poor and not slow:
                return
        self._because("rig", time=duration(self.best.seconds))
        if told.rig != bay.told.rig or not bay.rigged:
            bay.do(f"rig:{self.best.choice.pattern}", self.best.choice)
            if bay.scenario.rigged and self.job.rig.cores_in:
                self._because("core-in")
                bay.do("cause:core-in")

    def _charges_by_it(self) -> bool:
        """Whether the charge comes from a cylinder on the rig that stands: another would leave nothing to charge by."""
        scenario = self.bay.scenario
        return scenario.ends == "release" and scenario.sheet.rig.has("cylinder")

    def _ways(self) -> None:
        """Go along every valve first: what is shut is not evacuated, and no gauge says so."""
        bay = self.bay
        self._because("ways")
        shown = bay.do("test:ways").showed
        if not isinstance(shown, Message) or bay.isolated:
            return
        for key in meaning(bay, "ways", shown):
            # A valve that stands halfway is seen as it is gone along, and turned all the way.
            self._treat([key])
        if shown.key not in ("shows-closed", "shows-closed-and-half"):
            return
        inside = False
        for g in [g for g in bay.board.gates.values() if g.kind in ("valve", "section")]:
            if g.name not in bay.contents.opened:
                bay.do(f"open:{g.name}")
                inside = inside or g.kind == "section"
        if inside:
            self._name("section-shut")

    def _start(self) -> None:
        bay = self.bay
        if bay.ballast and bay.pump_on:
            self._because("ballast-found")
            bay.do("test:ballast")
            bay.do("cause:ballast")
        if ballast_at(self.job) is not None and not bay.ballast and not bay.pump_on:
            self._because("ballast-open")
            bay.do("ballast-open")
        self._because("start")
        if not bay.pump_on:
            bay.do("pump-on")
        if bay.isolated:
            bay.do("reopen")

    def _draw(self, began: float) -> None:
        """Down to the target, looking into every stall."""
        bay = self.bay
        level = ballast_at(self.job) or 1500.0 * MICRON_PA
        seen = [(bay.time, bay.shows())]
        while bay.time < LONGEST:
            bay.advance(bay.time + LOOK_AGAIN)
            v = bay.shows()
            seen.append((bay.time, v))
            if bay.ballast and v is not None and v <= level:
                self._because("ballast-shut", level=vacuum(level))
                bay.do("ballast-shut")
                continue
            if v is not None and v <= 0.9 * self.target and not self._too_slow():
                return
            if self._stalls(seen, began):
                self._because("stall", time=duration(STALLED), target=vacuum(self.target))
                if not self._look_into():
                    return
                began, seen = bay.time, [(bay.time, bay.shows())]

    def _stalls(self, seen: list[tuple[float, float | None]], began: float) -> bool:
        now, v = seen[-1]
        if v is None:
            return now - began > BLIND
        then = [p for t, p in seen if t <= now - STALLED]
        if not then or then[-1] is None:
            return False
        return v > (1.0 - LEAST) * then[-1]

    def _look_into(self) -> bool:
        """One thing that is the matter, found by its evidence and mended; False where pulling on will not help."""
        bay = self.bay
        if bay.ballast and bay.shows() is not None:
            bay.do("test:ballast")
            bay.do("cause:ballast")
            bay.do("ballast-shut")
            return True
        for test in ORDER:
            found = self._ask(test)
            if found:
                return self._treat(found)
        if not bay.warmed:
            self._because("warm")
            bay.do("warm-up")
            return True
        # Nothing more to mend: patience, as long as it still falls at all.
        self.patient += 1
        return bay.time < LONGEST and self.patient <= PATIENCE

    def _ask(self, test: str) -> list[str]:
        """Make a test, unless it was made not long ago; what it speaks for."""
        bay = self.bay
        if bay.time - self.asked.get(test, -math.inf) < AGAIN:
            return []
        shown = bay.do(f"test:{test}").showed
        if not isinstance(shown, Message) or shown.key.startswith("shows-needs"):
            return []
        self.asked[test] = bay.time
        found = [k for k in meaning(bay, test, shown) if k not in self.named or kind_of(k) in WAITED_FOR]
        # Water that freezes on the way is still that water.
        wet = next((k for k in self.named if kind_of(k) in ("water", "ice")), None)
        return [wet if wet is not None and kind_of(k) in ("water", "ice") else k for k in found]

    def _name(self, key: str) -> None:
        if key not in self.named:
            self.named.add(key)
            before = self.bay.because
            self._because("name")
            self.bay.do(f"cause:{key}")
            self.bay.because = before

    def _treat(self, found: list[str]) -> bool:
        """Name what was found and mend it; False for what only a repair mends."""
        bay = self.bay
        for key in found:
            self._name(key)
        kind = kind_of(found[0])
        if kind == "system-leak":
            return False
        if kind == "ice":
            self._because("ice")
            broken_with_nitrogen(bay)
            return True
        if kind in WAITED_FOR:
            if not bay.warmed:
                self._because("warm")
                bay.do("warm-up")
            return True
        mend = actions.mend_for(found[0])
        if mend is not None:
            self._because("mend")
            mended(bay, mend)
        return mend is not None

    def _too_slow(self) -> bool:
        """It came down, but slower than its rig does, or with a reading that jumps: looked into once."""
        self._because("slow")
        suspects = ["joint"] if jumps(self.bay, SCATTER) else []
        planned = self.best.seconds if self.best is not None else None
        if planned is not None and self.bay.time - self.began > SLOW * planned + SLOW_S:
            suspects += ["sound", "cores"]
        found = [k for test in suspects for k in self._ask(test)]
        if found:
            self._treat(found)
        return bool(found)

    def _hold(self) -> str:
        """Isolate, stop, hold as long as is asked; what the readings say, and where by its evidence."""
        bay = self.bay
        if not bay.isolation.tubes:
            bay.do("pump-off")
            return "not-judged"
        self._because("isolate", target=vacuum(self.target))
        if not bay.isolated:
            bay.do("isolate")
        if bay.pump_on:
            bay.do("pump-off")
        begun = bay.time
        bay.advance(begun + chosen(self.job.criterion).minutes * 60.0)
        said = hold_says(bay, begun)
        if said == "not-judged":
            # What cannot be told yet is waited for, as long again: a hold costs less than another draw.
            bay.advance(bay.time + chosen(self.job.criterion).minutes * 60.0)
            said = hold_says(bay, begun)
        if said in ("leak", "both", "rig"):
            # A rise has its place: on the rig, which is mended, or on the system, which is not.
            self._because("place")
            for test in ("seats", "joints", "hoses"):
                found = self._ask(test)
                for key in found:
                    self._name(key)
                if found:
                    self.at_fault = found[0]
                    if kind_of(found[0]) != "system-leak":
                        said = "rig"
                    elif said == "rig":
                        said = "leak"
                    break
        found = self.at_fault or any(kind_of(k) == "system-leak" for k in self.named)
        if said in ("leak", "both") and not found:
            said = self._without_a_place(said, begun)
        if said in ("moisture", "both"):
            for key in self._ask("frost"):
                self._name(key)
        said = self._as_known(said)
        self._because("verdict", time=duration(bay.time - begun))
        bay.do(f"verdict:{said}")
        return said

    def _without_a_place(self, said: str, begun: float) -> str:
        """A leak has a place, and none was found: held on, since what boils bends over; then taken for what boils.

        It is warmed and drawn on then. Who is wrong learns it from the next hold: a leak comes back as steep.
        """
        self._because("no-place")
        self.bay.advance(self.bay.time + HELD_ON)
        said = hold_says(self.bay, begun)
        if said not in ("leak", "both"):
            return said
        rise = (self.bay.shows() or 0.0) / max(self.bay.time - begun, 1.0)
        steep, self.rise = rise > AS_STEEP * self.rise, rise
        return said if steep and self.held_before else "moisture"

    def _as_known(self, said: str) -> str:
        """What the hold says beside what was found before: a leak found is a leak though the curve cannot say."""
        leak = any(kind_of(k) == "system-leak" for k in self.named)
        wet = any(kind_of(k) in ("water", "ice") for k in self.named)
        self.held_before = True
        if said == "not-judged" and (leak or wet):
            return "both" if leak and wet else "leak" if leak else "moisture"
        if said == "leak" and leak and (wet or still_wet(self.bay)):
            return "both"
        return said

    def _again(self, verdict: str) -> None:
        bay = self.bay
        self._because("again")
        if verdict == "rig" and self.at_fault:
            mend = actions.mend_for(self.at_fault)
            if mend is not None:
                bay.do(mend)
            self.at_fault = ""
        if verdict in ("moisture", "refrigerant") and not bay.warmed:
            bay.do("warm-up")
        going_on(bay)

    def _finish(self, verdict: str) -> None:
        bay = self.bay
        self._because("finish")
        if verdict == "tight" and bay.scenario.ends == "release":
            for step in release_steps(bay.told):
                tried(bay, step.kind)
        self._because("end")
        bay.do({"tight": "end:release", "leak": "end:repair", "both": "end:repair"}.get(verdict, "end:later"))


def expert(scenario: Scenario, van: Sequence[KitItem]) -> tuple[Bay, Best | None]:
    """A scenario as a sound hand plays it, and the best rig of the van."""
    try:
        best = best_choice(scenario, van)
    except RigFault:
        best = None
    return Expert(scenario, van, best).play(), best
