"""No signal: the server killed in a draw; readings and touches kept, through a reload, sent once, in order."""

from __future__ import annotations

import re
import time
import urllib.request
from collections.abc import Iterator
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from rough_draw.store import sealing
from rough_draw.store.database import open_database
from rough_draw.store.models import database
from tests.browser.conftest import PATIENCE_MS
from tests.browser.test_job import opened
from tests.browser.waits import kept, told, until
from tests.depth import whole
from tests.serving import free_port, start


class Server:
    """A server of one's own that can be cut off and put back."""

    def __init__(self, db: Path) -> None:
        self.port = free_port()
        self.db = db
        self.process: BaseProcess | None = None
        self.address = f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        self.process = start("serve", self.db, self.port)

    def cut(self) -> None:
        """Killed, as a machine without power is."""
        assert self.process is not None
        self.process.kill()
        self.process.join()
        self.process = None


@pytest.fixture(scope="module")
def one_server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    s = Server(tmp_path_factory.mktemp("offline") / "cut.sqlite3")
    yield s
    if s.process is not None:
        s.cut()


@pytest.fixture
def server(one_server: Server) -> Server:
    """The file's server, up."""
    if one_server.process is None:
        one_server.start()
    return one_server


@pytest.fixture
def hand(browser: Browser, server: Server) -> Iterator[Page]:
    """A phone on that server."""
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
    # Somebody who works without signal has these two open; folds are looked at elsewhere.
    opened = "".join(
        f"localStorage.setItem('rough-draw-fold:{name}', 'open');" for name in ("draw-log", "scope-condition")
    )
    context.add_init_script(opened)
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    yield page
    context.close()


KNOWN = """([key, names]) => new Promise(done => {
  const opened = indexedDB.open('keyval-store');
  opened.onsuccess = () => {
    const asked = opened.result.transaction('keyval').objectStore('keyval').get('rough-draw-known');
    asked.onsuccess = () => {
      const known = JSON.parse(asked.result ?? '{}').clientState?.queries ?? [];
      const of = name => known.some(q => q.queryKey[0] === name && (q.queryKey[1] ?? key) === key);
      opened.result.close();
      done(names.every(of));
    };
  };
})"""


def known(page: Page, key: str, names: list[str]) -> None:
    """Wait until the device has these: it is written there every few seconds."""
    until(lambda: page.evaluate(KNOWN, [key, names]), bool)


def installed(page: Page, server: Server) -> str:
    """A job on its Draw stage, the page kept on the device."""
    page.goto(f"{server.address}/")
    key = opened(page, "Cut-off Quay")
    page.goto(f"{server.address}/jobs/{key}/hold")
    page.goto(f"{server.address}/jobs/{key}/draw")
    expect(page.get_by_role("button", name="Type", exact=True)).to_be_visible()
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    known(page, key, ["job", "live", "touches", "readings", "plan"])
    return key


def type_reading(page: Page, digits: str, acknowledged: bool = False) -> None:
    page.get_by_role("button", name="Type", exact=True).tap()
    dialog = page.get_by_role("dialog", name="Type the reading")
    for d in digits:
        dialog.get_by_role("button", name=d, exact=True).tap()
    enter = dialog.get_by_role("button", name="Enter", exact=True)
    if acknowledged:
        with page.expect_response(told("POST", "/readings")) as answer:
            enter.tap()
        assert answer.value.status == 201
    else:
        enter.tap()
    expect(dialog.get_by_text(re.compile(f"{digits} µ$"))).to_be_visible()
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)


def ask(server: Server, path: str) -> Any:
    import json

    with urllib.request.urlopen(f"{server.address}/api{path}", timeout=10) as answer:
        return json.load(answer)


def test_a_draw_is_carried_through_a_cut_and_a_reload(hand: Page, server: Server) -> None:
    page = hand
    key = installed(page, server)
    with page.expect_response(told("POST", "/touches")):
        page.get_by_role("button", name="Done", exact=True).tap()
    expect(page.get_by_text("Pump started")).to_be_visible()
    type_reading(page, "900", acknowledged=True)
    server.cut()
    cut_at = time.time()
    type_reading(page, "700")
    banner = page.get_by_role("region", name="Signal")
    expect(banner).to_contain_text("No signal since")
    expect(banner).to_contain_text("1 waiting to be sent")
    expect(page.get_by_test_id("figure")).to_have_text(re.compile("700"))
    type_reading(page, "650")
    page.reload()
    expect(page.get_by_role("region", name="Signal")).to_contain_text("2 waiting to be sent")
    expect(page.get_by_test_id("figure")).to_have_text(re.compile("650"))
    type_reading(page, "600")
    page.goto(f"{server.address}/jobs/{key}/hold")
    expect(page.get_by_role("region", name="Signal")).to_contain_text("3 waiting")
    page.goto(f"{server.address}/jobs/{key}/draw")
    expect(page.get_by_text(re.compile(r"worked out")).first).to_be_visible()
    server.start()
    expect(page.get_by_role("region", name="Signal")).to_have_count(0)
    (series,) = ask(server, f"/jobs/{key}/readings")
    assert [round(p / (101325 / 760000)) for p in series["pa"]] == [900, 700, 650, 600]
    assert series["at"] == sorted(series["at"])
    assert all(cut_at - 2 < t for t in series["at"][1:]), "each with the time at which it was typed"
    page.reload()
    page.wait_for_timeout(1500)
    assert ask(server, f"/jobs/{key}/readings")[0]["total"] == 4, "nothing is sent twice"


HOLD = """() => new Promise(held => {
  const opened = indexedDB.open('rough-draw-kept');
  opened.onsuccess = () => {
    const t = opened.result.transaction('kept', 'readwrite');
    const go = () => { if (!window.letGo) t.objectStore('kept').get('none').onsuccess = go };
    t.oncomplete = () => opened.result.close();
    go();
    held();
  };
})"""


@whole
def test_what_is_said_to_wait_on_the_device_is_there(hand: Page, server: Server) -> None:
    """A device that is slow to write: the figure is on screen at once, and is kept when that is said, not before."""
    page = hand
    key = installed(page, server)
    server.cut()
    type_reading(page, "900")
    # Not by its role: what lies behind the open pad has none.
    banner = page.locator("section[aria-label=Signal]")
    expect(banner).to_contain_text("No signal since")
    expect(banner).to_contain_text("1 waiting to be sent")
    page.evaluate(HOLD)
    page.get_by_role("button", name="Type", exact=True).tap()
    for name in ("7", "0", "0", "Enter"):
        page.get_by_role("dialog").get_by_role("button", name=name, exact=True).tap()
    expect(page.get_by_test_id("figure")).to_have_text(re.compile("700"))
    expect(banner).to_contain_text("1 waiting to be sent")
    # Nor does the pad say that it is taken down.
    entered = page.get_by_role("dialog").get_by_text(re.compile("700 µ$"))
    expect(entered).to_have_count(0)
    page.evaluate("window.letGo = true")
    expect(entered).to_be_visible()
    expect(banner).to_contain_text("2 waiting to be sent")
    page.goto("about:blank")
    page.goto(f"{server.address}/jobs/{key}/draw")
    expect(page.get_by_role("region", name="Signal")).to_contain_text("2 waiting to be sent")
    server.start()
    expect(page.get_by_role("region", name="Signal")).to_have_count(0)
    assert ask(server, f"/jobs/{key}/readings")[0]["total"] == 2


@whole
def test_touches_made_in_the_dark_come_in_their_order(hand: Page, server: Server) -> None:
    page = hand
    key = installed(page, server)
    page.get_by_role("button", name="Done", exact=True).tap()
    expect(page.get_by_text("Pump started")).to_be_visible()
    server.cut()
    for _ in range(2):
        page.get_by_role("button", name="Skip", exact=True).tap()
        page.wait_for_timeout(250)
    banner = page.get_by_role("region", name="Signal")
    expect(banner).to_contain_text("2 waiting")
    banner.get_by_role("button", name="Show them").tap()
    expect(banner.get_by_role("listitem")).to_have_count(2)
    expect(page.get_by_text("(waiting to be sent)").first).to_be_visible()
    made = ask_local(page)
    server.start()
    expect(page.get_by_role("region", name="Signal")).to_have_count(0)
    found = [t for t in ask(server, f"/jobs/{key}/touches") if t["kind"] == "note"]
    assert [t["note"] for t in found] == [m["body"]["note"] for m in made]
    assert [t["at"] for t in found] == pytest.approx([m["at"] for m in made], abs=0.01)


@whole
def test_a_touch_that_was_sent_stands_though_nothing_more_is_heard(hand: Page, server: Server) -> None:
    """The answer to the touch is the last thing that comes: the card goes on from it all the same."""
    page = hand
    installed(page, server)
    page.route("**/api/jobs/*/live", lambda r: r.abort())
    page.route("**/api/jobs/*/touches", lambda r: r.abort() if r.request.method == "GET" else r.continue_())
    with page.expect_response(lambda r: r.url.endswith("/touches") and r.status == 201):
        page.get_by_role("button", name="Done", exact=True).tap()
    expect(page.get_by_text("Pump on", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name="Skip", exact=True)).to_be_visible()


def elevation(server: Server, key: str) -> float:
    found: float = ask(server, f"/jobs/{key}")["job"]["scope"]["elevation_m"]
    return found


@whole
def test_an_edit_of_the_sheet_waits_on_the_device(hand: Page, server: Server) -> None:
    page = hand
    key = installed(page, server)
    page.goto(f"{server.address}/jobs/{key}/scope")
    expect(page.get_by_label("Elevation")).to_be_visible()
    known(page, key, ["catalogue"])
    server.cut()
    page.get_by_label("Elevation").fill("420")
    expect(page.get_by_role("alert").filter(has_text="kept on this device")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Elevation")).to_have_value("420")
    # Closed without signal, opened elsewhere with it: it goes by itself.
    page.goto("about:blank")
    server.start()
    assert elevation(server, key) == 0
    page.goto(f"{server.address}/")
    expect(page.get_by_role("heading", name="Yard")).to_be_visible()
    assert elevation(server, key) == 420
    assert not [name for name in kept(page) if name.startswith("draft:")]


def test_an_edit_in_the_dark_is_not_written_over_someone_elses(hand: Page, server: Server) -> None:
    page = hand
    key = installed(page, server)
    page.goto(f"{server.address}/jobs/{key}/scope")
    expect(page.get_by_label("Elevation")).to_be_visible()
    server.cut()
    page.get_by_label("Elevation").fill("420")
    expect(page.get_by_role("alert").filter(has_text="kept on this device")).to_be_visible()
    page.goto("about:blank")
    server.start()
    theirs = ask(server, f"/jobs/{key}")
    theirs["job"]["scope"]["elevation_m"] = 7
    put = page.request.put(
        f"{server.address}/api/jobs/{key}", data={"version": theirs["version"], "job": theirs["job"]}
    )
    assert put.status == 200
    page.goto(f"{server.address}/jobs/{key}/scope")
    expect(page.get_by_role("alert").filter(has_text="An earlier edit here was not taken")).to_be_visible()
    expect(page.get_by_label("Elevation")).to_have_value("7")
    assert elevation(server, key) == 7


def ask_local(page: Page) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = kept(page).get("outbox", [])
    return found


def test_an_answer_that_is_lost_makes_no_second_reading(hand: Page, server: Server) -> None:
    """The server stores it, and the answer never arrives: the phone sends it again, and it is known."""
    page = hand
    key = installed(page, server)
    lost = {"n": 0}

    def swallow(route: Any) -> None:
        if lost["n"] == 0:
            lost["n"] += 1
            route.fetch()
            route.abort("connectionreset")
        else:
            route.continue_()

    page.context.route(
        re.compile(r"/api/jobs/.*/readings$"), lambda r: swallow(r) if r.request.method == "POST" else r.continue_()
    )
    type_reading(page, "432")
    # The page sends it again, or its worker does, whoever is first.
    until(lambda: ask(server, f"/jobs/{key}/readings"), lambda series: bool(series))
    until(lambda: ask_local(page), lambda waiting: waiting == [])
    expect(page.get_by_role("region", name="Signal")).to_have_count(0)
    assert lost["n"] == 1
    assert ask(server, f"/jobs/{key}/readings")[0]["total"] == 1


@whole
def test_what_the_server_will_not_take_is_shown_and_decided(hand: Page, server: Server) -> None:
    """While the phone is out of reach, the record is closed at the office."""
    page = hand
    key = installed(page, server)
    page.get_by_role("button", name="Done", exact=True).tap()
    expect(page.get_by_text("Pump started")).to_be_visible()
    server.cut()
    type_reading(page, "444")
    type_reading(page, "433")
    open_database(server.db)
    sealing.seal(key, {"by": "Odo Brask", "acknowledged": []}, None, time.time())
    database.close()
    server.start()
    banner = page.get_by_role("region", name="Signal")
    expect(banner).to_contain_text("1 not taken")
    expect(banner).to_contain_text("This record was sealed")
    expect(banner).to_contain_text("1 waiting")
    banner.get_by_role("button", name="Try again").tap()
    expect(banner).to_contain_text("1 not taken")
    # What is behind it waits for the decision, and then goes its own way.
    banner.get_by_role("button", name="Delete it").tap()
    expect(banner).not_to_contain_text("waiting to be sent")
    expect(banner).to_contain_text("1 not taken")
    banner.get_by_role("button", name="Delete it").tap()
    expect(page.get_by_role("region", name="Signal")).to_have_count(0)
    assert ask(server, f"/jobs/{key}/readings") == []


def test_the_page_can_be_installed(hand: Page, server: Server) -> None:
    page = hand
    page.goto(f"{server.address}/")
    manifest = page.evaluate("fetch(document.querySelector('link[rel=manifest]').href).then(r => r.json())")
    assert manifest["name"] == "Rough Draw"
    assert manifest["display"] == "standalone"
    assert manifest["start_url"] == "/"
    sizes = {i["sizes"] for i in manifest["icons"]}
    assert {"192x192", "512x512"} <= sizes
    for icon in manifest["icons"]:
        status = page.evaluate(
            "src => fetch(src).then(r => [r.status, r.headers.get('content-type')])", "/" + icon["src"].lstrip("/")
        )
        assert status[0] == 200
        assert status[1].startswith("image/")
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    server.cut()
    page.goto(f"{server.address}/notes/words")
    expect(page.get_by_role("heading", name="Notes", exact=True)).to_be_visible()


@whole
def test_what_waits_goes_though_the_page_is_closed(hand: Page, server: Server) -> None:
    """The browser wakes the worker when there is signal again; the page is long gone."""
    page = hand
    key = installed(page, server)
    page.get_by_role("button", name="Done", exact=True).tap()
    expect(page.get_by_text("Pump started")).to_be_visible()
    devtools = page.context.new_cdp_session(page)
    found: list[dict[str, Any]] = []
    devtools.on("ServiceWorker.workerRegistrationUpdated", lambda e: found.extend(e["registrations"]))
    devtools.send("ServiceWorker.enable")
    # Asking the page anything lets what the browser tells come in.
    until(lambda: page.evaluate("1") and [r for r in found if r["scopeURL"].startswith(server.address)], bool)
    server.cut()
    type_reading(page, "444")
    type_reading(page, "433")
    until(lambda: len(ask_local(page)), lambda n: n == 2)
    # Of another origin: nothing of the application is open.
    page.goto("about:blank")
    server.start()
    assert ask(server, f"/jobs/{key}/readings") == []
    registration = next(r for r in found if r["scopeURL"].startswith(server.address))
    sync = {"origin": server.address, "registrationId": registration["registrationId"], "tag": "rough-draw-line"}

    def woken() -> list[dict[str, Any]]:
        devtools.send("ServiceWorker.dispatchSyncEvent", {**sync, "lastChance": False})
        series: list[dict[str, Any]] = ask(server, f"/jobs/{key}/readings")
        return series

    series = until(woken, lambda s: bool(s) and s[0]["total"] == 2)
    assert [round(p / 0.133322) for p in series[0]["pa"]] == [444, 433]
    page.goto(f"{server.address}/")
    expect(page.get_by_role("heading", name="Yard")).to_be_visible()
    until(lambda: ask_local(page), lambda waiting: waiting == [])
    assert ask(server, f"/jobs/{key}/readings")[0]["total"] == 2
