"""A run looked at once: its clock, what its gauge last said, where that stands against the plan."""

from __future__ import annotations

import time
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from rough_draw.api import runs
from rough_draw.api.devices.hub import Hub
from rough_draw.api.hold import holds
from rough_draw.core.planning.plan import Plan
from rough_draw.core.planning.progress import Standing, standing
from rough_draw.core.readings.steady import known_since, level_of
from rough_draw.store import jobs

FloatArray = NDArray[np.float64]

RECENT_S = 900.0
"""Readings older than this say nothing of how fast it falls now."""


@dataclass(frozen=True, kw_only=True)
class Now:
    """A run looked at once: its clock, what its gauge last said, and where that stands against the plan.

    ``pa`` Pa is what it shows, None over range; ``level`` what is decided by, without single bad readings.
    """

    key: str
    run: runs.RunView
    now: float
    main: jobs.Readings | None
    pa: float | None
    level: float | None
    over: bool
    reading_at: float | None
    started: float | None
    begun: float | None
    plan: Plan
    stand: Standing
    elapsed: float

    @property
    def planned_at(self) -> float:
        """Where on the plan's clock the draw is, s: by what the gauge shows, else by the clock."""
        return self.stand.plan_time if self.stand.plan_time is not None else self.elapsed

    def recent(self) -> tuple[FloatArray, FloatArray]:
        """Times (epoch s) and pressures (Pa) of the figures that say how fast it falls now, both (n,)."""
        return _recent(self.main, self.now)

    @property
    def phase(self) -> Literal["before", "draw", "hold"]:
        """What goes on."""
        if self.begun is not None:
            return "hold"
        return "draw" if self.started is not None else "before"


def _recent(main: jobs.Readings | None, now: float) -> tuple[FloatArray, FloatArray]:
    if main is None:
        return np.array([]), np.array([])
    return known_since(main.at, main.pa, now - RECENT_S)


def look(key: str, run: runs.RunView, hub: Hub) -> Now:
    clock = hub.clock(key)
    now = clock if clock is not None else time.time()
    main = run.main()
    started, pa, level, over, reading_at = run.state.started_at, None, None, False, None
    if main is not None and main.at.size:
        last, reading_at = float(main.pa[-1]), float(main.at[-1])
        over = bool(np.isnan(last))
        pa = None if over else last
        level = level_of(main.at, main.pa)
        started = started if started is not None else float(main.at[0])
    elapsed = max(0.0, now - started) if started is not None else 0.0
    plan = runs.plan_for(run.job)
    return Now(
        key=key,
        run=run,
        now=now,
        main=main,
        pa=pa,
        level=level,
        over=over,
        reading_at=reading_at,
        started=started,
        begun=holds.hold_start(run),
        plan=plan,
        stand=standing(plan, elapsed, *_recent(main, now)),
        elapsed=elapsed,
    )


def sections_of(n: Now) -> dict[str, float]:
    """What the plan has in each section when its gauge shows what this one does, Pa."""
    if n.phase != "draw" or n.stand.plan_time is None:
        return {}
    nominal, at = n.plan.nominal, [n.stand.plan_time]
    scale = n.level / max(float(nominal.at(n.plan.assembly.gauge_node, at)[0]), 1e-3) if n.level else 1.0
    found = {}
    for node in nominal.network.nodes:
        value = float(nominal.at(node.name, at)[0]) * scale
        found[node.name.removeprefix("system.")] = float(f"{value:.4g}")
    return found
