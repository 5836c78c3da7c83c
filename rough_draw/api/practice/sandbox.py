"""A sandbox: one's own system and rig as a practice job in which nothing is hidden."""

from __future__ import annotations

from fastapi.exceptions import RequestValidationError
from pydantic import ValidationError

from rough_draw.api.practice.schemas import SandboxIn
from rough_draw.core.practice.rig_choice import rig_of
from rough_draw.core.practice.scenario import Scenario
from rough_draw.scenarios.sheets import VAN

KEY = "sandbox"


def sandbox(body: SandboxIn) -> Scenario:
    """The scenario of it. Raises RigFault for a rig that cannot be, RequestValidationError for what cannot be wrong."""
    sheet = body.sheet if body.rig is None else rig_of(body.sheet, body.rig, VAN)
    try:
        return Scenario(key=KEY, title=sheet.title or "Sandbox", sheet=sheet, hidden=body.hidden, sandbox=True)
    except ValidationError as e:
        raise RequestValidationError(e.errors()) from None
