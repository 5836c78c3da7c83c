"""An answer that many ask for at once is worked out by one of them, and never older than the asking."""

from __future__ import annotations

import threading
import time
from concurrent.futures import ThreadPoolExecutor

import pytest

from rough_draw.api.sharing import Shared


def test_who_asks_while_it_is_worked_out_shares_the_next_one() -> None:
    shared: Shared[int] = Shared(10.0)
    made: list[int] = []
    going, go = threading.Event(), threading.Event()

    def make() -> int:
        going.set()
        assert go.wait(10)
        made.append(len(made))
        return made[-1]

    ground = iter(range(100))
    with ThreadPoolExecutor(12) as pool:
        first = pool.submit(shared.of, "yard", lambda: next(ground), make)
        assert going.wait(10)
        rest = [pool.submit(shared.of, "yard", lambda: next(ground), make) for _ in range(10)]
        time.sleep(0.2)
        go.set()
        answers = [f.result(10) for f in rest]
    assert first.result() == 0
    assert set(answers) == {1}, "who came meanwhile has one that was begun after they came, and one is enough"
    assert made == [0, 1]


def test_it_stands_while_its_ground_does_and_no_longer_than_it_may() -> None:
    shared: Shared[int] = Shared(0.2)
    ground, made = ["a"], iter(range(100))

    def asked() -> int:
        return shared.of("x", lambda: ground[0], lambda: next(made))

    assert [asked(), asked()] == [0, 0]
    ground[0] = "b"
    assert asked() == 1
    time.sleep(0.25)
    assert asked() == 2


def test_other_questions_do_not_wait_and_what_fails_is_asked_again() -> None:
    shared: Shared[int] = Shared(10.0)
    slow, go = threading.Event(), threading.Event()

    def stuck() -> int:
        slow.set()
        assert go.wait(10)
        raise ValueError("no")

    with ThreadPoolExecutor(1) as pool:
        waiting = pool.submit(shared.of, "one", lambda: 0, stuck)
        assert slow.wait(10)
        assert shared.of("other", lambda: 0, lambda: 7) == 7
        go.set()
        with pytest.raises(ValueError, match="no"):
            waiting.result(10)
    assert shared.of("one", lambda: 0, lambda: 8) == 8
