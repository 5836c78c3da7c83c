"""Examinations: unseen jobs without help, passed by who works well, and a certificate that stands."""

from __future__ import annotations

import io
import json
from functools import lru_cache
from pathlib import Path
from typing import Any

import pypdf
import pytest
from fastapi.testclient import TestClient

from rough_draw.api.practice import sessions
from rough_draw.cli.main import main
from rough_draw.core.practice.exam import JOBS, LEAST, MEAN, Taken, state
from rough_draw.scenarios.generator import make
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice.expert import expert
from rough_draw.store import exams
from tests.api.test_practice import api, do
from tests.api.test_practice_learning import somebody
from tests.depth import whole

__all__ = ["api"]
LEVEL = 1
SEEDS = (1, 3, 5)


@lru_cache
def sound(seed: int) -> tuple[tuple[float, str, Any], ...]:
    """What a sound hand does at a job, and when each was finished."""
    bay, _ = expert(make(seed, LEVEL), VAN)
    return tuple((d.at, d.kind, d.choice) for d in bay.done if not d.before)


@pytest.fixture
def known(monkeypatch: pytest.MonkeyPatch) -> None:
    """The numbers that are drawn."""
    left = iter(SEEDS * 9)
    monkeypatch.setattr(exams.secrets, "randbelow", lambda most: next(left))


def begun(api: TestClient) -> str:
    made = api.post("/api/practice/exams", json={"level": LEVEL})
    assert made.status_code == 201, made.text
    assert made.json()["jobs"] == []
    return str(made.json()["key"])


def job(api: TestClient, exam: str) -> str:
    made = api.post(f"/api/practice/exams/{exam}/runs")
    assert made.status_code == 201, made.text
    return str(made.json()["key"])


def well(api: TestClient, run: str, seed: int) -> None:
    """Done as a sound hand does it, at its times."""
    session = sessions.session(run)
    for at, kind, choice in sound(seed):
        with session.lock:
            session.bay.advance(max(session.bay.time, at - 60.0 * session.bay.minutes(kind)))
        body = {"kind": kind, "choice": choice.model_dump() if choice is not None else None}
        made = api.post(f"/api/practice/runs/{run}/deeds", json=body)
        assert made.status_code == 201, made.text


def standing(api: TestClient) -> dict[str, Any]:
    found: dict[str, Any] = api.get("/api/practice/exams").json()[0]
    return found


def test_who_works_well_passes_and_the_certificate_stands(
    api: TestClient, known: None, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    somebody(api, "Mara Tollivet")
    exam = begun(api)
    assert api.get(f"/api/practice/exams/{exam}/certificate.pdf").status_code == 409
    for seed in SEEDS:
        assert standing(api)["state"] == "open"
        well(api, job(api, exam), seed)
    found = standing(api)
    assert found["state"] == "passed", found
    assert [j["stops"] for j in found["jobs"]] == [0] * JOBS
    text = api.get(f"/api/practice/exams/{exam}/certificate.json")
    told = text.json()
    assert (told["name"], told["level"], len(told["jobs"])) == ("Mara Tollivet", LEVEL, JOBS)
    assert told["mean"] == pytest.approx(sum(j["points"] for j in found["jobs"]) / JOBS, abs=0.1)
    # It is written once: who asks again gets the same.
    assert api.get(f"/api/practice/exams/{exam}/certificate.json").text == text.text
    paper = api.get(f"/api/practice/exams/{exam}/certificate.pdf")
    words = " ".join(p.extract_text() for p in pypdf.PdfReader(io.BytesIO(paper.content)).pages)
    assert "Mara Tollivet" in words
    assert told["hash"][:20] in words.replace("\n", "")
    file = tmp_path / "c.json"
    file.write_text(text.text, encoding="utf-8")
    assert main(["verify", str(file)]) == 0
    assert "whole" in capsys.readouterr().out
    for changed in (
        {"name": "Somebody Else"},
        {"mean": 99.0},
        {"level": 5},
        {"hash": "0" * 64},
        {"firm_key": "00" * 32},
    ):
        file.write_text(json.dumps({**told, **changed}), encoding="utf-8")
        with pytest.raises(SystemExit):
            main(["verify", str(file)])
        assert "BROKEN" in capsys.readouterr().out
    assert api.post(f"/api/practice/exams/{exam}/runs").status_code == 409


@whole
def test_a_key_of_the_firm_signs_it(api: TestClient, known: None) -> None:
    assert api.post("/api/settings/key").status_code < 300
    exam = begun(api)
    for seed in SEEDS:
        well(api, job(api, exam), seed)
    told = api.get(f"/api/practice/exams/{exam}/certificate.json").json()
    assert told["signature"]
    assert exams.is_whole(told)
    other = "0" if told["signature"][-1] != "0" else "1"
    assert not exams.is_whole({**told, "signature": told["signature"][:-1] + other})
    assert not exams.is_whole({k: v for k, v in told.items() if k != "signature"})


def test_there_is_no_help_no_second_try_and_no_looking_ahead(api: TestClient) -> None:
    exam = begun(api)
    assert api.post("/api/practice/exams", json={"level": 2}).status_code == 409
    run = job(api, exam)
    shown = api.get(f"/api/practice/runs/{run}").json()
    assert shown["hints"] == []
    seed = exams.get(exam).seeds[0]
    assert str(seed) not in json.dumps({k: v for k, v in shown.items() if k != "groups"})
    assert api.post(f"/api/practice/runs/{run}/deeds", json={"kind": "hint:1"}).status_code == 409
    sessions._open.clear()
    assert api.post(f"/api/practice/runs/{run}/deeds", json={"kind": "hint:1"}).status_code == 409
    assert api.post(f"/api/practice/exams/{exam}/runs").status_code == 409, "one at a time"
    # Nor is a job that goes badly taken away and taken once more.
    assert api.delete(f"/api/practice/runs/{run}").status_code == 409
    do(api, run, "end:later")
    assert api.post(f"/api/practice/runs/{run}/replays", json={"before": 0}).status_code == 409
    # A job that was given up fails it: there is nothing left to begin, and no certificate.
    assert standing(api)["state"] == "failed"
    assert api.post(f"/api/practice/exams/{exam}/runs").status_code == 409
    assert api.get(f"/api/practice/exams/{exam}/certificate.json").status_code == 409
    assert api.post("/api/practice/exams", json={"level": 2}).status_code == 201


@pytest.mark.parametrize("path", ["runs", "certificate.pdf", "certificate.json"])
def test_an_examination_that_is_not_there(api: TestClient, path: str) -> None:
    asked = api.post if path == "runs" else api.get
    assert asked(f"/api/practice/exams/abcdef/{path}").status_code == 404


@pytest.mark.parametrize(
    ("taken", "wanted"),
    [
        ([], "open"),
        ([Taken(None)], "open"),
        ([Taken(100.0), Taken(None)], "open"),
        ([Taken(MEAN)] * JOBS, "passed"),
        ([Taken(LEAST), Taken(MEAN), Taken(2 * MEAN - LEAST)], "passed"),
        ([Taken(LEAST - 0.1), Taken(100.0), Taken(100.0)], "failed"),
        ([Taken(MEAN - 0.1)] * JOBS, "failed"),
        ([Taken(100.0), Taken(100.0, stops=1)], "failed"),
    ],
)
def test_how_it_stands(taken: list[Taken], wanted: str) -> None:
    assert state(taken) == wanted
