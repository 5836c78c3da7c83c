"""How a practice job is found: a second feed that is live, nitrogen still on it. Looks see it, hands make it safe.

Who does not look works on it as it is: pressure meets the pump and the joints by the interlock's own rules, a live leg
costs in the debrief.
"""

from __future__ import annotations

from rough_draw.core.interlock.nitrogen_hands import filled
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import gauge_pressure
from rough_draw.core.practice.action_kinds import LookKind, SafeKind
from rough_draw.core.practice.scenario import AS_FOUND, FoundKind
from rough_draw.standins.practice.nitrogen_world import NitrogenWorld

LEFT_ON = 1.6
"""Times the atmosphere at which a forgotten test charge stands."""
CREPT = 1.2
"""Times the atmosphere that comes back past a seat."""
CREEPS_S = 240.0
"""How long it takes to be seen, s."""
SAFE: dict[str, SafeKind] = {"shows-power-live": "power", "shows-pressure-on": "vent"}
"""What makes safe what a look has shown."""


class AsFound(NitrogenWorld):
    """A world in the state in which it is found, until it is made safe."""

    _left: set[FoundKind]
    _creeps_at: float | None = None
    _crept = False

    def found_begins(self) -> None:
        """Put in what the scenario hides; called once, when the world stands."""
        self._left = set(self.scenario.hidden.found)
        if "creeping" in self._left:
            # What creeps is pressure first.
            self._left.add("pressure")
        self.press_again()

    def left_unsafe(self) -> tuple[FoundKind, ...]:
        """What still is not safe, in a steady order."""
        self.creep()
        left = self._left - {"pressure"} | {"creeping"} if self._crept and self.still_pressed() else self._left
        return tuple(k for k in AS_FOUND if k in left)

    def see(self, what: LookKind) -> Message | None:
        """What a look finds that is not safe; None where it finds nothing."""
        self.creep()
        if what == "power" and "second-feed" in self._left:
            return message("shows-power-live")
        if what == "pressure" and "pressure" in self._left:
            over = (CREPT if self._crept else LEFT_ON) - 1.0
            return message("shows-pressure-on", pressure=gauge_pressure(over * self.board.atmosphere))
        return None

    def make_safe(self, what: SafeKind) -> Message:
        """Lock the other feed out, or let every port down to the air."""
        if what == "power":
            found = "second-feed" in self._left
            self._left.discard("second-feed")
            return message("shows-locked-too" if found else "shows-one-feed")
        self.creep()
        if "pressure" not in self._left:
            return message("shows-no-gas")
        self.let_down()
        self._press_on(1.0)
        return message("shows-let-down")

    def creep(self) -> None:
        """What comes back past a seat once it had its time; a pump that runs by then takes it along."""
        if self._creeps_at is None or self.time < self._creeps_at:
            return
        self._creeps_at = None
        if not self.pump_on:
            self._crept = True
            self._left.add("pressure")
            self._press_on(CREPT)

    def still_pressed(self) -> bool:
        """Whether what nobody let down stands on it; a rig that is put on takes it over."""
        return "pressure" in self._left

    def let_down(self) -> None:
        """Nothing is left on it, whoever let it go; what creeps past a seat begins to come back."""
        self._left.discard("pressure")
        if "creeping" in self._left:
            self._left.discard("creeping")
            self._creeps_at = self.time + CREEPS_S

    def press_again(self) -> None:
        """The pressure that stands on it in what stands there now."""
        if self.still_pressed():
            self._press_on(CREPT if self._crept else LEFT_ON)

    def _press_on(self, times: float) -> None:
        """Nitrogen at so many atmospheres in what is evacuated: on the board, by which hands are judged.

        The engine is for vacuums: in its world the same dry gas stands at the atmosphere, where a vacuum gauge is over
        its range.
        """
        self._nitrogen_in(frozenset(self.system_nodes()), 0.0)
        self.contents = filled(self.board, self.contents, times * self.board.atmosphere)
