"""What each pump is doing."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.planning.pump_use import ORDER, Use, lines


def test_a_running_pump_comes_first_and_a_free_one_last() -> None:
    uses = [
        Use(key="a", title="Room 1", pump="Pump 2", on=True, since=100.0),
        Use(key="b", title="Room 2", pump="Pump 1", since=50.0),
        Use(key="c", title="Room 3", pump="Pump 3", start=900.0),
    ]
    found = lines(["Pump 1", "Pump 2", "Pump 3", "Pump 4"], uses)
    assert [(x.pump, x.doing, x.job) for x in found] == [
        ("Pump 2", "runs", "a"),
        ("Pump 1", "stands", "b"),
        ("Pump 3", "planned", "c"),
        ("Pump 4", "free", ""),
    ]


def test_one_pump_on_two_jobs_is_told() -> None:
    uses = [
        Use(key="a", title="Room 1", pump="P", on=True, since=100.0),
        Use(key="b", title="Room 2", pump="P", on=True, since=200.0),
    ]
    (found,) = lines([], uses)
    assert (found.job, found.also) == ("b", ("Room 1",))


def test_the_next_plan_goes_before_where_it_stood_last() -> None:
    uses = [
        Use(key="a", title="Room 1", pump="P", since=100.0),
        Use(key="b", title="Room 2", pump="P", start=900.0),
        Use(key="c", title="R", pump="P", start=700.0),
    ]
    (found,) = lines(["P"], uses)
    assert (found.doing, found.job, found.at) == ("planned", "c", 700.0)


def test_a_job_that_is_over_holds_no_pump() -> None:
    (found,) = lines(["P"], [Use(key="a", title="Room 1", pump="P", on=True, since=1.0, over=True)])
    assert found.doing == "free"


USES = st.builds(
    Use,
    key=st.text("abc", min_size=1, max_size=3),
    title=st.just("t"),
    pump=st.sampled_from(["P1", "P2", "P3"]),
    on=st.booleans(),
    since=st.none() | st.floats(0, 1e9),
    start=st.none() | st.floats(0, 1e9),
    over=st.booleans(),
)


@given(st.lists(USES, max_size=10))
def test_every_pump_is_told_once_and_in_order(uses: list[Use]) -> None:
    found = lines(["P1", "P2"], uses)
    names = [x.pump for x in found]
    assert len(set(names)) == len(names)
    assert {"P1", "P2"} <= set(names)
    ranks = [ORDER[x.doing] for x in found]
    assert ranks == sorted(ranks)
    assert all((x.doing == "free") == (x.job == "") for x in found)
