"""What stands in the database as JSON is read through one model; what cannot be read takes nothing else down."""

from __future__ import annotations

import json
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from rough_draw.core.sheet.settings import Settings
from rough_draw.store import access, firm, models, people, practice, shelf
from rough_draw.store.stored import DEEDS, MARKS, SETTINGS, VALUES, WORDS
from tests.depth import drawn
from tests.one_app import app_on

JSON = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-(2**53), 2**53)
    | st.floats(allow_nan=False, allow_infinity=False)
    | st.text(),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=9), inner, max_size=4),
    max_leaves=12,
)
ODD = st.one_of(JSON.map(json.dumps), st.text(max_size=40), st.just("[" * 5000), st.just('{"a": 1e999}'), st.just(""))
PAGES = (
    "kit",
    "people",
    "settings",
    "templates",
    "practice",
    "practice/runs/odd",
    "practice/exams/odd",
    "people/results",
    "history",
    "ahead",
    "alarms",
    "kit.csv",
    "jobs",
    "pumps",
    "day",
    "catalogue",
)


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "stored.sqlite3")) as client:
        yield client


@given(st.dictionaries(st.text(max_size=9), JSON, max_size=5))
def test_values_come_back_as_they_were_written(values: dict[str, Any]) -> None:
    assert VALUES.read(VALUES.write(values)) == values


def test_a_session_and_settings_come_back() -> None:
    assert DEEDS.read(DEEDS.write([(1.5, "pump-on", None)])) == [(1.5, "pump-on", None)]
    assert MARKS.read(MARKS.write({"total": 80.0, "hold": None})) == {"total": 80.0, "hold": None}
    assert SETTINGS.read(SETTINGS.write(Settings(firm="Quillmere Cold Works"))).firm == "Quillmere Cold Works"
    # As earlier versions wrote it, with spaces and keys in another order.
    assert WORDS.read('{ "pressure": "pa",  "gauge": "bar" }') == {"gauge": "bar", "pressure": "pa"}


@given(ODD)
def test_what_cannot_be_read_is_as_never_filled(text: str) -> None:
    for kind in (VALUES, WORDS, MARKS, DEEDS, SETTINGS):
        kind.read(text)


@settings(max_examples=drawn(12), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(odd=ODD)
def test_one_spoiled_row_takes_no_page_down(api: TestClient, odd: str) -> None:
    shelf.add_kit("pump", "Pump 9", {"speed_cfm": 5})
    spoiled = shelf.add_kit("hose", "Hose 9", {})
    models.KitItem.update(document=odd).where(models.KitItem.id == spoiled).execute()
    person = people.add("Ossi Brandt", "")
    models.PersonRow.update(units=odd).where(models.PersonRow.id == person.id).execute()
    models.Setting.insert(key="settings", document=odd).on_conflict_replace().execute()
    models.Setting.insert(key=firm.PAIR, document=odd).on_conflict_replace().execute()
    models.KitEventRow.insert(
        kit=spoiled, kind="blank-off", job="odd", at=1.7e9, document=odd
    ).on_conflict_replace().execute()
    models.JobRow.insert(key="odd", document=odd, created_at=1.7e9, updated_at=1.7e9).on_conflict_replace().execute()
    models.ExamRow.insert(
        key="odd", person=person.id, name="Ossi", level=1, seeds=odd, began_at=1.7e9
    ).on_conflict_replace().execute()
    models.TemplateRow.insert(name="Odd", document=odd).on_conflict_replace().execute()
    models.OwnScenario.insert(key="odd", document=odd).on_conflict_replace().execute()
    models.PracticeRun.insert(
        key="odd", scenario="odd", document=odd, deeds=odd, marks=odd, clock=0.0, began_at=time.time()
    ).on_conflict_replace().execute()
    for page in PAGES:
        assert api.get(f"/api/{page}").status_code < 500, page
    assert "Pump 9" in api.get("/api/kit").text
    assert practice.own() is not None
    # A key that cannot be read makes way for one that can, and stays.
    public = firm.make_key()
    assert firm.key_pair() is not None
    assert firm.make_key() == public
    assert odd in {s.document for s in models.Setting.select()}


@given(odd=ODD)
@settings(max_examples=drawn(8), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_a_passphrase_that_cannot_be_read_lets_nobody_in(api: TestClient, odd: str) -> None:
    models.Setting.insert(key="passphrase", document=odd).on_conflict_replace().execute()
    assert not access.right("")
    assert not access.right("four dry coils")
