"""What an order can be asked for. Apart from the goals themselves, so that a script's choices cost no engine."""

from __future__ import annotations

from typing import Literal, get_args

GoalKey = Literal[
    "rig-up",
    "cores-out",
    "pump-down",
    "sweep",
    "purge",
    "rig-alone",
    "draw",
    "valve-flush",
    "check-hold",
    "hold",
    "retest",
    "swap-hose",
    "oil-change",
    "nitrogen-break",
    "release-unit",
    "release-cylinder",
    "end-cylinder",
]
GOAL_KEYS: tuple[GoalKey, ...] = get_args(GoalKey)
