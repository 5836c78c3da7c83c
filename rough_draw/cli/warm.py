"""Compile the engine, and throw compiled code away that is older than its sources.

The compiler's cache looks at the file of each compiled function only; the scalar relations it calls stand in
other files, so a change there would go unnoticed. The sources' digest stands beside what was compiled from them.
"""

from __future__ import annotations

import hashlib
import sys
from pathlib import Path

CORE = Path(__file__).parents[1] / "core"
SOURCES = (
    "physics/gas.py",
    "physics/water.py",
    "physics/aperture.py",
    "physics/conductance.py",
    "physics/regime.py",
    "physics/slot.py",
    "physics/sorption.py",
    "engine/kernels.py",
    "engine/sparse.py",
    "engine/rates.py",
    "engine/stepper.py",
    "hold/kernels.py",
)
"""Everything that is compiled, and all that it calls."""
MARK = "compiled-from"


def _digest(core: Path) -> str:
    told = hashlib.sha256()
    for name in SOURCES:
        told.update((core / name).read_bytes())
    return told.hexdigest()


def _mark(core: Path) -> Path:
    return core / "engine" / "__pycache__" / MARK


def drop_stale(core: Path = CORE) -> int:
    """Remove compiled code that was made from other sources than these; returns how many files went."""
    mark, now = _mark(core), _digest(core)
    if mark.exists() and mark.read_text() == now:
        return 0
    compiled = [f for ending in ("nbi", "nbc") for f in core.glob(f"*/__pycache__/*.{ending}")]
    for f in compiled:
        f.unlink(missing_ok=True)
    mark.parent.mkdir(exist_ok=True)
    mark.write_text(now)
    return len(compiled)


def is_made() -> bool:
    """Whether the engine stands compiled from these very sources. Compiled code that is older is thrown away."""
    drop_stale()
    return any(CORE.glob("engine/__pycache__/*.nbc")) and any(CORE.glob("hold/__pycache__/*.nbc"))


def warm() -> None:
    """Compile what the application uses; at once where that has been done."""
    if is_made():
        return
    print("Compiling the engine (about a minute, once)", file=sys.stderr)
    import numpy as np

    from rough_draw.core.hold.verdict import judge_hold
    from rough_draw.core.physics.quantity import exact
    from rough_draw.core.planning.plan import plan_job
    from rough_draw.core.sheet.job import Job
    from rough_draw.core.sheet.scope import Scope

    plan_job(Job(scope=Scope(condition="flooded")), size=2)
    times = np.linspace(0.0, 600.0, 61)
    judge_hold(times, 30.0 + 0.01 * times, exact(8e-3, "m³", "made up"), 293.15)


if __name__ == "__main__":
    warm()
