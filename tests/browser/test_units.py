"""Every page in American and in metric units: no figure in somebody else's, none as a machine writes it."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from rough_draw.core.proving.stage_progress import STAGES
from tests.browser.waits import Visits
from tests.depth import whole

SETS: dict[str, dict[str, str]] = {
    "american": {
        "pressure": "micron",
        "gauge": "psig",
        "temperature": "f",
        "flow": "cfm",
        "length": "ft",
        "mass": "lb-oz",
        "volume": "ft3",
        "capacity": "tons",
        "barometer": "inhg",
    },
    "metric": {
        "pressure": "pa",
        "gauge": "bar",
        "temperature": "c",
        "flow": "m3-h",
        "length": "m",
        "mass": "kg",
        "volume": "l",
        "capacity": "kw",
        "barometer": "hpa",
    },
}
FOREIGN = {
    "american": r"\d\s?(kPa|bar|mbar|°C|kg|g|m|l|ml|mm|Pa|hPa|kW|m³/h|g/m)(?![\w·³/²-])",
    "metric": r"\d\s?(psi[ag]?|°F|lb|oz|ft|ft³|in³|CFM|µ|µ/s|Torr|tons|BTU/h|oz/ft)(?![\w·³/²-])",
}
MACHINE = r"\d[eE][+-]?\d|\bNaN\b|\bundefined\b|\bnull\b|\d\.\d{6,}|(?<![\d.,:#/-])\d{5,}(?![\d:-])"
"""A figure with a power as a machine writes it, one with a tail, or thousands that are not set apart."""
PAGES = [
    "",
    "day",
    "kit",
    "quick",
    "practice",
    "people",
    "history",
    *(f"notes/{n}" for n in ("hoses", "leak", "nitrogen", "cord", "lines", "schools", "cautions")),
    *(f"jobs/{job}/{stage}" for job in ("larkspur-1", "larkspur-4") for stage in STAGES),
]
OWN = re.compile(
    # What people have written themselves, and what is no figure of the reader's: kit with its plates and sizes, ports,
    # wires, and what an opened list offers in every unit.
    r"(?:[0-9a-f]{4} ){5}[0-9a-f]{4}|"
    r"Pump \d, \d+ CFM|\d+(/\d+)? in\b|\d+(\.\d+)? mm²|\d+ AWG|half inch|R-\d+\w*|RD-K\d+|SHA-256 \w+|[0-9a-f]{12,}"
)


def chosen(page: Page, site: str, values: dict[str, str]) -> None:
    """Take a set of units for this browser, and look again."""
    settings: dict[str, Any] = page.request.get(f"{site}/api/settings").json()["settings"]
    assert page.request.put(f"{site}/api/settings", data={**settings, **values}).ok


def names(page: Page, site: str) -> re.Pattern[str]:
    """What the firm and its trainers have called things, as they wrote it."""
    kit = [k["name"] for k in page.request.get(f"{site}/api/kit").json()]
    listed = page.request.get(f"{site}/api/practice").json()["scenarios"]
    told = [str(s[field]) for s in listed for field in ("title", "place", "system", "brief")]
    return re.compile("|".join(re.escape(n) for n in sorted([*kit, *told], key=len, reverse=True)))


def said(page: Page) -> str:
    """All that a page says: its text, its names for what is drawn, and what stands in its fields."""
    return page.evaluate(
        """() => {
            const main = document.querySelector("main") ?? document.body;
            // In a field thousands are not set apart: a figure is typed there.
            const unit = (x) => x.nextElementSibling?.textContent ?? "";
            const fields = [...main.querySelectorAll("input")].map((x) => `${x.value.slice(-4)} ${unit(x)}`);
            const names = [...main.querySelectorAll("[aria-label]")].map((x) => x.getAttribute("aria-label"));
            return [main.innerText, ...fields, ...names].join("\\n");
        }"""
    )


@whole
@pytest.mark.parametrize("kind", SETS)
def test_every_page_speaks_the_readers_units(page: Page, site: str, kind: str) -> None:
    page.goto(f"{site}/")
    chosen(page, site, SETS[kind])
    ours = names(page, site)
    wrong: list[str] = []
    visits = Visits(page, site)
    for path in PAGES:
        visits.go(path)
        expect(page.get_by_role("main")).not_to_contain_text(re.compile("…$"))
        for line in said(page).splitlines():
            bare = OWN.sub("", ours.sub("", line))
            for pattern in (FOREIGN[kind], MACHINE):
                found = re.search(pattern, bare)
                if found:
                    wrong.append(f"/{path}: {found.group(0)!r} in {line.strip()[:120]!r}")
    visits.end()
    assert not wrong, "\n".join(dict.fromkeys(wrong))


def test_units_belong_to_the_browser_where_nobody_is_signed_in(page: Page, site: str) -> None:
    page.goto(f"{site}/")
    chosen(page, site, SETS["metric"])
    assert page.request.get(f"{site}/api/settings").json()["settings"]["pressure"] == "pa"
    page.context.clear_cookies()
    assert page.request.get(f"{site}/api/settings").json()["settings"]["pressure"] == "micron"
