"""Shared scenarios: the answer is not read in the file, comes back whole, and a changed file is refused."""

from __future__ import annotations

import base64
import json
import re
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.core.practice.scenario import Scenario
from rough_draw.scenarios.generator import make
from rough_draw.scenarios.handmade import by_hand
from rough_draw.store.job_files import FileFault
from rough_draw.store.scenario_files import ANSWER, dump, load
from tests.depth import drawn

EVERY = by_hand()


@settings(max_examples=drawn(25))
@given(st.one_of(st.sampled_from(EVERY), st.builds(make, st.integers(0, 999), st.integers(1, 5))))
def test_it_comes_back_as_it_was_and_does_not_tell(scenario: Scenario) -> None:
    text = dump(scenario)
    assert load(text.encode()) == scenario
    values = json.loads(text)
    assert not set(ANSWER) & set(values)
    answer = base64.urlsafe_b64decode(values["answer"])
    told = json.dumps({k: v for k, v in values.items() if k not in ("answer", "sheet", "key")})
    for f in scenario.hidden.faults:
        assert f'"{f.key}"' not in told
        assert f.key.encode() not in answer
    assert scenario.title in text


@pytest.mark.parametrize("scenario", EVERY[:4], ids=lambda s: s.key)
def test_what_earlier_versions_shared_is_read(scenario: Scenario) -> None:
    assert load(scenario.model_dump_json(indent=1).encode()) == scenario


def other_letter(text: str) -> str:
    """A text with another letter near its end."""
    return text[:-9] + ("B" if text[-9] == "A" else "A") + text[-8:]


def changed(values: dict[str, Any], how: str) -> dict[str, Any]:
    other = json.loads(dump(EVERY[1]))
    return {
        "title": {**values, "title": "Another"},
        "brief gone": {k: v for k, v in values.items() if k != "brief"},
        "something more": {**values, "more": 1},
        "sheet": {**values, "sheet": other["sheet"]},
        "another's answer": {**values, "answer": other["answer"]},
        "a letter of it": {**values, "answer": other_letter(values["answer"])},
        "no answer": {k: v for k, v in values.items() if k != "answer"},
        "no text": {**values, "answer": 7},
        "not letters": {**values, "answer": "é" * 40},
        "open beside": {**values, "hidden": {"seed": 1}},
        "infinity": {**values, "level": float("inf")},
    }[how]


@pytest.mark.parametrize(
    "how",
    [
        *("title", "brief gone", "something more", "sheet", "another's answer", "a letter of it", "no answer"),
        *("no text", "not letters", "open beside", "infinity"),
    ],
)
def test_a_changed_file_is_refused(how: str) -> None:
    values = changed(json.loads(dump(EVERY[0])), how)
    with pytest.raises(FileFault):
        load(json.dumps(values).encode())


@pytest.mark.parametrize("data", [b"", b"[]", b"{}", b"\xff\xfe", b"[" * 60_000, b"7", b"x" * (513 * 1024)])
def test_what_is_no_scenario_is_told(data: bytes) -> None:
    with pytest.raises(FileFault):
        load(data)


def test_the_lid_is_not_the_same_twice() -> None:
    """Whoever has two files of one scenario does not see that its answer is the same."""
    one, two = (re.search(r'"answer": "([^"]+)"', dump(EVERY[0])) for _ in range(2))
    assert one is not None
    assert two is not None
    assert one[1] != two[1]
