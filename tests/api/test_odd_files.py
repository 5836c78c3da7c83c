"""Job files with something odd in them: refused with its place, or taken; and of what is taken no page falls."""

from __future__ import annotations

import copy
import json
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from rough_draw.core.sheet.job import Job
from rough_draw.standins.scripted_run import play
from rough_draw.standins.world import random_truth
from rough_draw.store import photos
from tests.api.test_one_bad_job import SHARED
from tests.depth import drawn

ODD: list[Any] = [
    *("", "x" * 90, "\u202e\x00", "🙂", "../../x", "nan", "12", "hose", "pump-on", "isolate"),
    *(0, -1, 0.5, -40.0, 1e9, 1e300, True, None, [], {}),
]
BEGUN = 1_700_000_000.0
PARTS = ("job", "job", "job", "touches", "readings", "photos", "weights")


def leaves(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Places of all values in a document, and of what holds them."""
    inner = value.items() if isinstance(value, dict) else enumerate(value[:6]) if isinstance(value, list) else ()
    for k, v in inner:
        yield (*path, k)
        yield from leaves(v, (*path, k))


@st.composite
def oddities(draw: st.DrawFn, file: dict[str, Any]) -> dict[str, Any]:
    """A file with something odd in one to three places."""
    made = copy.deepcopy(file)
    for _ in range(draw(st.integers(1, 3))):
        part = draw(st.sampled_from(PARTS))
        path = (part, *draw(st.sampled_from(sorted(leaves(made[part]), key=str) or [()])))
        holder = made
        for step in path[:-1]:
            holder = holder[step]
        holder[path[-1]] = draw(st.sampled_from(ODD))
    return made


@pytest.fixture(scope="module")
def file() -> dict[str, Any]:
    """A job drawn and held in the simulated world, with a picture and a weight."""
    job = Job()
    played = play(job, random_truth(7), 12.0, below=0.9)
    readings = played.readings[::10]
    return {
        "format": "rough-draw/job-file",
        "version": 4,
        "key": "odd-file",
        "job": job.model_dump(mode="json"),
        "touches": [{"kind": t.kind, "at": BEGUN + t.at, "note": t.note} for t in played.touches],
        "readings": [{"gauge": "Gauge 1", "at": [BEGUN + t for t, _ in readings], "pa": [p for _, p in readings]}],
        "photos": [{"sha256": "0" * 64, "about": "oil", "caption": "the glass", "at": BEGUN, "width": 9, "height": 9}],
        "weights": [{"at": BEGUN, "kg": 9.0, "simulated": False}],
    }


def paths(client: TestClient) -> list[str]:
    """What can be asked of a job, but for streams."""
    described = client.get("/api/openapi.json").json()["paths"]
    return [p for p, v in described.items() if p.startswith("/api/jobs/{key}") and p.count("{") == 1 and "get" in v]


@settings(max_examples=drawn(25), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_whatever_stands_in_a_file_no_page_falls(client: TestClient, file: dict[str, Any], data: st.DataObject) -> None:
    odd = data.draw(oddities(file))
    sent = {"file": ("job.json", json.dumps(odd).encode())}
    answer = client.post("/api/job-files?again=true", files=sent)
    if answer.status_code != 201:
        assert answer.status_code == 422
        assert answer.json()["detail"]
        return
    key = answer.json()["key"]
    asked = [p for p in paths(client) if not p.endswith("stream")]
    for path in data.draw(st.lists(st.sampled_from(asked), min_size=6, max_size=6, unique=True)):
        assert client.get(path.replace("{key}", key)).status_code < 500, path
    for path in SHARED:
        assert client.get(f"/api/{path}").status_code == 200, path
    assert client.delete(f"/api/jobs/{key}").status_code == 204


@pytest.mark.parametrize("about", ["", "the door", "step", "7", "lid:" + "x" * 70])
def test_a_picture_of_something_else_stands_in_the_report_in_its_own_words(
    client: TestClient, file: dict[str, Any], about: str
) -> None:
    assert not photos.ABOUT.fullmatch(about)
    odd = copy.deepcopy(file)
    odd["photos"][0]["about"] = about
    answer = client.post("/api/job-files?again=true", files={"file": ("job.json", json.dumps(odd).encode())})
    assert answer.status_code == 201, answer.text
    assert client.get(f"/api/jobs/{answer.json()['key']}/record.pdf").status_code == 200
