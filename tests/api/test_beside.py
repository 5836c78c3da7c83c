"""Work beside the answering: one of a name at a time, the latest wish of those that wait, and none after the end."""

from __future__ import annotations

import logging
import threading
import time
from itertools import pairwise

import pytest

from rough_draw.api import beside
from rough_draw.api.beside import Beside
from tests.browser.waits import until


def drained(of: Beside, seconds: float = 120.0) -> None:
    """What was wished for has been done."""
    done = threading.Event()
    of.wish(object(), done.set)
    assert done.wait(seconds)


def held_up(of: Beside) -> threading.Event:
    """Nothing is begun until the event is set."""
    begun, go = threading.Event(), threading.Event()
    of.wish(object(), lambda: (begun.set(), go.wait(60)))
    assert begun.wait(20)
    return go


@pytest.fixture
def one() -> Beside:
    return Beside("test")


def test_of_what_waits_the_latest_wish_is_done_and_once(one: Beside) -> None:
    done: list[tuple[str, int]] = []
    go = held_up(one)
    for n in range(4):
        for name in ("quay", "pier"):
            one.wish(name, lambda name=name, n=n: done.append((name, n)))  # type: ignore[misc]
    assert one.waiting() == ["quay", "pier"]
    assert one.has("pier")
    assert not one.has("dock")
    go.set()
    drained(one)
    assert done == [("quay", 3), ("pier", 3)]
    assert not one.has("pier")


def test_what_is_under_way_is_not_begun_again_beside_itself(one: Beside) -> None:
    begun, go, done = threading.Event(), threading.Event(), []
    one.wish("quay", lambda: (begun.set(), go.wait(60), done.append("first")))
    assert begun.wait(20)
    assert one.has("quay")
    one.wish("quay", lambda: done.append("second"))
    assert one.waiting() == []
    go.set()
    drained(one)
    assert done == ["first"]
    one.wish("quay", lambda: done.append("third"))
    drained(one)
    assert done == ["first", "third"]


def test_what_fails_is_logged_and_keeps_nothing_from_being_done(one: Beside, caplog: pytest.LogCaptureFixture) -> None:
    with caplog.at_level(logging.ERROR, "rough_draw.beside"):
        one.wish("quay", lambda: 1 / 0)
        drained(one)
    assert "quay" in caplog.text
    assert "ZeroDivisionError" in caplog.text
    assert not one.has("quay")


def test_a_kind_that_rests_gives_way_as_long_as_it_works_and_no_longer_than_the_server_lives() -> None:
    one, done = Beside("rests", rest=2.0), []
    for n in range(3):
        one.wish(n, lambda: (time.sleep(0.1), done.append(time.monotonic())))
    drained(one)
    assert all(b - a >= 0.28 for a, b in pairwise(done))
    long = Beside("rests long", rest=1e4)
    long.wish(0, lambda: time.sleep(0.05))
    until(lambda: long.has(0), lambda there: not there)
    time.sleep(0.1)
    long.end()
    drained(long, 20)


def test_at_the_end_what_waits_is_let_go_and_a_later_wish_is_done(one: Beside) -> None:
    done: list[str] = []
    go = held_up(one)
    for n in range(50):
        one.wish(n, lambda: done.append("old"))
    beside.end_all()
    assert one.waiting() == []
    one.wish(7, lambda: done.append("new"))
    go.set()
    drained(one)
    assert done == ["new"]
    assert not [n for n in range(50) if one.has(n)]


def test_what_the_end_breaks_is_no_fault(one: Beside, caplog: pytest.LogCaptureFixture) -> None:
    begun, go = threading.Event(), threading.Event()
    one.wish("quay", lambda: (begun.set(), go.wait(60), 1 / 0))
    assert begun.wait(20)
    with caplog.at_level(logging.ERROR, "rough_draw.beside"):
        one.end()
        go.set()
        drained(one)
    assert caplog.text == ""
