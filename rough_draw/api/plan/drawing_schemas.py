"""The rig line laid out, in types: strokes, boxes, valves and what is written beside them."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from rough_draw.api.said import Said


class Core(BaseModel):
    """What is read off a value of the core as it stands."""

    model_config = ConfigDict(from_attributes=True)


class StrokeOut(Core):
    """A drawn pipe."""

    part: str
    path: str
    label: Said
    x: float
    y: float


class BoxOut(Core):
    """A drawn compartment."""

    name: str
    kind: str
    label: Said
    x: float
    y: float
    w: float
    h: float
    state: str


class RoundOut(Core):
    """A drawn valve."""

    valve: str
    part: str
    label: Said
    x: float
    y: float
    small: bool
    upright: bool


class FlagOut(Core):
    """A drawn gauge."""

    part: str
    x: float
    y: float
    foot: float
    where: Said
    left: bool


class MarkOut(Core):
    """A small label of a drawing."""

    text: Said
    x: float
    y: float


class WayOut(Core):
    """One way from the pump to a port."""

    port: str
    label: Said
    parts: tuple[str, ...]


class DrawingOut(Core):
    """The rig line laid out."""

    width: float
    height: float
    strokes: list[StrokeOut]
    boxes: list[BoxOut]
    valves: list[RoundOut]
    flags: list[FlagOut]
    marks: list[MarkOut]
    ways: list[WayOut]
