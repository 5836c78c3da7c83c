"""Rigs nobody would build, on systems nobody has, with steps in no order: every stage shows them all the same."""

from __future__ import annotations

import json
import re

import pytest
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from playwright.sync_api import Page, expect

from rough_draw.core.proving.stage_progress import STAGES
from tests.browser.waits import Visits
from tests.depth import times, whole
from tests.worlds import odd_jobs, tables, touches

pytestmark = pytest.mark.browser
EXAMPLES = times(3, 40)
"""Worlds that are looked at; `make soak` asks for more."""
FALLEN = re.compile("Something went wrong|could not be fetched")


@settings(
    max_examples=EXAMPLES,
    deadline=None,
    phases=(Phase.generate,),
    suppress_health_check=list(HealthCheck),
)
@whole
@given(data=st.data())
def test_every_stage_of_an_odd_world_is_shown(page: Page, site: str, data: st.DataObject) -> None:
    job = data.draw(odd_jobs())
    file = {"format": "rough-draw/job-file", "version": 2, "key": "odd", "job": json.loads(job.model_dump_json())}
    sent = {"name": "job.json", "mimeType": "application/json", "buffer": json.dumps(file).encode()}
    made = page.request.post(f"{site}/api/job-files?again=true", multipart={"file": sent})
    assert made.ok, made.text()
    key = made.json()["key"]
    for kind in data.draw(touches(job)):
        assert page.request.post(f"{site}/api/jobs/{key}/touches", data={"kind": kind}).status in (201, 409, 422)
    table = {"name": "t.csv", "mimeType": "text/csv", "buffer": data.draw(tables()).data}
    taken = page.request.post(
        f"{site}/api/jobs/{key}/import?commit=true&began=2026-11-01T10:00:00Z", multipart={"file": table}
    )
    assert taken.status in (200, 422), taken.text()
    # What the page says in the console, or falls over, the fixture watches for.
    visits = Visits(page, site)
    for stage in STAGES:
        visits.go(f"jobs/{key}/{stage}")
        expect(page).to_have_title(re.compile(f"^{stage}: ", re.IGNORECASE))
        expect(page.locator("main")).not_to_contain_text(FALLEN)
    visits.end()
    page.request.delete(f"{site}/api/jobs/{key}")
