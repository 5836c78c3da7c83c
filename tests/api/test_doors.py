"""Doors: other sites in the same browser, strangers on the network, bodies without end, passphrases guessed."""

from __future__ import annotations

import asyncio
import json
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api import access as gate
from rough_draw.api.access import COOKIE, CSRF, LOOPBACK, SMALL, Door, Tries, most_of, name_of
from rough_draw.api.app import create_app
from rough_draw.store import access
from rough_draw.store.models import Setting, SignIn

PHRASE = "three dry coils"


@pytest.fixture(autouse=True)
def cheap(monkeypatch: pytest.MonkeyPatch) -> None:
    """What a try costs an attacker is not what is looked at here."""
    assert access.N >= 2**15
    monkeypatch.setattr(access, "N", 2**11)


@pytest.fixture
def locked(tmp_path: Path) -> Iterator[TestClient]:
    app = create_app(tmp_path / "locked.sqlite3", warm=False, door=Door(locked=True))
    access.set_passphrase(PHRASE)
    with TestClient(app) as client:
        yield client


@pytest.fixture
def loopback(tmp_path: Path) -> Iterator[TestClient]:
    app = create_app(tmp_path / "open.sqlite3", warm=False, door=Door(hosts=LOOPBACK))
    with TestClient(app, base_url="http://127.0.0.1:8040") as client:
        yield client


def signed_in(client: TestClient) -> dict[str, str]:
    r = client.post("/api/session", json={"passphrase": PHRASE})
    assert r.status_code == 200, r.text
    return {CSRF: r.json()["csrf"]}


def test_nothing_is_readable_without_the_passphrase(locked: TestClient) -> None:
    paths = locked.app.openapi()["paths"]  # type: ignore[attr-defined]
    assert len(paths) > 80
    for path, methods in paths.items():
        for method in methods:
            url = (
                path.replace("{key}", "abcd").replace("{name}", "x").replace("{number}", "1").replace("{goal}", "hold")
            )
            r = locked.request(method.upper(), url.replace("{code}", "x"), json={})
            if path in ("/api/session", "/api/health"):
                assert r.status_code != 500
                continue
            assert r.status_code == 401, (method, path, r.status_code)
            assert r.headers["content-type"] == "application/problem+json"
    assert locked.get("/api/openapi.json").status_code == 401
    assert locked.get("/api/session").json() == {"needed": True, "inside": False, "csrf": "", "person": None}


def test_the_right_passphrase_opens_and_signing_out_shuts(locked: TestClient) -> None:
    headers = signed_in(locked)
    assert locked.get("/api/jobs").status_code == 200
    assert locked.post("/api/jobs", json={}, headers=headers).status_code == 201
    assert locked.get("/api/session").json()["inside"]
    assert locked.delete("/api/session", headers=headers).status_code == 204
    assert locked.get("/api/jobs").status_code == 401


def test_the_cookie_cannot_be_read_or_sent_from_elsewhere(locked: TestClient) -> None:
    r = locked.post("/api/session", json={"passphrase": PHRASE})
    cookie = r.headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=strict" in cookie
    assert "path=/" in cookie


def test_a_change_needs_the_token_beside_the_cookie(locked: TestClient) -> None:
    headers = signed_in(locked)
    r = locked.post("/api/jobs", json={})
    assert r.status_code == 403
    assert "reload" in r.json()["detail"]
    assert locked.post("/api/jobs", json={}, headers={CSRF: "0" * 64}).status_code == 403
    assert locked.post("/api/jobs", json={}, headers=headers).status_code == 201


def test_another_site_cannot_ask_for_changes(loopback: TestClient) -> None:
    for headers in (
        {"origin": "http://elsewhere.example"},
        {"origin": "null"},
        {"sec-fetch-site": "cross-site"},
        {"sec-fetch-site": "same-site"},
    ):
        assert loopback.post("/api/jobs", json={}, headers=headers).status_code == 403, headers
    for headers in ({}, {"origin": "http://127.0.0.1:8040"}, {"sec-fetch-site": "same-origin"}):
        assert loopback.post("/api/jobs", json={}, headers=headers).status_code == 201, headers


def test_a_name_that_points_here_is_not_answered(loopback: TestClient) -> None:
    assert loopback.get("/api/jobs", headers={"host": "rebound.example:8040"}).status_code == 403
    for host in ("127.0.0.1:8040", "localhost:8040", "[::1]:8040"):
        assert loopback.get("/api/jobs", headers={"host": host}).status_code == 200
    assert name_of("[::1]:80") == "::1"
    assert name_of("") == ""


def test_on_the_loopback_there_is_no_sign_in(loopback: TestClient) -> None:
    assert loopback.get("/api/session").json() == {"needed": False, "inside": True, "csrf": "", "person": None}


def test_wrong_passphrases_have_to_wait(locked: TestClient) -> None:
    codes = [locked.post("/api/session", json={"passphrase": f"guess number {n}"}).status_code for n in range(8)]
    assert codes[:5] == [401] * 5
    assert codes[-1] == 429
    r = locked.post("/api/session", json={"passphrase": PHRASE})
    assert r.status_code == 429, "also the right one, or guessing would go on"
    assert int(r.headers["retry-after"]) >= 1


def test_waits_double_up_to_five_minutes_and_end_with_success(monkeypatch: pytest.MonkeyPatch) -> None:
    now = [1000.0]
    monkeypatch.setattr(gate.time, "monotonic", lambda: now[0])
    tries = Tries(free=2)
    waits = []
    for _ in range(14):
        left = tries.begin("a")
        waits.append(left)
        now[0] += left
        assert left == 0 or tries.begin("a") == 0
    # The first two are free.
    assert waits[:5] == pytest.approx([0, 0, 2, 4, 8])
    assert max(waits) == 300
    assert tries.begin("b") == 0, "one guesser does not keep the others out"
    tries.passed("a")
    assert tries.begin("a") == 0


def test_a_thousand_tries_at_once_are_as_many_as_one_after_the_other() -> None:
    tries = Tries(free=5)
    assert sum(tries.begin("a") == 0 for _ in range(1000)) == 5
    for n in range(6000):
        tries.begin(f"198.51.{n // 250}.{n % 250}")
    assert len(tries._failed) <= tries.most


@pytest.mark.parametrize(
    ("one", "other", "same"),
    [
        ("203.0.113.7", "203.0.113.8", False),
        ("2001:db8:1:2::1", "2001:db8:1:2:ffff::9", True),
        ("2001:db8:1:2::1", "2001:db8:1:3::1", False),
        ("::ffff:203.0.113.7", "203.0.113.7", True),
        ("fe80::1%eth0", "fe80::2", True),
        ("testclient", "other", False),
        ("", "", True),
    ],
)
def test_a_house_is_one_source(one: str, other: str, same: bool) -> None:
    assert (gate.source_of(one) == gate.source_of(other)) == same


def test_a_flood_of_tries_is_looked_at_two_at_a_time_and_the_rest_told(monkeypatch: pytest.MonkeyPatch) -> None:
    running, most = [0], [0]
    let = threading.Event()

    def slow(_: str) -> bool:
        running[0] += 1
        most[0] = max(most[0], running[0])
        let.wait(5)
        running[0] -= 1
        return False

    monkeypatch.setattr(gate.store, "right", slow)

    async def flood() -> list[object]:
        checks = gate.Checks()
        asked = [asyncio.create_task(checks.right("guess")) for _ in range(300)]
        await asyncio.sleep(0.2)
        let.set()
        return list(await asyncio.gather(*asked, return_exceptions=True))

    answers = asyncio.run(flood())
    assert most[0] <= 2
    assert sum(isinstance(a, gate.Busy) for a in answers) == 300 - gate.Checks.MOST
    assert sum(a is False for a in answers) == gate.Checks.MOST


@pytest.mark.parametrize("header", ["host", "origin", "referer"])
@pytest.mark.parametrize("value", ["[", "[::1", "http://[", "a]b", "x" * 5000, "\t", "://", "http://[::1]:99999999"])
def test_a_header_that_is_none_is_no_fault_of_ours(locked: TestClient, header: str, value: str) -> None:
    for method, path in (
        ("GET", "/api/health"),
        ("POST", "/api/session"),
        ("GET", "/api/jobs"),
        ("PUT", "/api/settings"),
    ):
        answer = locked.request(method, path, headers={header: value}, json={} if method != "GET" else None)
        assert answer.status_code < 500, (method, path)


def test_neither_passphrase_nor_token_is_kept_as_it_is(locked: TestClient) -> None:
    signed_in(locked)
    token = locked.cookies[COOKIE]
    kept = json.loads(Setting.get(Setting.key == "passphrase").document)
    assert PHRASE not in json.dumps(kept)
    assert len(bytes.fromhex(kept["salt"])) == 16
    assert len(bytes.fromhex(kept["hash"])) == 32
    rows = [r.token for r in SignIn.select()]
    assert token not in rows
    assert len(rows) == 1
    assert access.right(PHRASE)
    assert not access.right(PHRASE + " ")
    assert not access.right("")


def test_a_new_passphrase_ends_every_session(locked: TestClient) -> None:
    signed_in(locked)
    access.set_passphrase("four dry coils")
    assert locked.get("/api/jobs").status_code == 401
    with pytest.raises(access.WeakPassphrase, match="door-weak"):
        access.set_passphrase("short")


def test_an_old_session_is_over(locked: TestClient) -> None:
    signed_in(locked)
    SignIn.update(seen_at=time.time() - access.LASTS_S - 10).execute()
    assert locked.get("/api/jobs").status_code == 401


def test_a_forged_cookie_is_nothing(locked: TestClient) -> None:
    for token in ("", "x", "0" * 43, "../../etc", "a" * 4000):
        assert locked.get("/api/jobs", headers={"cookie": f"{COOKIE}={token}"}).status_code == 401


@pytest.mark.parametrize(
    ("path", "most"),
    [
        ("/api/jobs", SMALL),
        ("/api/jobs/abc/import", 64 * 2**20),
        ("/api/restore", 512 * 2**20),
        ("/api/hold", 64 * 2**20),
    ],
)
def test_every_address_has_its_largest_body(path: str, most: int) -> None:
    assert most_of(path) == most


def test_a_body_without_a_length_is_counted_as_it_comes(loopback: TestClient) -> None:
    def endless() -> Iterator[bytes]:
        for _ in range(40):
            yield b" " * 100_000

    r = loopback.post("/api/jobs", content=endless(), headers={"content-type": "application/json"})
    assert r.status_code == 413
    assert "2 MB" in r.json()["detail"]
    big = loopback.post("/api/jobs", content=b" " * (SMALL + 1), headers={"content-type": "application/json"})
    assert big.status_code == 413


def test_every_answer_has_its_headers(locked: TestClient) -> None:
    for path in ("/", "/api/health", "/api/jobs", "/nowhere"):
        h = locked.get(path).headers
        assert "default-src 'self'" in h["content-security-policy"]
        assert h["x-content-type-options"] == "nosniff"
        assert h["x-frame-options"] == "DENY"
        assert h["cross-origin-opener-policy"] == "same-origin"
        assert "geolocation=()" in h["permissions-policy"]
    assert locked.get("/api/health").headers["cache-control"] == "no-store"


@pytest.mark.parametrize(
    "name", ["../../../etc/passwd", "a\r\nb: c.csv", "x" * 3000, "..\\..\\win.csv", "\u202egnp.exe"]
)
def test_names_of_files_are_never_paths(loopback: TestClient, name: str) -> None:
    key = loopback.post("/api/jobs", json={"party": {"customer": name[:190].replace("\r\n", " ")}}).json()["key"]
    table = b"time_s,micron\n0,500\n60,480\n120,470\n"
    files = {"file": (name.replace("\r\n", " "), table, "text/csv")}
    assert loopback.post(f"/api/jobs/{key}/import", files=files).status_code < 500
    for path in ("readings.csv", "job.json", "record.pdf"):
        r = loopback.get(f"/api/jobs/{key}/{path}")
        said = r.headers.get("content-disposition", "")
        assert "/" not in said.replace("*=UTF-8''", "")
        assert ".." not in said
        assert "\r" not in said


def people(api: TestClient) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = api.get("/api/people").json()
    return found


def test_people_their_licence_and_their_units(loopback: TestClient) -> None:
    mara = loopback.post("/api/people", json={"name": "Mara Tollivet", "licence": "QCW-014"}).json()
    odo = loopback.post("/api/people", json={"name": "Odo Brask"}).json()
    assert [p["name"] for p in people(loopback)] == ["Mara Tollivet", "Odo Brask"]
    assert loopback.post("/api/people", json={"name": "  "}).status_code == 422
    loopback.post(f"/api/people/{mara['id']}/here")
    assert loopback.get("/api/session").json()["person"]["licence"] == "QCW-014"
    settings = loopback.get("/api/settings").json()["settings"]
    loopback.put("/api/settings", json={**settings, "pressure": "pa", "hourly_rate": 75})
    assert loopback.get("/api/settings").json()["settings"]["pressure"] == "pa"
    loopback.post(f"/api/people/{odo['id']}/here")
    his = loopback.get("/api/settings").json()["settings"]
    assert his["pressure"] == "micron", "units are each one's own"
    assert his["hourly_rate"] == 75, "the rate is the firm's"
    made = loopback.post("/api/jobs", json={}).json()["job"]["party"]
    assert made["technician"] == "Odo Brask"
    mara_again = loopback.put(f"/api/people/{mara['id']}", json={"name": "Mara Tollivet", "licence": "QCW-015"})
    assert mara_again.json()["licence"] == "QCW-015"
    assert loopback.delete(f"/api/people/{odo['id']}").status_code == 204
    assert loopback.get("/api/session").json()["person"] is None
    assert loopback.get("/api/settings").status_code == 200
    for path in (f"/api/people/{odo['id']}/here", "/api/people/99999999999/here"):
        assert loopback.post(path).status_code == 404


def test_a_touch_sent_twice_is_kept_once(loopback: TestClient) -> None:
    key = loopback.post("/api/jobs", json={"scope": {"condition": "new-dry"}}).json()["key"]
    body = {"kind": "pump-on", "at": 1000.0, "key": "abc-1"}
    first = loopback.post(f"/api/jobs/{key}/touches", json=body)
    again = loopback.post(f"/api/jobs/{key}/touches", json={**body, "at": 1005.0})
    assert first.status_code == again.status_code == 201
    assert first.json() == again.json()
    assert loopback.post(f"/api/jobs/{key}/touches", json={"kind": "note", "at": 1001.0}).status_code == 201
    assert loopback.post(f"/api/jobs/{key}/touches", json={"kind": "note", "at": 1002.0}).status_code == 201
    found = loopback.get(f"/api/jobs/{key}/touches").json()
    assert [(t["kind"], t["at"]) for t in found] == [("pump-on", 1000.0), ("note", 1001.0), ("note", 1002.0)]
    other = loopback.post("/api/jobs", json={}).json()["key"]
    assert loopback.post(f"/api/jobs/{other}/touches", json=body).status_code == 201, "ids are each job's own"


def test_touches_and_readings_sent_twice_in_any_order_come_once(loopback: TestClient) -> None:
    """A line that drops answers: everything is sent again until one comes through."""
    key = loopback.post("/api/jobs", json={"scope": {"condition": "new-dry"}}).json()["key"]
    for n in (0, 1, 0, 2, 1, 2, 2):
        row = {"at": 1000.0 + n, "pa": 50.0 - n, "key": f"r{n}"}
        assert loopback.post(f"/api/jobs/{key}/readings", json={"gauge": "typed", "readings": [row]}).status_code == 201
        loopback.post(
            f"/api/jobs/{key}/touches", json={"kind": "note", "at": 1000.0 + n, "key": f"t{n}", "note": str(n)}
        )
    (series,) = loopback.get(f"/api/jobs/{key}/readings").json()
    assert series["at"] == [1000.0, 1001.0, 1002.0]
    assert [t["note"] for t in loopback.get(f"/api/jobs/{key}/touches").json()] == ["0", "1", "2"]
