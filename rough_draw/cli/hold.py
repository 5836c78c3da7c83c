"""`rough-draw hold`: the verdict on a table of readings, alone or with the job file it belongs to."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from rough_draw.cli.base import Refused, job_file, read
from rough_draw.core.message import Value, message
from rough_draw.core.message.figure import duration, share
from rough_draw.text import say, say_all

if TYPE_CHECKING:
    from rough_draw.core.hold.result import Circumstances, Verdict
    from rough_draw.core.physics.quantity import Quantity
    from rough_draw.core.sheet.job import Job
    from rough_draw.core.sheet.scope import Scope
    from rough_draw.store.job_files import JobFile


def judge_table(a: argparse.Namespace) -> tuple[dict[str, Any], bool, Callable[[], str]]:
    """The verdict as plain values, whether JSON is wanted, and the words. Raises Refused for bad input."""
    from rough_draw.core.hold.needle import judge_needle
    from rough_draw.core.hold.result import Circumstances
    from rough_draw.core.hold.verdict import judge_hold
    from rough_draw.core.model.system import atmosphere_of
    from rough_draw.core.physics.units import atmosphere_at, kelvin
    from rough_draw.core.readings import csv_table
    from rough_draw.core.readings.series import hold_begins
    from rough_draw.core.sheet.criteria import STANDARDS, chosen
    from rough_draw.core.sheet.job import CriterionChoice
    from rough_draw.core.sheet.scope import Scope

    file = job_file(a.job) if a.job else None
    if file is None and (a.volume_l is None or a.temp_c is None):
        raise Refused("give --volume-l and --temp-c, or --job with the job file")
    if a.volume_l is not None and not 0.001 <= a.volume_l <= 100_000:
        raise Refused(f"--volume-l {a.volume_l:g} is outside 0.001 … 100,000 l")
    if a.temp_c is not None and not -60 <= a.temp_c <= 90:
        raise Refused(f"--temp-c {a.temp_c:g} is outside −60 … 90 °C")
    try:
        data = read(a.readings, csv_table.MOST_BYTES)
        air = atmosphere_of(file.job.scope) if file is not None else atmosphere_at(a.elevation_m)
        found = csv_table.read_table(data, None, air, a.time_unit, a.day_first)
    except csv_table.ReadingsError as e:
        more = f" (and {len(e.faults) - 6} more)" if len(e.faults) > 6 else ""
        raise Refused(
            f"{a.readings}: "
            + "; ".join(f"line {f.line}: {say(f.message)}" if f.line else say(f.message) for f in e.faults[:6])
            + more
        ) from None
    flags = {"time-unit": "--time-unit", "day-first": "--day-first or --month-first"}
    if found.mapping.undecided:
        asked = " and ".join(flags[x] for x in found.mapping.undecided)
        raise Refused(f"{a.readings}: {' '.join(say_all(list(found.guesses)))} Decide it with {asked}.")
    series = found.main()
    start = a.isolated_at if a.isolated_at is not None else hold_begins(series)
    if start is None:
        raise Refused(
            f"{a.readings}: no hold can be seen in the curve; say when it was isolated with --isolated-at SECONDS"
        )
    t, p = series.slice(start)
    if file is not None:
        volume, known, scope = _of_job(file, float(t[-1]) if t.size else 0.0, a.job)
        main = chosen(file.job.criterion)
    else:
        volume, known, scope, main = None, Circumstances(atmosphere=air), Scope(), STANDARDS["code-minimum"]
    if a.school or file is None:
        main = chosen(CriterionChoice(school=a.school or "code-minimum"))
    if a.volume_l is not None or volume is None:
        volume = _typed(a)
    coldest = a.temp_c if a.temp_c is not None else scope.coldest_c
    if series.dial or (file is not None and file.job.rig.gauge is None):
        v, _ = judge_needle(t, p, volume, air, kelvin(max(coldest, scope.ambient_c)), main)
    else:
        v = judge_hold(t, p, volume, kelvin(coldest), main, known)
    return _values(v, start, scope), a.json, lambda: _words(v, start, scope, volume.value)


def _typed(a: argparse.Namespace) -> Quantity:
    from rough_draw.core.physics.quantity import Quantity

    spread = max(1.0, a.volume_spread)
    return Quantity(a.volume_l * 1e-3, a.volume_l * 1e-3 / spread, a.volume_l * 1e-3 * spread, "m³", "typed in")


def _of_job(file: JobFile, span: float, path: str) -> tuple[Quantity, Circumstances, Scope]:
    """Volume, circumstances and system of the job file's hold."""
    from rough_draw.core.engine.network import NetworkError
    from rough_draw.core.hold.context import circumstances
    from rough_draw.core.model.assemble import assemble
    from rough_draw.core.model.isolation import isolation
    from rough_draw.core.model.system import ScopeError
    from rough_draw.core.sheet.run_state import Touch, fold

    job: Job = file.job
    touches = [Touch(t.kind, t.at, t.note) for t in file.touches]
    try:
        assembly = assemble(job)
        held = isolation(job, assembly)
    except (ScopeError, NetworkError) as e:
        raise Refused(f"{path}: {say(e.told)}") from None
    state = fold(touches, held.valves)
    whole = assembly.system.volume()
    start = state.isolated_at if state.isolated_at is not None else 0.0
    known = circumstances(job, held, state, touches, start, start + span, assembly)
    return whole.times(held.volume / whole.value), known, job.scope


def _values(v: Verdict, start: float, scope: Scope) -> dict[str, Any]:
    from rough_draw.core.charging.charge import grams_per_year
    from rough_draw.core.hold.wording import disagreements, reasons

    def r(x: Any, digits: int = 4) -> dict[str, float]:
        return {k: float(f"{getattr(x, k):.{digits}g}") for k in ("low", "value", "high")}

    grams = grams_per_year(v.leak, scope)
    return {
        "verdict": v.verdict,
        "sentence": v.sentence,
        "probability": round(v.probability, 4),
        "odds": {k: round(x, 4) for k, x in v.odds.items()},
        "leak_pa_m3_s": r(v.leak),
        "rate_micron_s": r(v.rate),
        "slope_micron_s": r(v.slope),
        "grams_per_year": r(grams, 3),
        "moisture_g": r(v.moisture),
        "ahead_micron": {f"{s:.0f}": r(_micron(x), 5) for s, x in v.ahead},
        "sound": v.sound,
        "sound_at_s": None if v.sound_at is None else round(v.sound_at, 1),
        "wait_s": None if v.wait is None else round(v.wait, 0),
        "hold_from_s": round(float(start), 1),
        "detection_micron_s": float(f"{v.detection:.3g}"),
        "criteria": [{"name": c.name, "pass": c.passed, "reason": c.reason} for c in v.criteria],
        "disagreements": disagreements(v),
        "reasons": reasons(v),
    }


def _micron(x: Any) -> Any:
    from rough_draw.core.physics.interval import Range
    from rough_draw.core.physics.units import micron

    return Range(micron(x.low), micron(x.value), micron(x.high))


def _words(v: Verdict, start: float, scope: Scope, volume: float) -> str:
    from rough_draw.core.charging.charge import empty_after, grams_per_year
    from rough_draw.core.hold.wording import cause, charge_loss, disagreements, headline, likely, outcome_word, reasons

    when: dict[str, Value] = {"verdict": headline(v), "start": duration(start), "time": duration(v.span)}
    if v.verdict in ("unverified", "invalid"):
        # Nothing was found out, and there are no odds of that.
        told = [message("cli-no-verdict", **when)]
    else:
        told = [message("cli-verdict", likely=likely(v.probability), odds=share(v.probability), **when)]
    told += [message("cli-line", text=x) for x in reasons(v)]
    for name, odds in sorted(v.odds.items(), key=lambda y: y[1], reverse=True):
        told.append(message("cli-odds", likely=likely(odds), odds=share(odds), cause=cause(name)))
    if v.sound_at is not None:
        told.append(message("cli-sound", time=duration(v.sound_at)))
    elif v.wait is not None:
        told.append(message("cli-wait", time=duration(v.wait)))
    told += [message("cli-standard", standard=c.name, says=outcome_word(c), reason=c.reason) for c in v.criteria]
    empty = empty_after(grams_per_year(v.leak, scope), scope.nameplate_kg)
    told += [message("cli-line", text=x) for x in (*disagreements(v), *charge_loss(v, volume, empty))]
    return "\n".join(say_all(told))
