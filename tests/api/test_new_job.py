"""What a new job begins with: proposed from a few answers, and nothing stored until it is opened."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from rough_draw.core.sheet.setups import PATTERNS
from rough_draw.core.sheet.templates import TEMPLATES
from tests.one_app import app_on


@pytest.fixture(scope="module")
def api(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path_factory.mktemp("new") / "new.sqlite3")) as client:
        yield client


@pytest.mark.parametrize("template", TEMPLATES)
def test_every_system_gets_a_rig_that_can_be_planned(api: TestClient, template: str) -> None:
    found = api.post("/api/proposal", json={"template": template, "condition": "new-dry"})
    assert found.status_code == 200, found.text
    job = found.json()["job"]
    assert job["scope"]["template"] == template
    assert job["rig"]["pattern"] in PATTERNS
    key = api.post("/api/jobs", json=job).json()["key"]
    assert api.get(f"/api/jobs/{key}/plan?first=true").status_code == 200


def test_nothing_is_stored_until_it_is_opened(api: TestClient) -> None:
    before = {r["key"] for r in api.get("/api/jobs").json()}
    api.post("/api/proposal", json={"template": "cooler"})
    assert {r["key"] for r in api.get("/api/jobs").json()} == before


@pytest.mark.parametrize(
    ("condition", "school"), [("flooded", "triple"), ("compressor-burnt", "triple"), ("new-dry", "deep-and-flat")]
)
def test_what_got_in_decides_the_standard(api: TestClient, condition: str, school: str) -> None:
    found = api.post("/api/proposal", json={"template": "cooler", "condition": condition}).json()
    assert found["job"]["criterion"]["school"] == school
    assert found["job"]["scope"]["condition"] == condition
    assert found["standard_why"]


def test_the_refrigerant_asked_for_is_on_the_sheet(api: TestClient) -> None:
    found = api.post("/api/proposal", json={"template": "cooler", "refrigerant": "R-290"}).json()
    assert found["job"]["scope"]["refrigerant"] == "R-290"
    usual = api.post("/api/proposal", json={"template": "cooler"}).json()
    assert usual["job"]["scope"]["refrigerant"] == TEMPLATES["cooler"].scope.get("refrigerant", "R-448A")


def test_what_is_in_the_van_is_proposed(api: TestClient) -> None:
    bare = api.post("/api/proposal", json={"template": "freezer"}).json()
    assert all(p.get("kit") is None for p in bare["job"]["rig"]["parts"])
    for kind, name, values in (
        ("pump", "Big", {"plate_cfm": 10.0}),
        ("hose", "Wide one", {"size": "3/4 in"}),
        ("hose", "Wide two", {"size": "3/4 in"}),
        ("tool", "Puller one", {}),
        ("tool", "Puller two", {}),
        ("gauge", "Bead", {"make": "thermistor"}),
    ):
        assert api.post("/api/kit", json={"kind": kind, "name": name, "values": values}).status_code == 201
    found = api.post("/api/proposal", json={"template": "freezer"}).json()
    names = {p["name"] for p in found["job"]["rig"]["parts"]}
    assert "Big" in names
    assert names & {"Wide one", "Wide two"}
    assert found["setup_why"] != bare["setup_why"]


def test_what_is_no_system_is_refused(api: TestClient) -> None:
    assert api.post("/api/proposal", json={"template": "no-such"}).status_code == 404
    assert api.post("/api/proposal", json={"own": 999}).status_code == 404
    assert api.post("/api/proposal", json={"template": "cooler", "condition": "cursed"}).status_code == 422
