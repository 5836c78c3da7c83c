"""The built front end as it is served: packed for who reads that, whole for who does not, and small at first sight."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from rough_draw.api import front
from rough_draw.api.front import STATIC

pytestmark = pytest.mark.skipif(not (STATIC / "index.html").exists(), reason="the front end is not built")
FIRST_PAGE = 240_000
"""Bytes over the line until the Yard stands there, with its letters."""


def _script() -> Path:
    return max((STATIC / "assets").glob("first-*.js"), key=lambda f: f.stat().st_size)


@pytest.mark.parametrize(
    ("accept", "way"),
    [
        ("gzip, deflate, br, zstd", "br"),
        ("gzip, br;q=0", "gzip"),
        ("GZIP", "gzip"),
        ("identity", None),
        ("br; q=0.0", None),
        ("", None),
    ],
)
def test_each_browser_gets_what_it_reads(client: TestClient, accept: str, way: str | None) -> None:
    file = _script()
    with client.stream("GET", f"/assets/{file.name}", headers={"Accept-Encoding": accept}) as answer:
        assert answer.status_code == 200
        assert answer.headers.get("content-encoding") == way
        assert answer.headers["content-type"].startswith("text/javascript")
        assert "Accept-Encoding" in answer.headers["vary"]
        assert "immutable" in answer.headers["cache-control"]
        answer.read()
    # The client unpacks it: what arrives is the file.
    assert answer.content == file.read_bytes()


def test_a_font_goes_as_it_is_and_a_missing_file_is_missing(client: TestClient) -> None:
    font = next((STATIC / "assets").glob("text-*.woff2"))
    whole = client.get(f"/assets/{font.name}", headers={"Accept-Encoding": "br"})
    assert whole.content == font.read_bytes()
    assert "content-encoding" not in whole.headers
    assert client.get("/assets/none.js", headers={"Accept-Encoding": "br"}).status_code == 404


def test_while_the_pages_are_replaced_that_is_said(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr(front, "STATIC", tmp_path)
    for path in ("/", "/jobs/larkspur-1/draw"):
        answer = client.get(path)
        assert answer.status_code == 503
        assert "Reload" in answer.json()["detail"]
    assert client.get("/api/health").status_code == 200


def test_the_first_page_is_small() -> None:
    """The page, its scripts and styles packed, the Yard's own, and the letters of all three hands."""
    page = (STATIC / "index.html").read_text()
    assets = STATIC / "assets"
    yard = next(f for f in assets.glob("Yard-*.js"))
    names = set(re.findall(r"/assets/([^\"]+)", page)) | {yard.name}
    names |= set(re.findall(r"\./([\w.-]+\.js)", yard.read_text()))
    names |= {f.name for f in assets.glob("*.woff2")}
    sent = [f if f.exists() else assets / n for n in names for f in [assets / f"{n}.br"]]
    assert sum(f.stat().st_size for f in sent) + len(page) < FIRST_PAGE
