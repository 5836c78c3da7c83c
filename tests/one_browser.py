"""One headless Chromium for a worker's browser tests: opened by the first of them, closed before any other test.

Starting one costs more than most tests do. It may not stay open beside other tests, since no second event loop runs in
its thread.
"""

from __future__ import annotations

from contextlib import ExitStack
from pathlib import Path

from playwright.sync_api import Browser, Playwright, sync_playwright

CHROMIUM = "/usr/bin/chromium"
# Pages of the browser's own, two to each window, cost more than most tests do; of several such switches only the last
# counts, so that the driver's own list stands here again.
WITHOUT = (
    *("WebUIOmniboxPopup", "WebUIOmniboxAimPopup", "PreloadTopChromeWebUI", "AimEnabled", "LensOverlay"),
    *("AvoidUnnecessaryBeforeUnloadCheckSync", "DestroyProfileOnBrowserClose", "HttpsUpgrades"),
    *("HttpsFirstBalancedModeAutoEnable", "MediaRouter", "PaintHolding", "ThirdPartyStoragePartitioning"),
    *("AvoidCorsURLLoaderRestartOnRedirect", "OptimizationHints", "NetworkTimeServiceQuerying", "PreconnectToSearch"),
)
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    f"--disable-features={','.join(WITHOUT)}",
]

_open: ExitStack | None = None
_playwright: Playwright | None = None
_browser: Browser | None = None


def playwright() -> Playwright:
    """The driver, started where it is not yet."""
    global _open, _playwright
    if _playwright is None:
        _open = ExitStack()
        _playwright = _open.enter_context(sync_playwright())
    return _playwright


def browser() -> Browser:
    """The browser, started where it is not yet."""
    global _browser
    if _browser is None:
        assert Path(CHROMIUM).exists(), "chromium is missing: apt-get install chromium"
        _browser = playwright().chromium.launch(executable_path=CHROMIUM, args=FLAGS)
    return _browser


def close() -> None:
    """Close what is open; nothing where nothing is."""
    global _open, _playwright, _browser
    if _browser is not None:
        _browser.close()
    if _open is not None:
        _open.close()
    _open = _playwright = _browser = None
