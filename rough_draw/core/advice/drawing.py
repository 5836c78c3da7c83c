"""The rig line as a layout: pump to system in one drawn line, on a grid that any rig and system falls into.

Positions only, in a view whose width and height come with it. Screens and the SVG file draw the same layout; the
stroke's width is the logarithm of the conductance, and what is toned or shut is put in by whoever draws.
"""

from __future__ import annotations

from rough_draw.core.advice.drawing_types import BOX_H, Box, Drawing, Flag, Mark, Round, Stroke, Way, columns
from rough_draw.core.message import Message, Name, message
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import hose_size, pump_name
from rough_draw.core.sheet.rig import CylinderPart, GaugePart, HosePart, ManifoldPart, Part, TeePart, ToolPart

TOP = 44.0
ROW = 88.0
MARGIN = 6.0
PUMP_W, MANIFOLD_W = 98.0, 96.0
LANE = 46.0


class _Draw:
    def __init__(self, job: Job, assembly: Assembly) -> None:
        self.job, self.rig, self.a = job, job.rig, assembly
        self.d = Drawing()
        self.outs: dict[tuple[str, str], tuple[float, float]] = {}
        self.mid = TOP + BOX_H / 2

    def draw(self) -> Drawing:
        pumped = sorted(self.rig.pumped(), key=self._rank)
        section = {p.id: p.section for p in self.job.scope.ports}
        first = section[pumped[0].port or ""]
        others = [section[p.port] for p in pumped[1:] if p.port in section and section[p.port] != first]
        stand = [section[p.port] for p in self.rig.parts if p.port in section and not self.rig.from_pump(p)]
        place = columns(self.job, first, next(iter([*others, *stand]), None))
        left = self.first_way(pumped[0])
        self.sections(place, left, bool(others) or len(pumped) > 1)
        rows = 1 + max(r for _, r in place.values())
        foot = TOP + ROW * (rows - 1) + BOX_H
        # Room for a gauge's flag between the sections and the lane under them.
        lane = foot + (42.0 if len(pumped) > 1 else 30.0)
        for n, part in enumerate(pumped[1:]):
            self.lower_way(part, lane + n * LANE)
        lanes = len(pumped) - 1
        low = self.dead_ends(lane + lanes * LANE, lane + lanes * LANE - LANE if lanes else foot)
        self.gauges()
        self.d.height = low + (44.0 if lanes or low > foot else 10.0)
        for part in pumped:
            port = self.job.scope.port(part.port or "")
            ids = tuple(p.id for p in self.rig.chain(part))
            self.d.ways.append(Way(part.port or "", port.words() if port else "", ids))
        return self.d

    def _rank(self, part: Part) -> int:
        port = self.job.scope.port(part.port or "")
        return {"suction": 0, "discharge": 1, "other": 2, "liquid": 3}[port.side] if port else 4

    def pipe(self, part: str, x0: float, x1: float, y: float, label: Name = "", below: float = 24.0) -> None:
        self.d.strokes.append(Stroke(part, f"M{x0:.0f} {y:.0f}H{x1:.0f}", label, (x0 + x1) / 2, y + below))

    def valve_at(self, part: Part, x: float, y: float) -> None:
        if part.id in self.a.valves:
            self.d.valves.append(Round(valve=part.id, part=part.id, label=self.a.valves[part.id].label, x=x, y=y))
            self.d.marks.append(Mark(message(f"mark-{part.kind}"), x, y + 38))

    def first_way(self, last: Part) -> float:
        """The way along the top line; returns where the system starts."""
        rig, d, y = self.rig, self.d, self.mid
        chain = rig.chain(last)
        pump = rig.pump
        d.boxes.append(Box(name=pump.id, kind="pump", label=pump_name(pump), x=MARGIN, y=TOP, w=PUMP_W))
        x = MARGIN + PUMP_W
        fixed = sum(
            {"tee": 26.0, "manifold": MANIFOLD_W + 8, "tool": 40.0, "valve": 40.0, "adapter": 26.0}.get(p.kind, 0)
            for p in chain
        )
        hoses = [p for p in chain if isinstance(p, HosePart)]
        span = max(84.0, (360.0 - fixed) / max(1, len(hoses)))
        for p in chain:
            if p.id == pump.id:
                self.outs[p.id, "end"] = self.outs[p.id, "side"] = (x, y)
            elif isinstance(p, TeePart):
                self.pipe(p.id, x, x + 26, y)
                x += 26
                for o in p.outlets():
                    self.outs[p.id, o] = (x, y)
                d.marks.append(Mark(message("mark-tee"), x - 14, y + 38))
            elif isinstance(p, HosePart):
                self.pipe(p.id, x, x + span, y, hose_size(p))
                x += span
                if p.ball_end:
                    d.valves.append(Round(valve=p.id, part=p.id, label=self.a.valves[p.id].label, x=x - 22, y=y))
            elif isinstance(p, ManifoldPart):
                d.boxes.append(
                    Box(name=p.id, kind="manifold", label=message("mark-manifold"), x=x, y=TOP, w=MANIFOLD_W)
                )
                for n, o in enumerate(p.outlets()):
                    self.outs[p.id, o] = (x + 18 + 20 * n, TOP + BOX_H)
                x += MANIFOLD_W
                self.pipe(p.id, x, x + 8, y)
                x += 8
            elif isinstance(p, ToolPart) or p.kind == "valve":
                self.pipe(p.id, x, x + 40, y)
                self.valve_at(p, x + 20, y)
                self.outs[p.id, "side"] = (x + 20, y - 20)
                x += 40
            elif p.kind == "adapter":
                self.pipe(p.id, x, x + 26, y)
                d.marks.append(Mark(message("mark-adapter"), x + 13, y - 14))
                x += 26
            self.outs.setdefault((p.id, "end"), (x, y))
        self.pipe(f"{last.port}.port", x, x + 40, y)
        d.marks.append(Mark(self.core_words(last), x + 20, y + 38))
        return x + 40

    def core_words(self, part: Part) -> Name:
        port = self.job.scope.port(part.port or "")
        tube = next((t for t in self.a.network.tubes if t.name == f"{part.port}.port"), None)
        if tube is None or port is None:
            return ""
        if not tube.open:
            return message("mark-core-closed")
        return message("mark-core-in" if tube.kind == "core" else "mark-port")

    def sections(self, place: dict[str, tuple[int, int]], left: float, returning: bool) -> None:
        d = self.d
        count = 1 + max(c for c, _ in place.values())
        gap = 44.0
        right = 34.0 if returning else MARGIN
        w = max(98.0, (d.width - left - right - gap * (count - 1)) / count)
        d.width = max(d.width, left + count * w + gap * (count - 1) + right)
        kept = {s.id for s in self.job.scope.sections if s.holds_charge}
        where: dict[str, Box] = {}
        for s in self.job.scope.sections:
            column, row = place[s.id]
            reached = f"system.{s.id}" in self.a.pumped
            state = "charge" if s.id in kept else "pumped" if reached else "left-out"
            box = Box(
                name=s.id,
                kind="section",
                label=s.words(),
                x=left + column * (w + gap),
                y=TOP + row * ROW,
                w=w,
                h=BOX_H,
                state=state,
            )
            where[s.id] = box
            d.boxes.append(box)
        self.where = where
        for x in self.job.scope.links:
            self.link(x.id, x.kind, where[x.a], where[x.b])

    def link(self, name: str, kind: str, a: Box, b: Box) -> None:
        """A passage between two sections: straight across, down within a column, or by the gutter between columns."""
        d = self.d
        if a.x > b.x or (a.x == b.x and a.y > b.y):
            a, b = b, a
        ay, by = a.y + a.h / 2, b.y + b.h / 2
        valve = f"system.{name}" in self.a.valves
        if a.x == b.x:
            x = a.x + a.w * 0.5
            d.strokes.append(Stroke(f"link:{name}", f"M{x:.0f} {a.y + a.h:.0f}V{b.y:.0f}"))
            at = (x, (a.y + a.h + b.y) / 2)
            upright = True
        elif ay == by and abs(b.x - a.x - a.w) < 60:
            d.strokes.append(Stroke(f"link:{name}", f"M{a.x + a.w:.0f} {ay:.0f}H{b.x:.0f}"))
            at, upright = ((a.x + a.w + b.x) / 2, ay), False
        else:
            gutter = b.x - 12.0
            start = ay + (12.0 if by > ay else -12.0)
            d.strokes.append(Stroke(f"link:{name}", f"M{a.x + a.w:.0f} {start:.0f}H{gutter:.0f}V{by:.0f}H{b.x:.0f}"))
            at, upright = (gutter, (start + by) / 2), True
        if valve:
            words = self.a.valves[f"system.{name}"].label
            d.valves.append(
                Round(
                    valve=f"system.{name}",
                    part=f"link:{name}",
                    label=words,
                    x=at[0],
                    y=at[1],
                    small=True,
                    upright=upright,
                )
            )
        elif kind == "check-valve":
            d.marks.append(Mark(message("mark-check"), at[0], at[1] - 8))

    def lower_way(self, last: Part, y: float) -> None:
        """Another way: down from where it branches off, along a lane, and up into its section from the right."""
        rig, d = self.rig, self.d
        chain = [p for p in rig.chain(last) if not any((p.id, o) in self.outs for o in (*p.outlets(), "end"))]
        port = self.job.scope.port(last.port or "")
        if not chain or port is None:
            return
        box = self.where[port.section]
        start = self.outs.get((chain[0].on or "", chain[0].at)) or self.outs[rig.pump.id, "end"]
        riser = box.x + box.w + 16.0
        x = start[0]
        hoses = sum(isinstance(p, HosePart) for p in chain)
        end = riser - 46.0 * (len(chain) - hoses) - 8.0
        span = max(30.0, (end - x) / max(1, hoses))
        path = f"M{start[0]:.0f} {start[1]:.0f}V{y:.0f}"
        for p in chain:
            step = span if isinstance(p, HosePart) else 46.0
            words: Name = hose_size(p) if isinstance(p, HosePart) else ""
            d.strokes.append(Stroke(p.id, f"{path}H{x + step:.0f}", words, x + step / 2, y + 22))
            self.fitting(p, x, step, y)
            x += step
            path = f"M{x:.0f} {y:.0f}"
            for o in (*p.outlets(), "end"):
                self.outs[p.id, o] = (x - step + 22, y - 20) if o == "side" else (x, y)
        up = box.y + box.h / 2
        d.strokes.append(Stroke(f"{last.port}.port", f"M{x:.0f} {y:.0f}H{riser:.0f}V{up:.0f}H{box.x + box.w:.0f}"))
        core = self.core_words(last)
        if core != message("mark-port"):
            d.marks.append(Mark(core, riser - 40, y - 12))

    def fitting(self, p: Part, x: float, step: float, y: float) -> None:
        """What stands on a part's stroke from ``x`` on: its valve, its mark."""
        d = self.d
        if isinstance(p, HosePart):
            if p.ball_end:
                at = x + step - 24
                d.valves.append(Round(valve=p.id, part=p.id, label=self.a.valves[p.id].label, x=at, y=y))
        elif p.kind == "adapter":
            d.marks.append(Mark(message("mark-adapter"), x + step / 2, y - 14))
        elif p.kind == "tee":
            d.marks.append(Mark(message("mark-tee"), x + step / 2, y + 38))
        else:
            self.valve_at(p, x + 22, y)

    def dead_ends(self, y: float, low: float) -> float:
        """Hoses that lead to a cylinder or a bottle: down from their outlet, and to the right."""
        d = self.d
        for p in self.rig.parts:
            if not isinstance(p, CylinderPart) and p.kind != "nitrogen":
                continue
            chain = [c for c in self.rig.chain(p)[:-1] if (c.id, "end") not in self.outs]
            if p.on is None or not chain:
                continue
            start = self.outs.get((chain[0].on or "", chain[0].at), (MARGIN + PUMP_W, self.mid))
            x, path = start[0], f"M{start[0]:.0f} {start[1]:.0f}V{y + 14:.0f}"
            for c in chain:
                step = 150.0 if isinstance(c, HosePart) else 46.0
                d.strokes.append(Stroke(c.id, f"{path}H{x + step:.0f}", "", 0, 0))
                if isinstance(c, HosePart):
                    d.marks.append(Mark(hose_size(c), x + 58, y + 38))
                self.fitting(c, x, step, y + 14)
                x += step
                path = f"M{x:.0f} {y + 14:.0f}"
            d.boxes.append(
                Box(
                    name=p.id,
                    kind=p.kind,
                    label=message(f"mark-{p.kind}"),
                    x=x,
                    y=y - 6,
                    w=104,
                    h=40,
                )
            )
            low = y + 30
            y += LANE
        return low

    def gauges(self) -> None:
        for g in self.rig.gauges:
            foot, base = self.gauge_foot(g)
            x = foot
            above = self.above_gauge(g)
            for p in above:
                if p.id in self.a.valves and p.kind in ("tool", "valve"):
                    words = self.a.valves[p.id].label
                    at = Round(valve=p.id, part=p.id, label=words, x=x, y=base - 12, small=True, upright=True)
                    self.d.valves.append(at)
                else:
                    self.d.strokes.append(Stroke(p.id, f"M{x:.0f} {base:.0f}V{base - 22:.0f}"))
                base -= 22
            if g.valve:
                self.d.valves.append(
                    Round(
                        valve=g.id, part=g.id, label=message("gauge-valve"), x=x, y=base - 12, small=True, upright=True
                    )
                )
                base -= 22
            beside = x > self.d.width - 120
            y = max(4.0, base - 30)
            over = next((b for b in self.d.boxes if b.x - 130 < x < b.x + b.w and b.y < y + 24 and y < b.y + b.h), None)
            if over is not None:
                # Under a section's box the flag goes beside its pole.
                x, base = foot, base + (10 if above or g.valve else 0)
                y = max(base - 12, over.y + over.h + 4)
            if beside and over is None:
                # No room to its right: the flag hangs to the left of its pole's top.
                base = y + 12
            left = over is not None or beside
            self.d.flags.append(Flag(part=g.id, x=x, y=y, foot=base, where=gauge_place(self.job, g), left=left))

    def above_gauge(self, g: GaugePart) -> list[Part]:
        """What stands between a gauge and the line, nearest the line first."""
        chain = self.rig.chain(g)[:-1]
        if not chain or chain[0].kind != "pump":
            return chain
        at = max(
            (
                n
                for n, p in enumerate(chain)
                if p.kind == "manifold" or any((p.id, o) in self.outs for o in p.outlets())
            ),
            default=0,
        )
        return chain[at + 1 :]

    def gauge_foot(self, g: GaugePart) -> tuple[float, float]:
        """Where a gauge's pole stands."""
        chain = self.rig.chain(g)
        root = chain[0]
        if root.kind != "pump":
            port = self.job.scope.port(root.port or "")
            box = self.where[port.section] if port else next(iter(self.where.values()))
            return box.x + 24, box.y
        for p in chain[::-1][1:]:
            # A manifold that nothing leads to from the pump has no box.
            body = next((b for b in self.d.boxes if b.name == p.id), None) if p.kind == "manifold" else None
            if body is not None:
                return body.x + 24, body.y
            if (p.id, "side") in self.outs:
                x, y = self.outs[p.id, "side"]
                return (x, y) if p.kind != "pump" else (x + 12, y - 6)
        return MARGIN + PUMP_W + 12, self.mid


def gauge_place(job: Job, gauge: GaugePart) -> Message:
    """Where a gauge sits, in words."""
    for part in job.rig.chain(gauge)[::-1]:
        port = job.scope.port(part.port) if part.port else None
        if port is not None:
            return message("gauge-at-port", port=port.words())
        if part.kind == "manifold":
            return message("gauge-at-manifold")
    return message("gauge-at-pump")


def draw(job: Job, assembly: Assembly, whole: bool = True) -> Drawing:
    """Lay the rig line out; without ``whole``, sections that keep their charge are left off (beside the unit)."""
    if not whole:
        kept = {s.id for s in job.scope.sections if s.holds_charge}
        scope = job.scope.model_copy(
            update={
                "sections": tuple(s for s in job.scope.sections if s.id not in kept),
                "links": tuple(x for x in job.scope.links if not {x.a, x.b} & kept),
                "ports": tuple(p for p in job.scope.ports if p.section not in kept),
            }
        )
        job = job.model_copy(update={"scope": scope})
    return _Draw(job, assembly).draw()
