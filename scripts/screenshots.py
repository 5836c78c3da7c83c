"""Pictures of the main views, from fresh demo data, on a desk and on a phone."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import sync_playwright

OUT = Path(__file__).parents[1] / "docs" / "screenshots"
PORT = 8047
DESK, PHONE = (1280, 800), (390, 844)
VIEWS = (
    ("yard", "", DESK, "light"),
    ("scope", "jobs/saltmarsh-fish/scope", DESK, "light"),
    ("rig", "jobs/hollow-5/rig", DESK, "light"),
    ("prove", "jobs/hollow-5/prove", DESK, "light"),
    ("draw", "jobs/larkspur-3/draw", DESK, "light"),
    ("draw-why", "jobs/larkspur-4/draw", DESK, "light"),
    ("hold-leak", "jobs/larkspur-1/hold", DESK, "light"),
    ("hold-tight", "jobs/saltmarsh-ice/hold", DESK, "dark"),
    ("quick", "quick", DESK, "light"),
    ("release", "jobs/larkspur-1/release", DESK, "light"),
    ("record", "jobs/saltmarsh-ice/record", DESK, "light"),
    ("kit", "kit", DESK, "light"),
    ("day", "day", DESK, "light"),
    ("practice", "practice/{played}", DESK, "light"),
    ("debrief", "practice/{over}/debrief", DESK, "light"),
    ("notes", "notes/pressure", DESK, "dark"),
    ("phone-draw", "jobs/larkspur-3/draw", PHONE, "light"),
    ("phone-hold", "jobs/hollow-2/hold", PHONE, "dark"),
    ("phone-practice", "practice/{played}", PHONE, "light"),
)

TABLE = "time (s),micron\n" + "\n".join(f"{60 * k},{190 + 24 * k + (60 if k else 0)}" for k in range(21))
"""What is pasted into a quick hold for its picture."""
THERE = """() => {
    const main = document.querySelector("main");
    return main && main.querySelector("h1, h2") && !document.querySelector("[aria-busy=true]")
        && !/Opening|Working it out|Setting up|Fetching|Laying the day out/.test(main.innerText);
}"""
"""Whether a page is all there: on a slow machine it is not after a while."""
PRESSED = {"prove": "Rig proof", "draw-why": "Look into it"}
"""What is opened before the picture is taken, by view."""
SCROLLED = {"draw-why": 330}
"""How far down the page is then, by view."""

WELL = (
    "look:power",
    "look:pressure",
    "test:ballast",
    "cause:ballast",
    "ballast-shut",
    "test:cores",
    "isolate",
    "pump-off",
)
"""How a practice job is played for its pictures."""


def ask(path: str, body: dict[str, object]) -> dict[str, object]:
    """Something sent to the demo's API."""
    data = json.dumps(body).encode()
    request = urllib.request.Request(f"http://127.0.0.1:{PORT}/api{path}", data, {"Content-Type": "application/json"})
    with urllib.request.urlopen(request) as answer:
        found: dict[str, object] = json.load(answer)
    return found


def practised() -> dict[str, str]:
    """Two practice jobs: one in the middle, one at its end."""
    keys = {}
    for name, deeds in (
        ("played", WELL[:5]),
        ("over", (*WELL, "test:second", "test:hoses", "verdict:tight", "end:release")),
    ):
        key = str(ask("/practice/runs", {"scenario": "ballast-forgotten"})["key"])
        for kind in deeds:
            ask(f"/practice/runs/{key}/deeds", {"kind": kind})
        keys[name] = key
    return keys


def wait(address: str) -> None:
    """Until it answers, and has nothing more to prepare: the demo's jobs are made while it answers already."""
    for _ in range(720):
        try:
            with urllib.request.urlopen(address, timeout=1) as answer:
                if json.load(answer)["preparing"] is None:
                    return
        except OSError:
            pass
        time.sleep(0.25)
    raise SystemExit("the demo did not start")


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as d:
        argv = [sys.executable, "-m", "rough_draw.cli", "demo", "--db", f"{d}/demo.sqlite3", "--port", str(PORT)]
        server = subprocess.Popen(argv)
        try:
            wait(f"http://127.0.0.1:{PORT}/api/health")
            keys = practised()
            time.sleep(8)
            with sync_playwright() as p:
                browser = p.chromium.launch(
                    executable_path="/usr/bin/chromium",
                    args=["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
                )
                for name, path, (width, height), scheme in VIEWS:
                    page = browser.new_page(viewport={"width": width, "height": height}, color_scheme=scheme)
                    page.goto(f"http://127.0.0.1:{PORT}/{path.format(**keys)}")
                    page.wait_for_timeout(2500)
                    page.wait_for_function(THERE, timeout=60_000)
                    if path.endswith("/draw"):
                        page.get_by_test_id("next-step").wait_for(timeout=60_000)
                    if name == "release":
                        page.get_by_role("heading", name="Steps, in this order").scroll_into_view_if_needed()
                        page.evaluate("window.scrollBy(0, 620)")
                    if name == "quick":
                        page.get_by_label("Paste a table here").fill(TABLE)
                        page.get_by_role("textbox", name="Volume").fill("9.5")
                        page.get_by_role("textbox", name="Isolated at").fill("0")
                        page.get_by_role("button", name="Read the hold").click()
                        page.wait_for_timeout(2500)
                        page.evaluate("window.scrollTo(0, 330)")
                    if name in PRESSED:
                        page.get_by_role("button", name=PRESSED[name]).first.click()
                        page.wait_for_timeout(800)
                        page.get_by_text("Weighing what it can be").wait_for(state="detached", timeout=60_000)
                        page.evaluate(f"window.scrollTo(0, {SCROLLED.get(name, 0)})")
                    page.screenshot(path=OUT / f"{name}.png")
                    page.close()
                    print(name)
        finally:
            server.terminate()


if __name__ == "__main__":
    main()
