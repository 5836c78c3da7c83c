"""What browser tests wait for: something that is so, never a while."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

from playwright.sync_api import Page, Response

from tests.browser.conftest import PATIENCE_MS

UNSAVED = "() => !Object.keys(localStorage).some((k) => k.startsWith('rough-draw-draft:'))"


def saved(page: Page) -> None:
    """Every edit of a sheet made so far is on the server: until then the device keeps it."""
    page.wait_for_function(UNSAVED, timeout=PATIENCE_MS)


def told(method: str, ending: str) -> Callable[[Response], bool]:
    """An answer to a request of this kind, for ``expect_response``."""
    return lambda r: r.request.method == method and r.url.split("?")[0].endswith(ending)


def until(found: Callable[[], Any], wanted: Callable[[Any], bool], seconds: float = PATIENCE_MS / 1000) -> Any:
    """Ask again and again until the answer is as wanted. Raises AssertionError with the last one."""
    end = time.monotonic() + seconds
    while True:
        value = found()
        if wanted(value):
            return value
        assert time.monotonic() < end, f"still {value!r}"
        time.sleep(0.1)
