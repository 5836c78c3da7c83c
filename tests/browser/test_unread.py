"""A job of which what is stored cannot be read: named in the Yard, taken out or put back on its page."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.demo_copy import demo_copy
from tests.depth import whole
from tests.serving import free_port, serve

pytestmark = pytest.mark.browser


@pytest.fixture
def page(browser: Browser) -> Iterator[Page]:
    """A page that goes to a server of this file's own."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True)
    yield context.new_page()
    context.close()


@whole
def test_a_torn_sheet_is_taken_out_and_put_back(page: Page, tmp_path_factory: pytest.TempPathFactory) -> None:
    path = demo_copy(tmp_path_factory)
    port = free_port()
    with serve("demo", path, port):
        site = f"http://127.0.0.1:{port}"
        found = page.request.get(f"{site}/api/jobs/larkspur-1").json()
        changed = found["job"] | {"title": "Changed"}
        body = {"version": found["version"], "job": changed}
        assert page.request.put(f"{site}/api/jobs/larkspur-1", data=body).ok
        torn(path, "larkspur-1")
        page.goto(site)
        row = page.get_by_role("link").filter(has_text="cannot be read")
        expect(row).to_have_count(1)
        row.click()
        expect(page.get_by_text("This job cannot be opened")).to_be_visible()
        with page.expect_download() as taken:
            page.get_by_role("link", name="Take its file out as it is stored").click()
        assert "warp-drive" in Path(taken.value.path()).read_text()
        page.get_by_role("button", name="Put it back to before the last edit").click()
        expect(page.get_by_role("heading", level=1)).to_have_text(found["job"]["party"]["customer"])
        # Where there is no edit before, that is said.
        with sqlite3.connect(path) as db:
            db.execute("DELETE FROM revision")
        torn(path, "larkspur-1")
        page.reload()
        page.get_by_role("button", name="Put it back to before the last edit").click()
        expect(page.get_by_text("Nothing was put back")).to_be_visible()
        # A backup that holds it comes back all the same, once that is asked for.
        copy = page.request.get(f"{site}/api/backup").body()
        page.goto(f"{site}/history")
        chosen = {"name": "copy.sqlite3", "mimeType": "application/octet-stream", "buffer": copy}
        page.get_by_label("A backup to put back").set_input_files(chosen)  # type: ignore[arg-type]
        page.get_by_role("button", name="Restore it", exact=True).click()
        expect(page.get_by_role("dialog")).to_contain_text("Torn Lane (larkspur-1)")
        page.get_by_role("button", name="Restore it all the same").click()
        expect(page.get_by_text(re.compile("jobs and .* readings are back"))).to_be_visible()
        assert "warp-drive" in page.request.get(f"{site}/api/jobs/larkspur-1/job.json").text()


def torn(path: Path, key: str) -> None:
    """The sheet as a later version might have written it."""
    document = '{"party": {"customer": "Torn Lane"}, "rig": {"parts": [{"kind": "warp-drive"}]}}'
    with sqlite3.connect(path) as db:
        db.execute("UPDATE job SET document = ? WHERE key = ?", (document, key))
