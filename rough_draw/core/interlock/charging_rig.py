"""Where a cylinder comes on: its own hose, a free charging hose, or one brought along, put where no vacuum is opened.

A hose that stood in the draw and is not rated for the refrigerant never goes on a cylinder.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from rough_draw.core.interlock.charge_moves import fit_for_charge
from rough_draw.core.interlock.port_parts import end_piece
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import GaugePart, HosePart, ManifoldPart, Part, Rig, ToolPart

CYLINDER = "cylinder"


@dataclass(frozen=True, kw_only=True)
class ChargingRig:
    """One way to connect a cylinder: the rig with it, the hose it hangs on, and what is done before.

    ``tool``: the core tool whose ball is closed and whose piece ``off`` is taken off for it; both empty where nothing
    has to come off. ``on``: what the hose is screwed on, by id and outlet; empty where it was on all along.
    """

    rig: Rig
    hose: str
    tool: str = ""
    off: str = ""
    on: str = ""
    at: str = ""


def charging_rigs(job: Job) -> list[ChargingRig]:
    """Every way to connect a cylinder to this rig, the best first: the least that is opened, the liquid side before
    the others. Empty where no hose stands the refrigerant or nothing closable takes it."""
    rig = job.rig
    own = next((p for p in rig.parts if p.kind == "cylinder" and p.on), None)
    if own is not None:
        hose = rig.get(own.on or "")
        fits = not isinstance(hose, HosePart) or fit_for_charge(hose, job.scope.fluid)
        return [ChargingRig(rig=rig, hose=own.on or "")] if fits else []
    found = [x for h in _free(job) if (x := _on_end(job, h)) is not None]
    for spare in _spares(job):
        found += _at_manifold(job, spare)
        found += _at_tools(job, spare)
    return found


def fit_hoses(job: Job) -> list[str]:
    """Hoses that a cylinder could hang on: at its end now, free on the rig, or brought along."""
    return [*(h.id for h in _free(job)), *(h.id for h in _spares(job))]


def _free(job: Job) -> list[HosePart]:
    """Hoses of the rig with a free far end that stand this refrigerant."""
    rig = job.rig
    return [
        p
        for p in rig.parts
        if isinstance(p, HosePart)
        and p.port is None
        and p.on is not None
        and not rig.children(p.id)
        and fit_for_charge(p, job.scope.fluid)
    ]


def _spares(job: Job) -> list[HosePart]:
    return [p for p in job.rig.spares if isinstance(p, HosePart) and fit_for_charge(p, job.scope.fluid)]


def _with(rig: Rig, parts: list[Any]) -> Rig | None:
    try:
        return rig.with_parts(parts)
    except ValueError:
        return None


def _cylinder(rig: Rig, hose: str) -> dict[str, Any]:
    return {"kind": "cylinder", "id": rig_edit.fresh_id(rig, CYLINDER), "on": hose, "at": "end"}


def _adding(rig: Rig, hose: HosePart, on: str, at: str, parts: list[Part] | None = None) -> Rig | None:
    """The rig with a spare hose on an outlet, and a cylinder at its end."""
    placed = {**hose.model_dump(), "on": on, "at": at, "port": None}
    there = [p.model_dump() for p in (parts if parts is not None else rig.parts)]
    try:
        return Rig.model_validate(
            {
                **rig.model_dump(),
                "parts": [*there, placed, _cylinder(rig, hose.id)],
                "spares": [p.model_dump() for p in rig.spares if p.id != hose.id],
            }
        )
    except ValueError:
        return None


def _on_end(job: Job, hose: HosePart) -> ChargingRig | None:
    try:
        rig = rig_edit.add(job.rig, _cylinder(job.rig, hose.id))
    except ValueError:
        return None
    return ChargingRig(rig=rig, hose=hose.id)


def _at_manifold(job: Job, hose: HosePart) -> list[ChargingRig]:
    """On a place of the manifold that has a valve and nothing on it."""
    rig = job.rig
    found = []
    for m in rig.parts:
        if not isinstance(m, ManifoldPart):
            continue
        taken = {m.inlet, *(c.at for c in rig.children(m.id))}
        for place in m.places():
            if place in taken or not m.valved(place):
                continue
            new = _adding(rig, hose, m.id, place)
            found += [ChargingRig(rig=new, hose=hose.id, on=m.id, at=place)] if new is not None else []
    return found


def _at_tools(job: Job, hose: HosePart) -> list[ChargingRig]:
    """On a core tool in the place of what is on its hose end, its ball closed: the liquid side first, gauges last."""
    rig = job.rig
    rank = {"liquid": 0, "discharge": 1, "other": 2, "suction": 3}
    ways: list[tuple[int, ChargingRig]] = []
    for tool in rig.parts:
        if not isinstance(tool, ToolPart) or tool.port is None:
            continue
        port, piece = job.scope.port(tool.port), end_piece(rig, tool)
        if port is None:
            continue
        parts = _without(rig, tool, piece)
        new = _adding(rig, hose, tool.id, "end", parts) if parts is not None else None
        if new is not None:
            off = piece.id if piece is not None else ""
            way = ChargingRig(rig=new, hose=hose.id, tool=tool.id, off=off, on=tool.id, at="end")
            ways.append((2 * rank[port.side] + isinstance(piece, GaugePart), way))
    return [w for _, w in sorted(ways, key=lambda w: w[0])]


def _without(rig: Rig, tool: ToolPart, piece: Part | None) -> list[Part] | None:
    """The parts with a tool standing on its port alone; what was on its end hangs on where it comes from."""
    standing = tool.model_copy(update={"on": None, "at": "end"})
    if piece is None:
        return list(rig.parts)
    if tool.on is None:
        gone = {piece.id, *(p.id for p in rig.below(piece.id))}
        return [p for p in rig.parts if p.id not in gone]
    return [standing if p.id == tool.id else p for p in rig.parts]
