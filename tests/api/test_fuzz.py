"""The API fuzzed from its own description: whatever is sent, it is never the server's fault."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode

from rough_draw.api.practice import sessions
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Scope
from tests.depth import times
from tests.one_app import app_on

PUBLISHED = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text())
SKIPPED = ("/api/restore", "/api/backup", "/api/jobs/{key}/stream", "/api/news")
"""What copies the whole file, and what never ends, are tested by themselves."""
OPERATIONS = [
    (path, method)
    for path, methods in PUBLISHED["paths"].items()
    for method in methods
    if path not in SKIPPED and method in ("get", "post", "put", "delete")
]
EXAMPLES = times(3, 12)
codes: dict[GenerationMode, Counter[int]] = {m: Counter() for m in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)}


class Fuzzed:
    """The application, its description, and things that are there to be asked for."""

    def __init__(self, client: TestClient) -> None:
        self.client = client
        self.schema = schemathesis.openapi.from_dict(PUBLISHED)
        body = Job(scope=Scope(condition="new-dry")).model_dump_json()
        made = client.post("/api/jobs", content=body, headers={"content-type": "application/json"})
        self.job = str(made.json()["key"])
        self.run = str(client.post("/api/practice/runs", json={"scenario": "dry-line-set"}).json()["key"])


@pytest.fixture(scope="module")
def fuzzed(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Fuzzed]:
    app = app_on(tmp_path_factory.mktemp("fuzz") / "fuzz.sqlite3")
    with TestClient(app, raise_server_exceptions=False) as client:
        yield Fuzzed(client)
    sessions._open.clear()


@pytest.mark.parametrize("mode", [GenerationMode.POSITIVE, GenerationMode.NEGATIVE], ids=["good", "bad"])
@pytest.mark.parametrize(("path", "method"), OPERATIONS, ids=lambda x: str(x).removeprefix("/api/"))
def test_no_answer_is_the_servers_fault(fuzzed: Fuzzed, path: str, method: str, mode: GenerationMode) -> None:
    operation = fuzzed.schema[path][method.upper()]
    times = 0

    @settings(
        max_examples=EXAMPLES,
        deadline=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
        database=None,
    )
    @given(case=operation.as_strategy(generation_mode=mode))
    def run(case: schemathesis.Case) -> None:
        nonlocal times
        times += 1
        # Mostly something that is there, so that more than the first question is asked.
        if case.path_parameters and "key" in case.path_parameters and times % 3 and method != "delete":
            case.path_parameters["key"] = fuzzed.run if "/practice/runs" in path else fuzzed.job
        kwargs = case.as_transport_kwargs(base_url="http://testserver")
        kwargs.pop("cookies", None)
        answer = fuzzed.client.request(**kwargs)
        codes[mode][answer.status_code] += 1
        assert answer.status_code < 500, (method, path, kwargs, answer.text[:300])
        if answer.status_code >= 400:
            assert answer.headers["content-type"] == "application/problem+json", (method, path)
            problem = answer.json()
            assert problem["status"] == answer.status_code
            assert problem["title"], (method, path)
            assert problem["detail"], (method, path)
            assert all(f["place"] and f["message"] for f in problem.get("faults", [])), (method, path, problem)

    try:
        run()
    except Unsatisfiable:
        # Nothing wrong can be sent where nothing is asked for.
        assert mode is GenerationMode.NEGATIVE


def test_good_and_bad_alike_were_answered() -> None:
    good, bad = codes[GenerationMode.POSITIVE], codes[GenerationMode.NEGATIVE]
    assert sum(good.values()) + sum(bad.values()) > 250
    taken = sum(n for code, n in good.items() if code < 300)
    assert taken > 0.35 * sum(good.values()), f"what is as described is mostly taken: {good}"
    refused = sum(n for code, n in bad.items() if code >= 400)
    assert refused > 0.7 * sum(bad.values()), f"what is not as described is mostly refused: {bad}"
