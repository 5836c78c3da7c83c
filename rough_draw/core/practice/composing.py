"""Whether a scenario that somebody composes can be played: what cannot be, or hides all the rest, is told."""

from __future__ import annotations

from collections.abc import Iterator

from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.message import Message, message
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.system import ScopeError
from rough_draw.core.practice.action_kinds import read_action
from rough_draw.core.practice.scenario import Scenario, possible
from rough_draw.core.sheet.steps import OnPart, OnRun

SAME_WATER = {"water", "ice"}


def check(s: Scenario) -> None:
    """Raises ScopeError with what is impossible in it, and where. Scenarios that are kept are not asked again."""
    for place, told in _impossible(s):
        raise ScopeError(told, place)


def _impossible(s: Scenario) -> Iterator[tuple[str, Message]]:
    keys = [f.key for f in s.hidden.faults]
    kinds = [kind_of(k) for k in keys]
    words = {c.key: c for c in possible(s.sheet)}
    for key in keys:
        if keys.count(key) > 1:
            yield "hidden.faults", message("compose-twice", cause=words[key].words)
    if set(kinds) >= SAME_WATER:
        yield "hidden.faults", message("compose-same-water")
    if "open" in kinds and len(kinds) + len(s.hidden.shut) > 1:
        yield "hidden.faults", message("compose-open-hides")
    for f in s.hidden.faults:
        if f.at_s > 0.0 and not words[f.key].later:
            yield "hidden.faults", message("compose-not-later", cause=words[f.key].words)
    if s.hidden.found and s.before:
        yield "hidden.found", message("compose-found-running")
    yield from _before(s)
    try:
        whole = assemble(s.true_job(), needs_pump=False)
    except (ScopeError, NetworkError) as e:
        yield "hidden.shut", message("wrong-rig-apart", fault=e.told)
        return
    if s.hidden.shut and s.rigged:
        reached = whole.network.connected(whole.gauge_node)
        if not any(name.startswith("system.") for name in reached):
            yield "hidden.shut", message("compose-nothing-left")


def _before(s: Scenario) -> Iterator[tuple[str, Message]]:
    running = False
    for b in s.before:
        action = read_action(b.kind)
        if not isinstance(action, OnRun | OnPart):
            yield "before", message("compose-no-step", step=b.kind)
        elif not s.rigged:
            yield "before", message("compose-no-rig")
        elif b.at_s > s.arrive_s:
            yield "before", message("compose-after-arrival")
        elif action == OnRun("pump-off") and not running:
            yield "before", message("compose-not-running")
        running = running or action == OnRun("pump-on")
