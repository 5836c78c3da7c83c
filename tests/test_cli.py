"""The command line for scripts: stable keys, one clear line for bad input."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Sequence
from pathlib import Path

import numpy as np
import pytest

from rough_draw.cli.main import main, parser
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import rig_from
from rough_draw.core.sheet.templates import TEMPLATES
from tests.core.test_hold import hold

JOB = Job(scope=Scope(condition="new-dry"))


@pytest.fixture
def sheet(tmp_path: Path) -> str:
    path = tmp_path / "job.json"
    path.write_text(JOB.model_dump_json())
    return str(path)


def table(path: Path, leak: float = 0.0, water: float = 0.0, minutes: float = 20) -> str:
    t, p = hold(minutes=minutes, leak=leak, water=water)
    draw_t = np.arange(0, 900.0, 5)
    draw_p = (700_000 * np.exp(-draw_t / 25) + 180) * 0.133322368
    lines = ["time_s,pressure_micron"]
    lines += [f"{a:.1f},{b / 0.133322368:.0f}" for a, b in zip(draw_t, draw_p, strict=True)]
    lines += [f"{a + 900:.1f},{b / 0.133322368:.0f}" for a, b in zip(t, p, strict=True)]
    path.write_text("\n".join(lines))
    return str(path)


@pytest.mark.parametrize(
    ("leak", "water", "verdict"), [(0, 0, "tight-and-dry"), (1.4, 0, "leak"), (0, 13_640, "moisture")]
)
def test_hold_prints_the_verdict(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], leak: float, water: float, verdict: str
) -> None:
    file = table(tmp_path / "r.csv", leak, water, 30)
    assert main(["hold", file, "--volume-l", "8", "--temp-c", "16", "--json"]) == 0
    out = json.loads(capsys.readouterr().out)
    assert out["verdict"] == verdict
    assert out["hold_from_s"] == pytest.approx(900, abs=15)
    assert {"probability", "leak_pa_m3_s", "rate_micron_s", "moisture_g", "sound_at_s", "criteria"} <= set(out)
    assert set(out["leak_pa_m3_s"]) == {"low", "value", "high"}
    assert set(out["criteria"][0]) == {"name", "pass", "reason"}
    assert main(["hold", file, "--volume-l", "8", "--temp-c", "16"]) == 0
    assert "hold test from" in capsys.readouterr().out


def test_plan_prints_time_parts_and_upgrades(sheet: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["plan", sheet, "--json"]) == 0
    out = json.loads(capsys.readouterr().out)
    t = out["time_to_target_s"]
    assert t["low"] <= t["value"] <= t["high"]
    assert sum(p["share"] for p in out["parts"]) == pytest.approx(1.0, abs=0.01)
    assert out["speed_at_target_m3_s"] > 0
    assert all(u["seconds_saved"] > 0 for u in out["upgrades"])
    assert isinstance(out["gauge_error_micron"], float)
    assert main(["plan", sheet]) == 0
    assert "saves" in capsys.readouterr().out


def test_simulate_then_hold(sheet: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = str(tmp_path / "s.csv")
    assert main(["simulate", sheet, "--out", out, "--leak-micron-s", "2", "--seed", "7"]) == 0
    capsys.readouterr()
    assert main(["hold", out, "--volume-l", "9", "--temp-c", "14", "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert "leak" in found["verdict"]
    assert found["rate_micron_s"]["value"] == pytest.approx(2, rel=0.2)


def test_export_and_import(tmp_path: Path, capsys: pytest.CaptureFixture[str], sheet: str) -> None:
    db, out = str(tmp_path / "d.sqlite3"), str(tmp_path / "out.json")
    assert main(["import", sheet, "--db", db]) == 0
    key = capsys.readouterr().out.split()[-1]
    assert main(["export", key, "--out", out, "--db", db]) == 0
    assert main(["export", key, "--csv", "--out", str(tmp_path / "o.csv"), "--db", db]) == 0
    assert json.loads(Path(out).read_text())["job"]["scope"]["condition"] == "new-dry"


def test_bad_input_ends_with_two_and_one_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    faulty = tmp_path / "x.csv"
    faulty.write_text("time_s,micron\n0,900\n5,abc\n")
    broken = tmp_path / "x.json"
    broken.write_text('{"format":"rough-draw/job","rig":{"paths":[{"tool":false}]}}')
    wrong = tmp_path / "y.json"
    wrong.write_text(Job(scope=Scope(template="cylinder"), rig=Rig()).model_dump_json())
    good = table(tmp_path / "good.csv")
    flat = tmp_path / "flat.csv"
    flat.write_text("time_s,micron\n" + "\n".join(f"{k},200" for k in range(50)))
    cases = [
        (["hold", str(faulty), "--volume-l", "8", "--temp-c", "20"], "line 3: “abc”"),
        (["hold", str(tmp_path / "none.csv"), "--volume-l", "8", "--temp-c", "20"], "No such file"),
        (["hold", good, "--volume-l", "0", "--temp-c", "20"], "--volume-l 0 is outside"),
        (["hold", good, "--volume-l", "8", "--temp-c", "400"], "--temp-c 400 is outside"),
        (["hold", str(flat), "--volume-l", "8", "--temp-c", "20"], "--isolated-at"),
        (["plan", str(broken)], "rig.paths.0: The core at the suction port is out"),
        (["plan", str(wrong)], "no port suction"),
        (["simulate", str(wrong), "--out", str(tmp_path / "o.csv")], "no port suction"),
        (["import", str(faulty), "--db", str(tmp_path / "i.sqlite3")], "not JSON"),
        (
            ["export", "nope", "--out", str(tmp_path / "o"), "--db", str(tmp_path / "i.sqlite3")],
            "There is no job “nope”",
        ),
    ]
    for argv, says in cases:
        assert main(argv) == 2, argv
        err = capsys.readouterr().err
        assert says in err, (argv, err)
        assert err.count("\n") == 1


def test_help_names_every_command(capsys: pytest.CaptureFixture[str]) -> None:
    text = parser().format_help()
    for command in ("demo", "serve", "plan", "simulate", "hold", "export", "import"):
        assert command in text


def test_serving_beyond_the_loopback_needs_a_passphrase(tmp_path: Path) -> None:
    db = str(tmp_path / "open.sqlite3")
    cli = [sys.executable, "-m", "rough_draw.cli"]
    for host in ("0.0.0.0", "::", "192.168.1.20"):
        refused = subprocess.run(
            [*cli, "serve", "--host", host, "--db", db], capture_output=True, text=True, timeout=60
        )
        assert refused.returncode == 2
        assert "set a passphrase first" in refused.stderr
    short = subprocess.run([*cli, "passphrase", "--db", db], input="short\n", capture_output=True, text=True)
    assert short.returncode == 2
    assert "8 characters" in short.stderr
    kept = subprocess.run([*cli, "passphrase", "--db", db], input="three dry coils\n", capture_output=True, text=True)
    assert kept.returncode == 0
    assert "three dry coils" not in kept.stdout
    assert b"three dry coils" not in Path(db).read_bytes()


HOSE = {"kind": "hose", "id": "yellow", "size": "1/4 in", "made_for": "pressure", "rated_kpa": 5500}


def rigged(
    template: str, pattern: str, tmp_path: Path, spares: Sequence[dict[str, object]] = (), **scope: object
) -> str:
    """A sheet in a file: a setup on a kind of system."""
    values = TEMPLATES[template]
    on = Scope.model_validate({"template": template, **values.build(), **values.scope, **scope})
    rig = {**rig_from(pattern, on).model_dump(), "spares": list(spares)}
    path = tmp_path / f"{template}-{pattern}-{len(list(spares))}.json"
    path.write_text(Job(scope=on, rig=Rig.model_validate(rig)).model_dump_json())
    return str(path)


def ordered(capsys: pytest.CaptureFixture[str], path: str, goal: str, *more: str) -> tuple[list[str], list[str]]:
    """Steps as kind and what they are on, and the codes of what is missing."""
    assert main(["order", path, "--goal", goal, *more, "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    for s in found["steps"]:
        assert set(s) == {"kind", "on", "text", "why", "cautions"}
        assert s["text"]
    return [f"{s['kind']} {s['on']}".strip() for s in found["steps"]], [m["code"] for m in found["missing"]]


def in_turn(steps: list[str], *wanted: str) -> None:
    """These come in this order, whatever stands between."""
    at = -1
    for w in wanted:
        at = steps.index(w, at + 1)


def test_three_tools_and_the_units_charge(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    steps, missing = ordered(capsys, rigged("ducted-split", "three-tools", tmp_path), "release-unit")
    assert missing == []
    in_turn(
        steps,
        "shut tool-c",
        "crack system.suction-service",
        "see-pressure",
        "open system.suction-service",
        "stem-cap system.suction-service",
        "open system.liquid-service",
        "stem-cap system.liquid-service",
        "take-off hose-b",
        "put-on tool-b.plunger",
        "open tool-b",
        "core-in liquid",
        "take-off tool-b",
        "cap liquid",
        "check-port liquid",
        "pump-care",
    )
    assert "weigh-in cylinder" not in steps


def test_a_cylinder_without_a_charging_hose_says_what_is_missing(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = rigged("ducted-split", "three-tools", tmp_path)
    steps, missing = ordered(capsys, path, "release-cylinder")
    assert (steps, missing) == ([], ["charging-hose", "liquid-way"])
    vacuum = {**HOSE, "made_for": "vacuum", "rated_kpa": None}
    assert ordered(capsys, rigged("ducted-split", "three-tools", tmp_path, [vacuum]), "cylinder")[1] == missing
    weak = {**HOSE, "rated_kpa": 900}
    assert ordered(capsys, rigged("ducted-split", "three-tools", tmp_path, [weak]), "cylinder")[1] == missing


def test_a_cylinder_on_the_liquid_tool(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    steps, missing = ordered(capsys, rigged("ducted-split", "three-tools", tmp_path, [HOSE]), "release-cylinder")
    assert missing == []
    in_turn(
        steps,
        "take-off hose-b",
        "put-on yellow",
        "shut tool-c",
        "purge cylinder",
        "zero-scale cylinder",
        "open cylinder",
        "open tool-b",
        "weigh-in cylinder",
        "see-pressure",
        "shut cylinder",
        "start",
        "trim cylinder",
        "shut cylinder",
        "empty-hose cylinder",
        "take-off yellow",
        "core-in liquid",
    )


def test_a_four_port_manifold_with_its_sensor(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = rigged("ducted-split", "four-port-sensor", tmp_path, [HOSE])
    hold, _ = ordered(capsys, path, "hold")
    assert hold == ["shut manifold.vacuum", "shut pump", "pump-off"]
    steps, missing = ordered(capsys, path, "release-cylinder")
    assert missing == []
    in_turn(steps, "put-on yellow", "shut manifold.low", "purge cylinder", "open manifold.charge", "weigh-in cylinder")
    assert "open manifold.vacuum" not in steps, "the vacuum is never opened again"


def test_a_cylinder_on_the_fourth_hose_with_cores_left_in(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = rigged("ducted-split", "cylinder-ready", tmp_path)
    hold, _ = ordered(capsys, path, "isolate")
    assert hold[:2] == ["shut manifold.vacuum", "shut manifold.charge"]
    steps, missing = ordered(capsys, path, "release-cylinder")
    assert missing == []
    first = steps[: steps.index("weigh-in cylinder")]
    assert {"shut manifold.low", "shut hose-a"} <= set(first)
    assert "purge cylinder" not in steps, "it was evacuated along"
    in_turn(
        steps, "weigh-in cylinder", "start", "trim cylinder", "empty-hose cylinder", "shut hose-a", "take-off hose-b"
    )
    assert not [s for s in steps if s.startswith("core-in")]


def test_a_bad_hose_is_swapped_on_a_single_port(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = rigged("ductless", "single-port", tmp_path)
    steps, _ = ordered(capsys, path, "swap-hose", "--part", "hose-a")
    assert steps == [
        "shut tool-a",
        "vent-pump",
        "pump-off",
        "take-off hose-a",
        "put-on hose-a",
        "pump-on",
        "open tool-a",
    ]
    assert main(["order", path, "--goal", "swap-hose", "--part", "hose-x"]) == 2
    assert "hose-a" in capsys.readouterr().err


def test_a_recovery_cylinder_is_left_under_vacuum(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = rigged("cylinder", "single-port", tmp_path)
    sweep, _ = ordered(capsys, path, "sweep")
    in_turn(sweep, "loosen system.cylinder", "open nitrogen", "sweep nitrogen", "shut nitrogen")
    end, missing = ordered(capsys, path, "release")
    assert missing == []
    in_turn(end, "shut port:valve", "vent-pump", "pump-off", "take-off tool-a", "cap valve", "tag")
    assert not {"start", "see-pressure", "check-port valve"} & set(end)


def test_the_low_side_by_a_needle(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = rigged("ducted-split", "low-side-dial", tmp_path)
    draw, _ = ordered(capsys, path, "draw")
    assert not [s for s in draw if "high" in s], "what is not used stays closed and capped"
    assert ordered(capsys, path, "hold")[0][0] == "shut manifold.low"


def test_a_charge_is_never_weighed_in_twice(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    known = {"nameplate_kg": 3.0, "included_length_m": 5, "adder_g_per_m": 20, "accessories_g": 150}
    assert main(["charge", rigged("ducted-split", "three-tools", tmp_path, **known), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["way"] == "unit-charge"
    assert found["to_weigh_kg"] == pytest.approx(0.02 * 7 + 0.15)
    assert {p["what"] for p in found["parts"]} == {"line", "accessories"}
    whole = rigged("packaged", "two-hoses", tmp_path, **known)
    assert main(["charge", whole, "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["way"] == "cylinder"
    assert sum(p["kg"] for p in found["parts"]) == pytest.approx(found["to_weigh_kg"])
    assert found["to_weigh_kg"] == pytest.approx(3.0 - 0.04 + 0.15)
    assert main(["charge", whole]) == 0
    assert "To weigh in" in capsys.readouterr().out


def test_a_rig_is_looked_over(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["check", rigged("ducted-split", "cylinder-ready", tmp_path), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)["findings"]
    assert all(
        set(f) == {"code", "severity", "on", "text"} and f["severity"] in ("stop", "caution", "note") for f in found
    )
    assert "no-nameplate" in [f["code"] for f in found]
    assert [f["severity"] for f in found] == sorted(
        (f["severity"] for f in found), key=["stop", "caution", "note"].index
    )


def test_a_table_that_does_not_say_its_unit_of_time_is_refused_with_the_flag(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    rows = [f"{n},{200 + 3.0 * n:.1f}" for n in range(41)]
    for header in ("time", "elapsed", "t"):
        table = tmp_path / f"{header}.csv"
        table.write_text("\n".join([f"{header},micron", *rows]))
        known = ["hold", str(table), "--volume-l", "8", "--temp-c", "20", "--isolated-at", "0", "--json"]
        assert main(known) == 2
        assert "--time-unit" in capsys.readouterr().err
        rates = []
        for unit in ("seconds", "minutes"):
            assert main([*known, "--time-unit", unit]) == 0
            rates.append(json.loads(capsys.readouterr().out)["rate_micron_s"]["value"])
        assert rates[0] == pytest.approx(60 * rates[1], rel=0.05)
