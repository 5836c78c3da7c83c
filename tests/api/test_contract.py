"""The API's contract: what is described is what is answered, within its limits, and to nobody's harm."""

from __future__ import annotations

import json
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.core.sheet.templates import TEMPLATES
from tests.depth import first
from tests.one_app import app_on

ROOT = Path(__file__).parents[2]


@pytest.fixture(scope="module")
def api(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path_factory.mktemp("c") / "c.sqlite3")) as client:
        yield client


@pytest.fixture
def key(api: TestClient) -> str:
    return str(api.post("/api/jobs", json={"scope": {"condition": "new-dry"}}).json()["key"])


def test_the_description_is_the_published_one(api: TestClient) -> None:
    published = json.loads((ROOT / "docs" / "openapi.json").read_text())
    assert api.get("/api/openapi.json").json() == published


def test_every_route_is_described_and_tagged(api: TestClient) -> None:
    paths = api.get("/api/openapi.json").json()["paths"]
    assert len(paths) >= 20
    for path, methods in paths.items():
        assert path.startswith("/api/")
        for method, operation in methods.items():
            assert operation.get("tags"), (path, method)
            assert operation.get("description"), (path, method)


JUNK: list[Any] = [
    None,
    [],
    "text",
    42,
    {"version": "one", "job": {}},
    {"version": 1, "job": None},
    {"version": 1, "job": {"scope": []}},
    {"version": 1, "job": {"rig": {"paths": [{}] * 9}}},
    {"version": 1, "job": {"scope": {"ambient_c": "warm"}}},
    {"version": -1, "job": {}},
    {"version": 1e400 if False else 10**30, "job": {}},
]


@pytest.mark.parametrize("body", JUNK, ids=[str(i) for i in range(len(JUNK))])
def test_junk_is_answered_by_a_problem(api: TestClient, key: str, body: Any) -> None:
    for method, path in (
        ("put", f"/api/jobs/{key}"),
        ("post", f"/api/jobs/{key}/touches"),
        ("post", f"/api/jobs/{key}/readings"),
        ("post", f"/api/jobs/{key}/standin"),
    ):
        r = getattr(api, method)(path, json=body)
        assert r.status_code in (409, 422), (path, r.status_code)
        problem = r.json()
        assert problem["title"]
        assert problem["detail"]
        assert problem["status"] == r.status_code


@pytest.mark.parametrize(
    "raw", [b"", b"{", b"\xff\xfe\x00", b"[" * 5000, b'{"a":' * 500, b"null", b'"' + b"x" * 100_000 + b'"']
)
def test_raw_bytes_never_break_it(api: TestClient, key: str, raw: bytes) -> None:
    headers = {"content-type": "application/json"}
    for path in ("/api/jobs", "/api/plan", f"/api/jobs/{key}/touches"):
        r = api.post(path, content=raw, headers=headers)
        assert r.status_code < 500
        assert r.status_code >= 400


@pytest.mark.parametrize(
    "reading",
    [
        {"at": -1, "pa": 1, "key": "a"},
        {"at": 1, "pa": -1, "key": "a"},
        {"at": 1, "pa": 200_000, "key": "a"},
        {"at": 1, "pa": 1, "key": ""},
        {"at": 1, "pa": 1, "key": "x" * 65},
        {"at": 5e9, "pa": 1, "key": "a"},
        {"at": 1, "pa": "low", "key": "a"},
        {"pa": 1, "key": "a"},
        {"at": 1, "key": "a"},
    ],
)
def test_impossible_readings_are_refused_whole(api: TestClient, key: str, reading: dict[str, Any]) -> None:
    good = {"at": 10, "pa": 50, "key": "good"}
    r = api.post(f"/api/jobs/{key}/readings", json={"gauge": "g", "readings": [good, reading]})
    assert r.status_code == 422
    assert r.json()["faults"]
    assert api.get(f"/api/jobs/{key}/readings").json() == []


def test_too_many_readings_at_once_are_refused(api: TestClient, key: str) -> None:
    rows = [{"at": k, "pa": 1.0, "key": str(k)} for k in range(5001)]
    assert api.post(f"/api/jobs/{key}/readings", json={"gauge": "g", "readings": rows}).status_code == 422


def test_a_body_that_is_too_large_is_refused_at_once(api: TestClient) -> None:
    r = api.post("/api/job-files", content=b"", headers={"content-length": str(10**9), "content-type": "text/plain"})
    assert r.status_code == 413
    assert "64 MB" in r.json()["detail"]


@pytest.mark.parametrize(
    "path", ["/../etc/passwd", "/%2e%2e/%2e%2e/etc/passwd", "/assets/../../app.py", "/icon.svg/../x"]
)
def test_no_way_out_of_the_static_folder(api: TestClient, path: str) -> None:
    r = api.get(path)
    assert "root:" not in r.text
    assert "create_app" not in r.text


def test_wrong_methods_are_told(api: TestClient, key: str) -> None:
    for method, path in (("patch", f"/api/jobs/{key}"), ("put", "/api/health"), ("delete", "/api/catalogue")):
        r = getattr(api, method)(path)
        assert r.status_code == 405
        assert r.headers["content-type"] == "application/problem+json"


def test_long_runs_are_thinned_for_the_page(api: TestClient, key: str) -> None:
    for start in range(0, 20_000, 5000):
        rows = [{"at": 1000 + k, "pa": 50.0 + (k % 7), "key": f"k{k}"} for k in range(start, start + 5000)]
        assert api.post(f"/api/jobs/{key}/readings", json={"gauge": "g", "readings": rows}).json()["added"] == 5000
    series = api.get(f"/api/jobs/{key}/readings").json()[0]
    assert series["total"] == 20_000
    assert series["thinned"]
    assert len(series["at"]) <= 3100
    assert min(series["pa"]) == 50.0
    assert max(series["pa"]) == 56.0


def test_many_hands_at_once(api: TestClient, key: str) -> None:
    def work(n: int) -> set[int]:
        codes = set()
        for k in range(6):
            codes.add(api.post(f"/api/jobs/{key}/touches", json={"kind": "note", "note": f"{n}-{k}"}).status_code)
            body = {"gauge": f"g{n}", "readings": [{"at": 100 * n + k, "pa": 9.0, "key": f"{n}-{k}"}]}
            codes.add(api.post(f"/api/jobs/{key}/readings", json=body).status_code)
            codes.add(api.get(f"/api/jobs/{key}/readings").status_code)
        return codes

    with ThreadPoolExecutor(5) as pool:
        codes = set().union(*pool.map(work, range(5)))
    assert codes == {200, 201}
    assert len(api.get(f"/api/jobs/{key}/touches").json()) == 30
    assert sum(s["total"] for s in api.get(f"/api/jobs/{key}/readings").json()) == 30


def test_every_answer_keeps_the_same_doors_shut(api: TestClient, key: str) -> None:
    for path in ("/", "/api/health", f"/api/jobs/{key}", "/api/none"):
        headers = api.get(path).headers
        policy = headers["content-security-policy"]
        assert "default-src 'self'" in policy
        assert "script-src 'self'" in policy
        assert "frame-ancestors 'none'" in policy
        assert headers["referrer-policy"] == "no-referrer"


@pytest.mark.parametrize("kind", first(5, sorted(TEMPLATES)))
def test_every_kind_of_system_is_planned(api: TestClient, kind: str) -> None:
    job = {"scope": {"template": kind, "condition": "new-dry"}}
    key = api.post("/api/jobs", json=job).json()["key"]
    for path in (
        "system",
        "plan",
        "live",
        "stages",
        "checks",
        "readings",
        "touches",
        "verdict",
        "record.pdf",
        "job.json",
        "changes",
        "patterns",
        "best",
        "compare",
        "carry",
        "day",
        "day.ics",
        "rig.svg",
        "rig.json",
    ):
        assert api.get(f"/api/jobs/{key}/{path}").status_code == 200, path
