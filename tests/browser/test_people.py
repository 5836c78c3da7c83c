"""People at a browser, and the door where a passphrase is needed, on screen."""

from __future__ import annotations

import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PATIENCE_MS
from tests.browser.test_job import opened
from tests.depth import whole
from tests.serving import CLI, free_port, serve

PHRASE = "three dry coils"


@pytest.fixture
def locked(tmp_path: Path) -> Iterator[str]:
    """A server beyond the loopback, on every address of this machine."""
    db = str(tmp_path / "locked.sqlite3")
    subprocess.run([*CLI, "passphrase", "--db", db], input=PHRASE + "\n", text=True, check=True, capture_output=True)
    port = free_port()
    with serve("serve", db, port, "--host", "0.0.0.0"):
        yield f"http://127.0.0.1:{port}"


def test_behind_the_passphrase(browser: Browser, locked: str) -> None:
    context = browser.new_context(viewport={"width": 1280, "height": 800}, service_workers="block")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    # What a browser keeps from a page that comes by plain HTTP over a network.
    page.add_init_script("delete Crypto.prototype.randomUUID")
    page.goto(f"{locked}/kit")
    expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
    expect(page.get_by_role("navigation")).to_have_count(0)
    page.get_by_label("Passphrase of this server").fill("not the one")
    page.keyboard.press("Enter")
    expect(page.get_by_text("that is not the passphrase")).to_be_visible()
    page.get_by_label("Passphrase of this server").fill(PHRASE)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Kit", exact=True)).to_be_visible()
    page.keyboard.press("g")
    page.keyboard.press("y")
    opened(page, "Behind the door")
    expect(page.get_by_label("Customer")).to_have_value("Behind the door")
    page.reload()
    expect(page.get_by_label("Customer")).to_have_value("Behind the door")
    page.goto(page.url.replace("/scope", "/draw"))
    page.get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_text("Pump started")).to_be_visible()
    other = browser.new_context(service_workers="block")
    stranger = other.new_page()
    stranger.goto(f"{locked}/")
    expect(stranger.get_by_role("heading", name="Sign in")).to_be_visible()
    assert stranger.request.get(f"{locked}/api/jobs").status == 401
    page.goto(f"{locked}/people")
    page.get_by_role("button", name="Sign out of this browser").click()
    expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
    assert page.request.get(f"{locked}/api/jobs").status == 401
    context.close()
    other.close()


@whole
def test_people_have_their_own_units_and_names(page: Page, site: str) -> None:
    page.goto(f"{site}/people")
    expect(page.get_by_text("Nobody in particular")).to_be_visible()
    page.get_by_label("Name").fill("Ida Fenwhistle")
    page.get_by_label("License").fill("QCW-021")
    page.get_by_role("button", name="Add", exact=True).click()
    row = page.get_by_role("listitem").filter(has_text="Ida Fenwhistle")
    row.get_by_role("button", name="That is me").click()
    expect(row.get_by_text("here", exact=True)).to_be_visible()
    page.get_by_role("button", name="Units").click()
    page.get_by_role("radio", name="Pa", exact=True).click()
    page.keyboard.press("Escape")
    page.goto(f"{site}/")
    expect(page.get_by_text("Pa", exact=True).first).to_be_visible()
    opened(page, "Fenwhistle's own")
    expect(page.get_by_label("Technician")).to_have_value("Ida Fenwhistle")
    page.goto(f"{site}/people")
    page.get_by_role("button", name="Not me").click()
    expect(page.get_by_text("Nobody in particular")).to_be_visible()
    row.get_by_role("button", name="Change Ida Fenwhistle").click()
    row.get_by_role("button", name="Remove", exact=True).click()
    expect(row).to_have_count(0)
    settings = page.request.get(f"{site}/api/settings").json()["settings"]
    assert settings["pressure"] == "micron"
