"""The validation table and plots of docs/physics.md, computed from the code as it stands."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from reportlab.graphics import renderSVG
from reportlab.lib.colors import HexColor

from bench import envelopes
from rough_draw.core.advice.cord import drop, wire_area
from rough_draw.core.catalogue import tube
from rough_draw.core.engine.events import dilution, nitrogen_break, play
from rough_draw.core.engine.network import Leak, Network, Node, Pump
from rough_draw.core.engine.simulate import run
from rough_draw.core.model.assemble import assemble
from rough_draw.core.physics import aperture, dial, units, water
from rough_draw.core.physics import conductance as c
from rough_draw.core.physics.gas import M_AIR, T_REF, knudsen_number, mean_speed
from rough_draw.core.physics.refrigerant import saturated
from rough_draw.core.physics.units import MICRON_PA, kelvin, micron
from rough_draw.core.sheet.criteria import STANDARDS, dial_blind
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
from rough_draw.store.report.charts import Frame

DOCS = Path(__file__).parents[1] / "docs"
TORR = units.PA_PER["torr"]


@dataclass(frozen=True)
class Row:
    """One case: value expected, value computed, allowed difference (relative)."""

    case: str
    unit: str
    expected: float
    compute: Callable[[], float]
    within: float
    source: str


def _pull_down() -> float:
    net = Network(
        nodes=(Node("pump", 0.010),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),), atmosphere=760 * TORR
    )
    return run(net, 60, rtol=1e-4).time_to("pump", TORR) or math.nan


def _leak_rate() -> float:
    net = Network(nodes=(Node("v", 0.008),), leaks=(Leak("v", 5.333e-4),), initial={"v": (10.0, 0.0, 0.0)})
    r = run(net, 600)
    return micron(float(r.total("v")[-1] - 10.0)) / 600


def _capped_rig() -> float:
    """A leak of 1e-4 Pa·m³/s, 0.06 µ/s on 12 l, on 8 ml."""
    net = Network(nodes=(Node("rig", 8e-6),), leaks=(Leak("rig", 1e-4),), initial={"rig": (5.0, 0.0, 0.0)})
    return micron(float(run(net, 10).total("rig")[-1] - 5.0))


def _three_breaks() -> float:
    """Share of the first gas left after three breaks, by the engine: water vapour as the tracer."""
    start = 200.0
    net = Network(nodes=(Node("v", 0.01),), initial={"v": (0.0, start, 0.0)})
    for _ in range(3):
        end = play(net, 2.0, [nitrogen_break(1.0, "v", 101_325.0)])
        share = start / float(end.pressure[-1, 0].sum())
        vapour = float(end.pressure[-1, 0, 1]) * share
        net = Network(nodes=(Node("v", 0.01),), initial={"v": (start - vapour, vapour, 0.0)})
    return net.initial["v"][1] / start


def _bubble(name: str) -> float:
    return 1e-5 * saturated(name, 313.15).bubble


def _blind_leak() -> float:
    return 1e3 * dial_blind(STANDARDS["dial-only"], units.ATMOSPHERE_PA, 0.010, T_REF).leak


def rows() -> list[Row]:
    """All cases."""
    speed = mean_speed(M_AIR, T_REF)
    atmosphere = units.to_pa(29.92, "inhg")
    return [
        Row(
            "molecular conductance of air, d 1 cm, l 1 m",
            "l/s",
            0.121,
            lambda: 1e3 * c.molecular_tube(0.01, 1.0, speed),
            5e-3,
            "Knudsen",
        ),
        Row(
            "the same tube at p̄ = 1 mbar",
            "l/s",
            1.448,
            lambda: 1e3 * c.knudsen_long_tube(0.01, 1.0, 100.0),
            0.01,
            "Knudsen",
        ),
        Row(
            "molecular aperture, 1 cm²",
            "l/s",
            11.6,
            lambda: 1e3 * aperture.molecular_aperture(1e-4, speed),
            5e-3,
            "kinetic theory",
        ),
        Row(
            "choked aperture, 1 cm²",
            "l/s",
            20.0,
            lambda: 1e3 * aperture.viscous_aperture(1e-4, 0.0, M_AIR, T_REF),
            5e-3,
            "nozzle flow",
        ),
        Row(
            "Knudsen number at 500 µ in a 1/4 in bore",
            "",
            0.0156,
            lambda: knudsen_number(500 * MICRON_PA, 0.00635),
            0.01,
            "λp = 6.6e-3 Pa·m",
        ),
        Row("10 l at 2.83 l/s, 760 to 1 Torr", "s", 23.4, _pull_down, 5e-3, "V/S ln(p₀/p)"),
        Row("saturation at 20 °C", "µ", 17_546, lambda: micron(water.saturation_pressure(kelvin(20))), 1e-3, "IAPWS"),
        Row(
            "saturation at 0.01 °C", "µ", 4_588, lambda: micron(water.saturation_pressure(kelvin(0.01))), 1e-3, "IAPWS"
        ),
        Row(
            "saturation at −10 °C, ice",
            "µ",
            1_949,
            lambda: micron(water.saturation_pressure(kelvin(-10))),
            1e-3,
            "IAPWS",
        ),
        Row(
            "1 kg of water at 22 °C and 500 µ",
            "m³",
            2_043,
            lambda: water.vapour_volume(1, kelvin(22), 500 * MICRON_PA),
            2e-3,
            "ideal gas",
        ),
        Row("leak of 5.33e-4 Pa·m³/s into 8 l", "µ/s", 0.5, _leak_rate, 2e-3, "Q/V"),
        Row(
            "29.9 inHg below 29.92 inHg",
            "µ",
            508,
            lambda: micron(dial.dial_to_absolute(29.9, "inhg", atmosphere)),
            2e-3,
            "difference",
        ),
        Row("1 % of a 30 inHg scale", "µ", 7_620, lambda: micron(units.to_pa(0.3, "inhg")), 2e-3, "NIST SP 811"),
        Row("rise of a capped 8 ml rig in 10 s, 1e-4 Pa·m³/s", "µ", 938, _capped_rig, 5e-3, "Q t/V"),
        Row(
            "gas left after three breaks from 200 Pa",
            "1e-9",
            7.69,
            lambda: 1e9 * dilution([(200.0, 101_325.0)] * 3),
            2e-3,
            "Π p_low/p_break",
        ),
        Row("the same by the engine", "1e-9", 7.69, lambda: 1e9 * _three_breaks(), 5e-3, "Π p_low/p_break"),
        Row("section of 14 AWG", "mm²", 2.081, lambda: 1e6 * wire_area("14 AWG"), 1e-3, "ASTM B258"),
        Row("drop of 15 m of 14 AWG at 5.5 A", "V", 1.367, lambda: drop(15, "14 AWG", 5.5), 1e-3, "2 L R I, IEC 60028"),
        Row("bore of 7/8 in copper", "mm", 19.94, lambda: 1e3 * tube.bore("7/8 in"), 1e-3, "ASTM B280"),
        Row("bore of 22 mm copper", "mm", 20.0, lambda: 1e3 * tube.bore("22 mm"), 1e-3, "EN 12735-1"),
        Row("R-134a at 40 °C", "bar", 10.166, lambda: 1e-5 * saturated("R-134a", 313.15).bubble, 2e-3, "Tillner-Roth"),
        Row(
            "liquid R-134a at 40 °C", "kg/m³", 1146.7, lambda: saturated("R-134a", 313.15).liquid_density, 2e-3, "same"
        ),
        Row("bubble point of R-410A at 40 °C", "bar", 24.26, lambda: _bubble("R-410A"), 3e-3, "published tables"),
        Row("what a needle of 30 inHg hides, 10 l in 30 min", "mPa·m³/s", 5.64, _blind_leak, 5e-3, "±1 % · V/t"),
        Row("atmosphere at 1,000 m", "Pa", 89_874.6, lambda: units.atmosphere_at(1000), 2e-4, "ISO 2533"),
    ]


def table() -> str:
    """The table in Markdown."""
    lines = ["| case | unit | expected | computed | off | source |", "|---|---|---|---|---|---|"]
    for r in rows():
        value = r.compute()
        off = value / r.expected - 1.0
        mark = "" if abs(off) <= r.within else " **OFF**"
        lines.append(f"| {r.case} | {r.unit} | {r.expected:g} | {value:.4g} | {100 * off:+.2f} %{mark} | {r.source} |")
    return "\n".join(lines)


def filled(text: str) -> str:
    """docs/physics.md with its table made anew."""
    for name, made in (("table", table()), ("envelopes", envelopes.table())):
        start, end = f"<!-- {name} -->\n", f"<!-- /{name} -->"
        before, rest = text.split(start)
        text = before + start + made + "\n" + end + rest.split(end)[1]
    return text


INKS = (HexColor("#1B3F9C"), HexColor("#8A5A00"), HexColor("#B3261A"))


def plot_conductance(path: Path) -> None:
    """Conductance of one tube against mean pressure."""
    p = np.geomspace(0.1, 5e4, 120)
    plain = np.array([1e3 * c.knudsen_long_tube(0.01, 1.0, float(x)) for x in p])
    whole = np.array([1e3 * c.tube_conductance(0.01, 1.0, float(x) * 1.2, float(x) * 0.8) for x in p])
    frame = Frame(520, 240, 6.0, 0.05, 1e3, log=True, x_label="log10 of mean pressure, Pa (+1)", y_label="l/s")
    frame.curve(np.log10(p) + 1.0, plain, INKS[0], dash=True)
    frame.curve(np.log10(p) + 1.0, whole, INKS[0])
    renderSVG.drawToFile(frame.drawing, str(path))


def plot_draws(path: Path) -> None:
    """Three rigs on one damp system."""
    scope = Scope(free_water_g=2)
    one = {"kind": "hose", "size": "3/8 in", "length_m": 1.5}
    pump = {"kind": "pump", "id": "pump"}
    hose = {**one, "id": "hose-a", "on": "pump"}
    tool = {"kind": "tool", "id": "tool-a", "on": "hose-a", "port": "suction"}
    body = {"kind": "manifold", "id": "manifold", "on": "hose-p", "body": "two-valve", "inlet": "centre"}
    pushed = {**hose, "port": "suction", "depressor": True}
    clear = Rig.model_validate({"parts": [pump, hose, tool]})
    cores = Rig.model_validate({"parts": [pump, pushed]})
    manifold = Rig.model_validate(
        {"parts": [pump, {**one, "id": "hose-p", "on": "pump"}, body, {**pushed, "on": "manifold", "at": "low"}]}
    )
    frame = Frame(520, 260, 60.0, 100, 1e6, log=True)
    frame.level(500 * MICRON_PA, "500", HexColor("#1C6A43"))
    t = np.unique(np.concatenate([np.linspace(0, 3600, 200), np.geomspace(1, 600, 80)]))
    for rig, ink, name in (
        (clear, INKS[0], "clear way"),
        (cores, INKS[1], "core in"),
        (manifold, INKS[2], "core in, manifold"),
    ):
        values = run(assemble(Job(scope=scope, rig=rig)).network, 3600).at("system.evaporator", t) / MICRON_PA
        frame.curve(t / 60.0, values, ink)
        at = int(np.searchsorted(t, 900))
        frame.note(15.0, float(values[at]), name, ink)
    renderSVG.drawToFile(frame.drawing, str(path))


def main() -> None:
    """Write docs/physics.md and its plots."""
    page = DOCS / "physics.md"
    page.write_text(filled(page.read_text(encoding="utf-8")), encoding="utf-8")
    (DOCS / "plots").mkdir(exist_ok=True)
    plot_conductance(DOCS / "plots" / "conductance.svg")
    plot_draws(DOCS / "plots" / "draws.svg")


if __name__ == "__main__":
    main()
