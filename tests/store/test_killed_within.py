"""Killed before any statement of an import, a seal, an amendment, a removal or a migration: all of it, or nothing.

Each is run in a process of its own that is killed, as by a power cut, just before its n-th statement; what the file is
found to hold then is what it held before, or what it holds after the whole.
"""

from __future__ import annotations

import os
import shutil
import signal
import sqlite3
from collections.abc import Callable
from pathlib import Path

import pytest

from rough_draw.core.sheet.job import Job, Party
from rough_draw.store import job_files, jobs, sealing, weights
from rough_draw.store.database import open_database
from tests.builders import one_hose
from tests.depth import times

MOST = times(12, 50)
"""Moments at which each is killed, spread over all; `make soak` asks for more."""
EARLIER = Path(__file__).parent / "earlier"
Deed = Callable[[], object]
Held = dict[str, int]


def _made(path: Path) -> str:
    """A database with one job that has something of everything; its key."""
    db = open_database(path)
    stored = jobs.create(Job(party=Party(customer="Alder Lane", unit="Cold room 2"), rig=one_hose()))
    for n, kind in enumerate(("pump-on", "ballast-shut", "isolate", "pump-off")):
        jobs.add_touch(stored.key, kind, 100.0 * n)
    rows = [jobs.NewReading("Gauge 1", float(n), 100.0 + n) for n in range(300)]
    jobs.add_readings(stored.key, rows, "typed")
    weights.add(stored.key, [weights.Weighed(3.0, 1.5), weights.Weighed(4.0, 1.6)])
    db.close()
    return stored.key


def _dump(path: Path) -> str:
    with sqlite3.connect(path) as db:
        return "\n".join(db.iterdump())


def _held(path: Path) -> Held:
    """How much of everything is there."""
    with sqlite3.connect(path) as db:
        tables = [r[0] for r in db.execute("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name")]
        return {t: db.execute(f'SELECT count(*) FROM "{t}"').fetchone()[0] for t in tables}


def _run(path: Path, deed: Deed, at: int | None, opening: bool) -> int:
    """Do it in a process that is killed before statement ``at``; how it ended, or how many statements it took."""
    told, tells = os.pipe()
    child = os.fork()
    if child == 0:
        # Nothing of the tests' own goes on in here: it ends in one of two ways, neither of which comes back.
        count = 0

        def stepped(_: str) -> None:
            nonlocal count
            count += 1
            if count == at:
                os.kill(os.getpid(), signal.SIGKILL)

        connect = sqlite3.connect

        def watched(*args: object, **more: object) -> sqlite3.Connection:
            made = connect(*args, **more)  # type: ignore[call-overload]
            made.set_trace_callback(stepped)
            return made  # type: ignore[no-any-return]

        try:
            if opening:
                sqlite3.connect = watched  # type: ignore[assignment]
                open_database(path).close()
            else:
                db = open_database(path)
                db.connect(reuse_if_open=True)
                db.connection().set_trace_callback(stepped)
                deed()
            os.write(tells, count.to_bytes(4, "big"))
            os._exit(0)
        finally:
            os._exit(1)
    os.close(tells)
    _, status = os.waitpid(child, 0)
    counted = os.read(told, 4)
    os.close(told)
    if at is None:
        assert status == 0, "it works where nobody kills it"
        return int.from_bytes(counted, "big")
    return status


def _points(count: int) -> list[int]:
    """Statements before which it is killed: the first and last few, and some between."""
    if count <= MOST:
        return list(range(1, count + 1))
    ends = max(2, MOST // 4)
    between = range(ends, count - ends, max(1, (count - 2 * ends) // (MOST - 2 * ends)))
    return sorted({*range(1, ends + 1), *between, *range(count - ends + 1, count + 1)})


def _exactly(path: Path, tmp_path: Path, deed: Deed, whole: Callable[[], None], opening: bool = False) -> None:
    before, was = _held(path), _dump(path)
    done = tmp_path / "done.sqlite3"
    shutil.copy(path, done)
    count = _run(done, deed, None, opening)
    after = _held(done)
    assert count > 3
    found = set()
    for n in _points(count):
        cut = tmp_path / f"cut-{n}.sqlite3"
        shutil.copy(path, cut)
        assert os.WTERMSIG(_run(cut, deed, n, opening)) == signal.SIGKILL
        # Whoever opens it next finds the one or the other.
        db = open_database(cut)
        if opening:
            assert _held(cut) == after, n
            found.add("after")
        elif _held(cut) == after and after != before:
            found.add("after")
            whole()
        else:
            assert _dump(cut) == was, n
            found.add("before")
        with sqlite3.connect(cut) as looked:
            assert looked.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        db.close()
        cut.unlink()
    assert found & {"before", "after"}


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "whole.sqlite3"


def test_an_import(path: Path, tmp_path: Path) -> None:
    key = _made(tmp_path / "source.sqlite3")
    open_database(tmp_path / "source.sqlite3")
    file = job_files.dump(key)
    open_database(path).close()

    def whole() -> None:
        assert job_files.dump(key).model_dump(exclude={"version"}) == file.model_dump(exclude={"version"})

    _exactly(path, tmp_path, lambda: job_files.load(file), whole)


def test_a_seal(path: Path, tmp_path: Path) -> None:
    key = _made(path)

    def whole() -> None:
        assert jobs.get(key).sealed_at is not None
        assert sealing.faults(key) == []

    _exactly(path, tmp_path, lambda: sealing.seal(key, {"by": "Mara Tollivet"}, None, 5000.0), whole)


def test_an_amendment_and_a_visit(path: Path, tmp_path: Path) -> None:
    key = _made(path)
    db = open_database(path)
    sealing.seal(key, {"by": "Mara Tollivet"}, None, 5000.0)
    db.close()

    def whole() -> None:
        assert sealing.faults(key) == []
        assert len(sealing.chain_of(key)) > 1

    wrong = {"by": "M. T.", "what": "unit", "before": "a", "after": "b", "reason": "typed wrongly"}
    _exactly(path, tmp_path, lambda: sealing.amend(key, wrong, 6000.0), whole)
    visit = {"by": "M. T.", "at": 7000.0, "note": "still dry"}
    _exactly(path, tmp_path, lambda: sealing.add_visit(key, visit, 7000.0), whole)


def test_a_removal(path: Path, tmp_path: Path) -> None:
    key = _made(path)

    def whole() -> None:
        with pytest.raises(jobs.NotFound):
            jobs.get(key)

    _exactly(path, tmp_path, lambda: jobs.delete(key), whole)


@pytest.mark.parametrize("name", sorted(f.stem for f in EARLIER.glob("*.sql")))
def test_what_an_earlier_version_wrote_is_brought_up(path: Path, tmp_path: Path, name: str) -> None:
    """Killed in the middle of any step: the next who opens it goes on, and nothing is done twice."""
    with sqlite3.connect(path) as made:
        made.executescript((EARLIER / f"{name}.sql").read_text())
    _exactly(path, tmp_path, lambda: None, lambda: None, opening=True)


def test_a_new_file(path: Path, tmp_path: Path) -> None:
    sqlite3.connect(path).close()
    _exactly(path, tmp_path, lambda: None, lambda: None, opening=True)
