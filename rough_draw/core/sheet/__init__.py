"""The job document: what a technician brings, as checked values that are never changed in place."""

from rough_draw.core.sheet.criteria import Criterion
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.run_state import RunState, Touch, fold
from rough_draw.core.sheet.scope import Scope

__all__ = [
    "Criterion",
    "Job",
    "KitItem",
    "Rig",
    "RunState",
    "Scope",
    "Touch",
    "fold",
]
