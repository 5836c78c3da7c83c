"""The debrief's scores: what takes points, what gives them, and their bounds whatever was done."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.interlock.consequence import caution, stop
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.practice import actions
from rough_draw.core.practice.scoring import SKILLS, Act, Facts, marks, total
from rough_draw.standins.practice.debrief_facts import held_between
from rough_draw.standins.practice.session_log import Done

STOP, CAUTION = stop("off-before-isolated"), caution("rush")
LOOKS = (Act(30, "look:power"), Act(60, "look:pressure"))
TIGHT = Act(1500, "verdict:tight", right=("tight",))


def facts(*acts: Act, **more: object) -> Facts:
    given_ = {
        "acts": acts,
        "faults": (),
        "target": 200 * MICRON_PA,
        "limit": 500 * MICRON_PA,
        "hold_s": 600.0,
        "spent": 1500.0,
        "expert": 1500.0,
        "at_isolation": 180 * MICRON_PA,
        "shown_at_isolation": 170 * MICRON_PA,
        "held_s": 600.0,
        "truth_at_end": ("tight",),
        "end": "release",
        **more,
    }
    return Facts(**given_)  # type: ignore[arg-type]


def score(f: Facts, skill: str) -> float | None:
    return {m.skill: m.score for m in marks(f)}[skill]  # type: ignore[index]


def test_a_sound_job_takes_everything() -> None:
    f = facts(*LOOKS, TIGHT)
    assert {m.skill: m.score for m in marks(f)} == {
        "safety": 100.0,
        "rig": None,
        "reading": 100.0,
        "diagnosis": 100.0,
        "economy": 100.0,
    }
    assert total(marks(f), f) == 100.0


def test_stops_cautions_and_looks_left_out_cost_safety() -> None:
    one_stop = facts(*LOOKS, Act(900, "pump-off", said=(STOP,)), TIGHT)
    assert score(one_stop, "safety") == pytest.approx(65.0)
    assert score(facts(*LOOKS, Act(9, "open:x", said=(CAUTION, CAUTION)), TIGHT), "safety") == pytest.approx(84.0)
    assert score(facts(TIGHT), "safety") == pytest.approx(80.0)


def test_what_someone_else_did_before_costs_nothing() -> None:
    f = facts(*LOOKS, Act(0, "pump-off", said=(STOP,), before=True), TIGHT)
    assert score(f, "safety") == 100.0


def test_a_charge_into_a_leak_costs_half_of_safety() -> None:
    wrong = Act(1500, "verdict:tight", right=("leak",))
    f = facts(*LOOKS, wrong, charged=True, truth_at_end=("leak",))
    assert score(f, "safety") == pytest.approx(50.0)
    assert score(f, "diagnosis") == pytest.approx(20.0)  # 40 for nothing left to name, less 20 for passing it


def test_unsafe_work_cannot_hide_behind_the_other_skills() -> None:
    stops = tuple(Act(n, "open:x", said=(STOP, STOP)) for n in range(3))
    f = facts(*LOOKS, *stops, TIGHT)
    assert score(f, "safety") == 0.0
    assert total(marks(f), f) == pytest.approx(30.0)


def test_the_rig_is_measured_against_the_best_of_the_van() -> None:
    half = facts(*LOOKS, TIGHT, own_rig=1200.0, best_rig=600.0, answers=("yes", "partly", "no", "yes"))
    assert score(half, "rig") == pytest.approx(30 + 10 + 5 + 0 + 10)
    best = facts(*LOOKS, TIGHT, own_rig=590.0, best_rig=600.0, answers=("yes",) * 4)
    assert score(best, "rig") == 100.0


def test_isolating_on_a_figure_that_is_not_the_system_costs_reading() -> None:
    deceived = facts(*LOOKS, TIGHT, at_isolation=9_000 * MICRON_PA, shown_at_isolation=150 * MICRON_PA)
    assert score(deceived, "reading") == pytest.approx(60.0)
    short = facts(*LOOKS, TIGHT, held_s=150.0)
    assert score(short, "reading") == pytest.approx(40 + 20 + 25 / 4 + 15)
    never = facts(*LOOKS, TIGHT, at_isolation=None, ballast_left=True)
    assert score(never, "reading") == 0.0


def test_the_last_verdict_counts_and_half_of_two_is_half() -> None:
    changed = facts(*LOOKS, Act(800, "verdict:leak", right=("tight",)), TIGHT)
    assert score(changed, "diagnosis") == 100.0
    half = facts(*LOOKS, Act(900, "verdict:leak", right=("both",)), truth_at_end=("both",), end="repair")
    assert score(half, "diagnosis") == pytest.approx(70.0)


def test_naming_counts_by_kind_and_guessing_costs() -> None:
    f = facts(*LOOKS, Act(100, "cause:hose-leak:hose-b"), TIGHT, faults=("hose-leak:hose-a", "wet-oil"))
    assert score(f, "diagnosis") == pytest.approx(80.0)
    guessed = facts(*LOOKS, Act(1, "cause:ice"), Act(2, "cause:fouled"), TIGHT, faults=("wet-oil",))
    assert score(guessed, "diagnosis") == pytest.approx(60 - 24)


def test_time_and_hints_make_the_economy() -> None:
    assert score(facts(*LOOKS, TIGHT, spent=3000.0), "economy") == pytest.approx(50.0)
    assert score(facts(*LOOKS, Act(5, "hint:1"), Act(6, "hint:3"), TIGHT), "economy") == pytest.approx(75.0)
    assert score(facts(*LOOKS, spent=10.0), "economy") == 0.0, "breaking off is not saving"


def test_no_hold_is_no_pass_and_giving_up_is_none_either() -> None:
    short = facts(*LOOKS, TIGHT, held_s=120.0)
    assert total(marks(short), short) == pytest.approx(25.0)
    held = facts(*LOOKS, TIGHT, held_s=600.0)
    assert total(marks(held), held) == 100.0
    # What leaks too much to be held is rightly sent to repair without one.
    leak = Act(900, "verdict:leak", right=("leak",))
    sent = facts(*LOOKS, leak, held_s=60.0, truth_at_end=("leak",), end="repair", steep=True)
    assert total(marks(sent), sent) > 80.0
    for guess in (replace(sent, held_s=30.0), replace(sent, steep=False), replace(sent, falling=True)):
        assert total(marks(guess), guess) == pytest.approx(25.0)
    unheld = facts(*LOOKS, end="later", held_s=0.0)
    held_right = facts(*LOOKS, TIGHT, end="later")
    held_wrong = facts(*LOOKS, Act(1500, "verdict:leak", right=("tight",)), end="later")
    assert [total(marks(f), f) for f in (unheld, held_wrong, held_right)] == pytest.approx([20.0, 35.0, 60.0])
    acted = facts(*LOOKS, Act(1500, "verdict:leak", right=("tight",)), end="repair")
    assert total(marks(acted), acted) == pytest.approx(30.0)


def test_a_wrong_verdict_saves_nothing_and_a_longer_hold_wastes_nothing() -> None:
    wrong = facts(*LOOKS, Act(300, "verdict:leak", right=("tight",)), spent=300.0)
    assert score(wrong, "economy") == pytest.approx(30.0)
    longer = facts(*LOOKS, TIGHT, spent=1500.0 + 600.0, held_s=1200.0)
    assert score(longer, "economy") == pytest.approx(100.0)
    idle = facts(*LOOKS, TIGHT, spent=1500.0 + 10_800.0, held_s=600.0)
    assert score(idle, "economy") < 15.0


def test_a_hold_counts_by_whatever_valves_it_began_and_ends_where_they_open() -> None:
    def deed(at: float, kind: str, apart: bool) -> Done:
        return Done(at=at, kind=kind, words="", apart=apart)

    by_hand = [deed(0, "pump-on", False), deed(900, "shut:tool-a", False), deed(920, "shut:tool-b", True)]
    assert held_between(by_hand, 2000.0) == (920, math.inf)
    again = [*by_hand, deed(1000, "open:tool-a", False), deed(1500, "shut:tool-a", True)]
    assert held_between(again, 2000.0) == (1500, math.inf)
    assert held_between(again[:-1], 2000.0) == (920, 1000)
    # A rig that stands shut before the pump has run holds nothing.
    assert held_between([deed(0, "look:power", True), deed(50, "pump-on", True)], 90.0) == (None, math.inf)


KINDS = st.sampled_from(
    ["look:power", "pump-off", "cause:ice", "cause:wet-oil", "hint:2", "verdict:leak", "verdict:tight", "end:later"]
)
ACTS = st.builds(
    Act,
    st.floats(0, 1e4),
    KINDS,
    st.lists(st.sampled_from((STOP, CAUTION)), max_size=4).map(tuple),
    st.just(("tight",)),
    st.booleans(),
)


@given(st.lists(ACTS, max_size=12), st.floats(0, 1e5), st.floats(1, 1e5), st.floats(0, 1e4))
def test_scores_stay_between_0_and_100(acts: list[Act], spent: float, expert: float, held: float) -> None:
    f = facts(*acts, spent=spent, expert=expert, held_s=held, own_rig=spent + 1.0, best_rig=expert, answers=("no",) * 4)
    found = marks(f)
    assert [m.skill for m in found] == list(SKILLS)
    assert all(m.score is not None and 0 <= m.score <= 100 and m.lines for m in found)
    assert 0 <= total(found, f) <= 100


@given(st.lists(ACTS, max_size=6))
def test_one_more_stop_never_raises_safety(acts: list[Act]) -> None:
    f = facts(*acts)
    worse = replace(f, acts=(*f.acts, Act(1, "open:x", said=(STOP,))))
    assert score(worse, "safety") <= score(f, "safety")  # type: ignore[operator]


def test_every_mend_and_test_is_known_and_has_its_minutes() -> None:
    kinds = (
        [d.kind for d in actions.LOOKS] + [f"test:{t}" for t in actions.TESTS] + [f"mend:{m}" for m in actions.MENDS]
    )
    kinds += [f"verdict:{v}" for v in actions.VERDICTS] + [f"end:{e}" for e in actions.ENDS] + list(actions.BY_HAND)
    for kind in kinds:
        assert actions.minutes_of(kind) is not None, kind
        assert actions.words_of(kind), kind
    for kind in ("", "open:", "test:tea", "mend:all", "verdict:maybe", "hint:9", "dance"):
        assert actions.minutes_of(kind) is None, kind


def test_every_kind_of_fault_that_can_be_mended_has_its_mend() -> None:
    assert actions.mend_for("core:suction") == "core-out:suction"
    assert actions.mend_for("wet-oil") == "oil-change"
    assert actions.mend_for("hose-leak:hose-a") == "mend:change-hoses"
    assert actions.mend_for("system-leak") is None
    assert actions.cures("mend:change-hoses", ["dirty-hose:hose-b", "fouled"]) == ("dirty-hose:hose-b",)
    assert actions.cures("core-out:liquid", ["core:suction", "core:liquid"]) == ("core:liquid",)
    assert actions.cures("oil-change", ["wet-oil", "worn-pump"]) == ("wet-oil",)
