"""Pictures of the main views, from fresh demo data, on a desk and on a phone."""

from __future__ import annotations

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
    ("draw-night", "jobs/larkspur-3/draw", DESK, "dark"),
    ("hold-leak", "jobs/larkspur-1/hold", DESK, "light"),
    ("hold-tight", "jobs/saltmarsh-ice/hold", DESK, "dark"),
    ("quick", "quick", DESK, "light"),
    ("release", "jobs/larkspur-1/release", DESK, "light"),
    ("record", "jobs/saltmarsh-ice/record", DESK, "light"),
    ("kit", "kit", DESK, "light"),
    ("day", "day", DESK, "light"),
    ("phone-yard", "", PHONE, "light"),
    ("phone-rig", "jobs/larkspur-3/rig", PHONE, "light"),
    ("phone-draw", "jobs/larkspur-3/draw", PHONE, "light"),
    ("phone-prove", "jobs/larkspur-3/prove", PHONE, "light"),
    ("phone-hold", "jobs/hollow-2/hold", PHONE, "dark"),
)

TABLE = "time,micron\n" + "\n".join(f"{60 * k},{190 + 24 * k + (60 if k else 0)}" for k in range(21))
"""What is pasted into a quick hold for its picture."""
PRESSED = {"prove": "Rig proof", "draw-why": "Look into it"}
"""What is opened before the picture is taken, by view."""
SCROLLED = {"draw-why": 330}
"""How far down the page is then, by view."""


def wait(address: str) -> None:
    for _ in range(240):
        try:
            urllib.request.urlopen(address, timeout=1)
            return
        except OSError:
            time.sleep(0.25)
    raise SystemExit("the demo did not start")


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as d:
        argv = [sys.executable, "-m", "rough_draw.cli", "demo", "--db", f"{d}/demo.sqlite3", "--port", str(PORT)]
        server = subprocess.Popen(argv)
        try:
            wait(f"http://127.0.0.1:{PORT}/api/health")
            time.sleep(8)
            with sync_playwright() as p:
                browser = p.chromium.launch(
                    executable_path="/usr/bin/chromium",
                    args=["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
                )
                for name, path, (width, height), scheme in VIEWS:
                    page = browser.new_page(viewport={"width": width, "height": height}, color_scheme=scheme)
                    page.goto(f"http://127.0.0.1:{PORT}/{path}")
                    page.wait_for_timeout(2500)
                    if name == "quick":
                        page.get_by_label("Paste a table here").fill(TABLE)
                        page.get_by_role("textbox", name="Volume").fill("9.5")
                        page.get_by_role("textbox", name="Isolated at").fill("0")
                        page.get_by_role("button", name="Read the hold").click()
                        page.wait_for_timeout(2500)
                        page.evaluate("window.scrollTo(0, 330)")
                    if name in PRESSED:
                        page.get_by_role("button", name=PRESSED[name]).first.click()
                        page.wait_for_timeout(6000 if name == "draw-why" else 800)
                        page.evaluate(f"window.scrollTo(0, {SCROLLED.get(name, 0)})")
                    page.screenshot(path=OUT / f"{name}.png")
                    page.close()
                    print(name)
        finally:
            server.terminate()


if __name__ == "__main__":
    main()
