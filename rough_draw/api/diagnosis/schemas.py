"""Shapes of the diagnosis of a draw."""

from __future__ import annotations

from pydantic import BaseModel, Field

from rough_draw.api.said import Said


class SuspectOut(BaseModel):
    """A cause with what to do about it and its odds."""

    key: str
    words: Said
    cure: Said
    odds: float
    likely: Said
    place: Said = Field(description="where a test has found it")
    goal: str = Field(description="the order of steps that cures it, where one does")
    on: str = Field(description="the part that the order is about")


class BothOut(BaseModel):
    """Two causes that are likely at work together."""

    first: Said
    second: Said
    odds: float


class AnswerChoiceOut(BaseModel):
    """One way a test can turn out."""

    key: str
    words: Said


class TestOut(BaseModel):
    """A test that tells the suspects apart: what to do, minutes, and its outcomes."""

    key: str
    do: Said
    minutes: float
    outcomes: list[AnswerChoiceOut]


class AnsweredOut(BaseModel):
    """A test that was made, with what was found."""

    test: str
    do: Said
    found: Said


class WhyOut(BaseModel):
    """Why a draw goes as it does: ``as_of`` epoch s of the last reading it rests on."""

    as_of: float
    sign: Said | None
    suspects: list[SuspectOut]
    tests: list[TestOut]
    answered: list[AnsweredOut]
    settled: bool
    both: BothOut | None
    to_do: list[SuspectOut] = Field(description="what to act on, in its order")
    volume: Said | None = Field(description="the volume that the pump sees, where it is not the sheet's")
    volume_how: Said | None


class AnswerIn(BaseModel):
    """What a test turned out as."""

    test: str = Field(min_length=1, max_length=60)
    outcome: str = Field(min_length=1, max_length=60)
