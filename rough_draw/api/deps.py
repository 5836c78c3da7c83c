"""What routes need: the hub and small conversions."""

from __future__ import annotations

import math
from typing import Annotated, Any

import numpy as np
from fastapi import Depends, Path, Request
from numpy.typing import NDArray

from rough_draw.api.devices.hub import Hub
from rough_draw.api.schemas import JobOut, RangeOut
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.quantity import Quantity
from rough_draw.store import jobs


def get_hub(request: Request) -> Hub:
    """The stand-ins' hub."""
    hub: Hub = request.app.state.hub
    return hub


HubDep = Annotated[Hub, Depends(get_hub)]
Key = Annotated[str, Path(pattern=r"^[a-z0-9-]{1,40}$")]


def job_out(stored: jobs.StoredJob) -> JobOut:
    """A stored job as the API says it."""
    return JobOut(
        key=stored.key,
        version=stored.version,
        job=stored.job,
        can_undo=stored.can_undo,
        updated_at=stored.updated_at,
    )


def range_out(r: Range | Quantity) -> RangeOut:
    """A range as the API says it."""
    return RangeOut(low=float(r.low), value=float(r.value), high=float(r.high))


def floats(values: NDArray[np.float64] | Any, digits: int = 6) -> list[float]:
    """An array as plain numbers of ``digits`` significant digits: bodies stay small."""
    return [float(f"{v:.{digits}g}") for v in values]


def maybe(values: NDArray[np.float64]) -> list[float | None]:
    """An array with NaN as null."""
    return [None if math.isnan(v) else float(f"{v:.7g}") for v in values]
