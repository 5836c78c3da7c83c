"""A reading's moment and pressure by one rule, at every door: a file, a form, a line."""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.readings.bounds import HIGHEST_PA, LATEST, pressure, seconds
from tests.one_app import app_on

ODD_MOMENTS = (-5.0, 1e308, math.inf, math.nan, 1.8e12, 5e9)
ODD_PRESSURES = (-3.0, 1e308, math.inf, -math.inf, math.nan, 2 * HIGHEST_PA)


@pytest.fixture(scope="module")
def api(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path_factory.mktemp("odd") / "odd.sqlite3")) as client:
        yield client


def imported(api: TestClient, **more: Any) -> Any:
    file = {"format": "rough-draw/job-file", "version": 2, "key": "odd", "job": {}, **more}
    sent = {"file": ("j.json", json.dumps(file).encode(), "application/json")}
    return api.post("/api/job-files?again=true", files=sent)


@pytest.mark.parametrize("at", ODD_MOMENTS)
def test_a_file_with_an_odd_moment_is_refused_with_its_place(api: TestClient, at: float) -> None:
    found = imported(api, readings=[{"gauge": "g", "at": [1.7e9, at], "pa": [1, 2]}])
    assert found.status_code == 422, found.text
    assert "readings.0.at.1" in found.text
    touch = imported(api, touches=[{"kind": "pump-on", "at": at}])
    assert touch.status_code == 422


@pytest.mark.parametrize("pa", ODD_PRESSURES)
def test_a_file_with_an_odd_pressure_is_refused_with_its_place(api: TestClient, pa: float) -> None:
    found = imported(api, readings=[{"gauge": "g", "at": [1.7e9, 1.7e9 + 1], "pa": [1, pa]}])
    assert found.status_code == 422, found.text
    assert "readings.0.pa.1" in found.text


def test_what_is_sound_comes_in_and_out_as_it_was(api: TestClient) -> None:
    found = imported(api, readings=[{"gauge": "g", "at": [0.0, 1.7e9, LATEST], "pa": [0.0, None, HIGHEST_PA]}])
    assert found.status_code == 201, found.text
    back = api.get(f"/api/jobs/{found.json()['key']}/job.json").json()["readings"][0]
    assert (back["at"], back["pa"]) == ([0.0, 1.7e9, LATEST], [0.0, None, HIGHEST_PA])


@given(at=st.floats(0, LATEST))
def test_milliseconds_are_seconds_a_thousand_times(at: float) -> None:
    assert seconds(at) == at
    if at >= 1e8:
        assert seconds(1000.0 * at) == pytest.approx(at)


@given(x=st.floats())
def test_what_passes_is_finite_and_within_bounds(x: float) -> None:
    for rule, most in ((seconds, LATEST), (pressure, HIGHEST_PA)):
        try:
            found = rule(x)  # type: ignore[operator]
        except ValueError:
            continue
        assert 0 <= found <= most
