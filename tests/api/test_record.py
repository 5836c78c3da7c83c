"""The record by the API: out and in again with the same paper, history, kit by hand and by code, bad files."""

from __future__ import annotations

import io
import json
import re
import time
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any, get_args

import pytest
from fastapi.testclient import TestClient
from reportlab import rl_config

from rough_draw.api.kit.routes import Kind
from rough_draw.cli.main import main
from rough_draw.core.proving.health import CALIBRATED_FOR, health
from rough_draw.core.proving.pump_oil import OilRule
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.kit_history import KitEvent
from rough_draw.demo import build
from rough_draw.scenarios.van import KIT
from rough_draw.store import kit_log, labels, shelf
from rough_draw.store.report.closing import drawn
from tests.one_app import app_on
from tests.store.test_report import words
from tests.store.test_seal import gone

KEYS = ("saltmarsh-ice", "larkspur-1")


@pytest.fixture(autouse=True)
def plain(monkeypatch: pytest.MonkeyPatch) -> None:
    """Papers as plain text, so that they can be read."""
    monkeypatch.setattr(rl_config, "pageCompression", 0)


def fill() -> None:
    now = time.time()
    for kind, name, values in KIT:
        shelf.add_kit(kind, name, values)
    for d in build.demo_jobs():
        if d.key in KEYS:
            build.add(d, now)


@pytest.fixture(scope="module")
def api(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path_factory.mktemp("record") / "a.sqlite3")) as client:
        fill()
        yield client


def paper(api: TestClient, key: str) -> str:
    """The report's words without the time it was printed."""
    return re.sub(r"printed \d{4}-\d\d-\d\d \d\d:\d\d", "", words(api.get(f"/api/jobs/{key}/record.pdf").content))


def send(api: TestClient, data: bytes, again: bool = False) -> Any:
    return api.post(f"/api/job-files?again={again}", files={"file": ("j.json", data)})


def test_out_deleted_and_in_again_prints_the_same(
    api: TestClient, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    key = "saltmarsh-ice"
    before = paper(api, key)
    file = api.get(f"/api/jobs/{key}/job.json").content
    assert send(api, file).status_code == 409
    # A sealed record stays; what is taken out behind the application's back comes in again from its file.
    assert api.delete(f"/api/jobs/{key}").status_code == 409
    gone(key)
    assert send(api, file).status_code == 201
    assert paper(api, key) == before
    for part in (
        "whole: nothing was changed since",
        "suction port: bubbles and electronic detector",
        "Superheat",
        "[x] Power off",
    ):
        assert part in before, part
    assert json.loads(file) == api.get(f"/api/jobs/{key}/job.json").json()
    (tmp_path / "j.json").write_bytes(file)
    assert main(["verify", str(tmp_path / "j.json")]) == 0
    document = json.loads(file)
    at = next(k for k, p in enumerate(document["readings"][0]["pa"]) if p is not None)
    document["readings"][0]["pa"][at] += 0.5
    (tmp_path / "t.json").write_text(json.dumps(document))
    with pytest.raises(SystemExit):
        main(["verify", str(tmp_path / "t.json")])
    assert "a figure was changed" in capsys.readouterr().out


def test_a_tampered_record_comes_in_and_says_so(api: TestClient) -> None:
    document = api.get("/api/jobs/saltmarsh-ice/job.json").json()
    document["touches"][0]["note"] = "put in later"
    document["key"] = "tampered"
    got = send(api, json.dumps(document).encode())
    assert got.status_code == 201
    seal = api.get("/api/jobs/tampered/seal").json()
    assert not seal["whole"]
    assert "is not the one that was sealed" in seal["faults"][0]
    assert "NOT WHOLE" in paper(api, "tampered")
    gone("tampered")


def zipped() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as z:
        z.writestr("other.json", "{}")
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (zipped(), "archive"),
        (b'{"format": "rough-draw/job-file", "key": "x", "job": {', "Line 1"),
        ("{}".encode("utf-16"), "key"),
        (b"\xff\xfe\x00\xd8 not text", "UTF-8"),
        (b"[" * 100_000, "nested"),
        (b'{"format": "rough-draw/job-file", "version": 99, "key": "x", "job": {}}', "version"),
        (b'{"format": "rough-draw/job-file", "key": "x", "job": {}, "chain": [{"number": 1}]}', "chain"),
        (b'{"format": "rough-draw/job-file", "key": "../../etc", "job": {}}', "key"),
    ],
)
def test_bad_job_files_leave_nothing_behind(api: TestClient, data: bytes, says: str) -> None:
    before = {r["key"] for r in api.get("/api/jobs").json()}
    r = send(api, data)
    assert r.status_code == 422
    assert says in r.json()["detail"]
    assert {r["key"] for r in api.get("/api/jobs").json()} == before


def test_history_by_words_customer_and_site(api: TestClient) -> None:
    every = api.get("/api/history").json()
    assert {r["key"] for r in every["rows"]} >= set(KEYS)
    assert every["customers"] == ["Larkspur Flower Wholesale", "Saltmarsh Ferry Terminal"]
    ice = next(r for r in every["rows"] if r["key"] == "saltmarsh-ice")
    assert ice["sealed"]
    assert ice["verdict"] == "tight-and-dry"
    assert ice["level_micron"] > 50
    one = api.get("/api/history", params={"q": "mara cold R-448A"}).json()
    assert [r["key"] for r in one["rows"]] == ["larkspur-1"]
    none = api.get("/api/history", params={"q": "nobody"}).json()
    assert none["rows"] == []
    by_site = api.get("/api/history", params={"site": "Quay 1"}).json()
    assert [r["key"] for r in by_site["rows"]] == ["saltmarsh-ice"]


def test_the_next_job_begins_with_system_and_rig_of_the_last(api: TestClient) -> None:
    new = api.post("/api/jobs?copy_of=larkspur-1", json={}).json()
    old = api.get("/api/jobs/larkspur-1").json()
    assert new["job"]["scope"] == old["job"]["scope"]
    assert new["job"]["rig"] == old["job"]["rig"]
    assert new["job"]["closing"]["signed_by"] == ""
    api.delete(f"/api/jobs/{new['key']}")


def test_kit_by_hand_and_by_code(api: TestClient) -> None:
    gauge = next(k for k in api.get("/api/kit").json() if k["kind"] == "gauge")
    assert api.get(f"/api/kit/code/rd-k{gauge['id']}").json()["name"] == gauge["name"]
    assert api.get("/api/kit/code/7").status_code == 422
    assert api.get("/api/kit/code/RD-K99999").status_code == 404
    assert api.post(f"/api/kit/{gauge['id']}/events", json={"kind": "cleaning", "note": "alcohol"}).status_code == 201
    assert api.post("/api/kit/99999/events", json={"kind": "cleaning"}).status_code == 404
    assert api.post(f"/api/kit/{gauge['id']}/events", json={"kind": "polishing"}).status_code == 422
    after = next(k for k in api.get("/api/kit").json() if k["id"] == gauge["id"])
    assert after["events"][0]["words"] == "cleaned"
    assert after["events"][0]["said"] == "alcohol"
    added = api.post("/api/kit", json={"kind": "scale", "name": "Scale 2"}).json()
    api.post(f"/api/kit/{added['number']}/events", json={"kind": "retired", "note": "dropped"})
    gone = next(k for k in api.get("/api/kit").json() if k["id"] == added["number"])
    assert (gone["state"], gone["words"]) == ("retired", "dropped")


def test_labels_and_table_of_the_kit(api: TestClient) -> None:
    pdf = api.get("/api/kit/labels.pdf", params={"skip": 20}).content
    assert pdf.startswith(b"%PDF-")
    text = words(pdf)
    assert "RD-K1" in text
    assert len(re.findall(rb"/Type /Page\b(?!s)", pdf)) == 2
    table = api.get("/api/kit.csv").text.splitlines()
    assert table[0] == "number,code,kind,name,values"
    assert len(table) >= len(KIT)


def test_a_name_is_no_formula(api: TestClient) -> None:
    shelf.add_kit("hose", "=HYPERLINK(1)", {"size": "1/4 in"})
    assert "'=HYPERLINK(1)" in api.get("/api/kit.csv").text


@pytest.mark.parametrize(
    ("code", "number"), [("RD-K7", 7), (" rd-k12 ", 12), ("K7", None), ("RD-K", None), ("RD-K7x", None)]
)
def test_codes(code: str, number: int | None) -> None:
    assert labels.number_of(code) == number
    if number is not None:
        assert labels.number_of(labels.code_of(number)) == number


def test_a_long_name_stays_on_its_label() -> None:
    item = KitItem(3, "hose", "1/2 in vacuum hose with a very long name of its own, 1.8 m, blue", {})
    assert labels.sheet([item]).startswith(b"%PDF-")


@pytest.mark.parametrize("kind", get_args(Kind))
def test_every_kind_of_part_has_its_label(kind: str) -> None:
    assert labels.sheet([KitItem(7, kind, "one of them", {})]).startswith(b"%PDF-")


def test_calibration_runs_out() -> None:
    done = KitEvent(kind="calibration", at=0.0, job="by-hand-0", values={})
    rule = OilRule()
    assert health("gauge", {}, [done], rule, 86_400.0 * (CALIBRATED_FOR - 1)) == ("", "")
    assert health("gauge", {}, [done], rule, 86_400.0 * (CALIBRATED_FOR + 1))[0] == "due"
    assert kit_log.NewEvent(1, "cleaning", {}).verdict == ""


@pytest.mark.parametrize(
    ("path", "there"), [("M1 2 L3 4", True), ("M1 2", False), ("", False), ("M1 x L2 3", False), ("L", False)]
)
def test_a_signature_is_drawn_or_left_out(path: str, there: bool) -> None:
    assert (drawn(path, 100.0) is not None) == there
