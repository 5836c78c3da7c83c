"""The volume that the pump sees: the sheet's own, less where something is shut, more where something is open."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from rough_draw.core.diagnosis.volume_seen import VolumeSeen, volume_seen
from rough_draw.core.engine.network import Network
from rough_draw.core.model.assemble import assemble
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.core.sheet.scope import Link, Scope, Section
from rough_draw.standins.world import Truth, World
from tests import builders

START = [Touch("pump-on", 0.0)]


class Scaled(World):
    """A world whose system is larger or smaller than its sheet."""

    def __init__(self, job: Job, scale: float, seed: int) -> None:
        self.scale = scale
        super().__init__(job, Truth(seed=seed))

    def _network(self) -> Network:
        net = super()._network()
        nodes = tuple(replace(n, volume=n.volume * self.scale) if n.group == "system" else n for n in net.nodes)
        return replace(net, nodes=nodes)


def drawn(world: World, minutes: float = 15.0) -> tuple[np.ndarray, np.ndarray]:
    world.touch("pump-on")
    at = np.arange(2.0, 60.0 * minutes, 2.0)
    shown = []
    for t in at:
        world.advance(float(t))
        p = world.read()
        shown.append(np.nan if p is None else p)
    return at, np.array(shown)


def sheet() -> Job:
    return Job(scope=Scope(condition="new-dry"), rig=builders.one_hose())


@pytest.mark.parametrize(("scale", "says"), [(1.0, "as-said"), (0.35, "small"), (3.0, "large")])
def test_a_third_or_three_times_of_the_sheet_is_seen(scale: float, says: str) -> None:
    job = sheet()
    found = volume_seen(job, START, 0.0, *drawn(Scaled(job, scale, 5)))
    assert found is not None
    assert found.says == says
    assert found.sheet == pytest.approx(assemble(job).network.volume("system"))
    # Nine in ten lie within, and a gauge that follows late makes a small volume look a little larger.
    assert found.seen.low / 1.3 < scale * found.sheet < 1.3 * found.seen.high
    assert (found.words is None) == (says == "as-said")


def test_a_quick_look_says_nothing_where_nothing_is_to_be_said() -> None:
    job = sheet()
    assert volume_seen(job, START, 0.0, *drawn(World(job, Truth(seed=2))), quick=True) is None
    small = volume_seen(job, START, 0.0, *drawn(Scaled(job, 0.3, 2)), quick=True)
    assert small is not None
    assert small.says == "small"


def test_too_little_is_no_answer() -> None:
    job = sheet()
    at, pa = drawn(World(job, Truth(seed=2)))
    assert volume_seen(job, START, 0.0, at[:3], pa[:3]) is None
    assert volume_seen(job, START, 0.0, at, np.full(at.size, np.nan)) is None
    # A gauge that stands still from the first reading on has no draw to be read.
    assert volume_seen(job, START, 0.0, at, np.full(at.size, 5_000.0)) is None


def test_the_section_behind_a_shut_valve_is_named() -> None:
    """A large receiver behind a solenoid that stayed shut: the pump sees the line before it alone."""
    sections = (
        Section(id="line", kind="line", volume_l=3.0),
        Section(id="store", kind="vessel", volume_l=12.0),
    )
    links = (Link(id="solenoid", kind="solenoid", a="line", b="store", open=True),)
    ports = ({"id": "suction", "section": "line", "core": True},)
    scope = Scope.model_validate(
        {
            "condition": "new-dry",
            "template": "own",
            "sections": [s.model_dump() for s in sections],
            "links": [x.model_dump() for x in links],
            "ports": list(ports),
        }
    )
    job = Job(scope=scope, rig=builders.one_hose())
    seen: list[VolumeSeen | None] = []
    for seed in (3, 8):
        world = World(job, Truth(seed=seed, fault="section-shut:solenoid"))
        seen.append(volume_seen(job, START, 0.0, *drawn(world)))
    for v in seen:
        assert v is not None
        assert v.says == "small"
        assert [f.key for f in v.fitting] == ["solenoid"]
        assert v.seen.low < 3e-3 * 1.3
        assert v.seen.high > 3e-3 * 0.7
