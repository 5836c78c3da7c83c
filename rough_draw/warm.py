"""Compile the engine, and throw compiled code away that is older than its sources.

The compiler's cache looks at the file of each compiled function only; the scalar relations it calls stand in
other files, so a change there would go unnoticed.
"""

from __future__ import annotations

from pathlib import Path

CORE = Path(__file__).parent / "core"


def drop_stale(core: Path = CORE) -> int:
    """Remove compiled code older than the newest source of the core; returns how many files went."""
    compiled = [*core.glob("__pycache__/*.nbi"), *core.glob("__pycache__/*.nbc")]
    sources = ("gas.py", "water.py", "conductance.py", "kernels.py", "sparse.py", "stepper.py")
    newest = max((core / s).stat().st_mtime for s in sources)
    stale = [f for f in compiled if f.stat().st_mtime < newest]
    if stale:
        for f in compiled:
            f.unlink(missing_ok=True)
    return len(stale)


def warm() -> None:
    """Compile what the application uses."""
    drop_stale()
    from rough_draw.core.job import Job
    from rough_draw.core.plan import plan_job
    from rough_draw.core.scope import Scope

    plan_job(Job(scope=Scope(condition="flooded")), size=2)
