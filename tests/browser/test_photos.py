"""Photos, a follow-up visit, the firm's own paper and a gauge by its address, in the real interface."""

from __future__ import annotations

import json
import re
import time
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.api.test_connected_gauge import HELLO, bridge
from tests.browser.test_job import new_job, stage
from tests.browser.waits import unfolded, until
from tests.depth import whole
from tests.store.test_photos import picture

pytestmark = pytest.mark.browser


@pytest.fixture
def shot(tmp_path: Path) -> Path:
    path = tmp_path / "shot.jpg"
    path.write_bytes(picture(2400, 1800, place=True))
    return path


def add_photo(page: Page, of: str, file: Path, caption: str) -> None:
    page.get_by_label(f"Picture of {of}").set_input_files(file)
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("What it shows").fill(caption)
    dialog.get_by_role("button", name="Keep it").click()
    expect(dialog).to_be_hidden()
    expect(page.get_by_role("img", name=caption)).to_be_visible()


LISTEN = """() => {
    const fetched = window.fetch;
    window.sent = [];
    window.fetch = (to, how) => {
        if (how?.body instanceof FormData) window.sent.push(how.body.get("file").size);
        return fetched(to, how);
    };
}"""
"""Notes how large each file is that the page sends."""


@whole
def test_a_photo_is_made_small_on_the_device_and_goes_into_the_record(phone: Page, site: str, shot: Path) -> None:
    key = new_job(phone, site, "Photo Lane")
    unfolded(phone, "Charge")
    phone.evaluate(LISTEN)
    add_photo(phone, "the nameplate", shot, "nameplate of the unit")
    (size,) = phone.evaluate("() => window.sent")
    assert size < 0.7 * shot.stat().st_size, "it was made smaller before it was sent"
    (kept,) = phone.request.get(f"{site}/api/jobs/{key}/photos").json()
    assert (kept["about"], kept["width"], kept["height"]) == ("nameplate", 1600, 1200)
    stage(phone, "Record")
    unfolded(phone, "Photos")
    group = phone.get_by_role("group", name="Photos of the nameplate")
    group.get_by_role("img", name="nameplate of the unit").tap()
    dialog = phone.get_by_role("dialog")
    dialog.get_by_role("button", name="Remove this photo").tap()
    expect(dialog).to_be_hidden()
    expect(group).to_have_count(0)
    assert phone.request.get(f"{site}/api/jobs/{key}/photos").json() == []
    assert phone.evaluate("document.documentElement.scrollWidth <= window.innerWidth")


def test_a_photo_hangs_on_its_step_and_on_its_port(page: Page, site: str, shot: Path) -> None:
    key = new_job(page, site, "Step Photo Lane")
    page.request.post(f"{site}/api/jobs/{key}/touches", data={"kind": "pump-on"})
    stage(page, "Draw")
    add_photo(page, "the step “Pump started”", shot, "the pump and its exhaust")
    stage(page, "Release")
    page.get_by_role("radio", name="bubbles").first.click()
    port = page.get_by_label(re.compile("^Picture of the .* port$")).first
    port.set_input_files(shot)
    page.get_by_role("dialog").get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("dialog")).to_be_hidden()
    kept = until(lambda: page.request.get(f"{site}/api/jobs/{key}/photos").json(), lambda found: len(found) == 2)
    assert {p["about"].split(":")[0] for p in kept} == {"step", "port"}
    stage(page, "Record")
    expect(page.get_by_role("img", name="the pump and its exhaust")).to_be_visible()


def test_what_is_no_picture_is_told_and_nothing_is_kept(page: Page, site: str, tmp_path: Path) -> None:
    key = new_job(page, site, "No Photo Lane")
    stage(page, "Record")
    wrong = tmp_path / "wrong.jpg"
    wrong.write_bytes(b"not a picture")
    page.get_by_label("Picture of the rig").set_input_files(wrong)
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Keep it").click()
    expect(dialog).to_contain_text("no picture that can be read")
    assert page.request.get(f"{site}/api/jobs/{key}/photos").json() == []


def test_an_empty_job_is_not_sealed_silently_and_a_visit_follows_its_seal(page: Page, site: str, shot: Path) -> None:
    key = new_job(page, site, "Empty Lane")
    stage(page, "Record")
    close = page.get_by_role("button", name="Close and seal")
    page.get_by_label("Name of the technician").fill("Mara Tollivet")
    page.get_by_role("button", name="Sign", exact=True).click()
    expect(page.get_by_test_id("sealing-what")).to_contain_text("No draw. No hold test.")
    left = page.get_by_role("list", name="Deviations")
    expect(left).to_contain_text("The pump was never started")
    expect(close).to_be_disabled()
    page.get_by_label("One reason for the", exact=False).fill("the unit was scrapped")
    page.get_by_role("button", name="Use it for all of them").click()
    close.click()
    expect(page.get_by_text("whole", exact=True)).to_be_visible()
    rail = {s["key"]: s["done"] for s in page.request.get(f"{site}/api/jobs/{key}/stages").json()}
    assert not any(rail[s] for s in ("prove", "draw", "hold"))
    page.get_by_role("button", name="Add a visit").click()
    page.get_by_label("What was seen").fill("Unit gone")
    add_photo(page, "the visit", shot, "the empty place")
    page.get_by_role("button", name="Add it").click()
    visits = page.get_by_role("list", name="Follow-up visits")
    expect(visits).to_contain_text("Unit gone")
    expect(visits.get_by_role("img", name="the empty place")).to_be_visible()
    seal = page.request.get(f"{site}/api/jobs/{key}/seal").json()
    assert seal["whole"]
    assert all(d["reason"] == "the unit was scrapped" for d in seal["deviations"])


@whole
def test_a_gauge_is_read_by_its_address_with_its_state_and_taken_off(page: Page, site: str) -> None:
    key = new_job(page, site, "Bridge Lane")
    stage(page, "Draw")
    readings = [json.dumps({"at": time.time() - 60 + n, "pa": 5000.0 / (n + 1)}).encode() + b"\n" for n in range(5)]
    with bridge(HELLO, b"odd\n", *readings) as (port, _):
        page.get_by_role("button", name="Connect", exact=True).click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Port").fill(str(port))
        dialog.get_by_role("button", name="Connect", exact=True).click()
        expect(dialog).to_be_hidden()
        state = page.get_by_role("group", name="Connected gauge")
        expect(state).to_contain_text(f"127.0.0.1:{port}")
        expect(state).to_contain_text("heard")
        expect(state).to_contain_text("1 lines passed over")
        until(lambda: page.request.get(f"{site}/api/jobs/{key}/readings").json(), lambda r: r and r[0]["total"] >= 6)
        assert page.request.get(f"{site}/api/jobs/{key}/readings").json()[0]["simulated"] == []
    expect(state).to_contain_text("nothing heard", timeout=30_000)
    state.get_by_role("button", name="Disconnect").click()
    expect(page.get_by_role("button", name="Type", exact=True)).to_be_visible()


@whole
def test_the_firm_sets_its_paper_and_its_key(page: Page, site: str, shot: Path) -> None:
    page.goto(f"{site}/people")
    page.get_by_label("Firm", exact=True).fill("Quillmere Cold Works")
    page.get_by_label("Address").fill("Weir Lane 4")
    page.get_by_label("Logo file").set_input_files(shot)
    expect(page.get_by_role("img", name="The firm's logo")).to_be_visible()
    card = page.locator("section", has=page.get_by_role("heading", name="On reports"))
    card.get_by_role("button", name="Save").click()
    expect(card.get_by_role("button", name="Save")).to_be_disabled()
    card.get_by_role("button", name="Make a key to sign with").click()
    expect(card).to_contain_text("signed with the firm's own key")
    settings = page.request.get(f"{site}/api/settings").json()
    assert settings["settings"]["firm"] == "Quillmere Cold Works"
    assert len(settings["key"].split()) == 6
    card.get_by_role("button", name="Remove the logo").click()
    expect(page.get_by_role("img", name="The firm's logo")).to_have_count(0)
