"""One server to a file: the second says so and ends, and a killed one leaves nothing behind."""

from __future__ import annotations

import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from rough_draw.cli.main import main
from rough_draw.store.server_lock import InUse, lock

HOLDS = """
import sys, time
from rough_draw.store.server_lock import lock
held = lock(sys.argv[1])
print("has it", flush=True)
time.sleep(60)
"""


def is_locked(file: Path) -> bool:
    try:
        lock(file).close()
    except InUse:
        return True
    return False


def test_a_second_is_told_who_has_it(tmp_path: Path) -> None:
    file = tmp_path / "jobs.sqlite3"
    with lock(file):
        assert is_locked(file)
        with pytest.raises(InUse):
            lock(file)
    assert not is_locked(file)
    with lock(file):
        pass


def test_a_killed_server_leaves_no_lock(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "jobs.sqlite3"
    with subprocess.Popen([sys.executable, "-c", HOLDS, str(file)], stdout=subprocess.PIPE, text=True) as other:
        assert other.stdout is not None
        assert other.stdout.readline().strip() == "has it"
        assert main(["serve", "--db", str(file), "--port", "0"]) == 2
        told = capsys.readouterr().err
        assert str(other.pid) in told
        assert "\n" not in told.strip(), "one line"
        assert main(["restore", str(tmp_path / "any.backup"), "--db", str(file)]) == 2
        assert "served" in capsys.readouterr().err
        other.send_signal(signal.SIGKILL)
        other.wait()
    end = time.monotonic() + 5
    while is_locked(file) and time.monotonic() < end:
        time.sleep(0.05)
    assert not is_locked(file)
