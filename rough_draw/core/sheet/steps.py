"""Steps of a job, typed: on the run as a whole, on one part, on the bench, or the answer of a test.

They are stored, sent and written to files as short texts (``open:<valve>``, ``found:<test>=<outcome>``). Those texts
are read and made here and nowhere else; one that is not known is kept as it is, and changes nothing.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, get_args

RunMove = Literal[
    "pump-on",
    "pump-off",
    "ballast-open",
    "ballast-shut",
    "valve-flush",
    "check-hold",
    "check-end",
    "break",
    "break-end",
    "oil-change",
    "warm-up",
    "isolate",
    "reopen",
    "cylinder-open",
    "cylinder-throttle",
    "cylinder-shut",
    "cylinder-next",
    "compressor-on",
    "compressor-off",
    "scale-zero",
    "note",
    "vent-pump",
    "see-pressure",
    "start",
    "stop-unit",
    "read-floor",
    "read-target",
    "pump-care",
    "tag",
    "check-room",
    "gauges-on",
    "watch-suction",
    "see-still",
    "lock-off",
]
PartMove = Literal[
    "open",
    "shut",
    "crack",
    "take-off",
    "put-on",
    "core-out",
    "core-in",
    "cap",
    "stem-cap",
    "check-port",
    "purge",
    "zero-scale",
    "weigh-in",
    "trim",
    "empty-hose",
]
BenchMove = Literal["pump-on", "pump-off", "valve-shut", "valve-open"]

RUN_MOVES: tuple[RunMove, ...] = get_args(RunMove)
PART_MOVES: tuple[PartMove, ...] = get_args(PartMove)
BENCH_MOVES: tuple[BenchMove, ...] = get_args(BenchMove)


@dataclass(frozen=True)
class OnRun:
    """A step on the run as a whole."""

    move: RunMove


@dataclass(frozen=True)
class OnPart:
    """A step on one valve, part or port, by its id."""

    move: PartMove
    part: str

    @property
    def is_valve(self) -> bool:
        """Whether it is on a valve: one of the rig or the system, or a cylinder's."""
        return self.move in ("open", "shut", "crack", "stem-cap")

    @property
    def is_port(self) -> bool:
        """Whether it is on a port: its core, its cap, its check."""
        return self.move in ("core-out", "core-in", "cap", "check-port")

    @property
    def is_source(self) -> bool:
        """Whether it is on a cylinder."""
        return self.move in ("purge", "zero-scale", "weigh-in", "trim", "empty-hose")


@dataclass(frozen=True)
class Answered:
    """What a test of the diagnosis showed."""

    test: str
    outcome: str


@dataclass(frozen=True)
class LookedAnew:
    """Answers so far count no longer."""


@dataclass(frozen=True)
class TakenBack:
    """The last step of this text did not happen: a correction, which stays in the log."""

    text: str


@dataclass(frozen=True)
class OnBench:
    """A step of the rig proof: the pump, or its valve."""

    move: BenchMove


@dataclass(frozen=True)
class BenchStage:
    """A stage of the rig proof opened, by the part it is about."""

    stage: str


@dataclass(frozen=True)
class Other:
    """A text that is none of these: kept, and without effect."""

    text: str


StepKind = OnRun | OnPart | Answered | LookedAnew | TakenBack | OnBench | BenchStage | Other
BENCH = "bench:"
BACK = "undo:"


TURNS = (
    ("pump-on", "pump-off"),
    ("ballast-open", "ballast-shut"),
    ("break", "break-end"),
    ("isolate", "reopen"),
    ("check-hold", "check-end"),
)
"""Moves of a run that turn each other back."""
_OPPOSITE = {a: b for pair in TURNS for a, b in (pair, pair[::-1])}


def opposite(text: str) -> str | None:
    """The step that turns another one back; None where nothing does.

    >>> opposite("open:tool-a"), opposite("isolate"), opposite("valve-flush")
    ('shut:tool-a', 'reopen', None)
    """
    match read_step(text):
        case OnRun(move):
            return _OPPOSITE.get(move)
        case OnPart("open" | "shut" as way, part):
            return f"{'shut' if way == 'open' else 'open'}:{part}"
    return None


@lru_cache(maxsize=4096)
def read_step(text: str) -> StepKind:
    """A step from its text.

    >>> read_step("open:tool-a")
    OnPart(move='open', part='tool-a')
    >>> read_step("found:oil=yes")
    Answered(test='oil', outcome='yes')
    """
    if text in RUN_MOVES:
        return OnRun(text)
    if text.startswith(BENCH):
        return read_bench_step(text.removeprefix(BENCH)) or Other(text)
    if text.startswith(BACK):
        back = text.removeprefix(BACK)
        return TakenBack(back) if isinstance(read_step(back), OnRun | OnPart) else Other(text)
    way, _, rest = text.partition(":")
    if way in PART_MOVES and rest:
        return OnPart(way, rest)
    test, equals, outcome = rest.partition("=")
    if way == "found" and equals and test and outcome:
        return LookedAnew() if test == "anew" else Answered(test, outcome)
    return Other(text)


def read_bench_step(text: str) -> OnBench | BenchStage | None:
    """A step of the bench from its own text, without what tells it from the run's; None for any other."""
    if text in BENCH_MOVES:
        return OnBench(text)
    way, _, stage = text.partition(":")
    return BenchStage(stage) if way == "stage" and stage else None


def text_of(step: StepKind) -> str:
    """The text that a step is stored as; `read_step` gives the step again."""
    match step:
        case OnRun(move):
            return move
        case OnPart(move, part):
            return f"{move}:{part}"
        case Answered(test, outcome):
            return f"found:{test}={outcome}"
        case LookedAnew():
            return "found:anew=again"
        case TakenBack(back):
            return f"{BACK}{back}"
        case OnBench(bench):
            return f"{BENCH}{bench}"
        case BenchStage(stage):
            return f"{BENCH}stage:{stage}"
        case Other(text):
            return text
