"""A day of readings at one a second: how long it takes to load in Chromium, and what a frame of a pan costs."""

from __future__ import annotations

import tempfile
import time

import httpx
import numpy as np
from playwright.sync_api import sync_playwright

from bench.server import served
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.store import jobs
from rough_draw.store.database import open_database

PORT = 8078
DAY_S = 86_400
PAN = """
async () => {
  const over = document.querySelector('.u-over');
  const box = over.getBoundingClientRect();
  const at = (x, type) => over.dispatchEvent(new PointerEvent(type, {
    bubbles: true, pointerId: 1, clientX: box.left + x, clientY: box.top + 100, buttons: 1, isPrimary: true,
  }));
  const host = over.closest('[role=img]');
  host.setPointerCapture = () => {};
  at(500, 'pointerdown');
  const work = [], frames = [];
  let last = performance.now();
  for (let n = 0; n < 150; n++) {
    // The first callback of the frame begins the clock, the task after everything it caused ends it.
    const first = new Promise((r) => requestAnimationFrame(() => r(performance.now())));
    at(500 - 2 * n, 'pointermove');
    const begun = await first;
    await new Promise((r) => setTimeout(r, 0));
    const now = performance.now();
    frames.push(now - last); work.push(now - begun); last = now;
  }
  at(200, 'pointerup');
  const sort = (a) => a.slice(10).sort((x, y) => x - y);
  const f = sort(frames), w = sort(work);
  return { frame: f[f.length >> 1], median: w[w.length >> 1], p95: w[Math.floor(0.95 * w.length)] };
}
"""


def seeded(path: str) -> None:
    """A job with a day of readings."""
    open_database(path)
    key = jobs.create(Job(scope=Scope(condition="new-dry")), "day").key
    start = time.time() - DAY_S
    jobs.add_touch(key, "pump-on", start)
    t = np.arange(DAY_S, dtype=float)
    p = (300 + 1e5 * np.exp(-t / 600)) * MICRON_PA * (1 + 0.004 * np.random.default_rng(1).normal(size=t.size))
    rows = [jobs.NewReading("Gauge 1", start + float(a), float(b)) for a, b in zip(t, p, strict=True)]
    jobs.add_readings(key, rows, "gauge")


def run() -> dict[str, float]:
    """Seed, serve, open, pan."""
    with tempfile.TemporaryDirectory() as d:
        path = f"{d}/day.sqlite3"
        seeded(path)
        with served(path, PORT):
            # The first answer compiles and plans: it is no part of what is measured.
            httpx.get(f"http://127.0.0.1:{PORT}/api/jobs/day/live", timeout=60.0)
            with sync_playwright() as p:
                flags = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]
                browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=flags)
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                page.goto(f"http://127.0.0.1:{PORT}/")
                page.wait_for_timeout(1500)
                begun = time.perf_counter()
                page.goto(f"http://127.0.0.1:{PORT}/jobs/day/draw")
                page.wait_for_selector(".u-over")
                load = time.perf_counter() - begun
                page.wait_for_timeout(4000)
                found: dict[str, float] = page.evaluate(PAN)
                moved = page.get_by_role("button", name="Now", exact=True).count()
                browser.close()
            return {
                "load_ms": 1e3 * load,
                "frame_ms": found["median"],
                "frame_p95_ms": found["p95"],
                "every_ms": found["frame"],
                "moved": moved,
            }


if __name__ == "__main__":
    for name, value in run().items():
        print(f"{name:<14}{value:>10.1f}")
