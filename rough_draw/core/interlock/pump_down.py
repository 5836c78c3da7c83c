"""Pump-down: a working unit draws its own charge into its condenser or receiver, where its valves keep it."""

from __future__ import annotations

from rough_draw.core.charging.charge import keeps_charge
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.gas_state import State, before_the_draw
from rough_draw.core.interlock.reachability import valves_of

UNFIT = ("leak-drawn-air", "compressor-burnt", "flooded")
"""Conditions in which a unit is never pumped down: air or acid would be packed into its charge."""


def sides(board: Board) -> dict[str, list[str]]:
    """Service valves of what keeps its charge, by the side of the line on them."""
    scope = board.job.scope
    found: dict[str, list[str]] = {"liquid": [], "suction": []}
    for x in scope.links:
        name = f"system.{x.id}"
        if name in valves_of(board, "service"):
            ends = (scope.section(x.a), scope.section(x.b))
            side = next((s.side for s in ends if not s.holds_charge), "other")
            found.setdefault(side, []).append(name)
    return found


def pump_down_missing(board: Board) -> tuple[str, ...]:
    """Why this unit cannot be pumped down: nothing keeps a charge, a valve is not there, its state forbids it."""
    if not keeps_charge(board.job.scope):
        return ("kept-charge",)
    lacking = [f"{side}-valve" for side in ("liquid", "suction") if not sides(board)[side]]
    if board.job.scope.condition in UNFIT:
        lacking.append("sound-low-side")
    return tuple(lacking)


def pump_down_touches(board: Board) -> list[tuple[Touch, State]]:
    """Touches of a pump-down: started, the liquid valve closed, the suction watched and closed, stopped, watched."""
    found = sides(board)
    state = before_the_draw(board)
    kept = {n for names in found.values() for n in names}
    # A working unit has every service valve open: one that the sheet has closed elsewhere is opened before it starts.
    service = set(valves_of(board, "service"))
    touches = [
        Touch("check-room"),
        Touch("gauges-on"),
        *(Touch("open", n) for n in sorted(service - state.opened - kept)),
        Touch("start"),
        *(Touch("shut", n) for n in found["liquid"]),
        Touch("watch-suction"),
        *(Touch("shut", n) for n in found["suction"]),
        Touch("stop-unit"),
        Touch("see-still"),
        Touch("lock-off"),
    ]
    full = tuple(
        (0.0, 0.0, x.supply or board.atmosphere * 2) if x.system or x.kept else g
        for x, g in zip(board.rooms, state.gas, strict=True)
    )
    state = State(opened=state.opened | service, gas=full, seen=True)
    return [(t, state) for t in touches]
