"""What follows from a sheet alone is worked out once for each, and never given for another."""

from __future__ import annotations

import gc

from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.once import once_a_sheet


def test_once_for_each_sheet_by_being_the_same_and_not_alike() -> None:
    asked: list[str] = []

    @once_a_sheet(3)
    def title(job: Job) -> str:
        """A title."""
        asked.append(job.title)
        return job.title

    one, alike = Job(title="a"), Job(title="a")
    assert [title(one), title(one), title(alike)] == ["a", "a", "a"]
    assert asked == ["a", "a"]
    assert title.__doc__ == "A title."


def test_a_sheet_that_has_gone_never_answers_for_one_that_came_to_stand_in_its_place() -> None:
    @once_a_sheet(2)
    def title(job: Job) -> str:
        return job.title

    for n in range(300):
        assert title(Job(title=str(n))) == str(n)
        gc.collect(0)
