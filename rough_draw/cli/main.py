"""The command line: serve the application, and its computations for scripts."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from rough_draw.cli import places
from rough_draw.cli.access import passphrase
from rough_draw.cli.base import Refused, job_file, read, show
from rough_draw.cli.hands import GOALS, cmd_charge, cmd_check, cmd_order
from rough_draw.cli.serving import demo, serve
from rough_draw.cli.store import backup, restore, verify
from rough_draw.core.message import Message, Telling, message
from rough_draw.core.message.figure import duration, share, vacuum
from rough_draw.text import say, say_all, told
from rough_draw.text.reader import AMERICAN, LOCALES, METRIC, reading_as

STANDARDS = ("code-minimum", "deep-and-flat", "two-limit", "single-deep", "triple", "makers-own", "dial-only")


def _job(path: str) -> Any:
    return job_file(path).job


def cmd_hold(a: argparse.Namespace) -> None:
    """Judge the hold in a table of readings."""
    from rough_draw.cli.hold import judge_table

    show(*judge_table(a))


def cmd_plan(a: argparse.Namespace) -> None:
    """Predict the draw of a job sheet."""
    from rough_draw.core.engine.network import NetworkError
    from rough_draw.core.model.system import ScopeError
    from rough_draw.core.physics.units import micron
    from rough_draw.core.planning.plan import plan_job, rank_upgrades

    job = _job(a.job)
    try:
        plan = plan_job(job)
    except (ScopeError, NetworkError) as e:
        raise Refused(f"{a.job}: {say(e.told)}") from None
    span = plan.time_to_target
    upgrades = rank_upgrades(job, span.value if span else None)
    out = {
        "time_to_target_s": {"low": round(span.low, 1), "value": round(span.value, 1), "high": round(span.high, 1)}
        if span
        else None,
        "speed_at_target_m3_s": float(f"{plan.steady.speed:.4g}"),
        "parts": [
            {"name": p.name, "conductance_m3_s": float(f"{p.conductance:.4g}"), "share": round(p.share, 4)}
            for p in plan.steady.parts
        ]
        + [
            {
                "name": "pump",
                "conductance_m3_s": float(f"{plan.assembly.network.pumps[0].speed:.4g}"),
                "share": round(plan.steady.pump_share, 4),
            }
        ],
        "gauge_error_micron": round(micron(plan.gauge_error), 1),
        "upgrades": [{"change": u.change.words, "seconds_saved": round(u.seconds_saved.value, 1)} for u in upgrades],
        "limit": plan.limit,
    }

    def words() -> str:
        told: list[Message] = [message("cli-plan-far", level=vacuum(plan.target))]
        if span is not None:
            times = {"time": duration(span.value), "low": duration(span.low), "high": duration(span.high)}
            told = [message("cli-plan", level=vacuum(plan.target), **times)]
        told.append(message("cli-line", text=plan.limit))
        for p in plan.steady.parts:
            name = message("part-on-side", part=p.label, side=p.side) if p.side else p.label
            told.append(message("cli-part", share=share(p.share), part=name))
        told.append(message("cli-part", share=share(plan.steady.pump_share), part=message("the-pump")))
        told += [message("cli-saves", time=duration(u.seconds_saved.value), change=u.change.words) for u in upgrades]
        return "\n".join(say_all(told))

    show(out, a.json, words)


def cmd_simulate(a: argparse.Namespace) -> None:
    """Play a draw and a hold in the simulated world and write the readings."""
    from dataclasses import replace

    from rough_draw.core.model.system import ScopeError
    from rough_draw.core.physics.units import MICRON_PA, micron
    from rough_draw.standins.scripted_run import play
    from rough_draw.standins.world import World, random_truth

    job = _job(a.job)
    truth = random_truth(a.seed)
    try:
        if a.leak_micron_s:
            volume = World(job, truth).isolation.volume
            leak = a.leak_micron_s * MICRON_PA * volume
            truth = replace(truth, unknowns=replace(truth.unknowns, extra_leak=leak))
        played = play(job, truth, a.hold_min)
    except ScopeError as e:
        raise Refused(f"{a.job}: {say(e.told)}") from None
    isolated = next(t.at for t in played.touches if t.kind == "isolate")
    lines = ["elapsed_s,pressure_micron,note"]
    noted = False
    for t, p in played.readings:
        note = "" if noted or t < isolated else "isolated"
        noted = noted or bool(note)
        lines.append(f"{t:.1f},{'OVER' if p is None else f'{micron(p):.6g}'},{note}")
    Path(a.out).write_text("\n".join(lines) + "\n", encoding="utf-8")
    print(f"{len(lines) - 1} readings to {a.out}, isolated at {isolated:.0f} s")


def cmd_standins(a: argparse.Namespace) -> None:
    """Run the simulated gauges of a job alone, for any program that speaks their line protocol (docs/formats.md)."""
    import asyncio
    from dataclasses import replace

    from rough_draw.core.model.system import ScopeError
    from rough_draw.standins.standalone import serve
    from rough_draw.standins.world import World, random_truth

    job = _job(a.job)
    truth = replace(random_truth(a.seed), fault=a.fault)
    try:
        world = World(job, truth)
    except ScopeError as e:
        raise Refused(f"{a.job}: {say(e.told)}") from None
    if a.fault and world.cause is None:
        raise Refused(f"there is no fault '{a.fault}' on this rig; there are {', '.join(world.faults)}")

    try:
        asyncio.run(serve(world, a.name, a.port, a.speed))
    except KeyboardInterrupt:
        return
    except OSError as e:
        raise Refused(f"port {a.port} cannot be used: {e.strerror}; choose another with --port") from None


def cmd_export(a: argparse.Namespace) -> None:
    """Write a job as a file."""
    from rough_draw.store import csv_tables, job_files, jobs
    from rough_draw.store.database import open_database

    open_database(a.db)
    try:
        text = csv_tables.readings_csv(a.key) if a.csv else job_files.text_of(job_files.dump(a.key))
    except jobs.NotFound as e:
        raise Refused(told(e)) from None
    Path(a.out).write_text(text, encoding="utf-8")
    print(f"written to {a.out}")


def cmd_import(a: argparse.Namespace) -> None:
    """Read a job file into the database."""
    from rough_draw.store import job_files
    from rough_draw.store.database import open_database

    open_database(a.db)
    try:
        document, pictures = job_files.unpacked(read(a.file, job_files.MOST_BYTES))
        key = job_files.load(job_files.parse(document), pictures=pictures)
    except job_files.FileFault as e:
        raise Refused(f"{a.file}: {told(e)}") from None
    print(f"imported as {key}")


def cmd_where(a: argparse.Namespace) -> None:
    """Say where jobs are kept, and where the demo is."""
    found = {"database": str(Path(places.database()).resolve()), "demo": str(Path(places.demo()).resolve())}
    show(found, a.json, lambda: "\n".join(found.values()))


def cmd_warm(_: argparse.Namespace) -> None:
    """Compile the engine, so that the first plan need not."""
    from rough_draw.cli.warm import warm

    warm()


def cmd_openapi(a: argparse.Namespace) -> None:
    """Write the API's description, from which the front end's types are generated, and the job file's schema."""
    import tempfile

    from rough_draw.api.app import create_app
    from rough_draw.store.job_files import JobFile

    with tempfile.TemporaryDirectory() as d:
        text = json.dumps(create_app(Path(d) / "x.sqlite3", warm=False).openapi(), indent=1, sort_keys=True)
    Path(a.out).write_text(text + "\n", encoding="utf-8")
    schema = json.dumps(JobFile.model_json_schema(mode="serialization"), indent=1)
    Path(a.out).with_name("job-file.schema.json").write_text(schema + "\n", encoding="utf-8")


def parser() -> argparse.ArgumentParser:
    """The command line's parser."""
    p = argparse.ArgumentParser(
        prog="rough-draw",
        description="Evacuate a refrigeration or air-conditioning system, know that it is dry and tight, and prove it.",
        epilog="Bad input ends with exit code 2 and one line that says where the fault is.",
    )
    p.add_argument("--units", choices=("american", "metric"), default="american", help="of words (default %(default)s)")
    p.add_argument("--english", choices=tuple(LOCALES), default="us", help="of words (default %(default)s)")
    sub = p.add_subparsers(dest="command", required=True, metavar="COMMAND")

    def add(name: str, run: Callable[[argparse.Namespace], None], text: str) -> argparse.ArgumentParser:
        s = sub.add_parser(name, help=text, description=run.__doc__)
        s.set_defaults(run=run)
        return s

    s = add("demo", demo, "serve with demo data: several jobs, one drawing live")
    s.add_argument("--db", default=places.demo(), help="database file (default %(default)s)")
    s.add_argument("--port", type=int, default=8040, help="port on the loopback (default %(default)s)")
    s.add_argument("--fresh", action="store_true", help="throw the old demo away and make it anew")
    s = add("serve", serve, "serve your own jobs")
    s.add_argument("--db", default=places.database(), help="database file (default %(default)s)")
    s.add_argument("--port", type=int, default=8040, help="port (default %(default)s)")
    s.add_argument("--host", default="127.0.0.1", help="address; beyond the loopback only with a passphrase")
    s.add_argument("--lan", action="store_true", help="over HTTPS, for the phones and tablets on this network")
    s.add_argument("--tls-port", type=int, default=8443, help="with --lan: port of HTTPS (default %(default)s)")
    s.add_argument(
        "--name", default="", help="with --lan: name or address that devices use, where it is not this machine's"
    )
    s.add_argument(
        "--cert", default="", metavar="FILE.pem", help="with --lan: a certificate of your own, with its --key"
    )
    s.add_argument("--key", default="", metavar="FILE.pem", help="with --lan: the key of --cert")
    s = add("passphrase", passphrase, "set the passphrase that a server beyond the loopback asks for")
    s.add_argument("--db", default=places.database(), help="database file (default %(default)s)")
    s = add("where", cmd_where, "say where jobs are kept")
    s.add_argument("--json", action="store_true", help="print JSON")
    s = add("plan", cmd_plan, "predict a draw: time to target, chokes, what to change first")
    s.add_argument("job", metavar="JOB.json", help="a job file or a sheet")
    s.add_argument("--json", action="store_true", help="print JSON")
    s = add("simulate", cmd_simulate, "play a draw and a hold with a hidden truth, write the readings")
    s.add_argument("job", metavar="JOB.json", help="a job file or a sheet")
    s.add_argument("--out", required=True, metavar="FILE.csv", help="where to write the readings")
    s.add_argument("--seed", type=int, default=1, help="seed of the hidden truth (default %(default)s)")
    s.add_argument("--leak-micron-s", type=float, default=0.0, help="a hidden leak, µ/s in the isolated system")
    s.add_argument("--hold-min", type=float, default=20.0, help="minutes to hold (default %(default)s)")
    s = add("standins", cmd_standins, "run a job's simulated gauges alone, on a port")
    s.add_argument("job", metavar="JOB.json", help="a job file or a sheet")
    s.add_argument("--port", type=int, default=8060, help="port on the loopback (default %(default)s)")
    s.add_argument("--name", default="gauge", help="what the line opens (default %(default)s)")
    s.add_argument(
        "--speed", type=int, choices=(1, 10, 60, 300), default=1, help="times real time (default %(default)s)"
    )
    s.add_argument("--seed", type=int, default=1, help="seed of the hidden truth (default %(default)s)")
    s.add_argument("--fault", default="", help="what is wrong, such as ballast or system-leak")
    s = add("hold", cmd_hold, "judge the hold in a table of readings")
    s.add_argument("readings", metavar="READINGS.csv", help="times and pressures; most layouts are understood")
    s.add_argument("--job", metavar="JOB.json", help="job file that the volume, hoses and touches are taken from")
    s.add_argument("--volume-l", type=float, default=None, help="isolated volume, litres")
    s.add_argument(
        "--volume-spread", type=float, default=1.15, help="factor by which it may be off (default %(default)s)"
    )
    s.add_argument("--elevation-m", type=float, default=0.0, help="of the place where a dial was read (default 0)")
    s.add_argument("--temp-c", type=float, default=None, help="temperature of the coldest spot, °C")
    s.add_argument(
        "--isolated-at", type=float, default=None, help="seconds from the first row; found in the curve if not given"
    )
    units = ("milliseconds", "seconds", "minutes", "hours", "days")
    s.add_argument("--time-unit", choices=units, default=None, help="of plain times, where the table does not say")
    s.add_argument("--day-first", action="store_true", default=None, help="5/7 is in July, where that is open")
    s.add_argument("--month-first", action="store_false", dest="day_first", help="5/7 is in May")
    s.add_argument("--school", choices=STANDARDS, default=None, help="that of the job, or the code minimum")
    s.add_argument("--json", action="store_true", help="print JSON")
    s = add("order", cmd_order, "derive the order of steps to a goal, with what is missing for it")
    s.add_argument("job", metavar="JOB.json", help="a job file or a sheet")
    s.add_argument("--goal", required=True, choices=GOALS, metavar="GOAL", help=f"one of {', '.join(GOALS)}")
    s.add_argument("--part", default="", help="the part it is about, such as the hose to swap")
    s.add_argument("--json", action="store_true", help="print JSON")
    s = add("charge", cmd_charge, "work out the charge to weigh in, item by item")
    s.add_argument("job", metavar="JOB.json", help="a job file or a sheet")
    s.add_argument("--json", action="store_true", help="print JSON")
    s = add("check", cmd_check, "look a rig over: what is wrong or worth knowing")
    s.add_argument("job", metavar="JOB.json", help="a job file or a sheet")
    s.add_argument("--json", action="store_true", help="print JSON")
    s = add("verify", verify, "check the chain of a sealed record")
    s.add_argument("job", metavar="JOB.json", help="a job file of a closed job")
    s.add_argument("--json", action="store_true", help="print JSON")
    s = add("backup", backup, "copy the whole database, also while it is in use")
    s.add_argument("--out", required=True, metavar="FILE")
    s.add_argument("--db", default=places.database(), help="database file (default %(default)s)")
    s = add("restore", restore, "put a backup in the place of the database")
    s.add_argument("backup", metavar="BACKUP")
    s.add_argument("--anyway", action="store_true", help="also where sheets in it cannot be read")
    s.add_argument("--db", default=places.database(), help="database file (default %(default)s)")
    s = add("export", cmd_export, "write a job as JSON, or its readings as CSV")
    s.add_argument("key", help="the job's key, as in its address")
    s.add_argument("--out", required=True, metavar="FILE")
    s.add_argument("--csv", action="store_true", help="readings only")
    s.add_argument("--db", default=places.database(), help="database file (default %(default)s)")
    s = add("import", cmd_import, "read a job file into the database")
    s.add_argument("file", metavar="JOB.json")
    s.add_argument("--db", default=places.database(), help="database file (default %(default)s)")
    add("warm", cmd_warm, "compile the engine once, so that everything after is quick")
    s = add("openapi", cmd_openapi, "write the API's description")
    s.add_argument("--out", default="docs/openapi.json", metavar="FILE")
    return p


def main(argv: list[str] | None = None) -> int:
    """Entry point; returns the exit code."""
    args = parser().parse_args(argv)
    who = replace(METRIC if args.units == "metric" else AMERICAN, locale=LOCALES[args.english])
    try:
        with reading_as(who):
            args.run(args)
    except Refused as e:
        print(f"rough-draw: {e}", file=sys.stderr)
        return 2
    except Telling as e:
        print(f"rough-draw: {told(e, who)}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
