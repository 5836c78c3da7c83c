"""The command line for scripts: stable keys, one clear line for bad input."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest

from rough_draw.cli.main import main, parser
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
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
