"""The job beside the unit: by touch, on a phone, with readings typed by hand."""

from __future__ import annotations

import re
import time

import pytest
from playwright.sync_api import Page, Route, expect

from rough_draw.core.physics.units import MICRON_PA
from tests.browser.test_job import new_job, stage
from tests.browser.waits import Visits, saved, tapped, told, unfolded, until
from tests.depth import whole

pytestmark = pytest.mark.browser


def typed(page: Page, site: str, key: str, curve: list[tuple[float, float]], gauge: str = "typed") -> None:
    """Readings as the keypad sends them, each with its own time and key."""
    rows = [{"at": at, "pa": microns * MICRON_PA, "key": f"{gauge}-{at}"} for at, microns in curve]
    answer = page.request.post(f"{site}/api/jobs/{key}/readings", data={"gauge": gauge, "readings": rows})
    assert answer.status == 201


def touched(page: Page, site: str, key: str, kind: str, at: float) -> None:
    answer = page.request.post(f"{site}/api/jobs/{key}/touches", data={"kind": kind, "at": at})
    assert answer.status == 201


@whole
def test_whole_job_by_touch_with_typed_readings(phone: Page, site: str) -> None:
    key = new_job(phone, site, "Touch Quay")
    stage(phone, "Rig")
    phone.get_by_role("button", name="the core tool at the suction port, open").last.tap()
    phone.get_by_role("radio", name="Left in").tap()
    expect(phone.get_by_role("button", name="Use: pull the core", exact=False).first).to_be_visible()
    phone.get_by_role("button", name="Use: pull the core", exact=False).first.tap()
    expect(phone.get_by_role("radio", name="Pulled")).to_have_attribute("data-state", "on")
    stage(phone, "Prove")
    phone.get_by_role("button", name="Protection and air", exact=False).tap()
    expect(phone.get_by_role("checkbox").first).to_be_visible()
    for box in phone.get_by_role("checkbox").all():
        box.tap()
    expect(phone.locator('[role="checkbox"][aria-checked="false"]')).to_have_count(0)
    expect(phone.get_by_role("button", name="checked Protection and air", exact=False)).to_be_visible()
    saved(phone)

    start = time.time() - 3600
    touched(phone, site, key, "pump-on", start)
    typed(phone, site, key, [(start + 60 * k, max(180.0, 700_000 * 0.5**k)) for k in range(1, 30)])
    touched(phone, site, key, "isolate", start + 1800)
    touched(phone, site, key, "pump-off", start + 1810)
    typed(phone, site, key, [(start + 1800 + 30 * k, 180.0 + 60 * (1 - 0.7**k)) for k in range(1, 60)])

    stage(phone, "Draw")
    expect(phone.get_by_test_id("figure")).to_contain_text("240")
    unfolded(phone, "Steps logged")
    expect(phone.get_by_text("System isolated")).to_be_visible()
    stage(phone, "Hold")
    expect(phone.get_by_test_id("verdict")).to_have_text("Tight and dry")
    expect(phone.get_by_role("link", name="To release")).to_be_visible()
    stage(phone, "Release")
    expect(phone.get_by_role("alert")).to_have_count(0)
    for n in range(6):
        phone.locator('[role="checkbox"][aria-checked="false"]:not([disabled])').first.tap()
        expect(phone.get_by_text(re.compile(rf"^{n + 1} of \d+ done$"))).to_be_visible()
    stage(phone, "Record")
    phone.get_by_label("Name of the technician").fill("Odo Brask")
    phone.get_by_role("button", name="Sign", exact=True).tap()
    expect(phone.get_by_role("button", name="Remove the signature")).to_be_visible()
    phone.goto(site)
    # Its next touch may stand above for a while yet: what is ahead is asked for less often than the cards.
    expect(phone.locator(f'a[href="/jobs/{key}/record"]')).to_contain_text("signed by Odo Brask")


def test_typed_readings_tell_a_leak(phone: Page, site: str) -> None:
    key = new_job(phone, site, "Typed Leak")
    start = time.time() - 3000
    touched(phone, site, key, "pump-on", start)
    typed(phone, site, key, [(start + 60, 900.0), (start + 600, 190.0)])
    touched(phone, site, key, "isolate", start + 660)
    typed(phone, site, key, [(start + 660 + 10 * k, 190.0 + 10 * k * 1.5) for k in range(1, 150)])
    stage(phone, "Hold")
    expect(phone.get_by_test_id("verdict")).to_have_text(re.compile("It leaks"))
    expect(phone.get_by_text(re.compile(r"1\.\d\d µ/s")).first).to_be_visible()
    stage(phone, "Release")
    expect(phone.get_by_role("alert")).to_contain_text("It leaks")


@whole
def test_opening_again_ends_the_hold(phone: Page, site: str) -> None:
    key = new_job(phone, site, "Open Again")
    start = time.time() - 2000
    touched(phone, site, key, "pump-on", start)
    typed(phone, site, key, [(start + 60 * k, 900.0 - k) for k in range(1, 10)])
    touched(phone, site, key, "isolate", start + 700)
    stage(phone, "Draw")
    tool = phone.get_by_role("button", name="the core tool at the suction port, closed").last
    tool.scroll_into_view_if_needed()
    dialog = phone.get_by_role("dialog")
    tapped(tool, dialog)
    expect(dialog).to_contain_text("The pump is running")
    dialog.get_by_role("button", name="Open again").tap()
    expect(dialog).to_be_hidden()
    expect(phone.get_by_role("button", name="the core tool at the suction port, open").last).to_be_visible()
    stage(phone, "Hold")
    expect(phone.get_by_text("No hold test yet")).to_be_visible()


def test_a_stopped_pump_is_not_opened_to_the_system(phone: Page, site: str) -> None:
    key = new_job(phone, site, "Stopped Pump")
    start = time.time() - 2000
    for kind, after in (("pump-on", 0), ("isolate", 700), ("pump-off", 710)):
        touched(phone, site, key, kind, start + after)
    typed(phone, site, key, [(start + 60 * k, 300.0) for k in range(1, 10)])
    stage(phone, "Draw")
    tool = phone.get_by_role("button", name="the core tool at the suction port, closed").last
    tool.scroll_into_view_if_needed()
    dialog = phone.get_by_role("dialog")
    tapped(tool, dialog)
    expect(dialog.get_by_role("alert")).to_contain_text("Air and oil of the stopped pump would go into the system")
    expect(dialog.get_by_role("button", name="Open again", exact=True)).to_have_count(0)
    expect(dialog.get_by_role("button", name="Open again all the same")).to_be_visible()
    dialog.get_by_role("button", name="Start the pump").tap()
    expect(dialog).to_be_hidden()


def test_over_range_is_shown_as_such(phone: Page, site: str) -> None:
    new_job(phone, site, "Over Lane")
    stage(phone, "Draw")
    phone.get_by_role("button", name="Type", exact=True).tap()
    pad = phone.get_by_role("dialog")
    pad.get_by_role("button", name="Over", exact=True).tap()
    expect(pad).to_contain_text("over")
    phone.keyboard.press("Escape")
    expect(phone.get_by_test_id("figure")).to_have_text("over")


@whole
def test_the_keypad_corrects_and_bounds(phone: Page, site: str) -> None:
    new_job(phone, site, "Keypad Lane")
    stage(phone, "Draw")
    phone.get_by_role("button", name="Type", exact=True).tap()
    pad = phone.get_by_role("dialog")
    enter = pad.get_by_role("button", name="Enter")
    expect(enter).to_be_disabled()
    for key in ("0", "9", "9", "9", "9", "9", "9"):
        pad.get_by_role("button", name=key, exact=True).tap()
    expect(enter).to_be_disabled()
    for _ in range(4):
        pad.get_by_role("button", name="Back").tap()
    expect(pad).to_contain_text("99")
    enter.tap()
    expect(pad).to_contain_text("99 µ")


def test_figures_typed_faster_than_the_server_answers_keep_their_digits(phone: Page, site: str) -> None:
    key = new_job(phone, site, "Quick Fingers")
    stage(phone, "Draw")
    held: list[Route] = []
    phone.route("**/readings", lambda r: held.append(r) if r.request.method == "POST" else r.continue_())
    phone.get_by_role("button", name="Type", exact=True).tap()
    pad = phone.get_by_role("dialog")
    for figure in ("900", "4"):
        for digit in figure:
            pad.get_by_role("button", name=digit, exact=True).tap()
        if figure == "900":
            pad.get_by_role("button", name="Enter").tap()
    until(lambda: phone.wait_for_timeout(20) or held, bool)
    with phone.expect_response(told("POST", "/readings")):
        held[0].continue_()
    phone.unroute("**/readings")
    expect(pad).to_contain_text("900 µ")
    pad.get_by_role("button", name="0", exact=True).tap()
    pad.get_by_role("button", name="Enter").tap()
    micron = 101_325 / 760_000
    read = until(
        lambda: [
            round(p / micron) for s in phone.request.get(f"{site}/api/jobs/{key}/readings").json() for p in s["pa"]
        ],
        lambda found: len(found) == 2,
    )
    assert read == [900, 40]


def test_a_valve_is_asked_about_by_touch(phone: Page, site: str) -> None:
    phone.goto(f"{site}/jobs/larkspur-3/draw")
    valve = phone.get_by_role("button", name=re.compile("core tool at the suction port, open"))
    valve.scroll_into_view_if_needed()
    dialog = phone.get_by_role("dialog")
    tapped(valve, dialog)
    expect(dialog).to_contain_text("Isolate at")
    expect(dialog).to_contain_text("The hold test begins")
    dialog.get_by_role("button", name="Cancel").tap()
    expect(dialog).to_have_count(0)
    phone.get_by_role("button", name=re.compile("the gauge tool, open")).tap()
    expect(dialog.get_by_role("heading")).to_contain_text("Close the gauge tool?")
    dialog.get_by_role("button", name="Cancel").tap()
    assert phone.evaluate("document.documentElement.scrollWidth <= window.innerWidth")


@whole
def test_inches_of_mercury_are_typed_as_vacuum_below_the_air(phone: Page, site: str) -> None:
    key = new_job(phone, site, "Needle Pier")
    settings = phone.request.get(f"{site}/api/settings").json()["settings"]
    assert phone.request.put(f"{site}/api/settings", data={**settings, "pressure": "inhg"}).ok
    phone.reload()
    stage(phone, "Draw")
    phone.get_by_role("button", name="Type", exact=True).tap()
    pad = phone.get_by_role("dialog")
    for k in ("2", "9", ".", "5"):
        pad.get_by_role("button", name=k, exact=True).tap()
    pad.get_by_role("button", name="Enter").tap()
    expect(pad).to_contain_text("−29.5 inHg")
    until(
        lambda: phone.request.get(f"{site}/api/jobs/{key}/live").json()["pa"],
        lambda pa: pa == pytest.approx(101_325 - 29.5 * 3386.389, abs=1),
    )
    for k in ("3", "2"):
        pad.get_by_role("button", name=k, exact=True).tap()
    # There is no deeper than the air itself.
    expect(pad).to_contain_text("Taken as a full vacuum")


SCREENS = 3 * 844
"""Pixels of three screens of a phone: no stage is longer with its folds as they begin."""


@whole
@pytest.mark.parametrize("job", ["larkspur-1", "larkspur-3", "hollow-5", "saltmarsh-bait", "hollow-2", "saltmarsh-ice"])
def test_no_stage_is_longer_than_three_screens(phone: Page, site: str, job: str) -> None:
    visits = Visits(phone, site)
    heights = {}
    for name in ("scope", "rig", "prove", "draw", "hold", "release", "record"):
        visits.go(f"jobs/{job}/{name}")
        expect(phone.get_by_role("main")).not_to_contain_text(re.compile("…$"))
        heights[name] = phone.evaluate("document.documentElement.scrollHeight")
    visits.end()
    assert {k: v for k, v in heights.items() if v > SCREENS} == {}


@whole
def test_a_fold_stands_as_it_was_left_and_a_desk_has_none(phone: Page, site: str) -> None:
    phone.goto(f"{site}/jobs/larkspur-1/hold")
    unfolded(phone, "What each standard says")
    expect(phone.get_by_text("Code minimum").first).to_be_visible()
    phone.reload()
    expect(phone.get_by_text("Code minimum").first).to_be_visible()
    phone.get_by_role("button", name="What each standard says").tap()
    expect(phone.get_by_text("Code minimum")).to_have_count(0)
    phone.set_viewport_size({"width": 1280, "height": 800})
    expect(phone.get_by_text("Code minimum").first).to_be_visible()
