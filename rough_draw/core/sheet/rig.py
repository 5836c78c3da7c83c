"""The rig: its parts as a flat list, the cord to its pump, and which ports have their core in."""

from __future__ import annotations

from collections.abc import Iterator

from pydantic import Field, model_validator

from rough_draw.core.message import message
from rough_draw.core.sheet.base import Sheet, Slug, Text, fault, unique
from rough_draw.core.sheet.rig_pieces import (
    AdapterPart,
    CylinderPart,
    GaugePart,
    HosePart,
    ManifoldPart,
    NitrogenPart,
    Part,
    Piece,
    PumpPart,
    TeePart,
    ToolPart,
    ValvePart,
)
from rough_draw.core.sheet.scope import Port

__all__ = [
    "AdapterPart",
    "Cord",
    "CylinderPart",
    "GaugePart",
    "HosePart",
    "ManifoldPart",
    "NitrogenPart",
    "Part",
    "Piece",
    "PumpPart",
    "Rig",
    "TeePart",
    "ToolPart",
    "ValvePart",
]


class Cord(Sheet):
    """The extension cord to the pump. ``wire`` is an AWG number or mm², one way's length in m."""

    length_m: float = Field(15.0, gt=0, le=300)
    wire: str = "14 AWG"
    volts: float = Field(120.0, ge=90, le=480)


class Rig(Sheet):
    """Every part of the rig, and which ports have their core in. ``name``: what its maker calls it.

    Under a tool a core is out unless ``cores_in`` names its port; under anything else it is in unless it was pulled by
    hand, which ``cores_out`` says. ``spares``: parts brought along that stand nowhere yet.
    """

    name: Text = ""
    pattern: Slug | None = None
    parts: tuple[Part, ...] = Field((), max_length=40)
    spares: tuple[Part, ...] = Field((), max_length=40)
    cores_in: tuple[Slug, ...] = Field((), max_length=12)
    cores_out: tuple[Slug, ...] = Field((), max_length=12)
    cord: Cord | None = None

    @model_validator(mode="before")
    @classmethod
    def _filled(cls, values: object) -> object:
        """A rig without parts is the first pattern on a suction and a liquid port."""
        if isinstance(values, dict) and not values.get("parts"):
            from rough_draw.core.sheet.setups import first_rig

            return {**first_rig(), **{k: v for k, v in values.items() if k != "parts"}}
        return values

    @model_validator(mode="after")
    def _consistent(self) -> Rig:
        unique([p.id for p in (*self.parts, *self.spares)], "rig.parts", "parts")
        pumps = [p.id for p in self.parts if p.kind == "pump"]
        if not pumps:
            raise fault("rig.parts", "no-pump")
        if len(pumps) > 1:
            raise fault(f"rig.parts.{pumps[1]}", "two-pumps")
        by_id = {p.id: p for p in self.parts}
        used: dict[tuple[str, str], str] = {}
        on_port: dict[str, str] = {}
        for p in self.parts:
            here = f"rig.parts.{p.id}"
            if p.on is not None:
                parent = by_id.get(p.on)
                if parent is None:
                    raise fault(here, "part-on-nothing", part=p.called(), on=p.on)
                if p.kind == "pump":
                    raise fault(here, "pump-first")
                if p.at not in parent.outlets():
                    offered = ", ".join(parent.outlets()) or "none"
                    raise fault(here, "no-outlet", part=p.called(), on=parent.called(), at=p.at, known=offered)
                if (p.on, p.at) in used:
                    raise fault(
                        here,
                        "same-outlet",
                        one=by_id[used[p.on, p.at]].called(),
                        two=p.called(),
                        at=p.at,
                        on=parent.called(),
                    )
                used[p.on, p.at] = p.id
            elif p.kind != "pump" and p.port is None:
                raise fault(here, "part-loose", part=p.called())
            if p.port is not None:
                if p.port in on_port:
                    raise fault(here, "port-taken", one=by_id[on_port[p.port]].called(), two=p.called(), port=p.port)
                on_port[p.port] = p.id
                if p.kind in ("pump", "tee", "manifold", "cylinder", "nitrogen"):
                    raise fault(here, "not-on-port", part=message(f"part-{p.kind}"))
        for p in self.parts:
            seen = {p.id}
            up = p
            while up.on is not None:
                up = by_id[up.on]
                if up.id in seen:
                    raise fault(f"rig.parts.{p.id}", "circle", part=p.called())
                seen.add(up.id)
        return self

    def get(self, name: str) -> Part | None:
        """A part by its id."""
        return next((p for p in self.parts if p.id == name), None)

    def has(self, kind: str) -> bool:
        """Whether a part of this kind stands in it."""
        return any(p.kind == kind for p in self.parts)

    @property
    def pump(self) -> PumpPart:
        """The pump."""
        return next(p for p in self.parts if isinstance(p, PumpPart))

    @property
    def gauges(self) -> tuple[GaugePart, ...]:
        """Gauges in their order; the first is the one that is read."""
        return tuple(p for p in self.parts if isinstance(p, GaugePart))

    @property
    def gauge(self) -> GaugePart | None:
        """The gauge that is read, if there is one."""
        return self.gauges[0] if self.gauges else None

    def children(self, name: str) -> list[Part]:
        """Parts screwed on a part, in its outlets' order."""
        parent = self.get(name)
        order = parent.outlets() if parent else ()
        return sorted((p for p in self.parts if p.on == name), key=lambda p: order.index(p.at) if p.at in order else 9)

    def below(self, name: str) -> Iterator[Part]:
        """Every part that stands on a part, or on one that does, nearest first along each branch."""
        for child in self.children(name):
            yield child
            yield from self.below(child.id)

    def chain(self, part: Part) -> list[Part]:
        """Parts from the root (the pump, or the part on a port) down to ``part``, itself last."""
        found = [part]
        while found[-1].on is not None:
            up = self.get(found[-1].on)
            if up is None:
                break
            found.append(up)
        return found[::-1]

    def from_pump(self, part: Part) -> bool:
        """Whether the part hangs on the pump through other parts (not only on a port of its own)."""
        return self.chain(part)[0].kind == "pump"

    def pumped(self) -> list[Part]:
        """Parts by which the pump reaches a port, in the rig's order."""
        return [p for p in self.parts if p.port is not None and self.from_pump(p)]

    def keeps_core(self, port: Port) -> bool:
        """Whether a port's core is in as the rig stands."""
        if not port.core:
            return False
        if self.tool_at(port.id) is not None:
            return port.id in self.cores_in
        return port.id not in self.cores_out

    def tool_at(self, port: str) -> ToolPart | None:
        """The core tool that works on a port: on it, or with adapters between."""
        part = self.on_port(port)
        # Toward the pump where the branch hangs on it, or along what stands on the port alone: one way, never back.
        hangs = part is not None and part.on is not None
        while isinstance(part, AdapterPart):
            if hangs:
                part = self.get(part.on) if part.on is not None else None
            else:
                part = next((c for c in self.children(part.id) if c.at == "end"), None)
        return part if isinstance(part, ToolPart) else None

    def port_under(self, part: Part) -> str | None:
        """The port that a part stands on, itself or by adapters screwed on its end; None where it stands on none."""
        here: Part | None = part
        while here is not None and here.port is None:
            name = here.id
            here = next((c for c in self.children(name) if isinstance(c, AdapterPart) and c.at == "end"), None)
        return here.port if here is not None else None

    def with_core(self, port: str, is_in: bool) -> Rig:
        """The rig with a port's core in, or out."""

        def named(cores: tuple[str, ...], here: bool) -> tuple[str, ...]:
            return tuple(sorted({*cores, port} if here else {c for c in cores if c != port}))

        return self.model_copy(
            update={"cores_in": named(self.cores_in, is_in), "cores_out": named(self.cores_out, not is_in)}
        )

    def on_port(self, port: str) -> Part | None:
        """The part screwed on a port."""
        return next((p for p in self.parts if p.port == port), None)

    def with_parts(self, parts: list[Part], **changes: object) -> Rig:
        """The rig with other parts, checked again; raises ValidationError."""
        return Rig.model_validate({**self.model_dump(), **changes, "parts": [p.model_dump() for p in parts]})


def shows_pressure(rig: Rig) -> bool:
    """Whether something on the rig shows positive pressure: a manifold's dials, or a gauge that has a high range."""
    dials = any(isinstance(p, ManifoldPart) and p.dials for p in rig.parts)
    return dials or any(g.shows_kpa is not None for g in rig.gauges)
