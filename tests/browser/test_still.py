"""Nothing moves from under a hand: what a page shows stays where it is while the rest of its answers come."""

from __future__ import annotations

import re
import time
import zlib
from collections.abc import Iterator
from contextlib import suppress

import pytest
from playwright.sync_api import Browser, Error, Page, Route, expect

from tests.browser.conftest import made, watched
from tests.browser.waits import Asked, until
from tests.depth import first

CONTROLS = """() => [...document.querySelectorAll("#main :is(a, button, input, textarea, summary, [role=combobox])")]
    .filter(e => !e.closest("svg") && e.checkVisibility({visibilityProperty: true}))
    .map(e => ({e, box: e.getBoundingClientRect()}))
    .filter(({box}) => box.width > 0 && box.height > 0)
    .map(({e, box}) => {
        const label = document.getElementById(e.getAttribute("aria-labelledby") ?? "")?.innerText
            ?? e.getAttribute("aria-label") ?? e.labels?.[0]?.innerText ?? e.innerText;
        return [label.trim(), Math.round(box.x + scrollX), Math.round(box.y + scrollY)];
    })"""
WAITING = "document.querySelectorAll('.waits').length"
KEPT_BACK = "document.getElementById('main')?.dataset.fresh !== undefined"
"""Whether the page keeps back what would be pushed."""
MOVED = 6
"""As far as nobody's finger misses for, px."""

LONGEST_MS = 30_000
"""By then a page has long come to rest, by its own clock."""

Place = tuple[int, int]


class Late:
    """Answers of the server that come late, each kind at another time, by the page's own clock.

    That clock stands while the server or the network is at work: a loaded machine is slow, and the page none the wiser.
    """

    LATEST_MS = 1000
    AT_ONCE = re.compile(r"/api/(session|health|news)\b")

    def __init__(self, page: Page, salt: int) -> None:
        self.page = page
        self.salt = salt
        self.ms = 0
        self.held: list[tuple[float, Route]] = []
        self.asked = Asked(page)

    def __enter__(self) -> Late:
        self.page.route("**/api/**", self.hold)
        return self

    def __exit__(self, *_: object) -> None:
        self.let_go(float("inf"))
        self.page.unroute("**/api/**")
        self.asked.end()

    def hold(self, route: Route) -> None:
        if self.AT_ONCE.search(route.request.url):
            route.continue_()
            return
        kind = re.sub(r"/jobs/[^/]+", "", route.request.url.split("/api")[1].split("?")[0])
        share = zlib.crc32(f"{self.salt}{kind}".encode()) % 5 / 4
        self.held.append((self.ms + self.LATEST_MS * share, route))

    def let_go(self, at: float) -> None:
        for due, route in [x for x in self.held if x[0] <= at]:
            self.held.remove((due, route))
            # The page may have given up what it asked for.
            with suppress(Error):
                route.continue_()

    def tick(self, ms: int) -> None:
        """So long passes for the page, and what is asked for or due by then is answered."""
        self.page.clock.run_for(ms)
        self.ms += ms
        self.let_go(self.ms)
        until(lambda: self.page.wait_for_timeout(20) or len(self.asked.under_way) - len(self.held), lambda n: n <= 0)


def named(page: Page) -> dict[str, Place]:
    """Where each control stands whose name is its own."""
    found: dict[str, list[Place]] = {}
    for name, x, y in page.evaluate(CONTROLS):
        found.setdefault(name, []).append((x, y))
    return {name: at[0] for name, at in found.items() if name and len(at) == 1}


def moves(page: Page, address: str, salt: int) -> tuple[list[str], int]:
    """What moved while the page came, and how many controls it had in the end."""
    moved = []
    with Late(page, salt) as answers:
        page.goto(address, wait_until="commit")
        before: dict[str, Place] = {}
        rest = looked = 0
        # Still for as long as the latest answer takes, and with nothing to come any more.
        while rest < 12:
            answers.tick(100)
            assert answers.ms < LONGEST_MS, "the page never comes to rest"
            now = named(page)
            if page.evaluate(KEPT_BACK):
                looked += 1
                moved += [
                    f"{name}: {before[name]} to {at}"
                    for name, at in now.items()
                    if name in before and max(abs(at[0] - before[name][0]), abs(at[1] - before[name][1])) > MOVED
                ]
            rest = rest + 1 if now == before and now and not page.evaluate(WAITING) else 0
            before = now
    assert looked > 12, "nothing was kept back"
    return moved, len(before)


@pytest.fixture(scope="module")
def halted(browser: Browser, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A desk or a phone whose time passes when a test says so."""
    for page in made(browser, *request.param):
        now = time.time()
        page.clock.install(time=now)
        page.clock.pause_at(now + 1)
        yield page


@pytest.fixture
def slow(halted: Page, site: str) -> Iterator[Page]:
    yield from watched(halted, site)


def on(*device: object) -> pytest.MarkDecorator:
    return pytest.mark.parametrize("halted", [device], indirect=True, ids=[f"{device[0]}"])


DESK, PHONE = on(1280, 800), on(390, 844, True)


def still(page: Page, site: str, path: str, salt: int, fewest: int) -> None:
    moved, controls = moves(page, site + path, salt)
    assert moved == []
    assert controls > fewest


@DESK
@pytest.mark.parametrize(
    "path",
    first(1, ["/jobs/larkspur-2/hold", "/jobs/saltmarsh-kiosk/scope", "/jobs/saltmarsh-fish/release", "/history"]),
)
@pytest.mark.parametrize("salt", first(1, [1, 2]))
def test_what_a_desk_shows_stays_where_it_is(slow: Page, site: str, path: str, salt: int) -> None:
    still(slow, site, path, salt, 8)


WITHIN = 2.5
"""Windows from the top: what a browser lays out, and so gives its height, though it does not show yet."""


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (390, 844)])
def test_of_a_yard_of_many_jobs_all_that_is_near_has_its_height(page: Page, site: str, width: int, height: int) -> None:
    """One that is taken for a height first and laid out a moment later pushes what stands below it."""

    def crowd(route: Route) -> None:
        rows = route.fetch().json()
        copies = range(-(-120 // len(rows)))
        route.fulfill(json=[{**row, "key": f"{row['key']}-{n}"} for n in copies for row in rows])

    page.route(re.compile(r"/api/jobs$"), crowd)
    page.set_viewport_size({"width": width, "height": height})
    page.goto(site)
    expect(page.locator("#main h2").nth(100)).to_be_attached()
    cards = page.evaluate(
        """() => [...document.querySelectorAll("#main li:has(h2)")]
            .map(e => [e.getBoundingClientRect().top, getComputedStyle(e).contentVisibility])"""
    )
    near = [how for top, how in cards if top < WITHIN * height]
    assert len(near) > 5
    assert set(near) == {"visible"}
    assert cards[-1][1] == "auto"


@PHONE
@pytest.mark.parametrize("path", first(1, ["/jobs/hollow-7/scope", "/", "/jobs/saltmarsh-fish/record", "/kit"]))
@pytest.mark.parametrize("salt", first(1, [3, 4]))
def test_what_a_phone_shows_stays_where_it_is(slow: Page, site: str, path: str, salt: int) -> None:
    still(slow, site, path, salt, 5)


@DESK
def test_an_answer_that_never_comes_holds_nobody_up(slow: Page, site: str) -> None:
    page = slow
    held: list[Route] = []
    page.route("**/api/jobs/saltmarsh-kiosk/plan**", lambda route: held.append(route))
    page.goto(f"{site}/jobs/saltmarsh-kiosk/scope")
    customer = page.get_by_label("Customer")
    until(lambda: page.clock.run_for(10) or customer.count(), lambda there: there == 1)
    expect(page.get_by_text("Drawing it…")).to_be_visible()
    expect(customer).to_be_hidden()
    page.clock.run_for(4000)
    expect(customer).to_be_visible()
    customer.fill("Saltmarsh Ferry Terminal")
    assert page.get_by_text("Drawing it…").is_visible()
    for route in held:
        route.continue_()
