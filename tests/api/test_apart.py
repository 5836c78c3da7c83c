"""Work in a process beside: what it keeps, what it raises, and how it ends."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest

from rough_draw.api.apart import YIELDS, Apart, Gone, end_all
from rough_draw.api.run import fits
from rough_draw.api.run.fitting import Asked, told
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from tests.browser.waits import until
from tests.depth import first

kept: list[int] = []


def keep(n: int) -> list[int]:
    kept.append(n)
    return kept


def whoami() -> tuple[int, int]:
    return os.getpid(), os.getpriority(os.PRIO_PROCESS, 0)


def refuse(words: str) -> None:
    raise ValueError(words)


def unhandable() -> threading.Lock:
    return threading.Lock()


def slow(file: str) -> None:
    """Say so, and be at it for long."""
    Path(file).write_text(str(os.getpid()))
    time.sleep(120)


def alive(pid: int) -> bool:
    """Whether a process runs; one that nobody has asked after since its end does not."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except FileNotFoundError:
        return False


@pytest.fixture
def apart() -> Iterator[Apart]:
    one = Apart()
    yield one
    one.end()


def test_works_are_done_in_one_process_that_keeps_what_they_keep_and_yields(apart: Apart) -> None:
    first, nice = apart.ask(whoami)
    assert first != os.getpid()
    assert nice == min(19, os.getpriority(os.PRIO_PROCESS, 0) + YIELDS)
    assert apart.ask(keep, 1) == [1]
    assert apart.ask(keep, n=2) == [1, 2]
    assert apart.ask(whoami)[0] == first
    assert kept == []


def test_what_a_work_raises_is_raised_here_and_the_next_is_done(apart: Apart) -> None:
    with pytest.raises(ValueError, match="no such quay"):
        apart.ask(refuse, "no such quay")
    with pytest.raises(RuntimeError, match="pickle"):
        apart.ask(unhandable)
    assert apart.ask(keep, 3) == [3]


def test_of_many_who_ask_at_once_each_gets_its_own_answer(apart: Apart) -> None:
    found: dict[int, list[int]] = {}
    asking = [threading.Thread(target=lambda n=n: found.__setitem__(n, apart.ask(keep, n))) for n in range(12)]  # type: ignore[misc]
    for t in asking:
        t.start()
    for t in asking:
        t.join(60)
    assert {n: said[-1] for n, said in found.items()} == {n: n for n in range(12)}
    assert sorted(len(said) for said in found.values()) == list(range(1, 13))


def test_one_that_ends_under_its_work_says_so_and_the_next_ask_begins_another(apart: Apart, tmp_path: Path) -> None:
    gone: list[BaseException] = []

    def ask() -> None:
        try:
            apart.ask(slow, str(tmp_path / "pid"))
        except Gone as e:
            gone.append(e)

    for end in (lambda: os.kill(int((tmp_path / "pid").read_text()), signal.SIGKILL), apart.end, end_all):
        asking = threading.Thread(target=ask)
        asking.start()
        until((tmp_path / "pid").exists, bool)
        until((tmp_path / "pid").read_text, bool)
        end()
        asking.join(20)
        assert not asking.is_alive()
        assert not alive(int((tmp_path / "pid").read_text()))
        (tmp_path / "pid").unlink()
    assert len(gone) == 3
    assert apart.ask(keep, 4) == [4]


@pytest.mark.parametrize("ends_by", first(1, [signal.SIGKILL, signal.SIGTERM, signal.SIGINT]))
def test_it_ends_with_whoever_started_it_however_that_ends(ends_by: signal.Signals, tmp_path: Path) -> None:
    asks = (
        "import signal; from rough_draw.api.apart import Apart; from tests.api.test_apart import whoami;"
        "signal.signal(signal.SIGINT, signal.default_int_handler);"
        "print(Apart().ask(whoami)[0], flush=True); signal.pause()"
    )
    mine = subprocess.Popen([sys.executable, "-c", asks], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
    assert mine.stdout is not None
    pid = int(mine.stdout.readline())
    assert alive(pid)
    mine.send_signal(ends_by)
    mine.wait(20)
    until(lambda: not alive(pid), bool)
    mine.stdout.close()


def asked(ground: object = (1,)) -> Asked:
    at = np.arange(2.0, 300.0)
    pa = 9e4 * np.exp(-at / 40.0) + np.random.default_rng(1).uniform(20.0, 25.0, at.size)
    return Asked(
        key="quay",
        ground=ground,
        job=Job(),
        touches=[Touch("pump-on", 0.0)],
        start=0.0,
        ballast_stays=False,
        at=at,
        pa=pa,
        beside={},
        threads=1,
    )


def members(of: Asked) -> int:
    answer = told(of).answer
    assert answer is not None
    return answer.members


def test_a_fit_is_the_same_there_as_here_grows_and_begins_anew_on_another_ground(apart: Apart) -> None:
    here = [told(asked()) for _ in range(2)]
    there = [apart.ask(told, asked()) for _ in range(2)]
    for mine, theirs in zip(here, there, strict=True):
        assert mine.answer is not None
        assert theirs.answer is not None
        assert theirs.answer.members == mine.answer.members
        np.testing.assert_allclose(theirs.answer.band, mine.answer.band)
    grown = [apart.ask(members, asked()) for _ in range(2)]
    assert grown[0] > here[0].answer.members  # type: ignore[union-attr]
    assert apart.ask(members, asked(ground=(2,))) == here[0].answer.members  # type: ignore[union-attr]


def test_a_fit_whose_process_ends_is_none_until_the_next_look(monkeypatch: pytest.MonkeyPatch, apart: Apart) -> None:
    monkeypatch.setattr(fits, "_apart", apart)
    kept = fits._Kept(made_of=(("", ()), False))
    fits._work(kept, asked(), (3, 1.0))
    answer = kept.answer
    assert answer is not None

    def ends(*_: object) -> None:
        raise Gone("ended")

    monkeypatch.setattr(apart, "ask", ends)
    fits._work(kept, asked(), (4, 2.0))
    assert kept.answer is answer
    assert kept.seen == (4, 2.0)
