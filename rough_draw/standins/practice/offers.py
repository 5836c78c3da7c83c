"""What hands could do in a practice job as it stands, in groups."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from rough_draw.core.advice.part_findings import DRIVEN
from rough_draw.core.interlock.port_parts import PLUNGER, end_free, port_tool, wants_plunger
from rough_draw.core.interlock.step_words import part_words
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import gauge_pressure
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import BY_NITROGEN
from rough_draw.core.practice.actions import Deed
from rough_draw.core.proving.foretold_test import wanted
from rough_draw.core.sheet.rig import ToolPart
from rough_draw.core.sheet.steps import PartMove
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.working_unit import HANDS

CHARGING: tuple[PartMove, ...] = ("purge", "zero-scale", "weigh-in", "trim", "empty-hose")
TURNED = {
    **{kind: {"open": "drive-open", "shut": "drive-shut"} for kind in DRIVEN},
    "solenoid": {"open": "magnet-on", "shut": "magnet-off"},
}
"""How a hand turns a valve of the system that has no handle: words by its kind and way."""


@dataclass(frozen=True)
class Group:
    """Deeds that belong together: a key, the deeds."""

    key: str
    deeds: tuple[Deed, ...]

    @property
    def words(self) -> Message:
        """What they are."""
        return message(f"deeds-{self.key}")


def groups(bay: Bay) -> list[Group]:
    """Everything that hands could do now, but putting on another rig and naming what is the matter."""
    before = Group("before", (*actions.LOOKS, *actions.SAFE, *_on_the_unit(bay)))
    if not bay.rigged:
        return [before]
    return [
        before,
        Group("run", tuple(_run(bay))),
        Group("parts", tuple(_parts(bay))),
        Group("tests", tuple(Deed(f"test:{t.key}", t.do, t.minutes, "tests") for t in actions.TESTS.values())),
        Group(
            "mend", tuple(Deed(f"mend:{k}", actions.mend_words(k), m, "mend") for k, (m, _) in actions.MENDS.items())
        ),
    ]


def _on_the_unit(bay: Bay) -> list[Deed]:
    """What a pump-down takes, where the unit works still."""
    if bay.low is None or bay.rigged:
        return []
    names = bay.names()
    valves = [_on(way, v, names[v]) for v in bay.unit_valves() for way in ("shut", "open")]
    return [*(Deed(k, message(f"deed-{k}"), actions.BY_HAND[k], "before") for k in HANDS), *valves]


def _run(bay: Bay) -> list[Deed]:
    kinds = ["pump-off" if bay.pump_on else "pump-on", "ballast-open", "ballast-shut"]
    if bay.isolation.tubes:
        kinds.append("reopen" if bay.isolated else "isolate")
    kinds += [
        "valve-flush",
        "warm-up",
        "oil-change",
        "break-end" if bay.broken else "break",
        "see-pressure",
        "vent-pump",
        "energise",
    ]
    where = bay.isolation.where
    nitrogen = [
        Deed(
            f"nitrogen:{how}",
            message(f"deed-nitrogen-{how}", pressure=gauge_pressure(1e3 * wanted(bay.told.prove))),
            actions.NITROGEN_MINUTES[how],
            "run",
        )
        for how in BY_NITROGEN
    ]
    return [*(Deed(k, message(f"deed-{k}", where=where), actions.BY_HAND[k], "run") for k in kinds), *nitrogen]


def _parts(bay: Bay) -> list[Deed]:
    names = bay.names()
    links = {x.id: x.kind for x in bay.told.scope.links}
    found = []
    for g in bay.board.gates.values():
        if g.kind == "port":
            continue
        is_open = g.name in bay.contents.opened | bay.contents.through
        if g.kind == "service" and not is_open:
            found.append(_on("crack", g.name, names[g.name]))
        # How a section's own valve stands is not seen from outside: both ways are offered.
        ways = ("open", "shut") if g.kind == "section" else ("shut" if is_open else "open",)
        turned = TURNED.get(links.get(g.name.removeprefix("system."), ""), {})
        found += [_on(way, g.name, names[g.name], turned.get(way, "")) for way in ways]
    for port in bay.told.scope.ports:
        part = bay.told.rig.on_port(port.id)
        if isinstance(part, ToolPart) and port.core:
            found.append(_on("core-out", port.id, port.words()))
            found.append(_on("core-in", port.id, port.words()))
        if part is None or part.id in bay.off:
            found.append(_on("cap", port.id, port.words()))
    found += [_on("put-on" if p in bay.off else "take-off", p, names[p]) for p in bay.board.ends if p != "pump"]
    found += _plungers(bay)
    found += _charging(bay, names)
    opened = [n for n, g in bay.board.gates.items() if g.kind == "service" and n in bay.contents.opened]
    return found + [_on("stem-cap", n, names[n]) for n in opened if f"stem-cap:{n}" not in bay.contents.done]


def _charging(bay: Bay, names: Mapping[str, Name]) -> list[Deed]:
    """What a cylinder on the rig is worked with, and the ports looked at once something is in."""
    sources = [g.name for g in bay.board.gates.values() if g.kind == "cylinder"]
    found = [_on(way, s, names[s]) for s in sources for way in CHARGING]
    if sources or bay.charged:
        found += [Deed(k, message(f"deed-{k}"), actions.BY_HAND[k], "parts") for k in ("start", "stop-unit")]
    if bay.charged:
        found += [_on("check-port", p.id, p.words()) for p in bay.told.scope.ports]
        found.append(Deed("pump-care", message("deed-pump-care"), actions.BY_HAND["pump-care"], "parts"))
    return found


def _plungers(bay: Bay) -> list[Deed]:
    """The plunger of every core tool whose hose end is free."""
    found = []
    for port in sorted(bay.board.ports):
        tool = port_tool(bay.board, port)
        if tool is None or not wants_plunger(bay.board, tool) or not end_free(bay.board, bay.contents, tool):
            continue
        way = "take-off" if tool.id in bay.contents.plunged else "put-on"
        what = message("plunger-of", tool=part_words(bay.board, tool.id))
        found.append(_on(way, f"{tool.id}{PLUNGER}", what))
    return found


def _on(way: str, thing: str, what: Name, words: str = "") -> Deed:
    return Deed(f"{way}:{thing}", message(f"deed-{words or way}", what=what), actions.ON_PART[way], "parts")
