"""What came out of the cylinders on the scale, whatever the hands at the scale did in between."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.charging.cylinders import cylinders
from rough_draw.core.charging.weighing import weigh

Touch = tuple[str, float]
Track = tuple[np.ndarray, np.ndarray]


class Scale:
    """A scale read each second, without scatter: what stands on it, and what the hands do."""

    def __init__(self) -> None:
        self.at: list[float] = []
        self.kg: list[float] = []
        self.done: list[Touch] = []
        self.now, self.load, self.zero = 0.0, 0.0, 0.0

    def stand(self, seconds: int, flow: float = 0.0) -> None:
        for _ in range(seconds):
            self.now += 1.0
            self.load -= flow
            self.at.append(self.now)
            self.kg.append(self.load - self.zero)

    def touch(self, kind: str) -> None:
        self.now += 0.25
        self.done.append((kind, self.now))

    def seen(self) -> Track:
        return np.array(self.at), np.array(self.kg)

    def given(self) -> float:
        return sum(c.given for c in cylinders(*self.seen(), self.done))


@pytest.mark.parametrize("shut_is_told", [True, False])
@given(out=st.lists(st.floats(0.5, 30.0), min_size=1, max_size=5), tare=st.floats(4.0, 20.0))
def test_what_all_of_them_lost_is_what_is_in(shut_is_told: bool, out: list[float], tare: float) -> None:
    scale = Scale()
    for n, kg in enumerate(out):
        if n:
            # Who says nothing of a closed valve says that the next comes before he lifts the empty one off.
            if not shut_is_told:
                scale.touch("cylinder-next")
            # It is lifted off, hands lean on the scale, the next is put on.
            scale.load = 0.0
            scale.stand(3)
            scale.load = 45.0
            scale.stand(2)
        scale.load = tare + kg + 0.5
        if n and shut_is_told:
            scale.touch("cylinder-next")
        scale.stand(8)
        scale.touch("cylinder-open" if n % 2 else "cylinder-throttle")
        scale.stand(20, kg / 20.0)
        if shut_is_told or n == len(out) - 1:
            scale.touch("cylinder-shut")
        scale.stand(9)
    assert scale.given() == pytest.approx(sum(out))


def test_the_one_that_stands_there_is_weighed_from_its_own_opening() -> None:
    scale = Scale()
    scale.load = 16.0
    scale.stand(6)
    scale.touch("cylinder-open")
    scale.stand(90, 0.1)
    scale.touch("cylinder-shut")
    scale.stand(6)
    scale.load = 16.0
    scale.touch("cylinder-next")
    scale.stand(50)
    gone, here = cylinders(*scale.seen(), scale.done)
    assert gone.given == pytest.approx(9.0)
    assert here.start is None
    # Nothing has come out of it: it is to be opened, not to be warmed.
    found = weigh(here.times, here.weights, 16.0, 20.0, earlier=gone.given)
    assert (found.phase, found.added, found.left) == ("before", pytest.approx(9.0), pytest.approx(11.0))
    scale.touch("cylinder-open")
    scale.stand(50, 0.1)
    gone, here = cylinders(*scale.seen(), scale.done)
    found = weigh(here.times, here.weights, here.start or 0.0, 20.0, earlier=gone.given)
    assert found.phase == "flowing"
    assert found.added == pytest.approx(13.9, abs=0.2)
    assert found.flow == pytest.approx(0.1, rel=0.05)


@pytest.mark.parametrize("when", ["before", "just before", "while open", "after"])
def test_a_zero_is_no_refrigerant(when: str) -> None:
    scale = Scale()
    scale.load = 16.0

    def zero() -> None:
        scale.zero = scale.load
        scale.touch("scale-zero")

    scale.stand(6)
    if when == "before":
        zero()
        scale.stand(6)
    if when == "just before":
        zero()
        scale.stand(1)
    scale.touch("cylinder-open")
    scale.stand(30, 0.05)
    if when == "while open":
        zero()
    scale.stand(30, 0.05)
    scale.touch("cylinder-shut")
    scale.stand(6)
    if when == "after":
        zero()
        scale.stand(6)
    # While it is zeroed in the flow nobody sees the grams of that second.
    assert scale.given() == pytest.approx(3.0, abs=0.06)


@pytest.mark.parametrize(
    "touches",
    [[], [("cylinder-shut", 5.0)], [("cylinder-next", 5.0)], [("cylinder-next", 5.0), ("cylinder-next", 5.0)]],
)
@pytest.mark.parametrize("size", [0, 1, 10])
def test_what_was_never_opened_gave_nothing(touches: list[Touch], size: int) -> None:
    at = np.arange(float(size))
    found = cylinders(at, np.full(size, 16.0), touches)
    assert len(found) == 1 + sum(kind == "cylinder-next" for kind, _ in touches)
    assert all(c.start is None and c.given == 0.0 for c in found)


@given(
    st.lists(st.tuples(st.floats(0, 100), st.floats(0, 60)), max_size=30),
    st.lists(
        st.tuples(
            st.sampled_from(["cylinder-open", "cylinder-throttle", "cylinder-shut", "cylinder-next", "scale-zero"]),
            st.floats(-10, 110),
        ),
        max_size=12,
    ),
)
def test_whatever_was_logged_nothing_falls_and_no_charge_is_taken_back(
    read: list[tuple[float, float]], touches: list[Touch]
) -> None:
    read, touches = sorted(read), sorted(touches, key=lambda t: t[1])
    at, kg = np.array([a for a, _ in read]), np.array([w for _, w in read])
    found = cylinders(at, kg, touches)
    assert sum(c.times.size for c in found) == at.size
    assert all(c.given >= 0.0 and c.times.size == c.weights.size for c in found)
