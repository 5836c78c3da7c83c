"""The page in Chromium: what is loaded first, when it shows, and whether a live draw ever holds the hand up."""

from __future__ import annotations

import tempfile
import time

import httpx
from playwright.sync_api import Page, sync_playwright

from bench.server import served
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.store import jobs
from rough_draw.store.database import open_database

PORT = 8079
TIMES = 7
LIVE_S = 30
SIZES = """
() => performance.getEntriesByType('resource').filter((e) => /\\.js(\\?|$)/.test(e.name)).map((e) => e.name)
"""
PAINT = "() => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? null"
WATCH = """
() => { window.long = []; new PerformanceObserver((l) => l.getEntries().forEach((e) => window.long.push(e.duration)))
          .observe({ type: 'longtask', buffered: false }) }
"""


def gzipped(names: list[str]) -> float:
    """kB of scripts as they would go over a line that compresses."""
    import gzip

    return sum(len(gzip.compress(httpx.get(n).content, 6)) for n in dict.fromkeys(names)) / 1000.0


def first_page(page: Page, address: str) -> tuple[float, float, list[str]]:
    """Seconds until the heading stands there, ms to the first paint, the scripts that came for it."""
    begun = time.perf_counter()
    page.goto(address)
    page.get_by_role("heading", level=1).first.wait_for()
    shown = time.perf_counter() - begun
    return shown, float(page.evaluate(PAINT) or 0.0), list(page.evaluate(SIZES))


def run() -> dict[str, float]:
    """The first page from nothing, and a draw at sixty times real time."""
    with tempfile.TemporaryDirectory() as d:
        path = f"{d}/page.sqlite3"
        open_database(path)
        key = jobs.create(Job(scope=Scope(condition="new-dry")), "live").key
        with served(path, PORT), sync_playwright() as p:
            base = f"http://127.0.0.1:{PORT}"
            httpx.get(f"{base}/api/jobs/{key}/live", timeout=60.0)
            flags = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]
            browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=flags)
            shows: list[float] = []
            paints: list[float] = []
            names: list[str] = []
            for _ in range(TIMES):
                context = browser.new_context(viewport={"width": 1280, "height": 800}, service_workers="block")
                shown, paint, names = first_page(context.new_page(), f"{base}/")
                shows.append(shown)
                paints.append(paint)
                context.close()
            context = browser.new_context(viewport={"width": 1280, "height": 800}, service_workers="block")
            page = context.new_page()
            _, _, job_names = first_page(page, f"{base}/jobs/{key}/draw")
            page.get_by_role("button", name="Simulated gauge, ×60").click()
            page.get_by_role("button", name="Done").click()
            page.wait_for_timeout(3000)
            page.evaluate(WATCH)
            page.wait_for_timeout(1000 * LIVE_S)
            long = [float(x) for x in page.evaluate("() => window.long")]
            browser.close()
            return {
                "shown_ms": 1e3 * sorted(shows)[TIMES // 2],
                "worst_ms": 1e3 * max(shows),
                "paint_ms": sorted(paints)[TIMES // 2],
                "first_kb": gzipped(names),
                "draw_kb": gzipped(job_names),
                "long": len([x for x in long if x > 100]),
                "longest_ms": max(long, default=0.0),
            }
