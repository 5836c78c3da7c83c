"""A slow flow of nitrogen through rig and system: which parts it passes, how much of it, and how long it has to run.

Gas goes the short way: parts are swept by the share of the flow that their own passages take, not by being joined.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rough_draw.core.catalogue.rig_parts import SWEEP_CHANGES, SWEEP_FLOW
from rough_draw.core.engine.network import Tube
from rough_draw.core.engine.walk import reached
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.message import Message, Name, message
from rough_draw.core.sheet.naming import hose_name
from rough_draw.core.sheet.rig import HosePart, ToolPart
from rough_draw.core.sheet.scope import Port

LEAST_SHARE = 0.02
"""Share of the flow under which a part counts as by-passed: it would take fifty times as long as the main way."""
LEAST_MINUTES = 2.0


@dataclass(frozen=True)
class Joint:
    """A joint that can be loosened for gas to go out: its node, in words, and how handy it is (0 best)."""

    node: str
    words: Message
    rank: int


def joints(board: Board) -> list[Joint]:
    """Where gas can be let out: at a port that is free, under the tools at the ports, at the far ends of hoses, at the
    ends of sections. A cylinder has its valves and no joint.
    """
    found = []
    for free in free_ports(board):
        found.append(Joint(f"system.{free.section}", message("the", thing=free.words()), 0))
    for p in board.job.rig.parts:
        if isinstance(p, ToolPart) and p.port and f"port:{p.port}" in board.cored:
            port = board.job.scope.port(p.port)
            found.append(Joint(f"{p.id}.port-side", message("joint-under-tool", port=port.words()), 1))  # type: ignore[union-attr]
        if isinstance(p, HosePart) and f"{p.id}.end" in board.places:
            found.append(
                Joint(f"{p.id}.end", message("joint-far-nut", hose=hose_name(board.job.rig, board.job.scope, p)), 1)
            )
    taken = {j.node for j in found}
    for s in board.job.scope.sections:
        solid = s.kind == "cylinder" or f"system.{s.id}" in taken
        if not s.holds_charge and not solid and f"system.{s.id}" in board.places:
            found.append(Joint(f"system.{s.id}", message("joint-far-end", section=s.words()), 2))
    return found


def free_ports(board: Board) -> list[Port]:
    """Ports of what is evacuated that the rig leaves free: gas can be let out there without a joint loosened."""
    return [p for p in board.job.scope.ports if p.id not in board.ports and f"system.{p.section}" in board.places]


def joint_words(board: Board, node: str) -> Name:
    """A joint in words."""
    return next((j.words for j in joints(board) if j.node == node), node)


def flow_shares(board: Board, opened: frozenset[str], tap: str, loose: frozenset[str]) -> dict[str, float]:
    """Share of a slow flow from ``tap`` that passes each node on its way out at the ``loose`` ones.

    Passages count by their laminar conductance d⁴/l (Hagen and Poiseuille: all at about one pressure, so only the
    ratio counts); a check valve passes one way. Nodes that carry less than a millionth are left out.
    """
    net = board.assembly.network
    tubes = [t for t in net.tubes if (board.by_tube[t.name] in opened if t.name in board.by_tube else t.open)]
    while True:
        flows = _solved(tubes, tap, loose)
        back = [t for t, q in zip(tubes, flows, strict=True) if t.one_way and q < -1e-9]
        if not back:
            break
        tubes = [t for t in tubes if t not in back]
    through: dict[str, float] = {}
    for t, q in zip(tubes, flows, strict=True):
        for end in (t.a, t.b):
            through[end] = through.get(end, 0.0) + abs(q)
    # What enters a node leaves it: half of the sum, but all of it where the flow begins or ends.
    ends = {tap} | loose
    whole = through.get(tap, 0.0)
    if whole <= 0.0:
        return {}
    shares = {n: (q if n in ends else 0.5 * q) / whole for n, q in through.items()}
    return {n: min(1.0, s) for n, s in shares.items() if s > 1e-6}


def _solved(tubes: list[Tube], tap: str, loose: frozenset[str]) -> list[float]:
    """Flows through tubes, a to b, with the tap at one and the loosened joints at zero; 0 where nothing flows."""
    near: dict[str, list[str]] = {}
    for t in tubes:
        near.setdefault(t.a, []).append(t.b)
        near.setdefault(t.b, []).append(t.a)
    joined = reached(tap, lambda here: near.get(here, ()))
    if not joined & loose or tap in loose:
        return [0.0] * len(tubes)
    names = sorted(joined)
    at = {n: i for i, n in enumerate(names)}
    g = [t.count * t.bore**4 / t.length for t in tubes]
    scale = max((x for t, x in zip(tubes, g, strict=True) if t.a in joined), default=1.0)
    matrix = np.zeros((len(names), len(names)))
    for t, x in zip(tubes, g, strict=True):
        if t.a in at and t.b in at:
            i, k = at[t.a], at[t.b]
            matrix[i, i] += x / scale
            matrix[k, k] += x / scale
            matrix[i, k] -= x / scale
            matrix[k, i] -= x / scale
    right = np.zeros(len(names))
    for n in {tap} | (loose & joined):
        matrix[at[n]] = 0.0
        matrix[at[n], at[n]] = 1.0
        right[at[n]] = 1.0 if n == tap else 0.0
    p = np.linalg.solve(matrix, right)
    return [
        float(x / scale * (p[at[t.a]] - p[at[t.b]])) if t.a in at and t.b in at else 0.0
        for t, x in zip(tubes, g, strict=True)
    ]


def minutes(board: Board, shares: dict[str, float]) -> float:
    """Minutes that a sweep has to run: `SWEEP_CHANGES` of the gas of all it passes, two at the least.

    A well mixed volume V holds e⁻ⁿ of its first gas after n volumes have gone through. What lies one behind the other
    takes the sum of their volumes; what gets a share of the flow takes the longer for it.
    """
    passed = [
        (n.volume, shares[n.name]) for n in board.assembly.network.nodes if shares.get(n.name, 0.0) >= LEAST_SHARE
    ]
    whole = sum(v for v, _ in passed)
    slowest = max((v / share for v, share in passed), default=0.0)
    return max(LEAST_MINUTES, SWEEP_CHANGES.value * max(whole, slowest) / SWEEP_FLOW.value / 60.0)
