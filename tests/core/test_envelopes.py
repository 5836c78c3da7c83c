"""What jobs show, beside the computed bands; and bands against truths drawn by other means."""

from __future__ import annotations

import pytest

from bench import bands, envelopes

CASES = {
    "cores-left-in": envelopes.cores_left_in,
    "cores-out": envelopes.cores_out,
    "rig-alone": envelopes.rig_alone,
    "empty-cylinder": envelopes.empty_cylinder,
    "bad-hose": envelopes.bad_hose,
}


@pytest.mark.parametrize("case", CASES)
def test_what_jobs_show_lies_in_the_computed_band(case: str) -> None:
    for e in CASES[case]():
        assert e.holds, f"{e.what}: met {e.low} to {e.high} {e.unit}, computed {e.band}"
        assert e.band[0] < e.band[1] < e.band[2], "a band without width says more than anybody knows"


def test_every_case_is_in_the_table() -> None:
    assert {e.case for e in envelopes.rows()} == set("abcde")


def test_the_band_holds_what_happens_and_no_more() -> None:
    """Fewer than the bench counts, so that chance has room on both sides."""
    found = bands.count(80, seed=5, each=4)
    assert found.truths >= 80
    assert 0.72 <= found.share <= 0.98
    assert found.dry >= 20
    assert found.close >= 0.65
