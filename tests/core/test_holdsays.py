"""What is said of a hold: reasons, odds in words, schools beside it, what to do next, where to look, earlier holds."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from rough_draw.core.charging.charge import YEAR_S, empty_after
from rough_draw.core.hold.advice import what_next
from rough_draw.core.hold.compare import Before, compared
from rough_draw.core.hold.context import circumstances, hose_inflow, likely_inside
from rough_draw.core.hold.decision import VERDICTS
from rough_draw.core.hold.leak_places import places
from rough_draw.core.hold.quick_volume import volume_of
from rough_draw.core.hold.result import Circumstances, Verdict
from rough_draw.core.hold.verdict import judge_hold, no_verdict
from rough_draw.core.hold.wording import (
    account_words,
    cause,
    charge_loss,
    disagreements,
    headline,
    leak_beside,
    likely,
    reasons,
)
from rough_draw.core.message import message
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
from rough_draw.text import say
from tests.core.test_hold import T_COLD, VOLUME, hold
from tests.told import figures, keys

M = MICRON_PA


def judged(**made: Any) -> Verdict:
    return judge_hold(*hold(**made), VOLUME, T_COLD, find_sound=False)


def held_of(job: Job) -> Isolation:
    return isolation(job, assemble(job))


def test_every_verdict_has_its_sentence_and_an_order() -> None:
    main = criteria.STANDARDS["code-minimum"]
    for name in VERDICTS:
        v = no_verdict(name, (), 600.0, message("unfit-atmosphere"))
        advice = what_next(v, main)
        for told in (v.sentence, headline(v), advice.order, advice.why, *advice.with_it):
            assert say(told)


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
    assert say(likely(p)) == words


def test_odds_in_words_never_grow_as_they_fall() -> None:
    order = [say(likely(p)) for p in np.linspace(1, 0, 500)]
    assert list(dict.fromkeys(order)) == [
        "almost certain",
        "very likely",
        "likely",
        "possible",
        "unlikely",
        "very unlikely",
    ]


def test_reasons_name_level_and_rate() -> None:
    assert keys(reasons(judged())) == ["reason-levels-off", "reason-none-hidden"]
    leak = judged(leak=1.0)
    assert reasons(leak)[0].key == "reason-leak"
    assert figures(reasons(leak)[0])["rate"] == pytest.approx(1.0 * M, rel=0.06)
    sat = saturation_pressure(T_COLD) / M
    wet = judged(minutes=25, water=sat, tau_water=400)
    assert reasons(wet)[0].key == "reason-free-water"
    cold = judge_hold(*hold(minutes=25, water=1949, tau_water=300), VOLUME, 263.15, find_sound=False)
    assert reasons(cold)[0].key == "reason-ice"
    short = judged(minutes=2.5)
    assert reasons(short)[0].key in ("reason-flat-so-far", "reason-not-settled", "reason-leak-or-water")


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
    assert said["leak"].key == "account-leak"
    assert said["hose"].key == "account-hose"
    assert all(say(cause(name)) for name in v.odds)


def test_a_school_that_passes_a_slow_leak_is_told_why_it_should_not() -> None:
    v = judge_hold(*hold(leak=0.5, settle=60, start=150), VOLUME, T_COLD, criteria.STANDARDS["two-limit"])
    assert v.verdict == "leak"
    assert next(o for o in v.criteria if o.key == "two-limit").passed
    said = disagreements(v)[0]
    assert said.key == "parts-leak"
    assert "standard-two-limit" in keys(said["names"])
    assert "yearly" not in figures(said)


def test_a_leak_is_said_by_how_long_the_charge_would_last() -> None:
    v = judge_hold(*hold(leak=1.5, start=150), VOLUME, T_COLD, criteria.STANDARDS["two-limit"])
    # 100 to 1,000 g a year out of 2 kg: two years at the soonest, twenty at the latest.
    found = charge_loss(v, VOLUME.value, empty_after(Range(100.0, 300.0, 1000.0), 2.0))
    assert [m.key for m in found] == ["loss-empties", "loss-seen-from"]
    assert figures(found[0])["soon"] == pytest.approx(2 * YEAR_S)
    assert figures(found[0])["late"] == pytest.approx(20 * YEAR_S)
    assert figures(found[1])["leak"] == pytest.approx(v.detection * MICRON_PA * VOLUME.value)
    assert charge_loss(v, VOLUME.value, None)[0].key == "loss-charge-unknown"
    tight = judge_hold(*hold(settle=60, start=150), VOLUME, T_COLD, criteria.STANDARDS["two-limit"])
    assert [m.key for m in charge_loss(tight, VOLUME.value, None)] == ["loss-seen-from"]


def test_a_school_that_fails_a_tight_system_says_its_own_reason() -> None:
    v = judge_hold(*hold(settle=60, start=260), VOLUME, T_COLD, criteria.STANDARDS["deep-and-flat"])
    assert v.verdict == "tight-and-dry"
    said = disagreements(v)
    assert keys(said) == ["parts-fails", "standard-deep-and-flat", "outcome-began-above"]
    order = what_next(v, criteria.STANDARDS["deep-and-flat"])
    assert order.key == "deeper-or-deviate"


def test_flat_schools_look_at_the_whole_hold() -> None:
    t = np.arange(0, 3600.0, 10)
    p = (150 + 800 * (1 - np.exp(-t / 900))) * M
    found = criteria.apply(criteria.STANDARDS["deep-and-flat"], t, p)
    assert found.passed is False
    assert found.reason.key == "outcome-rose-above"
    assert figures(found.reason)["limit"] == pytest.approx(500 * M)


def test_tight_and_passed_leads_to_release_and_not_yet_waits() -> None:
    v = judge_hold(*hold(start=150, settle=50), VOLUME, T_COLD, criteria.STANDARDS["code-minimum"])
    assert what_next(v, criteria.STANDARDS["code-minimum"]).stage == "release"
    early = judge_hold(*hold(minutes=8, start=150, settle=50), VOLUME, T_COLD, criteria.STANDARDS["two-limit"])
    assert early.verdict == "tight-and-dry"
    assert what_next(early, criteria.STANDARDS["two-limit"]).key == "wait-for-standard"


def test_moisture_asks_for_nitrogen_only_where_the_school_has_none() -> None:
    v = judged(minutes=25, water=saturation_pressure(T_COLD) / M, tau_water=400)
    plain = what_next(v, criteria.STANDARDS["code-minimum"])
    triple = what_next(v, criteria.STANDARDS["triple"])
    assert "triple" in plain.also
    assert "triple" not in triple.also


def test_a_leak_that_is_very_likely_beside_water_is_in_the_headline_and_comes_first() -> None:
    v = judged(minutes=25, water=saturation_pressure(T_COLD) / M, tau_water=400)
    assert (v.verdict, leak_beside(v)) == ("moisture", 0.0) or v.open == ("leak",)
    for odds in (0.5, 0.89, 0.9, 0.96):
        leaky = replace(v, open=("leak",), odds={**v.odds, "leak-and-moisture": odds, "leak": 0.0})
        first = what_next(leaky, criteria.STANDARDS["code-minimum"])
        assert (headline(leaky).key == "verdict-moisture-leak") == (odds >= 0.9)
        assert (first.key == "leak-first") == (odds >= 0.9), "nobody is sent to pump for hours on what leaks"
    assert say(headline(leaky)) == "Water is left, and it very likely leaks too (96 %)"


def test_places_to_look_are_those_that_are_held() -> None:
    job = larkspur("Cold room 1", condition="new-dry")
    found = places(job, held_of(job))
    where = [say(p.where) for p in found]
    assert keys(found[0].where) == ["leak-at-tool", "tool-at-port"]
    assert message("leak-at-gauge", part="Gauge 2") in [p.where for p in found]
    assert any(w.startswith("Suction line") for w in where)
    assert not any(p.where.key == "leak-at-hose" for p in found)
    assert not any(w.startswith("Condensing unit:") for w in where), "its charge stands in it: nothing to look for"
    assert any(p.where.key == "leak-at-valve-kept" for p in found)
    assert len(where) == len(set(where))


def test_hoses_and_manifold_are_places_where_they_are_held() -> None:
    job = bait_store()
    where = [p.where.key for p in places(job, held_of(job))]
    assert where.count("leak-at-hose") == 3
    assert "leak-at-manifold" in where


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
    assert compared(again, Before(0.0, False, leak)).key == "compared-same-each-time"
    assert compared(less, Before(0.0, False, leak)).key == "compared-less-each-time"
    assert compared(leak, Before(0.0, True, flat)).key == "compared-opened-since"
    assert compared(judged(leak=0.62, seed=5), Before(0.0, True, leak)).key == "compared-little-less"
    none = no_verdict("invalid", (), 60.0, message("unfit-atmosphere"))
    assert compared(leak, Before(0.0, False, none)).key == "compared-unjudged"


def test_volume_of_a_quick_hold() -> None:
    typed, words = volume_of(8.0, "cooler", None, None)
    assert typed.value == pytest.approx(8e-3)
    assert words.key == "volume-typed"
    small, _ = volume_of(None, "cooler", 3.0, 5.0)
    large, words = volume_of(None, "cooler", 30.0, 40.0)
    assert large.value > 2 * small.value
    assert large.low <= large.value / 1.5 + 1e-12
    assert large.high >= large.value * 1.5 - 1e-12
    assert words.key == "volume-estimated"
    for key in TEMPLATES:
        assert volume_of(None, key, None, None)[0].value > 0
    with pytest.raises(KeyError):
        volume_of(None, "nowhere", None, None)
