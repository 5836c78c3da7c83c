"""What hands could do in a practice job as it stands, in groups."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.practice import actions
from rough_draw.core.practice.actions import Deed
from rough_draw.core.sheet.rig import ToolPart
from rough_draw.standins.practice.bay import Bay


@dataclass(frozen=True)
class Group:
    """Deeds that belong together: a key, in words, the deeds."""

    key: str
    words: str
    deeds: tuple[Deed, ...]


def groups(bay: Bay) -> list[Group]:
    """Everything that hands could do now, but putting on another rig and naming what is the matter."""
    found = [
        Group("before", "Before", actions.LOOKS),
        Group("run", "Pump and draw", tuple(_run(bay))),
        Group("parts", "Valves and parts", tuple(_parts(bay))),
        Group("tests", "Tests", tuple(Deed(f"test:{t.key}", t.do, t.minutes, "tests") for t in actions.TESTS.values())),
        Group("mend", "Mend", tuple(Deed(f"mend:{k}", w, m, "mend") for k, (w, m, _) in actions.MENDS.items())),
    ]
    return found if bay.rigged else [g for g in found if g.key == "before"]


def _run(bay: Bay) -> list[Deed]:
    def one(kind: str, words: str) -> Deed:
        return Deed(kind, words, actions.BY_HAND[kind], "run")

    found = [one("pump-off", "Stop the pump") if bay.pump_on else one("pump-on", "Start the pump")]
    found += [one("ballast-open", "Open the gas ballast"), one("ballast-shut", "Close the gas ballast")]
    if bay.isolation.tubes:
        where = bay.isolation.where
        found.append(
            one("reopen", f"Open {where} again") if bay.isolated else one("isolate", f"Isolate: close {where}")
        )
    found += [
        one("valve-flush", "Work every ball valve once"),
        one("warm-up", "Put warmth on: blanket, warm air, crankcase heater"),
        one("oil-change", "Change the pump's oil"),
        one("break-end", "Close the nitrogen, pull again") if bay.broken else one("break", "Break with dry nitrogen"),
        one("see-pressure", "Look for positive pressure at the ports"),
        one("energise", "Give the compressor power"),
    ]
    return found


TURN = {"open": "Open", "shut": "Close"}


def _parts(bay: Bay) -> list[Deed]:
    names = bay.names()
    found = []
    for g in bay.board.gates.values():
        if g.kind == "port":
            continue
        is_open = g.name in bay.contents.opened
        if g.kind == "service" and not is_open:
            found.append(_on("crack", g.name, f"Crack {names[g.name]}, a quarter turn"))
        # How a section's own valve stands is not seen from outside: both ways are offered.
        ways = ("open", "shut") if g.kind == "section" else ("shut" if is_open else "open",)
        found += [_on(way, g.name, f"{TURN[way]} {names[g.name]}") for way in ways]
    for port in bay.told.scope.ports:
        part = bay.told.rig.on_port(port.id)
        if isinstance(part, ToolPart) and port.core:
            found.append(_on("core-out", port.id, f"Pull the core at the {port.words()}"))
            found.append(_on("core-in", port.id, f"Put the core back at the {port.words()}"))
        if part is None or part.id in bay.off:
            found.append(_on("cap", port.id, f"Cap the {port.words()}"))
    found += [_on("take-off", p, f"Take off {names[p]}") for p in bay.board.ends if p not in bay.off]
    return found


def _on(way: str, thing: str, words: str) -> Deed:
    return Deed(f"{way}:{thing}", words, actions.ON_PART[way], "parts")
