"""A server with demo data and a headless browser, shared by the browser tests."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, ConsoleMessage, Error, Page, Request, expect

from tests import one_browser
from tests.demo_copy import demo_copy
from tests.serving import free_port, serve

# A loaded machine is slow, not wrong: speed is shown by the bench, never by a timed test.
PATIENCE_MS = 40_000
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="session")
def site(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """Address of a running demo."""
    port = free_port()
    with serve("demo", demo_copy(tmp_path_factory), port):
        yield f"http://127.0.0.1:{port}"


@pytest.fixture(scope="module")
def browser() -> Iterator[Browser]:
    """The worker's headless Chromium, with nothing in it that the file before left open."""
    b = one_browser.browser()
    yield b
    for context in b.contexts:
        context.close()


class Watch:
    """What a page asked for and complained of."""

    EXPECTED = ("status of 422", "status of 409", "status of 404")

    def __init__(self, page: Page, site: str) -> None:
        self.errors: list[str] = []
        self.foreign: list[str] = []
        self.simulated: set[str] = set()
        self.page = page
        self.site = site
        self.hears = {"pageerror": self._fault, "console": self._said, "request": self._asked}
        for event, hear in self.hears.items():
            page.on(event, hear)  # type: ignore[call-overload]

    def _fault(self, e: Error) -> None:
        self.errors.append(str(e))

    def _said(self, m: ConsoleMessage) -> None:
        if m.type == "error" and not any(x in m.text for x in self.EXPECTED):
            self.errors.append(m.text)

    def _asked(self, r: Request) -> None:
        if not r.url.startswith((self.site, "data:", "blob:")):
            self.foreign.append(r.url)
        if r.method == "POST" and r.url.endswith("/standin"):
            self.simulated.add(r.url)

    def done(self) -> None:
        """Stop watching; raises AssertionError for what was seen."""
        for event, hear in self.hears.items():
            self.page.remove_listener(event, hear)
        assert self.foreign == [], "the page asked something of elsewhere"
        assert self.errors == []


def made(browser: Browser, width: int, height: int, touch: bool = False) -> Iterator[Page]:
    """A page for a whole file of tests: a fresh context for each of them costs more than most of them do."""
    # The worker that keeps the page on the device has tests of its own; each context here would fetch it all again.
    # Without motion the page stands still when nothing happens, which is most of the time of a test.
    context = browser.new_context(
        viewport={"width": width, "height": height},
        has_touch=touch,
        accept_downloads=True,
        service_workers="block",
        reduced_motion="reduce",
    )
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    yield page
    context.close()


def watched(page: Page, site: str) -> Iterator[Page]:
    """The file's page for one test, with nothing left on the device by the one before."""
    size = page.viewport_size
    watch = Watch(page, site)
    yield page
    page.unroute_all(behavior="ignoreErrors")
    # Nothing of the application runs on this address, and it keeps the process with the scripts it has compiled.
    page.goto(f"{site}/api/health")
    # A world that a test has begun would run on, sixty times as fast as life, beside all the tests that follow.
    for url in watch.simulated:
        # The demo's own worlds stay: other tests look at them.
        if not re.search("/jobs/(larkspur|hollow|saltmarsh)-", url):
            page.request.delete(url)
    watch.done()
    page.context.clear_cookies()
    cdp = page.context.new_cdp_session(page)
    cdp.send("Storage.clearDataForOrigin", {"origin": site, "storageTypes": "local_storage,indexeddb"})
    cdp.detach()
    if size is not None:
        page.set_viewport_size(size)


@pytest.fixture(scope="module")
def desk_page(browser: Browser) -> Iterator[Page]:
    yield from made(browser, 1280, 800)


@pytest.fixture(scope="module")
def phone_page(browser: Browser) -> Iterator[Page]:
    yield from made(browser, 390, 844, touch=True)


@pytest.fixture
def page(desk_page: Page, site: str) -> Iterator[Page]:
    """A desk."""
    yield from watched(desk_page, site)


@pytest.fixture
def phone(phone_page: Page, site: str) -> Iterator[Page]:
    """A phone beside the unit."""
    yield from watched(phone_page, site)
