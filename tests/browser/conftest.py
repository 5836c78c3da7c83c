"""A server with demo data and a headless browser, shared by the browser tests."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

CHROMIUM = "/usr/bin/chromium"
# A loaded machine is slow, not wrong: speed is shown by the bench, never by a timed test.
PATIENCE_MS = 20_000
expect.set_options(timeout=PATIENCE_MS)
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]


@pytest.fixture(scope="session")
def site(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """Address of a running demo."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    db = tmp_path_factory.mktemp("demo") / "demo.sqlite3"
    argv = [sys.executable, "-m", "rough_draw.cli", "demo", "--db", str(db), "--port", str(port)]
    with subprocess.Popen(argv, env={**os.environ, "TZ": "UTC"}) as process:
        address = f"http://127.0.0.1:{port}"
        for _ in range(240):
            try:
                urllib.request.urlopen(f"{address}/api/health", timeout=1)
                break
            except OSError:
                time.sleep(0.25)
        yield address
        process.terminate()


@pytest.fixture(scope="module")
def browser() -> Iterator[Browser]:
    """A headless Chromium for each file: while one is open, no other event loop runs in its process."""
    assert Path(CHROMIUM).exists(), "chromium is missing: apt-get install chromium"
    with sync_playwright() as p:
        b = p.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield b
        b.close()


class Watch:
    """What a page asked for and complained of."""

    def __init__(self, page: Page, site: str) -> None:
        self.errors: list[str] = []
        self.foreign: list[str] = []
        page.on("pageerror", lambda e: self.errors.append(str(e)))
        page.on("console", lambda m: self.errors.append(m.text) if m.type == "error" else None)
        page.on(
            "request", lambda r: self.foreign.append(r.url) if not r.url.startswith((site, "data:", "blob:")) else None
        )


def opened(browser: Browser, site: str, width: int, height: int, touch: bool = False) -> Iterator[Page]:
    # The worker that keeps the page on the device has tests of its own; each context here would fetch it all again.
    context = browser.new_context(
        viewport={"width": width, "height": height}, has_touch=touch, accept_downloads=True, service_workers="block"
    )
    page = context.new_page()
    watch = Watch(page, site)
    page.set_default_timeout(PATIENCE_MS)
    yield page
    context.close()
    assert watch.foreign == [], "the page asked something of elsewhere"
    expected = ("status of 422", "status of 409", "status of 404")
    assert [e for e in watch.errors if not any(x in e for x in expected)] == []


@pytest.fixture
def page(browser: Browser, site: str) -> Iterator[Page]:
    """A desk."""
    yield from opened(browser, site, 1280, 800)


@pytest.fixture
def phone(browser: Browser, site: str) -> Iterator[Page]:
    """A phone beside the unit."""
    yield from opened(browser, site, 390, 844, touch=True)
