"""The path through practice: every job trains something, and the weakest stretch is where the next one lies."""

from __future__ import annotations

from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.core.practice.path import GOOD, LATELY, PATH, Result, standings, trained, weakest
from rough_draw.scenarios.generator import make
from rough_draw.scenarios.handmade import by_hand
from tests.depth import drawn

JOBS = by_hand()
TRAINS = {s.key: trained(s) for s in JOBS}


def test_every_job_trains_something_and_every_stretch_has_several() -> None:
    assert all(TRAINS.values())
    for stretch in PATH:
        assert sum(stretch in t for t in TRAINS.values()) >= 3, stretch
    assert all(trained(make(n, level)) for level in range(1, 6) for n in range(4))


@settings(max_examples=drawn(60))
@given(st.lists(st.tuples(st.sampled_from(sorted(TRAINS)), st.floats(0, 100)), max_size=40))
def test_the_next_one_lies_in_the_weakest_stretch_and_is_the_easiest_not_done_well(
    played: list[tuple[str, float]],
) -> None:
    results = [Result(key, points, TRAINS[key]) for key, points in played]
    path = standings(JOBS, results)
    best = {key: max(p for k, p in played if k == key) for key, _ in played}
    level = {s.key: s.level for s in JOBS}
    for x in path:
        mine = [p for k, p in played if x.stretch in TRAINS[k]][:LATELY]
        assert (x.score is None) == (not mine)
        assert x.score is None or abs(x.score - sum(mine) / len(mine)) < 1e-9
        left = [k for k, t in TRAINS.items() if x.stretch in t and best.get(k, 0.0) < GOOD]
        assert x.well == x.of - len(left)
        assert (x.next is None) == (not left)
        assert x.next is None or level[x.next] == min(level[k] for k in left)
    at = weakest(path)
    open_ones = [x for x in path if x.next is not None]
    if at is None:
        assert not open_ones
    elif at.score is not None:
        assert all(x.score is not None and x.score >= at.score for x in open_ones)


def test_a_job_from_a_number_counts_where_it_trains() -> None:
    made = next(s for n in range(50) if "release" in trained(s := make(n, 4)))
    path = {x.stretch: x for x in standings(JOBS, [Result(made.key, 40.0, trained(made))])}
    assert path["release"].score == 40.0
    assert path["release"].well == 0
