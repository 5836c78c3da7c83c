"""The planning bench: a rig put together by hand, exchanged from the van, compared, packed for and planned."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_job import choose, new_job, stage
from tests.browser.test_stages import settle, sheet
from tests.browser.waits import focus
from tests.depth import whole

pytestmark = pytest.mark.browser


def parts(page: Page, site: str, key: str) -> dict[str, dict[str, object]]:
    settle(page)
    return {p["id"]: p for p in sheet(page, site, key)["rig"]["parts"]}


def test_a_rig_of_ones_own_by_mouse(page: Page, site: str) -> None:
    key = new_job(page, site, "Mouse Lane")
    stage(page, "Rig")
    choose(page, "Setup", "One hose, gauge straight on the other port")
    figure = page.get_by_test_id("time-to-target")
    expect(figure).to_be_visible()
    before = figure.inner_text()
    page.locator("svg text", has_text="1/2 in").click()
    page.get_by_role("group", name="From the van").get_by_role("button", name="1/4 in old hose").click()
    expect(page.locator("svg text", has_text="1/4 in × 1.5 m")).to_be_visible()
    expect(figure).not_to_have_text(before)
    page.get_by_role("tab", name="Findings").click()
    findings = page.get_by_test_id("findings")
    expect(findings).to_contain_text("A charging hose is used in the vacuum")
    findings.get_by_role("button", name=re.compile("acuum hoses? of the same size")).click()
    expect(findings).not_to_contain_text("A charging hose is used in the vacuum")
    findings.get_by_role("button", name="A core tool under the gauge").click()
    page.get_by_role("tab", name="Setup check").click()
    questions = page.get_by_test_id("questions")
    expect(questions).to_contain_text("With the core tool at the liquid port")
    found = parts(page, site, key)
    assert found["hose-a"]["made_for"] == "vacuum"
    assert found["gauge"]["on"] == "tool-b"
    page.get_by_role("button", name="gauge", exact=True).click()
    choose(page, "Move to", "at the pump")
    expect(questions).to_contain_text("It is at the pump")
    assert parts(page, site, key)["gauge"]["on"] == "pump"


@whole
def test_a_rig_of_ones_own_by_keyboard_only(page: Page, site: str) -> None:
    key = new_job(page, site, "Keyboard Lane")
    stage(page, "Rig")
    hook = page.get_by_role("combobox", name="Setup")
    focus(hook)
    page.keyboard.press("Enter")
    expect(page.get_by_role("option").first).to_be_visible()
    page.keyboard.type("Two 1/4", delay=60)
    expect(page.get_by_role("option", name="Two 1/4 in hoses on a tee")).to_be_focused()
    page.keyboard.press("Enter")
    expect(hook).to_contain_text("Two 1/4 in hoses on a tee")
    pump = page.get_by_role("button", name=re.compile("5 CFM")).first
    focus(pump)
    page.keyboard.press("Enter")
    plate = page.get_by_label("Plate displacement")
    focus(plate)
    page.keyboard.press("Control+a")
    page.keyboard.type("8")
    settle(page)
    page.keyboard.press("Escape")
    expect(plate).to_have_count(0)
    focus(page.get_by_role("tab", name="Change first"))
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("tab", name="Findings")).to_be_focused()
    fix = page.get_by_test_id("findings").get_by_role("button", name=re.compile("acuum hoses? of the same size"))
    focus(fix)
    page.keyboard.press("Enter")
    expect(fix).to_have_count(0)
    slider = page.get_by_role("slider", name="Moment of the draw")
    focus(slider)
    for _ in range(20):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_text("The line above shows that moment")).to_be_visible()
    found = parts(page, site, key)
    assert found["pump"]["plate_cfm"] == 8
    assert found["hose-a"]["made_for"] == "vacuum"


@whole
def test_a_rig_of_ones_own_by_touch(phone: Page, site: str) -> None:
    key = new_job(phone, site, "Touch Rig")
    stage(phone, "Rig")
    phone.get_by_role("combobox", name="Setup").tap()
    phone.get_by_role("option", name="Two hoses, two core tools").tap()
    phone.get_by_role("button").filter(has_text="3/8 in × 1.8 m").first.tap()
    phone.get_by_role("button", name="3/8 in vacuum, 0.9 m").tap()
    expect(phone.get_by_role("button", name=re.compile("0.9 m")).first).to_be_visible()
    phone.get_by_role("button", name="Close the part").tap()
    phone.get_by_role("tab", name="Findings").tap()
    phone.get_by_role("button", name="A core tool under the gauge").tap()
    expect(phone.get_by_role("button", name="A core tool under the gauge")).to_have_count(0)
    found = parts(phone, site, key)
    assert found["hose-b"]["length_m"] == 0.9
    assert any(p["kind"] == "tool" and p["on"] == "tool-b" for p in found.values())
    assert phone.evaluate("document.documentElement.scrollWidth <= window.innerWidth")


@whole
def test_the_best_rig_of_the_van_is_found_and_taken(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/hollow-5/rig")
    page.get_by_role("button", name="Best from the van").click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("rigs tried")
    dialog.get_by_role("button", name="Use it", exact=True).click()
    expect(dialog).to_be_hidden()
    expect(page.get_by_test_id("time-to-target")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("does not reach 200 µ within a day")).to_be_visible()


@whole
def test_rigs_side_by_side(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/hollow-5/rig")
    expect(page.get_by_role("region", name="This rig")).to_contain_text("never")
    second = page.get_by_role("region", name="Two hoses, three tools")
    expect(second).to_contain_text("min")
    second.get_by_role("button", name="Use this one").click()
    expect(page.get_by_role("region", name="This rig")).not_to_contain_text("never")
    page.get_by_role("button", name=re.compile("Set this rig aside")).click()
    expect(page.get_by_role("button", name="Use this one")).to_have_count(3)
    expect(page.get_by_role("button", name=re.compile("Set this rig aside"))).to_have_count(0)
    for _ in range(2):
        page.get_by_role("button", name="Undo").click()
        settle(page)
    expect(page.get_by_role("region", name="This rig")).to_contain_text("never")


@whole
def test_what_to_carry_is_ticked_off_and_kept(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/saltmarsh-fish/rig")
    page.get_by_role("tab", name="What to carry").click()
    magnet = page.get_by_role("checkbox", name=re.compile("solenoid magnet"))
    magnet.click()
    expect(magnet).to_have_attribute("aria-checked", "true")
    settle(page)
    page.reload()
    page.get_by_role("tab", name="What to carry").click()
    expect(page.get_by_role("checkbox", name=re.compile("solenoid magnet"))).to_have_attribute("aria-checked", "true")
    page.emulate_media(media="print")
    expect(page.get_by_role("heading", name="Consumables")).to_be_visible()
    expect(page.get_by_role("button", name="Best from the van")).to_be_hidden()
    page.emulate_media(media="screen")


@whole
def test_units_change_everywhere_at_once(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/larkspur-3/scope")
    expect(page.get_by_label("Length of suction line")).to_have_value("14")
    page.get_by_role("button", name="Units").click()
    sheet_of_units = page.get_by_role("dialog")
    try:
        for unit in ("mbar", "°F", "ft", "lb·oz"):
            sheet_of_units.get_by_role("radio", name=unit, exact=True).click()
        page.keyboard.press("Escape")
        expect(page.get_by_label("Length of suction line")).to_have_value("45.932")
        expect(page.get_by_label("Ambient")).to_have_value("62.6")
        inside = page.locator("section", has=page.get_by_role("heading", name="Inside"))
        expect(inside).to_contain_text("13.8 oz")  # 0.39 kg for the line beyond the included length
        expect(inside).to_contain_text("16.5 mbar")  # saturation at 14.5 °C
        length = page.get_by_label("Length of suction line")
        length.fill("50")
        settle(page)
        found = sheet(page, site, "larkspur-3")["scope"]["sections"][0]["length_m"]
        assert found == pytest.approx(15.24)
        page.get_by_role("button", name="Undo").click()
        stage(page, "Rig")
        expect(page.get_by_text("0.267 mbar").first).to_be_visible()  # 200 µ
    finally:
        page.request.put(f"{site}/api/settings", data={})


@whole
def test_a_rig_leaves_and_comes_back_as_a_file(page: Page, site: str, tmp_path: Path) -> None:
    page.goto(f"{site}/jobs/larkspur-3/rig")
    page.get_by_role("button", name="Files of the rig").click()
    with page.expect_download() as download:
        page.get_by_role("menuitem", name="Rig as JSON").click()
    values = json.loads(Path(download.value.path()).read_text())
    assert values["format"] == "rough-draw/rig"
    key = new_job(page, site, "File Lane")
    stage(page, "Rig")
    good, bad = tmp_path / "good.json", tmp_path / "bad.json"
    good.write_text(json.dumps(values))
    circle = [*values["parts"], {"kind": "pump", "id": "another"}]
    bad.write_text(json.dumps({**values, "parts": circle}))
    files = page.locator("main input[type=file]")
    files.set_input_files(str(bad))
    expect(page.get_by_role("alert")).to_contain_text("two pumps")
    expect(page.get_by_test_id("time-to-target")).to_be_visible()
    files.set_input_files(str(good))
    expect(page.get_by_role("alert")).to_have_count(0)
    assert set(parts(page, site, key)) == {p["id"] for p in values["parts"]}


def test_a_bad_part_is_said_and_the_last_good_answer_stays(page: Page, site: str) -> None:
    new_job(page, site, "Bad Lane")
    stage(page, "Rig")
    figure = page.get_by_test_id("time-to-target")
    expect(figure).to_be_visible()
    before = figure.inner_text()
    page.locator("svg text", has_text="1/2 in").click()
    page.get_by_label("Length").fill("900")
    expect(page.get_by_text("from 0.05 to 60 m")).to_be_visible()
    expect(figure).to_have_text(before)
    page.get_by_role("button", name="Take it off").click()
    expect(page.get_by_role("alert").or_(figure).first).to_be_visible()


def test_the_day_fits_jobs_in_and_tells_clashes(page: Page, site: str) -> None:
    page.goto(f"{site}/day")
    expect(page.get_by_role("heading", name="Day", exact=True)).to_be_visible()
    for name in ("Fish freezer", "Spawn room"):
        expect(page.get_by_role("link", name=re.compile(name))).to_be_visible()
    start = 1_900_000_000
    for key, pump_start in (("hollow-5", start), ("saltmarsh-fish", start + 300)):
        stored = page.request.get(f"{site}/api/jobs/{key}").json()
        stored["job"]["plans"]["start_at"] = pump_start
        page.request.put(f"{site}/api/jobs/{key}", data={"version": stored["version"], "job": stored["job"]})
    page.reload()
    expect(page.get_by_role("alert")).to_contain_text("clash")
    page.get_by_role("checkbox", name=re.compile("Fish freezer")).click()
    clash = page.get_by_role("alert").filter(has_text="Fish freezer")
    expect(clash).to_have_count(1)
    page.get_by_role("button", name="Fit 1 in").click()
    expect(clash).to_have_count(0)
    with page.expect_download() as download:
        page.get_by_role("link", name="Calendar").click()
    text = Path(download.value.path()).read_text()
    assert text.startswith("BEGIN:VCALENDAR")
    assert "Isolate\\, then stop the pump" in text


@whole
def test_a_cord_is_judged(page: Page, site: str) -> None:
    new_job(page, site, "Cord Lane")
    stage(page, "Rig")
    page.get_by_role("tab", name="Cord").click()
    page.get_by_role("button", name="Add a cord, 120 V").click()
    choose(page, "Wire", "18 AWG")
    page.get_by_label("Length, one way").fill("60")
    expect(page.get_by_text("too thin")).to_be_visible()
    expect(page.get_by_text("would do").or_(page.get_by_text("bring the pump nearer")).first).to_be_visible()
