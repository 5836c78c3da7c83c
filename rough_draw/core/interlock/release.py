"""Breaking the vacuum: the order of touches for this rig and the chosen way."""

from __future__ import annotations

from rough_draw.core.interlock.orders import Step, order
from rough_draw.core.sheet.job import Job


def release_steps(job: Job) -> list[Step]:
    """Steps in their order. Positive pressure comes before any core goes back or any part comes off a port."""
    return order(job, "release-cylinder" if job.release.way == "cylinder" else "release-unit")
