"""A server killed at random moments: what it has acknowledged is there when it comes back."""

from __future__ import annotations

import os
import random
import signal
import threading
import time
from pathlib import Path

import httpx

from tests.depth import times
from tests.serving import free_port, start_bare

KILLS = times(12, 50)
"""Kills in a row; `make soak` asks for 50."""


def _up(client: httpx.Client) -> None:
    for _ in range(400):
        try:
            client.get("/api/settings")
            return
        except httpx.TransportError:
            time.sleep(0.025)
    raise AssertionError("the server did not come up")


def test_no_acknowledged_reading_or_touch_is_lost_over_many_kills(tmp_path: Path) -> None:
    rng = random.Random(50)
    path, port = str(tmp_path / "kill.sqlite3"), free_port()
    readings: set[float] = set()
    touches: set[float] = set()
    key, at, cut_short = "", 1_000_000.0, 0
    with httpx.Client(base_url=f"http://127.0.0.1:{port}", timeout=5.0) as client:
        for _ in range(KILLS):
            server = start_bare(path, port)
            _up(client)
            key = key or client.post("/api/jobs", json={}).json()["key"]
            assert server.pid is not None
            # Another thread kills it, whatever is being asked for at that moment.
            threading.Timer(rng.uniform(0.02, 0.35), os.kill, (server.pid, signal.SIGKILL)).start()
            while True:
                at += 1.0
                try:
                    if at % 3 == 0:
                        got = client.post(f"/api/jobs/{key}/touches", json={"kind": "note", "note": "n", "at": at})
                        touches |= {at} if got.status_code == 201 else set()
                    else:
                        rows = [{"at": at + n / 8, "pa": 100.0 + n, "key": f"{at}-{n}"} for n in range(4)]
                        body = {"gauge": "typed", "readings": rows}
                        got = client.post(f"/api/jobs/{key}/readings", json=body)
                        readings |= {r["at"] for r in rows} if got.status_code in (200, 201) else set()  # type: ignore[misc]
                except httpx.TransportError:
                    cut_short += 1
                    break
            server.join(5)
        last = start_bare(path, port)
        _up(client)
        # By the job file: the trace's own answer is thinned where there are many.
        whole = client.get(f"/api/jobs/{key}/job.json").json()["readings"]
        found = {t for s in whole for t in s["at"]}
        noted = {t["at"] for t in client.get(f"/api/jobs/{key}/touches").json()}
        last.kill()
        last.join(5)
    assert len(readings) > 4 * KILLS, "too little was acknowledged to show anything"
    assert len(touches) > KILLS // 3
    assert cut_short == KILLS
    assert readings <= found
    assert touches <= noted
    # What was not acknowledged may be there, but whole: a request is one transaction.
    assert all(sum(t <= x < t + 1 for x in found) in (0, 4) for t in {float(int(x)) for x in found})
