"""Parts of a rig by generic class: bores, lengths, permeation. No make is named; a measured part overrides these."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA

CORE_GAP = Quantity(0.15e-3, 0.08e-3, 0.25e-3, "m", "estimate fitted to draws with cores in: slot of a pushed core")
CORE_WIDTH = Quantity(6.3e-3, 5.5e-3, 7.0e-3, "m", "estimate: round the pin of a valve core")
CORE_LENGTH = Quantity(12e-3, 9e-3, 15e-3, "m", "estimate: length of the slot of a valve core")
PORT_BORE = {
    "1/4 in": Quantity(4.6e-3, 4.2e-3, 5.0e-3, "m", "estimate: 1/4 in flare service port with its core out"),
    "5/16 in": Quantity(5.8e-3, 5.2e-3, 6.4e-3, "m", "estimate: 5/16 in flare service port with its core out"),
    "3/8 in": Quantity(7.4e-3, 6.6e-3, 8.2e-3, "m", "estimate: 3/8 in flare service port with its core out"),
    "1/2 in": Quantity(10.2e-3, 9.2e-3, 11.0e-3, "m", "estimate: 1/2 in flare service port"),
}
CYLINDER_VALVE_BORE = Quantity(3.3e-3, 2.5e-3, 4.2e-3, "m", "estimate: seat and stem of a recovery cylinder's valve")
CYLINDER_VALVE_LENGTH = Quantity(35e-3, 20e-3, 60e-3, "m", "estimate: way through a recovery cylinder's valve")
PORT_LENGTH = Quantity(15e-3, 10e-3, 20e-3, "m", "estimate: service port stem")
TOOL_BORE = {
    "1/4 in": Quantity(6.3e-3, 5.2e-3, 7.2e-3, "m", "estimate: core tool with 1/4 in hose end, ball and body"),
    "3/8 in": Quantity(8.0e-3, 6.5e-3, 9.0e-3, "m", "estimate: core tool with 3/8 in hose end, ball and body"),
    "1/2 in": Quantity(10.5e-3, 9.0e-3, 12.0e-3, "m", "estimate: core tool with 1/2 in hose end, ball and body"),
}
TOOL_LEAK = Quantity(2e-5, 5e-6, 1e-4, "Pa·m³/s", "estimate: leak past the seals of a tool not made for vacuum")
TOOL_VOLUME = Quantity(8e-6, 5e-6, 12e-6, "m³", "estimate: core tool with its core out")
VALVE_BORE = Quantity(9.0e-3, 7.0e-3, 11.0e-3, "m", "estimate: small full-bore ball valve")
VALVE_LENGTH = Quantity(60e-3, 45e-3, 80e-3, "m", "estimate: small ball valve, end to end")
ADAPTER_BORE = Quantity(4.6e-3, 4.0e-3, 5.4e-3, "m", "estimate: flare adapter, its narrower end")
ADAPTER_LENGTH = Quantity(30e-3, 20e-3, 40e-3, "m", "estimate: flare adapter")
TEE_BORE = Quantity(12.0e-3, 9.0e-3, 15.0e-3, "m", "estimate: vacuum tee, one branch")
TEE_LENGTH = Quantity(35e-3, 25e-3, 55e-3, "m", "estimate: vacuum tee, one branch")
TOOL_LENGTH = Quantity(90e-3, 70e-3, 120e-3, "m", "estimate: core tool, end to end")
DEPRESSOR_GAP = Quantity(0.6e-3, 0.35e-3, 0.9e-3, "m", "estimate: slot beside the depressor of a hose end")
DEPRESSOR_WIDTH = Quantity(8.0e-3, 6.0e-3, 10.0e-3, "m", "estimate: round the depressor of a hose end")
DEPRESSOR_LENGTH = Quantity(6e-3, 4e-3, 9e-3, "m", "estimate: length of that slot")
END_LENGTH = Quantity(25e-3, 15e-3, 35e-3, "m", "estimate: swivel nut and barb of one hose end")
PUMP_INLET_BORE = {
    "1/4 in": Quantity(4.8e-3, 4.2e-3, 5.6e-3, "m", "estimate: pump intake by its 1/4 in flare"),
    "3/8 in": Quantity(7.6e-3, 6.8e-3, 8.6e-3, "m", "estimate: pump intake by its 3/8 in flare"),
    "1/2 in": Quantity(10e-3, 8e-3, 12e-3, "m", "estimate: pump intake by its 1/2 in flare or large opening"),
    "3/4 in": Quantity(15e-3, 12e-3, 18e-3, "m", "estimate: pump intake by its 3/4 in flare"),
}
TEE_VOLUME = Quantity(15e-6, 8e-6, 25e-6, "m³", "estimate: tee and intake passages")

MANIFOLD_BORE = {
    "two-valve": Quantity(4.5e-3, 3.5e-3, 5.5e-3, "m", "estimate: three-port manifold passages and valves"),
    "four-port": Quantity(6.5e-3, 5.0e-3, 8.0e-3, "m", "estimate: four-port large-bore manifold"),
}
MANIFOLD_LENGTH = Quantity(120e-3, 90e-3, 160e-3, "m", "estimate: passage from centre to side port")

HOSE_BORE = {
    "1/4 in": Quantity(5.4e-3, 4.8e-3, 6.3e-3, "m", "estimate: 3/16–1/4 in true bore"),
    "3/8 in": Quantity(8.7e-3, 8.0e-3, 9.5e-3, "m", "estimate: nominal 3/8 in"),
    "1/2 in": Quantity(12.2e-3, 11.2e-3, 12.7e-3, "m", "estimate: nominal 1/2 in"),
    "3/4 in": Quantity(18.3e-3, 17.0e-3, 19.0e-3, "m", "estimate: nominal 3/4 in"),
}
HOSE_END_BORE = {
    "1/4 in": Quantity(4.6e-3, 4.0e-3, 5.2e-3, "m", "estimate: 1/4 in flare end"),
    "3/8 in": Quantity(6.4e-3, 5.0e-3, 7.5e-3, "m", "estimate: 3/8 in or large-bore 1/4 in flare end"),
    "1/2 in": Quantity(8.5e-3, 6.4e-3, 10.0e-3, "m", "estimate: end of a 1/2 in hose"),
    "3/4 in": Quantity(14.0e-3, 11.0e-3, 16.0e-3, "m", "estimate: end of a 3/4 in hose"),
}

HOSE_STEADY = {
    "vacuum": Quantity(2e-6, 5e-7, 6e-6, "Pa·m³/s per m", "estimate: permeation of a vacuum-rated hose"),
    "pressure": Quantity(1.2e-5, 2.5e-6, 5e-5, "Pa·m³/s per m", "estimate: permeation of a rubber charging hose"),
}
HOSE_WATER = {
    "vacuum": Quantity(0.4e-6, 0.1e-6, 2e-6, "kg/m", "estimate: water near the surface of a vacuum-rated hose"),
    "pressure": Quantity(10e-6, 3e-6, 30e-6, "kg/m", "estimate: water near the surface of a rubber charging hose"),
}
RUBBER_TAU = Quantity(540.0, 300.0, 900.0, "s", "estimate fitted to draws: how fast used rubber gives up its water")
OLD_RUBBER = Quantity(3.0, 1.5, 6.0, "of a used hose", "estimate: an old hose, oily and cracked")
NEW_RUBBER = Quantity(
    300e-6, 80e-6, 1000e-6, "kg/m", "estimate fitted to draws: what new rubber gives off in its first hours of use"
)
NEW_RUBBER_TAU = Quantity(3.0 * 3600, 1.5 * 3600, 6.0 * 3600, "s", "estimate: new rubber stays high for hours of use")
MANIFOLD_WATER = Quantity(5e-6, 2e-6, 15e-6, "kg", "estimate: water in the seals and oil film of a manifold")
MANIFOLD_STEADY = Quantity(3e-6, 1e-6, 1e-5, "Pa·m³/s", "estimate: past the seals of a manifold")
TOOL_WATER = Quantity(0.2e-6, 0.05e-6, 1e-6, "kg", "estimate: water in the seals of a core tool")

PUMP_ULTIMATE = Quantity(25 * MICRON_PA, 12 * MICRON_PA, 60 * MICRON_PA, "Pa", "estimate: two-stage pump, fresh oil")
JOB_RISE = Quantity(
    30 * MICRON_PA, 6 * MICRON_PA, 200 * MICRON_PA, "Pa", "estimate fitted to draws: above its blank-off on a job"
)
JOB_RISE_MEASURED = Quantity(
    15 * MICRON_PA, 4 * MICRON_PA, 60 * MICRON_PA, "Pa", "estimate: the same of a pump blanked off lately"
)
PUMP_SPEED_SHARE = Quantity(0.85, 0.65, 0.97, "of plate", "estimate: speed at the intake against free-air plate")
PUMP_OIL_HOLDS = Quantity(
    1.5e-8, 0.5e-8, 5e-8, "kg/Pa", "estimate: water that a pump's charge of oil takes up, 20 to 80 ppm at saturation"
)
PUMP_OIL_TAU = Quantity(900.0, 400.0, 1800.0, "s", "estimate: how fast a warm pump's oil takes water up and gives it")
BALLAST_KEEPS_OUT = 0.15
"""Share of the vapour passing that still gets into the oil with the ballast open: estimate."""
BALLAST_ULTIMATE = Quantity(900 * MICRON_PA, 500 * MICRON_PA, 2000 * MICRON_PA, "Pa", "estimate: ballast open")
OIL_WATER = {
    "fresh": Quantity(4 * MICRON_PA, 1 * MICRON_PA, 10 * MICRON_PA, "Pa", "estimate: vapour over fresh oil"),
    "used": Quantity(40 * MICRON_PA, 15 * MICRON_PA, 120 * MICRON_PA, "Pa", "estimate: vapour over oil of a day's use"),
    "wet": Quantity(600 * MICRON_PA, 250 * MICRON_PA, 2000 * MICRON_PA, "Pa", "estimate: vapour over milky oil"),
}

PUMP_ULTIMATE_SINGLE = Quantity(
    150 * MICRON_PA, 80 * MICRON_PA, 400 * MICRON_PA, "Pa", "estimate: single-stage pump, fresh oil"
)
SWEEP_FLOW = Quantity(1.5e-4, 0.8e-4, 4e-4, "m³/s", "estimate: a slow flow of nitrogen, about 9 l/min")
SWEEP_CHANGES = Quantity(3.0, 2.0, 5.0, "volumes", "estimate: well mixed, three volumes leave 5 % of the air")
CURRENT_PER_CFM = Quantity(1.1, 0.8, 1.5, "A/CFM", "estimate: pump motor at 120 V; half of it at 230 V")
SAG_SOUND = Quantity(0.012, 0.004, 0.03, "1", "estimate: share of the voltage lost at a pump on a sound supply")
SAG_WEAK = Quantity(0.14, 0.08, 0.22, "1", "estimate: the same where the pump runs slow for its supply")
STARTING_CURRENT = Quantity(5.0, 3.5, 7.0, "of running", "estimate: single-phase motor, locked rotor")


@dataclass(frozen=True, kw_only=True)
class GaugeClass:
    """A generic class of micron gauge: where it starts to read, its step, its lag, what pressure it stands."""

    name: str
    over_micron: Quantity
    resolution_micron: Quantity
    lag_s: Quantity
    stands_kpa: Quantity


GAUGES: dict[str, GaugeClass] = {
    g.name: g
    for g in (
        GaugeClass(
            name="thermistor",
            over_micron=Quantity(20_000, 12_000, 25_000, "µ", "estimate: heated-bead gauges"),
            resolution_micron=Quantity(1.0, 1.0, 5.0, "µ", "estimate: heated-bead gauges"),
            lag_s=Quantity(2.0, 1.0, 4.0, "s", "estimate: heated-bead gauges"),
            stands_kpa=Quantity(3500, 2000, 4100, "kPa", "estimate: heated-bead gauges"),
        ),
        GaugeClass(
            name="stepped",
            over_micron=Quantity(25_000, 20_000, 25_000, "µ", "estimate: gauges with a row of lamps or coarse steps"),
            resolution_micron=Quantity(25.0, 10.0, 50.0, "µ", "estimate: gauges with a row of lamps or coarse steps"),
            lag_s=Quantity(3.0, 1.5, 6.0, "s", "estimate: gauges with a row of lamps or coarse steps"),
            stands_kpa=Quantity(2400, 1000, 3500, "kPa", "estimate: gauges with a row of lamps or coarse steps"),
        ),
        GaugeClass(
            name="thin-film",
            over_micron=Quantity(100_000, 50_000, 760_000, "µ", "estimate: micro-machined heat-loss gauges"),
            resolution_micron=Quantity(0.1, 0.1, 1.0, "µ", "estimate: micro-machined heat-loss gauges"),
            lag_s=Quantity(0.5, 0.2, 1.0, "s", "estimate: micro-machined heat-loss gauges"),
            stands_kpa=Quantity(4100, 3400, 5500, "kPa", "estimate: micro-machined heat-loss gauges"),
        ),
        GaugeClass(
            name="diaphragm",
            over_micron=Quantity(760_000, 100_000, 760_000, "µ", "estimate: capacitance gauges"),
            resolution_micron=Quantity(1.0, 0.1, 10.0, "µ", "estimate: capacitance gauges"),
            lag_s=Quantity(0.2, 0.05, 0.5, "s", "estimate: capacitance gauges"),
            stands_kpa=Quantity(300, 200, 1000, "kPa", "estimate: capacitance gauges"),
        ),
    )
}


PUMPS_CFM: tuple[float, ...] = (2.0, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0)
HOSE_SIZES: tuple[str, ...] = tuple(HOSE_BORE)
