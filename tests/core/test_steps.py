"""Steps and actions as typed values: every text that was ever stored is read, and comes out as it went in."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.message import Message
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import CallVerdict, read_action
from rough_draw.core.sheet.run_state import RunState, Touch, ballast_left_open, fold, known, words_of
from rough_draw.core.sheet.steps import (
    BENCH_MOVES,
    PART_MOVES,
    RUN_MOVES,
    Answered,
    BenchStage,
    LookedAnew,
    OnBench,
    OnPart,
    OnRun,
    Other,
    StepKind,
    read_step,
    text_of,
)
from rough_draw.text import say

ids = st.from_regex(r"[a-z0-9][a-z0-9.:=-]{0,30}", fullmatch=True)
plain = st.from_regex(r"[a-z0-9][a-z0-9.-]{0,30}", fullmatch=True)
steps: st.SearchStrategy[StepKind] = st.one_of(
    st.sampled_from(RUN_MOVES).map(OnRun),
    st.builds(OnPart, st.sampled_from(PART_MOVES), ids),
    st.builds(Answered, plain.filter(lambda t: t != "anew"), ids),
    st.just(LookedAnew()),
    st.sampled_from(BENCH_MOVES).map(OnBench),
    st.builds(BenchStage, ids),
)


@given(steps)
def test_every_step_comes_back_from_its_text(step: StepKind) -> None:
    assert read_step(text_of(step)) == step


@given(st.text(max_size=60))
def test_any_text_is_read_and_kept_as_it_is(text: str) -> None:
    step = read_step(text)
    assert text_of(step) == text or isinstance(step, LookedAnew)
    if isinstance(step, Other):
        assert fold([Touch(text, 5.0)]) == RunState()
        assert not known(text)


@given(st.lists(st.tuples(steps, st.floats(0, 1e6)), max_size=12))
def test_a_run_folds_from_texts_as_from_typed_steps(made: list[tuple[StepKind, float]]) -> None:
    state = fold(Touch(text_of(s), at) for s, at in made)
    last = [s.move for s, _ in made if isinstance(s, OnRun) and s.move in ("pump-on", "pump-off")]
    assert state.pump_on == (last[-1:] == ["pump-on"])
    assert not state.shut & state.opened
    ballast = [s.move for s, _ in made if isinstance(s, OnRun) and s.move.startswith("ballast")]
    assert ballast_left_open(Touch(text_of(s), at) for s, at in made) == (ballast[-1:] == ["ballast-open"])


def test_every_step_has_words_and_no_words_are_left_over() -> None:
    for move in (*RUN_MOVES, *(f"{m}:tool-a" for m in PART_MOVES)):
        told = words_of(move)
        assert isinstance(told, Message)
        assert say(told)
    told = words_of("shut:tool-a", {"tool-a": "the core tool at the suction port"})
    assert say(told) == "Closed the core tool at the suction port"


@pytest.mark.parametrize("kind", ["open:", "found:oil", "found:=yes", "found:oil=", "bench:", "bench:stage:", ":", ""])
def test_what_is_cut_short_is_no_step(kind: str) -> None:
    assert isinstance(read_step(kind), Other)
    assert read_action(kind) is None


def test_every_verdict_and_end_that_can_be_called_is_read_and_no_other() -> None:
    for verdict in actions.VERDICTS:
        assert read_action(f"verdict:{verdict}") == CallVerdict(verdict)
    assert read_action("verdict:fine") is None
    assert read_action("hint:12") is None
    assert read_action("hint:4") is None
