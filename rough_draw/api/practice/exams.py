"""Examinations: begun, their jobs one after the other, and what came of them."""

from __future__ import annotations

from rough_draw.api.errors import refusal
from rough_draw.api.practice import sessions
from rough_draw.api.practice.schemas import ExamJob, ExamOut
from rough_draw.core.message import message
from rough_draw.core.practice.exam import JOBS, Taken, state
from rough_draw.core.practice.scenario import Scenario
from rough_draw.scenarios.generator import make
from rough_draw.store import exams, people, shelf
from rough_draw.store import practice as store
from rough_draw.store.jobs import NotFound
from rough_draw.store.moments import moment
from rough_draw.text import say


def _taken(runs: list[store.Past]) -> list[Taken]:
    return [Taken(p.marks.get("total"), int(p.marks.get("stops") or 0)) for p in runs]


def _judged(exam: exams.Exam) -> list[store.Past]:
    """Its sessions; one that was ended and whose debrief nobody has looked at is judged now."""
    for p in store.of_exam(exam.key):
        if p.ended_at is not None and not p.marks:
            sessions.debrief(p.key)
    return store.of_exam(exam.key)


def exam_out(exam: exams.Exam) -> ExamOut:
    """An examination as it stands; nothing of the jobs that are still to come."""
    runs = _judged(exam)
    taken = _taken(runs)
    return ExamOut(
        key=exam.key,
        name=exam.name,
        level=exam.level,
        began_at=exam.began_at,
        state=state(taken),
        of=JOBS,
        jobs=[
            ExamJob(run=p.key, title=p.title, ended=p.ended_at is not None, points=p.marks.get("total"), stops=t.stops)
            for p, t in zip(runs, taken, strict=True)
        ],
    )


def begin(person: int | None, level: int) -> ExamOut:
    """A new one; one at a time."""
    if any(state(_taken(_judged(e))) == "open" for e in exams.listing(person)):
        raise refusal(409, "exam-still-open")
    try:
        name = people.get(person).name if person is not None else ""
    except NotFound:
        name = ""
    return exam_out(exams.begin(person, name, level))


def _job(exam: exams.Exam, number: int) -> Scenario:
    """Its job of a number, told without that which it is made from: whoever knew it could look at it beforehand."""
    found = make(exam.seeds[number], exam.level)
    title = say(message("exam-job", unit=found.sheet.party.unit, number=str(number + 1), count=str(JOBS)))
    return found.model_copy(update={"key": f"exam-{exam.key}-{number + 1}", "title": title})


def next_job(key: str) -> sessions.Session:
    """Begin the next of its jobs. Raises NotFound; 409 while one is open, or where it is over."""
    exam = exams.get(key)
    runs = _judged(exam)
    if any(p.ended_at is None for p in runs):
        raise refusal(409, "exam-one-open")
    if len(runs) >= JOBS or state(_taken(runs)) != "open":
        raise refusal(409, "exam-all-taken")
    return sessions.begin(_job(exam, len(runs)), exam.person, exam.key)


def certificate(key: str) -> str:
    """The text of its certificate, written when it is first asked for. Raises NotFound; 409 where it is not passed."""
    exam = exams.get(key)
    runs = _judged(exam)
    if state(_taken(runs)) != "passed":
        raise refusal(409, "exam-not-passed")
    jobs = [
        {
            "title": p.title,
            "points": round(p.marks.get("total") or 0.0, 1),
            "ended": moment(p.ended_at or 0.0).astimezone().isoformat(timespec="minutes"),
        }
        for p in runs
    ]
    mean = sum(p.marks.get("total") or 0.0 for p in runs) / len(runs)
    return exams.certify(exam, jobs, mean, shelf.settings().firm)
