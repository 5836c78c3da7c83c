"""The chain of a sealed record by itself: what it is made of, and what it finds."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.message import message
from rough_draw.core.records.hash_chain import (
    BLOCK,
    Read,
    append,
    canonical,
    check,
    digest,
    reading_blocks,
    unbroken,
)
from tests.store.sealed_example import AT, HELD, PA, PHOTOS, READINGS, SHEET, TOUCHES, closed
from tests.told import keys


def test_digest_is_the_published_sha_256() -> None:
    # FIPS 180-2, appendix B.1, of the three bytes abc; here of their canonical JSON, quotes and all.
    assert canonical({"b": 1, "a": "µ"}) == '{"a":"µ","b":1}'.encode()
    assert digest("abc") == "6cc43f858fbb763301637b5af970e2a46b46f461f27e5a0f41e009c59b827b25"
    with pytest.raises(ValueError, match="JCS"):
        canonical(float("nan"))


def test_a_chain_that_was_not_touched_is_whole() -> None:
    chain = closed()
    assert [e.kind for e in chain[:3]] == ["sheet", "touch", "touch"]
    assert sum(e.kind == "readings" for e in chain) == -(-len(AT) // BLOCK)
    assert chain[-1].kind == "closed"
    assert check(chain, HELD) == []


def test_a_changed_reading_is_found_to_its_block() -> None:
    pa = list(PA)
    pa[130] = 71.0
    found = check(closed(), replace(HELD, readings=[Read("Gauge 2", AT, pa)]))
    assert len(found) == 1
    assert found[0].words == message("chain-figure-changed", gauge="Gauge 2", count=60, start="120")


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"sheet": {**SHEET, "kg": 9.9}}, "chain-other-sheet"),
        ({"touches": [{**TOUCHES[0], "note": "later"}, TOUCHES[1]]}, "chain-other-step"),
        ({"touches": [{**TOUCHES[0], "hand": "Ossi Brandt"}, TOUCHES[1]]}, "chain-other-step"),
        ({"readings": [Read("Gauge 2", AT[:-1], PA[:-1])]}, "chain-readings-changed"),
        ({"readings": [Read("Gauge 2", AT, PA, simulated=True)]}, "chain-figure-changed"),
        ({"readings": [*READINGS, Read("Gauge 3", [1.0], [2.0])]}, "chain-other-photo"),
        ({"photos": [{**PHOTOS[0], "sha256": "1" * 64}]}, "chain-other-photo"),
        ({"photos": [{**PHOTOS[0], "caption": "dark"}]}, "chain-other-photo"),
        ({"photos": []}, "chain-less"),
        ({"touches": TOUCHES[:1]}, "chain-other-step"),
    ],
)
def test_any_change_is_found(change: dict[str, Any], says: str) -> None:
    found = check(closed(), replace(HELD, **change))
    assert says in keys(b.words for b in found)


@given(st.integers(0, 6), st.sampled_from(["body", "at", "kind", "drop", "swap"]))
def test_a_chain_that_was_touched_is_broken(place: int, how: str) -> None:
    chain = closed()
    e = chain[place]
    if how == "drop":
        del chain[place]
    elif how == "swap":
        chain[place], chain[place - 1] = chain[place - 1], chain[place]
    else:
        values: dict[str, Any] = {"body": {**e.body, "x": 1}, "at": e.at + 1, "kind": "note"}
        chain[place] = type(e)(**{**e.__dict__, how: values[how]})
    assert unbroken(chain) is not None


def test_an_entry_added_later_follows_on_and_changes_nothing_before() -> None:
    chain = closed()
    chain.append(append(chain, "amendment", 2000.0, {"what": "unit", "before": "1", "after": "2"}))
    assert check(chain, HELD) == []


@given(st.lists(st.floats(0, 1e5), max_size=200))
def test_blocks_count_every_reading(values: list[float]) -> None:
    at = [float(k) for k in range(len(values))]
    blocks = reading_blocks(Read("g", at, list(values)))
    assert sum(b["count"] for b in blocks) == len(values)
