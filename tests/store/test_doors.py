"""The passphrase, sessions, people, practice: kept as they should be, and nothing kept that should not."""

from __future__ import annotations

import json
import time

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from peewee import SqliteDatabase

from rough_draw.core.practice.rig_choice import RigChoice
from rough_draw.core.sheet.settings import Settings
from rough_draw.scenarios.handmade import by_hand
from rough_draw.store import access, people, practice, shelf
from rough_draw.store.jobs import NotFound
from rough_draw.store.models import PracticeRun, Setting, SignIn
from tests.depth import drawn


def test_without_a_passphrase_nothing_is_right(db: SqliteDatabase) -> None:
    assert not access.has_passphrase()
    assert not access.right("")
    assert not access.right("anything at all")


def test_the_same_passphrase_is_kept_differently_each_time(db: SqliteDatabase) -> None:
    kept = []
    for _ in range(2):
        access.set_passphrase("three dry coils")
        kept.append(json.loads(Setting.get(Setting.key == "passphrase").document))
        assert access.right("three dry coils")
    assert kept[0]["salt"] != kept[1]["salt"]
    assert kept[0]["hash"] != kept[1]["hash"]


@settings(max_examples=drawn(6), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.text(min_size=8, max_size=40), st.text(max_size=40))
def test_only_itself_opens(db: SqliteDatabase, phrase: str, other: str) -> None:
    access.set_passphrase(phrase)
    assert access.right(phrase)
    assert access.right(other) == (other == phrase)


def test_sessions_begin_last_and_end(db: SqliteDatabase) -> None:
    one, two = access.begin(), access.begin()
    assert one != two
    assert len(one) >= 40
    assert access.find(one) is not None
    access.end(one)
    assert access.find(one) is None
    assert access.find(two) is not None
    SignIn.update(seen_at=time.time() - access.LASTS_S - 1).execute()
    assert access.find(two) is None
    access.begin()
    assert SignIn.select().count() == 1, "what is over is swept out"


def test_a_session_in_use_lasts(db: SqliteDatabase) -> None:
    token = access.begin()
    SignIn.update(seen_at=time.time() - access.LASTS_S + 60).execute()
    assert access.find(token) is not None
    assert SignIn.get().seen_at > time.time() - 5


def test_the_word_beside_the_cookie_is_each_sessions_own(db: SqliteDatabase) -> None:
    words = {access.csrf_of(access.begin()) for _ in range(5)}
    assert len(words) == 5
    assert all(len(w) == 64 for w in words)


def test_people_come_change_and_go(db: SqliteDatabase) -> None:
    odo = people.add("Odo Brask", "QCW-009")
    mara = people.add("Mara Tollivet", "")
    assert [p.name for p in people.listing()] == ["Mara Tollivet", "Odo Brask"]
    assert people.change(mara.id, "Mara Tollivet", "QCW-014").licence == "QCW-014"
    people.remove(odo.id)
    for act in (people.get, people.remove):
        with pytest.raises(NotFound, match="no-person-here"):
            act(odo.id)


def test_units_are_each_ones_own_and_the_rest_is_the_firms(db: SqliteDatabase) -> None:
    base = shelf.save_settings(Settings(pressure="mbar", hourly_rate=80))
    mara = people.add("Mara Tollivet", "")
    assert people.settings_for(mara.id, base) == base, "until she chooses, she reads what the firm reads"
    people.keep_units(mara.id, base.model_copy(update={"pressure": "pa", "hourly_rate": 1}))
    hers = people.settings_for(mara.id, base)
    assert hers.pressure == "pa"
    assert hers.hourly_rate == 80
    assert people.settings_for(None, base) == base
    assert people.settings_for(999, base) == base


def test_a_practice_session_is_its_deeds(db: SqliteDatabase) -> None:
    scenario = by_hand()[0]
    kept = practice.begin(scenario, 0.0)
    choice = RigChoice(pattern="three-tools", parts={"pump": 1})
    deeds: practice.Deeds = [(60.0, "look:power", None), (420.0, "rig:three-tools", choice)]
    practice.keep(kept.key, deeds, 500.0, ended=False)
    found = practice.get(kept.key)
    assert found.deeds == deeds
    assert found.clock == 500.0
    assert found.ended_at is None
    assert found.scenario == scenario
    practice.keep(kept.key, deeds, 600.0, ended=True)
    practice.keep_marks(kept.key, {"safety": 80.0, "rig": None, "total": 70.0})
    (past,) = practice.listing()
    assert past.marks == {"safety": 80.0, "rig": None, "total": 70.0}
    assert past.ended_at is not None
    assert past.title == scenario.title
    assert "shown" not in PracticeRun.get().deeds, "readings follow from the deeds and are not kept"
    practice.remove(kept.key)
    with pytest.raises(NotFound, match="no-practice-job"):
        practice.get(kept.key)


def test_own_scenarios_never_take_each_others_place(db: SqliteDatabase) -> None:
    scenario = by_hand()[2]
    keys = [practice.save_own(scenario).key for _ in range(3)]
    assert len(set(keys)) == 3
    assert [s.key for s in practice.own()] == keys
    assert all(s.model_copy(update={"key": scenario.key}) == scenario for s in practice.own())
    practice.remove_own(keys[1])
    assert [s.key for s in practice.own()] == [keys[0], keys[2]]
    with pytest.raises(NotFound):
        practice.remove_own(keys[1])
