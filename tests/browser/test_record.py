"""Release, charge and record on screen: scale, ports, running readings, the seal and its amendments, history, kit."""

from __future__ import annotations

import base64
import json
import re
from pathlib import Path

from playwright.sync_api import Page, expect
from reportlab.graphics.shapes import Drawing, Rect
from reportlab.lib.colors import white

from rough_draw.store.qr import qr_drawing
from tests.browser.test_job import new_job
from tests.browser.test_stages import settle
from tests.browser.waits import saved
from tests.depth import whole


def ready(page: Page, site: str, customer: str) -> str:
    """A new job with a nameplate, to be charged from a cylinder."""
    key = new_job(page, site, customer)
    saved(page)
    sheet = page.request.get(f"{site}/api/jobs/{key}").json()
    sheet["job"]["scope"].update(nameplate_kg=3.0, refrigerant="R-134a", adder_g_per_m=0)
    sheet["job"]["release"]["way"] = "cylinder"
    for section in sheet["job"]["scope"]["sections"]:
        section["holds_charge"] = False
    body = {"version": sheet["version"], "job": sheet["job"]}
    assert page.request.put(f"{site}/api/jobs/{key}", data=body).ok
    return key


@whole
def test_a_charge_on_the_simulated_scale(page: Page, site: str) -> None:
    key = ready(page, site, "Scale Quay")
    page.goto(f"{site}/jobs/{key}/release")
    charge = page.locator("section", has=page.get_by_role("heading", name="Charge", exact=True))
    expect(charge).to_contain_text("3.000 kg")
    charge.get_by_role("button", name="Simulated scale").click()
    expect(charge.get_by_test_id("weight")).to_contain_text("kg")
    expect(charge).to_contain_text("Open the cylinder slowly")
    charge.get_by_role("button", name="Open", exact=True).click()
    expect(charge.get_by_text(re.compile("^(Let it flow|Throttle it now|Close the cylinder)$"))).to_be_visible()
    expect(charge.get_by_test_id("added")).to_have_text(re.compile(r"^[0-3]\.\d{3} kg$"))
    charge.get_by_role("button", name="Close", exact=True).click()
    expect(charge).to_contain_text("Cylinder closed")
    charge.get_by_role("button", name="Remove the scale").click()
    expect(charge).to_contain_text("no scale")
    kinds = [t["kind"] for t in page.request.get(f"{site}/api/jobs/{key}/touches").json()]
    assert kinds == ["cylinder-open", "cylinder-shut"]


@whole
def test_a_charge_out_of_two_cylinders_weighed_by_hand(page: Page, site: str) -> None:
    key = ready(page, site, "Two Cylinder Quay")
    page.goto(f"{site}/jobs/{key}/release")
    charge = page.locator("section", has=page.get_by_role("heading", name="Charge", exact=True))
    before, after = charge.get_by_label("Cylinder before"), charge.get_by_label("Cylinder after")
    another = charge.get_by_role("button", name="Next cylinder on the scale")
    before.fill("9.4")
    expect(another).to_have_count(0)
    after.fill("8.2")
    another.click()
    emptied = charge.get_by_role("list", name="Cylinders emptied")
    expect(emptied).to_have_text("Cylinder 1: 9.400 kg → 8.200 kg, 1.200 kg out")
    expect(charge).to_contain_text("Open the cylinder slowly")
    # Pressed by mistake: the first stands there again as it was.
    charge.get_by_role("button", name="Back to the one before").click()
    expect(before).to_have_value("9.4")
    expect(emptied).to_have_count(0)
    another.click()
    before.fill("12")
    after.fill("10.35")
    expect(charge.get_by_test_id("added")).to_have_text("2.850 kg")
    expect(charge).to_contain_text("Close the cylinder")
    settle(page)
    release = page.request.get(f"{site}/api/jobs/{key}").json()["job"]["release"]
    assert release["earlier_cylinders"] == [{"start_kg": 9.4, "end_kg": 8.2}]
    assert (release["start_kg"], release["end_kg"]) == (12, 10.35)


@whole
def test_ports_cores_and_running_readings(page: Page, site: str) -> None:
    key = ready(page, site, "Running Lane")
    page.goto(f"{site}/jobs/{key}/release")
    ports = page.locator("section", has=page.get_by_role("heading", name="Ports, before their caps go on"))
    ports.get_by_role("radiogroup").first.get_by_role("radio", name="both").click()
    ports.get_by_label("New cores put in").fill("2")
    page.get_by_label("Suction pressure").fill("36")
    page.get_by_label("Suction line", exact=True).fill("11")
    expect(page.get_by_text(re.compile(r"^Superheat 6(\.\d)? °C, within"))).to_be_visible()
    page.get_by_label("Suction line", exact=True).fill("30")
    expect(page.get_by_text(re.compile("starved"))).to_be_visible()
    settle(page)
    release = page.request.get(f"{site}/api/jobs/{key}").json()["job"]["release"]
    assert release["cores_new"] == 2
    assert "both" in release["port_checks"].values()
    assert release["first"]["suction_c"] == 30


def test_sign_close_and_amend(page: Page, site: str) -> None:
    key = ready(page, site, "Seal Wharf")
    page.goto(f"{site}/jobs/{key}/record")
    pad = page.get_by_role("img", name=re.compile("Sign here"))
    expect(page.get_by_role("checkbox").first).to_be_visible()
    settle(page)
    box = pad.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 40, box["y"] + 60)
    page.mouse.down()
    page.mouse.move(box["x"] + 120, box["y"] + 30, steps=6)
    page.mouse.move(box["x"] + 200, box["y"] + 80, steps=6)
    page.mouse.up()
    expect(page.get_by_role("button", name="Clear", exact=True)).to_be_visible()
    page.get_by_label("Name of the technician").fill("Mara Tollivet")
    page.get_by_role("button", name="Sign", exact=True).click()
    close = page.get_by_role("button", name="Close and seal")
    expect(close).to_be_disabled()
    left = page.get_by_role("list", name="Deviations")
    expect(left.get_by_text(re.compile("cautions are not ticked"))).to_be_visible()
    for caution in page.get_by_role("checkbox").all():
        caution.check()
    # What is mended is none any more; the rest wants a reason each.
    expect(left.get_by_text(re.compile("cautions? (is|are) not ticked"))).to_have_count(0)
    expect(close).to_be_disabled()
    expect(page.get_by_test_id("sealing-what")).to_contain_text("No hold test")
    for reason in left.get_by_role("textbox").all():
        reason.fill("the terminal closes at noon")
    expect(close).to_be_enabled()
    settle(page)
    close.click()
    expect(page.get_by_role("heading", name="Sealed")).to_be_visible()
    expect(page.get_by_text("whole", exact=True)).to_be_visible()
    expect(page.get_by_role("list", name="Deviations")).to_contain_text("the terminal closes at noon")
    page.get_by_role("button", name="Write an amendment").click()
    page.get_by_label("What is put right").fill("Unit")
    page.get_by_label("It said").fill("Bloom room")
    page.get_by_label("It should say").fill("Bloom room 2")
    page.get_by_label("Why").fill("read off the wrong plate")
    page.get_by_role("button", name="Add it").click()
    amended = page.get_by_role("list", name="Amendments")
    expect(amended).to_contain_text("Bloom room 2")
    expect(amended).to_contain_text("read off the wrong plate")
    with page.expect_download() as download:
        page.get_by_role("link", name=re.compile("^Report")).click()
    assert download.value.path().read_bytes().startswith(b"%PDF-")
    file = page.request.get(f"{site}/api/jobs/{key}/job.json").json()
    assert file["job"]["closing"]["signature"].startswith("M")
    assert [e["kind"] for e in file["chain"]][-2:] == ["closed", "amendment"]


def test_history_is_searched_and_leads_to_the_next_job(page: Page, site: str) -> None:
    page.goto(site)
    page.get_by_role("link", name="History").click()
    expect(page.get_by_role("heading", name="Larkspur Flower Wholesale, Cold room 1")).to_be_visible()
    page.get_by_label("Search").fill("casing")
    expect(page.get_by_role("heading", name="Hollow Bank Mushrooms, Casing room")).to_be_visible()
    expect(page.get_by_role("heading", name="Larkspur Flower Wholesale, Cold room 1")).to_have_count(0)
    page.get_by_label("Search").fill("nobody at all")
    expect(page.get_by_text("Nothing found")).to_be_visible()
    page.get_by_label("Search").fill("casing")
    page.get_by_role("button", name="Start the next").click()
    expect(page).to_have_url(re.compile("/scope$"))
    expect(page.get_by_role("heading", name="Hollow Bank Mushrooms")).to_be_visible()
    page.request.delete(f"{site}/api/jobs/{page.url.split('/jobs/')[1].split('/')[0]}")


@whole
def test_a_part_is_found_by_its_code_and_logged(page: Page, site: str) -> None:
    page.goto(f"{site}/kit")
    gauge = next(k for k in page.request.get(f"{site}/api/kit").json() if k["name"] == "Gauge 2")
    page.get_by_label("Code", exact=True).fill(f"rd-k{gauge['id']}")
    page.get_by_role("button", name="Find", exact=True).click()
    expect(page.get_by_text("Gauge 2, gauge")).to_be_visible()
    card = page.locator(f"#kit-{gauge['id']}")
    card.get_by_role("button", name="Cleaned").click()
    expect(card).to_contain_text("cleaned")
    page.get_by_label("Code", exact=True).fill("nonsense")
    page.get_by_role("button", name="Find", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("they look like RD-K7")
    with page.expect_download() as download:
        page.get_by_role("link", name="Labels with codes").click()
    assert download.value.path().read_bytes().startswith(b"%PDF-")


CAMERA = """(png) => {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = 480;
  const image = new Image();
  const ink = canvas.getContext('2d');
  const draw = () => {
    ink.fillStyle = '#c8c4b8';
    ink.fillRect(0, 0, 480, 480);
    ink.translate(240, 240); ink.rotate(0.2); ink.drawImage(image, -120, -120, 240, 240); ink.resetTransform();
  };
  image.onload = () => setInterval(draw, 100);
  image.src = png;
  navigator.mediaDevices.getUserMedia = async () => canvas.captureStream(10);
}"""
"""A camera that is held a little crooked over a label."""


def test_a_label_is_read_by_the_camera_though_the_browser_cannot(page: Page, site: str) -> None:
    page.goto(f"{site}/kit")
    pump = next(k for k in page.request.get(f"{site}/api/kit").json() if k["kind"] == "pump")
    code = qr_drawing(f"RD-K{pump['id']}", 240.0)
    paper = Drawing(240, 240)
    paper.add(Rect(0, 0, 240, 240, fillColor=white, strokeColor=None))
    paper.add(code)
    page.evaluate(CAMERA, f"data:image/svg+xml;base64,{base64.b64encode(paper.asString('svg').encode()).decode()}")
    assert page.evaluate("typeof BarcodeDetector") == "undefined"
    page.get_by_role("button", name="By camera").click()
    expect(page.get_by_text(f"{pump['name']}, pump")).to_be_visible()
    expect(page.locator("video")).to_have_count(0)


def test_the_sealed_demo_refuses_an_edit(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/saltmarsh-ice/record")
    expect(page.get_by_role("heading", name="Sealed")).to_be_visible()
    sheet = page.request.get(f"{site}/api/jobs/saltmarsh-ice").json()
    body = json.dumps({"version": sheet["version"], "job": {**sheet["job"], "title": "another"}})
    r = page.request.put(f"{site}/api/jobs/saltmarsh-ice", data=body, headers={"content-type": "application/json"})
    assert r.status == 409
    assert "amendment" in r.json()["detail"]


@whole
def test_charging_on_a_phone(phone: Page, site: str) -> None:
    key = ready(phone, site, "Phone Pier")
    phone.goto(f"{site}/jobs/{key}/release")
    phone.get_by_role("button", name="Simulated scale").tap()
    expect(phone.get_by_test_id("weight")).to_contain_text("kg")
    phone.get_by_role("button", name="Open", exact=True).tap()
    expect(phone.get_by_test_id("added")).to_be_visible()
    phone.get_by_role("button", name="Close", exact=True).tap()
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    phone.get_by_role("button", name="Remove the scale").tap()


def test_a_backup_is_taken_and_what_is_none_is_refused(page: Page, site: str, tmp_path: Path) -> None:
    page.goto(f"{site}/history")
    with page.expect_download() as download:
        page.get_by_role("link", name="Back up everything").click()
    assert download.value.path().read_bytes().startswith(b"SQLite format 3")
    wrong = tmp_path / "wrong.sqlite3"
    wrong.write_bytes(b"PK\x03\x04 no database")
    page.locator("input[type=file]").set_input_files(str(wrong))
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("wrong.sqlite3")
    dialog.get_by_role("button", name="Restore it").click()
    expect(dialog.get_by_role("alert")).to_contain_text("no database file")
    dialog.get_by_role("button", name="Cancel").click()
    expect(page.get_by_role("heading", name="Larkspur Flower Wholesale, Cold room 1")).to_be_visible()
