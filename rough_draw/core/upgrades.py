"""Single changes to a rig that a technician could make at the van."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.rigparts import HOSE_SIZES, PUMPS_CFM
from rough_draw.core.job import Hose, Job, Path, Rig
from rough_draw.core.system import build_system


@dataclass(frozen=True)
class Change:
    """A change in words, and the job with it made. ``key`` is stable for scripts."""

    key: str
    words: str
    job: Job


def _with_rig(job: Job, key: str, words: str, **fields: object) -> Change:
    rig = Rig.model_validate({**job.rig.model_dump(), **fields})
    return Change(key, words, job.model_copy(update={"rig": rig}))


def _paths(job: Job, change: dict[str, object], only: str | None = None) -> list[dict[str, object]]:
    result = []
    for p in job.rig.paths:
        d = p.model_dump()
        if only is None or p.port == only:
            d.update(change)
        result.append(d)
    return result


def changes(job: Job) -> list[Change]:
    """All single changes that apply to this rig, each a valid job of its own."""
    rig = job.rig
    found: list[Change] = []
    for path in rig.paths:
        if path.core == "in":
            words = f"pull the core at the {path.port} port" + ("" if path.tool else " with a core tool")
            found.append(
                _with_rig(
                    job, f"pull-core-{path.port}", words, paths=_paths(job, {"tool": True, "core": "out"}, path.port)
                )
            )
        if path.hose.depressor:
            hose = path.hose.model_copy(update={"depressor": False})
            words = f"take the depressor out of the {path.port} hose"
            found.append(
                _with_rig(
                    job, f"depressor-{path.port}", words, paths=_paths(job, {"hose": hose.model_dump()}, path.port)
                )
            )
    if sum(p.core == "in" for p in rig.paths) > 1:
        found.append(
            _with_rig(
                job, "pull-cores", "pull both cores with core tools", paths=_paths(job, {"tool": True, "core": "out"})
            )
        )
    if rig.manifold != "none":
        gauge = rig.gauge.model_dump()
        if rig.gauge.place == "manifold":
            gauge["place"] = f"port:{rig.paths[0].port}"
        found.append(_with_rig(job, "no-manifold", "leave the manifold out", manifold="none", gauge=gauge))
    found.extend(_larger_hoses(job))
    found.extend(_second_hose(job))
    larger = [c for c in PUMPS_CFM if c > rig.pump.plate_cfm]
    if larger:
        pump = {**rig.pump.model_dump(), "plate_cfm": larger[0], "blank_off_micron": None, "oil": "fresh"}
        found.append(_with_rig(job, "larger-pump", f"a {larger[0]:g} CFM pump", pump=pump))
    if rig.pump.oil != "fresh":
        pump = {**rig.pump.model_dump(), "oil": "fresh", "blank_off_micron": None}
        found.append(_with_rig(job, "change-oil", "change the pump oil", pump=pump))
    return found


def _larger_hoses(job: Job) -> list[Change]:
    rig = job.rig
    sizes = [HOSE_SIZES.index(p.hose.size) for p in rig.paths]
    if rig.manifold != "none":
        sizes.append(HOSE_SIZES.index(rig.pump_hose.size))
    found = []
    for index in sorted({min(i + 1, len(HOSE_SIZES) - 1) for i in sizes} | {2}):
        if index <= min(sizes):
            continue
        size = HOSE_SIZES[index]

        def larger(h: Hose, index: int = index, size: str = size) -> dict[str, object]:
            d = h.model_dump()
            if HOSE_SIZES.index(h.size) < index:
                d["size"] = size
            return d

        paths = [{**p.model_dump(), "hose": larger(p.hose)} for p in rig.paths]
        words = f"{size} hose" + ("s" if len(paths) > 1 or rig.manifold != "none" else "")
        found.append(_with_rig(job, f"hoses-{size}", words, paths=paths, pump_hose=larger(rig.pump_hose)))
    longest = max(p.hose.length_m for p in rig.paths)
    if longest > 1.0:
        paths = [
            {**p.model_dump(), "hose": {**p.hose.model_dump(), "length_m": min(p.hose.length_m, 0.9)}}
            for p in rig.paths
        ]
        found.append(_with_rig(job, "shorter", "hoses of 0.9 m", paths=paths))
    return found


def _second_hose(job: Job) -> list[Change]:
    rig = job.rig
    if len(rig.paths) == 2:
        return []
    ports = build_system(job.scope).ports
    missing = [side for side in ("suction", "liquid") if side in ports and side != rig.paths[0].port]
    if not missing:
        return []
    first = rig.paths[0]
    second = Path(port=missing[0], hose=first.hose, tool=True, core="out")
    words = f"a second hose to the {missing[0]} port"
    return [_with_rig(job, "second-hose", words, paths=[first.model_dump(), second.model_dump()])]
