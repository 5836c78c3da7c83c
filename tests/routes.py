"""Routes held against the interlock: every stretch played again, no stop on the way."""

from __future__ import annotations

import pytest

from rough_draw.core.interlock.gas_state import total
from rough_draw.core.interlock.itinerary import Act, Leg, Route
from rough_draw.core.interlock.transition import play


def check(leg: Leg) -> None:
    """Play a sequence again: no stop on the way, each state as it was said, and the goal met at its end."""
    board, state = leg.board, leg.start
    for step in leg.sequence.steps:
        state, said = play(board, state, step.touch)
        assert not [c for c in said if c.severity == "stop"], step
        assert state == step.after
        assert all(total(g) >= 0 for g in state.gas)
        assert state.opened <= set(board.gates)
        for name in state.opened:
            gate = board.gates[name]
            sources = [board.rooms[r].source for r in (gate.a, gate.b)]
            # Gases mix slowly at one pressure; pressures even out at once. What was drawn empty stays so for the while.
            emptied = state.running and gate.kind == "port"
            one, other = total(state.gas[gate.a]), total(state.gas[gate.b])
            assert any(sources) or emptied or one == pytest.approx(other, rel=1e-6)
    assert leg.goal.phases[-1](board, state) == 0


def check_route(found: Route) -> None:
    """Every stretch of a route holds, and a step that is not searched for is no stop either."""
    for stretch in found.stretches:
        if isinstance(stretch, Leg) and stretch.sequence.found:
            check(stretch)
        elif isinstance(stretch, Leg):
            assert stretch.sequence.missing
            assert all(c.severity == "stop" for c in stretch.sequence.missing)
        elif isinstance(stretch, Act):
            assert not [c for c in stretch.said if c.severity == "stop"], stretch.touch
