"""Where a charge stands, and what the running readings say, as the API says it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.api import runs
from rough_draw.api.charge.schemas import ChargingOut, CylinderOut, RunningJudgedOut, RunningOut, RunningsOut
from rough_draw.api.deps import floats
from rough_draw.api.devices.hub import Hub
from rough_draw.api.devices.scale_driver import scale_name
from rough_draw.core.charging.charge import charge_to_weigh, recovery_limit, why_no_charge
from rough_draw.core.charging.cylinders import NEXT, Cylinder, cylinders
from rough_draw.core.charging.superheat import SUBCOOLING, SUPERHEAT, NoSaturation, read_running
from rough_draw.core.charging.weighing import Weighing, at_ambient, hose_holds, liquid_words, weigh
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import mass
from rough_draw.core.model.isolation import valves_between
from rough_draw.core.model.rig_sources import hose_volume
from rough_draw.core.model.system import ScopeError, atmosphere_of
from rough_draw.core.physics.units import celsius, kelvin
from rough_draw.core.readings.downsampling import decimate
from rough_draw.core.sheet.job import Job, Running
from rough_draw.core.sheet.rig import HosePart
from rough_draw.store import weights

VALVE = {"cylinder-open": "open", "cylinder-throttle": "throttled", "cylinder-shut": "shut", NEXT: "shut"}
SHOWN = 600


def _hose_kg(job: Job) -> float:
    """What the charging hose holds at the end, kg: full of liquid, where a cylinder hangs on the rig."""
    part = next((p for p in job.rig.parts if p.kind == "cylinder"), None)
    hose = job.rig.get(part.on) if part is not None and part.on else None
    if not isinstance(hose, HosePart):
        return 0.0
    return hose_holds(job.scope.fluid, kelvin(job.scope.ambient_c), hose_volume(hose) * 1e3, liquid=True)


def _suction_open(run: runs.RunView) -> bool:
    """Whether a valve stands open between the suction port and the rig while liquid goes in."""
    job = run.job
    try:
        assembly = runs.plan_for(job).assembly
    except (ScopeError, NetworkError):
        return False
    for port in (p for p in job.scope.ports if p.side == "suction" and job.rig.on_port(p.id) is not None):
        ways = valves_between(job, assembly, port.id)
        if ways and not any(v in run.state.shut for v in ways) and run.state.isolated_at is None:
            return True
    return False


@dataclass(frozen=True, kw_only=True)
class _Weighed:
    """The scale's figures under the cylinder that stands there, s and kg, and the weights that its charge is counted
    between; the ``earlier`` ones that were emptied before it; ``shown`` all that the scale showed."""

    at: NDArray[np.float64]
    kg: NDArray[np.float64]
    shown: tuple[NDArray[np.float64], NDArray[np.float64]]
    earlier: list[Cylinder]
    read: bool
    start: float | None
    end: float | None
    begun: float
    valve: str
    running: bool
    simulated: bool = False

    @property
    def stood(self) -> list[Cylinder]:
        """All of them, the one that stands there last."""
        return [*self.earlier, Cylinder(start=self.start, end=self.end)]


def _weights(key: str, run: runs.RunView) -> _Weighed:
    """What was read, or what was typed in place of it."""
    release = run.job.release
    rows = weights.of(key)
    shown = np.array([w.at for w in rows]), np.array([w.kg for w in rows])
    touched = [t for t in run.made if t.kind in VALVE]
    *gone, here = cylinders(*shown, [(t.kind, t.at) for t in run.made])
    at, kg = here.times, here.weights
    start = release.start_kg if release.start_kg is not None else here.start
    end = release.end_kg if release.end_kg is not None else here.end
    earlier = [Cylinder(start=c.start_kg, end=c.end_kg) for c in release.earlier_cylinders]
    earlier += [c for c in gone if c.start is not None]
    typed = end if end is not None else (release.interim_kg[-1] if release.interim_kg else None)
    if not rows and start is not None and typed is not None:
        at, kg = np.array([0.0, 1.0, 2.0]), np.array([typed] * 3)
    last = [t.kind for t in run.made if t.kind in ("compressor-on", "compressor-off")][-1:]
    return _Weighed(
        at=at,
        kg=kg,
        shown=shown,
        earlier=earlier,
        read=bool(rows),
        simulated=any(w.simulated for w in rows),
        start=start,
        end=end,
        begun=start if start is not None else (float(kg[-1]) if kg.size else 0.0),
        valve=VALVE.get(touched[-1].kind, "shut") if touched else "shut",
        running=last == ["compressor-on"],
    )


def _cautions(run: runs.RunView, w: _Weighed, found: Weighing, hose: float) -> list[Message]:
    said = list(found.cautions)
    said += [message("charge-heavier", nth=n, mass=mass(c.gained)) for n, c in enumerate(w.stood, 1) if c.gained]
    if w.valve != "shut" and run.job.release.way == "cylinder" and not w.running and _suction_open(run):
        said.insert(0, message("charge-suction-open"))
    release = run.job.release
    if release.recovered_kg is not None and release.recovery_l is not None:
        fluid = run.job.scope.fluid
        most = recovery_limit(fluid.name, release.recovery_l) if fluid.tabled else None
        if most is None:
            said.append(message("no-saturation", refrigerant=fluid.name))
        elif release.recovered_kg > most:
            said.insert(0, message("recovery-over", mass=mass(release.recovered_kg), most=mass(most)))
        else:
            said.append(message("recovery-room", most=mass(most)))
    if hose > 0.005:
        said.append(message("charge-hose-keeps", mass=mass(hose)))
    return said


def charging_of(key: str, run: runs.RunView, hub: Hub) -> ChargingOut:
    """Where the charge stands, by the scale or by the weights that were typed."""
    job, release, scope = run.job, run.job.release, run.job.scope
    charge = charge_to_weigh(scope)
    wanted = charge.to_weigh if charge is not None else None
    w = _weights(key, run)
    margin, full, tare = release.margin_pct / 100.0, release.cylinder_full_kg, release.cylinder_tare_kg
    before = sum(c.given for c in w.earlier)
    # Of a cylinder that nobody has weighed yet nobody knows how full it is.
    known = w.kg.size > 0 or w.start is not None
    found = weigh(w.at, w.kg, w.begun, wanted or 0.0, margin, full if known else None, tare, before)
    hose = _hose_kg(job)
    air = atmosphere_of(scope)
    stands = at_ambient(scope.fluid, kelvin(scope.ambient_c))
    shown_at, shown_kg = decimate(*w.shown, SHOWN) if w.read else (np.zeros(0), np.zeros(0))
    link = hub.links.get(scale_name(key))
    give = "charge-give-nameplate" if scope.nameplate_kg is None else "charge-give-adder"
    unread = not w.read and not w.earlier and (w.start is None or not w.kg.size)
    return ChargingOut(
        to_weigh_kg=wanted,
        words=charge.words if charge is not None else why_no_charge(scope),
        liquid=liquid_words(scope.fluid),
        phase="none" if wanted is None or unread else found.phase,
        order=message(give) if wanted is None else found.order,
        why=message(f"{give}.why") if wanted is None else found.why,
        added_kg=None if not w.read and (wanted is None or unread) else found.added,
        left_kg=None if wanted is None else found.left,
        stop_at_kg=None if wanted is None else found.stop_at,
        flow_g_s=found.flow * 1000.0,
        seconds=found.seconds,
        cautions=_cautions(run, w, found, hose),
        scale=link is not None,
        stale=link.stale if link is not None else False,
        speed=hub.speed(scale_name(key)),
        weight_kg=float(w.shown[1][-1]) if w.read else None,
        start_kg=w.start,
        end_kg=w.end,
        cylinders=[
            CylinderOut(start_kg=c.start, end_kg=c.end, given_kg=c.given) for c in w.stood if c.start is not None
        ],
        valve=w.valve,
        running=w.running,
        hose_kg=hose,
        scale_simulated=w.simulated,
        bubble_gauge_pa=None if stands is None else stands[0] - air,
        dew_gauge_pa=None if stands is None else stands[1] - air,
        at=floats(shown_at, 14),
        kg=floats(shown_kg),
    )


def _running(job: Job, seen: Running | None) -> RunningOut | None:
    if seen is None:
        return None
    air = atmosphere_of(job.scope)

    def absolute(kpa: float | None) -> float | None:
        return None if kpa is None else kpa * 1000.0 + air

    def warm(c: float | None) -> float | None:
        return None if c is None else kelvin(c)

    try:
        r = read_running(
            job.scope.refrigerant,
            absolute(seen.suction_kpa),
            warm(seen.suction_c),
            absolute(seen.liquid_kpa),
            warm(seen.liquid_c),
        )
    except NoSaturation as e:
        return RunningOut(dew_c=None, bubble_c=None, superheat=None, subcooling=None, judged=[], fault=e.told)
    return RunningOut(
        dew_c=None if r.dew is None else celsius(r.dew),
        bubble_c=None if r.bubble is None else celsius(r.bubble),
        superheat=r.superheat,
        subcooling=r.subcooling,
        judged=[RunningJudgedOut(case=j.case, words=j.words) for j in r.judged],
        fault="",
    )


def runnings_of(job: Job) -> RunningsOut:
    """Superheat and subcooling of the readings on the sheet, against the usual."""
    return RunningsOut(
        first=_running(job, job.release.first),
        later=_running(job, job.release.later),
        superheat=(SUPERHEAT.low, SUPERHEAT.high),
        subcooling=(SUBCOOLING.low, SUBCOOLING.high),
    )
