"""Reading the hold: tight, leak, water, refrigerant or hose; how sure; how much; and since when it was sound."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.catalogue.proving import BEYOND
from rough_draw.core.engine.readiness import must_be_ready
from rough_draw.core.hold.binning import jumps, sound_points, thin
from rough_draw.core.hold.decision import LEAKS, SLOW_END, Frame, Look, VerdictName, look
from rough_draw.core.hold.hypotheses import GOOD, accounts
from rough_draw.core.hold.models import Setting, make_basis
from rough_draw.core.hold.posterior import Z90, Reading, ahead, rate_of, slope_now
from rough_draw.core.hold.result import Circumstances, Verdict
from rough_draw.core.hold.stopping import sound_since, wait
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import duration, vacuum
from rough_draw.core.message.figure import volume as volume_of
from rough_draw.core.physics.gas import R_WATER
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.sheet import criteria

FloatArray = NDArray[np.float64]

ALGORITHM = "hold-4"
SMALLEST = 5e-5
"""m³; in less, any tool's seat shows hundreds of microns."""
GAUGE = 0.013
"""Standard deviation of a gauge's scale, as a share (estimate)."""
AHEAD = (600.0, 3600.0, 86_400.0)


def judge_hold(
    times: FloatArray,
    pressures: FloatArray,
    volume: Quantity,
    coldest: float,
    criterion: criteria.Criterion | None = None,
    known: Circumstances | None = None,
    schools: tuple[criteria.Criterion, ...] = tuple(criteria.STANDARDS.values()),
    find_sound: bool = True,
) -> Verdict:
    """Judge a hold. ``times`` s since isolation, ``pressures`` Pa, ``volume`` m³ isolated, ``coldest`` K.

    The physical verdict uses ``criterion.limit`` only as the level that tells dry from wet; each
    school's own rule stands beside it.

    Parameters
    ----------
    times : ndarray, (n,)
        s since isolation, ascending.
    pressures : ndarray, (n,)
        Pa, in range.
    volume : Quantity
        m³ isolated.
    coldest : float
        K of the coldest spot.
    criterion : Criterion or None
        The standard chosen; the code minimum where None.
    known : Circumstances or None
        What the sheet knows beside.
    schools : tuple of Criterion
        Standards whose own rules stand beside the verdict.
    find_sound : bool
        Whether to work out since when it was sound, which takes as long again.

    Returns
    -------
    Verdict
        What it says and how surely; leak Pa·m³/s, rates µ/s, water g, levels Pa.

    Examples
    --------
    >>> t = np.linspace(0.0, 1200.0, 241)
    >>> from rough_draw.core.physics.quantity import exact
    >>> from rough_draw.core.physics.units import MICRON_PA
    >>> p = (180.0 + 1.4 * t) * MICRON_PA
    >>> judge_hold(t, p, exact(8e-3, "m³", "measured"), 288.0).verdict
    'leak'
    """
    must_be_ready()
    main = criterion or criteria.STANDARDS["code-minimum"]
    known = known or Circumstances()
    saturation = saturation_pressure(coldest)
    others = tuple(c for c in schools if c.key != main.key)
    # A standard fails nobody by a single bad reading that the verdict itself sets aside.
    sound = sound_points(times, pressures)
    outcomes = tuple(criteria.apply(c, times[sound], pressures[sound]) for c in (main, *others))
    span = float(times[-1] - times[0]) if times.size else 0.0
    why = _unfit(times, pressures, span, volume, known, main.limit)
    limit = min(max(main.limit, 300 * MICRON_PA), 0.6 * saturation)
    if why is not None:
        return no_verdict("invalid", outcomes, span, why)
    frame = framed(times, pressures, volume, saturation, limit, known)
    weighed, readings, now = look(frame)
    found = _verdict(now, weighed.inflate, readings, volume, coldest, frame, outcomes, span)
    if find_sound and now.sound:
        return replace(found, sound_at=sound_since(frame, now, weighed.inflate))
    if find_sound:
        return replace(found, wait=wait(frame, readings, now))
    return found


def no_verdict(name: VerdictName, outcomes: tuple[criteria.Outcome, ...], span: float, why: Message) -> Verdict:
    """A verdict that says nothing of the system: invalid, or unverified.

    Parameters
    ----------
    name : VerdictName
        ``"invalid"`` or ``"unverified"``.
    outcomes : tuple of Outcome
        What each standard says all the same.
    span : float
        s that were read.
    why : Message
        Why nothing can be said.

    Returns
    -------
    Verdict
        Without figures.

    Examples
    --------
    >>> no_verdict("invalid", (), 30.0, message("unfit-short", time=duration(30.0))).sentence.key
    'verdict-invalid'
    """
    none = Range(0.0, 0.0, 0.0)
    return Verdict(
        verdict=name,
        probability=1.0,
        odds={},
        leak=none,
        rate=none,
        slope=none,
        rising=False,
        moisture=none,
        ahead=(),
        detection=0.0,
        plateau=none,
        open=(),
        sound=False,
        sound_at=None,
        wait=None,
        criteria=outcomes,
        span=span,
        why=why,
    )


def framed(
    times: FloatArray, pressures: FloatArray, volume: Quantity, saturation: float, limit: float, known: Circumstances
) -> Frame:
    """A hold made ready to be looked at: in bins, with the shapes on them and the accounts that compete.

    Parameters
    ----------
    times : ndarray, (n,)
        s, ascending.
    pressures : ndarray, (n,)
        Pa.
    volume : Quantity
        m³ isolated.
    saturation : float
        Pa of water at the coldest spot.
    limit : float
        Pa that tells dry from wet.
    known : Circumstances
        What the sheet knows beside.

    Returns
    -------
    Frame
        Bins with honest errors, shapes on them, the hypotheses.

    Examples
    --------
    >>> t = np.linspace(0.0, 1200.0, 241)
    >>> from rough_draw.core.physics.quantity import exact
    >>> from rough_draw.core.physics.units import MICRON_PA
    >>> p = (180.0 + 1.4 * t) * MICRON_PA
    >>> framed(t, p, exact(8e-3, "m³", "measured"), 1705.0, 66.0, Circumstances()).data.time.size > 20
    True
    """
    t = times - times[0]
    keep = sound_points(t, pressures)
    touches = tuple(x - float(times[0]) for x in known.touches) or jumps(t[keep], pressures[keep])
    data = thin(t[keep], pressures[keep], touches)
    setting = Setting(saturation, max(known.drawn, 300.0), known.atmosphere)
    hose = known.hose.times(1.0 / volume.value) if known.hose is not None and known.hose.value > 0 else None
    chosen = accounts(hose, known.wetness, known.ran)
    return Frame(data=data, basis=make_basis(data, setting), setting=setting, accounts=chosen, limit=limit, hose=hose)


AIR_LET_IN = 0.9
"""Share of the atmosphere of the place at which somebody has let air in."""


def _unfit(
    times: FloatArray, pressures: FloatArray, span: float, volume: Quantity, known: Circumstances, limit: float
) -> Message | None:
    if times.size < 6:
        return message("unfit-few-readings", count=int(times.size))
    if span < 60.0:
        return message("unfit-short", time=duration(span))
    if float(pressures.max()) > AIR_LET_IN * known.atmosphere:
        return message("unfit-atmosphere")
    if not known.gauge_inside:
        return message("unfit-gauge-outside")
    if known.offset > BEYOND * limit:
        return message("unfit-gauge-beyond-core", offset=vacuum(known.offset))
    if volume.value < SMALLEST:
        return message("unfit-small", volume=volume_of(volume.value))
    return None


def _verdict(
    now: Look,
    inflate: float,
    readings: list[Reading],
    volume: Quantity,
    coldest: float,
    frame: Frame,
    outcomes: tuple[criteria.Outcome, ...],
    span: float,
) -> Verdict:
    end, setting, hose = now.span, frame.setting, frame.hose
    # The last bin stands at its own middle, a little before the last reading.
    late = max(0.0, span - end)
    m = MICRON_PA
    rise = slope_now(readings, end)
    has_leak = now.verdict in LEAKS
    r = Range(0.0, 0.0, now.detection)
    if has_leak:
        r = rate_of(readings, ("leak", "leak-and-moisture"))
        # A hose held with the system has its part in the rise; a gauge is true to a few hundredths.
        h = hose if hose is not None else Quantity(0.0, 0.0, 0.0, "", "")
        wide = Z90 * GAUGE * r.value
        low, high = r.value - float(np.hypot(r.value - r.low, wide)), r.value + float(np.hypot(r.high - r.value, wide))
        r = Range(max(0.0, low - h.high), max(0.0, r.value - h.value), max(0.0, high - h.low))
    # The level where it would end is said of what does not leak.
    still = [x for x in readings if x.name != "refrigerant"]
    best = max(still or readings, key=lambda x: x.weight)
    level, sd = best.at(end, end, "level")
    return Verdict(
        verdict=now.verdict,
        probability=now.probability,
        odds=now.odds,
        leak=Range(r.low * volume.low, r.value * volume.value, r.high * volume.high),
        rate=Range(r.low / m, r.value / m, r.high / m),
        slope=Range(rise.low / m, rise.value / m, rise.high / m),
        rising=rise.low > 0.2 * GOOD or now.odds["leak"] + now.odds["leak-and-moisture"] > 0.5,
        moisture=_moisture(now.verdict, readings, end, volume, coldest, setting),
        ahead=tuple((s, ahead(readings, s + late, end, setting, setting.atmosphere)) for s in AHEAD),
        detection=now.detection / m,
        plateau=Range(max(0.0, level - Z90 * sd), level, level + Z90 * sd),
        open=now.open,
        sound=now.sound,
        sound_at=None,
        wait=None,
        criteria=outcomes,
        span=span,
        readings=tuple(readings),
        data=frame.data,
        inflate=inflate,
        saturation=setting.saturation,
        limit=frame.limit,
        first=float(frame.data.pressure[0]),
        peak=float(frame.data.pressure.max()),
    )


def _moisture(
    verdict: str, readings: list[Reading], end: float, volume: Quantity, coldest: float, setting: Setting
) -> Range:
    """Water left, g: the vapour it would end as. Near saturation liquid may stand behind it: then tenfold above."""
    if verdict not in ("moisture", "leak-and-moisture"):
        return Range(0.0, 0.0, 0.0)
    wet = [r for r in readings if (r.water or r.name == "slow") and (verdict == "moisture" or r.straight)]
    best = max(wet, key=lambda r: r.weight)
    if best.name == "slow":
        # All that the oil has still to give, less what stands there already.
        (then, sd), (now, _) = best.at(SLOW_END, end), best.at(0.0, end)
        level = then - now
    else:
        k = -2 if best.rise is not None else -1
        level, sd = float(best.beta[k]), float(np.sqrt(best.cov[k, k]))
    per_pa = 1000.0 / (R_WATER * coldest)
    low = max(0.0, level - Z90 * sd)
    high = min(level + Z90 * sd, 1.04 * setting.saturation)
    high = max(high, low)
    if level > 0.85 * setting.saturation:
        high *= 10.0
    value = min(max(level, low), setting.saturation) * volume.value * per_pa
    return Range(min(low * volume.low * per_pa, value), value, max(high * volume.high * per_pa, value))
