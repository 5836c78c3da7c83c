"""Releases driven to their end: by a cylinder to the emptied hose, and by the unit's own charge."""

from __future__ import annotations

import json
import re
from typing import Any
from urllib.parse import urlencode

import pytest
from playwright.sync_api import Page, expect

from rough_draw.core.sheet.job import Job, Party
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.setups import rig_from
from tests.browser.waits import saved, until
from tests.builders import CHARGING_HOSE, scope
from tests.depth import whole

pytestmark = pytest.mark.browser
HELD = ["pump-on", "isolate", "shut:pump", "pump-off"]


def held_job(page: Page, site: str, key: str, **sheet: Any) -> None:
    """A job whose hold is over, three tools on its rig and a charging hose brought along."""
    on = scope("cooler", opened=True, nameplate_kg=3.2, included_length_m=5, adder_g_per_m=25, **sheet)
    rig = Rig.model_validate({**rig_from("three-tools", on).model_dump(), "spares": [CHARGING_HOSE]})
    job = Job(party=Party(customer=key, unit="Bloom room"), scope=on, rig=rig)
    touches = [{"kind": kind, "at": 1.7e9 + 600.0 * n} for n, kind in enumerate(HELD)]
    file = {
        "format": "rough-draw/job-file",
        "version": 2,
        "key": key,
        "job": json.loads(job.model_dump_json()),
        "touches": touches,
    }
    sent = {"name": "job.json", "mimeType": "application/json", "buffer": json.dumps(file).encode()}
    made = page.request.post(f"{site}/api/job-files?again=true", multipart={"file": sent})
    assert made.status == 201, made.text()
    page.goto(f"{site}/jobs/{key}/release")


def kinds(page: Page, site: str, key: str) -> list[str]:
    """What the run has logged since the hold."""
    return [t["kind"] for t in page.request.get(f"{site}/api/jobs/{key}/touches").json()][len(HELD) :]


def logged(page: Page, site: str, key: str, kind: str) -> None:
    """Wait until a step is in the run's log."""
    until(lambda: kinds(page, site, key), lambda found: kind in found)


def walk(page: Page, site: str, key: str) -> list[str]:
    """Tick every step in its order; returns the keys of the steps."""
    steps = page.request.get(f"{site}/api/jobs/{key}/checks").json()["steps"]
    for n, step in enumerate(steps):
        box = page.locator("[role=checkbox][aria-checked=false]:not([disabled])", has_text=str(n + 1)).first
        expect(box).to_have_accessible_name(step["label"])
        box.click()
        expect(page.get_by_text(f"{n + 1} of {len(steps)} done")).to_be_visible()
    saved(page)
    return [s["value"] for s in steps]


def at_once(page: Page, site: str, key: str) -> list[str]:
    """Everything was done before it is ticked: all steps by one press; returns their keys."""
    steps = page.request.get(f"{site}/api/jobs/{key}/checks").json()["steps"]
    page.get_by_role("button", name=f"All {len(steps)} steps").click()
    page.get_by_role("button", name="Done up to here").last.click()
    expect(page.get_by_text(f"{len(steps)} of {len(steps)} done")).to_be_visible()
    saved(page)
    return [s["value"] for s in steps]


@whole
def test_a_charge_by_the_units_own_with_the_difference_weighed_in(page: Page, site: str) -> None:
    key = "own-charge-lane"
    held_job(page, site, key)
    charge = page.locator("section", has=page.get_by_role("heading", name="Charge", exact=True))
    # 7 m beyond the included length at 25 g/m; never the nameplate again.
    expect(charge).to_contain_text("0.175 kg")
    steps = at_once(page, site, key)
    assert "open:system.suction-service" in steps
    made = kinds(page, site, key)
    assert [k.partition("~")[0] for k in steps if ":" in k] == [k for k in made if ":" in k]
    assert made.index("weigh-in:cylinder") < made.index("open:system.suction-service") < made.index("start")


def test_steps_done_before_end_at_one_that_is_against_a_stop(page: Page, site: str) -> None:
    key = "stopped-lane"
    held_job(page, site, key)
    expect(page.get_by_role("button", name=re.compile(r"^All \d+ steps$"))).to_be_visible()
    steps = page.request.get(f"{site}/api/jobs/{key}/checks").json()["steps"]
    # The pump was started once more: what follows from it is foreseen, some steps on.
    page.request.post(f"{site}/api/jobs/{key}/touches", data={"kind": "pump-on"})
    of_run = [s["kind"] for s in steps if s["kind"]]
    asked = page.request.get(f"{site}/api/jobs/{key}/foresee-all", params=urlencode([("kind", k) for k in of_run]))
    clear = asked.json()["clear"]
    assert 0 < clear < len(of_run)
    page.get_by_role("button", name=f"All {len(steps)} steps").click()
    page.get_by_role("button", name="Done up to here").last.click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_be_visible()
    assert kinds(page, site, key) == ["pump-on", *of_run[:clear]]
    seen = page.request.get(f"{site}/api/jobs/{key}/foresee?kind={of_run[clear]}").json()
    assert seen["stop"]
    expect(dialog).to_contain_text(seen["consequences"][0]["words"])
    page.keyboard.press("Escape")
    done = next(n for n, s in enumerate(steps) if s["kind"] == of_run[clear])
    expect(page.get_by_text(f"{done} of {len(steps)} done")).to_be_visible()


@whole
def test_a_charge_by_cylinder_to_the_emptied_hose(page: Page, site: str) -> None:
    key = "cylinder-lane"
    held_job(page, site, key)
    page.get_by_role("radio", name="a cylinder").click()
    saved(page)
    steps = walk(page, site, key)
    made = kinds(page, site, key)
    for before, after in (
        ("purge:cylinder", "open:cylinder"),
        ("zero-scale:cylinder", "open:cylinder"),
        ("weigh-in:cylinder", "start"),
        ("start", "trim:cylinder"),
        ("trim:cylinder", "empty-hose:cylinder"),
        ("empty-hose:cylinder", "take-off:charging-hose"),
        ("take-off:charging-hose", "core-in:liquid"),
        ("core-in:liquid", "take-off:tool-b"),
        ("cap:liquid", "check-port:liquid"),
    ):
        assert made.index(before) < made.index(after), (before, after)
    assert steps[-1] == "pump-care"
    rail = page.request.get(f"{site}/api/jobs/{key}/stages").json()
    assert next(s["done"] for s in rail if s["key"] == "release")


@whole
def test_a_step_taken_back_is_a_correction(page: Page, site: str) -> None:
    key = "correction-lane"
    held_job(page, site, key)
    boxes = page.locator("[role=checkbox]")
    boxes.nth(0).click()
    expect(page.get_by_text("1 of", exact=False)).to_be_visible()
    logged(page, site, key, "take-off:hose-b")
    assert kinds(page, site, key) == ["take-off:hose-b"]
    boxes.nth(0).click()
    expect(page.get_by_text("0 of", exact=False)).to_be_visible()
    logged(page, site, key, "undo:take-off:hose-b")
    assert kinds(page, site, key) == ["take-off:hose-b", "undo:take-off:hose-b"]
    words = [t["words"] for t in page.request.get(f"{site}/api/jobs/{key}/touches").json()]
    assert words[-1].startswith("Correction, did not happen: Took off")
    # What was done with a hand on the rig is foreseen by the list: the core's tool opened against the order.
    page.request.post(f"{site}/api/jobs/{key}/touches", data={"kind": "open:tool-b"})
    page.reload()
    page.locator("[role=checkbox]").nth(0).click()
    expect(page.get_by_role("dialog")).to_contain_text("Air would be drawn into the system")
    page.keyboard.press("Escape")
    assert kinds(page, site, key)[-1] == "open:tool-b"
