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


class AnswerIn(BaseModel):
    """What a test turned out as."""

    test: str = Field(min_length=1, max_length=60)
    outcome: str = Field(min_length=1, max_length=60)
