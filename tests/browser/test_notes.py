"""Bench notes on screen, each tool against a value worked out by hand; the Yard's search, keys and pumps."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from tests.depth import whole


def sheet(page: Page, title: str) -> Locator:
    return page.locator("section", has=page.get_by_role("heading", name=title, exact=True))


def test_pressure_and_boiling_point(page: Page, site: str) -> None:
    page.goto(f"{site}/notes")
    s = sheet(page, "Pressure and boiling point")
    s.get_by_label("Pressure", exact=True).fill("17546")
    expect(s).to_contain_text("20.0 °C")  # steam tables: 2,339 Pa
    expect(s).to_contain_text("2,339")
    s.get_by_label("or: water is to boil at").fill("-10")
    expect(s).to_contain_text("ice goes to vapor at")
    expect(s).to_contain_text("259.9")  # IAPWS, over ice
    expect(page.get_by_role("img", name="Saturation of water and ice")).to_be_visible()


def test_hoses_are_compared_live(page: Page, site: str) -> None:
    page.goto(f"{site}/notes/hoses")
    first = page.get_by_role("listitem").filter(has=page.get_by_role("button", name="Remove setup 1"))
    expect(first).to_contain_text(re.compile(r"\d+ (min|h)"))
    slow = first.inner_text()
    first.get_by_role("radio", name="out", exact=True).click()
    expect(first).not_to_have_text(slow)
    page.get_by_role("button", name="One more").click()
    expect(page.get_by_role("button", name="Remove setup 4")).to_be_visible()


def test_leak_rate(page: Page, site: str) -> None:
    """0.5 µ/s in 8 l is 5.33 × 10⁻⁴ Pa·m³/s, and ten times that in mbar·l/s."""
    page.goto(f"{site}/notes/leak")
    s = sheet(page, "Leak rate")
    expect(s).to_contain_text("5.3 × 10⁻⁴ Pa·m³/s")
    expect(s).to_contain_text("5.3 × 10⁻³ mbar·l/s")
    s.get_by_label("Volume").fill("16")
    expect(s).to_contain_text("1.1 × 10⁻³ Pa·m³/s")


def test_nitrogen(page: Page, site: str) -> None:
    """1,500 µ in 760,000 is one in 507; twice is one in 256,711."""
    page.goto(f"{site}/notes/nitrogen")
    s = sheet(page, "Nitrogen dilution")
    expect(s).to_contain_text("1 in 507")
    expect(s).to_contain_text("1 in 256,711")
    s.get_by_label("Broken at").fill("700000")
    s.get_by_label("Up to").fill("10")
    expect(s.get_by_role("alert")).to_contain_text("under the one broken to")


def test_altitude_and_the_dial(page: Page, site: str) -> None:
    page.goto(f"{site}/notes/altitude")
    s = sheet(page, "Altitude and the dial gauge")
    expect(s).to_contain_text("29.90 inHg")  # 29.921 less 0.020 at 500 µ
    s.get_by_label("Elevation").fill("1600")
    expect(s).to_contain_text("835.2 hPa")  # ISO 2533
    expect(s).to_contain_text("24.64 inHg")
    s.get_by_label("A dial's reading, as it was said").fill("-30 psi")
    s.get_by_role("button", name="Read it").click()
    expect(s.get_by_role("status")).to_contain_text("−30 psi cannot be")


def test_cord(page: Page, site: str) -> None:
    """30 m of 16 AWG (1.309 mm²) at 9 A: 2 · 30 · 1.7241e-8 / 1.309e-6 · 9 = 7.11 V of 120, 6 %."""
    page.goto(f"{site}/notes/cord")
    s = sheet(page, "Cord")
    s.get_by_label("Its plate's current").fill("9")
    expect(s).to_contain_text("6 %")
    expect(s).to_contain_text("would do")


def test_line_volume(page: Page, site: str) -> None:
    """14 m of 7/8 in (bore 19.94 mm) hold 4.37 l; 14 m of 1/2 in (11.07 mm) 1.35 l."""
    page.goto(f"{site}/notes/lines")
    s = sheet(page, "Line volume")
    expect(s).to_contain_text("4.37 l")
    expect(s).to_contain_text("1.35 l")
    expect(s).to_contain_text("5.72 l")


def test_what_is_read_and_where_figures_come_from(page: Page, site: str) -> None:
    page.goto(f"{site}/notes/schools")
    table = page.get_by_role("region", name="Standards compared")
    expect(table.get_by_role("row")).to_have_count(8)
    expect(table).to_contain_text("Deep and flat")
    page.get_by_role("link", name="Cautions").click()
    expect(page.get_by_text("Local codes, the manufacturer's instructions and licensed practice")).to_be_visible()
    page.get_by_role("link", name="Glossary").click()
    page.get_by_label("Look for").fill("ballast")
    expect(page.get_by_text("A small flow of air into the pump that keeps water from condensing")).to_be_visible()
    page.get_by_role("link", name="Cord").click()
    sheet(page, "Cord").get_by_role("link", name="cord").click()
    row = page.locator("tr#cord")
    expect(row).to_contain_text("ASTM B258")
    expect(row).to_be_in_viewport()


@whole
def test_notes_fit_a_phone(phone: Page, site: str) -> None:
    wide = []
    for note in ("pressure", "hoses", "leak", "nitrogen", "altitude", "cord", "lines", "schools", "words"):
        phone.goto(f"{site}/notes/{note}")
        expect(phone.get_by_role("heading", name="Notes", exact=True)).to_be_visible()
        expect(phone.locator("main")).not_to_contain_text("Opening")
        if phone.evaluate("document.documentElement.scrollWidth > innerWidth"):
            wide.append(note)
    assert wide == []


@whole
def test_the_yard_is_searched_and_walked_by_keys(page: Page, site: str) -> None:
    page.goto(f"{site}/")
    expect(page.get_by_role("heading", name="Hollow Bank Mushrooms").first).to_be_visible()
    page.keyboard.press("/")
    page.keyboard.type("hollow casing")
    expect(page.locator("main a[href^='/jobs/hollow-7/']").first).to_be_visible()
    expect(page.get_by_role("heading", name="Saltmarsh Ferry Terminal")).to_have_count(0)
    page.keyboard.press("Enter")
    expect(page.locator("main a[href^='/jobs/hollow-7/']").first).to_be_focused()
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/jobs/hollow-7/"))
    expect(page.get_by_role("heading", name="Hollow Bank Mushrooms", level=1)).to_be_visible()
    stage = page.url.rsplit("/", 1)[1]
    page.keyboard.press("[")
    expect(page).not_to_have_url(re.compile(f"/{stage}$"))
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()
    page.keyboard.press("g")
    page.keyboard.press("b")
    expect(page.get_by_role("heading", name="Notes", exact=True)).to_be_visible()
    page.keyboard.press("g")
    page.keyboard.press("y")
    expect(page.get_by_role("heading", name="Hollow Bank Mushrooms").first).to_be_visible()
    page.keyboard.press("j")
    page.keyboard.press("j")
    focused = page.evaluate("document.activeElement.getAttribute('href')")
    assert focused.startswith("/jobs/")


def test_the_yard_says_what_pumps_do_and_what_is_ahead(page: Page, site: str) -> None:
    page.goto(f"{site}/")
    pumps = sheet(page, "Pumps")
    expect(pumps.get_by_text("runs", exact=True).first).to_be_visible()
    expect(pumps.get_by_text("free", exact=True).first).to_be_visible()
    expect(sheet(page, "Ahead").get_by_role("listitem").first).to_be_visible()
    page.get_by_label("Search jobs").fill("nobody at all")
    expect(page.get_by_text("No job of that name")).to_be_visible()
