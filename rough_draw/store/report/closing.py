"""The end of the report: charge, ports, running readings, kit, cautions, signature, seal and amendments."""

from __future__ import annotations

import math
from collections.abc import Sequence

from reportlab.graphics.shapes import Drawing, Line, Path
from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from rough_draw.core.charging.cautions import caution, caution_keys, ticked
from rough_draw.core.charging.charge import charge_to_weigh
from rough_draw.core.charging.cylinders import Cylinder
from rough_draw.core.interlock.release import release_steps
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message import listed as listed_names
from rough_draw.core.message.figure import duration, gauge_pressure, mass, temperature, weight
from rough_draw.core.physics.units import kelvin
from rough_draw.core.sheet.job import Job, Release, Running
from rough_draw.core.sheet.scope import Port
from rough_draw.store.jobs import day
from rough_draw.store.report.inks import MEASURED, STRONG
from rough_draw.store.report.record import Closing, Record
from rough_draw.store.report.style import SMALL, WIDTH, Heading, grid, listed, text

PAD_W, PAD_H = 600.0, 160.0


def _port_checked(release: Release, port: Port) -> Message:
    """How a port was checked, for how long, and whether it held."""
    seen = message(f"port-{release.port_checks[port.id]}")
    result = release.port_results.get(port.id)
    if result is None:
        return message("report-port-checked", port=port.words(), seen=seen)
    told = "report-port-tight" if result.tight else "report-port-leaks"
    return message(told, port=port.words(), seen=seen, time=duration(60.0 * result.minutes))


def _weights(release: Release, c: Closing) -> Message:
    """What the scale showed: before, in between, after; of each cylinder, where there were several."""
    whole = [(start, end) for start, end in c.cylinders if end is not None]
    if not whole:
        return message("report-no-weights")
    each = [message("report-weights", before=weight(start), after=weight(end)) for start, end in whole]
    if len(each) > 1:
        each = [message("report-weights-of", number=n, weights=x) for n, x in enumerate(each, 1)]
    plain = each[0]
    for one in each[1:]:
        plain = message("report-weights-next", weights=plain, next=one)
    between = listed_names([message("report-mass", mass=weight(x)) for x in release.interim_kg])
    plain = message("report-weights-between", weights=plain, between=between) if release.interim_kg else plain
    return message("report-weights-simulated", weights=plain) if c.scale_simulated else plain


def weighed_in(job: Job, c: Closing) -> float | None:
    """What was weighed in, kg: as it was said, or by the scale before and after."""
    if job.release.weighed_kg is not None or not c.cylinders:
        return job.release.weighed_kg
    stood = [Cylinder(start=start, end=end) for start, end in c.cylinders]
    return None if any(x.end is None for x in stood) else sum(x.given for x in stood)


def _charge(job: Job, c: Closing) -> list[tuple[str, Name]]:
    charge = charge_to_weigh(job.scope)
    release = job.release
    weighed = weighed_in(job, c)
    done = [s.title for s in release_steps(job) if s.key in release.steps_done]
    checks = [_port_checked(release, p) for p in job.scope.ports if p.id in release.port_checks]
    to_weigh = message("report-no-nameplate")
    if charge is not None:
        to_weigh = message("report-to-weigh-of", mass=mass(charge.to_weigh), sum=charge.words)
    return [
        ("to-weigh", to_weigh),
        ("weighed", message("report-mass", mass=weight(weighed)) if weighed is not None else ""),
        ("scale", _weights(release, c)),
        ("recovered", message("report-mass", mass=weight(release.recovered_kg)) if release.recovered_kg else ""),
        ("release", listed_names(done)),
        ("ports-checked", listed_names(checks) or message("report-none-recorded")),
        ("new-cores", str(release.cores_new)),
    ]


def running_words(r: Running) -> list[Name]:
    """What the running system showed, each figure with its name."""
    found: list[Name] = []
    for key, kpa in (("suction", r.suction_kpa), ("liquid", r.liquid_kpa)):
        if kpa is not None:
            found.append(message(f"report-running-{key}", pressure=gauge_pressure(1e3 * kpa)))
    for key, c in (("suction", r.suction_c), ("liquid", r.liquid_c), ("in", r.in_c), ("out", r.out_c)):
        if c is not None:
            found.append(message(f"report-running-{key}-at", temperature=temperature(kelvin(c))))
    if r.condensate is not None:
        found.append(message("report-condensate" if r.condensate else "report-no-condensate"))
    return [*found, *([r.note] if r.note else [])]


def _seen(name: str, r: Running | None, words: Sequence[Name]) -> tuple[str, Name] | None:
    if r is None:
        return None
    when: list[Name] = [day(r.at)] if r.at else []
    return name, listed_names([*when, *running_words(r), *words])


def drawn(path: str, width: float) -> Drawing | None:
    """A signature as it was drawn: strokes M x y L x y …, on a pad of 600 by 160. None where there is none, or no
    path."""
    scale = width / PAD_W
    out = Drawing(width, PAD_H * scale)
    strokes = Path(strokeColor=MEASURED, strokeWidth=1.1, fillColor=None)
    words = path.replace("M", " M ").replace("L", " L ").split()
    count, k = 0, 0
    try:
        while k + 2 < len(words):
            x, y = float(words[k + 1]) * scale, (PAD_H - float(words[k + 2])) * scale
            if not (math.isfinite(x) and math.isfinite(y)) or words[k] not in "ML":
                return None
            (strokes.moveTo if words[k] == "M" else strokes.lineTo)(x, y)
            count, k = count + 1, k + 3
    except ValueError:
        return None
    if count < 2:
        return None
    out.add(Line(0, 0.2 * PAD_H * scale, width, 0.2 * PAD_H * scale, strokeColor=STRONG, strokeWidth=0.6))
    out.add(strokes)
    return out


def closing(r: Record) -> list[Flowable]:
    """Everything after the proofs: release and charge, running readings, kit, cautions."""
    job, c = r.job, r.closing
    words = dict(c.running)
    seen = [_seen("first", job.release.first, words.get("first", ()))]
    seen.append(_seen("later", job.release.later, words.get("later", ())))
    rows = _charge(job, c) + [s for s in seen if s is not None]
    if job.closing.deviation:
        rows.append(("deviations", job.closing.deviation))
    rows.append(("remarks", job.closing.remarks or message("report-none")))
    parts: list[Flowable] = [Heading(message("report-release-and-charge")), grid(rows, 1)]
    if c.kit:
        head = [message(f"report-kit-{k}") for k in ("part", "number", "health")]
        widths = [WIDTH * 0.4, 20 * mm, WIDTH * 0.6 - 20 * mm]
        parts += [Heading(message("report-kit")), listed(head, [list(k) for k in c.kit], widths, SMALL)]
    told = job.closing.acknowledged
    parts.append(Heading(message("report-cautions")))
    refrigerant = job.scope.refrigerant
    for key in caution_keys(job.scope):
        mark = "report-ticked" if ticked(key, refrigerant, told) else "report-unticked"
        parts.append(text(message(mark, what=caution(key, refrigerant)), SMALL))
    return parts


def signed(job: Job) -> list[Flowable]:
    """The signature as it was drawn, and the name under it."""
    parts: list[Flowable] = [Heading(message("report-signature"))]
    signature = drawn(job.closing.signature, 60 * mm)
    if signature is not None:
        parts.append(signature)
    parts.append(text(f"{job.closing.signed_by} {job.closing.signed_at}".strip() or message("report-not-signed")))
    return parts
