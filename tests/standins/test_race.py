"""Two rigs on one system: the same truth for both, and what differs is the rig's."""

from __future__ import annotations

import math

import pytest
from pydantic import ValidationError

from rough_draw.core.practice.rig_choice import RigChoice, RigFault, slots
from rough_draw.core.practice.scenario import Fault, Hidden, possible
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice.race import LONGEST, STALLED, race
from tests.depth import first, whole


def sheet(template: str = "cooler") -> Job:
    return Job(scope=Scope.model_validate({"template": template, "condition": "new-dry"}))


def choice(job: Job, pattern: str, last: bool = False) -> RigChoice:
    """A setup with the first parts of the van that fit its places, or with the last."""
    van = list(reversed(VAN)) if last else list(VAN)
    parts: dict[str, int] = {}
    for slot, kind, _ in slots(job, pattern):
        parts[slot] = next(k.id for k in van if k.kind == kind and k.id not in parts.values())
    return RigChoice(pattern=pattern, parts=parts)


def test_a_rig_against_itself_is_a_dead_heat() -> None:
    job = sheet()
    one = choice(job, "two-hoses")
    a, b = race(job, Hidden(seed=3, faults=(Fault(key="water"),)), [one, one], VAN)
    assert a.track.at == b.track.at
    assert [x for x in a.track.highest if not math.isnan(x)] == [x for x in b.track.highest if not math.isnan(x)]
    assert (a.down_at, a.gauge_at, a.said, a.right) == (b.down_at, b.gauge_at, b.said, b.right)


@whole
def test_wide_hoses_win_over_thin_ones_on_whatever_is_drawn() -> None:
    job = sheet()
    for hidden in (Hidden(), Hidden(faults=(Fault(key="refrigerant"),))):
        wide, thin = race(job, hidden, [choice(job, "two-hoses"), choice(job, "quarter-hoses", last=True)], VAN)
        assert wide.down_at is not None
        assert thin.down_at is None or thin.down_at > 1.5 * wide.down_at


def test_a_sound_system_is_called_tight_and_a_leak_keeps_it_up() -> None:
    job = sheet()
    one = choice(job, "one-hose-valved-gauge")
    (sound,) = race(job, Hidden(seed=5), [one], VAN)
    assert (sound.said, sound.right) == ("tight", "tight")
    assert sound.held_from is not None
    assert sound.end > sound.held_from
    (leaks,) = race(job, Hidden(seed=5, faults=(Fault(key="system-leak", severity=2),)), [one], VAN)
    assert leaks.down_at is None
    assert leaks.said == ""
    assert leaks.end <= LONGEST + STALLED
    assert leaks.worst > sound.worst


def test_a_fault_of_a_part_that_only_one_rig_has_is_named_for_the_other() -> None:
    job = sheet()
    one, other = choice(job, "one-hose-bare-gauge"), choice(job, "two-hoses")
    told = [{c.key for c in possible(r.told)} for r in race(job, Hidden(), [one, other], VAN)]
    only = sorted(told[1] - told[0])
    assert only, "the two rigs have something that tells them apart"
    a, b = race(job, Hidden(faults=(Fault(key=only[0]),)), [one, other], VAN)
    assert (a.not_on, b.not_on) == ((only[0],), ())


@pytest.mark.parametrize("template", first(5, sorted(TEMPLATES)))
def test_every_system_and_setup_can_be_raced(template: str) -> None:
    job = sheet(template)
    known = [p for p in PATTERNS if fits(p, job.scope)]
    # The ends of the list of setups are the least alike.
    for pattern in {known[0], known[-1]}:
        (lap,) = race(job, Hidden(seed=9), [choice(job, pattern)], VAN)
        assert lap.end > 0
        assert lap.worst > 0
        assert (lap.held_from is None) == (lap.said == "")


def test_what_cannot_be_is_refused() -> None:
    job = sheet()
    with pytest.raises(ValidationError):
        race(job, Hidden(shut=("nowhere",)), [choice(job, "two-hoses")], VAN)
    twice = choice(job, "two-hoses").model_copy(update={"parts": {"pump": 1, "gauge": 1}})
    with pytest.raises(RigFault):
        race(job, Hidden(), [twice], VAN)
