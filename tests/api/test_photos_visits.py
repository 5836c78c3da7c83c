"""Pictures and follow-up visits by the API: kept, limited, sealed; a visit breaks no seal."""

from __future__ import annotations

import io
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from pypdf import PdfReader

from rough_draw.core.sheet.job import Job, Party
from rough_draw.store import job_files
from rough_draw.store.models import ChainRow, PhotoRow
from tests.one_app import app_on
from tests.store.test_photos import picture


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "api.sqlite3")) as client:
        yield client


@pytest.fixture
def key(api: TestClient) -> str:
    body = Job(party=Party(customer="Larkspur", unit="Cold room 1")).model_dump_json()
    made = api.post("/api/jobs", content=body, headers={"content-type": "application/json"})
    return str(made.json()["key"])


def send(api: TestClient, key: str, data: bytes | None = None, **fields: Any) -> Any:
    return api.post(f"/api/jobs/{key}/photos", files={"file": ("p.jpg", data or picture())}, data=fields)


def close(api: TestClient, key: str) -> None:
    left = api.get(f"/api/jobs/{key}/seal").json()["deviations"]
    body = {"by": "Mara Tollivet", "reasons": {d["key"]: "practice of the record" for d in left}}
    assert api.post(f"/api/jobs/{key}/seal", json=body).status_code == 201


def test_a_picture_comes_in_with_its_hand_and_goes_out(api: TestClient, key: str) -> None:
    person = api.post("/api/people", json={"name": "Ossi Brandt", "licence": ""}).json()
    api.cookies.set("rough_draw_person", str(person["id"] if "id" in person else person[-1]["id"]))
    made = send(api, key, about="check:power-off", caption="the lock")
    assert made.status_code == 201, made.text
    assert made.json()["hand"] == "Ossi Brandt"
    seen = api.get(f"/api/jobs/{key}/photos").json()
    assert [p["about"] for p in seen] == ["check:power-off"]
    shown = api.get(f"/api/jobs/{key}/photos/{seen[0]['sha256']}")
    assert shown.headers["content-type"] == "image/jpeg"
    assert shown.content.startswith(b"\xff\xd8")
    assert api.delete(f"/api/jobs/{key}/photos/{seen[0]['sha256']}").status_code == 204
    assert api.get(f"/api/jobs/{key}/photos").json() == []
    assert api.get(f"/api/jobs/{key}/photos/{seen[0]['sha256']}").status_code == 404


@pytest.mark.parametrize(
    ("data", "fields"),
    [(b"nothing", {}), (None, {"about": "elsewhere"}), (None, {"about": "x" * 90}), (None, {"at": "-1"})],
)
def test_what_cannot_be_kept_is_told(api: TestClient, key: str, data: bytes | None, fields: dict[str, str]) -> None:
    refused = send(api, key, data, **fields)
    assert refused.status_code == 422
    assert refused.json()["detail"]
    assert api.get(f"/api/jobs/{key}/photos").json() == []


def test_a_visit_is_added_to_a_sealed_record_only_and_breaks_no_seal(api: TestClient, key: str) -> None:
    visit = {"by": "Ossi Brandt", "note": "ran all night", "set_point_c": 4, "running": {"suction_kpa": 310}}
    assert api.post(f"/api/jobs/{key}/visits", json=visit).status_code == 409
    send(api, key, about="nameplate")
    close(api, key)
    assert send(api, key, about="oil").status_code == 409
    assert send(api, key, about="visit:1", caption="frost line").status_code == 201
    out = api.post(f"/api/jobs/{key}/visits", json=visit)
    assert out.status_code == 201, out.text
    seal = out.json()
    assert seal["whole"]
    (kept,) = seal["visits"]
    assert kept["by"] == "Ossi Brandt"
    assert kept["running"]["suction_kpa"] == 310
    assert len(kept["photos"]) == 1
    assert kept["days"] == pytest.approx(0.0, abs=0.01)
    second = api.post(f"/api/jobs/{key}/visits", json={"by": "Ossi Brandt"}).json()
    assert second["whole"]
    assert [len(v["photos"]) for v in second["visits"]] == [1, 0]
    archive = api.get(f"/api/jobs/{key}/job.zip").content
    copy = api.post("/api/job-files?again=true", files={"file": ("j.zip", archive)}).json()["key"]
    again = api.get(f"/api/jobs/{copy}/seal").json()
    assert again["whole"], again["faults"]
    assert len(again["visits"]) == 2
    document = json.loads(api.get(f"/api/jobs/{key}/job.json").content)
    assert job_files.verify(document)[1] == []
    assert api.get(f"/api/jobs/{key}/record.pdf").content.startswith(b"%PDF")


@pytest.mark.parametrize("what", ["note", "photo", "gone"])
def test_a_visit_that_was_changed_is_found(api: TestClient, key: str, what: str) -> None:
    close(api, key)
    send(api, key, about="visit:1")
    api.post(f"/api/jobs/{key}/visits", json={"by": "Ossi Brandt", "note": "warm"})
    if what == "note":
        row = ChainRow.get(ChainRow.kind == "visit")
        ChainRow.update(body=row.body.replace("warm", "cold")).where(ChainRow.id == row.id).execute()
    elif what == "photo":
        PhotoRow.update(data=picture(12, 12)).execute()
    else:
        PhotoRow.delete().execute()
    seal = api.get(f"/api/jobs/{key}/seal").json()
    assert not seal["whole"]
    assert seal["faults"]


def test_pictures_of_many_kinds_never_make_the_server_fall(api: TestClient, key: str) -> None:
    odd = io.BytesIO()
    from PIL import Image

    Image.new("CMYK", (20, 20)).save(odd, "JPEG")
    for data in (odd.getvalue(), picture(1, 1), picture(9, 3000), picture(form="PNG")[:-40], b"\xff\xd8\xff\xe0" * 9):
        assert send(api, key, data).status_code in (201, 422)


def test_the_firm_stands_on_its_reports_with_its_logo(api: TestClient, key: str) -> None:
    assert api.get("/api/settings/logo").status_code == 404
    settings = api.get("/api/settings").json()
    assert settings["logo"] is False
    body = {**settings["settings"], "firm": "Quillmere Cold Works", "address": "Weir Lane 4\nQuillmere"}
    assert api.put("/api/settings", json=body).status_code == 200
    assert api.put("/api/settings/logo", files={"file": ("l.svg", b"<svg/>")}).status_code == 422
    assert api.put("/api/settings/logo", files={"file": ("l.png", picture(900, 300, "PNG"))}).status_code == 204
    assert api.get("/api/settings").json()["logo"] is True
    pdf = PdfReader(io.BytesIO(api.get(f"/api/jobs/{key}/page.pdf").content))
    assert len(pdf.pages) == 1
    text = pdf.pages[0].extract_text()
    assert "Quillmere Cold Works" in text
    assert "Weir Lane 4" in text
    assert len(pdf.pages[0].images) == 1
    assert api.delete("/api/settings/logo").status_code == 204
    pdf = PdfReader(io.BytesIO(api.get(f"/api/jobs/{key}/page.pdf").content))
    assert len(pdf.pages[0].images) == 0
