"""The race over the wire: what it wants, what it says, what it refuses."""

from __future__ import annotations

from typing import Any

import pytest
from fastapi.testclient import TestClient

SHEET = {"scope": {"template": "cooler", "condition": "new-dry"}}


def _choice(client: TestClient, pattern: str, last: bool = False) -> dict[str, Any]:
    rigs = client.post("/api/practice/rigs", json=SHEET).json()
    parts: dict[str, int] = {}
    van = list(reversed(rigs["van"])) if last else rigs["van"]
    for s in next(r for r in rigs["rigs"] if r["pattern"] == pattern)["slots"]:
        parts[s["slot"]] = next(v["id"] for v in van if v["kind"] == s["kind"] and v["id"] not in parts.values())
    return {"pattern": pattern, "parts": parts}


def test_both_laps_come_back_in_their_order(client: TestClient) -> None:
    rigs = [_choice(client, "quarter-hoses", last=True), _choice(client, "two-hoses")]
    out = client.post("/api/practice/races", json={"sheet": SHEET, "rigs": rigs}).json()
    thin, wide = out["laps"]
    assert wide["down_at"] < thin["down_at"]
    assert wide["path"]["at"][0] < wide["path"]["at"][-1] <= wide["end"]
    assert len(wide["path"]["at"]) == len(wide["path"]["shown"]) == len(wide["path"]["highest"])
    assert (wide["right"], wide["said"]) == (True, wide["truly"])
    assert 0 < out["target_pa"] < 100


@pytest.mark.parametrize(
    ("body", "place"),
    [
        ({"hidden": {"shut": ["nowhere"]}}, "hidden.shut"),
        ({"hidden": {"faults": [{"key": "water", "severity": 99}]}}, "hidden.faults.0.severity"),
        ({"rigs": []}, "rigs"),
        ({"rigs": [{"pattern": "no-such", "parts": {}}]}, ""),
        ({"rigs": [{"pattern": "two-hoses", "parts": {"pump": 4}}]}, ""),
        ({"sheet": {"scope": {"template": "cooler", "ambient_c": 900}}}, "sheet.scope.ambient_c"),
    ],
)
def test_what_cannot_be_raced_is_said(client: TestClient, body: dict[str, Any], place: str) -> None:
    asked = {"sheet": SHEET, "rigs": [_choice(client, "two-hoses")], **body}
    answer = client.post("/api/practice/races", json=asked)
    assert answer.status_code == 422
    problem = answer.json()
    assert problem["detail"]
    if place:
        assert place in {f["place"] for f in problem["faults"]}
