"""Practice on screen: a job played badly and once well, the debriefs, a scenario composed and shared; on a phone."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from tests.browser.waits import focus, unfolded
from tests.depth import whole


def begin(page: Page, site: str, title: str) -> None:
    page.goto(f"{site}/practice")
    page.get_by_role("button", name=f"Begin: {title}").click()
    expect(page.get_by_role("heading", name=title, level=1)).to_be_visible()


def log(page: Page) -> Locator:
    return page.locator("section", has=page.get_by_role("heading", name="Done so far")).locator("li")


def done(page: Page) -> int:
    return log(page).count()


def do(page: Page, group: str, words: str) -> None:
    """One deed from the lists; it stands in the log after."""
    before = done(page)
    page.get_by_role("tab", name=group, exact=True).click()
    page.get_by_role("tabpanel").get_by_role("button", name=re.compile(words)).first.click()
    expect(log(page)).to_have_count(before + 1)


def choose(page: Page, label: str, option: str) -> None:
    page.get_by_label(label, exact=True).click()
    page.get_by_role("option", name=option, exact=True).click()


def call(page: Page, label: str, option: str, button: str) -> None:
    before = done(page)
    choose(page, label, option)
    page.get_by_role("button", name=button, exact=True).click()
    expect(log(page)).to_have_count(before + 1)


def rig_up(page: Page, hookup: str, *parts: tuple[str, str]) -> None:
    before = done(page)
    page.get_by_role("button", name="Put a rig together").click()
    choose(page, "Setup", hookup)
    for label, part in parts:
        choose(page, label, part)
    page.get_by_role("button", name="Connect it").click()
    expect(page.get_by_role("button", name="Put on another rig")).to_be_visible()
    expect(log(page)).to_have_count(before + 1)


def pass_time(page: Page, until: str) -> None:
    """Time at its fastest until the clock shows ``until``, as a pattern; then it stands."""
    page.get_by_role("button", name="×300").click()
    expect(page.get_by_text(re.compile(until))).to_be_visible(timeout=60_000)
    page.get_by_role("button", name="Time stands").click()


def score(page: Page) -> int:
    expect(page.get_by_role("heading", name="Every step, and what followed")).to_be_visible(timeout=60_000)
    return int(page.get_by_text(re.compile(r"^\d+$")).first.inner_text())


TITLE = "Put your own rig on"


@whole
def test_played_badly(page: Page, site: str) -> None:
    begin(page, site, TITLE)
    rig_up(
        page,
        "Two 1/4 in hoses on a tee",
        ("Pump", "Pump 3, 3 CFM, oil due"),
        ("Hose to the suction port", "1/4 in charging, 1.5 m, red tape"),
        ("Hose to the liquid port", "1/4 in charging, 1.5 m, no tape"),
        ("Micron gauge", "Gauge 3, coarse"),
    )
    do(page, "Pump and draw", "Start the pump")
    pass_time(page, r"^0:(1[5-9]|[2-5]\d):\d\d on the job$")
    do(page, "Pump and draw", "Stop the pump")
    do(page, "Pump and draw", "Isolate")
    call(page, "Verdict of this hold", "Tight and dry", "Say so")
    do(page, "Valves and parts", "Open the suction service valve(?! a quarter)")
    call(page, "End of the job", "Done: released, or good to be charged", "End")
    page.get_by_role("link", name="To the debrief").click()
    assert score(page) <= 40
    table = page.get_by_role("region", name="Every step, and what followed")
    expect(table).to_contain_text("Air and oil would come back from the stopped pump")
    expect(table).to_contain_text("The whole charge would rush into the vacuum")
    expect(table).to_contain_text("it was:")
    expect(page.get_by_text("−10: power not locked out and verified dead")).to_be_visible()


def test_played_well(page: Page, site: str) -> None:
    begin(page, site, TITLE)
    do(page, "Before", "Lock the power out")
    do(page, "Before", "See 0 ")
    rig_up(
        page,
        "Two hoses, three core tools",
        ("Pump", "Pump 1, 8 CFM"),
        ("Hose to the suction port", "1/2 in vacuum, 0.9 m"),
        ("Hose to the liquid port", "1/2 in vacuum, 1.8 m"),
        ("Micron gauge", "Gauge 1"),
    )
    do(page, "Pump and draw", "Start the pump")
    pass_time(page, r"^0:(1[5-9]|2\d):\d\d on the job$")
    expect(page.get_by_test_id("figure")).to_have_text(re.compile(r"^\d{2,3} µ$"))
    do(page, "Pump and draw", "Isolate")
    do(page, "Pump and draw", "Stop the pump")
    pass_time(page, r"^0:(4[1-9]|5\d):\d\d on the job$")
    call(page, "Verdict of this hold", "Tight and dry", "Say so")
    for words in (
        "Close the gauge tool",
        "Open the suction service valve a quarter turn",
        "Open the suction service valve(?! a quarter)",
        "Open the liquid service valve",
    ):
        do(page, "Valves and parts", words)
    do(page, "Pump and draw", "Look for positive pressure")
    for words in (
        "Take off the hose at the suction port",
        "Put on the plunger of the core tool at the suction port",
        "Open the core tool at the suction port",
        "Put the core back at the suction port",
        "Take off the hose at the liquid port",
        "Put on the plunger of the core tool at the liquid port",
        "Open the core tool at the liquid port",
        "Put the core back at the liquid port",
        "Take off the core tool at the suction port",
        "Cap the suction port",
    ):
        do(page, "Valves and parts", words)
    call(page, "End of the job", "Done: released, or good to be charged", "End")
    page.get_by_role("link", name="To the debrief").click()
    assert score(page) >= 90
    expect(page.get_by_text("Nothing to say: that is as it should be.")).to_be_visible()
    expect(page.get_by_role("heading", name=re.compile("^An expert, "))).to_be_visible()
    page.get_by_role("link", name="All scenarios").click()
    skills = page.locator("section", has=page.get_by_role("heading", name="Your skills"))
    expect(skills).to_contain_text("Safety")
    expect(skills.get_by_text(re.compile(r"^\d+$")).first).to_be_visible()


@whole
def test_tests_hints_and_mends(page: Page, site: str) -> None:
    begin(page, site, "Six hundred and no lower")
    do(page, "Pump and draw", "Start the pump")
    do(page, "Tests", "Look at the pump's oil")
    expect(log(page).first).to_contain_text("Yes")
    page.get_by_role("button", name=re.compile("A hint: what to look at")).click()
    expect(page.get_by_text("Look at the pump, and what it runs on.").first).to_be_visible()
    call(page, "What is the matter", "Wet pump oil", "Name it")
    expect(page.get_by_text("Named: wet pump oil")).to_be_visible()
    page.get_by_label("Verdict of this hold", exact=True).click()
    page.get_by_role("option", name="Tight and dry", exact=True).click()
    page.get_by_role("button", name="Say so").click()
    expect(page.get_by_text("Nothing is isolated, so no hold test can be judged")).to_be_visible()


def test_a_job_left_is_found_again_as_it_was(page: Page, site: str) -> None:
    begin(page, site, "An empty recovery cylinder")
    do(page, "Before", "Lock the power out")
    page.goto(f"{site}/practice")
    page.get_by_role("link", name=re.compile("An empty recovery cylinder")).first.click()
    expect(page.get_by_text("Lock the power out, and prove it dead").last).to_be_visible()
    expect(log(page)).to_have_count(1)


@whole
def test_a_trainer_composes_and_shares(page: Page, site: str) -> None:
    page.goto(f"{site}/practice")
    page.get_by_role("button", name="Compose a scenario").click()
    page.get_by_label("Title").fill("Monday morning")
    page.get_by_label("What the learner is told").fill("The van stood out in the rain.")
    page.get_by_label("Wet pump oil", exact=True).check()
    page.get_by_role("radio", name="bad").click()
    page.get_by_role("radio", name="runs already").click()
    page.get_by_label("The learner comes after").fill("22")
    page.get_by_label("Coldest spot").fill("41")
    page.get_by_label("Hint 1").fill("Look where the van stood.")
    # What cannot be is told where it is composed, and nothing of it is lost.
    for wet in ("Water boils in the system", "Ice in the system"):
        page.get_by_role("checkbox", name=re.compile(wet, re.IGNORECASE)).first.check()
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("dialog")).to_contain_text("the same water")
    page.get_by_role("checkbox", name=re.compile("Ice in the system", re.IGNORECASE)).first.uncheck()
    page.get_by_role("button", name="Save", exact=True).click()
    card = page.get_by_role("listitem").filter(has=page.get_by_role("heading", name="Monday morning"))
    expect(card).to_be_visible()
    with page.expect_download() as got:
        card.get_by_role("link", name="Share").click()
    path = got.value.path()
    shared = path.read_text()
    assert "Monday morning" in shared
    assert "wet-oil" not in shared
    assert "where the van stood" not in shared
    card.get_by_role("button", name="Remove Monday morning").click()
    expect(card).to_have_count(0)
    page.get_by_label("Scenario file").set_input_files(
        {"name": "m.json", "mimeType": "application/json", "buffer": path.read_bytes()}
    )
    expect(card).to_be_visible()
    card.get_by_role("button", name="Begin: Monday morning").click()
    expect(page.get_by_text("The van stood out in the rain.")).to_be_visible()


@whole
def test_a_job_is_gone_on_with_from_a_mistake_and_the_class_shows_who(page: Page, site: str) -> None:
    page.request.post(f"{site}/api/people", data={"name": "Wenna Trask", "licence": ""})
    person = next(p for p in page.request.get(f"{site}/api/people").json() if p["name"] == "Wenna Trask")
    page.request.post(f"{site}/api/people/{person['id']}/here")
    key = page.request.post(f"{site}/api/practice/runs", data={"scenario": "gauge-on-the-wrong-side"}).json()["key"]
    for kind in ("look:power", "isolate", "pump-off", "verdict:tight", "end:release"):
        page.request.post(f"{site}/api/practice/runs/{key}/deeds", data={"kind": kind})
    page.goto(f"{site}/practice/{key}/debrief")
    told = page.get_by_role("region", name="Every step, and what followed")
    wrong = told.get_by_role("row").filter(has_text="Verdict: tight and dry")
    expect(wrong).to_contain_text("it was")
    # An expert says why; who played is not asked to.
    expert = page.get_by_role("region", name=re.compile("^An expert"))
    expect(expert).to_contain_text("power is dead")
    expect(told).not_to_contain_text("power is dead")
    wrong.get_by_role("button", name="Go on from before this").click()
    page.wait_for_url(lambda url: "/practice/" in url and key not in url and "debrief" not in url)
    done = page.locator("section", has=page.get_by_role("heading", name="Done so far"))
    expect(done.get_by_role("listitem")).to_have_count(3)
    page.goto(f"{site}/practice")
    path = page.locator("section", has=page.get_by_role("heading", name="The path of Wenna Trask"))
    expect(path.get_by_role("listitem").filter(has_text="Rig").first).to_contain_text("of")
    page.get_by_role("link", name="How everybody stands").click()
    row = page.get_by_role("region", name="The class").get_by_role("row").filter(has_text="Wenna Trask")
    expect(row).to_be_visible()
    page.request.post(f"{site}/api/people/0/here")


@whole
def test_from_a_number_and_on_a_phone(phone: Page, site: str) -> None:
    phone.goto(f"{site}/")
    phone.get_by_role("button", name="More", exact=True).tap()
    phone.get_by_role("link", name="Practice").tap()
    unfolded(phone, "From a number")
    phone.get_by_role("textbox", name="Number").fill("4711")
    phone.get_by_role("button", name="Begin it").tap()
    expect(phone.get_by_role("heading", name=re.compile("number 4711"))).to_be_visible()
    phone.get_by_role("tab", name="Before", exact=True).tap()
    phone.get_by_role("button", name=re.compile("Lock the power out")).tap()
    expect(phone.get_by_text("Locked, tagged, dead on every leg")).to_be_visible()
    assert phone.evaluate("document.documentElement.scrollWidth <= innerWidth")


@whole
def test_two_rigs_are_raced_side_by_side(page: Page, site: str) -> None:
    """Thin hoses against wide ones on a system with refrigerant in its oil, put together on the page."""
    page.goto(f"{site}/practice")
    page.get_by_role("link", name="Race two rigs").click()
    start = page.get_by_role("button", name="Start both pumps")
    expect(start).to_be_disabled()
    page.get_by_role("checkbox", name=re.compile("refrigerant", re.IGNORECASE)).first.check()
    for lane, setup, hoses in (
        ("One rig", "hoses on a tee", "1/4 in"),
        ("The other", "Two hoses, two core tools", "1/2 in"),
    ):
        group = page.get_by_role("group", name=lane, exact=True)
        group.get_by_role("combobox", name="Setup").click()
        page.get_by_role("option", name=re.compile(setup)).first.click()
        for place in group.get_by_role("combobox").all()[1:]:
            place.click()
            options = page.get_by_role("option")
            wanted = options.filter(has_text=hoses)
            (wanted if wanted.count() else options).first.click()
    start.click()
    thin = page.locator("section", has=page.get_by_role("heading", name="One rig")).last
    wide = page.locator("section", has=page.get_by_role("heading", name="The other")).last
    expect(wide.get_by_text("first", exact=True)).to_be_visible()
    expect(thin.get_by_text("first", exact=True)).to_have_count(0)
    expect(wide.get_by_text("Worst spot at the target")).to_be_visible()
    chart = page.get_by_role("img", name=re.compile(r"^Two draws\. One rig, .*down.*The other, .*down after"))
    expect(chart).to_be_visible()
    # On a phone the lanes stand under each other, and nothing is wider than the page.
    page.set_viewport_size({"width": 390, "height": 844})
    page.wait_for_function("() => document.documentElement.scrollWidth <= innerWidth + 1")


def test_in_the_sandbox_a_leak_opens_and_is_mended_while_it_is_watched(page: Page, site: str) -> None:
    page.goto(f"{site}/practice")
    page.get_by_role("link", name="To the sandbox").click()
    expect(page.get_by_role("heading", name="Sandbox")).to_be_visible()
    page.get_by_role("button", name="Begin").click()
    so = page.locator("section", has=page.get_by_role("heading", name="What is so"))
    expect(so.get_by_text("not isolated")).to_be_visible()
    do(page, "Pump and draw", "Start the pump")
    do(page, "Pump and draw", "Put heat on")
    do(page, "Pump and draw", "Isolate")
    expect(so.get_by_text("not isolated")).to_have_count(0)
    leak = page.get_by_role("checkbox", name="A leak in the system")
    focus(leak)
    page.keyboard.press("Space")
    expect(log(page)).to_have_count(4)
    page.get_by_role("radio", name="bad").click()
    expect(log(page)).to_have_count(5)
    do(page, "Pump and draw", "Put heat on")
    expect(so.get_by_text(re.compile("A leak"))).to_be_visible()
    expect(page.get_by_text("Your call")).to_have_count(0)
    page.get_by_role("button", name="Done with it").click()
    expect(page.get_by_role("link", name="To the sandbox")).to_be_visible()
    expect(page.get_by_role("link", name="Cooler on a condensing unit")).to_have_count(0)
