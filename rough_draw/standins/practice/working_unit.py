"""A practice job that begins with a working unit: it is pumped down before anything is opened."""

from __future__ import annotations

from dataclasses import replace

from rough_draw.core.catalogue.fluids import AMBIENT_SHARE
from rough_draw.core.interlock.consequence import Consequence, caution, stop
from rough_draw.core.interlock.pump_down import sides
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import gauge_pressure
from rough_draw.core.practice.action_kinds import Action, Look, MakeSafe, PutRigOn
from rough_draw.core.practice.low_side import LowSide
from rough_draw.core.sheet.steps import OnPart, OnRun
from rough_draw.standins.practice.as_found import AsFound
from rough_draw.standins.practice.session_log import CannotDo

HANDS = ("check-room", "gauges-on", "start", "watch-suction", "stop-unit", "see-still")
"""What a pump-down is made of, but for the two valves; in the order in which a hand goes."""


class WorkingUnit(AsFound):
    """A world whose unit still works, until a rig goes on."""

    low: LowSide | None = None
    _locked = False
    _room_seen = False
    _gauged = False

    def unit_begins(self) -> None:
        """The unit as it stands: charged, stopped, its service valves open. Called once."""
        if self.scenario.working:
            still = self.told.scope.fluid.pressure_40c.value * AMBIENT_SHARE.value
            self.low = LowSide(at=0.0, pa=still, still=still, air=self.board.atmosphere)

    def unit_valves(self) -> dict[str, str]:
        """Its service valves: the side that each is on."""
        return {name: side for side in ("liquid", "suction") for name in sides(self.board)[side]}

    def on_unit(self, action: Action | None) -> bool:
        """Whether a hand works on the unit now, and not on what is to be evacuated."""
        if self.low is None or self.rigged:
            return False
        match action:
            case OnRun(move):
                return move in HANDS
            case OnPart("open" | "shut", valve):
                return valve in self.unit_valves()
            case _:
                return False

    def check_unit(self, action: Action | None) -> None:
        """Whether it can be done. Raises CannotDo."""
        if action == OnRun("start") and self._locked:
            raise CannotDo(message("cannot-locked"))

    def unit_said(self, action: Action | None) -> list[Consequence]:
        """What a hand on the unit, or one that opens it, meets. Brings the low side to this moment."""
        if self.low is None:
            return []
        low = self.low = self.low.later(self.time)
        match action:
            case OnRun("start") if not low.suction_open:
                return [stop("service-closed")]
            case OnPart("shut", valve) if self.unit_valves().get(valve) == "liquid" and not self._room_seen:
                return [caution("room-unseen")]
            case OnRun("stop-unit") | OnPart("shut", _) if low.below_zero:
                return [stop("below-zero", zero=gauge_pressure(0.0))]
            case PutRigOn() if not low.emptied:
                return [stop("venting", "joint")]
            case _:
                return []

    def work_unit(self, action: Action | None) -> Message | str:
        """Do it; what it shows."""
        low = self.low
        assert low is not None
        match action:
            case OnRun("check-room"):
                self._room_seen = True
            case OnRun("gauges-on"):
                self._gauged = True
            case OnRun("start" | "stop-unit" as move):
                self.low = replace(low, running=move == "start")
            case OnPart("open" | "shut" as way, valve):
                side = self.unit_valves()[valve]
                self.low = replace(low, **{f"{side}_open": way == "open"})
            case _:
                pass
        return message("shows-suction", pressure=gauge_pressure(low.pa - low.air)) if self._gauged else ""

    def lock(self, action: Action | None) -> None:
        """Power locked out stops what runs."""
        if self.low is not None and action in (Look("power"), MakeSafe("power")):
            self._locked = True
            self.low = replace(self.low, running=False)

    def unit_pressure(self) -> Message | None:
        """What a look at the ports of a charged unit shows; None where no more than a whiff is left, or no unit is."""
        low = self.low
        if low is None or self.rigged or low.emptied:
            return None
        return message("shows-charged", pressure=gauge_pressure(low.pa - low.air))
