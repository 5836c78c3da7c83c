"""What is said of a hold: reasons, odds in words, schools beside it, what to do next, where to look, earlier holds."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from rough_draw.core.hold.advice import what_next
from rough_draw.core.hold.compare import Before, compared
from rough_draw.core.hold.context import circumstances, hose_inflow, likely_inside
from rough_draw.core.hold.decision import VERDICTS
from rough_draw.core.hold.leak_places import places
from rough_draw.core.hold.quick_volume import volume_of
from rough_draw.core.hold.result import SENTENCE, Circumstances, Verdict
from rough_draw.core.hold.verdict import judge_hold, no_verdict
from rough_draw.core.hold.wording import NAMES, account_words, disagreements, likely, mass, reasons
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import Isolation, isolation
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch, fold
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.demo.proof import proved
from rough_draw.demo.sheets import bait_store, casing_room, larkspur
from tests.core.test_hold import T_COLD, VOLUME, hold

M = MICRON_PA
GRAMS = Range(10.0, 45.0, 90.0)


def judged(**made: Any) -> Verdict:
    return judge_hold(*hold(**made), VOLUME, T_COLD, find_sound=False)


def held_of(job: Job) -> Isolation:
    return isolation(job, assemble(job))


def test_every_verdict_has_its_sentence_and_an_order() -> None:
    assert set(SENTENCE) == set(VERDICTS)
    main = criteria.SCHOOLS["code-minimum"]
    for name in VERDICTS:
        v = no_verdict(name, (), 600.0, "it was opened")
        advice = what_next(v, main)
        assert advice.order
        assert advice.why.endswith((".", "!"))


@pytest.mark.parametrize(
    ("p", "words"),
    [
        (1.0, "almost certain"),
        (0.99, "almost certain"),
        (0.989, "very likely"),
        (0.9, "very likely"),
        (0.899, "likely"),
        (0.7, "likely"),
        (0.699, "possible"),
        (0.3, "possible"),
        (0.299, "unlikely"),
        (0.1, "unlikely"),
        (0.099, "very unlikely"),
        (0.0, "very unlikely"),
    ],
)
def test_odds_in_words(p: float, words: str) -> None:
    assert likely(p) == words


def test_odds_in_words_never_grow_as_they_fall() -> None:
    order = [likely(p) for p in np.linspace(1, 0, 500)]
    assert list(dict.fromkeys(order)) == [
        "almost certain",
        "very likely",
        "likely",
        "possible",
        "unlikely",
        "very unlikely",
    ]


def test_reasons_name_level_and_rate() -> None:
    assert "levels off at" in reasons(judged())[0]
    assert "could not have hidden" in reasons(judged())[1]
    leak = judged(leak=1.0)
    assert "rises straight on at" in reasons(leak)[0]
    assert "µ/s" in reasons(leak)[0]
    sat = saturation_pressure(T_COLD) / M
    wet = judged(minutes=25, water=sat, tau_water=400)
    assert "where water boils at the coldest spot: free water" in reasons(wet)[0]
    cold = judge_hold(*hold(minutes=25, water=1949, tau_water=300), VOLUME, 263.15, find_sound=False)
    assert "over ice" in reasons(cold)[0]
    short = judged(minutes=2.5)
    assert "let it stand" in reasons(short)[0]


def test_every_account_is_named_with_its_figures() -> None:
    v = judge_hold(
        *hold(leak=0.4),
        VOLUME,
        T_COLD,
        known=Circumstances(hose=Quantity(4e-4, 2e-4, 9e-4, "Pa·m³/s", "")),
        find_sound=False,
    )
    said = {r.name: account_words(v, r) for r, _ in v.accounts()}
    assert set(said) >= {"leak", "hose"}
    assert said["leak"].startswith("straight, ")
    assert said["hose"].startswith("the hoses, ")
    assert set(v.odds) <= set(NAMES)


def test_a_school_that_passes_a_slow_leak_is_told_why_it_should_not() -> None:
    v = judge_hold(*hold(leak=0.5, settle=60, start=150), VOLUME, T_COLD, criteria.SCHOOLS["two-limit"])
    assert v.verdict == "leak"
    assert next(o for o in v.criteria if o.key == "two-limit").passed
    said = disagreements(v, GRAMS)[0]
    assert "Passes two-limit" in said
    assert "without bending: about 45 g a year" in said


def test_a_school_that_fails_a_tight_system_says_its_own_reason() -> None:
    v = judge_hold(*hold(settle=60, start=260), VOLUME, T_COLD, criteria.SCHOOLS["deep-and-flat"])
    assert v.verdict == "tight-and-dry"
    said = " ".join(disagreements(v, GRAMS))
    assert "Tight and dry by its curve, though deep and flat fails it" in said
    assert "above the 200 µ to pull to" in said
    order = what_next(v, criteria.SCHOOLS["deep-and-flat"])
    assert order.order == "Pull deeper, or release against a reason"


def test_flat_schools_look_at_the_whole_hold() -> None:
    t = np.arange(0, 3600.0, 10)
    p = (150 + 800 * (1 - np.exp(-t / 900))) * M
    found = criteria.apply(criteria.SCHOOLS["deep-and-flat"], t, p)
    assert found.passed is False
    assert "passed 500 µ" in found.reason


def test_tight_and_passed_leads_to_release_and_not_yet_waits() -> None:
    v = judge_hold(*hold(start=150, settle=50), VOLUME, T_COLD, criteria.SCHOOLS["code-minimum"])
    assert what_next(v, criteria.SCHOOLS["code-minimum"]).stage == "release"
    early = judge_hold(*hold(minutes=8, start=150, settle=50), VOLUME, T_COLD, criteria.SCHOOLS["two-limit"])
    assert early.verdict == "tight-and-dry"
    assert "minutes" in what_next(early, criteria.SCHOOLS["two-limit"]).order


def test_moisture_asks_for_nitrogen_only_where_the_school_has_none() -> None:
    v = judged(minutes=25, water=saturation_pressure(T_COLD) / M, tau_water=400)
    plain = what_next(v, criteria.SCHOOLS["code-minimum"])
    triple = what_next(v, criteria.SCHOOLS["triple"])
    assert any("nitrogen" in x for x in plain.also)
    assert not any("Three times" in x for x in triple.also)


@pytest.mark.parametrize(("grams", "words"), [(45.2, "45 g"), (3.333, "3.3 g"), (1234.0, "1.2 kg"), (0.042, "0.042 g")])
def test_masses(grams: float, words: str) -> None:
    assert mass(grams) == words


def test_places_to_look_are_those_that_are_held() -> None:
    job = larkspur("Cold room 1", condition="new-dry")
    found = places(job, held_of(job))
    where = [p.where for p in found]
    assert where[0].startswith("core tool a")
    assert any("Gauge 2" in w for w in where)
    assert any(w.startswith("suction line") for w in where)
    assert not any("hose" in w for w in where)
    assert not any(w.startswith("condensing unit:") for w in where), "its charge stands in it: nothing to look for"
    assert any("electronic" in p.how for p in found if "service valve" in p.where)
    assert len(where) == len(set(where))


def test_hoses_and_manifold_are_places_where_they_are_held() -> None:
    job = bait_store()
    where = [p.where for p in places(job, held_of(job))]
    assert sum("both ends" in w for w in where) == 3
    assert any("stems" in w for w in where)


def test_what_the_sheet_knows() -> None:
    assert likely_inside(Scope(condition="new-dry"))[1] == 0.0
    assert likely_inside(Scope(condition="leak-drawn-air"))[1] == 1.0
    assert likely_inside(Scope(condition="open-hours", oil_kg=0))[1] == 0.0
    assert likely_inside(Scope(condition="open-hours", free_water_g=5))[0] >= 3.0
    assert likely_inside(Scope(condition="flooded"))[0] > likely_inside(Scope(condition="new-dry"))[0]


def test_circumstances_of_a_run() -> None:
    job = casing_room()
    touches = [
        Touch("pump-on", 0.0),
        Touch("isolate", 3000.0),
        Touch("pump-off", 3004.0),
        Touch("shut:gauge", 3300.0),
        Touch("note", 3400.0),
        Touch("open:gauge", 9000.0),
    ]
    known = circumstances(job, held_of(job), fold(touches), touches, 3000.0, 4200.0)
    assert known.drawn == 3000.0
    assert known.touches == (300.0,)
    assert known.hose is None
    assert known.gauge_inside
    broken = [*touches[:1], Touch("break", 500.0), Touch("break-end", 900.0), *touches[1:]]
    assert circumstances(job, held_of(job), fold(broken), broken, 3000.0, 4200.0).drawn == 2100.0


def test_hoses_held_are_known_by_catalogue_or_by_their_own_rise() -> None:
    job = bait_store()
    guess = hose_inflow(job, held_of(job))
    assert guess is not None
    assert guess.high > 5 * guess.low
    clear = larkspur("Cold room 1", condition="new-dry")
    assert hose_inflow(clear, held_of(clear)) is None
    read = proved(job)
    told = hose_inflow(read, held_of(read))
    assert told is not None
    assert told.high / told.low <= guess.high / guess.low


def test_earlier_holds_tell_leak_from_vapour() -> None:
    leak = judged(leak=1.0, seed=1)
    again = judged(leak=0.97, seed=2)
    less = judged(leak=0.3, seed=3)
    flat = judged(seed=4, settle=40)
    assert "the same each time, as a leak does" in compared(again, Before(0.0, False, leak))
    assert "less each time, as vapour does" in compared(less, Before(0.0, False, leak))
    assert "something has opened" in compared(leak, Before(0.0, True, flat))
    assert "another hold would tell" in compared(judged(leak=0.62, seed=5), Before(0.0, True, leak))
    assert "cannot be judged" in compared(leak, Before(0.0, False, no_verdict("invalid", (), 60.0, "short")))


def test_volume_of_a_quick_hold() -> None:
    typed, words = volume_of(8.0, "cooler", None, None)
    assert typed.value == pytest.approx(8e-3)
    assert "as typed" in words
    small, _ = volume_of(None, "cooler", 3.0, 5.0)
    large, words = volume_of(None, "cooler", 30.0, 40.0)
    assert large.value > 2 * small.value
    assert large.low <= large.value / 1.5 + 1e-12
    assert large.high >= large.value * 1.5 - 1e-12
    assert "estimated as" in words
    for key in TEMPLATES:
        assert volume_of(None, key, None, None)[0].value > 0
    with pytest.raises(KeyError):
        volume_of(None, "nowhere", None, None)
