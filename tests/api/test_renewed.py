"""What may be some seconds old is given at once and made anew beside; what rests on another ground is waited for."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable

import pytest

from rough_draw.api import renewed
from rough_draw.api.renewed import Renewed
from rough_draw.text.reader import Reader, reader, reading_as
from tests.api.test_beside import drained, held_up


def _counted() -> tuple[Callable[[], int], list[str]]:
    made: list[str] = []

    def make() -> int:
        made.append(threading.current_thread().name)
        return len(made)

    return make, made


def test_the_last_one_is_given_and_the_next_made_beside_once() -> None:
    rows: Renewed[int] = Renewed(0.05, 60.0)
    make, made = _counted()
    assert [rows.of("a", 1, make) for _ in range(5)] == [1] * 5
    time.sleep(0.1)
    go = held_up(renewed._beside)
    assert [rows.of("a", 1, make) for _ in range(5)] == [1] * 5
    go.set()
    drained(renewed._beside)
    assert rows.of("a", 1, make) == 2
    assert made[0] == threading.current_thread().name
    assert made[1].startswith("renewed")
    assert len(made) == 2


def test_another_ground_or_too_great_an_age_is_waited_for() -> None:
    rows: Renewed[int] = Renewed(0.05, 0.2)
    make, made = _counted()
    assert rows.of("a", "one", make) == 1
    assert rows.of("a", "two", make) == 2
    assert rows.of("b", "two", make) == 3
    time.sleep(0.25)
    assert rows.of("a", "two", make) == 4
    assert set(made) == {threading.current_thread().name}


def test_what_was_begun_on_an_older_ground_never_takes_the_place_of_what_is_so() -> None:
    rows: Renewed[str] = Renewed(0.01, 60.0)
    rows.of("a", 1, lambda: "old")
    time.sleep(0.03)
    begun, go = threading.Event(), threading.Event()

    def late() -> str:
        begun.set()
        assert go.wait(20)
        return "of the old ground"

    assert rows.of("a", 1, late) == "old"
    assert begun.wait(20)
    assert rows.of("a", 2, lambda: "new") == "new"
    go.set()
    drained(renewed._beside)
    assert rows.of("a", 2, lambda: "newer") == "new"


def test_what_fails_beside_fails_for_the_next_who_asks_and_not_for_ever() -> None:
    rows: Renewed[int] = Renewed(0.01, 60.0)

    def fails() -> int:
        raise ValueError("no")

    assert rows.of("a", 1, lambda: 7) == 7
    time.sleep(0.03)
    assert rows.of("a", 1, fails) == 7
    drained(renewed._beside)
    with pytest.raises(ValueError, match="no"):
        rows.of("a", 1, fails)
    assert rows.of("a", 1, lambda: 8) == 8


def test_it_is_made_for_who_asked() -> None:
    rows: Renewed[str] = Renewed(0.01, 60.0)
    for locale in ("en-GB", "en-US", "en-GB"):
        with reading_as(Reader(locale=locale)):
            rows.of("a", 1, lambda: reader().locale)
        time.sleep(0.03)
        drained(renewed._beside)
    assert rows.of("a", 1, lambda: "nobody") == "en-GB"
