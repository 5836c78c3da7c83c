"""The volume that the pump saw: said in the draw, judged on in the hold, on the report; worked out once."""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient

from rough_draw.api.record import routes
from rough_draw.api.run import volume
from rough_draw.core.engine.network import Network
from rough_draw.core.sheet.job import Job, Party
from rough_draw.core.sheet.scope import Scope
from rough_draw.standins.world import Truth, World
from rough_draw.store.report.record import Record
from tests import builders
from tests.one_app import app_on


class Third(World):
    """A world whose system is a third of its sheet."""

    def _network(self) -> Network:
        net = super()._network()
        nodes = tuple(replace(n, volume=n.volume / 3.0) if n.group == "system" else n for n in net.nodes)
        return replace(net, nodes=nodes)


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "volume.sqlite3")) as client:
        yield client


def drawn(api: TestClient, kind: type[World], hold_min: float = 0.0) -> str:
    """A draw of twenty minutes that ends now, with a hold where one is asked for."""
    job = Job(party=Party(customer="Quay", unit="Store"), scope=Scope(condition="new-dry"), rig=builders.one_hose())
    made = api.post("/api/jobs", content=job.model_dump_json(), headers={"content-type": "application/json"})
    key = str(made.json()["key"])
    world = kind(job, Truth(seed=5))
    world.touch("pump-on")
    start = time.time() - 1200.0 - 60.0 * hold_min
    rows = []
    for t in np.arange(2.0, 1200.0 + 60.0 * hold_min, 2.0):
        if hold_min and world.time < 1200.0 <= t:
            world.touch("isolate")
            world.touch("pump-off")
        world.advance(float(t))
        rows.append({"at": start + float(t), "pa": world.read(), "key": f"{t:.0f}"})
    touches = [("pump-on", 0.0), *([("isolate", 1200.0), ("pump-off", 1203.0)] if hold_min else [])]
    for name, at in touches:
        api.post(f"/api/jobs/{key}/touches", json={"kind": name, "at": start + at})
    assert api.post(f"/api/jobs/{key}/readings", json={"gauge": "Gauge 1", "readings": rows}).status_code == 201
    return key


def test_in_the_draw_it_is_said_with_how_to_see_it(api: TestClient) -> None:
    live = api.get(f"/api/jobs/{drawn(api, Third)}/live").json()
    assert "the sheet has" in live["volume"]
    assert "magnet" in live["volume_how"]
    assert api.get(f"/api/jobs/{drawn(api, World)}/live").json()["volume"] is None


def test_a_hold_is_judged_on_it_and_says_so(api: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    key = drawn(api, Third, hold_min=20)
    sheet = drawn(api, World, hold_min=20)
    v, usual = (api.get(f"/api/jobs/{k}/verdict").json() for k in (key, sheet))
    assert v["volume_l"]["value"] < 0.6 * usual["volume_l"]["value"]
    assert any("Judged on" in r for r in v["reasons"])
    assert not any("Judged on" in r for r in usual["reasons"])
    printed: list[Record] = []
    monkeypatch.setattr(routes, "render", lambda r: printed.append(r) or b"%PDF")
    assert api.get(f"/api/jobs/{key}/record.pdf").status_code == 200
    assert [m.key for m in printed[0].judged_on] == ["volume-judged"]


def test_it_is_worked_out_once(api: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    key = drawn(api, Third)
    made: list[int] = []
    plain = volume.volume_seen

    def counted(*args: object, **more: object) -> object:
        made.append(1)
        return plain(*args, **more)  # type: ignore[arg-type]

    monkeypatch.setattr(volume, "volume_seen", counted)
    for _ in range(3):
        api.get(f"/api/jobs/{key}/live")
    row = {"at": time.time(), "pa": 20.0, "key": "late"}
    api.post(f"/api/jobs/{key}/readings", json={"gauge": "Gauge 1", "readings": [row]})
    api.get(f"/api/jobs/{key}/live")
    assert len(made) == 1
