"""`make bench`: medians and ratios in one run, against plain general solvers on the same equations."""

from __future__ import annotations

import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from typing import get_args

import numpy as np

from bench import bands as bands_of
from bench import coverage, envelopes, faults, gauges, pan, rows, tablets, verdicts
from bench import page as first
from bench.generic import Flat
from bench.networks import branching, rig_of_twelve
from rough_draw.core.engine.simulate import run
from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.itinerary import charging_leg, route
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.ensemble import members, run_all
from rough_draw.core.model.proof_network import expected, proof_stages
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.plan import FIRST, SIZE, plan_job, rank_upgrades
from rough_draw.core.planning.rig_search import best_rig
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.scenarios.van import KIT

FOUR_HOURS = 4 * 3600.0
LEVEL = 500 * MICRON_PA


def median_ms(work: Callable[[], object], times: int) -> float:
    """Median of ``times`` runs after one to warm up, ms."""
    work()
    taken = []
    for _ in range(times):
        begun = time.perf_counter()
        work()
        taken.append(1e3 * (time.perf_counter() - begun))
    return statistics.median(taken)


def line(name: str, value: str, bar: str = "") -> None:
    """One row of the report."""
    print(f"{name:<58}{value:>16}   {bar}", flush=True)


def engine() -> None:
    """The 4-hour, 12-node, two-gas run against LSODA and BDF."""
    for words, water in (("dry", 0.0), ("2 g of water", 0.002)):
        net = rig_of_twelve(water)
        flat = Flat(net)
        own = median_ms(lambda net=net: run(net, FOUR_HOURS), 30)
        lsoda = median_ms(lambda flat=flat: flat.solve(FOUR_HOURS, "LSODA", 1e-5), 3)
        bdf = median_ms(lambda flat=flat: flat.solve(FOUR_HOURS, "BDF", 1e-5, sparse=True), 1)
        tight = run(net, FOUR_HOURS, rtol=1e-7).time_to("coil", LEVEL)
        mine = run(net, FOUR_HOURS).time_to("coil", LEVEL)
        coil = net.index("coil")
        other = flat.time_to(flat.solve(FOUR_HOURS, "LSODA", 1e-8), coil, LEVEL)
        assert mine is not None
        assert tight is not None
        line(f"4 h, 12 nodes, {words}: engine", f"{own:.1f} ms", "bar 20 ms")
        line(f"4 h, 12 nodes, {words}: LSODA rtol 1e-5", f"{lsoda:.0f} ms", f"{lsoda / own:.0f} × the engine, bar 15 ×")
        line(f"4 h, 12 nodes, {words}: BDF, sparse Jacobian", f"{bdf:.0f} ms", f"{bdf / own:.0f} × the engine")
        line(f"time to 500 µ, {words}: off the tight run", f"{100 * abs(mine - tight) / tight:.3f} %", "bar 1 %")
        line(f"time to 500 µ, {words}: tight run off tight LSODA", f"{100 * abs(other - tight) / tight:.3f} %", "")


def ensemble() -> None:
    """200 variants of one job."""
    job = Job(scope=Scope(free_water_g=1))
    draws = members(200)
    taken = median_ms(lambda: run_all(lambda u: run(assemble(job, u).network, FOUR_HOURS, rtol=5e-3), draws), 3)
    line("ensemble of 200 variants, 4 h", f"{taken:.0f} ms", "bar 1,500 ms")


def growth() -> None:
    """Cost against the number of nodes."""
    sizes = (25, 50, 100, 200)
    per_step = []
    for n in sizes:
        net = branching(n)
        steps = len(run(net, 3600.0).time)
        taken = median_ms(lambda net=net: run(net, 3600.0), 5)
        per_step.append(1e3 * taken / steps)
        line(f"{n} nodes, 1 h", f"{taken:.1f} ms", f"{steps} steps, {per_step[-1]:.0f} µs a step")
    power = np.polyfit(np.log(sizes), np.log(per_step), 1)[0]
    line("cost of a step grows as nodes to the power", f"{power:.2f}", "bar about 1")


def answers() -> None:
    """What a person waits for."""
    job = Job()
    line(
        f"plan of one rig, first answer by {FIRST}", f"{median_ms(lambda: plan_job(job, FIRST), 9):.0f} ms", "bar 60 ms"
    )
    line(f"plan of one rig, band of {SIZE}", f"{median_ms(lambda: plan_job(job), 9):.0f} ms", "bar 150 ms")
    tools = job.model_copy(update={"rig": rig_from("three-tools", job.scope)})
    line("the same, two hoses and three tools", f"{median_ms(lambda: plan_job(tools), 9):.0f} ms", "bar 150 ms")
    four = [job, tools, *(job.model_copy(update={"rig": rig_from(k, job.scope)}) for k in ("far-gauge", "two-hoses"))]
    line("four rigs side by side", f"{median_ms(lambda: [plan_job(j) for j in four], 5):.0f} ms", "")
    line("every single change ranked", f"{median_ms(lambda: rank_upgrades(job, 600.0), 5):.0f} ms", "")
    kit = [KitItem(n, kind, name, values) for n, (kind, name, values) in enumerate(KIT, 1)]
    line("best rig of the van", f"{median_ms(lambda: best_rig(job, kit), 3):.0f} ms", "")
    t = np.arange(0.0, 86_400.0)
    rng = np.random.default_rng(1)
    slow = 180 + 120 * (1 - np.exp(-t / 80)) + 60 * (1 - np.exp(-t / 5000))
    day = np.round(slow * (1 + 0.003 * rng.normal(size=t.size))) * MICRON_PA
    day_t, t = t, np.arange(0.0, 1200.0)
    p = np.round((180 + 120 * (1 - np.exp(-t / 80)) + 0.4 * t) * (1 + 0.003 * rng.normal(size=t.size))) * MICRON_PA
    volume = Quantity(8e-3, 7e-3, 9e-3, "m³", "bench")
    one = median_ms(lambda: judge_hold(t, p, volume, 289.0, find_sound=False), 7)
    line("hold verdict, 20 min at 1 Hz", f"{one:.0f} ms", "bar 100 ms")
    line("  with the sound moment", f"{median_ms(lambda: judge_hold(t, p, volume, 289.0), 5):.0f} ms", "bar 100 ms")
    whole = median_ms(lambda: judge_hold(day_t, day, volume, 289.0), 3)
    line("  24 h at 1 Hz, with the sound moment", f"{whole:.0f} ms", "bar 500 ms")


def bands() -> None:
    """The plan's band of the time to target against truths drawn by other means."""
    b = bands_of.count(400)
    line(f"time to target in its band, of {b.truths} truths", f"{b.share:.0%}", "bar 80 to 92 %")
    line(f"dry, within a factor two of the best guess, of {b.dry}", f"{b.close:.0%}", "bar 80 %")
    held = [e.holds for e in envelopes.rows()]
    line("what jobs show overlaps the computed band", f"{sum(held)} of {len(held)}", "docs/physics.md")


def orders() -> None:
    """Orders of touches derived, over every pattern: board, goal and search together, nothing kept from before."""
    scope = Scope()
    worst = (0.0, "")

    number = 0

    def derived(job: Job, goal: GoalKey) -> None:
        nonlocal number
        number += 1
        charging_leg.cache_clear()
        route(job.model_copy(update={"title": f"{number}"}), goal)

    for pattern in (p for p in PATTERNS if fits(p, scope)):
        job = Job(scope=scope, rig=rig_from(pattern, scope))
        for goal in get_args(GoalKey):
            worst = max(worst, (median_ms(lambda j=job, g=goal: derived(j, g), 3), f"{pattern}, {goal}"))
    line("the slowest derived order, its board with it", f"{worst[0]:.0f} ms", f"bar 100 ms; {worst[1]}")


def proving() -> None:
    """The rig proof: what every stage of the usual rig should do."""
    scope = Scope()
    number = 0

    def staged() -> None:
        nonlocal number
        number += 1
        rig = rig_from("three-tools", scope)
        parts = [p.model_copy(update={"length_m": 1.5 + 1e-3 * number}) if p.kind == "hose" else p for p in rig.parts]
        job = Job(scope=scope, rig=rig.with_parts(parts))
        for n in range(len(proof_stages(job))):
            expected(job, n)

    line("rig proof: three stages with their bands", f"{median_ms(staged, 7):.0f} ms", "")


def live() -> None:
    """The live fit: what it costs, and how honest it is."""
    score = coverage.measure(101, 64)
    line("live fit: begun anew after a touch", f"{statistics.median(score.start_ms):.0f} ms", "bar 200 ms")
    line("live fit: refined with new readings", f"{statistics.median(score.fit_ms):.0f} ms", "bar 200 ms")
    line(f"bands of the time to target that hold ({score.asked})", f"{score.share:.0%}", "bar 75 to 90 %")
    line("their width, of the draw's length", f"{statistics.median(score.width):.0%}", "")


def diagnosis() -> None:
    """Labelled faults: which come first after the tests the diagnosis asks for."""
    found = faults.measure(102, 88)
    line(f"labelled faults, {len(found.by_kind)} kinds on {found.asked} rigs: looked into", "", "")
    known = max(1, found.known)
    line("  the right cause first, by the curve alone", f"{found.before / known:.0%}", "")
    line("  first, after its tests", f"{found.first / known:.0%}", "bar 85 %")
    line("  among the first two, after its tests", f"{found.second / known:.0%}", "bar 95 %")
    line("  odds over 80 % on a wrong one", f"{found.sure_wrong / found.asked:.1%}", "bar 2 %")
    line("  sound ones accused", f"{found.accused} of {found.healthy}", "bar 1 %")
    line(
        "  tests asked for, on average",
        f"{found.tests / found.asked:.1f}",
        f"{found.minutes / found.asked:.0f} min of work",
    )
    line("  to look into one", f"{statistics.median(found.look_ms):.0f} ms", "")


def holds() -> None:
    """How right the verdict is on simulated holds, and what ending at the first sound moment saves."""
    s = verdicts.measure(60_000, 2000, verdicts.STOPS)
    line(f"holds of 20 min with known truth: {s.asked}; conclusive", f"{s.conclusive / s.asked:.1%}", "bar 85 %")
    line("  right, of those", f"{s.right / s.conclusive:.2%}", "bar 99 %")
    line(f"  leaks from 0.3 µ/s on ({s.big}) called tight, at any look", f"{s.missed}", "bar 0")
    line(f"  leaks of 0.05 to 0.3 µ/s ({s.slow}) flagged as rising", f"{s.flagged / s.slow:.0%}", "bar 90 %")
    line(f"  rates in their interval ({s.rates})", f"{s.rates_in / s.rates:.1%}", "bar 85 to 95 %")
    line(f"  levels ten minutes on in theirs ({s.levels})", f"{s.levels_in / s.levels:.1%}", "")
    early = [w for w in s.wrong if w[3] != "end"]
    saved = 20.0 - statistics.median(s.sound_s) / 60.0
    line(
        "  first sound moment, median",
        f"{statistics.median(s.sound_s) / 60:.0f} min",
        f"saves {saved:.0f} of 20; right there {1 - len(early) / s.named:.2%}, same later {s.steady / s.named:.1%}",
    )
    line("  to judge one", f"{statistics.median(s.look_ms):.0f} ms", "")


def many() -> None:
    """Fifty gauges for a minute; `python -m bench.gauges` takes the ten."""
    found = gauges.run(50, 60.0)
    line("50 gauges at 1 Hz, 60 s: readings lost", f"{found['lost']:.0f}", f"of {found['readings']:.0f}, bar 0")
    line(
        "  from the gauge to the stream, p99",
        f"{found['p99_ms']:.0f} ms",
        f"median {found['median_ms']:.0f} ms, bar 300 ms",
    )
    line("  memory", f"{found['memory_mb']:.0f} MB", f"{found['grown_mb']:+.1f} MB in the minute")


def listed() -> None:
    """Rows of the file beside a thread that works."""
    with rows.stored():
        alone = median_ms(rows.row_by_row, 9), median_ms(rows.in_one_step, 9)
        with rows.worked_beside():
            beside = median_ms(rows.row_by_row, 5), median_ms(rows.in_one_step, 9)
    line("200 jobs listed, in one step", f"{alone[1]:.0f} ms", f"row by row {alone[0]:.0f} ms")
    line("  beside a thread that works", f"{beside[1]:.0f} ms", f"row by row {beside[0]:.0f} ms")


def yard() -> None:
    """Twenty tablets on the Yard of two hundred jobs, ten of them live."""
    found = tablets.run()
    line("20 tablets, 200 jobs, 10 live: server", f"{found['server, % of a core']:.0f} % of a core", "bar 15 %")
    line("  moved for a tablet in an hour", f"{found['MB a tablet-hour']:.1f} MB", "bar 5 MB")
    line(
        "  from a change to every tablet, p99",
        f"{found['change to page, p99 ms']:.0f} ms",
        f"median {found['change to page, median ms']:.0f} ms, bar 500 ms",
    )


def day() -> None:
    """A day of readings in the browser."""
    found = pan.run()
    line("24 h at 1 Hz: page and trace", f"{found['load_ms']:.0f} ms", "")
    line("  work in a frame of a pan", f"{found['frame_ms']:.1f} ms", f"p95 {found['frame_p95_ms']:.1f} ms, bar 16 ms")


def page() -> None:
    """The page in Chromium: first load, and a live draw."""
    found = first.run()
    line("first page, from nothing", f"{found['shown_ms']:.0f} ms", f"worst {found['worst_ms']:.0f} ms, bar 1,000 ms")
    line("  first paint", f"{found['paint_ms']:.0f} ms", "")
    line(
        "  scripts for it, gzipped", f"{found['first_kb']:.0f} kB", f"with a draw {found['draw_kb']:.0f} kB, bar 300 kB"
    )
    line(
        "  tasks over 100 ms in 30 s of a draw at ×60", f"{found['long']:.0f}", f"longest {found['longest_ms']:.0f} ms"
    )


def start() -> None:
    """Start-up: the core without and with the compiled engine, its code cached."""
    for words, code in (
        ("import the core without the engine", "import rough_draw.core.hold.verdict, rough_draw.core.model.system"),
        (
            "import and first run of the engine, compiled before",
            "from bench.networks import *; from rough_draw.core.engine.simulate import run; run(rig_of_twelve(), 60)",
        ),
    ):
        taken = median_ms(lambda code=code: subprocess.run([sys.executable, "-c", code], check=True), 3)
        line(words, f"{taken:.0f} ms")


def main() -> None:
    """Everything, in order."""
    for part in (
        engine,
        ensemble,
        growth,
        answers,
        bands,
        orders,
        proving,
        live,
        diagnosis,
        holds,
        many,
        listed,
        yard,
        day,
        page,
        start,
    ):
        part()


if __name__ == "__main__":
    main()
