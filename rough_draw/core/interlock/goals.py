"""Goals of the work as phases over the interlock, and where each begins. What standards differ in is a setting."""

from __future__ import annotations

from dataclasses import replace

from rough_draw.core.interlock.charge_goals import release_cylinder_goal
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.draw_goals import at_the_system, draw_goal
from rough_draw.core.interlock.end_goals import end_cylinder_goal
from rough_draw.core.interlock.gas_state import State, before_the_draw, drawn_down, held
from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.hold_goals import CHECK_HOLD, HOLD, OIL_CHANGE, RETEST, VALVE_FLUSH, isolating, own_valve
from rough_draw.core.interlock.nitrogen import break_goal, sweep_goal
from rough_draw.core.interlock.planner import Goal
from rough_draw.core.interlock.reachability import gauge_valves, valves_of
from rough_draw.core.interlock.release_goals import release_unit_goal
from rough_draw.core.interlock.rig_goals import cores_out_goal, swap_goal
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.rig import ToolPart


def start_of(board: Board, goal: GoalKey) -> State:
    """Where a goal usually begins: before the draw with its valves closed, in the draw, or after the hold."""
    if goal in ("draw", "rig-alone"):
        state = before_the_draw(board)
        stays = gauge_valves(board) | ({"pump"} - set(at_the_system(board)))
        shut = {v for v in valves_of(board) if v not in stays}
        return replace(state, opened=state.opened - shut)
    if goal in ("sweep", "purge"):
        tools = {p.id for p in board.job.rig.parts if isinstance(p, ToolPart) and p.port}
        state = before_the_draw(board)
        return replace(state, opened=state.opened - tools)
    if goal == "cores-out":
        state = before_the_draw(board)
        tools = {p.id for p in board.job.rig.parts if isinstance(p, ToolPart)}
        return replace(state, opened=state.opened - tools - board.cored)
    if goal == "end-cylinder":
        return drawn_down(board)
    if goal in ("release-unit", "release-cylinder", "retest"):
        return after_the_hold(board)
    return drawn_down(board)


def after_the_hold(board: Board) -> State:
    """Isolated and read, the pump stopped, vented or behind its own valve."""
    state = held(board, isolating(board))
    return replace(state, opened=state.opened - {"pump"}) if own_valve(board) else state


def goal_for(key: GoalKey, board: Board, habits: Habits | None = None, on: str = "") -> Goal:
    """A goal by its key, on a board; ``on``: the part it is about, where it is about one."""
    h = habits or Habits()
    match key:
        case "draw" | "rig-alone":
            return draw_goal(h, key == "rig-alone")
        case "release-unit":
            return release_unit_goal(h)
        case "release-cylinder":
            return release_cylinder_goal(h)
        case "end-cylinder":
            return end_cylinder_goal()
        case "cores-out":
            return cores_out_goal()
        case "swap-hose":
            return swap_goal(on)
        case "sweep" | "purge":
            return sweep_goal(board, hoses_only=key == "purge")
        case "nitrogen-break":
            return break_goal(board)
        case _:
            return {
                "hold": HOLD,
                "check-hold": CHECK_HOLD,
                "retest": RETEST,
                "oil-change": OIL_CHANGE,
                "valve-flush": VALVE_FLUSH,
            }[key]
