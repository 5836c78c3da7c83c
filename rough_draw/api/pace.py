"""At what pace a simulated device may run."""

from __future__ import annotations

from collections.abc import Sequence

from rough_draw.api.errors import refusal
from rough_draw.core.message import one_of
from rough_draw.core.message.figure import number


def must_be_offered(speed: int, offered: Sequence[int]) -> None:
    """Refuse a pace that is not offered (422), and say which are."""
    if speed not in offered:
        raise refusal(422, "pace-unknown", pace=number(speed), offered=one_of([str(x) for x in offered]))
