"""The rig proof: its stages, what a good one does, a rise made a leak rate, and what it means afterwards."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.core.engine.network import Network
from rough_draw.core.engine.walk import reached
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.proof_network import GAUGE_NODE, expected, network_of, proof_stages
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.model.rise_rate import inflow, measured
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.proving import bench_session
from rough_draw.core.proving.assessment import known_in_the_hold, prove
from rough_draw.core.proving.stage_verdict import judge_stage
from rough_draw.core.sheet.evidence import Prove, StageReading
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.core.sheet.steps import BenchStage, read_bench_step
from rough_draw.standins.proof_bench import BenchWorld
from rough_draw.standins.world import Truth
from tests.builders import jobs, scope
from tests.depth import drawn
from tests.told import figures, keys

M = MICRON_PA
HERE = scope("cooler", opened=True)


def sheet(pattern: str = "three-tools", **stages: StageReading) -> Job:
    named = {k.replace("_", "-"): v for k, v in stages.items()}
    on = HERE if fits(pattern, HERE) else scope("chiller", opened=True)
    return Job(scope=on, rig=rig_from(pattern, on), prove=Prove(stages=named))


@pytest.mark.parametrize("pattern", list(PATTERNS))
def test_every_pattern_is_opened_one_hose_at_a_time(pattern: str) -> None:
    job = sheet(pattern)
    stages = proof_stages(job)
    assert stages[0].key == "pump"
    hoses = {p.id for p in job.rig.parts if p.kind == "hose" and job.rig.from_pump(p)}
    assert hoses <= {s.key for s in stages}
    for before, after in pairwise(stages):
        assert set(before.parts) < set(after.parts)
        assert after.volume > before.volume
        assert after.passing.value >= before.passing.value
        assert sum(job.rig.get(p).kind == "hose" for p in set(after.parts) - set(before.parts)) <= 1  # type: ignore[union-attr]
        assert keys(after.do)[0] in ("bring-in-hose", "bring-in-manifold", "bring-in-tool")


@pytest.mark.parametrize("pattern", list(PATTERNS))
def test_the_core_tools_come_after_the_hoses_each_with_its_gauge_and_joined_to_the_pump(pattern: str) -> None:
    job = sheet(pattern)
    stages = proof_stages(job)
    tools = [p.id for p in job.rig.parts if p.kind == "tool" and job.rig.from_pump(p)]
    assert [s.key for s in stages if s.optional] == [s.key for s in stages][len(stages) - len(tools) :]
    assert {s.key for s in stages if s.optional} == set(tools)
    for n, stage in enumerate(stages):
        net = network_of(job, n, Unknowns())
        joined = reached(GAUGE_NODE, lambda here, net=net: _beyond(net, here))
        assert joined | {"pump"} == {x.name for x in net.nodes}, stage.key
        gauges = {c.id for c in job.rig.children(stage.key) if c.kind == "gauge"}
        assert not stage.optional or gauges <= set(stage.parts)


def _beyond(net: Network, here: str) -> Iterator[str]:
    for t in net.tubes:
        if here in (t.a, t.b):
            yield t.b if t.a == here else t.a


def test_a_rig_is_proved_without_its_tools_and_a_bad_tool_fails_it() -> None:
    job = sheet()
    read = {s.key: rising(n, s.passing.value, job) for n, s in enumerate(proof_stages(job)) if n and not s.optional}
    hoses = job.model_copy(update={"prove": Prove(stages=read)})
    assert next(g for g in prove(hoses).gates if g.spec.key == "rig-proof").state == "passed"
    index = next(n for n, s in enumerate(proof_stages(job)) if s.optional)
    key = proof_stages(job)[index].key
    with_bad = {**read, key: rising(index, 5e-3, job)}
    judged = job.model_copy(update={"prove": Prove(stages=with_bad)})
    assert judge_stage(judged, index).verdict == "bad"
    assert next(g for g in prove(judged).gates if g.spec.key == "rig-proof").state == "failed"


def test_a_good_stage_jumps_and_falls_back() -> None:
    e = expected(sheet(), 1)
    assert e.at(1.0).value > 5 * e.settled.value
    assert e.at(60.0).value == pytest.approx(e.settled.value, rel=0.05)
    assert e.settled.low <= e.settled.value <= e.settled.high


def test_the_volume_of_a_hose_is_its_bore_times_its_length() -> None:
    """12.2 mm true bore, 1.8 m: 210 ml."""
    stages = proof_stages(sheet("far-gauge"))
    assert (stages[1].volume - stages[0].volume) * 1e6 == pytest.approx(np.pi / 4 * 1.22**2 * 180 + 4, rel=0.02)


def test_a_rise_times_the_volume_is_the_inflow() -> None:
    """1 µ/s in 1 l is 0.1333 Pa·l/s."""
    stage = proof_stages(sheet())[1]
    seen = StageReading(from_micron=100, to_micron=160, rise_s=60, added_l=1.0 - stage.closed * 1e3)
    found = inflow(stage, seen, 1.0)
    assert found is not None
    assert found.value == pytest.approx(1.3332e-4, rel=1e-3)
    assert found.low < found.value < found.high
    assert inflow(stage, StageReading(settled_micron=30), 1.0) is None


def rising(stage: int, q: float, job: Job) -> StageReading:
    """A stage as it reads when ``q`` Pa·m³/s comes in."""
    s = proof_stages(job)[stage]
    rate = q / s.closed / M
    return StageReading(settled_micron=30, after_s=120, from_micron=40, to_micron=40 + 60 * rate, rise_s=60)


def test_a_bad_hose_is_found_and_the_good_one_after_it_is_not_blamed() -> None:
    job = sheet()
    usual = proof_stages(job)[1].own.value
    bad = sheet(hose_a=rising(1, 2e-3, job), hose_b=rising(2, 2e-3 + usual, job))
    first, second = judge_stage(bad, 1), judge_stage(bad, 2)
    assert first.verdict == "bad"
    assert second.verdict == "good"
    assert second.own is not None
    assert second.own.value == pytest.approx(usual, rel=0.05)
    gate = next(g for g in prove(bad).gates if g.spec.key == "rig-proof")
    assert gate.state == "failed"
    assert "stages-bad" in keys(gate.words)
    assert gate.words["stages"] == proof_stages(bad)[1].title


def test_a_fast_rise_in_a_few_millilitres_is_explained() -> None:
    job = sheet()
    fine = judge_stage(sheet(hose_a=rising(1, 1e-4, job)), 1)
    assert fine.verdict == "good"
    tiny = next(w for w in fine.words if w.key == "stage-tiny")
    assert figures(tiny)["here"] < figures(tiny)["rate"]


def test_a_reading_is_judged_running_and_after_its_jump() -> None:
    early = sheet(hose_a=StageReading(settled_micron=5000, after_s=5))
    assert judge_stage(early, 1).verdict == "open"
    stuck = sheet(hose_a=StageReading(settled_micron=900, after_s=150))
    assert judge_stage(stuck, 1).verdict == "bad"
    resting = sheet(hose_a=StageReading(settled_micron=900, after_s=150, running=False))
    assert judge_stage(resting, 1).verdict == "open"


def test_another_hose_in_its_place_does_not_take_the_reading_over() -> None:
    job = sheet()
    mark = proof_stages(job)[1].mark
    bad = sheet(hose_a=rising(1, 2e-3, job).model_copy(update={"part": mark}))
    assert judge_stage(bad, 1).verdict == "bad"
    parts = [p.model_copy(update={"length_m": 0.9}) if p.id == "hose-a" else p for p in bad.rig.parts]
    other = bad.model_copy(update={"rig": bad.rig.with_parts(parts)})
    assert judge_stage(other, 1).verdict == "open"
    assert measured(other) == {}


def test_what_was_read_of_a_hose_goes_into_the_plan() -> None:
    job = sheet()
    bad = sheet(hose_a=rising(1, 2e-3, job), hose_b=rising(2, 2.1e-3, job))
    read = measured(bad)
    assert read["hose-a"].value == pytest.approx(2e-3, rel=0.01)
    net = assemble(bad).network
    assert sum(o.steady for o in net.outgassing if o.node.startswith("hose-a")) == pytest.approx(2e-3, rel=0.01)
    assert measured(job) == {}


def test_a_leaking_hose_is_named_in_the_hold() -> None:
    def said(pattern: str) -> list[str]:
        job = sheet(pattern)
        key = next(s.key for s in proof_stages(job) if s.key.startswith("hose-a"))
        index = [s.key for s in proof_stages(job)].index(key)
        stages = {"hose-a": rising(index, 3e-3, job)}
        if index > 1:
            stages[proof_stages(job)[index - 1].key] = rising(index - 1, 1e-4, job)
        job = job.model_copy(update={"prove": Prove(stages=stages)})
        held = isolation(job, assemble(job))
        return keys(known_in_the_hold(job, held, 0.010))

    assert "known-outside" in said("three-tools")
    assert "known-inside" in said("cylinder-ready")


@settings(max_examples=drawn(15))
@given(jobs(), st.floats(1e-6, 1e-2))
def test_inflow_and_rise_are_one_round(job: Job, q: float) -> None:
    stages = proof_stages(job)
    for n in range(1, len(stages)):
        found = inflow(stages[n], rising(n, q, job), 1.0)
        assert found is not None
        assert found.value == pytest.approx(q, rel=1e-6)
        assert found.low <= q <= found.high


def played(
    job: Job, world: BenchWorld, stage: str, touches: list[tuple[float, str]], until: float
) -> bench_session.Watch:
    """A stage on the simulated bench, read once a second, and what is then said of it."""
    made = [Touch(f"bench:stage:{stage}", 0.0), *(Touch(f"bench:{k}", t) for t, k in touches)]
    at, pa = [], []
    begun = world.time
    for second in range(int(until)):
        for t, kind in touches:
            if int(t) == second:
                world.touch(kind)
        world.advance(begun + second + 1.0)
        shown = world.read()
        at.append(second + 1.0)
        pa.append(float("nan") if shown is None else shown)
    return bench_session.watch(job, bench_session.fold(made), np.array(at), np.array(pa), until)


def test_the_bench_leads_through_a_stage_of_a_bad_hose() -> None:
    job = sheet()
    world = BenchWorld(job, Truth(seed=1))
    world.bad = {"hose-a": 2.5e-3}
    alone = played(job, world, "pump", [(0, "pump-on")], 70)
    assert alone.next == "keep"
    assert alone.reading is not None
    assert alone.reading.settled_micron == pytest.approx(29, abs=3)
    world.touch("stage:hose-a")
    early = played(job, world, "hose-a", [(0, "pump-on")], 8)
    assert early.words.key == "bench-falling"
    said = played(job, world, "hose-a", [(0, "pump-on"), (70, "valve-shut")], 130)
    assert said.next == "keep"
    assert said.tone == "stop"
    assert said.reading is not None
    kept = job.model_copy(update={"prove": Prove(stages={"hose-a": said.reading})})
    answer = judge_stage(kept, 1)
    assert answer.verdict == "bad"
    assert answer.own is not None
    assert answer.own.low < 2.5e-3 + proof_stages(job)[1].own.value < answer.own.high


def test_a_stopped_pump_is_not_judged() -> None:
    said = bench_session.watch(sheet(), bench_session.fold([]), np.array([]), np.array([]), 0.0)
    assert said.next == "pump-on"
    assert said.words.key == "bench-pump-stands"
    run = bench_session.fold([Touch("bench:pump-on", 1), Touch("pump-on", 2), Touch("bench:pump-off", 3)])
    assert (run.pump_on, run.since) == (False, 1)
    other: Any = bench_session.fold([Touch("bench:stage:gone", 1)])
    gone = bench_session.watch(sheet(), other, np.array([]), np.array([]), 0.0)
    assert gone.words.key == "bench-stage-gone"
    assert read_bench_step("stage:hose-a") == BenchStage("hose-a")
    assert read_bench_step("stage:") is None
