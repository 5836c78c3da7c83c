"""Alarms: what makes each ring, and what does not."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from pydantic import ValidationError

from rough_draw.core.diagnosis.alarm_rules import Facts, ringing
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import rise, vacuum
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.schedule import DayTouch, underway
from rough_draw.core.sheet.alarms import USUAL, Alarm

M = MICRON_PA


def facts(pa: list[float], step: float = 5.0, **more: object) -> Facts:
    at = 1000.0 + step * np.arange(len(pa))
    given = {"now": float(at[-1]), "started_at": 1000.0, "held": False, "due": None, "stale": False, **more}
    return Facts(at=at, pa=np.array(pa) * M, **given)  # type: ignore[arg-type]


def rings(alarm: Alarm, f: Facts) -> list[Message]:
    return [r.words for r in ringing((alarm,), f)]


def test_under_rings_at_the_level_and_not_over_range() -> None:
    under = Alarm(kind="under", micron=500)
    rung = [message("alarm-under", level=vacuum(500 * M), last=vacuum(500 * M))]
    assert rings(under, facts([900, 700, 510])) == []
    # Read far apart, as by hand, each counts; read each second, the second one that says so.
    assert rings(under, facts([900, 700, 500], step=60.0)) == rung
    assert rings(under, facts([900, 700, 500], step=1.0)) == []
    assert rings(under, facts([900, 700, 500, 480], step=1.0)) == rung
    assert rings(under, facts([900, 400, float("nan")])) == []


@pytest.mark.parametrize("step", [1.0, 60.0])
def test_over_rings_only_for_what_has_been_under(step: float) -> None:
    over = Alarm(kind="over", micron=1000)
    rung = [message("alarm-over", level=vacuum(1000 * M), last=vacuum(1200 * M))]
    assert rings(over, facts([9000, 5000, 1200, 1200], step)) == []
    assert rings(over, facts([900, 800, 1200, 1200], step)) == rung
    assert rings(over, facts([900, 800, float("nan"), float("nan")], step))[0].key == "alarm-over-range"


@pytest.mark.parametrize("bad", [0.05, 8.0, float("nan")])
def test_a_single_bad_reading_calls_nobody(bad: float) -> None:
    fall = np.geomspace(20_000, 200, 900)
    for at in range(3, 890, 7):
        read = fall.copy()
        read[at] *= bad
        for alarm in (Alarm(kind="over", micron=500), Alarm(kind="under", micron=500)):
            was = rings(alarm, facts(list(fall[: at + 1]), 1.0))
            # In the seconds about the crossing itself it may come a reading sooner or later.
            if not 480 < fall[at] < 520:
                assert [m.key for m in rings(alarm, facts(list(read[: at + 1]), 1.0))] == [m.key for m in was]


@pytest.mark.parametrize("per_second", [0.0005, 0.002, 0.02])
@pytest.mark.parametrize("seed", range(6))
def test_a_draw_that_falls_through_a_level_is_not_told_to_be_back_above_it(seed: int, per_second: float) -> None:
    seconds = int(0.7 / per_second)
    true = 700.0 * np.exp(-per_second * np.arange(seconds))
    read = true * (1.0 + 0.006 * np.random.default_rng(seed).normal(size=seconds))
    told = [bool(rings(Alarm(kind="over", micron=500), facts(list(read[:n]), 1.0))) for n in range(1, seconds, 5)]
    assert not any(told)


@pytest.mark.parametrize("seed", range(6))
def test_an_alarm_at_a_level_begins_once_and_ends_once(seed: int) -> None:
    """Held: it rises from just under the level over it, and is drawn down again."""
    rng = np.random.default_rng(seed)
    true = np.concatenate([np.full(90, 494.0), np.linspace(494, 560, 200), np.linspace(560, 440, 200)])
    read = true * (1.0 + 0.004 * rng.normal(size=true.size))
    told = [bool(rings(Alarm(kind="over", micron=500), facts(list(read[:n]), 1.0))) for n in range(1, true.size)]
    assert sum(a != b for a, b in pairwise(told)) == 2
    # Not before it gets there, and well before it is ten parts in a hundred over.
    assert true[told.index(True)] > 493
    assert true[told.index(True)] < 520


def test_slower_rings_when_the_fall_dies_out_but_not_at_first_nor_in_the_hold() -> None:
    slow = Alarm(kind="slower", rate=0.5)
    flat = [600.0 - 0.1 * n for n in range(80)]
    fast = [900.0 - 10.0 * n for n in range(80)]
    assert rings(slow, facts(flat)) == [message("alarm-slower", rate=rise(0.5 * M))]
    assert rings(slow, facts(fast)) == []
    assert rings(slow, facts(flat[:20])) == []
    assert rings(slow, facts(flat, held=True)) == []


def test_after_due_and_stale() -> None:
    assert rings(Alarm(kind="after", minutes=10), facts([500], now=1500.0)) == []
    assert len(rings(Alarm(kind="after", minutes=10), facts([500], now=1601.0))) == 1
    assert rings(Alarm(kind="due"), facts([500], due=("isolate", message("day-isolate")))) == [
        message("alarm-due", step=message("day-isolate"))
    ]
    assert rings(Alarm(kind="stale"), facts([500], stale=True)) == [message("alarm-stale")]


def test_nothing_rings_before_the_pump_has_run() -> None:
    quiet = facts([100], started_at=None, stale=True, due=("pump-on", message("day-start-pump")))
    assert ringing((*USUAL, Alarm(kind="under", micron=500)), quiet) == []


def test_a_touch_that_comes_due_is_an_alarm_of_its_own() -> None:
    first = ringing(USUAL, facts([500], due=("ballast-shut", message("day-ballast-shut"))))
    then = ringing(USUAL, facts([500], due=("isolate", message("day-isolate"))))
    assert first[0].key != then[0].key


@pytest.mark.parametrize("kind", ["under", "over", "slower", "after"])
def test_an_alarm_without_its_figure_is_refused(kind: str) -> None:
    with pytest.raises(ValidationError, match="wrong-alarm-figure"):
        Alarm.model_validate({"kind": kind})


def test_a_draw_that_runs_moves_its_day_along() -> None:
    def at(value: float) -> Range:
        return Range(0.8 * value, value, 1.3 * value)

    planned = (
        DayTouch("pump-on", message("day-pump-on"), at(0), 120),
        DayTouch("ballast-shut", message("day-ballast-shut"), at(300), 60),
        DayTouch("valve-flush", message("day-valve-flush"), at(900), 120),
        DayTouch("isolate", message("day-isolate"), at(1000), 180),
        DayTouch("read-hold", message("day-read-hold"), at(1600), 900),
    )
    left = underway(planned, frozenset({"ballast-shut"}), 500.0, Range(1800, 2000, 2400))
    assert [t.kind for t in left] == ["valve-flush", "isolate", "read-hold"]
    by_kind = {t.kind: t.at for t in left}
    assert by_kind["isolate"] == Range(1800, 2000, 2400)
    assert by_kind["valve-flush"].value == pytest.approx(1800)
    assert by_kind["read-hold"].value == pytest.approx(2600)
    # Without readings the plan stands, but nothing lies in the past.
    late = underway(planned, frozenset(), 950.0, None)
    assert all(t.at.low >= 950 for t in late)
    assert [t.at.value for t in late] == [950, 950, 1000, 1600]
