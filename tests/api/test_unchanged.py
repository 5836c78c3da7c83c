"""An answer that a page has already is not sent again; one that has changed is, whoever reads it in whatever units."""

from __future__ import annotations

import pytest
from fastapi.testclient import TestClient

from rough_draw.core.sheet.job import Job, Party
from rough_draw.store import jobs


def _again(client: TestClient, path: str, tag: str) -> int:
    return client.get(path, headers={"If-None-Match": tag}).status_code


@pytest.mark.parametrize("path", ["/api/catalogue", "/api/jobs", "/api/settings", "/api/kit"])
def test_the_same_answer_is_a_304_without_a_body(client: TestClient, path: str) -> None:
    first = client.get(path)
    tag = first.headers["etag"]
    again = client.get(path, headers={"If-None-Match": f'W/"other", {tag}'})
    assert (again.status_code, again.content) == (304, b"")
    assert again.headers["etag"] == tag
    assert again.headers["cache-control"] == "no-store"
    assert "content-length" not in again.headers
    assert _again(client, path, 'W/"other"') == 200
    assert _again(client, path, "") == 200


def test_what_has_changed_is_sent_and_so_is_what_was_changed_back(client: TestClient) -> None:
    made = client.post("/api/jobs", json={"party": {"customer": "Alder Lane"}}).json()
    path = f"/api/jobs/{made['key']}"
    tag = client.get(path).headers["etag"]
    job = {**made["job"], "party": {**made["job"]["party"], "customer": "Alder Lane West"}}
    client.put(path, json={"job": job, "version": made["version"]})
    second = client.get(path, headers={"If-None-Match": tag})
    assert second.json()["job"]["party"]["customer"] == "Alder Lane West"
    assert _again(client, path, second.headers["etag"]) == 304


def test_other_units_are_another_answer(client: TestClient) -> None:
    made = client.post("/api/jobs", json={"party": {"customer": "Alder Lane"}}).json()
    path = f"/api/jobs/{made['key']}/checks"
    tag = client.get(path).headers["etag"]
    now = client.get("/api/settings").json()["settings"]
    client.put("/api/settings", json={**now, "pressure": "pa", "gauge": "bar"})
    assert _again(client, path, tag) == 200


def test_what_is_no_whole_answer_has_no_tag(client: TestClient) -> None:
    assert "etag" not in client.get("/api/jobs/none").headers
    assert client.get("/api/jobs/none", headers={"If-None-Match": "*"}).status_code == 404
    assert "etag" not in client.post("/api/jobs", json={"party": {"customer": "A"}}).headers
    assert client.get("/api/jobs.json", headers={"If-None-Match": '"\u00e9"'.encode("latin-1")}).status_code < 500


def test_the_yard_is_shared_and_never_older_than_what_was_done(client: TestClient) -> None:
    """However soon somebody asks again after a change, by whatever way it came: a step, a sheet, the store itself."""
    key = client.post("/api/jobs", json={"party": {"customer": "Alder Lane"}}).json()["key"]
    for n in range(5):
        stored = client.get(f"/api/jobs/{key}").json()
        job = {**stored["job"], "party": {**stored["job"]["party"], "customer": f"Alder Lane {n}"}}
        client.put(f"/api/jobs/{key}", json={"job": job, "version": stored["version"]})
        for path in ("/api/jobs", f"/api/jobs?only={key}"):
            (row,) = client.get(path).json()
            assert row["customer"] == f"Alder Lane {n}"
    jobs.create(Job(party=Party(customer="Behind its back")))
    assert {r["customer"] for r in client.get("/api/jobs").json()} == {"Alder Lane 4", "Behind its back"}
    client.delete(f"/api/jobs/{key}")
    assert [r["customer"] for r in client.get("/api/jobs").json()] == ["Behind its back"]
