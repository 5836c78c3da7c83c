"""Shared by all tests: no stale compiled code, and job sheets to start from."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import settings
from peewee import SqliteDatabase

from rough_draw.cli.warm import drop_stale
from rough_draw.core.sheet.job import Job, Party
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
from tests import builders, one_browser
from tests.depth import DEEP, WHOLE, drawn

drop_stale()
settings.register_profile("project", deadline=None, max_examples=drawn(25), derandomize=not DEEP, print_blob=True)
settings.load_profile("project")


# Files in the order in which they are best begun: what takes longest first, or it would run alone at the end. Of the
# first three one needs the demo, which is worked out once: while it is, the others do what needs none.
LONGEST = (
    "browser/test_access.py",
    "browser/test_offline.py",
    "core/test_livefit.py",
    "browser/test_phone.py",
    "browser/test_stages.py",
    "browser/test_job.py",
    "browser/test_bench.py",
    "browser/test_live.py",
    "browser/test_record.py",
    "browser/test_practice.py",
    "browser/test_release.py",
    "browser/test_hold.py",
    "browser/test_prove.py",
    "browser/test_units.py",
    "browser/test_people.py",
    "browser/test_parts.py",
    "browser/test_photos.py",
    "browser/test_notes.py",
    "browser/test_lan.py",
    "standins/test_expert.py",
    "api/test_live.py",
    "core/test_diagnosis.py",
    "core/test_one_planner.py",
    "api/test_fuzz.py",
    "api/test_doors.py",
    "core/test_envelopes.py",
    "api/test_api.py",
    "api/test_any_rig.py",
    "api/test_charge.py",
    "api/test_contract.py",
    "test_cli.py",
    "api/test_kill.py",
)


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """The longest files first; within a file as it stands. A plain run leaves out what is marked ``whole``."""
    if not WHOLE:
        config.hook.pytest_deselected(items=[item for item in items if item.get_closest_marker("whole")])
        items[:] = [item for item in items if not item.get_closest_marker("whole")]
    root = Path(__file__).parent
    rank = {root / name: n for n, name in enumerate(LONGEST)}
    items.sort(key=lambda item: rank.get(item.path, len(rank)))


def pytest_collection_finish() -> None:
    """What is loaded by now stays, and no collection of garbage goes through it again."""
    gc.collect()
    gc.freeze()


def pytest_runtest_setup(item: pytest.Item) -> None:
    """No browser stays open beside tests that use none."""
    if item.path.parent.name != "browser":
        one_browser.close()


def pytest_sessionfinish() -> None:
    one_browser.close()


@pytest.fixture
def job() -> Job:
    """A cold room on a remote condensing unit, one 3/8 in hose through a tool with the core out."""
    party = Party(customer="Larkspur", unit="Cold room 9")
    return Job(party=party, scope=Scope(condition="new-dry"), rig=builders.one_hose())


@pytest.fixture
def poor_rig() -> Rig:
    """Two 1/4 in charging hoses with depressors on a two-valve manifold, cores in, gauge at the manifold."""
    return builders.poor_rig()


@pytest.fixture
def db(tmp_path: Path) -> Iterator[SqliteDatabase]:
    """A fresh database in a file."""
    from rough_draw.store.database import open_database
    from tests.one_app import fresh

    opened = open_database(fresh(tmp_path / "test.sqlite3"))
    yield opened
    opened.close()
