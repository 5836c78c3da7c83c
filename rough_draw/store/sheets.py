"""A stored sheet read, whichever version wrote it; of one that cannot be read, why, and whose it is."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import lru_cache

from pydantic import ValidationError

from rough_draw.core.message import Name, message
from rough_draw.core.sheet.base import place_of
from rough_draw.core.sheet.job import Job

NAMES = ("customer", "unit")
LONGEST = 60


@dataclass(frozen=True)
class Read:
    """A sheet; or, where ``fault`` says why it cannot be read, a blank one with its names."""

    job: Job
    fault: Name = ""


@lru_cache(maxsize=1024)
def read_sheet(document: str) -> Read:
    """What a document says. Sheets do not change, so whoever polls is given the same one again."""
    try:
        return Read(Job.model_validate_json(document))
    except ValidationError as e:
        fault = message("job-unreadable", place=place_of(e.errors()[0])[:LONGEST] or "sheet")
        return Read(_named(document), fault)


def _named(document: str) -> Job:
    try:
        party = json.loads(document)["party"]
        return Job.model_validate({"party": {k: str(party[k])[:LONGEST] for k in NAMES if k in party}})
    except (ValueError, TypeError, LookupError, RecursionError):
        return Job()
