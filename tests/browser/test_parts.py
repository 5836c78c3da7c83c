"""Parts as hands find them, and two gauges on one job, in the real interface."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_bench import parts
from tests.browser.test_job import choose, new_job, stage
from tests.browser.test_live import SLOW, done
from tests.browser.test_stages import settle, sheet
from tests.browser.waits import until
from tests.depth import whole

pytestmark = pytest.mark.browser


def radio(page: Page, group: str, choice: str) -> None:
    page.get_by_role("radiogroup", name=group).get_by_role("radio", name=choice, exact=True).click()


def findings(page: Page) -> str:
    page.get_by_role("tab", name="Findings").click()
    return page.get_by_test_id("findings").inner_text()


def test_a_core_left_in_under_a_tool_is_a_stop_and_its_fix_one_press(page: Page, site: str) -> None:
    key = new_job(page, site, "Pin Lane")
    stage(page, "Rig")
    choose(page, "Setup", "Two hoses, three core tools")
    page.get_by_role("button", name=re.compile("core tool at the suction port")).first.press("Enter")
    radio(page, "Core of the suction port", "Left in")
    until(lambda: sheet(page, site, key)["rig"]["cores_in"], lambda cores: cores == ["suction"])
    expect(page.get_by_role("tab", name="Findings")).to_be_visible()
    page.get_by_role("tab", name="Findings").click()
    told = page.get_by_test_id("findings")
    expect(told).to_contain_text("The core is still in the suction port, under a core tool")
    told.get_by_role("button", name="The core at the suction port pulled").click()
    expect(told).not_to_contain_text("under a core tool")
    settle(page)
    assert sheet(page, site, key)["rig"]["cores_in"] == []


@whole
def test_ends_tapers_and_intakes_are_set_on_the_page_and_told(page: Page, site: str) -> None:
    key = new_job(page, site, "Flare Lane")
    stage(page, "Rig")
    choose(page, "Setup", "Two hoses, three core tools")
    page.locator("svg text", has_text="1/2 in").first.click()
    choose(page, "Flare, system end", "1/4 in")
    expect(page.get_by_role("tab", name=re.compile("Findings"))).to_be_visible()
    page.get_by_role("tab", name="Findings").click()
    told = page.get_by_test_id("findings")
    expect(told).to_contain_text("1/4 in end")
    choose(page, "Bore, system end", "3/8 in")
    until(lambda: parts(page, site, key)["hose-a"]["size_far"], lambda size: size == "3/8 in")
    told.get_by_role("button", name="A hose with ends of its own bore").click()
    expect(told).not_to_contain_text("1/4 in end")
    assert parts(page, site, key)["hose-a"]["far_end"] is None


@whole
def test_the_pump_on_any_port_of_a_manifold(page: Page, site: str) -> None:
    key = new_job(page, site, "Charge Lane")
    stage(page, "Rig")
    choose(page, "Setup", "Four-port manifold, gauge on a core tool")
    page.get_by_role("button", name="manifold", exact=True).first.press("Enter")
    choose(page, "Pump on its port", "charge")
    until(lambda: parts(page, site, key)["manifold"]["inlet"], lambda port: port == "charge")
    expect(page.get_by_test_id("time-to-target")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)


@whole
def test_where_the_time_goes_and_what_shortens_it(page: Page, site: str) -> None:
    new_job(page, site, "Time Lane")
    stage(page, "Rig")
    choose(page, "Setup", "Cylinder on the fourth hose, cores left in")
    expect(page.get_by_test_id("changes").get_by_role("listitem").first).to_contain_text("pull", timeout=SLOW)
    page.get_by_role("tab", name="Time").click()
    shares = page.get_by_test_id("time-shares")
    expect(shares).to_contain_text("takes most of it")
    expect(shares).to_contain_text("Hoses, tools and cores")


@whole
def test_two_gauges_from_the_rig_to_the_report(page: Page, site: str) -> None:
    key = new_job(page, site, "Two Gauge Lane")
    choose(page, "Why it was open", "New and dry")
    stage(page, "Rig")
    choose(page, "Setup", "Two hoses, three core tools")
    page.get_by_role("button", name="Add").click()
    page.get_by_role("menuitem", name="A second gauge, at the pump").click()
    until(lambda: len([p for p in parts(page, site, key).values() if p["kind"] == "gauge"]), lambda n: n == 2)
    stage(page, "Draw")
    page.get_by_role("button", name="Simulated gauge").click()
    done(page, "Start the pump")
    other = page.get_by_test_id("other-gauge")
    expect(other).to_contain_text("Gauge 2", timeout=SLOW)
    expect(other).to_contain_text("plan", timeout=SLOW)
    expect(page.get_by_test_id("between")).to_be_visible(timeout=SLOW)
    until(
        lambda: {s["part"] for s in page.request.get(f"{site}/api/jobs/{key}/readings").json()},
        lambda known: known == {"gauge", "gauge-2"},
    )
    live = page.request.get(f"{site}/api/jobs/{key}/live").json()
    assert live["gauge"] == "Gauge 1"
    report = page.request.get(f"{site}/api/jobs/{key}/record.pdf")
    assert report.ok
    assert page.request.delete(f"{site}/api/jobs/{key}/standin").ok


@whole
def test_a_figure_is_typed_for_the_gauge_it_is_of(page: Page, site: str) -> None:
    key = new_job(page, site, "Keypad Lane")
    stage(page, "Rig")
    page.get_by_role("button", name="Add").click()
    page.get_by_role("menuitem", name="A second gauge, at the pump").click()
    until(lambda: len([p for p in parts(page, site, key).values() if p["kind"] == "gauge"]), lambda n: n == 2)
    stage(page, "Draw")
    page.get_by_role("button", name="Type", exact=True).click()
    pad = page.get_by_role("dialog")
    for which, digits in (("gauge 1", "900"), ("gauge 2", "400"), ("at the pump", "300")):
        pad.get_by_role("radio", name=which, exact=True).click()
        for d in digits:
            pad.get_by_role("button", name=d, exact=True).click()
        pad.get_by_role("button", name="Enter").click()
        expect(pad.get_by_text(digits).first).to_be_visible()
    micron = 101_325 / 760_000
    series = until(
        lambda: {
            s["part"]: round(s["pa"][-1] / micron) for s in page.request.get(f"{site}/api/jobs/{key}/readings").json()
        },
        lambda found: len(found) == 3,
    )
    assert series == {"gauge": 900, "gauge-2": 400, "at-pump": 300}
