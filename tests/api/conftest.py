"""The application for tests of its API, on a database of its own."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from tests.one_app import app_on


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    """An empty one, in which nothing is warmed up."""
    with TestClient(app_on(tmp_path / "a.sqlite3"), base_url="http://127.0.0.1") as made:
        yield made
