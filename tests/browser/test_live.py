"""The live run in the real interface: a forgotten ballast found, alarms heard of and silenced, a triple evacuation."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.test_job import choose, new_job, stage
from tests.browser.test_stages import settle, sheet
from tests.browser.waits import at_pace, saved, until
from tests.depth import whole

pytestmark = pytest.mark.browser
SLOW = 90_000


def card(page: Page) -> Locator:
    return page.locator("section", has=page.get_by_role("button", name="Caution"))


def done(page: Page, words: str, now: bool = True) -> None:
    """Wait until the card asks for something now, and do it."""
    expect(page.get_by_test_id("next-step")).to_contain_text(words, timeout=SLOW)
    if now:
        expect(card(page).get_by_text("now", exact=True)).to_be_visible(timeout=SLOW)
    card(page).get_by_role("button", name="Done").click()


def begun(page: Page, site: str, name: str) -> str:
    key = new_job(page, site, name)
    choose(page, "Why it was open", "New and dry")
    stage(page, "Draw")
    page.get_by_role("button", name="Simulated gauge").click()
    done(page, "Start the pump")
    return key


@whole
def test_a_forgotten_ballast_is_found_and_its_cure_is_seen(page: Page, site: str) -> None:
    key = begun(page, site, "Ballast Lane")
    expect(card(page)).to_contain_text("Close the gas ballast")
    # Nobody closes it: the gauge hangs, and the page says so.
    expect(page.get_by_test_id("sign")).to_contain_text("Stuck near", timeout=SLOW)
    # From here on the figures may stand still: what is asked and answered is not to be overtaken by them.
    at_pace(page, site, key, 1)
    page.get_by_role("button", name="Look into it").click()
    suspects = page.get_by_role("list", name="Causes")
    expect(suspects).to_contain_text("gas ballast is open", timeout=SLOW)
    test = page.get_by_test_id("next-test")
    for _ in range(6):
        if "ballast" in test.inner_text():
            break
        page.get_by_role("button", name="Another test").click()
    expect(test).to_contain_text("Look at the ballast")
    test.get_by_role("button", name="Yes", exact=True).click()
    expect(suspects.get_by_role("listitem").first).to_contain_text("gas ballast is open")
    # Something may stand beside it, as a perhaps: the ballast is what is done first.
    expect(page.get_by_test_id("cure").get_by_role("listitem").first).to_have_text("Close it.")
    until(
        lambda: [t["note"] for t in page.request.get(f"{site}/api/jobs/{key}/touches").json()],
        lambda notes: any("ballast" in note for note in notes),
    )
    stuck = page.request.get(f"{site}/api/jobs/{key}/live").json()["pa"]
    done(page, "Close the gas ballast", now=False)
    at_pace(page, site, key, 60)
    until(lambda: page.request.get(f"{site}/api/jobs/{key}/live").json()["pa"], lambda pa: pa < 0.7 * stuck)


def test_an_alarm_is_set_seen_on_another_page_and_silenced(page: Page, site: str) -> None:
    key = begun(page, site, "Alarm Lane")
    alarms = page.locator("section", has=page.get_by_role("heading", name="Alarms"))
    choose(page, "Call when", "Gauge under")
    page.get_by_label("Level").fill("90000")
    page.get_by_role("button", name="Set this alarm").click()
    expect(alarms).to_contain_text("Gauge under 90,000 µ")
    settle(page)
    assert {"kind": "under", "micron": 90000} in [
        {k: v for k, v in a.items() if v is not None} for a in sheet(page, site, key)["alarms"]
    ]
    page.goto(f"{site}/kit")
    bar = page.get_by_role("region", name="Alarms")
    height = bar.bounding_box()["height"]  # type: ignore[index]
    ring = bar.get_by_role("listitem").filter(has_text="Alarm Lane").filter(has_text="Under")
    more = bar.get_by_role("button", name=re.compile("more$"))

    def rings() -> bool:
        # One line shows; the rest stand behind it.
        if more.count():
            more.click()
        return ring.count() == 1

    until(rings, bool, SLOW / 1000)
    assert bar.bounding_box()["height"] == height, "nothing moves from under a finger"  # type: ignore[index]
    # What is being looked at is not rung for as well.
    page.goto(f"{site}/jobs/{key}/draw")
    expect(page.get_by_test_id("figure")).to_be_visible()
    page.wait_for_timeout(1500)
    expect(bar).not_to_contain_text("Alarm Lane")
    # Nor does anything real ring in a practice job.
    page.goto(f"{site}/practice/none")
    page.wait_for_timeout(1500)
    expect(bar.get_by_role("listitem")).to_have_count(0)
    page.goto(f"{site}/kit")
    until(rings, bool, SLOW / 1000)
    ring.get_by_role("button", name="Silence").click()
    expect(ring).to_have_count(0)
    page.wait_for_timeout(3000)
    expect(ring).to_have_count(0)
    page.request.delete(f"{site}/api/jobs/{key}/standin")


@whole
def test_a_triple_evacuation_goes_through_its_cycles(page: Page, site: str) -> None:
    key = new_job(page, site, "Triple Lane")
    choose(page, "Why it was open", "New and dry")
    saved(page)
    document = page.request.get(f"{site}/api/jobs/{key}").json()
    document["job"]["criterion"]["school"] = "triple"
    body = {"version": document["version"], "job": document["job"]}
    assert page.request.put(f"{site}/api/jobs/{key}", data=body).ok
    page.goto(f"{site}/jobs/{key}/draw")
    page.get_by_role("button", name="Simulated gauge").click()
    breaks = page.locator("section", has=page.get_by_role("heading", name="Nitrogen breaks"))
    expect(breaks).to_contain_text("The standard asks for 2")
    done(page, "Start the pump")
    done(page, "Close the gas ballast")
    at_pace(page, site, key, 300)
    for n in (1, 2):
        done(page, f"Break {n} of 2")
        expect(page.get_by_test_id("figure")).to_have_text("over", timeout=SLOW)
        expect(page.get_by_text("nitrogen in the system")).to_be_visible()
        done(page, "Close the nitrogen", now=False)
        expect(page.get_by_text(f"pull {n + 1} of 3")).to_be_visible(timeout=SLOW)
    expect(breaks).to_contain_text("2 made")
    expect(card(page)).to_contain_text(re.compile("ball valve|Isolate"), timeout=SLOW)
    page.request.delete(f"{site}/api/jobs/{key}/standin")


def test_two_gauges_stand_on_one_trace_on_a_phone(phone: Page, site: str) -> None:
    phone.goto(f"{site}/jobs/larkspur-3/draw")
    # Nothing of the row that sets its pace stands beyond the edge, where no finger comes.
    for button in phone.get_by_role("group", name="Pace of the simulated gauge").get_by_role("button").all():
        box = button.bounding_box()
        assert box is not None
        assert box["x"] >= 0
        assert box["x"] + box["width"] <= 390
    phone.get_by_role("button", name="Second gauge, at the pump").tap()
    expect(phone.get_by_test_id("other-gauge").get_by_text("Gauge at the pump")).to_be_visible(timeout=SLOW)
    expect(phone.get_by_role("button", name="Second gauge, at the pump")).to_have_count(0)
    assert phone.evaluate("document.documentElement.scrollWidth <= window.innerWidth")


def test_a_step_logged_by_mistake_is_taken_back_where_it_is_told(page: Page, site: str) -> None:
    key = new_job(page, site, "Slip Lane")
    stage(page, "Draw")
    page.get_by_role("button", name="Done", exact=True).click()
    # It stands for seconds only.
    page.get_by_role("listitem").filter(has_text="Logged:").get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("next-step")).to_contain_text("Start the pump")
    kinds = until(
        lambda: [t["kind"] for t in page.request.get(f"{site}/api/jobs/{key}/touches").json()],
        lambda found: "undo:ballast-open" in found,
    )
    # Both that one press logged are taken back, the last first; a correction stays in the log: nothing is wiped out.
    assert kinds == ["ballast-open", "pump-on", "undo:pump-on", "undo:ballast-open"]
    live = page.request.get(f"{site}/api/jobs/{key}/live").json()
    assert (live["pump_on"], live["ballast_open"]) == (False, False)


def test_a_job_is_shared_by_its_address_and_as_a_file(page: Page, site: str) -> None:
    key = new_job(page, site, "Shared Lane")
    page.context.grant_permissions(["clipboard-read", "clipboard-write"], origin=site)
    page.get_by_role("button", name="Share", exact=True).press("Enter")
    asked = page.get_by_role("dialog", name="Share this job")
    # Who came by keys goes on from where they were.
    expect(asked).to_be_visible()
    page.keyboard.press("Escape")
    expect(asked).to_have_count(0)
    expect(page.get_by_role("button", name="Share", exact=True)).to_be_focused()
    page.get_by_role("button", name="Share", exact=True).click()
    asked.get_by_role("button", name="Copy the address").click()
    expect(asked).to_have_count(0)
    address = page.evaluate("navigator.clipboard.readText()")
    assert address == f"{site}/jobs/{key}"
    page.goto(address)
    expect(page.get_by_role("heading", name="Shared Lane")).to_be_visible()
    page.get_by_role("button", name="Share", exact=True).click()
    with page.expect_download() as download:
        page.get_by_role("link", name="The job as a file").click()
    assert json.loads(download.value.path().read_text())["job"]["party"]["customer"] == "Shared Lane"
