"""A practice scenario as a file to be shared: what the learner is told in the clear, the answer under a lid.

The lid keeps an answer from whoever looks into the file, and tells when somebody has changed it. Every copy of the
application opens it: it is a lid and no lock.
"""

from __future__ import annotations

import base64
import hashlib
import json
from typing import Any

import rfc8785
from cryptography.fernet import Fernet, InvalidToken
from pydantic import ValidationError

from rough_draw.core.message import message
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.records.hash_chain import digest
from rough_draw.store.job_files import FileFault, where

FORMAT = "rough-draw/scenario"
SEALED_VERSION = 2
ANSWER = ("hidden", "before", "lesson", "hints")
"""What the learner is to find out, or is told afterwards."""
MOST_BYTES = 512 * 1024
_LID = Fernet(base64.urlsafe_b64encode(hashlib.sha256(b"rough-draw/scenario/2").digest()))


def dump(scenario: Scenario) -> str:
    """A scenario as the text of its file, its answer under the lid."""
    values = scenario.model_dump(mode="json")
    told = {k: v for k, v in values.items() if k not in ANSWER} | {"version": SEALED_VERSION}
    # Once through JSON: what is read back is what was hashed.
    told = json.loads(json.dumps(told))
    answer = {k: values[k] for k in ANSWER} | {"of": digest(told)}
    sealed = _LID.encrypt(json.dumps(answer).encode()).decode("ascii")
    return json.dumps({**told, "answer": sealed}, indent=1, ensure_ascii=False)


def load(data: bytes) -> Scenario:
    """A scenario from a file, under the lid or, as earlier versions wrote them, open. Raises FileFault."""
    if len(data) > MOST_BYTES:
        raise FileFault(message("file-large-scenario", most=MOST_BYTES // 1024))
    try:
        values = json.loads(data)
    except (UnicodeDecodeError, RecursionError, ValueError):
        raise FileFault(message("file-not-utf8")) from None
    if not isinstance(values, dict) or values.get("format") != FORMAT:
        raise FileFault(message("file-no-scenario"))
    try:
        return Scenario.model_validate(_opened(values))
    except ValidationError as e:
        raise FileFault(where(e)) from None


def _opened(values: dict[str, Any]) -> dict[str, Any]:
    if values.get("version") != SEALED_VERSION:
        return values
    told = {k: v for k, v in values.items() if k != "answer"}
    try:
        answer = json.loads(_LID.decrypt(str(values.get("answer", "")).encode("utf-8")))
        whole = answer.pop("of") == digest(told)
    except (InvalidToken, ValueError, RecursionError, rfc8785.CanonicalizationError):
        whole = False
    if not whole:
        raise FileFault(message("file-scenario-changed"))
    return {**told, **answer, "version": 1}
