"""What is built to be installed elsewhere has pages, sentences and fonts in it, and keeps its data elsewhere."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
ASK = """
import json, sys
from fastapi.testclient import TestClient
from rough_draw.api.app import create_app
from rough_draw.store import labels, shelf
import rough_draw
with TestClient(create_app(sys.argv[1], warm=False)) as api:
    shelf.add_kit("pump", "花 4", {})
    page = api.get("/")
    script = page.text.split('src="')[1].split('"')[0]
    print(json.dumps({
        "from": rough_draw.__file__, "page": page.status_code, "script": api.get(script).status_code,
        "oils": len(api.get("/api/catalogue").json()["oils"]), "labels": len(labels.sheet(shelf.kit())),
        "refused": api.get("/api/jobs/none").json()["title"],
    }))
"""


@pytest.fixture(scope="module")
def built(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The tree that a wheel is packed from."""
    base = tmp_path_factory.mktemp("wheel")
    argv = ["-q", "build", "--build-base", str(base / "base"), "--build-lib", str(base / "lib")]
    subprocess.run([sys.executable, "-c", "import setuptools; setuptools.setup()", *argv], cwd=ROOT, check=True)
    return base / "lib"


def run(built: Path, tmp_path: Path, *argv: str) -> str:
    away = {**os.environ, "PYTHONPATH": str(built), "XDG_DATA_HOME": str(tmp_path / "data"), "HOME": str(tmp_path)}
    done = subprocess.run([sys.executable, *argv], cwd=tmp_path, env=away, check=True, capture_output=True, text=True)
    return done.stdout


def test_it_serves_its_pages_sentences_and_labels_from_anywhere(built: Path, tmp_path: Path) -> None:
    found = json.loads(run(built, tmp_path, "-W", "ignore", "-c", ASK, str(tmp_path / "x.sqlite3")).splitlines()[-1])
    assert Path(found["from"]).is_relative_to(built)
    assert (found["page"], found["script"]) == (200, 200)
    assert found["oils"] > 3
    assert found["labels"] > 2000
    assert found["refused"]


def test_everything_that_is_no_code_went_along(built: Path) -> None:
    kept = ["rough_draw/api/static", "rough_draw/text/locales", "rough_draw/store/report/fonts"]
    for folder in kept:
        there = {
            p.relative_to(ROOT) for p in (ROOT / folder).rglob("*") if p.is_file() and "__pycache__" not in p.parts
        }
        gone = {p.relative_to(built) for p in (built / folder).rglob("*") if p.is_file()}
        assert there <= gone, sorted(there - gone)[:5]


def test_data_lie_where_the_platform_has_them_and_in_a_checkout_beside_it(built: Path, tmp_path: Path) -> None:
    said = json.loads(run(built, tmp_path, "-m", "rough_draw.cli", "where", "--json"))
    assert Path(said["database"]) == tmp_path / "data" / "rough-draw" / "rough-draw.sqlite3"
    (tmp_path / "var").mkdir()
    said = json.loads(run(built, tmp_path, "-m", "rough_draw.cli", "where", "--json"))
    assert Path(said["database"]) == tmp_path / "var" / "rough-draw.sqlite3"
