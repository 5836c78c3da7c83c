"""Any system and any rig, built through the API as a user would: whatever is done to them, no page falls."""

from __future__ import annotations

import json
from collections import Counter
from pathlib import Path
from typing import Any, ClassVar, get_args

from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule

from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.itinerary import route
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits
from rough_draw.core.sheet.templates import TEMPLATES
from tests.depth import times
from tests.one_app import app_on
from tests.routes import check_route
from tests.worlds import CHANGES, PIECES, PLACES, RUN

GOALS: tuple[GoalKey, ...] = get_args(GoalKey)
EXAMPLES = times(2, 60)
"""Rigs that are built; `make soak` builds more."""
OF_JOB = (
    "",
    "/plan?first=true",
    "/system",
    "/checks",
    "/stages",
    "/live",
    "/prove",
    "/carry",
    "/charging",
    "/running",
    "/touches",
    "/patterns",
    "/rig.svg",
    "/rig.json",
    "/job.json",
    "/breaks",
    "/bench",
    "/seal",
)
SHARED = ("/api/jobs", "/api/day", "/api/alarms", "/api/pumps", "/api/ahead", "/api/history", "/api/kit")


class AnyRig(RuleBasedStateMachine):
    """One job, edited and logged at random; everything that shows it is asked after every step."""

    api: TestClient
    seen: ClassVar[Counter[str]] = Counter()

    @initialize(template=st.sampled_from(sorted(TEMPLATES)), data=st.data())
    def begin(self, template: str, data: st.DataObject) -> None:
        body = Job().model_dump_json()
        made = self.api.post("/api/jobs", content=body, headers={"content-type": "application/json"})
        self.key = str(made.json()["key"])
        self._post("template", key=template)
        scope = Scope.model_validate(self._job()["job"]["scope"])
        fitting = [k for k in sorted(PATTERNS) if fits(k, scope)]
        self._post("rig", op="pattern", part=data.draw(st.sampled_from(fitting)))

    def _job(self) -> dict[str, Any]:
        answer = self.api.get(f"/api/jobs/{self.key}")
        assert answer.status_code == 200, answer.text
        return dict(answer.json())

    def _post(self, what: str, **body: Any) -> int:
        version = self._job()["version"]
        answer = self.api.post(f"/api/jobs/{self.key}/{what}", json={"version": version, **body})
        assert answer.status_code < 500, (what, body, answer.text)
        self.seen[f"{what} {answer.status_code}"] += 1
        return answer.status_code

    @rule(data=st.data(), op=st.sampled_from(["remove", "swap", "insert", "at-port", "add", "move", "core", "way"]))
    def edit_rig(self, data: st.DataObject, op: str) -> None:
        job = self._job()["job"]
        part = data.draw(st.sampled_from(job["rig"]["parts"]))
        port = data.draw(st.sampled_from([p["id"] for p in job["scope"]["ports"]] or ["none"]))
        piece = PIECES[data.draw(st.sampled_from(sorted(PIECES)))]
        at = data.draw(st.sampled_from(PLACES))
        match op:
            case "swap":
                self._post("rig", op=op, part=part["id"], fields=CHANGES.get(part["kind"], {}))
            case "insert" | "at-port":
                self._post("rig", op=op, part=part["id"], fields=piece)
            case "add":
                on = data.draw(st.booleans())
                where = {"on": part["id"], "at": at} if on else {"port": port}
                self._post("rig", op=op, fields=piece, **where)
            case "move":
                other = data.draw(st.sampled_from(job["rig"]["parts"]))
                self._post("rig", op=op, part=part["id"], on=other["id"], at=at, port=part["port"])
            case "core":
                self._post("rig", op=op, port=port, fields={"in": data.draw(st.booleans())})
            case _:
                self._post("rig", op=op, part=part["id"], port=port)

    @rule(data=st.data(), what=st.sampled_from(["links", "ports", "sections", "open", "kept", "core", "refrigerant"]))
    def edit_system(self, data: st.DataObject, what: str) -> None:
        stored = self._job()
        scope = stored["job"]["scope"]
        n = data.draw(st.integers(0, 30))
        match what:
            case "links" | "ports" | "sections":
                if scope[what]:
                    scope[what].pop(n % len(scope[what]))
            case "open":
                if scope["links"]:
                    link = scope["links"][n % len(scope["links"])]
                    link["open"] = not link["open"]
            case "kept":
                section = scope["sections"][n % len(scope["sections"])]
                section["holds_charge"] = not section["holds_charge"]
            case "core":
                if scope["ports"]:
                    port = scope["ports"][n % len(scope["ports"])]
                    port["core"] = not port["core"]
            case _:
                scope["refrigerant"] = data.draw(st.sampled_from(["R-290", "R-32", "R-448A", "R-134a"]))
        stored["job"]["release"]["way"] = data.draw(st.sampled_from(["unit-charge", "cylinder"]))
        body = {"version": stored["version"], "job": stored["job"]}
        answer = self.api.put(f"/api/jobs/{self.key}", json=body)
        assert answer.status_code in (200, 422), answer.text
        self.seen[f"system {answer.status_code}"] += 1

    @rule(data=st.data())
    def log_a_step(self, data: st.DataObject) -> None:
        """A step that the rig line, the lists or a typing hand could log, foreseen before it is made."""
        goal = data.draw(st.sampled_from(GOALS))
        steps = self.api.get(f"/api/jobs/{self.key}/orders/{goal}").json()
        kinds = [s["kind"] for s in steps if isinstance(s, dict) and s["kind"]] if isinstance(steps, list) else []
        kind = data.draw(st.sampled_from([*kinds, *RUN]))
        foreseen = self.api.get(f"/api/jobs/{self.key}/foresee", params={"kind": kind})
        assert foreseen.status_code in (200, 409, 422), foreseen.text
        logged = self.api.post(f"/api/jobs/{self.key}/touches", json={"kind": kind})
        assert logged.status_code in (201, 422), logged.text
        self.seen[f"touch {logged.status_code}"] += 1

    @precondition(lambda self: hasattr(self, "key"))
    @rule(data=st.data())
    def take_a_step_back(self, data: st.DataObject) -> None:
        logged = [t["kind"] for t in self.api.get(f"/api/jobs/{self.key}/touches").json()]
        if logged:
            kind = data.draw(st.sampled_from(logged))
            back = self.api.post(f"/api/jobs/{self.key}/touches", json={"kind": f"undo:{kind}"})
            assert back.status_code in (201, 422), back.text

    @invariant()
    def every_page_answers(self) -> None:
        if not hasattr(self, "key"):
            return
        for path in OF_JOB:
            answer = self.api.get(f"/api/jobs/{self.key}{path}")
            assert answer.status_code in (200, 404, 409), (path, answer.status_code, answer.text[:300])
            self.seen[f"read {answer.status_code}"] += 1
            if answer.status_code == 409:
                assert answer.json()["detail"], path
        for path in SHARED:
            answer = self.api.get(path)
            assert answer.status_code == 200, (path, answer.text[:300])

    @invariant()
    def every_order_can_be_followed(self) -> None:
        if not hasattr(self, "key"):
            return
        job = Job.model_validate(self._job()["job"])
        for goal in GOALS:
            try:
                found = route(job, goal)
            except ScopeError:
                continue
            check_route(found)
            self.seen["routes"] += 1

    def teardown(self) -> None:
        if hasattr(self, "key"):
            self.api.delete(f"/api/jobs/{self.key}")


def test_whatever_is_built_no_page_falls(tmp_path: Path) -> None:
    app = app_on(tmp_path / "any.sqlite3")
    with TestClient(app) as client:
        AnyRig.api = client
        AnyRig.seen = Counter()
        AnyRig.TestCase.settings = settings(
            max_examples=EXAMPLES,
            stateful_step_count=12,
            deadline=None,
            suppress_health_check=list(HealthCheck),
        )
        AnyRig.TestCase().runTest()
    assert AnyRig.seen["rig 200"] >= EXAMPLES, json.dumps(AnyRig.seen)
    assert AnyRig.seen["routes"] > 100
