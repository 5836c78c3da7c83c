"""What a server does beside answering before all of it can be used: the engine compiled, the demo made."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable, Sequence
from contextlib import nullcontext
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel, Field

from rough_draw.core.engine.readiness import building

log = logging.getLogger(__name__)
What = Literal["engine", "demo"]


@dataclass(frozen=True)
class Preparation:
    """A piece of work. ``usual`` s is what it takes on a plain machine (estimate); while the engine is made nobody uses
    it."""

    what: What
    work: Callable[[], None]
    usual: float


class PreparingOut(BaseModel):
    """What is being prepared, for how long, and how long it usually takes."""

    what: What
    seconds: float
    usual_s: float = Field(description="an estimate")


class HealthOut(BaseModel):
    """That the server answers, and what it still prepares."""

    status: Literal["ok"]
    version: str
    preparing: PreparingOut | None


class Preparing:
    """Works through what is to be prepared, and says how far it is."""

    def __init__(self, before: Sequence[Preparation] = ()) -> None:
        self._before = tuple(before)
        self._now: Preparation | None = self._before[0] if self._before else None
        self._since = time.monotonic()

    def said(self) -> PreparingOut | None:
        """What is being prepared; None where all is ready."""
        now = self._now
        if now is None:
            return None
        return PreparingOut(what=now.what, seconds=time.monotonic() - self._since, usual_s=now.usual)

    def run(self) -> None:
        """Do it all, one after the other. What fails is logged, and the rest goes on."""
        for each in self._before:
            self._now, self._since = each, time.monotonic()
            try:
                with building() if each.what == "engine" else nullcontext():
                    each.work()
            except Exception:
                log.exception("%s could not be prepared", each.what)
        self._now = None
