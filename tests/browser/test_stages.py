"""Each stage in the real interface: what it shows, what it does, what it warns of."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Route, expect

from tests.browser.test_job import choose, new_job, stage
from tests.browser.waits import saved
from tests.depth import first, whole

pytestmark = pytest.mark.browser


def sheet(page: Page, site: str, key: str) -> dict[str, Any]:
    return page.request.get(f"{site}/api/jobs/{key}").json()["job"]  # type: ignore[no-any-return]


def settle(page: Page) -> None:
    """What was edited is on the server, and what follows from it is on screen."""
    saved(page)
    page.wait_for_function("() => !document.querySelector('[aria-busy=true]')")


@whole
def test_the_yard_names_every_job_and_where_it_stands(page: Page, site: str) -> None:
    page.goto(site)
    for name in ("Larkspur Flower Wholesale", "Hollow Bank Mushrooms", "Saltmarsh Ferry Terminal"):
        expect(page.get_by_text(name).first).to_be_visible()
    ice = page.get_by_role("link").filter(has_text="Ice store").first
    expect(ice).to_contain_text("signed by Odo Brask")
    expect(ice).to_contain_text("recorded")
    for stage_name in ("hold", "prove", "scope"):
        expect(page.get_by_role("img", name=re.compile(stage_name, re.I)).first).to_be_visible()


def test_a_leaking_job_waits_at_its_hold(page: Page, site: str) -> None:
    page.goto(site)
    card = page.locator("a.sheet").filter(has_text="Cold room 1")
    expect(card).to_contain_text("It leaks", timeout=20_000)
    card.click()
    expect(page).to_have_url(re.compile("/hold$"))
    expect(page.get_by_test_id("verdict")).to_have_text("It leaks")


def test_kit_tells_what_is_due(page: Page, site: str) -> None:
    page.goto(f"{site}/kit")
    for heading in ("Pumps", "Hoses", "Core tools", "Gauges", "What would have been worth buying"):
        expect(page.get_by_role("heading", name=heading)).to_be_visible()
    pump = page.locator("summary", has_text="Pump 3")
    expect(pump).to_contain_text("bad")
    expect(page.get_by_text("charging hose").first).to_be_visible()


@whole
def test_scope_shows_what_follows_from_it(page: Page, site: str) -> None:
    key = new_job(page, site, "Scope Lane")
    inside = page.locator("section", has=page.get_by_role("heading", name="Inside"))
    expect(inside).to_be_visible()
    before = inside.inner_text()
    choose(page, "Size of suction line", "1-1/8 in")
    expect(inside).not_to_have_text(before)
    choose(page, "Why it was open", "Water got in")
    expect(inside).to_contain_text("60 g")
    choose(page, "Refrigerant", "R-290")
    expect(page.get_by_text("flammable (A3)")).to_be_visible()
    page.get_by_label("Nameplate", exact=True).fill("4.2")
    page.get_by_role("radio", name="Manufacturer's").click()
    page.get_by_label("Adder", exact=True).fill("20")
    # The unit keeps its 4.2 kg: 12 m of line at 20 g/m is all that is weighed in.
    expect(inside).to_contain_text("0.24 kg")
    settle(page)
    scope = sheet(page, site, key)["scope"]
    assert next(s for s in scope["sections"] if s["id"] == "suction")["size"] == "1-1/8 in"
    assert scope["condition"] == "flooded"
    assert scope["nameplate_kg"] == 4.2


@whole
def test_templates_lay_out_the_system_and_fit_the_rig_to_it(page: Page, site: str) -> None:
    key = new_job(page, site, "Kinds Lane")
    expect(page.get_by_label("Capacity of evaporator")).to_be_visible()
    choose(page, "Start from", "Empty recovery cylinder")
    expect(page.get_by_label("Volume of cylinder")).to_be_visible()
    expect(page.get_by_label("Capacity of evaporator")).to_have_count(0)
    expect(page.get_by_text("all reached")).to_be_visible()
    settle(page)
    assert sheet(page, site, key)["rig"]["pattern"] == "single-port"
    choose(page, "Start from", "Bare line set")
    expect(page.get_by_label("Length of suction line")).to_be_visible()


def test_a_section_left_shut_is_seen_before_the_pump_runs(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/saltmarsh-fish/scope")
    told = page.locator("section", has=page.get_by_text("not reached").first).first
    expect(told).to_contain_text("liquid line, receiver")
    page.get_by_role("button", name="the solenoid valve, 1 of 2, closed").click()
    expect(page.get_by_text("all reached")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(told).to_contain_text("liquid line, receiver")
    page.get_by_role("tab", name=re.compile("^Connections")).click()
    expect(page.get_by_text("lift it with a magnet").first).to_be_visible()
    page.get_by_role("switch", name=re.compile("solenoid valve.*liquid line to liquid branch 1")).click()
    expect(page.get_by_text("all reached")).to_be_visible()
    page.get_by_role("button", name="Undo").click()


@whole
def test_a_system_of_ones_own_is_kept_as_a_template(page: Page, site: str) -> None:
    key = new_job(page, site, "Template Lane")
    page.get_by_role("button", name="A section").click()
    page.get_by_label("Name", exact=True).fill("oil separator")
    choose(page, "Kind", "Vessel")
    page.get_by_label("Volume of oil separator").fill("2.5")
    settle(page)
    found = sheet(page, site, key)["scope"]["sections"][-1]
    assert (found["name"], found["kind"], found["volume_l"]) == ("oil separator", "vessel", 2.5)
    expect(page.get_by_text("not reached").first).to_be_visible()
    page.get_by_role("tab", name=re.compile("^Connections")).click()
    page.get_by_role("button", name="A link").click()
    choose(page, "From", "oil separator")
    expect(page.get_by_text("all reached")).to_be_visible()
    page.get_by_role("button", name="Save as a template").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Cooler with separator")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog).to_be_hidden()
    other = new_job(page, site, "Template Two")
    choose(page, "Start from", "Cooler with separator")
    expect(page.get_by_label("Volume of oil separator")).to_have_value("2.5")
    settle(page)
    assert len(sheet(page, site, other)["scope"]["links"]) == 5


def test_criterion_is_proposed_with_its_reason(page: Page, site: str) -> None:
    key = new_job(page, site, "Criterion Lane")
    card = page.locator("section", has=page.get_by_role("heading", name="Acceptance standard"))
    expect(card).to_contain_text("POE oil takes up water and keeps it")
    choose(page, "Standard", "Two-limit")
    expect(card).to_contain_text("hold 20 min")
    expect(card).to_contain_text("Proposed: Deep and flat")
    settle(page)
    assert sheet(page, site, key)["criterion"]["school"] == "two-limit"


def test_undo_takes_edits_back_one_by_one(page: Page, site: str) -> None:
    key = new_job(page, site, "Undo Lane")
    page.get_by_label("Ambient").fill("25")
    settle(page)
    page.get_by_label("Elevation").fill("700")
    settle(page)
    undo = page.get_by_role("button", name="Undo")
    undo.click()
    expect(page.get_by_label("Elevation")).to_have_value("0")
    expect(page.get_by_label("Ambient")).to_have_value("25")
    undo.click()
    expect(page.get_by_label("Ambient")).to_have_value("18")
    assert sheet(page, site, key)["scope"]["ambient_c"] == 18


@whole
def test_a_refrigerant_that_no_table_has_is_added_by_name(page: Page, site: str) -> None:
    key = new_job(page, site, "Unlisted Lane")
    choose(page, "Refrigerant", "another, by name")
    page.get_by_label("Its name").fill("QX-31")
    choose(page, "Its safety class", "A3")
    page.get_by_label("Its molar mass").fill("46")
    page.get_by_label("Its pressure at").fill("200")
    page.get_by_label("Nameplate", exact=True).fill("4")
    settle(page)
    kept = sheet(page, site, key)["scope"]
    assert kept["refrigerant"] == "QX-31"
    assert (kept["added"]["safety"], kept["added"]["molar_mass_g"]) == ("A3", 46)
    assert kept["added"]["pressure_40c_kpa"] == pytest.approx(101.3 + 200 * 6.895, rel=1e-3)
    expect(page.get_by_text("QX-31 is flammable (A3)").first).to_be_visible()
    stage(page, "Release")
    expect(page.get_by_text("What it shows at this ambient is not known here")).to_be_visible()
    stage(page, "Scope")
    choose(page, "Refrigerant", "R-290")
    settle(page)
    assert sheet(page, site, key)["scope"]["added"] is None
    expect(page.get_by_label("Its name")).to_have_count(0)


def test_two_people_on_one_sheet(page: Page, site: str) -> None:
    key = new_job(page, site, "Conflict Lane")
    current = page.request.get(f"{site}/api/jobs/{key}").json()
    current["job"]["scope"]["ambient_c"] = 30
    theirs = {"version": current["version"], "job": current["job"]}

    crossed: list[bool] = []

    def first_theirs(route: Route) -> None:
        # News of it would reach the page within a second: they must cross on the way.
        if route.request.method == "PUT" and not crossed:
            crossed.append(True)
            assert page.request.put(f"{site}/api/jobs/{key}", data=theirs).ok
        route.continue_()

    page.route("**/api/jobs/*", first_theirs)
    page.get_by_label("Elevation").fill("300")
    expect(page.get_by_role("alert")).to_contain_text("changed meanwhile")
    expect(page.get_by_label("Ambient")).to_have_value("30")


def test_a_server_that_is_gone_is_said(browser: Browser, site: str) -> None:
    context = browser.new_context()
    page = context.new_page()
    new_job(page, site, "Gone Lane")
    page.route("**/api/jobs/*", lambda route: route.abort())
    page.get_by_label("Elevation").fill("300")
    expect(page.get_by_role("alert").first).to_contain_text("cannot be reached")
    context.close()


def test_the_rig_line_is_drawn_with_its_shares(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/larkspur-3/rig")
    drawing = page.get_by_role("group", name="Rig line, pump to system")
    expect(drawing).to_contain_text("Pump 2")
    for box in ("suction line", "evaporator", "liquid line"):
        expect(drawing).to_contain_text(box)
    ribbon = page.get_by_role("img", name=re.compile("Resistance: pump")).first
    shares = [int(x) for x in re.findall(r"(\d+) %", ribbon.get_attribute("aria-label") or "")]
    assert 97 <= sum(shares) <= 103
    widths = [
        float(w)
        for w in page.eval_on_selector_all("svg[role=group] path", "e => e.map(x => x.getAttribute('stroke-width'))")
    ]
    assert max(widths) > 1.5 * min(widths), "stroke follows conductance"


@whole
def test_the_next_touch_says_when_why_and_with_what_care(page: Page, site: str) -> None:
    new_job(page, site, "Touch Lane")
    stage(page, "Draw")
    card = page.locator("section", has=page.get_by_role("button", name="Caution"))
    expect(card).to_contain_text("Start the pump, ballast open")
    care = card.get_by_role("button", name="Caution")
    care.click()
    expect(card).to_contain_text("a compressor must never run in a vacuum")
    assert care.get_attribute("aria-expanded") == "true"
    card.get_by_role("button", name="Done").click()
    expect(card).to_contain_text("Close the gas ballast")
    card.get_by_role("button", name="Skip").click()
    expect(page.get_by_text("skipped: Close the gas ballast")).to_be_visible()
    expect(page.get_by_text("Pump started")).to_be_visible()


@whole
def test_hold_without_a_hold_leads_to_the_draw(page: Page, site: str) -> None:
    new_job(page, site, "Empty Hold")
    stage(page, "Hold")
    expect(page.get_by_text("No hold test yet")).to_be_visible()
    page.get_by_role("link", name="To the draw").click()
    expect(page).to_have_url(re.compile("/draw$"))


def inked(page: Page) -> int:
    """Points of the chart in measuring ink."""
    script = """c => {
      const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;
      let n = 0;
      for (let i = 0; i < d.length; i += 4)
        if (d[i] < 60 && d[i + 1] < 90 && d[i + 2] > 130 && d[i + 3] > 200) n++;
      return n;
    }"""
    return int(page.eval_on_selector("canvas", script))


@whole
def test_the_trace_is_drawn_in_measuring_ink(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/larkspur-3/draw")
    expect(page.locator("canvas")).to_be_visible()
    settle(page)
    assert inked(page) > 300
    page.goto(f"{site}/jobs/hollow-5/rig")
    expect(page.locator("canvas")).to_be_visible()
    settle(page)
    assert inked(page) == 0, "what is computed is drawn in pencil only"


def test_release_warns_where_the_hold_is_not_tight(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/larkspur-1/release")
    expect(page.get_by_role("alert")).to_contain_text("It leaks")
    page.goto(f"{site}/jobs/saltmarsh-ice/release")
    expect(page.get_by_role("heading", name="Steps, in this order")).to_be_visible()
    settle(page)
    expect(page.get_by_role("alert")).to_have_count(0)


def test_release_goes_one_step_at_a_time(page: Page, site: str) -> None:
    new_job(page, site, "Release Lane")
    stage(page, "Release")
    expect(page.get_by_role("alert")).to_contain_text("No hold test was read")
    boxes = page.get_by_role("checkbox")
    expect(boxes.nth(1)).to_be_disabled()
    boxes.nth(0).click()
    expect(boxes.nth(0)).to_have_attribute("aria-checked", "true")
    expect(boxes.nth(1)).to_be_enabled()
    page.get_by_role("radio", name="a cylinder").click()
    expect(page.get_by_role("heading", name="Missing for this release")).to_be_visible()
    expect(page.get_by_text("a charging hose rated for this refrigerant", exact=False)).to_be_visible()
    page.get_by_role("button", name=re.compile("^Bring ")).first.click()
    expect(page.get_by_role("heading", name="Missing for this release")).to_be_hidden()
    page.get_by_role("button", name=re.compile(r"^All \d+ steps$")).click()
    expect(page.get_by_role("checkbox", name=re.compile("^Zero the scale"))).to_be_visible()
    expect(page.get_by_role("checkbox", name=re.compile("draw the hose and the manifold empty"))).to_be_visible()
    expect(page.get_by_role("checkbox").nth(0)).to_have_attribute("aria-checked", "false")


def test_record_wants_a_reason_for_a_failed_criterion(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/larkspur-1/record")
    sign = page.get_by_role("button", name="Sign", exact=True)
    expect(sign).to_be_disabled()
    page.get_by_label("Deviation from the standard").fill(
        "leak found at the drier flare; repaired, evacuated again on another sheet"
    )
    expect(sign).to_be_enabled()
    page.get_by_label("Deviation from the standard").fill("")
    expect(sign).to_be_disabled()


@whole
def test_a_job_file_out_and_in_by_hand(page: Page, site: str, tmp_path: Path) -> None:
    page.goto(f"{site}/jobs/saltmarsh-ice/record")
    with page.expect_download() as download:
        page.get_by_role("link", name="Whole job JSON").click()
    file = Path(download.value.path())
    assert json.loads(file.read_text())["format"] == "rough-draw/job-file"
    copy = tmp_path / "copy.json"
    copy.write_bytes(file.read_bytes())
    page.goto(site)
    page.locator("input[type=file]").set_input_files(str(copy))
    expect(page.get_by_role("alert")).to_contain_text("here already, unchanged")
    page.get_by_role("button", name="Open it as a copy").click()
    expect(page).to_have_url(re.compile("/scope$"))
    expect(page.get_by_role("heading", name="Saltmarsh Ferry Terminal", level=1)).to_be_visible()
    assert "saltmarsh-ice" not in page.url
    stage(page, "Hold")
    expect(page.get_by_test_id("verdict")).to_have_text("Tight and dry")
    broken = tmp_path / "broken.json"
    broken.write_text("{")
    page.goto(site)
    page.locator("input[type=file]").set_input_files(str(broken))
    expect(page.get_by_role("alert")).to_contain_text("Line 1, column 2")


def contrast(a: str, b: str) -> float:
    def light(hex_colour: str) -> float:
        parts = [int(hex_colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
        linear = [p / 12.92 if p <= 0.03928 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    one, two = sorted((light(a), light(b)), reverse=True)
    return (one + 0.05) / (two + 0.05)


PAIRS = [
    ("ink", "sheet"),
    ("ink", "paper"),
    ("soft", "sheet"),
    ("soft", "paper"),
    ("measure", "sheet"),
    ("green", "sheet"),
    ("green", "green-wash"),
    ("ochre", "ochre-wash"),
    ("stop", "sheet"),
    ("stop", "stop-wash"),
    ("on-ink", "ink"),
    ("on-measure", "measure"),
]


@pytest.mark.parametrize("theme", ["day", "night"])
def test_inks_keep_aa_contrast(page: Page, site: str, theme: str) -> None:
    page.goto(site)
    page.evaluate(f"document.documentElement.dataset.theme = '{theme}'")
    for ink, ground in PAIRS:
        colours = [
            str(page.evaluate(f"getComputedStyle(document.documentElement).getPropertyValue('--{name}').trim()"))
            for name in (ink, ground)
        ]
        assert contrast(*colours) >= 4.5, (theme, ink, ground, colours)


@pytest.mark.parametrize("name", first(2, ["draw", "rig", "scope", "prove", "release", "record"]))
def test_targets_are_large_enough_for_gloves(phone: Page, site: str, name: str) -> None:
    phone.goto(f"{site}/jobs/larkspur-3/{name}")
    expect(phone.get_by_role("navigation", name="Stages")).to_be_visible()
    settle(phone)
    small = phone.eval_on_selector_all(
        "main button, main input:not([hidden]), main [role=combobox], main textarea",
        """els => els
             .filter(e => e.offsetParent && !e.hidden)
             .map(e => [e.getBoundingClientRect().height, e.outerHTML.slice(0, 90)])
             .filter(([h]) => h > 0 && h < 44)""",
    )
    assert small == []


@whole
def test_text_on_work_screens_is_large_enough(phone: Page, site: str) -> None:
    phone.goto(f"{site}/jobs/larkspur-3/draw")
    expect(phone.get_by_test_id("figure")).to_be_visible()
    sizes = phone.eval_on_selector_all(
        "main p, main button, main li", "els => els.map(e => parseFloat(getComputedStyle(e).fontSize))"
    )
    assert min(sizes) >= 14
    figure = phone.get_by_test_id("figure").evaluate("e => parseFloat(getComputedStyle(e).fontSize)")
    assert figure >= 70


@whole
def test_a_tab_says_which_job_and_stage_and_a_new_stage_begins_at_its_top(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/larkspur-1/scope")
    expect(page).to_have_title("Scope: Larkspur Flower Wholesale, Cold room 1 · Rough Draw")
    page.evaluate("window.scrollTo(0, 400)")
    stage(page, "Hold")
    expect(page).to_have_title("Hold: Larkspur Flower Wholesale, Cold room 1 · Rough Draw")
    assert page.evaluate("window.scrollY") == 0
    assert page.evaluate("document.activeElement.id") == "main"
    page.keyboard.press("]")
    expect(page).to_have_title(re.compile("^Release"))
    page.go_back()
    expect(page).to_have_title(re.compile("^Hold"))
    page.goto(f"{site}/kit")
    expect(page).to_have_title("Kit · Rough Draw")
