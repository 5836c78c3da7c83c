"""The best rig that the van allows, found by search; and what a purchase would have saved over past jobs."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from rough_draw.core.catalogue.rig_parts import END_LENGTH, HOSE_BORE, HOSE_END_BORE
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import duration
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.ensemble import run_all
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.system import ScopeError
from rough_draw.core.physics.conductance import tube_conductance
from rough_draw.core.planning.plan import HORIZON, time_to_target
from rough_draw.core.planning.upgrades import changes
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem, as_hose, as_pump
from rough_draw.core.sheet.rig import HosePart, Rig
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from


@dataclass(frozen=True)
class Candidate:
    """A rig put together from the kit: its pattern, seconds to target, and whether it can be held without hoses."""

    pattern: str
    job: Job
    seconds: float
    clean_hold: bool


@dataclass(frozen=True)
class Best:
    """The best rig found, why, how many were tried, and what stands in the way of a better one."""

    chosen: Candidate | None
    reason: Message
    tried: int
    missing: Message | None


def hose_worth(h: HosePart) -> float:
    """Conductance of a hose near the end of a draw (to air at 30 Pa), m³/s: what one hose is put before another by."""
    bore = HOSE_BORE[h.size].value
    end = min(bore, HOSE_END_BORE[h.size].value)
    c = [tube_conductance(bore, h.length_m, 31.0, 29.0), *[tube_conductance(end, END_LENGTH.value, 31.0, 29.0)] * 2]
    return 1.0 / sum(1.0 / x for x in c)


def _outfit(job: Job, rig: Rig, kit: Sequence[KitItem], pump: KitItem) -> Rig | None:
    """A pattern's rig with its slots filled from the kit, the better hoses first; None if it cannot be."""
    stock: dict[str, list[KitItem]] = {}
    for k in kit:
        stock.setdefault(k.kind, []).append(k)
    hoses = sorted(stock.get("hose", []), key=lambda k: -hose_worth(as_hose(k)))
    hoses = [k for k in hoses if as_hose(k).made_for == "vacuum"] + [
        k for k in hoses if as_hose(k).made_for != "vacuum"
    ]
    order = [p.id for p in rig.parts if isinstance(p, HosePart)]
    if len(hoses) < len(order):
        return None
    rig = rig_edit.take_from_kit(rig, rig.pump.id, pump.id, pump.name, pump.values)
    for name, item in zip(order, hoses, strict=False):
        slot = rig.get(name)
        values = {
            **item.values,
            "depressor": getattr(slot, "depressor", False),
            "fits": getattr(slot, "fits", "1/4 in"),
        }
        rig = rig_edit.take_from_kit(rig, name, item.id, item.name, values)
    for kind in ("tool", "gauge", "tee", "manifold"):
        slots = [p for p in rig.parts if p.kind == kind]
        # A van without a listed tee or manifold may still carry one: only tools and gauges are counted.
        items = list(stock.get(kind, []))
        if kind in ("tool", "gauge") and len(items) < len(slots):
            return None
        for slot, item in zip(slots, items, strict=False):
            keep = {k: getattr(slot, k) for k in ("fits", "body", "inlet", "ways") if hasattr(slot, k)}
            rig = rig_edit.take_from_kit(rig, slot.id, item.id, item.name, {**item.values, **keep})
    return rig


def best_rig(job: Job, kit: Iterable[KitItem]) -> Best:
    """Try every pattern the system has ports for with every pump, its slots filled with the best of the kit.

    Hoses are given out by conductance, the best to the first (suction) slot: a larger bore is never slower, so no
    other handing out can win but by length on the far side. Rigs that can be held without hoses and whose gauge can
    be read on hold come before faster ones by less than a tenth.
    """
    items = list(kit)
    pumps = [k for k in items if k.kind == "pump"]
    if not pumps:
        return Best(None, message("best-no-pump"), 0, message("best-list-kit"))
    rigs: list[tuple[str, Rig]] = []
    for key in PATTERNS:
        if key in ("low-side-dial",) or not fits(key, job.scope):
            continue
        base = rig_from(key, job.scope)
        for pump in sorted(pumps, key=lambda k: -as_pump(k).plate_cfm):
            try:
                rig = _outfit(job, base, items, pump)
            except ValueError:
                continue
            if rig is not None:
                rigs.append((key, rig))

    def timed(found: tuple[str, Rig]) -> Candidate | None:
        key, rig = found
        trial = job.model_copy(update={"rig": rig.model_copy(update={"cord": job.rig.cord})})
        try:
            assembly = assemble(trial)
            held = isolation(trial, assembly)
            seconds = time_to_target(trial)
        except (ScopeError, NetworkError):
            return None
        clean = held.complete and held.hose_m == 0 and held.gauge_inside
        return Candidate(key, trial, seconds if seconds is not None else HORIZON, clean)

    tried = [c for c in run_all(timed, rigs) if c is not None]
    if not tried:
        return Best(None, message("best-none-fits"), 0, _missing(items))
    fastest = min(c.seconds for c in tried)
    chosen = min(tried, key=lambda c: (not c.clean_hold if c.seconds < 1.1 * fastest + 60 else True, c.seconds))
    told = "best-clean" if chosen.clean_hold else "best-with-hoses"
    why = message(told, setup=PATTERNS[chosen.pattern].name, time=duration(chosen.seconds))
    return Best(chosen, why, len(tried), None if chosen.clean_hold else _missing(items))


def _missing(items: list[KitItem]) -> Message | None:
    tools = sum(k.kind == "tool" for k in items)
    gauges = sum(k.kind == "gauge" for k in items)
    if not gauges:
        return message("best-no-gauge")
    if tools < 3:
        return message("best-few-tools", count=tools)
    return None


@dataclass(frozen=True)
class Purchase:
    """A purchase over past jobs: seconds it would have saved in all, on how many jobs, and at the hourly rate."""

    key: str
    words: Message
    seconds: float
    jobs: int
    money: float


BUYS = (
    "hoses-3-8",
    "hoses-1-2",
    "hoses-3-4",
    "shorter",
    "pull-cores",
    "larger-pump",
    "larger-tools",
)
"""Changes that are a purchase."""


def purchases(past: Sequence[Job], hourly_rate: float) -> list[Purchase]:
    """What each purchase would have saved over past jobs, best guess of each, the most valuable first.

    A job whose rig has the part already adds nothing. Waiting is counted as work: where a person does other
    things meanwhile, it is worth less, so this is an upper bound.
    """
    saved: dict[str, list[float]] = {}

    def one(job: Job) -> dict[str, float]:
        try:
            base = time_to_target(job)
        except (ScopeError, NetworkError):
            return {}
        start = base if base is not None else HORIZON
        found: dict[str, float] = {}
        for c in changes(job):
            key = "pull-cores" if c.key.startswith("pull-core") else c.key
            if key not in BUYS:
                continue
            try:
                after = time_to_target(c.job)
            except (ScopeError, NetworkError):
                continue
            gain = start - (after if after is not None else HORIZON)
            if gain > 1.0:
                found[key] = max(found.get(key, 0.0), gain)
        return found

    for found in run_all(one, past):
        for key, gain in found.items():
            saved.setdefault(key, []).append(gain)
    rows = [
        Purchase(k, message(f"purchase-{k}"), sum(v), len(v), sum(v) / 3600.0 * hourly_rate) for k, v in saved.items()
    ]
    return sorted(rows, key=lambda r: -r.seconds)
