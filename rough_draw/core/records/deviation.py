"""What a job lacks of what its standard and checks ask: each is mended, or has a reason that is sealed with it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.message import Message, Name, listed, message
from rough_draw.core.message.figure import duration, mass

CheckState = Literal["open", "stated", "doubtful", "failed", "skipped"]
SHORT_REASON = 3
"""Letters that a reason has at the least."""


@dataclass(frozen=True, kw_only=True)
class Facts:
    """A job as its record is made of it.

    ``checks``: those that did not pass, by key, with their state and title. ``held`` s have been read of ``needed``.
    ``standard_passed``: None where it could not say. ``off_kg``: how far the charge weighed in is from what was to be,
    where it is beyond the margin. ``steps_left`` of the release, ``cautions_left`` that nobody ticked;
    ``against_stops``: steps made that should not have been.
    """

    checks: Mapping[str, tuple[CheckState, Name]]
    drawn: bool
    read: bool
    isolated: bool
    held: float
    needed: float
    verdict: str | None
    headline: Name
    standard: Name
    standard_passed: bool | None
    standard_reason: Name
    simulated: bool
    off_kg: float | None
    steps_left: tuple[Name, ...]
    cautions_left: tuple[Name, ...]
    against_stops: tuple[Name, ...] = ()


@dataclass(frozen=True)
class Deviation:
    """One thing that was not done, not shown, or came out otherwise: a stable key, and what it is in words."""

    key: str
    words: Message


SOUND = ("tight-and-dry",)
"""Verdicts that are no deviation."""


def deviations(f: Facts) -> tuple[Deviation, ...]:
    """Every deviation of a job, in the order of its stages."""
    found = [
        Deviation(f"check:{key}", message(f"deviation-check-{state}", check=title))
        for key, (state, title) in f.checks.items()
    ]
    if not f.drawn:
        found.append(Deviation("no-draw", message("deviation-no-draw")))
    if not f.read:
        found.append(Deviation("no-readings", message("deviation-no-readings")))
    found += _of_the_hold(f)
    if f.against_stops:
        words = message("deviation-against", count=len(f.against_stops), steps=listed(f.against_stops[:4]))
        found.append(Deviation("against-stops", words))
    if f.simulated:
        found.append(Deviation("simulated", message("deviation-simulated")))
    if f.off_kg is not None:
        more = "more" if f.off_kg > 0 else "less"
        found.append(Deviation("charge", message("deviation-charge", off=mass(abs(f.off_kg)), more=more)))
    if f.steps_left:
        count = len(f.steps_left)
        found.append(Deviation("steps", message("deviation-steps", count=count, steps=listed(f.steps_left[:3]))))
    if f.cautions_left:
        found.append(Deviation("cautions", message("deviation-cautions", count=len(f.cautions_left))))
    return tuple(found)


def _of_the_hold(f: Facts) -> list[Deviation]:
    if not f.isolated:
        return [Deviation("no-hold", message("deviation-no-hold"))]
    found = []
    if f.held < f.needed:
        short = {"held": duration(f.held), "needed": duration(f.needed), "standard": f.standard}
        found.append(Deviation("short-hold", message("deviation-short-hold", **short)))
    if f.verdict is None:
        found.append(Deviation("no-verdict", message("deviation-no-verdict")))
    elif f.verdict not in SOUND:
        found.append(Deviation(f"verdict:{f.verdict}", message("deviation-verdict", headline=f.headline)))
    if f.standard_passed is not True:
        told = "deviation-standard-fails" if f.standard_passed is False else "deviation-standard-open"
        values = {"standard": f.standard, "reason": f.standard_reason}
        found.append(Deviation("standard", message(told, **values)))
    return found


def without_reason(found: tuple[Deviation, ...], reasons: Mapping[str, str]) -> tuple[Deviation, ...]:
    """Deviations that nobody has given a reason for."""
    return tuple(d for d in found if len(reasons.get(d.key, "").strip()) < SHORT_REASON)
