"""For scripts: the order of steps to a goal, the charge to weigh in, and what a master would find on a rig."""

from __future__ import annotations

import argparse
from typing import Any

from rough_draw.cli.base import Refused, job_file, show
from rough_draw.core.interlock.goal_key import GOAL_KEYS
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import mass
from rough_draw.text import say, say_all

ALIASES: dict[str, str] = {
    "isolate": "hold",
    "charge-unit": "release-unit",
    "charge-cylinder": "release-cylinder",
    "unit-charge": "release-unit",
    "cylinder": "release-cylinder",
    "break": "nitrogen-break",
    "end": "end-cylinder",
    "leave-under-vacuum": "end-cylinder",
}
"""Other names of goals, as a script may say them."""
GOALS: tuple[str, ...] = ("release", *GOAL_KEYS, *ALIASES)


def cmd_order(a: argparse.Namespace) -> None:
    """Derive the order of steps to a goal for a job's rig, with what is missing for it."""
    from rough_draw.core.interlock.orders import full_order
    from rough_draw.core.interlock.release import release_goal

    job = job_file(a.job).job
    goal = release_goal(job) if a.goal == "release" else ALIASES.get(a.goal, a.goal)
    if a.part and job.rig.get(a.part) is None:
        raise Refused(f"there is no part '{a.part}' on this rig; there are {', '.join(p.id for p in job.rig.parts)}")
    found = full_order(job, goal, a.part or "")  # type: ignore[arg-type]
    steps: list[dict[str, Any]] = []
    for s in found.steps:
        kind, _, on = (s.touch.text if s.touch is not None else s.kind).partition(":")
        cautions = [{"severity": c.severity, "code": c.kind, "on": c.part} for c in s.care]
        steps.append(
            {"kind": kind, "on": on, "text": say(s.title), "why": say(s.why) if s.why else "", "cautions": cautions}
        )
    missing = [{"code": m.code, "text": say(m.words), "why": say(m.why)} for m in found.missing]

    def words() -> str:
        lines = [f"! {m['text']}. {m['why']}" for m in missing]
        for n, s in enumerate(steps, 1):
            lines.append(f"{n:3d}. {s['text']}  ({s['why']})" if s["why"] else f"{n:3d}. {s['text']}")
            lines += [f"       caution: {c['code']}" for c in s["cautions"]]
        return "\n".join(lines)

    show({"goal": goal, "missing": missing, "steps": steps}, a.json, words)


def cmd_charge(a: argparse.Namespace) -> None:
    """Work out what is to be weighed in, item by item, and the way it goes in."""
    from rough_draw.core.charging.charge import charge_to_weigh, keeps_charge, why_no_charge

    job = job_file(a.job).job
    charge = charge_to_weigh(job.scope)
    way = "unit-charge" if keeps_charge(job.scope) and job.release.way == "unit-charge" else "cylinder"
    if charge is None:
        missing = ["nameplate"] if job.scope.nameplate_kg is None else ["adder"]
        lacking = {"to_weigh_kg": None, "parts": [], "way": way, "missing": missing}
        show(lacking, a.json, lambda: say(why_no_charge(job.scope)))
        return
    parts = [{"what": p.what, "kg": round(p.kg, 4)} for p in charge.parts]
    told: list[Message] = [message("cli-charge", mass=mass(charge.to_weigh), sum=charge.words)]
    out = {"to_weigh_kg": round(charge.to_weigh, 4), "parts": parts, "way": way, "missing": []}
    show(out, a.json, lambda: "\n".join(say_all(told)))


def cmd_check(a: argparse.Namespace) -> None:
    """Look a rig over as a master would: every finding with its code, how grave it is, and where."""
    from rough_draw.core.advice.job_check import looked_over

    found = [
        {"code": f.code, "severity": f.severity, "on": f.on, "text": say(f.words)}
        for f in looked_over(job_file(a.job).job)
    ]

    def words() -> str:
        return "\n".join(f"{f['severity']}: {f['text']}" for f in found) or say(message("cli-check-clean"))

    show({"findings": found}, a.json, words)
