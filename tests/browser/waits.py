"""What browser tests wait for: something that is so, never a while."""

from __future__ import annotations

import time
from collections.abc import Callable
from contextlib import suppress
from typing import Any

from playwright.sync_api import Locator, Page, Request, Response, expect

from tests.browser.conftest import PATIENCE_MS

KEPT = """async () => {
  const there = (await indexedDB.databases()).some((d) => d.name === 'rough-draw-kept');
  if (!there) return {};
  const db = await new Promise((ok, no) => {
    const asked = indexedDB.open('rough-draw-kept');
    asked.onsuccess = () => ok(asked.result);
    asked.onerror = () => no(asked.error);
  });
  const store = db.transaction('kept').objectStore('kept');
  const all = (asked) => new Promise((ok, no) => {
    asked.onsuccess = () => ok(asked.result);
    asked.onerror = () => no(asked.error);
  });
  const [names, values] = await Promise.all([all(store.getAllKeys()), all(store.getAll())]);
  db.close();
  return Object.fromEntries(names.map((name, n) => [name, values[n]]));
}"""
"""What the device keeps until the server has it, by name."""


def kept(page: Page) -> dict[str, Any]:
    """What a page that is opened now would find on the device."""
    found: dict[str, Any] = page.evaluate(KEPT)
    return found


def saved(page: Page) -> None:
    """Every edit of a sheet made so far is on the server: until then the device keeps it."""
    until(lambda: [name for name in kept(page) if name.startswith("draft:")], lambda drafts: not drafts)


def at_pace(page: Page, site: str, key: str, speed: int) -> None:
    """The simulated gauge of a job runs so many times as fast as life: fast where a test waits."""
    assert page.request.post(f"{site}/api/jobs/{key}/standin", data={"speed": speed}).ok


def told(method: str, ending: str) -> Callable[[Response], bool]:
    """An answer to a request of this kind, for ``expect_response``."""
    return lambda r: r.request.method == method and r.url.split("?")[0].endswith(ending)


def unfolded(page: Page, title: str) -> None:
    """Open what a phone has folded under a title."""
    head = page.get_by_role("button", name=title).and_(page.locator("[aria-expanded]"))
    tapped(head, head.and_(page.locator("[aria-expanded=true]")))


def focus(what: Locator) -> None:
    """Go to a control by its keys, once it shows: what is still to come on a page cannot be gone to."""
    expect(what).to_be_visible()
    what.focus()


def tapped(what: Locator, then: Locator) -> None:
    """Tap, until what follows is there: while answers come in the page may move under the finger."""
    for _ in range(5):
        if not then.is_visible():
            what.tap()
        with suppress(AssertionError):
            expect(then).to_be_visible(timeout=4000)
            break
    expect(then).to_be_visible()


class Asked:
    """What a page asks for from now on and has not had yet.

    Of what it asks while it is left nobody hears how it ended.
    """

    def __init__(self, page: Page) -> None:
        self.page = page
        self.under_way: set[Request] = set()
        self.hears = {"request": self._begun, "requestfinished": self._over, "requestfailed": self._over}
        for event, hear in self.hears.items():
            page.on(event, hear)  # type: ignore[call-overload]

    def _begun(self, request: Request) -> None:
        # The stream of news never ends.
        if "/api/news" not in request.url:
            self.under_way.add(request)

    def _over(self, request: Request) -> None:
        self.under_way.discard(request)

    def end(self) -> None:
        """Listen no longer."""
        for event, hear in self.hears.items():
            self.page.remove_listener(event, hear)


class Visits:
    """Goes from page to page as a press on a link does, the application staying loaded; waits until all is there."""

    QUIET_MS = 250

    def __init__(self, page: Page, site: str) -> None:
        self.page = page
        page.goto(f"{site}/api/health")
        self.asked = Asked(page)
        page.goto(f"{site}/")
        self._wait()

    def go(self, path: str) -> None:
        """Show a page; back when it has asked for nothing for a while."""
        self.page.evaluate(
            "(to) => { history.pushState(null, '', to); dispatchEvent(new PopStateEvent('popstate')); }", f"/{path}"
        )
        self._wait()

    def _wait(self) -> None:
        end = time.monotonic() + PATIENCE_MS / 1000
        quiet = 0.0
        while quiet < self.QUIET_MS:
            assert time.monotonic() < end, [r.url for r in self.asked.under_way]
            self.page.wait_for_timeout(50)
            quiet = 0.0 if self.asked.under_way else quiet + 50

    def end(self) -> None:
        """Listen no longer."""
        self.asked.end()


def until(found: Callable[[], Any], wanted: Callable[[Any], bool], seconds: float = PATIENCE_MS / 1000) -> Any:
    """Ask again and again until the answer is as wanted. Raises AssertionError with the last one."""
    end = time.monotonic() + seconds
    while True:
        value = found()
        if wanted(value):
            return value
        assert time.monotonic() < end, f"still {value!r}"
        time.sleep(0.1)
