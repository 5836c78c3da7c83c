"""How a part of the kit stands, by what is on file of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from rough_draw.core.message import Name, message
from rough_draw.core.proving import pump_oil
from rough_draw.core.sheet.evidence import Prove
from rough_draw.core.sheet.kit_history import KitEvent, latest
from rough_draw.core.sheet.oil_rule import OilRule

RANK = ("bad", "doubtful", "due", "usable", "good")


CALIBRATED_FOR = 365.0
"""Days for which a calibration stands, where the maker says nothing else (estimate)."""


def health(
    kind: str, values: Mapping[str, Any], events: list[KitEvent], rule: OilRule, now: float | None = None
) -> tuple[str, Name]:
    """State (good, usable, due, doubtful, bad, retired, or nothing where nothing is on file) and why, in a sentence.

    ``now`` epoch s, for what runs out with time.
    """
    gone = latest(events, "retired")
    if gone is not None:
        return "retired", gone.words or message("kit-retired")
    found: list[tuple[str, Name]] = []
    calibrated = latest(events, "calibration")
    if calibrated is not None and now is not None:
        days = (now - calibrated.at) / 86_400.0
        if days > CALIBRATED_FOR:
            found.append(("due", message("kit-calibration-due", days=round(days))))
    for of in ("blank-off", "rig-proof", "gauge-check"):
        last = latest(events, of)
        if last is not None and last.verdict in RANK:
            found.append((last.verdict, last.words))
    if kind == "pump":
        due = pump_oil.judge(Prove(oil="fresh", oil_level="right"), rule, events)
        if due.verdict == "due" and not rule.each_use:
            found.append(("due", due.words))
        elif values.get("oil") in ("used", "wet"):
            found.append(("due", message("kit-oil-due")))
    if not found:
        return "", ""
    return min(found, key=lambda f: RANK.index(f[0]))
