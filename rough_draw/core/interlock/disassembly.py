"""Taking the rig off: what is left of it, and which touch may come next."""

from __future__ import annotations

from collections.abc import Iterator

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.gas_state import State, in_the_way
from rough_draw.core.interlock.reachability import valves_of
from rough_draw.core.sheet.rig import GaugePart, HosePart, Part


def rig_left(board: Board, state: State) -> int:
    """What of the rig is still on: cores to put back, parts to take off, caps to put on."""
    cores = sum(n in state.opened for n in board.cored)
    parts = sum(p not in state.off for p in _to_take_off(board))
    caps = sum(n not in state.capped for n in board.ports)
    return cores + parts + caps + (not state.seen)


def _to_take_off(board: Board) -> list[str]:
    on_ports = set(board.ports.values())
    hoses = [
        p.id
        for p in board.job.rig.parts
        if isinstance(p, HosePart) and p.id in board.ends and _ends_at_port(board, p.id)
    ]
    gauges = list(board.gauges)
    tools = sorted(on_ports - set(hoses) - set(gauges))
    return [*hoses, *gauges, *tools]


def _ends_at_port(board: Board, hose: str) -> bool:
    part = board.job.rig.get(hose)
    if part is None:
        return False
    above = board.job.rig.get(part.on) if part.on else None
    moved = above is not None and above.port is not None
    return moved or part.port is not None or any(c.port for c in board.job.rig.children(hose))


def unrig(board: Board, state: State) -> Iterator[Touch]:
    """Taking the rig off, port by port: the hose where the plunger goes, the core, then what sits on the port."""
    if not state.seen:
        yield Touch("see-pressure")
        return
    core = next((n for n in sorted(board.cored) if n in state.opened and not in_the_way(board, state, n)), None)
    if core is not None:
        yield Touch("core-in", core.removeprefix("port:"))
    rig = board.job.rig
    for n in sorted(board.ports):
        if f"port:{n}" in state.opened and not _has_core(board, n):
            yield Touch("shut", f"port:{n}")
            break
    for p in _to_take_off(board):
        # A part comes off after what hangs on it.
        if p not in state.off and all(c.id in state.off or c.id not in board.ends for c in _hanging(board, p)):
            yield Touch("take-off", p)
            break
    for n, p in sorted(board.ports.items()):
        if n not in state.capped and p in state.off and rig.get(p) is not None:
            yield Touch("cap", n)
            break


def _has_core(board: Board, port: str) -> bool:
    """Whether a port shuts by a core; one without has a stem of its own."""
    found = board.job.scope.port(port)
    return found is None or found.core


def _hanging(board: Board, part: str) -> list[Part]:
    """What has to be off before a port's part can be: the hose on it, and gauges on its side port."""
    rig = board.job.rig
    me = rig.get(part)
    if me is None or isinstance(me, HosePart | GaugePart):
        return []
    above = rig.get(me.on) if me.on is not None else None
    found: list[Part] = [above] if isinstance(above, HosePart) else []
    for c in rig.children(part):
        found += [x for x in (c, *rig.children(c.id)) if isinstance(x, HosePart | GaugePart)]
    return found


def shut_off(board: Board, state: State) -> Iterator[Touch]:
    """Valves of the rig that are still open: shut before refrigerant comes."""
    for v in valves_of(board):
        if v in state.opened:
            yield Touch("shut", v)
