"""Actions of a practice job, typed: steps of the run, looks, tests, mends, calls, another rig.

A session is kept as the texts of its actions (``test:oil``, ``verdict:leak``); they are read here and nowhere else.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, get_args

from rough_draw.core.sheet.steps import OnPart, OnRun, read_step

LookKind = Literal["power", "pressure", "oil"]
CheckKind = Literal["energise"]
SafeKind = Literal["power", "vent"]
NitrogenKind = Literal["test", "sweep"]
VerdictKind = Literal["tight", "leak", "moisture", "both", "refrigerant", "rig", "not-judged"]
EndKind = Literal["release", "repair", "later"]


@dataclass(frozen=True)
class Look:
    """A look before the pump runs."""

    what: LookKind


@dataclass(frozen=True)
class Check:
    """Power given to the compressor."""

    what: CheckKind


@dataclass(frozen=True)
class MakeSafe:
    """What a look has found made safe: every feed locked out, every port let down to the air."""

    what: SafeKind


@dataclass(frozen=True)
class Nitrogen:
    """Dry nitrogen: the system put under test pressure and watched, or swept from end to end."""

    how: NitrogenKind


@dataclass(frozen=True)
class DoTest:
    """A test of what may be the matter."""

    test: str


@dataclass(frozen=True)
class Mend:
    """Something mended."""

    mend: str


@dataclass(frozen=True)
class PutRigOn:
    """Another rig put on, by the name of its setup."""

    setup: str


@dataclass(frozen=True)
class CallVerdict:
    """What the hold says, as the learner reads it."""

    verdict: VerdictKind


@dataclass(frozen=True)
class NameCause:
    """What the matter is, as the learner has it: the key of a cause."""

    cause: str


@dataclass(frozen=True)
class SetFault:
    """Something put wrong, as bad as a normal deviate says, or right again (None): in a sandbox alone."""

    cause: str
    severity: float | None


@dataclass(frozen=True)
class AskHint:
    """A hint asked for, 1 to 3."""

    step: int


@dataclass(frozen=True)
class End:
    """How the job is ended."""

    end: EndKind


Action = (
    OnRun
    | OnPart
    | Look
    | Check
    | MakeSafe
    | Nitrogen
    | DoTest
    | Mend
    | PutRigOn
    | CallVerdict
    | NameCause
    | SetFault
    | AskHint
    | End
)
NAMED: dict[str, Callable[[str], Action]] = {
    "test": DoTest,
    "mend": Mend,
    "rig": PutRigOn,
    "cause": NameCause,
}
"""Actions on a thing of the job's own, by how their text begins."""
CHECKS: tuple[CheckKind, ...] = get_args(CheckKind)
MADE_SAFE: tuple[SafeKind, ...] = get_args(SafeKind)
BY_NITROGEN: tuple[NitrogenKind, ...] = get_args(NitrogenKind)
LOOKED: tuple[LookKind, ...] = get_args(LookKind)
CALLED: tuple[VerdictKind, ...] = get_args(VerdictKind)
ENDED: tuple[EndKind, ...] = get_args(EndKind)


WORST = 3.0
"""How bad something can be, as a normal deviate either way."""


@lru_cache(maxsize=4096)
def read_action(text: str) -> Action | None:
    """An action from its text; None for one that is not known.

    >>> read_action("verdict:leak")
    CallVerdict(verdict='leak')
    >>> read_action("isolate")
    OnRun(move='isolate')
    """
    if text in CHECKS:
        return Check(text)
    step = read_step(text)
    if isinstance(step, OnRun | OnPart):
        return step
    way, _, thing = text.partition(":")
    if not thing:
        return None
    if way == "look":
        return Look(thing) if thing in LOOKED else None
    if way == "safe":
        return MakeSafe(thing) if thing in MADE_SAFE else None
    if way == "nitrogen":
        return Nitrogen(thing) if thing in BY_NITROGEN else None
    if way == "verdict":
        return CallVerdict(thing) if thing in CALLED else None
    if way == "end":
        return End(thing) if thing in ENDED else None
    if way == "hint":
        return AskHint(int(thing)) if thing in "123" and len(thing) == 1 else None
    if way == "wrong":
        return _set_fault(thing)
    return NAMED[way](thing) if way in NAMED else None


def _set_fault(thing: str) -> SetFault | None:
    cause, _, how = thing.rpartition("=")
    if how == "off":
        return SetFault(cause, None) if cause else None
    try:
        severity = float(how)
    except ValueError:
        return None
    return SetFault(cause, severity) if cause and -WORST <= severity <= WORST else None
