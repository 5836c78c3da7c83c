"""A hold without a job sheet: how much volume, from what little is known of the system."""

from __future__ import annotations

from typing import Any

from rough_draw.core.message import Message, figure, message
from rough_draw.core.model.system import build_system
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.templates import TEMPLATES

TYPED = 1.15
"""Factor each way by which a volume that was typed in may be off."""
GUESSED = 1.5
"""The same for one that follows from the kind of system, its capacity and its lines."""


def volume_of(litres: float | None, template: str, kw: float | None, length: float | None) -> tuple[Quantity, Message]:
    """Volume, m³, with its range, and how it was come by.

    ``litres`` as typed; or a kind of system with the capacity of its coils, kW, and the length of its lines, m.
    What keeps its charge is not counted: it is shut off. KeyError for a kind that is not known.

    Parameters
    ----------
    litres : float or None
        Measured.
    template : str
        Kind of system, where it is not.
    kw : float or None
        Capacity.
    length : float or None
        m of line.

    Returns
    -------
    tuple of (Quantity, Message)
        m³, and where it comes from.

    Examples
    --------
    >>> round(volume_of(8.0, "cooler", None, None)[0].value, 6)
    0.008
    """
    if litres is not None:
        v = litres * 1e-3
        return Quantity(v, v / TYPED, v * TYPED, "m³", "typed in"), message("volume-typed", volume=figure.volume(v))
    values: dict[str, Any] = TEMPLATES[template].build()
    for s in values["sections"]:
        if kw is not None and "capacity_kw" in s:
            s["capacity_kw"] = kw
        if length is not None and s["kind"] == "line":
            s["length_m"] = length
    scope = Scope.model_validate({**TEMPLATES[template].scope, "template": template, **values})
    whole = build_system(scope).volume()
    low, high = min(whole.low, whole.value / GUESSED), max(whole.high, whole.value * GUESSED)
    found = Quantity(whole.value, low, high, "m³", "estimate: by kind, capacity and lines")
    words = message(
        "volume-estimated",
        volume=figure.volume(whole.value),
        low=figure.volume(low),
        high=figure.volume(high),
        system=TEMPLATES[template].name,
    )
    return found, words
