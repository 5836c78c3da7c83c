"""The hold on screen: six kinds read with words, what is left over, earlier holds, a quick hold, a needle, a phone."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_job import new_job, stage
from tests.browser.test_stages import settle
from tests.browser.waits import until
from tests.depth import first, whole
from tests.test_cli import table

HOLDS = [
    ("larkspur-1", "It leaks", ("Rises steadily", "Find the leak", "Where to look", "Pa·m³/s")),
    (
        "larkspur-2",
        "It leaks, and water is left",
        ("A curved start from water", "The leak first, then dry|the leak first, then dry"),
    ),
    ("hollow-2", "Water is left", ("water held in oil or walls", "Keep pumping", "less each time, as vapor does")),
    ("hollow-7", "Refrigerant still comes out of the oil", ("slower and slower", "Warm the oil, keep pumping")),
    ("saltmarsh-bait", "Rises no more than its hoses let in", ("includes 3 hoses", "Hold again without the hoses")),
    ("saltmarsh-ice", "Tight and dry", ("could not have hidden", "Release", "More time did not change it")),
]


@pytest.mark.parametrize(("key", "sentence", "words"), first(2, HOLDS), ids=[h[0] for h in HOLDS])
def test_each_kind_of_hold_is_read(page: Page, site: str, key: str, sentence: str, words: tuple[str, ...]) -> None:
    page.goto(f"{site}/jobs/{key}/hold")
    expect(page.get_by_test_id("verdict")).to_have_text(sentence)
    for word in words:
        expect(page.get_by_text(re.compile(word)).first).to_be_visible()
    expect(page.get_by_text(re.compile("^(Almost certain|Very likely)$")).first).to_be_visible()
    schools = page.locator("section", has=page.get_by_role("heading", name="What each standard says"))
    for school in ("Code minimum", "Deep and flat", "Two-limit", "Dial gauge only"):
        expect(schools).to_contain_text(school)
    expect(schools).to_contain_text("(chosen)")
    expect(schools).to_contain_text("stay at or under")
    odds = page.locator("section", has=page.get_by_role("heading", name="Most likely causes"))
    expect(odds).to_contain_text("very unlikely")


@whole
def test_what_is_left_over_is_shown_on_demand(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/larkspur-1/hold")
    figure = page.get_by_role("img", name=re.compile("What the best cause leaves over"))
    expect(figure).to_have_count(0)
    page.get_by_role("button", name="Show what is left over").click()
    expect(figure).to_be_visible()
    assert figure.locator("circle").count() > 100
    page.get_by_role("button", name="Hide what is left over").click()
    expect(figure).to_have_count(0)


@whole
def test_the_order_leads_on(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/saltmarsh-ice/hold")
    page.get_by_role("link", name="To release").click()
    expect(page).to_have_url(re.compile("/release$"))
    page.goto(f"{site}/jobs/larkspur-1/hold")
    page.get_by_role("link", name="To the pressure test").click()
    expect(page).to_have_url(re.compile("/prove$"))


def test_places_to_look_are_this_rigs(page: Page, site: str) -> None:
    page.goto(f"{site}/jobs/larkspur-1/hold")
    places = page.get_by_role("group").filter(has_text="Where to look")
    expect(places).to_contain_text("core tool at the suction port")
    expect(places).to_contain_text("The joint under Gauge 2")
    expect(places).to_contain_text("soap under nitrogen")


def test_quick_hold_by_paste(page: Page, site: str, tmp_path: Path) -> None:
    head, *rows = Path(table(tmp_path / "r.csv", leak=1.4)).read_text().splitlines()
    # Every fourth: the browser takes typed-in lines ever more slowly the more there are.
    text = "\n".join([head, *rows[::4]])
    page.goto(f"{site}/quick")
    read = page.get_by_role("button", name="Read the hold")
    expect(read).to_be_disabled()
    page.get_by_label("Paste a table here").fill(text)
    expect(page.get_by_text(f"{len(rows[::4]) + 1} lines")).to_be_visible()
    page.get_by_role("textbox", name="Volume").fill("8")
    read.click()
    expect(page.get_by_test_id("verdict")).to_have_text("It leaks")
    expect(page.get_by_text(re.compile("the hold test begins at 15 min"))).to_be_visible()
    expect(page.get_by_text("8 l, as typed").first).to_be_visible()


@whole
def test_quick_hold_by_file_with_an_estimated_volume_and_a_fault(page: Page, site: str, tmp_path: Path) -> None:
    faulty = tmp_path / "bad.csv"
    faulty.write_text("time_s,micron\n0,200\n10,oops\n20,210\n")
    page.goto(f"{site}/quick")
    page.get_by_label("Choose a file of readings").set_input_files(str(faulty))
    page.get_by_role("radio", name="estimate it").click()
    page.get_by_role("button", name="Read the hold").click()
    expect(page.get_by_role("alert")).to_contain_text("line 3")
    page.get_by_label("Choose a file of readings").set_input_files(table(tmp_path / "ok.csv"))
    page.get_by_label("Capacity").fill("9")
    page.get_by_role("button", name="Read the hold").click()
    expect(page.get_by_test_id("verdict")).to_have_text("Tight and dry")
    expect(page.get_by_text(re.compile("estimated as")).first).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_quick_hold_by_drop(page: Page, site: str, tmp_path: Path) -> None:
    page.goto(f"{site}/quick")
    head, *rows = Path(table(tmp_path / "r.csv", leak=1.4)).read_text().splitlines()
    # Every fourth: the browser takes typed-in lines ever more slowly the more there are.
    text = "\n".join([head, *rows[::4]])
    data = page.evaluate_handle(
        "text => { const d = new DataTransfer(); d.items.add(new File([text], 'r.csv')); return d; }", text
    )
    page.get_by_label("Paste a table here").locator("..").dispatch_event("drop", {"dataTransfer": data})
    expect(page.get_by_text(f"{len(rows[::4]) + 1} lines")).to_be_visible()


@whole
def test_a_needle_alone_is_said_to_prove_nothing(page: Page, site: str) -> None:
    key = new_job(page, site, "Needle Lane")
    sheet = page.request.get(f"{site}/api/jobs/{key}").json()
    parts = [p for p in sheet["job"]["rig"]["parts"] if p["kind"] != "gauge"]
    sheet["job"]["rig"]["parts"] = parts
    page.request.put(f"{site}/api/jobs/{key}", data={"version": sheet["version"], "job": sheet["job"]})
    for kind in ("pump-on", "isolate", "pump-off"):
        page.request.post(f"{site}/api/jobs/{key}/touches", data={"kind": kind})
    page.goto(f"{site}/jobs/{key}/hold")
    expect(page.get_by_test_id("verdict")).to_have_text("Unverified: a needle cannot show this")
    card = page.locator("section", has=page.get_by_role("heading", name="What the needle could have missed"))
    expect(card).to_contain_text("µ/s")
    expect(card).to_contain_text("as vapor")
    expect(card).to_contain_text("Recorded as unverified")
    # Its positions are typed as they stand on the dial, and what cannot be is asked back.
    page.get_by_role("button", name="Type", exact=True).click()
    pad = page.get_by_role("dialog", name="Type the reading")
    pad.get_by_role("radio", name="psi").click()
    for digit in "30":
        pad.get_by_role("button", name=digit, exact=True).click()
    expect(pad).to_contain_text("Taken as 30 inHg")
    pad.get_by_role("radio", name="inHg").click()
    expect(pad).to_contain_text("give or take 7,620 µ")
    with page.expect_response(lambda r: r.url.endswith("/readings") and r.request.method == "POST") as stored:
        pad.get_by_role("button", name="Enter").click()
    assert stored.value.status == 201
    assert page.request.get(f"{site}/api/jobs/{key}/readings").json()[0]["part"] == "dial"


def test_on_a_phone_verdict_and_sound_moment_come_first(phone: Page, site: str) -> None:
    phone.goto(f"{site}/jobs/saltmarsh-ice/hold")
    expect(phone.get_by_test_id("verdict")).to_have_text("Tight and dry")
    settle(phone)
    tops = [
        phone.locator("section", has_text=text).first.bounding_box()
        for text in ("Tight and dry", "More time did not change it", "What next", "What each standard says")
    ]
    ys = [t["y"] for t in tops if t is not None]
    assert len(ys) == 4
    assert ys == sorted(ys)
    wide = phone.evaluate("document.documentElement.scrollWidth")
    assert wide <= 390


def test_a_live_hold_counts_down_to_its_sound_moment(page: Page, site: str) -> None:
    key = new_job(page, site, "Countdown Quay")
    stage(page, "Draw")
    api = f"{site}/api/jobs/{key}"
    page.request.post(f"{api}/standin", data={"speed": 300})
    page.request.post(f"{api}/touches", data={"kind": "pump-on"})
    until(lambda: page.request.get(f"{api}/live").json(), lambda at: at["now"] - at["started_at"] > 240)
    page.request.post(f"{api}/touches", data={"kind": "isolate"})
    page.request.post(f"{api}/touches", data={"kind": "pump-off"})
    until(lambda: page.request.get(f"{api}/live").json(), lambda at: at["now"] - at["isolated_at"] > 130)
    page.request.post(f"{api}/standin", data={"speed": 1})
    stage(page, "Hold")
    expect(page.get_by_test_id("verdict")).to_be_visible()
    expect(page.get_by_text(re.compile("^(Too early to call|Verdict is firm)$")).first).to_be_visible()
