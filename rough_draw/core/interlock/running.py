"""Which sections stand at the high pressure while the system runs, and by which ports its low side is reached."""

from __future__ import annotations

from collections.abc import Iterator

from rough_draw.core.engine.walk import reached
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.sheet.scope import Scope, Section

METERING = ("expansion-valve", "thermostatic-valve", "capillary")
"""Between the liquid line and the evaporator: the high pressure ends there."""


def high_sections(board: Board, opened: frozenset[str]) -> frozenset[str]:
    """Sections joined to the condenser on its high side, with these gates open: all the others run at suction pressure.

    From what keeps its charge (it has its compressor inside) nothing high goes out by a suction line.
    """
    scope = board.job.scope
    starts = [s.id for s in scope.sections if _is_high(s)]
    found: set[str] = set()
    for start in starts:
        found |= reached(start, lambda here: _beyond(board, scope, opened, here))
    return frozenset(found)


def _is_high(s: Section) -> bool:
    return s.side == "discharge" or s.kind == "condenser" or (s.holds_charge and s.side != "suction")


def _beyond(board: Board, scope: Scope, opened: frozenset[str], here: str) -> Iterator[str]:
    for x in scope.links:
        if here not in (x.a, x.b) or x.kind in METERING:
            continue
        gate = f"system.{x.id}"
        name = gate if gate in board.gates else x.id
        if not (name in opened if name in board.gates else x.open):
            continue
        other = scope.section(x.b if x.a == here else x.a)
        if other.kind in ("compressor", "evaporator") or other.side == "suction":
            continue
        yield other.id


def is_low(board: Board, state: State, port: str) -> bool:
    """Whether a port leads to the low side, as the system runs with the valves as they stand."""
    found = board.job.scope.port(port)
    return found is not None and found.section not in high_sections(board, state.opened)
